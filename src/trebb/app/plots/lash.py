"""Plots of lash along the travel, on pyqtgraph: labels on the curves, units on the axes, the limit dashed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

import numpy as np
import pyqtgraph as pg
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor

from trebb.app.look import numerals, theme
from trebb.core.condition import Estimate, Quantity
from trebb.core.families.screw_drive.lash_split import LashSplit
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.units import UnitSystem, show_small, size_unit, small_unit

if TYPE_CHECKING:
    from numpy.typing import NDArray


class _Ticks(pg.AxisItem):  # type: ignore[misc]
    """An axis whose numbers have the language's decimal mark."""

    def tickStrings(self, values: Any, scale: float, spacing: float) -> list[str]:
        return [numerals.shown(text) for text in super().tickStrings(values, scale, spacing)]


class TravelPlot(pg.PlotWidget):  # type: ignore[misc]
    """Lash against position along the travel. Drag and wheel zoom; a double click shows all again."""

    def __init__(self) -> None:
        axes = {side: _Ticks(side) for side in ("left", "bottom")}
        super().__init__(background=theme.colour("sheet"), axisItems=axes)
        self.setMenuEnabled(False)
        self.hideButtons()
        self.setAntialiasing(True)
        self.setToolTip("Wheel zooms, drag moves, double click shows all")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Lash along the travel")
        self.viewport().setAccessibleName("Lash along the travel")
        for side in ("left", "bottom"):
            axis = self.getAxis(side)
            axis.setTextPen(theme.colour("soft"))
            axis.setPen(theme.colour("line"))
            axis.setStyle(tickFont=theme.font(theme.SMALL), tickTextOffset=6)
            axis.label.setFont(theme.font(theme.SMALL))
            axis.enableAutoSIPrefix(False)
        self.showGrid(x=True, y=True, alpha=0.16)

    def mouseDoubleClickEvent(self, event: object) -> None:
        self.autoRange()

    def begin(
        self, system: UnitSystem, what: str = "lash", start: str = "handwheel end"
    ) -> tuple[float, float]:
        """Clear, name the axes, and give mm in a unit of x and of y."""
        self.clear()
        x_name, x_mm = size_unit(system)
        y_name, y_mm = small_unit(system)
        colour = theme.roles().soft
        self.setLabel("bottom", f"from the {start}, {x_name}", color=colour)
        self.setLabel("left", f"{what}, {y_name}", color=colour)
        return x_mm, y_mm

    def layer(self, x: np.ndarray, low: np.ndarray, high: np.ndarray, role: str, alpha: float) -> None:
        """A filled layer between two curves."""
        shade = QColor(theme.colour(role))
        shade.setAlphaF(alpha)
        bottom, top = (
            pg.PlotCurveItem(x, low, pen=None),
            pg.PlotCurveItem(x, high, pen=pg.mkPen(theme.colour(role), width=1.3)),
        )
        self.addItem(bottom)
        self.addItem(top)
        self.addItem(pg.FillBetweenItem(bottom, top, brush=pg.mkBrush(shade)))

    def words(
        self,
        text: str,
        x: float,
        y: float,
        role: str = "ink",
        anchor: tuple[float, float] = (0.5, 0.5),
        *,
        strong: bool = False,
    ) -> None:
        """A label on the curve itself."""
        item = pg.TextItem(numerals.shown(text), color=theme.colour(role), anchor=anchor)
        item.setFont(theme.font(theme.SMALL, theme.SEMIBOLD if strong else theme.MEDIUM))
        self.addItem(item)
        item.setPos(x, y)

    def limit(self, limit_mm: float, y_mm: float, x: float, system: UnitSystem) -> None:
        """The limit, dashed, with its value."""
        self.addItem(
            pg.InfiniteLine(
                limit_mm / y_mm,
                angle=0,
                pen=pg.mkPen(theme.colour("within"), width=1.8, style=Qt.PenStyle.DashLine),
            )
        )
        self.words(f"limit {show_small(limit_mm, system)}", x, limit_mm / y_mm, "within", (0, 1), strong=True)

    def bars(self, x: np.ndarray, quantities: Sequence[Quantity], y_mm: float, role: str) -> None:
        """95 % intervals at the stations."""
        y = np.array([q.value for q in quantities]) / y_mm
        top = np.array([q.high for q in quantities]) / y_mm - y
        bottom = y - np.array([q.low for q in quantities]) / y_mm
        pen = pg.mkPen(theme.colour(role), width=1.6)
        self.addItem(
            pg.ErrorBarItem(x=x, y=y, top=top, bottom=bottom, beam=0.06 * (x[-1] - x[0]) / 5, pen=pen)
        )
        self.addItem(pg.ScatterPlotItem(x, y, size=8, pen=pen, brush=pg.mkBrush(theme.colour("sheet"))))


