"""What the proof says, in a sentence."""

from __future__ import annotations

from trebb.core.machine import State
from trebb.core.units import UnitSystem
from trebb.logbook.case import Case


def proof_verdict(case: Case, system: UnitSystem) -> tuple[str, str, str]:
    """Tone ("within", "near", "beyond" or "soft"), head and text of the proof so far."""
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
