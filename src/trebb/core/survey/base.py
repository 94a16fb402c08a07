"""What every set-up says of itself."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from enum import Enum
from typing import Any, Generic, TypeVar

import numpy as np
from msgspec import Struct

from trebb.core.condition import Estimate, Observation, Row
from trebb.core.figure import Figure
from trebb.core.survey.angles import figure_place
from trebb.core.units import ReadingUnit, UnitSystem

S = TypeVar("S")


class InstrumentKind(Enum):
    """What is read. `HANDWHEEL` is the machine's own dial, read by eye in divisions."""

    HANDWHEEL = "handwheel dial"
    INDICATOR = "dial indicator"
    MICROMETER = "micrometer"
    CALIPER = "depth caliper or travel readout"
    THERMOMETER = "thermometer"
    HEIGHT = "height gauge or tool setter"
    EYE = "marking blue and the eye"
    LEVEL = "precision level"
    COLLIMATOR = "autocollimator"
    FEELERS = "feeler blades"
    COUNTING = "eye and a square window"


class Place(Struct, frozen=True):
    """One place of a set-up; `note` says where that is, `group` which turn or pull it belongs to."""

    key: str
    label: str
    note: str = ""
    group: str = ""


class PlaceReadings(Struct, frozen=True):
    """Raw values standing (not struck out) at one place, in the set-up's unit, with the step they are read
    to; 0 where neither was it stated nor do they tell.
    """

    place: str
    values: tuple[float, ...]
    step: float = 0.0


class Lot(Struct, frozen=True):
    """Places that are set up and read together: what a suggestion offers.

    `setting_minutes` None: the set-up's own, once.
    """

    key: str
    title: str
    places: tuple[str, ...]
    setting_minutes: float | None = None


class Result(Struct, frozen=True):
    """What a set-up's readings come to, for before and after: mm, with the 95 % half width.

    `place` says of what; `row` is the same figure by sources where it is one, to compare with a prediction.
    """

    place: str
    value_mm: float
    half_mm: float
    row: Row | None = None


