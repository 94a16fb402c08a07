"""Pieces of work to begin with, as text: asked when a demo is made, so quick to import."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from msgspec import json

TABLE = Path(__file__).parents[1] / "data" / "work.json"


@cache
def usual_work(kind: str) -> tuple[dict[str, str | float], ...]:
    """Pieces to begin with, of a kind of machine."""
    data = json.decode(TABLE.read_bytes(), type=dict[str, str | tuple[dict[str, str | float], ...]])
    found = data.get(kind, ())
    return found if isinstance(found, tuple) else ()
