"""Readings that disagree with all the others: named, and asked about; nothing is dropped in silence."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, Protocol

from msgspec import Struct

from trebb.core.belief.bounds import at_odds
from trebb.core.condition import ErrorModel, Observation
from trebb.core.condition.leaving_out import Foretold, foretold
from trebb.core.findings import Finding
from trebb.core.machine import State
from trebb.core.survey import AnySetUp, PlaceReadings
from trebb.core.survey.angles import angle_words
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.survey.reduction import reduced_repeats
from trebb.core.units import UnitSystem, show_size, show_small
from trebb.core.words import large, small
from trebb.logbook.log.fold import Job


class Surveyed(Protocol):
    """What is asked of a case here."""

    job: Job
    assembly_key: str

    @property
    def set_ups(self) -> tuple[AnySetUp, ...]:
        """Its set-ups."""
        ...

    def distrusted(self, phase: str) -> Mapping[str, str]:
        """Set-ups set aside as a whole."""
        ...

    def seen_by(self, key: str, phase: str) -> Any:
        """The subject as a set-up's readings are understood by."""
        ...

    def known_at(self, key: str, phase: str) -> list[PlaceReadings]:
        """Readings that stand and count."""
        ...

    def means_at(self, key: str, phase: str) -> list[tuple[str, Observation]]:
        """One observation a place."""
        ...

    def model_for(self, phase: str) -> ErrorModel:
        """Sources of error."""
        ...

    def odd_at(self, key: str, phase: str) -> tuple[Odd, ...]:
        """Those of a set-up that disagree with its repeats or the rest of their turn."""
        ...

    def is_kept(self, set_up: str, what: str, phase: str) -> bool:
        """Whether a reading that disagrees was kept by hand."""
        ...


SLIPS = {
    "turn": "a whole turn too many or too few",
    "swap": "two figures the other way round",
    "tenfold": "the point one place off",
    "unit": "the other unit",
}
# How often a reading slips, and how far one then lies off, in what its neighbours foretell it to.
SLIP, SLIP_SDS = 0.02, 20.0


class Odd(Struct, frozen=True):
    """A reading that the others leave alone: raw value and what they lead one to expect, in the set-up's
    unit; `among` says in words which others; `slip` how it slipped, by its key, where that shows. Not
    `is_sure`: which of them is right cannot be told.
    """

    set_up: AnySetUp
    place: str
    value: float
    typical: float
    among: str
    readings: tuple[int, ...]
    slip: str = ""
    is_sure: bool = True

    @property
    def key(self) -> str:
        """What is kept by hand: the place, and the readings that stood there when it was."""
        return f"{self.place}/{'+'.join(map(str, self.readings))}"

    def sentence(self, system: UnitSystem) -> str:
        """It and the others, in a sentence."""
        here = large(self.place)
        shown, typical = (show_raw(self.set_up, v, system) for v in (self.value, self.typical))
        if not self.is_sure:
            return f"{here}: {shown} and {typical} are at odds, and which is right cannot be told yet."
        seems = f": {SLIPS[self.slip]}, it seems" if self.slip in SLIPS else ""
        return f"{here}: {shown} disagrees with {self.among}, {typical}{seems}."


def show_raw(s: AnySetUp, raw: float, system: UnitSystem) -> str:
    """A raw reading as shown."""
    if s.unit in RAW_UNITS:
        return RAW_UNITS[s.unit].show(raw, system, True)
    return show_size(raw, system) if s.is_size else show_small(raw, system)


def odd_readings(case: Surveyed, phase: str) -> list[Odd]:
    """Every reading of a phase that disagrees and was not kept by hand."""
    found: list[Odd] = []
    for s in case.set_ups:
        if s.key in case.distrusted(phase):
            continue
        found += case.odd_at(s.key, phase)
    named = {(odd.set_up.key, odd.place) for odd in found}
    found += [odd for odd in _among_places(case, phase) if (odd.set_up.key, odd.place) not in named]
    return [odd for odd in found if not case.is_kept(odd.set_up.key, odd.key, phase)]


