"""The machine at the left: its elevation and its assemblies with their worst figure."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from trebb.app.look import copying, painting, theme
from trebb.app.look.widgets import label, scrolled
from trebb.app.survey.own_words import own_state
from trebb.app.window.add_part import AddPart
from trebb.app.window.session import SEEN_AFTER_MS, WAITS, Session
from trebb.core.machine import Assembly, State
from trebb.core.units import LARGE_MM, show_size, show_small, show_uncertain

ELEVATION_HEIGHT = 172


class Elevation(painting.Painted, QWidget):
    """The machine from the front; a click chooses a part."""

    chosen = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._hover = ""
        self.setFixedHeight(ELEVATION_HEIGHT)
        self.setMouseTracking(True)
        self.setToolTip("Choose a part of the machine")

    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(8, 6, -8, -6)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        chosen = self._session.case.assembly
        painting.paint_figure(
            painter, self._session.case.kind.elevation, self._area(), chosen.under or chosen.key, self._hover
        )

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        part = painting.part_at(self._session.case.kind.elevation, self._area(), event.position())
        if part != self._hover:
            self._hover = part
            self.setCursor(Qt.CursorShape.PointingHandCursor if part else Qt.CursorShape.ArrowCursor)
            self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        part = painting.part_at(self._session.case.kind.elevation, self._area(), event.position())
        if any(a.key == part for a in self._session.case.kind.assemblies):
            self.chosen.emit(part)


class AssemblyList(painting.Painted, QWidget):
    """The assemblies, each with its state's shape and its worst figure."""

    is_list = True

    chosen = Signal(str)
    taken_off = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._rows: list[tuple[Assembly, State, str, bool]] = []
        self._asked: set[str] = set()
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(SEEN_AFTER_MS)
        self._later.timeout.connect(self._ask_next)
        self._was_chosen = ""
        self._later_seen = QTimer(self)  # once the list has its height
        self._later_seen.setSingleShot(True)
        self._later_seen.timeout.connect(self._show_chosen)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Assemblies of the machine")
        self.setToolTip("Up and down choose a part")

    def listed(self) -> tuple[Assembly, ...]:
        """The assemblies, each with its pieces below it."""
        return self._session.case.kind.assemblies

    def _show_chosen(self) -> None:
        """Scroll the chosen row into view."""
        area = self.parent()
        while area is not None and not isinstance(area, QScrollArea):
            area = area.parent()
        chosen = next((i for i, row in enumerate(self._rows) if row[3]), None)
        if area is not None and chosen is not None:
            height = self._row_height()
            area.ensureVisible(0, round((chosen + 0.5) * height), 0, round(height))

    def _row_height(self) -> float:
        return min(40.0, self.height() / max(1, len(self.listed())))

    def sizeHint(self) -> QSize:
        return QSize(260, 34 * len(self.listed()))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        height = self._row_height()
        for i, row in enumerate(self._rows):
            self._paint_row(painter, QRectF(0, i * height, self.width(), height), *row)
        if any(figure == WAITS for _, _, figure, _ in self._rows) and not self._later.isActive():
            self._later.start()  # what is asked a moment later is asked once this is seen

    def refresh(self) -> None:
        """Take the figures from the job; repaint if one changed.

        An assembly whose figure was never asked for is asked a moment later: what it takes to work it out
        is loaded only then, and the window stands meanwhile.
        """
        chosen = self._session.assembly
        if not self._session.figures_wait:
            self._asked.add(chosen)
        rows = []
        for a in self.listed():
            known = a.key in self._asked or not (a.family or self._session.case.kind.pieces_of(a.key))
            figure = assembly_figure(self._session, a) if known else (State.UNKNOWN, WAITS)
            rows.append((a, *figure, a.key == chosen))
        if rows != self._rows:
            self._rows = rows
            self.setMinimumHeight(round(theme.target(LEAST_ROW) * len(rows)))
            self.update()
        if chosen != self._was_chosen:
            self._was_chosen = chosen
            self._later_seen.start()

    def fill(self) -> None:
        """Ask for every figure now."""
        self._asked.update(a.key for a in self._session.case.kind.assemblies)
        self.refresh()

    def _ask_next(self) -> None:
        """One assembly more; then the list again. All that waited for the window to be seen comes first."""
        if self._session.figures_wait:
            self._session.changed.emit()
            return
        kind = self._session.case.kind
        waiting = [
            a.key for a in self.listed() if a.key not in self._asked and (a.family or kind.pieces_of(a.key))
        ]
        if waiting:
            self._asked.add(waiting[0])
            self.refresh()

    def _paint_row(
        self, painter: QPainter, area: QRectF, assembly: Assembly, state: State, figure: str, chosen: bool
    ) -> None:
        if chosen:
            painting.mark_here(painter, area)
            painter.fillRect(area, theme.colour("blue_wash"))
            painter.fillRect(QRectF(area.left(), area.top(), 4, area.height()), theme.colour("blue"))
            if self.hasFocus():
                painter.setPen(painting.pen("blue", 2))
                painter.drawRect(area.adjusted(1, 1, -1, -1))
        inset = INSET if assembly.under else 0
        painting.paint_mark(painter, QPointF(area.left() + 23 + inset, area.center().y()), state, 5.6)
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if chosen else theme.REGULAR))
        painter.setPen(theme.colour("ink"))
        flags = Qt.AlignmentFlag.AlignVCenter
        small = theme.font(theme.BODY if state is not State.UNKNOWN else theme.SMALL, theme.MEDIUM)
        words = area.adjusted(42 + inset, 0, -22 - QFontMetricsF(small).horizontalAdvance(figure), 0)
        painting.write_in(
            painter, words, flags | Qt.AlignmentFlag.AlignLeft, assembly.label, Qt.TextElideMode.ElideMiddle
        )
        painter.setFont(small)
        painter.setPen(theme.colour(theme.state_role(state) if state is not State.WITHIN else "soft"))
        painter.drawText(area.adjusted(0, 0, -14, 0), flags | Qt.AlignmentFlag.AlignRight, figure)

    def offers(self, at: QPoint) -> list[copying.Offer]:
        """Go there; take a piece off."""
        i = int(at.y() / self._row_height())
        if not 0 <= i < len(self.listed()):
            return []
        one = self.listed()[i]
        found: list[copying.Offer] = [(f"Go to {one.label}", partial(self.chosen.emit, one.key))]
        if self._session.job.was_added(one.key):
            found.append((f"Take {one.label} off", partial(self.taken_off.emit, one.key)))
        return found

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() / self._row_height())
        assemblies = self.listed()
        if 0 <= i < len(assemblies):
            self.chosen.emit(assemblies[i].key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [a.key for a in self.listed()]
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()), 0)
        if step:
            i = keys.index(self._session.assembly) + step
            self.chosen.emit(keys[max(0, min(len(keys) - 1, i))])
        else:
            super().keyPressEvent(event)


