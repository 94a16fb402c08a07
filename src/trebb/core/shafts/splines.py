"""Straight-sided splines by the SAE proportions, and what cutting them asks for. Lengths in one unit."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError

# Splines → width over outside diameter; (splines, fit) → height and root over outside diameter.
_WIDTH = {4: 0.241, 6: 0.250, 10: 0.156, 16: 0.098}
_HEIGHT = {
    "A": {4: (0.075, 0.850), 6: (0.050, 0.900), 10: (0.045, 0.910), 16: (0.045, 0.910)},
    "B": {4: (0.125, 0.750), 6: (0.075, 0.850), 10: (0.070, 0.860), 16: (0.070, 0.860)},
    "C": {6: (0.100, 0.800), 10: (0.095, 0.810), 16: (0.095, 0.810)},
}
FITS = {"A": "permanent", "B": "slides without load", "C": "slides under load"}
COUNTS = tuple(_WIDTH)


class Splines(Struct, frozen=True):
    """A splined shaft and the milling of it: a *collar* between side mills is one spline, not one space."""

    count: int
    outside: float
    width: float
    root: float
    height: float

    @property
    def half_step(self) -> float:
        """Half the angle from one spline to the next, rad."""
        return math.pi / self.count

    @property
    def root_half(self) -> float:
        """Height over the axis of a flank's foot: √(d² - W²)/2. In mm."""
        return math.sqrt(self.root**2 - self.width**2) / 2

    @property
    def chord_at_root(self) -> float:
        """Widest flat that a cutter may have at the bottom of a space. In mm."""
        return self.root * math.sin(self.half_step - math.asin(self.width / self.root))

    @property
    def chord_at_top(self) -> float:
        """The space's width at the outside. In mm."""
        return self.outside * math.sin(self.half_step - math.asin(self.width / self.outside))

    @property
    def cutter_angle_deg(self) -> float:
        """Included angle of a form cutter: the flanks of a space are not parallel."""
        return 360 / self.count

    @property
    def depth(self) -> float:
        """Depth of the side mill from the crown: its corner on the root circle. In mm."""
        return self.outside / 2 - self.root_half

    @property
    def flank(self) -> float:
        """Height of the flank. In mm."""
        return (math.sqrt(self.outside**2 - self.width**2) - math.sqrt(self.root**2 - self.width**2)) / 2

    @property
    def least_mill(self) -> float:
        """Least width of a side mill: it reaches the middle of the space. In mm."""
        return self.root_half * math.tan(self.half_step) - self.width / 2

    @property
    def most_mill(self) -> float:
        """Greatest width of a side mill that clears the next spline; without end for four splines. In mm."""
        b = 2 * self.half_step
        if math.cos(b) < 1e-12:
            return math.inf
        return (self.root_half * math.sin(b) - self.width / 2) / math.cos(b) - self.width / 2

    @property
    def ridge(self) -> float:
        """Ridge left in the middle of a space, for the concave cutter. In mm."""
        return self.root_half / math.cos(self.half_step) - self.root / 2

    def turns(self, head_ratio: float) -> float:
        """Turns of the head's crank from one spline to the next. `head_ratio` turns of the crank for one of
        the spindle.
        """
        return head_ratio / self.count

    def torque(self, length: float, pressure: float) -> float:
        """Torque at a pressure on the flanks: p N h × mean radius × length, in the units given."""
        return pressure * self.count * self.height * (self.outside + self.root) / 4 * length


def splines(count: int, fit: str, outside: float) -> Splines:
    """Splines by the table. Raises InputError for a number or a fit that it has not. In mm."""
    if count not in _WIDTH:
        raise InputError(f"{count} splines", f"the table has {', '.join(map(str, _WIDTH))}")
    if fit not in _HEIGHT or count not in _HEIGHT[fit]:
        able = ", ".join(f for f, by in _HEIGHT.items() if count in by)
        raise InputError(f"fit {fit} of {count} splines", f"{count} splines have {able}")
    height, root = _HEIGHT[fit][count]
    return Splines(count, outside, _WIDTH[count] * outside, root * outside, height * outside)


def indexes(turns: float, circles: tuple[int, ...]) -> tuple[int, int] | None:
    """A hole circle of the plate and the holes to go beyond whole turns; None where none comes out even."""
    part = turns - math.floor(turns)
    for circle in circles:
        holes = part * circle
        if abs(holes - round(holes)) < 1e-9:
            return circle, round(holes)
    return None
