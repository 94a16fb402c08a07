"""From estimate to verdicts: what a finding is, and how a family of pieces is judged."""

from trebb.core.findings.base import Finding, Measure

__all__ = ["Finding", "Measure"]
