"""Which entries may be recorded: what a field, the command line or an import brings, checked in one place."""

from __future__ import annotations

from collections.abc import Sequence

from trebb.core.errors import InputError
from trebb.core.machine import CLASS_LIMITS, Assembly, kind_of
from trebb.core.parts.feature_lines import MOST_LETTERS as MOST_LIST_LETTERS
from trebb.core.remedies import JOINED
from trebb.core.stating import card_schema, limit_fact, schema_of
from trebb.core.stating.matters import matter_schema
from trebb.core.survey import admit_reading
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases, own_set_up
from trebb.logbook.cases.composing import refuse_apart
from trebb.logbook.log.entries import (
    AssemblyAdded,
    Body,
    CardChanged,
    FactStated,
    LimitSet,
    MatterStated,
    PartSet,
    ReadingTaken,
    RemedyChosen,
    SizeTaken,
)
from trebb.logbook.log.fold import Job
from trebb.logbook.log.fold_facts import why_not_added

MOST_SIZE_MM = 10_000.0
MOST_PART_VALUE = 100_000.0


def admit_together(cases: Cases, bodies: Sequence[Body]) -> None:
    """Refuse a gesture of which anything could not be used: nothing of it is then stored.

    Facts of one assembly stated in one breath are judged as one (a travel and the ways along it), sizes of a
    part by whether the part and its route can still be worked out. Raises InputError naming what was given
    and what would do.
    """
    facts = [body for body in bodies if isinstance(body, FactStated)]
    added = {
        body.assembly: body.family for body in bodies if isinstance(body, AssemblyAdded) and not body.gone
    }
    apart = len(facts) > 1 or bool(added)
    for body in bodies:
        if not (isinstance(body, FactStated) and apart):
            admit(cases.job, cases, body)
    for assembly in dict.fromkeys(body.assembly for body in facts) if apart else ():
        of = [body for body in facts if body.assembly == assembly]
        _facts(cases.job, assembly, of, added.get(assembly))
    sizes = [body for body in bodies if isinstance(body, PartSet)]
    if sizes:
        from trebb.logbook.cases.supposing import refuse_unmakeable

        refuse_unmakeable(cases, sizes)


def admit(job: Job, cases: Cases, body: Body) -> None:
    """Refuse an entry that could not be used in this job as it stands.

    Raises InputError naming what was given and what would do. Each of these
    checks is made again when a job is opened, where what will not do is set
    aside; see `Job.set_aside` and `Case.set_aside`.
    """
    match body:
        case FactStated():
            _facts(job, body.assembly, [body])
        case CardChanged():
            card_schema().fact(body.field).admitted(body.value)
        case LimitSet():
            if body.key not in CLASS_LIMITS["ordinary"]:
                raise InputError(f"limit “{body.key}”", f"limits are {', '.join(CLASS_LIMITS['ordinary'])}")
            limit_fact(CLASS_LIMITS["ordinary"][body.key].label).admitted(body.limit_mm)
        case ReadingTaken():
            _reading(cases, body)
        case SizeTaken():
            if not 0 <= body.value_mm <= MOST_SIZE_MM:
                raise InputError(f"{body.value_mm:g} mm", f"a size is from nothing to {MOST_SIZE_MM:g} mm")
        case PartSet():
            _part_value(body)
        case AssemblyAdded():
            _assembly(job, body)
        case MatterStated():
            matter_schema(body.matter).fact(body.field).admitted(body.value)
            if body.matter == "box":
                from trebb.logbook.cases.boxes import refuse_unlisted

                refuse_unlisted(job, body)
        case RemedyChosen():
            _choice(cases.of(body.assembly), body.remedy)
        case _:
            pass


def _choice(case: Case, key: str) -> None:
    """Several together must be able to stand so; what a newer Trebb knows is kept."""
    keys = key.split(JOINED)
    if len(keys) > 1 and set(keys) <= {r.key for r in case.possible()}:
        refuse_apart(case, keys)


def _assembly(job: Job, body: AssemblyAdded) -> None:
    kind, known = job.machine, job.machine.has(body.assembly)
    if body.gone:
        if not known or kind_of(job.kind_key).has(body.assembly):
            raise InputError(f"“{body.assembly}”", "only what was added can be taken off")
        if kind.pieces_of(body.assembly):
            raise InputError(f"“{body.label}”", "take its pieces off first")
        return
    if not body.label.strip():
        raise InputError("no name", "give it one, such as “dial shaft”")
    why = why_not_added(kind, Assembly(body.assembly, body.label, body.family, body.under))
    if why is not None:
        raise InputError(f"“{body.label}”", why)


def _facts(job: Job, assembly: str, bodies: Sequence[FactStated], added: str | None = None) -> None:
    """`added` : the family of one that is added in the same gesture."""
    family = job.machine.assembly(assembly).family if added is None else added
    if not family:
        raise InputError(f"“{assembly}”", "nothing can be stated of it yet")
    schema = schema_of(family)
    if schema.holder not in ("", assembly):
        raise InputError(f"“{assembly}”", f"its facts are stated of “{schema.holder}”")
    for body in bodies:
        schema.fact(body.field).admitted(body.value)
    stated = {body.field: body.value for body in bodies}
    schema.subject(job.machine.works_as, assembly, {**job.facts_of(assembly), **stated})


def _reading(cases: Cases, body: ReadingTaken) -> None:
    case = cases.of(body.assembly)
    s = own_set_up(case, body.set_up)
    if body.place not in case.place_keys(s.key):
        raise InputError(
            f"place “{body.place}”", f"{s.key} has {'; '.join(p.key for p in case.places(s.key))}"
        )
    if body.unit != s.unit:
        raise InputError(f"a reading in {body.unit}", f"{s.key} is read in {s.unit}")
    admit_reading(s, case.read_as(body.phase), body.place, body.value)


def _part_value(body: PartSet) -> None:
    if isinstance(body.value, str):
        if len(body.value) > MOST_LIST_LETTERS:
            raise InputError(f"{len(body.value)} letters", f"no more than {MOST_LIST_LETTERS}")
    elif abs(body.value) > MOST_PART_VALUE:
        raise InputError(f"{body.value:g}", f"no size is more than {MOST_PART_VALUE:g} mm")
