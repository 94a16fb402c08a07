"""Head against table: the indicator swept round, a square, and the table's own top."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.tram.subject import CORNERS, REACH_MM, Tram
from trebb.core.figure import Arrow, Circle, Figure, Item, Label, Role, Shape, box
from trebb.core.safety import LOCK_OUT, LONG_EDGE, TURN_BY_HAND
from trebb.core.survey.base import InstrumentKind, Place, SetUp, lots_by_group
from trebb.core.survey.ground import frame, indicator_on, words_at
from trebb.core.survey.reduction import differences
from trebb.core.survey.sharing import observe_sharing, one_zero, stirred_zero
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator
from trebb.core.units import UnitSystem

SWEEP_SD, SQUARE_SD, FEELER_SD = 0.0030, 0.0035, 0.008


def _fine(tram: Tram, place: str, raw: float, system: UnitSystem) -> str:
    return beyond_indicator(raw, TURN_MOST_MM, system)


def _spots(tram: Tram) -> tuple[str, ...]:
    return ("near", "far") if tram.has_knee else ("near",)


def sweep_places(tram: Tram) -> tuple[Place, ...]:
    """Four corners; on a mill with the table near the column, and run out."""
    notes = {
        "near": "table run in, near the column" if tram.has_knee else "table locked where it works",
        "far": "table run out to the front",
    }
    return tuple(
        Place(f"{spot}, {corner}", corner.capitalize(), notes[spot], spot)
        for spot in _spots(tram)
        for corner in CORNERS
    )


def sweep_row(tram: Tram, place: str) -> Row:
    """+ is the table toward the indicator. A spindle that leans to the right at its top sweeps a circle that
    is lower on its right, nearer the table.
    """
    spot, corner = place.split(", ")
    x, y = CORNERS[corner]
    coefficients = {"tilt_x": x * tram.radius_mm / 1000, "tilt_y": y * tram.radius_mm / 1000}
    if spot == "far":
        coefficients["droop"] = y * tram.radius_mm / 1000
    return Row({k: v for k, v in coefficients.items() if v}, SWEEP_SD)


def sweep_pairs(tram: Tram) -> list[tuple[str, str, str]]:
    """Right less left, back less front."""
    return [
        (f"{spot}, {words}", f"{spot}, {a}", f"{spot}, {b}")
        for spot in _spots(tram)
        for words, a, b in (("left to right", "left", "right"), ("front to back", "front", "back"))
    ]


def sweep_figure(tram: Tram, place: str) -> Figure:
    """An indicator on an arm in the spindle, over the table, from above and from the front."""
    spot, corner = place.split(", ")
    x, y = CORNERS[corner]
    items: list[Item] = [
        box(90, 120, 250, 14),
        box(196, 30, 38, 44),
        Shape(((215, 74), (215, 84), (215 + 62 * (x or 0.6), 84)), False),
    ]
    items += indicator_on(215 + 62 * (x or 0.6), 120, top=True)
    items += [
        box(400, 30, 200, 110),
        Circle((500, 85), 44, Role.SOFT),
        Circle((500 + 44 * x, 85 - 44 * y), 6, Role.BLUE, wash=True),
        Label((500, 156), "table from above, operator below", Role.SOFT),
    ]
    where = "zero here, at the left" if corner == "left" else f"zero at the left, swing to the {corner}"
    items.append(words_at(90, 22, f"{spot}: {where}"))
    return frame(items)


SWEEP: SetUp[Tram] = SetUp(
    key="tram_sweep",
    measure=lambda tram, place: ("tram_x", 2 * tram.radius_mm / REACH_MM),
    letter="A",
    short="Sweep",
    title="Indicator swept round over the table",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.4,
    setting_minutes=6,
    wanted=2,
    places=sweep_places,
    row=sweep_row,
    figure=sweep_figure,
    observe=observe_sharing(lambda: SWEEP, one_zero),
    results=differences(lambda: SWEEP, sweep_pairs),
    stir=stirred_zero,
    refusal=_fine,
    is_signed=True,
    lots=lots_by_group(sweep_places, "Sweep, {}".format, 6.0),
    steps=(
        "Indicator on an arm in the spindle, touching a ground plate on the table, slots bridged.",
        "Zero at the left, swing by hand to front, right and back; read each.",
        "Once round more. A spindle with slack in it reads another figure the second time.",
    ),
    cautions=(f"{LOCK_OUT} {TURN_BY_HAND}",),
    tells="Spindle against the table, left to right and front to back, whatever the indicator's zero.",
    cannot_tell="Head or table: the square tells whether the table travels square.",
    settles="head square to the table",
    family="tram",
)


def square_places(tram: Tram) -> tuple[Place, ...]:
    """A square's left and front face, top and bottom of the travel."""
    how = "knee down" if tram.has_knee else "quill down"
    return tuple(
        Place(
            f"{face}, {end}",
            end.capitalize(),
            f"indicator in the {'head' if tram.has_knee else 'quill'}, on the square's {_FACES[face]}"
            if end == "start"
            else f"{how}; + where it presses more",
            face,
        )
        for face in _FACES
        for end in ("start", "end")
    )


