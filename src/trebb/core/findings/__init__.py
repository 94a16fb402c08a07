"""From estimate to verdicts: what is wrong, how sure, and what to do next."""

from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.lash_split import (
    LashSplit,
    StationLash,
    lash_combination,
    split_lash,
    split_parts,
)
from trebb.core.findings.screw_lash import lash_findings

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
