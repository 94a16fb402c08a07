"""Small widgets that several panels share."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable
from functools import partial
from typing import TypeVar, cast

from PySide6.QtCore import QEvent, QObject, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import (
    QFocusEvent,
    QKeyEvent,
    QKeySequence,
    QMouseEvent,
    QPainter,
    QPolygonF,
    QResizeEvent,
    QShortcut,
    QWheelEvent,
)
from PySide6.QtWidgets import (
    QApplication,
    QBoxLayout,
    QButtonGroup,
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QPushButton,
    QScrollArea,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from trebb.app.look import numerals, painting, theme
from trebb.core.figure import Figure
from trebb.core.machine import State

K = TypeVar("K", bound=Hashable)


class Settles:
    """Base of what holds words that somebody typed and did not enter yet; stands before the Qt class.
    `at_buttons`: any button that is pressed takes them first.
    """

    at_buttons = True

    def settle(self) -> bool:
        """Take them now, or refuse them where they stand: then False, and nothing else is shown before."""
        raise NotImplementedError


def settle_typed(*_: object) -> None:
    """Take what stands in the field that has the keys: a button that is pressed takes them from nothing."""
    field = QApplication.focusWidget()
    if isinstance(field, Settles) and field.at_buttons:
        field.settle()


def with_ampersands(text: str) -> str:
    """A button's text in which each & is shown as one: alone it would underline the letter behind it."""
    return text.replace("&", "&&")


class Label(QLabel):
    """A label whose numbers have the language's decimal mark."""

    def setText(self, text: str) -> None:
        super().setText(numerals.shown(text))


class Button(QPushButton):
    """A button whose numbers have the language's decimal mark; an ampersand is a word here, never a mark."""

    def __init__(self, text: str) -> None:
        super().__init__(with_ampersands(numerals.shown(text)))

    def setText(self, text: str) -> None:
        super().setText(with_ampersands(numerals.shown(text)))


def label(text: str = "", kind: str = "", *, wrap: bool = False) -> QLabel:
    """A label of a kind: title, head, strong, soft, small, numeral, refused."""
    made = Label(numerals.shown(text))
    if kind:
        made.setProperty("kind", kind)
    made.setWordWrap(wrap)
    made.setTextFormat(Qt.TextFormat.PlainText)
    return made


def plain_tip(text: str) -> str:
    """A tooltip of words that somebody typed, or of a file's name: never taken for markup."""
    if "<" not in text:
        return text
    import html

    return f"<qt>{html.escape(text)}</qt>"


def button(
    text: str,
    does: Callable[[], object],
    *,
    kind: str = "",
    tip: str,
    key: str = "",
    name: str = "",
    shortcut: bool = False,
) -> QPushButton:
    """A push button that says what will happen.

    `key` is named in the tooltip; with `shortcut` it also presses the button
    while that is visible. (A button's own shortcut is lost whenever its text
    changes, so it is not used.)
    """
    made = (
        HintButton(text, key.lower())
        if kind == "primary" and key
        else ProgressChip(text)
        if kind == "progress"
        else Button(text)
    )
    if kind and kind != "progress":
        made.setProperty("kind", kind)
    made.setToolTip(plain_tip(f"{tip} ({key})" if key else tip))
    made.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    made.clicked.connect(settle_typed)
    made.clicked.connect(lambda: does())
    if name:
        made.setObjectName(name)
    if shortcut:
        QShortcut(QKeySequence(key), made).activated.connect(made.click)
    made.setAutoDefault(False)
    return made


def field_link(words: str, goes: Callable[[], object], name: str) -> QPushButton:
    """A link to the field in which a fact is stated."""
    return button(words, goes, kind="link", tip="Go to the field in which it is stated", name=name)


def exclusive(
    owner: QWidget,
    line: QBoxLayout,
    options: Iterable[tuple[K, str, str]],
    chosen: Callable[[K], object],
    *,
    prefix: str,
    kind: str = "chip",
) -> dict[K, QPushButton]:
    """A row of buttons of which one is down: key, words, tooltip each; named `prefix` and the key. The owner
    shows which.
    """
    group = QButtonGroup(owner)
    made = {}
    for key, words, tip in options:
        choice = button(
            words,
            partial(chosen, key),
            tip=tip,
            kind=kind,
            name=f"{prefix}_{getattr(key, 'name', str(key)).lower()}",
        )
        choice.setCheckable(True)
        group.addButton(choice)
        line.addWidget(choice)
        made[key] = choice
    return made


