"""How a head divides a number, in words."""

from __future__ import annotations

from trebb.core.gears import dividing


def dividing_words(divisions: int, head: int = 40) -> str:
    """How a head divides a number: an exact setting, else each division rounded afresh."""
    exact = dividing.exact_settings(divisions, head)
    if exact:
        return exact[0].words
    near = dividing.rounded_settings(divisions, head)
    worst = f"{near.worst_arcsec:.0f}″ at worst"
    return f"no circle is exact: {near.circle} circle, each division rounded afresh, {worst}"
