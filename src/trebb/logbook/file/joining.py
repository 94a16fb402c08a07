"""Two copies of one job that went apart, a bench laptop's and an office's, put together again.

Entries of both come in by their time, those that both have once, each gesture whole. Where both state one
thing otherwise, it is named, and who joins them chooses.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Literal

from msgspec import Struct, json
from msgspec.structs import replace

from trebb.core.errors import InputError, TrebbError
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import (
    Body,
    Entry,
    PhotoAdded,
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


Mark = tuple[object, ...]


def _named(body: Body) -> int | None:
    """The number of the entry that another names: a reading, a size, a gesture by its first."""
    if isinstance(body, ReadingStruck | ReadingKept):
        return body.reading
    if isinstance(body, SizeStruck):
        return body.size
    return body.gesture_id if isinstance(body, Undone | Redone) else None


def _renamed(body: Body, number: int) -> Body:
    """It with another number of the entry that it names."""
    if isinstance(body, ReadingStruck | ReadingKept):
        return replace(body, reading=number)
    if isinstance(body, SizeStruck):
        return replace(body, size=number)
    return replace(body, gesture_id=number) if isinstance(body, Undone | Redone) else body


def _marks(entries: Sequence[Entry]) -> dict[int, Mark]:
    """What each entry is known by in either copy, whatever its number there: its time, what it says, and what
    the entry that it names is known by.
    """
    found: dict[int, Mark] = {}
    for e in entries:
        named = _named(e.body)
        body = e.body if named is None else _renamed(e.body, 0)
        found[e.id] = (e.at, e.body.kind, json.encode(body), found.get(named) if named is not None else None)
    return found


def joined(first: Sequence[Entry], second: Sequence[Entry]) -> Joined:
    """Both put together, what clashes as whoever said it last says it. Raises InputError where the two are
    not of one job.
    """
    one, other = _marks(first), _marks(second)
    if not first or not second or one[first[0].id] != other[second[0].id]:
        raise InputError("two files of different jobs", "join copies of one: they begin with the same entry")
    same = 0
    for a, b in zip(first, second, strict=False):
        if a != b:
            break
        same += 1
    ours, theirs = list(first[same:]), list(second[same:])
    number = {one[e.id]: e.id for e in ours}
    twice = {e.id for e in theirs if other[e.id] in number}
    merged = _by_time(list(first[:same]), ours, [e for e in theirs if e.id not in twice])
    # Of what both brought before, the second copy's numbers mean the first's entries.
    entries = _numbered(merged, {number_: number[other[number_]] for number_ in twice}, same)
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
            named = _named(e.body)
            body = e.body if named is None else _renamed(e.body, now(side, named))
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
        # What names another entry does so by the numbers of its own copy: no two of those clash.
        if fields is not None and e.gesture not in undone and _named(e.body) is None:
            found[(type(e.body), *(getattr(e.body, name) for name in fields))] = e
    return found


def chosen(found: Joined, sides: Sequence[Side], at: str) -> tuple[Entry, ...]:
    """The entries with what was chosen of each clash said once more where the other said it last."""
    said = [c.of(side) for c, side in zip(found.clashes, sides, strict=True) if side != c.newer]
    if not said:
        return found.entries
    return (*found.entries, *gesture_of(said, len(found.entries) + 1, at))


def write_joined(path: Path, copies: Mapping[Side, JobFile], entries: Sequence[Entry]) -> None:
    """The entries as a new job file, with the photographs of whichever copy has them. Raises JobFileError."""
    held: dict[str, tuple[str, bytes]] = {}
    for sha in dict.fromkeys(e.body.sha256 for e in entries if isinstance(e.body, PhotoAdded)):
        try:
            held[sha] = copies["first"].photograph(sha)
        except TrebbError:
            held[sha] = copies["second"].photograph(sha)
    JobFile.joined(path, entries, held).close()
