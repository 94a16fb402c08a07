"""What the core says of a lathe in space: ways, headstock, tailstock and stand, four assemblies of one
condition.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any

import numpy as np
from msgspec.structs import replace

from trebb.core.alignment import ScrapingPlan, scraping_plan
from trebb.core.condition import (
    Candidate,
    Change,
    ErrorModel,
    Estimate,
    Observation,
    ReadingsOnly,
    Row,
    Suggestion,
    apply_change,
    by_readings,
    estimate,
)
from trebb.core.condition.draws import Array, draw
from trebb.core.families.bed.centres import TIGHT_AGAIN, Wander, wander, wander_information, with_wander
from trebb.core.families.bed.facts import HEADSTOCK, STAND, TAILSTOCK, WAYS
from trebb.core.families.bed.findings import (
    MEASURES,
    bed_measures,
    closing_findings,
    keys_of,
    measure_value,
    questions,
    reason,
    stand_findings,
    ways_findings,
)
from trebb.core.families.bed.remedies import as_shimmed
from trebb.core.families.bed.subject import FEET, Bed, bed_model
from trebb.core.families.bed.subject import WAYS as FRONT_REAR
from trebb.core.families.bed.tailstock import tailstock_findings
from trebb.core.families.bed.work import BedShape, WorkError, bed_shape, work_error
from trebb.core.families.gib.subject import LATHE_SADDLE
from trebb.core.findings import Finding, Measure
from trebb.core.machine import RatedLimit
from trebb.core.practice import PracticeMachine
from trebb.core.remedies import Remedy, remedy
from trebb.core.survey import PlaceReadings, observations, set_up
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.log.entries import Planted
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:
    from trebb.core.survey import AnySetUp


def with_shims(o: Observation, mrad: float) -> Observation:
    """An observation of a bed with shims in: what they twist it by, were it to answer in full, it feels by as
    much as it feels the twist.
    """
    felt = o.row.coefficients.get("twist", 0.0)
    if not mrad or not felt:
        return o
    coefficients = {**o.row.coefficients, "answer": o.row.coefficients.get("answer", 0.0) + felt * mrad}
    return replace(o, row=replace(o.row, coefficients=coefficients))


# What is done to one is done in this order: what stands below first.
ORDER = (STAND, WAYS, HEADSTOCK, TAILSTOCK)
SPINDLE = "spindle"
# What reads the bed's twist, and so another figure once a shim is in.
FEELS_TWIST = ("level_across", "two_collar", "bar_sweep", "centres", "long_piece")


class BedCase(MeasuredCase):
    """One of the four; the condition is one, held by the case of the ways."""

    default_parts: tuple[str, ...] = ("foot_shims",)
    one_at_a_time = ("trials",)

    # the four together ------------------------------------------------------------------------

    def neighbour(self, assembly: str) -> Case | None:
        """Another assembly of this machine; None where the case stands alone."""
        if assembly == self.assembly_key:
            return self
        return self.cases.of(assembly) if self.cases is not None else None

    @property
    def whole(self) -> BedCase:
        """The case that holds the condition."""
        found = self.neighbour(WAYS)
        return found if isinstance(found, BedCase) else self

    def four(self) -> list[BedCase]:
        """The four, in the order things are done to them."""
        return [c for name in ORDER if isinstance(c := self.neighbour(name), BedCase)]

    def of_one_condition(self) -> Sequence[BedCase]:
        return self.four()

    @derived
    def wander(self, phase: str = "before") -> Wander:
        """How far the tailstock lands from one tightening to the next."""
        tail = self.neighbour(TAILSTOCK)
        taken = tail.known_at("centres", phase) if tail is not None else []
        return wander(taken)

    @derived
    def subject_for(self, phase: str) -> Bed:
        if self.whole is not self:
            return self.whole.subject_for(phase)
        return with_wander(self.subject, self.wander(phase))

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        if self.whole is not self:
            return self.whole.model_for(phase)
        return bed_model(self.subject_for(phase))

    @property
    def before_any(self) -> Estimate:
        return super().before_any if self.whole is self else self.whole.before_any

    # readings and shims ------------------------------------------------------------------------

    def standing_at(self, key: str, phase: str) -> list[PlaceReadings]:
        """What feels the twist is compared with the proof as it was before the first shim went in, where it
        was read then.
        """
        found = self._by_shims(key, phase)
        return found[min(found)] if found else []

    def observed_at(self, key: str, phase: str) -> list[Observation]:
        """What a set-up's readings say, each as of the bed with what lay under its feet when it was taken."""
        return self._observed_at(key, phase)

    @derived
    def _observed_at(self, key: str, phase: str) -> list[Observation]:
        subject, s = self.seen_by(key, phase), set_up(key)
        found: list[Observation] = []
        for shims, taken in self._by_shims(key, phase).items():
            usable = [p for p in taken if self._unusable(s, p, self.subject) is None]
            usable = self.with_steps(s, phase, usable)
            seen = (self.taught.observation(s.instrument.value, o) for o in observations(s, subject, usable))
            found += [with_shims(o, subject.shimmed(shims)) for o in seen]
        return found

    def _by_shims(self, key: str, phase: str) -> dict[int, list[PlaceReadings]]:
        """Readings that stand, by how many of the trial shims lay under the feet when they were taken."""
        standing = self.job.standing(self.assembly_key, key, phase)
        stated = [self.job.first_stated(WAYS, f"shim.{i + 1}") for i in range(len(self.subject.shims))]
        times = [at for at in stated if at is not None]
        if phase != "before" or not times or key not in FEELS_TWIST:
            return {0: standing} if standing else {}
        found: dict[int, dict[str, list[float]]] = {}
        for r in self.job.readings(self.assembly_key, key, phase):
            if r.struck is None:
                shims = sum(at < r.id for at in times)
                found.setdefault(shims, {}).setdefault(r.taken.place, []).append(r.taken.value)
        return {
            shims: [PlaceReadings(place, tuple(values)) for place, values in places.items()]
            for shims, places in sorted(found.items())
        }

    def observed(self, phase: str, *, without: tuple[str, ...] = ()) -> list[Observation]:
        """What the readings of all four say; `without` leaves set-ups out."""
        found: list[Observation] = []
        for case in self.four():
            aside = case.distrusted(phase)
            for s in case.set_ups:
                if s.key not in aside and s.key not in without:
                    found += case.observed_at(s.key, phase)
        return found

    def all_set_ups(self) -> tuple[AnySetUp, ...]:
        return tuple(s for case in self.four() for s in case.set_ups)

    def observations_of(self, key: str) -> list[Observation]:
        owner = next(case for case in self.four() if any(s.key == key for s in case.set_ups))
        return [] if key in owner.distrusted("before") else owner.observed_at(key, "before")

    @derived
    def estimate_of(self, phase: str) -> Estimate:
        if self.whole is not self:
            return self.whole.estimate_of(phase)
        return estimate(self.expected_model(phase), self.observed(phase))

    @derived
    def alone_of(self, phase: str) -> ReadingsOnly:
        if self.whole is not self:
            return self.whole.alone_of(phase)
        return by_readings(self.model_for(phase), self.observed(phase))

    @property
    @derived
    def standing(self) -> Estimate:
        """The condition with what lies under the feet by the trials; without trials the one before any
        repair.
        """
        if self.whole is not self:
            return self.whole.standing
        subject = self.subject_for("before")
        return apply_change(self.estimate, as_shimmed(subject)) if subject.shims else self.estimate

    @property
    @derived
    def standing_alone(self) -> ReadingsOnly:
        """The same by the readings alone."""
        if self.whole is not self:
            return self.whole.standing_alone
        subject = self.subject_for("before")
        return apply_change(self.alone, as_shimmed(subject)) if subject.shims else self.alone

    @derived
    def drawn(self, phase: str) -> Mapping[str, Array]:
        """Conditions that the readings of a phase allow."""
        if self.whole is not self:
            return self.whole.drawn(phase)
        return draw(self.estimate_of(phase))

    @derived
    def drawn_alone(self, phase: str) -> Mapping[str, Array]:
        """Conditions that the readings of a phase alone allow."""
        if self.whole is not self:
            return self.whole.drawn_alone(phase)
        return draw(self.alone_of(phase), cut=False)

    @property
    def is_measured(self) -> bool:
        return any(self.job.standing(self.assembly_key, s.key) for s in self.set_ups)

    # figures ----------------------------------------------------------------------------------

    def limit_keys(self) -> Sequence[str]:
        return tuple(MEASURES[key][2] for key in keys_of(self.assembly_key))

    @derived
    def measures_of(self, phase: str) -> Sequence[Measure]:
        return bed_measures(
            self.subject_for(phase),
            self.assembly_key,
            self.alone_of(phase),
            self.drawn_alone(phase),
            self.limits(),
            self.wander(phase).times,
        )

    def _known_now(self) -> Sequence[Measure]:
        subject = self.subject_for("before")
        if not subject.shims:
            return super()._known_now()
        return bed_measures(
            subject,
            self.assembly_key,
            self.standing_alone,
            draw(self.standing_alone, cut=False),
            self.limits(),
            self.wander().times,
        )

    @property
    def first_key(self) -> str:
        return keys_of(self.assembly_key)[0]

    def usual_measure(self) -> Measure:
        key = self.first_key
        _, label, limit = MEASURES[key]
        return Measure(
            key,
            label,
            self.job.limit(limit),
            measure_value(self.subject_for("before"), self.drawn("before"), key),
            self.nothing_read(),
        )

    def work_error(
        self, length_mm: float, *, between_centres: bool, after: Estimate | None = None
    ) -> WorkError:
        """What a piece of a length would come out like."""
        return work_error(
            self.subject_for("before"), after or self.standing, length_mm, between_centres=between_centres
        )

    def shape(self, after: Estimate | None = None) -> BedShape:
        """The machine bent and twisted, now or by a prediction."""
        return bed_shape(self.subject_for("before"), after or self.standing)

    # findings ---------------------------------------------------------------------------------

    @derived
    def findings(self, system: UnitSystem) -> list[Finding]:
        return sorted(super().findings(system), key=lambda f: -f.weight_mm)

    def _measures_by_key(self) -> dict[str, Measure]:
        return {m.key: m for m in self.measures_of("before")}

    def _standing_measures(self) -> dict[str, Measure]:
        """The same as it stands now, with what lies under its feet."""
        return {m.key: m for m in self._known_now()}

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return questions(self.subject_for("before"), self.assembly_key)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    # remedies ---------------------------------------------------------------------------------

    def _after(self, own: Remedy | None, now: Estimate) -> Estimate:
        """The condition with this remedy here, and at the other three what is chosen there."""
        subject = self.subject_for("before")
        for case in self.four():
            done = own if case is self else case.chosen
            if done is not None:
                now = apply_change(now, done.change(subject, now))
        return now

    def along_with(self) -> list[str]:
        return [
            c.assembly.label
            for c in self.four()
            if c is not self and c.chosen is not None and c.chosen.key != "leave"
        ]

    @property
    def mended_from(self) -> Estimate:
        return self.standing

    @property
    def mended_from_alone(self) -> Estimate:
        return self.standing_alone

    def foretold_of(self, r: Remedy, now: Estimate) -> Any:
        return r.outcome(self.subject_for("before"), self._after(r, now))

    # proof ------------------------------------------------------------------------------------

    def limit_by(self, measure: str) -> RatedLimit:
        return self.job.limit(MEASURES[measure][2])

    # parts ------------------------------------------------------------------------------------

    def _part_subject(self, key: str) -> Any:
        return self.subject_for("before")

    def _measured_for(self, key: str) -> dict[str, float]:
        """What the family's parts are worked out from: here the shim under each foot that brings the twist
        to nothing.
        """
        twist = self.read_source("twist")
        return {} if twist is None else self._shim_under(-twist)

    def _shim_under(self, mrad: float) -> dict[str, float]:
        """A twist wanted, as a shim under a foot at the tailstock's end, mm, as this bed answers."""
        mm = abs(mrad) * self.subject.across_mm / 1000 / max(self.estimate.source("answer").value, 0.2)
        return {f"shim.{'tail_rear' if mrad > 0 else 'tail_front'}": mm}

    # practice ---------------------------------------------------------------------------------

    def planted(self) -> Planted | None:
        return self.job.planted(WAYS)

    def practice(self, phase: str) -> PracticeMachine | None:
        planted = self.planted()
        if planted is None:
            return None
        machine = PracticeMachine(
            self.subject, self.model_for("before"), planted.condition, planted.seed, self.lies()
        )
        if phase == "before" or not any(case.chosen for case in self.four()):
            return machine
        for change in self._changes():
            machine = machine.repaired(change)
        return machine

    @derived
    def _changes(self) -> list[Change]:
        """What lies under the feet by the trials stays there; then each chosen remedy, in order."""
        subject = self.subject_for("before")
        found = [as_shimmed(subject)] if subject.shims else []
        for case in self.four():
            chosen = case.chosen
            keys = [key for key in chosen.members if key != "shim" or not subject.shims] if chosen else []
            found += [remedy(key, case.family).change(subject, self.estimate) for key in keys]
        return found


