"""What the chosen parts need before anything starts: blanks from bar, tools and consumables by part."""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import TrebbError
from trebb.core.making.bought import is_bought
from trebb.core.making.stock import Blank, blank_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.plan.before_fit import part_title, tools_in


class Need(Struct, frozen=True):
    """A tool, or what is used up, with the parts it is for; `there` "yes", "no" or "" where not said."""

    words: str
    parts: tuple[str, ...]
    there: str


class Bill(Struct, frozen=True):
    """Blanks, tools, what else parts are made from in words, and parts that cannot be worked out yet."""

    blanks: tuple[Blank, ...]
    tools: tuple[Need, ...]
    others: tuple[tuple[str, str], ...]  # part, stock in words
    unknown: tuple[str, ...]


def bill_of(cases: Cases, system: UnitSystem = UnitSystem.INCH) -> Bill:
    """The bill of every part of every chosen remedy that is made here and not finished."""
    blanks: list[Blank] = []
    tools: dict[str, list[str]] = {}
    others: list[tuple[str, str]] = []
    unknown: list[str] = []
    for case in cases.measurable():
        if case.chosen is None or case.chosen.key == "leave":
            continue
        for key in case.parts_here():
            name = f"{case.assembly.label}: {part_title(case, key)}"
            try:
                if is_bought(case.part_facts(key)):
                    if not case.job.steps_done(case.part_name(key)):  # it has not come yet
                        others.append((name, "bought: " + "; ".join(case.asked_for(key, system))))
                    continue
                part, route = case.part(key, system), case.route(key, system)
            except TrebbError:
                unknown.append(name)
                continue
            done = case.job.steps_done(case.part_name(key))
            if all(o.key in done for o in route):
                continue
            blank = blank_of(name, f"{case.assembly_key}.{key}", part)
            if blank is None:
                others.append((name, part.stock_words))
            elif not done:  # begun: its bar is cut
                blanks += [blank, *(replace(blank, spare=True) for _ in range(part.blanks - 1))]
            for o in route:
                if o.key not in done:
                    for tool in tools_in(o.tool):
                        tools.setdefault(tool, []).append(name)
    said = cases.job.matters("tool")
    needs = tuple(
        Need(tool, tuple(dict.fromkeys(names)), str(said.get(tool, {}).get("there", "")))
        for tool, names in sorted(tools.items(), key=lambda t: t[0].lower())
    )
    return Bill(tuple(blanks), needs, tuple(others), tuple(unknown))
