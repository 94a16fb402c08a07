"""From a suspect to work: where it is, the set-up that proves it, its usual remedies; a piece that is added
for it where the machine has none of its kind yet. And what marks at a spacing may come from on this machine.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.remedies import Remedy, remedies_of
from trebb.core.stating import schema_of
from trebb.core.survey import set_ups_of
from trebb.core.suspects.ranking import Suspect
from trebb.core.suspects.spacing import Match, Turn, matches
from trebb.core.units import UnitSystem, show_size
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.drive_case import DriveCase
from trebb.logbook.log.entries import AssemblyAdded, Body, FactStated


class Lead(Struct, frozen=True):
    """Where a suspect is worked on: its assembly or piece, the set-up that proves it, remedies that usually
    mend it. `adds` are the entries that make the piece, none where it is there.
    """

    assembly: str
    label: str
    set_up: str
    set_up_title: str
    remedies: tuple[Remedy, ...]
    adds: tuple[Body, ...] = ()


def lead_of(suspect: Suspect, cases: Cases) -> Lead | None:
    """What a suspect leads to; None where nothing of this machine can be surveyed for it."""
    cause, kind = suspect.cause, cases.kind
    adds: tuple[Body, ...] = ()
    if cause.piece is not None:
        under = kind.root_of(suspect.assembly) if suspect.assembly else kind.assemblies[0].key
        key, family, label = f"{cause.key}_{under}"[:60], cause.piece.family, cause.piece.label
        if not kind.has(key):
            taken = {a.label.casefold() for a in kind.assemblies}
            names = (label if i == 1 else f"{label} {i}" for i in range(1, 1000))
            label = next(n for n in names if n.casefold() not in taken)
            schema = schema_of(family)
            facts = [
                FactStated(key, fact, schema.fact(fact).typed(text, UnitSystem.METRIC))
                for fact, text in cause.piece.facts.items()
            ]
            adds = (AssemblyAdded(key, label, family, under), *facts)
        else:
            label = kind.assembly(key).label
    elif suspect.assembly:
        key, label = suspect.assembly, kind.assembly(suspect.assembly).label
        family = kind.assembly(key).family
    else:
        return None
    titles = {s.key: s.title for s in set_ups_of(family)} if family else {}
    known = {r.key: r for r in remedies_of(family)} if family else {}
    set_up = cause.set_up if cause.set_up in titles else ""
    usual = tuple(known[r] for r in cause.remedies if r in known)
    return Lead(key, label, set_up, titles.get(set_up, ""), usual, adds)


def turns_of(cases: Cases) -> tuple[Turn, ...]:
    """What turns on this machine while a slide travels, as far as it is stated."""
    found = []
    for case in cases.measurable():
        label, key = case.assembly.label, case.assembly_key
        if isinstance(case, DriveCase) and case.is_stated:
            found.append(Turn(f"a turn of {label}", key, case.drive.thread.lead_mm))
        elif case.family == "gear" and case.assembly.under == "apron" and "name" in case.facts:
            tooth = math.pi * case.subject.module_mm
            found.append(Turn(f"a tooth of {label}", key, tooth))
            found.append(Turn(f"a turn of {label}", key, tooth * case.subject.teeth))
    return tuple(found)


def turns_unstated(cases: Cases) -> tuple[str, ...]:
    """Screws whose pitch nobody stated, by their assemblies: marks may be from them too."""
    return tuple(
        case.assembly_key for case in cases.measurable() if isinstance(case, DriveCase) and not case.is_stated
    )


def spacing_of(cases: Cases) -> float | None:
    """The spacing of marks as typed, mm."""
    value = cases.job.matter("symptom", "marks_pitch").get("spacing_mm")
    return float(value) if isinstance(value, int | float) and value else None


def spacing_matches(cases: Cases) -> tuple[Match, ...]:
    """What on this machine turns once, or half, from mark to mark."""
    spacing = spacing_of(cases)
    return matches(spacing, turns_of(cases)) if spacing is not None else ()


def spacing_words(cases: Cases, system: UnitSystem) -> str:
    """What marks at the spacing typed may come from, in a sentence; "" where none was typed."""
    spacing = spacing_of(cases)
    if spacing is None:
        return ""
    found, size = spacing_matches(cases), show_size(spacing, system)
    if found:
        which = "; ".join(
            f"{m.turn.words} ({show_size(m.turn.travel_mm, system)}"
            f"{', two marks each' if m.marks > 1 else ''})"
            for m in found[:3]
        )
        return f"{size} is {which}."
    turns = turns_of(cases)
    if not turns:
        return f"{size}: no pitch of this machine is stated yet."
    near = min(turns, key=lambda t: abs(math.log(spacing / t.travel_mm)))
    return (
        f"{size} is no turn of what is stated; nearest is {near.words}, {show_size(near.travel_mm, system)}."
    )
