"""The demo: an invented canal depot's lathe, mill and pillar drill, part of the way through their surveys.

Every figure comes from the simulator with a fixed seed and the condition
stated here, so that what Trebb finds can be checked against what was planted.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

from trebb.core.survey import set_up
from trebb.core.threads import Form, Hand, ThreadSpec, thread_limits
from trebb.core.units import INCH_MM, THOU_MM
from trebb.logbook.casework import SCREW, SPINDLE, Case, Cases
from trebb.logbook.demo_pieces import (
    BEVEL,
    BEVEL_TAKEN,
    BORE_TAKEN,
    BRAKE,
    BRAKE_TAKEN,
    DIAL_SHAFT,
    QUILL_BORE,
    SHAFT_TAKEN,
    bevel_bodies,
    piece_bodies,
)
from trebb.logbook.entries import (
    Body,
    CardChanged,
    Entry,
    FactStated,
    Grade,
    Graded,
    JobStarted,
    Machine,
    NumberOneNamed,
    Planted,
    PowerLocked,
    ReadingTaken,
    gesture_of,
    phase_of,
)
from trebb.logbook.fold import Job
from trebb.logbook.store import JobFile, utc_now

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


@dataclass(frozen=True)
class _Machine:
    """One of the depot's other machines, as its job begins."""

    name: str
    kind: Machine
    card: tuple[tuple[str, str | float], ...]
    facts: tuple[tuple[str, str, str | float], ...]
    grades: tuple[tuple[str, Grade, str], ...]
    conditions: Mapping[str, Mapping[str, float]]
    seed: int


def _stated(assembly: str, thread: ThreadSpec) -> tuple[tuple[str, str, str | float], ...]:
    """A thread as stated of an assembly."""
    return (
        (assembly, "form", thread.form.value),
        (assembly, "major_mm", thread.major_mm),
        (assembly, "pitch_mm", thread.pitch_mm),
        (assembly, "starts", float(thread.starts)),
        (assembly, "hand", thread.hand.value),
    )


