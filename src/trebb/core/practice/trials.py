"""Random spindles with known faults, surveyed as a whole or in an order: what intervals and suggestions are
proven on.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.condition import Candidate, Estimate, draw_condition, estimate, suggest, total_doubt
from trebb.core.families.spindle.findings import doubt_scale, questions
from trebb.core.families.spindle.seat import (
    USUAL_MM,
    USUAL_SD_MM,
    SeatScatter,
    seat_information,
    seat_scatter,
    with_scatter,
)
from trebb.core.families.spindle.subject import Spindle, spindle_model
from trebb.core.machine import class_limit
from trebb.core.practice.machine import PracticeMachine
from trebb.core.survey import AnySetUp, Lot, PlaceReadings, information, observations, set_up, set_ups_of

# Set-ups that say nothing of the sources of error.
SILENT = ("warm_run", "contact", "reach")


class SpindleTrial(Struct, frozen=True):
    """A spindle of a kind with faults drawn from the prior by its seed."""

    spindle: Spindle
    truth: Mapping[str, float]
    machine: PracticeMachine

    @classmethod
    def drawn(cls, seed: int, spindle: Spindle) -> SpindleTrial:
        """The trial of that seed; the same seed is the same machine."""
        model = spindle_model(replace(spindle, seat_mm=USUAL_MM, seat_sd_mm=USUAL_SD_MM))
        truth = draw_condition(model, np.random.default_rng(seed))
        return cls(spindle, truth, PracticeMachine(spindle, model, truth, seed))

    def lots(self) -> list[tuple[AnySetUp, Lot]]:
        """Everything that can be set up and read, in the order of the list."""
        return [
            (s, lot)
            for s in set_ups_of("spindle")
            if s.key not in SILENT and s.applies(self.spindle) and not s.is_optional
            for lot in s.all_lots(self.spindle)
        ]

    def read(self, s: AnySetUp, lot: Lot) -> list[PlaceReadings]:
        """The readings of a lot, each place as often as wanted."""
        return [
            PlaceReadings(p, tuple(self.machine.reading(s, p, i) for i in range(s.wanted)))
            for p in lot.places
        ]

    def survey(
        self, lots: Sequence[tuple[AnySetUp, Lot]] | None = None
    ) -> tuple[Spindle, SeatScatter, Estimate]:
        """The spindle with its seat as found, the seat's scatter, and the condition, after these lots (None:
        all).
        """
        taken: dict[str, list[PlaceReadings]] = {}
        for s, lot in self.lots() if lots is None else lots:
            taken.setdefault(s.key, []).extend(self.read(s, lot))
        return self._known(taken)

    def _known(self, taken: Mapping[str, Sequence[PlaceReadings]]) -> tuple[Spindle, SeatScatter, Estimate]:
        scatter = seat_scatter(self.spindle, taken.get("test_bar", ()))
        seated = with_scatter(self.spindle, scatter)
        found = [o for key, readings in taken.items() for o in observations(set_up(key), seated, readings)]
        return seated, scatter, estimate(spindle_model(seated), found)

    def settling(self, *, suggested: bool) -> list[tuple[float, float]]:
        """Minutes spent and doubt left after each lot, in the list's order or in the suggested one."""
        scale = doubt_scale(class_limit("ordinary", f"{self.spindle.kind}_work").limit_mm)
        todo, taken, spent, trace = self.lots(), {}, 0.0, []  # type: ignore[var-annotated]
        while True:
            seated, scatter, now = self._known(taken)
            trace.append((spent, total_doubt(now, questions(seated), scale)))
            if not todo:
                return trace
            at = self._best(todo, seated, scatter, now, scale) if suggested else 0
            s, lot = todo.pop(at)
            spent += lot_minutes(s, lot)
            taken.setdefault(s.key, []).extend(self.read(s, lot))

    def _best(
        self,
        todo: Sequence[tuple[AnySetUp, Lot]],
        seated: Spindle,
        scatter: SeatScatter,
        now: Estimate,
        scale: float,
    ) -> int:
        """The lot worth most a minute; of the bar's seatings only the next is on offer."""
        offered, bar = [], False
        for i, (s, lot) in enumerate(todo):
            if s.key == "test_bar":
                if bar:
                    continue
                bar = True
            rows = information(s, seated, lot.places) + (
                seat_information(seated, scatter) if s.key == "test_bar" else ()
            )
            offered.append(Candidate(str(i), rows, lot_minutes(s, lot)))
        return int(suggest(now, offered, questions(seated), scale)[0].key)


def lot_minutes(s: AnySetUp, lot: Lot) -> float:
    """Bench time of a lot, setting up included."""
    return s.minutes * len(lot.places) * s.wanted + s.setting_of(lot)


def minutes_to_settle(trace: Sequence[tuple[float, float]], share: float) -> float:
    """Minutes until a share of what the whole list can settle is settled."""
    first, last = trace[0][1], min(d for _, d in trace)
    wanted = first - share * (first - last)
    return next(minutes for minutes, doubt in trace if doubt <= wanted)
