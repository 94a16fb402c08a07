"""What is asked about a reading before it is recorded, by what stands in the job."""

from __future__ import annotations

from collections.abc import Sequence

from trebb.core.survey import AnySetUp
from trebb.core.survey.asking import question_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case import Case
from trebb.logbook.log.entries import Phase


def kind_of_place(place: str) -> str:
    """What is read at a place: "wires, station 3" → "wires"; places of one kind compare with each other."""
    return place.split(",")[0] if "," in place else ""


def asked_first(
    case: Case,
    s: AnySetUp,
    phase: Phase,
    place: str,
    raw: float,
    typed: str,
    system: UnitSystem,
    also: Sequence[float] = (),
) -> str:
    """What to ask before a reading counts, in words; "" for nothing.

    Parameters
    ----------
    raw : in the set-up's own unit; `typed` as it was typed, "" where an instrument showed it.
    also : what is recorded at this place together with it, in the same unit.
    """
    standing = case.job.standing(case.assembly_key, s.key, phase)
    kind = kind_of_place(place)
    at_places = {p.place: list(p.values) for p in standing if kind_of_place(p.place) == kind}
    if also:
        at_places[place] = [*at_places.get(place, ()), *also]
    return question_of(
        s,
        case.read_as(phase),
        place,
        raw,
        at_places=at_places,
        is_signed_as_typed=not typed or typed.strip()[:1] in ("+", "-", "−"),
        system=system,
    )
