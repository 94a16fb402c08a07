"""The page on which display and sound are chosen."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Protocol

from msgspec.structs import replace
from PySide6.QtCore import QSettings, Qt
from PySide6.QtWidgets import QCheckBox, QFileDialog, QVBoxLayout

from trebb.app.look import sounds, text_size, theme
from trebb.app.look.beside_page import BesidePage
from trebb.app.look.widgets import button, column, exclusive, label, row, sheet
from trebb.app.window.preferences import Preferences, follows_desktop, kept, take, told
from trebb.core.errors import TrebbError

LOOK_WORDS = {"": "As the desktop", "light": "Light", "evening": "Evening", "contrast": "High contrast"}
CHOICES = (
    ("touch", "Shop mode", "Everything that is pressed is 40 px high, for gloves and a touch screen"),
    ("moves", "Things slide", "The carriage on the rail, a bed that changes; off: they jump"),
    ("sound", "A tone at each reading", "By the system's player of sounds, or its bell"),
    ("speech", "Speak readings from afar", "F11: each value taken is said by the system's voice"),
)


SHOP_WORDS = "Preferences, memory, rack, own causes and lists: no job is among them."


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
        looks = [(key, words, f"{words}: colours (Ctrl+E)") for key, words in LOOK_WORDS.items()]
        self.looks = exclusive(self, line, looks, window.show_look, prefix="look")
        follows = follows_desktop(window.settings)
        for key, made in self.looks.items():
            made.setChecked(key == "" if follows else theme.LOOKS.get(key) is theme.roles())
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
        self._shop_lines(body)
        body.addStretch(1)
        self.outer.addWidget(sheet(body, 20), 1)

    def _shop_lines(self, body: QVBoxLayout) -> None:
        """What is the shop's and not a job's: out to a folder, in from one, where it stands."""
        body.addWidget(label("The shop’s own", "head"))
        body.addWidget(label(SHOP_WORDS, "small", wrap=True))
        line = row(spacing=6)
        line.addWidget(
            button(
                "Write to a folder",
                self._choose_out,
                tip="Preferences, memory, rack, own causes and lists",
                name="shop_out",
            )
        )
        line.addWidget(
            button(
                "Bring in from a folder",
                self._choose_in,
                tip="What another Trebb wrote; what stands here is kept beside it",
                name="shop_in",
            )
        )
        line.addStretch()
        body.addLayout(line)
        self.said = label("", "soft", wrap=True)
        self.said.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        body.addWidget(self.said)
        self._say_places()

    def _say_places(self) -> None:
        """Where all of it stands on this machine."""
        from trebb.logbook.exchange.shop_folder import places

        folders = dict.fromkeys(
            str(p.parent) for p in (*places().values(), Path(self._window.settings.fileName()))
        )
        self.said.setText(f"Kept in {' and '.join(folders)}.")

    def _choose_out(self) -> None:
        if name := QFileDialog.getExistingDirectory(self, "Where to write it", str(Path.home())):
            self.write_to(Path(name) / "trebb-shop")

    def write_to(self, folder: Path) -> None:
        """All that is the shop's into a folder; says what went."""
        from trebb.logbook.exchange.shop_folder import write_shop

        try:
            went = write_shop(folder, told(self._window.settings))
        except TrebbError as error:
            self.said.setText(f"{error}.")
            return
        self.said.setText(f"Written to {folder}: " + "; ".join(f"{c.name}, {c.words}" for c in went) + ".")

    def _choose_in(self) -> None:
        if name := QFileDialog.getExistingDirectory(self, "The folder that was written", str(Path.home())):
            self.bring_in(Path(name))

    def bring_in(self, folder: Path) -> None:
        """All that a folder holds; says what came and what did not."""
        from trebb.logbook.exchange.shop_folder import read_preferences, take_shop

        try:
            chosen = read_preferences(folder)
            came = take_shop(folder)
        except TrebbError as error:
            self.said.setText(f"{error}.")
            return
        take(self._window.settings, chosen)
        words = [f"{c.name}: {c.trouble or c.words}" for c in came]
        words += [f"preferences: {len(chosen)}, the size of everything at the next start"] if chosen else []
        self.said.setText("Brought in. " + "; ".join(w.rstrip(".") for w in words) + ".")
        for key, box in self.boxes.items():
            box.setChecked(getattr(kept(self._window.settings), key))

    def _set(self, key: str, on: bool) -> None:
        self._window.prefer(replace(kept(self._window.settings), **{key: on}))