def show_split(
    plot: TravelPlot,
    split: LashSplit,
    limit_mm: float,
    system: UnitSystem,
    *,
    known: bool,
    start: str = "handwheel end",
    key: bool = True,
) -> None:
    """The lash in layers: end float, nut, screw, key; or the whole only while they cannot be told apart."""
    x_mm, y_mm = plot.begin(system, start=start)
    x = np.array([s.position_mm for s in split.stations]) / x_mm
    read = [s for s in split.stations if s.is_read]
    whole = {s.station: s.fixed.value for s in read if s.fixed is not None}
    total = np.array([whole.get(s.station, s.total).value for s in split.stations]) / y_mm
    if known:
        wear = np.array([s.wear.value for s in split.stations]) / y_mm
        base = np.zeros_like(x)
        layers = (
            ("end float", split.float_.value / y_mm + 0 * x, "brass", 0.5),
            ("nut", split.nut.value / y_mm + 0 * x, "soft", 0.35),
            ("screw", wear, "blue", 0.40),
            *((("key", split.key.value / y_mm + 0 * x, "near", 0.4),) if key else ()),
        )
        for name, thickness, role, alpha in layers:
            top = base + thickness
            plot.layer(x, base, top, role, alpha)
            if thickness.max() > 0.06 * total.max():
                middle = int(np.argmax(thickness)) if name == "screw" else len(x) // 2
                plot.words(
                    f"{name} {show_small(thickness[middle] * y_mm, system, unit=False)}",
                    x[middle],
                    float(base[middle] + thickness[middle] / 2),
                    "ink",
                    (_side(middle, len(x)), 0.5),
                    strong=True,
                )
            base = top
    else:
        _not_told(plot, split, x, total)
    if read:
        plot.bars(
            np.array([s.position_mm for s in read]) / x_mm, [whole[s.station] for s in read], y_mm, "ink"
        )
    worst = whole.get(split.worst.station, split.worst.total)
    plot.words(
        f"all {show_small(worst.value, system)}"
        if split.worst.is_read
        else "the lash itself is not read: what is usual, dotted",
        x[split.worst.station - 1],
        worst.high / y_mm if split.worst.is_read else float(total[split.worst.station - 1]),
        "ink",
        (_side(split.worst.station - 1, len(x)), 1.1),
        strong=True,
    )
    plot.limit(limit_mm, y_mm, x[0], system)
    plot.setXRange(x[0] - 0.04 * (x[-1] - x[0]), x[-1] + 0.04 * (x[-1] - x[0]), padding=0)
    plot.setYRange(0, max(float(total.max()) * 1.18, limit_mm / y_mm * 1.3), padding=0)


def _not_told(plot: TravelPlot, split: LashSplit, x: NDArray[np.float64], total: NDArray[np.float64]) -> None:
    """The whole lash where it was read, in one shade; dotted what is usual where it was not."""
    half = float(x[1] - x[0]) * 0.5
    for i, station in enumerate(split.stations):
        if station.is_read:
            span = np.array([x[i] - half, x[i] + half])
            plot.layer(span, 0 * span, 0 * span + total[i], "soft", 0.18)
    pen = pg.mkPen(theme.colour("soft"), width=1.4, style=Qt.PenStyle.DotLine)
    plot.addItem(pg.PlotCurveItem(x, total, pen=pen))
    if any(s.is_read for s in split.stations):
        plot.words(
            "nut, screw, end float: not told apart yet", x[2], float(total.max()) * 0.5, "ink", strong=True
        )


