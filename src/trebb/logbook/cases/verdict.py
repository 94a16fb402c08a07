"""What the proof says, in a sentence."""

from __future__ import annotations

import math

from trebb.core.machine import State
from trebb.core.survey import set_up
from trebb.core.units import UnitSystem, show_small, show_uncertain
from trebb.core.words import large
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.strip_down import meetings

LEAST_YEARS = 0.02  # a week: sooner nothing is said of a year


def since_verdict(case: Case, system: UnitSystem) -> tuple[str, str, str]:
    """Tone, head and text of what was looked at again: against its limit, and how fast it goes."""
    rows = case.since() if case.has_set_ups else []
    if not rows:
        return (
            "soft",
            "Look at it again: the same set-ups, a month or a year on.",
            "What was read after the repair stands beside it; what it wears in a year follows.",
        )
    over = [r for r in rows if abs(r.after_mm) > case.limit_of(r).limit_mm]
    worst = max(rows, key=lambda r: abs(r.change_mm) / case.limit_of(r).limit_mm)
    years = case.years_since(worst.set_up)
    half = math.hypot(worst.before_half_mm, worst.after_half_mm)
    title = set_up(worst.set_up).title
    was, now = (show_small(mm, system) for mm in (worst.before_mm, worst.after_mm))
    moved = f"{title}, {worst.place}: {was}, now {now}"
    if not worst.is_shown:
        text = f"{moved}: no difference larger than the measuring."
    elif years is None or years < LEAST_YEARS:
        text = f"{moved}. Too soon to say how much that is in a year."
    else:
        rate = show_uncertain(worst.change_mm / years, half / years, system)
        left = case.limit_of(worst).limit_mm - abs(worst.after_mm)
        text = f"{moved}, in {years:.1f} years: {rate} a year."
        if worst.change_mm > 0 and left > 0:
            text += f" At that pace it stands at its limit in {left / worst.change_mm * years:.1f} years."
    if over:
        return "beyond", f"{len(over)} of {len(rows)} places are over their limit again.", text
    return "within", f"All {len(rows)} places are still inside their limit.", text


def proof_verdict(case: Case, system: UnitSystem) -> tuple[str, str, str]:
    """Tone ("within", "near", "beyond" or "soft"), head and text of the proof so far: readings, and marks
    that must meet.
    """
    tone, head, text = _by_readings(case, system)
    marks = meetings(case.job, case.assembly_key)
    off = [m.words for m in marks if m.state is State.BEYOND]
    if off:
        count = f"{len(off)} of {len(marks)} pairs of marks do" if len(marks) > 1 else "The marks do"
        return "beyond", f"{count} not meet.", f"{'. '.join(map(large, off))}. {head} {text}".strip()
    if left := sum(not m.again for m in marks):
        text += f" Marks that must meet are not read again yet: {left}."
    elif marks and all(m.state is State.WITHIN for m in marks):
        text += " All marks meet."
    return tone, head, text


def _by_readings(case: Case, system: UnitSystem) -> tuple[str, str, str]:
    if not case.has_set_ups:
        return "soft", "Nothing is measured here.", "It is judged by eye and hand, and by its parts as made."
    rows = case.comparisons()
    if not rows:
        chosen = case.chosen
        if chosen is None:
            return (
                "soft",
                "No remedy is chosen yet.",
                "Choose one at Remedies; then the same set-ups are taken again here.",
            )
        return (
            "soft",
            "Take the same set-ups again.",
            f"Repair: {chosen.title}. What was predicted stands as a band on each line.",
        )
    done, total = case.progress("after")
    unshown = sum(not r.is_shown for r in rows)
    off = sum(r.as_predicted is False for r in rows)
    state, head, left = case.proof_head(rows, system)
    words = [f"{done} of {total} places taken again." if done < total else "Every place is taken again."]
    words.append(
        "The difference is larger than the measuring everywhere."
        if not unshown
        else f"At {unshown} of {len(rows)} places no difference is shown."
    )
    if case.chosen is not None:
        words.append(
            "All lie where they were predicted." if not off else f"{off} lie outside what was predicted."
        )
    if left:
        words.append(left)
    tone = {State.WITHIN: "within", State.NEAR: "near", State.BEYOND: "beyond", State.UNKNOWN: "soft"}[state]
    return tone, head, " ".join(words)
