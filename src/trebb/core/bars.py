"""Round bars as they are sold."""

from __future__ import annotations

from trebb.core.units import INCH_MM

# Usual sizes of drawn and turned bar (practice): by sixteenths to an inch, eighths to three, quarters to six.
ROUND_MM = (
    6, 8, 10, 12, 14, 16, 18, 20, 22, 25, 28, 30, 32, 35, 38, 40, 45, 50, 55, 60, 65, 70, 75, 80, 90, 100,
    110, 120, 130, 140, 150, 160, 180, 200, 220, 250, 300,
)  # fmt: skip
ROUND_IN = (
    *(n / 16 for n in range(4, 17)), *(1 + n / 8 for n in range(1, 17)), *(3 + n / 4 for n in range(1, 13)),
    *(6 + n / 2 for n in range(1, 13)),
)  # fmt: skip


def bar_size_mm(least_mm: float, *, inch: bool) -> float:
    """The next round bar that is sold, of the inch sizes or the metric ones, mm; what is larger than all of
    them is given back as it is.
    """
    sizes = [i * INCH_MM for i in ROUND_IN] if inch else [float(s) for s in ROUND_MM]
    return next((s for s in sizes if s >= least_mm - 1e-6), least_mm)
