"""A part copied from an old one, without a survey: which it is."""

from __future__ import annotations

from msgspec import Struct

# What can be copied: part families, by what one calls them. Those that only a survey makes are not here.
COPIES: dict[str, str] = {
    "built": "turned part, feature by feature",
    "stepped_shaft": "stepped shaft",
    "plain_pin": "plain shaft or pin",
    "stub": "stub for a broken end",
    "bush": "bush",
    "journal_sleeve": "sleeve over a journal",
    "stack_collar": "collar or spacer",
    "stepped_spacer": "stepped spacer",
    "key": "key",
    "dog_screw": "screw with a dowel nose",
    "taper_pin": "taper pin",
    "straight_pin": "straight pin",
    "square_plug": "plug with a square",
    "new_gear": "gear",
    "gear_spacer": "spacer of a bevel",
    "cone_lining": "lining of a friction cone",
    "cone_hub": "hub of a friction cone",
    "jaw_plate": "jaw plate",
    "hole_plug": "plug for a hole",
    "index_plate": "index plate",
    "strap": "strap across a crack",
    "screw": "feed screw",
    "nut": "nut",
    "dial": "dial",
    "locking_collar": "pin-spanner collar",
    "pin_spanner": "pin spanner",
}


class Copied(Struct, frozen=True):
    """A part to copy, a key of `COPIES`."""

    what: str = "stepped_shaft"
