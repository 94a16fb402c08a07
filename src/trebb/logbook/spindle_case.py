"""What the core says of a spindle."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from trebb.core.condition import Z95, ErrorModel, Observation, Quantity, Row, Suggestion
from trebb.core.errors import InputError
from trebb.core.findings import Finding, Measure
from trebb.core.findings.spindle import (
    Clocking,
    SpindleSplit,
    best_clocking,
    doubt_scale,
    measure_limits,
    measure_value,
    questions,
    reason,
    seat_is_trusted,
    spindle_findings,
    split_spindle,
)
from trebb.core.machine import RatedLimit, Spindle, spindle_model
from trebb.core.machine.spindle import USUAL
from trebb.core.runout import WarmRun
from trebb.core.survey import AnySetUp
from trebb.core.survey.contact import Contact, cells_of, contact_of
from trebb.core.survey.journals import SeatState, seat_states
from trebb.core.survey.reach import REACH_SD_MM
from trebb.core.survey.seat import SeatScatter, seat_information, seat_scatter, with_scatter
from trebb.core.survey.warm_run import warm_run
from trebb.core.units import UnitSystem
from trebb.logbook.case import Neighbours
from trebb.logbook.fold import Job
from trebb.logbook.measured_case import MeasuredCase
from trebb.logbook.stating import as_words, with_facts

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.parts import PartInputs
    from trebb.core.proof import Comparison

LEAST_ANGLES, MOST_ANGLES = 5, 36


def angles_from(text: str) -> tuple[float, ...]:
    """Dial angles as stated: a count such as "8", or a list such as "0, 40, 95". Raises InputError otherwise."""
    words = [w for w in text.replace("°", " ").replace(",", " ").split() if w]
    try:
        numbers = [float(w) for w in words]
    except ValueError:
        raise InputError(f"“{text.strip()}”", "write how many angles, such as 8, or a list such as 0, 45, 90") from None
    if len(numbers) == 1:
        count = numbers[0]
        if count != int(count) or not LEAST_ANGLES <= count <= MOST_ANGLES:
            raise InputError(f"“{text.strip()}”", f"from {LEAST_ANGLES} to {MOST_ANGLES} angles round the turn")
        return tuple(360.0 * i / count for i in range(int(count)))
    angles = tuple(sorted({round(n % 360, 3) for n in numbers}))
    if len(angles) < LEAST_ANGLES:
        raise InputError(f"{len(angles)} different angles", f"{LEAST_ANGLES} at least, spread over the whole turn")
    return angles


def seatings_from(text: str) -> tuple[float, ...]:
    """Angles of the bar's index mark, one a seating, in the order taken. Raises InputError for what is none."""
    try:
        found = tuple(float(w) % 360 for w in text.replace("°", " ").replace(",", " ").split())
    except ValueError:
        raise InputError(f"“{text.strip()}”", "write the mark's angle at each seating, such as 0, 180, 90, 270") from None
    if not 1 <= len(found) <= 12:
        raise InputError(f"{len(found)} seatings", "from one to twelve")
    return found


def spindle_from_facts(kind: str, facts: Mapping[str, str | float]) -> Spindle:
    """A spindle from what is stated of it; what is not stated is usual for the kind of machine."""
    readers: dict[str, Callable[[str | float], Any]] = {
        "angles": lambda v: angles_from(as_words(v)), "seatings": lambda v: seatings_from(as_words(v)), "bearing_count": lambda v: int(float(v)), "hardness": as_words,
    }  # fmt: skip
    return with_facts(USUAL[kind], facts, readers)


