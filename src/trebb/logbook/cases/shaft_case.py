"""What the core says of a shaft."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

from msgspec.structs import replace

from trebb.core.condition import ErrorModel, Suggestion
from trebb.core.condition.draws import draw
from trebb.core.condition.fixing import is_read
from trebb.core.errors import TrebbError
from trebb.core.families.shaft.bend import (
    Bend,
    bend_from,
    bend_of,
    combinations,
    label_of,
    limit_key,
    measure_value,
    press_of,
    questions,
    reason,
    shaft_measures,
)
from trebb.core.families.shaft.findings import shaft_findings, stated_findings
from trebb.core.families.shaft.seats import seat_size
from trebb.core.families.shaft.subject import SEATS, Shaft, shaft_model
from trebb.core.families.shaft.turns import station_of
from trebb.core.findings import Finding, Measure
from trebb.core.machine import RatedLimit, State
from trebb.core.shafts.vblocks import from_journals
from trebb.core.survey import AnySetUp
from trebb.core.survey.turns import by_group, turn_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:
    from trebb.core.fitup import FitStep

SIZE_DOUBT_MM = 0.03  # a size known no better is not what a part is fitted to


class ShaftCase(MeasuredCase):
    """What the core says of a shaft with what sits on it and what it runs in."""

    family = "shaft"
    decides = "shaft_turn"
    first_key = "bend"
    like_first = ("play.left", "play.right")
    default_parts = ("stepped_shaft",)
    optional_parts = ("stack_collar", "key", "dog_screw")

    @property
    @derived
    def subject(self) -> Shaft:
        stated: Shaft = self.as_stated()
        at = self._off_line(stated)
        if not any(at.values()):
            return stated
        bow, place, blocks = press_of(stated, bend_from(stated, at))
        return replace(stated, bow_mm=bow, bow_at_mm=place, press_mm=blocks)

    def _off_line(self, stated: Shaft) -> dict[float, complex]:
        """Eccentricities as read, off the line through the journals, at the stations off them."""
        turns = self.turns(stated)
        z = list(turns)
        v = [turns[at][0] for at in z]
        if stated.held == "centres":
            a, b = stated.a_mm, stated.b_mm
            if a not in turns or b not in turns:
                return {}
            v = [complex(x) for x in from_journals(z, v, a, b, turns[a][0], turns[b][0])]
        return {at: x for at, x in zip(z, v, strict=True) if at in stated.free}

    def turns(self, stated: Shaft, phase: str = "before") -> dict[float, tuple[complex, float]]:
        """Each station's eccentricity as read, and the largest lobe's amplitude, mm."""
        known = {stated.station_words(z) for z in stated.stations}
        found = {}
        for group, points in by_group(self.job.standing(self.assembly_key, "shaft_turn", phase)).items():
            turn = turn_of(points) if group in known else None
            if turn is not None:
                found[station_of(group)] = (
                    turn.vectors[0],
                    max((abs(v) for v in turn.vectors[1:]), default=0.0),
                )
        return dict(sorted(found.items()))

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return shaft_model(self.subject)

    def limit_keys(self) -> Sequence[str]:
        return tuple(dict.fromkeys(limit_key(k) for k in ("bend", *combinations(self.subject))))

    @derived
    def measures_of(self, phase: str) -> Sequence[Measure]:
        return shaft_measures(self.subject, self.alone_of(phase), self.limits())

    def usual_measure(self) -> Measure:
        return Measure(
            "bend",
            label_of("bend"),
            self.job.limit(limit_key("bend")),
            measure_value(self.subject, draw(self.before_any), "bend", ()),
            self.nothing_read(),
        )

    @derived
    def bend(self, phase: str = "before") -> Bend | None:
        """The bend by the readings of a phase."""
        return bend_of(self.subject, self.alone_of(phase), self.job.limit("shaft_bend").limit_mm)

    def _findings(self, system: UnitSystem) -> list[Finding]:
        measures = {m.key: m for m in self.measures_of("before")}
        lobes = {z: a for z, (_, a) in self.turns(self.subject).items()}
        found = shaft_findings(self.subject, self.alone, measures, lobes, system)
        return sorted([*found, *self._said(system)], key=lambda f: -f.weight_mm)

    def _said(self, system: UnitSystem) -> list[Finding]:
        """What needs no reading; of a shear pin by the diameter under its hub as its part takes it."""
        stated, known = self.as_stated(), None
        if stated.drive == "shear_pin":
            inputs = self.part_inputs("shear_pin", system)
            if "dia_mm" in self.facts or {"mate.seat", "size.seat"} & set(inputs.measured):
                known = seat_size(inputs, "seat")
        return stated_findings(stated, known, system)

    @property
    def is_measured(self) -> bool:
        """What is stated may say enough: a pin that cannot hold, and of a shear pin that was stated which one
        would, or what decides it.
        """
        said = self._said(UnitSystem.METRIC)
        is_pin = self.facts.get("drive") == "shear_pin"
        return super().is_measured or any(
            f.state is State.BEYOND or (is_pin and f.key == "fuse") for f in said
        )

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return questions(self.subject)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    def limit_by(self, measure: str) -> RatedLimit:
        return self.job.limit(limit_key(measure))

    def turn_limit(self, s: AnySetUp) -> RatedLimit:
        return self.job.limit("shaft_bend")

    @derived
    def fit_order(self) -> list[FitStep]:
        """The steps, with from which end wheel and collar go on by the sizes of the shaft that is made."""
        from trebb.core.fitup.pieces import slide_words, slides_to

        steps = super().fit_order()
        chosen = self.chosen
        if chosen is None or "stepped_shaft" not in chosen.parts:
            return steps
        try:
            sections = self.part("stepped_shaft").sections
            wanted = {"wheel": ("Wheel", "wheel's seat", self._wheel_bore())}
            if self.is_made_too("stack_collar"):
                bore = self.part("stack_collar").bore
                wanted["collars"] = ("Collar", "between", bore.diameter_mm if bore is not None else None)
        except TrebbError:  # a size that will not do is said at Parts
            return steps
        told = {}
        for key, (what, label, size) in wanted.items():
            if size is not None and any(s.label == label for s in sections):
                told[key] = slide_words(*slides_to(sections, label, size), what)
        return [replace(s, remind=f"{told[s.key]} {s.remind}".strip()) if s.key in told else s for s in steps]

    def _wheel_bore(self) -> float | None:
        """The wheel's bore where it was read."""
        return self._measured_for("stepped_shaft").get("mate.seat")

    def describe(self) -> str:
        if not self.facts:
            return ""
        s = self.subject
        return f"{s.length_mm:g} mm long, journals at {s.a_mm:g} and {s.b_mm:g} mm, {s.metal.label}"

    def _measured_for(self, key: str) -> dict[str, float]:
        """Sizes that readings fix, mm: journals, the bores they run in, slots, mouths, square."""
        wanted: dict[str, Mapping[str, float]] = {}
        for seat in SEATS:
            wanted[f"size.{seat}"] = {f"size.{seat}": 1.0, f"wear.{seat}": -1.0}
            wanted[f"mate.{seat}"] = {f"size.{seat}": 1.0, f"wear.{seat}": -1.0, f"play.{seat}": 1.0}
        wanted["slot.shaft"] = {"key": 1.0, "slot.shaft": 1.0}
        wanted["slot.hub"] = {"key": 1.0, "slot.hub": 1.0}
        wanted["square"] = {"square": 1.0}
        wanted["mouth.large"], wanted["mouth.small"] = {"mouth.large": 1.0}, {"mouth.small": 1.0}
        alone = self.alone
        return {
            name: alone.combination(c).value
            for name, c in wanted.items()
            if is_read(alone, c, SIZE_DOUBT_MM) and alone.combination(c).sd < SIZE_DOUBT_MM
        }
