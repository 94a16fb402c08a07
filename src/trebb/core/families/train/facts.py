"""Facts of a train of gears."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Choice, Fact, Length, Schema, Words, no_system
from trebb.core.families.train.subject import KINDS, Position, Train, order_from, positions_from
from trebb.core.stating.readers import Pitch, teeth_from


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Train:
    return Train(**values)


def _shown(value: Any) -> str:
    return "; ".join(
        f"{p.name}: {' '.join('-'.join(map(str, g)) for g in p.groups)}"
        for p in value or ()
        if isinstance(p, Position)
    )


def _order_shown(value: Any) -> str:
    return "; ".join(p.name + (f" after {', '.join(p.after)}" if p.after else "") for p in value or ())


FACTS: tuple[Fact, ...] = (
    Choice("kind", "Of", choices=KINDS),
    Words(
        "positions",
        "Wheels",
        "Driver first, idlers between, the next pair after a space: low: 20-60 24-48; high: 30-50 24-48",
        reader=positions_from,
        writer=no_system(positions_from),
        form="wheels in mesh, position by position",
        show=lambda value, system: _shown(value),
    ),
    Words("engaged", "Engaged", "Name of the position that is engaged; empty: the first", form="name"),
    Words(
        "gone",
        "Wheels gone",
        "Teeth of the wheels that are missing or have lost teeth",
        reader=teeth_from,
        writer=no_system(teeth_from),
        form="numbers of teeth",
        show=lambda value, system: " ".join(map(str, value or ())),
    ),
    Words(
        "backwards",
        "The wrong way round",
        "Teeth of the wheels that were found so",
        reader=teeth_from,
        writer=no_system(teeth_from),
        form="numbers of teeth",
        show=lambda value, system: " ".join(map(str, value or ())),
    ),
    Length("module_mm", "Module", "25.4 / DP of an inch one", low=0.3, high=12.0),
    Pitch("lead_mm", "Screw's lead", "Of the screw at its end; 0 where there is none", low=0.0, high=60.0),
    Length(
        "feed_mm",
        "Feed now",
        "Carriage travel a turn of the spindle as engaged; 0 where not measured",
        low=0.0,
        high=20.0,
    ),
    Words(
        "order",
        "Goes in",
        "What after what: long shaft; far bevel after long shaft",
        reader=order_from,
        writer=no_system(order_from),
        form="parts, each with what it goes in after",
        show=lambda value, system: _order_shown(value),
    ),
)
SCHEMA = Schema(FACTS, _build)
