"""Bearings as they are bought, by bore × outside × width."""

from __future__ import annotations

from trebb.core.families.spindle.subject import Spindle
from trebb.core.items import Item


def front_and_rear(spindle: Spindle) -> tuple[Item, ...]:
    """A matched pair in front, one at the rear; a quill of one bearing has that one."""
    front = (spindle.front_bore_mm, spindle.front_outside_mm, spindle.bearing_width_mm)
    rear = (spindle.rear_bore_mm, spindle.rear_outside_mm, spindle.bearing_width_mm)
    found = [_bearing(front, "front", 2, "the two a matched pair of the spindle class", "front")]
    if not (spindle.has_quill and spindle.bearing_count == 1):
        found.append(_bearing(rear, "rear", 1, "of the spindle class", "rear"))
    return tuple(found)


def second(spindle: Spindle) -> tuple[Item, ...]:
    """The one that a quill of one bearing gets beside it."""
    sizes = (spindle.rear_bore_mm, spindle.rear_outside_mm, spindle.bearing_width_mm)
    return (_bearing(sizes, "second", 1, "of the spindle class", "rear"),)


def _bearing(sizes: tuple[float, float, float], where: str, count: int, note: str, facts: str) -> Item:
    """Bearings are named by bore × outside × width in mm, in an inch machine too."""
    name = " × ".join(f"{mm:g}" for mm in sizes)
    stated = (f"{facts}_bore_mm", f"{facts}_outside_mm", "bearing_width_mm")
    return Item(f"{where.capitalize()} bearing {name} mm", (), count, note, stated)
