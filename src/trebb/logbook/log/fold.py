"""The job on screen: the fold of its entries, kept up to date one entry at a time."""

from __future__ import annotations

from trebb.core.facts import Stored
from trebb.core.survey.base import PlaceReadings
from trebb.logbook.log.entries import (
    ContactPainted,
    Entry,
    MarkScribed,
    MatterStated,
    NoteWritten,
    PartSet,
    PhotoAdded,
    Planted,
    PowerLocked,
    PracticeMarked,
    ReadingKept,
    ReadingStruck,
    ReadingTaken,
    RemedyChosen,
    SizeStruck,
    SizeTaken,
    StepDone,
)
from trebb.logbook.log.fold_facts import JobFacts, no_matter
from trebb.logbook.log.fold_log import Reading, Size
from trebb.logbook.log.tracking import derived


class Job(JobFacts):
    """The state of one job."""

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
        return self._find_matters(matter)

    def matter(self, matter: str, of: str = "") -> dict[str, Stored]:
        """What is stated of one."""
        return self.matters(matter).get(of, {})

    def plan_number(self, field: str, usual: float) -> float:
        """A number stated of the plan, or the usual one."""
        value = self.matter("plan").get(field)
        return float(value) if isinstance(value, int | float) else usual

    @derived
    def _find_matters(self, matter: str) -> dict[str, dict[str, Stored]]:
        self._saw("matter", matter)
        found: dict[str, dict[str, Stored]] = {}
        for slot in self._by_first.get((MatterStated, matter), ()):
            for entry in reversed(self._slots[slot]):
                body = entry.body
                if isinstance(body, MatterStated) and self.stands(entry) and no_matter(body) is None:
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
        return [p for p in self._pictured() if _is_picture(p) and assembly in (None, p.assembly)]

    def recordings(self) -> list[PhotoAdded]:
        """Recordings of how it sounds, their caption the phase they are of."""
        return [p for p in self._pictured() if not _is_picture(p)]

    def _pictured(self) -> list[PhotoAdded]:
        self._saw("photographs")
        return [e.body for e in self._photos if self.stands(e) and isinstance(e.body, PhotoAdded)]

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
        key = (assembly, set_up, phase)
        places = self._readings.get(key, {})
        chosen = places if place is None else [place] if place in places else []
        held = self._shown_at.setdefault(key, {})
        found: list[Reading] = []
        for name in chosen:
            if name not in held:
                held[name] = [self._reading(entry) for entry in places[name]]
            found += held[name]
        return found

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

    def _find_standing(self, place: str, entries: list[Entry]) -> PlaceReadings | None:
        values = tuple(
            e.body.value
            for e in entries
            if isinstance(e.body, ReadingTaken)
            and self.stands(e)
            and self._latest(ReadingStruck, e.id) is None
        )
        return PlaceReadings(place, values) if values else None

    def stated_step(self, assembly: str, set_up: str, phase: str, place: str) -> float:
        """The coarsest step stated with a place's readings that stand, mm; 0 where one of them says none."""
        standing = [
            r.taken.resolution_mm for r in self.readings(assembly, set_up, phase, place) if r.struck is None
        ]
        return max(standing, default=0.0) if all(standing) else 0.0

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


def _is_picture(body: PhotoAdded) -> bool:
    return not body.media_type.startswith("audio/")
