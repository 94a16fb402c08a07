"""What is bought to go with a part: keys and pins by its features, beside what its family names."""

from __future__ import annotations

from trebb.core.items import Item
from trebb.core.parts.base import Feature, Part
from trebb.core.parts.turned import HOLDS
from trebb.core.threads import Band

PINNED = ("taper_hole", "cross_hole")


def items_of(part: Part) -> tuple[Item, ...]:
    """Everything that goes with a part and is bought ready, alike things counted together."""
    found: dict[Item, int] = {}
    for item in (*part.goes_with, *filter(None, (_of_feature(part, f) for f in part.features))):
        one = Item(item.what, item.sizes_mm, 1, item.note, item.facts)
        found[one] = found.get(one, 0) + item.count
    return tuple(Item(i.what, i.sizes_mm, count, i.note, i.facts) for i, count in found.items())


def _of_feature(part: Part, f: Feature) -> Item | None:
    if f.kind == "keyway":
        if f.words.startswith("Woodruff"):
            return Item(f"{f.words.replace('Woodruff', 'Woodruff key')}")
        row = next((r for r in part.rows if r.key == "key"), None)
        width = row.value if row is not None and isinstance(row.value, float) else f.width_mm
        return Item("Key", (width, f.length_mm), 1, row.note if row is not None else "")
    taper = next((r for r in part.rows if r.key == "taper_pin"), None)
    if f.kind == "taper_hole" and taper is not None:
        return Item(f"Taper pin {taper.value}", (), f.count, taper.note)
    if f.kind in PINNED and "pin" in f.words and f.words != HOLDS["shear_pin"]:  # that one is made
        row = next((r for r in part.rows if r.key == "pin"), None)
        size = row.value.middle_mm if row is not None and isinstance(row.value, Band) else f.width_mm
        return Item(f.words.capitalize(), (size,), f.count, "as long as what it goes through")
    return None