class WaysCase(BedCase):
    """The ways: twist, straightness, wear."""

    family = "ways"
    decides = "level_across"

    def _findings(self, system: UnitSystem) -> list[Finding]:
        bed = self.subject_for("before")
        along = self.job.standing(WAYS, "level_along")
        return closing_findings(bed, along, system) + ways_findings(
            bed, self.standing_alone, self._standing_measures(), system
        )

    @derived
    def plan(self) -> ScrapingPlan:
        """The least metal from where that brings both ways to one plane."""
        bed, now = self.subject_for("before"), self.estimate
        heights = np.array(
            [[now.combination(bed.height(way, x)).value for x in bed.stations] for way in FRONT_REAR]
        )
        return scraping_plan(bed.stations, heights, bed.gauge_mm, bed.pass_mm)

    def _measured_for(self, key: str) -> dict[str, float]:
        if key != "saddle_liner":
            return super()._measured_for(key)
        saddle = self.neighbour(LATHE_SADDLE)
        drop = (
            next((m.value.value for m in saddle.figures if m.key == "drop"), 0.0)
            if saddle is not None
            else 0.0
        )
        return {"drop": drop, "scraped": self.plan().lowers_mm if self.is_measured else 0.05}

    def describe(self) -> str:
        b = self.subject
        if not self.facts:
            return ""
        return f"{b.steps} steps of {b.base_mm:g} mm; feet {b.across_mm:g} by {b.along_mm:g} mm apart"


