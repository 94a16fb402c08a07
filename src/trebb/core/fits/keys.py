"""Keys and their seats: square by ASME B17.1, feather by DIN 6885-1, Woodruff by ASME B17.2 and ISO
3912. Lengths in the standard's own unit.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import INCH_MM

# Shaft up to and including, key width, in (over 5/16).
_SQUARE_IN = (
    (7 / 16, 3 / 32), (9 / 16, 1 / 8), (7 / 8, 3 / 16), (1.25, 1 / 4), (1.375, 5 / 16), (1.75, 3 / 8),
    (2.25, 1 / 2), (2.75, 5 / 8), (3.25, 3 / 4),
)  # fmt: skip
_SQUARE_OVER_IN = 5 / 16
# Shaft up to and including, b, h, t1, t2, mm (over 6).
_DIN = (
    (8, 2, 2, 1.2, 1.0), (10, 3, 3, 1.8, 1.4), (12, 4, 4, 2.5, 1.8), (17, 5, 5, 3.0, 2.3),
    (22, 6, 6, 3.5, 2.8), (30, 8, 7, 4.0, 3.3), (38, 10, 8, 5.0, 3.3), (44, 12, 8, 5.0, 3.3),
    (50, 14, 9, 5.5, 3.8), (58, 16, 10, 6.0, 4.3), (65, 18, 11, 7.0, 4.4), (75, 20, 12, 7.5, 4.9),
)  # fmt: skip
_DIN_OVER_MM = 6.0
HUB_ALLOWANCE_IN = 0.005


class KeySeat(Struct, frozen=True):
    """A key and its seats, mm: `over_shaft_mm` from the seat's bottom to the shaft's other side,
    `over_hub_mm` from the hub's slot to the bore's other side; `in_hub_mm` the height that bears in the hub.
    """

    standard: str
    width_mm: float
    height_mm: float
    over_shaft_mm: float
    over_hub_mm: float
    in_hub_mm: float

    def depth_mm(self, shaft_mm: float) -> float:
        """Depth from the shaft's crown."""
        return shaft_mm - self.over_shaft_mm


def square_key_width_in(shaft_in: float) -> float:
    """Width of a square key by ASME B17.1, in. Raises InputError off the table."""
    if shaft_in <= _SQUARE_OVER_IN:
        raise InputError(
            f"a shaft of {shaft_in:g} in", "square keys begin over 5/16 in: pin it, or a Woodruff key"
        )
    for most, width in _SQUARE_IN:
        if shaft_in <= most:
            return width
    raise InputError(f"a shaft of {shaft_in:g} in", "the table ends at 3 1/4 in")


def chord_height(shaft: float, width: float) -> float:
    """Height of the arc over a keyseat's width: Y = (D - √(D² - W²))/2. All in one unit of length."""
    return (shaft - math.sqrt(shaft**2 - width**2)) / 2


def seat_to_far_side(shaft: float, width: float, height: float) -> float:
    """Keyseat's bottom to the shaft's other side: S = (D - H + √(D² - W²))/2. All in one unit of length."""
    return (shaft - height + math.sqrt(shaft**2 - width**2)) / 2


def hub_to_far_side_in(shaft_in: float, width_in: float, height_in: float) -> float:
    """Hub's slot to the bore's other side, in: T = (D + H + √(D² - W²))/2 + 0.005."""
    return (shaft_in + height_in + math.sqrt(shaft_in**2 - width_in**2)) / 2 + HUB_ALLOWANCE_IN


def din_key(shaft_mm: float) -> tuple[float, float, float, float]:
    """b, h, t1 and t2 by DIN 6885-1, mm, t1 from the shaft's crown. Raises InputError off the table."""
    if shaft_mm <= _DIN_OVER_MM:
        raise InputError(f"a shaft of {shaft_mm:g} mm", "feather keys begin over 6 mm: pin it")
    for most, *found in _DIN:
        if shaft_mm <= most:
            b, h, t1, t2 = found
            return b, h, t1, t2
    raise InputError(f"a shaft of {shaft_mm:g} mm", "the table ends at 75 mm")


def key_seat(shaft_mm: float, *, inch: bool) -> KeySeat:
    """The usual key of a shaft: square in inches, feather in millimetres."""
    if inch:
        d = shaft_mm / INCH_MM
        w = square_key_width_in(d)
        return KeySeat(
            "ASME B17.1 square", w * INCH_MM, w * INCH_MM, seat_to_far_side(d, w, w) * INCH_MM,
            hub_to_far_side_in(d, w, w) * INCH_MM, w * INCH_MM / 2,
        )  # fmt: skip
    b, h, t1, t2 = din_key(shaft_mm)
    return KeySeat("DIN 6885-1", b, h, shaft_mm - t1, shaft_mm + t2, h - t1)


