"""What the core says of a spindle."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

import numpy as np
from msgspec.structs import replace

from trebb.core.condition import Z95, ErrorModel, Observation, Quantity, Row, Suggestion
from trebb.core.condition.fixing import is_read, is_touched
from trebb.core.families.spindle.findings import (
    Clocking,
    SpindleSplit,
    best_clocking,
    doubt_scale,
    questions,
    reason,
    seat_is_trusted,
    split_spindle,
)
from trebb.core.families.spindle.journals import SeatState, seat_states
from trebb.core.families.spindle.reach import REACH_SD_MM
from trebb.core.families.spindle.seat import (
    SeatScatter,
    seat_information,
    seat_scatter,
    turns_of,
    with_scatter,
)
from trebb.core.families.spindle.sizes import measure_limits, measure_value
from trebb.core.families.spindle.subject import Spindle, spindle_model
from trebb.core.families.spindle.warm_run import warm_run
from trebb.core.families.spindle.words import spindle_findings
from trebb.core.findings import Finding, Measure
from trebb.core.machine import RatedLimit, State
from trebb.core.runout import WarmRun
from trebb.core.stating import schema_of
from trebb.core.survey import AnySetUp, PlaceReadings
from trebb.core.survey.contact import Contact, cells_of, contact_of
from trebb.core.units import UnitSystem, show_small
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.parts import PartInputs
    from trebb.core.proof import Comparison


PHASES = ("before", "after")
ONCE_USUAL = (0.0, 180.0, 90.0, 270.0)


class SpindleCase(MeasuredCase):
    """What the core says of a spindle."""

    family = "spindle"
    decides = "test_bar"
    first_key = "work"
    default_parts = ("spacer", "pin_spanner")
    optional_parts = ("stepped_spacer",)
    one_at_a_time = ("test_bar",)

    @property
    @derived
    def subject(self) -> Spindle:
        """The spindle as stated, with what the blue showed."""
        stated: Spindle = schema_of(self.family).subject(self.kind.works_as, self.assembly_key, self.facts)
        contact = self.contact("before")
        journals = any(self.job.standing(self.assembly_key, "journals", phase) for phase in PHASES)
        known = replace(
            stated,
            contact=contact.pattern if contact is not None else "",
            journals_read=journals,
        )
        return replace(known, seatings=ONCE_USUAL) if self._is_seated_as_once() else known

    def _is_seated_as_once(self) -> bool:
        """A job whose bar was seated in the order that was usual before goes on in it."""
        if "seatings" in self.facts:
            return False
        return any(
            p.place.startswith("seat 2 at 180°")
            for phase in PHASES
            for p in self.job.standing(self.assembly_key, "test_bar", phase)
        )

    @property
    def spindle(self) -> Spindle:
        """The subject, by its own name."""
        return self.subject

    @derived
    def scatter(self, phase: str = "before") -> SeatScatter:
        """Whether the seat repeats, by the seatings of a phase."""
        return seat_scatter(self.spindle, super().known_at("test_bar", phase))

    @derived
    def subject_for(self, phase: str) -> Spindle:
        return with_scatter(self.spindle, self.scatter(phase))

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return spindle_model(self.subject_for(phase))

    def seen_by(self, key: str, phase: str) -> Spindle:
        # Only the bar's readings know how the seat was found: the others are not worked out again with it.
        return self.subject_for(phase) if key == "test_bar" else self.spindle

    def known_at(self, key: str, phase: str) -> list[PlaceReadings]:
        known = super().known_at(key, phase)
        odd = self._odd_seating(phase) if key == "test_bar" else 0
        return [p for p in known if not p.place.startswith(f"seat {odd} ")] if odd else known

    def _odd_seating(self, phase: str) -> int:
        """Number of a seating that is unlike all others and not kept by hand; 0 for none."""
        odd = self.scatter(phase).odd
        return 0 if self.is_kept("test_bar", f"seat {odd}", phase) else odd

    def limit_keys(self) -> Sequence[str]:
        return tuple(key for _, key in measure_limits(self.spindle).values())

    def distrusted(self, phase: str) -> Mapping[str, str]:
        if seat_is_trusted(self.spindle, self.scatter(phase), self.job.limit("seat_repeat").limit_mm):
            return {}
        why = "the seat does not repeat, so it is set aside"
        return {"test_bar": why, **({"chuck_pin": why} if self.spindle.chuck_on_taper else {})}

    def counted(self, phase: str) -> list[Observation]:
        found = super().counted(phase)
        return found + self._bar_as_known() if phase != "before" and found else found

    @derived
    def _bar_as_known(self) -> list[Observation]:
        """The bar's own error as found before the repair: it is the same bar after it."""
        now = self.alone
        keys = [s.key for s in now.model.sources if s.key.startswith("bar")]
        if not any(is_touched(now, {key: 1.0}) for key in keys):
            return []
        at = [now.model.position(key) for key in keys]
        independent = np.linalg.inv(np.linalg.cholesky(now.covariance[np.ix_(at, at)]))
        return [
            Observation(Row(dict(zip(keys, line.tolist(), strict=True)), 1.0), float(line @ now.mean[at]))
            for line in independent
        ]

    @derived
    def _split_of(self, phase: str) -> SpindleSplit:
        return split_spindle(
            self.subject_for(phase),
            self.estimate_of(phase),
            self.limits(),
            self.scatter(phase),
            self.alone_of(phase),
        )

    @property
    def split(self) -> SpindleSplit:
        """The chain, the measures and the named causes."""
        return self._split_of("before")

    def measures_of(self, phase: str) -> Sequence[Measure]:
        return self._split_of(phase).measures

    def nothing_read(self) -> tuple[tuple[str, str], ...]:
        runout = ("its runout", self.decides)
        if "slack" in {m.key for m in self.figures} or not any(s.key == "push_test" for s in self.set_ups):
            return (runout,)
        return (("slack", "push_test"), runout)

    def usual_measure(self) -> Measure:
        label, key = measure_limits(self.spindle)["work"]
        return Measure(
            "work",
            label,
            self.job.limit(key),
            measure_value(self.subject_for("before"), self.split.drawn, "work"),
            self.nothing_read(),
        )

    def contact(self, phase: str) -> Contact | None:
        """What the blue shows, or None where nothing is painted."""
        cells = cells_of(self.job.contact(self.assembly_key, phase))
        return contact_of(cells) if cells else None

    def warm(self, phase: str) -> WarmRun | None:
        """Where a warm run will settle, or None."""
        return warm_run(self.job.standing(self.assembly_key, "warm_run", phase))

    def seats(self) -> list[SeatState]:
        """Journals and housing as measured."""
        return seat_states(
            self.spindle, self.known_places(next(s for s in self.set_ups if s.key == "journals"), "before")
        )

    def proof_head(self, rows: Sequence[Comparison], system: UnitSystem) -> tuple[State, str, str]:
        state, head, left = super().proof_head(rows, system)
        bar = self._bar_seated_once()
        if not bar:
            return state, head, left
        low, high = (show_small(tir, system) for tir in (min(bar), max(bar)))
        planes = f"{high} at both planes" if low == high else f"{high} at one plane, {low} at the other"
        return state, f"As it is seated now the bar runs out {planes}. {head}", left

    def _bar_seated_once(self) -> list[float]:
        """Runout (TIR, mm) of the bar at its planes after the repair, where it was seated only once: as read,
        spindle, seat and bar together.
        """
        turns, _ = turns_of(self.known_at("test_bar", "after"))
        if len(turns) < 2 or len({seat[0] for seat, _ in turns}) != 1:
            return []
        return [2 * abs(turn.vectors[0]) for _, turn in turns]

    def noise(self, phase: str) -> str:
        """The noise graded in a word, or ""."""
        return self.job.note(f"noise.{self.assembly_key}.{phase}")

    def set_aside(self, phase: str = "before") -> list[str]:
        odd = self._odd_seating(phase)
        why = [f"Test bar in the taper, seating {odd}: alone unlike all others"] if odd else []
        return super().set_aside(phase) + why

    def _findings(self, system: UnitSystem) -> list[Finding]:
        return spindle_findings(
            self.subject_for("before"),
            self.estimate,
            self.split,
            self.limits(),
            system,
            seats=self.seats(),
            contact=self.contact("before"),
            warm=self.warm("before"),
            noise=self.noise("before"),
            odd_seating=self._odd_seating("before"),
        )

    @property
    def is_measured(self) -> bool:
        return super().is_measured or self.contact("before") is not None

    def clocking(self, z_mm: float, holder: str = "chuck") -> Clocking:
        """How to set a holder against the spindle so that the errors oppose at z."""
        return best_clocking(self.subject_for("before"), self.split.drawn, z_mm, holder)

    # what to read next ------------------------------------------------------------------------

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return questions(self.subject_for("before"))

    def doubt_scale_mm(self) -> float:
        return doubt_scale(self.job.limit(f"{self.kind.works_as}_work").limit_mm)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    def information(self, s: AnySetUp, places: Sequence[str]) -> tuple[Row, ...]:
        rows = super().information(s, places)
        return rows + seat_information(self.spindle, self.scatter()) if rows and s.key == "test_bar" else rows

    # proof ------------------------------------------------------------------------------------

    @property
    def usual_limit(self) -> RatedLimit:
        return self.limit_by("work")

    def limit_by(self, measure: str) -> RatedLimit:
        return self.job.limit(measure_limits(self.spindle)[measure][1])

    def length_shift(self) -> Quantity | None:
        """What every stored tool length shifts by, mm (+ longer): the one tool after less before; None until
        both are read.
        """
        taken = [
            [v for p in self.job.standing(self.assembly_key, "reach", phase) for v in p.values]
            for phase in ("before", "after")
        ]
        if not all(taken):
            return None
        value = sum(taken[1]) / len(taken[1]) - sum(taken[0]) / len(taken[0])
        sd = REACH_SD_MM * math.sqrt(1 / len(taken[0]) + 1 / len(taken[1]))
        return Quantity(value, sd, value - Z95 * sd, value + Z95 * sd)

    def turn_limit(self, s: AnySetUp) -> RatedLimit:
        return self.job.limit("chuck" if s.key == "chuck_pin" else f"{self.kind.works_as}_work")

    def describe(self) -> str:
        s = self.spindle
        taper = f"taper {s.hardness or 'not tested for hardness'}"
        if s.has_quill and s.bearing_count == 1:
            return f"one bearing in the quill; {taper}"
        if not {"front_bore_mm", "front_outside_mm", "bearing_width_mm"} <= set(self.facts):
            return taper  # a bearing that nobody stated is not said to be there
        bearing = f"{s.front_bore_mm:g} × {s.front_outside_mm:g} × {s.bearing_width_mm:g} mm"
        return f"front bearing {bearing}; {taper}"

    shares_title = "What each link added at the work before"

    def shares(self) -> list[tuple[str, Quantity]]:
        links = [link for link in self.split.links if link.is_read]
        if all(link.key == "indicator" for link in links):  # it adds to what was read: here nothing was
            return []
        return [(link.label.lower(), link.value) for link in links]

    # parts and making -------------------------------------------------------------------------

    def part_inputs(self, key: str, system: UnitSystem = UnitSystem.INCH) -> PartInputs:
        from trebb.core.parts import PartInputs

        measured = {f"loose.{s.seat}": s.loose_mm for s in self.seats()}
        measured.update({s.seat: s.mean_mm for s in self.seats()})
        limit = self.job.limit(measure_limits(self.spindle)["float"][1]).limit_mm
        if is_read(self.alone, {"float": 1.0}, limit):
            measured["float"] = max(0.0, self.alone.source("float").value)
        for size in self.job.sizes(key, "seat"):
            if size.struck is None:
                measured["turned"] = size.taken.value_mm
        facts = self.job.part_facts(key)
        if key == "sleeve" and self.chosen is not None and self.chosen.includes("quill", "overhaul"):
            facts = {"where": "quill", **facts}
        return PartInputs(self.spindle, self.workshop, facts, measured=measured, system=system)
