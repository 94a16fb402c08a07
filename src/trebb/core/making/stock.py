"""What the parts are cut from: blanks with their allowance, bars of the rack, cut lists, what to buy."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from trebb.core.bars import bar_size_mm
from trebb.core.errors import InputError
from trebb.core.metals import Material
from trebb.core.parts.base import Part
from trebb.core.planning.bars import CutList, fewest_bars, first_fit_decreasing, from_rack
from trebb.core.units import UnitSystem

# Practice: metal to turn off the skin, to face both ends, and what a chuck holds of the last piece.
SKIN_MM, FACING_MM = 1.5, 4.0
KERF_MM, WASTE_MM = 3.0, 25.0
MOST_REMNANTS = 12  # of one size that every set of is tried
MOST_EXACT = 14  # pieces that every way of cutting is tried for
TOO_THICK = 1.6  # times what is needed: more than that is a waste of the bar
SHAPES = {"round": "round", "flat": "flat"}


class Blank(Struct, frozen=True):
    """A piece to be cut for a part: round by its diameter, flat by height and width; mm."""

    name: str
    part: str
    metal: str
    shape: str
    size_mm: float
    length_mm: float
    width_mm: float = 0.0
    spare: bool = False


class Bar(Struct, frozen=True):
    """A bar or offcut of the rack; `key` tells it from others."""

    key: str
    metal: str
    shape: str
    size_mm: float
    length_mm: float
    width_mm: float = 0.0
    note: str = ""

    def does(self, blank: Blank) -> bool:
        """Whether a blank can be cut from it, by metal, shape and section."""
        if (self.metal, self.shape) != (blank.metal, blank.shape):
            return False
        if not blank.size_mm <= self.size_mm <= max(TOO_THICK * blank.size_mm, blank.size_mm + 6):
            return False
        return self.shape == "round" or blank.width_mm <= self.width_mm


def blank_of(name: str, key: str, part: Part) -> Blank | None:
    """The blank of a part made from bar; None for what is cast, or of sheet or plate."""
    if part.is_cast or not isinstance(part.metal, Material):
        return None
    length = part.length_mm + FACING_MM
    if part.block_mm is not None:
        width, height = part.block_mm
        low, high = sorted((width, height))
        return Blank(name, key, part.metal.key, "flat", low + 2 * SKIN_MM, length, high + 2 * SKIN_MM)
    if not part.sections:
        return None
    return Blank(name, key, part.metal.key, "round", part.largest_mm + SKIN_MM, length)


class Cut(Struct, frozen=True):
    """Blanks cut from bars of one section: which blanks, from which bars, what is left of each."""

    metal: str
    shape: str
    size_mm: float
    width_mm: float
    blanks: tuple[Blank, ...]
    bars: tuple[Bar, ...]  # of the rack; none where it is to be bought
    cuts: CutList
    buy_mm: float = 0.0  # length of a bar to buy

    @property
    def to_buy(self) -> int:
        """How many bars to buy."""
        return len(self.cuts.bars) if not self.bars else 0


class Cutting(Struct, frozen=True):
    """All cuts, from the rack and bought, and blanks that no bar gives."""

    cuts: tuple[Cut, ...]
    refused: tuple[str, ...]


def cutting(
    blanks: Sequence[Blank],
    rack: Sequence[Bar],
    *,
    kerf_mm: float = KERF_MM,
    waste_mm: float = WASTE_MM,
    buy_mm: float = 1000.0,
    system: UnitSystem = UnitSystem.METRIC,
) -> Cutting:
    """What to cut from which bar of the rack, and what to buy: of each section the remnants of least summed
    length, every way tried where a shop's few allow it.
    """
    left = sorted(blanks, key=lambda b: (-b.size_mm, -b.length_mm))
    found: list[Cut] = []
    sections = sorted({(r.metal, r.shape, r.size_mm, r.width_mm) for r in rack}, key=lambda s: s[2:])
    for metal, shape, size, width in sections:
        bars = [r for r in rack if (r.metal, r.shape, r.size_mm, r.width_mm) == (metal, shape, size, width)]
        able = [b for b in left if bars[0].does(b)]
        cut = _from_rack(able, bars, kerf_mm, waste_mm)
        if cut is not None:
            found.append(cut)
            for b in cut.blanks:
                left.remove(b)
    refused: list[str] = []
    by_section: dict[tuple[str, str, float, float], list[Blank]] = {}
    for b in left:
        size = bar_size_mm(b.size_mm, inch=system is UnitSystem.INCH) if b.shape == "round" else b.size_mm
        by_section.setdefault((b.metal, b.shape, size, b.width_mm), []).append(b)
    for (metal, shape, size, width), ones in by_section.items():
        fits = [b for b in ones if b.length_mm + kerf_mm <= buy_mm - waste_mm]
        for b in ones:
            if b not in fits:
                refused.append(
                    f"{b.name}: {b.length_mm:.0f} mm from a bar of {buy_mm:.0f} mm: with kerf and what the "
                    f"chuck holds it gives {buy_mm - waste_mm - kerf_mm:.0f} mm; a longer bar would do"
                )
        if fits:
            lengths = [b.length_mm for b in fits]
            way = fewest_bars if len(lengths) <= MOST_EXACT else first_fit_decreasing
            cuts = way(lengths, buy_mm, kerf_mm, waste_mm)
            found.append(Cut(metal, shape, size, width, tuple(fits), (), cuts, buy_mm))
    return Cutting(tuple(found), tuple(refused))


def _from_rack(able: list[Blank], bars: list[Bar], kerf: float, waste: float) -> Cut | None:
    """As many of the blanks as the bars of one section give, the longest first given up where not all do."""
    used = sorted(bars, key=lambda r: r.length_mm)[-MOST_REMNANTS:]
    lengths = [r.length_mm for r in used]
    while able:
        cuts = from_rack([b.length_mm for b in able], lengths, kerf, waste)
        if cuts is not None:
            chosen: list[Bar] = []
            for length in cuts.lengths:
                chosen.append(next(r for r in used if r.length_mm == length and r not in chosen))
            one = used[0]
            return Cut(one.metal, one.shape, one.size_mm, one.width_mm, tuple(able), tuple(chosen), cuts)
        able = sorted(able, key=lambda b: -b.length_mm)[1:]
    return None


def after_cutting(
    rack: Sequence[Bar], cut: Cut, *, waste_mm: float = WASTE_MM, least_mm: float = 30.0
) -> list[Bar]:
    """The rack once a cut is made: of each bar what is left, the chuck's grip with it; shorter than `least`
    is scrap. Raises InputError where a bar is not there any more.
    """
    left = {r.key: r for r in rack}
    for bar, length, rest in zip(cut.bars, cut.cuts.lengths, cut.cuts.left, strict=True):
        if bar.key not in left or abs(left[bar.key].length_mm - bar.length_mm) > 1e-6:
            raise InputError(f"the bar of {bar.length_mm:g} mm", "it is not in the rack any more: look again")
        # What was held is left as well: only pieces and kerfs are gone.
        kept = rest + waste_mm if length else 0.0
        if kept >= least_mm:
            one = left[bar.key]
            left[bar.key] = Bar(one.key, one.metal, one.shape, one.size_mm, kept, one.width_mm, one.note)
        else:
            del left[bar.key]
    return list(left.values())
