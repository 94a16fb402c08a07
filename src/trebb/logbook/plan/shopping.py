"""The list to buy of a whole job: bars, parts bought whole, standard parts, missing tools."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from msgspec import Struct

from trebb.core.errors import TrebbError
from trebb.core.items import Item
from trebb.core.making.bought import is_bought
from trebb.core.making.stock import KERF_MM, WASTE_MM, Bar, Cut, Cutting, cutting
from trebb.core.metals import MATERIALS
from trebb.core.parts.goes_with import items_of
from trebb.core.units import INCH_MM, UnitSystem
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.before_fit import part_title
from trebb.logbook.plan.bill import Bill, bill_of

# Length of a bar, where nobody said what is sold.
BUY_MM = {UnitSystem.METRIC: 1000.0, UnitSystem.INCH: 36 * INCH_MM}
KINDS = {
    "bar": "Bar",
    "part": "Parts bought whole",
    "missing": "Missing, or hurt, of what came in boxes",
    "standard": "Standard parts",
    "stock": "Other stock",
    "tool": "Tools, and what is used up, that are missing",
    "unknown": "Not worked out yet: see Parts",
}


class Wanted(Struct, frozen=True):
    """A line of the list.

    Parameters
    ----------
    kind : a key of `KINDS`.
    words : what to ask a seller for, and how many of it.
    parts : what it is for, assembly and part.
    measure : what to ask for by size, and to measure when it comes: what is off sends it back.
    usual : its sizes are usual ones that nobody stated: measure yours first.
    """

    kind: str
    words: str
    count: int
    parts: tuple[str, ...]
    measure: tuple[str, ...] = ()
    usual: bool = False


def cuts_of(bill: Bill, job: Job, bars: Sequence[Bar], system: UnitSystem) -> Cutting:
    """How the blanks are cut, from the rack and from bars to buy, by the job's own saw and bars."""
    return cutting(
        bill.blanks,
        bars,
        kerf_mm=job.plan_number("kerf", KERF_MM),
        waste_mm=job.plan_number("waste", WASTE_MM),
        buy_mm=job.plan_number("bar_length", BUY_MM[system]),
        system=system,
    )


def sawn(mm: float, system: UnitSystem) -> str:
    """A length to be sawn: as near as a saw cuts."""
    return f"{mm / INCH_MM:.2f} in" if system is UnitSystem.INCH else f"{mm:.0f} mm"


def section_words(shape: str, size_mm: float, width_mm: float, system: UnitSystem) -> str:
    """A bar's section: "Ø 0.81 in", "10 mm × 40 mm"."""
    if shape == "round":
        return f"Ø {sawn(size_mm, system)}"
    return f"{sawn(size_mm, system)} × {sawn(width_mm, system)}"


def bar_words(cut: Cut, job: Job, system: UnitSystem) -> str:
    """A bar to buy: metal, section, how much of it at least, and in what lengths it is counted."""
    kerf, waste = job.plan_number("kerf", KERF_MM), job.plan_number("waste", WASTE_MM)
    need = sum(b.length_mm + kerf for b in cut.blanks) + waste * cut.to_buy
    section = section_words(cut.shape, cut.size_mm, cut.width_mm, system)
    return (
        f"{MATERIALS[cut.metal].label} {section}, {sawn(need, system)} or more "
        f"({cut.to_buy} of {sawn(cut.buy_mm, system)})"
    )


def shopping_list(cases: Cases, bars: Sequence[Bar], system: UnitSystem) -> tuple[Wanted, ...]:
    """Everything to be bought before the chosen repairs can be done, by kind; what is finished, in the rack,
    or marked as here, is not in it.
    """
    bill, job = bill_of(cases, system), cases.job
    found = [
        Wanted("bar", bar_words(cut, job, system), cut.to_buy, _once(b.name for b in cut.blanks))
        for cut in cuts_of(bill, job, bars, system).cuts
        if cut.to_buy
    ]
    standard: dict[tuple[str, bool], tuple[int, list[str]]] = {}
    for case in cases.measurable():
        if case.chosen is None or case.chosen.key == "leave":
            continue
        found += _bought_of(case, system)
        for name, item, usual in _items_of(case, system):
            count, names = standard.get((item.words(system), usual), (0, []))
            standard[item.words(system), usual] = (count + item.count, [*names, name])
    found += [
        Wanted("standard", words, count, _once(names), usual=usual)
        for (words, usual), (count, names) in standard.items()
    ]
    found += _missing_of(cases)
    found += [Wanted("stock", words, 1, (name,)) for name, words in bill.others if not is_whole(words)]
    found += [Wanted("tool", n.words, 1, n.parts) for n in bill.tools if n.there == "no"]
    found += [Wanted("unknown", name, 1, ()) for name in bill.unknown]
    return tuple(sorted(found, key=lambda w: list(KINDS).index(w.kind)))


def _missing_of(cases: Cases) -> Iterator[Wanted]:
    """What came in no box: found, or made, or bought, it is on the list until it is here."""
    for assembly in cases.kind.assemblies:
        if (boxed := cases.of(assembly.key).boxed) is not None:
            for thing in boxed.lacking:
                measure = tuple(filter(None, (boxed.at(thing.key).measured, thing.take)))
                yield Wanted("missing", thing.what, thing.many, (assembly.label,), measure)


def _once(names: Iterable[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(names))


def is_whole(words: str) -> bool:
    """Whether a line of the bill beside bars is a part bought whole."""
    return words.startswith("bought: ")


def _bought_of(case: Case, system: UnitSystem) -> Iterator[Wanted]:
    for key in case.parts_here():
        try:
            if not is_bought(case.part_facts(key)) or case.job.steps_done(case.part_name(key)):
                continue
            title, asked = part_title(case, key), tuple(case.asked_for(key, system))
        except TrebbError:
            continue
        yield Wanted("part", title, 1, (case.assembly.label,), asked)


def _items_of(case: Case, system: UnitSystem) -> Iterator[tuple[str, Item, bool]]:
    """What a repair and the parts made for it want bought ready, and whether by usual sizes; what a part of
    its own makes is not bought.
    """
    assert case.chosen is not None
    if not case.job.steps_done(case.fit_plan):
        for item in case.chosen.items(case.subject):
            yield case.assembly.label, item, any(fact not in case.facts for fact in item.facts)
    made = set(case.parts_here())
    for key in case.parts_here():
        try:
            part = case.part(key, system)
        except TrebbError:
            continue
        if case.job.steps_done(case.part_name(key)) and all(
            o.key in case.job.steps_done(case.part_name(key)) for o in case.route(key, system)
        ):
            continue
        for item in items_of(part):
            own = "key" if item.what.lower().startswith(("key", "woodruff")) else "pin"
            if not any(own in other for other in made - {key}):
                yield f"{case.assembly.label}: {part.title}", item, bool(part.usual)
