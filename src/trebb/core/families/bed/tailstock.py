"""What is wrong with a tailstock, in sentences."""

from __future__ import annotations

from collections.abc import Mapping

from trebb.core.condition import Z95, ReadingsOnly
from trebb.core.families.bed.centres import Wander
from trebb.core.families.bed.subject import Bed
from trebb.core.findings.base import Finding, Measure, hedged, size_words
from trebb.core.machine import State
from trebb.core.units import UnitSystem, show_small, show_uncertain


def is_habit(now: ReadingsOnly, found: Wander) -> bool:
    """Whether the shift on tightening is one that can be aimed off for: larger than twice what the
    tightenings scatter by.
    """
    shift = now.source("tail_shift")
    return found.times >= 2 and abs(shift.value) > 2 * found.mean_mm and abs(shift.value) > Z95 * shift.sd


def tailstock_findings(
    bed: Bed, now: ReadingsOnly, measures: Mapping[str, Measure], found_wander: Wander, system: UnitSystem
) -> list[Finding]:
    """Offset tightened, the habit it has, whether it comes back, key and quill."""
    found = (
        _tail_side(bed, now, measures["tail_side"], system) if "tail_side" in measures else None,
        _tail_high(now, measures["tail_high"], system) if "tail_high" in measures else None,
        _tail_wander(now, measures["tail_wander"], found_wander, system)
        if "tail_wander" in measures
        else None,
        _tail_key(measures["tail_key"], system) if "tail_key" in measures else None,
        _quill(measures["quill"], system) if "quill" in measures else None,
    )
    names = dict(measures)
    side = names.get("tail_side")
    if side is not None and not side.unread:
        names.pop("tail_side")  # what a piece shows is set over by, however the next tightening may land
    if "tail_wander" in measures:
        names["wander"] = measures["tail_wander"]
    return hedged([f for f in found if f is not None], names, system)


def _tail_side(bed: Bed, alone: ReadingsOnly, m: Measure, system: UnitSystem) -> Finding:
    side = alone.combination(bed.set_over()).value
    larger = show_small(2 * abs(side), system)
    where = "larger" if side > 0 else "smaller"
    parts = bed.set_over()
    parts.pop("tail_side")
    bedded = alone.combination(parts)
    share = (
        f" Of it the bed gives {show_uncertain(2 * abs(bedded.value), 2 * bedded.half_width, system)}: "
        "level it first, or it comes back."
        if bedded.sd < m.limit.limit_mm and abs(bedded.value) > max(0.3 * abs(side), bedded.half_width)
        else ""
    )
    if m.state is State.UNKNOWN and not m.unread:
        share += " Whether it lands there again is not known to that: tighten it three times more."
    return Finding(
        "tail_side",
        m.state,
        f"A long piece comes out {where} at the tailstock's end by {larger}: across it stands off by "
        f"{size_words(m, system)}.",
        "bar between centres and long piece, the tailstock tightened",
        f"Set it over {show_small(abs(side), system)} toward the {'front' if side > 0 else 'rear'}, "
        f"tightened.{share}",
        2 * m.value.value,
    )


def _tail_high(now: ReadingsOnly, m: Measure, system: UnitSystem) -> Finding:
    high = now.source("tail_high").value
    move = (
        "Scrape its base, or let it be up to its limit: it wears down."
        if high > 0
        else f"Raise it: a shim of {show_small(abs(high), system)} under its whole base."
    )
    return Finding(
        "tail_high",
        m.state,
        f"It stands {'high' if high > 0 else 'low'} by {size_words(m, system)}.",
        "bar between centres, on top",
        move,
        0.3 * m.value.value,
    )


def _tail_wander(now: ReadingsOnly, m: Measure, found_wander: Wander, system: UnitSystem) -> Finding:
    shift = now.source("tail_shift")
    if is_habit(now, found_wander):
        move = (
            f"A habit: tightening takes it {show_small(abs(shift.value), system)} to the "
            f"{'rear' if shift.value > 0 else 'front'} each time. Set it that much to the "
            f"{'front' if shift.value > 0 else 'rear'} while loose, and it lands right."
        )
        return Finding(
            "habit",
            m.state,
            f"Tightened again it comes back to {size_words(m, system)}.",
            f"{found_wander.times} tightenings",
            move,
            m.value.value,
        )
    move = (
        "A loose key lets it land where it likes: no setting holds. Shim the slot, or fit a new key, "
        "before it is set over."
        if m.state is not State.WITHIN
        else "It comes back."
    )
    return Finding(
        "wander",
        m.state,
        f"From one tightening to the next it wanders by {size_words(m, system)}.",
        f"{found_wander.times} tightenings",
        move,
        m.value.value,
        (("Try the key", "tail_key"),) if m.state is not State.WITHIN else (),
    )


def _tail_key(m: Measure, system: UnitSystem) -> Finding:
    return Finding(
        "tail_key",
        m.state,
        f"The key's play in its slot is {size_words(m, system)}.",
        "pushed to and fro",
        f"A shim of {show_small(max(0.0, (m.value.value - 0.01) / 2), system)} on each side leaves "
        "it a slide fit."
        if m.state is not State.WITHIN
        else "A slide fit.",
        0.8 * m.value.value,
    )


def _quill(m: Measure, system: UnitSystem) -> Finding:
    return Finding(
        "quill",
        m.state,
        f"{'In 4 in' if system is UnitSystem.INCH else 'In 100 mm'} the quill points aside by "
        f"{size_words(m, system)}.",
        "quill run out",
        "What is drilled from it goes there; clamp it as in use when you set it.",
        0.5 * m.value.value,
    )
