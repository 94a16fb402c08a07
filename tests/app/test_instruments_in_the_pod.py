"""A real serial line in the pod, format by format."""

from __future__ import annotations

import os
import tty

import pytest
from PySide6.QtCore import Qt

from tests.app.conftest import cable, click, press, until
from trebb.app.survey.instrument_link import InstrumentLink, raw_of
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.survey import set_up
from trebb.instruments import IndicatorReader, Sample, offer_of
from trebb.logbook.cases.casework import SCREW

DRIVE = ScrewDrive()


@pytest.fixture
def line():
    """A pseudo-terminal: the test writes what an indicator would."""
    master, slave = os.openpty()
    tty.setraw(slave)
    yield master, os.ttyname(slave)
    os.close(master)
    os.close(slave)


@pytest.mark.parametrize(
    ("key", "text", "mm"),
    [
        ("mm", "+0.152\r\n", 0.152),
        ("inch", "+.0060\r\n", 0.1524),
        ("micron", "152\n", 0.152),
        ("implied", "+00152\n", 0.152),
        ("prefixed", "D+0.152\n", 0.152),
    ],
)
def test_a_serial_indicator_is_read_in_each_format_and_taken_with_space(frame, line, key, text, mm):
    master, port = line
    pod = frame.stop.pod
    frame.stop.bench.choose_set_up("end_float")
    pod.use("serial", port, key)
    assert frame.link.kind == "serial"

    def shown() -> bool:
        os.write(master, text.encode())
        return pod._raw is not None and abs(pod._raw - mm) < 1e-9

    assert until(shown)
    press(frame, Qt.Key.Key_Space)
    taken = frame.session.job.readings(SCREW, "end_float")[0].taken
    assert (taken.value, taken.instrument) == (pytest.approx(mm), port)


def test_noise_on_the_line_is_said_in_the_pod(frame, line):
    master, port = line
    frame.stop.pod.use("serial", port, "mm")

    def said() -> bool:
        os.write(master, b"@#!\n")
        return frame.stop.pod.source.text() == "not understood"

    assert until(said)
    assert "expected millimetres" in frame.stop.pod.source.toolTip()
    assert frame.stop.pod.numeral.text() == "–"


def test_a_silent_line_is_quiet_and_typing_still_works(frame, line):
    _, port = line
    frame.stop.pod.use("serial", port, "mm")
    frame.stop.pod.poll()
    assert frame.stop.pod.source.text() == "quiet"
    frame.stop.bench.choose_set_up("end_float")
    frame.stop.pod.take_typed("6 thou")
    assert frame.session.job.readings(SCREW, "end_float")[0].taken.value == pytest.approx(0.1524)


@pytest.mark.parametrize(
    ("sample", "key", "raw"),
    [
        (Sample(0.254, "mm", ""), "push_pull", 0.254),
        (Sample(0.254, "mm", ""), "lash", 10.0),
        (Sample(10.0, "div", ""), "lash", 10.0),
        (Sample(10.0, "div", ""), "push_pull", 0.254),
    ],
)
def test_an_indicator_where_divisions_are_read_is_turned_into_divisions_and_back(sample, key, raw):
    assert raw_of(sample, set_up(key), DRIVE) == pytest.approx(raw)


def test_a_link_without_an_instrument_shows_nothing_and_says_so():
    link = InstrumentLink()
    link.zero()
    link.stand_at(set_up("lash"), 5.0)
    assert link.sample() is None
    assert link.state() == ("keys", "typed or wedge cable")
    assert link.name == "typed"
    link.close()


def test_a_needle_on_its_way_is_waited_for_and_taken_at_rest(frame):
    bench = frame.stop.bench
    bench.choose_set_up("end_float")
    pod = frame.stop.pod
    assert until(lambda: pod._raw is not None)
    pod._forget_needle()
    pod.take()
    assert pod.is_waiting
    assert not frame.session.job.readings(SCREW, "end_float")
    assert until(lambda: bool(frame.session.job.readings(SCREW, "end_float")))
    expected = frame.session.case.practice("before").reading(set_up("end_float"), "collar", 0)
    assert frame.session.job.readings(SCREW, "end_float")[0].taken.value == pytest.approx(expected, abs=0.006)


