"""Facts of a slide on its gib."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Choice, Fact, Length, Number, Schema, Small
from trebb.core.families.gib.subject import LATHE_SADDLE, Slide

SADDLE = "saddle"  # asked of a lathe's saddle beside what is asked of every slide


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Slide:
    slide = Slide(is_saddle=assembly == LATHE_SADDLE and kind == "lathe", **values)
    slide.gib  # noqa: B018  refuses a gib that cannot be
    return slide


FACTS: tuple[Fact, ...] = (
    Number("ratio", "Taper, 1 :", low=20, high=300, what="the gib’s taper, 1 in so many,"),
    Length("length_mm", "Gib’s length", low=30.0, high=2000.0),
    Length("thin_mm", "Thin end", low=1.0, high=60.0),
    Length("width_mm", "Width of its face", low=5.0, high=150.0),
    Length("screw_pitch_mm", "Screw’s pitch", low=0.4, high=4.0),
    Length("travel_mm", "Screw has left", low=0.0, high=60.0),
    Length("stand_out_mm", "Stands out, by design", low=0.0, high=60.0),
    Length("stock_mm", "Lining at hand", low=0.3, high=6.0),
    Length("least_mm", "Thin end, at least", low=0.5, high=30.0),
    Small("running_mm", "To run with", low=0.0, high=0.2),
    Small("scrape_mm", "Left to scrape, new", low=0.0, high=1.0),
    Number("dovetail_deg", "Dovetail’s angle", low=30, high=80, what="degrees", unit="°"),
    Choice(
        "home",
        "Gib fully home",
        "When its gaps were felt",
        choices={"": "not asked", "yes": "it was home", "no": "it was not"},
    ),
    Length("bearing_mm", "Lead screw, bearings apart", asked=(SADDLE,), low=200.0, high=8000.0),
    Length("apron_mm", "Bearing to half nuts", asked=(SADDLE,), low=50.0, high=7000.0),
    Length("screw_mm", "Lead screw, root", asked=(SADDLE,), low=8.0, high=120.0),
    Length("thread_depth_mm", "Thread’s depth", asked=(SADDLE,), low=0.4, high=12.0),
)
GROUPS = (
    ("The gib", ("home", "ratio", "length_mm", "thin_mm", "width_mm", "dovetail_deg")),
    ("Its screw, and how it stands", ("screw_pitch_mm", "travel_mm", "stand_out_mm")),
    ("How it is to run, and be lined", ("running_mm", "stock_mm", "least_mm", "scrape_mm")),
    ("Lead screw and apron", ("bearing_mm", "apron_mm", "screw_mm", "thread_depth_mm")),
)
SCHEMA = Schema(FACTS, _build, groups=GROUPS)
