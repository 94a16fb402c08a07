"""The three machines of the demo as they really are: what is worn of each, and what is stated."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec import Struct

from trebb.core.threads import Form, Hand, ThreadSpec, thread_limits
from trebb.core.units import INCH_MM, THOU_MM
from trebb.logbook.cases.casework import SPINDLE
from trebb.logbook.log.entries import Grade, Machine

SEED = 1958
WAYS, HEADSTOCK, SADDLE = "ways", "headstock", "saddle"
LATHE_SEED = 1962  # of the spindle
# The hidden condition, mm: wear deepest at the middle, the nut nearly as bad, a loose collar.
PLANTED: dict[str, float] = {
    "nut": 9 * THOU_MM,
    "wear.1": 3 * THOU_MM,
    "wear.2": 9 * THOU_MM,
    "wear.3": 12 * THOU_MM,
    "wear.4": 7 * THOU_MM,
    "wear.5": 2 * THOU_MM,
    "float": 6 * THOU_MM,
    "key": 0.8 * THOU_MM,
    "give": 0.2 * THOU_MM,
    "unworn": 0.6768 * INCH_MM,
    "ridge": 0.0606 * INCH_MM,
    "lead": 0.125 * INCH_MM,
    "major": 0.7478 * INCH_MM,
    "crest": 0.4 * THOU_MM,
}
# The lathe's spindle, mm: a taper worn so that no seating is like the last; bearings sound.
LATHE_SPINDLE: dict[str, float] = {
    "bearing.x": 0.0020,
    "bearing.y": -0.0010,
    "bearing_lean.x": 0.0004,
    "bearing_lean.y": 0.0002,
    "register.x": 0.0010,
    "register.y": 0.0006,
    "face_lean.x": 0.0012,
    "face_lean.y": -0.0020,
    "taper.x": -0.0042,
    "taper.y": 0.0052,
    "taper_lean.x": 0.0015,
    "taper_lean.y": -0.0010,
    "bar.x": 0.0020,
    "bar.y": 0.0012,
    "bar_lean.x": 0.0006,
    "bar_lean.y": -0.0004,
    "chuck.x": 0.0170,
    "chuck.y": -0.0120,
    "chuck_lean.x": 0.0030,
    "chuck_lean.y": 0.0020,
    "lobe2.x": 0.0005,
    "lobe2.y": 0.0003,
    "lobe3.x": -0.0004,
    "lobe3.y": 0.0002,
    "seat": 0.0045,
    "slack": 0.0040,
    "loose.front": 0.0005,
    "loose.rear": 0.0006,
    "loose.housing": 0.0004,
    "flex": 0.022,
    "float": 0.0050,
}
# The mill's: new bearings went on worn journals; they creep.
MILL_SPINDLE: dict[str, float] = {
    **LATHE_SPINDLE,
    "bearing.x": 0.0020,
    "bearing.y": 0.0012,
    "taper.x": 0.0010,
    "taper.y": -0.0006,
    "taper_lean.x": 0.0004,
    "taper_lean.y": 0.0002,
    "chuck.x": 0.0070,
    "chuck.y": 0.0050,
    "chuck_lean.x": 0.0030,
    "chuck_lean.y": -0.0020,
    "seat": 0.0008,
    "slack": 0.0020,
    "loose.front": 0.0240,
    "loose.rear": 0.0130,
    "loose.housing": 0.0010,
    "flex": 0.030,
    "float": 0.0060,
    "quill": 0.0030,
    "coupler": 0.0600,
}
# The pillar drill's: the spindle swings about one bearing, the splines of the drive are worn, the chuck is
# what it is.
DRILL_SPINDLE: dict[str, float] = {
    **LATHE_SPINDLE,
    "bearing.x": 0.0040,
    "bearing.y": -0.0030,
    "taper.x": 0.0030,
    "taper.y": 0.0015,
    "chuck.x": 0.0120,
    "chuck.y": -0.0080,
    "chuck_lean.x": 0.0040,
    "chuck_lean.y": 0.0025,
    "seat": 0.0015,
    "slack": 0.0300,
    "loose.front": 0.0015,
    "loose.rear": 0.0010,
    "loose.housing": 0.0010,
    "flex": 0.060,
    "float": 0.0400,
    "quill": 0.0140,
    "coupler": 0.5200,
}
NOSE = ("register", "face")


def _wear(way: str, worn: Sequence[float]) -> dict[str, float]:
    return {f"{way}.{k}": v for k, v in enumerate(worn)}


# The lathe in space, mm and mrad: one foot at the tailstock's end was never packed, so the bed is twisted
# and the foot springs up;
# the front way is worn near the chuck; the headstock stands well; the tailstock's key is loose.
LATHE_BED: dict[str, float] = {
    "twist": -0.300,
    "yaw": 0.024,
    "pitch": 0.030,
    "cross": 0.020,
    "bar_side": 0.0030,
    "bar_high": -0.0020,
    "spring": 0.8,
    "answer": 0.70,
    **_wear("front", (0.078, 0.102, 0.108, 0.090, 0.055, 0.028, 0.014, 0.008, 0.004)),
    **_wear("rear", (0.026, 0.036, 0.040, 0.034, 0.022, 0.014, 0.008, 0.005, 0.003)),
    **{f"bend.{k}": v for k, v in enumerate((0.004, 0.007, 0.008, 0.006, 0.003, 0.001, 0.001), start=1)},
    **{f"side.{k}": v for k, v in enumerate((0.003, 0.004, 0.003, 0.002, 0.000, -0.001, -0.001), start=1)},
    "tail_side": 0.045,
    "tail_high": -0.055,
    "tail_shift": 0.018,
    "tail_used": 0.006,
    "wander": 0.014,
    "tail_key": 0.120,
    "quill_side": 0.10,
    "quill_high": 0.18,
    "foot.tail_front": 0.010,
    "foot.tail_rear": 0.140,
    "foot.head_front": 0.008,
    "foot.head_rear": 0.012,
    "stand_flex": 0.022,
}
BED_SEED = 1967
# Slides on their gibs, mm: the gib worn thin, the ways loose in the middle of their travel; a rear screw
# that stops it early.
LATHE_SADDLE: dict[str, float] = {
    "gap.thin": 0.115,
    "gap.thick": 0.130,
    "worn.left": 0.055,
    "worn.mid": 0.030,
    "worn.right": 0.004,
    "stand": -4.0,
    "drop": 0.34,
    "stopped": 1.0,
}
MILL_TABLE: dict[str, float] = {
    "gap.thin": 0.090,
    "gap.thick": 0.105,
    "worn.left": 0.006,
    "worn.mid": 0.035,
    "worn.right": 0.008,
    "stand": -3.5,
    "stopped": 1.0,
}
MILL_KNEE: dict[str, float] = {
    "gap.thin": 0.030,
    "gap.thick": 0.034,
    "worn.left": 0.004,
    "worn.mid": 0.012,
    "worn.right": 0.003,
    "stand": 1.0,
}
# Worn low in the middle, where the knee works most; one end stands high.
MILL_COLUMN: dict[str, float] = {
    f"high.{side}.{station}": mm
    for side, row in ((1, (0.02, 0.004, -0.012, -0.008, 0.012)), (2, (0.016, 0.0, -0.02, -0.012, 0.008)))
    for station, mm in enumerate(row, 1)
}
MILL_SADDLE: dict[str, float] = {
    "gap.thin": 0.042,
    "gap.thick": 0.048,
    "worn.left": 0.005,
    "worn.mid": 0.020,
    "worn.right": 0.006,
    "stand": -1.0,
}
MILL_HEAD: dict[str, float] = {
    "tilt_x": 0.130,
    "tilt_y": -0.060,
    "travel_x": 0.020,
    "travel_y": 0.050,
    "sag": 0.018,
    "droop": 0.090,
    "ends_x": 0.052,
    "ends_y": 0.012,
}
DRILL_TABLE: dict[str, float] = {
    "tilt_x": 0.420,
    "tilt_y": -0.260,
    "travel_x": 0.180,
    "travel_y": 0.060,
    "sag": 0.030,
    "column_x": 0.160,
    "column_y": 0.040,
}


def _screw(
    thread: ThreadSpec, nut: float, worn: Sequence[float], float_: float, **more: float
) -> dict[str, float]:
    """A screw's hidden condition, mm: what it really is, its nut's clearance, its wear at five stations, its
    end float.
    """
    limits = thread_limits(thread)
    return {
        "nut": nut,
        **{f"wear.{k}": w for k, w in enumerate(worn, start=1)},
        "float": float_,
        "give": 0.004,
        "unworn": limits.screw_pitch.middle_mm,
        "ridge": thread.pitch_mm / 2 - 0.04,
        "lead": thread.lead_mm,
        "major": limits.screw_major.middle_mm,
        "crest": 0.02,
        "thread.form": float(list(Form).index(thread.form)),
        "thread.pitch_mm": thread.pitch_mm,
        "thread.major_mm": thread.major_mm,
        "thread.starts": float(thread.starts),
        "thread.left": float(thread.hand is Hand.LEFT),
        **more,
    }


# What the depot's other screws really are. The drill's lifting screw was made in a blacksmith's shop: an
# inch pitch on a metric bar.
LEAD_THREAD = ThreadSpec(Form.ACME, 1.125 * INCH_MM, INCH_MM / 8)
COMPOUND_THREAD = ThreadSpec(Form.ACME, 0.5 * INCH_MM, INCH_MM / 10)
CROSS_THREAD = ThreadSpec(Form.TRAPEZOIDAL, 28.0, 5.0, 2, Hand.LEFT)
TABLE_THREAD = ThreadSpec(Form.TRAPEZOIDAL, 30.0, 6.0, 1, Hand.LEFT)
KNEE_THREAD = ThreadSpec(Form.TRAPEZOIDAL, 36.0, 6.0)
LIFT_THREAD = ThreadSpec(Form.ACME, 22.0, INCH_MM / 6)
LATHE_SCREWS: dict[str, dict[str, float]] = {
    "lead_screw": _screw(
        LEAD_THREAD,
        0.34,
        (0.19, 0.16, 0.09, 0.04, 0.02),
        0.10,
        bend=0.12,
        standoff=0.42,
        dial_slack=0.38,
        dial_drop=0.17,
        **{"drunk.c": 0.004, "drunk.s": -0.003},
    ),
    "compound": _screw(COMPOUND_THREAD, 0.10, (0.02, 0.06, 0.08, 0.05, 0.02), 0.06, key=0.02),
}
MILL_SCREWS: dict[str, dict[str, float]] = {
    "cross_screw": {
        **_screw(
            CROSS_THREAD,
            0.26,
            (0.03, 0.12, 0.19, 0.14, 0.04),
            0.08,
            key=0.03,
            **{"drunk.c": 0.006, "drunk.s": 0.004},
        ),
        "lead": 10.0006,
    },
    "table_screw": _screw(TABLE_THREAD, 0.20, (0.04, 0.10, 0.16, 0.12, 0.05), 0.05, key=0.02),
    "knee_screw": _screw(KNEE_THREAD, 0.12, (0.02, 0.04, 0.05, 0.03, 0.02), 0.06, key=0.03),
}
DRILL_SCREWS: dict[str, dict[str, float]] = {
    "table_screw": _screw(LIFT_THREAD, 0.55, (0.05, 0.16, 0.24, 0.20, 0.08), 0.15)
}


class DemoMachine(Struct, frozen=True):
    """One of the depot's other machines, as its job begins."""

    name: str
    kind: Machine
    card: tuple[tuple[str, str | float], ...]
    facts: tuple[tuple[str, str, str | float], ...]
    grades: tuple[tuple[str, Grade, str], ...]
    conditions: Mapping[str, Mapping[str, float]]
    seed: int


