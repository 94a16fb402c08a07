"""The piece a practice job is played on: kept in the job as text, and read from a file of its own."""

from __future__ import annotations

import json
import re
import tomllib
from functools import lru_cache
from importlib import resources
from pathlib import Path

from trebb.core.errors import InputError
from trebb.core.practice.piece import Piece, drawn, piece_as, piece_from, read_code
from trebb.logbook.file.given_files import read_text
from trebb.logbook.log.entries import PracticeMarked
from trebb.logbook.log.fold import Job

SUFFIX = ".piece.toml"
MOST_BYTES = 100_000


def piece_of(job: Job) -> Piece | None:
    """The piece that a job is played on; None where it is no practice, or one that this Trebb cannot read."""
    marks = job.practice_marks("piece")
    return _read(marks[-1].of, marks[-1].text) if marks else None


@lru_cache(maxsize=8)
def _read(code: str, text: str) -> Piece | None:
    try:
        return drawn(*read_code(code)) if code else piece_from(json.loads(text))
    except (InputError, ValueError, RecursionError):
        return None


def piece_mark(piece: Piece) -> PracticeMarked:
    """The entry that says what is played: a code, or the whole piece."""
    text = "" if piece.code else json.dumps(piece_as(piece))
    return PracticeMarked(what="piece", of=piece.code, text=text)


def read_piece(path: Path) -> Piece:
    """A set piece from its file. Raises InputError naming what will not do, and what would."""
    return _parsed(path.name, read_text(path, most_bytes=MOST_BYTES))


def _parsed(name: str, text: str) -> Piece:
    try:
        return piece_from(tomllib.loads(text))
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        raise InputError(f"{name}: {error}", "a set piece is a TOML file; see docs/FORMATS.md") from None
    except InputError as error:
        raise InputError(f"{name}{_line_of(text, error.given)}: {error.given}", error.would_do) from None


def _line_of(text: str, given: str) -> str:
    """The line of a file that a refusal is about: the last that has the word it names, or its key."""
    lines = text.splitlines()
    for word in reversed(re.findall(r"“([^”]+)”", given) or re.findall(r"[a-z_]+", given.lower())):
        at = [i for i, line in enumerate(lines, start=1) if re.search(rf"\b{re.escape(word)}\b", line)]
        if at:
            return f", line {at[-1]}"
    return ""


@lru_cache(maxsize=1)
def set_pieces() -> dict[str, Piece]:
    """The set pieces that come with Trebb, by key, in order."""
    folder = resources.files("trebb.logbook") / "data" / "pieces"
    files = sorted((one for one in folder.iterdir() if one.name.endswith(SUFFIX)), key=lambda one: one.name)
    return {
        one.name.removesuffix(SUFFIX): _parsed(one.name, one.read_text(encoding="utf-8")) for one in files
    }
