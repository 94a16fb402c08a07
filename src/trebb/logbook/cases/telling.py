"""What a job says of a machine, as plain values for JSON: figures with their units in the key's suffix.

The shapes are described in docs/FORMATS.md and stay.
"""

from __future__ import annotations

from typing import Any

from trebb.core.condition import Quantity, Source
from trebb.core.findings import Measure
from trebb.core.machine import State
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.quotes import quote_of
from trebb.logbook.log.own import own_told

Plain = dict[str, Any]
# A source counts as read when the readings that touch it took at least so much of its doubt away.
READ_SHARE, SMALL_SHARE, BOUNDED_SDS = 0.6, 0.2, 2.0
NOTHING_READ = "Nothing is read yet."
NO_SET_UPS = "Nothing can be read here yet."


def state_word(state: State) -> str:
    """A state as one word: within, near, beyond or unknown."""
    return "unknown" if state is State.UNKNOWN else state.value


def interval(q: Quantity) -> Plain:
    """A value with its 95 % interval, mm."""
    return {"value_mm": q.value, "low_mm": q.low, "high_mm": q.high}


def _figure(m: Measure) -> Plain:
    return {
        "key": m.key,
        "label": m.label,
        **interval(m.value),
        "limit_mm": m.limit.limit_mm,
        "state": state_word(m.state),
    }


def machine_told(cases: Cases, system: UnitSystem, part: str = "") -> Plain:
    """Every figure, source, finding and reading set aside, of one assembly or of all."""
    started = cases.job.started
    wanted = [cases.of(part)] if part else [cases.of(a.key) for a in cases.kind.assemblies]
    return {
        "machine": started.machine if started else "",
        "parts": [case_told(case, system) for case in wanted],
        "set_aside": [f"entry {one.entry}, {one.what}: {one.reason}" for one in cases.job.set_aside()],
    }


def case_told(case: Case, system: UnitSystem) -> Plain:
    """What one assembly's readings say."""
    told: Plain = {"assembly": case.assembly_key, "label": case.assembly.label, "state": "unknown"}
    empty: Plain = {"figures": [], "sources": [], "findings": [], "unread": [], "set_aside": [], "advice": []}
    if not case.has_set_ups:
        own = own_told(case.job, case.assembly_key)
        head = str(own.get("finding", NO_SET_UPS))
        return {**told, "head": head, **empty, **({"own": own} if own else {})}
    found = case.findings(system) if case.is_measured else []
    worst = case.figure_now()
    figures = case.one_figures("after") or case.one_figures("before")
    is_over = any(one.state is State.BEYOND for one in figures)
    state = State.BEYOND if is_over else worst.state if worst is not None else State.UNKNOWN
    return {
        **told,
        "state": state_word(state),
        "head": found[0].sentence if found else NOTHING_READ,
        "figures": [_figure(m) for m in case.figures],
        "sources": _sources(case),
        "findings": [
            {"key": f.key, "state": state_word(f.state), "sentence": f.sentence, "next": f.next_move}
            for f in found
        ],
        "unread": _unread(case),
        "set_aside": case.set_aside("before") + case.set_aside("after"),
        "advice": [
            {
                "set_up": one.key,
                "minutes": one.minutes,
                "settles": case.reason(one, system) or one.most,
                "share": one.settles,
            }
            for one in case.suggestions()
        ],
    }


def read_sources(case: Case) -> dict[str, bool]:
    """Of each source of error, whether readings before the repair touch it and by themselves tell it: what
    only a sum is known of is not read.
    """
    alone, usual = case.alone, case.model_for("before")
    touched: set[str] = set()
    for s in case.all_set_ups():
        for observation in case.observations_of(s.key):
            touched |= {k for k, c in observation.row.coefficients.items() if c}
    return {s.key: s.key in touched and _is_told(s, alone.source(s.key)) for s in usual.sources}


def _is_told(source: Source, read: Quantity) -> bool:
    """Whether readings say how much, and not only at most how much: a clearance that may as well be nothing
    is merely bounded.
    """
    is_bounded = source.is_clearance and read.value < BOUNDED_SDS * read.sd
    return read.sd < (SMALL_SHARE if is_bounded else READ_SHARE) * source.sd


def _sources(case: Case) -> list[Plain]:
    now, is_read = case.estimate, read_sources(case)
    return [
        {"key": s.key, "label": s.label, **interval(now.source(s.key)), "is_read": is_read[s.key]}
        for s in now.model.sources
    ]