def sheet(layout: QLayout | None = None, margins: int = 16) -> QFrame:
    """A sheet of paper on the cast-iron ground."""
    frame = QFrame()
    frame.setProperty("sheet", "true")
    if layout is not None:
        layout.setContentsMargins(margins, margins - 4, margins, margins - 4)
        frame.setLayout(layout)
    return frame


def column(*, spacing: int = 6) -> QVBoxLayout:
    """A vertical layout without margins."""
    made = QVBoxLayout()
    made.setContentsMargins(0, 0, 0, 0)
    made.setSpacing(spacing)
    return made


def row(*, spacing: int = 8) -> QHBoxLayout:
    """A horizontal layout without margins."""
    made = QHBoxLayout()
    made.setContentsMargins(0, 0, 0, 0)
    made.setSpacing(spacing)
    return made


class Scrolled(QScrollArea):
    """Scrolls only when it must. What it holds may want another height at another width, and its bar takes
    width: where the two call each other it settles after a few turns, instead of going to and fro until the
    stack is full.
    """

    MOST_TURNS = 6

    def __init__(self) -> None:
        super().__init__()
        self._turns = 0

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if self._turns >= self.MOST_TURNS:
            return False
        self._turns += 1
        try:
            return super().eventFilter(watched, event)
        finally:
            self._turns -= 1


def scrolled(inner: QWidget) -> QScrollArea:
    """A widget that scrolls only when it must."""
    area = Scrolled()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setWidget(inner)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    return area


def clear(layout: QLayout) -> None:
    """Remove and delete everything in a layout."""
    while (item := layout.takeAt(0)) is not None:
        if (widget := item.widget()) is not None:
            widget.hide()
            widget.deleteLater()
        elif (inner := item.layout()) is not None:
            clear(inner)


def rule() -> QFrame:
    """A thin line across."""
    made = QFrame()
    made.setFixedHeight(1)
    made.setObjectName("rule")
    return made


# A banner's tone by state; what is not known is said softly.
TONES = {State.BEYOND: "beyond", State.NEAR: "near", State.WITHIN: "within"}


class Banner(QFrame):
    """A coloured strip with a sentence and room for buttons; `tone` is beyond, near, within or soft."""

    def __init__(self) -> None:
        super().__init__()
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 9, 14, 9)
        box.setSpacing(4)
        self.head = label(kind="head", wrap=True)
        self.text = label(wrap=True)
        self.buttons = row()
        box.addWidget(self.head)
        box.addWidget(self.text)
        box.addLayout(self.buttons)

    def say(self, tone: str, head: str, text: str = "") -> None:
        """Show a sentence; buttons are kept."""
        if self.property("banner") != tone:
            self.setProperty("banner", tone)
            theme.restyle(self)
        self.head.setText(head)
        self.head.setVisible(bool(head))
        self.text.setText(text)
        self.text.setVisible(bool(text))
        if self.parent() is not None:  # shown alone it would be a window of its own, and take the keys away
            self.show()


class Cover(QWidget):
    """Covers what it stands in, whatever size that takes, until it is closed."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        parent.installEventFilter(self)

    def event(self, event: QEvent) -> bool:
        """Esc belongs to the cover, before any shortcut of what lies below."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Escape
        ):
            event.accept()
            return True
        return super().event(event)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        parent = self.parentWidget()
        if event.type() == QEvent.Type.Resize and watched is parent:
            self.setGeometry(parent.rect())
        return False


class Overlay(Cover):
    """A cover that takes every plain key itself, before any shortcut does."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        return super().event(event)


class Mark(painting.Painted, QWidget):
    """A state's shape."""

    def __init__(self, state: State = State.UNKNOWN) -> None:
        super().__init__()
        self.state = state
        self.setFixedSize(18, 18)
        self.setToolTip(state.value)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painting.paint_mark(painter, QPointF(9, 9), self.state)


