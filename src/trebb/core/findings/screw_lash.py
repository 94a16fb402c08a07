"""The lash of a slide split into nut, screw, end float and what is left."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from trebb.core.condition import Estimate, Quantity, Tangle, tangles
from trebb.core.findings.base import Finding, suggestion_words
from trebb.core.machine import STATIONS, RatedLimit, ScrewDrive, State, once_a_turn, state_of, wear_key
from trebb.core.units import UnitSystem, show_size, show_small, show_uncertain

# A part counts as told apart when its standard deviation is under a tenth of the limit.
KNOWN_SHARE = 0.1
# What reaches down to one step of the indicator is not told from nothing.
INDICATOR_STEP_MM = 0.00254


def lash_combination(station: int, *, key: bool = True) -> dict[str, float]:
    """The lash felt at the handwheel at a station, by source; without `key` the float of the slide itself,
    which is all that half nuts have.
    """
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
        """The station where the screw is least worn: the place to lock the slide while it makes its own
        part.
        """
        return min(self.stations, key=lambda s: s.wear.value)

    @property
    def most_worn(self) -> StationLash:
        """The station where the screw is worn most."""
        return max(self.stations, key=lambda s: s.wear.value)


def split_lash(drive: ScrewDrive, now: Estimate) -> LashSplit:
    """The estimate in the rebuilder's terms."""
    stations = tuple(
        StationLash(
            k,
            drive.station_mm(k),
            now.combination(lash_combination(k, key=drive.has_dial)),
            now.source(wear_key(k)),
        )
        for k in range(1, STATIONS + 1)
    )
    return LashSplit(stations, now.source("nut"), now.source("float"), now.source("key"))


def split_parts(split: LashSplit | None, *, dial: bool = True) -> dict[str, Mapping[str, float]]:
    """The questions of this assembly, each a combination of sources: the parts of the lash at its worst; a
    key only where there is a `dial`.
    """
    station = split.worst.station if split else 3
    parts: dict[str, Mapping[str, float]] = {
        "nut": {"nut": 1.0},
        "screw": {wear_key(station): 1.0},
        "float": {"float": 1.0},
    }
    return {**parts, "key": {"key": 1.0}} if dial else parts


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
    tangled = tangles(now, split_parts(split, dial=drive.has_dial), KNOWN_SHARE * limit.limit_mm)
    state = state_of(worst.total.value, limit.limit_mm)
    found = [_whole(drive, split, limit, state, tangled, system, now.readings)]
    if not tangled:
        found += _parts(drive, split, limit, system)
    found += [_tangle(tangle, system) for tangle in tangled]
    lead = now.source("lead")
    off = abs(lead.value / drive.thread.lead_mm - 1)
    if (
        lead.sd < 0.003 * drive.thread.lead_mm
        and off > WRONG_LEAD
        and not lead.low <= drive.thread.lead_mm <= lead.high
    ):
        found.append(
            Finding(
                "lead",
                State.BEYOND,
                f"The screw moves {show_size(lead.value, system)} a turn, not the "
                f"{show_size(drive.thread.lead_mm, system)} stated.",
                f"turns against travel, ± {show_small(lead.half_width, system)}",
                "Count the starts, look at the dial's divisions, then correct the thread at Parts.",
                1.0,
            )
        )
    found += screw_errors(drive, now, system)
    return sorted(found, key=lambda f: -f.weight_mm)


ERROR_OVER_MM = 300.0  # what a screw's error is judged over
WRONG_LEAD = 0.002  # a lead this far off is another thread, not a worn one
BENT_MM = 0.15  # swing at which a screw is felt in the feed; below, the nut follows it
LEAST_ENGAGED = 0.6  # of the thread's depth
DIAL_SHARE = 1 / 6  # of a thread that a line of the dial may be off before it is taken for its neighbour


def error_at(drive: ScrewDrive, mm: float) -> dict[str, float]:
    """Slide less dial at a way from the handwheel end, by source, mm; the constant part is −mm (see
    `error_of`).
    """
    turns = mm / drive.thread.lead_mm
    return {"lead": turns, **once_a_turn(2 * math.pi * turns), **drive.flank_lag(mm)}


