"""A bore's gauge readings as rows, and the bore unrolled as they make it so far."""

from __future__ import annotations

from trebb.app.pictures.bore import UnrolledCanvas, curves_of
from trebb.app.views.base import Shown
from trebb.app.views.rows import WithRows
from trebb.logbook.cases.bore_case import BoreCase


class BoreView(WithRows):
    """Rows beside the bore unrolled."""

    def __init__(self) -> None:
        super().__init__()
        self.unrolled = UnrolledCanvas()
        self.beside(self.unrolled, rows=3, picture_share=4)

    def show_readings(self, shown: Shown) -> None:
        self.rows.show_readings(shown)
        case = shown.session.case
        assert isinstance(case, BoreCase)
        alone = case.alone_of(shown.phase)
        self.unrolled.show_bore(
            curves_of(case, alone, alone), case.job.limit("bore_wear").limit_mm, shown.session.system
        )
