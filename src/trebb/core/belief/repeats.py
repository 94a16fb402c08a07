"""What repeats of one size say of it: read to a step, scattered, perhaps slipped.

Each reading was right, or slipped in one of a few ways; right, it is the size
with scatter, written to the instrument's step. The size is a curve; the scatter
known, or integrated out with a prior of its own.

After: rounding as interval censoring (Sheppard 1898; Heitjan 1989, "Inference
from grouped continuous data"), t scatter (Lange, Little and Taylor 1989), slips
as a mixture with the Jacobian of each (Box and Tiao 1968, "A Bayesian approach
to some outlier problems").
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache

import numpy as np
from msgspec import Struct

from trebb.core.belief.curve import Array, Curve, between, curve, nodes, panels, phi_upper
from trebb.core.units import INCH_MM

TAILS = 9.0  # scatters beyond the outermost readings that are looked at
ON_A_MARK = 1e-4  # of a step: a figure this near to a mark lies on it
SCALES = 60  # of an unknown scatter, over its logs
# Chances of a slip beside which a reading is called one, or right; between them it is to be read again.
SLIP, RIGHT = 0.9, 0.1


class Scatter(Struct, frozen=True):
    """Prior of an unknown scatter: "halfnormal", "half_t" (of `freedom`) or "lognormal" about a median
    (`spread` the sd of its log). In the readings' unit.
    """

    kind: str
    scale: float
    freedom: float = 3.0
    spread: float = 1.0

    def grid(self) -> tuple[Array, Array]:
        """Scales and their logs of chance, even over the logs of what it can be."""
        reach = 4.5 * self.spread if self.kind == "lognormal" else math.log(40 if self.freedom > 2 else 400)
        least = -reach if self.kind == "lognormal" else math.log(1e-6)
        x, weight = nodes(np.linspace(least, reach, SCALES // 5 + 1))
        s = self.scale * np.exp(x)
        r = s / self.scale
        if self.kind == "halfnormal":
            log = -(r**2) / 2
        elif self.kind == "half_t":
            log = -(self.freedom + 1) / 2 * np.log1p(r**2 / self.freedom)
        else:
            log = -(x**2) / (2 * self.spread**2) - x
        return s, log + x + np.log(weight)


class Slips(Struct, frozen=True):
    """In which ways a reading may have slipped, each with its chance: "turn" (a whole one, either way),
    "swap" (the last two figures), "tenfold" (the point, either way), "unit" (the other one), "lifted" (held
    off by `lift` on average). `turn` and `lift` in the readings' unit; `places` figures are written after
    the point.
    """

    weights: Mapping[str, float]
    turn: float = 0.0
    lift: float = 0.0
    places: int = 2

    @property
    def right(self) -> float:
        """The chance that a reading did not slip."""
        return self.weights.get("right", 1 - sum(self.weights.values()))

    def meant(self, kind: str, x: float) -> tuple[tuple[float, float, float], ...]:
        """What was there, if a reading slipped so: sizes, each with its share of the chance and how much
        wider the reading is written than the size is.
        """
        if kind == "turn":
            return ((x - self.turn, 0.5, 1.0), (x + self.turn, 0.5, 1.0))
        if kind == "tenfold":
            return ((x / 10, 0.5, 0.1), (x * 10, 0.5, 10.0))
        if kind == "unit":
            return ((x / INCH_MM, 0.5, 1 / INCH_MM), (x * INCH_MM, 0.5, INCH_MM))
        return ((swapped(x, self.places), 1.0, 1.0),)


def swapped(x: float, places: int) -> float:
    """A reading with its last two figures the other way round; `places` are written after the point."""
    figures = f"{abs(x):.{places}f}"
    digits = figures.replace(".", "")
    if len(digits) < 2:
        return x
    digits = digits[:-2] + digits[-1] + digits[-2]
    return math.copysign(int(digits) / 10**places, x)


class Believed(Struct, frozen=True):
    """A size by its repeats: the curve, the mean of the scatter, and of each reading the chance that it
    slipped in each way.
    """

    curve: Curve
    scatter: float
    slips: tuple[Mapping[str, float], ...] = ()

    def slip(self, i: int) -> float:
        """Chance that reading i slipped."""
        return sum(chance for kind, chance in self.slips[i].items() if kind != "right")

    def verdict(self, i: int) -> str:
        """ "slip", "right" or "undecided"."""
        p = self.slip(i)
        return "slip" if p > SLIP else "right" if p < RIGHT else "undecided"

    def kind(self, i: int) -> str:
        """The likeliest way in which reading i slipped."""
        return max((k for k in self.slips[i] if k != "right"), key=lambda k: self.slips[i][k], default="")


def t_upper(freedom: float) -> Callable[[Array], Array]:
    """Share of Student's t above x, by its closed form; of infinite freedom the normal's."""
    if math.isinf(freedom):
        return phi_upper
    if freedom == 3:

        def three(x: Array) -> Array:
            z = np.abs(np.asarray(x)) / math.sqrt(3)
            upper = (np.arctan2(1, z) - z / (1 + z**2)) / math.pi
            return np.asarray(np.where(np.asarray(x) > 0, upper, 1 - upper))

        return three

    def four(x: Array) -> Array:
        z = np.abs(np.asarray(x))
        c = 1 / (4 + z**2)  # 1 − sin of the angle, without the figures that a difference would lose
        sine = z * np.sqrt(c)
        tail = 4 * c / (1 + sine)
        upper = tail * tail * (2 + sine) / 4
        return np.asarray(np.where(np.asarray(x) > 0, upper, 1 - upper))

    return four


def _log_t(z: Array, freedom: float) -> Array:
    """Log of the standard density."""
    if math.isinf(freedom):
        return np.asarray(-(z**2) / 2 - math.log(math.sqrt(2 * math.pi)))
    nu = freedom
    constant = math.lgamma((nu + 1) / 2) - math.lgamma(nu / 2) - math.log(nu * math.pi) / 2
    return np.asarray(constant - (nu + 1) / 2 * np.log1p(z**2 / nu))


def believed(
    readings: Sequence[float],
    *,
    scatter: float | Scatter,
    step: float = 0.0,
    freedom: float = math.inf,
    prior: tuple[float, float] | None = None,
    slips: Slips | None = None,
) -> Believed:
    """The size that repeats say.

    Parameters
    ----------
    readings : of one place, in any unit; all else in the same.
    scatter : sd of one reading beside its rounding (scale of the t), or the prior of it.
    step : what the readings are written to, 0 for none.
    freedom : of Student's t: 3, 4, or infinite for the normal.
    prior : mean and sd of the size before any reading; None for flat.
    slips : how a reading may have slipped.

    Returns
    -------
    Believed: the curve is the exact posterior, to quadrature.
    """
    known = not isinstance(scatter, Scatter)
    scales, log_scales = (np.array([scatter]), np.zeros(1)) if known else scatter.grid()  # type: ignore[union-attr]
    usual = float(scatter) if known else scatter.scale  # type: ignore[arg-type, union-attr]
    edges = _edges(readings, usual, step, freedom, prior, slips, known)
    m, _ = nodes(edges)
    total = np.zeros((len(scales), len(m)))
    each: list[dict[str, Array]] = []
    repeated = lru_cache(maxsize=None)(lambda x: _kinds(x, m, scales, step, freedom, slips))
    for x in readings:
        kinds = repeated(x)
        total += np.logaddexp.reduce(list(kinds.values()))
        each.append(kinds)
    total += log_scales[:, None]
    if prior is not None:
        total -= ((m - prior[0]) / prior[1]) ** 2 / 2
    found = curve(edges, np.logaddexp.reduce(total))
    weight = np.exp(total - total.max()) * nodes(edges)[1]
    weight /= weight.sum()
    chances = (
        {
            x: {
                k: float((weight * np.exp(v - np.logaddexp.reduce(list(kinds.values())))).sum())
                for k, v in kinds.items()
            }
            for x, kinds in zip(readings, each, strict=True)
        }
        if slips is not None
        else {}
    )
    mean_scale = float((weight * scales[:, None]).sum())
    return Believed(found, mean_scale, tuple(chances[x] for x in readings) if chances else ())


def _kinds(
    x: float, m: Array, scales: Array, step: float, freedom: float, slips: Slips | None
) -> dict[str, Array]:
    """Log of chance × likelihood of a reading by each way it may have come, (scales, sizes)."""
    right = _log_read(x, 1.0, m, scales, step, freedom)
    if slips is None:
        return {"right": right}
    found = {"right": right + math.log(slips.right)}
    for kind, weight in slips.weights.items():
        if kind == "right" or not weight:
            continue
        if kind == "lifted":
            found[kind] = math.log(weight) + _log_lifted(x, m, scales, step, slips.lift)
            continue
        ways = [
            math.log(weight * share) + _log_read(size, wider, m, scales, step, freedom)
            for size, share, wider in slips.meant(kind, x)
        ]
        found[kind] = np.logaddexp.reduce(ways)
    return found


def _log_read(size: float, wider: float, m: Array, scales: Array, step: float, freedom: float) -> Array:
    """Log likelihood of a size written to a step, (scales, sizes): of the density where there is none."""
    s = scales[:, None]
    if not step:
        return _log_t((size - m) / s, freedom) - np.log(s) + math.log(wider)
    half = step * wider / 2
    mass = between((size - half - m) / s, (size + half - m) / s, t_upper(freedom))
    return np.asarray(np.log(np.maximum(mass, 1e-300)))


def _log_lifted(x: float, m: Array, scales: Array, step: float, lift: float) -> Array:
    """The same of one that something held off: an exponential lift beside normal scatter."""
    s = scales[:, None]
    z = (x - m) / s - s / lift
    log = s**2 / (2 * lift**2) - (x - m) / lift - math.log(lift)
    found = log + np.log(np.maximum(phi_upper(-z), 1e-300))
    return np.asarray(found + (math.log(step) if step else 0.0))


def _edges(
    readings: Sequence[float],
    usual: float,
    step: float,
    freedom: float,
    prior: tuple[float, float] | None,
    slips: Slips | None,
    known: bool,
) -> Array:
    """Panels over all that the size may be."""
    half = step / 2
    turns: list[tuple[float, float]] = []
    for x in dict.fromkeys(readings):
        turns += [(x - half, usual), (x + half, usual)] if step else [(x, usual)]
        if slips is not None:
            for kind, weight in slips.weights.items():
                if weight and kind not in ("right", "lifted"):
                    turns += [(y, max(usual, half) * max(w, 0.1)) for y, _, w in slips.meant(kind, x)]
    spread = max(readings) - min(readings)
    if not known:
        turns += [(x, max(spread, step, usual) / 3) for x in dict.fromkeys(readings)]
    if prior is not None:
        low, high = prior[0] - TAILS * prior[1], prior[0] + TAILS * prior[1]
        turns.append((prior[0], prior[1]))
        return panels(low, high, turns)
    reach = TAILS * usual + half + (40 if not (known and math.isinf(freedom)) else 0) * max(usual, spread)
    return panels(min(readings) - reach, max(readings) + reach, turns)


def mean_variance(scatter: float, step: float, count: int) -> float:
    """Variance of the plain mean of so many readings written to a step, over all places between two of its
    marks: B + (s² + q²/12 − B)/n, with B = q²/(2π²) Σ exp(−4π²k²s²/q²)/k² what does not average away.

    Exact for the plain mean (Fourier series of the rounding error). In the readings' unit squared.
    """
    if not step:
        return scatter**2 / count
    kept = kept_variance(scatter, step)
    return kept + (scatter**2 + step**2 / 12 - kept) / count


def kept_variance(scatter: float, step: float) -> float:
    """B of `mean_variance`: what of a step does not average away, in the unit squared."""
    ratio = scatter / step
    if ratio < 0.03:
        return step**2 / 12
    terms = (math.exp(-((2 * math.pi * k * ratio) ** 2)) / k**2 for k in range(1, 60))
    return step**2 / (2 * math.pi**2) * math.fsum(terms)


def on_one_mark(values: Sequence[float], scatter: float, step: float) -> list[float]:
    """What the variance of each of several readings of one kind has to have more, in the unit squared, where
    others fell on the same mark of a coarse step: their rounding is likely one and the same, and must not
    average away with their number.
    """
    kept = kept_variance(scatter, step)
    return [kept * (sum(abs(v - x) < step / 2 for v in values) - 1) for x in values]


def step_chances(
    places: Sequence[Sequence[float]], scatter: float, candidates: Sequence[float]
) -> dict[float, float]:
    """The chance of each step that readings of several places may be written to, each as likely before.

    A place counts once for its size (flat); repeats there are integrated over it together, so that they count
    for little where the scatter is less than the finest step. One figure between a step's marks rules the
    step out.
    """
    logs = []
    for step in candidates:
        total = 0.0
        for values in places:
            if any(abs(v / step - round(v / step)) > ON_A_MARK for v in values):
                total = -math.inf
                break
            if len(values) == 1:
                total += math.log(step)
                continue
            edges = _edges(values, scatter, step, math.inf, None, None, known=True)
            m, weight = nodes(edges)
            log = sum(_log_read(v, 1.0, m, np.array([scatter]), step, math.inf)[0] for v in values)
            total += math.log(max(float(weight @ np.exp(log)), 1e-300))
        logs.append(total)
    top = max(logs)
    if math.isinf(top):
        return dict.fromkeys(candidates, 0.0)
    raw = [math.exp(one - top) for one in logs]
    return {step: one / sum(raw) for step, one in zip(candidates, raw, strict=True)}
