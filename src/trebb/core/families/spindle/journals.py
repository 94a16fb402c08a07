"""Journals and housings of a stripped spindle, against the bearings that go there."""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence

from msgspec import Struct

from trebb.core.condition import Z95, Observation, Row
from trebb.core.families.spindle.figure import journal_figure
from trebb.core.families.spindle.subject import Spindle
from trebb.core.safety import SLING
from trebb.core.survey.base import InstrumentKind, Lot, Place, PlaceReadings, Result, SetUp
from trebb.core.survey.sizes import wrong_size
from trebb.core.units import UnitSystem, show_small

SEATS = (("front journal", "loose.front"), ("rear journal", "loose.rear"), ("front housing", "loose.housing"))
SPOTS = (
    ("0°, out", "0°, outer end"),
    ("90°, out", "90°, outer end"),
    ("0°, in", "0°, inner end"),
    ("90°, in", "90°, inner end"),
    ("ridge", "Ridge, beside the seat"),
)
SIZE_SD_MM = 0.0020
# A bearing of the ordinary class has its bore 0 to 8 µm under its name, its outside 0 to 10 µm (ISO 492,
# about these sizes).
BEARING_UNDER_MM, BEARING_SD_MM = 0.004, 0.002


def nominal_mm(spindle: Spindle, seat: str) -> float:
    """The bearing's own size there, as named."""
    return {
        "front journal": spindle.front_bore_mm,
        "rear journal": spindle.rear_bore_mm,
        "front housing": spindle.front_outside_mm,
    }[seat]


def places(spindle: Spindle) -> tuple[Place, ...]:
    """Two directions at both ends of each seat, and unworn metal beside it."""
    return tuple(
        Place(f"{seat}, {key}", words, "metal the bearing never touched" if key == "ridge" else "", seat)
        for seat, _ in SEATS
        for key, words in SPOTS
    )


def row(spindle: Spindle, place: str) -> Row:
    """Bearing less journal (housing less bearing), mm: + is looseness. `reduce` gives it."""
    seat = place.split(", ")[0]
    return Row({} if place.endswith("ridge") else {dict(SEATS)[seat]: 1.0}, SIZE_SD_MM)


def reduce(spindle: Spindle, place: str, raw: float) -> float:
    """A diameter as the looseness it leaves. In mm."""
    seat = place.split(", ")[0]
    size = nominal_mm(spindle, seat) - BEARING_UNDER_MM
    return raw - size if seat.endswith("housing") else size - raw


def restore(spindle: Spindle, place: str, value: float) -> float:
    """Looseness back to a diameter; unworn metal is 10 µm the tight side of the bearing."""
    seat = place.split(", ")[0]
    size = nominal_mm(spindle, seat) - BEARING_UNDER_MM
    loose = -0.010 if place.endswith("ridge") else value if value > 0.0012 else value - 0.006
    return size + loose if seat.endswith("housing") else size - loose


class SeatState(Struct, frozen=True):
    """A journal or housing as measured, mm. `loose_mm` negative is interference; `worn_mm` against the
    ridge, or None.
    """

    seat: str
    mean_mm: float
    loose_mm: float
    out_of_round_mm: float
    taper_mm: float
    worn_mm: float | None

    @property
    def half_mm(self) -> float:
        """95 % half width of the looseness."""
        return Z95 * math.hypot(SIZE_SD_MM / 2, BEARING_SD_MM)

    def words(self, system: UnitSystem) -> str:
        """The fit that is left, in words."""
        inside = self.seat.endswith("housing")
        if self.loose_mm - self.half_mm > 0:
            left = (
                f"{show_small(self.loose_mm, system)} loose: the bearing "
                f"{'drops into' if inside else 'slides on'} cold, no interference left; no new bearing will "
                "hold truth on it."
            )
        elif self.loose_mm + self.half_mm < 0:
            left = f"{show_small(-self.loose_mm, system)} of interference left" + (
                "." if inside else ": warm the bearing to fit it."
            )
        else:
            left = "about size for size: not shown either way; try a bearing cold before trusting it."
        shape = []
        # Each shape by three standard deviations of what is subtracted: two sizes; two means of two; a mean
        # of four and one.
        if self.out_of_round_mm > 3 * math.sqrt(2) * SIZE_SD_MM:
            shape.append(f"out of round {show_small(self.out_of_round_mm, system)}")
        if abs(self.taper_mm) > 3 * SIZE_SD_MM:
            shape.append(f"tapered {show_small(abs(self.taper_mm), system)}")
        if self.worn_mm is not None and self.worn_mm > 3 * 1.12 * SIZE_SD_MM:
            shape.append(f"worn {show_small(self.worn_mm, system)} below its ridge")
        return f"{self.seat.capitalize()}: {left}" + (f" It is {', '.join(shape)}." if shape else "")


