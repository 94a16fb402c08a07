"""A subject of each family, for tests that go over every set-up, remedy or part."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from trebb.core.families.bed.subject import USUAL_BED
from trebb.core.families.casting.subject import Casting
from trebb.core.families.cone.subject import FrictionCone
from trebb.core.families.gear.subject import Gear
from trebb.core.families.gib.subject import Slide
from trebb.core.families.spindle.subject import USUAL
from trebb.core.register import FAMILIES
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
