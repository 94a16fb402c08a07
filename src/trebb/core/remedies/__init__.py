"""Remedies: for each, the change it makes to the condition, its cost, hours, waiting, needs and risk.

A new remedy is one entry in its family's module; a new family one module and
one line in `REMEDIES`.
"""

from trebb.core.remedies.base import Prediction, Remedy, predict
from trebb.core.remedies.bed import BED_REMEDIES, BedPrediction
from trebb.core.remedies.gib import GIB_REMEDIES, GibPrediction
from trebb.core.remedies.screw_drive import SCREW_REMEDIES, LashPrediction, made_as
from trebb.core.remedies.spindle import SPINDLE_REMEDIES, SpindlePrediction
from trebb.core.remedies.tram import TRAM_REMEDIES, TramPrediction

REMEDIES: tuple[Remedy, ...] = (
    *SCREW_REMEDIES,
    *SPINDLE_REMEDIES,
    *BED_REMEDIES,
    *GIB_REMEDIES,
    *TRAM_REMEDIES,
)

_BY_KEY = {(r.family, r.key): r for r in REMEDIES}


def remedy(key: str, family: str = "screw_drive") -> Remedy:
    """The remedy of that key in a family; raises KeyError for another."""
    return _BY_KEY[(family, key)]


def remedies_of(family: str) -> tuple[Remedy, ...]:
    """The remedies of a family of assemblies, in order."""
    return tuple(r for r in REMEDIES if r.family == family)


__all__ = [
    "REMEDIES",
    "BedPrediction",
    "GibPrediction",
    "LashPrediction",
    "Prediction",
    "Remedy",
    "SpindlePrediction",
    "TramPrediction",
    "made_as",
    "predict",
    "remedies_of",
    "remedy",
]
