"""Faults that may not be there: drawn again with a chance that there is nothing, and as large as they show.

Draws of what readings alone say lean up wherever the largest of several, or the size of a vector, is taken of
them: each has its own scatter, and nothing holds it to nothing. Faults of one kind are of one scale, unknown
and perhaps nothing at all: what the readings show of all of them together says which (Efron and Morris 1973,
"Stein's estimation rule and its competitors"; the spike of Mitchell and Beauchamp 1988).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache

import numpy as np
from msgspec import Struct

from trebb.core.belief.curve import Array
from trebb.core.condition import ErrorModel, Estimate

# Scales that faults of a kind may have, in what is usual, and how likely each is beside nothing at all; each
# fault's own is scattered about it as Student's t is, for one of several may stand far out.
LEAST_SCALE, MOST_SCALE, TRIED_SCALES = 0.06, 40.0, 14
EACH = 14  # trials of own scales beside each
OWN_FREEDOM = 3.0
NOTHING = 0.2
LEAST_SD, TRIED = 1e-6, 48
FREE_MM = 0.3  # wider than anything that is no fault


@cache
def _trials(count: int) -> tuple[Array, Array]:
    """Scales to try, in what is usual, (trials, count), and how likely each is; the first is nothing."""
    rng = np.random.default_rng((29, count))
    common = np.geomspace(LEAST_SCALE, MOST_SCALE, TRIED_SCALES)
    heavy = common / (1 + common**2)  # half-Cauchy, over the logs
    own = np.sqrt(OWN_FREEDOM / rng.chisquare(OWN_FREEDOM, (TRIED_SCALES, EACH, count)))
    scales = (common[:, None, None] * own).reshape(-1, count)
    shares = np.repeat((1 - NOTHING) * heavy / heavy.sum() / EACH, EACH)
    return np.concatenate([np.zeros((1, count)), scales]), np.concatenate([[NOTHING], shares])


class Kind(Struct, frozen=True):
    """Faults of one scale: keys of their sources; `free` are patterns over them that are no fault (a common
    level where the zero is anyone's, a tilt), each with a share for every key; `usual_mm` how large such
    faults are, where their sources are sizes and not faults.
    """

    keys: tuple[str, ...]
    free: tuple[tuple[float, ...], ...] = ()
    usual_mm: float = 0.0


def levels(keys: Sequence[str], usual_mm: float = 0.0) -> Kind:
    """Faults against each other: their common level is anyone's."""
    return Kind(tuple(keys), ((1.0,) * len(keys),), usual_mm)


def as_faults(
    alone: Estimate, usual: ErrorModel, drawn: Mapping[str, Array], kinds: Sequence[Kind]
) -> dict[str, Array]:
    """Draws of sources, where those of each kind are faults that may be nothing.

    Parameters
    ----------
    alone : the condition by readings alone, of which `drawn` are draws, not cut at nothing.
    usual : the same sources as they usually are: the scale of a kind is a multiple of these.
    kinds : of faults; only what was read of each is taken.

    Returns
    -------
    New draws: a share of them with nothing of a kind, the rest shrunk by its scales. Others follow as far as
    the readings tie them to it.
    """
    found = dict(drawn)
    for number, kind in enumerate(kinds):
        kept = [i for i, key in enumerate(kind.keys) if _is_read(alone, usual, key, kind.usual_mm)]
        if kept:
            keys = tuple(kind.keys[i] for i in kept)
            free = tuple(tuple(pattern[i] for i in kept) for pattern in kind.free)
            _of_one_kind(alone, usual, found, Kind(keys, free, kind.usual_mm), number)
    return found


def _is_read(alone: Estimate, usual: ErrorModel, key: str, usual_mm: float) -> bool:
    """Whether a source is there, and known better than it is usually."""
    return key in alone.model and alone.source(key).sd < (usual_mm or usual.source(key).sd)


def _of_one_kind(
    alone: Estimate, usual: ErrorModel, drawn: dict[str, Array], kind: Kind, number: int
) -> None:
    keys = kind.keys
    at = [alone.model.position(key) for key in keys]
    sd = np.array([kind.usual_mm or usual.source(key).sd for key in keys])
    mean, covariance = alone.mean[at], alone.covariance[np.ix_(at, at)] + LEAST_SD**2 * np.eye(len(at))
    free = np.array(kind.free).reshape(-1, len(at)).T * FREE_MM
    if kind.free:  # what is no fault is taken out of the readings, and given back to the draws
        level = free @ np.linalg.lstsq(free, mean, rcond=None)[0]
        mean = mean - level
    else:
        level = np.zeros(len(at))
    open_ = covariance + free @ free.T
    scales, shares = _trials(len(at))
    variances = (scales * sd) ** 2
    roots = np.linalg.cholesky(open_ + variances[:, :, None] * np.eye(len(at)))
    off = np.linalg.solve(roots, np.broadcast_to(mean[:, None], (len(scales), len(at), 1)))[:, :, 0]
    log = np.log(shares) - 0.5 * (off**2).sum(axis=1)
    log -= np.log(np.diagonal(roots, axis1=1, axis2=2)).sum(axis=1)
    chance = np.exp(log - log.max())
    chance[np.argsort(-chance)[TRIED:]] = 0.0
    chance /= chance.sum()
    count = len(next(iter(drawn.values())))
    new = level + _draws((mean, covariance, free), variances, chance, count, number)
    new = np.where(alone.model.bounded[at] & (new < 0), 0.0, new)
    moved = new - np.array([drawn[key] for key in keys]).T
    others = [i for i, s in enumerate(alone.model.sources) if s.key not in keys and s.key in drawn]
    if others:
        shift = moved @ np.linalg.solve(covariance, alone.covariance[np.ix_(at, others)])
        for column, i in enumerate(others):
            key = alone.model.sources[i].key
            drawn[key] = drawn[key] + shift[:, column]
    for column, key in enumerate(keys):
        drawn[key] = new[:, column]


def _draws(
    read: tuple[Array, Array, Array], variances: Array, chance: Array, count: int, number: int
) -> Array:
    """Draws (count, sources) of a mixture of normal priors about nothing, each with its chance, by what
    readings say: a draw of the prior, put right by readings drawn about it.
    """
    # Draws are dealt to the trials by their chance, so that the same readings always give the same.
    mean, covariance, free = read
    rng = np.random.default_rng((23, number))
    trial_of = np.minimum(
        np.searchsorted(np.cumsum(chance), (np.arange(count) + 0.5) / count), len(chance) - 1
    )
    rng.shuffle(trial_of)
    prior = np.sqrt(variances)[trial_of] * rng.standard_normal((count, len(mean)))
    prior += rng.standard_normal((count, free.shape[1])) @ free.T
    told = mean + rng.standard_normal((count, len(mean))) @ np.linalg.cholesky(covariance).T
    found = np.zeros_like(prior)
    for trial in np.unique(trial_of):
        here = trial_of == trial
        wide = np.diag(variances[trial]) + free @ free.T
        right = np.linalg.solve(covariance + wide, (told[here] - prior[here]).T).T
        found[here] = prior[here] + right @ wide
    return found
