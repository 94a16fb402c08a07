"""Pictures of the main views, made from the demo data: `python -m trebb.app.shots FOLDER`."""

from __future__ import annotations

import datetime
import math
import os
import random
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QEvent, QEventLoop, QSettings, QTimer
from PySide6.QtWidgets import QApplication

from trebb.app.pictures.bed import MORPH_MS, BedPicture
from trebb.app.pictures.lash import LashPicture
from trebb.app.shell.walk import cut_parts, fit_together, take_what_is_left
from trebb.app.stops.base import Stop
from trebb.app.stops.findings import FindingsStop
from trebb.app.stops.intake import IntakeStop
from trebb.app.stops.make import MakeStop
from trebb.app.stops.plan import PlanStop
from trebb.app.stops.remedies import RemediesStop
from trebb.app.stops.survey import SurveyStop
from trebb.app.stops.work import WorkStop
from trebb.app.views.naming import NamingView
from trebb.app.window.gui import application
from trebb.app.window.main import DESIGN_SIZE, Window
from trebb.core import clock
from trebb.core.survey import set_up
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW, SPINDLE
from trebb.logbook.cases.drive_case import DriveCase
from trebb.logbook.cases.headstock_case import HeadstockCase
from trebb.logbook.cases.practice_piece import piece_of, set_pieces
from trebb.logbook.demo.jobs import make_demo, make_mill, readings_left, simulated_reading
from trebb.logbook.demo.machines import HEADSTOCK
from trebb.logbook.demo.pieces import BRAKE, DIAL_SHAFT, QUILL_BORE
from trebb.logbook.log.entries import (
    Body,
    FactStated,
    MatterStated,
    PracticeMarked,
    RemedyChosen,
    SizeStruck,
    StepDone,
)
from trebb.logbook.memory.shop import JobGiven, LessonKept, remember
from trebb.logbook.plan.made_work import made_work
from trebb.logbook.practice.begun import begin, doing
from trebb.logbook.practice.opened import look_for_best, opening

SETTLE_MS = 300
LAYOUT_TURNS = 8  # more than layouts stand in one another


def _wait(milliseconds: int) -> None:
    loop = QEventLoop()
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()


def settle_layout() -> None:
    """Let what wraps and scrolls come to its height: each layout that asks again is heard, at once."""
    for _ in range(LAYOUT_TURNS):
        QApplication.sendPostedEvents(None, QEvent.Type.LayoutRequest)
        QApplication.processEvents()


class _Camera:
    def __init__(self, folder: Path, window: Window) -> None:
        self.folder, self.window = folder, window

    def take(self, name: str) -> None:
        """One picture of the window as it stands."""
        if self.window.frame is not None:
            self.window.frame.rail.settle()
            self.window.frame.machine.list.fill()
        _wait(SETTLE_MS)
        settle_layout()
        self.window.grab().save(str(self.folder / f"{name}.png"))


def stop_pictures(folder: Path) -> list[Path]:
    """The start page and each stop as the demo reaches it; a few more views. Returns the files."""
    folder.mkdir(parents=True, exist_ok=True)
    application()
    with tempfile.TemporaryDirectory() as place:
        settings = QSettings(str(Path(place) / "window.ini"), QSettings.Format.IniFormat)
        window = Window(settings)
        window.resize(*DESIGN_SIZE)
        camera = _Camera(folder, window)
        window.show()
        os.environ["XDG_DATA_HOME"] = place  # no memory of the user's own is shown or written
        window.open_file(make_demo(Path(place) / "demo.trebb"))
        _walk(window, camera)
        window.open_file(make_demo(Path(place) / "spindle.trebb"))
        _lathe_spindle(window, camera)
        window.open_file(make_demo(Path(place) / "line.trebb"))
        _in_line(window, camera)
        window.open_file(make_demo(Path(place) / "whole.trebb"))
        _whole_job(window, camera)
        window.open_file(make_mill(Path(place) / "mill.trebb"))
        _mill_spindle(window, camera)
        _mill_screw(window, camera)
        _practice(window, camera)
        _memory(window, camera)
        window.close()
    return sorted(folder.glob("*.png"))


