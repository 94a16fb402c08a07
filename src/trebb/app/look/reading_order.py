"""The order in which Tab goes through what can be pressed or filled: as it stands, not as it was made."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QFrame, QScrollArea, QWidget

from trebb.app.look.widgets import Cover

SAME_ROW_PX = 14


def _middle(widget: QWidget, within: QWidget) -> tuple[int, int]:
    if widget is within:
        return 0, 0
    at = widget.mapTo(within, QPoint(0, widget.height() // 2))
    return at.y(), at.x()


def _panel(widget: QWidget, within: QWidget) -> QWidget:
    """The sheet a widget stands on: the outermost one below `within`, or what holds it there."""
    at = found = widget
    while (parent := at.parentWidget()) is not None and parent is not within:
        at = parent
        if isinstance(at, QFrame) and at.property("sheet") == "true":
            found = at
    return found if found is not widget else at


def in_reading_order(frame: QWidget) -> list[QWidget]:
    """What Tab reaches in a frame: of its sheets from left to right, each row by row. Where a page covers the
    frame, only of that.
    """
    covers = [c for c in frame.findChildren(Cover) if c.isVisible()]
    within = covers[-1] if covers else frame
    reached = [
        w
        for w in within.findChildren(QWidget)
        if w.isVisible()
        and w.isEnabled()
        and w.focusPolicy() & Qt.FocusPolicy.TabFocus
        and w.focusProxy() is None
    ]
    panels: dict[QWidget, list[QWidget]] = {}
    for widget in reached:
        panels.setdefault(_panel(widget, within), []).append(widget)

    def corner(panel: QWidget) -> tuple[int, int]:
        at = panel.mapTo(within, QPoint(0, 0))
        return at.y() // (3 * SAME_ROW_PX), at.x()

    found = []
    for panel in sorted(panels, key=corner):
        found += _by_rows(panels[panel], within)
    return found


def _by_rows(widgets: list[QWidget], within: QWidget) -> list[QWidget]:
    """Row by row; what scrolls is one of them, gone through by its own rows wherever it is scrolled."""
    inner: dict[QScrollArea, list[QWidget]] = {}
    places: list[tuple[int, int, QWidget]] = []
    for widget in widgets:
        area = _outermost_area(widget, within)
        if area is None:
            places.append((*_middle(widget, within), widget))
        elif area in inner:
            inner[area].append(widget)
        else:
            inner[area] = [widget]
            at = area.mapTo(within, QPoint(0, SAME_ROW_PX))
            places.append((at.y(), at.x(), area))
    rows: list[list[tuple[int, int, QWidget]]] = []
    for place in sorted(places, key=lambda one: one[:2]):
        if rows and place[0] - rows[-1][0][0] < SAME_ROW_PX:
            rows[-1].append(place)
        else:
            rows.append([place])
    found: list[QWidget] = []
    for row in rows:
        for _, _, widget in sorted(row, key=lambda one: one[1]):
            held = widget.widget() if isinstance(widget, QScrollArea) and widget in inner else None
            if held is not None and isinstance(widget, QScrollArea):
                found += _by_rows(inner[widget], held)
            else:
                found.append(widget)
    return found


def _outermost_area(widget: QWidget, within: QWidget) -> QScrollArea | None:
    """The scroll area nearest to `within` that a widget lies in."""
    if widget is within:
        return None
    found, at = None, widget.parentWidget()
    while at is not None and at is not within:
        if isinstance(at, QScrollArea):
            found = at
        at = at.parentWidget()
    return found
