"""Pieces of work: what a machine is for, with the tolerances that they must hold."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from trebb.core.errors import InputError


class Figure(Struct, frozen=True):
    """A figure of the work: what it is called, and what it is by."""

    label: str
    about: str


FIGURES: Mapping[str, Figure] = {
    "dia": Figure("Diameter along it", "largest less smallest diameter from end to end"),
    "taper": Figure("Taper", "diameter at the far end less that at the near one; + is larger away"),
    "face": Figure("Face flat", "how hollow a face comes out; less than nothing is crowned"),
    "lead": Figure("Lead over its length", "how much longer a thread comes out than it should"),
    "parallel": Figure("Level across the cut", "one side of a milled face higher than the other"),
    "hollow": Figure("Hollow in a pass", "how hollow one pass of the cutter is"),
    "side": Figure("Side square", "a side wall out of square over its height"),
    "hole": Figure("Hole square", "a hole's lean over its depth"),
}


class Kind(Struct, frozen=True):
    """A kind of work: its figures, the first judged first, and what its sizes mean; `machines` that do it."""

    label: str
    figures: tuple[str, ...]
    machines: tuple[str, ...]
    dia: str
    length: str
    high: str = ""


KINDS: Mapping[str, Kind] = {
    "chuck": Kind("Turned in the chuck", ("dia", "taper", "face"), ("lathe",), "Diameter", "Length"),
    "centres": Kind("Turned between centres", ("dia", "taper"), ("lathe",), "Diameter", "Length"),
    "thread": Kind("Thread", ("lead",), ("lathe",), "Diameter", "Length"),
    "milled": Kind(
        "Milled flat",
        ("parallel", "hollow", "side"),
        ("mill",),
        "Cutter",
        "Width of the cut",
        "Height of the side",
    ),
    "bored": Kind("Bored on the mill", ("hole",), ("mill",), "Diameter", "Depth"),
    "drilled": Kind("Drilled", ("hole",), ("mill", "drill"), "Diameter", "Depth"),
}


class Piece(Struct, frozen=True):
    """A piece of work, mm.

    Parameters
    ----------
    key, title : its name in the job, and what it is called.
    kind : of `KINDS`.
    dia_mm, length_mm, high_mm : as the kind has it: diameter and length, cutter and width of cut, depth.
    tolerances : figure → what it may be off by, mm, to both sides.
    """

    key: str
    title: str
    kind: str
    dia_mm: float
    length_mm: float
    high_mm: float
    tolerances: Mapping[str, float]


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
    return Piece(key, title, str(told["kind"]), sizes[0], sizes[1], sizes[2], tolerances)


def refuse_kind(kind: str, machine: str) -> None:
    """Raises InputError for a kind of work that such a machine does not do."""
    if kind not in KINDS or machine not in KINDS[kind].machines:
        able = [f"{key} ({k.label.lower()})" for key, k in KINDS.items() if machine in k.machines]
        raise InputError(
            f"work “{kind}”", f"this machine does {', '.join(able) or 'none that is known here yet'}"
        )
