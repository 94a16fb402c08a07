"""One's own practice scores, kept in the shop's memory: over time, by trap, and where one is weakest."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from msgspec import Struct

from trebb.core.practice.piece import MOST_NUMBER, Piece, drawn
from trebb.core.practice.scoring import weakest
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.log.entries import Entry
from trebb.logbook.memory.shop import ScoreKept, remember
from trebb.logbook.practice.opened import Opened

LOOKED_AT = 400  # drawn machines looked through for one with a trap


class Played(Struct, frozen=True):
    """A score with when it was made."""

    at: str
    score: ScoreKept


def keep_score(opened: Opened, played: str, path: Path | None = None) -> str:
    """Keep a score; why it could not be, "" where it was."""
    score, piece = opened.score, opened.piece
    parts = {
        "minutes": score.minutes,
        "verdict": score.verdict,
        "money": score.money,
        "hints": -score.hints,
        "damage": float(len(score.damage)),
    }
    kept = ScoreKept(
        title=piece.title[:200],
        code=piece.code,
        trap=piece.trap[:200],
        level=piece.level,
        total=score.total,
        parts=parts,
        played=played[-200:],
    )
    try:
        remember([kept], path)
    except (JobFileError, OSError) as error:
        return str(error)
    return ""


def scores(entries: Sequence[Entry]) -> list[Played]:
    """Scores in the order they were made; of each machine its first finished try alone: what was
    opened once is known.
    """
    found: dict[str, Played] = {}
    for e in entries:
        if isinstance(e.body, ScoreKept):
            found.setdefault(e.body.code or e.body.title, Played(e.at, e.body))
    return list(found.values())


def by_trap(played: Sequence[Played]) -> dict[str, list[float]]:
    """Scores by trap, in order."""
    found: dict[str, list[float]] = {}
    for one in played:
        found.setdefault(one.score.trap, []).append(one.score.total)
    return found


def next_piece(level: int, number: int, played: Sequence[Played]) -> Piece:
    """The next machine of a level from a number on: one with the trap that one is weakest at, where a drawn
    machine of that level has it.
    """
    trap = weakest([(p.score.trap, p.score.total) for p in played])
    first = drawn(level, number % MOST_NUMBER)
    if not trap:
        return first
    for by in range(LOOKED_AT):
        piece = drawn(level, (number + by) % MOST_NUMBER)
        if piece.trap == trap:
            return piece
    return first
