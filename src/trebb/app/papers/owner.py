"""The page for the owner."""

from __future__ import annotations

from trebb.app.papers.before_after import before_after_blocks
from trebb.app.papers.paper import Paper, Pictured, filled
from trebb.core import clock
from trebb.core.dates import full_words
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.plan.owner_page import owner_page


def owner_paper(cases: Cases, _case: Case, _key: str, system: UnitSystem) -> Paper:
    """What was wrong, what was done, what it holds now. Raises InputError where nothing is known yet."""
    page, started = owner_page(cases, system), cases.job.started
    facts = {
        "machine": started.machine if started else "",
        "shop": started.shop if started else "",
        "date": full_words(clock.today()),
        "said": page.said,
        "told": page.told,
        "again": page.again,
        "left": page.left,
        "makes": page.makes,
    }
    grown = before_after_blocks(cases, system)
    return Paper("For the owner", [filled("owner.html", facts), *([Pictured(grown)] if grown else [])])
