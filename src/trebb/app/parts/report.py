"""The acceptance sheet as PDF."""

from __future__ import annotations

from pathlib import Path

from trebb.app.papers.paper import Paper, filled, write_pdf
from trebb.app.parts.sizes_panel import size_text
from trebb.core import clock
from trebb.core.errors import InputError
from trebb.core.making.operations import MEASURED_BY
from trebb.core.survey import set_up
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.units import UnitSystem, show_size, show_small, show_uncertain
from trebb.core.words import large
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.spindle_case import SpindleCase
from trebb.logbook.cases.strip_down import meeting_words
from trebb.logbook.cases.verdict import proof_verdict
from trebb.logbook.log.own import STATES, own_plan, own_steps, own_told

MOST_PAGES = 2


def sheet_facts(case: Case, system: UnitSystem) -> dict[str, object]:
    """Everything the sheet says, as text."""
    job = case.job
    started = job.started
    _, verdict, text = proof_verdict(case, system)
    chosen = job.chosen(case.assembly_key)
    card = ", ".join(filter(None, (job.card("make"), job.card("year"), job.card("size"))))
    parts = case.part_keys() if case.chosen or (case.has_parts and not case.has_set_ups) else ()
    struck = sum(r.struck is not None for r in job.all_readings())
    return {
        "machine": started.machine if started else "",
        "shop": started.shop if started else "",
        "date": clock.today().isoformat(),
        "about": "; ".join(dict.fromkeys(filter(None, (case.assembly.label, case.describe(), card)))),
        "split_title": case.shares_title,
        "verdict": verdict,
        "verdict_text": text,
        "rows": _compared(case, system),
        "limit_source": case.limit.source if case.has_set_ups else "",
        "split": [(name, show_uncertain(q.value, q.half_width, system)) for name, q in case.shares()],
        "set_ups": _used(case, system),
        "remedy": case.chosen.title if case.chosen else "" if case.is_written else "none chosen",
        "own": _own_lines(case),
        "reason": chosen.reason if chosen else "",
        "parts": [_part_facts(case, key, system) for key in parts],
        "meet": meeting_words(job, case.assembly_key),
        "tools": _tool_lengths(case, system),
        "struck": f"{struck} reading{'s were' if struck != 1 else ' was'} struck out; they stay in the job "
        "file with their reasons."
        if struck
        else "",
        "left": job.note("left") or "Nothing was written down.",
    }


def _compared(case: Case, system: UnitSystem) -> list[dict[str, str]]:
    """Each figure before and after, as text."""
    rows = []
    for r in case.comparisons():
        rows.append(
            {
                "set_up": set_up(r.set_up).title,
                "place": r.place,
                "before": show_uncertain(r.before_mm, r.before_half_mm, system),
                "after": show_uncertain(r.after_mm, r.after_half_mm, system),
                "predicted": show_uncertain(r.predicted_mm, r.predicted_half_mm or 0.0, system)
                if r.predicted_mm is not None
                else "–",
                "limit": show_small(case.limit_of(r).limit_mm, system),
                "shown": "larger than the measuring" if r.is_shown else "not shown",
            }
        )
    return rows


def _used(case: Case, system: UnitSystem) -> list[dict[str, str]]:
    """The set-ups that were read, with their instruments."""
    used = []
    for s in case.set_ups:
        count = sum(
            r.struck is None
            for phase in ("before", "after", "later")
            for r in case.job.readings(case.assembly_key, s.key, phase)
        )
        if count:
            resolution = (
                "half a division"
                if s.unit == "div"
                else RAW_UNITS[s.unit].show(s.resolution_mm, system, True)
                if s.unit in RAW_UNITS
                else show_small(s.resolution_mm, system)
            )
            used.append(
                {
                    "title": s.title,
                    "instrument": s.instrument.value,
                    "resolution": resolution,
                    "count": f"{count} readings",
                }
            )
    return used


def _own_lines(case: Case) -> list[str]:
    """What was written of it in one's own words: found, mended, cost, and the steps with those done."""
    told = own_told(case.job, case.assembly_key)
    found = [
        f"{name}: {told[key]}" for key, name in (("finding", "Found"), ("remedy", "Mended")) if key in told
    ]
    if "state" in told:
        found.insert(0, f"By eye and hand: {STATES.get(str(told['state']), told['state'])}.")
    spent = [
        words.format(told[key])
        for key, words in (("hours", "{} hours"), ("cost", "cost {}"), ("wait", "{} days' wait"))
        if key in told
    ]
    if spent:
        found.append(", ".join(spent))
    done = case.job.steps_done(own_plan(case.assembly_key))
    found += [
        f"{'Done' if step in done else 'Open'}: {step}" for step in own_steps(case.job, case.assembly_key)
    ]
    return found


def _part_facts(case: Case, key: str, system: UnitSystem) -> dict[str, str]:
    """A part as it was finished: what was measured last of operations that are done. Of what no operation is
    done it says so.
    """
    part = case.part(key, system)
    name, route = case.part_name(key), case.route(key, system)
    done = case.job.steps_done(name)
    sizes = "; ".join(f"{line.label.lower()} {size_text(line, system)}" for line in part.rows if line.is_key)
    made, between = [], []
    for operation in route:
        taken = [s.taken for s in case.job.sizes(name, operation.key) if s.struck is None]
        if not taken:
            continue
        value, target = taken[-1].value_mm, operation.target
        show = show_small if operation.kind == "nut_thread" else show_size
        by = MEASURED_BY.get(taken[-1].instrument, taken[-1].instrument)
        words = f"{taken[-1].what} {show(value, system)}{f' by {by}' if by else ''}"
        if operation.key not in done:
            between.append(words)
            continue
        off = target is not None and not target.band.low_mm <= value <= target.band.high_mm
        made.append(f"{words}{', outside its limits' if off else ''}")
    asked = case.asked_for(key, system)
    left = sum(o.key not in done for o in route)
    told = [f"Bought: {'; '.join(asked)}." if asked else ""]
    told.append(f"As finished: {'; '.join(made)}." if made else "")
    told.append(f"Not finished, last measured: {'; '.join(between)}." if between else "")
    if left and not asked:
        told.append("Not made." if left == len(route) and not between else f"{left} operations are open.")
    return {
        "title": part.title,
        "material": part.material,
        "sizes": f"{large(sizes)}." if sizes else "",
        "measured": " ".join(filter(None, told)),
    }


def _tool_lengths(case: Case, system: UnitSystem) -> str:
    """By what every stored tool length shifts, where one was read before and after; else that it was not."""
    if not isinstance(case, SpindleCase) or not case.chosen or case.chosen.in_place:
        return ""
    shift = case.length_shift()
    if shift is None:
        return "Tool lengths: one was not read before and after, so what they shift by is not known."
    way = "longer" if shift.value >= 0 else "shorter"
    size = show_uncertain(abs(shift.value), shift.half_width, system)
    return f"Tool lengths: every stored one is {size} {way}."


def sheet_of(case: Case, system: UnitSystem) -> Paper:
    """The sheet. Raises InputError when no reading was ever taken."""
    if not case.is_measured and not case.is_written:
        raise InputError(
            "an acceptance sheet of nothing",
            "take readings first, or write what was found in your own words",
        )
    return Paper("Acceptance sheet", [filled("acceptance.html", sheet_facts(case, system))])


def write_sheet(case: Case, system: UnitSystem, path: Path) -> int:
    """Write the sheet; returns its pages, two at most. Raises WriteError when the file cannot be written,
    InputError when no reading was ever taken.
    """
    return write_pdf(sheet_of(case, system), path)
