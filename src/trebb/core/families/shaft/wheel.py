"""A wheel, dial or lever on its shaft: how far it rocks, and the sizes of what holds it."""

from __future__ import annotations

from collections.abc import Sequence

from trebb.core.condition import Z95, Row
from trebb.core.families.shaft.figure import AXIS, HALF, frame, side, wheel, words_at
from trebb.core.families.shaft.subject import PINS, Shaft, key_rock
from trebb.core.figure import Arrow
from trebb.core.safety import DRIFT, LOCK_OUT
from trebb.core.shafts.driving import lash_mm
from trebb.core.shafts.squares import slop_deg
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, Result, SetUp
from trebb.core.survey.sizes import beyond_indicator
from trebb.core.units import UnitSystem, show_size

ROCK_SD_MM, WIDTH_SD_MM, MOUTH_SD_MM = 0.010, 0.010, 0.020
MOST_ROCK_MM = 60.0


def _socket(shaft: Shaft) -> str:
    return "pin" if shaft.drive in PINS else "square" if shaft.drive == "square" else "key"


def rock_places(shaft: Shaft) -> tuple[Place, ...]:
    """Rocked as it is, and with the shaft held."""
    return (
        Place("free", "As it is", "rocked both ways, the rest of the train left alone"),
        Place("held", "Shaft held", "the shaft itself held fast beside the hub"),
    )


def rock_row(shaft: Shaft, place: str) -> Row:
    """With the shaft held its joint alone; free, the joint and what lies beyond."""
    return Row({"joint": 1.0} if place == "held" else {"joint": 1.0, "train": 1.0}, ROCK_SD_MM)


ROCK: SetUp[Shaft] = SetUp(
    key="shaft_rock",
    measure=lambda shaft, place: ("rock" if place == "free" else "joint", 1.0),
    letter="R",
    short="Rock",
    title="Wheel rocked on its shaft",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=4,
    wanted=3,
    places=rock_places,
    row=rock_row,
    figure=lambda shaft, place: frame(
        [
            *wheel(socket=_socket(shaft)),
            words_at(330, 60, "indicator square to the radius, both ways, lightly"),
            words_at(
                330,
                84,
                "the shaft held fast beside the hub"
                if place == "held"
                else "the rest of the train left alone",
            ),
        ]
    ),
    refusal=lambda shaft, place, raw, system: beyond_indicator(raw, MOST_ROCK_MM, system),
    steps=(
        "Indicator at the stated radius, square to it. Rock lightly both ways: read the whole swing.",
        "Then with the shaft held fast beside the hub: what is left is the joint alone.",
        "It may feel tight at the end and rock when home: try it where it runs.",
    ),
    cautions=(LOCK_OUT,),
    tells="Lost motion of wheel on shaft, apart from what lies beyond the shaft.",
    cannot_tell="Held only, what the train adds; free only, whose it is: a sum.",
    settles="where the lost motion is",
    family="shaft",
)


def key_places(shaft: Shaft) -> tuple[Place, ...]:
    """Key, and both slots."""
    return (
        Place("key", "Key's width"),
        Place("shaft", "Slot in the shaft", "over its worn sides"),
        Place("hub", "Slot in the wheel", "over its worn sides"),
    )


def key_row(shaft: Shaft, place: str) -> Row:
    """Widths: of the key, and of each slot over it."""
    return Row({"key": 1.0} if place == "key" else {"key": 1.0, f"slot.{place}": 1.0}, WIDTH_SD_MM)


def key_results(shaft: Shaft, taken: Sequence[PlaceReadings]) -> list[Result]:
    """What key and slots let the wheel rock at its radius, mm, where all three are read."""
    read = {p.place: sum(p.values) / len(p.values) for p in taken if p.values}
    if not {"key", "shaft", "hub"} <= set(read):
        return []
    share = 2 * shaft.wheel_mm / shaft.dia_mm
    loose = max(0.0, read["shaft"] - read["key"]) + max(0.0, read["hub"] - read["key"])
    return [
        Result(
            "rock at the radius",
            share * loose,
            Z95 * share * WIDTH_SD_MM * 2,
            Row(dict(key_rock(shaft)), WIDTH_SD_MM),
        )
    ]


