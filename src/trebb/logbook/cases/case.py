"""From a job to what the core says of one of its assemblies, worked out once and kept until something it
rests on changes. One class by what a repair goes through: stated, read, mended, made; here put together and
proven.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from trebb.core.condition import Change, Quantity
from trebb.core.machine import RatedLimit, State
from trebb.core.survey import set_up
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case_made import MadeCase
from trebb.logbook.cases.case_read import Answer, Question
from trebb.logbook.cases.case_stated import Neighbours
from trebb.logbook.log.entries import Planted
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.fitup import FitStep
    from trebb.core.fitup.boxed import Boxed
    from trebb.core.making.infeed import InfeedScheme
    from trebb.core.practice import PracticeMachine
    from trebb.core.practice.lies import Lying
    from trebb.core.proof import Comparison


__all__ = ["Answer", "Case", "Neighbours", "Question"]


class Case(MadeCase):
    """What the core says of an assembly of a job. Families fill in what differs; this one is for an assembly
    without set-ups.
    """

    @property
    def fit_plan(self) -> str:
        """Name of the assembly's plan in the logbook."""
        return f"fit.{self.assembly_key}"

    @derived
    def fit_order(self) -> list[FitStep]:
        """Steps of the assembly in an order that works: those known, those of what came off, what was
        learned.
        """
        from trebb.core.fitup import assembly_order

        return assembly_order(self._fit_steps()[0])

    @derived
    def fit_doubts(self) -> tuple[str, ...]:
        """Where what came off and the known order disagree."""
        return self._fit_steps()[1]

    def known_steps(self) -> tuple[FitStep, ...]:
        """Steps known for such an assembly and its remedy."""
        from trebb.core.fitup import fit_steps

        chosen = self.chosen
        steps = fit_steps(chosen.key if chosen else "leave", self.family, self.subject)
        if (boxed := self.boxed) is None:
            return steps
        from trebb.core.fitup.boxed import with_boxed

        return with_boxed(steps, boxed, self.job.steps_done(self.fit_plan))

    @property
    def boxed(self) -> Boxed | None:
        """What came of it in boxes; None where it came whole."""
        from trebb.logbook.cases.boxes import boxed_of

        return boxed_of(self.job, self.assembly_key)

    @derived
    def _fit_steps(self) -> tuple[tuple[FitStep, ...], tuple[str, ...]]:
        from trebb.core.fitup.stripped import with_came
        from trebb.logbook.cases.strip_down import came_off, rules_of

        came, rules = came_off(self.job, self.assembly_key), rules_of(self.job, self.assembly_key)
        return with_came(self.known_steps(), came, rules)

    @derived
    def comparisons(self) -> list[Comparison]:
        """Before and after, of the set-ups that prove."""
        return self._compared("before", "after", foretold=True)

    @derived
    def since(self) -> list[Comparison]:
        """After the repair and later, of the same set-ups: what it wore since."""
        return self._compared("after", "later", foretold=False)

    def _compared(self, first: str, second: str, *, foretold: bool) -> list[Comparison]:
        from trebb.core.proof import compare

        rows: list[Comparison] = []
        for s in self.proving():
            one, other = (self.known_places(s, phase) for phase in (first, second))
            if one and other:
                rows += compare(
                    s,
                    (self.read_as(first), self.read_as(second)),
                    one,
                    other,
                    self.predicted_after if foretold else None,
                )
        return rows

    def years_since(self, set_up_key: str) -> float | None:
        """Years from the readings after the repair to the later ones, by the times they were taken; None
        where one is not there.
        """
        times = []
        for phase in ("after", "later"):
            taken = [
                datetime.datetime.fromisoformat(r.at)
                for r in self.job.readings(self.assembly_key, set_up_key, phase)
                if r.struck is None
            ]
            if not taken:
                return None
            times.append(sum(t.timestamp() for t in taken) / len(taken))
        return (times[1] - times[0]) / (365.25 * 86400)

    def limit_of(self, row: Comparison) -> RatedLimit:
        """The limit that a figure of the proof is judged by, over the length that it spans."""
        named = set_up(row.set_up).measure
        if named is None:
            return self.usual_limit
        measure, share = named(self.subject, row.place)
        limit = self.limit_by(measure)
        return RatedLimit(limit.key, limit.label, limit.limit_mm * share, limit.source)

    def limit_by(self, measure: str) -> RatedLimit:
        """The limit of a measure."""
        raise NotImplementedError

    def proof_head(self, rows: Sequence[Comparison], system: UnitSystem) -> tuple[State, str, str]:
        """State, sentence and what is left, from what was read before and after."""
        raise NotImplementedError

    def describe(self) -> str:
        """What it is, in a few words."""
        return self.assembly.label

    shares_title = "Found before"

    def shares(self) -> list[tuple[str, Quantity]]:
        """What the error before the repair was made of, by name, mm."""
        return []

    def planted(self) -> Planted | None:
        """The hidden condition of a practice job."""
        return self.job.planted(self.assembly_key)

    def practice(self, phase: str) -> PracticeMachine | None:
        """The simulated machine behind a practice job, repaired as chosen and made in phase "after"."""
        planted = self.planted()
        if planted is None or not self.has_set_ups:
            return None
        from trebb.core.practice import PracticeMachine

        machine = PracticeMachine(
            self.practised(planted), self.model_for("before"), planted.condition, planted.seed, self.lies()
        )
        chosen = self.chosen
        if phase == "before" or chosen is None:
            return machine
        return machine.repaired(self._as_made(self._chosen_change()))

    def lies(self) -> tuple[Lying, ...]:
        """How the set-ups of a practice machine lie, as things were put right so far."""
        if not self.job.practice_marks("piece"):
            return ()
        from trebb.core.practice.lies import lying
        from trebb.logbook.cases.practice_piece import piece_of

        piece = piece_of(self.job)
        if piece is None:
            return ()
        return lying(piece.lies, frozenset(m.of for m in self.job.practice_marks("did")))

    @derived
    def _chosen_change(self) -> Change:
        chosen = self.chosen
        assert chosen is not None
        return chosen.change(self.subject_for("before"), self.estimate)

    def practised(self, planted: Planted) -> Any:
        """The subject as the practice machine really is: as stated, unless its hidden condition says
        otherwise.
        """
        return self.subject

    def _as_made(self, change: Change) -> Change:
        """A chosen change corrected to what was really made."""
        return change

    def simulated_size(self, part: str, scheme: InfeedScheme, operation: str = "") -> float | None:
        """What the practice machine's micrometer would read next at an operation; None for a real job."""
        return None