MILL = _Machine(
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
        *_stated("table_screw", TABLE_THREAD),
        *_stated("knee_screw", KNEE_THREAD),
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
DRILL = _Machine(
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


def _turns(groups: Sequence[str]) -> list[str]:
    return [f"{group}, {45 * i}°" for group in groups for i in range(8)]


def _spindle_bodies(machine: _Machine) -> list[list[Body]]:
    """The gestures of one of the other machines' jobs, before any reading."""
    started = JobStarted(
        shop="Wend Hollow Lock Depot",
        machine=machine.name,
        machine_kind=machine.kind,
        machine_class="ordinary",
    )
    card: list[Body] = [CardChanged(field=field, value=value) for field, value in machine.card]
    facts: list[Body] = [
        FactStated(assembly=assembly, field=field, value=value) for assembly, field, value in machine.facts
    ]
    grades: list[Body] = [Graded(assembly=a, grade=g, note=n) for a, g, n in machine.grades]
    planted = [
        Planted(assembly=assembly, seed=machine.seed, condition=dict(condition))
        for assembly, condition in machine.conditions.items()
    ]
    return [
        [started, *card, *facts, *planted],
        grades,
        [NumberOneNamed(assembly=SPINDLE)],
        [PowerLocked(locked=True)],
    ]


# What has been read when the demo opens: lash everywhere once and twice at three places, and the first push
# and pull.
TAKEN = (
    (
        "lash",
        (
            "station 1",
            "station 2",
            "station 3",
            "station 4",
            "station 5",
            "station 1",
            "station 2",
            "station 3",
        ),
    ),
    ("push_pull", ("station 1", "station 2")),
)


# Of the bed: both lands once, and the level across at four of its stations. Of the saddle: the gib felt at
# both ends, stopped early by its rear screw.
HEADSTOCK_TAKEN = (("two_collar", ("cut, near land", "cut, far land")),)
WAYS_TAKEN = (("level_across", tuple(f"across, station {k}" for k in (0, 1, 2, 3))),)
FELT = (("feelers", ("thin end", "thick end")),)


def demo_bodies() -> list[list[Body]]:
    """The gestures of the demo job, before any reading."""

    def fact(field: str, value: str | float) -> FactStated:
        return FactStated(assembly=SCREW, field=field, value=value)

    card: list[Body] = [
        CardChanged(field=field, value=value)
        for field, value in (
            ("make", "Ostrel 15-50"),
            ("year", "1958"),
            ("size", "15 in swing, 50 in between centres"),
            (
                "words",
                "Cross slide can be rocked by hand. Parting off it snatches; sizes wander by half a turn of "
                "nothing.",
            ),
            ("worth", 1800.0),
            ("currency", "£"),
            ("lead_screw", 8.0),
            ("lead_screw_unit", "inch"),
            ("dial_gear", 32.0),
            ("dial_marks", 8.0),
            ("spindle_bore_mm", 1.375 * INCH_MM),
            ("compound_from", "cross slide"),
        )
    ]
    drive: list[Body] = [
        fact("form", Form.ACME.value),
        fact("major_mm", 0.75 * INCH_MM),
        fact("pitch_mm", INCH_MM / 8),
        fact("starts", 1.0),
        fact("hand", Hand.LEFT.value),
        fact("tolerance_class", "2G"),
        fact("divisions", 125.0),
        fact("reads", "radius"),
        fact("travel_mm", 8 * INCH_MM),
        fact("nut_length_mm", 1.5 * INCH_MM),
    ]
    grades: tuple[tuple[str, Grade, str], ...] = (
        ("spindle", "works", "Quiet cold; warm run not done."),
        ("headstock", "works", "Bores come out tapered."),
        ("ways", "accuracy", "A ridge catches the fingernail near the chuck."),
        ("saddle", "accuracy", "Gib screwed in past flush; apron hangs low."),
        ("cross_slide", "stops", "Rocks by hand, handle turns a fifth and moves nothing."),
        ("compound", "accuracy", "Stiff at one end."),
        ("tailstock", "accuracy", "Never twice in one place."),
        ("apron", "works", "The thread dial wobbles as it turns."),
        ("gearbox", "good", "All teeth there."),
        ("stand", "works", "Bolted at every foot; one foot on nothing?"),
    )
    graded: list[Body] = [Graded(assembly=a, grade=g, note=n) for a, g, n in grades]
    return [
        [
            JobStarted(
                shop="Wend Hollow Lock Depot",
                machine="Lathe 2, Ostrel 15-50, 1958",
                machine_kind="lathe",
                machine_class="ordinary",
            ),
            *card,
            *drive,
            Planted(assembly=SCREW, seed=SEED, condition=PLANTED),
            Planted(assembly=SPINDLE, seed=LATHE_SEED, condition=LATHE_SPINDLE),
            *[
                FactStated(assembly=a, field=field, value=value)
                for a, field, value in (
                    *_stated("lead_screw", LEAD_THREAD),
                    *_stated("compound", COMPOUND_THREAD),
                )
            ],
            *[Planted(assembly=a, seed=SEED, condition=condition) for a, condition in LATHE_SCREWS.items()],
            Planted(assembly=WAYS, seed=BED_SEED, condition=LATHE_BED),
            Planted(assembly=SADDLE, seed=BED_SEED, condition=LATHE_SADDLE),
        ],
        piece_bodies(),
        graded,
        [NumberOneNamed(assembly=SCREW)],
        [PowerLocked(locked=True)],
    ]


def simulated_reading(case: Case, set_up_key: str, place: str, phase: str, *, after: int = 0) -> ReadingTaken:
    """The next reading that the practice machine would give at a place, or the one so many `after` it."""
    machine = case.practice(phase)
    assert machine is not None, "only practice jobs have a simulated machine"
    s = set_up(set_up_key)
    count = len(case.job.readings(case.assembly_key, set_up_key, phase, place)) + after
    return ReadingTaken(
        assembly=case.assembly_key,
        set_up=set_up_key,
        place=place,
        phase=phase_of(phase),
        value=machine.reading(s, place, count),
        unit=s.unit,
        instrument=f"simulated {s.instrument.value}",
        resolution_mm=s.resolution_mm,
    )


def readings_left(case: Case, phase: str) -> list[ReadingTaken]:
    """Every reading still wanted in a phase, from the practice machine, place by place in turn."""
    found = []
    for s in case.set_ups_in(phase):
        if s.is_optional and not case.job.standing(case.assembly_key, s.key, "before"):
            continue
        standing = {p.place: len(p.values) for p in case.job.standing(case.assembly_key, s.key, phase)}
        for repeat in range(s.wanted):
            for place in s.places(case.subject):
                missing = s.wanted - standing.get(place.key, 0)
                if repeat < missing:
                    found.append(simulated_reading(case, s.key, place.key, phase, after=repeat))
    return found


def _write(
    path: Path, gestures: list[list[Body]], taken: Mapping[str, Sequence[tuple[str, Sequence[str]]]]
) -> JobFile:
    """A job file with its gestures and then the readings of each assembly, from its simulated machine: all in
    one write, for a disk that is waited for at each of them is half of what opening a demo takes.
    """
    entries: list[Entry] = []
    job = Job()

    def record(gesture: list[Body]) -> None:
        for entry in gesture_of(gesture, len(entries) + 1, utc_now()):
            entries.append(entry)
            job.apply(entry)

    for gesture in gestures:
        record(gesture)
    cases = Cases(job)
    for assembly, set_ups in taken.items():
        for set_up_key, places in set_ups:
            for place in places:
                record([simulated_reading(cases.of(assembly), set_up_key, place, "before")])
    job_file = JobFile.create(path)
    job_file.restore(entries, {})
    return job_file


def make_demo(path: Path) -> JobFile:
    """Write the lathe's job to a new file and leave it open."""
    lead = (("push_pull", ("station 1", "station 2")), ("half_nuts", ("standoff, upper",)))
    turns = ("nose", _turns(NOSE)), ("test_bar", _turns(("seat 1 at 0°, near", "seat 1 at 0°, far")))
    return _write(
        path,
        demo_bodies(),
        {
            SCREW: TAKEN,
            SPINDLE: turns,
            WAYS: WAYS_TAKEN,
            HEADSTOCK: HEADSTOCK_TAKEN,
            SADDLE: FELT,
            "lead_screw": lead,
            DIAL_SHAFT: SHAFT_TAKEN,
            QUILL_BORE: BORE_TAKEN,
            BRAKE: BRAKE_TAKEN,
        },
    )


def make_mill(path: Path) -> JobFile:
    """Write the mill's job: worn journals under good bearings, and a table's gib that was felt before it was
    home.
    """
    return _write(
        path,
        [*_spindle_bodies(MILL), bevel_bodies()],
        {
            SPINDLE: [("nose", _turns(("register",))), ("taper_bore", _turns(("mouth",)))],
            "table": FELT,
            BEVEL: BEVEL_TAKEN,
            "cross_screw": [("lash", ("station 1", "station 3", "station 5"))],
        },
    )


def make_drill(path: Path) -> JobFile:
    """Write the pillar drill's job: slack in the coupler, one bearing in the quill, a table out of square."""
    return _write(
        path,
        _spindle_bodies(DRILL),
        {SPINDLE: [("chuck_pin", _turns(("pin near",)))], "table_screw": [("push_pull", ("station 3",))]},
    )


DEMOS: dict[str, Callable[[Path], JobFile]] = {"lathe": make_demo, "mill": make_mill, "drill": make_drill}
