"""From estimate to verdicts: what is wrong, how sure, and what to do next."""

from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.screw_lash import (
    LashSplit,
    StationLash,
    lash_combination,
    lash_findings,
    split_lash,
    split_parts,
)

__all__ = [
    "Finding",
    "LashSplit",
    "Measure",
    "StationLash",
    "lash_combination",
    "lash_findings",
    "split_lash",
    "split_parts",
]
