"""What is painted: figures, marks, plots and scales, looked at as pixels."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.subjects import SUBJECTS
from trebb.app.look import painting, theme
from trebb.app.parts.groove_picture import GroovePicture
from trebb.app.parts.pass_rows import PassRow, PassRows
from trebb.app.parts.route_list import Line, RouteList
from trebb.app.parts.size_scale import SizeScale
from trebb.app.plots.proof_plot import ProofPlot, ProofRow
from trebb.app.survey.dial_face import DialFace
from trebb.app.survey.places_view import Figure as Shown
from trebb.app.survey.places_view import PlaceRow, PlacesView
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Label, Role, box, line
from trebb.core.machine import KINDS, State
from trebb.core.parts.drawing import Title, laid_out
from trebb.core.parts.size_block import rows_of
from trebb.core.survey import all_set_ups
from trebb.core.threads import Band
from trebb.core.units import UnitSystem

DRIVE = ScrewDrive()
INCH = UnitSystem.INCH


def blank(width=320, height=180) -> QImage:
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(theme.colour("sheet"))
    return image


def inked(image: QImage, role: str | None = None) -> int:
    """Pixels that are not the sheet, or that are close to a role's colour."""
    ground = theme.colour("sheet").rgb()
    wanted = theme.colour(role) if role else None
    count = 0
    for y in range(0, image.height(), 2):
        for x in range(0, image.width(), 2):
            c = image.pixelColor(x, y)
            if wanted is None:
                count += c.rgb() != ground
            else:
                count += (
                    abs(c.red() - wanted.red())
                    + abs(c.green() - wanted.green())
                    + abs(c.blue() - wanted.blue())
                    < 40
                )
    return count


def painted(figure: Figure, **how) -> QImage:
    image = blank()
    painter = QPainter(image)
    painting.paint_figure(painter, figure, QRectF(image.rect()), **how)
    painter.end()
    return image


def grabbed(widget, width=620, height=240) -> QImage:
    widget.resize(width, height)
    return widget.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)


@pytest.mark.parametrize(
    "item",
    [
        box(10, 10, 60, 40),
        line((5, 5), (90, 50)),
        Circle((50, 30), 20),
        Arrow((10, 30), (80, 30)),
        Arrow((10, 30), (80, 30), both_ways=True),
        Label((50, 30), "nut", Role.INK),
        Indicator((20, 30), (1, 0)),
    ],
)
def test_every_kind_of_item_leaves_ink(qapp, item):
    assert inked(painted(Figure(100, 60, (item,)))) > 12


def test_a_chosen_part_is_washed_blue(qapp):
    figure = Figure(100, 60, (box(10, 10, 60, 40, part="bed"),))
    assert inked(painted(figure), "blue_wash") == 0
    assert inked(painted(figure, chosen="bed"), "blue_wash") > 500


@pytest.mark.parametrize("kind", KINDS.values(), ids=lambda k: k.key)
def test_a_click_on_a_drawn_part_finds_that_part(qapp, kind):
    area = QRectF(0, 0, 560, 360)
    scale, offset = painting.figure_scale(kind.elevation, area)
    found = set()
    for x in range(0, 560, 4):
        for y in range(0, 360, 4):
            found.add(painting.part_at(kind.elevation, area, QPointF(x, y)))
    assert {a.key for a in kind.assemblies} <= found
    assert painting.part_at(kind.elevation, area, QPointF(offset.x() - 5, offset.y() - 5)) == ""
    assert scale > 1


@pytest.mark.parametrize("s", all_set_ups(), ids=lambda s: s.key)
def test_a_set_up_s_figure_shows_in_blue_where_it_reads(qapp, s):
    subject = SUBJECTS[s.family]
    places = s.places(subject)
    assert inked(painted(s.figure(subject, places[0].key if places else "")), "blue") > 5


def test_each_state_has_a_shape_of_its_own(qapp):
    images = []
    for state in State:
        image = blank(24, 24)
        painter = QPainter(image)
        painting.paint_mark(painter, QPointF(12, 12), state)
        painter.end()
        images.append(
            [[image.pixel(x, y) != theme.colour("sheet").rgb() for x in range(24)] for y in range(24)]
        )
    assert all(a != b for i, a in enumerate(images) for b in images[i + 1 :])


def test_the_needle_follows_and_is_pale_when_nothing_comes(qapp):
    face = DialFace()
    rest = grabbed(face, 200, 200)
    face.show_turn(0.25, True, "of 125 div")
    assert grabbed(face, 200, 200) != rest


def test_the_groove_now_is_drawn_only_while_metal_is_left(qapp):
    picture = GroovePicture()
    picture.show_thread(DRIVE, 17.6, INCH)
    assert inked(grabbed(picture), "blue") > 40
    finished = GroovePicture()
    finished.show_thread(DRIVE, 16.9, INCH)
    assert inked(grabbed(finished), "blue") < inked(grabbed(picture), "blue")


def test_the_band_and_every_size_stand_on_the_scale(qapp):
    scale = SizeScale()
    scale.show_sizes([19.9, 19.6, 19.4], Band(18.9, 19.3), INCH)
    image = grabbed(scale, 620, 66)
    assert inked(image, "within_wash") > 50
    assert inked(image, "blue") > 30


def test_a_long_list_of_passes_says_how_many_more(qapp):
    rows = PassRows()
    rows.show_rows([PassRow(f"pass {i}", "cross slide in", "1.0 thou", "total", "expect") for i in range(20)])
    assert len(rows.rows()) == 20
    assert inked(grabbed(rows, 600, 150), "blue_wash") > 500


