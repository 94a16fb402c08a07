"""Putting it together: a partial order of steps, with what each reminds of."""

from trebb.core.fitup.order import FitStep, FitUpError, assembly_order, blocked_by, fit_steps

__all__ = ["FitStep", "FitUpError", "assembly_order", "blocked_by", "fit_steps"]
