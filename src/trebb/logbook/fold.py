"""The job on screen: the fold of its entries, kept up to date one entry at a time."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import TypeVar

from trebb.core.machine import RatedLimit, class_limit
from trebb.core.survey import PlaceReadings
from trebb.logbook.entries import (
    Body,
    CardChanged,
    ContactPainted,
    DriveStated,
    Entry,
    Graded,
    JobStarted,
    LimitSet,
    MarkScribed,
    NoteWritten,
    NumberOneNamed,
    PartSet,
    PhotoAdded,
    Planted,
    PowerLocked,
    ReadingKept,
    ReadingStruck,
    ReadingTaken,
    Redone,
    RemedyChosen,
    SizeStruck,
    SizeTaken,
    StepDone,
    Undone,
)

B = TypeVar("B", bound=Body)

# Where the last entry of a kind wins, by what tells two of that kind apart.
_SLOTS: dict[type[Body], tuple[str, ...]] = {
    JobStarted: (),
    CardChanged: ("field",),
    Graded: ("assembly",),
    NumberOneNamed: (),
    LimitSet: ("key",),
    DriveStated: ("assembly", "field"),
    RemedyChosen: ("assembly",),
    PartSet: ("part", "field"),
    StepDone: ("plan", "step"),
    PowerLocked: (),
    NoteWritten: ("topic",),
    ContactPainted: ("assembly", "phase"),
    MarkScribed: ("assembly", "what"),
    Planted: ("assembly",),
    ReadingStruck: ("reading",),
    ReadingKept: ("reading",),
    SizeStruck: ("size",),
}
# What a view may depend on: a topic's version rises when one of its entries comes or goes.
_TOPICS: dict[type[Body], str] = {
    ReadingTaken: "readings",
    ReadingStruck: "readings",
    ReadingKept: "readings",
    DriveStated: "drive",
    LimitSet: "limits",
    JobStarted: "card",
    CardChanged: "card",
    RemedyChosen: "remedy",
    PartSet: "parts",
    SizeTaken: "sizes",
    SizeStruck: "sizes",
    StepDone: "steps",
    ContactPainted: "contact",
    MarkScribed: "marks",
    NoteWritten: "notes",
}


@dataclass(frozen=True, slots=True)
class Reading:
    """A reading as it stands; `struck` is the reason if it is struck out, else None."""

    id: int
    at: str
    taken: ReadingTaken
    struck: str | None
    is_kept: bool


@dataclass(frozen=True, slots=True)
class Size:
    """A size measured while making, as it stands."""

    id: int
    at: str
    taken: SizeTaken
    struck: str | None


class Job:
    """The state of one job. `apply` is the only way it changes."""

    def __init__(self, entries: Iterable[Entry] = ()) -> None:
        self.version = 0
        self._topic: dict[str, int] = {}
        self._slots: dict[tuple[object, ...], list[Entry]] = {}
        self._readings: dict[tuple[str, str, str], dict[str, list[Entry]]] = {}
        self._sizes: dict[tuple[str, str], list[Entry]] = {}
        self._photos: list[Entry] = []
        self._gestures: dict[int, list[Entry]] = {}
        self._undone: set[int] = set()
        self._done_stack: list[int] = []
        self._redo_stack: list[int] = []
        self._last: dict[tuple[str, str], Entry] = {}
        self._standing: dict[tuple[str, str, str], tuple[tuple[int, ...], list[PlaceReadings]]] = {}
        self._as_shown: dict[int, Reading] = {}  # kept until something is said of the reading: a repaint asks for hundreds
        for entry in entries:
            self.apply(entry)

    def apply(self, entry: Entry) -> None:
        """Take in the next entry: work does not depend on how many came before."""
        body = entry.body
        self.version += 1
        if isinstance(body, Undone | Redone):
            self._undo_or_redo(body)
            return
        if entry.gesture not in self._gestures:
            self._gestures[entry.gesture] = []
            self._done_stack.append(entry.gesture)
            self._redo_stack.clear()
        self._gestures[entry.gesture].append(entry)
        kind = type(body)
        self._touch(body)
        if isinstance(body, ReadingStruck | ReadingKept):
            self._as_shown.pop(body.reading, None)
        if isinstance(body, ReadingTaken):
            places = self._readings.setdefault((body.assembly, body.set_up, body.phase), {})
            places.setdefault(body.place, []).append(entry)
            self._last[(body.assembly, body.phase)] = entry
        elif isinstance(body, SizeTaken):
            self._sizes.setdefault((body.part, body.operation), []).append(entry)
        elif isinstance(body, PhotoAdded):
            self._photos.append(entry)
        else:
            slot = (kind, *(getattr(body, name) for name in _SLOTS[kind]))
            self._slots.setdefault(slot, []).append(entry)

    def _undo_or_redo(self, body: Undone | Redone) -> None:
        self._as_shown.clear()
        gesture = body.gesture_id
        if gesture not in self._gestures:
            return
        for entry in self._gestures[gesture]:
            self._touch(entry.body)
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

    def _touch(self, body: Body) -> None:
        """Raise the topic's version, and that of the assembly it is about; of every assembly where it names none."""
        topic = _TOPICS.get(type(body))
        if topic:
            names = [topic, f"{topic}/{getattr(body, 'assembly', '')}"]
            if isinstance(body, ReadingTaken):  # what stands at one set-up is not looked for again for another's reading
                names.append(f"{topic}/{body.assembly}/{body.set_up}/{body.phase}")
            for name in names:
                self._topic[name] = self._topic.get(name, 0) + 1

    def versions(self, *topics: str) -> tuple[int, ...]:
        """Versions of topics, to key what is computed from them."""
        return tuple(self._topic.get(topic, 0) for topic in topics)

    def versions_of(self, assembly: str, *topics: str) -> tuple[int, ...]:
        """Versions of topics as far as they touch an assembly: a reading of another part changes nothing here."""
        return tuple(self._topic.get(f"{topic}/{name}", 0) for topic in topics for name in (assembly, ""))

    # what stands ------------------------------------------------------------------------------

    def stands(self, entry: Entry) -> bool:
        """True unless the entry's gesture was undone."""
        return entry.gesture not in self._undone

    def _latest(self, kind: type[B], *key: object) -> B | None:
        for entry in reversed(self._slots.get((kind, *key), ())):
            if self.stands(entry):
                assert isinstance(entry.body, kind)
                return entry.body
        return None

    def _each(self, kind: type[B], *start: object) -> Iterator[B]:
        for slot in self._slots:
            if slot[0] is kind and slot[1 : 1 + len(start)] == start:
                body = self._latest(kind, *slot[1:])
                if body is not None:
                    yield body

    @property
    def started(self) -> JobStarted | None:
        """The job's first entry, or None in an empty file."""
        return self._latest(JobStarted)

    def card(self, field: str, default: str = "") -> str:
        """A line of the machine's card as text."""
        body = self._latest(CardChanged, field)
        return default if body is None else str(body.value)

    def card_number(self, field: str, default: float) -> float:
        """A number of the machine's card."""
        body = self._latest(CardChanged, field)
        return float(body.value) if body is not None and not isinstance(body.value, str) else default

    def grade(self, assembly: str) -> Graded | None:
        """The walk-round's grade of an assembly."""
        return self._latest(Graded, assembly)

    @property
    def number_one(self) -> str | None:
        """The assembly named as the number one problem."""
        body = self._latest(NumberOneNamed)
        return body.assembly if body else None

    def limit(self, key: str) -> RatedLimit:
        """A rated limit: as set, or the class default."""
        default = class_limit(self.started.machine_class if self.started else "ordinary", key)
        body = self._latest(LimitSet, key)
        return RatedLimit(key, default.label, body.limit_mm, body.source) if body else default

    def drive_facts(self, assembly: str) -> dict[str, str | float]:
        """Facts stated about a feed screw."""
        return {body.field: body.value for body in self._each(DriveStated, assembly)}

    def first_stated(self, assembly: str, field: str) -> int | None:
        """Id of the entry that first stated a fact and still stands; None where none does."""
        return next((e.id for e in self._slots.get((DriveStated, assembly, field), ()) if self.stands(e)), None)

    def part_facts(self, part: str) -> dict[str, str | float]:
        """Sizes and choices of a part set by hand."""
        return {body.field: body.value for body in self._each(PartSet, part)}

    def chosen(self, assembly: str) -> RemedyChosen | None:
        """The remedy chosen for an assembly."""
        return self._latest(RemedyChosen, assembly)

    def steps_done(self, plan: str) -> set[str]:
        """Keys of the steps of a plan that are done."""
        return {body.step for body in self._each(StepDone, plan) if body.done}

    @property
    def is_power_locked(self) -> bool:
        """Whether power is recorded as locked out."""
        body = self._latest(PowerLocked)
        return bool(body and body.locked)

    def note(self, topic: str) -> str:
        """Words written on a topic."""
        body = self._latest(NoteWritten, topic)
        return body.text if body else ""

    def contact(self, assembly: str, phase: str) -> str:
        """Where the blue rubbed, as stored; "" where nothing was painted."""
        body = self._latest(ContactPainted, assembly, phase)
        return body.cells if body else ""

    def marks(self, assembly: str) -> list[MarkScribed]:
        """Index marks of an assembly."""
        return list(self._each(MarkScribed, assembly))

    def planted(self, assembly: str) -> Planted | None:
        """A practice machine's hidden condition."""
        return self._latest(Planted, assembly)

    def photos(self, assembly: str | None = None) -> list[PhotoAdded]:
        """Photographs, of one assembly or all."""
        found = [e.body for e in self._photos if self.stands(e) and isinstance(e.body, PhotoAdded)]
        return [p for p in found if assembly in (None, p.assembly)]

    # readings ---------------------------------------------------------------------------------

    def _reading(self, entry: Entry) -> Reading:
        held = self._as_shown.get(entry.id)
        if held is None:
            assert isinstance(entry.body, ReadingTaken)
            strike = self._latest(ReadingStruck, entry.id)
            reason = strike.reason if strike else (None if self.stands(entry) else "taken back")
            held = Reading(entry.id, entry.at, entry.body, reason, self._latest(ReadingKept, entry.id) is not None)
            self._as_shown[entry.id] = held
        return held

    def readings(self, assembly: str, set_up: str, phase: str = "before", place: str | None = None) -> list[Reading]:
        """Readings in the order they were taken, struck ones included."""
        places = self._readings.get((assembly, set_up, phase), {})
        chosen = places.values() if place is None else [places.get(place, [])]
        return [self._reading(entry) for entries in chosen for entry in entries]

    def standing(self, assembly: str, set_up: str, phase: str = "before") -> list[PlaceReadings]:
        """Values that stand, place by place. Kept until a reading comes or goes: a repaint asks dozens of times."""
        stamp = self.versions(f"readings/{assembly}/{set_up}/{phase}", "readings/")
        held = self._standing.get((assembly, set_up, phase))
        if held is None or held[0] != stamp:
            held = (stamp, self._find_standing(assembly, set_up, phase))
            self._standing[(assembly, set_up, phase)] = held
        return held[1]

    def _find_standing(self, assembly: str, set_up: str, phase: str) -> list[PlaceReadings]:
        result = []
        for place, entries in self._readings.get((assembly, set_up, phase), {}).items():
            values = tuple(
                e.body.value
                for e in entries
                if isinstance(e.body, ReadingTaken) and self.stands(e) and (ReadingStruck, e.id) not in self._slots
            )
            if any((ReadingStruck, e.id) in self._slots for e in entries):
                values = tuple(r.taken.value for e in entries if (r := self._reading(e)).struck is None)
            if values:
                result.append(PlaceReadings(place, values))
        return result

    def last_reading(self, assembly: str, phase: str) -> Reading | None:
        """The reading taken last, if it still stands."""
        entry = self._last.get((assembly, phase))
        if entry is None:
            return None
        reading = self._reading(entry)
        return reading if reading.struck is None else None

    def all_readings(self) -> list[Reading]:
        """Every reading of the job in the order taken."""
        found = [self._reading(e) for places in self._readings.values() for entries in places.values() for e in entries]
        return sorted(found, key=lambda r: r.id)

    def sizes(self, part: str, operation: str) -> list[Size]:
        """Sizes measured at an operation, in the order taken, struck ones included."""
        result = []
        for entry in self._sizes.get((part, operation), []):
            assert isinstance(entry.body, SizeTaken)
            strike = self._latest(SizeStruck, entry.id)
            reason = strike.reason if strike else (None if self.stands(entry) else "taken back")
            result.append(Size(entry.id, entry.at, entry.body, reason))
        return result

    # undo -------------------------------------------------------------------------------------

    @property
    def undoable(self) -> int | None:
        """The gesture that undo would take back; the job's first gesture stays."""
        return self._done_stack[-1] if len(self._done_stack) > 1 else None

    @property
    def redoable(self) -> int | None:
        """The gesture that redo would restore."""
        return self._redo_stack[-1] if self._redo_stack else None

    def gesture_words(self, gesture: int) -> str:
        """What a gesture was, in a few words."""
        body = self._gestures[gesture][0].body
        words = {
            "reading.taken": "reading", "reading.struck": "strike-out", "reading.kept": "keeping a reading",
            "assembly.graded": "grade", "number_one.named": "number one problem", "photo.added": "photograph",
            "limit.set": "limit", "drive.stated": "fact about the part", "contact.painted": "painted contact", "mark.scribed": "index mark", "remedy.chosen": "choice of remedy",
            "part.set": "size of a part", "size.taken": "size taken", "size.struck": "strike-out", "step.done": "step",
            "power.locked": "power lock", "note.written": "note", "card.changed": "line of the card",
        }  # fmt: skip
        return words.get(body.kind, body.kind)
