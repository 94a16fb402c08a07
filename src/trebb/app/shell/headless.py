"""The demo's main job without a window: readings, findings, prediction, sizes; drawings, sheet and pictures
to a folder.
"""

from __future__ import annotations

import os
from pathlib import Path

from trebb.app.shell.walk import choose_least_work, cut_parts, fit_together, take_what_is_left
from trebb.core.errors import InputError
from trebb.core.units import UnitSystem, show_minutes, show_small, show_uncertain
from trebb.logbook.cases.casework import Case, Cases
from trebb.logbook.cases.drive_case import DriveCase
from trebb.logbook.cases.spindle_case import SpindleCase
from trebb.logbook.cases.verdict import proof_verdict
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.demo.machines import PLANTED
from trebb.logbook.file.store import JobFile
from trebb.logbook.file.writing import write_whole
from trebb.logbook.log.entries import Body
from trebb.logbook.log.fold import Job

INCH = UnitSystem.INCH


def run_headless(out: Path, machine: str = "lathe") -> int:
    """Go through the demo job and write what it yields to `out`. Raises InputError if that cannot be
    written.
    """
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    try:
        out.mkdir(parents=True, exist_ok=True)
        job_path = out / "demo.trebb"
        for old in (job_path, out / "demo.trebb-wal"):
            old.unlink(missing_ok=True)
    except OSError as error:
        raise InputError(
            str(out), f"the folder cannot be written ({error.strerror}); name another with --out"
        ) from None
    with DEMOS[machine](job_path) as job_file:
        job = Job(job_file.entries())
        case = Cases(job).first()

        def record(*bodies: Body) -> None:
            for entry in job_file.append(bodies):
                job.apply(entry)

        _say_job(case)
        taken = take_what_is_left(case, "before", record)
        print(f"Readings left to take: {taken}, taken from the simulated machine.\n")
        _say_findings(case)
        _say_remedies(case)
        chosen = choose_least_work(case, record, "Least work that is predicted inside the limit.")
        print(f"\nChosen: {case.foretold(chosen)[0].title}.\n")
        cut_parts(case, record)
        _say_parts(case)
        fit_together(case, record)
        take_what_is_left(case, "after", record)
        _, head, text = proof_verdict(case, INCH)
        print(f"\nProof: {head} {text}\n")
        _write_files(case, job_file, out)
    print(f"Job, drawings, acceptance sheet and pictures are in {out.resolve()}")
    return 0


def _say_job(case: Case) -> None:
    started = case.job.started
    assert started is not None
    print(f"{started.shop}: {started.machine}\n{case.assembly.label}, {case.describe()}")


def _say_findings(case: Case) -> None:
    print("Findings")
    for finding in case.findings(INCH):
        print(f"  [{finding.state.value}] {finding.sentence}")
    if isinstance(case, SpindleCase):
        _say_chain(case)
    if not isinstance(case, DriveCase):
        return
    split = case.split
    print(
        "  Planted: "
        + ", ".join(
            f"{name} {show_small(PLANTED[key], INCH)}"
            for name, key in (("screw at the middle", "wear.3"), ("nut", "nut"), ("end float", "float"))
        )
    )
    print(
        "  Found:   "
        + ", ".join(
            f"{name} {show_uncertain(q.value, q.half_width, INCH)}"
            for name, q in (
                ("screw at the middle", split.stations[2].wear),
                ("nut", split.nut),
                ("end float", split.float_),
            )
        )
    )


def _say_chain(case: SpindleCase) -> None:
    import numpy as np

    from trebb.core.families.spindle.sizes import cause_draws

    planted = case.job.planted(case.assembly_key)
    assert planted is not None
    true = cause_draws(
        case.spindle, {k: np.array([v]) for k, v in planted.condition.items()}, case.spindle.work_mm
    )
    print(
        "  Planted: "
        + ", ".join(f"{name} {show_small(float(value[0]), INCH)}" for name, value in true.items())
    )
    print(
        "  Found:   "
        + ", ".join(
            f"{link.key} {show_uncertain(link.value.value, link.value.half_width, INCH)}"
            for link in case.split.links
        )
    )


def _say_remedies(case: Case) -> None:
    print(
        f"\nWhat each repair would leave: {case.judged.label.lower()} (limit "
        f"{show_small(case.limit.limit_mm, INCH)})"
    )
    for remedy, prediction in case.offered():
        worst = case.left_of(prediction)
        print(
            f"  {remedy.title:38s} {show_uncertain(worst.value, worst.half_width, INCH):>18s}   "
            f"{show_minutes(remedy.hours * 60):>8s}"
        )


def _say_parts(case: Case) -> None:
    from trebb.app.parts.sizes_panel import size_text

    for key in case.part_keys():
        part = case.part(key)
        print(f"{part.title}, {part.material}")
        for line in part.rows:
            print(f"  {line.label:34s} {size_text(line, INCH):>22s}   {line.note}")
    sizes = [s.taken.value_mm / 25.4 for s in case.job.sizes("screw", "thread") if s.struck is None]
    if sizes:
        print("  Over wires as cut, in: " + ", ".join(f"{size:.4f}" for size in sizes))


def _write_files(case: Case, job_file: JobFile, out: Path) -> None:
    from trebb.app.parts.drawing_title import title_of
    from trebb.app.parts.drawing_view import save_dxf, save_pdf, save_svg
    from trebb.app.parts.report import write_sheet
    from trebb.app.shots import stop_pictures
    from trebb.app.window.gui import application
    from trebb.logbook.exchange.job_json import job_to_json
    from trebb.logbook.exchange.readings_csv import readings_to_csv

    application()
    for key in case.part_keys():
        part = case.part(key)
        for save, suffix in ((save_dxf, "dxf"), (save_svg, "svg"), (save_pdf, "pdf")):
            save(part, INCH, out / f"{key}.{suffix}", title_of(case))
    write_sheet(case, INCH, out / "acceptance.pdf")
    write_whole(out / "demo.json", job_to_json(job_file).encode())
    write_whole(out / "readings.csv", readings_to_csv(case.job).encode())
    if isinstance(case, DriveCase):
        stop_pictures(out)
