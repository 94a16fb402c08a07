"""A nut in a gear's hub: the worn thread is bored out, a bush pressed in, pinned, and threaded in place true
to the teeth, so that the gear stays.

Lengths mm. Interference of bronze in iron or steel as the shop presses it: 0.8 µm to a mm of bore, 20 µm at
least (as the pressed flanged nut has it).
"""

from __future__ import annotations

from collections.abc import Mapping

from trebb.core.families.screw_drive.sizes import is_inch
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.parts.base import Check, PartField, PartInputs, Section, SizeRow, number, round_size
from trebb.core.threads import Band

HUB = "hub"
LEAST_GRIP_MM, GRIP, GRIP_BAND_MM = 0.02, 0.0008, 0.01
HUB_WALL, LEAST_HUB_WALL_MM = 0.2, 2.5  # of the bore, left under the teeth or in the hub

Values = Mapping[str, str | float]


def hub_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The hub's outside or the teeth's root, and its bore once it is bored true."""
    major = inputs.about(ScrewDrive).thread.major_mm
    inch = is_inch(inputs.about(ScrewDrive))
    return (
        PartField("hub_root", "Hub's outside, or teeth's root", 0.0, high_mm=600),
        PartField(
            "hub_bore", "Hub's bore, as bored", round_size(1.5 * major, inch, up=True), low_mm=5, high_mm=500
        ),
        PartField("hub_read", "That bore is", "planned", {"planned": "planned", "measured": "measured"}),
    )


def hub_band(f: Values) -> Band:
    """Limits of the bush's outside."""
    hole = number(f, "hub_bore")
    low = hole + max(LEAST_GRIP_MM, GRIP * hole)
    return Band(low, low + GRIP_BAND_MM)


def hub_rows(inputs: PartInputs, f: Values) -> list[SizeRow]:
    """The bush's outside."""
    read = "as measured" if f["hub_read"] == "measured" else "as planned: bore it, measure it, then turn this"
    note = f"presses into {inputs.size(number(f, 'hub_bore'))} {read}; its bore closes by nearly as much"
    return [SizeRow("Outside", "band", hub_band(f), note, True, key="outside")]


def hub_checks(inputs: PartInputs, f: Values) -> list[Check]:
    """The wall left of the hub, and whether the bore was read."""
    size, hole, root = inputs.size, number(f, "hub_bore"), number(f, "hub_root")
    checks = []
    if not root:
        checks.append(
            Check(False, "The hub's outside is not measured: how much of it is left when bored is not known.")
        )
    else:
        left = (root - hole) / 2
        holds = left >= max(LEAST_HUB_WALL_MM, HUB_WALL * hole)
        checks.append(
            Check.of(
                holds,
                f"{size(left)} of the hub is left round the bush: it takes the press.",
                f"Only {size(max(0.0, left))} of the hub is left round the bush: pressed, it cracks or "
                "opens the teeth. Bond it instead, or make gear and nut anew.",
            )
        )
    if f["hub_read"] != "measured":
        checks.append(Check(False, "The hub is not bored yet: measure its bore before the bush is turned."))
    return checks


def hub_sections(f: Values) -> tuple[Section, ...]:
    """The bush alone: its gear is not made."""
    band = hub_band(f)
    return (Section("bush", "plain", number(f, "length"), band.middle_mm, band),)


HUB_NOTES = (
    "Bore the hub true to the teeth: indicate over pins between them.",
    "Press, then bond or pin it across the joint; thread it in place.",
    "A pin on the joint is drilled after bonding, clear of the oil way.",
)
