"""Readers of typed facts that several families share."""

from __future__ import annotations

from typing import Any

from trebb.core.errors import InputError
from trebb.core.facts import Length, Stored
from trebb.core.threads.forms import pitch_words
from trebb.core.units import INCH_MM, UnitSystem, parse_angles, parse_number

LEAST_ANGLES, MOST_ANGLES = 5, 36


def angles_from(text: str) -> tuple[float, ...]:
    """Dial angles as stated, degrees: a count such as "8", or a list such as "0, 40, 95".

    Raises InputError otherwise.
    """
    try:
        numbers = parse_angles(text)
    except InputError:
        raise InputError(
            f"“{text.strip()[:60]}”", "write how many angles, such as 8, or a list such as 0, 45, 90"
        ) from None
    if len(numbers) == 1:
        count = numbers[0]
        if count != int(count) or not LEAST_ANGLES <= count <= MOST_ANGLES:
            raise InputError(
                f"“{text.strip()}”", f"from {LEAST_ANGLES} to {MOST_ANGLES} angles round the turn"
            )
        return tuple(360.0 * i / count for i in range(int(count)))
    angles = tuple(sorted({round(n % 360, 3) for n in numbers}))
    if not LEAST_ANGLES <= len(angles) <= MOST_ANGLES:
        raise InputError(
            f"{len(angles)} different angles",
            f"from {LEAST_ANGLES} to {MOST_ANGLES}, spread over the whole turn",
        )
    return angles


def teeth_from(text: str) -> tuple[int, ...]:
    """Numbers of teeth from a list, "3 4 17" or "3-5". Raises InputError for what is no such list."""
    found: list[int] = []
    for word in text.replace(",", " ").split():
        low, dash, high = word.partition("-")
        if not low.isdecimal() or (dash and not high.isdecimal()):
            raise InputError(f"“{word}”", "numbers of teeth with spaces between, such as 3 4 17 or 3-5")
        found += range(int(low), int(high) + 1) if dash else [int(low)]
    return tuple(sorted(set(found)))


class Pitch(Length, frozen=True):
    """A pitch, or threads an inch such as "8 tpi"."""

    def typed(self, text: str, system: UnitSystem) -> Stored:
        plain = text.lower().strip()
        words = plain.removesuffix("threads an inch").removesuffix("tpi").strip()
        if words == plain:
            return super().typed(text, system)
        number, unit = parse_number(words)
        if unit or not 0.5 <= number <= 120:
            raise InputError(f"“{text.strip()}”", "write threads an inch such as 8 tpi")
        return INCH_MM / number

    def shown(self, value: Any, system: UnitSystem) -> str:
        return pitch_words(float(value)) if value else super().shown(value, system)
