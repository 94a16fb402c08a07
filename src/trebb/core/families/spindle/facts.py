"""Facts of a spindle."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.facts import Choice, Fact, Force, Length, Number, Schema, Words, no_system
from trebb.core.families.spindle.subject import USUAL, Spindle
from trebb.core.stating.readers import angles_from
from trebb.core.units import UnitSystem, parse_angles


def seatings_from(text: str) -> tuple[float, ...]:
    """Angles of the bar's index mark, degrees, one a seating, in the order taken.

    Raises InputError for what is none.
    """
    try:
        found = tuple(n % 360 for n in parse_angles(text))
    except InputError:
        raise InputError(
            f"“{text.strip()[:60]}”", "write the mark's angle at each seating, such as 0, 180, 90, 270"
        ) from None
    if not 1 <= len(found) <= 12:
        raise InputError(f"{len(found)} seatings", "from one to twelve")
    return found


def _angles(angles: tuple[float, ...], system: UnitSystem) -> str:
    n = len(angles)
    even = all(abs(a - 360 * i / n) < 1e-6 for i, a in enumerate(angles))
    return str(n) if even else ", ".join(f"{a:g}" for a in angles)


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Spindle:
    return replace(USUAL[kind], **values)


FACTS: tuple[Fact, ...] = (
    Words(
        "angles",
        "Angles",
        "How many, or a list such as 0, 40, 95",
        reader=angles_from,
        writer=no_system(angles_from),
        show=_angles,
        form="a count from 5 to 36, or 5 to 36 angles in degrees",
    ),
    Words(
        "seatings",
        "Bar's marks",
        "Angles of the index mark, in the order taken",
        reader=seatings_from,
        writer=no_system(seatings_from),
        show=lambda v, _: ", ".join(f"{a:g}" for a in v),
        form="1 to 12 angles in degrees",
    ),
    Choice(
        "hardness",
        "Taper by a file",
        "Test before any reamer",
        choices={"": "not tested", "soft": "soft: the file bites", "hard": "hard: the file skates"},
    ),
    Choice(
        "cleaned",
        "Taper cleaned, deburred",
        "Cleaned and deburred, and read since: what it still does is wear",
        choices={"": "not yet", "yes": "yes, and read since"},
    ),
    Choice(
        "bearing_count",
        "Bearings in front",
        "Bearings that carry the spindle in its quill",
        choices={"1": "one", "2": "two"},
        convert=int,
        numeric=True,
    ),
    Number("speed_rpm", "Usual speed", low=20, high=30_000, what="revolutions a minute", unit=" rpm"),
    Force("pull_n", "Full pull", low=10, high=2000),
    Length("near_mm", "Near plane", low=0.0, high=200.0),
    Length("far_mm", "Far plane", low=40.0, high=600.0),
    Length("work_mm", "Counts at", low=5.0, high=600.0),
    Length("seat_length_mm", "Taper seats over", low=15.0, high=250.0),
    Length("pin_near_mm", "Pin, near", low=5.0, high=400.0),
    Length("pin_far_mm", "Pin, far", low=10.0, high=600.0),
    Length("face_radius_mm", "Face radius", low=5.0, high=300.0),
    Length("front_bore_mm", "Front bore", low=5.0, high=120.0),
    Length("front_outside_mm", "Front outside", low=10.0, high=240.0),
    Length("rear_bore_mm", "Rear bore", low=5.0, high=120.0),
    Length("bearing_width_mm", "Bearing width", low=3.0, high=80.0),
    Length("rear_outside_mm", "Rear outside", asked=(), low=10.0, high=240.0),
    Length("mouth_mm", "Mouth of the bore", asked=(), low=-200.0, high=0.0),
    Length("deep_mm", "Deep in the bore", asked=(), low=-500.0, high=-1.0),
    Length("quill_guided_mm", "Quill guided over", asked=(), low=20.0, high=1000.0),
    Length("quill_stroke_mm", "Quill's stroke", asked=(), low=5.0, high=1000.0),
)
GROUPS = (
    ("What it runs in", ("hardness", "cleaned", "bearing_count", "speed_rpm", "pull_n")),
    (
        "Where it is read",
        ("angles", "seatings", "near_mm", "far_mm", "work_mm", "pin_near_mm", "pin_far_mm", "face_radius_mm"),
    ),
    (
        "Taper and bearings",
        (
            "seat_length_mm",
            "front_bore_mm",
            "front_outside_mm",
            "rear_bore_mm",
            "bearing_width_mm",
            "rear_outside_mm",
            "mouth_mm",
            "deep_mm",
            "quill_guided_mm",
            "quill_stroke_mm",
        ),
    ),
)
SCHEMA = Schema(FACTS, _build, groups=GROUPS)
