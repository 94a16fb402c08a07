"""What the core says of an assembly judged by several measures, each against its own limit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any

import numpy as np
from msgspec.structs import replace

from trebb.core.condition import Candidate, Estimate, Quantity, Row, Suggestion, estimate
from trebb.core.dual_units import in_units
from trebb.core.findings import Measure
from trebb.core.findings.base import NOTHING, unread_words
from trebb.core.machine import RatedLimit, State
from trebb.core.survey import AnySetUp
from trebb.core.units import UnitSystem, show_small, show_uncertain
from trebb.logbook.cases.case import Case
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:
    from trebb.core.making.infeed import InfeedScheme
    from trebb.core.proof import Comparison
    from trebb.core.remedies import Prediction


def _stands(m: Measure, system: UnitSystem) -> str:
    """How a figure stands to its limit, in a sentence."""
    size, limit = show_small(m.value.value, system), show_small(m.limit.limit_mm, system)
    label = in_units(m.label, system)
    if m.state is State.UNKNOWN:
        return f"{label} cannot be said yet: {size} so far, limit {limit}."
    return f"{label} is {m.state.value} its limit: {size} of {limit}."


class MeasuredCase(Case):
    """What the core says of an assembly judged by several measures. Families name the measures and work them
    out.
    """

    one_at_a_time: tuple[str, ...] = ()  # set-ups of whose lots only the next is on offer

    def measures_of(self, phase: str) -> Sequence[Measure]:
        """What the readings of a phase say, in the family's order; empty where they say nothing yet."""
        raise NotImplementedError

    like_first: tuple[str, ...] = ()  # measures that say as much of its use as the first
    decides = ""  # the set-up that reads the family's first measure

    def nothing_read(self) -> tuple[tuple[str, str], ...]:
        """What to say of a measure that stands by expectation only: nothing of it is read, and what would."""
        return ((NOTHING, self.decides),)

    @property
    def first_key(self) -> str:
        """The family's first measure: what it is judged by before anything else."""
        raise NotImplementedError

    def usual_measure(self) -> Measure:
        """The family's first measure as it is to be expected before anything is read."""
        raise NotImplementedError

    def limits(self) -> dict[str, RatedLimit]:
        """Limits of each measure, by limit key."""
        return {key: self.job.limit(key) for key in self.limit_keys()}

    @property
    @derived
    def before_any(self) -> Estimate:
        """The condition as expected before anything is read."""
        return estimate(self.expected_model("before"), [])

    @property
    def split(self) -> Any:
        return self.measures_of("before")

    @property
    @derived
    def figures(self) -> Sequence[Measure]:
        return sorted(self.measures_of("before"), key=lambda m: m.rank, reverse=True)

    @property
    @derived
    def judged(self) -> Measure:
        """The worst of the figures. Where the family's first is not read and none is over its limit, that
        one, which cannot be said: a spindle is not within for its end play alone.
        """
        return self._judged_of(self.figures)

    def _judged_of(self, known: Sequence[Measure]) -> Measure:
        """What an assembly is judged by, of the measures known of it."""
        worst = max(known, key=lambda m: m.rank, default=None)
        decides = (self.first_key, *self.like_first)
        if worst is not None and (worst.state is State.BEYOND or any(m.key in decides for m in known)):
            return worst
        return replace(self.usual_measure(), is_expected=True)

    @derived
    def figure_now(self) -> Measure | None:
        """The worst by the newest phase that was measured."""
        if after := self.figures_after:
            return max(after, key=lambda m: m.rank)
        known = self._known_now()
        return self._judged_of(known) if known else None

    @property
    def figures_after(self) -> Sequence[Measure]:
        return self.measures_of("after") if self.progress("after")[0] else ()

    def _known_now(self) -> Sequence[Measure]:
        """What stands while no repair is proven."""
        return self.measures_of("before")

    @property
    def worst_mm(self) -> float | None:
        return self.figures[0].value.value if self.figures else None

    def left_by(self, prediction: Prediction, figure: str = "") -> Quantity:
        measures: Mapping[str, Quantity] = prediction.measures  # type: ignore[attr-defined]
        return measures[figure or self.judged.key]

    def information(self, s: AnySetUp, places: Sequence[str]) -> tuple[Row, ...]:
        return () if s.key in self.distrusted("before") else super().information(s, places)

    def _next_lots(self, candidates: Sequence[Candidate]) -> list[Candidate]:
        """What comes one after another is offered one at a time."""
        kept: list[Candidate] = []
        for c in candidates:
            name = c.key.split("/")[0]
            if name not in self.one_at_a_time or not any(k.key.split("/")[0] == name for k in kept):
                kept.append(c)
        return kept

    def proof_head(self, rows: Sequence[Comparison], system: UnitSystem) -> tuple[State, str, str]:
        judged = self.judged
        after = {m.key: m for m in self.measures_of("after")}
        if not after:
            return State.UNKNOWN, "What was read again does not yet say how it stands.", ""
        worst = max(after.values(), key=lambda m: m.rank)
        shown = after.get(judged.key, worst)
        was = f"; it was {show_small(judged.value.value, system)}" if shown.key == judged.key else ""
        head = (
            f"{in_units(shown.label, system)}: "
            f"{show_uncertain(shown.value.value, shown.value.half_width, system)}, limit "
            f"{show_small(shown.limit.limit_mm, system)}{was}."
        )
        open_ones = sorted(
            (m for m in after.values() if m.key != shown.key and m.state is not State.WITHIN),
            key=lambda m: -m.share_of_limit,
        )
        words = " ".join(_stands(m, system) for m in open_ones)
        if shown.unread:
            words = f"{unread_words(shown.unread)} {words}".strip()
        unread = [in_units(m.label, system) for m in self.measures_of("before") if m.key not in after]
        if unread:
            words += f" Not read again: {', '.join(unread).lower()}."
        return worst.state, head, words.strip()

    def shares(self) -> list[tuple[str, Quantity]]:
        return [
            (m.label.lower(), m.value)
            for m in self.measures_of("before")
            if not m.is_expected and not m.unread
        ]

    def doubt_scale_mm(self) -> float:
        return 0.25 * self.limit.limit_mm

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        raise NotImplementedError

    # making -----------------------------------------------------------------------------------

    def simulated_size(self, part: str, scheme: InfeedScheme, operation: str = "") -> float | None:
        planted = self.planted()
        target = next((o.target for o in self.route(part) if o.key == operation), None)
        if planted is None or target is None:
            return None
        sizes = self.job.sizes(self.part_name(part), operation)
        rng = np.random.default_rng(planted.seed + 31 * len(sizes) + sum(map(ord, part + operation)))
        # The first size is taken with a cut still to come, the ones after it near the middle, as a careful
        # turner's are.
        left = target.side * 0.08 if not sizes else 0.0
        return target.band.middle_mm + left + 0.12 * target.band.width_mm * float(rng.standard_normal())
