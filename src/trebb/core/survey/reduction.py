"""From raw readings to observations: repeats averaged, spread taken seriously, odd ones pointed out."""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable, Iterable, Sequence
from functools import lru_cache
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.condition import Z95, Observation, Row
from trebb.core.survey.base import AnySetUp, PlaceReadings, Result

# A reading this many times its neighbours, or a tenth of them, is asked about.
OUTLIER_RATIO = 8.0
# Below this many resolutions nothing is called an outlier: last-digit noise is not a blunder.
OUTLIER_FLOOR = 4.0
# A repeat is odd this many times the known repeatability away from its fellows, and this many times their
# spread: what is less is scatter, and belongs to the answer.
ODD_SDS, ODD_SPREADS = 20.0, 4.0
ODD_WEIGHT = 0.01  # of a reading: pointed out, and never quite dropped
KNOWN_FREEDOM = 3  # what a set-up's known repeatability is worth against the repeats that are taken


def pooled_sd(groups: Iterable[Sequence[float]]) -> tuple[float, int]:
    """Standard deviation within places, pooled, and its degrees of freedom; (0, 0) without repeats."""
    total, freedom = 0.0, 0
    for values in groups:
        if len(values) > 1:
            centre = statistics.fmean(values)
            total += sum((v - centre) ** 2 for v in values)
            freedom += len(values) - 1
    return (math.sqrt(total / freedom), freedom) if freedom else (0.0, 0)


def spread(values: Sequence[float]) -> float:
    """Largest less smallest of the repeats. In their unit."""
    return max(values) - min(values) if values else 0.0


def reduced_mean(set_up: AnySetUp, subject: Any, readings: PlaceReadings) -> float:
    """Mean of a place's readings in the row's mm."""
    return statistics.fmean(set_up.reduce(subject, readings.place, value) for value in readings.values)


def mean_noise(single_sd: float, count: float, step: float) -> float:
    """sd of the mean of repeats. The instrument's own step does not average away: step / √12 is kept
    whole.
    """
    uniform = step / math.sqrt(12)
    return math.sqrt(max(single_sd**2 - uniform**2, 0.0) / count + min(uniform, single_sd) ** 2)


class Repeats(Struct, frozen=True):
    """The repeats of one place, in the row's mm: what they come to, sd of one of them, how many count in
    full, and which of them disagree with all the others (positions).
    """

    mean: float
    single_sd: float
    count: float
    odd: tuple[int, ...]


def odd_repeats(values: Sequence[float], known_sd: float) -> tuple[int, ...]:
    """Positions of repeats that the others, agreeing among themselves, leave alone.

    One is odd that lies further from the median of the others than
    `ODD_SDS` of what the set-up repeats to, and than `ODD_SPREADS` of what the
    others spread over. It takes two others that agree, and less than half may
    be odd: otherwise it is scatter, and counted as such.
    """
    if len(values) < 3 or max(values) - min(values) <= ODD_SDS * known_sd:
        return ()  # none can lie further from the others than all of them spread
    return _odd(tuple(values), known_sd)


@lru_cache(maxsize=512)  # the same repeats are asked for by every view of a set-up
def _odd(values: tuple[float, ...], known_sd: float) -> tuple[int, ...]:
    found: list[int] = []
    for i, value in enumerate(values):
        others = [v for j, v in enumerate(values) if j != i and j not in found]
        if len(others) < 2:
            return ()
        away = abs(value - statistics.median(others))
        if away > max(ODD_SDS * known_sd, ODD_SPREADS * spread(others)):
            found.append(i)
    return tuple(found) if 2 * len(found) < len(values) else ()


def repeats(values: Sequence[float], known_sd: float, odd: tuple[int, ...]) -> Repeats:
    """What repeats come to: the mean of those that agree, the odd ones weighed as `ODD_WEIGHT` of one.

    The scatter of one is the known repeatability stretched by what the repeats
    show, as `KNOWN_FREEDOM` degrees of freedom of the first against theirs (the
    conjugate estimate of a variance); never less than known.
    """
    weights = [ODD_WEIGHT if i in odd else 1.0 for i in range(len(values))]
    mean = sum(w * v for w, v in zip(weights, values, strict=True)) / sum(weights)
    agreeing = [v for i, v in enumerate(values) if i not in odd]
    centre = statistics.fmean(agreeing)
    scatter = sum((v - centre) ** 2 for v in agreeing)
    freedom = KNOWN_FREEDOM + len(agreeing) - 1
    single = math.sqrt((KNOWN_FREEDOM * known_sd**2 + scatter) / freedom)
    return Repeats(mean, max(single, known_sd), sum(weights), odd)


