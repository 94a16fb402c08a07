"""Random lathes in space: surveyed as a whole, or brought parallel by shims and cuts, whose bed answers as
it likes.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.alignment import shim_pack
from trebb.core.condition import Estimate, draw_condition, estimate
from trebb.core.families.bed.centres import wander, with_wander
from trebb.core.families.bed.cuts import LANDS, TRIALS, TWO_COLLAR, taper_row, trial_of
from trebb.core.families.bed.shims import shim_advice
from trebb.core.families.bed.subject import REACH_MM, USUAL_BED, Bed, bed_model
from trebb.core.machine import class_limit
from trebb.core.practice.machine import PracticeMachine
from trebb.core.survey import AnySetUp, PlaceReadings, observations, set_ups_of

FAMILIES = ("ways", "headstock", "tailstock", "stand")
SOFTEST, STIFFEST = 0.5, 1.1  # how a bed answers, of what its feet alone would say
MOST_SHIMS = 6


class BedTrial(Struct, frozen=True):
    """A lathe with faults drawn from the prior by its seed; it answers to a shim by a random share."""

    bed: Bed
    truth: Mapping[str, float]
    seed: int

    @classmethod
    def drawn(cls, seed: int, bed: Bed = USUAL_BED) -> BedTrial:
        """The trial of that seed; the same seed is the same machine."""
        rng = np.random.default_rng(seed)
        truth = draw_condition(bed_model(bed), rng)
        truth["answer"] = float(rng.uniform(SOFTEST, STIFFEST))
        truth["wander"] = abs(float(rng.normal(0.0, 0.010)))
        return cls(bed, truth, seed)

    def machine(self, bed: Bed) -> PracticeMachine:
        """The machine with what lies under its feet."""
        return PracticeMachine(bed, bed_model(bed), self.truth, self.seed)

    def read(self, s: AnySetUp, bed: Bed) -> list[PlaceReadings]:
        """Every reading wanted of a set-up."""
        machine = self.machine(bed)
        return [
            PlaceReadings(p.key, tuple(machine.reading(s, p.key, i) for i in range(s.wanted)))
            for p in s.places(bed)
        ]

    def survey(self) -> tuple[Bed, Estimate]:
        """The bed with its tailstock's wander as found, and the condition by everything that can be read."""
        taken = {s.key: (s, self.read(s, self.bed)) for family in FAMILIES for s in set_ups_of(family)}
        bed = with_wander(self.bed, wander(taken["centres"][1]))
        found = [o for s, readings in taken.values() for o in observations(s, bed, readings)]
        return bed, estimate(bed_model(bed), found)

    def taper_mm(self, bed: Bed) -> float:
        """Far less near diameter as the machine really turns it, the stub's spring aside."""
        row = taper_row(bed, len(bed.shims))
        return sum(c * self.truth[key] for key, c in row.coefficients.items() if key != "spring")

    def cuts_to_limit(self, *, learns: bool) -> int:
        """Test cuts, the first one included, until the work is parallel to its limit; more than `MOST_SHIMS`
        where it never is.

        By Trebb's shims; or, `learns` False, by shims from the feet alone, as
        if each bed answered in full.
        """
        limit_300 = class_limit("ordinary", "taper_chuck").limit_mm
        limit = limit_300 * self.bed.apart_mm / REACH_MM
        bed = self.bed
        for cut in range(1, MOST_SHIMS + 2):
            if abs(self.taper_mm(bed)) <= limit:
                return cut
            if not learns:
                bed = _by_the_feet(bed, self.last_cut(bed))
                continue
            advice = shim_advice(bed, self.by_cuts(bed), limit_300)
            if advice.is_done:
                break
            bed = replace(bed, shims=(*bed.shims, (advice.foot, advice.mm)))
        return MOST_SHIMS + 2

    def last_cut(self, bed: Bed) -> list[PlaceReadings]:
        """Both lands of the newest cut."""
        if not bed.shims:
            return self.read(TWO_COLLAR, bed)
        return [p for p in self.read(TRIALS, bed) if trial_of(p.place) == len(bed.shims)]

    def by_cuts(self, bed: Bed) -> Estimate:
        """The condition by every cut so far, and nothing else."""
        found = [o for s in (TWO_COLLAR, TRIALS) for o in observations(s, bed, self.read(s, bed))]
        return estimate(bed_model(bed), found)


def _by_the_feet(bed: Bed, cut: list[PlaceReadings]) -> Bed:
    """The shim that feet and lands alone ask for."""
    means = {p.place.rsplit(", ", 1)[1]: sum(p.values) / len(p.values) for p in cut}
    wanted = -(means[LANDS[1]] - means[LANDS[0]]) / bed.feet.taper_per_shim(bed.apart_mm)
    pack = shim_pack(min(abs(wanted), bed.travel_mm), bed.stock_mm)
    if not pack.leaves_mm:
        return bed
    return replace(
        bed,
        shims=(*bed.shims, ("tail_front" if wanted > 0 else "tail_rear", pack.thickness_mm)),
        travel_mm=100.0,
    )
