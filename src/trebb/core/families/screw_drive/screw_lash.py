"""The lash of a slide split into nut, screw, end float and what is left."""

from __future__ import annotations

import math

from trebb.core.condition import Estimate, Quantity, ReadingsOnly, Tangle, tangles
from trebb.core.condition.estimating import size_of
from trebb.core.condition.fixing import Fixed, is_touched
from trebb.core.families.screw_drive.lash_split import (
    KNOWN_SHARE,
    PART_NAMES,
    READ_BY,
    LashSplit,
    lash_measure,
    lash_parts,
    split_lash,
    split_parts,
)
from trebb.core.families.screw_drive.subject import ScrewDrive, once_a_turn
from trebb.core.findings.base import Finding, Measure, judge, suggestion_words, unread_words
from trebb.core.machine import RatedLimit, State
from trebb.core.units import UnitSystem, show_size, show_small, show_uncertain
from trebb.core.words import large

# What reaches down to one step of the indicator is not told from nothing.
INDICATOR_STEP_MM = 0.00254


def part_name(key: str) -> str:
    """The trade's name of a part of the lash."""
    return PART_NAMES[key]


def lash_findings(
    drive: ScrewDrive,
    now: Estimate,
    alone: ReadingsOnly,
    limit: RatedLimit,
    error_limit: RatedLimit,
    system: UnitSystem,
) -> list[Finding]:
    """Verdicts on one screw drive, the heaviest first. Needs at least one reading.

    `now` is the condition as expected by readings and what such machines are
    like, `alone` by the readings alone: what is said rests on the second. `error_limit` is that of the
    screw's own error in 300 mm.
    """
    if not alone.readings:
        return []
    split = split_lash(drive, now, alone, limit.limit_mm)
    # As the slide feels them: the wear under the nut, not at one point of the screw.
    felt = {key: c for key, c in lash_parts(drive, split.screw_station).items() if key not in split.told}
    tangled = tangles(alone, felt, KNOWN_SHARE * limit.limit_mm)
    measure = lash_measure(drive, split, limit)
    found = []
    if measure is not None:
        found.append(_whole(drive, split, measure, tangled, system, now.readings))
        found += _parts(drive, split, limit, system)
        found += [_tangle(tangle, system) for tangle in tangled]
        found += _not_read(drive, now, alone, split, tangled, system)
    found += lead_finding(drive, alone, system)
    found += screw_errors(drive, alone, error_limit, system)
    return sorted(found, key=lambda f: -f.weight_mm)


def lead_finding(drive: ScrewDrive, now: Estimate, system: UnitSystem) -> list[Finding]:
    """A lead that is not the stated thread's."""
    found = []
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
                (geared := _geared_words(drive, lead.value))
                or "Count the starts, look at the dial's divisions, then correct the thread at Parts.",
                1.0,
                asks=("ratio",) if geared else ("pitch_mm",),
            )
        )
    return found


SIMPLE_RATIOS = (2.0, 3.0, 4.0, 1.5, 0.5, 0.75)
NEAR_RATIO = 0.005


def _geared_words(drive: ScrewDrive, lead_mm: float) -> str:
    """What a lead in a simple ratio to the stated one likely is; "" for any other."""
    ratio = drive.thread.lead_mm * drive.ratio / lead_mm
    found = next((r for r in SIMPLE_RATIOS if abs(ratio / (r * drive.ratio) - 1) < NEAR_RATIO), None)
    if found is None:
        return ""
    return (
        "Do bevels, a worm or a belt lie between handle and screw? Count how many turns of the handle make "
        f"one of the screw, {found:g} by this, and state it; else count the starts and correct the thread."
    )


ERROR_OVER_MM = 300.0  # what a screw's error is judged over
WRONG_LEAD = 0.002  # a lead this far off is another thread, not a worn one
BENT_MM = 0.15  # swing at which a screw is felt in the feed; below, the nut follows it
LEAST_ENGAGED = 0.6  # of the thread's depth
DROP_MM = 0.10  # a thread dial's jump over the keyway that shows at its lines
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


