"""The operations that cut a screw's thread: dial, gears, tool, rest, passes."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.gears.trains import exact_lead
from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row, dial_of
from trebb.core.making.thread_dial import DialRule, dial_rule
from trebb.core.parts.base import Part
from trebb.core.safety import LOCK_OUT
from trebb.core.threads import Form, Hand

# Two schools of knowing when a thread is done; and what is done where the dial's line went by.
GAUGED = (
    "Its size over wires tells how much is left; the nut it is for, made first, is the last gauge: it "
    "must run over all of it by hand."
)
MISSED = (
    "A line of the thread dial missed: do not close the half nuts late. Let the carriage run on, draw the "
    "tool out, stop, come back, take the line again; a tool that was moved is picked up in the groove first."
)


def _way(drive: ScrewDrive) -> str:
    return (
        "Start at the relief groove and cut away from the headstock."
        if drive.thread.hand is Hand.LEFT
        else "Cut toward the headstock into the relief groove."
    )


def stop_words(part: Part, drive: ScrewDrive) -> str:
    """Where the cut must end, by what stands beyond it on this part."""
    before, after = _beside_thread(part)
    if drive.thread.hand.value == "left":
        beyond = f"the {after} and the tailstock’s centre" if after else "the tailstock’s centre"
    else:
        beyond = f"the {before}" if before else "the driver"
    return f"Half nuts out before {beyond}: lock the carriage stop first."


def _beside_thread(part: Part) -> tuple[str, str]:
    """What stands before the thread's groove and after the thread, by name; "" for nothing."""
    names = [s.label if s.kind != "groove" else "" for s in part.sections]
    at = next((i for i, s in enumerate(part.sections) if s.kind == "thread"), -1)
    before = next((name for name in reversed(names[: max(at, 0)]) if name), "")
    after = names[at + 1] if 0 <= at < len(names) - 1 else ""
    return before, after


def thread_rows(drive: ScrewDrive, part: Part) -> list[Row]:
    """Roughing and finishing the thread of a part, with what indexes several starts."""
    spec, way = drive.thread, _way(drive)
    starts = f" Each pass on all {spec.starts} starts before the next depth." if spec.starts > 1 else ""
    square = (
        "Groove to depth with the flat tool; widen to the play on one flank, by the compound along the bed. "
        if spec.form is Form.SQUARE
        else ""
    )
    rows: list[Row] = _begun(_beside_thread(part)[0])
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
            stop_words(part, drive),
            "tool",
        ),
        (
            "thread",
            "Finish the thread",
            f"{way}{starts} {GAUGED}",
            "between centres, follower rest",
            "finishing thread tool, ground to the flat",
            75 * spec.starts,
            f"Let the work cool before the last passes. {MISSED}",
            "thread",
        ),
    ]


def _begun(beside: str) -> list[Row]:
    return [
        (
            "groove",
            f"Relief groove at the {beside}" if beside else "Relief groove",
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


def lathe_dial_rule(shop: Workshop, drive: ScrewDrive) -> DialRule:
    """Where this lathe picks up this thread, exactly."""
    return dial_rule(dial_of(shop), exact_lead(drive.thread.lead_mm))
