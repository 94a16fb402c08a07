"""What the owner is told of the whole machine, in plain words: what was said, wrong and done, what it holds,
what was left and why, what to look at and when.
"""

from __future__ import annotations

from msgspec import Struct

from trebb.core.dates import full_words
from trebb.core.errors import InputError
from trebb.core.machine import State
from trebb.core.units import UnitSystem, show_small
from trebb.core.words import small
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.verdict import proof_verdict
from trebb.logbook.log.own import own_told
from trebb.logbook.plan.afterwards import again_list
from trebb.logbook.plan.made_work import came_of, made_work
from trebb.logbook.plan.suspicion import causes_table


class Told(Struct, frozen=True):
    """Of one assembly: its name, what was wrong, what was done or is chosen, what it holds, why it was left.
    Empty where there is nothing to say.
    """

    label: str
    wrong: str = ""
    done: str = ""
    holds: str = ""
    left: str = ""


class OwnerPage(Struct, frozen=True):
    """All of it; `said` are the owner's own words with what became of them, `again` what and when to look,
    `makes` pieces of work and how they come out.
    """

    said: tuple[tuple[str, str], ...]
    told: tuple[Told, ...]
    again: tuple[tuple[str, str], ...]
    left: str
    makes: tuple[tuple[str, str], ...] = ()


def owner_page(cases: Cases, system: UnitSystem) -> OwnerPage:
    """The page. Raises InputError where nothing was read or done yet."""
    told = tuple(t for a in cases.kind.assemblies if (t := _of(cases.of(a.key), system)) is not None)
    if not told:
        raise InputError("a page for the owner", "read something first, or write what was found")
    again = tuple(
        (f"{a.what}{f' ({a.label})' if a.label else ''}", full_words(a.due))
        for a in again_list(cases)
        if a.done is None and a.due is not None
    )
    return OwnerPage(_said(cases), told, again, cases.job.note("left"), _makes(cases, system))


def _makes(cases: Cases, system: UnitSystem) -> tuple[tuple[str, str], ...]:
    """How the work comes out: as it was measured, else as it was found to be made."""
    found = []
    for p in made_work(cases).pieces:
        came = came_of(cases, p.piece)
        if came:
            off = [c for c in came if not c.is_inside]
            worst = max(off or came, key=lambda c: abs(c.made_mm) / c.foretold.tolerance_mm)
            size = show_small(abs(worst.made_mm), system)
            found.append(
                (p.piece.title, f"made and measured, {'inside' if not off else 'not inside'}: {size}")
            )
        elif p.told:
            most = max(p.told, key=lambda m: m.ratio)
            size, may = (show_small(mm, system) for mm in (abs(most.value.value), most.tolerance_mm))
            found.append((p.piece.title, f"as it was found {size} off where {may} may be"))
    return tuple(found)


def _said(cases: Cases) -> tuple[tuple[str, str], ...]:
    """What the owner marked, and whether it is still there."""
    marked = cases.job.matters("symptom")
    after = {"yes": "still there", "no": "gone"}
    return tuple(
        (s.words, after.get(str(marked[s.key].get("after", "")), "not tried again yet"))
        for s in causes_table()[0].symptoms
        if marked.get(s.key, {}).get("there") == "yes"
    )


def _of(case: Case, system: UnitSystem) -> Told | None:
    own, chosen = own_told(case.job, case.assembly_key), case.chosen
    wrong = str(own.get("finding", ""))
    if case.has_set_ups and case.is_measured:
        over = [f.sentence for f in case.findings(system) if f.state is State.BEYOND]
        wrong = over[0] if over else wrong
        if not over and not wrong and case.state is State.WITHIN:
            return Told(case.assembly.label, holds="It is within its limits as it was found.")
    reason = case.job.chosen(case.assembly_key)
    why = reason.reason if reason is not None else ""
    if chosen is not None and chosen.key == "leave":
        return Told(case.assembly.label, wrong, left=f"Left as it is{f': {why}' if why else ''}.")
    if chosen is None:
        mended = str(own.get("remedy", ""))
        if not wrong and not mended:
            return None
        return Told(case.assembly.label, wrong, done=mended, left="" if mended else "Not decided yet.")
    again = case.progress("after")[0] if case.has_set_ups else 0
    is_done = bool(again) or bool(case.job.steps_done(case.fit_plan))
    done = f"{chosen.title}." if is_done else f"To be done: {small(chosen.title)}."
    holds = proof_verdict(case, system)[1] if again else "Not measured again yet." if is_done else ""
    return Told(case.assembly.label, wrong, done, holds)