def error_of(drive: ScrewDrive, now: Estimate, mm: float) -> Quantity:
    """What the slide does less what the dial says, at a way from the handwheel end, with its 95 % interval,
    mm.
    """
    return now.combination(error_at(drive, mm), offset=-mm)


def progressive_error(drive: ScrewDrive, now: Estimate) -> Quantity:
    """How far the lead is off in 300 mm, mm, + too long."""
    lead = drive.thread.lead_mm
    return now.combination({"lead": ERROR_OVER_MM / lead}, offset=-ERROR_OVER_MM)


def periodic_error_mm(now: Estimate) -> float:
    """Swing of what comes back every turn, mm, peak to peak."""
    return 2 * math.hypot(now.source("drunk.c").value, now.source("drunk.s").value)


def lead_is_read(drive: ScrewDrive, now: Estimate) -> bool:
    """Whether the lead is known well enough to speak of its error: to a tenth of a millimetre in 300."""
    return progressive_error(drive, now).sd < 0.05


def screw_errors(drive: ScrewDrive, now: Estimate, system: UnitSystem) -> list[Finding]:
    """Of the lead, the bend and the half nuts, as far as read."""
    found = []
    if lead_is_read(drive, now):
        p = progressive_error(drive, now)
        once = periodic_error_mm(now)
        says = "the dial says" if drive.has_dial else "its turns say"
        way = f"further than {says}" if p.value > 0 else f"less than {says}"
        sentence = (
            f"The {drive.screw} goes {show_uncertain(abs(p.value), p.half_width, system)} {way} in "
            f"300 mm; {show_small(once, system)} comes back every turn."
        )
        found.append(
            Finding(
                "lead_error",
                State.WITHIN if abs(p.value) < 0.03 else State.NEAR if abs(p.value) < 0.06 else State.BEYOND,
                sentence,
                "dial against readout or blocks",
                "Where it matters, trust a readout; a screw ground new mends it.",
                abs(p.value) / 4,
                (("Read it", "lead_error"),),
            )
        )
    bend = now.source("bend")
    if bend.sd < 0.05:
        is_bent = bend.value > BENT_MM
        found.append(
            Finding(
                "bend",
                State.BEYOND if is_bent else State.WITHIN,
                f"The {drive.screw} swings {show_uncertain(bend.value, bend.half_width, system)} at its "
                f"middle: {'bent' if is_bent else 'straight enough, the nut follows it'}.",
                "turned under a dial",
                "Straighten on a press, a little at a time, high spot up." if is_bent else "Leave it.",
                bend.value / 3,
            )
        )
    if drive.half_nuts:
        found += _half_nuts(drive, now, system)
    return found


def _half_nuts(drive: ScrewDrive, now: Estimate, system: UnitSystem) -> list[Finding]:
    found = []
    off, slack, depth = now.source("standoff"), now.source("dial_slack"), drive.thread.basic_height_mm
    if off.sd < 0.1 * depth:
        share = max(0.0, 1 - off.value / depth)
        ok = share >= LEAST_ENGAGED
        found.append(
            Finding(
                "engaged",
                State.WITHIN if ok else State.BEYOND,
                f"Half nuts engage {share:.0%} of the thread's depth, {show_size(depth - off.value, system)} "
                f"of {show_size(depth, system)}.",
                "depth rod on both halves",
                "They may stay." if ok else "They jump out under load: lever and cam first, then new halves.",
                0.02 if ok else 0.4,
            )
        )
    if slack.sd < 0.06:
        worst = slack.value > DIAL_SHARE * drive.thread.pitch_mm
        found.append(
            Finding(
                "dial_slack",
                State.NEAR if worst else State.WITHIN,
                f"The thread dial has {show_uncertain(slack.value, slack.half_width, system)} of "
                f"slack{': a line may be taken for its neighbour' if worst else ''}.",
                "dial rocked",
                "Bush its spindle; close the half nuts on the line rising." if worst else "Leave it.",
                slack.value / 6,
            )
        )
    drop = now.source("dial_drop")
    if drop.sd < 0.06:
        falls = drop.value > 0.10
        much = show_uncertain(drop.value, drop.half_width, system)
        what = (
            f"drops {much} into the keyway every turn: its lines cannot be trusted"
            if falls
            else "runs over the keyway without a jump"
        )
        found.append(
            Finding(
                "dial_drop",
                State.BEYOND if falls else State.WITHIN,
                f"The thread dial {what}.",
                "screw turned once",
                "A wider gear, or a strip let into the keyway where the gear runs." if falls else "Leave it.",
                drop.value / 4,
            )
        )
    return found


