"""The title block of a drawing, from the job."""

from __future__ import annotations

from trebb.core import clock
from trebb.core.parts.drawing import Title
from trebb.logbook.cases.case import Case


def title_of(case: Case) -> Title:
    """What the title block says of the job that a part belongs to, today."""
    started = case.job.started
    return Title(
        machine=f"{started.machine}: {case.assembly.label}" if started else case.assembly.label,
        job=started.shop if started else "",
        date=clock.today().isoformat(),
        projection=case.job.card("projection"),
    )
