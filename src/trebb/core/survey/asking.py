"""What is asked before a reading counts: a slip of the hand, the unit or the cable. Nothing is refused here:
said again, it counts.
"""

from __future__ import annotations

import re
import statistics
from collections.abc import Mapping, Sequence
from typing import Any

from trebb.core.survey.angles import is_figure
from trebb.core.survey.base import AnySetUp
from trebb.core.survey.shown import reading_text
from trebb.core.units import UnitSystem

TIMES = 20.0  # so many times more or less than what stands beside it is a unit or a point misplaced
# An indicator's whole range in its own steps: a dial of thousandths has one inch or two of travel.
STEPS_IN_RANGE = 2000.0
CLEAR_STEPS = 3.0  # what differs by less is the reading again


def question_of(
    s: AnySetUp,
    subject: Any,
    place: str,
    raw: float,
    *,
    at_places: Mapping[str, Sequence[float]],
    is_signed_as_typed: bool,
    system: UnitSystem,
) -> str:
    """What to ask about a reading before it counts, in words; "" for nothing. In the set-up's own unit.

    Parameters
    ----------
    raw : the reading.
    at_places : what stands of this set-up, by place, this one included: raw readings.
    is_signed_as_typed : False where it was typed without + or −.
    """
    if is_figure(place):
        return _range(s, subject, raw)
    elsewhere = [v for key, found in at_places.items() if key != place for v in found]
    asked = (
        _range(s, subject, raw)
        or _repeat(s, subject, place, raw, at_places.get(place, ()), system)
        or _beside(s, subject, raw, elsewhere, system)
    )
    if not asked and s.question is not None:
        means = {key: sum(found) / len(found) for key, found in at_places.items() if found and key != place}
        asked = s.question(subject, place, raw, means, is_signed_as_typed)
    return asked


def _range(s: AnySetUp, subject: Any, raw: float) -> str:
    """Far from anything that the instrument can show."""
    step = s.step(subject)
    if s.is_size or not s.is_length or raw == 0:
        return ""
    if abs(raw) > STEPS_IN_RANGE * step:
        return "that is more than this instrument’s whole range; is the unit right?"
    if abs(raw) < step / TIMES:
        return "that is far less than this instrument shows; is the unit right?"
    return ""


def _repeat(
    s: AnySetUp, subject: Any, place: str, raw: float, repeats: Sequence[float], system: UnitSystem
) -> str:
    """Against what was read at the same place."""
    if not repeats:
        return ""
    clear = CLEAR_STEPS * s.step(subject)
    usual = statistics.median(repeats)
    before = reading_text(usual, s, system, unit=True)
    if abs(raw - usual) <= clear:
        return ""
    if abs(raw) > clear and abs(raw + usual) <= clear and all(v * usual > 0 for v in repeats):
        return f"it was {before} here before; is a sign lost?"
    if _digit_lost(s, raw, usual):
        return f"it was {before} here before; is a figure lost?"
    return _times(s, subject, raw, usual, f"it was {before} here before", system)


def _beside(s: AnySetUp, subject: Any, raw: float, others: Sequence[float], system: UnitSystem) -> str:
    """Against what was read at the other places: of two at least that say something."""
    known = [abs(v) for v in others if abs(v) > CLEAR_STEPS * s.step(subject)]
    if len(known) < 2 or s.is_size or not s.is_length:
        return ""
    usual = statistics.median(known)
    if s.is_signed and abs(raw) < usual:
        return ""  # what goes through nothing is small somewhere
    beside = f"the others read about {reading_text(usual, s, system, unit=True)}"
    return _times(s, subject, raw, usual, beside, system)


def _times(s: AnySetUp, subject: Any, raw: float, usual: float, words: str, system: UnitSystem) -> str:
    one, other = abs(raw), abs(usual)
    if one == 0 or other == 0 or abs(one - other) <= CLEAR_STEPS * s.step(subject):
        return ""
    return f"{words}; is the unit right?" if max(one, other) > TIMES * min(one, other) else ""


def _digit_lost(s: AnySetUp, raw: float, usual: float) -> bool:
    """Whether the figures of one are those of the other with one left out, as either system writes them."""
    for system in UnitSystem:
        now, before = (re.sub(r"\D", "", reading_text(abs(v), s, system)).lstrip("0") for v in (raw, usual))
        if len(now) == len(before) - 1 >= 2 and any(
            before[:i] + before[i + 1 :] == now for i in range(len(before))
        ):
            return True
    return False
