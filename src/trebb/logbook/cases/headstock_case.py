"""The case of a headstock: spindle, bed and feet told apart, and the shims that follow."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from msgspec.structs import replace

from trebb.core.condition import (
    Quantity,
    estimate,
)
from trebb.core.condition.fixing import is_read
from trebb.core.families.bed.cuts import LANDS, taper_row
from trebb.core.families.bed.facts import HEADSTOCK, WAYS
from trebb.core.families.bed.headstock import (
    exchanged_finding,
    headstock_findings,
    in_air_finding,
    seat_finding,
    who_makes_it,
    wrong_foot_finding,
)
from trebb.core.families.bed.shims import Cut, ShimAdvice, exchanged_lands, is_in_air, shim_advice, wrong_foot
from trebb.core.families.bed.work import by_cause
from trebb.core.findings import Finding
from trebb.core.machine import State
from trebb.core.survey.reduction import place_means
from trebb.core.units import UnitSystem
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:
    from trebb.core.survey import AnySetUp
from trebb.core.words import large
from trebb.logbook.cases.advising import Advice
from trebb.logbook.cases.bed_case import SPINDLE, BedCase


class HeadstockCase(BedCase):
    """The headstock on the bed: what the chuck turns."""

    family = "headstock"
    decides = "two_collar"

    def distrusted(self, phase: str) -> Mapping[str, str]:
        spindle = self.neighbour(SPINDLE)
        if spindle is None:
            return {}
        if not self.job.standing(SPINDLE, "test_bar", phase):
            phase = "before"
        if "test_bar" in spindle.distrusted(phase):
            return {"bar_sweep": "the spindle's seat does not repeat, so a bar in it points anywhere"}
        seatings = {p.place.split(",")[0] for p in self.job.standing(SPINDLE, "test_bar", phase)}
        if len(seatings) < 2:
            return {"bar_sweep": "the spindle's seat was not tried: seat the test bar twice there first"}
        return {}

    def warning(self, s: AnySetUp, phase: str) -> tuple[str, str, tuple[tuple[str, str], ...]] | None:
        if s.key == "bar_sweep" and (why := self.distrusted(phase).get(s.key)):
            return (
                "What is read here is set aside.",
                f"{large(why)}.",
                (
                    ("Cut two lands: it needs no taper", "two_collar"),
                    ("Try the seat at the spindle", "test_bar"),
                ),
            )
        return super().warning(s, phase)

    def advice_now(self) -> Advice:
        """A taper is mended where it comes from, as the findings say."""
        advice = super().advice_now()
        taper = next((m for m in self.figures if m.key == "taper"), None)
        if advice.remedy is None or taper is None or taper.state is not State.BEYOND:
            return advice
        levelled = bool(self.job.standing(WAYS, "level_across"))
        key = who_makes_it(self.subject_for("before"), self.alone, taper, levelled).remedy
        wrong = tuple(m.key for m in self.figures if m.state is State.BEYOND)
        own = next((r for r, _ in self._affordable() if r.key == key), None)
        return Advice(own) if own is not None and self._brings_inside(key, wrong, ()) else advice

    def cuts(self) -> list[Cut]:
        """Two-collar cuts as read: before any shim, then after each."""
        bed, found = self.subject_for("before"), []
        for s in self.set_ups:
            if s.key not in ("two_collar", "trials"):
                continue
            means = dict(place_means(s, bed, self.known_places(s, "before")))
            for number in range(len(bed.shims) + 1):
                name = "cut" if number == 0 else f"trial {number}"
                near, far = (means.get(f"{name}, {land}") for land in LANDS)
                if near is not None and far is not None:
                    found.append(
                        Cut(
                            number,
                            far.value - near.value,
                            (near.row.noise_sd**2 + far.row.noise_sd**2) ** 0.5,
                        )
                    )
        return found

    @derived
    def advice(self) -> ShimAdvice:
        """The next shim."""
        limit_mm = self.job.limit("taper_chuck").limit_mm
        advice = shim_advice(self.subject_for("before"), self.estimate, limit_mm)
        return replace(advice, foot="", mm=0.0) if self.in_air() else advice

    @derived
    def in_air(self) -> bool:
        """Whether the shims so far changed next to nothing."""
        return is_in_air(self.subject_for("before"), self.cuts())

    @derived
    def foretold_cut(self, number: int) -> Quantity:
        """What a cut was expected to read before it was taken: by all else, and the cuts before it."""
        bed = self.subject_for("before")
        names = ["cut", *(f"trial {i}" for i in range(1, number))] if number else []
        before = {f"{name}, {land}" for name in names for land in LANDS}
        found = self.observed("before", without=("two_collar", "trials"))
        for s in self.set_ups:
            if s.key in ("two_collar", "trials") and s.observe is not None:
                found += s.observe(bed, [p for p in self.known_places(s, "before") if p.place in before])
        row = taper_row(bed, number)
        return estimate(self.model_for("before"), found).combination(row.coefficients, extra_sd=row.noise_sd)

    def wrong_foot(self) -> int | None:
        """Number of a trial that answers as if its shim lay under the other foot."""
        return wrong_foot(self.subject_for("before"), self.cuts())

    def exchanged(self) -> Cut | None:
        """A cut that reads as if near and far were exchanged; not one that a shim on the wrong foot
        explains.
        """
        wrong = self.wrong_foot()
        return next(
            (
                cut
                for cut in self.cuts()
                if cut.number != wrong and exchanged_lands(cut, self.foretold_cut(cut.number))
            ),
            None,
        )

    def _findings(self, system: UnitSystem) -> list[Finding]:
        bed, measures, cuts = self.subject_for("before"), self._measures_by_key(), self.cuts()
        advice = self.advice() if cuts else None
        in_air = self.in_air()
        levelled = bool(self.job.standing(WAYS, "level_across"))
        found = headstock_findings(
            bed, self.alone, measures, advice, system, in_air=in_air, levelled=levelled
        )
        if in_air:
            found.append(in_air_finding(bed, system))
        if (number := self.wrong_foot()) is not None:
            found.append(wrong_foot_finding(bed, number, system))
        if (cut := self.exchanged()) is not None:
            found.append(exchanged_finding(cut, self.foretold_cut(cut.number), system))
        if self.job.standing(HEADSTOCK, "bar_sweep") and (why := self.distrusted("before").get("bar_sweep")):
            found.append(seat_finding(why))
        return found

    def _measured_for(self, key: str) -> dict[str, float]:
        advice = self.advice()
        return (
            {f"shim.{advice.foot}": advice.mm}
            if advice.mm > 0
            else super()._measured_for(key)
            if not self.is_measured
            else {}
        )

    def shares(self) -> list[tuple[str, Quantity]]:
        causes = by_cause(self.subject_for("before").taper())
        return [
            *super().shares(),
            *(
                (f"{name}, in 300 mm", self.alone.combination(of_cause))
                for name, of_cause in causes.items()
                if is_read(self.alone, of_cause, self.limit.limit_mm)
            ),
        ]

    def describe(self) -> str:
        b = self.subject
        if not self.facts:
            return ""
        return (
            f"lands {b.near_mm:g} and {b.far_mm:g} mm from the nose; {len(b.shims) or 'no'} "
            f"shim{'s' if len(b.shims) != 1 else ''} tried"
        )

    def next_shim_key(self) -> str:
        """Field under which the next shim is logged."""
        return f"shim.{len(self.subject.shims) + 1}"
