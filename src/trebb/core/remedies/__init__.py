"""Remedies: for each, the change it makes to the condition, its cost, hours, waiting, needs and risk.

A new remedy is one entry in its family's folder.
"""

from functools import cache

from trebb.core.register import FAMILIES
from trebb.core.remedies.base import BY_ITSELF, BY_STEPS, JOINED, Prediction, Remedy, predict
from trebb.core.remedies.together import is_idle, sets_of, together, why_apart


@cache
def remedies_of(family: str) -> tuple[Remedy, ...]:
    """The remedies of a family of assemblies, in order."""
    return tuple(r for r in FAMILIES[family].named(FAMILIES[family].remedies) if r.family == family)


@cache
def remedy(key: str, family: str = "screw_drive") -> Remedy:
    """The remedy of that key in a family, or several done together ("made_nut+thrust"); raises KeyError for
    another.
    """
    known = {r.key: r for r in remedies_of(family)}
    wanted = set(key.split(JOINED))
    if not wanted <= set(known):
        raise KeyError(key)
    return together([r for r in known.values() if r.key in wanted])


def all_remedies() -> tuple[Remedy, ...]:
    """Every remedy of every family."""
    return tuple(r for family in FAMILIES for r in remedies_of(family))


__all__ = [
    "BY_ITSELF",
    "BY_STEPS",
    "JOINED",
    "Prediction",
    "Remedy",
    "all_remedies",
    "is_idle",
    "predict",
    "remedies_of",
    "remedy",
    "sets_of",
    "together",
    "why_apart",
]
