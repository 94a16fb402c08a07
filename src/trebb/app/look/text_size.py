"""How large everything is drawn: as the desktop says, or as the user says here.

Text, pictures and controls grow together, so that what is seen at one size
is seen at each; a window that is smaller than what it holds scrolls. Qt takes
a size only when it starts, so another one opens the window anew: nothing that
was taken needs saving.
"""

from __future__ import annotations

import os

from PySide6.QtCore import QSettings

from trebb.app.window.desktop_says import global_setting, interface_setting

STEPS = (1.0, 1.1, 1.25, 1.5, 1.75, 2.0)
KEY = "text_size"
USUAL_POINTS = 10.0  # of a desktop's own font where nothing was changed


def nearest(factor: float) -> float:
    """The step nearest to a factor."""
    return min(STEPS, key=lambda step: abs(step - factor))


def of_desktop() -> float:
    """How much larger than usual the desktop's text is: its scaling factor, or the size of its font."""
    try:
        factor = float(interface_setting("text-scaling-factor"))
        if factor != 1.0:
            return nearest(factor)
    except ValueError:
        pass
    try:
        return nearest(float(global_setting("General", "font").split(",")[1]) / USUAL_POINTS)
    except (IndexError, ValueError):
        return 1.0


def chosen(settings: QSettings) -> float | None:
    """What the user chose here; None where the desktop's is followed."""
    try:
        return nearest(float(str(settings.value(KEY))))
    except ValueError:
        return None


def now(settings: QSettings) -> float:
    """The factor in use."""
    own = chosen(settings)
    return of_desktop() if own is None else own


def apply(settings: QSettings) -> None:
    """Tell Qt, before there is an application; a factor set from outside stands."""
    factor = now(settings)
    if factor != 1.0 and "QT_SCALE_FACTOR" not in os.environ:
        os.environ["QT_SCALE_FACTOR"] = f"{factor:g}"


def step(settings: QSettings, by: int) -> float | None:
    """Choose the next size up or down and return it; None at the end of the steps."""
    at = STEPS.index(nearest(now(settings))) + by
    if not 0 <= at < len(STEPS):
        return None
    settings.setValue(KEY, STEPS[at])
    settings.sync()
    return STEPS[at]