LEAST_ROW = 22.0  # px
INSET = 16  # px that a piece stands in from what it belongs to
IN_DOUBT = 1 / 3  # of a figure: beyond it its ± stands beside it


def assembly_figure(session: Session, assembly: Assembly) -> tuple[State, str]:
    """State and worst figure of an assembly, or what else there is to say of it."""
    if not session.is_told("expert") and session.cases.of(assembly.key).planted() is not None:
        return State.UNKNOWN, "yours to say"
    kind = session.job.machine
    asked = (assembly, *kind.pieces_of(assembly.key))
    found = {a.key: figure for a in asked if (figure := session.cases.of(a.key).figure_now()) is not None}
    known = list(found.values())
    own = session.cases.of(assembly.key)
    turned = own.one_figures("after") or own.one_figures("before")
    if turned and all(m.state is not State.BEYOND for m in known):
        worst = max(turned, key=lambda one: one.value.value / one.limit.limit_mm)
        if worst.state is State.BEYOND or not known:
            return worst.state, f"{show_small(worst.value.value, session.system)} TIR"
    seen = [case for a in asked if (case := session.cases.of(a.key)).seen_beyond]
    if seen and (not known or max(known, key=lambda m: m.rank).state is not State.BEYOND):
        return State.BEYOND, "by eye"
    if not known:
        said = next((s for a in asked if (s := own_state(session, a.key)) is not None), None)
        return (said, "by eye") if said is not None else (State.UNKNOWN, "not measured")
    figure = max(known, key=lambda m: m.rank)  # of what holds pieces the worst of them
    if figure.is_expected:
        return State.UNKNOWN, "not told yet"
    if figure is not found.get(assembly.key):  # it is no figure of its own
        whose = next(a for a in asked if found.get(a.key) is figure)
        return figure.state, f"its {whose.label.lower()}"
    q = figure.value
    if q.half_width > IN_DOUBT * abs(q.value) and q.value <= LARGE_MM:
        return figure.state, show_uncertain(q.value, q.half_width, session.system)
    size = show_size if q.value > LARGE_MM else show_small
    return figure.state, size(q.value, session.system)


class MachinePanel(QFrame):
    """Elevation above, and below it the assemblies, or what a stop puts there instead."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setProperty("sheet", "true")
        self._session = session
        box = QVBoxLayout(self)
        box.setContentsMargins(1, 6, 1, 10)
        box.setSpacing(2)
        self.elevation = Elevation(session)
        self.list = AssemblyList(session)
        self.foot = label("worst reading against its limit", "small")
        self.foot.setContentsMargins(14, 0, 0, 0)
        box.addWidget(self.elevation)
        self._list_area = scrolled(self.list)
        box.addWidget(self._list_area, 1)
        self.add = AddPart(session)
        box.addWidget(self.add)
        box.addWidget(self.foot)
        self._instead: QWidget | None = None
        self._shown = ""
        self._elevation = session.case.kind.elevation
        self.elevation.chosen.connect(session.choose)
        self.list.chosen.connect(session.choose)
        self.list.taken_off.connect(self._take_off)

    def _take_off(self, key: str) -> None:
        """Take a piece off, as its button does while it is chosen."""
        self._session.choose(key)
        self.add.off.click()

    def put_instead(self, widget: QWidget | None) -> None:
        """Show a stop's own list below the elevation, or the assemblies again."""
        box = self.layout()
        assert isinstance(box, QVBoxLayout)
        if self._instead is not None and self._instead is not widget:
            self._instead.hide()
        if widget is not None and box.indexOf(widget) < 0:
            box.insertWidget(1, widget, 1)
        self._instead = widget
        if widget is not None:
            widget.show()
        self._list_area.setVisible(widget is None)
        self.foot.setVisible(widget is None)
        self.add.setVisible(widget is None)

    def refresh(self) -> None:
        """Repaint from the job, where something shown is different."""
        self.list.refresh()
        self.add.refresh()
        if self._elevation is not self._session.case.kind.elevation:
            self._elevation = self._session.case.kind.elevation
            self.elevation.update()
        if self._session.assembly != self._shown:
            self._shown = self._session.assembly
            self.elevation.update()
