"""What the core says of a part that is copied from an old one: sizes, checks, drawing and route; no
survey.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.findings import Measure
from trebb.core.machine import USUAL_DRIVES, Slide, Tram
from trebb.core.machine.bed import USUAL_BED
from trebb.core.machine.bore import Bore
from trebb.core.machine.shaft import Shaft
from trebb.core.machine.spindle import USUAL
from trebb.logbook.case import Case

# What a part family takes its usual sizes from.
_USUAL: dict[str, Any] = {
    "screw_drive": USUAL_DRIVES[("lathe", "cross_slide")],
    "spindle": USUAL["lathe"],
    "shaft": Shaft(),
    "bore": Bore(),
    "gib": Slide(),
    "tram": Tram(),
    **dict.fromkeys(("ways", "headstock", "tailstock", "stand"), USUAL_BED),
}


class CopyCase(Case):
    """A part on its own."""

    family = "copied"

    @property
    def has_set_ups(self) -> bool:
        return False

    @property
    def has_parts(self) -> bool:
        return True

    @property
    def what(self) -> str:
        """Key of the part's family."""
        return str(self.subject.what)

    @property
    def made_subject(self) -> Any:
        from trebb.core.parts import family

        return _USUAL[family(self.what).assembly]

    def part_keys(self) -> tuple[str, ...]:
        return (self.what,)

    def makes(self, key: str) -> bool:
        return key == self.what

    @property
    def figures(self) -> Sequence[Measure]:
        return ()

    def _part_subject(self, key: str) -> Any:
        from trebb.core.parts import family

        return _USUAL[family(key).assembly]  # of the part asked for: what is copied may have changed since
