"""Where the shop's memory is kept: asked at every start, so quick to import."""

from __future__ import annotations

from pathlib import Path

import platformdirs


def shop_path() -> Path:
    """Where it is kept."""
    return platformdirs.user_data_path("trebb", appauthor=False) / "shop.trebb-memory"


def has_memory() -> bool:
    """Whether there is one."""
    return shop_path().exists()
