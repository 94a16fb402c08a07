"""A subject of each family, for tests that go over every set-up, remedy or part."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from trebb.core.machine import ScrewDrive, Slide, Tram
from trebb.core.machine.bed import USUAL_BED
from trebb.core.machine.bore import Bore
from trebb.core.machine.copied import Copied
from trebb.core.machine.shaft import Shaft
from trebb.core.machine.spindle import USUAL

_BED = replace(USUAL_BED, shims=(("tail_front", 0.10),))
SUBJECTS: dict[str, Any] = {
    "screw_drive": ScrewDrive(),
    "spindle": USUAL["mill"],
    "ways": _BED,
    "headstock": _BED,
    "tailstock": _BED,
    "stand": _BED,
    "gib": Slide(is_saddle=True),
    "tram": Tram(),
    "shaft": Shaft(),
    "bore": Bore(),
    "copied": Copied(),
}
