"""The lash of a slide split into nut, screw, end float and what is left."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from trebb.core.condition import Estimate, Quantity, Tangle, tangles
from trebb.core.findings.base import Finding, suggestion_words
from trebb.core.machine import STATIONS, RatedLimit, ScrewDrive, State, state_of, wear_key
from trebb.core.units import UnitSystem, show_size, show_small, show_uncertain

# A part counts as told apart when its standard deviation is under a tenth of the limit.
KNOWN_SHARE = 0.1
# What reaches down to one step of the indicator is not told from nothing.
INDICATOR_STEP_MM = 0.00254


def lash_combination(station: int, *, key: bool = True) -> dict[str, float]:
    """The lash felt at the handwheel at a station, by source; without `key` the float of the slide itself."""
    parts = {"nut": 1.0, wear_key(station): 1.0, "float": 1.0}
    return {**parts, "key": 1.0} if key else parts


@dataclass(frozen=True)
class StationLash:
    """Lash at one station: the whole, and the screw's share."""

    station: int
    position_mm: float
    total: Quantity
    wear: Quantity


@dataclass(frozen=True)
class LashSplit:
    """The lash along the travel, total play in mm with 95 % intervals."""

    stations: tuple[StationLash, ...]
    nut: Quantity
    float_: Quantity
    key: Quantity

    @property
    def worst(self) -> StationLash:
        """The station that loses most."""
        return max(self.stations, key=lambda s: s.total.value)

    @property
    def least_worn(self) -> StationLash:
        """The station where the screw is least worn: the place to lock the slide while it makes its own part."""
        return min(self.stations, key=lambda s: s.wear.value)

    @property
    def most_worn(self) -> StationLash:
        """The station where the screw is worn most."""
        return max(self.stations, key=lambda s: s.wear.value)


def split_lash(drive: ScrewDrive, now: Estimate) -> LashSplit:
    """The estimate in the rebuilder's terms."""
    stations = tuple(
        StationLash(k, drive.station_mm(k), now.combination(lash_combination(k)), now.source(wear_key(k)))
        for k in range(1, STATIONS + 1)
    )
    return LashSplit(stations, now.source("nut"), now.source("float"), now.source("key"))


def split_parts(split: LashSplit | None) -> dict[str, Mapping[str, float]]:
    """The questions of this assembly, each a combination of sources: the four parts of the lash at its worst."""
    station = split.worst.station if split else 3
    return {"nut": {"nut": 1.0}, "screw": {wear_key(station): 1.0}, "float": {"float": 1.0}, "key": {"key": 1.0}}


_PART_NAMES = {"nut": "nut", "screw": "screw", "float": "end float", "key": "key and handwheel"}


def part_name(key: str) -> str:
    """The trade's name of a part of the lash."""
    return _PART_NAMES[key]


def lash_findings(drive: ScrewDrive, now: Estimate, limit: RatedLimit, system: UnitSystem) -> list[Finding]:
    """Verdicts on one screw drive, the heaviest first. Needs at least one reading."""
    if not now.readings:
        return []
    split = split_lash(drive, now)
    worst = split.worst
    tangled = tangles(now, split_parts(split), KNOWN_SHARE * limit.limit_mm)
    state = state_of(worst.total.value, limit.limit_mm)
    found = [_whole(drive, split, limit, state, tangled, system, now.readings)]
    if not tangled:
        found += _parts(split, limit, system)
    found += [_tangle(tangle, system) for tangle in tangled]
    lead = now.source("lead")
    if lead.sd < 0.003 * drive.thread.lead_mm and not lead.low <= drive.thread.lead_mm <= lead.high:
        found.append(
            Finding(
                "lead", State.BEYOND,
                f"The screw moves {show_size(lead.value, system)} a turn, not the {show_size(drive.thread.lead_mm, system)} stated.",
                f"turns against travel, ± {show_small(lead.half_width, system)}",
                "Count the starts, look at the dial's divisions, then correct the thread at Parts.", 1.0,
            )
        )  # fmt: skip
    return sorted(found, key=lambda f: -f.weight_mm)


