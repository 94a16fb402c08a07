"""What the core says of a slide on its gib."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from trebb.core.condition import ErrorModel, Quantity, Suggestion
from trebb.core.condition.draws import draw
from trebb.core.families.gib.findings import (
    MEASURES,
    READ_MM,
    gaps_of,
    gib_findings,
    home_finding,
    keys_of,
    measure_value,
    plays,
    questions,
    reason,
    slide_measures,
)
from trebb.core.families.gib.subject import SPOT_SHORT, slide_model
from trebb.core.findings import Finding, Measure
from trebb.core.gibs import Ends, Gaps, OffHome, backed_off_mm
from trebb.core.machine import RatedLimit
from trebb.core.survey import AnySetUp, PlaceReadings, set_up
from trebb.core.survey.contact import GibContact, cells_of, gib_contact_of
from trebb.core.survey.reduction import place_means
from trebb.core.units import UnitSystem
from trebb.logbook.cases.advising import Advice
from trebb.logbook.cases.case import Answer, Question
from trebb.logbook.cases.measured_case import MeasuredCase
from trebb.logbook.log.entries import Body, FactStated, ReadingStruck
from trebb.logbook.log.tracking import derived


def _not_home(bodies: tuple[Body, ...]) -> Question:
    """What is asked of gaps that say themselves that the gib was not home; `bodies` begin anew."""
    text = (
        "Its thick end is looser than its taper can hold. Back the screw at its thin end off two "
        "turns, "
        "push it in by thumb until it stops, try a blade under its head."
    )
    return Question(
        "not_home",
        "The gib was not home when it was felt.",
        text,
        (
            Answer(
                "feel_again",
                "It is home now: strike these out, feel again",
                "Strikes the readings out with the reason; they stay readable",
                bodies,
            ),
        ),
    )


class GibCase(MeasuredCase):
    """What the core says of a slide on its gib."""

    family = "gib"
    decides = "rock"
    first_key = "play"
    default_parts = ("gib",)

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return slide_model(self.subject)

    def limit_keys(self) -> Sequence[str]:
        return tuple(MEASURES[key][1] for key in keys_of(self.subject))

    def felt(self, phase: str = "before") -> Gaps | None:
        """Gaps as felt at both ends, or None."""
        means = {
            p.place: sum(p.values) / len(p.values)
            for p in self.job.standing(self.assembly_key, "feelers", phase)
        }
        if len(means) < 2:
            return None
        return Gaps(means["thin end"], means["thick end"], self.subject.running_mm)

    def question(self, s: AnySetUp, phase: str, system: UnitSystem) -> Question | None:
        """Whether the gib was home: asked before its gaps count; once they say that it was not, whether to
        strike them out.
        """
        if phase != "before" or s.key != "feelers":
            return super().question(s, phase, system)
        taken = [r for r in self.job.readings(self.assembly_key, "feelers") if r.struck is None]
        home, not_yet = (
            FactStated(assembly=self.assembly_key, field="home", value=value) for value in ("yes", "")
        )
        again = tuple(ReadingStruck(reading=r.id, reason="gib was not home") for r in taken)
        if not taken:
            if self.subject.home:
                return None
            text = (
                "Thin-end screw off two turns, pushed in by thumb until it stops, no blade under its head: "
                "then it is home."
            )
            return Question(
                "home",
                "Is the gib fully home?",
                text,
                (Answer("home_yes", "It is home", "The gib was pushed in until it stopped", (home,)),),
            )
        if self.distrusted(phase):
            return _not_home((*again, home))
        if not self.subject.home:
            text = (
                "Thin-end screw off two turns, pushed in by thumb until it stops, no blade under its head: "
                "then it was home."
            )
            return Question(
                "was_home",
                "Was the gib fully home when it was felt?",
                text,
                (
                    Answer("home_yes", "It was home", "The readings count", (home,)),
                    Answer(
                        "home_no",
                        "It was not: strike these out",
                        "Strikes the readings out with the reason",
                        (*again, not_yet),
                    ),
                ),
            )
        return super().question(s, phase, system)

    def distrusted(self, phase: str) -> Mapping[str, str]:
        return self._not_home() if phase == "before" else {}

    @derived
    def _not_home(self) -> Mapping[str, str]:
        finding = home_finding(self.subject, self.felt())
        return {"feelers": "the gib was not home, so they are set aside"} if finding is not None else {}

    @derived
    def measures_of(self, phase: str) -> Sequence[Measure]:
        return slide_measures(self.subject, self.alone_of(phase), self.limits())

    def usual_measure(self) -> Measure:
        label, limit = MEASURES["play"]
        return Measure(
            "play",
            label,
            self.job.limit(limit),
            measure_value(self.subject, draw(self.estimate), "play"),
            self.nothing_read(),
        )

    def stand_mm(self, place: str = "stand-out", phase: str = "before") -> float | None:
        """How far the gib stands out, pushed home (or "as it ran"), mm; None where it was not measured."""
        standing = self.job.standing(self.assembly_key, "stand_out", phase)
        values = [v for p in standing for v in p.values if p.place == place]
        return sum(values) / len(values) if values else None

    def _ends(self, key: str, spot: str = "") -> Ends | None:
        """Gaps at both ends as a set-up read them, at a spot of the travel; None where one was not read."""
        s, subject = set_up(key), self.subject
        means = dict(place_means(s, subject, self.known_at(key, "before")))
        thin, thick = (means.get(f"{spot}{end} end") for end in ("thin", "thick"))
        if thin is None or thick is None:
            return None
        return Ends(thin.value, thick.value, max(o.row.noise_sd for o in (thin, thick)))

    @derived
    def backed_off(self) -> OffHome:
        """How far the gib stood out of home as what is counted of its rock was read; nothing where no reading
        shows it.
        """
        ran = None if self._rocked_again() else self.stand_mm("as it ran")
        felt = None if self.distrusted("before") else self._ends("feelers")
        return backed_off_mm(self.subject.gib, ran, self.stand_mm(), felt, self._ends("rock", "mid, "))

    @derived
    def _rocked_again(self) -> frozenset[str]:
        """Places that were rocked once more after the gib was felt home, having been rocked before: what was
        read first there is of the gib as it ran.
        """
        felt = [r.id for r in self.job.readings(self.assembly_key, "feelers") if r.struck is None]
        if not felt or self.subject.home != "yes":
            return frozenset()
        rocked: dict[str, list[bool]] = {}
        for r in self.job.readings(self.assembly_key, "rock"):
            if r.struck is None:
                rocked.setdefault(r.taken.place, []).append(r.id > min(felt))
        again = {place for place, after in rocked.items() if any(after) and not all(after)}
        return frozenset(again) if {f"mid, {end} end" for end in ("thin", "thick")} <= again else frozenset()

    def standing_at(self, key: str, phase: str) -> list[PlaceReadings]:
        """Of a gib that was rocked again once home, the rock as it ran is set aside."""
        standing, again = super().standing_at(key, phase), self._rocked_again()
        if key != "rock" or phase != "before" or not again:
            return standing
        first = min(r.id for r in self.job.readings(self.assembly_key, "feelers") if r.struck is None)
        after: dict[str, list[float]] = {}
        for r in self.job.readings(self.assembly_key, "rock"):
            if r.struck is None and r.id > first:
                after.setdefault(r.taken.place, []).append(r.taken.value)
        return [PlaceReadings(place, tuple(values)) for place, values in after.items()]

    def set_aside(self, phase: str = "before") -> list[str]:
        found = super().set_aside(phase)
        if phase == "before" and self._rocked_again():
            found.append(f"{set_up('rock').title}: as the gib ran; it was rocked again once it was home")
        return found

    def contact(self, phase: str) -> GibContact | None:
        """What the blue shows, or None where nothing is painted."""
        cells = cells_of(self.job.contact(self.assembly_key, phase))
        return gib_contact_of(cells) if cells else None

    @property
    def is_measured(self) -> bool:
        return (
            super().is_measured
            or self.contact("before") is not None
            or bool(self.job.standing(self.assembly_key, "feelers"))
        )

    def _findings(self, system: UnitSystem) -> list[Finding]:
        spots = [v for p in self.job.standing(self.assembly_key, "spots") for v in p.values]
        return gib_findings(
            self.subject,
            self.alone,
            {m.key: m for m in self.measures_of("before")},
            system,
            felt=self.felt(),
            stand_mm=self.stand_mm(),
            contact=self.contact("before"),
            spots=spots,
            off=self.backed_off(),
        )

    def advice_now(self) -> Advice:
        """None until it is said that the gib was home: before that it is not known what wants mending."""
        is_home = self.subject.home == "yes" and not self.backed_off()
        return super().advice_now() if is_home and not self.distrusted("before") else Advice()

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return questions(self.subject)

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    @property
    def usual_limit(self) -> RatedLimit:
        return self.limit_by("play")

    def limit_by(self, measure: str) -> RatedLimit:
        return self.job.limit(MEASURES[measure][1])

    def shares(self) -> list[tuple[str, Quantity]]:
        return [
            (f"{end} end, {SPOT_SHORT[spot]}", value)
            for (end, spot), value in plays(self.subject, self.alone).items()
            if value.sd <= READ_MM
        ]

    shares_title = "Play before, along the travel"

    def describe(self) -> str:
        s = self.subject
        if not self.facts:
            return ""
        return f"gib 1 : {s.ratio:g}, {s.length_mm:g} mm long, {s.thin_mm:g} to {s.gib.thick_mm:.2f} mm"

    def _measured_for(self, key: str) -> dict[str, float]:
        gaps = gaps_of(self.subject, self.alone)
        measured = {"gap.thin": gaps.thin_mm, "gap.thick": gaps.thick_mm}
        if self.subject.is_saddle:
            measured |= self.read_sources("drop")
        if (stand := self.stand_mm()) is not None:
            measured["stand"] = stand
        is_home = self.subject.home == "yes" and not self.backed_off()
        measured["is_felt"] = float(is_home and not self.distrusted("before") and self.felt() is not None)
        return measured
