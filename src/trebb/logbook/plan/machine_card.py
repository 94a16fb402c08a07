"""The machine's card: every figure before and after, limits, predictions, what was left and why, parts made,
oil, what to look at again; as plain values.
"""

from __future__ import annotations

import datetime
from typing import Any

from trebb.core.errors import TrebbError
from trebb.core.survey import set_up
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.cases.strip_down import meeting_words
from trebb.logbook.log.own import own_told
from trebb.logbook.plan.afterwards import again_list
from trebb.logbook.plan.made_work import made_work, told_of_work
from trebb.logbook.plan.oil_plan import STATES, oil_points
from trebb.logbook.plan.suspicion import ASKED, causes_table

FORMAT, VERSION = "trebb machine card", 1


def card_of(cases: Cases, now: datetime.datetime) -> dict[str, Any]:
    """Everything of the card; lengths in mm, halves of 95 % intervals beside them."""
    job = cases.job
    started = job.started
    return {
        "format": FORMAT,
        "version": VERSION,
        "written": now.date().isoformat(),
        "machine": started.machine if started else "",
        "shop": started.shop if started else "",
        "kind": cases.kind.key,
        "about": {k: job.card(k) for k in ("make", "year", "size", "words") if job.card(k)},
        "assemblies": [told for a in cases.kind.assemblies if (told := _assembly(cases.of(a.key)))],
        "symptoms": _symptoms(cases),
        "asked": [
            {"what": words, "found": told.get("found", ""), "note": told.get("note", "")}
            for key, words, _ in ASKED
            if (told := job.matter("asked", key))
        ],
        "oil": [
            {
                "assembly": o.label,
                "where": o.where,
                "with": o.words,
                "tried": STATES.get(o.state, ""),
                "grease": o.grease,
                "note": o.note,
            }
            for o in oil_points(cases)
        ],
        "again": [
            {
                "what": a.what,
                "assembly": a.label,
                "why": a.why,
                "due": a.due.isoformat() if a.due else None,
                "done": a.done.isoformat() if a.done else None,
            }
            for a in again_list(cases)
        ],
        "work": told_of_work(made_work(cases))["pieces"],
        "left": job.note("left"),
    }


def _assembly(case: Case) -> dict[str, Any] | None:
    """An assembly of which something is known; None of another."""
    job, key = case.job, case.assembly_key
    own = own_told(job, key)
    graded = job.grade(key)
    if not case.is_measured and not own and graded is None:
        return None
    chosen = job.chosen(key)
    remedy = case.chosen if case.has_set_ups else None
    return {
        "key": key,
        "label": case.assembly.label,
        "grade": graded.grade if graded else "",
        "note": graded.note if graded else "",
        "state": case.state.value if case.has_set_ups and case.is_measured else "",
        "figures": _figures(case) if case.is_measured else [],
        "readings": _readings(case) if case.has_set_ups else [],
        "remedy": remedy.title if remedy is not None else str(own.get("remedy", "")),
        "reason": chosen.reason if chosen is not None else "",
        "is_left": remedy is not None and remedy.key == "leave",
        "parts": _parts(case),
        "must_meet": meeting_words(job, key),
        "own": {k: v for k, v in own.items() if k != "steps"},
    }


def _figures(case: Case) -> list[dict[str, Any]]:
    """Figures against their limits, before and after, with what was predicted."""
    after = {}
    if isinstance(case, MeasuredCase) and case.progress("after")[0]:
        after = {m.key: m for m in case.measures_of("after")}
    prediction = case.chosen_prediction()
    found = []
    for m in case.figures:
        if m.is_expected:  # nothing of it was read: a card says what is
            continue
        told = _figure(m.label, m.value.value, m.value.half_width, m.limit.limit_mm, m.limit.source)
        told["unread"] = list(m.unread)
        if m.key in after:
            told["after_mm"] = after[m.key].value.value
            told["after_half_mm"] = after[m.key].value.half_width
        if prediction is not None:
            then = case.left_by(prediction, m.key)
            told["predicted_mm"] = (then.low + then.high) / 2
            told["predicted_half_mm"] = then.half_width
        found.append(told)
    return found


def _figure(label: str, value: float, half: float, limit: float, source: str) -> dict[str, Any]:
    return {
        "label": label,
        "before_mm": value,
        "before_half_mm": half,
        "limit_mm": limit,
        "limit_source": source,
    }


def _readings(case: Case) -> list[dict[str, Any]]:
    """Before and after by set-up and place, with how it was read."""
    found = []
    for r in case.comparisons():
        s = set_up(r.set_up)
        found.append(
            {
                "set_up": s.title,
                "instrument": s.instrument.value,
                "place": r.place,
                "before_mm": r.before_mm,
                "before_half_mm": r.before_half_mm,
                "after_mm": r.after_mm,
                "after_half_mm": r.after_half_mm,
                "predicted_mm": r.predicted_mm,
                "limit_mm": case.limit_of(r).limit_mm,
                "is_shown": r.is_shown,
            }
        )
    return found


def _parts(case: Case) -> list[dict[str, Any]]:
    """Parts made, with their sizes as finished."""
    if case.chosen is None and not (case.has_parts and not case.has_set_ups):
        return []
    found = []
    for key in case.parts_here():
        try:
            part, route = case.part(key), case.route(key)
        except TrebbError:
            continue
        sizes, done = {}, case.job.steps_done(case.part_name(key))
        for o in route:
            if o.key not in done:  # a size between two cuts is none that was made
                continue
            taken = [s.taken for s in case.job.sizes(case.part_name(key), o.key) if s.struck is None]
            if taken:
                sizes[taken[-1].what] = taken[-1].value_mm
        found.append(
            {
                "title": part.title,
                "material": part.material,
                "done": sum(o.key in done for o in route),
                "of": len(route),
                "as_made_mm": sizes,
            }
        )
    return found


def _symptoms(cases: Cases) -> list[dict[str, Any]]:
    """What was there, and whether it still is."""
    table, _ = causes_table()
    told = cases.job.matters("symptom")
    return [
        {
            "words": s.words,
            "before": "yes",
            "after": str(told[s.key].get("after", "")),
            "note": str(told[s.key].get("note", "")),
        }
        for s in table.symptoms
        if told.get(s.key, {}).get("there") == "yes"
    ]
