"""The strip at the top: job, unit switch, power lock."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QButtonGroup, QFrame, QHBoxLayout, QPushButton

from trebb.app.look.widgets import button, label
from trebb.app.window.session import Session
from trebb.core.units import UnitSystem


class TopStrip(QFrame):
    """Says which job this is."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.setFixedHeight(46)
        self.setObjectName("strip")
        box = QHBoxLayout(self)
        box.setContentsMargins(18, 4, 14, 4)
        box.setSpacing(10)
        name = label("Trebb", "title")
        name.setObjectName("brand")
        box.addWidget(name)
        self.job = label("", "strong")
        box.addSpacing(8)
        box.addWidget(self.job)
        box.addStretch()
        self.undo = button(
            "Undo", session.undo, kind="link", tip="Take back the last gesture", key="Ctrl+Z", name="undo"
        )
        self.redo = button(
            "Redo", session.redo, kind="link", tip="Restore it", key="Ctrl+Shift+Z", name="redo"
        )
        for beside in self._beside_the_rail():
            box.addWidget(beside)
        box.addSpacing(8)
        box.addWidget(self.undo)
        box.addWidget(self.redo)
        box.addSpacing(8)
        box.addLayout(self._units())
        self.lock = button(
            "power on",
            lambda: None,
            kind="lock",
            tip="Record that power is locked out, or not",
            name="power_lock",
        )
        self.lock.setCheckable(True)
        self.lock.setMinimumWidth(112)
        box.addWidget(self.lock)
        self.menu = button(
            "Menu",
            lambda: None,
            tip="Help, print, write out, display, open and close",
            key="F10",
            name="menu",
            shortcut=True,
        )
        box.addWidget(self.menu)
        self.lock.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def _beside_the_rail(self) -> list[QPushButton]:
        """Pages of the job that are no stops; the frame goes there when one is pressed."""
        self.strip_down = button(
            "Strip-down",
            lambda: None,
            kind="chip",
            tip="What comes off, in the order it does, so that it can go back",
            key="Ctrl+0",
            name="strip_down",
        )
        self.plan = button(
            "Plan",
            lambda: None,
            kind="chip",
            tip="The whole job: tonight, what to order, what it costs",
            key="Ctrl+9",
            name="plan",
        )
        self.work = button(
            "Work",
            lambda: None,
            kind="chip",
            tip="What it is to make, what that comes out as, which repairs buy most",
            key="Ctrl+Shift+W",
            name="work",
        )
        self.practice = button(
            "Practice",
            lambda: None,
            kind="chip",
            tip="The hidden machine: what you used, your verdict, the machine opened",
            key="Ctrl+B",
            name="practice",
        )
        self.practice.hide()
        made = [self.work, self.strip_down, self.plan, self.practice]
        for one in made:
            one.setCheckable(True)
        return made

    def _units(self) -> QHBoxLayout:
        session, group = self._session, QButtonGroup(self)
        self.show_inch = button(
            "thou",
            lambda: session.show_in(UnitSystem.INCH),
            tip="Show inches, thou and tenths",
            key="Ctrl+U",
            name="show_inch",
        )
        self.show_metric = button(
            "µm",
            lambda: session.show_in(UnitSystem.METRIC),
            tip="Show millimetres and microns",
            key="Ctrl+U",
            name="show_metric",
        )
        pair = QHBoxLayout()
        pair.setSpacing(0)
        for choice in (self.show_inch, self.show_metric):
            choice.setCheckable(True)
            choice.setFixedWidth(62)
            group.addButton(choice)
            pair.addWidget(choice)
        return pair

    def refresh(self) -> None:
        """Show the job as it now is."""
        job = self._session.job
        started = job.started
        self.practice.setVisible(bool(job.practice_marks("piece")))
        self.job.setText(f"{started.shop}  ·  {started.machine}" if started else self._session.path.name)
        inch = self._session.system is UnitSystem.INCH
        self.show_inch.setChecked(inch)
        self.show_metric.setChecked(not inch)
        self.lock.blockSignals(True)
        self.lock.setChecked(job.is_power_locked)
        self.lock.setText("power locked" if job.is_power_locked else "power on")
        self.lock.blockSignals(False)
        for widget, gesture, word in ((self.undo, job.undoable, "Undo"), (self.redo, job.redoable, "Redo")):
            widget.setEnabled(gesture is not None)
            keys = "Ctrl+Z" if word == "Undo" else "Ctrl+Shift+Z"
            widget.setToolTip(
                f"{word}: {job.gesture_words(gesture)} ({keys})"
                if gesture is not None
                else f"Nothing to {word.lower()} ({keys})"
            )
