"""What a set of trials clears and what it leaves, by Bayes' rule over what each trial hangs on.

A trial comes good where nothing that it hangs on is at fault, nearly always; where something is, nearly
always bad. That there is a fault is why one tries at all. Every set of up to three parts at fault is weighed.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence

from msgspec import Struct

# How often a trial shows a fault that it hangs on, how often it comes bad without any, how often each part is
# at fault where there is a complaint (practice).
SHOWS, FALSE_ALARM, SHARE = 0.9, 0.06, 0.2
MOST_AT_FAULT = 3
# Chances below which a part is cleared, above which it is named, and at which no more needs to be tried.
CLEARED, LIKELY, SURE = 0.1, 0.3, 0.75
DENIED = 0.15  # of how likely trials that agree are together: less at the best, and they deny each other


class Trial(Struct, frozen=True):
    """A trial of the table: minutes it takes, what complaint it is about, what it hangs on, how it comes."""

    key: str
    words: str
    minutes: float
    about: str
    hangs_on: tuple[str, ...]
    good: str
    bad: str
    kinds: tuple[str, ...] = ()


class Told(Struct, frozen=True):
    """What the trials of a complaint say: chances of each part to be at fault, what is cleared and what left,
    whether they deny each other, the next that tells most a minute (None where none tells anything more).
    """

    about: str
    chances: Mapping[str, float]
    cleared: tuple[str, ...]
    left: tuple[str, ...]
    is_denied: bool
    following: Trial | None


def told_by(trials: Sequence[Trial], came: Mapping[str, bool]) -> Told | None:
    """What trials of one complaint say, by how each done came (True for good). None where none was done."""
    done = [(t, came[t.key]) for t in trials if t.key in came]
    if not done:
        return None
    parts = list(dict.fromkeys(p for t in trials for p in t.hangs_on))
    sets = [frozenset(c) for n in range(1, MOST_AT_FAULT + 1) for c in itertools.combinations(parts, n)]
    odds = SHARE / (1 - SHARE)
    weights = [odds ** len(s) for s in sets]
    for trial, good in done:
        weights = [w * _chance(trial, s, good=good) for w, s in zip(weights, sets, strict=True)]
    whole = sum(weights)
    shares = [w / whole for w in weights]
    chances = {p: sum(w for w, s in zip(shares, sets, strict=True) if p in s) for p in parts}
    tried_good = {p for t, good in done if good for p in t.hangs_on}
    cleared = tuple(p for p in parts if chances[p] < CLEARED and p in tried_good)
    left = tuple(sorted((p for p in parts if chances[p] >= LIKELY), key=lambda p: -chances[p]))
    most = max(math.prod(_chance(t, s, good=good) for t, good in done) for s in sets)
    is_denied = most < DENIED * SHOWS ** len(done)
    is_sure = len(left) == 1 and chances[left[0]] >= SURE
    following = None if is_sure else _next(trials, came, sets, shares)
    return Told(done[0][0].about, chances, cleared, left, is_denied, following)


def _chance(trial: Trial, at_fault: frozenset[str], *, good: bool) -> float:
    bad = SHOWS if at_fault & set(trial.hangs_on) else FALSE_ALARM
    return 1 - bad if good else bad


def _next(
    trials: Sequence[Trial],
    came: Mapping[str, bool],
    sets: Sequence[frozenset[str]],
    shares: Sequence[float],
) -> Trial | None:
    """The trial not done yet that tells most of what is at fault a minute."""
    found: list[tuple[float, Trial]] = []
    for trial in trials:
        if trial.key in came:
            continue
        each = [_chance(trial, s, good=False) for s in sets]
        mean = sum(w * p for w, p in zip(shares, each, strict=True))
        bits = _bits(mean) - sum(w * _bits(p) for w, p in zip(shares, each, strict=True))
        if bits > 0.02:
            found.append((bits / trial.minutes, trial))
    return max(found, key=lambda one: one[0])[1] if found else None


def _bits(p: float) -> float:
    return 0.0 if p <= 0 or p >= 1 else -(p * math.log2(p) + (1 - p) * math.log2(1 - p))
