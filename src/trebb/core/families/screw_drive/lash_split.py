"""The lash of a slide along its travel, split among nut, screw, end float and key, as far as readings fix
it.
"""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from trebb.core.condition import Estimate, Quantity, ReadingsOnly
from trebb.core.condition.fixing import Fixed, fixed_sum, is_fixed
from trebb.core.families.screw_drive.subject import (
    STATIONS,
    ScrewDrive,
    felt_at_dial,
    felt_when_shoved,
    wear_key,
)
from trebb.core.findings.base import Measure
from trebb.core.machine import RatedLimit

# A part counts as told apart when its standard deviation is under a tenth of the limit.
KNOWN_SHARE = 0.1
# A sum that is read directly counts as fixed up to this share of the limit.
READ_SHARE = 0.5
# What reads each part by itself.
READ_BY = {"nut": "push_pull", "screw": "thread_size", "float": "end_float", "key": "lash"}


def lash_combination(drive: ScrewDrive, station: int) -> dict[str, float]:
    """The lash at a station, by source: as felt at the handwheel, or where no dial is, as the slide can be
    shoved. Coefficients by source, without unit.
    """
    return felt_at_dial(drive, station) if drive.has_dial else felt_when_shoved(drive, station)


def lash_parts(drive: ScrewDrive, station: int) -> dict[str, dict[str, float]]:
    """The same in the rebuilder's parts. Coefficients by source, without unit."""
    of: dict[str, dict[str, float]] = {"nut": {}, "screw": {}, "float": {}, "key": {}}
    owner = {"nut": "nut", "tip": "nut", "float": "float", "float.turn": "float", "key": "key"}
    for source, share in lash_combination(drive, station).items():
        of[owner.get(source, "screw")][source] = share  # wear at the stations and between them
    return {part: sources for part, sources in of.items() if sources}


class StationLash(Struct, frozen=True):
    """Lash at one station: the whole and the screw's share as expected, and what of the whole readings
    fix.
    """

    station: int
    position_mm: float
    total: Quantity
    wear: Quantity
    fixed: Fixed | None

    @property
    def is_read(self) -> bool:
        """Whether the whole of it is fixed."""
        return self.fixed is not None and not self.fixed.unread


class LashSplit(Struct, frozen=True):
    """The lash along the travel, total play in mm with 95 % intervals.

    `told` holds the parts that readings fix by themselves, by key.
    """

    stations: tuple[StationLash, ...]
    nut: Quantity
    float_: Quantity
    key: Quantity
    told: Mapping[str, Quantity]

    @property
    def worst(self) -> StationLash:
        """The station that loses most: of those read, where any is."""
        fixed = [s for s in self.stations if s.fixed is not None]
        if fixed:
            return max(fixed, key=lambda s: s.fixed.value.value)  # type: ignore[union-attr]
        return max(self.stations, key=lambda s: s.total.value)

    @property
    def whole(self) -> Fixed | None:
        """What is fixed of the lash at its worst; None where nothing is."""
        return self.worst.fixed

    @property
    def least_worn(self) -> StationLash:
        """The station where the screw is least worn: the place to lock the slide while it makes its own
        part.
        """
        return min(self.stations, key=lambda s: s.wear.value)

    @property
    def most_worn(self) -> StationLash:
        """The station where the screw is worn most."""
        return max(self.stations, key=lambda s: s.wear.value)

    @property
    def screw_station(self) -> int:
        """The station at which the screw's share is asked for: where it is worn most, of those read."""
        read = [s for s in self.stations if s.is_read]
        return (max(read, key=lambda s: s.wear.value) if read else self.most_worn).station

    def stations_unread(self) -> tuple[int, ...]:
        """Stations whose lash is not fixed as a whole, where another's is."""
        return tuple(s.station for s in self.stations if not s.is_read)


def split_lash(
    drive: ScrewDrive, now: Estimate, alone: ReadingsOnly | None = None, limit_mm: float = 0.15
) -> LashSplit:
    """The estimate in the rebuilder's terms; `alone` is the condition by readings alone, without which no
    whole is said, and parts are told as far as `now` knows them.
    """
    by = now if alone is None else alone
    stations = tuple(
        StationLash(
            k,
            drive.station_mm(k),
            now.combination(lash_combination(drive, k)),
            now.source(wear_key(k)),
            fixed_sum(alone, lash_parts(drive, k), READ_SHARE * limit_mm)
            if alone is not None and alone.readings
            else None,
        )
        for k in range(1, STATIONS + 1)
    )
    split = LashSplit(stations, now.source("nut"), now.source("float"), now.source("key"), {})
    parts = {key: by.combination(c) for key, c in split_parts(split, dial=drive.has_dial).items()}
    told = {key: q for key, q in parts.items() if is_fixed(q, KNOWN_SHARE * limit_mm)}
    return LashSplit(stations, split.nut, split.float_, split.key, told)


def split_parts(split: LashSplit | None, *, dial: bool = True) -> dict[str, Mapping[str, float]]:
    """The questions of this assembly, each a combination of sources: the parts of the lash at its worst; a
    key only where there is a `dial`. Coefficients by source, without unit.
    """
    station = split.screw_station if split else 3
    parts: dict[str, Mapping[str, float]] = {
        "nut": {"nut": 1.0},
        "screw": {wear_key(station): 1.0},
        "float": {"float": 1.0},
    }
    return {**parts, "key": {"key": 1.0}} if dial else parts


PART_NAMES = {"nut": "nut", "screw": "screw", "float": "end float", "key": "key at the handwheel"}


def lash_measure(drive: ScrewDrive, split: LashSplit, limit: RatedLimit) -> Measure | None:
    """The lash at its worst, with what was not read of it; None where no part of it was."""
    whole = split.whole
    if whole is None:
        return None
    unread = [(PART_NAMES[key], READ_BY[key]) for key in whole.unread]
    if not unread:
        by = "lash" if drive.has_dial else "push_pull"
        unread = [(f"station {k}", by) for k in split.stations_unread()]
    return Measure("lash", "Lash at the worst", limit, whole_value(split), tuple(unread))


def whole_value(split: LashSplit) -> Quantity:
    """What is fixed of the lash at its worst: a part by itself as that part is told."""
    whole = split.whole
    assert whole is not None
    return split.told.get(whole.keys[0], whole.value) if len(whole.keys) == 1 else whole.value
