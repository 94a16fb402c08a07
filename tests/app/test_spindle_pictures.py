"""What the painted spindle views show: shapes and roles, with little, much and doubtful to show."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

from trebb.app.look import theme
from trebb.app.look.widgets import ProgressChip
from trebb.app.parts.remedy_rows import LOW_ROW, ROW, RemedyRow, RemedyRows
from trebb.app.plots.chain_view import ChainView
from trebb.app.plots.proof_plot import ProofPlot, ProofRow
from trebb.app.views import make_view
from trebb.app.views.base import Shown
from trebb.app.views.plane import Plane, spread_of
from trebb.app.views.polar import groups_of, plane_of, seat_of
from trebb.app.views.turn import AxisView
from trebb.core.condition import Quantity
from trebb.core.machine import State
from trebb.core.remedies import remedies_of
from trebb.core.survey import set_up
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SPINDLE
from trebb.logbook.demo.jobs import readings_left

INCH = UnitSystem.INCH


def inked(widget, role: str, width: int = 420, height: int = 300) -> int:
    """Pixels of a role's colour in a widget's picture."""
    widget.resize(width, height)
    image = widget.grab().toImage()
    colour = theme.colour(role).rgb()
    return sum(image.pixel(x, y) == colour for x in range(image.width()) for y in range(image.height()))


def marked(widget, width: int = 420, height: int = 300) -> int:
    """Pixels that are not the paper's."""
    widget.resize(width, height)
    image = widget.grab().toImage()
    paper = image.pixel(width - 1, 0)
    return sum(
        image.pixel(x, y) != paper for x in range(0, image.width(), 2) for y in range(0, image.height(), 2)
    )


HELD = []  # a part of a view lives as long as its view


@pytest.fixture
def lathe(make_window):
    frame = make_window("lathe").frame
    frame.session.choose(SPINDLE)
    return frame


def take(frame, *keys):
    frame.session.record(*[r for r in readings_left(frame.session.case, "before") if r.set_up in keys])


def shown(frame, key, place=None, aside=""):
    s = set_up(key)
    case = frame.session.case
    at = s.place(case.subject, place) if place else case.next_place(s, "before")
    return Shown(frame.session, s, "before", at, aside, 0.0 if at and s.view == "turn" else None)


def view(frame, key, **more):
    made = make_view(set_up(key).view)
    made.show_readings(shown(frame, key, **more))
    HELD.append(made)
    return made


@pytest.mark.parametrize(
    "key", ["nose", "taper_bore", "test_bar", "chuck_pin", "push_test", "warm_run", "contact", "journals"]
)
def test_a_view_with_nothing_read_still_stands(lathe, key):
    picture = view(lathe, key)
    assert marked(picture) > 300


def test_the_polar_shows_fit_limit_indicator_and_points(lathe):
    polar = view(lathe, "nose", place="register, 45°").polar
    assert inked(polar, "blue") > 90
    assert inked(polar, "within") > 30
    assert inked(polar, "brass") > 20
    assert inked(polar, "ink") > 150


def test_what_is_set_aside_is_struck_through_in_blue(lathe):
    trusted = inked(view(lathe, "test_bar", place="seat 1 at 0°, far, 0°"), "ink", 560)
    aside = view(lathe, "test_bar", place="seat 1 at 0°, far, 0°", aside="the seat does not repeat")
    assert inked(aside, "ink", 560) < 0.6 * trusted
    assert inked(aside, "blue", 560) > 200


def test_earlier_seatings_stand_behind_the_one_being_read(lathe):
    alone = inked(view(lathe, "test_bar", place="seat 1 at 0°, near, 0°").polar, "line")
    take(lathe, "test_bar")
    assert inked(view(lathe, "test_bar", place="seat 1 at 0°, near, 0°").polar, "line") > alone


def test_turns_are_grouped_by_seat_and_plane(lathe):
    case = lathe.session.case
    groups = groups_of(set_up("test_bar"), case.subject, case.job.standing(SPINDLE, "test_bar"))
    assert len(groups) == 8
    assert [g.turn is not None for g in groups] == [True, True] + [False] * 6
    assert (seat_of(groups[3].key), plane_of(groups[3].key), groups[3].plane_mm) == (
        "seat 2 at 0°",
        "far",
        254.0,
    )
    assert seat_of("register") == ""


