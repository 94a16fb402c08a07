"""A subject of each family, for tests that go over every set-up, remedy or part."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from trebb.core.families import FAMILIES
from trebb.core.machine import Slide
from trebb.core.machine.bed import USUAL_BED
from trebb.core.machine.casting import Casting
from trebb.core.machine.cone import FrictionCone
from trebb.core.machine.gear import Gear
from trebb.core.machine.spindle import USUAL
from trebb.core.stating import usual_subject

_BED = replace(USUAL_BED, shims=(("tail_front", 0.10),))
SUBJECTS: dict[str, Any] = {
    **{family: usual_subject(family) for family in FAMILIES},
    "gear": Gear(name="DP16 14.5 full"),
    "cone": FrictionCone(asbestos="no"),
    "casting": Casting(bore_mm=20.0, ends_found=True),
    "spindle": USUAL["mill"],
    "gib": Slide(is_saddle=True),
    **dict.fromkeys(("ways", "headstock", "tailstock", "stand"), _BED),
}