def _whole_job(window: Window, camera: _Camera) -> None:
    """What the owner hears, the cross slide taken down, and the plan of four repairs, on a day in
    December.
    """
    frame = window.frame
    assert frame is not None
    session = frame.session
    for key in (DIAL_SHAFT, SCREW, BRAKE):
        take_what_is_left(session.cases.of(key), "before", session.record)
    clock.give(lambda: datetime.datetime(2026, 12, 3, 17, tzinfo=datetime.UTC))
    said: dict[str, dict[str, dict[str, str | float]]] = {
        "symptom": {"handle_nothing": {"there": "yes", "assembly": SCREW}, "parting": {"there": "yes"},
                    "no_repeat": {"there": "yes"}, "hit": {"there": "no"}, "tight_spots": {"there": "yes"}},
        "look": {f"lash@{SCREW}": {"found": "yes"}},
        "strip": {
            f"first.{SCREW}.nut": {"taken": "12.5 mm from the front"},
            f"first.{SCREW}.turns": {"taken": "a quarter turn"},
            f"first.{SCREW}.shim": {"waived": "none was there"},
            "off1": {"assembly": SCREW, "what": "Chip guard", "held": "2 × M5", "tray": "1"},
            "off2": {"assembly": SCREW, "what": "Handwheel", "held": "taper pin, large end up", "tray": "1"},
            "off3": {"assembly": SCREW, "what": "Dial", "way": "nought up", "held": "friction spring",
            "step": "dial"},
            "off4": {"assembly": SCREW, "what": "Collar", "way": "oil groove inward", "shim": 0.15},
        },
    }  # fmt: skip
    for matter, each in said.items():
        for of, fields in each.items():
            session.record(*[MatterStated(matter, of, key, value) for key, value in fields.items()])
    intake = frame.go_to("intake")
    assert isinstance(intake, IntakeStop)
    intake.show_page("symptoms")
    camera.take("suspects")
    session.choose(SCREW)
    frame.go_to("strip_down")
    camera.take("strip-down")
    for key, remedy in ((SCREW, "pair_thrust"), (DIAL_SHAFT, "new"), (QUILL_BORE, "bush"), (BRAKE, "reline")):
        session.record(RemedyChosen(assembly=key, remedy=remedy, reason=""))
    plan = frame.go_to("plan")
    _until_solved(plan)
    camera.take("plan")


def _until_solved(plan: Stop) -> None:
    """The solver behind the plan, until it is through."""
    assert isinstance(plan, PlanStop)
    end = time.monotonic() + 60
    while plan.plan is not None and plan.solver.is_running and time.monotonic() < end:
        _wait(200)


def _walk(window: Window, camera: _Camera) -> None:
    frame = window.frame
    assert frame is not None
    session, case = frame.session, frame.session.case
    for key in ("intake", "survey"):
        frame.go_to(key)
        camera.take(key)
    take_what_is_left(case, "before", session.record)
    for key in ("findings", "remedies"):
        frame.go_to(key)
        camera.take(key)
    session.record(
        RemedyChosen(
            assembly=SCREW,
            remedy="pair_thrust",
            reason="The gates are lifted once a year; this lathe must not be the reason to wait.",
        )
    )
    frame.go_to("parts")
    camera.take("parts")
    route = case.route("screw")
    for operation in route[: next(i for i, o in enumerate(route) if o.kind == "thread")]:
        session.record(StepDone(plan="screw", step=operation.key))
    stop = frame.go_to("make")
    for _ in range(4):
        stop.take()
    camera.take("make")
    for size in case.job.sizes("screw", "thread"):
        session.record(SizeStruck(size=size.id, reason="trial"))
    cut_parts(case, session.record)
    for step in case.fit_order()[:6]:
        session.record(StepDone(plan=case.fit_plan, step=step.key))
    frame.go_to("fit_up")
    camera.take("fit-up")
    fit_together(case, session.record)
    take_what_is_left(case, "after", session.record)
    frame.go_to("prove")
    camera.take("prove")