def reduced_repeats(
    set_up: AnySetUp, subject: Any, taken: Sequence[PlaceReadings]
) -> list[tuple[str, Repeats]]:
    """The repeats of each place read, in the row's mm.

    What repeats anywhere in the set-up is what repeats here: the scatter of
    all its places counts first, then the place's own.
    """
    reduced = [(p.place, [set_up.reduce(subject, p.place, v) for v in p.values]) for p in taken if p.values]
    known = {place: set_up.row(subject, place).noise_sd for place, _ in reduced}
    odd = {place: odd_repeats(values, known[place]) for place, values in reduced}
    seen, freedom = pooled_sd(
        [v for i, v in enumerate(values) if i not in odd[place]] for place, values in reduced
    )
    result = []
    for place, values in reduced:
        pooled = math.sqrt(
            (KNOWN_FREEDOM * known[place] ** 2 + freedom * seen**2) / (KNOWN_FREEDOM + freedom)
        )
        result.append((place, repeats(values, max(known[place], pooled), odd[place])))
    return result


def place_means(
    set_up: AnySetUp, subject: Any, taken: Sequence[PlaceReadings]
) -> list[tuple[str, Observation]]:
    """One observation a place: the mean of its repeats, with the noise that they show."""
    result = []
    for place, found in reduced_repeats(set_up, subject, taken):
        row = set_up.row(subject, place)
        noise = mean_noise(found.single_sd, found.count, set_up.resolution_mm)
        result.append((place, Observation(replace(row, noise_sd=noise), found.mean)))
    return result


def observations(set_up: AnySetUp, subject: Any, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """What a set-up's readings say of the sources: by its own way, or one observation a place."""
    if set_up.observe is not None:
        return set_up.observe(subject, taken)
    return [observation for _, observation in place_means(set_up, subject, taken)]


def information(set_up: AnySetUp, subject: Any, places: Sequence[str]) -> tuple[Row, ...]:
    """Rows that reading these places once would give, whatever will be read."""
    if set_up.observe is not None:
        return tuple(o.row for o in set_up.observe(subject, [PlaceReadings(p, (0.0,)) for p in places]))
    return tuple(set_up.row(subject, p) for p in places)


def results(set_up: AnySetUp, subject: Any, taken: Sequence[PlaceReadings]) -> list[Result]:
    """What before and after are compared by: the set-up's own figures, or each place's mean."""
    if set_up.results is not None:
        return set_up.results(subject, taken)
    return [
        Result(place, o.value, Z95 * o.row.noise_sd, o.row)
        for place, o in place_means(set_up, subject, taken)
    ]


def differences(
    set_up: Callable[[], AnySetUp], pairs: Callable[[Any], Sequence[tuple[str, str, str]]]
) -> Callable[[Any, Sequence[PlaceReadings]], list[Result]]:
    """A set-up's `results` where the indicator's zero is whatever it was: words, the place taken away, the
    place it is taken from.
    """

    def found(subject: Any, taken: Sequence[PlaceReadings]) -> list[Result]:
        means = dict(place_means(set_up(), subject, taken))
        rows = []
        for words, less, place in pairs(subject):
            if less in means and place in means:
                a, b = means[less], means[place]
                sd = math.hypot(a.row.noise_sd, b.row.noise_sd)
                keys = {**a.row.coefficients, **b.row.coefficients}
                row = Row(
                    {k: b.row.coefficients.get(k, 0.0) - a.row.coefficients.get(k, 0.0) for k in keys}, sd
                )
                rows.append(Result(words, b.value - a.value, Z95 * sd, row))
        return rows

    return found


class Outlier(Struct, frozen=True):
    """A reading far from its neighbours; `typical` is what they lead one to expect, same unit."""

    value: float
    typical: float


def outlier(set_up: AnySetUp, subject: Any, value: float, others: Sequence[float]) -> Outlier | None:
    """Is this raw reading out of all proportion to the others of its set-up?

    Sizes are judged by their difference from the median, plays by their ratio.
    Needs two others. Answers only ask: nothing is ever dropped here.
    """
    if len(others) < 2:
        return None
    typical = statistics.median(others)
    step = set_up.step(subject)
    if set_up.is_size:
        return (
            Outlier(value, typical)
            if abs(value - typical) > set_up.size_band_mm(subject) * OUTLIER_RATIO
            else None
        )
    high, low = max(abs(value), abs(typical)), min(abs(value), abs(typical))
    if high - low <= OUTLIER_FLOOR * step:
        return None
    return Outlier(value, typical) if high > OUTLIER_RATIO * max(low, step) else None
