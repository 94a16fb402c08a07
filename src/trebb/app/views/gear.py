"""A gear's readings as rows, and its teeth round it as they make them so far."""

from __future__ import annotations

from trebb.app.pictures.gear import ToothRing
from trebb.app.views.base import Shown
from trebb.app.views.rows import WithRows
from trebb.core.families.gear.reading import tooth_number


class GearView(WithRows):
    """Rows beside the ring of teeth."""

    def __init__(self) -> None:
        super().__init__()
        self.ring = ToothRing()
        self.beside(self.ring, rows=3, picture_share=3)

    def show_readings(self, shown: Shown) -> None:
        self.rows.show_readings(shown)
        here = tooth_number(shown.place.key) if shown.place is not None else 0
        self.ring.show_case(shown.session.case, shown.phase, shown.session.system, here)
