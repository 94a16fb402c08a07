"""How this very program is started again: by its Python, or as the bundle that it is."""

from __future__ import annotations

import sys

SOLVE = "--solve"  # the solver of plans as a process of its own; for the program itself


def is_bundle() -> bool:
    """Whether there is no Python beside the program."""
    return bool(getattr(sys, "frozen", False))


def own_command() -> list[str]:
    """Program and arguments before what it is told to do."""
    return [sys.executable] if is_bundle() else [sys.executable, "-m", "trebb.app.cli"]