_FACES = {"side face": "left face", "front face": "front face"}


def square_row(tram: Tram, place: str) -> Row:
    """What the travel runs off the square. A travel that leans to the right at its top goes to the left on
    its way down: a knee takes the square with it onto the indicator at its left, a quill takes the indicator
    off.
    """
    face, end = place.split(", ")
    if end == "start":
        return Row({}, SQUARE_SD)
    reach = (1.0 if tram.has_knee else -1.0) * tram.square_mm / 1000
    return Row({"travel_x" if face == "side face" else "travel_y": reach}, SQUARE_SD)


def square_pairs(tram: Tram) -> list[tuple[str, str, str]]:
    """End of the travel less its start."""
    return [(face, f"{face}, start", f"{face}, end") for face in ("side face", "front face")]


def square_figure(tram: Tram, place: str) -> Figure:
    """A square on the table, the indicator travelling along it."""
    face, end = place.split(", ")
    items: list[Item] = [
        box(120, 130, 330, 14),
        Shape(
            ((300, 130), (300, 30), (324, 30), (324, 112), (400, 112), (400, 130)), True, Role.BLUE, wash=True
        ),
        box(210, 20, 40, 40),
    ]
    items += [
        Arrow((290, 50), (290, 118), both_ways=True),
        words_at(420, 50, f"{_FACES[face]}: {end} of {tram.square_mm:.0f} mm of travel"),
    ]
    return frame(items)


SQUARE: SetUp[Tram] = SetUp(
    key="square",
    measure=lambda tram, place: ("square_x", tram.square_mm / REACH_MM),
    letter="B",
    short="Square",
    title="Travel along a square",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.6,
    setting_minutes=8,
    wanted=2,
    places=square_places,
    row=square_row,
    figure=square_figure,
    observe=observe_sharing(lambda: SQUARE, one_zero),
    results=differences(lambda: SQUARE, square_pairs),
    stir=stirred_zero,
    refusal=_fine,
    is_signed=True,
    lots=lots_by_group(square_places, "Square, {}".format, 6.0),
    steps=(
        "A square or cylinder square on the clean table; indicator on its left face, from the left.",
        "Zero at the top, lock what is not moved, go down by the travel; read + where it presses more.",
        "The same on the front face, from the front; turn the square half round once if its own error is in "
        "doubt.",
    ),
    cautions=("A knee is heavy: its nut and screw must hold it; hands out from under.",),
    tells="Whether knee (or quill and column) travel square to the table.",
    cannot_tell="The square's own error, unless it is turned round.",
    settles="travel square to the table",
    family="tram",
)


SAG: SetUp[Tram] = SetUp(
    key="table_top",
    measure=lambda tram, place: ("sag", 1.0),
    letter="C",
    short="Table",
    title="Straightedge on the table",
    instrument=InstrumentKind.FEELERS,
    unit="mm",
    resolution_mm=0.01,
    minutes=0.8,
    setting_minutes=4,
    wanted=2,
    places=lambda tram: (Place("middle", "Middle of the table", "the thickest blade that enters"),),
    row=lambda tram, place: Row({"sag": 1.0}, FEELER_SD),
    refusal=_fine,
    figure=lambda tram, place: frame(
        [
            box(90, 100, 440, 30),
            box(90, 78, 440, 14, role=Role.BLUE),
            Arrow((310, 150), (310, 100)),
            words_at(330, 154, "straightedge along the table; the blade in the middle"),
        ]
    ),
    steps=(
        "Stone the table's burrs first; wipe it.",
        "Straightedge along it on its middle.",
        "Find the thickest blade that enters below it.",
    ),
    cautions=(LONG_EDGE,),
    tells="Whether the table is worn hollow where the vice stands.",
    cannot_tell="Nothing finer than a blade.",
    settles="the table's top",
    family="tram",
)


# travel of table and saddle -------------------------------------------------------------------

TRAVEL_SD = 0.0035
_ENDS = {"table": ("left end", "right end"), "saddle": ("run out", "run in")}


def travel_places(tram: Tram) -> tuple[Place, ...]:
    """Both ends of the table's travel, and of the saddle's on the knee."""
    return tuple(
        Place(f"{what}, {end}", end.capitalize(), "+ higher than in the middle of its travel", what)
        for what, ends in _ENDS.items()
        for end in ends
    )


def travel_row(tram: Tram, place: str) -> Row:
    """How much higher the parallel reads at an end than in the middle of the travel."""
    return Row({"ends_x" if place.startswith("table") else "ends_y": 1.0}, TRAVEL_SD)


