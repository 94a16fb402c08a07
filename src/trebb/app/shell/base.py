"""What every command of the shell stands on: the job opened, entries admitted, what is said."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from trebb.core.errors import InputError
from trebb.core.units import UnitSystem
from trebb.logbook.cases.admitting import admit_together
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import Body
from trebb.logbook.log.fold import Job
from trebb.logbook.memory.taught_for import taught_for

Argument = tuple[str, dict[str, Any]]
Command = tuple[str, str, Callable[[argparse.Namespace], int], tuple[Argument, ...]]
TURN_S = 2.0  # so long another program may have the job before a command gives up
FILE: Argument = ("file", {"type": Path})


def system_of(given: argparse.Namespace) -> UnitSystem:
    """The units that bare numbers are in."""
    return UnitSystem(given.units)


def say(given: argparse.Namespace, plain: Any, lines: Sequence[str]) -> int:
    """Print plain values as JSON, or lines."""
    print(json.dumps(plain, ensure_ascii=False, indent=1) if given.json else "\n".join(lines))
    return 0


def plainly(value: object) -> str:
    """A value for a line of words: 44.45, not what binary fractions make of it."""
    return f"{value:.10g}" if isinstance(value, float) else str(value)


def open_job(given: argparse.Namespace, *, writes: bool = False) -> tuple[JobFile, Cases]:
    """The job of a command: looked at, whoever has it; one that `writes` waits for its turn. Raises
    JobFileError.
    """
    job_file = JobFile.open(given.file, wait_s=TURN_S) if writes else JobLookedAt.look(given.file)
    if unguarded := job_file.unguarded():
        print(f"trebb: {given.file.name}: {unguarded}", file=sys.stderr)
    job = Job(job_file.entries())
    return job_file, Cases(job, taught_for(job)[0])


def pairs_of(texts: Sequence[str]) -> list[tuple[str, str]]:
    """Fields and values as typed. Raises InputError."""
    found = []
    for text in texts:
        key, equals, value = text.partition("=")
        if not equals or not key.strip():
            raise InputError(f"“{text}”", "write a field, = and its value, such as travel_mm=8in")
        found.append((key.strip(), value))
    return found


def record(job_file: JobFile, cases: Cases, bodies: Sequence[Body]) -> None:
    """One gesture: all of it is admitted, or nothing of it is stored."""
    admit_together(cases, bodies)
    job_file.append(bodies)
