"""A gib's readings beside the gib itself, in its slot."""

from __future__ import annotations

from trebb.app.pictures.gib import WedgeCanvas
from trebb.app.views.base import Shown
from trebb.app.views.rows import WithRows
from trebb.core.families.gib.findings import gaps_of, plays, read_plays
from trebb.logbook.cases.gib_case import GibCase


class GibView(WithRows):
    """Rows above, below them the wedge with the gaps as they are known so far."""

    def __init__(self) -> None:
        super().__init__()
        self.wedge = WedgeCanvas()
        self.beside(self.wedge, rows=3, picture_share=4, below=True)

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
            read = read_plays(case.alone_of(shown.phase))
            worn = {at: q.value for at, q in plays(case.subject, now).items() if at in read}
            self.wedge.show_gib(
                case.subject, gaps, worn, case.job.limit("gib_play").limit_mm, shown.session.system
            )