class SpindleCase(MeasuredCase):
    """What the core says of a spindle."""

    family = "spindle"
    default_parts = ("spacer", "pin_spanner")
    one_at_a_time = ("test_bar",)

    def __init__(self, job: Job, assembly: str, cases: Neighbours | None = None) -> None:
        super().__init__(job, assembly, cases)
        self._seen: tuple[int, Spindle] | None = None  # asked for hundreds of times a repaint

    @property
    def subject(self) -> Spindle:
        return self.spindle

    @property
    def spindle(self) -> Spindle:
        """The spindle as stated, with what the blue showed."""
        if self._seen is not None and self._seen[0] == self.job.version:
            return self._seen[1]

        def work() -> Spindle:
            stated = spindle_from_facts(self.kind.key, self.job.drive_facts(self.assembly_key))
            contact = self.contact("before")
            return replace(stated, contact=contact.pattern if contact is not None else "")
        found = self._keep("spindle", self.versions("drive", "card", "contact"), work)
        self._seen = (self.job.version, found)
        return found

    def scatter(self, phase: str = "before") -> SeatScatter:
        """Whether the seat repeats, by the seatings of a phase."""
        def work() -> SeatScatter:
            return seat_scatter(self.spindle, self.job.standing(self.assembly_key, "test_bar", phase))
        return self._keep(f"scatter.{phase}", self.versions("readings", "drive", "card"), work)

    def subject_for(self, phase: str) -> Spindle:
        stamp = self.versions("readings", "drive", "card", "contact")
        return self._keep(f"seated.{phase}", stamp, lambda: with_scatter(self.spindle, self.scatter(phase)))

    def model_for(self, phase: str) -> ErrorModel:
        seated = self.subject_for(phase)
        return self._keep(f"model.{phase}", seated, lambda: spindle_model(seated))

    def _observed(self, s: AnySetUp, subject: Spindle, phase: str) -> list[Observation]:
        # Only the bar's readings know how the seat was found; the others need not be worked out again with it.
        return super()._observed(s, subject if s.key == "test_bar" else self.spindle, phase)

    def limit_keys(self) -> Sequence[str]:
        return tuple(key for _, key in measure_limits(self.spindle).values())

    def distrusted(self, phase: str) -> Mapping[str, str]:
        if seat_is_trusted(self.spindle, self.scatter(phase), self.job.limit("seat_repeat").limit_mm):
            return {}
        why = "the seat does not repeat, so it is set aside"
        return {"test_bar": why, **({"chuck_pin": why} if self.spindle.chuck_on_taper else {})}

    def _split_of(self, phase: str) -> SpindleSplit:
        stamp = self.versions("readings", "drive", "limits", "card", "contact")
        return self._keep(f"split.{phase}", stamp, lambda: split_spindle(self.subject_for(phase), self.estimate_of(phase), self.limits(), self.scatter(phase)))

    @property
    def split(self) -> SpindleSplit:
        """The chain, the measures and the named causes."""
        return self._split_of("before")

    def measures_of(self, phase: str) -> Sequence[Measure]:
        return self._split_of(phase).measures

    def usual_measure(self) -> Measure:
        label, key = measure_limits(self.spindle)["work"]
        return Measure("work", label, self.job.limit(key), measure_value(self.subject_for("before"), self.split.drawn, "work"))

    def contact(self, phase: str) -> Contact | None:
        """What the blue shows, or None where nothing is painted."""
        cells = cells_of(self.job.contact(self.assembly_key, phase))
        return contact_of(cells) if cells else None

    def warm(self, phase: str) -> WarmRun | None:
        """Where a warm run will settle, or None."""
        return warm_run(self.job.standing(self.assembly_key, "warm_run", phase))

    def seats(self) -> list[SeatState]:
        """Journals and housing as measured."""
        return seat_states(self.spindle, self.known_places(next(s for s in self.set_ups if s.key == "journals"), "before"))

    def noise(self, phase: str) -> str:
        """The noise graded in a word, or ""."""
        return self.job.note(f"noise.{self.assembly_key}.{phase}")

    def findings(self, system: UnitSystem) -> list[Finding]:
        def work() -> list[Finding]:
            return spindle_findings(
                self.subject_for("before"), self.estimate, self.split, self.limits(), system,
                seats=self.seats(), contact=self.contact("before"), warm=self.warm("before"), noise=self.noise("before"),
            )  # fmt: skip
        return self._keep("findings", (self.versions("readings", "drive", "limits", "card", "contact", "notes"), system), work)

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
        return doubt_scale(self.job.limit(f"{self.kind.key}_work").limit_mm)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    def information(self, s: AnySetUp, places: Sequence[str]) -> tuple[Row, ...]:
        rows = super().information(s, places)
        return rows + seat_information(self.spindle, self.scatter()) if rows and s.key == "test_bar" else rows

    # proof ------------------------------------------------------------------------------------

    def limit_of(self, row: Comparison) -> RatedLimit:
        measure = {"spindle_float": "float", "coupler": "coupler", "push_test": "slack", "chuck_pin": "chuck"}.get(row.set_up, "work")
        return self.job.limit(measure_limits(self.spindle)[measure][1])

    def length_shift(self) -> Quantity | None:
        """What every stored tool length shifts by, mm (+ longer): the one tool after less before; None until both are read."""
        taken = [[v for p in self.job.standing(self.assembly_key, "reach", phase) for v in p.values] for phase in ("before", "after")]
        if not all(taken):
            return None
        value = sum(taken[1]) / len(taken[1]) - sum(taken[0]) / len(taken[0])
        sd = REACH_SD_MM * math.sqrt(1 / len(taken[0]) + 1 / len(taken[1]))
        return Quantity(value, sd, value - Z95 * sd, value + Z95 * sd)

    def describe(self) -> str:
        s = self.spindle
        bearings = "one bearing in the quill" if s.has_quill and s.bearing_count == 1 else f"front bearing {s.front_bore_mm:g} × {s.front_outside_mm:g} × {s.bearing_width_mm:g} mm"
        return f"{bearings}; taper {s.hardness or 'not tested for hardness'}"

    shares_title = "What each link added at the work before"

    def shares(self) -> list[tuple[str, Quantity]]:
        return [(link.label.lower(), link.value) for link in self.split.links]

    # parts and making -------------------------------------------------------------------------

    def part_inputs(self, key: str, system: UnitSystem = UnitSystem.INCH) -> PartInputs:
        from trebb.core.parts import PartInputs

        measured = {f"loose.{s.seat}": s.loose_mm for s in self.seats()}
        measured.update({s.seat: s.mean_mm for s in self.seats()})
        measured["float"] = self.estimate.source("float").value
        for size in self.job.sizes(key, "seat"):
            if size.struck is None:
                measured["turned"] = size.taken.value_mm
        facts = self.job.part_facts(key)
        if key == "sleeve" and self.chosen is not None and self.chosen.key in ("quill", "overhaul"):
            facts = {"where": "quill", **facts}
        return PartInputs(self.spindle, self.workshop, facts, measured=measured, system=system)


__all__ = ["SpindleCase", "angles_from", "seatings_from", "spindle_from_facts"]
