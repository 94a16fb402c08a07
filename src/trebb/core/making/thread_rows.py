"""The operations that cut a screw's thread: dial, gears, tool, rest, passes."""

from __future__ import annotations

from trebb.core.machine import ScrewDrive
from trebb.core.making.operations import Row
from trebb.core.safety import LOCK_OUT
from trebb.core.threads import Form, Hand


def _way(drive: ScrewDrive) -> str:
    return (
        "Start at the relief groove and cut away from the headstock."
        if drive.thread.hand is Hand.LEFT
        else "Cut toward the headstock into the relief groove."
    )


def thread_rows(drive: ScrewDrive) -> list[Row]:
    """Roughing and finishing the thread, with what indexes several starts."""
    spec, way = drive.thread, _way(drive)
    starts = f" Each pass on all {spec.starts} starts before the next depth." if spec.starts > 1 else ""
    square = (
        "Groove to depth with the flat tool; widen to the play on one flank, by the compound along the bed. "
        if spec.form is Form.SQUARE
        else ""
    )
    rows: list[Row] = _begun()
    if spec.starts > 1:
        rows.append(
            (
                "index",
                f"Index {spec.starts} starts: try it in a trace",
                "A trace for each start, evenly spaced: measure the spaces before any depth is cut.",
                "between centres",
                "pointed tool",
                25,
                "",
                "index",
            )
        )
    return [
        *rows,
        (
            "thread_rough",
            "Rough the thread",
            f"{square}Tool narrower than the finisher by what is stated. {way}{starts}",
            "between centres, follower rest ahead of the tool",
            "roughing thread tool",
            45 * spec.starts,
            "Half nuts out before the collar: lock the carriage stop first.",
            "tool",
        ),
        (
            "thread",
            "Finish the thread",
            f"{way}{starts}",
            "between centres, follower rest",
            "finishing thread tool, ground to the flat",
            75 * spec.starts,
            "Let the work cool before the last passes.",
            "thread",
        ),
    ]


def _begun() -> list[Row]:
    return [
        (
            "groove",
            "Relief groove at the collar",
            "Just under the root, wider than a pitch, corners rounded.",
            "between centres",
            "round-cornered parting tool",
            15,
            "A parting tool set high or with much overhang binds.",
            "plain",
        ),
        (
            "gears",
            "Change gears on, cut a trace",
            "The train shown; a trace a thou (0.03 mm) deep, measured over ten threads before any depth is "
            "cut.",
            "between centres",
            "pointed tool",
            20,
            f"{LOCK_OUT} The gear cover is open.",
            "gears",
        ),
    ]
