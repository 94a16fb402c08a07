"""What was marked and looked at in a job, against the table of causes: the shop's own where it has one."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path

import platformdirs
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.suspects.ranking import Marked, Ranking, Suspect, Weighing
from trebb.core.suspects.table import Table, table_from
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.given_files import read_text
from trebb.logbook.plan.leads import lead_of, spacing_matches

SHIPPED = Path(__file__).parents[1] / "data" / "causes.json"
ASKED = (
    (
        "repairs",
        "Earlier repairs",
        "Sleeves, welds, wrong pins, bolts for studs: they change what can be cut.",
    ),
    ("missing", "Missing or not original", "What is not there, or from another machine."),
    ("wiring", "Wiring undone or altered", "That is an electrician's: leave it and lock it out."),
    ("paint", "Old paint that flakes", "It may hold lead: do not grind or sand it dry; have it tested."),
    ("linings", "Old brake or clutch linings", "They may be asbestos: no brush, no air; licensed removal."),
)


def own_table_path() -> Path:
    """Where a shop keeps a table of its own."""
    return platformdirs.user_config_path("trebb", appauthor=False) / "causes.json"


def read_causes(path: Path) -> Table:
    """A table of causes. Raises InputError for a file that is none."""
    try:
        data = json.loads(read_text(path))
    except (ValueError, RecursionError) as error:
        raise InputError(path.name, f"it is no table of causes ({error})") from None
    return table_from(data, path.name)


@cache
def _read(path: Path, changed: float) -> Table:
    return read_causes(path)


def causes_table() -> tuple[Table, str]:
    """The table in use, and why the shop's own is not where it will not do."""
    own = own_table_path()
    if own.is_file():
        try:
            return _read(own, own.stat().st_mtime), ""
        except (InputError, OSError) as error:
            return _read(SHIPPED, 0.0), f"{error}. The table that came with Trebb is used."
    return _read(SHIPPED, 0.0), ""


def asked_of(kind: str) -> Table:
    """What of the table in use is asked of a kind of machine."""
    return causes_table()[0].of_kind(kind)


class Suspicion(Struct, frozen=True):
    """The ranking of a job; `before` it without the last look, `trouble` of the shop's own table."""

    ranking: Ranking
    table: Table
    marks: dict[str, Marked]
    looked: dict[str, bool]
    before: Ranking | None
    last_look: str
    trouble: str = ""


def marks_of(cases: Cases) -> dict[str, Marked]:
    """Symptoms as marked; marks at a spacing are of what turns once in it, unless their place is said."""
    found = {
        key: Marked(told["there"] == "yes", str(told.get("assembly", "")), str(told.get("grew", "")))
        for key, told in cases.job.matters("symptom").items()
        if told.get("there") in ("yes", "no")
    }
    spaced = found.get("marks_pitch")
    if spaced is not None and spaced.there and not spaced.assembly:
        first = next(iter(spacing_matches(cases)), None)
        if first is not None:
            found["marks_pitch"] = Marked(True, first.turn.assembly, spaced.grew)
    return found


def looked_at(cases: Cases) -> dict[str, bool]:
    """Looks as answered, in the order they were first."""
    return {
        key: told["found"] == "yes"
        for key, told in cases.job.matters("look").items()
        if told.get("found") in ("yes", "no")
    }


_WEIGHED: dict[tuple[int, str, tuple[tuple[str, str], ...]], Weighing] = {}


def suspicion(cases: Cases) -> Suspicion:
    """Suspects of a job as it stands."""
    table, trouble = causes_table()
    assemblies = tuple((a.key, a.family) for a in cases.kind.assemblies)
    kind = cases.kind.key
    weighing = _WEIGHED.get((id(table), kind, assemblies))
    if weighing is None:
        weighing = _WEIGHED[id(table), kind, assemblies] = Weighing(table.of_kind(kind), assemblies)
    table = weighing.table
    marks, looked = marks_of(cases), looked_at(cases)
    last = next(reversed(looked), "")
    before = weighing.rank(marks, {k: v for k, v in looked.items() if k != last}) if last else None
    return Suspicion(weighing.rank(marks, looked), table, marks, looked, before, last, trouble)


def _lead_told(suspect: Suspect, cases: Cases) -> dict[str, object] | None:
    lead = lead_of(suspect, cases)
    if lead is None:
        return None
    remedies = [r.key for r in lead.remedies]
    return {"assembly": lead.assembly, "is_there": not lead.adds, "set_up": lead.set_up, "remedies": remedies}


def told_of_suspects(found: Suspicion, cases: Cases, most: int = 8) -> dict[str, object]:
    """Suspects as plain values, for whoever reads them from outside."""
    return {
        "suspects": [
            {
                "cause": s.cause.key,
                "words": s.cause.words,
                "assembly": s.assembly,
                "chance": round(s.chance, 4),
                "why": s.cause.why,
                "is_backed": s.is_backed,
                "leads_to": _lead_told(s, cases),
            }
            for s in found.ranking.suspects[:most]
        ],
        "looks": [
            {
                "look": a.key,
                "words": a.look.words,
                "assembly": a.assembly,
                "minutes": a.look.minutes,
                "bits": round(a.bits, 4),
                "set_up": a.look.set_up,
            }
            for a in found.ranking.advice[:most]
        ],
        "trouble": found.trouble,
    }


def suspect_named(cases: Cases, words: str) -> Suspect:
    """The suspect of a key, with or without its assembly behind @. Raises InputError for another."""
    found = suspicion(cases).ranking.suspects
    one = next((s for s in found if words in (s.key, s.cause.key)), None)
    if one is None:
        likely = ", ".join(s.key for s in found[:8])
        raise InputError(f"“{words}”", f"no suspect of this machine; the likeliest are {likely}")
    return one
