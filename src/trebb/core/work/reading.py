"""What to read before a choice of repairs: by how much it may change the choice, against its minutes.

Of every way to mend, or to leave, a machine the chance is worked out that all of the work is inside, by the
condition as it is believed; a way costs its money and hours, and where it was not enough the surest way
after all and as much again for the work that was lost. A reading is worth what the cheapest choice costs
less, on average, once it is known what it says (value of sample information: Raiffa and Schlaifer 1961,
"Applied statistical decision theory"). The average goes over drawn answers; which way is cheapest is judged
by one half of the draws and counted by the other, so that chance alone is worth nothing.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from trebb.core.condition import Candidate, Change, Estimate, linear_of
from trebb.core.condition.draws import Array, normal_draws
from trebb.core.work.made import WorkRow, given_at, sizes

ANSWERS, DRAWS = 48, 128
LOST = 2.0  # times the surest way: what it costs that work is not inside (practice: done after all, late)
JITTER = 1e-9  # of a variance: what rounding may take from it
NOTHING = 0.01  # of the doubt of one figure: what takes less of it tells nothing of the work
SELDOM = 0.01  # of drawn conditions: a way that is cheapest so seldom is not thought of


class Way(Struct, frozen=True):
    """A way to mend, or to leave, a machine: what is done, in order, and its money and hours as one."""

    changes: tuple[Change, ...]
    worth: float


class FirstRead(Struct, frozen=True):
    """What to read before choosing.

    Parameters
    ----------
    lots : keys of the candidates, to be read together.
    minutes : that they take.
    saves : what the choice costs less on average, the minutes taken off.
    now, then : the ways that it decides between: cheapest as it is believed, and what is most often cheaper
        once they are read, as positions.
    changes : the chance that it is not the way of now.
    """

    lots: tuple[str, ...]
    minutes: float
    saves: float
    now: int
    then: int
    changes: float


class _Mapped(Struct):
    """A way as a linear map from the condition to the places of the work, with the doubt that it adds."""

    from_sources: Array
    added: Array
    own: Array
    worth: float


class _Matter:
    """Ways, rows and limits over one condition, and the chances that follow."""

    def __init__(
        self, now: Estimate, ways: Sequence[Way], rows: Sequence[WorkRow], limits_mm: Sequence[float]
    ) -> None:
        self.now, self.rows, self.limits_mm = now, rows, limits_mm
        self.table = np.array([now.model.vector(place) for row in rows for place in row.places])
        self.given = given_at(rows)
        self.ways = [self._mapped(way) for way in ways]
        self.kept = list(range(len(ways)))
        inside = self._at_once(now.covariance, now.mean[:, None], DRAWS).mean(axis=2)[:, 0]
        surest = max(self.kept, key=lambda w: (round(float(inside[w]), 2), -self.ways[w].worth))
        self.penalty = LOST * self.ways[surest].worth
        self._keep_likely(surest, inside)

    def _mapped(self, way: Way) -> _Mapped:
        n = len(self.now.mean)
        gain, added, own = np.eye(n), np.zeros(n), np.zeros((n, n))
        for change in way.changes:
            one = linear_of(change, self.now.model)
            gain, added = one.gain @ gain, one.gain @ added + one.added
            own = one.gain @ own @ one.gain.T + np.diag(one.extra)
        return _Mapped(self.table @ gain, self.table @ added, self.table @ own @ self.table.T, way.worth)

    def _keep_likely(self, surest: int, inside: Array) -> None:
        """Leave out the ways that are cheapest in hardly any drawn condition."""
        costs = np.array([self.ways[w].worth + self.penalty * (1 - inside[w]) for w in self.kept])
        best = int(np.argmin(costs))
        n = len(self.now.mean)
        at = self.now.mean[:, None] + _root(self.now.covariance) @ normal_draws(n)[:, :DRAWS]
        known = self._costs(self._at_once(np.zeros((n, n)), at, 8).mean(axis=2))
        often = np.bincount(known.argmin(axis=0), minlength=len(known)) / DRAWS
        self.kept = [w for w in self.kept if often[w] > SELDOM or w in (best, surest)]

    def _at_once(self, covariance: Array, means: Array, draws: int) -> Array:
        """Whether all of the work is inside, (ways, means, draws)."""
        found = []
        for w in self.kept:
            way = self.ways[w]
            middle = way.from_sources @ means + way.added[:, None] + self.given[:, None]
            root = _root(way.from_sources @ covariance @ way.from_sources.T + way.own)
            values = middle[:, :, None] + (root @ normal_draws(len(root))[:, :draws])[:, None, :]
            inside = np.ones(values.shape[1:], dtype=bool)
            for size, most in zip(sizes(self.rows, values), self.limits_mm, strict=True):
                inside &= np.abs(size) <= most
            found.append(inside)
        return np.array(found, dtype=float)

    def _costs(self, inside: Array) -> Array:
        worth = np.array([self.ways[w].worth for w in self.kept])
        return np.asarray(worth[:, None] + self.penalty * (1 - inside))

    def _moved(self, lots: Sequence[Candidate]) -> Array:
        """How the condition moves with what lots say, a column for each independent thing that they say; its
        square is what they take from the covariance.
        """
        rows = self.now.model.matrix([row for lot in lots for row in lot.rows])
        noise = np.diag([row.noise_sd**2 for lot in lots for row in lot.rows])
        spread = self.now.covariance @ rows.T
        return np.asarray(np.linalg.solve(np.linalg.cholesky(rows @ spread + noise), spread.T).T)

    def of_use(self, lots: Sequence[Candidate]) -> list[Candidate]:
        """Those that tell of the work, what they take of its doubt a minute first."""
        doubt = np.einsum("ij,jk,ik->i", self.table, self.now.covariance, self.table) + JITTER**2
        told = [float(((self.table @ self._moved([lot])) ** 2).sum(axis=1) @ (1 / doubt)) for lot in lots]
        at = sorted(range(len(lots)), key=lambda i: -told[i] / lots[i].minutes)
        return [lots[i] for i in at if told[i] > NOTHING]

    def read(self, lots: Sequence[Candidate], hour: float) -> FirstRead:
        """What it is worth to read some lots together before choosing."""
        moved = self._moved(lots)
        half = normal_draws(moved.shape[1])[:, : ANSWERS // 2]
        means = self.now.mean[:, None] + moved @ np.hstack([half, -half])
        left = self.now.covariance - moved @ moved.T
        inside = self._at_once(left, means, DRAWS)
        judged, counted = (self._costs(inside[:, :, k::2].mean(axis=2)) for k in (0, 1))
        then = judged.argmin(axis=0)
        now = int(judged.mean(axis=1).argmin())
        fall = counted[now] - counted[then, np.arange(ANSWERS)]
        minutes = sum(lot.minutes for lot in lots)
        other = then[then != now]
        often = int(np.bincount(other).argmax()) if len(other) else now
        return FirstRead(
            tuple(lot.key for lot in lots),
            minutes,
            float(fall.mean()) - minutes / 60 * hour,
            self.kept[now],
            self.kept[often],
            len(other) / ANSWERS,
        )


def first_read(
    now: Estimate,
    ways: Sequence[Way],
    rows: Sequence[WorkRow],
    limits_mm: Sequence[float],
    could_be_read: Sequence[Candidate],
    hour: float,
) -> FirstRead | None:
    """What to read before choosing among ways to mend a machine; None where no reading is worth its minutes.

    One candidate alone where that is worth more than its minutes, the one that saves most a minute; otherwise
    several together, begun with those that tell most of the work a minute.

    Parameters
    ----------
    ways : the ways there are, leaving it included.
    rows, limits_mm : the figures of the work and what they may be off by, mm.
    hour : what an hour is worth.
    """
    if len(ways) < 2 or not could_be_read or not rows:
        return None
    matter = _Matter(now, ways, rows, limits_mm)
    if len(matter.kept) < 2:
        return None
    order = matter.of_use(could_be_read)
    alone = [matter.read([lot], hour) for lot in order]
    able = [one for one in alone if one.saves > 0]
    if able:
        return max(able, key=lambda one: one.saves / one.minutes)
    together = [matter.read(order[:k], hour) for k in range(2, len(order) + 1)]
    return max((one for one in together if one.saves > 0), key=lambda one: one.saves, default=None)


def _root(covariance: Array) -> Array:
    """A square root of a covariance, rounded ones too."""
    scale = float(np.trace(covariance)) / max(1, len(covariance))
    try:
        return np.asarray(np.linalg.cholesky(covariance + (JITTER * scale + 1e-18) * np.eye(len(covariance))))
    except np.linalg.LinAlgError:
        values, vectors = np.linalg.eigh(covariance)
        return np.asarray(vectors * np.sqrt(np.maximum(values, 0.0)))
