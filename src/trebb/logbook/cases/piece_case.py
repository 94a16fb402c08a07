"""What the core says of a piece whose family is one record of how it is judged
(`core/findings/judging.py`).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any

from trebb.core.condition import ErrorModel, Suggestion
from trebb.core.condition.draws import draw
from trebb.core.findings import Finding, Measure
from trebb.core.findings.base import suggestion_words
from trebb.core.findings.judging import Judging, Known, none_below
from trebb.core.machine import RatedLimit, State
from trebb.core.register import FAMILIES
from trebb.core.remedies import sets_of, together
from trebb.core.survey.contact import cells_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.advising import Advice
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.log.tracking import derived


class PieceCase(MeasuredCase):
    """A piece judged by its family's record. `piece_case` makes the class of a family."""

    judging: Judging[Any]

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return self.judging.model(self.subject)

    def limit_keys(self) -> Sequence[str]:
        subject = self.subject
        return tuple(dict.fromkeys(j.limit for j in self.judging.measures.values() if j.applies(subject)))

    @derived
    def sizes_read(self, phase: str) -> dict[str, float]:
        """Sizes that readings of a phase fix."""
        return self.judging.sizes(self.known(phase, UnitSystem.METRIC))

    def known(self, phase: str, system: UnitSystem) -> Known[Any]:
        """What is known of it by the readings of a phase."""
        subject = self.subject
        limits = {j.limit: self.job.limit(j.limit) for j in self.judging.measures.values()}
        taken = {s.key: self.known_at(s.key, phase) for s in self.set_ups}
        painted = cells_of(self.job.contact(self.assembly_key, phase))
        return Known(subject, self.alone_of(phase), limits, taken, system, painted)

    @derived
    def measures_of(self, phase: str) -> Sequence[Measure]:
        return self.judging.known_measures(self.known(phase, UnitSystem.METRIC))

    @property
    def first_key(self) -> str:
        return next(iter(self.judging.measures))

    def usual_measure(self) -> Measure:
        key = self.first_key
        judged = self.judging.measures[key]
        value = none_below(judged.value(self.subject, draw(self.before_any)))
        return Measure(key, judged.label, self.job.limit(judged.limit), value, self.nothing_read())

    def _findings(self, system: UnitSystem) -> list[Finding]:
        return self.judging.findings(self.known("before", system), self.measures_of("before"))

    @derived
    def _beyond_measures(self, phase: str) -> Sequence[Finding]:
        """Verdicts that rest on what was looked at and stated, not on a measure."""
        measures = {m.key: m for m in self.measures_of(phase)}
        return tuple(self.judging.also(self.known(phase, UnitSystem.METRIC), measures))

    @property
    def is_measured(self) -> bool:
        return super().is_measured or bool(self._beyond_measures("before"))

    @property
    def seen_beyond(self) -> bool:
        return any(f.state is State.BEYOND for f in self._beyond_measures("before"))

    def advice_now(self) -> Advice:
        """What mends all that was seen to be beyond, with fewest hours; else as the figures say."""
        cures = self.judging.cures
        wrong = [f.key for f in self._beyond_measures("before") if f.state is State.BEYOND and f.key in cures]
        if not wrong:
            return super().advice_now()
        each = [r for r, _ in self._affordable()]
        several = [together(members) for members in sets_of(each, self.subject, self.mended_from)]
        mends = [r for r in (*each, *several) if all(r.includes(*cures[key]) for key in wrong)]
        return Advice(min(mends, key=lambda r: (r.hours, len(r.members)), default=None))

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return {key: c for key, (_, c) in self.judging.questions(self.subject).items()}

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        words, _ = self.judging.questions(self.subject)[suggestion.most]
        return suggestion_words(words, suggestion.sd_before, suggestion.sd_after, system, little=0.9)

    def limit_by(self, measure: str) -> RatedLimit:
        return self.job.limit(self.judging.measures[measure].limit)

    def describe(self) -> str:
        return self.judging.describe(self.subject) if self.facts else ""

    def _measured_for(self, key: str) -> dict[str, float]:
        return self.sizes_read("before")


@cache
def piece_case(family: str) -> type[PieceCase]:
    """The class of a family's cases, made from its record."""
    judging: Judging[Any] = FAMILIES[family].named(FAMILIES[family].judging)
    members = {
        "family": family,
        "judging": judging,
        "decides": judging.decides,
        "default_parts": judging.default_parts,
        "optional_parts": judging.optional_parts,
        "__doc__": f"What the core says of {FAMILIES[family].one}.",
    }
    return type(f"{family.title()}Case", (PieceCase,), members)
