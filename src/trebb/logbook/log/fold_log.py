"""Entries of a job as they come: what stands, what is undone, which topic each is about."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import TypeVar

from msgspec import Struct

from trebb.core.survey.base import PlaceReadings
from trebb.logbook.log.entries import (
    AssemblyAdded,
    Body,
    CardChanged,
    ContactPainted,
    Entry,
    FactStated,
    Graded,
    JobStarted,
    LimitSet,
    MarkScribed,
    MatterStated,
    NoteWritten,
    NumberOneNamed,
    PartSet,
    PhotoAdded,
    Planted,
    PowerLocked,
    PracticeMarked,
    ReadingKept,
    ReadingStruck,
    ReadingTaken,
    Redone,
    RemedyChosen,
    SizeStruck,
    SizeTaken,
    StepDone,
    Undone,
    Unreadable,
)
from trebb.logbook.log.tracking import Ledger

B = TypeVar("B", bound=Body)

# Where the last entry of a kind wins, by what tells two of that kind apart.
# What is done on the practice bench and cannot be taken back: it was seen, asked, said.
DONE_FOR_GOOD = frozenset({"did", "hint", "stood", "verdict", "opened"})
SLOTS: dict[type[Body], tuple[str, ...]] = {
    JobStarted: (),
    CardChanged: ("field",),
    Graded: ("assembly",),
    AssemblyAdded: ("assembly",),
    NumberOneNamed: (),
    LimitSet: ("key",),
    FactStated: ("assembly", "field"),
    RemedyChosen: ("assembly",),
    PartSet: ("part", "field"),
    StepDone: ("plan", "step"),
    PowerLocked: (),
    NoteWritten: ("topic",),
    ContactPainted: ("assembly", "phase"),
    MarkScribed: ("assembly", "what"),
    MatterStated: ("matter", "of", "field"),
    Planted: ("assembly",),
    PracticeMarked: ("what", "of"),
    ReadingStruck: ("reading",),
    ReadingKept: ("reading",),
    SizeStruck: ("size",),
}
# What a result may rest on, by kind of entry: a topic's name and the fields that tell one from another.
_TOPICS: dict[type[Body], tuple[str, tuple[str, ...]]] = {
    JobStarted: ("started", ()),
    CardChanged: ("card", ("field",)),
    Graded: ("grade", ("assembly",)),
    NumberOneNamed: ("number one", ()),
    AssemblyAdded: ("assemblies", ()),
    LimitSet: ("limit", ("key",)),
    FactStated: ("facts", ("assembly",)),
    ReadingTaken: ("readings", ("assembly", "set_up", "phase")),
    RemedyChosen: ("remedy", ("assembly",)),
    PartSet: ("part", ("part",)),
    SizeTaken: ("sizes", ("part", "operation")),
    StepDone: ("steps", ("plan",)),
    PowerLocked: ("power", ()),
    ContactPainted: ("contact", ("assembly", "phase")),
    MarkScribed: ("marks", ("assembly",)),
    MatterStated: ("matter", ("matter",)),
    NoteWritten: ("note", ("topic",)),
    Planted: ("planted", ("assembly",)),
    PracticeMarked: ("practice", ("what",)),
    PhotoAdded: ("photographs", ()),
}


class Reading(Struct, frozen=True):
    """A reading as it stands; `struck` is the reason if it is struck out, else None."""

    id: int
    at: str
    taken: ReadingTaken
    struck: str | None
    is_kept: bool


class Size(Struct, frozen=True):
    """A size measured while making, as it stands."""

    id: int
    at: str
    taken: SizeTaken
    struck: str | None


class SetAside(Struct, frozen=True):
    """An entry that stands but cannot be used, with the reason in a sentence's words."""

    entry: int
    what: str
    reason: str


