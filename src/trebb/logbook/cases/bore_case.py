"""What the core says of a bore."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from trebb.core.condition import ErrorModel, Suggestion
from trebb.core.condition.draws import draw
from trebb.core.families.bore.findings import (
    BoreShape,
    bore_findings,
    bore_measures,
    label_of,
    limit_key,
    measure_value,
    questions,
    reason,
    shape_of,
)
from trebb.core.families.bore.subject import bore_model
from trebb.core.findings import Finding, Measure
from trebb.core.machine import RatedLimit
from trebb.core.units import UnitSystem
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.cases.shaft_case import SIZE_DOUBT_MM
from trebb.logbook.log.tracking import derived


class BoreCase(MeasuredCase):
    """What the core says of a bore and its mate."""

    family = "bore"
    decides = "bore_gauge"
    first_key = "wear"
    like_first = ("play", "push")
    default_parts = ("bush",)

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return bore_model(self.subject)

    def limit_keys(self) -> Sequence[str]:
        return ("bore_wear", "bore_oval", "bore_play")

    @derived
    def measures_of(self, phase: str) -> Sequence[Measure]:
        return bore_measures(self.subject, self.alone_of(phase), self.limits())

    def usual_measure(self) -> Measure:
        return Measure(
            "wear",
            label_of("wear"),
            self.job.limit("bore_wear"),
            measure_value(self.subject, draw(self.before_any), "wear"),
            self.nothing_read(),
        )

    @derived
    def shape(self, phase: str = "before") -> BoreShape | None:
        """The shape by the gauge's readings of a phase."""
        return shape_of(self.subject, self.known_at("bore_gauge", phase))

    def _findings(self, system: UnitSystem) -> list[Finding]:
        measures = {m.key: m for m in self.measures_of("before")}
        return bore_findings(self.subject, self.alone, measures, self.shape("before"), system)

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return questions(self.subject)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    def limit_by(self, measure: str) -> RatedLimit:
        return self.job.limit(limit_key(measure))

    def describe(self) -> str:
        if not self.facts:
            return ""
        b = self.subject
        return f"{b.dia_mm:g} mm bore, {b.length_mm:g} mm long"

    def _measured_for(self, key: str) -> dict[str, float]:
        measured: dict[str, float] = {}
        mate = self.alone.combination({"unworn": 1.0, "gap": -1.0})
        if mate.sd < SIZE_DOUBT_MM:
            measured["mate"] = mate.value
        shape = self.shape("before")
        if shape is not None:
            measured["widest"], measured["smallest"] = shape.widest_mm, shape.smallest_mm
        return measured
