"""Putting wheels on for another feed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row
from trebb.core.parts.base import Part
from trebb.core.safety import LOCK_OUT


def _feed(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "off",
            "Guard open, wheels off",
            "Keys and washers in order on a cloth.",
            "in place",
            "spanner",
            8,
            LOCK_OUT,
            "plain",
        ),
        (
            "on",
            f"Wheels on: {part.row('train').value}",
            "First driver on the spindle's stud, last driven on the shaft; the "
            "pair between keyed on one bush.",
            "in place",
            "spanner",
            12,
            LOCK_OUT,
            "plain",
        ),
        (
            "mesh",
            "Set the meshes with paper",
            "The banjo last; paper rolls through and comes out creased, not cut.",
            "in place",
            "paper",
            8,
            LOCK_OUT,
            "plain",
        ),
        (
            "try",
            "Ten turns by hand, read the carriage",
            f"Ten times {part.size_mm('feed'):.4f} mm is what it should go.",
            "carriage stop, indicator",
            "indicator",
            8,
            LOCK_OUT,
            "plain",
        ),
    ]


ROUTES = {"feed_train": _feed}
