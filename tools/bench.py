"""Speed and memory, each against its floor in the same run: `make bench`.

Prints a table of measured value, floor, ratio (or milliseconds) and goal. It
measures; it does not fail, because a busy machine is not a fault of the code.
"""

from __future__ import annotations

import compileall
import json
import os
import resource
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from PySide6.QtWidgets import QApplication

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

EMPTY_WINDOW = """
import time; t = time.perf_counter()
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication([]); w = QMainWindow(); w.resize(1280, 800); w.show(); app.processEvents()
import resource
print(time.perf_counter() - t, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
"""
OUR_WINDOW = """
import time; t = time.perf_counter()
import sys
from pathlib import Path
from trebb.app.window.loading import load_before_qt
load_before_qt()
from trebb.logbook.file.store import JobFile
job_file = JobFile.open(Path(sys.argv[1]))
from PySide6.QtCore import QSettings
from trebb.app.window.gui import application
from trebb.app.window.main import Window
app = application(); w = Window(QSettings(sys.argv[2], QSettings.Format.IniFormat))
w.open_file(job_file, seen_first=True)
w.show(); app.processEvents()
import resource
seen, size = time.perf_counter() - t, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
while w.frame.session.figures_wait:
    app.processEvents()
app.processEvents()
told = time.perf_counter() - t
print(seen, size, told, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss, flush=True)
w.close()
"""
RUNS = 7
HOUR_GESTURES = 800  # of a random user, about what an hour at the bench brings


def run_child(script: str, *arguments: str) -> list[float]:
    """Seconds and peak megabytes of a child, as it tells them in turn."""
    done = subprocess.run(
        [sys.executable, "-c", script, *arguments], capture_output=True, text=True, check=True
    )
    told = [float(word) for word in done.stdout.split()]
    return [one / 1024 if i % 2 else one for i, one in enumerate(told)]


def best(work: Callable[[], object], runs: int = RUNS) -> float:
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def row(what: str, ours: str, floor: str, got: str, goal: str) -> None:
    print(f"{what:52s} {ours:>12s} {floor:>12s} {got:>22s}   {goal}")


def start_and_memory(folder: Path) -> None:
    import trebb
    from trebb.logbook.demo.jobs import make_demo

    compileall.compile_dir(Path(trebb.__file__).parent, quiet=2)  # as pip does for what it installs
    make_demo(folder / "start.trebb").close()
    empty = [run_child(EMPTY_WINDOW) for _ in range(RUNS)]
    ours = [run_child(OUR_WINDOW, str(folder / "start.trebb"), str(folder / "w.ini")) for _ in range(RUNS)]
    floor, seen, told = (statistics.median(times) for times in ([e[0] for e in empty], [o[0] for o in ours],
                                                                [o[2] for o in ours]))  # fmt: skip
    row(
        "start to a window that answers, against an empty one",
        f"{seen * 1000:.0f} ms",
        f"{floor * 1000:.0f} ms",
        f"{seen / floor:.2f} ×",
        "≤ 2.5 ×",
    )
    row(
        "  and to the figures of the part on show",
        f"{told * 1000:.0f} ms",
        f"{floor * 1000:.0f} ms",
        f"{told / floor:.2f} ×",
        "–",
    )
    floor, seen, told = (max(sizes) for sizes in ([e[1] for e in empty], [o[1] for o in ours],
                                                  [o[3] for o in ours]))  # fmt: skip
    for what, size in (("peak memory, against the same", seen), ("  and with those figures", told)):
        row(what, f"{size:.0f} MB", f"{floor:.0f} MB", f"{size / floor:.2f} ×", "≤ 2.0 ×")


def reading_row(name: str, takes: list[Callable[[], object]], app: QApplication) -> None:
    """Take readings one after another, each with every view that follows it, and tell median and 95th
    percentile.
    """
    times = []
    for take in takes:
        start = time.perf_counter()
        take()
        app.processEvents()
        times.append((time.perf_counter() - start) * 1000)
    times.sort()
    row(
        name,
        f"{statistics.median(times):.1f} ms",
        "",
        f"p95 {times[int(0.95 * len(times))]:.1f} ms",
        "≤ 16 ms, p95 33 ms",
    )


