"""The two-collar cut: taper, and which foot or how much yaw would explain it.

Front is the operator's side, near the headstock's end. Roll is + where the
carriage's top leans to the front (rear way high); yaw is + where the spindle's
axis points to the rear at its far end. A tool at height h that rolls by φ moves
φ·h to the front: the work's *diameter* grows by twice that.
"""

from __future__ import annotations

from msgspec import Struct

from trebb.core.errors import InputError


class TwoCollar(Struct, frozen=True):
    """Two lands turned at one setting, mm: diameters near and far, and the distance between them."""

    near_mm: float
    far_mm: float
    apart_mm: float

    def __post_init__(self) -> None:
        if not self.apart_mm > 0:
            raise InputError(
                f"lands {self.apart_mm:g} mm apart",
                "the far land lies further from the chuck than the near one",
            )

    @property
    def difference_mm(self) -> float:
        """Far less near, on diameter."""
        return self.far_mm - self.near_mm

    @property
    def taper(self) -> float:
        """On diameter per length; + larger at the tailstock's end. Without unit: mm on diameter in a mm."""
        return self.difference_mm / self.apart_mm

    def roll_mrad(self, tool_height_mm: float) -> float:
        """Roll of the bed between the lands that would explain it alone."""
        return 1000 * self.difference_mm / (2 * tool_height_mm)

    def yaw_mrad(self) -> float:
        """Yaw of the headstock that would explain it alone."""
        return 1000 * self.difference_mm / (2 * self.apart_mm)

    def front_shim_mm(self, feet: Feet) -> float:
        """Thickness under the front foot at the tailstock's end that takes the taper out; less than nothing:
        the rear foot.

        Twist is taken as linear along the bed, which answers fully. Heavy beds answer less: settle by trial.
        """
        return -self.difference_mm / feet.taper_per_shim(self.apart_mm)

    def jack_mm(self, lever_mm: float) -> float:
        """How far the headstock is moved toward the operator at `lever_mm` from its pivot."""
        return self.yaw_mrad() / 1000 * lever_mm

    def tailstock_mm(self, centres_mm: float) -> float:
        """For a piece between centres: how far the tailstock is moved, + toward the operator."""
        return self.difference_mm / 2 * centres_mm / self.apart_mm


class Feet(Struct, frozen=True):
    """Where the machine stands, mm: feet front to back and along the bed, and the tool's height above their
    plane.
    """

    across_mm: float
    along_mm: float
    tool_height_mm: float

    def twist_per_shim(self) -> float:
        """Roll (mrad) at the tailstock's feet for 1 mm under the front one there: the rear way then lies
        lower.
        """
        return -1000 / self.across_mm

    def taper_per_shim(self, apart_mm: float) -> float:
        """Change of far less near diameter for 1 mm under the tailstock's front foot, both in mm."""
        return 2 * self.tool_height_mm * self.twist_per_shim() / 1000 * apart_mm / self.along_mm


def taper_from_levels(near_mm_m: float, far_mm_m: float, tool_height_mm: float) -> float:
    """Far less near diameter that a level across the bed at both lands foretells, mm."""
    return 2 * tool_height_mm * (far_mm_m - near_mm_m) / 1000
