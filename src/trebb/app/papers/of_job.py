"""The papers of a job: a part whole, its route for the bench, readings, the acceptance sheet, the cards."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct

from trebb.app.papers.before_after import before_after_paper
from trebb.app.papers.outside import outside_paper
from trebb.app.papers.owner import owner_paper
from trebb.app.papers.paper import Drawn, Paper, Words, filled
from trebb.app.papers.readings import readings_paper
from trebb.app.parts.drawing_title import title_of
from trebb.app.parts.report import sheet_of
from trebb.app.parts.sizes_panel import size_text
from trebb.core import clock
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError
from trebb.core.parts import Part
from trebb.core.units import UnitSystem, show_minutes, show_sizes
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.plan.rack import read_rack
from trebb.logbook.plan.shopping import KINDS as KINDS_TO_BUY
from trebb.logbook.plan.shopping import shopping_list


class Kind(Struct, frozen=True):
    """A kind of paper: its key, what it is called, and how it is made of the chosen assembly."""

    key: str
    title: str
    tip: str
    make: Callable[[Cases, Case, str, UnitSystem], Paper]


def _head(case: Case) -> dict[str, str]:
    started = case.job.started
    return {
        "machine": started.machine if started else "",
        "shop": started.shop if started else "",
        "assembly": case.assembly.label,
        "date": clock.today().isoformat(),
    }


def _part(case: Case, key: str, system: UnitSystem) -> tuple[str, Part]:
    keys = [*case.part_keys(), *case.extra_parts()] or list(case.default_parts)
    if not keys or not case.has_parts:
        raise InputError(f"a part of {case.assembly.label}", "choose a remedy that makes one first")
    if key and key not in keys:
        raise InputError(f"the part “{key}”", f"it must be one of {', '.join(keys)}")
    return key or keys[0], case.part(key or keys[0], system)


def _route(case: Case, key: str, system: UnitSystem) -> Words:
    """One operation a line, with a box to tick and room for what was measured."""
    key, part = _part(case, key, system)
    done = case.job.steps_done(case.part_name(key))
    rows = [
        {
            "number": o.number,
            "title": in_units(o.title, system),
            "detail": in_units(o.detail, system),
            "hold": "; ".join(filter(None, (in_units(o.hold, system), in_units(o.tool, system)))),
            "caution": in_units(o.caution, system),
            "target": show_sizes(o.target.band.low_mm, o.target.band.high_mm, system) if o.target else "",
            "minutes": show_minutes(o.minutes),
            "box": "☑" if o.key in done else "☐",
        }
        for o in case.route(key, system)
    ]
    facts = {**_head(case), "part": part.title, "material": part.material, "rows": rows}
    return filled("route_sheet.html", facts)


def route_paper(_cases: Cases, case: Case, key: str, system: UnitSystem) -> Paper:
    """The route of a part. Raises InputError where none is made."""
    return Paper("Route", [_route(case, key, system)])


def part_paper(_cases: Cases, case: Case, key: str, system: UnitSystem) -> Paper:
    """A part whole: drawing, sizes with their checks, route. Raises InputError where none is made."""
    key, part = _part(case, key, system)
    sizes = [
        {"label": line.label, "value": size_text(line, system), "note": line.note, "is_key": line.is_key}
        for line in part.rows
    ]
    checks = [{"box": "✓" if c.is_ok else "✗", "words": c.sentence} for c in case.part_checks(key, system)]
    facts = {
        **_head(case),
        "part": part.title,
        "material": part.material,
        "unit": "in" if system is UnitSystem.INCH else "mm",
        "sizes": sizes,
        "checks": checks,
        "asked": case.asked_for(key, system),
    }
    drawing = Drawn(part, system, title_of(case))
    sheets: list[Words | Drawn] = [drawing, filled("part_sizes.html", facts)]
    if case.route(key, system):
        sheets.append(_route(case, key, system))
    return Paper(part.title, sheets)


def buying_paper(cases: Cases, case: Case, _key: str, system: UnitSystem) -> Paper:
    """The list to buy of the whole job, to print or send. Raises InputError where nothing is to be bought."""
    found = shopping_list(cases, read_rack().bars, system)
    if not found:
        raise InputError("the list to buy", "choose a remedy that makes or buys something first")
    groups = [
        {
            "head": head,
            "rows": [
                {
                    "count": w.count,
                    "words": in_units(w.words, system),
                    "parts": ", ".join(w.parts),
                    "measure": [in_units(m, system) for m in w.measure],
                    "usual": w.usual,
                }
                for w in found
                if w.kind == kind
            ],
        }
        for kind, head in KINDS_TO_BUY.items()
        if any(w.kind == kind for w in found)
    ]
    return Paper("List to buy", [filled("buying.html", {**_head(case), "groups": groups})])


def acceptance_paper(_cases: Cases, case: Case, _key: str, system: UnitSystem) -> Paper:
    """What was found, mended and proven. Raises InputError where nothing was read."""
    return sheet_of(case, system)


KINDS = (
    Kind("part", "Part, whole", "Drawing, sizes and route of the part looked at", part_paper),
    Kind("route", "Route", "One operation a line, with boxes to tick", route_paper),
    Kind("readings", "Readings", "Every reading of this assembly, as taken", readings_paper),
    Kind("buying", "List to buy", "All that the whole job wants bought, to print or send", buying_paper),
    Kind(
        "outside",
        "Job for a firm",
        "What it is told: as found, wanted, from what, in which order",
        outside_paper,
    ),
    Kind(
        "before_after",
        "Before and after",
        "A picture of each assembly, as found, foretold and proven",
        before_after_paper,
    ),
    Kind("owner", "Page for the owner", "In plain words: found, done, what it holds now", owner_paper),
    Kind("acceptance", "Acceptance sheet", "Before and after, and what is left", acceptance_paper),
)


def paper_of(cases: Cases, case: Case, kind: str, part: str, system: UnitSystem) -> Paper:
    """A paper by its key. Raises InputError for a key that is none, or where there is nothing to print."""
    for one in KINDS:
        if one.key == kind:
            return one.make(cases, case, part, system)
    raise InputError(f"a paper “{kind}”", f"it must be one of {', '.join(one.key for one in KINDS)}")
