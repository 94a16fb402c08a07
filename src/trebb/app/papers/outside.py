"""The page that goes with a job given to a firm, the drawings of its parts behind it."""

from __future__ import annotations

from trebb.app.papers.paper import Drawn, Paper, Words, filled
from trebb.app.parts.drawing_title import title_of
from trebb.core import clock
from trebb.core.dual_units import in_units
from trebb.core.errors import TrebbError
from trebb.core.units import UnitSystem, show_money
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.plan.outside import outside_job

CHROME = (
    "Hard chrome, brake linings, lead paint and welding are for licensed shops; their own rules stand above "
    "this page."
)


def outside_paper(cases: Cases, case: Case, _key: str, system: UnitSystem) -> Paper:
    """The page and drawings. Raises InputError where nothing is given out."""
    job = outside_job(case, system)
    started = case.job.started
    facts = {
        "title": job.remedy.title,
        "summary": in_units(job.remedy.summary, system),
        "machine": started.machine if started else "",
        "shop": started.shop if started else "",
        "assembly": case.assembly.label,
        "date": clock.today().isoformat(),
        "trade": job.told.trade,
        "firm": job.quote.firm if job.quote else "",
        "found": job.found,
        "wanted": [(w.words, w.shown) for w in job.wanted],
        "lacks": [in_units(words, system).rstrip(".") for words in job.lacks],
        "datum": job.told.datum,
        "order": [in_units(line, system) for line in job.told.order],
        "must_not": [in_units(line, system) for line in job.told.must_not],
        "accepted_by": job.accepted_by,
        "price": show_money(job.quote.price, case.job.card("currency", "")) if job.quote else "",
        "days": f"{job.quote.days:g}" if job.quote else "",
        "caution": CHROME,
    }
    sheets: list[Words | Drawn] = [filled("outside.html", facts)]
    for key in job.parts:
        try:
            sheets.append(Drawn(case.part(key, system), system, title_of(case)))
        except TrebbError:  # said among what is not known yet
            continue
    return Paper(f"Work wanted: {case.assembly.label}", sheets)
