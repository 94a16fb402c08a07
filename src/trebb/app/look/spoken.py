"""What a screen reader is told of widgets that paint themselves: lists have their rows, pictures their words.

Both are taken from what was written when the widget was last painted
(`said.Said`), so that what is spoken is what is seen.
"""

from __future__ import annotations

from collections.abc import Sequence

import shiboken6
from PySide6.QtCore import QObject, QPoint, QRect, QRectF
from PySide6.QtGui import QAccessible, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget, QComboBox, QPushButton, QWidget

from trebb.app.look.painting import Painted
from trebb.app.look.said import Said, height_of, in_rows

SAME_LINE_PX = 9.0  # words whose middles lie closer than this stand in one row


def rows_of(said: Sequence[Said], *, in_columns: bool = False) -> list[tuple[str, QRectF]]:
    """Words on a picture as rows from top to bottom, each from left to right, and where each row lies; or
    as columns.
    """

    def across(one: Said) -> float:
        return one.spot.center().x() if in_columns else height_of(one)

    def along(one: Said) -> tuple[bool, float]:
        return one.is_shape, one.spot.top() if in_columns else one.spot.left()

    made = []
    for row in in_rows(said, across, lambda apart: apart < SAME_LINE_PX):
        spot = row[0].spot
        for one in row[1:]:
            spot = spot.united(one.spot)
        words: list[Said] = []
        for one in sorted(row, key=along):  # painted twice at one spot it is one word
            if not any(one.text == other.text and one.spot.intersects(other.spot) for other in words):
                words.append(one)
        made.append((", ".join(one.text for one in words), spot))
    return made


def spoken_rows(widget: QWidget) -> list[tuple[str, QRectF]]:
    """Rows of a painted widget."""
    if not isinstance(widget, Painted):
        return []
    return rows_of(widget.said, in_columns=widget.said_in_columns)


class _Row(QAccessibleInterface):
    """A row of a painted list."""

    def __init__(self, owner: QWidget, index: int) -> None:
        super().__init__()
        self._owner, self._index = owner, index

    def _row(self) -> tuple[str, QRectF]:
        rows = spoken_rows(self._owner)
        return rows[self._index] if self._index < len(rows) else ("", QRectF())

    def isValid(self) -> bool:
        return bool(shiboken6.isValid(self._owner))

    def object(self) -> QObject | None:  # type: ignore[override]  # a row is no object of Qt's
        return None

    def parent(self) -> QAccessibleInterface:
        return QAccessible.queryAccessibleInterface(self._owner)

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def childCount(self) -> int:
        return 0

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return -1

    def role(self) -> QAccessible.Role:
        return QAccessible.Role.ListItem

    def text(self, t: QAccessible.Text) -> str:
        return self._row()[0] if t == QAccessible.Text.Name else ""

    def setText(self, t: QAccessible.Text, text: str) -> None:
        """What is painted cannot be set from outside."""

    def rect(self) -> QRect:
        spot = self._row()[1].toAlignedRect()
        return spot.translated(self._owner.mapToGlobal(QPoint(0, 0)))

    def state(self) -> QAccessible.State:
        state = QAccessible.State()
        here = getattr(self._owner, "here", None)
        state.selectable = True
        state.invisible = not self._owner.isVisible()
        state.selected = here is not None and here.contains(self._row()[1].center())
        return state


class _Picture(QAccessibleWidget):
    """A painted picture: its words, in reading order, are its value."""

    def __init__(self, widget: QWidget, role: QAccessible.Role) -> None:
        super().__init__(widget, role, widget.accessibleName())
        self._shown = widget

    def text(self, t: QAccessible.Text) -> str:
        if t == QAccessible.Text.Value and shiboken6.isValid(self._shown):
            written = "; ".join(words for words, _ in spoken_rows(self._shown))
            return str(getattr(self._shown, "spoken_value", "")) or written
        if t == QAccessible.Text.Name and shiboken6.isValid(self._shown):
            return self._shown.accessibleName() or self._shown.toolTip()
        return str(super().text(t))


class _List(_Picture):
    """A painted list, with its rows."""

    def __init__(self, widget: QWidget) -> None:
        super().__init__(widget, QAccessible.Role.List)
        self._rows: dict[int, _Row] = {}

    def childCount(self) -> int:
        return len(spoken_rows(self._shown)) if shiboken6.isValid(self._shown) else 0

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        if not 0 <= index < self.childCount():
            return None
        if index not in self._rows:
            self._rows[index] = _Row(self._shown, index)
            QAccessible.registerAccessibleInterface(self._rows[index])
        return self._rows[index]

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return next((i for i, row in self._rows.items() if row is child), -1)


_kept: list[QAccessibleInterface] = []  # Qt holds them too, and does not tell when it lets go


def _interface(_class: str, widget: QObject) -> QAccessibleInterface | None:
    if not isinstance(widget, Painted) or isinstance(widget, QPushButton | QComboBox):
        return None  # Qt's own serves
    assert isinstance(widget, QWidget)
    made = _List(widget) if widget.is_list else _Picture(widget, QAccessible.Role.Graphic)
    _kept.append(made)
    return made


def install() -> None:
    """Tell Qt; to be called once, when there is an application."""
    QAccessible.installFactory(_interface)
