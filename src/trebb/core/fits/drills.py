"""Drills as sold: fractions by 64ths, numbers and letters (ANSI B94.11M), and millimetres by tenths."""

from __future__ import annotations

import math
from functools import cache

from trebb.core.units import INCH_MM

_NUMBERS_IN = (
    0.228, 0.221, 0.213, 0.209, 0.2055, 0.204, 0.201, 0.199, 0.196, 0.1935, 0.191, 0.189, 0.185, 0.182, 0.18,
    0.177, 0.173, 0.1695, 0.166, 0.161, 0.159, 0.157, 0.154, 0.152, 0.1495, 0.147, 0.144, 0.1405, 0.136,
    0.1285, 0.12, 0.116, 0.113, 0.111, 0.11, 0.1065, 0.104, 0.1015, 0.0995, 0.098, 0.096, 0.0935, 0.089,
    0.086, 0.082, 0.081, 0.0785, 0.076, 0.073, 0.07, 0.067, 0.0635, 0.0595, 0.055, 0.052, 0.0465, 0.043,
    0.042, 0.041, 0.04,
)  # fmt: skip
_LETTERS_IN = (
    0.234, 0.238, 0.242, 0.246, 0.25, 0.257, 0.261, 0.266, 0.272, 0.277, 0.281, 0.29, 0.295, 0.302, 0.316,
    0.323, 0.332, 0.339, 0.348, 0.358, 0.368, 0.377, 0.386, 0.397, 0.404, 0.413,
)  # fmt: skip


@cache
def _inch_drills() -> tuple[tuple[float, str], ...]:
    """Size, in, and what it is called; a fraction goes before a letter of the same size."""
    found: dict[float, str] = {}
    for i, size in enumerate(_NUMBERS_IN, 1):
        found[size] = f"#{i}"
    for i, size in enumerate(_LETTERS_IN):
        found[size] = chr(ord("A") + i)
    for i in range(1, 129):
        top, under = i, 64
        while top % 2 == 0:
            top, under = top // 2, under // 2
        whole, top = divmod(top, under) if under > 1 else (top, 0)
        found[i / 64] = " ".join(
            part for part in (str(whole) if whole else "", f"{top}/{under}" if top else "") if part
        )
    return tuple(sorted(found.items()))


def drill_under_in(size_in: float) -> tuple[str, float] | None:
    """The largest inch drill not over a size: what it is called, and its size, in; None under the smallest.

    A drill cuts over its size: shop practice takes one or two sizes below.
    """
    fit = [(name, size) for size, name in _inch_drills() if size <= size_in + 1e-9]
    return fit[-1] if fit else None


def drill_under(size_mm: float, *, inch: bool) -> tuple[str, float]:
    """The largest drill not over a size, in words and in mm. Under the smallest the size itself is given."""
    if inch:
        found = drill_under_in(size_mm / INCH_MM)
        if found is None:
            return f"{size_mm / INCH_MM:.4f} in", size_mm
        name, size = found
        return (f"{name} in" if "/" in name or name.isdigit() else name), size * INCH_MM
    tenths = max(1, math.floor(size_mm * 10 + 1e-6))
    return f"{tenths / 10:g} mm", tenths / 10
