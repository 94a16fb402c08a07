"""From a job to what the core says of it, worked out once and kept until something it rests on changes."""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction
from typing import TypeVar, cast

import numpy as np

from trebb.core.condition import Candidate, Estimate, Suggestion, estimate, suggest
from trebb.core.errors import InputError
from trebb.core.findings import Finding, LashSplit, lash_findings, split_lash, split_parts
from trebb.core.findings.screw_lash import KNOWN_SHARE
from trebb.core.fitup import FitStep, assembly_order, fit_steps
from trebb.core.machine import Assembly, MachineKind, RatedLimit, ScrewDrive, State, Workshop, drive_model, kind_of, state_of
from trebb.core.making.infeed import InfeedScheme, Pass, infeed_plan, spring_only
from trebb.core.making.routes import Operation, route
from trebb.core.parts import Part, PartInputs, family
from trebb.core.practice import PracticeMachine
from trebb.core.proof import Comparison, compare
from trebb.core.remedies import REMEDIES, Prediction, Remedy, made_as, predict, remedy
from trebb.core.survey import SET_UPS, Place, PlaceReadings, SetUp, observations, set_up
from trebb.core.threads import Form, Hand, ThreadSpec, pitch_dia_from_wires_mm, size_over_wires_mm, thread_limits, tool_flat_mm
from trebb.core.threads.tool import nut_root_flat_mm
from trebb.core.units import INCH_MM, THOU_MM, UnitSystem
from trebb.logbook.fold import Job

T = TypeVar("T")

SCREW = "cross_slide"
LIMIT = "cross_lash"
# The first pass of a screw thread in steel, on radius; light enough for an old lathe.
FIRST_PASS_MM = 0.30
LAST_PASS_MM = 0.05

DRIVE_FIELDS = ("form", "major_mm", "pitch_mm", "starts", "hand", "tolerance_class", "divisions", "reads", "travel_mm", "nut_length_mm", "wire_mm", "gauge", "turns")


def drive_from_facts(facts: dict[str, str | float]) -> ScrewDrive:
    """A screw drive from what is stated of it; what is not stated keeps its default.

    Raises InputError when the facts together make no thread.
    """
    plain = ScrewDrive()

    def num(key: str, default: float) -> float:
        return float(facts.get(key, default))

    thread = ThreadSpec(
        Form(facts.get("form", plain.thread.form.value)),
        num("major_mm", plain.thread.major_mm),
        num("pitch_mm", plain.thread.pitch_mm),
        int(num("starts", 1)),
        Hand(facts.get("hand", plain.thread.hand.value)),
        str(facts.get("tolerance_class", "2G")),
    )
    return ScrewDrive(
        thread, int(num("divisions", plain.divisions)), facts.get("reads", "radius") == "diameter", num("travel_mm", plain.travel_mm),
        num("nut_length_mm", plain.nut_length_mm), float(facts["wire_mm"]) if "wire_mm" in facts else None,
        str(facts.get("gauge", "wires")), int(num("turns", plain.turns)),
    )  # fmt: skip


