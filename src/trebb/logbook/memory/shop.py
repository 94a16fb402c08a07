"""The shop's memory: one file for all jobs of the user, append-only like a job, never sent anywhere.

No job depends on it: where it is not there, damaged, of a newer Trebb or open elsewhere, everything is as
usual, and that is said.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Annotated, ClassVar, Literal

import msgspec

from trebb.core.errors import InputError
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.file.writing import write_whole
from trebb.logbook.log.entries import Body, Entry, Name, Text
from trebb.logbook.memory.shop_place import shop_path

SHOP_ID = 0x54524D59  # "TRMY"
Finite = float
Count = Annotated[float, msgspec.Meta(ge=0)]


class JobGiven(Body, frozen=True, forbid_unknown_fields=True):
    """A job that taught something: its name here, where it was, its machine."""

    kind: ClassVar[str] = "job.given"
    job: Name
    machine: Name
    machine_kind: Name
    shop: Name = ""
    path: Text = ""


class LessonKept(Body, frozen=True, forbid_unknown_fields=True):
    """One line of what a job taught: of a topic, a figure with its sd (for ratios their natural logarithms);
    what was foretold of it, where something was.
    """

    kind: ClassVar[str] = "lesson.kept"
    job: Name
    topic: Literal["noise", "answer", "hours", "wait", "left", "wear", "price"]
    of: Name
    value: Finite
    sd: Count
    words: Text = ""


class JobLeftOut(Body, frozen=True, forbid_unknown_fields=True):
    """A job that no longer counts, or counts again."""

    kind: ClassVar[str] = "job.left_out"
    job: Name
    out: bool


class ThingKept(Body, frozen=True, forbid_unknown_fields=True):
    """Something to be found again: a part drawn, a thread, a symptom and what it was."""

    kind: ClassVar[str] = "thing.kept"
    job: Name
    what: Literal["part", "thread", "symptom", "machine"]
    of: Name
    words: Text
    facts: dict[str, str | float] = msgspec.field(default_factory=dict)


class InstrumentChecked(Body, frozen=True, forbid_unknown_fields=True):
    """An instrument checked on a block: readings going up and going down, mm, and what they come to."""

    kind: ClassVar[str] = "instrument.checked"
    name: Name
    kind_of: Name
    block_mm: Finite
    up: list[float]
    down: list[float]


class ScoreKept(Body, frozen=True, forbid_unknown_fields=True):
    """A practice machine played to its score."""

    kind: ClassVar[str] = "score.kept"
    title: Name
    code: Name
    trap: Name
    level: int
    total: Finite
    parts: dict[str, float]
    played: Name = ""


SHOP_KINDS: dict[str, type[Body]] = {
    body.kind: body for body in (JobGiven, LessonKept, JobLeftOut, ThingKept, InstrumentChecked, ScoreKept)
}


class ShopFile(JobFile):
    """The memory's file."""

    application_id = SHOP_ID
    noun = "shop’s memory"
    kinds = SHOP_KINDS


def open_shop(path: Path | None = None) -> ShopFile:
    """The memory, begun where there is none yet. Raises JobFileError."""
    place = path or shop_path()
    if place.exists():
        return ShopFile.open(place)
    place.parent.mkdir(parents=True, exist_ok=True)
    return ShopFile.create(place)


def read_shop(path: Path | None = None) -> tuple[list[Entry], str]:
    """What the memory holds, and why it could not be read ("" where it could). Never raises."""
    place = path or shop_path()
    if not place.exists():
        return [], ""
    try:
        with ShopFile.open(place) as shop:
            return shop.entries(), ""
    except (JobFileError, OSError) as error:
        return [], str(error)


def remember(bodies: Sequence[Body], path: Path | None = None) -> None:
    """Append to the memory. Raises JobFileError."""
    with open_shop(path) as shop:
        shop.append(bodies)


def export_shop(target: Path, path: Path | None = None) -> int:
    """Write the memory as JSON; returns how many entries. Raises JobFileError, OSError, InputError."""
    with open_shop(path) as shop:
        entries = shop.entries()
    if target.exists():
        raise InputError(f"{target.name} is there already", "choose another name")
    told = {
        "format": "trebb shop memory",
        "version": 1,
        "entries": [
            {"id": e.id, "at": e.at, "gesture": e.gesture, "kind": e.body.kind, **e.body.fields()}
            for e in entries
        ],
    }
    write_whole(target, json.dumps(told, ensure_ascii=False, indent=1).encode())
    return len(entries)