def square_results(shaft: Shaft, taken: Sequence[PlaceReadings]) -> list[Result]:
    """What the square turns at the radius before it drives, mm."""
    read = {p.place: sum(p.values) / len(p.values) for p in taken if p.values}
    if not {"square", "socket"} <= set(read):
        return []
    slop = min(90.0, slop_deg(read["square"], read["socket"]))
    share = 2 * shaft.wheel_mm / read["square"]
    return [Result("at the radius", lash_mm(slop, shaft.wheel_mm), Z95 * share * WIDTH_SD_MM * 2)]


def _key_refusal(shaft: Shaft, place: str, raw: float, system: UnitSystem) -> str:
    if raw < 0.9 * shaft.dia_mm:
        return ""
    return f"a key is narrower than its shaft of {show_size(shaft.dia_mm, system)}; is the unit right?"


KEYS: SetUp[Shaft] = SetUp(
    key="shaft_keys",
    measure=lambda shaft, place: ("keyed", 1.0),
    letter="K",
    short="Key",
    title="Key and its slots",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=3,
    wanted=2,
    places=key_places,
    row=key_row,
    results=key_results,
    figure=lambda shaft, place: frame(
        [
            *wheel(rocking=False),
            Arrow((150, 63), (184, 63)),
            Arrow((230, 63), (196, 63)),
            words_at(330, 70, "widths of key, shaft's slot, wheel's slot; blades in a slot"),
        ]
    ),
    refusal=_key_refusal,
    applies=lambda shaft: shaft.drive == "key",
    is_size=True,
    size_band_mm=lambda shaft: 0.03,
    steps=(
        "Wheel off; slots and key washed.",
        "Key's width at three places; a sheared one where it still has its sides.",
        "Slots by blades or a small gauge at their worn part; slots of shaft and wheel may differ.",
    ),
    cautions=(),
    tells="How much of the rock the key makes, and what width a new one must have.",
    cannot_tell="A wheel that is loose on its seat rocks with a tight key too.",
    settles="the key's share of the rock",
    family="shaft",
)


def mouth_places(shaft: Shaft) -> tuple[Place, ...]:
    """Both mouths of the hole."""
    return (
        Place("large", "Larger mouth", "where the pin goes in"),
        Place("small", "Smaller mouth", "where it is drifted out"),
    )


def _mouth_refusal(shaft: Shaft, place: str, raw: float, system: UnitSystem) -> str:
    if raw < 0.6 * shaft.hub_mm:
        return ""
    return f"a pin is much thinner than its hub of {show_size(shaft.hub_mm, system)}; is the unit right?"


PIN_HOLE: SetUp[Shaft] = SetUp(
    key="shaft_pin_hole",
    is_proof=False,
    letter="T",
    short="Pin hole",
    title="Both mouths of the taper pin's hole",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=2,
    wanted=2,
    places=mouth_places,
    row=lambda shaft, place: Row({f"mouth.{place}": 1.0}, MOUTH_SD_MM),
    figure=lambda shaft, place: frame(
        [
            *wheel(socket="pin", rocking=False),
            Arrow((190, 20), (190, 60)) if place == "small" else Arrow((96, 78), (158, 78)),
            words_at(330, 70, "small-hole gauge or drill shanks at each mouth: the larger is the pin's head"),
        ]
    ),
    refusal=_mouth_refusal,
    applies=lambda shaft: shaft.drive == "taper_pin",
    is_size=True,
    size_band_mm=lambda shaft: 0.05,
    steps=(
        "Drift the pin out from its small end.",
        "Measure both mouths: small-hole gauge, or drill shanks.",
        "A worn hole is wide at a mouth only: the tighter one says which pin stands there.",
    ),
    cautions=(DRIFT,),
    tells="Which mouth is the large one, which pin stood there, and the next size that cleans both.",
    cannot_tell="Whether hub and shaft are still in line: turn the reamer by hand and feel.",
    settles="the pin's next size",
    family="shaft",
)


