"""A way by map: how flat, which places stand high, what scraping it takes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

import numpy as np

from trebb.core.alignment.scraping import plane_below
from trebb.core.belief.sound import Kind
from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity
from trebb.core.families.way.reading import spots
from trebb.core.families.way.subject import AGAINST, WayMap, place_of, way_model
from trebb.core.figure import Figure, Item, Label, Role, box
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known
from trebb.core.machine import State
from trebb.core.units import show_small

if TYPE_CHECKING:
    from numpy.typing import NDArray


def flat(way: WayMap, drawn: Drawn) -> Quantity:
    """Highest less lowest off the plane of least squares; of a single row off its line."""
    heights = np.stack([drawn[f"high.{r}.{s}"] for r, s in way.keys])
    points = way.points
    design = np.column_stack(
        [np.ones(len(points)), points[:, 0], *([points[:, 1]] if way.across > 1 else [])]
    )
    left = heights - design @ (np.linalg.pinv(design) @ heights)
    return quantity(left.max(axis=0) - left.min(axis=0))


def _faults(way: WayMap) -> tuple[Kind, ...]:
    """Heights off their plane, or their line: how it was set up is no fault."""
    keys = tuple(f"high.{r}.{s}" for r, s in way.keys)
    span = np.abs(way.points).max(axis=0)
    tilts = (tuple((way.points[:, axis] / (span[axis] or 1.0)).tolist()) for axis in (0, 1))
    return (Kind(keys, ((1.0,) * len(keys), *tilts)),)


def heights_of(known: Known[WayMap]) -> NDArray[np.float64] | None:
    """Every height as read, mm; None until all are."""
    read = known.read("way_map")
    keys = [place_of(r, s) for r, s in known.subject.keys]
    return np.array([read[k] for k in keys]) if all(k in read for k in keys) else None


def to_scrape(way: WayMap, heights: NDArray[np.float64]) -> NDArray[np.float64]:
    """Metal over the plane that touches the lowest places with the least to take, mm."""
    return plane_below(way.points, heights)


def _words(known: Known[WayMap], m: Measure, size: str) -> tuple[str, str, str]:
    way, heights = known.subject, heights_of(known)
    move = "Read every place: the plan follows from all of them."
    if heights is not None:
        take = to_scrape(way, heights)
        passes = int(np.ceil(take.max() / way.pass_mm - 1e-9))
        worst = way.keys[int(np.argmax(take))]
        down = f" It comes down {show_small(float(take.mean()), known.system)} on the average"
        over = (
            f", more than the {show_small(way.spare_mm, known.system)} that it may: line it, or have it "
            f"ground"
            if take.mean() > way.spare_mm
            else ""
        )
        move = (
            f"Highest is {place_of(*worst)}: {show_small(float(take.max()), known.system)} over the "
            f"plane of the lowest, "
            f"{passes} passes there.{down}{over}."
        )
    return f"Flat within {size}.", f"{len(known.read('way_map'))} places, {AGAINST[way.against]}", move


MEASURES: dict[str, Judged[WayMap]] = {
    "flat": Judged(
        "Flatness of the way",
        "way_flat",
        flat,
        lambda w: tuple({f"high.{r}.{s}": 1.0} for r, s in w.keys),
        _words,
    ),
}


def also(known: Known[WayMap], measures: Mapping[str, Measure]) -> list[Finding]:
    """A first place that did not come back to zero is seen in its repeats; nothing beyond the measure."""
    taken = next((p for p in known.taken.get("way_map", ()) if p.place == place_of(1, 1)), None)
    if taken is None or len(taken.values) < 2:
        return []
    off = max(taken.values) - min(taken.values)
    if off <= 0.005:
        return []
    return [
        Finding(
            "closes",
            State.NEAR,
            f"Back at the first place it reads {show_small(off, known.system)} off.",
            "read again",
            "Something moved: the map is good to no more than that.",
            off,
        )
    ]


def picture(known: Known[WayMap]) -> Figure:
    """The map: what each place stands over the plane of the lowest; washed where it is scraped."""
    way, heights = known.subject, heights_of(known)
    items: list[Item] = [box(44, 12, 472, 140)]
    read = known.read("way_map")
    take = dict(zip(spots(way), to_scrape(way, heights), strict=True)) if heights is not None else {}
    half = min(30.0, 200.0 / way.along)
    for key, (x, y) in spots(way).items():
        is_high = take.get(key, 0.0) > way.pass_mm
        if key in take:
            items.append(
                box(x - half, y - 12, 2 * half, 24, role=Role.BLUE if is_high else Role.SOFT, wash=is_high)
            )
        value = take.get(key, read.get(key))
        words = "·" if value is None else show_small(value, known.system, unit=False)
        items.append(Label((x, y + 4), words, Role.INK if value is not None else Role.SOFT))
    head = "over the plane of the lowest" if take else "as read; not every place yet"
    return Figure(640, 164, (*items, Label((530, 70), head.split(";")[0], Role.SOFT, "left")))


JUDGING = Judging(
    decides="way_map",
    model=way_model,
    measures=MEASURES,
    questions=lambda w: {f"high.{r}.{s}": (place_of(r, s), {f"high.{r}.{s}": 1.0}) for r, s in w.keys},
    describe=lambda w: f"{w.across} × {w.along} places, {w.along_mm:g} mm apart",
    also=also,
    faults=_faults,
    picture=picture,
)
