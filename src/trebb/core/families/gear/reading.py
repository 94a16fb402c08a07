"""A gear read: rocked in mesh, tooth by tooth, turned on its seat, its play, its cone, blue on its teeth."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence

import numpy as np
from msgspec.structs import replace

from trebb.core.condition import Observation, Row
from trebb.core.families.gear.subject import Gear
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, Shape, box, line
from trebb.core.gears import bevel
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, SetUp
from trebb.core.survey.sizes import beyond_indicator
from trebb.core.survey.steps import coarser_sd
from trebb.core.survey.turns import coarsest

TEETH_STEP_MM = 0.01  # what the noise of a tooth is stated with
READ_SD_MM, QUARTER_SD_MM, TOOTH_SD_MM, PLAY_SD_MM = 0.006, 0.014, 0.008, 0.005
MOST_LASH_MM = 5.0
WIDTH, HEIGHT = 640.0, 164.0
# A space of a gear with a pressure angle φ opens by 2 tan φ for each mm of depth.


def tooth_words(number: int) -> str:
    """A tooth as it stands in a place; the first is 1."""
    return f"tooth {number}"


def tooth_number(place: str) -> int:
    """The number of a tooth's place."""
    return int(place.rsplit(" ", 1)[1])


def _teeth(gear: Gear, *, every: bool) -> tuple[int, ...]:
    return tuple(range(1, gear.teeth + 1)) if every else tuple(n + 1 for n in bevel.quarter_teeth(gear.teeth))


def _place(number: int, note: str = "") -> Place:
    return Place(tooth_words(number), f"Tooth {number}", note)


def quarter_places(gear: Gear) -> tuple[Place, ...]:
    """Four quarters of the gear."""
    return tuple(
        _place(n, "a quarter turn on" if i else "marked") for i, n in enumerate(_teeth(gear, every=False))
    )


def turn_row(gear: Gear, number: int, sd: float, *, seat: float = 1.0, pinion: bool = False) -> Row:
    """Lash at a tooth: the mean, the gear's own turn, its seat's (turned 180° against it: the other sign),
    and the pinion's where it is told apart.
    """
    t = 2 * math.pi * (number - 1) / gear.teeth
    row = {
        "lash": 1.0,
        "once.x": math.cos(t),
        "once.y": math.sin(t),
        "seat.x": seat * math.cos(t),
        "seat.y": seat * math.sin(t),
    }
    if pinion:
        p = t * gear.teeth / gear.mate_teeth
        row |= {"pinion.x": math.cos(p), "pinion.y": math.sin(p)}
    return Row(row, sd)


def rock_row(gear: Gear, place: str) -> Row:
    """Rocked at a quarter, in mm at the pitch circle: what the shaft's play lets the centres spread comes
    with it.
    """
    row = turn_row(gear, tooth_number(place), QUARTER_SD_MM)
    return Row({**row.coefficients, "play": 2 * math.tan(math.radians(gear.angle_deg))}, row.noise_sd)


def _at_pitch(gear: Gear) -> float:
    """From the indicator's radius to the pitch circle."""
    return gear.pitch_dia_mm / 2 / gear.rocked_at_mm


def face_items(gear: Gear, *, blue: int | None = None, mate: bool = True) -> list[Item]:
    """A gear's face with its mate, few teeth drawn for many; one space washed."""
    x, y, r, count = 190.0, 82.0, 58.0, 24
    points: list[tuple[float, float]] = []
    for k in range(count):
        for share, radius in ((0.05, r - 7), (0.28, r + 5), (0.52, r + 5), (0.75, r - 7)):
            a = 2 * math.pi * (k + share) / count - math.pi / 2
            points.append((x + radius * math.cos(a), y + radius * math.sin(a)))
    items: list[Item] = [Shape(tuple(points), True), Circle((x, y), 14)]
    if mate:
        items += [Circle((x + r + 42, y), 40, Role.SOFT), Circle((x + r + 42, y), 10, Role.SOFT)]
    if blue is not None:
        a = 2 * math.pi * (blue - 1) / gear.teeth - math.pi / 2
        items.append(Circle((x + r * math.cos(a), y + r * math.sin(a)), 8, Role.BLUE))
    return items


def _frame(items: list[Item], *words: str) -> Figure:
    labels: list[Item] = [Label((350, 40 + 24 * i), w, Role.BLUE, "left") for i, w in enumerate(words)]
    return Figure(WIDTH, HEIGHT, (*items, *labels))


