"""A part that is copied has no remedies: it is made."""

from __future__ import annotations

from trebb.core.remedies.base import Remedy

COPY_REMEDIES: tuple[Remedy, ...] = ()