class Case:
    """What the core says of a job's screw drive."""

    def __init__(self, job: Job, assembly: str = SCREW) -> None:
        self.job = job
        self.assembly_key = assembly
        self._kept: dict[str, tuple[object, object]] = {}

    def _keep(self, name: str, stamp: object, work: Callable[[], T]) -> T:
        held = self._kept.get(name)
        if held is None or held[0] != stamp:
            held = (stamp, work())
            self._kept[name] = held
        return cast(T, held[1])

    # what it stands on ------------------------------------------------------------------------

    @property
    def kind(self) -> MachineKind:
        """The kind of machine."""
        started = self.job.started
        return kind_of(started.machine_kind if started else "lathe")

    @property
    def has_drive(self) -> bool:
        """Whether this machine has the assembly at all."""
        return any(a.key == self.assembly_key for a in self.kind.assemblies)

    @property
    def assembly(self) -> Assembly:
        """The assembly this case is about."""
        return self.kind.assembly(self.assembly_key)

    @property
    def drive(self) -> ScrewDrive:
        """The drive as stated."""
        return self._keep("drive", self.job.versions("drive"), lambda: drive_from_facts(self.job.drive_facts(self.assembly_key)))

    @property
    def dial_is_stated(self) -> bool:
        """Whether the dial's convention was asked and answered."""
        return "reads" in self.job.drive_facts(self.assembly_key)

    @property
    def workshop(self) -> Workshop:
        """The lathe that makes the parts: this machine."""
        def work() -> Workshop:
            job, plain = self.job, Workshop()
            inch = job.card("lead_screw_unit", "inch") == "inch"
            number = Fraction(job.card_number("lead_screw", 8.0)).limit_denominator(1000)
            return Workshop(
                1 / number if inch else number, inch, int(job.card_number("dial_gear", plain.dial_gear_teeth)),
                int(job.card_number("dial_marks", plain.dial_marks)), job.card_number("spindle_bore_mm", plain.spindle_bore_mm),
                job.card("compound_from", "cross slide") == "bed axis", job.card_number("compound_division_mm", plain.compound_division_mm),
                self.drive.reads_diameter,
            )  # fmt: skip
        return self._keep("workshop", self.job.versions("card", "drive"), work)

    @property
    def limit(self) -> RatedLimit:
        """The rated limit of this assembly's lash."""
        return self.job.limit(LIMIT)

    # survey and findings ----------------------------------------------------------------------

    def _estimate(self, phase: str) -> Estimate:
        found = []
        for s in SET_UPS:
            found += observations(s, self.drive, self._known_places(s, phase))
        return estimate(drive_model(self.drive), found)

    def _known_places(self, s: SetUp, phase: str) -> list[PlaceReadings]:
        return [p for p in self.job.standing(self.assembly_key, s.key, phase) if self._unusable(s, p) is None]

    def _unusable(self, s: SetUp, readings: PlaceReadings) -> str | None:
        """Why readings that stand cannot count with the thread as it is stated now; None where they can."""
        if readings.place not in {p.key for p in s.places(self.drive)}:
            return "not read this way with the thread as stated"
        try:
            for value in readings.values:
                s.reduce(self.drive, readings.place, value)
        except InputError as error:
            return str(error)
        return None

    def set_aside(self, phase: str = "before") -> list[str]:
        """Readings that stand but do not count, each with its reason: nothing is dropped in silence."""
        result = []
        for s in SET_UPS:
            for readings in self.job.standing(self.assembly_key, s.key, phase):
                reason = self._unusable(s, readings)
                if reason is not None:
                    result.append(f"{s.title}, {readings.place}: {reason}")
        return result

    @property
    def estimate(self) -> Estimate:
        """The condition by the readings before the repair."""
        return self._keep("estimate", self.job.versions("readings", "drive"), lambda: self._estimate("before"))

    @property
    def is_measured(self) -> bool:
        """Whether any reading before the repair stands."""
        return self.estimate.readings > 0

    @property
    def split(self) -> LashSplit:
        """The lash split among its sources."""
        return self._keep("split", self.job.versions("readings", "drive"), lambda: split_lash(self.drive, self.estimate))

    def findings(self, system: UnitSystem) -> list[Finding]:
        """Verdicts, the heaviest first."""
        stamp = (self.job.versions("readings", "drive", "limits", "card"), system)
        return self._keep("findings", stamp, lambda: lash_findings(self.drive, self.estimate, self.limit, system))

    @property
    def state(self) -> State:
        """How the worst lash stands to its limit."""
        return state_of(self.worst_mm, self.limit.limit_mm)

    @property
    def worst_mm(self) -> float | None:
        """The worst lash by the newest phase that was measured, or None."""
        if not self.is_measured:
            return None
        return self.split.worst.total.value

    def suggestions(self) -> list[Suggestion]:
        """Set-ups with places left, best per minute first; finished ones follow if repeating still teaches."""
        def work() -> list[Suggestion]:
            candidates = []
            for s in SET_UPS:
                left = self.places_left(s, "before")
                if left:
                    minutes = s.minutes * len(left) + (0 if self.job.standing(self.assembly_key, s.key) else s.setting_minutes)
                    candidates.append(Candidate(s.key, tuple(s.row(self.drive, p.key) for p in left), minutes))
            split = self.split if self.is_measured else None
            return suggest(self.estimate, candidates, split_parts(split), KNOWN_SHARE * self.limit.limit_mm)
        return self._keep("suggestions", self.job.versions("readings", "drive", "limits", "card"), work)

    def places_left(self, s: SetUp, phase: str) -> list[Place]:
        """Places with fewer standing readings than wanted."""
        count = {p.place: len(p.values) for p in self.job.standing(self.assembly_key, s.key, phase)}
        return [p for p in s.places(self.drive) if count.get(p.key, 0) < s.wanted]

    def next_place(self, s: SetUp, phase: str) -> Place | None:
        """Where the next reading belongs: the place with fewest readings, in order; None when all have enough."""
        count = {p.place: len(p.values) for p in self.job.standing(self.assembly_key, s.key, phase)}
        left = self.places_left(s, phase)
        return min(left, key=lambda p: count.get(p.key, 0)) if left else None

    def progress(self, phase: str) -> tuple[int, int]:
        """Places with at least one reading, of all."""
        done = total = 0
        for s in SET_UPS:
            if phase == "after" and not s.is_proof:
                continue
            keys = [p.key for p in s.places(self.drive)]
            read = {p.place for p in self.job.standing(self.assembly_key, s.key, phase)}
            total += len(keys)
            done += sum(key in read for key in keys)
        return done, total

    # remedies ---------------------------------------------------------------------------------

    def predictions(self) -> list[tuple[Remedy, Prediction]]:
        """Each remedy with what it would leave."""
        def work() -> list[tuple[Remedy, Prediction]]:
            return [(r, predict(r, self.drive, self.estimate)) for r in REMEDIES]
        return self._keep("predictions", self.job.versions("readings", "drive"), work)

    @property
    def chosen(self) -> Remedy | None:
        """The remedy chosen, if one is."""
        body = self.job.chosen(self.assembly_key)
        return remedy(body.remedy) if body else None

    def chosen_prediction(self) -> Prediction | None:
        """What the chosen remedy was predicted to leave."""
        chosen = self.chosen
        return next((p for r, p in self.predictions() if r is chosen), None)

    # parts and making -------------------------------------------------------------------------

    def part_keys(self) -> tuple[str, ...]:
        """Parts of the chosen remedy; the pair before one is chosen."""
        chosen = self.chosen
        return chosen.parts if chosen else ("screw", "nut")

    def made_screw_pitch_dia(self) -> float | None:
        """Pitch diameter of the screw as cut: the last size over wires that stands."""
        sizes = [s for s in self.job.sizes("screw", "thread") if s.struck is None]
        if not sizes or self.drive.thread.form is Form.SQUARE:
            return None
        try:
            return pitch_dia_from_wires_mm(self.drive.thread, sizes[-1].taken.value_mm, self.drive.wire)
        except InputError:  # a size of the thread as it was stated before; it stays in the logbook
            return None

    def _screw_for_nut(self) -> tuple[float | None, str]:
        """Pitch diameter that the nut is to suit, and where it comes from."""
        made = self.made_screw_pitch_dia()
        if made is not None:
            return made, "to the new screw as measured"
        chosen = self.chosen
        if chosen is not None and "screw" not in chosen.parts and self.estimate.source("unworn").sd < 0.05:
            old = self.estimate.source("unworn").value
            if chosen.key == "split_nut":
                old -= self.split.least_worn.wear.value / max(1e-9, math.tan(self.drive.thread.form.half_angle))
            return old, "to the old screw as measured"
        return None, ""

    def part_inputs(self, key: str, system: UnitSystem = UnitSystem.INCH) -> PartInputs:
        """What a part is worked out from."""
        partner = {"screw": "nut", "nut": "screw", "thrust_collar": "screw"}[key]
        default = {"nut": "bronze", "screw": "alloy_ht"}[partner]
        other: dict[str, str | float] = {"material": default, **self.job.part_facts(partner)}
        facts = self.job.part_facts(key)
        chosen = self.chosen
        if key == "nut" and chosen is not None and chosen.key == "split_nut":
            facts = {"style": "split", "length": self.drive.nut_length_mm + 0.5 * INCH_MM, **facts}
        pitch_dia, source = self._screw_for_nut()
        return PartInputs(self.drive, self.workshop, facts, other, pitch_dia, source, system)

    def part(self, key: str, system: UnitSystem = UnitSystem.INCH) -> Part:
        """A part worked out; raises InputError where a size set by hand will not do."""
        stamp = self.job.versions("drive", "parts", "card", "sizes", "remedy", "readings")
        return self._keep(f"part.{key}.{system.value}", stamp, lambda: family(key).build(self.part_inputs(key, system)))

    def route(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[Operation, ...]:
        """The operations of a part."""
        return self._keep(f"route.{key}.{system.value}", (self.part(key, system), self.drive), lambda: route(self.part(key, system), self.drive, self.workshop))

    def passes(self, scheme: InfeedScheme, *, nut: bool = False) -> list[Pass]:
        """The passes left for a thread, from what was last measured."""
        spec = self.drive.thread
        limits = thread_limits(spec)
        if nut:
            depth = (limits.nut_major.low_mm - limits.nut_minor.low_mm) / 2
            return infeed_plan(depth, nut_root_flat_mm(spec), spec.form.half_angle, scheme, first_mm=0.2, last_mm=LAST_PASS_MM)
        flat = tool_flat_mm(spec, limits.allowance_mm, axial_play_mm=limits.axial_play_mm.low_mm)
        full = self.full_depth_mm()
        start = 0.0
        made = self.made_screw_pitch_dia()
        if made is not None and spec.form is not Form.SQUARE:
            start = max(0.0, full - (made - limits.screw_pitch.middle_mm) / 2)
        if made is not None and (start >= full or limits.screw_pitch.holds(made)):
            return spring_only(start)
        return infeed_plan(full, flat, spec.form.half_angle, scheme, first_mm=FIRST_PASS_MM, last_mm=LAST_PASS_MM, start_mm=start)

    def full_depth_mm(self) -> float:
        """Radial depth at which the thread's pitch diameter is in the middle of its band."""
        spec = self.drive.thread
        limits = thread_limits(spec)
        extra = (limits.screw_pitch.high_mm - limits.screw_pitch.middle_mm) / 2 if spec.form is not Form.SQUARE else 0.0
        return spec.depth_mm + extra

    # fit-up and proof -------------------------------------------------------------------------

    def fit_order(self) -> list[FitStep]:
        """Steps of the assembly in an order that works."""
        chosen = self.chosen
        key = chosen.key if chosen else "leave"
        return self._keep("fit", key, lambda: assembly_order(fit_steps(key)))

    @property
    def predicted_after(self) -> Estimate | None:
        """The condition predicted after the chosen remedy, as made."""
        prediction = self.chosen_prediction()
        return prediction.after if prediction else None

    def comparisons(self) -> list[Comparison]:
        """Before and after, place by place, of the set-ups that prove."""
        def work() -> list[Comparison]:
            rows: list[Comparison] = []
            for s in SET_UPS:
                if s.is_proof:
                    before, after = (self._known_places(s, phase) for phase in ("before", "after"))
                    rows += compare(s, self.drive, before, after, self.predicted_after)
            return rows
        return self._keep("proof", self.job.versions("readings", "drive", "remedy"), work)

    @property
    def proof_estimate(self) -> Estimate:
        """The condition by the readings after the repair."""
        return self._keep("proof_estimate", self.job.versions("readings", "drive"), lambda: self._estimate("after"))

    # practice ---------------------------------------------------------------------------------

    def practice(self, phase: str) -> PracticeMachine | None:
        """The simulated machine behind a practice job, repaired as chosen and made in phase "after"."""
        planted = self.job.planted(self.assembly_key)
        if planted is None:
            return None
        machine = PracticeMachine(self.drive, dict(planted.condition), planted.seed)
        chosen = self.chosen
        if phase == "before" or chosen is None:
            return machine
        change = made_as(chosen.change(self.drive, self.estimate), self.nut_play_mm())
        return machine.repaired(change)

    def nut_play_mm(self) -> float | None:
        """Play of the new nut on its screw, as measured last on the bench; None if it was not.

        A screw that was cut below or above its band after the nut was fitted
        changes the play by ΔE·tan α: the nut is then no longer to suit.
        """
        plays = [s for s in self.job.sizes("nut", "nut_thread") if s.struck is None]
        if not plays:
            return None
        return plays[-1].taken.value_mm

    def simulated_size(self, part: str, scheme: InfeedScheme) -> float | None:
        """What the practice machine's micrometer would read after the next pass; None for a real job.

        Over wires for the screw's thread: roughing leaves two thirds of the
        depth, then each size is taken after the next pass. For the nut the play
        on its screw. Both with the scatter of a careful turner.
        """
        planted = self.job.planted(self.assembly_key)
        if planted is None or (part == "screw" and self.drive.thread.form is Form.SQUARE):
            return None
        sizes = self.job.sizes(part, "thread" if part == "screw" else "nut_thread")
        rng = np.random.default_rng(planted.seed + 31 * len(sizes) + (0 if part == "screw" else 997))
        if part != "screw":
            wanted = self.part_inputs("nut").facts.get("play", 1.5 * THOU_MM)
            return max(0.1 * THOU_MM, float(wanted) + 0.25 * THOU_MM * float(rng.standard_normal()))
        spec = self.drive.thread
        cuts = [p for p in self.passes(scheme) if not p.is_spring]
        if not cuts:
            depth = self.full_depth_mm()
        else:
            depth = cuts[0].cross_mm if self.made_screw_pitch_dia() is not None else 0.66 * self.full_depth_mm()
        pitch_dia = thread_limits(spec).screw_pitch.middle_mm + 2 * (self.full_depth_mm() - depth)
        return size_over_wires_mm(spec, pitch_dia + 0.006 * float(rng.standard_normal()), self.drive.wire)


def known_places(drive: ScrewDrive) -> dict[str, tuple[str, list[str]]]:
    """Set-up key → unit and places, for checking an import."""
    return {s.key: (s.unit, [p.key for p in s.places(drive)]) for s in SET_UPS}


def set_up_of(key: str) -> SetUp:
    """The set-up of a key; raises InputError for another."""
    try:
        return set_up(key)
    except KeyError:
        raise InputError(f"set-up “{key}”", f"known are {', '.join(s.key for s in SET_UPS)}") from None
