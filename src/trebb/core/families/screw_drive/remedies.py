"""Repairs of a feed screw: what each needs, costs and risks."""

from __future__ import annotations

from functools import partial

from trebb.core.families.screw_drive.changes import (
    LashPrediction,
    bought_nut_change,
    end_for_end_change,
    half_nuts_change,
    lapped_nut_change,
    lash_left,
    made_nut_change,
    new_pair_change,
    no_change,
    pair_and_thrust_change,
    split_nut_change,
    straighten_change,
    thrust_change,
    two_piece_change,
)
from trebb.core.families.screw_drive.lash_split import LashSplit
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.remedies.base import Remedy
from trebb.core.safety import LAPPING, PRESS
from trebb.core.units import THOU_MM, UnitSystem, show_small


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
        if then.after.source("float").value > THOU_MM
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


def _hard_or_not_tried(drive: ScrewDrive) -> str:
    if drive.file == "skates":
        return "A file skates on it: a hard screw, or a case on a soft one, cracks in the press. Make it new."
    if not drive.file:
        return "Try a file on it first, where no nut runs: a hard or case-hardened screw cracks in the press."
    return ""


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
        on_it_hours=6.0,
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
        hinder=_hard_or_not_tried,
        answered_by="file",
        caution=PRESS,
        on_it_hours=3.0,
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
        ("nut",),
        ("nut",),
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
