"""A gib's readings beside the gib itself, in its slot."""

from __future__ import annotations

from trebb.app.pictures.gib import WedgeCanvas
from trebb.app.views.base import ReadingView, Shown
from trebb.app.views.rows import RowsView
from trebb.app.widgets import column
from trebb.core.findings.gib import gaps_of, plays
from trebb.core.gibs import Gaps
from trebb.logbook.casework import GibCase


class GibView(ReadingView):
    """Rows above, below them the wedge with the gaps as they are known so far."""

    def __init__(self) -> None:
        super().__init__()
        box = column(spacing=6)
        self.setLayout(box)
        self.rows = RowsView()
        self.rows.chosen.connect(self.chosen)
        self.rows.figure_chosen.connect(self.figure_chosen)
        self.wedge = WedgeCanvas()
        box.addWidget(self.rows, 3)
        box.addWidget(self.wedge, 4)

    def show_readings(self, shown: Shown) -> None:
        self.rows.show_readings(shown)
        case = shown.session.case
        assert isinstance(case, GibCase)
        felt = case.felt(shown.phase) if shown.set_up.key == "feelers" else None
        now = case.estimate_of(shown.phase)
        gaps = felt if felt is not None else gaps_of(case.subject, now)
        known = felt is not None or now.readings > 0
        self.wedge.setVisible(known)
        if known:
            worn = {at: q.value for at, q in plays(case.subject, now).items()} if now.readings else {}
            self.wedge.show_gib(case.subject, Gaps(gaps.thin_mm, gaps.thick_mm, gaps.running_mm), worn, case.job.limit("gib_play").limit_mm, shown.session.system)