def test_a_needle_that_never_rests_is_said_and_nothing_is_taken(frame):
    frame.stop.bench.choose_set_up("end_float")
    pod = frame.stop.pod
    frame.link.simulated.faults.drift_per_s = 2.0
    assert until(lambda: len(pod._recent) == 3 and not pod._is_still())
    pod.take()
    assert until(lambda: "does not come to rest" in pod.refusal.text())
    assert not pod.is_waiting
    assert not frame.session.job.readings(SCREW, "end_float")


def test_an_indicator_that_sends_one_line_a_press_is_taken_once_a_line(frame, line):
    master, port = line
    pod = frame.stop.pod
    frame.stop.bench.choose_set_up("end_float")
    pod.use("serial", port, "mm")
    os.write(master, b"+0.152\r\n")  # who knows what went before it?
    assert until(lambda: "passed over: send it again" in pod.source.toolTip())
    assert pod._raw is None
    os.write(master, b"+0.152\r\n")
    assert until(lambda: pod._raw == 0.152)
    pod.take()
    assert until(lambda: len(frame.session.job.readings(SCREW, "end_float")) == 1)
    pod.take()
    assert until(
        lambda: "Nothing new has come" in pod.refusal.text() or "Nothing to take" in pod.refusal.text()
    )
    assert len(frame.session.job.readings(SCREW, "end_float")) == 1


def test_the_last_reading_of_a_set_up_may_wait_too(frame):
    frame.stop.bench.choose_set_up("end_float")
    pod = frame.stop.pod
    for number in range(1, 4):
        assert until(lambda: pod._raw is not None)
        pod._forget_needle()
        pod.take()
        assert until(lambda wanted=number: len(frame.session.job.readings(SCREW, "end_float")) == wanted)
    assert frame.stop.bench.place() is None
    assert "every place of this set-up is read" in pod.where.text()
    pod.take()
    assert "choose a place" in pod.refusal.text()
    press(frame, Qt.Key.Key_B, Qt.KeyboardModifier.AltModifier)
    assert frame.stop.bench.current.key == "push_pull"


class Line:
    """An indicator that the test drives: a line at a time, on a clock of its own."""

    def __init__(self, frame, port, master, monkeypatch):
        self.frame, self.master, self.now = frame, master, 100.0
        real = IndicatorReader
        monkeypatch.setattr(
            "trebb.app.survey.instrument_link.IndicatorReader",
            lambda *arguments: real(*arguments, clock=lambda: self.now),
        )
        frame.stop.pod.use("serial", port, "mm")
        os.write(master, b"\n")  # the first line of an opening is passed over

    def send(self, text: str, after_s: float = 0.7):
        """A line so many seconds after the one before, and wait until it was read."""
        self.now += after_s
        count = self.frame.link.lines
        os.write(self.master, f"{text}\n".encode())
        assert until(lambda: self.frame.link.lines > count)
        self.frame.stop.pod.poll()


def test_only_lines_after_the_place_changed_and_that_agree_are_taken(frame, line, monkeypatch):
    master, port = line
    frame.stop.bench.choose_set_up("end_float")
    slow = Line(frame, port, master, monkeypatch)
    for _ in range(4):
        slow.send("+0.100")
    frame.stop.bench.choose_set_up("push_pull")  # the plunger is still on its way when space is pressed
    press_space(frame)
    for text in ("+0.100", "+0.180", "+0.290", "+0.300", "+0.301"):
        assert from_port(frame, port) == []
        slow.send(text)
    assert from_port(frame, port) == []
    slow.send("+0.300")
    assert from_port(frame, port) == [0.3]


def from_port(frame, port):
    readings = frame.session.job.readings(SCREW, "push_pull")
    return [r.taken.value for r in readings if r.taken.instrument == port]


def press_space(frame):
    frame.stop.take()


def test_a_line_with_a_tab_in_it_does_not_end_the_reader(frame, line, monkeypatch):
    master, port = line
    frame.stop.bench.choose_set_up("end_float")
    driven = Line(frame, port, master, monkeypatch)
    for text in ("+\t0.5", "+0.1\t5", "\t", "1e58", "9" * 58 + " div", "\x00\xff"):
        os.write(master, f"{text}\n".encode("latin-1"))
    driven.send("+0.152")
    assert until(lambda: frame.link.state()[0] == "live")
    driven.now += 1.5
    frame.stop.pod.poll()
    assert frame.stop.pod.source.text() == "quiet"
    press_space(frame)
    assert "Nothing to take" in frame.stop.pod.refusal.text()


