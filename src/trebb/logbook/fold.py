"""The job on screen: the fold of its entries, kept up to date one entry at a time."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from typing import TypeVar

from trebb.core.errors import InputError
from trebb.core.facts import Schema, Stored
from trebb.core.families import FAMILIES
from trebb.core.machine import KINDS, Assembly, MachineKind, RatedLimit, class_limit, kind_of, with_added
from trebb.core.stating import card_schema, limit_fact, schema_of
from trebb.core.survey.base import PlaceReadings
from trebb.logbook.entries import (
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
from trebb.logbook.tracking import Ledger

B = TypeVar("B", bound=Body)

# Where the last entry of a kind wins, by what tells two of that kind apart.
_SLOTS: dict[type[Body], tuple[str, ...]] = {
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


@dataclass(frozen=True, slots=True)
class SetAside:
    """An entry that stands but cannot be used, with the reason in a sentence's words."""

    entry: int
    what: str
    reason: str


class Job(Ledger):
    """The state of one job. `apply` is the only way it changes; what is asked of it is noted (`Ledger`)."""

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
        self._machine: tuple[int, MachineKind] | None = None
        self._accepted: dict[str, tuple[int, dict[str, Stored], list[SetAside]]] = {}
        self._matters: dict[str, tuple[int, dict[str, dict[str, Stored]]]] = {}
        self._as_shown: dict[int, Reading] = {}  # kept until something is said of the reading
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
            slot = (type(body), *(getattr(body, name) for name in _SLOTS[type(body)]))
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
            self._standing_list.pop(key, None)

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

    def _each(self, kind: type[B], first: object) -> Iterator[B]:
        """What stands of a kind whose first telling field is `first`."""
        for slot in self._by_first.get((kind, first), ()):
            body = self._latest(kind, *slot[1:])
            if body is not None:
                yield body

    def _saw(self, *topic: str) -> None:
        if self.frames:
            self.saw(topic)

    @property
    def started(self) -> JobStarted | None:
        """The job's first entry, or None in an empty file."""
        self._saw("started")
        return self._latest(JobStarted)

    @property
    def kind_key(self) -> str:
        """The kind of machine; a file with no beginning counts as a lathe's."""
        return self.started.machine_kind if self.started else "lathe"

    @property
    def machine(self) -> MachineKind:
        """The machine: its kind, with the assemblies and pieces that were added."""
        self._saw("started")
        self._saw("assemblies")
        stamp = max(self.changed_at(("assemblies",)), self.changed_at(("started",)))
        if self._machine is None or self._machine[0] != stamp:
            self._machine = (stamp, self._find_machine())
        return self._machine[1]

    def was_added(self, assembly: str) -> bool:
        """Whether an assembly is there because the shop added it."""
        return self.machine.has(assembly) and not kind_of(self.kind_key).has(assembly)

    def _find_machine(self) -> MachineKind:
        kind = kind_of(self.kind_key)
        found: list[tuple[int, Assembly]] = []
        for slot, entries in self._slots.items():
            if slot[0] is AssemblyAdded:
                since, newest = 0, None  # taken off and added again it stands last, under what came meanwhile
                for entry in (e for e in entries if self.stands(e)):
                    if isinstance(body := entry.body, AssemblyAdded):
                        since = 0 if body.gone else since or entry.id
                        newest = body
                if since and newest is not None:
                    one = Assembly(newest.assembly, newest.label, newest.family, newest.under)
                    found.append((since, one))
        for _, one in sorted(found, key=lambda f: f[0]):
            if why_not_added(kind, one) is None:
                kind = replace(kind, assemblies=(*kind.assemblies, one))
        return with_added(kind_of(self.kind_key), kind.assemblies[len(kind_of(self.kind_key).assemblies) :])

    def _card(self, field: str) -> Stored | None:
        """The newest line of the card that stands and will do."""
        self._saw("card", field)
        schema = card_schema()
        for entry in reversed(self._slots.get((CardChanged, field), ())):
            body = entry.body
            if self.stands(entry) and isinstance(body, CardChanged) and _why(schema, body) is None:
                return body.value
        return None

    def card(self, field: str, default: str = "") -> str:
        """A line of the machine's card as text."""
        value = self._card(field)
        return default if value is None else str(value)

    def card_number(self, field: str, default: float) -> float:
        """A number of the machine's card."""
        value = self._card(field)
        return default if value is None or isinstance(value, str) else float(value)

    def grade(self, assembly: str) -> Graded | None:
        """The walk-round's grade of an assembly."""
        self._saw("grade", assembly)
        return self._latest(Graded, assembly)

    @property
    def number_one(self) -> str | None:
        """The assembly named as the number one problem."""
        self._saw("number one")
        body = self._latest(NumberOneNamed)
        known = body is not None and self.machine.has(body.assembly)
        return body.assembly if body and known else None

    def limit(self, key: str) -> RatedLimit:
        """A rated limit: as set, or the class default."""
        default = class_limit(self.started.machine_class if self.started else "ordinary", key)
        self._saw("limit", key)
        for entry in reversed(self._slots.get((LimitSet, key), ())):
            body = entry.body
            if self.stands(entry) and isinstance(body, LimitSet) and _limit_trouble(body) is None:
                return RatedLimit(key, default.label, body.limit_mm, body.source)
        return default

    def facts_of(self, assembly: str) -> dict[str, Stored]:
        """Facts stated of an assembly that will do, alone and together; see `set_aside` for the others."""
        self._saw("facts", assembly)
        return self._accept(assembly)[1]

    def _accept(self, assembly: str) -> tuple[int, dict[str, Stored], list[SetAside]]:
        """Facts of an assembly, checked: kept until one is stated."""
        stamp = max(self.changed_at(t) for t in (("facts", assembly), ("started",), ("assemblies",)))
        held = self._accepted.get(assembly)
        if held is None or held[0] != stamp:
            held = (stamp, *self._find_accepted(assembly))
            self._accepted[assembly] = held
        return held

    def _find_accepted(self, assembly: str) -> tuple[dict[str, Stored], list[SetAside]]:
        family = next((a.family for a in self.machine.assemblies if a.key == assembly), "")
        aside: list[SetAside] = []
        newest: dict[str, tuple[int, Stored]] = {}
        schema = schema_of(family) if family else None
        for slot in self._by_first.get((FactStated, assembly), ()):
            for entry in reversed(self._slots[slot]):
                body = entry.body
                if not self.stands(entry) or not isinstance(body, FactStated):
                    continue
                why = _why(schema, body) if schema else f"this machine has no “{assembly}” with facts"
                if why is None:
                    newest[body.field] = (entry.id, body.value)
                    break
                aside.append(SetAside(entry.id, f"{assembly}, {body.field}", why))
        values = {key: value for key, (_, value) in sorted(newest.items(), key=lambda kv: kv[1][0])}
        while schema is not None and values:
            try:
                schema.subject(self.machine.works_as, assembly, values)
                break
            except InputError as error:
                last = max(values, key=lambda key: newest[key][0])
                aside.append(SetAside(newest[last][0], f"{assembly}, {last}", str(error)))
                del values[last]
        return values, aside

    def set_aside(self) -> list[SetAside]:
        """Entries that stand but cannot be used, each with its reason: nothing is dropped in silence."""
        found = [
            SetAside(e.id, f"entry of kind {e.body.stored_kind}", e.body.reason)
            for e in self._unreadable
            if isinstance(e.body, Unreadable)
        ]
        for assembly in dict.fromkeys(slot[1] for slot in self._slots if slot[0] is FactStated):
            found += self._accept(str(assembly))[2]
        for entries in self._slots.values():
            for entry in entries:
                why = None
                if isinstance(entry.body, CardChanged):
                    why = _why(card_schema(), entry.body)
                elif isinstance(entry.body, LimitSet):
                    why = _limit_trouble(entry.body)
                elif isinstance(entry.body, MatterStated):
                    why = _no_matter(entry.body)
                elif isinstance(entry.body, AssemblyAdded) and not entry.body.gone:
                    why = self._not_added(entry.body)
                if why is not None and self.stands(entry):
                    found.append(SetAside(entry.id, entry.body.kind, why))
        return sorted(found, key=lambda one: one.entry)

    def _not_added(self, body: AssemblyAdded) -> str | None:
        """Why an added assembly is not part of the machine; None where it is, or was taken off since."""
        newest = self._latest(AssemblyAdded, body.assembly)
        if newest is None or newest.gone or newest is not body or self.machine.has(body.assembly):
            return None
        one = Assembly(body.assembly, body.label, body.family, body.under)
        return why_not_added(self.machine, one) or "what it is part of is not there"

    def first_stated(self, assembly: str, field: str) -> int | None:
        """Id of the entry that first stated a fact and still stands; None where none does."""
        self._saw("facts", assembly)
        return next(
            (e.id for e in self._slots.get((FactStated, assembly, field), ()) if self.stands(e)), None
        )

    def part_facts(self, part: str) -> dict[str, str | float]:
        """Sizes and choices of a part set by hand."""
        self._saw("part", part)
        return {body.field: body.value for body in self._each(PartSet, part)}

    def chosen(self, assembly: str) -> RemedyChosen | None:
        """The remedy chosen for an assembly."""
        self._saw("remedy", assembly)
        return self._latest(RemedyChosen, assembly)

    def steps_done(self, plan: str) -> set[str]:
        """Keys of the steps of a plan that are done."""
        self._saw("steps", plan)
        return {body.step for body in self._each(StepDone, plan) if body.done}

    @property
    def is_power_locked(self) -> bool:
        """Whether power is recorded as locked out."""
        self._saw("power")
        body = self._latest(PowerLocked)
        return bool(body and body.locked)

    def note(self, topic: str) -> str:
        """Words written on a topic."""
        self._saw("note", topic)
        body = self._latest(NoteWritten, topic)
        return body.text if body else ""

    def contact(self, assembly: str, phase: str) -> str:
        """Where the blue rubbed, as stored; "" where nothing was painted."""
        self._saw("contact", assembly, phase)
        body = self._latest(ContactPainted, assembly, phase)
        return body.cells if body else ""

    def matters(self, matter: str) -> dict[str, dict[str, Stored]]:
        """What is stated of a matter that will do, by which one it is of, in the order first stated."""
        self._saw("matter", matter)
        stamp = self.changed_at(("matter", matter))
        held = self._matters.get(matter)
        if held is None or held[0] != stamp:
            held = (stamp, self._find_matters(matter))
            self._matters[matter] = held
        return held[1]

    def matter(self, matter: str, of: str = "") -> dict[str, Stored]:
        """What is stated of one."""
        return self.matters(matter).get(of, {})

    def _find_matters(self, matter: str) -> dict[str, dict[str, Stored]]:
        found: dict[str, dict[str, Stored]] = {}
        for slot in self._by_first.get((MatterStated, matter), ()):
            for entry in reversed(self._slots[slot]):
                body = entry.body
                if isinstance(body, MatterStated) and self.stands(entry) and _no_matter(body) is None:
                    found.setdefault(body.of, {})[body.field] = body.value
                    break
        return found

    def done_at(self, plan: str, step: str) -> str | None:
        """When a step was ticked that stands ticked (UTC, ISO 8601); None where it is not."""
        self._saw("steps", plan)
        for entry in reversed(self._slots.get((StepDone, plan, step), ())):
            if self.stands(entry):
                return entry.at if isinstance(entry.body, StepDone) and entry.body.done else None
        return None

    def marks(self, assembly: str) -> list[MarkScribed]:
        """Index marks of an assembly."""
        self._saw("marks", assembly)
        return list(self._each(MarkScribed, assembly))

    def planted(self, assembly: str) -> Planted | None:
        """A practice machine's hidden condition."""
        self._saw("planted", assembly)
        return self._latest(Planted, assembly)

    def practice_entries(self, what: str) -> list[Entry]:
        """What was done on the practice bench of a kind, in order; what was asked twice stands twice."""
        self._saw("practice", what)
        found = [
            e
            for slot in self._by_first.get((PracticeMarked, what), ())
            for e in self._slots[slot]
            if self.stands(e)
        ]
        return sorted(found, key=lambda e: e.id)

    def practice_marks(self, what: str) -> list[PracticeMarked]:
        """The same without number and time."""
        return [e.body for e in self.practice_entries(what) if isinstance(e.body, PracticeMarked)]

    def photos(self, assembly: str | None = None) -> list[PhotoAdded]:
        """Photographs, of one assembly or all."""
        self._saw("photographs")
        found = [e.body for e in self._photos if self.stands(e) and isinstance(e.body, PhotoAdded)]
        return [p for p in found if assembly in (None, p.assembly)]

    # readings ---------------------------------------------------------------------------------

    def _reading(self, entry: Entry) -> Reading:
        held = self._as_shown.get(entry.id)
        if held is None:
            assert isinstance(entry.body, ReadingTaken)
            strike = self._latest(ReadingStruck, entry.id)
            reason = strike.reason if strike else (None if self.stands(entry) else "taken back")
            held = Reading(
                entry.id, entry.at, entry.body, reason, self._latest(ReadingKept, entry.id) is not None
            )
            self._as_shown[entry.id] = held
        return held

    def readings(
        self, assembly: str, set_up: str, phase: str = "before", place: str | None = None
    ) -> list[Reading]:
        """Readings in the order they were taken, struck ones included."""
        self._saw("readings", assembly, set_up, phase)
        places = self._readings.get((assembly, set_up, phase), {})
        chosen = places.values() if place is None else [places.get(place, [])]
        return [self._reading(entry) for entries in chosen for entry in entries]

    def standing(self, assembly: str, set_up: str, phase: str = "before") -> list[PlaceReadings]:
        """Values that stand, place by place."""
        self._saw("readings", assembly, set_up, phase)
        key = (assembly, set_up, phase)
        held = self._standing_list.get(key)
        if held is None:
            found = self._standing.setdefault(key, {})
            for place, entries in self._readings.get(key, {}).items():
                if place not in found:
                    found[place] = self._find_standing(place, entries)
            held = [known for place in self._readings.get(key, {}) if (known := found[place]) is not None]
            self._standing_list[key] = held
        return held

    def _add_standing(self, entry: Entry, body: ReadingTaken) -> None:
        """A reading more at a place: the others there need not be looked through again."""
        key = (body.assembly, body.set_up, body.phase)
        self.touch(("readings", *key))
        places = self._standing.setdefault(key, {})
        known = places.pop(body.place, None)
        if known is not None and self.stands(entry) and (ReadingStruck, entry.id) not in self._slots:
            places[body.place] = PlaceReadings(body.place, (*known.values, body.value))
        self._standing_list.pop(key, None)

    def _find_standing(self, place: str, entries: list[Entry]) -> PlaceReadings | None:
        values = tuple(
            e.body.value
            for e in entries
            if isinstance(e.body, ReadingTaken)
            and self.stands(e)
            and self._latest(ReadingStruck, e.id) is None
        )
        return PlaceReadings(place, values) if values else None

    def last_reading(self, assembly: str, phase: str) -> Reading | None:
        """The reading taken last, if it still stands."""
        entry = self._last.get((assembly, phase))
        if entry is None:
            return None
        reading = self._reading(entry)
        return reading if reading.struck is None else None

    def all_readings(self) -> list[Reading]:
        """Every reading of the job in the order taken."""
        found = [
            self._reading(e)
            for places in self._readings.values()
            for entries in places.values()
            for e in entries
        ]
        return sorted(found, key=lambda r: r.id)

    def all_sizes(self) -> list[Size]:
        """Every size of the job in the order taken."""
        return sorted((s for key in self._sizes for s in self.sizes(*key)), key=lambda s: s.id)

    def sizes(self, part: str, operation: str) -> list[Size]:
        """Sizes measured at an operation, in the order taken, struck ones included."""
        self._saw("sizes", part, operation)
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
            "reading.taken": "reading",
            "reading.struck": "strike-out",
            "reading.kept": "keeping a reading",
            "assembly.graded": "grade",
            "assembly.added": "part of the machine",
            "number_one.named": "number one problem",
            "photo.added": "photograph",
            "limit.set": "limit",
            "drive.stated": "fact about the part",
            "contact.painted": "painted contact",
            "mark.scribed": "index mark",
            "remedy.chosen": "choice of remedy",
            "part.set": "size of a part",
            "size.taken": "size taken",
            "size.struck": "strike-out",
            "step.done": "step",
            "power.locked": "power lock",
            "note.written": "note",
            "card.changed": "line of the card",
            "matter.stated": "line of the job",
        }
        return words.get(body.kind, body.kind)


