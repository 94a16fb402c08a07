"""Going through a practice job from intake to proof: for the demo without a display, for pictures and for tests."""

from __future__ import annotations

from collections.abc import Callable

from trebb.core.making.infeed import InfeedScheme
from trebb.core.survey import SET_UPS
from trebb.logbook.casework import SCREW, Case
from trebb.logbook.demo import simulated_reading
from trebb.logbook.entries import AnyBody, RemedyChosen, SizeTaken, StepDone

Record = Callable[[AnyBody], object]
MOST_SIZES = 12


def take_what_is_left(case: Case, phase: str, record: Record) -> int:
    """Take every reading still wanted from the simulated machine; returns how many."""
    taken = 0
    for s in SET_UPS:
        if phase == "after" and not s.is_proof:
            continue
        while (place := case.next_place(s, phase)) is not None:
            record(simulated_reading(case, s.key, place.key, phase))
            taken += 1
    return taken


def choose_least_work(case: Case, record: Record, reason: str) -> str:
    """Choose the remedy with fewest hours that is predicted inside the limit; the best there is otherwise."""
    inside = [(r, p) for r, p in case.predictions() if p.worst.high <= case.limit.limit_mm]
    best = min(inside, key=lambda rp: rp[0].hours) if inside else min(case.predictions(), key=lambda rp: rp[1].worst.value)
    record(RemedyChosen(assembly=SCREW, remedy=best[0].key, reason=reason))
    return best[0].key


def cut_parts(case: Case, record: Record, *, until_size: int = MOST_SIZES) -> None:
    """Do the routes of the chosen remedy's parts, sizes from the simulated micrometer."""
    for key in case.part_keys():
        for operation in case.route(key):
            if operation.kind == "thread":
                for _ in range(until_size):
                    value = case.simulated_size(key, InfeedScheme.COMPOUND)
                    assert value is not None
                    record(SizeTaken(part=key, operation=operation.key, what="over wires", value_mm=value, typed="simulated micrometer"))
                    if all(p.is_spring for p in case.passes(InfeedScheme.COMPOUND)):
                        break
            elif operation.kind == "nut_thread":
                play = case.simulated_size(key, InfeedScheme.COMPOUND)
                assert play is not None
                record(SizeTaken(part=key, operation=operation.key, what="play on its screw", value_mm=play, typed="simulated indicator"))
            record(StepDone(plan=key, step=operation.key))


def fit_together(case: Case, record: Record) -> None:
    """Do the assembly in its order."""
    for step in case.fit_order():
        record(StepDone(plan="fit", step=step.key))
