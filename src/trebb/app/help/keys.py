"""The keys of what is on the screen, gathered from what really answers them."""

from __future__ import annotations

import re

from PySide6.QtGui import QShortcut
from PySide6.QtWidgets import QAbstractButton, QWidget

from trebb.app.stops.base import Stop
from trebb.core.words import small

# Bench keys of a stop: the method that answers, the key, what it does.
BENCH = (
    ("take", "Space", "take the reading, or the size"),
    ("typed", "figures, then Enter", "type it; a wedge cable does it by itself"),
    ("step", "Up, Down", "the place, or the line, before and after"),
    ("turn_by", "Left, Right", "turn the spindle to the neighbouring angle"),
    ("strike", "Backspace", "strike out the last reading here"),
)


def stop_keys(stop: Stop) -> list[tuple[str, str]]:
    """Keys that a stop answers: what it takes of the bench's, and the buttons that show theirs."""
    rows = [
        (keys, words) for name, keys, words in BENCH if getattr(type(stop), name) is not getattr(Stop, name)
    ]
    for holder in (stop, stop.side):
        for widget in holder.findChildren(QAbstractButton):
            named = re.fullmatch(r"(.*) \(([^()]+)\)", widget.toolTip())
            if named and widget.isVisible() and named[2] not in ("Space", "Backspace"):
                rows.append((named[2], f"{widget.text().replace('&&', '&')}: {small(named[1])}"))
    return list(dict.fromkeys(rows))


def window_keys(holder: QWidget) -> list[tuple[str, str]]:
    """Keys that are answered anywhere: shortcuts that say what they do (`whatsThis`)."""
    rows: dict[str, list[str]] = {}
    for shortcut in holder.findChildren(QShortcut):
        if shortcut.whatsThis():
            rows.setdefault(shortcut.whatsThis(), []).append(shortcut.key().toString())
    return [(", ".join(dict.fromkeys(keys)), words) for words, keys in rows.items()]


def keys_text(stop: Stop | None, window: QWidget) -> str:
    """Both, as a page of help."""
    lines = ["# Keys", ""]
    groups = [("Anywhere", window_keys(window))]
    if stop is not None:
        groups.insert(0, ("Here", stop_keys(stop)))
    for head, rows in groups:
        lines += [f"## {head}", ""]
        lines += [f"- **{keys}**: {words}" for keys, words in rows]
        lines.append("")
    return "\n".join(lines)
