"""Measures a shown window: which words are cut, run out of their picture or lie on one another."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QPoint, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QFontMetricsF
from PySide6.QtWidgets import (
    QAbstractButton,
    QComboBox,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QScrollArea,
    QStyle,
    QStyleOptionComboBox,
    QStyleOptionFrame,
    QWidget,
)

from trebb.app.look import painting

SLACK = 1.5  # px: rounding of metrics
OVERLAP = 2.0  # px each way in which the ink boxes of two words may touch
BORDER = 4  # px of a button's own frame and focus ring


class _Recorder(painting.Words):
    """Paints, and remembers where the ink of each word fell on its widget."""

    inked: list[tuple[QWidget, str, QRectF]] = []  # noqa: RUF012

    def __init__(self, widget: QWidget) -> None:
        super().__init__(widget)
        self._widget = widget

    def drawText(self, *args) -> None:
        super().drawText(*args)
        metrics = QFontMetricsF(self.font())
        text = next((a for a in args if isinstance(a, str)), "")
        if not text.strip():
            return
        first = args[0]
        if isinstance(first, QPointF | QPoint):
            ink = metrics.tightBoundingRect(text).translated(QPointF(first))
        elif isinstance(first, QRect | QRectF):
            flags = next(a for a in args if not isinstance(a, str | QRect | QRectF))
            flags = int(getattr(flags, "value", flags))
            ink = metrics.boundingRect(QRectF(first), flags, text)
            if not flags & Qt.TextFlag.TextWordWrap.value and "\n" not in text:
                tight = metrics.tightBoundingRect(text)
                ink = QRectF(
                    ink.left(), ink.top() + metrics.ascent() + tight.top(), ink.width(), tight.height()
                )
        else:
            ink = metrics.tightBoundingRect(text).translated(QPointF(float(args[0]), float(args[1])))
        said = self.said[-1]
        self.inked.append((self._widget, text, self.worldTransform().mapRect(ink)))
        if text.endswith("…") and len(text) > 1 and not said.is_cut:
            _Recorder.lost.append(f"{_named(self._widget)} painted “{text}” and nothing has it whole")

    lost: list[str] = []  # noqa: RUF012


@contextmanager
def recorded():
    """Words painted meanwhile: of which widget, which, and where on it; what was cut for good."""
    inked, lost = _Recorder.inked, _Recorder.lost
    inked.clear()
    lost.clear()
    old = painting.Words
    painting.Words = _Recorder
    try:
        yield inked, lost
    finally:
        painting.Words = old


def _named(widget: QWidget) -> str:
    return f"{type(widget).__name__}{'#' + widget.objectName() if widget.objectName() else ''}"


def _room(widget: QWidget) -> QRect:
    """What of a widget its parents leave to be seen; a scroll area shows everything in time."""
    room = widget.rect()
    at, inner = widget.parentWidget(), widget
    offset = widget.pos()
    while at is not None and not inner.isWindow():
        if isinstance(at.parentWidget(), QScrollArea) and at.parentWidget().viewport() is at:
            break
        room = room.intersected(at.rect().translated(-offset))
        offset += at.pos()
        inner, at = at, at.parentWidget()
    return room


def _cut_widget(widget: QWidget) -> str:
    """Why the words of a widget cannot be read whole; "" where they can."""
    tip = widget.toolTip()
    if isinstance(widget, QLabel) and widget.text() and not widget.pixmap():
        text = widget.text()
        if widget.wordWrap():
            inside = widget.contentsRect()
            need = QFontMetricsF(widget.font()).boundingRect(
                QRectF(0, 0, inside.width(), 1e5), Qt.TextFlag.TextWordWrap.value, text
            )
            if need.height() > inside.height() + SLACK:
                return f"needs {need.height():.0f} px of height, has {inside.height()}"
            if need.width() > inside.width() + SLACK:
                return f"a word needs {need.width():.0f} px, has {inside.width()}"
        else:
            need = QFontMetricsF(widget.font()).boundingRect(QRectF(0, 0, 1e5, 1e5), 0, text)
            if need.width() > widget.contentsRect().width() + SLACK and text not in tip:
                return f"needs {need.width():.0f} px, has {widget.contentsRect().width()}"
            ink = QFontMetricsF(widget.font()).tightBoundingRect(text).height()
            if "\n" not in text and ink > widget.contentsRect().height() + SLACK:
                return f"needs {ink:.0f} px of height, has {widget.contentsRect().height()}"
            if "\n" in text and need.height() > widget.contentsRect().height() + SLACK:
                return f"needs {need.height():.0f} px of height, has {widget.contentsRect().height()}"
    elif isinstance(widget, QAbstractButton) and widget.text():
        words = widget.text().replace("&&", "&")
        if words.endswith("…") and words[:-1].strip() in tip:
            return ""
        need = QFontMetricsF(widget.font()).boundingRect(QRectF(0, 0, 1e5, 1e5), 0, words)
        if need.width() > widget.width() - BORDER + SLACK and words not in tip:
            return f"needs {need.width() + BORDER:.0f} px, has {widget.width()}"
        if need.height() > widget.height() + SLACK:
            return f"needs {need.height():.0f} px of height, has {widget.height()}"
    elif isinstance(widget, QLineEdit):
        shown = widget.text() or widget.placeholderText()
        option = QStyleOptionFrame()
        widget.initStyleOption(option)
        room = widget.style().subElementRect(QStyle.SubElement.SE_LineEditContents, option, widget)
        need = QFontMetricsF(widget.font()).horizontalAdvance(shown)
        if need > room.width() + SLACK - 2 and shown not in tip:
            return f"“{shown}” needs {need:.0f} px, has {room.width()}"
    elif isinstance(widget, QComboBox):
        option = QStyleOptionComboBox()
        widget.initStyleOption(option)
        room = widget.style().subControlRect(
            QStyle.ComplexControl.CC_ComboBox, option, QStyle.SubControl.SC_ComboBoxEditField, widget
        )
        need = QFontMetricsF(widget.font()).horizontalAdvance(widget.currentText())
        if need > room.width() + SLACK and widget.currentText() not in tip:
            return f"“{widget.currentText()}” needs {need:.0f} px, has {room.width()}"
    return ""


def shown(within: QWidget) -> Iterator[QWidget]:
    """What is visible below a widget; what stands in a hidden one is not asked, which is most of a window."""
    for child in within.children():
        if isinstance(child, QWidget) and child.isVisible():
            yield child
            yield from shown(child)


def troubles(window: QWidget) -> list[str]:
    """A line for each word on a shown window that cannot be read."""
    found = []
    for widget in shown(window):
        if widget.width() == 0:
            continue
        if isinstance(widget, QLabel | QAbstractButton | QLineEdit | QComboBox | QPlainTextEdit):
            says = getattr(widget, "text", lambda: "")() or ""
            why = _cut_widget(widget)
            if why:
                found.append(f"{_named(widget)} “{says[:60]}”: {why}")
            room = _room(widget)
            if room.width() < widget.width() - SLACK or room.height() < widget.height() - SLACK:
                found.append(
                    f"{_named(widget)} “{says[:60]}”: {room.width()}×{room.height()} of "
                    f"{widget.width()}×{widget.height()} is inside"
                )
    with recorded() as (words, lost):
        window.grab()
    kept = list(words)
    found += lost
    for widget, text, where in kept:
        if not QRectF(widget.rect()).adjusted(-SLACK, -SLACK, SLACK, SLACK).contains(where):
            found.append(
                f"{_named(widget)} painted “{text[:60]}” at {_spot(where)} outside "
                f"{widget.width()}×{widget.height()}"
            )
    painted: dict[QWidget, list[tuple[str, QRectF]]] = {}
    for widget, text, where in kept:
        for more, there in painted.setdefault(widget, []):
            if more == text and there == where:
                continue
            both = where.intersected(there)
            if both.width() > OVERLAP and both.height() > OVERLAP:
                found.append(f"{_named(widget)} painted “{text[:40]}” on “{more[:40]}” at {_spot(both)}")
        painted[widget].append((text, where))
    return list(dict.fromkeys(found + _overlapping(window)))


def _overlapping(window: QWidget) -> list[str]:
    """Labels and controls that lie on one another beside each other in one parent."""
    found = []
    for parent in [window, *shown(window)]:
        beside = [
            w
            for w in parent.children()
            if isinstance(w, QLabel | QAbstractButton | QLineEdit | QComboBox) and w.isVisible()
        ]
        for i, one in enumerate(beside):
            for other in beside[i + 1 :]:
                both = one.geometry().intersected(other.geometry())
                if both.width() > OVERLAP and both.height() > OVERLAP:
                    found.append(
                        f"{_named(one)} “{one_text(one)}” lies on {_named(other)} “{one_text(other)}”"
                    )
    return found


def one_text(widget: QWidget) -> str:
    """What a widget says, briefly."""
    return (getattr(widget, "text", lambda: "")() or "")[:40]


def _spot(area: QRectF) -> str:
    return f"{area.left():.0f},{area.top():.0f} {area.width():.0f}×{area.height():.0f}"
