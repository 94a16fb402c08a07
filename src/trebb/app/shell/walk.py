"""Going through a practice job from intake to proof: for the demo without a display, for pictures and for
tests.
"""

from __future__ import annotations

from collections.abc import Callable

from trebb.core.making.infeed import InfeedScheme
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.drive_case import DriveCase
from trebb.logbook.demo.jobs import readings_left
from trebb.logbook.log.entries import RemedyChosen, SizeTaken, StepDone

Record = Callable[..., object]  # takes one gesture's bodies
MOST_SIZES = 12


def take_what_is_left(case: Case, phase: str, record: Record) -> int:
    """Take every reading still wanted from the simulated machine; returns how many."""
    bodies = readings_left(case, phase)
    if bodies:
        record(*bodies)
    return len(bodies)


def choose_least_work(case: Case, record: Record, reason: str) -> str:
    """Choose the remedy that is advised: least work that is predicted inside every limit."""
    best = case.advised() or case.least_left()
    record(RemedyChosen(assembly=case.assembly_key, remedy=best.key, reason=reason))
    return best.key


def cut_parts(case: Case, record: Record, *, until_size: int = MOST_SIZES) -> None:
    """Do the routes of the chosen remedy's parts, sizes from the simulated micrometer."""
    for key in case.part_keys():
        for operation in case.route(key):
            if operation.kind == "thread":
                for _ in range(until_size):
                    value = case.simulated_size(key, InfeedScheme.COMPOUND)
                    assert value is not None
                    record(
                        SizeTaken(
                            part=case.part_name(key),
                            operation=operation.key,
                            what=case.thread_size_words if isinstance(case, DriveCase) else "",
                            value_mm=value,
                            typed="simulated micrometer",
                        )
                    )
                    if isinstance(case, DriveCase) and all(
                        p.is_spring for p in case.passes(InfeedScheme.COMPOUND)
                    ):
                        break
            elif operation.kind == "nut_thread":
                play = case.simulated_size(key, InfeedScheme.COMPOUND)
                assert play is not None
                record(
                    SizeTaken(
                        part=case.part_name(key),
                        operation=operation.key,
                        what=case.nut_size_words if isinstance(case, DriveCase) else "",
                        value_mm=play,
                        typed="simulated indicator",
                    )
                )
            elif operation.target is not None:
                for _ in range(2):
                    size = case.simulated_size(key, InfeedScheme.COMPOUND, operation.key)
                    assert size is not None
                    record(
                        SizeTaken(
                            part=case.part_name(key),
                            operation=operation.key,
                            what=operation.target.what,
                            value_mm=size,
                            typed="simulated micrometer",
                        )
                    )
            record(StepDone(plan=case.part_name(key), step=operation.key))


def fit_together(case: Case, record: Record) -> None:
    """Do the assembly in its order."""
    for step in case.fit_order():
        record(StepDone(plan=case.fit_plan, step=step.key))
