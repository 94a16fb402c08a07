"""The right button, and Ctrl+C: what a picture or a list says, or the picture itself, to be put elsewhere."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QContextMenuEvent, QGuiApplication, QKeyEvent, QKeySequence, QMouseEvent
from PySide6.QtWidgets import QFileDialog, QMenu, QWidget

from trebb.app.look.said import Said, height_of, in_rows

Offer = tuple[str, Callable[[], object]]
LINE = 6.0  # px: words whose middles lie no further apart stand in one line


def lines_of(said: Sequence[Said]) -> list[tuple[float, str]]:
    """What was written, line by line from above, each from the left, its words apart by tabs; with its
    middle's height.
    """
    words = (s for s in said if not s.is_shape and s.text.strip())
    return [
        (height_of(row[0]), "\t".join(s.text for s in sorted(row, key=lambda s: s.spot.left())))
        for row in in_rows(words, height_of, lambda apart: apart <= LINE)
    ]


def copy_words(said: Sequence[Said]) -> None:
    """All that was written, as text that a spreadsheet takes."""
    QGuiApplication.clipboard().setText("\n".join(words for _, words in lines_of(said)))


def copy_picture(widget: QWidget) -> None:
    """The widget as it stands."""
    QGuiApplication.clipboard().setPixmap(widget.grab())


def _save_picture(widget: QWidget) -> None:
    name, _ = QFileDialog.getSaveFileName(
        widget, "Save the picture", str(Path.home() / "picture.png"), "*.png"
    )
    if name:
        widget.grab().save(name if name.lower().endswith(".png") else f"{name}.png", "PNG")


def menu_for(widget: QWidget, said: Sequence[Said], at: QPoint, offers: Sequence[Offer]) -> QMenu:
    """What can be done where the button was pressed, and what can be copied."""
    menu = QMenu(widget)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    for words, does in offers:
        menu.addAction(words).triggered.connect(lambda *_, does=does: does())
    if offers:
        menu.addSeparator()
    lines = lines_of(said)
    here = next((words for y, words in lines if abs(y - at.y()) <= 2 * LINE), "")
    if here and len(lines) > 1:
        clipboard = QGuiApplication.clipboard()
        menu.addAction("Copy this line").triggered.connect(lambda *_: clipboard.setText(here))
    if lines:
        menu.addAction("Copy the words").triggered.connect(lambda *_: copy_words(said))
    menu.addAction("Copy the picture").triggered.connect(partial(_later, copy_picture, widget))
    menu.addAction("Save the picture …").triggered.connect(partial(_later, _save_picture, widget))
    return menu


def _later(does: Callable[[QWidget], object], widget: QWidget, *_: object) -> None:
    does(widget)


def answers(
    widget: QWidget, event: QEvent, said: Sequence[Said], offers: Callable[[QPoint], Sequence[Offer]]
) -> bool:
    """Whether an event was the right button's or Ctrl+C's, and is answered: the button itself presses
    nothing, its menu comes.
    """
    kind = event.type()
    if kind == QEvent.Type.MouseButtonPress and isinstance(event, QMouseEvent):
        return event.button() == Qt.MouseButton.RightButton
    if kind == QEvent.Type.ContextMenu and isinstance(event, QContextMenuEvent):
        menu_for(widget, said, event.pos(), offers(event.pos())).popup(event.globalPos())
        return True
    if kind in (QEvent.Type.ShortcutOverride, QEvent.Type.KeyPress) and isinstance(event, QKeyEvent):
        if not event.matches(QKeySequence.StandardKey.Copy):
            return False
        event.accept()
        if kind == QEvent.Type.KeyPress:
            copy_words(said)
        return True
    return False
