"""The route of a part: its operations in order, by its key."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from trebb.core.errors import InputError
from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Operation, Row
from trebb.core.parts import Part
from trebb.core.register import FAMILIES

Maker = Callable[[Part, Any, Workshop], Sequence[Row]]


def route(part: Part, subject: Any, shop: Workshop) -> tuple[Operation, ...]:
    """The operations of a part, in order, numbered by tens. Raises InputError for a part without a route."""
    for record in FAMILIES.values():
        for name in record.routes:
            makers: Mapping[str, Maker] = record.named(name)
            if part.key in makers:
                rows = makers[part.key](part, subject, shop)
                return tuple(Operation(10 * (i + 1), *row) for i, row in enumerate(rows))
    raise InputError(f"part “{part.key}”", "nobody wrote its route yet")
