"""Heat treatment of a small steel part as steps of its route."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.heat_treatment import STEELS, growth_mm, hardening_steel, soak_minutes, temper_for
from trebb.core.making.bought import on_machine
from trebb.core.making.operations import Operation, Row
from trebb.core.parts.base import Check, Part, PartField
from trebb.core.safety import HARDENING, WHEEL
from trebb.core.threads import Band

# Small parts of steel that are hardened at times. A thread grows with its part, and what is finished in place
# cannot be finished hard: neither is here.
MAY_BE_HARDENED = frozenset(
    {
        "key",
        "straight_pin",
        "plain_pin",
        "fitted_pin",
        "journal_sleeve",
        "stack_collar",
        "gear_spacer",
    }
)
GRIND_MM = 0.15  # left a side for grinding after the fire, beside what it grows
LARGEST_MM, LONGEST_MM = 120.0, 300.0


def hardening_fields(key: str, facts: Mapping[str, str | float]) -> tuple[PartField, ...]:
    """Whether a part is hardened, in what steel and to what hardness; nothing of one that is not. Fields as
    stored: lengths in mm.
    """
    if key not in MAY_BE_HARDENED:
        return ()
    choice = PartField("harden", "Hardened", "no", {"no": "no", **{k: s.label for k, s in STEELS.items()}})
    if facts.get("harden", "no") == "no":
        return (choice,)
    return (choice, PartField("hrc", "To, HRC", 58.0, low_mm=20, high_mm=66, is_figure=True))


def is_hardened(key: str, facts: Mapping[str, str | float]) -> bool:
    """Whether one asked for it to be hardened. Fields as stored: lengths in mm."""
    return key in MAY_BE_HARDENED and facts.get("harden", "no") in STEELS


def hardening_check(part: Part, facts: Mapping[str, str | float]) -> Check:
    """What is to be said of a part that is hardened. Fields as stored: lengths in mm."""
    steel = hardening_steel(str(facts["harden"]))
    long = max(part.length_mm, part.largest_mm) if part.sections else LARGEST_MM
    if long > LONGEST_MM:
        return Check(False, f"{long:.0f} mm warps in the fire here: a hardening shop, or leave it soft.")
    colour, temper, hrc = temper_for(steel, float(facts.get("hrc", 58.0)))
    return Check(
        True,
        f"Cut it from {steel.label}; tempered {colour}, {temper} °C, about {hrc} HRC. It may grow "
        f"{growth_mm(steel, long):.2f} mm: its fitted sizes are ground after.",
    )


def hardened_route(
    part: Part, own: Sequence[Operation], facts: Mapping[str, str | float]
) -> tuple[Operation, ...]:
    """A part's own route with the fire in it: fitted sizes left for grinding, hardened, tempered, ground;
    what is done on the machine after that. Raises InputError for an unknown steel. Fields as stored:
    lengths in mm.
    """
    if not is_hardened(part.key, facts):
        raise InputError(f"{part.title}: “{facts.get('harden', 'no')}”", "choose a steel it is hardened in")
    steel = hardening_steel(str(facts["harden"]))
    across = min(part.largest_mm, LARGEST_MM) if part.sections else 10.0
    long = part.length_mm if part.sections else LARGEST_MM
    stays = on_machine(part)
    cut, ground, after = [], [], []
    for o in own:
        if o.key in stays:
            after.append(o)
            continue
        if o.target is None or o.kind != "size":
            cut.append(o)
            continue
        left = (2 if o.target.is_diameter else 1) * GRIND_MM + growth_mm(steel, o.target.band.middle_mm)
        shift = o.target.side * left
        band = Band(o.target.band.low_mm + shift, o.target.band.high_mm + shift)
        cut.append(
            replace(
                o,
                title=f"{o.title}, left for grinding",
                target=replace(o.target, what=f"{o.target.what}, before the fire", band=band),
            )
        )
        ground.append(
            replace(
                o,
                key=f"ground.{o.key}",
                title=f"Grind to size: {o.target.what}",
                detail="Hard now: light cuts, plenty of coolant, spark out; read it when it is cold.",
                hold="between centres, magnetic chuck, or a true mandrel",
                tool="wheel",
                minutes=20,
                caution=WHEEL,
            )
        )
    heat = [Operation(0, *row) for row in heat_rows(steel.key, float(facts.get("hrc", 58.0)), across, long)]
    rows = [*cut, *heat, *ground, *after]
    return tuple(replace(o, number=10 * (i + 1)) for i, o in enumerate(rows))


def heat_rows(key: str, wanted_hrc: float, thickness_mm: float, length_mm: float) -> list[Row]:
    """Stress relief before the finish, harden, temper, and what is tried: rows for a route."""
    steel = hardening_steel(key)
    low, high = steel.harden_c
    colour, temper_c, hrc = temper_for(steel, wanted_hrc)
    return [
        (
            "relieve",
            "Relieve it before the finish",
            "600 °C for an hour, cooled in the furnace: what roughing left would move in the fire.",
            "furnace",
            "none",
            90,
            HARDENING,
            "plain",
        ),
        (
            "harden",
            f"Harden: {low} to {high} °C, {steel.quench}",
            f"{steel.label.capitalize()}. {soak_minutes(thickness_mm):.0f} minutes once it has the heat all "
            f"through; edge first into the quench, moved up and down. It may grow "
            f"{growth_mm(steel, length_mm):.2f} mm. The steel's own data sheet goes before this.",
            "furnace and tongs",
            "none",
            40,
            HARDENING,
            "plain",
        ),
        (
            "temper",
            f"Temper at once: {colour}, {temper_c} °C",
            f"An hour, twice. It leaves about {hrc} HRC of {steel.full_hrc}: bright metal shows the colour.",
            "oven",
            "file to try",
            130,
            HARDENING,
            "plain",
        ),
        (
            "try_file",
            "Try it with a file",
            "It skates where it is hard; a soft spot is where it floated.",
            "vice",
            "old file",
            5,
            "",
            "plain",
        ),
    ]
