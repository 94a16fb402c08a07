"""What the shell offers at Tab: of the job named on the line its assemblies, set-ups, places, parts, remedies
and facts.
"""

from __future__ import annotations

import argparse
from collections.abc import Callable, Iterable, Mapping
from pathlib import Path

import argcomplete
from argcomplete.completers import FilesCompleter

from trebb.core.errors import TrebbError
from trebb.core.register import FAMILIES
from trebb.core.remedies import remedies_of
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.log.fold import Job

# Words that stand for an assembly where facts of the machine as a whole are stated.
WHOLE = ("card", "limits")


def _cases(given: argparse.Namespace) -> Cases | None:
    """The job named on the line; None where there is none that can be read."""
    path = getattr(given, "file", None)
    if not isinstance(path, str | Path):
        return None
    try:
        with JobLookedAt.look(Path(path)) as job_file:
            return Cases(Job(job_file.entries()))
    except (TrebbError, OSError):
        return None


def _case(given: argparse.Namespace) -> Case | None:
    cases, key = _cases(given), getattr(given, "assembly", None)
    if cases is None or not isinstance(key, str) or not cases.kind.has(key):
        return None
    return cases.of(key)


def assemblies(given: argparse.Namespace) -> Mapping[str, str]:
    """Keys with what they are called."""
    cases = _cases(given)
    found = {a.key: a.label for a in cases.kind.assemblies} if cases is not None else {}
    return {**found, **dict.fromkeys(WHOLE, "")} if given.command == "state" else found


def set_ups(given: argparse.Namespace) -> Mapping[str, str]:
    """Set-ups of the assembly."""
    case = _case(given)
    return {s.key: s.title for s in case.set_ups} if case is not None else {}


def places(given: argparse.Namespace) -> Iterable[str]:
    """Places of the set-up."""
    case = _case(given)
    known = {s.key: s for s in case.set_ups} if case is not None else {}
    s = known.get(str(getattr(given, "set_up", "")))
    return [p.key for p in s.places(case.subject)] if s is not None and case is not None else []


def parts(given: argparse.Namespace) -> Iterable[str]:
    """Parts that can be made of the assembly."""
    case = _case(given)
    return (*case.part_keys(), *case.extra_parts()) if case is not None and case.has_parts else ()


def remedies(given: argparse.Namespace) -> Mapping[str, str]:
    """Remedies of the assembly."""
    case = _case(given)
    return {r.key: r.title for r in remedies_of(case.family)} if case is not None else {}


def facts(given: argparse.Namespace) -> Iterable[str]:
    """Facts of the assembly, each with its equals sign."""
    case = _case(given)
    if case is None or case.schema is None:
        return []
    return [f"{f.key}=" for f in case.schema.facts if f.applies(case.subject)]


def families(given: argparse.Namespace) -> Mapping[str, str]:
    """Families of pieces."""
    return {key: family.one for key, family in FAMILIES.items() if family.added}


# What an argument is completed by, by its name.
OFFERS: dict[str, Callable[[argparse.Namespace], Mapping[str, str] | Iterable[str]]] = {
    "assembly": assemblies,
    "under": assemblies,
    "set_up": set_ups,
    "place": places,
    "part": parts,
    "remedy": remedies,
    "pairs": facts,
    "family": families,
}
JOBS = ("file", "other")


def complete(top: argparse.ArgumentParser) -> None:
    """Answer the shell, and end; nothing where it did not ask."""
    for action in top._actions:
        if not isinstance(action, argparse._SubParsersAction):
            continue
        for name, command in action.choices.items():
            for one in command._actions:
                offer = assemblies if (name, one.dest) in OF_ASSEMBLY else OFFERS.get(one.dest)
                if offer is not None:
                    one.completer = _asked(name, offer)
                elif one.dest in JOBS:
                    one.completer = FilesCompleter(["trebb"])
    argcomplete.autocomplete(top, always_complete_options="long")


# Commands whose “part” is a part of the machine.
OF_ASSEMBLY = {(name, "part") for name in ("findings", "remedies", "report")}


def _asked(
    command: str, offer: Callable[[argparse.Namespace], Mapping[str, str] | Iterable[str]]
) -> Callable[..., Mapping[str, str] | list[str]]:
    def completer(parsed_args: argparse.Namespace, **_: object) -> Mapping[str, str] | list[str]:
        parsed_args.command = command
        found = offer(parsed_args)
        return found if isinstance(found, Mapping) else list(found)

    return completer
