"""In thou nothing is shown in mm, µm or newtons, in metric nothing in thou, inches or pounds: labels, fields,
tips and everything painted, at every stop of the demo machines.
"""

from __future__ import annotations

import re

import pytest
from PySide6.QtWidgets import QApplication, QLabel, QWidget

from tests.app.cut_text import shown
from trebb.app.look import painting
from trebb.app.shell.walk import choose_least_work, take_what_is_left
from trebb.app.stops.register import STOPS
from trebb.core.dual_units import both_forces, in_units, show_force
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import FactStated

# What is named by its own standard, what says both on purpose (the unit switch, what may be typed), and what
# the owner wrote.
NAMED = re.compile(
    r"Whether this machine's own sizes.*"
    r"|Show (?:inches|mm).*|^thou$|^µm$|such as.*|As stamped.*|[0-9.]+ mm × [0-9]+ tpi"
    r"|[0-9./-]+ in × [0-9.]+ mm|[0-9.]+ × [0-9.]+ × [0-9.]+ mm|What stands on the leaf.*|an inch"
    r"|in any unit.*"
    r"|15 in swing, 50 in between centres.*"
    r"|(?:trapezoidal|square|Acme), [0-9.]+ mm|What the arbor.*"
)
OTHER = {
    UnitSystem.INCH: re.compile(r"(?<![\w.])(?:mm|µm|N|kN|m/min)\b(?!\w)"),
    UnitSystem.METRIC: re.compile(r"(?<![\w.])(?:thou|inch|inches|lbf|lb|tons?)\b|[0-9] ?in\b(?! [0-9a])"),
}


def painted_words(widget: QWidget) -> list[str]:
    """What a widget paints, as words: as it stands, or once it is painted."""
    if not widget.said:
        widget.grab()
    return [one.text for one in widget.said]


def words_shown(frame: QWidget):
    """Every word that can be read in a window."""
    for widget in shown(frame):
        yield widget.toolTip()
        if isinstance(widget, QLabel) or hasattr(widget, "isCheckable"):
            yield widget.text()
        if isinstance(widget, painting.Painted):
            yield from (words.strip() for words in painted_words(widget))


def wrong_units(frame: QWidget, system: UnitSystem) -> set[str]:
    """What is shown in the other system's units."""
    return {words for words in words_shown(frame) if OTHER[system].search(NAMED.sub("", words))}


def looks(stop, case):
    """The set-ups or parts of a stop, one after another."""
    if stop == "survey":
        return [lambda s, key=s.key: s.bench.choose_set_up(key) for s in case.set_ups]
    if stop == "parts":
        keys = case.part_keys() or case.default_parts
        return [lambda s, key=key: s.show_part(key) for key in keys]
    if stop == "make":
        return [lambda s, key=key: s.show_part(key) for key in case.part_keys()]
    return [lambda s: None]


@pytest.mark.parametrize(
    ("kind", "assemblies"),
    [
        ("lathe", ("spindle", "headstock", "ways", "cross_slide", "apron")),
        ("mill", ("head", "knee", "table_screw")),
        ("drill", ("spindle", "table")),
    ],
)
def test_only_the_shop_s_own_units_are_shown(make_window, kind, assemblies):
    frame = make_window(kind).frame
    session = frame.session
    for assembly in assemblies:
        session.choose(assembly)
        case = session.case
        if case.has_set_ups:
            take_what_is_left(case, "before", session.record)
            if case.family == "gib":
                session.record(FactStated(assembly=assembly, field="home", value="yes"))
            choose_least_work(case, session.record, "")
            take_what_is_left(case, "after", session.record)
        for system in UnitSystem:
            session.show_in(system)
            for stop in STOPS:
                frame.go_to(stop.key)
                for look in looks(stop.key, case) if case.has_set_ups else [lambda s: None]:
                    look(frame.stop)
                    QApplication.processEvents()
                    assert wrong_units(frame, system) == set(), (assembly, stop.key, system)


@pytest.mark.parametrize(
    ("words", "inch", "metric"),
    [
        ("Leave 0.5 mm (20 thou).", "Leave 20 thou.", "Leave 0.5 mm."),
        ("Leave 0.020 in (0.5 mm) on it", "Leave 0.020 in on it", "Leave 0.5 mm on it"),
        ("Taper in 300 mm", "Taper in 12 in", "Taper in 300 mm"),
        ("Twist, in 1000 mm", "Twist, in 40 in", "Twist, in 1000 mm"),
        ("leave 0.6 mm a side", "leave 24 thou a side", "leave 0.6 mm a side"),
        ("push with 200 N", "push with 45 lbf", "push with 200 N"),
        ("Tr 28 × 5 and 22 mm × 6 tpi", "Tr 28 × 5 and 22 mm × 6 tpi", "Tr 28 × 5 and 22 mm × 6 tpi"),
        ("bearing 35 × 62 × 14 mm", "bearing 35 × 62 × 14 mm", "bearing 35 × 62 × 14 mm"),
        ("275 mm from the nose", "10.83 in from the nose", "275 mm from the nose"),
        (both_forces(178.0), "40 lbf", "178 N"),
    ],
)
def test_words_that_know_no_system_are_said_in_the_shop_s(words, inch, metric):
    assert in_units(words, UnitSystem.INCH) == inch
    assert in_units(words, UnitSystem.METRIC) == metric


def test_a_large_force_is_said_as_presses_are_sold():
    assert show_force(50_000.0, UnitSystem.METRIC) == "50.0 kN"
    assert show_force(2000 * 4.4482216, UnitSystem.INCH) == "1.0 tons"
