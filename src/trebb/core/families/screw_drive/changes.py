"""What each repair changes of a feed screw’s lash."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.condition import Change, Estimate, Quantity, Shift
from trebb.core.families.screw_drive.lash_split import lash_combination, split_lash
from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive, uneven_key, wear_key
from trebb.core.threads import thread_limits
from trebb.core.units import THOU_MM

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


class LashPrediction(Struct, frozen=True):
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
