"""A shim's two views: from above with its slot or hole, and along its edge."""

from __future__ import annotations

from trebb.core.parts.base import (
    Measured,
    View,
)


def shim_plan(length: float, width: float, hole: float, *, slot: bool, key: str = "") -> View:
    """A flat sheet with its bolt hole, or a slot open to one side so that it slides in."""
    outline: tuple[tuple[float, float], ...] = ((0.0, 0.0), (length, 0.0), (length, width), (0.0, width))
    middle, half = width / 2, hole / 2
    if slot:
        outline = (
            (0.0, 0.0),
            (length, 0.0),
            (length, width),
            (0.0, width),
            (0.0, middle + half),
            (length / 2 + half, middle + half),
            (length / 2 + half, middle - half),
            (0.0, middle - half),
        )
        measured = (
            Measured((0, 0), (length, 0), -2.2),
            Measured((length, 0), (length, width), 2.4, True),
            Measured((0, middle - half), (0, middle + half), -2.4, True),
            Measured((0, width), (length / 2 + half, width), 2.0),
        )
        return View("from above", (outline,), measured=measured)
    return View(
        "from above",
        (outline,),
        holes=((length / 2, middle, hole),) if hole else (),
        measured=(
            Measured((0, 0), (length, 0), -2.2),
            Measured((length, 0), (length, width), 2.4, True, key=key),
        ),
    )


def shim_edge(length: float, thin: float, thick: float) -> View:
    return View(
        "on its edge",
        (((0.0, 0.0), (length, 0.0), (length, thick), (0.0, thin)),),
        measured=(Measured((0, 0), (length, 0), -2.2),),
    )