def show_wear(
    plot: TravelPlot,
    drive: ScrewDrive,
    now: Estimate,
    read: Sequence[tuple[float, float]],
    system: UnitSystem,
) -> None:
    """The screw's wear along the travel with its 95 % band, smoothed by what neighbouring thread shares;
    what was measured of it as points.
    """
    x_mm, y_mm = plot.begin(system, "wear, as play", drive.end_names[0])
    ways = np.linspace(0.0, drive.travel_mm, 41)
    curve = [now.combination(drive.wear_shares(float(way))) for way in ways]
    x = ways / x_mm
    low, mid, high = (np.array([getattr(q, name) for q in curve]) / y_mm for name in ("low", "value", "high"))
    plot.layer(x, np.maximum(low, 0.0), high, "blue", 0.22)
    plot.addItem(pg.PlotCurveItem(x, mid, pen=pg.mkPen(theme.colour("blue"), width=2.2)))
    if read:
        plot.addItem(
            pg.ScatterPlotItem(
                np.array([way for way, _ in read]) / x_mm,
                np.array([w for _, w in read]) / y_mm,
                size=9,
                pen=pg.mkPen(theme.colour("ink"), width=1.6),
                brush=pg.mkBrush(theme.colour("sheet")),
            )
        )
    worst = int(np.argmax(mid))
    words = (
        f"{show_small(curve[worst].value, system)} ± "
        f"{show_small(curve[worst].half_width, system, unit=False)}"
    )
    plot.words(
        words if read else f"{words}, by the lash alone",
        x[worst],
        float(high[worst]),
        "blue",
        (_side(worst, len(x)), 1.1),
        strong=True,
    )
    plot.setXRange(x[0] - 0.02 * x[-1], 1.02 * x[-1], padding=0)
    plot.setYRange(
        0,
        max(float(high.max()), *(w / y_mm for _, w in read)) * 1.25 if read else float(high.max()) * 1.25,
        padding=0,
    )


def _side(i: int, n: int) -> float:
    """Anchor of words at a station: inward at the ends, so that none is cut off."""
    return -0.06 if i == 0 else 1.06 if i == n - 1 else 0.5


def show_prediction(
    plot: TravelPlot,
    split: LashSplit,
    lash: Sequence[Quantity],
    limit_mm: float,
    system: UnitSystem,
    *,
    start: str = "handwheel end",
) -> None:
    """What a remedy would leave, with its band, and today's lash as a ghost behind it."""
    x_mm, y_mm = plot.begin(system, start=start)
    x = np.array([s.position_mm for s in split.stations]) / x_mm
    now = np.array([s.total.value for s in split.stations]) / y_mm
    low, mid, high = (np.array([getattr(q, name) for q in lash]) / y_mm for name in ("low", "value", "high"))
    plot.addItem(
        pg.PlotCurveItem(x, now, pen=pg.mkPen(theme.colour("soft"), width=1.6, style=Qt.PenStyle.DotLine))
    )
    plot.words("now", x[-1], float(now[-1]), "soft", (1, 1))
    plot.layer(x, low, high, "blue", 0.22)
    plot.addItem(pg.PlotCurveItem(x, mid, pen=pg.mkPen(theme.colour("blue"), width=2.2)))
    at = int(np.clip(np.argmax(mid), 1, len(x) - 2))
    top = max(float(now.max()) * 1.18, limit_mm / y_mm * 1.3)
    crowded = (
        0 < limit_mm / y_mm - high[at] < 0.16 * top
    )  # the words would stand on the limit's line: then above it
    spot = limit_mm / y_mm if crowded else float(high[at])
    plot.words(f"left: {show_small(mid[at] * y_mm, system)}", x[at], spot, "blue", (0.5, 1.05), strong=True)
    plot.limit(limit_mm, y_mm, x[0], system)
    plot.setXRange(x[0] - 0.04 * (x[-1] - x[0]), x[-1] + 0.04 * (x[-1] - x[0]), padding=0)
    plot.setYRange(0, top, padding=0)
