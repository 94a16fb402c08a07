"""A slide on its gib: play at both ends and along the travel, what the gib lacks, and what the saddle's drop
does to the lead screw.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from itertools import combinations

import numpy as np
from msgspec import Struct

from trebb.core.belief.extremes import largest_of
from trebb.core.condition import Estimate, Quantity, ReadingsOnly, size_of
from trebb.core.condition.draws import Array, quantity
from trebb.core.condition.fixing import is_fixed, is_read, is_touched, narrows
from trebb.core.dual_units import show_force
from trebb.core.families.gib.subject import ENDS, SPOT_SHORT, SPOTS, Slide, play
from trebb.core.findings.base import Finding, Measure, hedged, suggestion_words
from trebb.core.gibs import Gaps, OffHome, not_home
from trebb.core.machine import RatedLimit, State
from trebb.core.metals import STEEL_MODULUS_MPA
from trebb.core.survey.contact import GibContact
from trebb.core.units import UnitSystem, show_size, show_small, show_uncertain
from trebb.core.words import large

# A half nut presses to wear visibly beyond this, by shop experience.
HARD_PRESS_N = 60.0
FEW_SPOTS = 3

MEASURES: dict[str, tuple[str, str]] = {
    "play": ("Play at the worst", "gib_play"),
    "even": ("Uneven along the travel", "gib_even"),
    "drop": ("Drop of the saddle", "saddle_drop"),
}


def keys_of(slide: Slide) -> tuple[str, ...]:
    """Measures that this slide has."""
    return tuple(key for key in MEASURES if key != "drop" or slide.is_saddle)


def plays(slide: Slide, now: Estimate) -> dict[tuple[str, str], Quantity]:
    """Play at each end of the gib at each spot of the travel."""
    return {(end, spot): now.combination(play(end, spot)) for end in ENDS for spot in SPOTS}


def measure_draws(slide: Slide, drawn: Mapping[str, Array], key: str) -> Array:
    """A measure, one value a draw, mm."""
    if key == "drop":
        return drawn["drop"]
    worn = np.stack([drawn[f"worn.{spot}"] for spot in SPOTS])
    if key == "even":
        return np.asarray(np.ptp(worn, axis=0))
    return np.asarray(np.maximum(drawn["gap.thin"], drawn["gap.thick"]) + worn.max(axis=0))


def measure_value(slide: Slide, drawn: Mapping[str, Array], key: str) -> Quantity:
    """A measure's value, mm."""
    return quantity(measure_draws(slide, drawn, key))


AT_HOME = OffHome()
READ_MM = 0.03  # a play known to less than this (sd) was not read where it stands


def read_plays(alone: ReadingsOnly) -> dict[tuple[str, str], Quantity]:
    """Play at each end and spot that readings fix."""
    return {
        (end, spot): alone.combination(play(end, spot))
        for end in ENDS
        for spot in SPOTS
        if is_read(alone, play(end, spot), READ_MM)
    }


def slide_measures(slide: Slide, alone: ReadingsOnly, limits: Mapping[str, RatedLimit]) -> list[Measure]:
    """What readings fix of the slide: play at the worst place read, by how much it differs along the travel,
    the saddle's drop.
    """
    found = []
    read = read_plays(alone)
    known: dict[str, tuple[Quantity, tuple[tuple[str, str], ...]]] = {}
    if read:
        spots = [spot for spot in SPOTS if any((end, spot) in read for end in ENDS)]
        missing = tuple((f"play at the {SPOT_SHORT[s]}", "rock") for s in SPOTS if s not in spots)
        if not missing and len(read) < len(ENDS) * len(SPOTS):
            missing = (("play at the other end", "rock"),)
        known["play"] = (largest_of(list(read.values())), missing)
        differ = {
            (a, b): alone.combination({f"worn.{a}": 1.0, f"worn.{b}": -1.0})
            for a, b in combinations(spots, 2)
        }
        if differ:
            worst = largest_of([size_of(q) for q in differ.values()])
            known["even"] = (worst, missing if len(spots) < len(SPOTS) else ())
    if is_touched(alone, {"drop": 1.0}) if slide.is_saddle else False:
        known["drop"] = (alone.source("drop"), ())
    for key in keys_of(slide):
        if key in known:
            label, limit = MEASURES[key]
            found.append(Measure(key, label, limits[limit], *known[key]))
    return found


