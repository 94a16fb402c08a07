"""What Trebb says of many jobs, written down, so that a change of its inside can be compared with before.

    python tools/sayings.py write FILE [JOBS]     the demos and JOBS random jobs of every family
    python tools/sayings.py compare BEFORE AFTER  what is said otherwise, by family and kind

Random jobs come from a fixed seed: facts drawn over what their declarations admit, a hidden condition drawn
from the sources, a random share of the set-ups read. Figures are rounded to a nanometre.
"""

from __future__ import annotations

import json
import random
import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from trebb.core import clock
from trebb.core.errors import TrebbError
from trebb.core.facts import Choice, Fact, Length, Number
from trebb.core.parts.drawing import Title, laid_out
from trebb.core.register import FAMILIES
from trebb.core.remedies import remedies_of
from trebb.core.stating import schema_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.admitting import admit_together
from trebb.logbook.cases.casework import Case, Cases
from trebb.logbook.cases.telling import case_told, part_told, remedies_told, route_told
from trebb.logbook.demo.jobs import DEMOS, readings_left
from trebb.logbook.log.entries import (
    AssemblyAdded,
    Body,
    FactStated,
    JobStarted,
    Planted,
    RemedyChosen,
    gesture_of,
)
from trebb.logbook.log.fold import Job

NOW = datetime(2026, 6, 1, 12, tzinfo=UTC)
OF_A_LATHE = ("ways", "headstock", "tailstock", "stand")
SYSTEMS = (UnitSystem.INCH, UnitSystem.METRIC)