def square_places(shaft: Shaft) -> tuple[Place, ...]:
    """The bar's square, and its socket."""
    return (
        Place("square", "Square over its flats"),
        Place("socket", "Socket over its flats", "at its worn part"),
    )


SQUARE: SetUp[Shaft] = SetUp(
    key="shaft_square",
    results=square_results,
    measure=lambda shaft, place: ("squared", 1.0),
    letter="S",
    short="Square",
    title="Square and its socket",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=2,
    wanted=2,
    places=square_places,
    row=lambda shaft, place: Row(
        {"square": 1.0} if place == "square" else {"square": 1.0, "socket": 1.0}, WIDTH_SD_MM
    ),
    figure=lambda shaft, place: frame(
        [
            *wheel(socket="square", rocking=False),
            words_at(330, 70, "over two flats of the bar; across the socket"),
        ]
    ),
    refusal=lambda shaft, place, raw, system: (
        ""
        if raw < 0.9 * shaft.hub_mm
        else f"a square is smaller than its hub of {show_size(shaft.hub_mm, system)}; is the unit right?"
    ),
    applies=lambda shaft: shaft.drive == "square",
    is_size=True,
    size_band_mm=lambda shaft: 0.05,
    steps=(
        "Wash both; no burr on a flat.",
        "Both pairs of flats of the bar.",
        "Socket across both pairs, where it is worn round.",
    ),
    cautions=(),
    tells="How far the handle turns before it moves anything.",
    cannot_tell="Corners rounded off: measure over them too, and state the smaller square.",
    settles="slop of the square",
    family="shaft",
)


def end_places(shaft: Shaft) -> tuple[Place, ...]:
    """Crests and pitch of the thread at its end."""
    return (
        Place("crests", "Over its crests", "where no spanner battered them"),
        Place("ten", "Over ten pitches", "crest to crest, ten on"),
    )


END_THREAD: SetUp[Shaft] = SetUp(
    key="shaft_end",
    asks=("end_angle",),
    letter="E",
    short="End thread",
    title="Thread at its end",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=1,
    wanted=2,
    places=end_places,
    row=lambda shaft, place: (
        Row({"end.major": 1.0}, WIDTH_SD_MM) if place == "crests" else Row({"end.pitch": 10.0}, 0.05)
    ),
    figure=lambda shaft, place: frame(
        [
            *side(shaft, held=False),
            *(
                [Arrow((560, 30), (560, AXIS - HALF - 2)), Arrow((560, 122), (560, AXIS + HALF + 2))]
                if place == "crests"
                else [Arrow((470, AXIS - HALF - 12), (580, AXIS - HALF - 12), both_ways=True)]
            ),
            words_at(60, 150, "caliper over crests that are whole, then along ten pitches"),
        ]
    ),
    refusal=lambda shaft, place, raw, system: (
        ""
        if raw < 1.5 * shaft.dia_mm or place == "ten"
        else f"a thread is thinner than its shaft of {show_size(shaft.dia_mm, system)}; is the unit right?"
    ),
    is_size=True,
    size_band_mm=lambda shaft: 0.1,
    is_optional=True,
    is_proof=False,
    steps=(
        "Brush it out; choose crests that no spanner battered.",
        "Over its crests; then from a crest to the tenth crest on.",
        "A gauge of 60° and one of 55°: state which sits. Inch and Whitworth sizes often differ in "
        "nothing else.",
    ),
    cautions=(),
    tells="Which fastener's thread it is: Unified, metric, Whitworth, number sizes.",
    cannot_tell="Its class; a nut tried by hand tells that.",
    settles="the thread of the nut to buy",
    family="shaft",
)
