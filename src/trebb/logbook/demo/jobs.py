"""The demo jobs, written as a shop would have written them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from trebb.core.survey import set_up
from trebb.core.threads import Form, Hand
from trebb.core.units import INCH_MM
from trebb.logbook.cases.casework import SCREW, SPINDLE, Case, Cases
from trebb.logbook.demo.machines import (
    BED_SEED,
    COMPOUND_THREAD,
    DRILL,
    HEADSTOCK,
    LATHE_BED,
    LATHE_SADDLE,
    LATHE_SCREWS,
    LATHE_SEED,
    LATHE_SPINDLE,
    LEAD_THREAD,
    MILL,
    NOSE,
    PLANTED,
    SADDLE,
    SEED,
    WAYS,
    DemoMachine,
    stated,
)
from trebb.logbook.demo.pieces import (
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
from trebb.logbook.file.store import JobFile, utc_now
from trebb.logbook.log.entries import (
    Body,
    CardChanged,
    Entry,
    FactStated,
    Grade,
    Graded,
    JobStarted,
    MatterStated,
    NumberOneNamed,
    Planted,
    PowerLocked,
    ReadingTaken,
    gesture_of,
    phase_of,
)
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.usual_work import usual_work


def _turns(groups: Sequence[str]) -> list[str]:
    return [f"{group}, {45 * i}°" for group in groups for i in range(8)]


def _spindle_bodies(machine: DemoMachine) -> list[list[Body]]:
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

    card: list[Body] = _card()
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
                    *stated("lead_screw", LEAD_THREAD),
                    *stated("compound", COMPOUND_THREAD),
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


def _card() -> list[Body]:
    return [
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
    return JobFile.restored(path, entries)


def make_demo(path: Path) -> JobFile:
    """Write the lathe's job to a new file and leave it open."""
    lead = (("push_pull", ("station 1", "station 2")), ("half_nuts", ("standoff, upper",)))
    turns = ("nose", _turns(NOSE)), ("test_bar", _turns(("seat 1 at 0°, near", "seat 1 at 0°, far")))
    return _write(
        path,
        [*demo_bodies(), _work("lathe")],
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
        [*_spindle_bodies(MILL), bevel_bodies(), _work("mill")],
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
        [*_spindle_bodies(DRILL), _work("drill")],
        {SPINDLE: [("chuck_pin", _turns(("pin near",)))], "table_screw": [("push_pull", ("station 3",))]},
    )


WORK = {
    "lathe": ("Journal for a bearing", "Shaft between centres"),
    "mill": ("Block faced", "Bored for a bearing"),
    "drill": ("Hole for a dowel",),
}


def _work(machine: str) -> list[Body]:
    """What a demo's machine is for: usual pieces of work."""
    listed = {one["title"]: one for one in usual_work(machine)}
    return [
        MatterStated("work", f"work{i}", field, value)
        for i, title in enumerate(WORK[machine], 1)
        for field, value in listed[title].items()
    ]


DEMOS: dict[str, Callable[[Path], JobFile]] = {"lathe": make_demo, "mill": make_mill, "drill": make_drill}
