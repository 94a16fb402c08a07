"""Two copies of one job that went apart, a bench laptop's and an office's, put together again.

Entries of both come in by their time, those that both have once, each gesture whole. Where both state one
thing otherwise, it is named, and who joins them chooses.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from msgspec import Struct, json
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.logbook.log.entries import (
    Body,
    Entry,
    ReadingKept,
    ReadingStruck,
    Redone,
    SizeStruck,
    Undone,
    gesture_of,
)
from trebb.logbook.log.fold_log import SLOTS

Side = Literal["first", "second"]
Slot = tuple[object, ...]


class Clash(Struct, frozen=True):
    """One thing that both copies state otherwise since they went apart, with when each did."""

    slot: Slot
    first: Body
    second: Body
    first_at: str
    second_at: str

    @property
    def newer(self) -> Side:
        """The copy that said it last."""
        return "second" if self.second_at >= self.first_at else "first"

    def of(self, side: Side) -> Body:
        """What a copy states."""
        return self.first if side == "first" else self.second

    def words(self, side: Side) -> str:
        """What a copy states, plainly: only what tells the two apart."""
        one, other = (_fields(self.of(s)) for s in (side, "second" if side == "first" else "first"))
        return ", ".join(f"{k} {v}" for k, v in one.items() if other.get(k) != v) or "nothing"

    @property
    def about(self) -> str:
        """What it is about: its kind, and what tells it from others of that kind."""
        return " ".join([self.first.kind, *(str(x) for x in self.slot[1:] if x)])


class Joined(Struct, frozen=True):
    """Entries of both, how many each brought, and what they state otherwise."""

    entries: tuple[Entry, ...]
    of_both: int
    of_first: int
    of_second: int
    clashes: tuple[Clash, ...]


def _fields(body: Body) -> Mapping[str, object]:
    return {name: getattr(body, name) for name in body.__struct_fields__}


def _mark(entry: Entry) -> tuple[str, str, bytes]:
    """What an entry is known by in either copy, whatever its number there."""
    return entry.at, entry.body.kind, json.encode(entry.body)


def joined(first: Sequence[Entry], second: Sequence[Entry]) -> Joined:
    """Both put together, what clashes as whoever said it last says it. Raises InputError where the two are
    not of one job.
    """
    if not first or not second or _mark(first[0]) != _mark(second[0]):
        raise InputError("two files of different jobs", "join copies of one: they begin with the same entry")
    same = 0
    for a, b in zip(first, second, strict=False):
        if a != b:
            break
        same += 1
    ours, theirs = list(first[same:]), list(second[same:])
    known = [_mark(e) for e in ours]
    twice = {e.id for e in theirs if _mark(e) in known}
    merged = _by_time(list(first[:same]), ours, [e for e in theirs if e.id not in twice])
    # Of what both brought before, the second copy's numbers mean the first's entries.
    number = {_mark(e): e.id for e in ours}
    entries = _numbered(merged, {e.id: number[_mark(e)] for e in theirs if e.id in twice}, same)
    clashes = _clashes(ours, [e for e in theirs if e.id not in twice])
    return Joined(
        tuple(entries), same + len(twice), len(ours) - len(twice), len(theirs) - len(twice), clashes
    )


def _gestures(entries: Sequence[Entry]) -> Iterator[list[Entry]]:
    """Entries by gesture, in order."""
    found: dict[int, list[Entry]] = {}
    for e in entries:
        found.setdefault(e.gesture, []).append(e)
    yield from found.values()


def _by_time(
    common: list[Entry], ours: Sequence[Entry], theirs: Sequence[Entry]
) -> list[tuple[Side | None, list[Entry]]]:
    """Gestures of both in the order they were made; the common ones first, as they are."""
    left: list[tuple[str, int, int, Side, list[Entry]]] = []
    for rank, (side, entries) in enumerate((("first", ours), ("second", theirs))):
        latest = ""
        for i, gesture in enumerate(_gestures(entries)):
            latest = max(latest, gesture[0].at)  # a clock set back keeps a copy's own order
            left.append((latest, rank, i, "first" if side == "first" else "second", gesture))
    left.sort(key=lambda one: one[:3])
    return [(None, gesture) for gesture in _gestures(common)] + [(side, g) for *_, side, g in left]


def _numbered(
    merged: Sequence[tuple[Side | None, list[Entry]]], twice: Mapping[int, int], same: int
) -> Iterator[Entry]:
    """Entries numbered anew from where the copies went apart, and what names another with them."""
    new: dict[tuple[Side, int], int] = {}

    def now(side: Side | None, number: int) -> int:
        if side is None or number <= same:
            return number
        if side == "second" and number in twice:
            return new.get(("first", twice[number]), number)
        return new.get((side, number), number)

    next_id = 1
    for side, gesture in merged:
        begin = next_id
        for e in gesture:
            if side is not None:
                new[side, e.id] = next_id
            body = e.body
            if isinstance(body, ReadingStruck | ReadingKept):
                body = replace(body, reading=now(side, body.reading))
            elif isinstance(body, SizeStruck):
                body = replace(body, size=now(side, body.size))
            elif isinstance(body, Undone | Redone):
                body = replace(body, gesture_id=now(side, body.gesture_id))
            yield Entry(next_id, e.at, begin, body)
            next_id += 1


def _clashes(ours: Sequence[Entry], theirs: Sequence[Entry]) -> tuple[Clash, ...]:
    one, other = _stated(ours), _stated(theirs)
    return tuple(
        Clash(slot, one[slot].body, other[slot].body, one[slot].at, other[slot].at)
        for slot in one
        if slot in other and one[slot].body != other[slot].body
    )


def _stated(entries: Sequence[Entry]) -> dict[Slot, Entry]:
    """What a copy states last of each thing, without what it took back."""
    undone: set[int] = set()
    for e in entries:
        if isinstance(e.body, Undone):
            undone.add(e.body.gesture_id)
        elif isinstance(e.body, Redone):
            undone.discard(e.body.gesture_id)
    found: dict[Slot, Entry] = {}
    for e in entries:
        fields = SLOTS.get(type(e.body))
        named = isinstance(e.body, ReadingStruck | ReadingKept | SizeStruck)  # by numbers of its own copy
        if fields is not None and e.gesture not in undone and not named:
            found[(type(e.body), *(getattr(e.body, name) for name in fields))] = e
    return found


def chosen(found: Joined, sides: Sequence[Side], at: str) -> tuple[Entry, ...]:
    """The entries with what was chosen of each clash said once more where the other said it last."""
    said = [c.of(side) for c, side in zip(found.clashes, sides, strict=True) if side != c.newer]
    if not said:
        return found.entries
    return (*found.entries, *gesture_of(said, len(found.entries) + 1, at))
