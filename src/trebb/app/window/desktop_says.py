"""What the desktop says of text and movement, asked without Qt: before there is an application."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

LISTEN_S = 2.0


def interface_setting(key: str) -> str:
    """A setting of the desktop's interface, such as `text-scaling-factor`; "" where none is told."""
    tool = shutil.which("gsettings")
    if not tool or not os.environ.get("XDG_CURRENT_DESKTOP"):
        return ""
    import subprocess

    try:
        return subprocess.run(
            [tool, "get", "org.gnome.desktop.interface", key],
            capture_output=True, text=True, timeout=LISTEN_S, check=False,
        ).stdout.strip()  # fmt: skip
    except (OSError, subprocess.TimeoutExpired):
        return ""


def global_setting(section: str, key: str) -> str:
    """The same of a desktop that keeps its settings in `kdeglobals`."""
    kept = Path(os.environ.get("XDG_CONFIG_HOME") or Path.home() / ".config") / "kdeglobals"
    if not kept.is_file():
        return ""
    import configparser

    found = configparser.ConfigParser(interpolation=None, strict=False)
    try:
        found.read(kept, encoding="utf-8")
        return found.get(section, key, fallback="")
    except (configparser.Error, OSError, UnicodeDecodeError):
        return ""
