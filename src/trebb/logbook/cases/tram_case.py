"""What the core says of a head over its table."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from trebb.core.condition import ErrorModel, Suggestion
from trebb.core.condition.draws import draw
from trebb.core.families.tram.findings import (
    measure_value,
    measures_of,
    questions,
    reason,
    tram_findings,
    tram_measures,
)
from trebb.core.families.tram.subject import tram_model
from trebb.core.findings import Finding, Measure
from trebb.core.machine import RatedLimit
from trebb.core.units import UnitSystem
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.log.tracking import derived


class TramCase(MeasuredCase):
    """What the core says of a head over its table."""

    family = "tram"
    decides = "tram_sweep"

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return tram_model(self.subject)

    def limit_keys(self) -> Sequence[str]:
        return tuple(dict.fromkeys(limit for _, _, limit in measures_of(self.subject).values()))

    @derived
    def measures_of(self, phase: str) -> Sequence[Measure]:
        return tram_measures(self.subject, self.alone_of(phase), self.limits())

    @property
    def first_key(self) -> str:
        return next(iter(measures_of(self.subject)))

    def usual_measure(self) -> Measure:
        key = self.first_key
        label, _, limit = measures_of(self.subject)[key]
        return Measure(
            key,
            label,
            self.job.limit(limit),
            measure_value(self.subject, draw(self.estimate), key),
            self.nothing_read(),
        )

    def _findings(self, system: UnitSystem) -> list[Finding]:
        measures = {m.key: m for m in self.measures_of("before")}
        return tram_findings(self.subject, self.alone, measures, system)

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return questions(self.subject)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    def limit_by(self, measure: str) -> RatedLimit:
        return self.job.limit(measures_of(self.subject)[measure][2])

    def describe(self) -> str:
        if not self.facts:
            return ""
        t = self.subject
        return f"swept at {t.radius_mm:g} mm, squared over {t.square_mm:g} mm of travel"

    def _measured_for(self, key: str) -> dict[str, float]:
        return self.read_sources("tilt_x", "tilt_y")
