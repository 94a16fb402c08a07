"""What a slide's set-ups bound each other by."""

from __future__ import annotations

from trebb.core.families.gib.subject import Slide
from trebb.core.survey.bounding import Bound

# A blade bends in, and a slide is not rocked to its last hundredth.
BLADE_MM = 0.03
_SLIP = "A blade that lay aslant, an indicator that slipped, or a gib moved between the two: read both again."


def bounds(slide: Slide) -> tuple[Bound, ...]:
    """What a blade finds at an end is part of what the slide rocks there at mid travel."""
    words = "a blade goes in no further than the slide rocks there"
    return tuple(
        Bound(("feelers", f"{end} end"), ("rock", f"mid, {end} end"), words, _SLIP, allowed_mm=BLADE_MM)
        for end in ("thin", "thick")
    )
