"""A line of widgets that goes on in the next line where it finds no room."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget


class Flow(QLayout):
    """Lays what it holds from left to right, as words on a page."""

    def __init__(self, parent: QWidget | None = None, spacing: int = 6) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self.setContentsMargins(0, 0, 0, 0)
        self.setSpacing(spacing)

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._lay(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._lay(rect, move=True)

    def sizeHint(self) -> QSize:
        shown = self._shown()
        wide = sum(item.sizeHint().width() for item in shown) + self.spacing() * max(0, len(shown) - 1)
        return QSize(wide, max((item.sizeHint().height() for item in shown), default=0))

    def minimumSize(self) -> QSize:
        least = QSize()
        for item in self._shown():
            least = least.expandedTo(item.minimumSize())
        return least

    def _shown(self) -> list[QLayoutItem]:
        return [item for item in self._items if not item.isEmpty()]

    def _lay(self, rect: QRect, *, move: bool) -> int:
        """Put the items in lines; returns the height they take."""
        x, y, tallest = rect.x(), rect.y(), 0
        for item in self._shown():
            hint = item.sizeHint()
            if x > rect.x() and x + hint.width() > rect.x() + rect.width():
                x, y, tallest = rect.x(), y + tallest + self.spacing(), 0
            if move:
                wide = min(hint.width(), rect.width())
                item.setGeometry(QRect(QPoint(x, y), QSize(wide, hint.height())))
            x += hint.width() + self.spacing()
            tallest = max(tallest, hint.height())
        return y + tallest - rect.y()
