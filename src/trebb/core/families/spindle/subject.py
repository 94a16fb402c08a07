"""A spindle: what is stated of it, and its sources of error.

Vectors are in the frame of the spindle's dial: .x toward dial angle 0°, .y
toward 90°, mm; what is seated in it turned by φ has its own vector turned by
φ. Leans are mm for each 100 mm outward from the nose (z = 0 at the nose face,
+ outward, − inside the taper). Slack and looseness are total play, mm.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.condition.model import LOOSE
from trebb.core.units import INCH_MM

LEAN_MM = 100.0
EIGHT = tuple(45.0 * i for i in range(8))
# The rear bearing's looseness shows at the nose by the overhang over the span between bearings.
REAR_SHARE = 0.3
# A spindle carried by one bearing in its quill swings about it.
ONE_BEARING_LEVER = 2.2


class Spindle(Struct, frozen=True):
    """A spindle as stated; lengths in mm, pulls in N.

    Parameters
    ----------
    kind : "lathe", "mill" or "drill".
    angles : dial angles of a turn, degrees; `seatings` the index mark's angle of each seating.
    near_mm, far_mm : planes on the test bar, outward from the nose.
    mouth_mm, deep_mm : planes in the bore, negative.
    seat_length_mm : length of taper that seats; a seat that does not repeat tilts the bar over it.
    pin_near_mm, pin_far_mm : where a pin in the chuck is read, from the nose.
    work_mm : distance from the nose at which the error counts.
    face_radius_mm : radius at which the nose face is read.
    front_bore_mm … : nominal bore and outside of the bearings.
    quill_guided_mm, quill_stroke_mm : length that stays guided, and how far it comes out.
    seat_mm, seat_sd_mm : scatter of the seat as found from repeated seatings (sd of
        eccentricity on each axis at the mouth), and how well it is known.
    cleaned : "yes" where the taper was cleaned and deburred before it was read, "" not yet.
    hardness : "hard", "soft" or "" not tested.
    journals_read : whether the bearings' seats were measured.
    contact : where marking blue rubbed, in the words of `survey.contact`, or "" not blued.
    """

    kind: str = "lathe"
    angles: tuple[float, ...] = EIGHT
    seatings: tuple[float, ...] = (0.0, 0.0, 180.0, 90.0)
    near_mm: float = 0.5 * INCH_MM
    far_mm: float = 10 * INCH_MM
    mouth_mm: float = -5.0
    deep_mm: float = -70.0
    seat_length_mm: float = 90.0
    pin_near_mm: float = 110.0
    pin_far_mm: float = 160.0
    work_mm: float = 10 * INCH_MM
    face_radius_mm: float = 38.0
    pull_n: float = 178.0
    front_bore_mm: float = 60.0
    rear_bore_mm: float = 50.0
    front_outside_mm: float = 110.0
    rear_outside_mm: float = 90.0
    bearing_width_mm: float = 22.0
    bearing_count: int = 2
    quill_guided_mm: float = 180.0
    quill_stroke_mm: float = 100.0
    speed_rpm: float = 1000.0
    hardness: str = ""
    cleaned: str = ""
    contact: str = ""
    journals_read: bool = False
    seat_mm: float = 0.0015
    seat_sd_mm: float = 0.0025

    @property
    def has_quill(self) -> bool:
        """Mills and drills carry the spindle in a quill."""
        return self.kind != "lathe"

    @property
    def chuck_on_taper(self) -> bool:
        """A lathe's chuck sits on the nose; a mill's or drill's in the taper."""
        return self.kind != "lathe"

    @property
    def lever(self) -> float:
        """How much bearing slack grows on its way to the nose. Without unit."""
        return ONE_BEARING_LEVER if self.has_quill and self.bearing_count == 1 else 1.0

    def quill_share(self, out_mm: float) -> float:
        """Play at the quill's end for its clearance in the bore: a rigid quill tilts over its guided
        length.
        """
        return 1 + 2 * out_mm / self.quill_guided_mm

    def seat_spread(self, z_mm: float) -> float:
        """Scatter of the bar's axis at z for unit scatter at the mouth: shift and tilt over the seat,
        independent.
        """
        return math.hypot(1.0, z_mm / self.seat_length_mm)