def odd_at(case: Surveyed, s: AnySetUp, phase: str) -> tuple[Odd, ...]:
    """Those of a set-up that disagree with its repeats or the rest of their turn."""
    return (*_among_repeats(case, s, phase), *_among_angles(case, s, phase))


def _readings(case: Surveyed, s: AnySetUp, phase: str, place: str) -> Iterator[tuple[int, float]]:
    for r in case.job.readings(case.assembly_key, s.key, phase, place):
        if r.struck is None:
            yield r.id, r.taken.value


def _among_repeats(case: Surveyed, s: AnySetUp, phase: str) -> list[Odd]:
    subject = case.seen_by(s.key, phase)
    found = []
    read = {p.place: p for p in case.known_at(s.key, phase)}
    for place, repeats in reduced_repeats(s, subject, list(read.values())):
        values, taken = read[place].values, list(_readings(case, s, phase, place)) if repeats.slips else []
        for one in repeats.slips if any(slip.is_sure for slip in repeats.slips) else repeats.slips[-1:]:
            others = [v for i, v in enumerate(values) if i not in {slip.at for slip in repeats.slips}]
            others = others or [v for i, v in enumerate(values) if i != one.at]
            value, typical = values[one.at], sorted(others)[len(others) // 2]
            ids = tuple(name for name, v in taken if v == value)
            found.append(Odd(s, place, value, typical, "its repeats", ids, one.kind, one.is_sure))
    return found


def _among_angles(case: Surveyed, s: AnySetUp, phase: str) -> list[Odd]:
    if s.view != "turn":
        return []
    found = []
    from trebb.core.survey.turns import by_group, odd_angles

    for group, points in by_group(case.known_at(s.key, phase)).items():
        for i, typical in odd_angles(points):
            place = f"{group}, {angle_words(points[i][0])}"
            ids = tuple(name for name, _ in _readings(case, s, phase, place))
            found.append(Odd(s, place, points[i][1], typical, "the rest of its turn", ids))
    return found


def _among_places(case: Surveyed, phase: str) -> list[Odd]:
    plain = [s for s in case.set_ups if s.observe is None and s.key not in case.distrusted(phase)]
    places, observations = [], []
    for s in plain:
        for place, observation in case.means_at(s.key, phase):
            places.append((s, place))
            observations.append(observation)
    off = [
        (told.off, i, told)
        for i, told in enumerate(foretold(case.model_for(phase).by_neighbours, observations))
        if told.is_told and _is_slip(observations[i], told) and _has_neighbours(places, i)
    ]
    if not off:
        return []
    # One at a time: what one blunder does to its neighbours' foretelling is not theirs.
    _, i, told = max(off, key=lambda one: one[0])
    s, place = places[i]
    subject = case.seen_by(s.key, phase)
    raw = s.restore(subject, place, observations[i].value)
    typical = s.restore(subject, place, max(told.value, 0.0) if not s.is_signed else told.value)
    ids = tuple(name for name, _ in _readings(case, s, phase, place))
    return [Odd(s, place, raw, typical, "its neighbours", ids)]


def _is_slip(read: Observation, told: Foretold) -> bool:
    """Whether a reading is so far off what its neighbours foretell that it likely slipped."""
    own = read.row.noise_sd
    others = max(told.sd**2 - own**2, 0.0) ** 0.5
    return at_odds((read.value, own), (told.value, others), SLIP, SLIP_SDS * told.sd).is_named


def _has_neighbours(places: list[tuple[AnySetUp, str]], at: int) -> bool:
    """Whether the same set-up was read at two other places."""
    return sum(s.key == places[at][0].key for s, _ in places) >= 3


def odd_finding(odd: Odd, system: UnitSystem) -> Finding:
    """A reading that disagrees, as a verdict of its own."""
    return Finding(
        f"odd.{odd.set_up.key}.{odd.place}",
        State.UNKNOWN,
        odd.sentence(system),
        small(odd.set_up.title),
        "Keep it or strike it out: read it once more, and it shows.",
        0.5,
        (("Look at it", odd.set_up.key),),
    )
