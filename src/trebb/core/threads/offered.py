"""Will this tap, nut or bar fit? What a bought thing would do on the thread that is there."""

from __future__ import annotations

import math
from enum import Enum

from msgspec import Struct

from trebb.core.threads.forms import ThreadSpec
from trebb.core.threads.limits import thread_limits
from trebb.core.units import INCH_MM, UnitSystem, show_money, show_size, show_small

# Same pitch: closer than a thread gauge shows, and closer than a nut of twenty threads minds.
SAME_PITCH = 2e-4
LEAST_ENGAGED = 0.6  # of the thread's height, below which a nut strips or wears in no time


class Offered(Enum):
    """What is offered for a screw (tap, nut) or for a nut (bar)."""

    NUT = "nut"
    TAP = "tap"
    BAR = "bar"


class ThreadThere(Struct, frozen=True):
    """The thread that is there, mm: a screw with what it measures, or stands to by its class.

    `unworn_mm` is the pitch diameter where it never wore, `worn_play_mm` the
    play the worst worn place adds; `major_mm` over its crests; for a bar offered
    to a nut, `nut_pitch_mm` the nut's pitch diameter.
    """

    spec: ThreadSpec
    unworn_mm: float
    worn_play_mm: float = 0.0
    major_mm: float | None = None
    nut_pitch_mm: float | None = None
    nut_length_mm: float = 38.0


class Fitting(Struct, frozen=True):
    """What would happen.

    `verdict` is "fits", "loose", "binds", "cuts" or "never"; `least_mm` and
    `most_mm` the play on unworn thread at the offered thing's limits, negative
    where it binds; `worn_mm` the most play at the worst worn place;
    `engaged` the share of the thread's height in mesh.
    """

    verdict: str
    head: str
    text: str
    least_mm: float = 0.0
    most_mm: float = 0.0
    worn_mm: float = 0.0
    engaged: float = 1.0


def _never(head: str, text: str) -> Fitting:
    return Fitting("never", head, text)


def will_fit(there: ThreadThere, offered: ThreadSpec, kind: Offered, system: UnitSystem) -> Fitting:
    """What an offered tap, nut or bar would do.

    Notes
    -----
    Play on unworn thread is (E_nut − E_screw)·tan α, total, both flanks, with E
    between the limits of the offered thing's class. A difference of pitch δ adds
    up over the threads in mesh and eats n·δ of that play. A nut bores out to its
    own minor diameter: crests that do not overlap do not carry.
    """
    spec = there.spec
    if offered.hand is not spec.hand:
        other = "nut" if kind is Offered.BAR else "screw"
        return _never(
            f"A {offered.hand.value}-hand {kind.value} on a {spec.hand.value}-hand {other}: it never starts.",
            f"Look for {spec.hand.value} hand; a slide that must move the same way as before cannot change "
            "it.",
        )
    if (
        abs(offered.lead_mm / spec.lead_mm - 1) > SAME_PITCH
        or abs(offered.pitch_mm / spec.pitch_mm - 1) > SAME_PITCH
    ):
        return _other_pitch(there, offered, kind, system)
    if offered.form.is_translating != spec.form.is_translating or abs(
        offered.form.half_angle - spec.form.half_angle
    ) > math.radians(0.75):
        return _never(
            f"The pitch is right, the form is not: {2 * math.degrees(offered.form.half_angle):g}° against "
            f"{2 * math.degrees(spec.form.half_angle):g}°.",
            "It would bear on its crests and roots only and wear loose in a week. Make one of the screw's "
            "own form.",
        )
    if kind is Offered.BAR:
        return _bar(there, offered, system)
    return _nut_or_tap(there, offered, kind, system)


def _other_pitch(there: ThreadThere, offered: ThreadSpec, kind: Offered, system: UnitSystem) -> Fitting:
    spec = there.spec
    if abs(offered.pitch_mm / spec.pitch_mm - 1) <= SAME_PITCH:
        return _never(
            f"{offered.starts} start{'s' if offered.starts > 1 else ''} against {spec.starts}: the pitch is "
            "right, the lead is not.",
            f"A turn of this {kind.value} moves {show_size(offered.lead_mm, system)}, of the screw "
            f"{show_size(spec.lead_mm, system)}. Count the starts at the end of the screw.",
        )
    drift = abs(offered.pitch_mm - spec.pitch_mm)
    play = thread_limits(spec).axial_play_mm.middle_mm
    threads = play / drift
    text = (
        f"It gains {show_small(drift, system)} a thread and jams after about {max(1, round(threads))}; a "
        f"nut {show_size(there.nut_length_mm, system)} long has {there.nut_length_mm / spec.pitch_mm:.0f}."
    )
    return _never(f"Another pitch: {offered.pitch_words} against {spec.pitch_words}.", text)


def _bar(there: ThreadThere, offered: ThreadSpec, system: UnitSystem) -> Fitting:
    """Threaded bar for the nut that is there."""
    slope = math.tan(offered.form.half_angle)
    band = thread_limits(offered).screw_pitch
    nut = (
        there.nut_pitch_mm
        if there.nut_pitch_mm is not None
        else thread_limits(there.spec).nut_pitch.middle_mm
    )
    low, high = (nut - band.high_mm) * slope, (nut - band.low_mm) * slope
    if high < 0:
        return Fitting(
            "never",
            f"Too thick by {show_small(-high / max(slope, 1e-9), system)} on the pitch diameter: it does not "
            "enter the nut.",
            "Make the nut to the bar.",
            low,
            high,
        )
    if low < 0:
        return Fitting(
            "binds",
            f"It may bind in this nut: from nothing to {show_small(high, system)} of play.",
            "Try the bar before it is cut, or ease the nut.",
            low,
            high,
        )
    return Fitting(
        "fits" if high < 0.3 else "loose",
        f"It enters this nut with {show_small(low, system, unit=False)} to {show_small(high, system)} of "
        "play.",
        "Its ends are still to be turned: the bar must be thicker than the largest journal.",
        low,
        high,
        high,
    )