def _rock_figure(gear: Gear, place: str) -> Figure:
    items = face_items(gear, blue=tooth_number(place))
    items += [Indicator((132, 82), (-1, 0.0001)), Arrow((120, 48), (112, 118), both_ways=True)]
    return _frame(
        items,
        "mate held; rocked both ways, lightly",
        "square to the radius: the whole swing",
        f"at {place}, marked with chalk",
    )


ROCK: SetUp[Gear] = SetUp(
    key="gear_rock",
    measure=lambda gear, place: ("lash", 1.0),
    letter="L",
    short="Rock",
    title="Gear rocked in mesh, at four quarters",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=1.0,
    setting_minutes=5,
    wanted=1,
    places=quarter_places,
    row=rock_row,
    reduce=lambda gear, place, raw: raw * _at_pitch(gear),
    restore=lambda gear, place, value: value / _at_pitch(gear),
    figure=_rock_figure,
    refusal=lambda gear, place, raw, system: beyond_indicator(raw, MOST_LASH_MM, system),
    steps=(
        "Mate held fast; indicator square to the radius, at the radius stated.",
        "Rock lightly both ways: read the whole swing. Turn a quarter, and again.",
        "Four readings at least: one alone may stand at the tightest or the widest place.",
    ),
    cautions=(LOCK_OUT,),
    tells="The mean lash, and roughly what goes once a turn.",
    cannot_tell="Tooth errors come with it; and the shaft's own play, until that is pushed.",
    settles="the lash",
    family="gear",
    view="gear",
)


def teeth_places(gear: Gear) -> tuple[Place, ...]:
    """Every tooth space, or four quarters."""
    return tuple(_place(n) for n in _teeth(gear, every=gear.every))


def teeth_row(gear: Gear, place: str) -> Row:
    """Lash in a space; by a gauge, how much wider than its stack the space is."""
    row = turn_row(gear, tooth_number(place), TOOTH_SD_MM, pinion=gear.has_pinion_turn)
    if gear.read_as != "gauge":
        return row
    return Row({("thin" if k == "lash" else k): c for k, c in row.coefficients.items()}, row.noise_sd)


def teeth_reduce(gear: Gear, place: str, raw: float) -> float:
    """To the pitch circle: a feeler is / cos φ; a gauge that stands lower by so much is in a space wider by
    2 tan φ of it. In mm.
    """
    if gear.read_as == "flank":
        return raw / math.cos(math.radians(gear.angle_deg))
    if gear.read_as == "gauge":
        return 2 * math.tan(math.radians(gear.angle_deg)) * raw
    return raw


def teeth_restore(gear: Gear, place: str, value: float) -> float:
    """Back to what is read. In mm."""
    return value / teeth_reduce(gear, place, 1.0)


def set_up_readings(key: str, gear: Gear, read: PlaceReadings) -> float:
    """Mean of a place's readings at the pitch circle, of the teeth or of the quarters rocked."""
    mean = sum(read.values) / len(read.values)
    return teeth_reduce(gear, read.place, mean) if key == "gear_teeth" else mean * _at_pitch(gear)


def teeth_split(gear: Gear, taken: Sequence[PlaceReadings]) -> bevel.TeethRead | None:
    """The readings of the teeth split by least squares, mm at the pitch circle, teeth counted from 0; None
    under four.
    """
    read = {
        tooth_number(p.place) - 1: teeth_reduce(gear, p.place, sum(p.values) / len(p.values))
        for p in taken
        if p.values
    }
    if len(read) < 4:
        return None
    numbers = sorted(read)
    return bevel.split_teeth(
        gear.teeth, numbers, [read[n] for n in numbers], gear.mate_teeth if gear.has_pinion_turn else 0
    )


