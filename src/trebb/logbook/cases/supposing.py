"""A job as it would be with parts set otherwise: what is refused there is refused before it is stored."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any, cast

from trebb.core.errors import InputError, TrebbError
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import PartSet
from trebb.logbook.log.fold import Job


class _Supposed:
    """A job in whose place parts are set otherwise; everything else is the job's."""

    def __init__(self, job: Job, bodies: Sequence[PartSet]) -> None:
        self._job, self._bodies = job, bodies

    def __getattr__(self, name: str) -> Any:
        return getattr(self._job, name)

    def part_facts(self, part: str) -> dict[str, str | float]:
        """As the job has them, with what is supposed."""
        supposed = {body.field: body.value for body in self._bodies if body.part == part}
        return {**self._job.part_facts(part), **supposed}


def refuse_unmakeable(cases: Cases, bodies: Sequence[PartSet]) -> None:
    """Refuse sizes set by hand with which a part, or its route, can no longer be worked out.

    What could not be worked out before either may be set, and one of several measured sizes while another of
    them is not typed yet: more may be wanting than this. Raises InputError naming what was given and what
    would do.
    """
    if not bodies:
        return
    supposed = Cases(cast(Job, _Supposed(cases.job, bodies)), cases.taught)
    for assembly, key in _parts_named(cases, {body.part for body in bodies}):
        why = _why_not(supposed, assembly, key)
        if why is None or _waits_for_more(cases, supposed, assembly, key, bodies):
            continue
        if _why_not(cases, assembly, key) is None:
            given = ", ".join(f"{body.field.removesuffix('_mm')} {_plain(body.value)}" for body in bodies)
            raise (
                why
                if isinstance(why, TrebbError)
                else InputError(
                    given, "nothing can be made with that; give another size, or none for the usual one"
                )
            )


def _waits_for_more(
    cases: Cases, supposed: Cases, assembly: str, key: str, bodies: Sequence[PartSet]
) -> bool:
    """Whether sizes that were measured are being typed one after another, and some are not typed yet."""
    fields = cases.of(assembly).part_fields(key)
    measured = {field.key for field in fields if field.is_readings}
    is_one = any(body.field in measured for body in bodies)
    return is_one and not measured <= set(supposed.of(assembly).part_facts(key))


def _plain(value: str | float) -> str:
    return f"{value:g}" if isinstance(value, float) else f"“{value[:40]}”"


def _parts_named(cases: Cases, names: set[str]) -> Iterator[tuple[str, str]]:
    """Assembly and key of parts by their names in the logbook."""
    for assembly in cases.kind.assemblies:
        if not assembly.family:
            continue
        case = cases.of(assembly.key)
        for key in {name.partition(".")[0] for name in names}:
            if case.part_name(key) in names and _is_made_there(case, key):
                yield assembly.key, key


def _is_made_there(case: Any, key: str) -> bool:
    try:
        return bool(case.makes(key))
    except KeyError:  # a newer Trebb's part
        return False


def _why_not(cases: Cases, assembly: str, key: str) -> Exception | None:
    """Why a part or its route cannot be worked out; None where both can."""
    case = cases.of(assembly)
    try:
        for system in UnitSystem:
            case.route(key, system)
            case.part_checks(key, system)
            case.part_fields(key, system)
    except (TrebbError, ValueError, ArithmeticError, LookupError) as error:
        return error
    return None
