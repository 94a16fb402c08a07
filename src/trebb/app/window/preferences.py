"""How the window looks and sounds, kept with the window and not with a job."""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import fields
from PySide6.QtCore import QSettings

from trebb.app.look import sounds, theme
from trebb.app.window.desktop_says import global_setting, interface_setting


class Preferences(Struct, frozen=True):
    """What may be chosen; each is kept under its name."""

    touch: bool = False  # shop mode: what is pressed is 40 px
    moves: bool = True
    sound: bool = True
    speech: bool = False


def desktop_moves() -> bool:
    """Whether the desktop lets things move."""
    if interface_setting("enable-animations") == "false":
        return False
    try:
        return float(global_setting("KDE", "AnimationDurationFactor") or 1.0) > 0
    except ValueError:
        return True


def kept(settings: QSettings) -> Preferences:
    """What was chosen; movement as the desktop has it until somebody chooses."""
    found = {}
    for one in fields(Preferences):
        value = settings.value(f"preferences/{one.name}")
        if value is not None:
            found[one.name] = str(value).lower() == "true"
    if "moves" not in found:
        found["moves"] = desktop_moves()
    return Preferences(**found)


def keep(settings: QSettings, chosen: Preferences) -> None:
    """Keep a choice; what is as it was without one is not written."""
    before = kept(settings)
    for one in fields(Preferences):
        value = getattr(chosen, one.name)
        if value != getattr(before, one.name):
            settings.setValue(f"preferences/{one.name}", value)


def use(chosen: Preferences) -> None:
    """Let a choice take effect; the caller restyles what stands already."""
    theme.for_touch(chosen.touch)
    theme.let_move(chosen.moves)
    sounds.is_on = chosen.sound
    sounds.speaks = chosen.speech
