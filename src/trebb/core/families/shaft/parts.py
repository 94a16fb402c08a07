"""Parts of a shaft: the shaft made new, a stub, sleeve, bush, key, pins, plug, collar."""

from __future__ import annotations

from trebb.core.families.shaft.keys_and_pins import (
    dog_fields,
    dog_screw,
    key_fields,
    key_part,
    straight_pin,
    straight_pin_fields,
    taper_pin,
    taper_pin_fields,
)
from trebb.core.families.shaft.new_shaft import shaft_fields, stepped_shaft
from trebb.core.families.shaft.plug_and_collar import collar_fields, plug_fields, square_plug, stack_collar
from trebb.core.families.shaft.seats import shaft_bush, shaft_bush_fields
from trebb.core.families.shaft.shear_pins import shear_pin_fields, shear_pin_part
from trebb.core.families.shaft.stub_and_sleeve import journal_sleeve, sleeve_fields, stub, stub_fields
from trebb.core.parts.base import PartFamily

FAMILIES = (
    PartFamily(
        "stepped_shaft",
        "Stepped shaft",
        shaft_fields,
        stepped_shaft,
        "shaft",
        "Index the wheel's teeth to its mark before it is pinned: where the mark must stand when the "
        "pin goes in.",
    ),
    PartFamily(
        "stub",
        "Stub",
        stub_fields,
        stub,
        "shaft",
        "Measure the hole before the stub is turned: it comes out larger than its cutter.",
        made_on_it=True,
    ),
    PartFamily(
        "journal_sleeve",
        "Sleeve",
        sleeve_fields,
        journal_sleeve,
        "shaft",
        "Grind after pressing, between the old centres.",
        made_on_it=True,
    ),
    PartFamily(
        "shaft_bush",
        "Bush",
        shaft_bush_fields,
        shaft_bush,
        "shaft",
        "Bored before pressing for the size after: it closes.",
        made_on_it=True,
    ),
    PartFamily(
        "dog_screw",
        "Screw with a nose",
        dog_fields,
        dog_screw,
        "shaft",
        "The slot in its head before it is parted off.",
    ),
    PartFamily("key", "Key", key_fields, key_part, "shaft", "Both slots are measured: they may differ."),
    PartFamily(
        "taper_pin",
        "Taper pin",
        taper_pin_fields,
        taper_pin,
        "shaft",
        "The large side is where it is driven out from.",
        made_on_it=True,
    ),
    PartFamily(
        "straight_pin",
        "Pin",
        straight_pin_fields,
        straight_pin,
        "shaft",
        "Bonded before it is drilled; indexed before it is bonded.",
        made_on_it=True,
    ),
    PartFamily(
        "shear_pin",
        "Shear pin",
        shear_pin_fields,
        shear_pin_part,
        "shaft",
        "Plain end first, until the knurl is buried; a spare taped inside the cover.",
    ),
    PartFamily(
        "square_plug",
        "Plug",
        plug_fields,
        square_plug,
        "shaft",
        "The broach is bought or borrowed first.",
        made_on_it=True,
    ),
    PartFamily(
        "stack_collar", "Collar", collar_fields, stack_collar, "shaft", "Each face read several times over."
    ),
)
