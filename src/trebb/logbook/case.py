"""From a job to what the core says of one of its assemblies, worked out once and kept until something it
rests on changes.
"""

from __future__ import annotations

import datetime
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import TYPE_CHECKING, Any, Protocol

from trebb.core.condition import (
    Candidate,
    Change,
    ErrorModel,
    Estimate,
    Observation,
    Quantity,
    Row,
    Suggestion,
    estimate,
    suggest,
)
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError, TrebbError
from trebb.core.facts import Fact, Schema, Stored
from trebb.core.findings import Finding, Measure
from trebb.core.findings.base import judge
from trebb.core.machine import (
    Assembly,
    MachineKind,
    RatedLimit,
    State,
    Workshop,
    ratio_from,
    wheels_from,
)
from trebb.core.memory.taught import USUAL, Taught
from trebb.core.remedies import Prediction, Remedy, predict, remedies_of, remedy
from trebb.core.stating import schema_of
from trebb.core.survey import (
    AnySetUp,
    Lot,
    Place,
    PlaceReadings,
    admit_reading,
    information,
    observations,
    set_up,
    set_ups_of,
)
from trebb.core.units import UnitSystem
from trebb.logbook.entries import Body, NoteWritten, Planted, ReadingStruck
from trebb.logbook.fold import Job
from trebb.logbook.oddities import Odd, odd_finding, odd_readings
from trebb.logbook.own import own_told
from trebb.logbook.tracking import Node, derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.fitup import FitStep
    from trebb.core.making.bought import Offer
    from trebb.core.making.infeed import InfeedScheme
    from trebb.core.making.operations import Operation, SizeTarget
    from trebb.core.parts import Check, Part, PartField, PartInputs
    from trebb.core.practice import PracticeMachine
    from trebb.core.practice.lies import Lying
    from trebb.core.proof import Comparison


INSIDE = (State.WITHIN, State.NEAR)


class Neighbours(Protocol):
    """The other assemblies of the job, for what one rests on of another; and what other jobs taught."""

    taught: Taught

    def of(self, assembly: str) -> Case:
        """The case of an assembly; raises InputError where the machine has none."""
        ...


UNTOUCHED_SD = 0.1  # a figure that a remedy moves by less than this share of its sd is not touched by it
HARDLY_MORE = 0.05  # of the limit: what leaves less by that alone is no reason to mend (practice)


@dataclass(frozen=True)
class Answer:
    """One answer to a question: its words, what it records in one gesture."""

    key: str
    words: str
    tip: str
    bodies: tuple[Body, ...]


@dataclass(frozen=True)
class Question:
    """What must be asked before readings of a set-up can count."""

    key: str
    head: str
    text: str
    answers: tuple[Answer, ...]


