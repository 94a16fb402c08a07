"""A flat way read as a map of heights."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.way.subject import WayMap, place_of
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, box
from trebb.core.survey.base import InstrumentKind, Place, SetUp, lots_by_group
from trebb.core.survey.sizes import beyond_indicator

WIDTH, HEIGHT = 640.0, 164.0
READ_SD_MM = 0.003


def places(way: WayMap) -> tuple[Place, ...]:
    """Row by row along."""
    return tuple(
        Place(place_of(r, s), f"Station {s}", "zero" if (r, s) == (1, 1) else "", f"row {r}")
        for r, s in way.keys
    )


def row_of(way: WayMap, place: str) -> Row:
    """Its own height."""
    row, station = (int(part.split()[1]) for part in place.split(", "))
    return Row({f"high.{row}.{station}": 1.0}, READ_SD_MM)


def spots(way: WayMap) -> dict[str, tuple[float, float]]:
    """Where each place stands in the figure. In figure units."""
    wide = 420.0 / max(1, way.along - 1)
    high = 96.0 / max(1, way.across - 1) if way.across > 1 else 0.0
    return {
        place_of(r, s): (70 + (s - 1) * wide, (82 if way.across == 1 else 34) + (r - 1) * high)
        for r, s in way.keys
    }


def _figure(way: WayMap, place: str) -> Figure:
    items: list[Item] = [box(44, 12, 472, 140)]
    for key, at in spots(way).items():
        items.append(Circle(at, 4, Role.SOFT))
        if key == place:
            items.append(Circle(at, 11, Role.BLUE, wash=True))
            items += [Indicator(at, (0, -1)), Arrow((at[0] + 34, at[1] + 12), (at[0] + 10, at[1] + 4))]
    return Figure(
        WIDTH,
        HEIGHT,
        (
            *items,
            Label((530, 70), place, Role.BLUE, "left"),
            Label((530, 94), "zero at the first", Role.SOFT, "left"),
        ),
    )


MAP: SetUp[WayMap] = SetUp(
    key="way_map",
    letter="M",
    short="Map",
    title="Heights of the way, place by place",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.001,
    minutes=0.6,
    setting_minutes=10,
    wanted=1,
    is_signed=True,
    places=places,
    lots=lots_by_group(places, lambda group: f"Heights along {group}", 3.0),
    row=row_of,
    results=lambda way, taken: [],
    figure=_figure,
    refusal=lambda way, place, raw, system: beyond_indicator(raw, 2.0, system),
    steps=(
        "Way clean, burrs stoned. What it is read against stands on three points and is not touched again.",
        "Zero at the first place; every place in its turn, higher is +.",
        "Back to the first: it must still be zero, or something moved.",
    ),
    cautions=("A straightedge and a plate are heavy and sharp: two hands, two people.",),
    tells="How flat it is, which places stand high, and what scraping them takes.",
    cannot_tell="Whether it is square to another way: sweep that.",
    settles="the way",
    family="way",
    measure=lambda way, place: ("flat", 1.0),
)
