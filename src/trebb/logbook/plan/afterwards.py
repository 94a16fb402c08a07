"""What to look at again, in a month and in a year, dated; what is due when a job is opened later."""

from __future__ import annotations

import datetime
from collections.abc import Mapping

from msgspec import Struct

from trebb.core.dates import later
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import MatterStated

# What wants another look by family of what was mended: what, why, months.
AGAIN: Mapping[str, tuple[tuple[str, str, str, int], ...]] = {
    "ways": (("level", "Level the bed again", "A machine settles for weeks after it was moved.", 1),),
    "stand": (("level", "Feet and level again", "Grout and shims settle.", 1),),
    "headstock": (("cut", "Two collars again", "Shims and bolts bed in.", 1),),
    "tailstock": (("centres", "Tailstock between centres again", "It wears down; its shims bed in.", 12),),
    "gib": (("gib", "Gib and its locks again", "Scraped spots and linings run in within hours.", 1),),
    "screw_drive": (
        ("lash", "Lash at three places", "The nut is the softer: it tells how fast it goes.", 12),
        ("guard", "Chip guard off, swarf out", "Swarf in a new nut laps it out.", 1),
    ),
    "spindle": (
        ("warm", "Warmth and noise after an hour", "New bearings run in; preload may want a touch.", 1),
        ("turn", "Runout in the taper", "One figure a year shows where it goes.", 12),
    ),
    "cone": (("draw", "Draw left at the lever", "A new lining beds in, then wears.", 1),),
    "gear": (("lash", "Lash of the pair", "Teeth run in.", 12),),
    "casting": (("crack", "Chalk over oil along the repair", "A crack begins again at its end.", 1),),
    "shaft": (("float", "End float and pins", "Collars bed in.", 12),),
}


class Again(Struct, frozen=True):
    """Something to look at again."""

    key: str
    assembly: str
    label: str
    what: str
    why: str
    due: datetime.date | None
    done: datetime.date | None

    def is_due(self, today: datetime.date) -> bool:
        """Whether it is time."""
        return self.done is None and self.due is not None and self.due <= today


def again_list(cases: Cases) -> list[Again]:
    """What to look at again, the soonest first."""
    names = {a.key: a.label for a in cases.kind.assemblies}
    found = []
    for key, told in cases.job.matters("again").items():
        if told.get("gone") == "yes" or not told.get("what"):
            continue
        assembly = str(told.get("assembly", ""))
        found.append(
            Again(
                key,
                assembly,
                names.get(assembly, ""),
                str(told["what"]),
                str(told.get("why", "")),
                _date(told.get("due")),
                _date(told.get("done")),
            )
        )
    return sorted(found, key=lambda a: (a.done is not None, a.due or datetime.date.max, a.key))


def _date(value: object) -> datetime.date | None:
    return datetime.date.fromisoformat(value) if isinstance(value, str) and value else None


def proposed(cases: Cases, today: datetime.date) -> list[MatterStated]:
    """Entries for what usually wants another look of what is being mended, and is not on the list yet."""
    taken = cases.job.matters("again")
    found: list[MatterStated] = []
    for case in cases.measurable():
        if case.chosen is None or case.chosen.key == "leave":
            continue
        for key, what, why, months in AGAIN.get(case.family, ()):
            of = f"{case.assembly_key}.{key}"
            if of in taken:
                continue
            due = later(today, months, "m").isoformat()
            fields = {"what": what, "assembly": case.assembly_key, "why": why, "due": due}
            found += [MatterStated("again", of, k, v) for k, v in fields.items()]
    return found


def again_key(cases: Cases) -> str:
    """A key for another."""
    taken = cases.job.matters("again")
    return next(f"again{i}" for i in range(1, 10_000) if f"again{i}" not in taken)