class FigureView(painting.Painted, QWidget):
    """A figure on a grey plate."""

    def __init__(self) -> None:
        super().__init__()
        self._figure: Figure | None = None
        self.setMinimumHeight(150)
        self.setAccessibleName("How it is set up")

    def show_figure(self, figure: Figure) -> None:
        """Draw another figure."""
        if figure != self._figure:
            self._figure = figure
            self.update()

    def sizeHint(self) -> QSize:
        return QSize(640, 168)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("ground"))
        painter.drawRoundedRect(self.rect(), 3, 3)
        if self._figure is not None:
            painting.paint_figure(painter, self._figure, QRectF(self.rect()).adjusted(6, 4, -6, -4))


class HintButton(painting.Painted, Button):
    """A button that shows its key at its right edge."""

    def __init__(self, text: str, hint: str) -> None:
        super().__init__(text)
        self._hint = hint

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setFont(theme.font(theme.SMALL))
        room = (self.width() - self.fontMetrics().horizontalAdvance(self.text())) / 2
        if painter.fontMetrics().horizontalAdvance(self._hint) + 20 > room:
            return
        painter.setPen(theme.colour("on_blue" if self.isEnabled() else "soft"))
        painter.drawText(
            self.rect().adjusted(0, 0, -12, 0),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            self._hint,
        )


class ProgressChip(painting.Painted, Button):
    """A chip with a thin bar below its words: how much of it is done."""

    def __init__(self, text: str) -> None:
        super().__init__(text)
        self.setProperty("kind", "chip")
        self._share = 0.0

    def show_share(self, share: float) -> None:
        """How much is done, 0 to 1."""
        if share != self._share:
            self._share = share
            self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setPen(Qt.PenStyle.NoPen)
        wide = self.width() - 16.0
        painter.setBrush(theme.colour("line"))
        painter.drawRect(QRectF(8, self.height() - 6, wide, 2.5))
        painter.setBrush(theme.colour("on_blue" if self.isChecked() else "blue"))
        painter.drawRect(QRectF(8, self.height() - 6, wide * self._share, 2.5))


class SaysWhole:
    """Base of a field whose words may be longer than it is: the tooltip then has them whole. Stands before
    the Qt class.
    """

    _tip = ""

    def words_room(self) -> tuple[str, int]:
        """What it says, and the width there is for it, px."""
        raise NotImplementedError

    def setToolTip(self, text: str) -> None:
        """What it is for; its own words come before that where they do not fit."""
        self._tip = text
        self.say_whole()

    def say_whole(self) -> None:
        """To be called when the words or the width changed."""
        widget = cast(QWidget, self)
        words, room = self.words_room()
        fits = widget.fontMetrics().horizontalAdvance(words) <= room
        tip = self._tip if fits else plain_tip(f"{words} ({self._tip})" if self._tip else words)
        if tip != widget.toolTip():
            QWidget.setToolTip(widget, tip)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)  # type: ignore[misc]  # the Qt class that stands beside it
        self.say_whole()


class TakesNoWheel:
    """Base of whatever holds a value that is chosen: the wheel over it scrolls what it stands in, so that no
    value is changed in passing. Stands before the Qt class.
    """

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Left to the panel; a list that is open has its own."""
        event.ignore()


class Slider(TakesNoWheel, QSlider):
    """A slider that lies; it takes the wheel only after it was clicked into, while the keys are its own."""

    def __init__(self) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._was_clicked = False

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        self._was_clicked = True

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self._was_clicked = False

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self._was_clicked:
            QSlider.wheelEvent(self, event)
        else:
            super().wheelEvent(event)


class Choice(TakesNoWheel, SaysWhole, painting.Painted, QComboBox):
    """A drop-down with our own arrow, no wider than it must be."""

    ARROW = 26  # px at the right that are the arrow's

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)  # the wheel alone brings no focus
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(6)
        self.currentTextChanged.connect(self.say_whole)

    def addItem(self, text: str, data: object = None) -> None:  # type: ignore[override]
        """One more to choose, its numbers with the language's decimal mark."""
        super().addItem(numerals.shown(text), data)

    def words_room(self) -> tuple[str, int]:
        """What is chosen, and the width there is for it, px."""
        return self.currentText(), self.width() - self.ARROW - 10

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("soft"))
        x, y = self.width() - 15.0, self.height() / 2
        painter.drawPolygon(QPolygonF([QPointF(x - 5, y - 3), QPointF(x + 5, y - 3), QPointF(x, y + 4)]))
