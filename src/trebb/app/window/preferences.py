"""How the window looks and sounds, kept with the window and not with a job."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import fields
from platformdirs import user_config_path
from PySide6.QtCore import QSettings, Qt
from PySide6.QtGui import QGuiApplication

from trebb.app.look import sounds, text_size, theme
from trebb.app.window.desktop_says import global_setting, interface_setting


class Preferences(Struct, frozen=True):
    """What may be chosen; each is kept under its name."""

    touch: bool = False  # shop mode: what is pressed is 40 px
    moves: bool = True
    sound: bool = True
    speech: bool = False


def settings_at_home() -> QSettings:
    """Window state, recent jobs, what was chosen; nothing of a job is kept there."""
    place = user_config_path("trebb", appauthor=False) / "window.ini"
    return QSettings(str(place), QSettings.Format.IniFormat)


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


def look_of(settings: QSettings) -> str:
    """The colours that were chosen; the desktop's until somebody chooses."""
    key = str(settings.value("look") or ("evening" if settings.value("evening") == "yes" else ""))
    return key if key in theme.LOOKS else desktop_look()


def follows_desktop(settings: QSettings) -> bool:
    """Whether nobody chose colours here."""
    return str(settings.value("look") or settings.value("evening") or "") == ""


def desktop_look() -> str:
    """The colours of the desktop: high contrast, dark or light."""
    if "highcontrast" in (interface_setting("gtk-theme") or "").replace("-", "").lower():
        return "contrast"
    return "evening" if QGuiApplication.styleHints().colorScheme() is Qt.ColorScheme.Dark else "light"


def told(settings: QSettings) -> dict[str, str | float | bool]:
    """What was chosen, to take along; what was not is not named."""
    found: dict[str, str | float | bool] = {
        one.name: getattr(kept(settings), one.name)
        for one in fields(Preferences)
        if settings.value(f"preferences/{one.name}") is not None
    }
    if not follows_desktop(settings):
        found["look"] = look_of(settings)
    size = text_size.chosen(settings)
    return found if size is None else {**found, "text_size": size}


def take(settings: QSettings, found: Mapping[str, str | float | bool]) -> None:
    """Keep what was taken along, as far as it is known here."""
    known = {one.name for one in fields(Preferences)}
    for name, value in found.items():
        if name in known and isinstance(value, bool):
            settings.setValue(f"preferences/{name}", value)
        elif name == "look" and value in theme.LOOKS:
            settings.setValue("look", value)
        elif name == "text_size" and isinstance(value, float | int):
            settings.setValue(text_size.KEY, text_size.nearest(float(value)))
    settings.sync()


def use(chosen: Preferences) -> None:
    """Let a choice take effect; the caller restyles what stands already."""
    theme.for_touch(chosen.touch)
    theme.let_move(chosen.moves)
    sounds.is_on = chosen.sound
    sounds.speaks = chosen.speech
