"""Facts of a cutter."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.errors import InputError
from trebb.core.facts import Choice, Fact, Length, Number, Schema, Words, no_system
from trebb.core.families.cutter.subject import FILES, KINDS, Cutter
from trebb.core.units import parse_angles


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Cutter:
    return Cutter(**values)


MOST_FLUTES = 24


def flutes_from(text: str) -> tuple[float, ...]:
    """Angles of flutes, degrees: a count, evenly spaced, or a list. Raises InputError otherwise."""
    numbers = parse_angles(text)
    if len(numbers) == 1 and numbers[0] == int(numbers[0]) and 2 <= numbers[0] <= MOST_FLUTES:
        return tuple(360.0 * i / numbers[0] for i in range(int(numbers[0])))
    angles = tuple(sorted({round(n % 360, 2) for n in numbers}))
    if not 2 <= len(angles) <= MOST_FLUTES:
        raise InputError(f"“{text.strip()[:60]}”", f"from 2 to {MOST_FLUTES} flutes, each at its own angle")
    return angles


FACTS: tuple[Fact, ...] = (
    Choice("kind", "It is a", choices=KINDS),
    Words(
        "angles_deg",
        "Flutes",
        "How many, or their angles where they stand unequally: 0 58 121 180 238 301",
        reader=flutes_from,
        writer=no_system(flutes_from),
        form="angles or their count",
        show=lambda value, system: "  ".join(f"{a:g}" for a in value or ()),
    ),
    Length("dia_mm", "Diameter", low=1.0, high=150.0),
    Number("ratio", "Taper 1 in", "On diameter; 0 of a straight one", low=0, high=200),
    Length("feed_mm", "Feed a tooth", low=0.005, high=1.0),
    Choice("hole_file", "A file in its hole", "What a file did in the hole it is for", choices=FILES),
)
SCHEMA = Schema(FACTS, _build)
