"""A gear: its lash, what goes once a turn and whose it is, its teeth one by one, its name, its strength."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING

import numpy as np

from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity, vector_size
from trebb.core.condition.fixing import is_read
from trebb.core.families.gear.looked import also
from trebb.core.families.gear.reading import teeth_split
from trebb.core.families.gear.subject import Gear, gear_model
from trebb.core.findings.base import Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known, Unread
from trebb.core.gears import bevel
from trebb.core.units import show_size, show_small

if TYPE_CHECKING:
    from numpy.typing import NDArray

BOUND = 0.010  # sd (mm) to which a size must be known to go into a part


def _whole_turn(gear: Gear, drawn: Drawn) -> NDArray[np.complex128]:
    return (drawn["once.x"] + drawn["seat.x"]) + 1j * (drawn["once.y"] + drawn["seat.y"])


def lash(gear: Gear, drawn: Drawn) -> Quantity:
    """Mean lash at the pitch circle."""
    return quantity(drawn["lash"])


def rocked(gear: Gear, drawn: Drawn) -> Quantity:
    """Lash as the gear rocks: with what the play of its bore adds."""
    return quantity(drawn["lash"] + 2 * math.tan(math.radians(gear.angle_deg)) * drawn["play"])


def tight(gear: Gear, drawn: Drawn) -> Quantity:
    """What the tightest tooth lacks of the least lash."""
    turn = _whole_turn(gear, drawn)
    least = drawn["lash"] - np.abs(turn) - drawn["own"] / 2
    return quantity(gear.least_lash_mm - least)


def runout(gear: Gear, drawn: Drawn) -> Quantity:
    """Once a turn, most less least: twice the vector of gear and seat together."""
    return vector_size(_whole_turn(gear, drawn), 2.0)


def own(gear: Gear, drawn: Drawn) -> Quantity:
    """Most less least of the teeth once both turns are taken out."""
    return quantity(drawn["own"])


def play(gear: Gear, drawn: Drawn) -> Quantity:
    """Play of the bore on its shaft."""
    return quantity(drawn["play"])


_TURN = ({"once.x": 1.0, "seat.x": 1.0}, {"once.y": 1.0, "seat.y": 1.0})


def _unread_teeth(known: Known[Gear]) -> Unread:
    if known.read("gear_teeth") and known.subject.every:
        return ()
    return (("every tooth: their own errors come with it", "gear_teeth"),)


def _lash_words(known: Known[Gear], m: Measure, size: str) -> tuple[str, str, str]:
    gear = known.subject
    return (
        f"Mean lash at the pitch circle: {size}.",
        "read round the gear",
        f"{gear.called.words if gear.name else 'its kind'} wants about "
        f"{show_small(gear.wanted_lash_mm, known.system)}. {shift_words(known, m.value.value)}",
    )


def _rocked_words(known: Known[Gear], m: Measure, size: str) -> tuple[str, str, str]:
    return (
        f"As rocked the pair gives {size}, at the pitch circle.",
        "rocked at quarters",
        "The play of its bore is in it: push and pull tells how much.",
    )


def shift_mm(gear: Gear, lash_mm: float) -> float:
    """How far in the shimmed one of a bevel pair must go, or spur centres must close, mm; less than nothing
    is outward.
    """
    return (lash_mm - gear.wanted_lash_mm) / gear.lash_per_mm


def spacer_mm(gear: Gear, lash_mm: float) -> float:
    """Thickness of the spacer that brings the lash to what is wanted; may be less than nothing."""
    inward = shift_mm(gear, lash_mm)
    return gear.spacer_mm + (inward if gear.spacer == "behind" else -inward)


def shift_words(known: Known[Gear], lash_mm: float) -> str:
    """Which member moves, which way, by how much, and what spacer that is; of spur gears their centres."""
    gear = known.subject
    by = shift_mm(gear, lash_mm)
    size = show_small(abs(by), known.system)
    if not gear.is_bevel:
        way = "closer" if by > 0 else "further apart"
        return f"Their centres would stand {size} {way}."
    who = "The gear" if gear.moves == "gear" else "Its mate"
    way = "toward the apex" if by > 0 else "away from the apex"
    thick = spacer_mm(gear, lash_mm)
    if thick < 0:
        other = "its mate" if gear.moves == "gear" else "the gear"
        return (
            f"{who} goes {size} {way}: the spacer {gear.spacer} it would be "
            f"{show_small(-thick, known.system)} less than nothing. Shim {other} instead, or face that "
            f"off its "
            "seat."
        )
    return f"{who} goes {size} {way}: a spacer of {show_size(thick, known.system)} {gear.spacer} it."


def _tight_words(known: Known[Gear], m: Measure, size: str) -> tuple[str, str, str]:
    split = teeth_split(known.subject, known.taken.get("gear_teeth", ()))
    where = f"Tooth {split.tightest + 1}" if split is not None else "The tightest tooth"
    least = show_small(known.subject.least_lash_mm, known.system)
    if m.value.value <= 0.001:
        return f"{where} keeps the least lash, {least}.", "mean lash less runout and teeth", ""
    return (
        f"{where} lacks {size} of the least lash, {least}.",
        "mean lash less what goes once a turn and half of what the teeth differ",
        f"It whines there and eats itself: more lash, or less runout. "
        f"{shift_words(known, known.alone.source('lash').value)}",
    )


def _runout_words(known: Known[Gear], m: Measure, size: str) -> tuple[str, str, str]:
    gear, half = known.subject, m.value.value / 2
    move = whose_words(known)
    if gear.is_bevel:
        off = bevel.eccentricity_of(half, gear.angle_deg, gear.pitch_angles_deg[0])
        wobble = bevel.wobble_of(half, gear.angle_deg, gear.pitch_angles_deg[0])
        worth = (
            f"It is what a gear {show_small(off, known.system)} off centre makes, or a rim that rocks "
            f"{show_small(2 * wobble, known.system)} along its axis, total reading. "
        )
    else:
        off = half / (2 * math.tan(math.radians(gear.angle_deg)))
        worth = f"It is what a gear {show_small(off, known.system)} off centre makes. "
    return f"The lash changes once a turn by {size}.", "read round the gear", worth + move


def whose_words(known: Known[Gear]) -> str:
    """Whether gear or seat runs out, by turning one against the other; else how to tell."""
    gear = known.subject
    if not known.read("gear_seat"):
        if gear.key_mm:
            return "Keyed, it goes on one way: indicate the shaft's seat to see whose it is."
        return "Turn the gear half round on its seat and read again: that tells gear from bearing."
    alone = known.alone
    parts = {
        k: math.hypot(alone.source(f"{k}.x").value, alone.source(f"{k}.y").value) for k in ("once", "seat")
    }
    sd = max(alone.source(f"{k}.{axis}").sd for k in ("once", "seat") for axis in ("x", "y"))
    said = (
        f"Gear {show_small(2 * parts['once'], known.system)}, seat or bearing "
        f"{show_small(2 * parts['seat'], known.system)}, each ± {show_small(2 * 1.96 * sd, known.system)}. "
    )
    if abs(parts["once"] - parts["seat"]) < 2 * sd:
        return said + "Neither stands out."
    return said + ("It is the gear’s." if parts["once"] > parts["seat"] else "It is what it sits on.")


def _own_words(known: Known[Gear], m: Measure, size: str) -> tuple[str, str, str]:
    split = teeth_split(known.subject, known.taken.get("gear_teeth", ()))
    odd = [n + 1 for n in split.odd] if split is not None else []
    named = f"Odd: {'teeth' if len(odd) > 1 else 'tooth'} {', '.join(map(str, odd))}. " if odd else ""
    step = f"Greatest step {show_small(split.greatest_step, known.system)}. " if split is not None else ""
    return (
        f"Once both turns are taken out the teeth differ by {size}. {named}".rstrip(),
        "every tooth read",
        f"{step}A spacer cannot mend it: a burr is stoned, a worn gear goes with its mate.",
    )


def _play_words(known: Known[Gear], m: Measure, size: str) -> tuple[str, str, str]:
    return (
        f"On its shaft the gear plays by {size}.",
        "pushed and pulled",
        f"It adds "
        f"{show_small(2 * math.tan(math.radians(known.subject.angle_deg)) * m.value.value, known.system)} "
        "to the lash as rocked. Sleeve the bore, or fit the shaft to it.",
    )


MEASURES: dict[str, Judged[Gear]] = {
    "lash": Judged(
        "Lash of the pair", "gear_lash", lash, lambda g: ({"lash": 1.0},), _lash_words, known_to=0.1
    ),
    "rocked": Judged(
        "Lash as rocked",
        "gear_lash",
        rocked,
        lambda g: ({"lash": 1.0, "play": 2 * math.tan(math.radians(g.angle_deg))},),
        _rocked_words,
        unless="lash",
    ),
    "tight": Judged(
        "Lash lacking",
        "gear_tight",
        tight,
        lambda g: ({"lash": 1.0}, *_TURN),
        _tight_words,
        _unread_teeth,
        2.0,
        if_read=("own",),
    ),
    "runout": Judged(
        "Lash once a turn", "gear_runout", runout, lambda g: _TURN, _runout_words, _unread_teeth, 1.2
    ),
    "own": Judged(
        "Tooth against tooth", "gear_teeth", own, lambda g: ({"own": 1.0},), _own_words, weight=1.3
    ),
    "play": Judged("Play on its shaft", "gear_play", play, lambda g: ({"play": 1.0},), _play_words),
}


def questions(gear: Gear) -> dict[str, tuple[str, Mapping[str, float]]]:
    """What is to be known. Coefficients by source, without unit."""
    return {
        "lash": ("the lash", {"lash": 1.0}),
        "once": ("what goes once a turn", {"once.x": 1.0, "seat.x": 1.0}),
        "gear": ("the gear's own part of it", {"once.x": 1.0}),
        "own": ("tooth against tooth", {"own": 1.0}),
        "play": ("play on its shaft", {"play": 1.0}),
    }


def sizes(known: Known[Gear]) -> dict[str, float]:
    """Sizes that readings fix for its parts: bore, outside, lash, centres. In mm."""
    found: dict[str, float] = {}
    for key, doubt in (("bore", 0.02), ("outside", 0.1), ("lash", 0.03), ("centres", 0.1), ("play", 0.02)):
        value = known.source(key, doubt)
        if value is not None:
            found[key] = value
    turn = tuple({f"{k}.{axis}": 1.0 for k in ("once", "seat")} for axis in ("x", "y"))
    if all(is_read(known.alone, c, BOUND) for c in turn):
        found["turn"] = math.hypot(*(known.alone.combination(c).value for c in turn))
    return found


JUDGING = Judging(
    decides="gear_rock",
    model=gear_model,
    measures=MEASURES,
    questions=questions,
    describe=lambda g: (
        f"{g.kind} gear of {g.teeth} teeth with {g.mate_teeth}"
        + (f", {g.called.words}" if g.name else ", not named yet")
    ),
    also=also,
    sizes=sizes,
    default_parts=("new_gear",),
    optional_parts=("gear_sleeve",),
    cures={
        "seen_missing": ("used", "build_up", "pins", "new", "both"),
        "seen_sharp": ("used", "new", "both"),
        "thin": ("turn", "used", "new", "both"),
        "strength": ("new", "both"),
    },
)