class SetUp(Struct, Generic[S], frozen=True):
    """A way to take readings of a subject: a screw drive, a spindle.

    Parameters
    ----------
    short : for the row of set-ups.
    unit : "mm", "div", "C" (°C), "mm/m" (a slope) or "count", what a raw reading is stored in.
    resolution_mm : finest step of the usual instrument, mm (or °C, mm/m, 1); divisions are
        estimated to half a division.
    minutes : bench time of one place once set up; `setting_minutes` to set up.
    wanted : readings wanted at each place.
    row(subject, place) : how the reduced reading depends on the sources, mm.
    reduce(subject, place, raw) : raw reading to the row's mm.
    restore(subject, place, mm) : the inverse, for the simulated machine.
    observe(subject, taken) : observations where a place's mean will not do.
    stir(subject, condition, place, rng_of) : what chance adds to a simulated reading beyond its
        noise: the indicator's zero, this seating. `rng_of(name)` gives the same generator for the same name.
    lots(subject) : what is set up together; one lot of everything if not given.
    results(subject, taken) : what is compared before and after; each place's mean if not given.
    expected(subject, after, place) : value and 95 % half width of a result in a condition, where no row
        gives it.
    refusal(subject, place, raw, system) : why a typed value cannot be, or "".
    question(subject, place, raw, others, is_signed_as_typed) : what to ask before a reading counts that does
        not go with what was read elsewhere, `others` by place; "" for nothing.
    view : how the readings are pictured: "rows", "turn", "push", "warm", "contact", "ladder", "gib" or
        "profile".
    plane_mm(subject, group) : distance of a turn's plane from the nose; None where it is read along the axis.
    measure(subject, result) : the measure that a result of it is judged by, and the share of that
        measure's length which the result spans; the assembly's first measure if not given.
    is_signed : a reading may be less than nothing; may_be_less(subject) : it may, as this one is read.
    is_proof : taken again after the repair.
    applies(subject) : whether this machine has it.
    is_optional : counts as left to do only once it is begun.
    asks : keys of the facts that its readings are understood by, asked for beside its steps.
    """

    key: str
    letter: str
    short: str
    title: str
    instrument: InstrumentKind
    unit: ReadingUnit
    resolution_mm: float
    minutes: float
    setting_minutes: float
    wanted: int
    places: Callable[[S], tuple[Place, ...]]
    row: Callable[[S, str], Row]
    figure: Callable[[S, str], Figure]
    steps: tuple[str, ...]
    cautions: tuple[str, ...]
    tells: str
    cannot_tell: str
    settles: str
    family: str = "screw_drive"
    view: str = "rows"
    is_proof: bool = True
    reduce: Callable[[S, str, float], float] = lambda subject, place, raw: raw
    restore: Callable[[S, str, float], float] = lambda subject, place, value: value
    observe: Callable[[S, Sequence[PlaceReadings]], list[Observation]] | None = None
    stir: Callable[[S, Mapping[str, float], str, Callable[[str], np.random.Generator]], float] | None = None
    lots: Callable[[S], tuple[Lot, ...]] | None = None
    results: Callable[[S, Sequence[PlaceReadings]], list[Result]] | None = None
    expected: Callable[[S, Estimate, str], tuple[float, float]] | None = None
    question: Callable[[S, str, float, Mapping[str, float], bool], str] | None = None
    refusal: Callable[[S, str, float, UnitSystem], str] = lambda subject, place, raw, system: ""
    applies: Callable[[S], bool] = lambda subject: True
    plane_mm: Callable[[S, str], float | None] = lambda subject, group: None
    is_size: bool = False
    is_optional: bool = False
    asks: tuple[str, ...] = ()
    is_signed: bool = False
    may_be_less: Callable[[S], bool] = lambda subject: False
    measure: Callable[[S, str], tuple[str, float]] | None = None
    size_band_mm: Callable[[S], float] = lambda subject: 1.0
    division_mm: Callable[[S], float] = lambda subject: 1.0

    @property
    def is_fine(self) -> bool:
        """Read on an indicator of tenths."""
        return self.instrument is InstrumentKind.INDICATOR and self.is_signed

    @property
    def is_length(self) -> bool:
        """Whether what is read is a length, on an instrument or by divisions of a dial."""
        return self.unit in ("mm", "div")

    def all_keys(self, subject: S) -> frozenset[str]:
        """Keys of every place that may be read: of turns also each as one figure."""
        places = self.places(subject)
        turns = {figure_place(p.group) for p in places if p.group} if self.view == "turn" else ()
        return frozenset((*(p.key for p in places), *turns))

    def place(self, subject: S, key: str) -> Place:
        """The place of that key; raises KeyError for another."""
        for place in self.places(subject):
            if place.key == key:
                return place
        raise KeyError(key)

    def setting_of(self, lot: Lot) -> float:
        """Minutes to set a lot up: its own, else the set-up's."""
        return self.setting_minutes if lot.setting_minutes is None else lot.setting_minutes

    def all_lots(self, subject: S) -> tuple[Lot, ...]:
        """What is set up and read together."""
        if self.lots is not None:
            return self.lots(subject)
        return (Lot("", self.title, tuple(p.key for p in self.places(subject))),)

    def step(self, subject: S) -> float:
        """The instrument's step in the set-up's own unit."""
        return self.resolution_mm / self.unit_mm(subject)

    def unit_mm(self, subject: S) -> float:
        """One of the set-up's own unit, mm: a division of its dial; 1 for any other, taken as it stands."""
        return self.division_mm(subject) if self.unit == "div" else 1.0


AnySetUp = SetUp[Any]


def lots_by_group(
    places: Callable[[S], tuple[Place, ...]], words: Callable[[str], str], minutes: float
) -> Callable[[S], tuple[Lot, ...]]:
    """A set-up's `lots`: one for each group of places, set up anew in so many minutes; `words` titles a
    group.
    """

    def lots(subject: S) -> tuple[Lot, ...]:
        groups: dict[str, list[str]] = {}
        for p in places(subject):
            groups.setdefault(p.group, []).append(p.key)
        return tuple(Lot(group, words(group), tuple(keys), minutes) for group, keys in groups.items())

    return lots


def station_of(place: str) -> int:
    """Number of a station place, "station 3" → 3."""
    return int(place.rsplit(" ", 1)[1])