def _lathe_spindle(window: Window, camera: _Camera) -> None:
    """The seat that does not repeat."""
    frame = window.frame
    assert frame is not None
    session = frame.session
    session.choose(SPINDLE)
    stop = frame.go_to("survey")
    assert isinstance(stop, SurveyStop)
    readings = [r for r in readings_left(session.case, "before") if r.set_up == "test_bar"]
    session.record(
        *readings[: readings.index(next(r for r in readings if r.place == "seat 3 at 180°, far, 225°"))]
    )
    stop.bench.choose_set_up("test_bar")
    stop.bench.aside.show_leaf("axis")
    camera.take("spindle-survey")


def _mill_spindle(window: Window, camera: _Camera) -> None:
    """Worn journals under good bearings: the chain."""
    frame = window.frame
    assert frame is not None
    session = frame.session
    take_what_is_left(session.case, "before", session.record)
    frame.go_to("findings")
    camera.take("chain")


def _mill_screw(window: Window, camera: _Camera) -> None:
    """The cross screw that nobody has named: which thread it is, screw and nut in section, the gears that
    cut it.
    """
    frame = window.frame
    assert frame is not None
    session = frame.session
    session.show_in(UnitSystem.METRIC)
    session.choose("cross_screw")
    case = session.case
    assert isinstance(case, DriveCase)
    stop = frame.go_to("survey")
    assert isinstance(stop, SurveyStop)
    for place in set_up("which_thread").places(case.subject):
        session.record(simulated_reading(case, "which_thread", place.key, "before"))
    stop.bench.choose_set_up("which_thread")
    view = stop.bench.view()
    assert isinstance(view, NamingView)
    view.marking.setText("1-1/8-5 Acme LH")
    view.marking.setCursorPosition(0)
    session.record(FactStated(assembly="cross_screw", field="seen_gauge", value=30.0))
    camera.take("naming")
    assert case.naming is not None
    session.record(*case.name_bodies(case.naming.candidates[0].spec))
    for place in set_up("lead_error").places(case.subject):
        session.record(simulated_reading(case, "lead_error", place.key, "before"))
    take_what_is_left(case, "before", session.record)
    findings = frame.go_to("findings")
    assert isinstance(findings, FindingsStop)
    picture = findings.pictures.picture()
    assert isinstance(picture, LashPicture)
    picture.leaves.show_leaf("section")
    session.record(RemedyChosen(assembly="cross_screw", remedy="pair_thrust", reason=""))
    make = frame.go_to("make")
    assert isinstance(make, MakeStop)
    make.show_step("gears")


def _work(window: Window, camera: _Camera) -> None:
    """What the lathe is to make, the set that buys most looked at."""
    assert window.frame is not None
    stop = window.frame.go_to("work")
    assert isinstance(stop, WorkStop)
    stop.look_at(
        next(p.piece.key for p in made_work(window.frame.session.cases).pieces if p.piece.kind == "centres")
    )
    stop.walk(len(stop.edge) - 1)
    camera.take("work")


