"""What the core says of a feed screw."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

import numpy as np

from trebb.core.condition import Change, ErrorModel, Quantity, Suggestion
from trebb.core.errors import InputError
from trebb.core.findings import Finding, LashSplit, Measure, lash_findings, split_lash, split_parts
from trebb.core.findings.screw_lash import KNOWN_SHARE, suggestion_reason
from trebb.core.machine import RatedLimit, ScrewDrive, State, drive_model, state_of
from trebb.core.remedies import made_as
from trebb.core.survey import AnySetUp
from trebb.core.threads import Form, Hand, ThreadSpec, pitch_dia_from_wires_mm, size_over_wires_mm, thread_limits, tool_flat_mm
from trebb.core.units import INCH_MM, THOU_MM, UnitSystem, show_small
from trebb.logbook.case import Answer, Case, Question
from trebb.logbook.entries import DriveStated

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.making.infeed import InfeedScheme, Pass
    from trebb.core.parts import PartInputs
    from trebb.core.proof import Comparison

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


class DriveCase(Case):
    """What the core says of a feed screw."""

    family = "screw_drive"
    default_parts = ("screw", "nut")

    @property
    def subject(self) -> ScrewDrive:
        return self.drive

    @property
    def drive(self) -> ScrewDrive:
        """The drive as stated."""
        return self._keep("drive", self.versions("drive"), lambda: drive_from_facts(self.job.drive_facts(self.assembly_key)))

    def model_for(self, phase: str) -> ErrorModel:
        return drive_model(self.drive)

    @property
    def dial_is_stated(self) -> bool:
        """Whether the dial's convention was asked and answered."""
        return "reads" in self.job.drive_facts(self.assembly_key)

    def question(self, s: AnySetUp, phase: str) -> Question | None:
        if phase != "before" or s.key != "lash" or self.dial_is_stated:
            return None
        answers = tuple(
            Answer(f"dial_{key}", words, f"{words}; asked once", (DriveStated(assembly=self.assembly_key, field="reads", value=key),))
            for key, words in (("radius", "Counts the slide's travel"), ("diameter", "Counts the diameter"))
        )  # fmt: skip
        return Question("dial", "How is this dial numbered?", "Turn the handwheel once and measure: does the dial count the slide's travel, or twice that (the work's diameter)?", answers)

    @property
    def limit(self) -> RatedLimit:
        return self.job.limit(LIMIT)

    def limit_keys(self) -> Sequence[str]:
        return (LIMIT,)

    @property
    def judged(self) -> Measure:
        return self._worst_of(self.split)

    def _worst_of(self, split: LashSplit) -> Measure:
        return Measure("lash", "Lash at the worst", self.limit, split.worst.total)

    @property
    def figures(self) -> Sequence[Measure]:
        return (self.judged,) if self.is_measured else ()

    def figure_now(self) -> Measure | None:
        if self.is_measured and self.progress("after")[0] and self.proof_estimate.readings:
            return self._worst_of(split_lash(self.drive, self.proof_estimate))
        return super().figure_now()

    @property
    def fit_plan(self) -> str:
        return "fit"

    @property
    def split(self) -> LashSplit:
        """The lash split among its sources."""
        return self._keep("split", self.versions("readings", "drive"), lambda: split_lash(self.drive, self.estimate))

    def findings(self, system: UnitSystem) -> list[Finding]:
        stamp = (self.versions("readings", "drive", "limits", "card"), system)
        return self._keep("findings", stamp, lambda: lash_findings(self.drive, self.estimate, self.limit, system))

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return split_parts(self.split if self.is_measured else None)

    def doubt_scale_mm(self) -> float:
        return KNOWN_SHARE * self.limit.limit_mm

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return suggestion_reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    # parts and making -------------------------------------------------------------------------

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
        from trebb.core.parts import PartInputs

        partner = {"screw": "nut", "nut": "screw", "thrust_collar": "screw"}[key]
        default = {"nut": "bronze", "screw": "alloy_ht"}[partner]
        other: dict[str, str | float] = {"material": default, **self.job.part_facts(partner)}
        facts = self.job.part_facts(key)
        chosen = self.chosen
        if key == "nut" and chosen is not None and chosen.key == "split_nut":
            facts = {"style": "split", "length": self.drive.nut_length_mm + 0.5 * INCH_MM, **facts}
        pitch_dia, source = self._screw_for_nut()
        return PartInputs(self.drive, self.workshop, facts, other, pitch_dia, source, system)

    def passes(self, scheme: InfeedScheme, *, nut: bool = False) -> list[Pass]:
        """The passes left for a thread, from what was last measured."""
        from trebb.core.making.infeed import infeed_plan, spring_only
        from trebb.core.threads.tool import nut_root_flat_mm

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

    # proof ------------------------------------------------------------------------------------

    def proof_head(self, rows: Sequence[Comparison], system: UnitSystem) -> tuple[State, str, str]:
        lash = [r for r in rows if r.set_up == "lash"]
        worst = max(lash or rows, key=lambda r: r.after_mm)
        state = state_of(worst.after_mm, self.limit.limit_mm)
        name = "The dial still loses" if lash else "The worst reading is"
        was = show_small(max(r.before_mm for r in lash or rows), system)
        head = f"{name} up to {show_small(worst.after_mm, system)}, limit {show_small(self.limit.limit_mm, system)}; it was {was}."
        if state is State.WITHIN or not self.progress("after")[0]:
            return state, head, ""
        left = split_lash(self.drive, self.proof_estimate)
        parts = {"end float": left.float_.value, "nut": left.nut.value, "screw": left.most_worn.wear.value}
        return state, head, f"Most of what is left is {max(parts, key=lambda k: parts[k])}."

    def describe(self) -> str:
        return f"{self.drive.thread.designation}, dial of {self.drive.divisions} divisions"

    shares_title = "Lash found before, by source"

    def shares(self) -> list[tuple[str, Quantity]]:
        split = self.split
        return [("screw, worst", split.most_worn.wear), ("nut", split.nut), ("end float", split.float_), ("key and handwheel", split.key), ("all, worst", split.worst.total)]

    # practice ---------------------------------------------------------------------------------

    def _as_made(self, change: Change) -> Change:
        return made_as(change, self.nut_play_mm())

    def nut_play_mm(self) -> float | None:
        """Play of the new nut on its screw, as measured last on the bench; None if it was not.

        A screw that was cut below or above its band after the nut was fitted
        changes the play by ΔE·tan α: the nut is then no longer to suit.
        """
        plays = [s for s in self.job.sizes("nut", "nut_thread") if s.struck is None]
        if not plays:
            return None
        return plays[-1].taken.value_mm

    def simulated_size(self, part: str, scheme: InfeedScheme, operation: str = "") -> float | None:
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
