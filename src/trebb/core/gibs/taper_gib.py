"""A taper gib in its slot.

The gib tapers 1 : N on thickness. It is fed in from its thick end toward its
thin end: + advance tightens. Gaps are felt at fixed places of the slot, at both
ends of the gib, with the gib fully home where it now stands. Thickness normal
to either face differs from these by 1/(2N²), which is left out.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError

Z95 = 1.959963984540054

# A blade slides or does not to about this; two ends that differ by less say nothing.
FEEL_MM = 0.008
# Slot and gib were cut to one taper; decades of wear change it by a fiftieth at most. More is a gib that was
# not home.
MOST_TAPER_SHARE = 0.02


class TaperGib(Struct, frozen=True):
    """A gib as it is, mm: 1 : `ratio`, its length, its thickness at the thin end."""

    ratio: float
    length_mm: float
    thin_mm: float

    def __post_init__(self) -> None:
        if not self.ratio > 1:
            raise InputError(f"a taper of 1 : {self.ratio:g}", "taper gibs go from about 1 : 40 to 1 : 120")
        if not self.length_mm > 0 or not self.thin_mm > 0:
            raise InputError(
                f"a gib {self.length_mm:g} mm long and {self.thin_mm:g} mm thick",
                "both are more than nothing",
            )

    @property
    def thick_mm(self) -> float:
        """Thickness at the thick end."""
        return self.thin_mm + self.length_mm / self.ratio


class Gaps(Struct, frozen=True):
    """Gaps at the thin and thick ends, mm, and the running clearance wanted."""

    thin_mm: float
    thick_mm: float
    running_mm: float

    @property
    def least(self) -> float:
        """The smaller gap. In mm."""
        return min(self.thin_mm, self.thick_mm)

    @property
    def most(self) -> float:
        """The larger gap. In mm."""
        return max(self.thin_mm, self.thick_mm)

    @property
    def difference(self) -> float:
        """How much one end is looser than the other, whichever. In mm."""
        return self.most - self.least

    def taper_error(self, gib: TaperGib) -> float:
        """Slot taper less gib taper; + slot steeper. Without unit."""
        return (self.thick_mm - self.thin_mm) / gib.length_mm

    def slot_taper(self, gib: TaperGib) -> float:
        """Taper of the slot, mm a mm."""
        return 1 / gib.ratio + self.taper_error(gib)

    def extra(self) -> tuple[float, float]:
        """Thickness lacking at the thin and thick ends. In mm."""
        return self.thin_mm - self.running_mm, self.thick_mm - self.running_mm

    def advance_mm(self, gib: TaperGib) -> float:
        """How far the gib goes in until its tighter end runs; the other end keeps `difference` more."""
        return (self.least - self.running_mm) * gib.ratio

    def after_advance(self, gib: TaperGib, advance_mm: float) -> Gaps:
        """Gaps with the gib further in (+) or out (−)."""
        closed = advance_mm / gib.ratio
        return Gaps(self.thin_mm - closed, self.thick_mm - closed, self.running_mm)

    def at_stand_out(self, gib: TaperGib, gone_mm: float) -> Gaps:
        """The gaps that the same gib would leave standing further out by `gone_mm`: where a new one is to
        stand, the old one lacks what it has gone in by too.
        """
        return self.after_advance(gib, -gone_mm)

    def scrape(self) -> tuple[float, float]:
        """Metal to take at the thin and thick ends to match the slot: always at the end with the smaller
        gap. In mm.
        """
        return (self.difference, 0.0) if self.thin_mm < self.thick_mm else (0.0, self.difference)

    def shim_mm(self) -> float:
        """Shim behind the matched gib that leaves it where it now stands: once matched, the gap is the
        larger one everywhere.
        """
        return self.most - self.running_mm

    def advance_with_shim_mm(self, gib: TaperGib, shim_mm: float) -> float:
        """How far the matched gib goes in with a shim behind it; less than nothing: it stands back toward
        the thick end.
        """
        return (self.most - shim_mm - self.running_mm) / self.slot_taper(gib)

    def new_gib(self, gib: TaperGib, scrape_mm: float) -> NewGib:
        """A new gib for this slot, thicker by `scrape_mm` all along for scraping in. Raises InputError for a
        slot that narrows toward the thick end.
        """
        thin = gib.thin_mm + self.thin_mm - self.running_mm + scrape_mm
        thick = gib.thick_mm + self.thick_mm - self.running_mm + scrape_mm
        taper = (thick - thin) / gib.length_mm
        if not taper > 0:
            raise InputError(
                f"a slot that narrows by {taper:.5f} toward the thick end",
                "take the gaps again with the gib fully home",
            )
        return NewGib(thin, thick, taper, scrape_mm / taper)


class NewGib(Struct, frozen=True):
    """A new gib, mm: thickness at both ends with the allowance on, its taper, how far it stands out before
    scraping.
    """

    thin_mm: float
    thick_mm: float
    taper: float
    stand_out_mm: float

    @property
    def ratio(self) -> float:
        """1 : this."""
        return 1 / self.taper

    @property
    def angle_rad(self) -> float:
        """Angle between its two faces."""
        return math.atan(self.taper)


def not_home(gib: TaperGib, gaps: Gaps) -> str:
    """Why the gaps say that the gib was not home when they were taken, or "".

    A gib stopped early, by the screw at its thin end or a chip, leans in its slot: its
    thick end stays looser than any slot cut for it could leave. Slot and gib
    were cut to one taper; a difference beyond `MOST_TAPER_SHARE` of it is no
    wear, it is a gib that did not seat.
    """
    if gaps.thick_mm - gaps.thin_mm <= FEEL_MM + MOST_TAPER_SHARE * gib.length_mm / gib.ratio:
        return ""
    return (
        "the thick end is looser than the thin one by more than its taper can hold: the gib was not "
        "home. Back the screw at its thin end off, push the gib in by hand until it stops, and take both "
        "ends again"
    )


EVEN_MM = 0.020  # blades and indicator on one gap differ by the feel of a blade
STAND_SD_MM = 0.15  # of a stand-out, one against another: a caliper's slips on a rough end
CLEAR_SDS = 3.0  # a difference within this of its doubt is none


class Ends(Struct, frozen=True):
    """Gaps at both ends of one gib as read in one way, with the sd of each, mm."""

    thin_mm: float
    thick_mm: float
    sd_mm: float


class OffHome(Struct, frozen=True):
    """How far a gib stood out of home, mm along the slide, with the half of its 95 % interval; nothing where
    nothing shows it.
    """

    value_mm: float = 0.0
    half_mm: float = 0.0

    def __bool__(self) -> bool:
        return self.value_mm > 0


def backed_off_mm(
    gib: TaperGib, ran_mm: float | None, home_mm: float | None, felt: Ends | None, rock: Ends | None
) -> OffHome:
    """How far a gib stood out of home as it ran; nothing where no reading shows it beyond its own doubt.

    A gib backed off by s opens both its ends by s/N, evenly, which looks like
    wear. Two stand-outs show it directly. So do blades against the indicator:
    felt with the gib in another place than it ran, both ends differ by as much,
    one way.

    Parameters
    ----------
    ran_mm, home_mm : stand-out as it ran, and pushed home; + beyond the slide's end.
    felt, rock : gaps by blades, and by the slide's rock where the blades were used.
    """
    by_stand = ran_mm - home_mm if ran_mm is not None and home_mm is not None else 0.0
    doubt = Z95 * math.sqrt(2) * STAND_SD_MM
    if by_stand > doubt:
        return OffHome(by_stand, doubt)
    if felt is None or rock is None:
        return OffHome()
    thin, thick = rock.thin_mm - felt.thin_mm, rock.thick_mm - felt.thick_mm
    mean, sd = (thin + thick) / 2, math.hypot(felt.sd_mm, rock.sd_mm) / math.sqrt(2)
    is_even = abs(thin - thick) < max(2 * EVEN_MM, abs(mean), 2 * CLEAR_SDS * sd)
    if abs(mean) <= max(EVEN_MM, CLEAR_SDS * sd) or not is_even:
        return OffHome()
    return OffHome(abs(mean) * gib.ratio, Z95 * sd * gib.ratio)


def sine_bar_height_mm(taper: float, bar_mm: float) -> float:
    """Height of blocks under a sine bar on which one face of the gib rests while the other is cut: L·sin of
    the full angle. `taper` without unit: 1/60 of a gib 1 : 60.
    """
    return bar_mm * math.sin(math.atan(taper))