def spindle_reading(folder: Path) -> None:
    """A reading of a turn on a job of 500 readings: the polar picture, the chain behind it and the
    suggestions follow.
    """
    from PySide6.QtCore import QSettings
    from PySide6.QtTest import QTest

    from trebb.app.window.gui import application
    from trebb.app.window.main import Window
    from trebb.core.survey import set_up
    from trebb.logbook.demo.jobs import make_mill, simulated_reading

    app = application()
    window = Window(QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    window.open_file(make_mill(folder / "spindle.trebb"))
    window.show()
    frame = window.frame
    assert frame is not None
    session, case = frame.session, frame.session.case
    for s in case.set_ups:
        session.record(
            *[
                simulated_reading(case, s.key, p.key, "before")
                for p in s.places(case.subject)
                for _ in range(3)
            ]
        )
    stop = frame.stop
    stop.bench.choose_set_up("test_bar")  # type: ignore[attr-defined]
    QTest.qWait(300)
    places = [p.key for p in set_up("test_bar").places(case.subject)]
    bodies = [
        simulated_reading(case, "test_bar", places[i % len(places)], "before", after=i // len(places))
        for i in range(80)
    ]
    reading_row("the same for a spindle's turn", [partial(session.record, body) for body in bodies], app)
    window.close()


def plan_ticks(folder: Path) -> None:
    """A tick of the plan of four repairs, planned again and painted; the solver follows behind."""
    from PySide6.QtCore import QSettings

    from trebb.app.window.gui import application
    from trebb.app.window.main import Window
    from trebb.logbook.demo.jobs import make_demo
    from trebb.logbook.log.entries import RemedyChosen

    app = application()
    window = Window(QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    window.open_file(make_demo(folder / "plan.trebb"))
    window.show()
    frame = window.frame
    assert frame is not None
    chosen = {"cross_slide": "pair_thrust", "dial_shaft": "new", "quill_bore": "bush", "brake_cone": "reline"}
    frame.session.record(*[RemedyChosen(assembly=a, remedy=r, reason="") for a, r in chosen.items()])
    stop = frame.go_to("plan")
    app.processEvents()
    times = []
    for _ in range(40):
        stop.solver.stop()  # type: ignore[attr-defined]
        start = time.perf_counter()
        stop.toggle("order.brake_cone")  # type: ignore[attr-defined]
        app.processEvents()
        times.append((time.perf_counter() - start) * 1000)
    stop.solver.stop()  # type: ignore[attr-defined]
    times.sort()
    median, p95 = statistics.median(times), times[int(0.95 * len(times))]
    row(
        "a tick of the plan, planned again, repainted", f"{median:.1f} ms", "", f"p95 {p95:.1f} ms", "≤ 50 ms"
    )
    window.close()


def bed_reading(folder: Path) -> None:
    """A level's reading on a lathe in space of 500 readings: four assemblies share the condition."""
    from PySide6.QtCore import QSettings
    from PySide6.QtTest import QTest

    from trebb.app.window.gui import application
    from trebb.app.window.main import Window
    from trebb.logbook.demo.jobs import make_demo, readings_left, simulated_reading

    app = application()
    window = Window(QSettings(str(folder / "b.ini"), QSettings.Format.IniFormat))
    window.open_file(make_demo(folder / "bed.trebb"))
    window.show()
    frame = window.frame
    assert frame is not None
    session = frame.session
    for name in ("ways", "headstock", "tailstock", "stand"):
        session.record(*readings_left(session.cases.of(name), "before"))
    session.choose("ways")
    case, stop = session.case, frame.go_to("survey")
    stop.bench.choose_set_up("level_across")
    places = [p.key for p in case.places("level_across")]
    while len(session.job.all_readings()) < 500:
        session.record(*[simulated_reading(case, "level_across", p, "before") for p in places])
    QTest.qWait(600)
    bodies = [
        simulated_reading(case, "level_across", places[i % len(places)], "before", after=i // len(places))
        for i in range(80)
    ]
    reading_row("the same for a bed", [partial(session.record, body) for body in bodies], app)
    window.close()


def switching(folder: Path) -> None:
    """From stop to stop after the first visit, on the demo lathe with everything of its screw read; the
    needle in a 4K window.
    """
    from PySide6.QtCore import QSettings

    from trebb.app.shell.walk import take_what_is_left
    from trebb.app.stops.register import ALL_STOPS
    from trebb.app.window.gui import application
    from trebb.app.window.main import Window
    from trebb.logbook.demo.jobs import make_demo

    app = application()
    window = Window(QSettings(str(folder / "switch.ini"), QSettings.Format.IniFormat))
    window.open_file(make_demo(folder / "switch.trebb"))
    window.show()
    frame = window.frame
    assert frame is not None
    take_what_is_left(frame.session.case, "before", frame.session.record)
    times = []
    for turn in range(4):
        for stop in ALL_STOPS:
            begun = time.perf_counter()
            frame.go_to(stop.key)
            app.processEvents()
            if turn:
                times.append(1000 * (time.perf_counter() - begun))
    middle, late = statistics.median(times), sorted(times)[int(0.95 * len(times))]
    row(
        "another stop, after its first visit",
        f"{middle:.0f} ms",
        "",
        f"95 % in {late:.0f} ms",
        "≤ 50 ms in the middle",
    )
    window.resize(3840, 2160)
    frame.go_to("survey")
    pod = frame.stop.pod
    app.processEvents()
    begun = time.perf_counter()
    for i in range(60):
        pod.face.show_turn(i / 60, True, "thou")
        pod.face.grab()
        pod.numeral.grab()
    each = (time.perf_counter() - begun) / 60
    row("needle in a 4K window", f"{1000 * each:.1f} ms", "", f"{1 / each:.0f} frames a second", "≥ 30")
    window.close()


def staying() -> None:
    """Memory after an hour's worth of gestures against a minute's, in a process of its own."""
    script = """
import os, sys, tempfile, resource
from pathlib import Path
folder = Path(sys.argv[1]); os.environ["XDG_DATA_HOME"] = sys.argv[1]
from PySide6.QtCore import QSettings
from trebb.app.window.gui import application
from trebb.app.monkey import Monkey, answer_no_dialog
from trebb.app.window.main import Window
from trebb.logbook.demo.jobs import make_demo
application(); answer_no_dialog()
def now():
    return int(Path("/proc/self/statm").read_text().split()[1]) * resource.getpagesize() / 1e6
w = Window(QSettings(str(folder / "w.ini"), QSettings.Format.IniFormat))
w.open_file(make_demo(folder / "j.trebb")); w.show()
Monkey(w, 2).run(150); first = now()
Monkey(w, 3).run(int(sys.argv[2])); last = now()
print(first, last, flush=True); os._exit(0)
"""
    with tempfile.TemporaryDirectory() as folder:
        done = subprocess.run(
            [sys.executable, "-c", script, folder, str(HOUR_GESTURES)],
            capture_output=True,
            text=True,
            check=True,
        )
    first, last = (float(word) for word in done.stdout.split()[-2:])
    row(
        f"memory after {HOUR_GESTURES} gestures", f"{last:.0f} MB", f"{first:.0f} MB",
        f"{last / first:.2f} ×",
        "≤ 1.10 × that after 150",
    )  # fmt: skip


def large_job(folder: Path) -> None:
    """A gesture at a job of 20,000 entries against one of 200: most of them struck out, as years leave it."""
    from trebb.core.units import UnitSystem
    from trebb.logbook.cases.casework import SCREW, Cases
    from trebb.logbook.demo.jobs import make_demo
    from trebb.logbook.log.entries import NoteWritten, ReadingStruck, ReadingTaken
    from trebb.logbook.log.fold import Job

    def reading(i: int) -> ReadingTaken:
        return ReadingTaken(SCREW, "lash", f"station {i % 5 + 1}", "before", 22.0 + i % 3, "div")

    def gesture_ms(entries: int) -> float:
        with make_demo(folder / f"large-{entries}.trebb") as job_file:
            job = Job(job_file.entries())
            while job.version < entries:
                taken = job_file.append([reading(i) for i in range(10)])
                struck = job_file.append([ReadingStruck(e.id, "bumped") for e in taken])
                for entry in (*taken, *struck, *job_file.append([NoteWritten("left", "x")] * 20)):
                    job.apply(entry)
            cases = Cases(job)
            case = cases.of(SCREW)

            def gesture() -> None:
                for entry in job_file.append([reading(job.version)]):
                    job.apply(entry)
                case.findings(UnitSystem.INCH)
                case.suggestions()
                case.predictions()

            gesture()
            return best(gesture, 40) * 1000

    few, many = gesture_ms(200), gesture_ms(20_000)
    row(
        "a gesture at 20,000 entries, against 200",
        f"{many:.1f} ms",
        f"{few:.1f} ms",
        f"{many / few:.2f} ×",
        "≤ 1.5 ×",
    )


def suggesting() -> None:
    """Minutes until nine tenths of what the whole list can settle is settled: suggested order against the
    list's own.
    """
    from trebb.core.families.spindle.subject import USUAL
    from trebb.core.practice.trials import SpindleTrial, minutes_to_settle

    for kind, spindle in USUAL.items():
        fixed, live = (
            statistics.fmean(
                minutes_to_settle(SpindleTrial.drawn(seed, spindle).settling(suggested=s), 0.9)
                for seed in range(20)
            )
            for s in (False, True)
        )
        row(
            f"spindle of a {kind}: minutes to settle nine tenths",
            f"{live:.0f} min",
            f"{fixed:.0f} min",
            f"{1 - live / fixed:.0%} fewer",
            "≥ 25 % fewer",
        )


def coverage() -> None:
    """How often 95 % intervals hold what was planted, on 100 spindles of each kind (the tests use 500)."""
    import numpy as np

    from trebb.core.families.spindle.findings import draw, named_causes, quantity
    from trebb.core.families.spindle.sizes import cause_draws
    from trebb.core.families.spindle.subject import USUAL
    from trebb.core.practice.trials import SpindleTrial

    for kind, spindle in USUAL.items():
        hits, named = [], []
        for seed in range(100):
            trial = SpindleTrial.drawn(seed, spindle)
            seated, scatter, now = trial.survey()
            found, true = (
                {k: quantity(v) for k, v in cause_draws(seated, d, seated.work_mm).items()}
                for d in (draw(now), {k: np.array([v]) for k, v in trial.truth.items()})
            )
            hits += [found[k].low <= true[k].value <= found[k].high for k in found]
            largest = max(true, key=lambda k: true[k].value)
            if found[largest].value > 2 * found[largest].half_width:
                named.append(largest in named_causes(found, seatings=scatter.seatings))
        row(
            f"spindle of a {kind}: 95 % intervals hold the planted",
            f"{statistics.fmean(hits):.1%}",
            "",
            f"named {statistics.fmean(named):.1%}",
            "90 to 99 %, ≥ 95 %",
        )


def lathes_in_space() -> None:
    """Test cuts until the work is parallel, by shims that learn the bed and by shims from the feet alone, on
    200 lathes (the tests use 500); and how often intervals hold.
    """
    from trebb.core.practice.bed_trials import BedTrial

    trials = [BedTrial.drawn(seed) for seed in range(200)]
    learned, by_feet = ([t.cuts_to_limit(learns=learns) for t in trials] for learns in (True, False))
    share = [statistics.fmean(c <= 3 for c in cuts) for cuts in (learned, by_feet)]
    row(
        "lathe: parallel within three test cuts",
        f"{share[0]:.1%}",
        f"{share[1]:.1%}",
        f"mean {statistics.fmean(learned):.2f}, feet {statistics.fmean(by_feet):.2f}",
        "≥ 95 %; floor: feet alone",
    )
    hits = []
    for trial in trials[:100]:
        _, now = trial.survey()
        hits += [
            now.source(key).low <= trial.truth[key] <= now.source(key).high
            for key in ("twist", "yaw", "pitch", "front.2", "tail_side", "tail_high")
        ]
    row("lathe: 95 % intervals hold the planted", f"{statistics.fmean(hits):.1%}", "", "", "90 to 99 %")


def reading_taken(folder: Path) -> None:
    """A reading of a screw's lash on a job of 500, as its machine gives them."""
    from PySide6.QtCore import QSettings
    from PySide6.QtTest import QTest

    from trebb.app.window.gui import application
    from trebb.app.window.main import Window
    from trebb.logbook.demo.jobs import make_demo, simulated_reading
    from trebb.logbook.log.entries import ReadingTaken

    app = application()
    window = Window(QSettings(str(folder / "r.ini"), QSettings.Format.IniFormat))
    window.open_file(make_demo(folder / "reading.trebb"))
    window.show()
    frame = window.frame
    assert frame is not None
    session = frame.session
    case = session.case

    def lash(i: int) -> ReadingTaken:
        return simulated_reading(case, "lash", f"station {i % 5 + 1}", "before", after=i // 5)

    session.record(*[lash(i) for i in range(490)])
    QTest.qWait(300)
    takes = [partial(session.record, lash(i)) for i in range(120)]
    reading_row("reading taken, all views updated, job of 500 readings", takes, app)
    window.close()


def append(folder: Path) -> None:
    from trebb.logbook.file.store import PRAGMAS, JobFile
    from trebb.logbook.log.entries import NoteWritten

    bare = sqlite3.connect(folder / "bare.db", isolation_level=None)
    for pragma in PRAGMAS:
        bare.execute(pragma)
    bare.execute(
        "CREATE TABLE entry (id INTEGER PRIMARY KEY, at TEXT, gesture INTEGER, kind TEXT, body TEXT) STRICT"
    )
    number = [0]

    def bare_insert() -> None:
        number[0] += 1
        bare.execute("BEGIN IMMEDIATE")
        bare.execute(
            "INSERT INTO entry VALUES (?, ?, ?, ?, ?)",
            (number[0], "2026-01-01T00:00:00.000Z", number[0], "note.written", '{"topic":"left","text":"x"}'),
        )
        bare.execute("COMMIT")

    with JobFile.create(folder / "append.trebb") as job_file:
        note = NoteWritten(topic="left", text="x")
        ours, floor = [], []
        for _ in range(600):  # in turn, so that the disk's mood is the same for both
            ours.append(best(lambda: job_file.append([note]), 1))
            floor.append(best(bare_insert, 1))
    bare.close()
    got, base = statistics.median(ours), statistics.median(floor)
    row(
        "entry appended durably, against a bare insert",
        f"{got * 1e6:.0f} µs",
        f"{base * 1e6:.0f} µs",
        f"{got / base:.2f} ×",
        "≤ 1.3 ×",
    )


def opening(folder: Path) -> None:
    from trebb.logbook.file.store import JobFile
    from trebb.logbook.log.entries import JobStarted, ReadingTaken
    from trebb.logbook.log.fold import Job

    path = folder / "large.trebb"
    with JobFile.create(path) as job_file:
        job_file.append([JobStarted(shop="s", machine="m", machine_kind="lathe")])
        bodies = [
            ReadingTaken(
                assembly="cross_slide",
                set_up="lash",
                place=f"station {i % 5 + 1}",
                phase="before",
                value=20.0 + i % 7,
                unit="div",
            )
            for i in range(20_000)
        ]
        job_file.append(bodies)

        def ours() -> None:
            Job(job_file.entries())

        def floor() -> None:
            for *_, body in job_file._db.execute(
                "SELECT id, at, gesture, kind, body FROM entry ORDER BY id"
            ).fetchall():
                json.loads(body)

        got, base = best(ours), best(floor)
    row(
        "opening 20,000 entries, against JSON-decoding them",
        f"{got * 1000:.0f} ms",
        f"{base * 1000:.0f} ms",
        f"{got / base:.2f} ×",
        "≤ 2 ×",
    )


def estimating() -> None:
    import numpy as np

    from trebb.core.condition import ErrorModel, Observation, Row, Source, estimate

    rng = np.random.default_rng(0)
    keys = [f"s{i}" for i in range(60)]
    model = ErrorModel(tuple(Source(key, key, 0.1, 0.2, i % 2 == 0) for i, key in enumerate(keys)))
    truth = np.abs(rng.normal(0.1, 0.2, 60))
    observations = []
    for _ in range(2000):
        chosen = rng.choice(60, 5, replace=False)
        row_ = Row({keys[i]: float(c) for i, c in zip(chosen, rng.normal(size=5), strict=True)}, 0.01)
        observations.append(
            Observation(
                row_, float(sum(row_.coefficients[keys[i]] * truth[i] for i in chosen) + 0.01 * rng.normal())
            )
        )
    design = model.matrix([o.row for o in observations])
    values = np.array([o.value for o in observations])
    got = best(lambda: estimate(model, observations), 15)
    base = best(lambda: np.linalg.lstsq(design, values, rcond=None), 15)
    row(
        "estimate, 60 sources, 2,000 readings, against lstsq",
        f"{got * 1000:.1f} ms",
        f"{base * 1000:.1f} ms",
        f"{got / base:.2f} ×",
        "≤ 2 ×",
    )


def gearing() -> None:
    """All four-wheel trains of twenty wheels within 50 ppm, against trying every pair of pairs in a bare
    NumPy loop.
    """
    from fractions import Fraction

    import numpy as np

    from trebb.core.gears.trains import find_trains
    from trebb.core.machine.workshop import Workshop

    shop = Workshop()
    wheels = np.array(shop.wheels)
    lead = Fraction(254, 55)
    need = float(lead) / float(shop.lead_screw_mm)

    def bare() -> int:
        i, j = np.triu_indices(len(wheels), 1)
        product = wheels[i] * wheels[j]
        return sum(int((np.abs(p / product / need - 1) <= 50e-6).sum()) for p in product)

    got, base = best(lambda: find_trains(shop.lead_screw_mm, lead, shop.wheels), 15), best(bare, 15)
    row(
        "gear trains of 20 wheels within 50 ppm",
        f"{got * 1000:.1f} ms",
        f"{base * 1000:.1f} ms",
        f"{got / base:.2f} ×",
        "< 200 ms",
    )


def naming() -> None:
    """A thread named from what was measured, against one pass of the normal density over as many
    candidates.
    """
    import numpy as np

    from trebb.core.threads.naming import Seen, _table, name_thread

    table, seen = _table(), Seen(lead_mm=4.236, pitch_mm=4.235, major_mm=21.92, depth_mm=2.4, angle_deg=29.1)
    got = best(lambda: name_thread(seen), 15)
    base = best(lambda: np.exp(-0.5 * ((4.236 - table.lead) / 0.005) ** 2), 15)
    row(
        f"thread named among {len(table.share)} candidates",
        f"{got * 1000:.2f} ms",
        f"{base * 1000:.2f} ms",
        f"{got / base:.0f} ×",
        "",
    )


def drawing() -> None:
    """A shaft of twelve steps laid out, against ezdxf's own rendering of the same document."""
    from trebb.app.parts.drawing_view import scene_of
    from trebb.core.parts.base import Part, Section
    from trebb.core.parts.drawing import Title, drawing_of, laid_out
    from trebb.core.threads import Band
    from trebb.core.units import UnitSystem

    steps = [12 + 2 * (i % 5) for i in range(12)]
    sections = tuple(
        Section(f"step {i}", "plain", 8.0 + 3 * i, float(d), Band(d - 0.02, float(d)))
        for i, d in enumerate(steps)
    )
    part = Part("shaft", "Shaft", "steel", "bar", sections, None, (), (), ("A note.",))
    system = UnitSystem.METRIC
    document = drawing_of(part, system)
    scene_of(document, "#ffffff")
    got = best(lambda: laid_out(part, system, Title()), 7)
    base = best(lambda: scene_of(document, "#ffffff"), 7)
    row(
        "drawing of twelve steps laid out",
        f"{got * 1000:.0f} ms",
        f"{base * 1000:.0f} ms",
        f"{got / base:.2f} ×",
        "< 2 ×",
    )


def main() -> None:
    import trebb.app  # gives the clock that jobs are written by

    assert trebb.app.__name__
    print(f"{'':52s} {'ours':>12s} {'floor':>12s} {'result':>22s}   goal")
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place)
        start_and_memory(folder)
        reading_taken(folder)
        spindle_reading(folder)
        bed_reading(folder)
        plan_ticks(folder)
        switching(folder)
        staying()
        large_job(folder)
        append(folder)
        opening(folder)
        estimating()
        suggesting()
        gearing()
        naming()
        drawing()
        coverage()
        lathes_in_space()
    print(f"peak memory of this run: {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")


if __name__ == "__main__":
    main()
