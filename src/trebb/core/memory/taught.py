"""What a shop's jobs taught, as the rest asks for it; as usual where nothing did."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.condition import ErrorModel, Observation, Quantity, Row

TOLD = 0.05  # what differs by less from the usual is not said
SCALED_LEAST, SCALED_MOST = 0.25, 6.0  # nothing learned makes noise less or more than this many times usual


OF_A_REPAIR = ("strip", "make", "mend", "fit", "refit", "prove")  # kinds of work


class Taught(Struct, frozen=True):
    """Figures of the shop's own.

    Parameters
    ----------
    noise : by kind of instrument, how many times the usual its readings scatter.
    extra_mm : by kind of instrument, what its last digit and its hysteresis add to a reading, sd.
    priors : by machine kind, family and source ("lathe/gib/gap.thin"), mean and sd to expect, mm (of a bed's
        answer, 1).
    widen : by family, how many times wider what is foretold has to be.
    hours, waits : by kind of work or delivery, how many times the planned it takes.
    prices : how many times the planned remedies cost.
    sources : where a figure comes from, by topic and of what ("hours/make"), in words.
    hours_spread : logarithmic spread of the hours of a job about that; None as usual.
    """

    noise: Mapping[str, float] = field(default_factory=dict)
    extra_mm: Mapping[str, float] = field(default_factory=dict)
    priors: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    widen: Mapping[str, float] = field(default_factory=dict)
    hours: Mapping[str, float] = field(default_factory=dict)
    waits: Mapping[str, float] = field(default_factory=dict)
    hours_spread: float | None = None
    prices: float = 1.0
    sources: Mapping[str, str] = field(default_factory=dict)

    @property
    def is_usual(self) -> bool:
        """Whether nothing was taught."""
        return not (
            self.noise
            or self.extra_mm
            or self.priors
            or self.widen
            or self.hours
            or self.waits
            or self.prices != 1.0
        )

    @property
    def is_own_cost(self) -> bool:
        """Whether this shop's own jobs say what a repair costs: hours, days or money."""
        return not self.pace == self.delivery == self.prices == 1.0

    @property
    def pace(self) -> float:
        """How many times its hours a whole repair takes: the geometric mean of the kinds of work in it that
        some job taught.
        """
        told = [math.log(t) for kind, t in self.hours.items() if kind in OF_A_REPAIR and t > 0]
        return math.exp(sum(told) / len(told)) if told else 1.0

    @property
    def delivery(self) -> float:
        """How many times its days what is ordered or sent out takes, the same."""
        told = [math.log(t) for t in self.waits.values() if t > 0]
        return math.exp(sum(told) / len(told)) if told else 1.0

    def noise_words(self, instruments: Iterable[str]) -> str:
        """How readings of these kinds of instrument count other than usual, and where that comes from; ""
        where they count as usual.
        """
        told = []
        for kind in dict.fromkeys(instruments):
            times, extra = self.noise.get(kind, 1.0), self.extra_mm.get(kind, 0.0)
            if abs(times - 1) > TOLD:
                told.append(f"{kind} × {times:.1f} the usual ({self.sources.get(f'noise/{kind}', 'yours')})")
            if extra:
                told.append(f"{kind} ± {2000 * extra:.0f} µm more, by its check on a block")
        return "; ".join(told)

    def wider_words(self, family: str) -> str:
        """That what is foretold of a family is made wider; "" where it is not."""
        times = self.widen.get(family, 1.0)
        return (
            f"Made {times:.1f} × wider: in this shop's jobs such figures came out further off than foretold."
            if times > 1 + TOLD
            else ""
        )

    def row(self, instrument: str, row: Row) -> Row:
        """A row with the noise that this shop's instrument of a kind has."""
        times = min(max(self.noise.get(instrument, 1.0), SCALED_LEAST), SCALED_MOST)
        extra = self.extra_mm.get(instrument, 0.0)
        if times == 1.0 and extra == 0.0:
            return row
        return replace(row, noise_sd=math.hypot(times * row.noise_sd, extra))

    def observation(self, instrument: str, o: Observation) -> Observation:
        """The same of an observation."""
        found = self.row(instrument, o.row)
        return o if found is o.row else replace(o, row=found)

    def model(self, kind: str, family: str, model: ErrorModel) -> ErrorModel:
        """A model that expects what this shop's machines were like."""
        if not self.priors:
            return model
        moved = []
        for s in model.sources:
            told = self.priors.get(f"{kind}/{family}/{s.key}")
            moved.append(s if told is None else replace(s, mean=told[0], sd=told[1]))
        return model if tuple(moved) == model.sources else ErrorModel(tuple(moved), model.correlation)

    def widened(self, family: str, q: Quantity) -> Quantity:
        """What was foretold, as wide as this shop's outcomes ask for."""
        times = self.widen.get(family, 1.0)
        if times <= 1.0:
            return q
        wide = q.wider(times)
        return replace(wide, low=max(wide.low, 0.0)) if q.low >= 0 else wide


USUAL = Taught()
