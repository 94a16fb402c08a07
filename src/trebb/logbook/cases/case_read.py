"""What the readings of a case say: the estimate, the verdicts, what is worth reading next."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.condition import (
    Candidate,
    ErrorModel,
    Estimate,
    Observation,
    ReadingsOnly,
    Row,
    Suggestion,
    by_readings,
    estimate,
    suggest,
)
from trebb.core.condition.fixing import is_touched
from trebb.core.errors import InputError
from trebb.core.findings import Finding, Measure
from trebb.core.findings.base import first_not_read
from trebb.core.machine import State
from trebb.core.memory.taught import USUAL, Taught
from trebb.core.survey import (
    AnySetUp,
    Lot,
    Place,
    PlaceReadings,
    admit_reading,
    information,
    observations,
    set_up,
)
from trebb.core.survey.reduction import place_means
from trebb.core.survey.steps import found_step
from trebb.core.units import UnitSystem
from trebb.core.words import small
from trebb.logbook.cases.case_stated import StatedCase
from trebb.logbook.cases.contradictions import Contradiction, contradiction_finding, contradictions
from trebb.logbook.cases.oddities import Odd, odd_at, odd_finding, odd_readings
from trebb.logbook.cases.one_figure import OneFigure, figure_finding, one_figures
from trebb.logbook.log.entries import Body, NoteWritten, ReadingStruck
from trebb.logbook.log.tracking import derived


class Answer(Struct, frozen=True):
    """One answer to a question: its words, what it records in one gesture."""

    key: str
    words: str
    tip: str
    bodies: tuple[Body, ...]


class Question(Struct, frozen=True):
    """What must be asked before readings of a set-up can count."""

    key: str
    head: str
    text: str
    answers: tuple[Answer, ...]


PLACES_THAT_TELL = 3  # what an instrument reads to, for another set-up


class ReadCase(StatedCase):
    """An assembly as read."""

    @property
    def taught(self) -> Taught:
        """What the shop's other jobs taught."""
        return self.cases.taught if self.cases is not None else USUAL

    def expected_model(self, phase: str) -> ErrorModel:
        """Sources with what is to be expected of them, as usual or as this shop's machines are."""
        return self.taught.model(self.kind.works_as, self.family, self.model_for(phase))

    @derived
    def estimate_of(self, phase: str) -> Estimate:
        """The condition by the readings of a phase."""
        return estimate(self.expected_model(phase), self.counted(phase))

    @derived
    def alone_of(self, phase: str) -> ReadingsOnly:
        """The condition by the readings of a phase and next to nothing else: what figures are judged by."""
        return by_readings(self.model_for(phase), self.counted(phase))

    @property
    def alone(self) -> ReadingsOnly:
        """The condition by the readings before the repair alone."""
        return self.alone_of("before")

    def read_source(self, name: str) -> float | None:
        """What readings alone say of a source, in its unit; None where they tell nothing of it."""
        return self.alone.source(name).value if is_touched(self.alone, {name: 1.0}) else None

    def read_sources(self, *names: str) -> dict[str, float]:
        """The same of several, those that were read."""
        return {name: value for name in names if (value := self.read_source(name)) is not None}

    def counted(self, phase: str) -> list[Observation]:
        """What the readings of a phase that count say of the sources."""
        found: list[Observation] = []
        for s in self.set_ups:
            if s.key not in self.distrusted(phase):
                found += self.observed_at(s.key, phase)
        return found

    @derived
    def observed_at(self, key: str, phase: str) -> list[Observation]:
        """What a set-up's readings of a phase say of the sources."""
        s = set_up(key)
        found = (
            [o for _, o in self.means_at(key, phase)]
            if s.observe is None
            else observations(s, self.seen_by(key, phase), self.known_at(key, phase))
        )
        return [self.taught.observation(s.instrument.value, o) for o in found]

    @derived
    def means_at(self, key: str, phase: str) -> list[tuple[str, Observation]]:
        """One observation a place of a set-up whose places are read each by itself."""
        return place_means(set_up(key), self.seen_by(key, phase), self.known_at(key, phase))

    def all_set_ups(self) -> tuple[AnySetUp, ...]:
        """The set-ups whose readings the condition rests on: of some assemblies those of their neighbours
        too.
        """
        return self.set_ups

    def observations_of(self, key: str) -> list[Observation]:
        """What counts of a set-up's readings before the repair."""
        return [] if key in self.distrusted("before") else self.observed_at(key, "before")

    def rows_of(self, s: AnySetUp, places: Sequence[str]) -> tuple[Row, ...]:
        """Rows that reading places of a set-up would give, trusted or not."""
        found = information(s, self.seen_by(s.key, "before"), places) if places else ()
        return tuple(self.taught.row(s.instrument.value, row) for row in found)

    def seen_by(self, key: str, phase: str) -> Any:
        """The subject as a set-up's readings are understood by."""
        return self.subject_for(phase)

    def distrusted(self, phase: str) -> Mapping[str, str]:
        """Set-ups whose readings are set aside as a whole, each with the reason."""
        return {}

    def warning(self, s: AnySetUp, phase: str) -> tuple[str, str, tuple[tuple[str, str], ...]] | None:
        """Why what is read at a set-up now would not count: head, text, and where to go instead (words and a
        set-up's key).
        """
        return None

    @derived
    def odd(self, phase: str) -> list[Odd]:
        """Every reading of a phase that disagrees with the others and was not kept by hand."""
        return odd_readings(self, phase)

    @derived
    def odd_at(self, key: str, phase: str) -> tuple[Odd, ...]:
        """Those of a set-up that disagree with its repeats or the rest of their turn."""
        return odd_at(self, set_up(key), phase)

    @derived
    def contradictions(self, phase: str) -> tuple[Contradiction, ...]:
        """What readings of a phase deny that cannot be otherwise."""
        return contradictions(self, phase)

    @derived
    def one_figures(self, phase: str) -> tuple[OneFigure, ...]:
        """Turns read as one figure each, their angle not known."""
        return one_figures(self, phase)

    def question(self, s: AnySetUp, phase: str, system: UnitSystem) -> Question | None:
        """What is to be asked at a set-up, or None: here of a reading that disagrees with the others."""
        odd = next((one for one in self.odd(phase) if one.set_up.key == s.key), None)
        return self._ask_of(odd, phase, system) if odd is not None else None

    def _ask_of(self, odd: Odd, phase: str, system: UnitSystem) -> Question:
        keep = NoteWritten(topic=self._kept_topic(odd.set_up.key, odd.key, phase), text="kept")
        strike = tuple(ReadingStruck(reading=r, reason="disagreed with the others") for r in odd.readings)
        return Question(
            "odd",
            odd.sentence(system),
            "Keep it or strike it out? Read it once more, and it shows.",
            (
                Answer("keep_odd", "Keep it", "It counts as the others do not say", (keep,)),
                Answer("strike_odd", "Strike it out", "It stays readable in the logbook", strike),
            ),
        )

    def _kept_topic(self, set_up: str, what: str, phase: str) -> str:
        return f"kept.{self.assembly_key}.{phase}.{set_up}.{what}"[:200]

    def is_kept(self, set_up: str, what: str, phase: str) -> bool:
        """Whether a reading that disagrees was kept by hand."""
        return bool(self.job.note(self._kept_topic(set_up, what, phase)))

    def known_places(self, s: AnySetUp, phase: str) -> list[PlaceReadings]:
        """Readings that stand and count."""
        return self.known_at(s.key, phase)

    @derived
    def known_at(self, key: str, phase: str) -> list[PlaceReadings]:
        """Readings of a set-up that stand and count."""
        s, subject = set_up(key), self.read_as(phase)
        standing = self.standing_at(key, phase)
        known = [p for p in standing if self._unusable(s, p, subject) is None]
        return self.with_steps(s, phase, known)

    def with_steps(self, s: AnySetUp, phase: str, known: Sequence[PlaceReadings]) -> list[PlaceReadings]:
        """Readings with the step that they are read to: as stated with them, else as their figures fall."""
        stated = {p.place: self.job.stated_step(self.assembly_key, s.key, phase, p.place) for p in known}
        subject = self.read_as(phase)
        unit_mm = s.unit_mm(subject)
        unsaid = [p for p in known if not stated[p.place]]
        # What reads nothing lies on every mark: then it is read as the same instrument is elsewhere.
        is_nothing = bool(unsaid) and not any(v for p in unsaid for v in p.values)
        found = self._step_elsewhere(s, phase) if is_nothing else found_step(s, unsaid)
        return [replace(p, step=stated[p.place] / unit_mm or found) for p in known]

    def _step_elsewhere(self, s: AnySetUp, phase: str) -> float:
        """The coarsest step that the instrument of a set-up was read to at other set-ups, in its unit, by
        places enough to tell.
        """
        others = (o for o in self.set_ups if o.instrument is s.instrument and o.unit == s.unit and o is not s)
        taken = ((o, self.standing_at(o.key, phase)) for o in others)
        told = ((o, p) for o, p in taken if sum(any(one.values) for one in p) >= PLACES_THAT_TELL)
        return max((found_step(o, p) for o, p in told), default=0.0)

    def standing_at(self, key: str, phase: str) -> list[PlaceReadings]:
        """Readings of a set-up that stand and are of this phase's machine."""
        return self.job.standing(self.assembly_key, key, phase)

    @derived
    def place_keys(self, key: str) -> frozenset[str]:
        """Keys of a set-up's places, whole turns as one figure among them."""
        return set_up(key).all_keys(self.subject)

    def _unusable(self, s: AnySetUp, readings: PlaceReadings, subject: Any) -> str | None:
        """Why readings that stand cannot count as things are stated now; None where they can."""
        if readings.place not in self.place_keys(s.key):
            return "not read this way as things are stated now"
        try:
            for value in set(readings.values):
                admit_reading(s, subject, readings.place, value)
        except InputError as error:
            return error.would_do
        return None

    def set_aside(self, phase: str = "before") -> list[str]:
        """Readings that stand but do not count, each with its reason: nothing is dropped in silence."""
        result = []
        for s in self.set_ups:
            if s.key in self.distrusted(phase) and self.job.standing(self.assembly_key, s.key, phase):
                result.append(f"{s.title}: {self.distrusted(phase)[s.key]}")
            for readings in self.job.standing(self.assembly_key, s.key, phase):
                reason = self._unusable(s, readings, self.read_as(phase))
                if reason is not None:
                    result.append(f"{s.title}, {readings.place}: {reason}")
        return result

    @property
    def estimate(self) -> Estimate:
        """The condition by the readings before the repair."""
        return self.estimate_of("before")

    @property
    def proof_estimate(self) -> Estimate:
        """The condition by the readings after the repair."""
        return self.estimate_of("after")

    @property
    def is_measured(self) -> bool:
        """Whether any reading before the repair stands: those set aside too, for that says something."""
        if not self.has_set_ups:
            return False
        aside = self.distrusted("before")
        return (
            self.estimate.readings > 0
            or bool(self.one_figures("before"))
            or any(self.job.standing(self.assembly_key, key, "before") for key in aside)
        )

    @property
    def split(self) -> Any:
        """The estimate in the family's terms."""
        raise NotImplementedError

    @derived
    def findings(self, system: UnitSystem) -> list[Finding]:
        """Verdicts, the heaviest first; where readings allow none yet, one that says so."""
        odd = [odd_finding(one, system) for one in self.odd("before")]
        denied = [contradiction_finding(one, system) for one in self.contradictions("before")]
        figures = [figure_finding(one, system) for one in self.one_figures("before")]
        over = [f for f in figures if f.state is State.BEYOND]
        rest = [f for f in figures if f.state is not State.BEYOND]
        found = [*denied, *over, *self._not_said(system), *self._findings(system), *rest, *odd]
        return found if found or not self.is_measured else [self._not_yet()]

    def _findings(self, system: UnitSystem) -> list[Finding]:
        """The family's verdicts."""
        return []

    def _not_said(self, system: UnitSystem) -> Sequence[Finding]:
        """What the verdict hangs on and no reading tells, before what they do tell."""
        return (first_not_read(self.judged, system),) if self.figures and self.judged.is_expected else ()

    def _not_yet(self) -> Finding:
        best = self.suggestions()
        ways: tuple[tuple[str, str], ...] = ()
        move = "Read the other places of this set-up."
        if best:
            s, lot = self.lot_of(best[0].key)
            move = f"Worth reading next: {small(lot.title)}."
            ways = ((f"Go to: {s.title.lower()}", s.key),)
        head = f"What is read so far does not yet say how it stands: {self.assembly.label.lower()}."
        return Finding("not_yet", State.UNKNOWN, head, "no reading that decides yet", move, 0.0, ways)

    @property
    def state(self) -> State:
        """How the judged figure stands to its limit."""
        if self.seen_beyond:
            return State.BEYOND
        state = self.judged.state if self.is_measured else State.UNKNOWN
        if state is not State.BEYOND and any(one.state is State.BEYOND for one in self.one_figures("before")):
            return State.BEYOND
        return state

    @property
    def seen_beyond(self) -> bool:
        """Whether something that was looked at or stated, not measured, is beyond its limit."""
        return False

    @property
    def worst_mm(self) -> float | None:
        """The judged figure by the readings before the repair, or None."""
        return self.judged.value.value if self.is_measured else None

    def figure_now(self) -> Measure | None:
        """The judged figure by the newest phase that was measured."""
        return self.judged if self.is_measured else None

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        """What is to be known, each a combination of sources."""
        return {}

    def doubt_scale_mm(self) -> float:
        """Standard deviation below which a question counts as settled."""
        return 0.1 * self.limit.limit_mm

    @derived
    def suggestions(self) -> list[Suggestion]:
        """What is worth reading next, best per minute first; keys are "set-up" or "set-up/lot"."""
        candidates = [c for s in self.set_ups for c in self._candidates_of(s.key)]
        ranked = suggest(self.estimate, self._next_lots(candidates), self.questions(), self.doubt_scale_mm())
        judged = self.judged
        if judged.state is not State.UNKNOWN:
            return ranked
        # What the verdict hangs on comes first, the quickest of it before the rest.
        wanted = [set_up for _, set_up in judged.unread]
        first = [s for s in ranked if s.key.split("/")[0] in wanted]
        return sorted(first, key=lambda s: s.minutes) + [s for s in ranked if s not in first]

    @derived
    def _candidates_of(self, key: str) -> tuple[Candidate, ...]:
        """What of a set-up could be read next, lot by lot."""
        s, found = set_up(key), []
        left = {p.key for p in self.places_left(s, "before")}
        read = {p.place for p in self.job.standing(self.assembly_key, s.key)}
        for lot in s.all_lots(self.subject_for("before")):
            places = [p for p in lot.places if p in left]
            rows = self.information(s, places) if places else ()
            if rows:
                minutes = s.minutes * len(places) + (0 if read & set(lot.places) else s.setting_of(lot))
                found.append(Candidate(f"{s.key}/{lot.key}" if lot.key else s.key, rows, minutes))
        return tuple(found)

    def information(self, s: AnySetUp, places: Sequence[str]) -> tuple[Row, ...]:
        """Rows that reading these places would give."""
        return information(s, self.subject_for("before"), places)

    def _next_lots(self, candidates: Sequence[Candidate]) -> list[Candidate]:
        """Candidates that can be offered now."""
        return list(candidates)

    def lot_of(self, key: str) -> tuple[AnySetUp, Lot]:
        """Set-up and lot of a suggestion's key."""
        name, _, lot_key = key.partition("/")
        s = next(s for s in self.set_ups if s.key == name)
        return s, next(lot for lot in s.all_lots(self.subject) if lot.key == lot_key)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        """Why a suggestion is worth taking, in a few words."""
        return ""

    def places_left(self, s: AnySetUp, phase: str) -> list[Place]:
        """Places with fewer standing readings than wanted."""
        count = {p.place: len(p.values) for p in self.job.standing(self.assembly_key, s.key, phase)}
        return [p for p in self.places(s.key) if count.get(p.key, 0) < s.wanted]

    def next_place(self, s: AnySetUp, phase: str) -> Place | None:
        """Where the next reading belongs: the place with fewest readings, in order; None when all have
        enough.
        """
        count = {p.place: len(p.values) for p in self.job.standing(self.assembly_key, s.key, phase)}
        left = self.places_left(s, phase)
        return min(left, key=lambda p: count.get(p.key, 0)) if left else None

    def place_after(self, s: AnySetUp, phase: str, place: Place) -> str | None:
        """The place that comes after one that is being read: on round a turn that is not read through, else
        onward to what was read no more often, so that a place left out is not jumped back to; None: wherever
        readings are wanted.
        """
        if not place.group:
            return next(iter(self.places_onward(s, phase, place)[1:]), None)
        read = {p.place for p in self.job.standing(self.assembly_key, s.key, phase) if p.values}
        keys = [p.key for p in self.places(s.key) if p.group == place.group]
        i = keys.index(place.key)
        return next((k for k in keys[i + 1 :] + keys[:i] if k not in read), None)

    def places_onward(self, s: AnySetUp, phase: str, place: Place) -> list[str]:
        """A place and those that come after it while each is read once more, in order."""
        count = {p.place: len(p.values) for p in self.job.standing(self.assembly_key, s.key, phase)}
        keys = [p.key for p in self.places(s.key) if p.group == place.group]
        so_far = min(count.get(place.key, 0), s.wanted - 1)
        after = keys[keys.index(place.key) + 1 :]
        return [place.key, *(k for k in after if count.get(k, 0) <= so_far)]

    def progress(self, phase: str) -> tuple[int, int]:
        """Places with at least one reading, of all."""
        done = total = 0
        for s in self.set_ups_in(phase):
            read = {p.place for p in self.job.standing(self.assembly_key, s.key, phase)}
            if (
                s.is_optional
                and not read
                and not (phase != "before" and self.job.standing(self.assembly_key, s.key, "before"))
            ):
                continue
            keys = [p.key for p in self.places(s.key)]
            total += len(keys)
            done += sum(key in read for key in keys)
        return done, total
