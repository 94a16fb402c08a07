"""The demo: an invented canal depot's lathe, part of the way through its survey.

Every figure comes from the simulator with a fixed seed and the condition
stated here, so that what Trebb finds can be checked against what was planted.
"""

from __future__ import annotations

from pathlib import Path

from trebb.core.survey import set_up
from trebb.core.threads import Form, Hand
from trebb.core.units import INCH_MM, THOU_MM
from trebb.logbook.casework import SCREW, Case
from trebb.logbook.entries import (
    AnyBody,
    CardChanged,
    DriveStated,
    Graded,
    JobStarted,
    NumberOneNamed,
    Planted,
    PowerLocked,
    ReadingTaken,
)
from trebb.logbook.fold import Job
from trebb.logbook.store import JobFile

SEED = 1958
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
# What has been read when the demo opens: lash everywhere once and twice at three places, and the first push and pull.
TAKEN = (
    ("lash", ("station 1", "station 2", "station 3", "station 4", "station 5", "station 1", "station 2", "station 3")),
    ("push_pull", ("station 1", "station 2")),
)


def demo_bodies() -> list[list[AnyBody]]:
    """The gestures of the demo job, before any reading."""
    def fact(field: str, value: str | float) -> DriveStated:
        return DriveStated(assembly=SCREW, field=field, value=value)

    card: list[AnyBody] = [
        CardChanged(field=field, value=value)
        for field, value in (
            ("make", "Ostrel 15-50"), ("year", "1958"), ("size", "15 in swing, 50 in between centres"),
            ("words", "Cross slide can be rocked by hand. Parting off it snatches; sizes wander by half a turn of nothing."),
            ("worth", 1800.0), ("currency", "£"), ("lead_screw", 8.0), ("lead_screw_unit", "inch"), ("dial_gear", 32.0), ("dial_marks", 8.0),
            ("spindle_bore_mm", 1.375 * INCH_MM), ("compound_from", "cross slide"),
        )
    ]  # fmt: skip
    drive: list[AnyBody] = [
        fact("form", Form.ACME.value), fact("major_mm", 0.75 * INCH_MM), fact("pitch_mm", INCH_MM / 8), fact("starts", 1.0),
        fact("hand", Hand.LEFT.value), fact("tolerance_class", "2G"), fact("divisions", 125.0), fact("reads", "radius"),
        fact("travel_mm", 8 * INCH_MM), fact("nut_length_mm", 1.5 * INCH_MM),
    ]  # fmt: skip
    grades = (
        ("spindle", "works", "Quiet cold; warm run not done."), ("headstock", "good", ""), ("ways", "works", "Ridge can just be caught by a fingernail near the chuck."),
        ("saddle", "works", ""), ("cross_slide", "stops", "Rocks by hand, handle turns a fifth and moves nothing."), ("compound", "accuracy", "Stiff at one end."),
        ("tailstock", "good", ""), ("gearbox", "good", "All teeth there."), ("stand", "looks", "Paint only; bolted at every foot."),
    )  # fmt: skip
    graded: list[AnyBody] = [Graded(assembly=a, grade=g, note=n) for a, g, n in grades]  # type: ignore[arg-type]
    return [
        [
            JobStarted(shop="Wend Hollow Lock Depot", machine="Lathe 2, Ostrel 15-50, 1958", machine_kind="lathe", machine_class="ordinary"),
            *card, *drive, Planted(assembly=SCREW, seed=SEED, condition=PLANTED),
        ],
        graded,
        [NumberOneNamed(assembly=SCREW)],
        [PowerLocked(locked=True)],
    ]  # fmt: skip


def simulated_reading(case: Case, set_up_key: str, place: str, phase: str) -> ReadingTaken:
    """The next reading that the practice machine would give at a place."""
    machine = case.practice(phase)
    assert machine is not None, "only practice jobs have a simulated machine"
    s = set_up(set_up_key)
    count = len(case.job.readings(SCREW, set_up_key, phase, place))
    return ReadingTaken(
        assembly=SCREW, set_up=set_up_key, place=place, phase="after" if phase == "after" else "before", value=machine.reading(s, place, count),
        unit="div" if s.unit == "div" else "mm", instrument=f"simulated {s.instrument.value}", resolution_mm=s.resolution_mm,
    )  # fmt: skip


def make_demo(path: Path) -> JobFile:
    """Write the demo job to a new file and leave it open."""
    job_file = JobFile.create(path)
    job = Job()
    case = Case(job)
    for gesture in demo_bodies():
        for entry in job_file.append(gesture):
            job.apply(entry)
    for set_up_key, places in TAKEN:
        for place in places:
            for entry in job_file.append([simulated_reading(case, set_up_key, place, "before")]):
                job.apply(entry)
    return job_file