def stated(assembly: str, thread: ThreadSpec) -> tuple[tuple[str, str, str | float], ...]:
    """A thread as stated of an assembly."""
    return (
        (assembly, "form", thread.form.value),
        (assembly, "major_mm", thread.major_mm),
        (assembly, "pitch_mm", thread.pitch_mm),
        (assembly, "starts", float(thread.starts)),
        (assembly, "hand", thread.hand.value),
    )


MILL = DemoMachine(
    "Mill, Pellane No. 2, 1964",
    "mill",
    (
        ("make", "Pellane No. 2"),
        ("year", "1964"),
        ("size", "9 × 42 in table"),
        ("words", "New bearings last spring, and it still chatters. Face cuts show each tooth."),
        ("worth", 2600.0),
        ("currency", "£"),
    ),
    (
        (SPINDLE, "hardness", "hard"),
        (SPINDLE, "speed_rpm", 1500.0),
        ("cross_screw", "divisions", 200.0),
        ("cross_screw", "travel_mm", 220.0),
        ("cross_screw", "nut_length_mm", 55.0),
        ("cross_screw", "seen_starts", 2.0),
        ("cross_screw", "seen_hand", "left"),
        *stated("table_screw", TABLE_THREAD),
        *stated("knee_screw", KNEE_THREAD),
    ),
    (
        ("spindle", "accuracy", "Chatters; warm over the front bearing after an hour."),
        ("head", "works", "Swung round by the last owner."),
        ("table", "accuracy", "Gib at its end of adjustment; rocks in the middle."),
        ("saddle", "works", ""),
        ("knee", "good", ""),
        ("table_screw", "works", "A third of a turn of nothing."),
        ("cross_screw", "accuracy", "A quarter of a millimetre of nothing, more in the middle."),
    ),
    {
        SPINDLE: MILL_SPINDLE,
        "head": MILL_HEAD,
        "table": MILL_TABLE,
        "saddle": MILL_SADDLE,
        "knee": MILL_KNEE,
        "column": MILL_COLUMN,
        **MILL_SCREWS,
    },
    1964,
)
DRILL = DemoMachine(
    "Pillar drill, Dunmarrow 20, 1949",
    "drill",
    (
        ("make", "Dunmarrow 20"),
        ("year", "1949"),
        ("size", "20 in"),
        ("words", "Knocks when the drill breaks through; wanders before it bites."),
        ("worth", 450.0),
        ("currency", "£"),
    ),
    (
        (SPINDLE, "bearing_count", 1.0),
        (SPINDLE, "hardness", "soft"),
        ("table_screw", "travel_mm", 340.0),
        ("table_screw", "nut_length_mm", 44.0),
    ),
    (
        ("spindle", "accuracy", "One bearing in the quill, and it can be felt."),
        ("quill", "works", ""),
        ("head", "good", ""),
        ("column", "good", ""),
        ("table", "looks", "Drilled into twice."),
        ("table_screw", "works", "Drops a millimetre when it is let go; the nut is nobody's size."),
    ),
    {SPINDLE: DRILL_SPINDLE, "table": DRILL_TABLE, **DRILL_SCREWS},
    1949,
)
