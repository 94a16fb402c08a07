"""Linings glued to a gib or under a saddle."""

from __future__ import annotations

from trebb.core.alignment import liner_thickness_mm
from trebb.core.families.gib.parts_base import (
    CUT_MM,
    LEAST_LINING_MM,
    edge_view,
    felt_check,
    gaps_by_design,
    side_view,
    stand_check,
)
from trebb.core.families.gib.subject import Slide
from trebb.core.parts.base import (
    Check,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    number,
)
from trebb.core.threads import Band
from trebb.core.units import show_small


def liner_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Stock, what is left of it when finished."""
    s = inputs.about(Slide)
    return (
        PartField("stock", "Lining stock", s.stock_mm, low_mm=0.3, high_mm=6, is_free=True),
        PartField(
            "finished", "Lining when finished", max(LEAST_LINING_MM, s.stock_mm - 0.2), low_mm=0.2, high_mm=6
        ),
        PartField("bond", "Adhesive", 0.10, low_mm=0, high_mm=0.5, is_small=True, is_free=True),
    )


def gib_liner(inputs: PartInputs) -> Part:
    """Lining bonded to a gib: iron ground off first, then the lining brought to the slot's own taper."""
    f = facts_of(liner_fields(inputs), inputs.facts)
    stock, finished, bond = (number(f, k) for k in ("stock", "finished", "bond"))
    s, gaps = inputs.about(Slide), gaps_by_design(inputs)
    lacking = gaps.extra()
    off = finished + bond - min(lacking)
    wanted = [s.thin_mm + lacking[0], s.gib.thick_mm + lacking[1]]
    left = s.thin_mm - max(0.0, off)
    rows = _gib_liner_rows(inputs, off, wanted, left, stock, finished, bond, s)
    checks = (
        felt_check(inputs),
        stand_check(inputs),
        Check.of(
            left >= s.least_mm,
            "Enough iron stays at its thin end.",
            f"{inputs.size(left)} of iron stay at the thin end, under {inputs.size(s.least_mm)} it "
            "bends: thinner lining, or a new gib, would do.",
        ),
        Check.of(
            stock - finished > lacking[0] - min(lacking) and stock > finished,
            "The stock is thick enough to be brought to the slot.",
            "The stock is no thicker than it must end: it cannot be trued. Thicker stock would do.",
        ),
        Check.of(
            finished >= LEAST_LINING_MM,
            "The lining stays thick enough to hold.",
            f"Under {inputs.size(LEAST_LINING_MM)} it peels.",
        ),
    )
    return Part(
        "gib_liner",
        "Lining on the gib",
        "bearing plastic or bronze strip",
        f"strip {inputs.size(stock)} thick, {inputs.size(s.length_mm + 10)} long",
        (Section("gib", "plain", s.length_mm, s.gib.thick_mm),),
        None,
        rows,
        checks,
        (
            "Iron side roughened and washed with what the adhesive's sheet names.",
            "Oil grooves short of the edges by a pencil's breadth.",
        ),
        block_mm=(s.width_mm, wanted[1]),
        views=(
            side_view(s.length_mm, s.width_mm),
            edge_view(s.length_mm, wanted[0], wanted[1], "on its edge, lining on"),
        ),
    )


def _gib_liner_rows(
    inputs: PartInputs,
    off: float,
    wanted: list[float],
    left: float,
    stock: float,
    finished: float,
    bond: float,
    s: Slide,
) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Iron to grind off, all along", "size", max(0.0, off), "parallel, off its back", True),
        SizeRow("Iron left at the thin end", "size", left, "", True),
        SizeRow(
            "Thickness over the lining, thin end",
            "band",
            Band(wanted[0] - CUT_MM, wanted[0] + CUT_MM),
            "ground or scraped after curing",
            True,
            key="over.thin",
        ),
        SizeRow(
            "Thickness over the lining, thick end",
            "band",
            Band(wanted[1] - CUT_MM, wanted[1] + CUT_MM),
            "",
            True,
            key="over.thick",
        ),
        SizeRow("Lining stock", "size", stock, f"{inputs.size(stock - finished)} are cut away"),
        SizeRow("Adhesive", "small", bond),
        SizeRow("Length", "size", s.length_mm),
    )


def saddle_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Drop, what scraping will take, lining stock."""
    return (
        PartField(
            "drop",
            "Drop as measured",
            max(0.0, inputs.measured.get("drop", 0.0)),
            low_mm=0,
            high_mm=5,
            is_small=True,
        ),
        PartField(
            "scraped",
            "Scraping takes",
            max(0.0, inputs.measured.get("scraped", 0.05)),
            low_mm=0,
            high_mm=3,
            is_small=True,
            is_free=True,
        ),
        PartField("stock", "Lining stock", 1.6, low_mm=0.3, high_mm=10, is_free=True),
        PartField("bond", "Adhesive", 0.10, low_mm=0, high_mm=0.5, is_small=True, is_free=True),
        PartField("length", "Saddle's wing", 320.0, low_mm=50, high_mm=1500),
        PartField("width", "Width of the way", 40.0, low_mm=8, high_mm=200),
    )


def saddle_liner(inputs: PartInputs) -> Part:
    """Lining under a saddle: its height as it was, whatever wear and scraping took."""
    f = facts_of(saddle_fields(inputs), inputs.facts)
    drop, scraped, stock, bond, length, width = (
        number(f, k) for k in ("drop", "scraped", "stock", "bond", "length", "width")
    )
    missing = liner_thickness_mm(scraped, drop)
    lift = stock + bond
    mill = lift - missing
    rows = _saddle_liner_rows(inputs, missing, mill, drop, scraped, stock, bond, length, width)
    checks = (
        Check.of(
            mill >= 0,
            "The saddle gives room for the lining.",
            f"The lining is {inputs.size(-mill)} too thin for what is missing: "
            f"{inputs.size(missing - bond)} of stock would do.",
        ),
        Check.of(
            drop > 0, "The drop is measured.", "The drop is not measured: rack, lead screw and rod tell it."
        ),
        Check.of(
            stock >= LEAST_LINING_MM,
            "The lining is thick enough to hold.",
            f"Under {inputs.size(LEAST_LINING_MM)} it peels.",
        ),
    )
    return Part(
        "saddle_liner",
        "Saddle's lining",
        "bearing plastic sheet",
        f"two strips {inputs.size(length)} × {inputs.size(width)} × {inputs.size(stock)}",
        (Section("strip", "plain", length, stock),),
        None,
        rows,
        checks,
        (
            "Both wings in one setting on the mill; vee and flat alike.",
            "Height tried with the half nuts before the adhesive cures.",
        ),
        block_mm=(width, stock),
        views=(side_view(length, width),),
    )


def _saddle_liner_rows(
    inputs: PartInputs,
    missing: float,
    mill: float,
    drop: float,
    scraped: float,
    stock: float,
    bond: float,
    length: float,
    width: float,
) -> tuple[SizeRow, ...]:
    return (
        SizeRow(
            "Height missing",
            "size",
            missing,
            f"drop {show_small(drop, inputs.system)} + scraping {show_small(scraped, inputs.system)}",
            True,
        ),
        SizeRow(
            "Mill off the saddle's ways", "size", max(0.0, mill), "so that the lining has its thickness", True
        ),
        SizeRow(
            "Lining, finished",
            "band",
            Band(stock - 0.02, stock + 0.02),
            "scraped in after curing",
            key="lining",
        ),
        SizeRow("Adhesive", "small", bond),
        SizeRow("Strip, each wing", "size", length),
        SizeRow("Width", "size", width),
    )