def _unread(case: Case) -> list[Plain]:
    """Sources that nothing read tells of, with how large such a thing may be, and what would read it."""
    now, is_read, by = case.estimate, read_sources(case), _read_by(case)
    return [
        {"what": s.label, "up_to_mm": now.source(s.key).high, "set_up": by.get(s.key, "")}
        for s in now.model.sources
        if not is_read[s.key]
    ]


def _read_by(case: Case) -> dict[str, str]:
    """For each source the set-up that would feel it, the one with fewest other sources in its rows first."""
    best: dict[str, tuple[int, str]] = {}
    for s in case.all_set_ups():
        places = [p.key for p in s.places(case.seen_by(s.key, "before"))]
        for row in case.rows_of(s, places):
            felt = [k for k, c in row.coefficients.items() if c]
            for key in felt:
                if key not in best or len(felt) < best[key][0]:
                    best[key] = (len(felt), s.key)
    return {key: name for key, (_, name) in best.items()}


def remedies_told(case: Case, system: UnitSystem) -> list[Plain]:
    """Each remedy, and those done together that are chosen or advised, with what it costs and what it is
    predicted to leave of every figure; none of what is only made, not read.
    """
    if not case.has_set_ups:
        return []
    figures = list(case.figures) or [case.judged]
    best = case.advised() if case.is_measured else None
    advised = best.key if best is not None else ""
    chosen = case.chosen
    return [
        {
            "key": r.key,
            "together": list(r.members) if len(r.members) > 1 else [],
            "title": r.title,
            "cost": r.cost,
            "hours": r.hours,
            "wait_days": r.wait_days,
            "quote": quote.words if (quote := quote_of(case.job, case.assembly_key, r.key)) else "",
            "needs": r.needs,
            "hinder": r.hinder(case.subject),
            "hides": r.hides,
            "is_advised": r.key == advised,
            "is_chosen": chosen is not None and r.key == chosen.key,
            "left": [
                {
                    "figure": m.key,
                    **interval(case.left_of(prediction, m.key)),
                    "limit_mm": m.limit.limit_mm,
                    "state": state_word(case.left_state(r.key, m.key)),
                }
                for m in figures
            ],
        }
        for r, prediction in case.offered()
    ]


def set_ups_told(cases: Cases, part: str = "") -> list[Plain]:
    """The set-ups of one assembly or of all, with the places as they are read now."""
    wanted = [cases.of(part)] if part else cases.measurable()
    return [
        {
            "assembly": case.assembly_key,
            "set_up": s.key,
            "title": s.title,
            "unit": s.unit,
            "wanted": s.wanted,
            "places": [p.key for p in case.places(s.key)],
        }
        for case in wanted
        for s in case.set_ups
    ]


def part_told(case: Case, key: str, system: UnitSystem) -> Plain:
    """A part worked out: its sizes, its checks, its fields as they stand."""
    part = case.part(key, system)
    inputs = case.part_inputs(key, system)
    return {
        "part": key,
        "title": part.title,
        "material": part.material,
        "stock": part.stock_words,
        "length_mm": part.length_mm,
        "rows": [_row(r.label, r.kind, r.value, r.note) for r in part.rows],
        "checks": [{"is_ok": c.is_ok, "sentence": c.sentence} for c in case.part_checks(key, system)],
        "notes": list(part.notes),
        "usual": part.usual_words,
        "fields": [
            {"key": f.key, "label": f.label, "value": inputs.facts.get(f.key, f.default)}
            for f in case.part_fields(key, system)
        ],
    }


def _row(label: str, kind: str, value: Any, note: str) -> Plain:
    """A line of the sizes: a text, an angle, one length or two limits."""
    named: Plain = {"label": label, "note": note}
    if kind == "text":
        return {**named, "text": value}
    if kind == "angle":
        return {**named, "value_rad": value}
    if kind == "band":
        return {**named, "low_mm": value.low_mm, "high_mm": value.high_mm}
    return {**named, "value_mm": value}


def route_told(case: Case, key: str, system: UnitSystem) -> list[Plain]:
    """The operations of a part in order."""
    done = case.job.steps_done(case.part_name(key))
    return [
        {
            "number": o.number,
            "key": o.key,
            "title": o.title,
            "detail": o.detail,
            "hold": o.hold,
            "tool": o.tool,
            "minutes": o.minutes,
            "caution": o.caution,
            "is_done": o.key in done,
        }
        for o in case.route(key, system)
    ]
