"""Proving: the same set-ups before and after, against limit and prediction."""

from trebb.core.proof.comparing import Comparison, compare

__all__ = ["Comparison", "compare"]
