"""What a gear's set-ups bound each other by."""

from __future__ import annotations

import math

from trebb.core.families.gear.reading import ROCK
from trebb.core.families.gear.subject import Gear
from trebb.core.survey.bounding import Bound

GIVE_MM = 0.03  # what a push moves beyond the play that rocking finds
_SLIP = "Was the rocking read at another radius than is stated, or a turn lost at the push? Read both again."


def bounds(gear: Gear) -> tuple[Bound, ...]:
    """What the shaft's play lets the teeth rock, 2 tan φ of it, is part of what they rock."""
    share = 2 * math.tan(math.radians(gear.angle_deg))
    return tuple(
        Bound(
            ("gear_play", "push"),
            ("gear_rock", place.key),
            "the play of its bore is part of what it rocks",
            _SLIP,
            allowed_mm=GIVE_MM,
            share=share,
        )
        for place in ROCK.places(gear)
    )