def error_measure(drive: ScrewDrive, now: Estimate, limit: RatedLimit) -> Measure | None:
    """The screw's own error in 300 mm, mm, whichever way it goes; None where the lead is not read."""
    if not lead_is_read(drive, now):
        return None
    return Measure("lead_error", "Screw's error in 300 mm", limit, size_of(progressive_error(drive, now)))


def screw_errors(
    drive: ScrewDrive, now: Estimate, error_limit: RatedLimit, system: UnitSystem
) -> list[Finding]:
    """Of the lead, the bend and the half nuts, as far as read."""
    found = []
    error = error_measure(drive, now, error_limit)
    if error is not None:
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
                error.state,
                sentence,
                "dial against readout or blocks",
                "Where it matters, trust a readout; a screw ground new mends it."
                if error.state is not State.UNKNOWN
                else f"Its limit is {show_small(error_limit.limit_mm, system)}: read more of the travel.",
                abs(p.value) / 4,
                (("Read it", "lead_error"),),
            )
        )
    bend = now.source("bend")
    if bend.sd < 0.05:
        state = judge(bend, BENT_MM)
        found.append(
            Finding(
                "bend",
                state,
                f"The {drive.screw} swings {show_uncertain(bend.value, bend.half_width, system)} at its "
                "middle: " + _said(state, "straight enough, the nut follows it.", "bent."),
                "turned under a dial",
                _said(state, "Leave it.", "Straighten on a press, a little at a time, high spot up."),
                bend.value / 3,
            )
        )
    if drive.half_nuts:
        found += _half_nuts(drive, now, system)
    return found


def _said(state: State, sound: str, beyond: str) -> str:
    """What is said of a figure that stands so to its limit."""
    if state is State.UNKNOWN:
        return "Too close to its limit for what was read: read it once more."
    return beyond if state is State.BEYOND else sound


def _half_nuts(drive: ScrewDrive, now: Estimate, system: UnitSystem) -> list[Finding]:
    found = []
    off, slack, depth = now.source("standoff"), now.source("dial_slack"), drive.thread.basic_height_mm
    if off.sd < 0.1 * depth:
        state = judge(off, (1 - LEAST_ENGAGED) * depth)
        found.append(
            Finding(
                "engaged",
                state,
                f"Half nuts engage {max(0.0, 1 - off.value / depth):.0%} of the thread's depth, "
                f"{show_size(max(0.0, depth - off.value), system)} of {show_size(depth, system)}, "
                f"± {show_small(off.half_width, system)}.",
                "depth rod on both halves",
                _said(
                    state, "They may stay.", "They jump out under load: lever and cam first, then new halves."
                ),
                0.4 if state is State.BEYOND else 0.02,
            )
        )
    if slack.sd < 0.06:
        state = judge(slack, DIAL_SHARE * drive.thread.pitch_mm)
        mistaken = ": a line may be taken for its neighbour" if state is State.BEYOND else ""
        found.append(
            Finding(
                "dial_slack",
                State.NEAR if state is State.BEYOND else state,
                f"The thread dial has {show_uncertain(slack.value, slack.half_width, system)} of "
                f"slack{mistaken}.",
                "dial rocked",
                _said(state, "Leave it.", "Bush its spindle; close the half nuts on the line rising."),
                slack.value / 6,
            )
        )
    drop = now.source("dial_drop")
    if drop.sd < 0.06:
        state = judge(drop, DROP_MM)
        much = show_uncertain(drop.value, drop.half_width, system)
        untrusted = ": its lines cannot be trusted" if state is State.BEYOND else ""
        found.append(
            Finding(
                "dial_drop",
                state,
                f"The thread dial drops {much} into the keyway every turn{untrusted}.",
                "screw turned once",
                _said(
                    state, "Leave it.", "A wider gear, or a strip let into the keyway where the gear runs."
                ),
                drop.value / 4,
            )
        )
    return found