def test_the_axis_asks_for_a_turn_and_then_leans_through_both_planes(lathe):
    axis = AxisView()
    axis.show_axes(shown(lathe, "taper_bore", place="mouth, 0°"))
    empty = inked(axis, "blue", 200, 240)
    axis.show_axes(shown(lathe, "test_bar", place="seat 1 at 0°, far, 0°"))
    assert inked(axis, "blue", 200, 240) > empty + 60


def test_the_push_curve_shows_the_step_only_where_there_is_one(lathe):
    take(lathe, "push_test")
    curve = view(lathe, "push_test", place="nose, pulled full").curve
    assert inked(curve, "blue") > 80
    assert inked(curve, "ink") > 60


def test_the_warm_run_shows_where_it_settles_against_what_is_usual(lathe):
    take(lathe, "warm_run")
    curve = view(lathe, "warm_run", place="20 min").curve
    assert inked(curve, "within", 520) > 40
    assert inked(curve, "blue", 520) > 100


def test_the_chain_marks_the_named_link_and_strikes_the_one_set_aside(lathe):
    take(lathe, "test_bar", "nose", "taper_bore", "push_test")
    chain = ChainView()
    case = lathe.session.case
    chain.show_split(case.split, case.job.limit("lathe_work").limit_mm, INCH)
    assert not case.split.trusts_seat
    assert "seat" in case.split.named
    assert inked(chain, "within", 620, 220) > 60


def test_rows_against_limits_of_their_own_share_one_line(qapp):
    plot = ProofPlot()
    rows = [
        ProofRow("a", 0.05, 0.002, 0.01, 0.011, 0.004, 0.025, "yes"),
        ProofRow("b", 0.5, 0.02, 0.3, None, None, 0.2, "not shown"),
    ]
    plot.show_rows(rows, INCH)
    assert plot._unit_of(rows[0]) == 0.025
    assert inked(plot, "within", 700, 160) > 30
    assert inked(plot, "beyond", 700, 160) > 20


def test_many_repairs_stand_in_lower_rows(qapp):
    rows = RemedyRows()
    quantity = Quantity(0.02, 0.002, 0.016, 0.024)
    many = [RemedyRow(r, quantity, State.BEYOND) for r in remedies_of("spindle")]
    rows.show_rows(many[:4], 0.01, 0.05, INCH, "£", "leave", "")
    assert rows._row() == ROW
    rows.show_rows(many, 0.01, 0.05, INCH, "£", "leave", "grind")
    assert rows._row() == LOW_ROW
    assert inked(rows, "blue", 620, rows.height()) > 30


def test_a_chip_shows_how_much_of_it_is_done(qapp):
    chip = ProgressChip("A Nose")
    chip.show_share(0.0)
    none = inked(chip, "blue", 110, 34)
    chip.show_share(1.0)
    assert inked(chip, "blue", 110, 34) > none + 100


@pytest.mark.parametrize(("span", "least", "wide"), [([1.0, 1.0], 2.0, 2.0), ([0.0, 10.0], 2.0, 10.0)])
def test_a_span_is_never_narrower_than_it_must_be(span, least, wide):
    low, high = spread_of(span, least)
    assert low < min(span)
    assert high > max(span)
    assert high - low == pytest.approx(wide * 1.24)


def test_a_plane_maps_its_corners_and_marks_round_values(qapp):
    plane = Plane(QRectF(40, 10, 200, 100), (0.0, 10.0), (-1.0, 1.0))
    assert (plane.at(0, -1).x(), plane.at(0, -1).y()) == (40, 110)
    assert (plane.at(10, 1).x(), plane.at(10, 1).y()) == (240, 10)
    image = QImage(300, 160, QImage.Format.Format_RGB32)
    image.fill(theme.colour("sheet"))
    painter = QPainter(image)
    plane.grid(painter, "x", "y")
    painter.end()
    colour = theme.colour("line").rgb()
    assert sum(image.pixel(x, y) == colour for x in range(300) for y in range(160)) > 300