def _whole(
    drive: ScrewDrive,
    split: LashSplit,
    limit: RatedLimit,
    state: State,
    tangled: list[Tangle],
    system: UnitSystem,
    readings: int,
) -> Finding:
    worst = split.worst
    total = show_small(worst.total.value, system)
    if tangled:
        what = f"The {drive.what} loses up to {total}, at station {worst.station}"
    else:
        near, far = drive.end_names
        where = {1: f"at the {near}", 3: "at the middle", 5: f"at the {far}"}.get(
            split.most_worn.station, f"at station {split.most_worn.station}"
        )
        nut = "the half nuts have" if drive.half_nuts else "the nut has"
        what = (
            f"The screw is worn {show_small(split.most_worn.wear.value, system)} {where}; "
            f"{nut} {show_small(split.nut.value, system, unit=False)}; end float "
            f"{show_small(split.float_.value, system, unit=False)}."
        )
    lie = (
        ""
        if tangled
        else f" The dial will lie by up to {total}"
        if drive.has_dial
        else f" The {drive.what} can shift by up to {total}"
    )
    against = (
        f", limit {show_small(limit.limit_mm, system)}."
        if state is not State.WITHIN
        else f", inside the limit of {show_small(limit.limit_mm, system)}."
    )
    move = {
        State.WITHIN: "Leave it, and write down why.",
        State.NEAR: "It will pass the limit within a year or so of work; take out the cheapest part now.",
        State.BEYOND: "Take the set-up that tells them apart before choosing a repair."
        if tangled
        else "Compare what each repair would leave before buying anything.",
        State.UNKNOWN: "",
    }[state]
    rest = (
        f"{readings} places read, ± {show_small(worst.total.half_width, system)} at station {worst.station}"
    )
    return Finding("lash", state, f"{what}{lie}{against}", rest, move, worst.total.value + 10)


def _parts(drive: ScrewDrive, split: LashSplit, limit: RatedLimit, system: UnitSystem) -> list[Finding]:
    result = []
    rows = (
        ("screw", split.most_worn.wear, "only a new screw takes this out; a new nut leaves it in the middle"),
        ("nut", split.nut, "a new or closed-up nut takes this out"),
        ("float", split.float_, "a thrust bearing or an adjustable collar takes this out, for little"),
        ("key", split.key, "a fitted key takes this out"),
    )
    for key, quantity, move in rows:
        if key == "key" and not drive.has_dial:
            continue
        share = quantity.value / max(split.worst.total.value, 1e-9)
        state = state_of(quantity.value, limit.limit_mm)
        name = (drive.nut_words if key == "nut" else part_name(key)).capitalize() + (
            f" at station {split.most_worn.station}" if key == "screw" else ""
        )
        if quantity.low <= INDICATOR_STEP_MM and quantity.value < KNOWN_SHARE * 2 * limit.limit_mm:
            sentence = f"{name}: not shown; less than {show_small(quantity.high, system)}."
            state = State.WITHIN
        else:
            sentence = (
                f"{name}: {show_uncertain(quantity.value, quantity.half_width, system)}, {share:.0%} "
                "of the lash."
            )
        result.append(
            Finding(
                key,
                state,
                sentence,
                "all readings standing",
                move[0].upper() + move[1:] + ".",
                quantity.value,
            )
        )
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
