"""What was foretold against what came, in a picture."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.memory.blending import Z95
from trebb.core.register import FAMILIES
from trebb.core.words import large
from trebb.logbook.memory.asked import Foretold

ROW, LEFT, RIGHT = 58.0, 210.0, 330.0
MOST = 4.0  # standard deviations shown


class CoverPicture(painting.Painted, QWidget):
    """A line a family: the band is the 95 % interval, each mark a figure that came; shape says in or out."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: Sequence[Foretold] = ()
        self.setAccessibleName("What was foretold against what came")
        self.setToolTip("Band: the 95 % interval. Ring: inside. Square: outside")

    def sizeHint(self) -> QSize:
        return QSize(700, int(ROW * max(1, len(self._rows)) + 10))

    def show_foretold(self, rows: Sequence[Foretold]) -> None:
        """Show other figures."""
        self._rows = rows
        self.setMinimumHeight(self.sizeHint().height())
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font())
        if not self._rows:
            painter.setPen(theme.colour("soft"))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignTop, "Nothing was proven yet.")
            return
        for i, one in enumerate(self._rows):
            self._line(painter, one, QRectF(0, i * ROW, self.width(), ROW))

    def _line(self, painter: QPainter, one: Foretold, area: QRectF) -> None:
        axis = QRectF(LEFT, area.top() + 8, area.width() - LEFT - RIGHT, area.height() - 18)

        def x(z: float) -> float:
            return axis.center().x() + axis.width() / 2 * max(-MOST, min(MOST, z)) / MOST

        painter.fillRect(
            QRectF(QPointF(x(-Z95), axis.top()), QPointF(x(Z95), axis.bottom())), theme.colour("blue_wash")
        )
        painter.setPen(painting.pen("line", 1))
        painter.drawLine(QPointF(axis.left(), axis.center().y()), QPointF(axis.right(), axis.center().y()))
        for k, z in enumerate(one.z):
            y = axis.center().y() + ((k * 7) % 11 - 5) * axis.height() / 14
            if abs(z) <= Z95:
                painter.setPen(painting.pen("within", 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(QPointF(x(z), y), 4, 4)
            else:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(theme.colour("beyond"))
                painter.drawRect(QRectF(x(z) - 4, y - 4, 8, 8))
        painter.setPen(theme.colour("ink"))
        family = FAMILIES.get(one.family)
        name = (family.added if family is not None and family.added else one.family).replace("_", " ")
        painter.drawText(
            QRectF(0, area.top(), LEFT - 12, area.height()),
            Qt.AlignmentFlag.AlignVCenter,
            large(name),
        )
        said = f"{one.cover:.0%} of {len(one.z)} inside their 95 %"
        if one.wider > 1.02:
            said += f"\nover-sure: made {one.wider:.2f} × wider"
        painter.drawText(
            QRectF(axis.right() + 14, area.top(), RIGHT - 14, area.height()),
            Qt.AlignmentFlag.AlignVCenter,
            said,
        )