def _whole(
    drive: ScrewDrive, split: LashSplit, limit: RatedLimit, state: State, tangled: list[Tangle], system: UnitSystem, readings: int
) -> Finding:
    worst = split.worst
    total = show_small(worst.total.value, system)
    if tangled:
        what = f"The cross slide loses up to {total}, at station {worst.station}"
    else:
        where = {1: "at the handwheel end", 3: "at the middle", 5: "at the far end"}.get(split.most_worn.station, f"at station {split.most_worn.station}")
        what = (
            f"The screw is worn {show_small(split.most_worn.wear.value, system)} {where}; "
            f"the nut has {show_small(split.nut.value, system, unit=False)}; end float {show_small(split.float_.value, system, unit=False)}."
        )
    lie = "" if tangled else f" The dial will lie by up to {total}"
    against = f", limit {show_small(limit.limit_mm, system)}." if state is not State.WITHIN else f", inside the limit of {show_small(limit.limit_mm, system)}."
    move = {
        State.WITHIN: "Leave it, and write down why.",
        State.NEAR: "It will pass the limit within a year or so of work; take out the cheapest part now.",
        State.BEYOND: "Take the set-up that tells them apart before choosing a repair." if tangled else "Compare what each repair would leave before buying anything.",
        State.UNKNOWN: "",
    }[state]
    rest = f"{readings} places read, ± {show_small(worst.total.half_width, system)} at station {worst.station}"
    return Finding("lash", state, f"{what}{lie}{against}", rest, move, worst.total.value + 10)


def _parts(split: LashSplit, limit: RatedLimit, system: UnitSystem) -> list[Finding]:
    result = []
    rows = (
        ("screw", split.most_worn.wear, "only a new screw takes this out; a new nut leaves it in the middle"),
        ("nut", split.nut, "a new or closed-up nut takes this out"),
        ("float", split.float_, "a thrust bearing or an adjustable collar takes this out, for little"),
        ("key", split.key, "a fitted key takes this out"),
    )
    for key, quantity, move in rows:
        share = quantity.value / max(split.worst.total.value, 1e-9)
        state = state_of(quantity.value, limit.limit_mm)
        name = part_name(key).capitalize() + (f" at station {split.most_worn.station}" if key == "screw" else "")
        if quantity.low <= INDICATOR_STEP_MM and quantity.value < KNOWN_SHARE * 2 * limit.limit_mm:
            sentence = f"{name}: not shown; less than {show_small(quantity.high, system)}."
            state = State.WITHIN
        else:
            sentence = f"{name}: {show_uncertain(quantity.value, quantity.half_width, system)}, {share:.0%} of the lash."
        result.append(Finding(key, state, sentence, "all readings standing", move[0].upper() + move[1:] + ".", quantity.value))
    return result


def _tangle(tangle: Tangle, system: UnitSystem) -> Finding:
    names = [part_name(key) for key in tangle.keys]
    together = ", ".join(names[:-1]) + f" and {names[-1]}"
    total = show_uncertain(tangle.total.value, tangle.total.half_width, system)
    settle = {
        frozenset({"nut", "float"}): "End float by itself settles it.",
        frozenset({"nut", "screw"}): "The thread over wires settles it.",
        frozenset({"float", "screw"}): "End float by itself settles it.",
    }.get(frozenset(tangle.keys), "The next set-up at the right settles most of it.")
    return Finding(
        "tangle." + ".".join(tangle.keys),
        State.UNKNOWN,
        f"{together.capitalize()} cannot be told apart yet: together {total}.",
        "what the readings so far fix is only their sum",
        settle,
        tangle.total.value,
    )


def suggestion_reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking, in a few words."""
    return suggestion_words(part_name(most), sd_before, sd_after, system, little=0.9)
