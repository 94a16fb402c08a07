"""From raw readings to observations: repeats averaged, spread taken seriously, odd ones pointed out."""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import lru_cache
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.belief.at_once import Slipped
from trebb.core.belief.at_once import place as place_at_once
from trebb.core.belief.repeats import mean_variance, on_one_mark
from trebb.core.condition import Z95, Observation, Row
from trebb.core.survey.angles import is_figure
from trebb.core.survey.base import AnySetUp, InstrumentKind, PlaceReadings, Result
from trebb.core.survey.steps import FINER, moved_mm, step_mm, whole_turns, written_places

# A reading this many times its neighbours, or a tenth of them, is asked about.
OUTLIER_RATIO = 8.0
# Below this many resolutions nothing is called an outlier: last-digit noise is not a blunder.
OUTLIER_FLOOR = 4.0
# Repeats within so many of their scatter are ordinary; a step coarser than so many of it does not average.
ORDINARY, COARSE = 6.0, 2.0
USUAL_SPREAD, SEVERAL = 1.5, 3  # of repeats, in their scatter; places that show a set-up's own
THINNEST_MM = 0.0381  # blade of a usual set
COARSER = 1.5  # times the usual step
ROUNDED = 1.15  # scatters this near to each other are taken as one: what rests on them is then kept
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


class Repeats(Struct, frozen=True):
    """The repeats of one place, in the row's mm: what they come to, sd of that, and those that slipped or may
    have.
    """

    mean: float
    sd: float
    slips: tuple[Slipped, ...] = ()


@lru_cache(maxsize=4096)
def repeated(
    values: tuple[float, ...],
    known_sd: float,
    pooled_sd: float,
    step: float,
    turns: tuple[float, ...] = (),
    places: int = -1,
) -> Repeats:
    """What repeats come to, all in one unit: plainly where they agree and their step is fine, exactly else.

    Parameters
    ----------
    known_sd : of one reading, beside what its step makes.
    pooled_sd : the same with what all places of the set-up show.
    turns, places : how one may have slipped, see `at_once.place`.

    Notes
    -----
    The scatter of one is the known repeatability stretched by what the repeats show, as `KNOWN_FREEDOM`
    degrees of freedom of the first against theirs (the conjugate estimate of a variance); never less than
    known. A step coarser than twice the scatter does not average away, and equal repeats do not make it: they
    are taken as what they are, counts between marks. Repeats that lie far apart are weighed as scatter with a
    heavy tail, or slips.
    """
    n, mean = len(values), statistics.fmean(values)
    coarse = step > COARSE * pooled_sd
    if n == 1 or (not coarse and spread(values) <= ORDINARY * (pooled_sd + step / 2)):
        scatter = sum((v - mean) ** 2 for v in values)
        single = math.sqrt((KNOWN_FREEDOM * pooled_sd**2 + scatter) / (KNOWN_FREEDOM + n - 1))
        return Repeats(mean, math.sqrt(mean_variance(max(single, known_sd), step, n)))
    found = place_at_once(tuple(sorted(values)), pooled_sd, step, turns, places)
    order = sorted(range(n), key=lambda i: values[i])
    return Repeats(found.mean, found.sd, tuple(replace(one, at=order[one.at]) for one in found.slips))