class JobLog(Ledger):
    """Entries one after another. `apply` is the only way it changes; what is asked is noted (`Ledger`)."""

    def __init__(self, entries: Iterable[Entry] = ()) -> None:
        super().__init__()
        self._slots: dict[tuple[object, ...], list[Entry]] = {}
        self._by_first: dict[tuple[object, ...], dict[tuple[object, ...], None]] = {}
        self._readings: dict[tuple[str, str, str], dict[str, list[Entry]]] = {}
        self._reading_of: dict[int, ReadingTaken] = {}
        self._size_of: dict[int, SizeTaken] = {}
        self._sizes: dict[tuple[str, str], list[Entry]] = {}
        self._photos: list[Entry] = []
        self._unreadable: list[Entry] = []
        self._gestures: dict[int, list[Entry]] = {}
        self._undone: set[int] = set()
        self._done_stack: list[int] = []
        self._redo_stack: list[int] = []
        self._last: dict[tuple[str, str], Entry] = {}
        self._standing: dict[tuple[str, str, str], dict[str, PlaceReadings | None]] = {}
        self._standing_list: dict[tuple[str, str, str], list[PlaceReadings]] = {}
        self._as_shown: dict[int, Reading] = {}  # kept until something is said of the reading
        self._shown_at: dict[tuple[str, str, str], dict[str, list[Reading]]] = {}  # … or one is added there
        for entry in entries:
            self.apply(entry)

    def apply(self, entry: Entry) -> None:
        """Take in the next entry: work does not depend on how many came before."""
        body = entry.body
        self.version += 1
        if isinstance(body, Unreadable):
            self._unreadable.append(entry)
            return
        if isinstance(body, Undone | Redone):
            self._undo_or_redo(body)
            return
        if entry.gesture not in self._gestures:
            self._gestures[entry.gesture] = []
            if not (isinstance(body, PracticeMarked) and body.what in DONE_FOR_GOOD):
                self._done_stack.append(entry.gesture)
            self._redo_stack.clear()
        self._gestures[entry.gesture].append(entry)
        if isinstance(body, ReadingTaken):
            places = self._readings.setdefault((body.assembly, body.set_up, body.phase), {})
            places.setdefault(body.place, []).append(entry)
            self._reading_of[entry.id] = body
            self._last[(body.assembly, body.phase)] = entry
        elif isinstance(body, SizeTaken):
            self._sizes.setdefault((body.part, body.operation), []).append(entry)
            self._size_of[entry.id] = body
        elif isinstance(body, PhotoAdded):
            self._photos.append(entry)
        else:
            slot = (type(body), *(getattr(body, name) for name in SLOTS[type(body)]))
            self._slots.setdefault(slot, []).append(entry)
            self._by_first.setdefault(slot[:2], {})[slot] = None
        if isinstance(body, ReadingTaken):
            self._add_standing(entry, body)
        else:
            self._touch(body)

    def _undo_or_redo(self, body: Undone | Redone) -> None:
        gesture = body.gesture_id
        if gesture not in self._gestures:
            return
        if isinstance(body, Undone):
            self._undone.add(gesture)
            if gesture in self._done_stack:
                self._done_stack.remove(gesture)
                self._redo_stack.append(gesture)
        else:
            self._undone.discard(gesture)
            if gesture in self._redo_stack:
                self._redo_stack.remove(gesture)
                self._done_stack.append(gesture)
        for entry in self._gestures[gesture]:
            self._as_shown.pop(entry.id, None)
            self._touch(entry.body)

    def _touch(self, body: Body) -> None:
        """Mark the topic an entry is about as changed; what is said of a reading changes its set-up's."""
        about: Body | None = body
        if isinstance(body, ReadingStruck | ReadingKept):
            self._as_shown.pop(body.reading, None)
            about = self._reading_of.get(body.reading)
        elif isinstance(body, SizeStruck):
            about = self._size_of.get(body.size)
        found = _TOPICS.get(type(about)) if about is not None else None
        if found is None:
            return
        name, fields = found
        self.touch((name, *(getattr(about, field) for field in fields)))
        if isinstance(about, ReadingTaken):
            key = (about.assembly, about.set_up, about.phase)
            self._standing.get(key, {}).pop(about.place, None)
            self._shown_at.get(key, {}).pop(about.place, None)
            self._standing_list.pop(key, None)

    def stands(self, entry: Entry) -> bool:
        """True unless the entry's gesture was undone."""
        return entry.gesture not in self._undone

    def _latest(self, kind: type[B], *key: object) -> B | None:
        for entry in reversed(self._slots.get((kind, *key), ())):
            if self.stands(entry):
                assert isinstance(entry.body, kind)
                return entry.body
        return None

    def _each(self, kind: type[B], first: object) -> Iterator[B]:
        """What stands of a kind whose first telling field is `first`."""
        for slot in self._by_first.get((kind, first), ()):
            body = self._latest(kind, *slot[1:])
            if body is not None:
                yield body

    def _saw(self, *topic: str) -> None:
        if self.frames:
            self.saw(topic)

    def _add_standing(self, entry: Entry, body: ReadingTaken) -> None:
        """A reading more at a place: the others there need not be looked through again."""
        key = (body.assembly, body.set_up, body.phase)
        self.touch(("readings", *key))
        places = self._standing.setdefault(key, {})
        self._shown_at.get(key, {}).pop(body.place, None)
        known = places.pop(body.place, None)
        if known is not None and self.stands(entry) and (ReadingStruck, entry.id) not in self._slots:
            places[body.place] = PlaceReadings(body.place, (*known.values, body.value))
        self._standing_list.pop(key, None)

    @property
    def undoable(self) -> int | None:
        """The gesture that undo would take back; the job's first gesture stays."""
        return self._done_stack[-1] if len(self._done_stack) > 1 else None

    @property
    def redoable(self) -> int | None:
        """The gesture that redo would restore."""
        return self._redo_stack[-1] if self._redo_stack else None
