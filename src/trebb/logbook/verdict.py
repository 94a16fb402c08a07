"""What the proof says, in a sentence."""

from __future__ import annotations

from trebb.core.findings import split_lash
from trebb.core.machine import State, state_of
from trebb.core.units import UnitSystem, show_small
from trebb.logbook.casework import Case


def proof_verdict(case: Case, system: UnitSystem) -> tuple[str, str, str]:
    """Tone ("within", "near", "beyond" or "soft"), head and text of the proof so far."""
    rows = case.comparisons()
    if not rows:
        chosen = case.chosen
        if chosen is None:
            return "soft", "No remedy is chosen yet.", "Choose one at Remedies; then the same set-ups are taken again here."
        return "soft", "Take the same set-ups again.", f"Repair: {chosen.title}. What was predicted stands as a band on each line."
    done, total = case.progress("after")
    lash = [r for r in rows if r.set_up == "lash"]
    worst = max(lash or rows, key=lambda r: r.after_mm)
    state = state_of(worst.after_mm, case.limit.limit_mm)
    unshown = sum(not r.is_shown for r in rows)
    off = sum(r.as_predicted is False for r in rows)
    name = "The dial still loses" if lash else "The worst reading is"
    head = f"{name} up to {show_small(worst.after_mm, system)}, limit {show_small(case.limit.limit_mm, system)}; it was {show_small(max(r.before_mm for r in lash or rows), system)}."
    words = [f"{done} of {total} places taken again." if done < total else "Every place is taken again."]
    words.append("The difference is larger than the measuring everywhere." if not unshown else f"At {unshown} of {len(rows)} places no difference is shown.")
    if case.chosen is not None:
        words.append("All lie where they were predicted." if not off else f"{off} lie outside what was predicted.")
    left = split_lash(case.drive, case.proof_estimate)
    if state is not State.WITHIN and case.progress("after")[0]:
        parts = {"end float": left.float_.value, "nut": left.nut.value, "screw": left.most_worn.wear.value}
        most = max(parts, key=lambda k: parts[k])
        words.append(f"Most of what is left is {most}.")
    tone = {State.WITHIN: "within", State.NEAR: "near", State.BEYOND: "beyond", State.UNKNOWN: "soft"}[state]
    return tone, head, " ".join(words)
