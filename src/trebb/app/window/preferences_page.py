"""The page on which display and sound are chosen."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from msgspec.structs import replace
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QCheckBox

from trebb.app.look import sounds, text_size, theme
from trebb.app.look.beside_page import BesidePage
from trebb.app.look.widgets import button, column, exclusive, label, row, sheet
from trebb.app.window.preferences import Preferences, kept

LOOK_WORDS = {"light": "Light", "evening": "Evening", "contrast": "High contrast"}
CHOICES = (
    ("touch", "Shop mode", "Everything that is pressed is 40 px high, for gloves and a touch screen"),
    ("moves", "Things slide", "The carriage on the rail, a bed that changes; off: they jump"),
    ("sound", "A tone at each reading", "By the system's player of sounds, or its bell"),
    ("speech", "Speak readings from afar", "F11: each value taken is said by the system's voice"),
)


class Chooser(Protocol):
    """What the page asks of the window."""

    settings: QSettings

    def prefer(self, chosen: Preferences) -> None:
        """Take other preferences."""
        ...

    def show_look(self, key: str) -> None:
        """Colours by their key."""
        ...

    def resize_text(self, by: int) -> None:
        """Everything a step larger or smaller."""
        ...


class PreferencesPage(BesidePage):
    """Each choice takes effect at once."""

    def __init__(self, window: Chooser, back: Callable[[], object]) -> None:
        super().__init__(
            "Display and sound", "Kept with this window, not with a job.", back, name="preferences"
        )
        self._window = window
        now = kept(window.settings)
        body = column(spacing=10)
        body.addWidget(label("Colours", "head"))
        line = row(spacing=4)
        looks = [(key, LOOK_WORDS[key], f"{LOOK_WORDS[key]} colours (Ctrl+E)") for key in theme.LOOKS]
        self.looks = exclusive(self, line, looks, window.show_look, prefix="look")
        for key, made in self.looks.items():
            made.setChecked(theme.LOOKS[key] is theme.roles())
        line.addStretch()
        body.addLayout(line)
        body.addWidget(label("Size of everything", "head"))
        line = row(spacing=6)
        line.addWidget(
            button(
                "Smaller",
                lambda: window.resize_text(-1),
                tip="The window opens anew",
                key="Ctrl+-",
                name="smaller",
            )
        )
        own = text_size.chosen(window.settings)
        words = f"{text_size.now(window.settings):.0%}{', as the desktop says' if own is None else ''}"
        line.addWidget(label(words))
        line.addWidget(
            button(
                "Larger",
                lambda: window.resize_text(1),
                tip="The window opens anew",
                key="Ctrl++",
                name="larger",
            )
        )
        line.addStretch()
        body.addLayout(line)
        body.addWidget(label("At the bench", "head"))
        self.boxes: dict[str, QCheckBox] = {}
        for key, title, tip in CHOICES:
            box = QCheckBox(title)
            box.setObjectName(f"prefer_{key}")
            box.setToolTip(tip)
            box.setChecked(getattr(now, key))
            box.toggled.connect(lambda on, key=key: self._set(key, on))
            self.boxes[key] = box
            body.addWidget(box)
            body.addWidget(label(tip, "small", wrap=True))
        if sounds.speaker() is None:
            self.boxes["speech"].setEnabled(False)
            body.addWidget(label("This system has no voice: install speech-dispatcher or espeak-ng.", "soft"))
        body.addStretch(1)
        self.outer.addWidget(sheet(body, 20), 1)

    def _set(self, key: str, on: bool) -> None:
        self._window.prefer(replace(kept(self._window.settings), **{key: on}))
