"""Remedies: for each, the change it makes to the condition, its cost, hours, waiting, needs and risk.

A new remedy is one entry in its family's folder.
"""

from functools import cache

from trebb.core.register import FAMILIES
from trebb.core.remedies.base import Prediction, Remedy, predict


@cache
def remedies_of(family: str) -> tuple[Remedy, ...]:
    """The remedies of a family of assemblies, in order."""
    return tuple(r for r in FAMILIES[family].named(FAMILIES[family].remedies) if r.family == family)


def remedy(key: str, family: str = "screw_drive") -> Remedy:
    """The remedy of that key in a family; raises KeyError for another."""
    for found in remedies_of(family):
        if found.key == key:
            return found
    raise KeyError(key)


def all_remedies() -> tuple[Remedy, ...]:
    """Every remedy of every family."""
    return tuple(r for family in FAMILIES for r in remedies_of(family))


__all__ = ["Prediction", "Remedy", "all_remedies", "predict", "remedies_of", "remedy"]
