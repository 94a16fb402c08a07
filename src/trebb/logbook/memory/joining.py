"""Another shop's memory taken into this one: each lesson once, of a job both know what it gave last."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import msgspec
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.logbook.file.given_files import MB, read_given
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.log.entries import Body, Entry, why_not
from trebb.logbook.memory.shop import (
    SHOP_ID,
    SHOP_KINDS,
    InstrumentChecked,
    JobGiven,
    JobLeftOut,
    LessonKept,
    ScoreKept,
    ThingKept,
    read_shop,
    remember,
)

MOST_BYTES = 64 * MB
FORMAT = "trebb shop memory"


class ShopLookedAt(JobLookedAt):
    """A memory that is only read."""

    application_id = SHOP_ID
    noun = "shop’s memory"
    kinds = SHOP_KINDS


class Brought(Struct, frozen=True):
    """What another memory brings: the entries that are new here, and how many jobs, checks and scores."""

    bodies: tuple[Body, ...]
    jobs: int
    checks: int
    scores: int
    known: int

    @property
    def words(self) -> str:
        """What it brings, in a sentence."""
        if not self.bodies:
            return f"Nothing new: all {self.known} of its jobs are known here."
        parts = (
            (self.jobs, "job", "jobs"),
            (self.checks, "check of an instrument", "checks of instruments"),
            (self.scores, "practice score", "practice scores"),
        )
        brings = ", ".join(f"{n} {one if n == 1 else more}" for n, one, more in parts if n)
        return f"It brings {brings or 'what was left out'}; {self.known} of its jobs are known here."


def entries_of(path: Path) -> list[Entry]:
    """Entries of another memory, a file of its own or what `trebb shop-json` wrote.

    Raises InputError or JobFileError for what is neither, naming what will not do.
    """
    if path.suffix.lower() != ".json":
        with ShopLookedAt.look(path) as shop:
            return list(shop.entries())
    try:
        told = json.loads(read_given(path, MOST_BYTES))
    except (ValueError, RecursionError):
        raise InputError(path.name, "it is no JSON; a memory is written by trebb shop-json") from None
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        raise InputError(path.name, f"its format is not “{FORMAT}”; a memory is written by trebb shop-json")
    if told.get("version") != 1:
        raise InputError(path.name, f"version {told.get('version')} is of a newer Trebb; update Trebb")
    rows = told.get("entries")
    return [_entry(path.name, n, row) for n, row in enumerate(rows if isinstance(rows, list) else (), 1)]


def _entry(name: str, number: int, row: Any) -> Entry:
    try:
        kind = SHOP_KINDS[row["kind"]]
        fields = {k: v for k, v in row.items() if k not in ("id", "at", "gesture", "kind")}
        body = msgspec.convert(fields, kind)
        return Entry(int(row["id"]), str(row["at"]), int(row["gesture"]), body)
    except msgspec.ValidationError as error:
        field, words = why_not(error)
        raise InputError(f"{name}, entry {number}: {field}", words) from None
    except (KeyError, TypeError, ValueError):
        raise InputError(f"{name}, entry {number}", "it is no entry of a memory") from None


class _Given(Struct):
    """What a job gave last, and when."""

    at: str = ""
    gesture: int = 0
    bodies: list[Body] = []


def _last_given(entries: Sequence[Entry]) -> dict[str, _Given]:
    found: dict[str, _Given] = {}
    for e in entries:
        if isinstance(e.body, JobGiven):
            found[e.body.job] = _Given(e.at, e.gesture, [])
    for e in entries:
        if isinstance(e.body, JobGiven | LessonKept | ThingKept):
            given = found.get(e.body.job)
            if given is not None and given.gesture == e.gesture:
                given.bodies.append(e.body)
    return found


def brought(mine: Sequence[Entry], theirs: Sequence[Entry]) -> Brought:
    """What another memory brings to this one. Of a job that both know, what was given last stands; what was
    left out there and is not known here stays left out.
    """
    ours, other = _last_given(mine), _last_given(theirs)
    new = [
        job
        for job, given in other.items()
        if job not in ours or (given.at > ours[job].at and given.bodies != ours[job].bodies)
    ]
    bodies = [body for job in new for body in other[job].bodies]
    out = {e.body.job: e.body for e in theirs if isinstance(e.body, JobLeftOut)}
    bodies += [out[job] for job in new if job not in ours and job in out and out[job].out]
    once = [e.body for e in mine if isinstance(e.body, InstrumentChecked | ScoreKept)]
    more: list[Body] = []
    for e in theirs:
        if isinstance(e.body, InstrumentChecked | ScoreKept) and e.body not in once and e.body not in more:
            more.append(e.body)
    checks = sum(isinstance(body, InstrumentChecked) for body in more)
    return Brought((*bodies, *more), len(new), checks, len(more) - checks, len(other) - len(new))


def bring_in(path: Path) -> Brought:
    """Take another memory into this shop's own, as one gesture. Raises InputError, JobFileError."""
    theirs = entries_of(path)
    mine, trouble = read_shop()
    if trouble:
        raise InputError("this shop’s own memory", trouble)
    found = brought(mine, theirs)
    if found.bodies:
        remember(found.bodies)
    return found
