"""Back-ups, a damaged job and a mishap of the program itself, in the window."""

from __future__ import annotations

import os
import subprocess
import sys
import time

from PySide6.QtWidgets import QApplication, QPushButton

from trebb.app.window import mishaps
from trebb.app.window.one_window import ring
from trebb.logbook.file.backups import backups
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import JobStarted, NoteWritten


def press(window, name) -> None:
    """A button of the window pressed."""
    next(b for b in window.findChildren(QPushButton) if b.objectName() == name).click()
    QApplication.processEvents()


def test_a_copy_is_made_at_close_and_only_where_something_was_added(make_window, tmp_path):
    window = make_window("new")
    path = window.frame.session.path
    window.leave_job()
    assert backups() == []
    window.open_path(path)
    window.frame.session.record(NoteWritten(topic="left", text="a line"))
    window.leave_job()
    assert len(backups()) == 1
    press(window, "backups")
    page = window._page
    assert page.found[0].machine == "Lathe 9"
    page.restore_to(page.found[0], path)
    assert "there already" in page.banner.text.text()
    page.restore_to(page.found[0], tmp_path / "again.trebb")
    assert window.frame.session.path.name == "again.trebb"
    assert window.frame.session.job.note("left") == "a line"


def test_a_damaged_job_is_saved_as_far_as_it_is_sound(make_window, tmp_path):
    path = tmp_path / "hurt.trebb"
    with JobFile.create(path) as job_file:
        job_file.append([JobStarted(shop="s", machine="Lathe 8", machine_kind="lathe")])
        for i in range(400):
            job_file.append([NoteWritten(topic=f"t{i}", text="x" * 300)])
    data = bytearray(path.read_bytes())
    at = len(data) // 2 // 4096 * 4096
    data[at : at + 4096] = b"\xff" * 4096
    path.write_bytes(data)
    window = make_window(None)
    assert not window.open_path(path)
    assert "damaged" in window.start.banner.head.text()
    assert window.start.save_sound.isVisible()
    press(window, "save_sound")
    assert window.frame.session.path.name == "hurt-saved.trebb"
    assert "could be read" in window.frame.trouble.text.text()
    assert not window.open_path(tmp_path / "none.trebb")
    assert not window.start.save_sound.isVisible()


def test_a_mishap_is_said_written_down_without_the_job_and_survived(make_window, monkeypatch):
    window = make_window("new")
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    mishaps.catch(window.say_mishap)
    secret = "a job's own words"
    try:
        raise ValueError(secret)
    except ValueError as error:
        sys.excepthook(type(error), error, error.__traceback__)
    assert window.frame.trouble.head.text() == mishaps.SENTENCE
    reports = list((mishaps.state_folder() / "reports").glob("report-*.txt"))
    assert len(reports) == 1
    text = reports[0].read_text()
    assert "ValueError" in text
    assert secret not in text
    window.frame.session.record(NoteWritten(topic="left", text="still here"))
    assert window.frame.session.job.note("left") == "still here"
    for _ in range(mishaps.KEPT + 3):
        mishaps.write_report(ValueError, ValueError(), None)
    assert len(list((mishaps.state_folder() / "reports").iterdir())) == mishaps.KEPT


def test_without_a_folder_a_mishap_is_said_all_the_same(make_window, monkeypatch):
    monkeypatch.setenv("XDG_STATE_HOME", "/proc/nowhere")
    assert mishaps.write_report(ValueError, ValueError(), None) is None
    mishaps.begin_log()


def test_the_start_page_says_how_far_each_job_is_and_what_is_gone(make_window, tmp_path):
    window = make_window("new")
    path = window.frame.session.path
    window.leave_job()
    words = [b.text() for b in window.start.findChildren(QPushButton)]
    assert any("Lathe 9, Shed" in w and "just begun" in w for w in words)
    path.unlink()
    window.start.refresh()
    QApplication.processEvents()
    assert "not there any more" in window.start._glances[0].words()
    window.start._forget(window.start._glances[0].path)
    assert window.remembered == []
    for i, name in enumerate(("ash", "birch", "cedar", "elm", "fir", "hazel", "larch", "maple", "walnut")):
        with JobFile.create(tmp_path / f"job{i}.trebb") as job_file:
            job_file.append([JobStarted(shop="s", machine=f"Mill {name}", machine_kind="mill")])
        window.open_path(tmp_path / f"job{i}.trebb")
    window.leave_job()
    assert window.start.search.isVisible()
    window.start.search.setText("mill walnut")
    QApplication.processEvents()
    assert window.start._recent.count() == 1
    window.start.search.setText("submarine")
    QApplication.processEvents()
    assert window.start._recent.count() == 1


def test_a_second_opening_raises_the_window_that_has_the_job(make_window):
    window = make_window("new")
    path = window.frame.session.path
    came = []
    while window.bell is None:  # hung a moment after the job is seen
        QApplication.processEvents()
    window.bell._rung = lambda: came.append(True)
    second = subprocess.Popen(
        [sys.executable, "-m", "trebb.app.cli", str(path)],
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )
    while second.poll() is None:
        QApplication.processEvents()
        time.sleep(0.01)  # lets the other have the processor
    QApplication.processEvents()
    assert second.returncode == 0
    assert came
    assert window.open_path(path)  # its own job: it is there already
    window.come_forward()
    assert window.isVisible()
    window.leave_job()
    assert not ring(path)


def test_a_window_killed_at_any_moment_loses_nothing_that_it_showed(tmp_path):
    import re
    import subprocess
    import sys

    done = subprocess.run(
        [sys.executable, "-m", "trebb.app.kill", "--count", "4", "--seed", "7"],
        capture_output=True, text=True, check=False, env={**os.environ, "TMPDIR": str(tmp_path)},
    )  # fmt: skip
    assert done.returncode == 0, done.stdout + done.stderr
    shown = re.match(r"4 kills: (\d+) readings", done.stdout)
    assert shown is not None
    assert int(shown[1]) >= 4  # every window showed one at least


def test_the_kills_would_notice_a_loss(tmp_path):
    from trebb.app.kill import Tally, _look
    from trebb.logbook.demo.jobs import make_demo

    path = tmp_path / "job.trebb"
    make_demo(path).close()
    cut = tmp_path / "cut.json"
    cut.write_text('{"entries": [')
    tally = Tally()
    _look(path, ["reading 9999", f"photograph {'ab' * 32}", f"export {cut}", "failed OSError()"], tally)
    assert len(tally.lost) == 4


def test_the_start_page_shows_the_last_photograph_of_each_job(make_window, tmp_path):
    from tests.app.conftest import picture, until

    window = make_window()
    intake = window.frame.go_to("intake")
    intake.add_photo(picture(tmp_path))
    window.leave_job()
    start = window.start
    assert until(lambda: not start._waiting)
    rows = [b for b in start.findChildren(QPushButton) if not b.icon().isNull()]
    assert len(rows) == 1
    assert "Lathe 2" in rows[0].text()


def test_a_photograph_that_is_none_leaves_the_start_page_as_it_is(make_window):
    from tests.app.conftest import until
    from trebb.logbook.file.store import sha256_of
    from trebb.logbook.log.entries import PhotoAdded

    window = make_window()
    sha = sha256_of(b"no picture")
    photo = PhotoAdded(assembly="ways", sha256=sha, media_type="image/png", file_name="x.png")
    window.frame.session.record(photo, photographs={sha: ("image/png", b"no picture")})
    window.leave_job()
    assert until(lambda: not window.start._waiting)
    assert window.start.isVisible()
