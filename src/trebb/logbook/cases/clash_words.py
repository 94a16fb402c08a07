"""What two copies of a job state otherwise, in the words of the field that it was typed in."""

from __future__ import annotations

from trebb.core.errors import TrebbError
from trebb.core.facts import Fact
from trebb.core.remedies import JOINED, remedies_of
from trebb.core.stating import card_schema, schema_of
from trebb.core.stating.matters import HEADS, matter_schema
from trebb.core.units import UnitSystem
from trebb.logbook.file.joining import Clash, Side
from trebb.logbook.log.entries import Body, CardChanged, FactStated, MatterStated, RemedyChosen
from trebb.logbook.log.fold import Job


def clash_about(clash: Clash, job: Job) -> str:
    """What it is about: whose field."""
    body, fact = clash.first, _fact(clash.first, job)
    if isinstance(body, RemedyChosen):
        return f"{_label(job, body.assembly)}: remedy"
    if fact is None:
        return clash.about
    if isinstance(body, FactStated):
        return f"{_label(job, body.assembly)}: {fact.words}"
    if isinstance(body, MatterStated):
        return f"{HEADS[body.matter]}, {body.of}: {fact.words}" if body.of else fact.words
    return fact.words


def clash_said(clash: Clash, side: Side, job: Job, system: UnitSystem) -> str:
    """What a copy states, as its field shows it."""
    body, fact = clash.of(side), _fact(clash.first, job)
    if isinstance(body, RemedyChosen) and job.machine.has(body.assembly):
        known = {r.key: r.title for r in remedies_of(job.machine.assembly(body.assembly).family)}
        return "; ".join(known.get(key, key) for key in body.remedy.split(JOINED))
    if fact is None or not isinstance(body, FactStated | MatterStated | CardChanged):
        return clash.words(side)
    try:
        return fact.shown(fact.admitted(body.value), system) or "nothing"
    except TrebbError:
        return str(body.value)


def _label(job: Job, assembly: str) -> str:
    return job.machine.assembly(assembly).label if job.machine.has(assembly) else assembly


def _fact(body: Body, job: Job) -> Fact | None:
    try:
        if isinstance(body, FactStated):
            return schema_of(job.machine.assembly(body.assembly).family).fact(body.field)
        if isinstance(body, MatterStated):
            return matter_schema(body.matter).fact(body.field)
        return card_schema().fact(body.field) if isinstance(body, CardChanged) else None
    except TrebbError:
        return None