def _whole(
    drive: ScrewDrive,
    split: LashSplit,
    m: Measure,
    tangled: list[Tangle],
    system: UnitSystem,
    readings: int,
) -> Finding:
    worst, whole = split.worst, split.whole
    assert whole is not None
    total, limit = show_small(whole.value.value, system), show_small(m.limit.limit_mm, system)
    told = not tangled and not whole.unread and set(split.told) >= {"nut", "screw", "float"}
    state = m.state
    if whole.unread:
        sentence = _in_part(drive, whole, m, system)
    elif told:
        sentence = f"{_told_apart(drive, split, system)} {_loses(drive, total)}{_against(state, limit)}"
    else:
        size = show_uncertain(whole.value.value, whole.value.half_width, system)
        sentence = f"The {drive.what} loses {size}, at station {worst.station}{_against(state, limit)}"
    unread = unread_words(m.unread)
    if state is State.UNKNOWN:
        sentence += f" Whether it stays inside {limit} cannot be said yet."
    elif state is State.BEYOND and whole.value.low > drive.thread.pitch_mm:
        sentence += " That is more than a pitch: the nut's thread is gone, it jumps."
    move = {
        State.WITHIN: "Leave it, and write down why.",
        State.NEAR: "It will pass the limit within a year or so of work; take out the cheapest part now.",
        State.BEYOND: "Compare what each repair would leave before buying anything."
        if told
        else "Take the set-up that tells them apart before choosing a repair.",
        State.UNKNOWN: "Read it first.",
    }[state]
    places = f"{readings} place{'s' if readings != 1 else ''} read"
    rest = f"{places}, ± {show_small(whole.value.half_width, system)} at station {worst.station}"
    ways = tuple(
        dict.fromkeys(("Read it", set_up) for _, set_up in m.unread)
    )[:1]  # fmt: skip
    words = f"{move} {unread}{_between(split, m.limit.limit_mm)}".strip()
    return Finding("lash", state, sentence, rest, words, whole.value.value + 10, ways)


def stripped_finding(drive: ScrewDrive) -> Finding:
    """A nut that was seen to run through, before anything that is read of it."""
    return Finding(
        "stripped",
        State.BEYOND,
        f"The {drive.nut_words} {'run through: their' if drive.half_nuts else 'runs through: its'} thread is "
        "gone.",
        "as stated",
        "A new one in any case. What is read as lash says nothing of it now; whether the screw goes with it "
        "is told by its thread's size, worn and unworn.",
        STRIPPED_WEIGHT_MM,
        (("Measure the thread", "thread_size"),),
    )


STRIPPED_WEIGHT_MM = 900.0  # before every figure


def _in_part(drive: ScrewDrive, whole: Fixed, m: Measure, system: UnitSystem) -> str:
    """What is read of a lash that is not read as a whole."""
    names = [part_name(key) for key in whole.keys]
    named = names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
    size = show_uncertain(m.value.value, m.value.half_width, system)
    limit = show_small(m.limit.limit_mm, system)
    alone = " alone" if m.state is State.BEYOND else ""
    verb = "is" if len(names) == 1 else "together are"
    return f"{large(named)}{alone} {verb} {size}, limit of the whole {limit}."


def _told_apart(drive: ScrewDrive, split: LashSplit, system: UnitSystem) -> str:
    near, far = drive.end_names
    at = split.screw_station
    where = {1: f"at the {near}", 3: "at the middle", 5: f"at the {far}"}.get(at, f"at station {at}")
    nut = "the half nuts have" if drive.half_nuts else "the nut has"
    return (
        f"The screw is worn {show_small(split.told['screw'].value, system)} {where}; "
        f"{nut} {show_small(split.told['nut'].value, system, unit=False)}; end float "
        f"{show_small(split.told['float'].value, system, unit=False)}."
    )


def _loses(drive: ScrewDrive, total: str) -> str:
    return (
        f"The dial will lie by up to {total}"
        if drive.has_dial
        else f"The {drive.what} can shift by up to {total}"
    )


def _against(state: State, limit: str) -> str:
    return (
        f", inside the limit of {limit}."
        if state is State.WITHIN
        else "."
        if state is State.UNKNOWN
        else f", limit {limit}."
    )


SHARP_SHARE = 0.4  # of the wear at its worst, by which it may stand above both neighbours


