"""A cutter ground anew."""

from __future__ import annotations

from trebb.core.bores.tapers import shift_of_dia
from trebb.core.families.cutter.subject import Cutter
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    number,
    round_size,
)
from trebb.core.parts.turned import is_inch_made
from trebb.core.threads import Band
from trebb.core.units import show_small


def cutter_of(inputs: PartInputs) -> Cutter:
    """The cutter that is ground."""
    assert isinstance(inputs.subject, Cutter)
    return inputs.subject


def grind_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Where it comes to."""
    cutter = cutter_of(inputs)
    most = max([v for k, v in inputs.measured.items() if k.startswith("grind.")] + [0.0])
    return (
        PartField("dia", "Diameter now", cutter.dia_mm, low_mm=1, high_mm=150),
        PartField("off", "Off the highest flute", round(most, 4), low_mm=0, high_mm=2, is_small=True),
        PartField(
            "length",
            "Flutes, length",
            round_size(5 * cutter.dia_mm, is_inch_made(inputs)),
            low_mm=3,
            high_mm=600,
        ),
        PartField("land", "Margin left", 0.3, low_mm=0.05, high_mm=3, is_free=True),
    )


def cutter_grind(inputs: PartInputs) -> Part:
    """What each flute is ground by so that all cut alike, and the size it then makes."""
    cutter, f = cutter_of(inputs), facts_of(grind_fields(inputs), inputs.facts)
    off, dia, long = number(f, "off"), number(f, "dia"), number(f, "length")
    each = {k: inputs.measured.get(f"grind.{k}") for k in range(1, cutter.count + 1)}
    known = all(v is not None for v in each.values())
    rows = [
        SizeRow(
            f"Flute {k} at {cutter.angles_deg[k - 1]:g}°",
            "small" if v is not None else "text",
            v if v is not None else "not read",
            "off its back, at the edge",
            key=f"flute.{k}",
        )
        for k, v in each.items()
    ]
    # The flute that is lowest is only touched.
    left = dia - (2 * off if cutter.count % 2 == 0 else off)
    rows.append(
        SizeRow("Over the flutes then", "band", Band(left - 0.006, left), "all touched", True, key="dia")
    )
    if cutter.ratio:
        rows.append(
            SizeRow(
                "Goes deeper by", "size", shift_of_dia(cutter.ratio, 2 * off), f"on its 1 in {cutter.ratio:g}"
            )
        )
    return Part(
        "cutter_grind",
        "Cutter, ground again",
        "as it is",
        f"the cutter itself, {inputs.size(dia)}",
        (Section("flutes", "plain", long, left, Band(left - 0.006, left)),),
        None,
        tuple(rows),
        _grind_checks(inputs, known, left, cutter, off),
        ("Between its own centres, as it was made; a chuck puts its own runout in.",),
        construction="ground",
    )


def _grind_checks(
    inputs: PartInputs, known: bool, left: float, cutter: Cutter, off: float
) -> tuple[Check, ...]:
    return (
        Check.of(known, "Every flute is read.", "Its flutes are not all read: do that first, in its holder."),
        Check.of(
            off <= 0.3,
            f"{show_small(off, inputs.system)} off the highest leaves its margin.",
            f"{show_small(off, inputs.system)} is more than a margin has: backed off anew, or "
            f"another cutter.",
        ),
        Check(
            cutter.kind == "taper" or off <= 0.01,
            "It keeps its size."
            if off <= 0.01
            else "On a taper it only goes deeper."
            if cutter.kind == "taper"
            else f"It makes {inputs.size(left)} then, no longer its name: mark it.",
        ),
    )


CUTTER_FAMILY = PartFamily(
    "cutter_grind",
    "Cutter, ground again",
    grind_fields,
    cutter_grind,
    "cutter",
    "Its centres sound? Stone the burr off them first.",
)
