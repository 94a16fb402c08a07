"""Facts of a gear."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from trebb.core.errors import InputError
from trebb.core.facts import Choice, Fact, Length, Number, Schema, Words, no_system
from trebb.core.families.gear.subject import BEHIND, KINDS, MOVES, READ_AS, Gear
from trebb.core.gears.naming import named
from trebb.core.gears.strength import GEAR_METALS
from trebb.core.stating.readers import teeth_from

METALS = {key: m.label for key, m in GEAR_METALS.items()}


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Gear:
    return Gear(**values)


_SIZE = r"\d+(?:\.\d+)?"
_PITCHED = rf"\b(?:dp|diametral(?: pitch)?)\s*({_SIZE})|({_SIZE})\s*(?:dp|diametral(?: pitch)?)\b"
_MODULAR = rf"\b(?:module|mod|m)\s*({_SIZE})|({_SIZE})\s*(?:module|mod|m)\b"
USUAL_DEG = 20.0  # of a module whose name says no angle


def name_from(text: str) -> str:
    """A gear's name as kept, however it is said: "16 DP 14½°", "DP 16 14.5" → "DP16 14.5 full"; "" for none.
    Raises InputError for one that no cutter is made for.
    """
    plain = re.sub(r"(\d),(\d)", r"\1.\2", text.lower()).replace("½", ".5").replace(" 1/2", ".5")
    if not plain.strip():
        return ""
    letters = "DP"
    found = re.search(_PITCHED, plain)
    if found is None:
        letters, found = "m", re.search(_MODULAR, plain)
    rest = plain.replace(found[0], " ", 1) if found is not None else ""
    angle = re.search(_SIZE, rest)
    given = f"gear “{text.strip()}”"
    if letters == "DP" and angle is None:
        raise InputError(given, "its pressure angle behind it, 14.5 or 20: both are cut")
    key = ""
    if found is not None:
        degrees = float(angle[0]) if angle else USUAL_DEG
        key = f"{letters}{float(found[1] or found[2]):g} {degrees:g} {'stub' if 'stub' in rest else 'full'}"
    try:
        return named(key).key
    except InputError:
        raise InputError(
            given, "such as “DP16 14.5”, “16 DP 20 stub” or “m2 20”: one that cutters are made for"
        ) from None


def _teeth(key: str, words: str, tip: str) -> Fact:
    return Words(
        key,
        words,
        tip,
        reader=teeth_from,
        writer=no_system(teeth_from),
        form="numbers of teeth",
        show=lambda value, system: " ".join(map(str, value or ())),
    )


def _is_bevel(gear: Gear) -> bool:
    return gear.kind == "bevel"


def _is_slanted(gear: Gear) -> bool:
    return gear.kind in ("helical", "worm")


FACTS: tuple[Fact, ...] = (
    Choice("kind", "Gear", choices=KINDS),
    Number("teeth", "Teeth", "Counted, with a mark on the first", low=5, high=400, whole=True),
    Number("mate_teeth", "Mate's teeth", "Of a worm its starts", low=1, high=400, whole=True),
    Words(
        "name",
        "Name",
        "Module or DP, pressure angle, stub where it is: “DP16 14.5”, “m2 20 stub”; "
        "empty while it is not named",
        reader=name_from,
        writer=no_system(name_from),
        form="DP or module, pressure angle, stub",
    ),
    Length("bore_mm", "Bore", low=2.0, high=200.0),
    Length("face_mm", "Face width", low=2.0, high=200.0),
    Length("hub_mm", "Hub outside", low=4.0, high=300.0),
    Length("hub_length_mm", "Hub stands out", "0 where there is none", low=0.0, high=200.0),
    Length("key_mm", "Key", "Its width; 0 where there is none", low=0.0, high=50.0),
    Number("shafts_deg", "Shafts at", "Of bevels", low=10, high=170, unit="°", applies=_is_bevel),
    Number(
        "trace_deg",
        "Tips’ trace",
        "Of a helical gear: inked tips rolled on paper",
        low=0,
        high=60,
        unit="°",
        applies=_is_slanted,
    ),
    Choice(
        "hand", "Hand", "Of a helical gear", choices={"right": "right", "left": "left"}, applies=_is_slanted
    ),
    Length("radius_mm", "Rocked at radius", "Where the indicator stands; 0: at the pitch circle", high=500.0),
    Choice(
        "every",
        "Teeth read",
        choices={"no": "at four quarters", "yes": "every one"},
        convert=lambda v: v == "yes",
    ),
    Choice("read_as", "Read as", choices=READ_AS),
    Choice("moves", "Shimmed", "Which of a bevel pair gets the spacer", choices=MOVES, applies=_is_bevel),
    Length("spacer_mm", "Spacer now", "What stands there now; 0 for none", high=100.0, applies=_is_bevel),
    Choice("spacer", "It stands", choices=BEHIND, applies=_is_bevel),
    Length("lash_mm", "Lash wanted", "0: by its module", high=3.0),
    Choice("metal", "Made of", choices=METALS),
    Choice("mate_metal", "Mate of", choices=METALS),
    Choice("made", "Teeth", choices={"cut": "cut", "cast": "cast"}),
    Number("motor_w", "Motor", "What drives it, in watts; 0 where not said", low=0, high=50_000, unit=" W"),
    Number("rpm", "Turns at", "Of this gear", low=0, high=10_000, unit=" rpm"),
    _teeth("missing", "Teeth gone", "Numbers of the teeth that are gone or cracked at the root"),
    _teeth("chipped", "Chipped", "Numbers of the teeth with a corner off"),
    _teeth("stepped", "Stepped", "Numbers of the teeth with a step worn in"),
    _teeth("sharp", "Sharp", "Numbers of the teeth worn to a point"),
    Length(
        "far_mm",
        "Traverse over",
        "Between the two places along the pitch cone",
        low=2.0,
        high=100.0,
        applies=_is_bevel,
    ),
)
GROUPS = (
    ("What it is", ("kind", "teeth", "mate_teeth", "name", "shafts_deg", "trace_deg", "hand")),
    ("What is wrong with it", ("missing", "chipped", "stepped", "sharp")),
    ("How it is read", ("radius_mm", "every", "read_as", "lash_mm")),
    ("Bore, hub and key", ("bore_mm", "face_mm", "hub_mm", "hub_length_mm", "key_mm")),
    ("What it carries", ("metal", "mate_metal", "made", "motor_w", "rpm")),
    ("Spacer of a bevel pair", ("moves", "spacer_mm", "spacer", "far_mm")),
)
SCHEMA = Schema(FACTS, _build, groups=GROUPS)