def seat_states(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[SeatState]:
    """Each seat that has a diameter read."""
    found = {p.place: statistics.fmean(p.values) for p in taken if p.values}
    result = []
    for seat, _ in SEATS:
        sizes = {key: found[f"{seat}, {key}"] for key, _ in SPOTS if f"{seat}, {key}" in found}
        ridge = sizes.pop("ridge", None)
        if not sizes:
            continue
        mean = statistics.fmean(sizes.values())
        ends = [[sizes[k] for k in sizes if k.endswith(end)] for end in ("out", "in")]
        round_ = max((max(e) - min(e) for e in ends if len(e) > 1), default=0.0)
        taper = statistics.fmean(ends[0]) - statistics.fmean(ends[1]) if all(ends) else 0.0
        worn = None if ridge is None else (mean - ridge if seat.endswith("housing") else ridge - mean)
        result.append(SeatState(seat, mean, reduce(spindle, f"{seat}, 0°, out", mean), round_, taper, worn))
    return result


def observe(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """One observation a seat: its mean, with what is not known of the bearing itself."""
    counts: dict[str, int] = {}
    for p in taken:
        seat = p.place.split(", ")[0]
        counts[seat] = counts.get(seat, 0) + (bool(p.values) and not p.place.endswith("ridge"))
    return [
        Observation(
            Row(
                {dict(SEATS)[s.seat]: 1.0}, math.hypot(SIZE_SD_MM / math.sqrt(counts[s.seat]), BEARING_SD_MM)
            ),
            s.loose_mm,
        )
        for s in seat_states(spindle, taken)
    ]


def results(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Result]:
    """Looseness of each seat."""
    return [
        Result(s.seat, s.loose_mm, s.half_mm, Row({dict(SEATS)[s.seat]: 1.0}, 0.002))
        for s in seat_states(spindle, taken)
    ]


SET_UP = SetUp[Spindle](
    key="journals",
    letter="J",
    short="Journals",
    title="Journals and housing",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.8,
    setting_minutes=90,
    wanted=1,
    places=places,
    lots=lambda spindle: (
        Lot("strip", "Journals and housing, stripped", tuple(p.key for p in places(spindle)), 90.0),
    ),
    row=row,
    reduce=reduce,
    restore=restore,
    figure=lambda spindle, place: journal_figure(
        "front" if place.startswith("front") else "rear", "housing" in place
    ),
    observe=observe,
    results=results,
    refusal=lambda spindle, place, raw, system: wrong_size(
        nominal_mm(spindle, place.split(", ")[0]), 0.01, raw, system
    ),
    size_band_mm=lambda spindle: 0.01,
    steps=(
        "Before it comes out: the length or height of one tool (Tool length), and match marks.",
        "Strip, wash, mark which way round each bearing stood. Try the bearing cold: does it slide on?",
        "Micrometer on each journal: two directions, both ends; then beside it where no bearing sat.",
        "Bore gauge in the housing, set to the same micrometer.",
    ),
    cautions=(
        SLING,
        "Never pull a bearing by its outer ring if it is to go back.",
    ),
    tells="Whether a bearing can be held at all: a worn journal makes every new bearing slack.",
    cannot_tell="How truly the journals run to the taper: that is the nose and the bore.",
    settles="slack in the bearing from a bearing loose on its seat",
    family="spindle",
    is_proof=False,
    is_size=True,
)