# What such machines usually have, by kind; every figure can be stated.
USUAL: dict[str, Spindle] = {
    "lathe": Spindle(),
    "mill": Spindle(
        kind="mill",
        far_mm=7 * INCH_MM,
        seat_length_mm=65.0,
        deep_mm=-50.0,
        pin_near_mm=55.0,
        pin_far_mm=105.0,
        work_mm=4 * INCH_MM,
        face_radius_mm=28.0,
        pull_n=133.0,
        front_bore_mm=35.0,
        rear_bore_mm=30.0,
        front_outside_mm=62.0,
        rear_outside_mm=55.0,
        bearing_width_mm=14.0,
        quill_guided_mm=200.0,
        quill_stroke_mm=127.0,
        speed_rpm=1500.0,
    ),
    "drill": Spindle(
        kind="drill",
        far_mm=6 * INCH_MM,
        seat_length_mm=55.0,
        deep_mm=-40.0,
        pin_near_mm=75.0,
        pin_far_mm=125.0,
        work_mm=4 * INCH_MM,
        face_radius_mm=22.0,
        pull_n=89.0,
        front_bore_mm=25.0,
        rear_bore_mm=20.0,
        front_outside_mm=52.0,
        rear_outside_mm=42.0,
        bearing_width_mm=15.0,
        quill_guided_mm=140.0,
        quill_stroke_mm=100.0,
        speed_rpm=900.0,
    ),
}


# A test bar of a shop's own: sd of its runout (half) at the nose, and of its lean over 100 mm. Bent ones are
# farther out, as the tails of the prior allow.
BAR_SD, BAR_LEAN_SD = 0.004, 0.006
# What decades do to a spindle: sd of each component, mm (leans mm per 100 mm).
_VECTORS = (
    ("bearing", "bearings", 0.0035, 0.0015),
    ("register", "nose register", 0.0025, 0.0),
    ("face", "nose face", 0.0, 0.004),
    ("taper", "taper", 0.0070, 0.0040),
    ("bar", "test bar", BAR_SD, BAR_LEAN_SD),
    ("chuck", "chuck", 0.0300, 0.0100),
    ("lobe2", "two lobes", 0.0008, 0.0),
    ("lobe3", "three lobes", 0.0008, 0.0),
)  # fmt: skip
# Bounded by how such things are made, not by what wear does: readings alone do not stretch them at will.
_MADE = ("register", "face", "bar", "lobe2", "lobe3")
# Bearings that nobody measured on their journals hold, as far as is known; measured, they may be anything.
FITS_SD, FITS_UNREAD_SD = 0.02, 0.0005
FITS = {
    "loose.front": "front bearing on its journal",
    "loose.rear": "rear bearing on its journal",
    "loose.housing": "front bearing in its housing",
}


def vector_keys(name: str) -> tuple[str, str]:
    """Source keys of a vector."""
    return f"{name}.x", f"{name}.y"


def slack_shares(spindle: Spindle) -> dict[str, float]:
    """What the play at the nose is made of, by source. Coefficients by source, without unit."""
    front = spindle.lever
    return {"slack": front, "loose.front": front, "loose.housing": front, "loose.rear": REAR_SHARE}


def spindle_model(spindle: Spindle) -> ErrorModel:
    """Sources of error of a spindle with their prior.

    The seat's scatter is found outside, from seatings that repeat, and comes
    in with the spindle. Flex is mm for 1000 N.
    """
    sources = []
    for key, label, shift, lean in _VECTORS:
        loose = 1.0 if key in _MADE else LOOSE
        if shift:
            sources += [Source(k, label, 0.0, shift, loose=loose, group=key) for k in vector_keys(key)]
        if lean:
            group = f"{key}_lean"
            sources += [
                Source(k, f"lean of the {label}", 0.0, lean, loose=loose, group=group)
                for k in vector_keys(group)
            ]
    sources += [
        Source("seat", "seat", spindle.seat_mm, spindle.seat_sd_mm, True, loose=1),
        Source("slack", "bearing slack", 0.008, 0.012, True),
        *[
            Source(key, label, 0.0, FITS_SD if spindle.journals_read else FITS_UNREAD_SD, True, loose=1)
            for key, label in FITS.items()
        ],
        Source("flex", "flex", 0.03, 0.03, True),
        Source("float", "end float", 0.010, 0.015, True),
    ]
    if spindle.has_quill:
        sources += [
            Source("quill", "quill in its bore", 0.012, 0.012, True),
            Source("coupler", "drive coupler", 0.10, 0.20, True),
            Source("coupler_side", "drive coupler, sideways", 0.03, 0.06, True),
            Source("pin_flex", "give of pin and jaws", 0.03, 0.05, True),
            Source("grip", "chuck's grip on a pin", 0.008, 0.012, True),
        ]
    return ErrorModel(tuple(sources))