def teeth_observe(gear: Gear, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Each tooth, as noisy as the teeth themselves are; and how far they stand against each other.

    With four and more left over, how uneven the teeth are is read off what the two turns leave, so that
    a gear with coarse teeth does not claim a runout too closely.
    """
    split = teeth_split(gear, taken)
    sd = TOOTH_SD_MM
    if split is not None and split.freedom >= 4:
        sd = max(0.5 * TOOTH_SD_MM, split.own_sd)
    sd = math.hypot(sd, coarser_sd(taken, TEETH_STEP_MM))
    found = [
        Observation(
            replace(teeth_row(gear, p.place), noise_sd=sd),
            teeth_reduce(gear, p.place, sum(p.values) / len(p.values)),
        )
        for p in taken
        if p.values
    ]
    if split is not None and split.freedom >= 4 and gear.every:
        # Most less least of n readings grows and shrinks with chance: about a fifth of it at these numbers.
        # A coarse needle's marks alone make teeth of one size differ.
        step = max(coarsest(taken), TEETH_STEP_MM)
        theirs = math.sqrt(max(0.0, 1 - step**2 / 12 / max(split.own_sd, 1e-9) ** 2))
        sd = math.hypot(max(READ_SD_MM, 0.2 * split.own_spread), (1 - theirs) * split.own_spread / 2)
        found.append(Observation(Row({"own": 1.0}, sd), theirs * split.own_spread))
    return found


# Most less least of so many teeth as gears have, in standard deviations of one.
SPREAD_SDS = 4.5


def teeth_stir(
    gear: Gear, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """What a simulated tooth is off its fellows, the same each time it is read."""
    return condition.get("own", 0.0) / SPREAD_SDS * float(rng_of(place).standard_normal())


def _teeth_figure(gear: Gear, place: str) -> Figure:
    n = tooth_number(place)
    if gear.read_as == "gauge":
        y = 118.0
        items: list[Item] = [
            Shape(((60, y), (90, 60), (120, 60), (150, y), (180, y), (210, 60), (240, 60), (270, y))),
            Shape(((128, 44), (202, 44), (176, y - 6), (154, y - 6)), True, Role.BLUE),
            box(300, 44, 40, y - 44, role=Role.SOFT),
            Indicator((165, 44), (0, -1)),
            line((20, y), (350, y), role=Role.HATCH),
        ]
        return Figure(
            WIDTH,
            HEIGHT,
            (
                *items,
                Label((400, 70), f"gauge in space {n}", Role.BLUE, "left"),
                Label((400, 94), "lower than the stack: positive", Role.BLUE, "left"),
            ),
        )
    how = "feeler between the flanks" if gear.read_as == "flank" else "gear rocked against the held mate"
    return _frame(face_items(gear, blue=n), how, f"at {place} of {gear.teeth}", "the first is marked")


TEETH: SetUp[Gear] = SetUp(
    key="gear_teeth",
    asks=("read_as", "every"),
    measure=lambda gear, place: ("lash", 1.0),
    letter="T",
    short="Teeth",
    title="Every tooth space, one by one",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.002,
    minutes=0.5,
    setting_minutes=8,
    wanted=1,
    places=teeth_places,
    row=teeth_row,
    reduce=teeth_reduce,
    restore=teeth_restore,
    observe=teeth_observe,
    stir=teeth_stir,
    figure=_teeth_figure,
    refusal=lambda gear, place, raw, system: beyond_indicator(raw, MOST_LASH_MM, system),
    may_be_less=lambda gear: gear.read_as == "gauge",
    steps=(
        "Mark the first tooth. State how a space is read: lash, feeler, or a gauge against a stack.",
        "Turn one tooth on, read, and so round; four quarters are the least, every one tells its teeth.",
        "A gear left in its housing shows its bearing too: turn it on its seat to tell them apart.",
    ),
    cautions=(LOCK_OUT,),
    tells="Mean, spread, what goes once a turn, the pinion's turn, and which teeth are odd.",
    cannot_tell="At four quarters the teeth's own errors come with what goes once a turn.",
    settles="runout against tooth errors",
    family="gear",
    view="gear",
)

SEAT: SetUp[Gear] = SetUp(
    key="gear_seat",
    measure=lambda gear, place: ("runout", 1.0),
    letter="S",
    short="Reseat",
    title="Gear turned half round on its seat, four quarters again",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=1.0,
    setting_minutes=20,
    wanted=1,
    is_optional=True,
    places=quarter_places,
    row=lambda gear, place: turn_row(gear, tooth_number(place), QUARTER_SD_MM, seat=-1.0),
    reduce=lambda gear, place, raw: raw * _at_pitch(gear),
    restore=lambda gear, place, value: value / _at_pitch(gear),
    figure=_rock_figure,
    results=lambda gear, taken: [],  # it tells two parts of one figure apart
    refusal=lambda gear, place, raw, system: beyond_indicator(raw, MOST_LASH_MM, system),
    applies=lambda gear: gear.key_mm == 0,
    steps=(
        "Gear off, half a turn, on again; shaft and mate as they were.",
        "The same teeth as before, rocked as before.",
        "What stays with the teeth is the gear's; what changed sides is its seat's or bearing's.",
    ),
    cautions=(LOCK_OUT,),
    tells="Whether the gear or what it sits on runs out.",
    cannot_tell="Nothing on a keyed gear: it goes on one way.",
    settles="whose the runout is",
    family="gear",
    view="gear",
    is_proof=False,
)

PLAY: SetUp[Gear] = SetUp(
    key="gear_play",
    measure=lambda gear, place: ("play", 1.0),
    letter="P",
    short="Play",
    title="Play of the gear on its shaft",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=1.0,
    setting_minutes=3,
    wanted=2,
    places=lambda gear: (Place("push", "Pushed and pulled", "away from its mate, then toward it"),),
    row=lambda gear, place: Row({"play": 1.0}, PLAY_SD_MM),
    figure=lambda gear, place: _frame(
        [*face_items(gear), Indicator((132, 82), (-1, 0.0001)), Arrow((190, 82), (150, 82), both_ways=True)],
        "on the rim, opposite the mesh",
        "push toward the mate: zero; pull: read",
    ),
    refusal=lambda gear, place, raw, system: beyond_indicator(raw, MOST_LASH_MM, system),
    steps=(
        "Indicator on the rim opposite the mesh.",
        "Push toward the mate: zero. Pull: read. Not turning it between.",
        "Twice: it must come back to the same.",
    ),
    cautions=(LOCK_OUT,),
    tells="How much of the rocking is the bore's and the shaft's.",
    cannot_tell="Whether bore or shaft wore.",
    settles="play of the bore",
    family="gear",
)

TRAVERSE: SetUp[Gear] = SetUp(
    key="gear_cone",
    measure=lambda gear, place: ("cone", 1.0),
    letter="C",
    short="Cone",
    title="Pitch cone by a traverse",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.002,
    minutes=1.0,
    setting_minutes=12,
    wanted=2,
    is_optional=True,
    is_signed=True,
    places=lambda gear: (Place("traverse", "Small end less large end", "along the gauge in a space"),),
    row=lambda gear, place: Row({"cone": 1.0}, 0.004),
    figure=lambda gear, place: Figure(
        WIDTH,
        HEIGHT,
        (
            Shape(((60, 130), (200, 40), (240, 60), (240, 130)), True),
            line((40, 144), (330, 30), role=Role.HATCH),
            Indicator((150, 72), (-0.4, -1)),
            Arrow((110, 84), (190, 34), both_ways=True),
            Label((350, 60), "head set to the pitch angle:", Role.BLUE, "left"),
            Label((350, 84), "the gauge's line runs level", Role.BLUE, "left"),
        ),
    ),
    applies=lambda gear: gear.is_bevel,
    steps=(
        "Set the head or a sine bar to the pitch angle; the gauge in a space.",
        "Zero at the large end, traverse to the small one, read there.",
        "Level is right; a difference is an angle of the blank, or a gauge that does not seat.",
    ),
    cautions=(LOCK_OUT,),
    tells="Whether the teeth lie on the pitch cone, before their heights are believed.",
    cannot_tell="Which of the two ends is wrong.",
    settles="the cone angle",
    family="gear",
)

CONTACT: SetUp[Gear] = SetUp(
    key="gear_contact",
    letter="B",
    short="Blue",
    title="Contact on a tooth, with blue",
    instrument=InstrumentKind.EYE,
    unit="mm",
    resolution_mm=0.001,
    minutes=8,
    setting_minutes=5,
    wanted=1,
    places=lambda gear: (),
    row=lambda gear, place: Row({}, 1.0),
    figure=lambda gear, place: _frame(
        face_items(gear),
        "thin blue on three teeth of the gear",
        "turned by hand under a light drag",
        "paint below where it rubbed off",
    ),
    observe=lambda gear, taken: [],
    steps=(
        "Thin blue on three teeth of the gear, mate clean.",
        "Turn by hand to and fro under a light drag.",
        "Paint one tooth's flank below: tip above, root below, the large end (heel) at the left.",
    ),
    cautions=(LOCK_OUT,),
    tells="Which of the two stands too deep or too far out, and whether the shafts cross.",
    cannot_tell="By how much: the lash does.",
    settles="why it whines",
    family="gear",
    view="contact",
    is_proof=False,
)
SET_UPS = (ROCK, TEETH, SEAT, PLAY, TRAVERSE, CONTACT)
