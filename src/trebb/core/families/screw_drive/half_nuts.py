"""Half nuts: how deep they still engage, and what the thread dial may be believed."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.figure import Arrow, Figure, Item, Label, Role, box, line
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.units import UnitSystem, show_size

DEPTH_SD_MM = 0.03
SLACK_SD_MM = 0.03
WIDTH, HEIGHT = 640.0, 168.0


def places(drive: ScrewDrive) -> tuple[Place, ...]:
    """Both halves closed by the lever, then the thread dial rocked."""
    return (
        Place(
            "standoff, upper",
            "Upper half short of full depth",
            "depth rod from its back to the screw, less the half's own thickness",
        ),
        Place("standoff, lower", "Lower half short of full depth", "same, from below"),
        Place(
            "dial, over the keyway",
            "Thread dial's jump over the keyway",
            "screw turned once by hand, dial watched; as carriage travel",
        ),
        Place(
            "dial, rocked",
            "Thread dial rocked, carriage held",
            "dial's movement as carriage travel: one line is a known travel",
        ),
    )


def row(drive: ScrewDrive, place: str) -> Row:
    """How far a half stands off, the dial's slack, or its jump where its gear drops into a keyway, mm."""
    if place.startswith("standoff"):
        return Row({"standoff": 1.0}, DEPTH_SD_MM)
    return Row({"dial_drop" if "keyway" in place else "dial_slack": 1.0}, SLACK_SD_MM)


def figure(drive: ScrewDrive, place: str) -> Figure:
    """Two halves on the screw seen from its end, and the dial beside them."""
    items: list[Item] = [
        box(120, 66, 380, 36),
        *[line((126 + 10 * k, 102), (132 + 10 * k, 66), role=Role.SOFT) for k in range(37)],
        box(
            240,
            34,
            120,
            30,
            wash=place == "standoff, upper",
            role=Role.BLUE if place == "standoff, upper" else Role.INK,
        ),
        box(
            240,
            104,
            120,
            30,
            wash=place == "standoff, lower",
            role=Role.BLUE if place == "standoff, lower" else Role.INK,
        ),
        Label((300, 24), "upper half"),
        Label((300, 152), "lower half"),
        box(
            430,
            30,
            34,
            36,
            wash=place.startswith("dial"),
            role=Role.BLUE if place.startswith("dial") else Role.INK,
        ),
        Label((447, 24), "thread dial"),
    ]
    if place.startswith("standoff"):
        y = 34 if "upper" in place else 134
        items += [
            Arrow((380, y), (380, 66 if y < 84 else 102), both_ways=True),
            Label(
                (394, 52 if y < 84 else 124),
                "rod" if y < 84 else "depth rod to the crests",
                Role.BLUE,
                "left",
            ),
        ]
    else:
        items.append(Arrow((424, 20), (474, 20), both_ways=True))
    return Figure(WIDTH, HEIGHT, tuple(items))


def refusal(drive: ScrewDrive, place: str, raw: float, system: UnitSystem) -> str:
    """Why a reading cannot be. `raw` in the set-up's own unit."""
    depth = drive.thread.basic_height_mm
    if place.startswith("standoff") and raw > depth:
        return f"the thread is only {show_size(depth, system)} deep: they would not touch"
    return "that is more than a thread; is the unit right?" if raw > drive.thread.pitch_mm else ""


SET_UP = SetUp(
    key="half_nuts",
    measure=lambda drive, place: ("standoff" if place.startswith("standoff") else "dial_slack", 1.0),
    letter="H",
    short="Half nuts",
    title="Half nuts closed, thread dial rocked",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.01,
    minutes=2,
    setting_minutes=10,
    wanted=2,
    places=places,
    row=row,
    figure=figure,
    steps=(
        "Close the lever fully, chips picked out of the halves first.",
        "Depth rod from each half's back to the crests of the screw; take off the half's own thickness.",
        "Hold the carriage by hand; rock the thread dial and read what it moves at its rim.",
    ),
    cautions=(f"{LOCK_OUT} The half nuts drive the carriage.",),
    tells="How much thread still holds the carriage, and how far a line of the dial may be from a thread.",
    cannot_tell="Play along the screw is read by pushing and pulling the carriage.",
    settles="engagement of the half nuts",
    refusal=refusal,
    applies=lambda drive: drive.half_nuts,
)