def _between(split: LashSplit, limit_mm: float) -> str:
    """Wear sharper than the stations are apart: where one more reading belongs."""
    worn = [s.wear.value if s.is_read else None for s in split.stations]
    at = split.most_worn.station - 1
    here = worn[at]
    sides = [i for i in (at - 1, at + 1) if 0 <= i < len(worn) and worn[i] is not None]
    if here is None or not sides or here < limit_mm / 3:
        return ""
    drop = min(here - (worn[i] or 0.0) for i in sides)
    if drop < SHARP_SHARE * here:
        return ""
    side = max(sides, key=lambda i: worn[i] or 0.0)
    low, high = sorted((at + 1, side + 1))
    return f" It may be deeper between stations {low} and {high}: one reading there."


_MOVES = {
    "screw": "only a new screw takes this out; a new nut leaves it in the middle",
    "nut": "a new or closed-up nut takes this out",
    "float": "a thrust bearing or an adjustable collar takes this out, for little",
    "key": "a fitted key takes this out",
}


def _name(drive: ScrewDrive, key: str, station: int) -> str:
    name = (drive.nut_words if key == "nut" else part_name(key)).capitalize()
    return f"{name} at station {station}" if key == "screw" else name


def _parts(drive: ScrewDrive, split: LashSplit, limit: RatedLimit, system: UnitSystem) -> list[Finding]:
    result = []
    whole = split.whole
    for key, quantity in split.told.items():
        name = _name(drive, key, split.screw_station)
        state = judge(quantity, limit.limit_mm)
        share = (
            f", {quantity.value / whole.value.value:.0%} of the lash"
            if whole is not None and not whole.unread and whole.value.value > INDICATOR_STEP_MM
            else ""
        )
        if quantity.low <= INDICATOR_STEP_MM and quantity.value < KNOWN_SHARE * 2 * limit.limit_mm:
            sentence = f"{name}: not shown; less than {show_small(quantity.high, system)}."
            state = State.WITHIN
        else:
            sentence = f"{name}: {show_uncertain(quantity.value, quantity.half_width, system)}{share}."
        move = _MOVES[key]
        result.append(
            Finding(key, state, sentence, "all readings standing", f"{large(move)}.", quantity.value)
        )
    return result


def _not_read(
    drive: ScrewDrive,
    now: Estimate,
    alone: ReadingsOnly,
    split: LashSplit,
    tangled: list[Tangle],
    system: UnitSystem,
) -> list[Finding]:
    """Parts of the lash that nothing tells of."""
    summed = {key for tangle in tangled for key in tangle.keys}
    result = []
    for key, combination in split_parts(split, dial=drive.has_dial).items():
        if key in split.told or key in summed:
            continue
        name = _name(drive, key, split.screw_station)
        up_to = show_small(now.combination(combination).high, system)
        touched = is_touched(alone, combination)
        found = alone.combination(combination)
        sentence = (
            f"{name}: {show_uncertain(found.value, found.half_width, system)}, not told apart yet."
            if touched
            else f"{name}: not read; up to {up_to} is usual."
        )
        result.append(
            Finding(
                f"unread.{key}",
                State.UNKNOWN,
                sentence,
                "no reading",
                "It counts for nothing until it is read.",
                0.0,
                (("Read it", READ_BY[key]),),
            )
        )
    return result


_SETTLES = {
    frozenset({"nut", "float"}): "End float by itself settles it.",
    frozenset({"nut", "screw"}): "The thread over wires settles it.",
    frozenset({"float", "screw"}): "End float by itself settles it.",
}


def _tangle(tangle: Tangle, system: UnitSystem) -> Finding:
    names = [part_name(key) for key in tangle.keys]
    together = ", ".join(names[:-1]) + f" and {names[-1]}"
    total = show_uncertain(tangle.total.value, tangle.total.half_width, system)
    return Finding(
        "tangle." + ".".join(tangle.keys),
        State.UNKNOWN,
        f"{large(together)} cannot be told apart yet: together {total}.",
        "what the readings so far fix is only their sum",
        _SETTLES.get(frozenset(tangle.keys), "The next set-up at the right settles most of it."),
        tangle.total.value,
    )


def suggestion_reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking, in a few words. Standard deviations in mm."""
    return suggestion_words(part_name(most), sd_before, sd_after, system, little=0.9)