def test_an_instrument_is_believed_but_not_without_being_asked(frame, line, monkeypatch):
    master, port = line
    frame.stop.bench.choose_set_up("end_float")
    driven = Line(frame, port, master, monkeypatch)
    for text, said in (("-0.05", "not less than nothing"), ("1500", "more than the slide's whole travel")):
        for _ in range(5):
            driven.send(text)
        press_space(frame)
        frame.stop.pod.poll()
        assert said in frame.stop.pod.refusal.text()
        assert not frame.session.job.readings(SCREW, "end_float")
    for _ in range(5):
        driven.send("1500")
    press_space(frame)
    assert [r.taken.value for r in frame.session.job.readings(SCREW, "end_float")] == [1500.0]


# which format, which port ----------------------------------------------------------------------


@pytest.mark.parametrize(
    ("lines", "key"),
    [
        (["+0.123", "-0.004", "+1.250"], "mm"),
        (["+.0021", "-.0104", "+.1250"], "inch"),
        (["0.12345", "0.12350"], "inch"),
        (["-42", "7", "+130"], "micron"),
        (["+00123", "-00042", "+01250"], "implied"),
        (["D+0.123", "D-0.004"], "prefixed"),
        (["+0.123 mm", "+0.0021 in"], "mm"),
        (["0,123", "0,125"], "mm"),
        (["+0.123", "·@#", "-0.004", "+0.100"], "mm"),
        (["·@#", "xx", "+0.1"], None),
        (["A 12 B", "C"], None),
        ([], None),
    ],
)
def test_the_format_that_fits_lines_is_offered(lines, key):
    found = offer_of(lines)
    assert (found.key if found else None) == key


def test_a_wrong_format_is_shown_with_its_lines_and_put_right_with_one_button(frame, line):
    master, port = line
    pod = frame.stop.pod
    frame.stop.bench.choose_set_up("end_float")
    press(frame, Qt.Key.Key_I, Qt.KeyboardModifier.ControlModifier)
    pod.sources.ports.setEditText(port)
    click(pod, "read_port")

    def offered() -> bool:
        os.write(master, b"D+0.152\r\n")
        pod.poll()
        return pod.sources.offer.isVisible()

    assert until(offered)
    assert "D+0.152" in pod.sources.lines.text()
    assert pod._raw is None  # nothing is read by a guess before somebody says yes
    click(pod, "take_format")

    def shown() -> bool:
        os.write(master, b"D+0.152\r\n")
        return pod._raw is not None and abs(pod._raw - 0.152) < 1e-9

    assert until(shown)
    assert frame.link.serial.format.key == "prefixed"


def test_noise_at_a_wrong_baud_rate_is_said_and_shown_harmless(frame, line):
    master, port = line
    pod = frame.stop.pod
    pod.use("serial", port, "mm", 19200)

    def said() -> bool:
        os.write(master, b"<b>\x07\xff\x1b[2J\n")
        pod.poll()
        return "another baud rate" in pod.sources.lines.text()

    assert until(said)
    assert "<b>···[2J" in pod.sources.lines.text()
    assert pod.sources.lines.textFormat() == Qt.TextFormat.PlainText


def test_ports_are_listed_with_what_they_call_themselves(frame, monkeypatch):
    monkeypatch.setattr(
        "trebb.app.survey.instrument_choice.named_ports",
        lambda: [("/dev/ttyUSB3", "USB to <b>serial</b>"), ("/dev/rfcomm0", "Bluetooth")],
    )
    choice = frame.stop.pod.sources
    choice.fill(has_practice=True)
    assert choice.ports.itemText(0) == "/dev/ttyUSB3  USB to <b>serial</b>"
    asked = []
    choice._use = lambda *given: asked.append(given)
    click_text = choice.ports.itemText(1)
    choice.ports.setCurrentText(click_text)
    choice._open()
    assert asked == [("serial", "/dev/rfcomm0", "mm", 9600)]


def test_a_wedge_cable_with_a_prefix_is_taken_and_remembered(make_window):
    window = make_window()
    frame = window.frame
    frame.go_to("survey")
    frame.stop.bench.choose_set_up("end_float")
    pod = frame.stop.pod
    pod.use("keys")
    pod.sources.fill(has_practice=True)
    pod.sources.prefix.setText("D")
    cable(frame, pod.entry, "D0.152mm")
    taken = frame.session.job.readings(SCREW, "end_float")[0].taken
    assert taken.value == pytest.approx(0.152)
    window.leave_job()
    assert window.settings.value("wedge_prefix") == "D"
