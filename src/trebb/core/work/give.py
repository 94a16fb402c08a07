"""How much larger a piece comes out for what gives under the cut: tool, headstock, tailstock, the work."""

from __future__ import annotations

import math
from collections.abc import Sequence

from trebb.core.metals import material
from trebb.core.work.piece import Piece

# Practice, of a small lathe in order, read by nobody: N/µm; and the radial force's share of the cut's.
TOOL, HEAD, TAIL = 25.0, 50.0, 20.0
RADIAL_SHARE = 0.4


def cutting_force_n(kc_mpa: float, depth_mm: float, feed_mm: float) -> float:
    """Main cutting force, N: specific force × depth × feed."""
    return kc_mpa * depth_mm * feed_mm


def softness_um_n(
    at_mm: float,
    length_mm: float,
    bar_mm2_n: float,
    *,
    held: str,
    tool: float = TOOL,
    head: float = HEAD,
    tail: float = TAIL,
) -> float:
    """How far tool and work part a newton at a place along the work, µm/N.

    Held in the chuck the work is a cantilever, between centres a beam on two springs (beam formulas of the
    machinery handbooks).

    Parameters
    ----------
    at_mm : from the jaws, or from the headstock's centre.
    bar_mm2_n : E I of the work, N·mm².
    tool, head, tail : stiffness, N/µm.
    """
    if held == "centres":
        share = at_mm / length_mm
        bend = (at_mm * (length_mm - at_mm)) ** 2 / (3 * bar_mm2_n * length_mm)
        return 1 / tool + (1 - share) ** 2 / head + share**2 / tail + 1000 * bend
    return 1 / tool + 1 / head + 1000 * at_mm**3 / (3 * bar_mm2_n)


def larger_mm(force_per_mm: float, depth_mm: float, softness: float) -> float:
    """Larger on diameter at a last cut, mm: the cut is relieved by what gives, so 2 a c K/(1 + c K), K the
    radial force for each mm of depth, N/mm.
    """
    part = softness / 1000 * force_per_mm
    return 2 * depth_mm * part / (1 + part)


def given_along(piece: Piece, at_mm: Sequence[float]) -> tuple[float, ...]:
    """Larger on diameter at places along a turned piece, mm; nothing where its cut is not stated."""
    if not (piece.material and piece.depth_mm and piece.feed_mm):
        return ()
    metal = material(piece.material)
    bar = metal.modulus_mpa * math.pi * piece.dia_mm**4 / 64
    per_mm = RADIAL_SHARE * cutting_force_n(metal.turning_mpa, 1.0, piece.feed_mm)
    return tuple(
        larger_mm(per_mm, piece.depth_mm, softness_um_n(z, piece.length_mm, bar, held=piece.kind))
        for z in at_mm
    )
