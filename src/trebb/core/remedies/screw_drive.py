"""Remedies for the lash of a slide."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import partial

from trebb.core.condition import Change, Estimate, Quantity, Shift
from trebb.core.findings.lash_split import LashSplit, lash_combination, split_lash
from trebb.core.machine import STATIONS, ScrewDrive, wear_key
from trebb.core.machine.screw_drive import uneven_key
from trebb.core.remedies.base import Remedy
from trebb.core.safety import LAPPING, PRESS
from trebb.core.threads import thread_limits
from trebb.core.units import THOU_MM, UnitSystem, show_small

# What a fitter leaves when setting up an adjustable thrust: half a thou, and how well it repeats.
THRUST_LEFT = Shift(0.5 * THOU_MM, 0.2 * THOU_MM)
THRUST_TURN = Shift(0.0, 0.1 * THOU_MM)
# A new or closed nut has no worn corner to tip on.
NO_TIP = Shift(0.1 * THOU_MM, 0.1 * THOU_MM)
EVEN = Shift(0.0, 0.05 * THOU_MM)
# A nut cut to its own screw, tried on as it is cut.
FITTED_PLAY = Shift(1.5 * THOU_MM, 0.4 * THOU_MM)
# A split nut closed until it drags, then eased.
CLOSED_PLAY = Shift(1.0 * THOU_MM, 0.3 * THOU_MM)
# Lapping a nut along its screw: how much of the screw's high ends goes before the (softer) nut has opened
# enough.
LAPPED_SHARE = 0.35
# A lathe's own lead screw gives its error to what it cuts: 15 µm in 300 mm is a fair one.
NEW_LEAD_SHARE = 5e-5
# A screw cut in one chucking varies this little along its length, as axial play.
NEW_SCREW_WEAR = Shift(0.0, 0.15 * THOU_MM)


@dataclass(frozen=True)
class LashPrediction:
    """What a remedy would leave along the travel, and where it would bind.

    `lash` holds one Quantity a station, mm; `binds_at` the stations where the
    nut would have less than no clearance.
    """

    after: Estimate
    lash: tuple[Quantity, ...]
    binds_at: tuple[int, ...]

    @property
    def worst(self) -> Quantity:
        """The largest lash left."""
        return max(self.lash, key=lambda q: q.value)


def lash_left(drive: ScrewDrive, after: Estimate) -> LashPrediction:
    """Lash along the travel in a condition."""
    lash = tuple(after.combination(lash_combination(drive, k)) for k in range(1, STATIONS + 1))
    free = [after.combination({"nut": 1.0, **drive.wear_felt(k)}) for k in range(1, STATIONS + 1)]
    return LashPrediction(after, lash, tuple(k + 1 for k, q in enumerate(free) if q.value < 0))


def no_change(drive: ScrewDrive, now: Estimate) -> Change:
    """Leave everything."""
    return Change()


def thrust_change(drive: ScrewDrive, now: Estimate) -> Change:
    """End float taken out by an adjustable thrust."""
    return Change({"float": THRUST_LEFT, "float.turn": THRUST_TURN})


def bought_nut_change(drive: ScrewDrive, now: Estimate) -> Change:
    """A nut bought to class on the old screw.

    Its pitch diameter lies somewhere in the class's band; its play on the
    unworn thread is (E_nut − E_unworn)·tan α. Where the screw was never
    measured, that doubt stays in the prediction.
    """
    limits = thread_limits(drive.thread)
    slope = math.tan(drive.thread.form.half_angle)
    if slope == 0:
        play = limits.axial_play_mm
        return Change({"nut": Shift(play.middle_mm, play.width_mm / math.sqrt(12)), "tip": NO_TIP})
    band = limits.nut_pitch
    return Change(
        {
            "nut": Shift(band.middle_mm * slope, band.width_mm * slope / math.sqrt(12), {"unworn": -slope}),
            "tip": NO_TIP,
        }
    )


def made_nut_change(drive: ScrewDrive, now: Estimate) -> Change:
    """A nut cut to fit the unworn thread of the old screw."""
    return Change({"nut": FITTED_PLAY, "tip": NO_TIP})


def split_nut_change(drive: ScrewDrive, now: Estimate) -> Change:
    """A split nut closed where the screw in the travel is least worn: it may not bind there."""
    least = split_lash(drive, now).least_worn.station
    return Change({"nut": Shift(CLOSED_PLAY.amount, CLOSED_PLAY.sd, {wear_key(least): -1.0}), "tip": NO_TIP})


def lapped_nut_change(drive: ScrewDrive, now: Estimate) -> Change:
    """A nut cut to the worn middle, then lapped with the screw until it passes from end to end.

    Lapping takes the screw's high ends down toward its most worn place by
    `LAPPED_SHARE`, and opens the nut for what is left of them: the lash evens
    out along the travel, and nowhere falls below what passes the ends.
    """
    split = split_lash(drive, now)
    worn, least = wear_key(split.most_worn.station), wear_key(split.least_worn.station)
    ends = {
        wear_key(k): Shift(0.0, 0.2 * THOU_MM, {wear_key(k): 1 - LAPPED_SHARE, worn: LAPPED_SHARE})
        for k in range(1, STATIONS + 1)
        if wear_key(k) != worn
    }
    nut = Shift(FITTED_PLAY.amount, FITTED_PLAY.sd, {least: -(1 - LAPPED_SHARE), worn: -LAPPED_SHARE})
    return Change({"nut": nut, "tip": NO_TIP, **ends})


def two_piece_change(drive: ScrewDrive, now: Estimate) -> Change:
    """Two half-length nuts held apart by a spring: no lash is felt anywhere while the cut pushes less than
    the spring.
    """
    wear = {
        key: Shift(0.0, 0.1 * THOU_MM) for k in range(1, STATIONS + 1) for key in (wear_key(k), uneven_key(k))
    }
    return Change({"nut": Shift(0.3 * THOU_MM, 0.2 * THOU_MM), "tip": NO_TIP, **wear})


def half_nuts_change(drive: ScrewDrive, now: Estimate) -> Change:
    """New half nuts, bored as a pair to the unworn thread of the old screw, closing to their full depth."""
    return Change(
        {
            "nut": FITTED_PLAY,
            "tip": NO_TIP,
            "standoff": Shift(0.04 * drive.thread.basic_height_mm, 0.02 * drive.thread.basic_height_mm),
        }
    )


def end_for_end_change(drive: ScrewDrive, now: Estimate) -> Change:
    """The lead screw turned end for end: the wear goes to the other end of the bed."""
    return Change(
        {
            wear_key(k): Shift(0.0, 0.05 * THOU_MM, {wear_key(STATIONS + 1 - k): 1.0})
            for k in range(1, STATIONS + 1)
        }
    )


def straighten_change(drive: ScrewDrive, now: Estimate) -> Change:
    """Pressed straight, a little at a time."""
    return Change({"bend": Shift(0.05, 0.02)})


def new_screw_shifts(drive: ScrewDrive) -> dict[str, Shift]:
    """What a new screw is in itself: even along its length, straight, its lead as good as the lathe that cut
    it.
    """
    lead = drive.thread.lead_mm
    wear = {wear_key(k): NEW_SCREW_WEAR for k in range(1, STATIONS + 1)}
    even = {uneven_key(k): EVEN for k in range(1, STATIONS + 1)}
    return {
        **wear,
        **even,
        "lead": Shift(lead, NEW_LEAD_SHARE * lead),
        "drunk.c": Shift(0.0, 0.002),
        "drunk.s": Shift(0.0, 0.002),
        "bend": Shift(0.03, 0.015),
    }


def new_pair_change(drive: ScrewDrive, now: Estimate) -> Change:
    """Screw and nut made as a pair."""
    key = {"key": Shift(0.3 * THOU_MM, 0.2 * THOU_MM)} if drive.has_dial else {}
    halves = half_nuts_change(drive, now).shifts if drive.half_nuts else {}
    return Change({**halves, "nut": FITTED_PLAY, "tip": NO_TIP, **key, **new_screw_shifts(drive)})


def pair_and_thrust_change(drive: ScrewDrive, now: Estimate) -> Change:
    """Pair and thrust together."""
    return new_pair_change(drive, now).then(thrust_change(drive, now))


def made_as(change: Change, play_mm: float | None) -> Change:
    """The chosen change, corrected to what was really cut.

    `play_mm` is the play of the new nut on its screw as measured on the bench;
    None where it was not measured, and the change stands as planned.
    """
    if play_mm is None or "nut" not in change.shifts:
        return change
    # A nut closed or cut on a worn place was tried there: what it rides on elsewhere stays part of the
    # change.
    return change.then(Change({"nut": Shift(max(play_mm, 0.0), 0.15 * THOU_MM, change.shifts["nut"].of)}))


def _ratio_words(before: float, after: float) -> str:
    share = after / before if before > 0 else 1.0
    if share > 0.85:
        return "hardly changed"
    if share > 0.4:
        return "about halved" if share < 0.6 else "not even halved"
    return "taken down to a third" if share > 0.25 else "nearly gone"


def _risk_leave(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    if drive.half_nuts:
        return (
            f"The carriage can shift by {show_small(now.worst.total.value, system)} when a thread is "
            "picked up; it does no harm while the cut pushes one way."
        )
    if not drive.has_dial:
        return (
            f"The {drive.what} goes on dropping by {show_small(now.worst.total.value, system)} when it "
            "is let go, more each year."
        )
    return (
        f"The dial goes on lying by {show_small(now.worst.total.value, system)}, more each year; cutting "
        "forces can snatch the slide."
    )


def _risk_thrust(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    left = show_small(then.worst.value, system)
    return (
        f"Lash {_ratio_words(now.worst.total.value, then.worst.value)}: {left} stay. Set too tight, the "
        "thrust heats and wears its faces."
    )


def _risk_bought(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    words = _ratio_words(now.worst.total.value, then.worst.value)
    bind = f" It may bind at station {_list(then.binds_at)}." if then.binds_at else ""
    return (
        f"A nut to class has play of its own; the wear in the middle stays. Lash {words}: "
        f"{show_small(then.worst.value, system)} left.{bind}"
    )


def _risk_made(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    wear = now.most_worn.wear.value - now.least_worn.wear.value
    return (
        f"Fits the unworn ends and leaves {show_small(now.most_worn.wear.value, system)} of screw wear. "
        f"Cut to fit the middle instead, it would bind at the ends by {show_small(wear, system)}."
    )


def _risk_split(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    return (
        f"Closed at station {now.least_worn.station}, its least worn place, or it binds there; "
        f"{show_small(then.worst.value, system)} stay at the worst. It must be set again each year."
    )


def _risk_pair(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    keep = (
        f" The end float of {show_small(now.float_.value, system)} stays."
        if now.float_.value > THOU_MM
        else ""
    )
    return (
        f"A thread cut undersize costs the blank: cut two.{keep} The old screw must stay in until the "
        "new one is cut."
    )


def _risk_all(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    return (
        "Most work of all; one blank spoiled costs an evening: cut two. The old screw must stay in until "
        "the new one is cut."
    )


def _list(stations: tuple[int, ...]) -> str:
    return ", ".join(map(str, stations))


def _risk_lapped(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    even = max(q.value for q in then.lash) - min(q.value for q in then.lash)
    return (
        f"Even to {show_small(even, system)} along the travel, {show_small(then.worst.value, system)} at "
        "the worst; the screw's good ends are spent on it. Wash every grain of compound out, or it laps on."
    )


def _risk_two_piece(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    return (
        "It drags as hard as its spring pushes. A cut that pushes harder moves the slide by all that was "
        "there before: not for climb milling without a locked slide."
    )


def _risk_halves(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    return (
        f"Where the screw is worn {show_small(now.most_worn.wear.value, system)} stay; bore them as one "
        "piece and split last, or they never close true."
    )


def _risk_end(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    return (
        f"The worst stays {show_small(then.worst.value, system)}, but where it is seldom used. Both ends "
        "must be alike, or turned and sleeved to be."
    )


def _risk_straighten(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    return (
        "A hard or notched screw snaps: a little at a time, from the middle of the bow, read after each. "
        "Lash is not changed."
    )


def _risk_new_thread(drive: ScrewDrive, now: LashSplit, then: LashPrediction, system: UnitSystem) -> str:
    return (
        "The joint carries the whole feed: measure the bore after reaming, and look for an earlier "
        "sleeve before drilling. The dial end stays as it was, with its wear."
    )


def _none_sold(drive: ScrewDrive) -> str:
    return (
        f"No nut is sold as {drive.thread.designation}: the pitch is of one system, the diameter of the "
        "other."
        if drive.thread.is_mixed
        else ""
    )


def _nut_stays_on(drive: ScrewDrive) -> bool:
    return not drive.half_nuts


def _has_halves(drive: ScrewDrive) -> bool:
    return drive.half_nuts


def _keeps_its_dial_end(drive: ScrewDrive) -> bool:
    return drive.has_dial


_screw = partial(Remedy, family="screw_drive", outcome=lash_left)

SCREW_REMEDIES: tuple[Remedy, ...] = (
    _screw(
        "leave",
        "Leave it",
        "Write down why; learn to take up the lash one way.",
        no_change,
        0,
        0,
        0,
        "Nothing.",
        _risk_leave,
    ),
    _screw(
        "thrust",
        "Take out the end float",
        "Thrust bearing or adjustable collar with a locked nut.",
        thrust_change,
        18,
        3,
        4,
        "A pair of needle thrust washers or a collar; a facing cut on the bracket.",
        _risk_thrust,
        ("thrust_collar",),
    ),
    _screw(
        "end_for_end",
        "Turn the screw end for end",
        "The worn length goes to the tailstock's end.",
        end_for_end_change,
        0,
        6,
        0,
        "Both ends alike, or a lathe long enough to make them so.",
        _risk_end,
        applies=_has_halves,
    ),
    _screw(
        "straighten",
        "Straighten the screw",
        "On a press, between vee blocks.",
        straighten_change,
        0,
        3,
        0,
        "A press, vee blocks, a dial.",
        _risk_straighten,
        applies=_has_halves,
        caution=PRESS,
    ),
    _screw(
        "half_nuts",
        "New half nuts",
        "Bored and cut as one piece to the old screw, split last.",
        half_nuts_change,
        30,
        9,
        3,
        "Bronze or iron blank for both halves and a spare; internal threading tool that enters the bore.",
        _risk_halves,
        ("nut",),
        applies=_has_halves,
    ),
    _screw(
        "bought_nut",
        "New nut, bought to class",
        "On the old screw.",
        bought_nut_change,
        35,
        2,
        7,
        "A nut of this pitch, diameter, hand and class: all four.",
        _risk_bought,
        applies=_nut_stays_on,
        hinder=_none_sold,
    ),
    _screw(
        "made_nut",
        "New nut, cut to the old screw",
        "Cut to the unworn thread of this screw.",
        made_nut_change,
        22,
        6,
        3,
        "Bronze blank; internal threading tool that enters the minor bore.",
        _risk_made,
        ("nut",),
        applies=_nut_stays_on,
    ),
    _screw(
        "lapped_nut",
        "Nut to the worn middle, lapped",
        "Cut tight, then lapped with the screw until it passes the ends.",
        lapped_nut_change,
        22,
        9,
        3,
        "Bronze blank, lapping compound, much washing.",
        _risk_lapped,
        ("nut",),
        applies=_nut_stays_on,
        caution=LAPPING,
    ),
    _screw(
        "split_nut",
        "Longer, adjustable split nut",
        "On the old screw, closed on its least worn part.",
        split_nut_change,
        30,
        8,
        3,
        "Bronze blank, room for a longer nut, slitting saw, adjusting screw.",
        _risk_split,
        ("nut",),
        applies=_nut_stays_on,
    ),
    _screw(
        "two_piece",
        "Two nuts with a spring between",
        "Each bears on its own flank; the spring takes up what is worn.",
        two_piece_change,
        34,
        9,
        3,
        "Bronze blank for two short nuts, a stiff spring or disc springs, a key so that they do not turn.",
        _risk_two_piece,
        ("nut",),
        applies=_nut_stays_on,
        hides=True,
    ),
    _screw(
        "new_thread",
        "New thread in the old dial end",
        "The old end bored, a new threaded length pressed, pinned or bonded in, and a nut to it.",
        new_pair_change,
        40,
        15,
        3,
        "Bar or bought threaded bar, reamer, press or retaining compound, taper pin and reamer.",
        _risk_new_thread,
        ("screw", "nut"),
        applies=_keeps_its_dial_end,
        caution=PRESS,
    ),
    _screw(
        "new_pair",
        "New screw and nut",
        "Made as a pair: the nut cut to this screw.",
        new_pair_change,
        48,
        14,
        3,
        "Alloy steel bar (two blanks), bronze blank, wires, this lathe's own old screw until the end.",
        _risk_pair,
        ("screw", "nut"),
    ),
    _screw(
        "pair_thrust",
        "New screw, nut and thrust",
        "The pair, with the end float taken out.",
        pair_and_thrust_change,
        66,
        17,
        4,
        "As for the pair, and needle thrust washers with a locked adjusting nut.",
        _risk_all,
        ("screw", "nut", "thrust_collar"),
    ),
)