def reduced_repeats(
    set_up: AnySetUp, subject: Any, taken: Sequence[PlaceReadings]
) -> list[tuple[str, Repeats]]:
    """The repeats of each place read, in the row's mm.

    What repeats anywhere in the set-up is what repeats here: the scatter of
    all its places counts first, then the place's own.
    """
    read = [p for p in taken if p.values and not is_figure(p.place)]
    reduced = [(p, tuple(set_up.reduce(subject, p.place, v) for v in p.values)) for p in read]
    steps = {p.place: step_mm(set_up, subject, p) for p in read}
    known = {
        p.place: own_scatter(set_up.row(subject, p.place).noise_sd, usual_step(set_up, subject, p))
        for p in read
    }
    agreeing = _agreeing([(values, known[p.place], steps[p.place]) for p, values in reduced])
    seen, freedom = pooled_sd(agreeing)
    result = []
    for p, values in reduced:
        own, step = known[p.place], steps[p.place]
        shown = max(seen**2 - step**2 / 6, 0.0)  # two roundings lie between two repeats, and scatter beside
        pooled = math.sqrt((KNOWN_FREEDOM * own**2 + freedom * shown) / (KNOWN_FREEDOM + freedom))
        pooled = own if pooled <= own else own * ROUNDED ** round(math.log(pooled / own, ROUNDED))
        turns = tuple(moved_mm(set_up, subject, p, t) for t in whole_turns(set_up, subject, p.step))
        places = written_places(set_up, p.step) if values[0] == p.values[0] else -1
        found = repeated(values, own, pooled, step, turns, places)
        if set_up.instrument is InstrumentKind.FEELERS:
            found = _felt(found, step, step > COARSER * usual_step(set_up, subject, p))
        result.append((p.place, found))
    return _rounded_together(set_up, subject, read, result, known, steps)


def _agreeing(places: Sequence[tuple[tuple[float, ...], float, float]]) -> list[tuple[float, ...]]:
    """Repeats of the places that scatter as the set-up does: as it is known to or, of several, as most of
    them do. One place that lies apart is no scatter of the others. Each with its known sd and its step.
    """
    repeated = [(values, known + step / 2) for values, known, step in places if len(values) > 1]
    if not repeated:
        return []
    usual = statistics.median(spread(values) / width for values, width in repeated)
    most = ORDINARY * max(1.0, usual / USUAL_SPREAD if len(repeated) >= SEVERAL else 1.0)
    return [values for values, width in repeated if spread(values) <= most * width]


def _felt(found: Repeats, step: float, is_coarse: bool) -> Repeats:
    """A gap by the thickest blade that goes in: the next did not. Where none did, it is less than the
    thinnest of the set.
    """
    if found.mean <= 0:
        least = max(THINNEST_MM, step)
        return replace(found, mean=least / 2, sd=math.hypot(found.sd, least / math.sqrt(12)))
    return replace(found, mean=found.mean + step / 2) if is_coarse else found


def _rounded_together(
    set_up: AnySetUp,
    subject: Any,
    read: Sequence[PlaceReadings],
    found: list[tuple[str, Repeats]],
    known: Mapping[str, float],
    steps: Mapping[str, float],
) -> list[tuple[str, Repeats]]:
    """The same where an instrument coarser than usual was read: places of one group that fell on one mark do
    not tell more together than one of them.
    """
    coarse = [p.place for p in read if p.step > COARSER * set_up.step(subject)]
    if not coarse:
        return found
    group_of = {place.key: place.group for place in set_up.places(subject)}
    groups: dict[str, list[str]] = {}
    for key in coarse:
        groups.setdefault(group_of.get(key, ""), []).append(key)
    by_place = dict(found)
    for keys in groups.values():
        means = [by_place[key].mean for key in keys]
        for key, more in zip(keys, on_one_mark(means, known[keys[0]], steps[keys[0]]), strict=True):
            by_place[key] = replace(by_place[key], sd=math.sqrt(by_place[key].sd ** 2 + more))
    return [(key, by_place[key]) for key, _ in found]


def usual_step(set_up: AnySetUp, subject: Any, p: PlaceReadings) -> float:
    """The step of the instrument that a set-up's noise was stated with, in the row's mm."""
    return step_mm(set_up, subject, replace(p, step=0.0))


def own_scatter(noise_sd: float, usual: float) -> float:
    """What is left of a set-up's noise once its usual instrument's rounding is taken out. In one unit."""
    return math.sqrt(max(noise_sd**2 - usual**2 / 12, (FINER * noise_sd) ** 2))


def place_means(
    set_up: AnySetUp, subject: Any, taken: Sequence[PlaceReadings]
) -> list[tuple[str, Observation]]:
    """One observation a place: what its repeats come to, with the noise that they show."""
    return [
        (key, Observation(replace(set_up.row(subject, key), noise_sd=found.sd), found.mean))
        for key, found in reduced_repeats(set_up, subject, taken)
    ]


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
