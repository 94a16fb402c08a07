"""The serial reader on a real pseudo-terminal."""

from __future__ import annotations

import os
import time
import tty

import pytest

from trebb.instruments import FORMATS, Faults, IndicatorReader, PortError, SimulatedIndicator


def until(condition, seconds=6.0):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if condition():
            return True
        time.sleep(0.01)
    return False


@pytest.fixture
def simulated():
    made = SimulatedIndicator(Faults(noise=0.0, hysteresis=0.0, lost_line_share=0.2))
    yield made
    made.close()


@pytest.fixture
def reader(simulated):
    made = IndicatorReader(simulated.port, FORMATS["mm"])
    yield made
    made.close()


@pytest.fixture
def line():
    """A pseudo-terminal that the test itself writes on."""
    master, slave = os.openpty()
    tty.setraw(slave)
    made = IndicatorReader(os.ttyname(slave), FORMATS["mm"])
    yield master, made
    made.close()
    for end in (master, slave):
        os.close(end)


def shows(reader, value, unit="mm"):
    return until(
        lambda: (s := reader.latest()) is not None and s.unit == unit and abs(s.value - value) < 1e-6
    )


def test_the_reader_follows_the_plunger_though_lines_are_lost(simulated, reader):
    simulated.stand_at(0.3048, "mm", 0.00254)
    assert shows(reader, 0.3048)
    simulated.stand_at(24.5, "div", 0.5)
    assert shows(reader, 24.5, "div")
    assert reader.state().key == "live"


def test_a_pulled_cable_is_said_and_comes_back_by_itself(simulated, reader):
    simulated.stand_at(0.1016, "mm", 0.00254)
    assert shows(reader, 0.1016)
    simulated.unplug()
    assert not simulated.is_plugged
    assert until(lambda: reader.state().key == "gone")
    assert reader.latest() is None
    assert "plug the cable in again" in reader.state().sentence
    simulated.plug()
    assert shows(reader, 0.1016)


def test_zero_is_sent_to_the_instrument(simulated, reader):
    simulated.stand_at(0.508, "mm", 0.00254)
    assert shows(reader, 0.508)
    reader.command("Z")
    assert shows(reader, 0.0)
    reader.command("A")
    assert shows(reader, 0.508)


def test_drift_hysteresis_and_noise_move_the_reading():
    drifting = SimulatedIndicator(Faults(noise=0.002, hysteresis=0.01, drift_per_s=0.5, lost_line_share=0.0))
    made = IndicatorReader(drifting.port, FORMATS["mm"])
    try:
        drifting.stand_at(0.3, "mm", 0.001)
        assert until(lambda: (s := made.latest()) is not None and s.value > 0.5)
    finally:
        made.close()
        drifting.close()


def test_noise_on_the_line_is_said_and_never_shown_as_a_reading(line):
    master, reader = line
    os.write(master, b"\n\xff\xfe#?\n@@@\nERR 7\n")
    assert until(lambda: reader.state().key == "noise")
    assert "expected millimetres" in reader.state().sentence
    assert reader.latest() is None
    os.write(master, b"\n+0.5\n")
    assert shows(reader, 0.5)


def test_a_line_that_never_ends_does_not_grow_for_ever(line):
    master, reader = line
    os.write(master, b"1" * 900)
    os.write(master, b"\n+0.25\n")
    assert shows(reader, 0.25)


def test_a_silent_instrument_is_quiet_not_live(line):
    master, reader = line
    os.write(master, b"\n+0.5\n")
    assert shows(reader, 0.5)
    assert until(lambda: reader.state().key == "quiet")
    assert reader.latest() is None


def test_a_port_that_is_not_there_is_named_with_those_that_are():
    with pytest.raises(PortError, match="port /dev/ttyNONE: it cannot be opened; ports on this computer"):
        IndicatorReader("/dev/ttyNONE", FORMATS["mm"])


def test_the_first_line_after_opening_may_be_the_tail_of_one_and_never_counts(line):
    master, reader = line
    os.write(master, b"345\n")  # of +12.345
    assert until(lambda: reader.number == 1)
    assert reader.latest() is None
    assert reader.since(0) == []
    assert "passed over" in reader.state().sentence
    os.write(master, b"+12.345\n")
    assert shows(reader, 12.345)


def test_after_the_cable_was_out_the_first_line_is_passed_over_again(simulated, reader):
    simulated.stand_at(1.25, "mm", 0.01)
    assert shows(reader, 1.25)
    for _ in range(3):
        simulated.unplug()
        assert until(lambda: reader.state().key == "gone")
        simulated.plug()
        assert shows(reader, 1.25)
        assert all(abs(one.value - 1.25) < 1e-6 for one in reader.since(0))


def test_a_port_is_read_by_one_program_at_a_time(line):
    _, reader = line
    with pytest.raises(PortError, match="another program reads from it"):
        IndicatorReader(reader.port, FORMATS["mm"])
    reader.close()
    again = IndicatorReader(reader.port, FORMATS["mm"])
    again.close()