def seat_for_width(shaft_mm: float, width_mm: float) -> KeySeat:
    """A square key of any width, for seats that were recut: half of it stands in the shaft, measured at its
    side. Raises InputError for a key that does not fit the shaft.
    """
    if not 0 < width_mm < 0.7 * shaft_mm:
        raise InputError(
            f"a key {width_mm:g} mm wide",
            f"a shaft of {shaft_mm:g} mm takes one under {0.7 * shaft_mm:.3g} mm",
        )
    over = seat_to_far_side(shaft_mm, width_mm, width_mm)
    hub = (shaft_mm + width_mm + math.sqrt(shaft_mm**2 - width_mm**2)) / 2 + HUB_ALLOWANCE_IN * INCH_MM
    return KeySeat("square", width_mm, width_mm, over, hub, width_mm / 2)


# Woodruff keys. In inches a name says it: the last two figures are eighths of the cutter's diameter, those
# before them thirty-seconds of the width. Shaft up to and including, name (the usual one of its range).
_WOODRUFF_IN = (
    (0.375, 204), (0.5, 305), (0.75, 406), (0.9375, 507), (1.1875, 608), (1.4375, 809), (1.75, 1010),
)  # fmt: skip
# Cutter's middle to the key's flat, in, by the cutter's diameter (B17.2): up to and including.
_WOODRUFF_FLAT_IN = ((0.5, 3 / 64), (1.0, 1 / 16), (1.25, 5 / 64), (1.375, 3 / 32), (1.5, 7 / 64))
# Shaft up to and including, width, height, cutter, depth in the shaft, depth in the hub, mm (ISO 3912).
_WOODRUFF_MM = (
    (6, 2, 2.6, 7, 1.8, 1.0), (8, 2.5, 3.7, 10, 2.7, 1.2), (10, 3, 5, 13, 3.8, 1.4), (12, 3, 6.5, 16, 5.3,
    1.4),
    (14, 4, 6.5, 16, 5.0, 1.8), (16, 4, 7.5, 19, 6.0, 1.8), (18, 5, 6.5, 16, 4.5, 2.3), (20, 5, 7.5, 19, 5.5,
    2.3),
    (22, 5, 9, 22, 7.0, 2.3), (25, 6, 9, 22, 6.5, 2.8), (28, 6, 10, 25, 7.5, 2.8), (32, 8, 11, 28, 8.0, 3.3),
    (38, 10, 13, 32, 10.0, 3.3),
)  # fmt: skip


class Woodruff(Struct, frozen=True):
    """A Woodruff key and its seat, mm: `depth_mm` of the seat from the shaft's crown at its middle,
    `in_hub_mm` the height that bears in the hub.
    """

    name: str
    width_mm: float
    height_mm: float
    cutter_mm: float
    depth_mm: float
    in_hub_mm: float

    @property
    def length_mm(self) -> float:
        """Of the seat at the crown: the cutter's chord there."""
        r = self.cutter_mm / 2
        return 2 * math.sqrt(max(0.0, r**2 - max(0.0, r - self.depth_mm) ** 2))


def woodruff(shaft_mm: float, *, inch: bool) -> Woodruff:
    """The usual Woodruff key of a shaft. In inches half its width stands out of the seat's side. Raises
    InputError off the table.
    """
    if inch:
        d = shaft_mm / INCH_MM
        name = next((n for most, n in _WOODRUFF_IN if d <= most + 1e-6), None)
        if name is None or d < 0.25:
            raise InputError(f"a shaft of {d:.3g} in", "Woodruff keys here are for 1/4 to 1 3/4 in")
        width, cutter = name // 100 / 32, name % 100 / 8
        flat = next(e for most, e in _WOODRUFF_FLAT_IN if cutter <= most)
        high = cutter / 2 - flat
        depth = high - width / 2 + chord_height(d, width)
        return Woodruff(
            f"No. {name}",
            width * INCH_MM,
            high * INCH_MM,
            cutter * INCH_MM,
            depth * INCH_MM,
            width / 2 * INCH_MM,
        )
    for most, b, h, cutter_mm, t1, _ in _WOODRUFF_MM:
        if shaft_mm <= most + 1e-6:
            if shaft_mm < 4:
                break
            return Woodruff(f"{b:g} × {h:g}", b, h, cutter_mm, t1, h - t1)
    raise InputError(f"a shaft of {shaft_mm:g} mm", "Woodruff keys here are for 4 to 38 mm")
