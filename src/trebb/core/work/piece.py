"""A piece of work: what a machine is for, with the tolerances that it must hold."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.stating.work import FIGURES, KINDS

FROM_JAWS_MM = 25.0  # the cut begins so far from the nose: less the jaws do not leave (practice)


class Piece(Struct, frozen=True):
    """A piece of work, mm.

    Parameters
    ----------
    key, title : its name in the job, and what it is called.
    kind : of `KINDS`.
    dia_mm, length_mm, high_mm : as the kind has it: diameter and length, cutter and width of cut, depth.
    material, depth_mm, feed_mm : of turned work its metal and its last cut, where they are stated.
    tolerances : figure → what it may be off by, mm, to both sides.
    """

    key: str
    title: str
    kind: str
    dia_mm: float
    length_mm: float
    high_mm: float
    tolerances: Mapping[str, float]
    material: str = ""
    depth_mm: float = 0.0
    feed_mm: float = 0.0


def piece_of(key: str, told: Mapping[str, Any]) -> Piece | None:
    """A piece as stated; None where its kind, its sizes or any tolerance are not all stated yet."""
    kind = KINDS.get(str(told.get("kind", "")))
    if kind is None:
        return None
    sizes = [float(told.get(k) or 0.0) for k in ("dia_mm", "length_mm", "high_mm")]
    tolerances = {f: float(told[f"tol_{f}"]) for f in kind.figures if told.get(f"tol_{f}")}
    if not sizes[0] or not sizes[1] or not tolerances or ("side" in tolerances and not sizes[2]):
        return None
    title = str(told.get("title") or kind.label)
    cut = [float(told.get(k) or 0.0) for k in ("depth_mm", "feed_mm")]
    metal = str(told.get("material") or "")
    return Piece(key, title, str(told["kind"]), sizes[0], sizes[1], sizes[2], tolerances, metal, *cut)


def refuse_kind(kind: str, machine: str) -> None:
    """Raises InputError for a kind of work that such a machine does not do."""
    if kind not in KINDS or machine not in KINDS[kind].machines:
        able = [f"{key} ({k.label.lower()})" for key, k in KINDS.items() if machine in k.machines]
        raise InputError(
            f"work “{kind}”", f"this machine does {', '.join(able) or 'none that is known here yet'}"
        )


__all__ = ["FIGURES", "FROM_JAWS_MM", "KINDS", "Piece", "piece_of", "refuse_kind"]
