"""Head against table: tram left to right and front to back, travel against a square, the table's top."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from trebb.core.condition import Estimate, Quantity, ReadingsOnly, size_of
from trebb.core.condition.draws import Array, signed_size
from trebb.core.condition.fixing import is_read
from trebb.core.families.tram.subject import REACH_MM, Tram
from trebb.core.findings.base import Finding, Measure, hedged, size_words, suggestion_words
from trebb.core.machine import RatedLimit, State
from trebb.core.units import UnitSystem, show_size, show_small
from trebb.core.words import small

# Key → (label, combination at 300 mm, limit of a mill, limit of a drill).
MEASURES: dict[str, tuple[str, Mapping[str, float], str, str]] = {
    "tram_x": ("Tram, left to right", {"tilt_x": REACH_MM / 1000}, "tram", "drill_tram"),
    "tram_y": ("Tram, front to back", {"tilt_y": REACH_MM / 1000}, "tram", "drill_tram"),
    "run_out": ("Table run out", {"droop": REACH_MM / 1000}, "travel_square", ""),
    "square_x": ("Travel, sideways", {"travel_x": REACH_MM / 1000}, "travel_square", "drill_travel"),
    "square_y": ("Travel, front to back", {"travel_y": REACH_MM / 1000}, "travel_square", "drill_travel"),
    "sag": ("Table's top", {"sag": 1.0}, "table_flat", "table_flat"),
    "ends_x": ("Table along its travel", {"ends_x": 1.0}, "table_flat", ""),
    "ends_y": ("Saddle along its travel", {"ends_y": 1.0}, "table_flat", ""),
    "column_x": ("Column, sideways", {"column_x": REACH_MM / 1000}, "", "drill_travel"),
    "column_y": ("Column, front to back", {"column_y": REACH_MM / 1000}, "", "drill_travel"),
}


def measures_of(tram: Tram) -> dict[str, tuple[str, Mapping[str, float], str]]:
    """Label, combination and limit of each measure of this machine. Coefficients by source, without unit."""
    return {
        key: (label, c, mill if tram.has_knee else drill)
        for key, (label, c, mill, drill) in MEASURES.items()
        if (mill if tram.has_knee else drill)
    }


def measure_value(tram: Tram, drawn: Mapping[str, Array], key: str) -> Quantity:
    """A measure's size, mm in 300 mm (the table's top: mm)."""
    return signed_size(np.asarray(sum((c * drawn[k] for k, c in MEASURES[key][1].items()), np.zeros(1))))


def tram_measures(tram: Tram, alone: ReadingsOnly, limits: Mapping[str, RatedLimit]) -> list[Measure]:
    """What readings fix."""
    return [
        Measure(key, label, limits[limit], size_of(alone.combination(c)))
        for key, (label, c, limit) in measures_of(tram).items()
        if is_read(alone, c, limits[limit].limit_mm)
    ]


def questions(tram: Tram) -> dict[str, Mapping[str, float]]:
    """What is to be known. Coefficients by source, without unit."""
    return {key: c for key, (_, c, _) in measures_of(tram).items()}


def reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking. Standard deviations in mm."""
    label = MEASURES[most][0]
    return suggestion_words(small(label), sd_before, sd_after, system, little=0.9)


def in_reach(system: UnitSystem) -> str:
    """The length that leans are given for, in words."""
    return "in 12 in" if system is UnitSystem.INCH else f"in {REACH_MM:.0f} mm"


_LEANS = {
    "tram_x": ("right", "left"),
    "tram_y": ("back", "front"),
    "square_x": ("right", "left"),
    "square_y": ("back", "front"),
    "run_out": ("front", "back"),
    "column_x": ("right", "left"),
    "column_y": ("back", "front"),
    "ends_x": ("up", "down"),
    "ends_y": ("up", "down"),
}
_RESTS = {
    "tram_x": "sweep",
    "tram_y": "sweep",
    "run_out": "sweep near and far",
    "square_x": "square",
    "square_y": "square",
    "sag": "straightedge",
    "ends_x": "travel, ends against middle",
    "ends_y": "travel, ends against middle",
    "column_x": "square on the base",
    "column_y": "square on the base",
}


def tram_findings(
    tram: Tram, now: Estimate, measures: Mapping[str, Measure], system: UnitSystem
) -> list[Finding]:
    """Verdicts, the heaviest first."""
    found = []
    for key, m in measures.items():
        combination = MEASURES[key][1]
        side = _LEANS.get(key, ("", ""))[0 if now.combination(combination).value > 0 else 1]
        size = size_words(m, system)
        sentence, move = _words(tram, key, side, size, m, system)
        found.append(
            Finding(
                key,
                m.state,
                sentence,
                _RESTS[key],
                move,
                m.value.value * (1.0 if key.startswith("tram") else 0.7),
            )
        )
    return sorted(hedged(found, measures, system), key=lambda f: -f.weight_mm)


def _words(tram: Tram, key: str, side: str, size: str, m: Measure, system: UnitSystem) -> tuple[str, str]:
    inside = m.state is State.WITHIN
    lift = show_small(m.value.value * tram.bolts_mm / REACH_MM, system)
    over = show_size(tram.bolts_mm, system, resolution_mm=1)
    if key.startswith("tram"):
        what = "head leans" if tram.has_knee else "quill leans against the table"
        how = (
            "Slacken the head, tap it over by the indicator, tighten, sweep again: tightening moves it."
            if tram.has_knee
            else f"Swing the table, or shim its bracket by {lift} over {over} between bolts."
        )
        return (
            f"The {what} to the {side} by {size} {in_reach(system)}.",
            "Inside its limit." if inside else how,
        )
    if key == "run_out":
        return (
            f"Run out, the table drops to the {side} by {size} {in_reach(system)}.",
            "Inside its limit."
            if inside
            else "Saddle gib and knee first: a loose gib lets it hang. What stays is worn ways.",
        )
    if key.startswith("square"):
        what = "knee's" if tram.has_knee else "quill's"
        how = (
            "Try its gib first; what stays is scraped or shimmed behind its gib."
            if tram.has_knee
            else f"Column or table: shim between column and base by {lift} over {over}."
        )
        return (
            f"Against the square the {what} travel leans to the {side} by {size} {in_reach(system)}.",
            "Inside its limit." if inside else how,
        )
    if key.startswith("ends"):
        what = "table" if key == "ends_x" else "saddle"
        how = "tips up" if side == "up" else "goes down"
        face = "crowned: its ends droop" if side == "up" else "hollow"
        return (
            f"At the ends of its travel the {what} {how} under the spindle by {size}.",
            "Inside its limit."
            if inside
            else f"A long face comes out {face}. Keep long work away from the ends, or scrape the ways. Gibs "
            "set first.",
        )
    if key.startswith("column"):
        return (
            f"The column leans to the {side} by {size} {in_reach(system)}.",
            "Inside its limit."
            if inside
            else f"Shim between column and base by {lift} over {over}; then square the table "
            "to the quill again.",
        )
    return (
        f"The table's top is hollow by {size}.",
        "Inside its limit."
        if inside
        else "Clamp work on both sides of the hollow; scrape or grind it with the ways.",
    )
