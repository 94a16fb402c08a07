"""What is wrong with a spindle, in sentences."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from trebb.core.condition import Z95, Estimate, tangles
from trebb.core.families.spindle.findings import (
    CAUSE_NAMES,
    INDICATOR_MM,
    SLACK_PARTS,
    SpindleSplit,
    at_work,
    doubt_scale,
)
from trebb.core.families.spindle.journals import SeatState
from trebb.core.families.spindle.subject import LEAN_MM, Spindle
from trebb.core.families.spindle.warm_run import USUAL_RISE_C
from trebb.core.findings.base import Finding, Measure, size_words, unread_words, ways_to
from trebb.core.machine import RatedLimit, State
from trebb.core.runout import WarmRun
from trebb.core.survey.contact import WANTED_SHARE, Contact
from trebb.core.units import UnitSystem, show_small


def spindle_findings(
    spindle: Spindle,
    now: Estimate,
    split: SpindleSplit,
    limits: Mapping[str, RatedLimit],
    system: UnitSystem,
    *,
    seats: list[SeatState],
    contact: Contact | None,
    warm: WarmRun | None,
    noise: str = "",
    odd_seating: int = 0,
) -> list[Finding]:
    """Verdicts on one spindle, the heaviest first."""
    found: list[Finding] = []
    told = split.worst.key if split.measures else ""
    if split.measures and (split.trusts_seat or told != "seat"):
        found.append(_whole(spindle, split, system, now.readings))
    if not split.trusts_seat:
        found.append(_seat(split, limits["seat_repeat"], system, contact))
    if odd_seating:
        found.append(_odd_seating(odd_seating, split))
    found += [
        _work(spindle, m, split, system) if m.key == "work" else _measure(spindle, m, split, system)
        for m in split.measures
        if m.key != told and not (m.key == "seat" and not split.trusts_seat)
    ]
    if split.trusts_seat and split.measures:
        tangle = _tangle(spindle, now, limits[f"{spindle.kind}_work"], split, system)
        if tangle:
            found.append(tangle)
    found += [_journal(s, system) for s in seats]
    _add_contact(contact, found)
    if warm is not None:
        found.append(_warm(warm))
    if not found:
        found.append(
            Finding(
                "begun",
                State.UNKNOWN,
                "Too little is read yet to judge the spindle.",
                f"{now.readings} readings' worth",
                "Go on with this set-up, or the one worth most a minute.",
                0.0,
            )
        )
    _add_noise(noise, found)
    return sorted(found, key=lambda f: -f.weight_mm)


def _add_noise(noise: str, found: list[Finding]) -> None:
    if noise in ("growls", "knocks"):
        found.append(
            Finding(
                "noise",
                State.BEYOND,
                f"It {noise}.",
                "graded by ear on the warm run",
                "Bearings that growl are pitted; adjusting will not mend them.",
                0.008,
            )
        )


def _add_contact(contact: Contact | None, found: list[Finding]) -> None:
    if contact is not None and contact.share > 0:
        state = (
            State.WITHIN
            if contact.share >= WANTED_SHARE
            else State.NEAR
            if contact.share >= 0.8 * WANTED_SHARE
            else State.BEYOND
        )
        found.append(
            Finding(
                "contact",
                state,
                f"The taper bears over {contact.share:.0%}: {contact.pattern}.",
                f"blue: mouth {contact.mouth:.0%}, back {contact.back:.0%}; {WANTED_SHARE:.0%} wanted",
                contact.meaning,
                0.01,
            )
        )


def _whole(spindle: Spindle, split: SpindleSplit, system: UnitSystem, readings: int) -> Finding:
    worst = split.worst
    if worst.key == "work":
        found = _work(spindle, worst, split, system)
    else:
        found = _measure(spindle, worst, split, system, rests=f"{readings} readings' worth")
    return replace(found, key="whole", weight_mm=worst.value.value + 10)


def _work(spindle: Spindle, work: Measure, split: SpindleSplit, system: UnitSystem) -> Finding:
    far = (
        f"{spindle.work_mm / 25.4:.0f} in out"
        if system is UnitSystem.INCH
        else f"{spindle.work_mm:.0f} mm out"
    )
    limit = show_small(work.limit.limit_mm, system)
    size = show_small(work.value.value, system)
    if work.state is State.UNKNOWN:
        sentence = (
            f"As far as it is read the spindle is out by {size} {far}. Whether it is inside {limit} cannot "
            f"be said yet.{' ' + cause_words(split) if split.named else ''}"
        )
    else:
        against = "limit" if work.state is not State.WITHIN else "inside the limit of"
        least = "at least " if work.unread else ""
        sentence = f"The spindle is out by {least}{size} {far}, {against} {limit}. {cause_words(split)}"
    rest = (
        f"± {show_small(work.value.half_width, system)} at the work; what is read of bearings, taper, seat "
        "and slack; the bar's own taken out"
    )
    move = (
        _move_of(work)
        if split.named or work.state is State.UNKNOWN
        else "The set-up at the right settles most a minute, where one is left."
    )
    ways = ways_to(work.unread)
    return Finding(
        "work",
        work.state,
        sentence,
        rest,
        f"{move} {unread_words(work.unread)}".strip(),
        work.value.value,
        ways,
    )


def _odd_seating(number: int, split: SpindleSplit) -> Finding:
    """One seating that the others leave alone."""
    return Finding(
        "odd_seating",
        State.UNKNOWN,
        f"Seating {number} is unlike all the others, which agree: dirt, a chip, a knock?",
        f"{split.scatter.seatings + 1} seatings",
        f"It is left out of the figures. Wipe taper and bar, seat it so once more; strike seating {number} "
        "out or keep it.",
        0.5,
        (("Look at it", "test_bar"),),
    )


_MOVE = {
    State.WITHIN: "Leave it, and write down why.",
    State.NEAR: "Near its limit: clean, deburr and look again in a month.",
    State.BEYOND: "Compare what each repair would leave before anything is taken apart.",
    State.UNKNOWN: "Read what is missing first.",
}


def _move_of(m: Measure) -> str:
    """What to do next by how a figure stands; where all of it is read and ± still tells neither side, it is
    read again.
    """
    if m.state is State.UNKNOWN and not m.unread:
        return "With that ± it may be on either side of its limit: read it again, twice at each place."
    return _MOVE[m.state]


def cause_words(split: SpindleSplit) -> str:
    """Which one is lying, in a sentence."""
    if not split.named:
        return "Which part of it lies cannot be told yet."
    if split.named == ("bar",):
        return "Most of what was read is the test bar's own, not the machine's."
    names = [
        f"the {SLACK_PARTS[split.slack_part] if k == 'slack' and split.slack_part else CAUSE_NAMES[k]}"
        for k in split.named
    ]
    if split.rivals:
        verb = "are" if len(names) > 1 else "is"
        return f"Sure of it {verb} {' and '.join(names)}; the {CAUSE_NAMES[split.rivals[0]]} may be as much."
    if len(names) == 1:
        return f"Most of it is {names[0]}."
    return f"{names[0].capitalize()} and {' and '.join(names[1:])} are about alike in it."


def _seat(split: SpindleSplit, limit: RatedLimit, system: UnitSystem, contact: Contact | None) -> Finding:
    moved = max(split.scatter.between_mm, 0.0)
    words = (
        f"The seat does not repeat: {show_small(moved, system)} between seatings, limit "
        f"{show_small(limit.limit_mm, system)}."
    )
    ways = (
        "Each seating moves the bar further than bearings and indicator explain. What was taken off that "
        "taper is set aside: it would be measured against a moving reference."
    )
    if contact is not None and contact.share > 0:
        ways = (
            f"What was taken off that taper is set aside. The blue says: {contact.pattern}. {contact.meaning}"
        )
    on = (
        ("Blue the taper and find out why", "contact"),
        ("Go round it: the bore needs no bar", "taper_bore"),
    )
    return Finding(
        "seat",
        State.BEYOND,
        words,
        f"{split.scatter.seatings} seatings; bearings and indicator explain far less",
        ways,
        moved + 20,
        on,
    )


def _measure(
    spindle: Spindle,
    m: Measure,
    split: SpindleSplit,
    system: UnitSystem,
    *,
    rests: str = "all readings standing",
) -> Finding:
    shown = m.value.low > INDICATOR_MM / 2 or m.value.value > INDICATOR_MM
    if not shown and m.value.high <= m.limit.limit_mm:
        return Finding(
            m.key,
            State.WITHIN,
            f"{m.label}: not shown; less than {show_small(m.value.high, system)}.",
            "smaller than the instrument can show",
            "It repeats well enough to measure by." if m.key == "seat" else "Nothing to do.",
            0.0,
        )
    move = {
        "slack": "Set the preload before buying bearings; if it comes back, they are worn or loose on their "
        "seats.",
        "float": "Take it up with the preload.",
        "chuck": "True the jaws or set the backplate; the spindle is not to blame.",
        "coupler": "A sleeve over worn splines, or new dogs.",
        "coupler_side": "The spindle's top swings in the drive: a sleeve guides it again.",
        "grip": "The pin moves more than the quill: jaws, their scroll or the chuck's own taper.",
        "seat": "It repeats well enough to measure by.",
    }[m.key]
    if m.key == "slack" and split.slack_part not in ("", "slack"):
        move = (
            "Neither preload nor new bearings take it out: most of it is the "
            f"{SLACK_PARTS[split.slack_part]}."
        )
    elif m.key == "slack" and spindle.lever > 1:
        move = (
            "The spindle swings about its one bearing: a second one takes the lever away; set the "
            "preload in any case."
        )
    if m.key == "seat" and m.state is not State.WITHIN:
        move = (
            "Not shown to be over its limit, so the bar is trusted as yet: seat it twice more and read "
            "it again."
        )
    if m.state is State.WITHIN and m.key != "seat":
        move = "Leave it."
    if m.state is State.UNKNOWN and m.key != "seat":
        move = _move_of(m)
    words = f"{m.label}: {size_words(m, system)}."
    return Finding(
        m.key,
        m.state,
        words,
        rests,
        f"{move} {unread_words(m.unread)}".strip(),
        m.value.value * (1 if m.state is not State.WITHIN else 0.1),
    )


def _tangle(
    spindle: Spindle, now: Estimate, limit: RatedLimit, split: SpindleSplit, system: UnitSystem
) -> Finding | None:
    parts = {
        key: at_work(name, "x", spindle.work_mm / LEAN_MM)
        for key, name in (("bearings", "bearing"), ("taper", "taper"), ("bar", "bar"))
    }
    found = tangles(now, parts, doubt_scale(limit.limit_mm) * 2, sum_doubt=math.inf)
    if not found:
        return None
    names = [CAUSE_NAMES[k] for k in found[0].keys]
    settle = (
        "Turn the bar half round in the taper and read again."
        if "bar" in found[0].keys
        else "The nose by itself settles it."
    )
    return Finding(
        "tangle",
        State.UNKNOWN,
        f"{', '.join(names[:-1]).capitalize()} and {names[-1]} cannot be told apart yet.",
        "the readings so far fix only their sum",
        settle,
        0.02,
    )


def _journal(seat: SeatState, system: UnitSystem) -> Finding:
    loose = seat.loose_mm - seat.half_mm > 0
    tight = seat.loose_mm + seat.half_mm < 0
    move = (
        "New bearings alone will not cure it: build up and grind, or sleeve it."
        if loose
        else "It will hold a bearing."
        if tight
        else "Measure it again, or try a bearing cold."
    )
    state = State.BEYOND if loose else State.WITHIN if tight else State.NEAR
    return Finding(
        seat.seat,
        state,
        seat.words(system),
        f"± {show_small(seat.half_mm, system)}, the bearing's own tolerance in it",
        move,
        max(seat.loose_mm, 0.0) * 1.5,
    )


def _warm(warm: WarmRun) -> Finding:
    over = warm.rise_c - USUAL_RISE_C
    state = State.BEYOND if over > 1.5 * warm.sd_c else State.NEAR if over > 0 else State.WITHIN
    words = f"It will settle {warm.rise_c:.0f} ± {Z95 * warm.sd_c:.0f} °C above the room."
    move = {
        State.BEYOND: "Ease the preload, or take grease out, before it burns.",
        State.NEAR: "Run on to the hour before trusting it.",
        State.WITHIN: "Usual.",
    }[state]
    return Finding(
        "warm",
        state,
        words,
        f"from the first minutes, time constant {warm.tau_min:.0f} min; up to {USUAL_RISE_C:.0f} °C is usual",
        move,
        0.004,
    )