class TailstockCase(BedCase):
    """The tailstock: across, in height, its habit, its key."""

    family = "tailstock"
    decides = "long_piece"
    default_parts = ("tail_key", "tail_shim")

    def _findings(self, system: UnitSystem) -> list[Finding]:
        return tailstock_findings(
            self.subject_for("before"), self.standing_alone, self._standing_measures(), self.wander(), system
        )

    def _measured_for(self, key: str) -> dict[str, float]:
        return {
            **self.read_sources("tail_high", "tail_side", "tail_key"),
            "tail_key_is_read": float(bool(self.job.standing(TAILSTOCK, "tail_key"))),
        }

    def information(self, s: AnySetUp, places: Sequence[str]) -> tuple[Row, ...]:
        rows = super().information(s, places)
        return (
            rows + wander_information(self.subject_for("before"), self.wander())
            if s.key == "centres" and any(p.startswith(TIGHT_AGAIN) for p in places)
            else rows
        )

    def _next_lots(self, candidates: Sequence[Candidate]) -> list[Candidate]:
        """Tightenings come one after another: only the next one is offered."""
        tight = [c for c in candidates if c.key.startswith("centres/tight")]
        return [c for c in candidates if c not in tight[1:]]


class StandCase(BedCase):
    """The stand and its feet."""

    family = "stand"
    decides = "soft_feet"

    def _measured_for(self, key: str) -> dict[str, float]:
        found = self.read_sources(*(f"foot.{foot}" for foot in FEET))
        return {name.replace("foot.", "shim."): value for name, value in found.items()}

    def _findings(self, system: UnitSystem) -> list[Finding]:
        return stand_findings(self.subject_for("before"), self.alone, self._measures_by_key(), system)
