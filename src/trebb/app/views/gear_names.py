"""The sizes of a gear as rows, and the gears it could be, likeliest first; Enter takes the one looked at."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.app.look.widgets import button, column, label
from trebb.app.views.base import Shown
from trebb.app.views.rows import WithRows
from trebb.core.dual_units import in_units
from trebb.core.families.gear.name import naming_of
from trebb.core.gears.naming import GearName, Naming
from trebb.logbook.log.entries import FactStated

ROW = 30.0


class GearNamesView(WithRows):
    """Rows beside the list of names."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: Shown | None = None
        side = QWidget()
        box = column(spacing=6)
        side.setLayout(box)
        self.names = NameList()
        self.names.taken.connect(self._take)
        box.addWidget(self.names, 1)
        self.telling = label("", wrap=True)
        box.addWidget(self.telling)
        self.take_it = button(
            "It is this",
            self._take,
            tip="Take the name looked at; it can be changed at any time",
            name="take_name",
        )
        box.addWidget(self.take_it)
        self.beside(side, rows=3, picture_share=3)

    def show_readings(self, shown: Shown) -> None:
        self._shown = shown
        self.rows.show_readings(shown)
        case = shown.session.case
        read = {p.place: sum(p.values) / len(p.values) for p in case.known_at(shown.set_up.key, shown.phase)}
        naming = naming_of(case.subject, read)
        self.names.show_naming(naming)
        self.take_it.setEnabled(naming is not None and not naming.trouble)
        if naming is None:
            words = "Outside and depth, or both spans, say what it is."
        elif naming.trouble:
            words = naming.trouble
        elif naming.is_sure:
            words = f"It is {naming.best.words}."
        else:
            words = naming.tell_apart
        if naming is not None and case.subject.name:
            words = f"Taken: {case.subject.called.words}. {words}"
        self.telling.setText(in_units(words, shown.session.system))

    def _take(self) -> None:
        name = self.names.name()
        if self._shown is not None and name is not None:
            session = self._shown.session
            session.record(FactStated(session.case.holder, "name", name.key))


class NameList(painting.Painted, PaintedRows):
    """What it could be, each with its share of the likelihood."""

    is_list = True

    taken = Signal()

    def __init__(self) -> None:
        super().__init__(ROW)
        self._naming: Naming | None = None
        self._at = 0
        self.setMinimumHeight(int(self._row_px * 3) + 8)
        self.setAccessibleName("Gears it could be")
        self.setToolTip("Gears it could be, likeliest first; click or arrow to look at another")

    def show_naming(self, naming: Naming | None) -> None:
        """Show other names."""
        if naming != self._naming:
            self._at = 0
        self._naming = naming
        self.update()

    def name(self) -> GearName | None:
        """The one looked at."""
        if self._naming is None or self._naming.trouble:
            return None
        return self._naming.ranked[self._at]

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font())
        if self._naming is None:
            painter.setPen(theme.colour("soft"))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, "no name yet")
            return
        middle = Qt.AlignmentFlag.AlignVCenter
        for i, one in enumerate(self._naming.ranked):
            area = self._row_area(i)
            if i == self._at:
                self._paint_here(painter, area)
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if i == 0 else theme.REGULAR))
            painter.drawText(area.adjusted(8, 0, -70, 0), middle, one.words)
            share = (
                "off"
                if self._naming.trouble
                else f"{one.likelihood:.0%}"
                if one.likelihood > 0.0095
                else "< 1 %"
            )
            painter.drawText(area.adjusted(0, 0, -8, 0), middle | Qt.AlignmentFlag.AlignRight, share)

    def _look_at(self, i: int) -> None:
        if self._naming is not None and 0 <= i < len(self._naming.ranked):
            self._at = i
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.taken.emit()
        else:
            super().keyPressEvent(event)

    def _here(self) -> int:
        return self._at
