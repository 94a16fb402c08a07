"""What a casting's repair wants: a mandrel that holds its bore, a strap across, stitching screws."""

from __future__ import annotations

from trebb.core.errors import InputError
from trebb.core.families.casting.findings import preheat_c, stitches
from trebb.core.families.casting.subject import Casting
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Feature,
    Measured,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    View,
    facts_of,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.turned import THREAD_CHOICES, bar_for, bar_words, is_inch_made, usual_thread
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED, Fastener
from trebb.core.units import show_small

COLD_C = 20.0


def casting_of(inputs: PartInputs) -> Casting:
    """The casting a part is for."""
    assert isinstance(inputs.subject, Casting)
    return inputs.subject


def mandrel_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Bore, length, temperature."""
    casting, inch = casting_of(inputs), is_inch_made(inputs)
    bore = inputs.measured.get("least", casting.bore_mm or 20.0)
    return (
        material_field("carbon"),
        PartField("bore", "Bore, at its smallest", round(bore, 3), low_mm=2, high_mm=300),
        PartField("length", "Bore's length", casting.bore_length_mm, low_mm=2, high_mm=500),
        PartField("stands", "Stands out", round_size(15.0, inch), low_mm=3, high_mm=200, is_free=True),
        PartField(
            "heat", "Warmed to, °C", float(preheat_c(casting)[1]), low_mm=50, high_mm=900, is_figure=True
        ),
    )


def bore_mandrel(inputs: PartInputs) -> Part:
    """A mandrel that keeps a bore round in the fire and comes out again when it is cold.

    Steel grows a little more than grey iron: what it grows more is taken off, with a slide fit.
    """
    casting, f = casting_of(inputs), facts_of(mandrel_fields(inputs), inputs.facts)
    bore, length, out = number(f, "bore"), number(f, "length"), number(f, "stands")
    metal = material(str(f["material"]))
    rise = number(f, "heat") - COLD_C
    iron = material("iron").expansion_per_c
    grows = max(0.0, (metal.expansion_per_c - iron) * rise * bore)
    slide = 0.0005 * bore + 0.005
    band = Band(bore - grows - slide - 0.006, bore - grows - slide)
    total = length + 2 * out
    measured = "least" in inputs.measured or "bore" in inputs.facts
    bar, passes = bar_for(inputs, bore, total)
    return Part(
        "bore_mandrel",
        "Mandrel to hold a bore",
        metal,
        bar,
        (Section("mandrel", "plain", total, band.middle_mm, band),),
        None,
        (
            SizeRow(
                "Mandrel", "band", band, "slides in cold, rubbed with graphite or chalk", True, key="mandrel"
            ),
            SizeRow("Grows more than the bore", "small", grows, f"at {number(f, 'heat'):.0f} °C"),
            SizeRow("Stands out", "size", out, "on either side, to knock it out by"),
        ),
        (
            Check.of(
                measured,
                "The bore is the one measured.",
                "The bore is not measured: gauge it in four directions before anything is heated.",
            ),
            Check.of(
                casting.bore_mm > 0,
                "There is a bore beside the crack.",
                "No bore is stated beside the crack: state it, or leave the mandrel out.",
                ("bore_mm",),
            ),
            passes,
        ),
        (
            "Graphite or a coat of chalk, or the bronze wets it and it stays for good.",
            "Where a mandrel cannot go in, copper wire wound tight does it.",
        ),
        features=(Feature("chamfer", 0.0, 1.0), Feature("chamfer", total, 1.0)),
    )


def strap_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """A strap by the load across, its screws."""
    casting, inch = casting_of(inputs), is_inch_made(inputs)
    crack = inputs.measured.get("crack", casting.width_mm)
    return (
        PartField(
            "length",
            "Along",
            round_size(max(40.0, 4 * casting.section_mm + 0.5 * crack), inch, up=True),
            low_mm=10,
            high_mm=800,
        ),
        PartField(
            "width", "Across", round_size(max(20.0, 0.8 * casting.width_mm), inch), low_mm=6, high_mm=400
        ),
        PartField(
            "thickness",
            "Thickness",
            round_size(max(4.0, 0.8 * casting.section_mm), inch),
            low_mm=1.5,
            high_mm=60,
        ),
        PartField("screw", "Screws", usual_thread(0.8 * casting.section_mm, inch=inch), THREAD_CHOICES),
        PartField("count", "Screws on each side", 2.0, low_mm=1, high_mm=8, is_figure=True),
    )


def strap(inputs: PartInputs) -> Part:
    """A plate across a crack. Raises InputError where its screws find no room."""
    casting, f = casting_of(inputs), facts_of(strap_fields(inputs), inputs.facts)
    long, wide, thick = number(f, "length"), number(f, "width"), number(f, "thickness")
    count = int(number(f, "count"))
    screw = LISTED.get(str(f["screw"]))
    if screw is None:
        raise InputError("no screws", "choose screws that the section can carry")
    hole = screw.major_mm + 0.4
    if count * 2.2 * hole > wide:
        raise InputError(
            f"{count} screws of {screw.name} across {inputs.size(wide)}", "fewer, smaller, or a wider strap"
        )
    xs = (long * 0.18, long * 0.82)
    holes = tuple((x, wide * (i + 0.5) / count, hole) for x in xs for i in range(count))
    # In bending of the section: a strap as strong as what it crosses has its width times thickness of iron's.
    bears = 2 / 3 * 250.0 * wide * thick / 4
    engaged = casting.section_mm / screw.major_mm
    checks = _strap_checks(screw, engaged)
    if casting.load_n:
        ok = bears >= casting.load_n
        checks.append(
            Check.of(
                ok,
                f"It bears {bears / 1000:.1f} kN of {casting.load_n / 1000:.1f}.",
                f"It bears {bears / 1000:.1f} kN of {casting.load_n / 1000:.1f}: thicker or wider.",
            )
        )
    return Part(
        "strap",
        "Strap across a crack",
        "flat steel",
        f"flat {inputs.size(wide)} × {inputs.size(thick)}, {inputs.size(long + 5)} long",
        (),
        None,
        _strap_rows(count, screw, long, wide, thick),
        tuple(checks),
        (
            "Its seat filed or milled flat: blue it, it must bear all over.",
            "Not through the old repair, and not through the stops.",
        ),
        construction="strap",
        views=(
            View(
                "from above",
                (((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)),),
                lines=(((long / 2, 0.0), (long / 2, wide)),),
                holes=holes,
                measured=(
                    Measured((0, 0), (long, 0), -2.2),
                    Measured((long, 0), (long, wide), 2.4, True),
                    Measured((xs[0], wide), (xs[1], wide), 2.4),
                ),
            ),
        ),
    )


def _strap_checks(screw: Fastener, engaged: float) -> list[Check]:
    return [
        Check.of(
            engaged >= 1.0,
            f"{screw.name} holds {engaged:.1f} diameters deep in the section.",
            f"{screw.name} finds only {engaged:.1f} diameters of section: smaller screws, or bolts "
            f"right through.",
        ),
    ]


def _strap_rows(count: int, screw: Fastener, long: float, wide: float, thick: float) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Length", "size", long, "the crack under its middle", True, key="length"),
        SizeRow("Width", "size", wide, "", True, key="width"),
        SizeRow("Thickness", "size", thick, "", True, key="thickness"),
        SizeRow(
            "Screws",
            "text",
            f"{2 * count} × {screw.name}",
            "spotted through, one by one",
            True,
            key="screws",
        ),
    )


def stitch_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Crack, screw and its metal."""
    casting, inch = casting_of(inputs), is_inch_made(inputs)
    return (
        material_field("free_cutting"),
        PartField("crack", "Crack", inputs.measured.get("crack", casting.width_mm), low_mm=2, high_mm=2000),
        PartField(
            "screw", "Screws", usual_thread(max(4.1, 0.7 * casting.section_mm), inch=inch), THREAD_CHOICES
        ),
    )