def why_not_added(machine: MachineKind, one: Assembly) -> str | None:
    """Why an assembly cannot be added to a machine; None where it can."""
    can = [key for key, family in FAMILIES.items() if family.added]
    if machine.has(one.key):
        return f"the machine has “{one.key}” already"
    if any(
        a.label.casefold() == one.label.strip().casefold() and a.under == one.under
        for a in machine.assemblies
    ):
        return f"there is a “{one.label}” already: another name would do"
    if one.family and one.family not in can:
        return f"“{one.family}” is none of {', '.join(can)}"
    if one.under and not machine.has(one.under):
        return f"the machine has no “{one.under}” that it could be part of"
    if one.under and machine.assembly(one.under).under:
        return f"“{one.under}” is a piece itself"
    if one.family and FAMILIES[one.family].is_piece and not one.under:
        return "a piece belongs to an assembly: say which"
    return None


def _why(schema: Schema, body: CardChanged | FactStated) -> str | None:
    """Why a stated value will not do; None where it does, or where nobody knows the field."""
    try:
        fact = schema.fact(body.field)
    except InputError as error:
        return None if isinstance(body, CardChanged) else str(error)
    try:
        fact.admitted(body.value)
    except InputError as error:
        return str(error)
    return None


def _no_matter(body: MatterStated) -> str | None:
    """Why a matter's fact will not do; None where it does."""
    from trebb.core.stating.matters import matter_schema

    try:
        matter_schema(body.matter).fact(body.field).admitted(body.value)
    except InputError as error:
        return str(error)
    return None


def _limit_trouble(body: LimitSet) -> str | None:
    try:
        limit_fact(body.key).admitted(body.limit_mm)
    except InputError as error:
        return str(error)
    return None


def key_for(machine: MachineKind, label: str) -> str:
    """A key for an assembly to add, from its name: none that this or another kind of machine has."""
    plain = "".join(c if c.isascii() and c.isalnum() else "_" for c in label.strip().lower()).strip("_")
    base = (plain if plain[:1].isalpha() else f"part_{plain}".strip("_"))[:50]
    taken = {a.key for a in machine.assemblies} | {a.key for k in KINDS.values() for a in k.assemblies}
    found = (key for i in range(1, 1000) if (key := base if i == 1 else f"{base}_{i}") not in taken)
    return next(found)