def _in_line(window: Window, camera: _Camera) -> None:
    """The lathe's bed, bent and twisted; its ways; the shims tried; the saddle's gib in its slot."""
    frame = window.frame
    assert frame is not None
    session = frame.session
    for assembly in ("ways", HEADSTOCK, "tailstock"):
        session.choose(assembly)
        take_what_is_left(session.case, "before", session.record)
    session.choose("ways")
    stop = frame.go_to("findings")
    assert isinstance(stop, FindingsStop)
    picture = stop.pictures.picture()
    assert isinstance(picture, BedPicture)
    picture.leaves.show_leaf("ways")
    session.choose(HEADSTOCK)
    stop = frame.go_to("remedies")
    assert isinstance(stop, RemediesStop)
    stop.look_at("level_over")
    _wait(MORPH_MS + SETTLE_MS)
    camera.take("machine")
    _work(window, camera)
    case = session.case
    assert isinstance(case, HeadstockCase)
    survey = frame.go_to("survey")
    assert isinstance(survey, SurveyStop)
    survey.bench.choose_set_up("trials")
    session.record(FactStated(assembly="ways", field="shim.1", value="tail_rear 0.05"))
    take_what_is_left(case, "before", session.record)
    advice = case.advice()
    session.record(FactStated(assembly="ways", field="shim.2", value=f"{advice.foot} {advice.mm:.3f}"))
    survey.bench.choose_set_up("trials")
    session.choose("saddle")
    question = session.case.question(session.case.set_ups[0], "before", session.system)
    assert question is not None
    session.record(*question.answers[0].bodies)
    take_what_is_left(session.case, "before", session.record)
    frame.go_to("findings")
    camera.take("gib")


def _practice(window: Window, camera: _Camera) -> None:
    """A set piece played as the trap wants it: felt before it was home, and said at once."""
    path = Path(os.environ["XDG_DATA_HOME"]) / "practice.trebb"
    window.open_file(begin(path, set_pieces()["01-not-home"]))
    frame = window.frame
    assert frame is not None
    session = frame.session
    for key, count in (("feelers", 4), ("rock", 12)):
        case = session.case
        question = case.question(set_up(key), "before", session.system)
        if question is not None and question.key == "home":
            session.record(*question.answers[0].bodies)
        for _ in range(count):
            place = case.next_place(set_up(key), "before")
            assert place is not None
            session.record(simulated_reading(case, key, place.key, "before"))
        if key == "feelers":
            piece = piece_of(session.job)
            assert piece is not None
            session.record(*doing(case, piece, "push_home"))
    session.record(PracticeMarked(what="verdict", of="gib", share=0.8))
    session.record(opening(look_for_best(session.file.entries())))
    frame.go_to("practice")
    camera.take("practice")


def _memory(window: Window, camera: _Camera) -> None:
    """The memory of the depot's winter: seven jobs of a shop whose indicators and beds are not the usual."""
    rng = random.Random(1958)
    for i, machine in enumerate(
        ("Lathe 1", "Lathe 2", "Lathe 3", "Lathe 4", "Lathe 5", "Lathe 6", "Lathe 7")
    ):
        name = f"{machine} {i}"
        bodies: list[Body] = [
            JobGiven(job=name, machine=machine, machine_kind="lathe", shop="Wend Hollow Lock Depot")
        ]
        for topic, of, middle, sd in (
            ("noise", "dial indicator", math.log(1.7), 0.1),
            ("noise", "micrometer", 0.0, 0.1),
            ("answer", "lathe/ways/answer", 0.52, 0.05),
            ("hours", "make", math.log(1.6), 0.2),
            ("hours", "fit", math.log(1.3), 0.2),
            ("wait", "comes", math.log(1.5), 0.2),
            ("wear", "lathe/screw_drive/nut", 0.24, 0.04),
            *(("left", family, 0.0, 1.1) for family in ("screw_drive", "gib", "gib", "spindle") * 2),
        ):
            words = "play of the nut" if topic == "wear" else ""
            value = rng.gauss(middle, sd)
            bodies.append(LessonKept(job=name, topic=topic, of=of, value=value, sd=sd, words=words))  # type: ignore[arg-type]
        remember(bodies)
    window.leave_job()
    window.show_shop()
    camera.take("memory")


if __name__ == "__main__":
    for picture in stop_pictures(Path(sys.argv[1] if len(sys.argv) > 1 else "docs/screenshots")):
        print(picture)