def questions(slide: Slide) -> dict[str, dict[str, float]]:
    """What is to be known of the slide. Coefficients by source, without unit."""
    found = {
        "thin end": play("thin", "mid"),
        "thick end": play("thick", "mid"),
        "left end of travel": play("thin", "left"),
        "right end of travel": play("thin", "right"),
    }
    if slide.is_saddle:
        found["drop"] = {"drop": 0.1}
    return found


def reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking. Standard deviations in mm."""
    return suggestion_words(
        {"drop": "drop of the saddle"}.get(most, f"play at the {most}"),
        sd_before,
        sd_after,
        system,
        little=0.9,
    )


def _is_known(now: Estimate, end: str, spot: str) -> bool:
    at = play(end, spot)
    return narrows(now, at) and is_fixed(now.combination(at), READ_MM)


def gaps_of(slide: Slide, now: Estimate) -> Gaps:
    """Gaps as they are where the slide is tightest along its travel: a gib must run there too. Of the places
    that readings tell of, where there are such at both ends.
    """
    at = {end: [spot for spot in SPOTS if _is_known(now, end, spot)] for end in ENDS}
    spots = [spot for spot in SPOTS if all(spot in at[end] for end in ENDS)] or list(SPOTS)
    thin, thick = (min(now.combination(play(end, spot)).value for spot in spots) for end in ENDS)
    return Gaps(max(thin, 0.0), max(thick, 0.0), slide.running_mm)


# lead screw -----------------------------------------------------------------------------------


class ScrewBend(Struct, frozen=True):
    """What a dropped saddle does to its lead screw: bent down by `down_mm` at the apron, pressing with
    `press_n`; `share_left` of the thread's depth still engages if the half nuts hang low instead.
    """

    down_mm: float
    press_n: float
    share_left: float


def screw_bend(slide: Slide, drop_mm: float) -> ScrewBend:
    """The lead screw as a beam on two bearings, pushed aside at the apron.

    F = 3·E·I·L·d / (a²·b²), simply supported; I by the root diameter. Where
    the nuts do not pull it down they engage d less deep.
    """
    a = min(max(slide.apron_mm, 1.0), slide.bearing_mm - 1.0)
    b = slide.bearing_mm - a
    inertia = math.pi * slide.screw_mm**4 / 64
    press = 3 * STEEL_MODULUS_MPA * inertia * slide.bearing_mm * drop_mm / (a * a * b * b)
    return ScrewBend(drop_mm, press, max(0.0, 1 - drop_mm / slide.thread_depth_mm))


# verdicts -------------------------------------------------------------------------------------


def home_finding(slide: Slide, felt: Gaps | None) -> Finding | None:
    """The gib was not home, by what was said or by what was felt."""
    words = not_home(slide.gib, felt) if felt is not None else ""
    if slide.home == "no":
        words = (
            "the gib was stopped before it was home. Back the screw at its thin end off two turns, push it "
            "in "
            "until it stops, and take both ends again"
        )
    if not words:
        return None
    return Finding(
        "not_home",
        State.NEAR,
        "The feelers are set aside: the gib was not home.",
        "feelers at both ends",
        f"{large(words)}.",
        1.0,
        (("Feel it again", "feelers"),),
    )


def backed_off_finding(slide: Slide, off: OffHome, system: UnitSystem) -> Finding | None:
    """The gib stood out of home as it ran: both ends open evenly, which no wear does."""
    if not off:
        return None
    opened, half = off.value_mm / slide.ratio, off.half_mm / slide.ratio
    return Finding(
        "backed_off",
        State.NEAR,
        f"The gib was not home as it ran: it stood {show_size(off.value_mm, system)} out, "
        f"± {show_size(off.half_mm, system)}, which opens both ends by "
        f"{show_uncertain(opened, half, system)}.",
        "stand-out as it ran against home, or rock against blades",
        "Push it home, set its screws, and read the rock again. Nothing is scraped and no part is sized from "
        "what was read before.",
        1.1,
        (("Rock it again", "rock"),),
    )


def gib_findings(
    slide: Slide,
    now: ReadingsOnly,
    measures: Mapping[str, Measure],
    system: UnitSystem,
    *,
    felt: Gaps | None,
    stand_mm: float | None,
    contact: GibContact | None,
    spots: Sequence[float],
    off: OffHome = AT_HOME,
) -> list[Finding]:
    """Verdicts, the heaviest first; `now` the condition by readings alone, `off` how far the gib was
    backed off as it ran. `spots` in a window of 25 mm square.
    """
    is_home = slide.home == "yes" and not off
    found = [
        home_finding(slide, felt),
        backed_off_finding(slide, off, system),
        _home_question(slide, felt, off, measures.get("play")),
        _play_finding(slide, now, measures["play"], system, is_home=is_home) if "play" in measures else None,
        _taper_finding(slide, now, measures["play"], system) if "play" in measures and is_home else None,
        _even_finding(now, measures["even"], system) if "even" in measures else None,
        _drop_finding(slide, measures["drop"], system) if "drop" in measures else None,
        _stand_finding(slide, stand_mm, system) if stand_mm is not None else None,
        _contact_finding(contact) if contact is not None else None,
        _spots_finding(spots, system) if spots else None,
    ]
    said = hedged([f for f in found if f is not None], measures, system)
    return sorted(said, key=lambda f: -f.weight_mm)


def _home_question(slide: Slide, felt: Gaps | None, off: OffHome, play: Measure | None) -> Finding | None:
    """Whether it was home: until that is said, no size rests on what was felt."""
    if felt is None or slide.home or off or not_home(slide.gib, felt):
        return None
    return Finding(
        "was_home",
        State.UNKNOWN,
        "Was the gib fully home when it was felt?",
        "not answered yet",
        "Until that is answered no part is sized from it and nothing is to be scraped.",
        0.99 * play.value.value if play is not None else 0.9,
        asks=("home",),
    )


def _play_finding(
    slide: Slide, now: ReadingsOnly, m: Measure, system: UnitSystem, *, is_home: bool
) -> Finding:
    gaps, read = gaps_of(slide, now), read_plays(now)
    end, spot = max(read, key=lambda at: read[at].value)
    return Finding(
        "play",
        m.state,
        f"The slide has {show_uncertain(m.value.value, m.value.half_width, system)} of play at the "
        f"{end} end, {SPOT_SHORT[spot]}; limit {show_small(m.limit.limit_mm, system)}.",
        "feelers and rock together",
        _closing_words(slide, gaps, system)
        if is_home
        else "First make sure that it is home: a gib backed off is loose at both ends, and nothing is worn.",
        m.value.value,
    )


def _taper_finding(slide: Slide, now: ReadingsOnly, m: Measure, system: UnitSystem) -> Finding | None:
    """The two ends of a gib that no longer fits its slot, where the readings tell them apart."""
    gaps = gaps_of(slide, now)
    loose = "thick" if gaps.thick_mm > gaps.thin_mm else "thin"
    difference = now.combination({"gap.thick": 1.0, "gap.thin": -1.0})
    if abs(difference.value) <= difference.half_width or gaps.difference <= 0.01:
        return None
    state = State.NEAR if gaps.difference > 0.5 * m.limit.limit_mm else State.WITHIN
    tight = "thin" if loose == "thick" else "thick"
    return Finding(
        "taper",
        state,
        f"Gib and slot no longer match: the {loose} end is "
        f"{show_uncertain(abs(difference.value), difference.half_width, system)} looser.",
        "both ends",
        f"Scrape {show_small(gaps.difference, system)} off the {tight} end, where the gap is "
        "smaller, running out to nothing at the other; the slot is 1 : "
        f"{1 / gaps.slot_taper(slide.gib):.2f} now, the gib 1 : {slide.ratio:g}.",
        0.5 * gaps.difference,
    )


def _even_finding(now: ReadingsOnly, m: Measure, system: UnitSystem) -> Finding:
    spots = [spot for spot in SPOTS if any((end, spot) in read_plays(now) for end in ENDS)]
    worst = max(spots, key=lambda s: now.source(f"worn.{s}").value)
    move = (
        f"A gib that runs at the ends leaves it in the {SPOT_SHORT[worst]}: only scraping the ways cures "
        "that."
        if m.state is not State.WITHIN
        else "One setting of the gib serves the whole travel."
    )
    return Finding(
        "even",
        m.state,
        f"Play differs by {show_uncertain(m.value.value, m.value.half_width, system)} along the "
        f"travel, limit {show_small(m.limit.limit_mm, system)}; most at the {SPOT_SHORT[worst]}.",
        "rock at three places",
        move,
        m.value.value,
    )


def _drop_finding(slide: Slide, m: Measure, system: UnitSystem) -> Finding:
    bend = screw_bend(slide, m.value.value)
    press = (
        f"Closed, the half nuts pull the lead screw down with {show_force(bend.press_n, system)}; left "
        "hanging, "
        f"{bend.share_left:.0%} of the thread's depth engages."
    )
    if bend.press_n > HARD_PRESS_N or bend.share_left < 0.7:
        advice = (
            "They wear each other: line the saddle up again, or lower the brackets of screw and rod by "
            "as much."
        )
    elif m.state is not State.WITHIN:
        advice = "The screw can live with that; rack and rod want their brackets lowered."
    else:
        advice = "That can stay."
    move = f"{press} {advice}"
    return Finding(
        "drop",
        m.state,
        f"The saddle has come down {show_uncertain(m.value.value, m.value.half_width, system)}, "
        f"limit {show_small(m.limit.limit_mm, system)}.",
        "rack, lead screw and feed rod",
        move,
        0.2 * m.value.value,
    )


def _stand_finding(slide: Slide, stand_mm: float, system: UnitSystem) -> Finding | None:
    gone = slide.stand_out_mm - stand_mm
    if gone <= 0.5:
        return None
    lacks = gone / slide.ratio
    left = f"{show_size(slide.travel_mm, system)} of adjustment are left"
    return Finding(
        "stand",
        State.NEAR if gone > slide.travel_mm else State.WITHIN,
        f"The gib has gone in {show_size(gone, system)} since new: by that it lacks "
        f"{show_small(lacks, system)} of thickness, beside the gap it has now.",
        "stand-out",
        f"{left}. What is made new stands where it stood by design: gap and stand-out count together.",
        0.1 * lacks,
    )


def _contact_finding(contact: GibContact) -> Finding:
    state = State.WITHIN if contact.pattern == "all along" else State.NEAR
    return Finding(
        "contact",
        state,
        f"The gib bears over {contact.share:.0%}: {contact.pattern}.",
        "marking blue",
        contact.meaning,
        0.01,
    )


def _spots_finding(spots: Sequence[float], system: UnitSystem) -> Finding:
    fewest = min(spots)
    square = "an inch" if system is UnitSystem.INCH else "a 25 mm"
    return Finding(
        "spots",
        State.NEAR if fewest < FEW_SPOTS else State.WITHIN,
        f"It shows {fewest:.0f} to {max(spots):.0f} spots in {square} square.",
        "counted",
        "Under three it floats: blue and scrape." if fewest < FEW_SPOTS else "Enough for a slide.",
        0.005,
    )


def _closing_words(slide: Slide, gaps: Gaps, system: UnitSystem) -> str:
    advance = gaps.advance_mm(slide.gib)
    if advance <= 0:
        return "It runs as close as it may: do not tighten it."
    turns = advance / slide.screw_pitch_mm
    if advance > slide.travel_mm:
        return (
            f"To run at {show_small(slide.running_mm, system)} it would have to go in "
            f"{show_size(advance, system)}; {show_size(slide.travel_mm, system)} are left: it is too thin. "
            "Shim it, line it, or make a new one."
        )
    return (
        f"Turn it in by {show_size(advance, system)}, {turns:.1f} turns of its screw; the looser end "
        f"then keeps {show_small(gaps.difference + slide.running_mm, system)}."
    )