def travel_figure(tram: Tram, place: str) -> Figure:
    """An indicator in the head on a parallel that moves with the table."""
    what, end = place.split(", ")
    shift = 90 if end in ("left end", "run out") else -90
    items: list[Item] = [
        box(140 + shift, 104, 300, 16),
        box(180 + shift, 92, 220, 12, role=Role.BLUE, wash=True),
        box(270, 20, 40, 34),
        *indicator_on(290, 92, top=True),
    ]
    items += [
        Arrow((560, 112), (600, 112), both_ways=True),
        words_at(
            320,
            150,
            f"{what} at its {end}; zero in the middle of the travel, a ground parallel under the indicator",
            anchor="middle",
        ),
    ]
    return frame(items)


TRAVEL: SetUp[Tram] = SetUp(
    key="travel",
    measure=lambda tram, place: ("sag", 1.0),
    letter="D",
    short="Travel",
    title="Table and saddle along their travel",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.7,
    setting_minutes=6,
    wanted=2,
    places=travel_places,
    row=travel_row,
    figure=travel_figure,
    refusal=_fine,
    applies=lambda tram: tram.has_knee,
    lots=lots_by_group(travel_places, "Travel of the {}".format, 6.0),
    steps=(
        "A ground parallel on the table along the travel; indicator in the spindle on it, zero in the middle "
        "of the travel.",
        "Run the table to its left end, then to its right end; read + where the parallel has risen under the "
        "spindle, − where it has fallen. Gibs as they run, locks slack.",
        "The same with the saddle, run in and out on the knee.",
    ),
    cautions=("A table run out hangs heavy: hands out from under it.",),
    tells="Whether the table tips: ends that droop lift it under the spindle, and a long face comes out "
    "crowned; a reading that falls at both ends is a hollow face.",
    cannot_tell="Worn gibs tip it alike: set them first.",
    is_signed=True,
    settles="straightness of table and saddle",
    family="tram",
)


# column of a drill ----------------------------------------------------------------------------


def column_places(tram: Tram) -> tuple[Place, ...]:
    """A square on the base to the left of the column, then before it; below and above."""
    return tuple(
        Place(
            f"{side}, {end}",
            end.capitalize(),
            f"indicator on a square that stands {_STANDS[side]}"
            if end == "below"
            else f"{tram.column_mm:.0f} mm higher; + where it presses more",
            side,
        )
        for side in _STANDS
        for end in ("below", "above")
    )


_STANDS = {"side": "left of the column", "front": "before the column"}


def column_row(tram: Tram, place: str) -> Row:
    """How far the column has come toward the indicator, higher up: one that leans to the right goes from the
    square at its left, one that leans to the back from the square before it.
    """
    side, end = place.split(", ")
    if end == "below":
        return Row({}, SQUARE_SD)
    return Row({"column_x" if side == "side" else "column_y": -tram.column_mm / 1000}, SQUARE_SD)


def column_figure(tram: Tram, place: str) -> Figure:
    """A square on the base, an indicator on it against the column."""
    side, end = place.split(", ")
    y = 96.0 if end == "below" else 40.0
    items: list[Item] = [
        box(150, 140, 320, 14),
        box(300, 16, 30, 124),
        Shape(
            ((220, 140), (220, 20), (236, 20), (236, 124), (270, 124), (270, 140)), True, Role.BLUE, wash=True
        ),
    ]
    items += [
        Arrow((240, y), (298, y)),
        words_at(350, y + 4, f"square {_STANDS[side]}, {end}"),
    ]
    return frame(items)


def column_pairs(tram: Tram) -> list[tuple[str, str, str]]:
    """Above less below."""
    return [(f"{side} of the column", f"{side}, below", f"{side}, above") for side in ("side", "front")]


COLUMN: SetUp[Tram] = SetUp(
    key="column",
    measure=lambda tram, place: ("column_x", tram.column_mm / REACH_MM),
    letter="D",
    short="Column",
    title="Column against a square on the base",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.6,
    setting_minutes=8,
    wanted=2,
    places=column_places,
    row=column_row,
    figure=column_figure,
    applies=lambda tram: not tram.has_knee,
    observe=observe_sharing(lambda: COLUMN, one_zero),
    results=differences(lambda: COLUMN, column_pairs),
    stir=stirred_zero,
    refusal=_fine,
    is_signed=True,
    lots=lots_by_group(column_places, "Column, {}".format, 8.0),
    steps=(
        "A square on the clean base, left of the column; indicator on its blade, against the column.",
        "Zero below, slide it up by the stated length; read + where it presses more.",
        "The same with the square before the column.",
    ),
    cautions=("The table is heavy: clamp it high on the column first.",),
    tells="Whether the column stands square to its base: then table and head can be told apart.",
    cannot_tell="A bent column leans differently at each height.",
    settles="column square to the base",
    family="tram",
)
