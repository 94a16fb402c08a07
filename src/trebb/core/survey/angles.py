"""Angles of a turn as they stand in a place: "far, 45°"."""

from __future__ import annotations

from functools import lru_cache


def angle_words(degrees: float) -> str:
    """An angle as it stands in a place: "45°"."""
    return f"{degrees:g}°"


ONE_FIGURE = "TIR"  # stands for the angle where a turn is read as one figure: how much, not whither


def figure_place(group: str) -> str:
    """The place of a whole turn read as one figure, its angle not known."""
    return f"{group}, {ONE_FIGURE}"


def is_figure(place: str) -> bool:
    """Whether a place is a whole turn as one figure."""
    return place.endswith(f", {ONE_FIGURE}")


@lru_cache(maxsize=4096)  # places are few and asked for at every reading
def split_place(place: str) -> tuple[str, float]:
    """Group and dial angle, degrees, of a place: "far, 45°" → ("far", 45.0)."""
    group, angle = place.rsplit(", ", 1)
    return group, float(angle.rstrip("°"))
