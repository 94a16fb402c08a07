"""What is measured and seen of a thread that is to be named, for the command line."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Choice, Fact, Length, Number, Schema, Words
from trebb.core.families.screw_drive.facts import tried_from
from trebb.core.stating.readers import Pitch
from trebb.core.threads import Hand
from trebb.core.threads.naming import GAUGES, Seen


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Seen:
    return Seen(**values)


FACTS: tuple[Fact, ...] = (
    Pitch("lead_mm", "Travel in a turn", low=0.2, high=60.0),
    Pitch("pitch_mm", "Crest to crest", low=0.2, high=60.0),
    Length("major_mm", "Over crests that never ran in the nut", low=2.0, high=200.0),
    Length("worn_major_mm", "Over crests that ran in the nut", low=2.0, high=200.0),
    Number("angle_deg", "Flank angle, included", low=0, high=90, what="degrees", unit="°"),
    Choice(
        "gauge_deg",
        "Pitch gauge that sits",
        choices={f"{g:g}": f"{g:g}°" if g else "square" for g in GAUGES},
        convert=float,
        numeric=True,
    ),
    Length("depth_mm", "Depth of the thread", low=0.1, high=30.0),
    Length("crest_flat_mm", "Flat of an unworn crest", low=0.0, high=30.0),
    Choice("crest", "Crests", choices={c: c for c in ("flat", "sharp", "round")}),
    Number("starts", "Thread beginnings at the end", low=1, high=6, what="starts", whole=True),
    Choice("hand", "Hand", choices={h.value: h.value for h in Hand}, convert=Hand),
    Words(
        "tried",
        "What was tried",
        reader=lambda text: tuple(tried_from(text)),
        form="markings, each with a colon and what it did",
    ),
)
SCHEMA = Schema(FACTS, _build)