def _nut_or_tap(there: ThreadThere, offered: ThreadSpec, kind: Offered, system: UnitSystem) -> Fitting:
    spec = there.spec
    slope = math.tan(spec.form.half_angle)
    limits = thread_limits(offered)
    major = there.major_mm if there.major_mm is not None else thread_limits(spec).screw_major.middle_mm
    name = "nut cut with this tap" if kind is Offered.TAP else "nut"
    if slope == 0:
        low, high = limits.axial_play_mm.low_mm, limits.axial_play_mm.high_mm
    else:
        low, high = (
            (e - there.unworn_mm) * slope for e in (limits.nut_pitch.low_mm, limits.nut_pitch.high_mm)
        )
    overlap = (major - limits.nut_minor.middle_mm) / 2
    engaged = min(1.0, overlap / spec.basic_height_mm)
    crest_room = (limits.nut_major.low_mm - major) / 2
    wrong = abs(offered.major_mm - spec.major_mm) > 0.01
    diameters = (
        f"Right pitch, wrong diameter: {_dia(offered, system)} for a screw of {_dia(spec, system)}. "
        if wrong
        else ""
    )
    worn = high + there.worn_play_mm
    if crest_room < -0.01 or high < 0:
        return _not_going_on(there, kind, system, name, engaged, crest_room, diameters, worn, low, high)
    if engaged < LEAST_ENGAGED:
        return Fitting(
            "loose",
            f"{diameters}Only {max(engaged, 0):.0%} of the thread's height is in mesh.",
            f"A {name} would have {show_small(low, system, unit=False)} to {show_small(high, system)} of "
            "play and wear fast.",
            low,
            high,
            worn,
            engaged,
        )
    if low < 0:
        return Fitting(
            "binds",
            f"{diameters}It may bind where the screw is unworn: from {show_small(-low, system)} too tight to "
            f"{show_small(high, system)} of play.",
            "At the tight end of its class it has to be lapped or eased; take the screw along and try it.",
            low,
            high,
            worn,
            engaged,
        )
    loose = high > 0.35
    head = (
        f"{diameters}{'Goes on loose' if loose else 'It fits'}: {show_small(low, system, unit=False)} to "
        f"{show_small(high, system)} of play on unworn thread."
    )
    text = (
        f"Where the screw is worn worst it has up to {show_small(worn, system)}."
        if there.worn_play_mm > 0.005
        else "The screw adds nothing that was measured."
    )
    return Fitting("loose" if loose else "fits", head, text, low, high, worn, engaged)


def _not_going_on(
    there: ThreadThere,
    kind: Offered,
    system: UnitSystem,
    name: str,
    engaged: float,
    crest_room: float,
    diameters: str,
    worn: float,
    low: float,
    high: float,
) -> Fitting:
    if kind is Offered.NUT and engaged > 0:
        cut = max(0.0, -(low + high) / 2)
        return Fitting(
            "cuts",
            f"{diameters or 'Too tight. '}It does not go on: it would have to lose "
            f"{show_small(max(cut, -2 * crest_room), system)} first.",
            "Opened with a tool ground to the screw it has the play you leave it, and "
            f"{show_small(there.worn_play_mm, system)} more where the screw is worn.",
            low,
            high,
            worn,
            engaged,
        )
    return Fitting(
        "binds",
        f"{diameters}A {name} does not go on where the screw is unworn: {show_small(-high, system)} too "
        "tight at the least."
        if high < 0
        else f"{diameters}The screw's crests touch the bottom of the thread by "
        f"{show_small(-crest_room, system)}.",
        "It is good for roughing; finish with a tool ground to the screw."
        if kind is Offered.TAP
        else "Make a nut to the screw.",
        low,
        high,
        worn,
        engaged,
    )


def _dia(spec: ThreadSpec, system: UnitSystem) -> str:
    return show_size(spec.major_mm, system)


def bought_against_made(
    price: float, now_mm: float, left_mm: float, made_left_mm: float, system: UnitSystem, money: str
) -> str:
    """What a bought thing costs against what it gains, in a sentence; `now_mm` the play today, `left_mm`
    with it, `made_left_mm` with one made to suit.
    """
    gain = now_mm - left_mm
    if gain <= 0.1 * now_mm:
        return (
            f"For {show_money(price, money)} it gains nothing: {show_small(left_mm, system)} against "
            f"{show_small(now_mm, system)} today."
        )
    per = price / (gain / (0.0254 if system is UnitSystem.INCH else 0.01))
    unit = "thou" if system is UnitSystem.INCH else "0.01 mm"
    more = (
        f" One made to suit would leave {show_small(made_left_mm, system)}."
        if made_left_mm < 0.9 * left_mm
        else ""
    )
    of = show_small(now_mm, system)
    return (
        f"For {show_money(price, money)} it takes {show_small(gain, system)} of {of}: "
        f"{money}{per:.2g} a {unit}.{more}"
    )


def hybrid_advice(spec: ThreadSpec) -> str:
    """What can be done for a thread that no standard has."""
    near_tpi = round(INCH_MM / spec.pitch_mm * 2) / 2
    return (
        f"No nut, tap or bar is sold as {spec.designation}. Single-point the nut to this screw with a tool "
        "ground to its groove, or cast bearing metal round the screw; "
        f"a tap of {near_tpi:g} tpi or {spec.pitch_mm:.3g} mm may share the pitch but not the diameter. "
        "Or make screw and nut new as a standard pair: the dial then counts wrong unless the pitch stays."
    )
