"""Remedies: for each, the change it makes to the condition, its cost, hours, waiting, needs and risk.

A new remedy is one entry in its family's module; a new family one module and
one line in `REMEDIES`.
"""

from trebb.core.remedies.base import Prediction, Remedy, predict
from trebb.core.remedies.screw_drive import SCREW_REMEDIES, made_as

REMEDIES: tuple[Remedy, ...] = SCREW_REMEDIES

_BY_KEY = {r.key: r for r in REMEDIES}


def remedy(key: str) -> Remedy:
    """The remedy of that key; raises KeyError for another."""
    return _BY_KEY[key]


__all__ = ["REMEDIES", "Prediction", "Remedy", "made_as", "predict", "remedy"]