def row(key: str, *figures: Shown) -> PlaceRow:
    return PlaceRow(key, key.capitalize(), "middle", figures, "27.5", 0.8, "± 0.5", True)


def test_a_click_on_a_place_chooses_it_and_on_a_reading_asks_about_it(qapp):
    view = PlacesView()
    view.resize(420, 120)
    view.show_rows(
        (row("station 1", Shown(7, "27.5", None)), row("station 2"), row("station 3")), "station 2"
    )
    view.show()
    QApplication.processEvents()
    places, readings = [], []
    view.chosen.connect(places.append)
    view.figure_chosen.connect(readings.append)
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPointF(20, 100).toPoint())
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPointF(104, 15).toPoint())
    view.close()
    assert places == ["station 3"]
    assert readings == [7]


def test_a_struck_reading_is_drawn_in_blue_with_a_line_through(qapp):
    kept, struck = PlacesView(), PlacesView()
    kept.show_rows((row("station 1", Shown(7, "27.5", None)),), "")
    struck.show_rows((row("station 1", Shown(7, "27.5", "bumped")),), "")
    assert inked(grabbed(struck, 420, 40), "blue") > inked(grabbed(kept, 420, 40), "blue")


def test_a_route_is_clicked_line_by_line_and_ticked(qapp):
    route = RouteList(with_arcs=True)
    route.resize(500, 114)
    route.show_lines(
        [
            Line("a", "1", "Clean", True),
            Line("b", "2", "Slide on", False, True, ("a",)),
            Line("c", "3", "Covers", False, False, ("b",)),
        ],
        "b",
    )
    chosen = []
    route.chosen.connect(chosen.append)
    QTest.mouseClick(route, Qt.MouseButton.LeftButton, pos=QPointF(250, 100).toPoint())
    assert chosen == ["c"]
    assert inked(grabbed(route, 500, 114), "within") > 3


def proof_row(after: float, limit: float = 0.15) -> ProofRow:
    return ProofRow("lash 3", 0.7, 0.02, after, 0.07, 0.03, limit, "yes")


def test_the_proof_shows_before_after_limit_and_prediction(qapp):
    plot = ProofPlot()
    plot.show_rows([proof_row(0.06)], INCH)
    good = grabbed(plot)
    plot.show_rows([proof_row(0.6)], INCH)
    bad = grabbed(plot)
    assert inked(good, "within") > inked(bad, "within")
    assert inked(bad, "beyond") > 5 > inked(good, "beyond")


def test_a_reading_to_the_other_side_counts_by_its_size(qapp):
    plot = ProofPlot()
    plot.show_rows([proof_row(-0.6)], INCH)
    assert inked(grabbed(plot), "beyond") > 5


def test_a_proof_without_rows_says_what_to_do(qapp):
    plot = ProofPlot()
    plot.show_rows([], INCH)
    assert inked(grabbed(plot), "soft") > 20


@pytest.mark.parametrize("look", theme.LOOKS)
def test_figures_on_a_drawing_stand_out_from_its_ground(window, look):
    """Contrast by WCAG 2: 4.5 to 1 at least, of what is written with the ground it stands on."""
    window.show_look(look)
    window.frame.go_to("parts")
    view = window.frame.stop.drawing

    def light(colour) -> float:
        parts = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in colour.getRgbF()[:3]]
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    ground = light(theme.colour("sheet"))
    shades = {
        item.brush().color().rgb(): item.brush().color()
        for item in view.scene().items()
        if hasattr(item, "brush") and item.brush().style() == Qt.BrushStyle.SolidPattern
    }
    written = [light(c) for c in shades.values() if c.rgb() != theme.colour("blue_wash").rgb()]
    assert written
    for one in written:
        high, low = max(one, ground), min(one, ground)
        if (high + 0.05) / (low + 0.05) > 1.05:  # what has the ground's own colour is ground
            assert (high + 0.05) / (low + 0.05) >= 4.5


def test_a_size_lights_up_where_it_is_drawn_and_the_other_way_round(window):
    stop = window.frame.go_to("parts")
    QApplication.processEvents()
    part = window.frame.session.case.part("screw", window.frame.session.system)
    rows = [row.label for row in part.rows]
    i = rows.index("Bearing journal")
    figure = next(w for w, row in stop.sizes._of.items() if row == i)
    QApplication.sendEvent(figure, QEvent(QEvent.Type.Enter))
    assert stop.drawing.lit == i
    assert figure.property("lit") == "true"
    QApplication.sendEvent(figure, QEvent(QEvent.Type.Leave))
    assert stop.drawing.lit == -1
    spot = stop.drawing._spots[stop.drawing._rows.index(i)]
    at = stop.drawing.mapFromScene(spot.center() + QPointF(spot.width() / 4, spot.height() / 4))
    QTest.mouseMove(stop.drawing.viewport(), at)
    QApplication.processEvents()
    assert stop.drawing.lit == i
    assert figure.property("lit") == "true"


def test_every_limited_section_of_a_part_is_one_row_s(window):
    part = window.frame.session.case.part("screw", window.frame.session.system)
    page, _ = laid_out(part, window.frame.session.system, Title())
    rows = rows_of(part, [spot.what for spot in page.spots])
    assert rows
    assert -1 not in rows
    assert len(set(rows)) == len(rows)