def plain(value: Any) -> Any:
    """A value as JSON compares it: keys as text, figures to a nanometre."""
    if isinstance(value, dict):
        return {str(k): plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [plain(v) for v in value]
    if isinstance(value, float):
        return round(value, 6) + 0.0
    return value if isinstance(value, str | int | bool | None) else str(value)


def tried(what: Any) -> Any:
    """What is said, or the sentence that refuses it."""
    try:
        return plain(what())
    except TrebbError as error:
        return f"refused: {error}"
    except Exception as error:  # a fault too is something to compare
        return f"raised: {type(error).__name__} {error}"


def sheet_of(case: Case, key: str, system: UnitSystem) -> list[str]:
    """Every word of a part's drawing."""
    page, scale = laid_out(case.part(key, system), system, Title())
    return [f"scale {scale:g}", *sorted(str(getattr(one, "words", one)) for one in (*page.texts, *page.dims))]


def said_of(case: Case, system: UnitSystem, *, sheets: bool) -> dict[str, Any]:
    """All that one case says."""
    parts = {
        key: {
            "part": tried(lambda key=key: part_told(case, key, system)),
            "route": tried(lambda key=key: route_told(case, key, system)),
            "sheet": tried(lambda key=key: sheet_of(case, key, system)) if sheets else [],
        }
        for key in dict.fromkeys(
            (*case.part_keys(), *case.extra_parts(), *(k for r in remedies_of(case.family) for k in r.parts))
        )
    }
    return {
        "findings": tried(lambda: case_told(case, system)),
        "remedies": tried(lambda: remedies_told(case, system)),
        "parts": parts,
        "steps": tried(lambda: [[s.key, s.title, list(s.after), s.why, s.minutes] for s in case.fit_order()]),
    }


def drawn_fact(fact: Fact, rng: random.Random) -> str | float | None:
    """A value that a fact's declaration may take; none where it is words or lists."""
    if isinstance(fact, Choice):
        return rng.choice(sorted(fact.choices))
    if isinstance(fact, Length):
        low, high = max(fact.low, 0.5), min(fact.high, 400.0)
        return round(low * (high / low) ** rng.random(), 2) if high > low > 0 else None
    if isinstance(fact, Number):
        low, high = max(fact.low, 0.0), min(fact.high, 200.0)
        value = low + (high - low) * rng.random()
        return float(round(value)) if fact.whole else round(value, 2)
    return None


class Written:
    """A job in memory."""

    def __init__(self, kind: str) -> None:
        self.job, self.cases, self.count = Job(), None, 0
        self.record([JobStarted(shop="Shed", machine="M", machine_kind=kind, machine_class="ordinary")])
        self.cases = Cases(self.job)

    def record(self, bodies: list[Body]) -> None:
        for entry in gesture_of(bodies, self.count + 1, NOW):
            self.job.apply(entry)
            self.count = entry.id


def random_job(family: str, number: int) -> Case:
    """A job of one family: some facts, some readings, perhaps a choice."""
    rng = random.Random(f"{family} {number}")
    record = FAMILIES[family]
    written = Written(
        "lathe" if family in OF_A_LATHE or rng.random() < 0.5 else rng.choice(["mill", "drill"])
    )
    if family == "tram":
        written = Written("mill")
    if record.added:
        written.record(
            [
                AssemblyAdded(
                    assembly="it",
                    label="It",
                    family=family,
                    under=written.job.machine.assemblies[0].key if record.is_piece else "",
                )
            ]
        )
        case = written.cases.of("it")
    else:
        case = next(
            c
            for a in written.job.machine.assemblies
            if (c := written.cases.of(a.key)).assembly.family == family
        )
    for fact in schema_of(family).facts:
        value = drawn_fact(fact, rng) if rng.random() < 0.4 else None
        if value is None:
            continue
        body = FactStated(assembly=case.holder, field=fact.key, value=value)
        try:
            admit_together(written.cases, [body])
        except TrebbError:
            continue
        written.record([body])
    if case.has_set_ups and rng.random() < 0.85:
        condition = {
            s.key: abs(value) if s.is_clearance else value
            for s in case.model_for("before").sources
            for value in [s.mean + s.sd * rng.gauss(0, 1)]
        }
        written.record([Planted(assembly=case.holder, seed=number, condition=condition)])
        kept = {s.key for s in case.set_ups if rng.random() < 0.7}
        written.record([r for r in readings_left(case, "before") if r.set_up in kept] or [])
    possible = [r.key for r in remedies_of(family) if r.applies(case.subject)]
    if possible and rng.random() < 0.7:
        choice = rng.choice(possible)
        written.record([RemedyChosen(assembly=case.assembly_key, remedy=choice, reason="")])
    return case


def all_said(jobs: int) -> Iterator[tuple[str, dict[str, Any]]]:
    """Name and what is said: of the demos' every assembly, then of the random jobs."""
    with tempfile.TemporaryDirectory() as folder:
        for kind, make in DEMOS.items():
            with make(Path(folder) / f"{kind}.trebb") as file:
                job = Job(file.entries())
                cases = Cases(job)
                for a in (a for a in job.machine.assemblies if a.family):
                    for system in SYSTEMS:
                        name = f"demo {kind}/{a.key}/{system.value}"
                        yield name, said_of(cases.of(a.key), system, sheets=True)
    for family in FAMILIES:
        for number in range(jobs):
            case = random_job(family, number)
            yield f"{family}/{number}", said_of(case, SYSTEMS[number % 2], sheets=number < 6)


def differences(before: Any, after: Any, path: str = "") -> Iterator[tuple[str, Any, Any]]:
    """Where two of them differ: path, before, after."""
    if isinstance(before, dict) and isinstance(after, dict):
        for key in {**before, **after}:
            yield from differences(before.get(key), after.get(key), f"{path}.{key}")
    elif isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        for i, (a, b) in enumerate(zip(before, after, strict=True)):
            yield from differences(a, b, f"{path}[{i}]")
    elif before != after:
        yield path, before, after


def main(given: list[str]) -> int:
    if given[:1] == ["write"]:
        clock.give(lambda: NOW)
        said = dict(all_said(int(given[2]) if len(given) > 2 else 15))
        Path(given[1]).write_text(json.dumps(said, indent=0, ensure_ascii=False))
        print(len(said), "cases,", Path(given[1]).stat().st_size // 1000, "kB")
        return 0
    before, after = (json.loads(Path(p).read_text()) for p in given[1:3])
    found = list(differences(before, after))
    kinds = Counter(
        path.split(".")[1].split("/")[0] + " " + path.split(".")[2]
        for path, _, _ in found
        if path.count(".") > 1
    )
    for path, a, b in found[: int(given[3]) if len(given) > 3 else 60]:
        print(path, "\n   before:", str(a)[:400], "\n   after: ", str(b)[:400])
    print(len(found), "differ", dict(kinds))
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