def stitch_screw(inputs: PartInputs) -> Part:
    """Screws that overlap along a crack: one is drawn, so many are made. Raises InputError without a
    thread.
    """
    casting, f = casting_of(inputs), facts_of(stitch_fields(inputs), inputs.facts)
    screw = LISTED.get(str(f["screw"]))
    if screw is None:
        raise InputError("no screws", "choose a thread")
    length = number(f, "crack")
    many = stitches(length, screw.major_mm, through=casting.is_through)
    long = casting.section_mm + 12
    deep = casting.section_mm >= screw.major_mm
    return Part(
        "stitch_screw",
        "Stitching screws",
        material(str(f["material"])),
        bar_words(inputs, screw.major_mm + 0.5, many * (long + 4)) + ", or threaded rod",
        (Section("screw", "thread", long, screw.major_mm, Band(screw.major_mm - 0.15, screw.major_mm)),),
        None,
        _stitch_rows(screw, many),
        _stitch_checks(inputs, screw, deep, casting),
        (
            "Sealer on every screw where oil or water stands behind.",
            f"Leave {show_small(0.5, inputs.system)} to peen.",
        ),
        construction="stitch",
    )


def _stitch_checks(inputs: PartInputs, screw: Fastener, deep: bool, casting: Casting) -> tuple[Check, ...]:
    return (
        Check.of(
            "crack" in inputs.measured or "crack" in inputs.facts,
            "The crack is the one measured.",
            "The crack's length is not read: chalk it first.",
        ),
        Check.of(
            deep,
            "The section is deeper than a screw is thick.",
            f"A section of {inputs.size(casting.section_mm)} is thinner than {screw.name}: smaller screws.",
        ),
        Check.of(
            casting.ends_found or casting.is_through,
            "Both ends are found.",
            "Its ends are not found: the last screw goes past them.",
        ),
    )


def _stitch_rows(screw: Fastener, many: int) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Thread", "text", screw.name, "", True, key="thread"),
        SizeRow(
            "How many",
            "text",
            f"{many}",
            "each a third into its neighbour, one past either end",
            True,
            key="many",
        ),
        SizeRow(
            "From middle to middle",
            "size",
            2 * screw.major_mm / 3,
            "every second first, then between",
            True,
            key="pitch",
        ),
        SizeRow("Drill", "size", screw.major_mm - screw.pitch_mm, "for its tap", key="drill"),
        SizeRow("Stands over", "small", 0.5, "sawn off, peened, filed flush"),
    )


FAMILIES = (
    PartFamily(
        "bore_mandrel",
        "Mandrel",
        mandrel_fields,
        bore_mandrel,
        "casting",
        "Out while it is still warm to the hand, not hot and not cold.",
    ),
    PartFamily(
        "strap",
        "Strap",
        strap_fields,
        strap,
        "casting",
        "Blue its seat before it is drilled.",
        made_on_it=True,
    ),
    PartFamily(
        "stitch_screw",
        "Stitching screws",
        stitch_fields,
        stitch_screw,
        "casting",
        "The ends of the crack first.",
        made_on_it=True,
    ),
)
