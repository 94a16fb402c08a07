"""A shaft turned on V-blocks or between centres: where its middle runs, station by station.

Angles are of the shaft's mark under the indicator; a reading is + where the
surface comes toward it. Eccentricities are complex, their argument the angle
of the high spot; they are subtracted as vectors, never as total readings.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING, TypeAlias

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.solving import least_between

if TYPE_CHECKING:
    from numpy.typing import NDArray

Vectors: TypeAlias = "NDArray[np.complex128]"
# A kink or an even curve is called where its fit leaves under half of what the other leaves (practice).
TELLS_SHARE = 0.5
# A lobe whose swing is under a tenth of its amplitude does not show (practice).
UNSEEN = 0.1


def eccentricity(angles_deg: Sequence[float], readings: Sequence[float]) -> complex:
    """Eccentricity vector of one turn, in the readings' unit: (2/n) Σ y e^(iθ) over evenly spaced angles.

    Four angles give it, but three lobes then pass for it; from eight on they do
    not. Raises InputError for fewer than three angles.
    """
    if len(angles_deg) < 3:
        raise InputError(f"{len(angles_deg)} angles", "a turn is read at three angles or more, better eight")
    theta = np.radians(np.asarray(angles_deg, float))
    design = np.column_stack((np.ones_like(theta), np.cos(theta), np.sin(theta)))
    _, x, y = np.linalg.lstsq(design, np.asarray(readings, float), rcond=None)[0]
    return complex(x, y)


def best_line(z_mm: Sequence[float], v: Sequence[complex]) -> tuple[complex, complex]:
    """Intercept and slope of the axis through all stations by least squares, both planes at once."""
    z = np.asarray(z_mm, float)
    found, *_ = np.linalg.lstsq(np.column_stack((np.ones_like(z), z)), np.asarray(v, complex), rcond=None)
    return complex(found[0]), complex(found[1])


def from_journals(
    z_mm: Sequence[float], v: Sequence[complex], a_mm: float, b_mm: float, va: complex, vb: complex
) -> Vectors:
    """Eccentricities against the line through two journals at a and b, whose vectors are va and vb.

    Raises InputError where both stand at one place.
    """
    if math.isclose(a_mm, b_mm):
        raise InputError(f"journals both at {a_mm:g} mm", "two places along the shaft")
    z = np.asarray(z_mm, float)
    found: Vectors = np.asarray(v, complex) - (va + (vb - va) * (z - a_mm) / (b_mm - a_mm))
    return found


class Kink(Struct, frozen=True):
    """Two straight limbs. `angle` is the change of slope, in the vectors' unit per mm of shaft;
    `direction_deg` the shaft angle of the bulge; `rms` what the fit leaves.
    """

    place_mm: float
    angle: float
    direction_deg: float
    rms: float


class Curve(Struct, frozen=True):
    """Even curvature. `sagitta` is its height midway between the journals, `direction_deg` the shaft angle of
    the bulge, `rms` what the fit leaves.
    """

    sagitta: float
    direction_deg: float
    rms: float


def _left(design: NDArray[np.float64], v: Vectors) -> tuple[Vectors, float]:
    found: Vectors = np.asarray(np.linalg.lstsq(design, v, rcond=None)[0], dtype=np.complex128)
    rest = v - design @ found
    return found, float(np.sqrt(np.mean(np.abs(rest) ** 2)))


def _bent_design(z: NDArray[np.float64], knee_mm: float) -> NDArray[np.float64]:
    return np.column_stack((np.ones_like(z), z, np.maximum(0.0, z - knee_mm)))


def fit_kink(z_mm: Sequence[float], v: Sequence[complex]) -> Kink:
    """The kink by least squares over its place, between the second and the last but one station.

    Raises InputError for fewer than five stations: fewer cannot tell a kink from
    a curve.
    """
    z, vectors = np.asarray(z_mm, float), np.asarray(v, complex)
    if len(z) < 5:
        raise InputError(f"{len(z)} stations", "five or more tell a kink from a curve")
    order = np.argsort(z)
    z, vectors = z[order], vectors[order]

    def left(knee: float) -> float:
        return _left(_bent_design(z, knee), vectors)[1]

    # Between two stations the sum of squares has one low place: each stretch is searched, the best kept.
    stretches = [(z[i], z[i + 1]) for i in range(1, len(z) - 2)]
    knees = [least_between(left, *stretch, xtol=1e-9) for stretch in stretches]
    knees += [(left(k), float(k)) for k in z[1:-1]]
    rms, knee = min(knees)
    found, _ = _left(_bent_design(z, knee), vectors)
    bend = -complex(found[2])
    return Kink(knee, abs(bend), _degrees(bend), rms)


def fit_curve(z_mm: Sequence[float], v: Sequence[complex], a_mm: float, b_mm: float) -> Curve:
    """The even curve by a complex parabola; its sagitta over the span from a to b. Three stations or more.
    Raises InputError for fewer than three stations.
    """
    z, vectors = np.asarray(z_mm, float), np.asarray(v, complex)
    if len(z) < 3:
        raise InputError(f"{len(z)} stations", "three or more show a curve")
    found, rms = _left(np.column_stack((np.ones_like(z), z, z**2)), vectors)
    sagitta = -complex(found[2]) * (b_mm - a_mm) ** 2 / 4
    return Curve(abs(sagitta), _degrees(sagitta), rms)


def shape_of(kink: Kink, curve: Curve) -> str:
    """ "kink", "curve" or "undecided": the fit whose rms is under half of the other's (practice)."""
    if kink.rms < TELLS_SHARE * curve.rms:
        return "kink"
    return "curve" if curve.rms < TELLS_SHARE * kink.rms else "undecided"


def lobe_factor(lobes: int, v_deg: float = 90.0, from_bisector_deg: float = 0.0) -> float:
    """Swing read on a V-block for lobes of the radius: 2 × amplitude × this.

    A 90° V hides 7 and 9 lobes and doubles 3 and 5; a 60° V hides 2, 4, 5, 7 and
    8. One lobe is eccentricity, and never shows in a V. Derived from the support
    function of a lobed disc resting on two planes.
    """
    g, t, n = math.radians(90 - v_deg / 2), math.radians(from_bisector_deg), lobes
    if n == 1:
        return 0.0
    along = math.cos(n * t) + (-1) ** n * math.cos(n * g) * math.cos(t) / math.cos(g)
    across = math.sin(n * t) + (-1) ** n * math.sin(n * g) * math.sin(t) / math.sin(g)
    return math.hypot(along, across)


def lobe_hidden(lobes: int, v_deg: float = 90.0, from_bisector_deg: float = 0.0) -> bool:
    """Whether lobes of that number do not show on that V (practice: under a tenth)."""
    return lobe_factor(lobes, v_deg, from_bisector_deg) < UNSEEN


def _degrees(vector: complex) -> float:
    return math.degrees(np.angle(vector)) % 360