class Case:
    """What the core says of an assembly of a job. Families fill in what differs; this one is for an assembly
    without set-ups.
    """

    family = ""
    default_parts: tuple[str, ...] = ()
    optional_parts: tuple[str, ...] = ()  # made along with them where one asks for it

    def __init__(self, job: Job, assembly: str, cases: Neighbours | None = None) -> None:
        self.job = job
        self.assembly_key = assembly
        self.cases = cases
        self.nodes: dict[tuple[str, tuple[Any, ...]], Node] = {}

    # what it stands on ------------------------------------------------------------------------

    @property
    def kind(self) -> MachineKind:
        """The kind of machine."""
        return self.job.machine

    @property
    def assembly(self) -> Assembly:
        """The assembly this case is about."""
        return self.kind.assembly(self.assembly_key)

    @property
    def has_set_ups(self) -> bool:
        """Whether there is anything to read on this assembly."""
        return bool(self.family)

    @property
    def has_parts(self) -> bool:
        """Whether parts of it can be made here."""
        return self.has_set_ups

    @property
    def holder(self) -> str:
        """The assembly that its facts are kept under."""
        return (self.schema.holder if self.schema else "") or self.assembly_key

    @property
    def schema(self) -> Schema | None:
        """The facts that may be stated of it; None where there are none."""
        return schema_of(self.family) if self.family else None

    @property
    def facts(self) -> dict[str, Stored]:
        """What is stated of it and will do, as stored."""
        return self.job.facts_of(self.holder)

    @property
    @derived
    def subject(self) -> Any:
        """What the core is told of the assembly: a screw drive, a spindle."""
        schema = self.schema
        return schema.subject(self.kind.works_as, self.assembly_key, self.facts) if schema else None

    def stated(self, fact: Fact) -> Any:
        """The value of a fact, for showing: as stated, else as usual; None where neither is."""
        found = getattr(self.subject, fact.name, None)
        return self.facts.get(fact.key) if found is None else found

    def model_for(self, phase: str) -> ErrorModel:
        """Sources of error with their prior."""
        raise NotImplementedError

    def subject_for(self, phase: str) -> Any:
        """The subject with what its readings of a phase say of themselves."""
        return self.subject

    @property
    @derived
    def set_ups(self) -> tuple[AnySetUp, ...]:
        """The set-ups this assembly has, in order."""
        return tuple(s for s in set_ups_of(self.family) if s.applies(self.subject)) if self.family else ()

    @derived
    def places(self, key: str) -> tuple[Place, ...]:
        """The places of a set-up, in order."""
        return tuple(set_up(key).places(self.subject))

    def proving(self) -> tuple[AnySetUp, ...]:
        """The set-ups taken again after the repair."""
        return tuple(s for s in self.set_ups if s.is_proof)

    def set_ups_in(self, phase: str) -> tuple[AnySetUp, ...]:
        """The set-ups of a phase: "before" the repair, "after" it, or "later"."""
        return self.set_ups if phase == "before" else self.proving()

    @property
    @derived
    def workshop(self) -> Workshop:
        """The lathe that makes the parts: this machine, if it is one."""
        job, plain = self.job, Workshop()
        inch = job.card("lead_screw_unit", "inch") == "inch"
        number = Fraction(job.card_number("lead_screw", 8.0)).limit_denominator(1000)
        if not job.card("lead_screw") and (lead := self._named_lead()) is not None:
            turns = Fraction(254, 10) / lead
            inch = turns.denominator <= 2
            number = turns if inch else lead
        wheels, ratio = job.card("wheels"), job.card("gear_ratio")
        return Workshop(
            1 / number if inch else number,
            inch,
            int(job.card_number("dial_gear", plain.dial_gear_teeth)),
            int(job.card_number("dial_marks", plain.dial_marks)),
            job.card_number("spindle_bore_mm", plain.spindle_bore_mm),
            job.card("compound_from", "cross slide") == "bed axis",
            job.card_number("compound_division_mm", plain.compound_division_mm),
            self.dial_reads_diameter(),
            wheels=wheels_from(wheels) if wheels else plain.wheels,
            wheel_module_mm=job.card_number("wheel_module_mm", plain.wheel_module_mm),
            stud_to_screw_mm=job.card_number("stud_to_screw_mm", plain.stud_to_screw_mm),
            press_n=1000 * job.card_number("press_kn", plain.press_n / 1000),
            gear_ratio=ratio_from(ratio) if ratio else plain.gear_ratio,
        )

    def _named_lead(self) -> Fraction | None:
        """The lead of the lathe's own lead screw, mm, where survey named it; None where it did not."""
        stated = self.job.facts_of("lead_screw")
        if "pitch_mm" not in stated:
            return None
        from trebb.core.gears.trains import exact_lead

        return exact_lead(float(stated["pitch_mm"]) * float(stated.get("starts", 1.0)))

    def dial_reads_diameter(self) -> bool:
        """Whether the lathe's cross-slide dial counts the diameter."""
        return self.job.facts_of("cross_slide").get("reads") == "diameter"

    @property
    def figures(self) -> Sequence[Measure]:
        """What is known of it against its limits, the worst against its limit first."""
        return ()

    def limit_keys(self) -> Sequence[str]:
        """Keys of the limits this assembly is judged by."""
        return ()

    @property
    def judged(self) -> Measure:
        """The figure remedies are compared by: the one furthest toward or over its limit."""
        raise NotImplementedError

    @property
    def limit(self) -> RatedLimit:
        """The limit of the judged figure."""
        return self.judged.limit

    def turn_limit(self, s: AnySetUp) -> RatedLimit:
        """The limit that a turn read at a set-up is drawn against."""
        return self.usual_limit

    # survey and findings ----------------------------------------------------------------------

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
    def alone_of(self, phase: str) -> Estimate:
        """The condition by the readings of a phase and next to nothing else: what figures are judged by."""
        return estimate(self.model_for(phase).loosened, self.counted(phase))

    @property
    def alone(self) -> Estimate:
        """The condition by the readings before the repair alone."""
        return self.alone_of("before")

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
        found = observations(s, self.seen_by(key, phase), self.known_at(key, phase))
        return [self.taught.observation(s.instrument.value, o) for o in found]

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
        s, subject = set_up(key), self.subject
        standing = self.standing_at(key, phase)
        return [p for p in standing if self._unusable(s, p, subject) is None]

    def standing_at(self, key: str, phase: str) -> list[PlaceReadings]:
        """Readings of a set-up that stand and are of this phase's machine."""
        return self.job.standing(self.assembly_key, key, phase)

    @derived
    def place_keys(self, key: str) -> frozenset[str]:
        """Keys of a set-up's places."""
        return frozenset(p.key for p in self.places(key))

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
                reason = self._unusable(s, readings, self.subject)
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
        """Whether any reading before the repair stands."""
        return self.has_set_ups and self.estimate.readings > 0

    @property
    def is_written(self) -> bool:
        """Whether a part without set-ups has something to show: own words, or a part copied and sized."""
        if self.has_set_ups:
            return False
        if own_told(self.job, self.assembly_key):
            return True
        return self.has_parts and any(self._has_sizes(key) for key in self.part_keys())

    def _has_sizes(self, key: str) -> bool:
        try:
            return any(self.job.sizes(self.part_name(key), o.key) for o in self.route(key))
        except TrebbError:  # it cannot be worked out as set by hand
            return False

    @property
    def split(self) -> Any:
        """The estimate in the family's terms."""
        raise NotImplementedError

    @derived
    def findings(self, system: UnitSystem) -> list[Finding]:
        """Verdicts, the heaviest first; where readings allow none yet, one that says so."""
        odd = [odd_finding(one, system) for one in self.odd("before")]
        found = [*self._not_said(system), *self._findings(system), *odd]
        return found if found or not self.is_measured else [self._not_yet()]

    def _findings(self, system: UnitSystem) -> list[Finding]:
        """The family's verdicts."""
        return []

    def _not_said(self, system: UnitSystem) -> Sequence[Finding]:
        """What the verdict hangs on and no reading tells, before what they do tell."""
        return ()

    def _not_yet(self) -> Finding:
        best = self.suggestions()
        ways: tuple[tuple[str, str], ...] = ()
        move = "Read the other places of this set-up."
        if best:
            s, lot = self.lot_of(best[0].key)
            move = f"Worth reading next: {lot.title[0].lower()}{lot.title[1:]}."
            ways = ((f"Go to: {s.title.lower()}", s.key),)
        head = f"What is read so far does not yet say how it stands: {self.assembly.label.lower()}."
        return Finding("not_yet", State.UNKNOWN, head, "no reading that decides yet", move, 0.0, ways)

    @property
    def state(self) -> State:
        """How the judged figure stands to its limit."""
        return self.judged.state if self.is_measured else State.UNKNOWN

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
        subject = self.subject_for("before")
        candidates = []
        for s in self.set_ups:
            left = {p.key for p in self.places_left(s, "before")}
            read = {p.place for p in self.job.standing(self.assembly_key, s.key)}
            for lot in s.all_lots(subject):
                places = [p for p in lot.places if p in left]
                rows = self.information(s, places) if places else ()
                if rows:
                    minutes = s.minutes * len(places) + (0 if read & set(lot.places) else s.setting_of(lot))
                    key = f"{s.key}/{lot.key}" if lot.key else s.key
                    candidates.append(Candidate(key, rows, minutes))
        ranked = suggest(self.estimate, self._next_lots(candidates), self.questions(), self.doubt_scale_mm())
        judged = self.judged
        if judged.state is not State.UNKNOWN:
            return ranked
        # What the verdict hangs on comes first, the quickest of it before the rest.
        wanted = [set_up for _, set_up in judged.unread]
        first = [s for s in ranked if s.key.split("/")[0] in wanted]
        return sorted(first, key=lambda s: s.minutes) + [s for s in ranked if s not in first]

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

    # remedies ---------------------------------------------------------------------------------

    @derived
    def predictions(self) -> list[tuple[Remedy, Any]]:
        """Each remedy this machine could have, with what it would leave, by readings and expectation."""
        return [(self.quoted(r), p) for r, p in self._predictions_from(self.estimate)]

    def quoted(self, r: Remedy) -> Remedy:
        """A remedy with what it costs here: as a firm quoted it, or by the price of parts that are bought."""
        from trebb.logbook.quotes import as_quoted

        return as_quoted(r, self.job, self.assembly_key, {key: self.part_facts(key) for key in r.parts})

    @derived
    def predictions_alone(self) -> list[tuple[Remedy, Any]]:
        """The same by the readings alone: what of it can be promised."""
        return self._predictions_from(self.alone)

    def _predictions_from(self, now: Estimate) -> list[tuple[Remedy, Any]]:
        subject = self.subject_for("before")
        return [(r, predict(r, subject, now)) for r in remedies_of(self.family) if r.applies(subject)]

    @property
    def is_told_apart(self) -> bool:
        """Whether the parts of the judged figure are told apart, so that they can be drawn."""
        return True

    def left_by(self, prediction: Prediction, figure: str = "") -> Quantity:
        """What a prediction leaves of a figure, by default the judged one."""
        return prediction.worst

    def left_of(self, prediction: Prediction, figure: str = "") -> Quantity:
        """What a remedy leaves of a figure, for showing: as it was read, where it does not touch it."""
        key = figure or self.judged.key
        read = next((m.value for m in self.figures if m.key == key), None)
        left = self.taught.widened(self.family, self.left_by(prediction, key))
        if read is None or self.along_with():
            return left
        as_it_is = next((self.left_by(p, key) for r, p in self.predictions() if r.key == "leave"), None)
        # Draws of their own differ by a little.
        same = as_it_is is not None and abs(left.value - as_it_is.value) <= UNTOUCHED_SD * max(left.sd, 1e-9)
        return read if same else left

    @derived
    def left_state(self, remedy: str, figure: str = "") -> State:
        """How what a remedy leaves of a figure stands to its limit; `UNKNOWN` where it hangs on what was not
        read.
        """
        measure = next((m for m in self.figures if m.key == figure), self.judged)
        prediction = next(p for r, p in self.predictions_alone() if r.key == remedy)
        return self._left_judged(prediction, measure)

    def _left_judged(self, prediction: Any, measure: Measure) -> State:
        return judge(self.left_by(prediction, measure.key), measure.limit.limit_mm)

    def advised(self) -> Remedy | None:
        """The remedy with fewest hours that brings inside its limit every figure that is beyond it, and none
        out of it; else the one that leaves least. None while that hangs on what was not read.

        Not what is hindered, nor what costs more than a third of what the machine is worth.
        """
        figures = {m.key: m.state for m in self.figures}
        wrong = [key for key, state in figures.items() if state is State.BEYOND]
        if not figures or (not wrong and State.UNKNOWN in figures.values()):
            return None
        fine = [key for key, state in figures.items() if state in INSIDE]
        possible = self._affordable()
        inside = [
            r
            for r, _ in possible
            if all(self.left_state(r.key, key) in INSIDE for key in wrong)
            and all(self.left_state(r.key, key) is not State.BEYOND for key in fine)
        ]
        if inside:
            return min(inside, key=lambda r: r.hours)
        return self.least_left() if wrong else None

    def least_left(self) -> Remedy:
        """The remedy that by all that is known and expected leaves least against the limits; of those that
        leave hardly more, the one of fewest hours, then of least money.
        """
        over = [(self._over(prediction), remedy) for remedy, prediction in self._affordable()]
        least = min(share for share, _ in over)
        alike = [remedy for share, remedy in over if share <= least + HARDLY_MORE]
        return min(alike, key=lambda remedy: (remedy.hours, remedy.cost))

    def _affordable(self) -> list[tuple[Remedy, Any]]:
        worth = self.job.card_number("worth", 0.0)
        return [
            (r, p)
            for r, p in self.predictions()
            if not r.hides and not r.hinder(self.subject) and not (worth and r.cost > worth / 3)
        ]

    def _over(self, prediction: Any) -> float:
        """The figure that a prediction leaves largest against its limit, as a share of it."""
        figures = list(self.figures) or [self.judged]
        return max(self.left_by(prediction, m.key).value / m.limit.limit_mm for m in figures)

    def along_with(self) -> list[str]:
        """Other assemblies whose chosen remedy is part of these predictions."""
        return []

    @property
    def chosen(self) -> Remedy | None:
        """The remedy chosen, if one is."""
        body = self.job.chosen(self.assembly_key)
        try:
            return remedy(body.remedy, self.family) if body else None
        except KeyError:  # chosen by a newer Trebb
            return None

    def chosen_prediction(self) -> Any:
        """What the chosen remedy was predicted to leave; None where none is chosen."""
        chosen = self.chosen
        return next((p for r, p in self.predictions() if chosen is not None and r.key == chosen.key), None)

    @property
    def predicted_after(self) -> Estimate | None:
        """The condition predicted after the chosen remedy."""
        prediction = self.chosen_prediction()
        return prediction.after if prediction else None

    # parts and making -------------------------------------------------------------------------

    def part_keys(self) -> tuple[str, ...]:
        """Parts of the chosen remedy, or the family's usual ones before one is chosen; and what is made
        too.
        """
        chosen = self.chosen
        too = tuple(key for key in self.optional_parts if self.is_made_too(key))
        return (chosen.parts if chosen else self.default_parts) + too

    def extra_parts(self) -> tuple[str, ...]:
        """Parts that may be made along with them, looked at before they are wanted."""
        return tuple(key for key in self.optional_parts if not self.is_made_too(key))

    def is_made_too(self, key: str) -> bool:
        """Whether one asked for an optional part."""
        return self.part_facts(key).get("make") == "yes"

    def makes(self, key: str) -> bool:
        """Whether a part family is of this family of assemblies."""
        from trebb.core.parts import family

        return family(key).assembly == self.family

    def reminder(self, key: str) -> str:
        """What is easily forgotten while making a part."""
        from trebb.core.parts import family

        return family(key).reminder

    def part_name(self, key: str) -> str:
        """Name of a part in the logbook: two slides of one machine each have their own gib."""
        return key if self.assembly_key in ("cross_slide", "spindle") else f"{key}.{self.assembly_key}"

    @property
    def scheme(self) -> InfeedScheme:
        """The school of infeed in use: as chosen by hand, else by the compound."""
        from trebb.core.making.infeed import InfeedScheme

        return InfeedScheme[
            str(self.job.part_facts(self.part_name("screw")).get("infeed", InfeedScheme.COMPOUND.name))
        ]

    def part_facts(self, key: str) -> Mapping[str, str | float]:
        """What was set by hand of a part."""
        return self.job.part_facts(self.part_name(key))

    def part_inputs(self, key: str, system: UnitSystem = UnitSystem.INCH) -> PartInputs:
        """What a part is worked out from."""
        from trebb.core.parts import PartInputs

        return PartInputs(
            self._part_subject(key),
            self.workshop,
            self.part_facts(key),
            measured=self._measured_for(key),
            system=system,
        )

    def _part_subject(self, key: str) -> Any:
        """What a part is for."""
        return self.subject

    def _measured_for(self, key: str) -> dict[str, float]:
        """Sizes that readings fix for a part, by name, mm."""
        return {}

    @property
    def made_subject(self) -> Any:
        """The subject as its parts are made."""
        return self.subject

    @derived
    def part(self, key: str, system: UnitSystem = UnitSystem.INCH) -> Part:
        """A part worked out; raises InputError where a size set by hand will not do."""
        from trebb.core.parts import family

        return family(key).build(self.part_inputs(key, system))

    @derived
    def _purchase(
        self, key: str, system: UnitSystem
    ) -> tuple[Part, tuple[Operation, ...], Mapping[str, SizeTarget], Offer] | None:
        """A part that is bought, its own route, the sizes asked for and the offer; None for one made here."""
        from trebb.core.making.bought import fitted, is_bought, offer_of

        facts = self.part_facts(key)
        if not is_bought(facts):
            return None
        part, own = self.part(key, system), self.own_route(key, system)
        targets = fitted(part, own)
        return part, own, targets, offer_of(facts, targets)

    @derived
    def part_fields(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[PartField, ...]:
        """What may be set by hand of a part, and of its being bought."""
        from trebb.core.making.bought import buying_fields
        from trebb.core.making.heat import hardening_fields
        from trebb.core.parts import family

        try:
            purchase = self._purchase(key, system)
        except TrebbError:  # no size to ask for yet
            purchase = None
        targets = purchase[2] if purchase is not None else {}
        fields = family(key).fields(self.part_inputs(key, system))
        facts = self.part_facts(key)
        return buying_fields(key, facts, targets) + fields + hardening_fields(key, facts)

    @derived
    def asked_for(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[str, ...]:
        """What to tell a seller of a part that is bought, line by line; empty for one made here."""
        from trebb.core.making.bought import ask_for

        purchase = self._purchase(key, system)
        if purchase is None:
            return ()
        part, _, targets, _ = purchase
        return ask_for(part, targets, system)

    @derived
    def part_checks(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[Check, ...]:
        """What would spoil a part, made or bought."""
        from trebb.core.making.bought import beside, judged

        purchase = self._purchase(key, system)
        if purchase is None:
            return self._made_checks(key, system)
        part, own, targets, offer = purchase
        return (beside(part, offer, own), *judged(offer, targets, system), *part.checks)

    def _made_checks(self, key: str, system: UnitSystem) -> tuple[Check, ...]:
        from trebb.core.making.heat import hardening_check, is_hardened

        part, facts = self.part(key, system), self.part_facts(key)
        return (*part.checks, hardening_check(part, facts)) if is_hardened(key, facts) else part.checks

    @derived
    def route(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[Operation, ...]:
        """The operations of a part: its own, or those of one that is bought."""
        from trebb.core.making.bought import bought_route

        purchase = self._purchase(key, system)
        if purchase is None:
            return self.own_route(key, system)
        part, own, _, offer = purchase
        return bought_route(part, offer, own, system)

    @derived
    def own_route(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[Operation, ...]:
        """The operations of a part made here."""
        from trebb.core.making.heat import hardened_route, is_hardened
        from trebb.core.making.routes import route

        operations = route(self.part(key, system), self.made_subject, self.workshop)
        if is_hardened(key, self.part_facts(key)):
            operations = hardened_route(self.part(key, system), operations, self.part_facts(key))
        return tuple(
            replace(
                o,
                title=in_units(o.title, system),
                detail=in_units(o.detail, system),
                hold=in_units(o.hold, system),
                tool=in_units(o.tool, system),
            )
            for o in operations
        )

    # fit-up and proof -------------------------------------------------------------------------

    @property
    def fit_plan(self) -> str:
        """Name of the assembly's plan in the logbook."""
        return f"fit.{self.assembly_key}"

    @derived
    def fit_order(self) -> list[FitStep]:
        """Steps of the assembly in an order that works: those known, those of what came off, what was
        learned.
        """
        from trebb.core.fitup import assembly_order

        return assembly_order(self._fit_steps()[0])

    @derived
    def fit_doubts(self) -> tuple[str, ...]:
        """Where what came off and the known order disagree."""
        return self._fit_steps()[1]

    def known_steps(self) -> tuple[FitStep, ...]:
        """Steps known for such an assembly and its remedy."""
        from trebb.core.fitup import fit_steps

        chosen = self.chosen
        return fit_steps(chosen.key if chosen else "leave", self.family, self.subject)

    @derived
    def _fit_steps(self) -> tuple[tuple[FitStep, ...], tuple[str, ...]]:
        from trebb.core.fitup.stripped import with_came
        from trebb.logbook.strip_down import came_off, rules_of

        came, rules = came_off(self.job, self.assembly_key), rules_of(self.job, self.assembly_key)
        return with_came(self.known_steps(), came, rules)

    @derived
    def comparisons(self) -> list[Comparison]:
        """Before and after, of the set-ups that prove."""
        return self._compared("before", "after", foretold=True)

    @derived
    def since(self) -> list[Comparison]:
        """After the repair and later, of the same set-ups: what it wore since."""
        return self._compared("after", "later", foretold=False)

    def _compared(self, first: str, second: str, *, foretold: bool) -> list[Comparison]:
        from trebb.core.proof import compare

        rows: list[Comparison] = []
        for s in self.proving():
            one, other = (self.known_places(s, phase) for phase in (first, second))
            if one and other:
                rows += compare(s, self.subject, one, other, self.predicted_after if foretold else None)
        return rows

    def years_since(self, set_up_key: str) -> float | None:
        """Years from the readings after the repair to the later ones, by the times they were taken; None
        where one is not there.
        """
        times = []
        for phase in ("after", "later"):
            taken = [
                datetime.datetime.fromisoformat(r.at)
                for r in self.job.readings(self.assembly_key, set_up_key, phase)
                if r.struck is None
            ]
            if not taken:
                return None
            times.append(sum(t.timestamp() for t in taken) / len(taken))
        return (times[1] - times[0]) / (365.25 * 86400)

    def limit_of(self, row: Comparison) -> RatedLimit:
        """The limit that a figure of the proof is judged by, over the length that it spans."""
        named = set_up(row.set_up).measure
        if named is None:
            return self.usual_limit
        measure, share = named(self.subject, row.place)
        limit = self.limit_by(measure)
        return RatedLimit(limit.key, limit.label, limit.limit_mm * share, limit.source)

    @property
    def usual_limit(self) -> RatedLimit:
        """The limit of the family's first measure."""
        return self.limit

    def limit_by(self, measure: str) -> RatedLimit:
        """The limit of a measure."""
        raise NotImplementedError

    def proof_head(self, rows: Sequence[Comparison], system: UnitSystem) -> tuple[State, str, str]:
        """State, sentence and what is left, from what was read before and after."""
        raise NotImplementedError

    def describe(self) -> str:
        """What it is, in a few words."""
        return self.assembly.label

    shares_title = "Found before"

    def shares(self) -> list[tuple[str, Quantity]]:
        """What the error before the repair was made of, by name, mm."""
        return []

    # practice ---------------------------------------------------------------------------------

    def planted(self) -> Planted | None:
        """The hidden condition of a practice job."""
        return self.job.planted(self.assembly_key)

    def practice(self, phase: str) -> PracticeMachine | None:
        """The simulated machine behind a practice job, repaired as chosen and made in phase "after"."""
        planted = self.planted()
        if planted is None or not self.has_set_ups:
            return None
        from trebb.core.practice import PracticeMachine

        machine = PracticeMachine(
            self.practised(planted), self.model_for("before"), planted.condition, planted.seed, self.lies()
        )
        chosen = self.chosen
        if phase == "before" or chosen is None:
            return machine
        return machine.repaired(self._as_made(self._chosen_change()))

    def lies(self) -> tuple[Lying, ...]:
        """How the set-ups of a practice machine lie, as things were put right so far."""
        if not self.job.practice_marks("piece"):
            return ()
        from trebb.core.practice.lies import lying
        from trebb.logbook.practice_piece import piece_of

        piece = piece_of(self.job)
        if piece is None:
            return ()
        return lying(piece.lies, frozenset(m.of for m in self.job.practice_marks("did")))

    @derived
    def _chosen_change(self) -> Change:
        chosen = self.chosen
        assert chosen is not None
        return chosen.change(self.subject_for("before"), self.estimate)

    def practised(self, planted: Planted) -> Any:
        """The subject as the practice machine really is: as stated, unless its hidden condition says
        otherwise.
        """
        return self.subject

    def _as_made(self, change: Change) -> Change:
        """A chosen change corrected to what was really made."""
        return change

    def simulated_size(self, part: str, scheme: InfeedScheme, operation: str = "") -> float | None:
        """What the practice machine's micrometer would read next at an operation; None for a real job."""
        return None
