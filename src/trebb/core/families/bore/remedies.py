"""Remedies for a bore: leave, hone, bush, bore true and step the shaft up, bond."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

import numpy as np
from msgspec import Struct

from trebb.core.condition import Change, Estimate, Quantity, Shift
from trebb.core.condition.draws import draw, quantity
from trebb.core.families.bore.findings import measure_value
from trebb.core.families.bore.subject import DEPTHS, Bore
from trebb.core.remedies.base import Remedy, leave
from trebb.core.safety import HOT_METAL, RETAINING
from trebb.core.units import UnitSystem

REAMED_MM, BORED_MM, HONED_MM = 0.004, 0.006, 0.004
GAP = {"turns": (0.018, 0.005), "slides": (0.012, 0.004), "fixed": (-0.010, 0.005)}


class BorePrediction(Struct, frozen=True):
    """What a remedy would leave, by measure, mm."""

    after: Estimate
    measures: Mapping[str, Quantity]

    @property
    def worst(self) -> Quantity:
        """Wear at the worst."""
        return self.measures["wear"]


def _outcome(bore: Bore, after: Estimate) -> BorePrediction:
    drawn = draw(after)
    found = {k: measure_value(bore, drawn, k) for k in ("wear", "oval", "play", "push")}
    # What a reamer leaves lies any way round: its size is what will be read, not its mean.
    sizes = [2 * np.hypot(drawn[f"oval.{d}.x"], drawn[f"oval.{d}.y"]) for d in DEPTHS]
    found["oval"] = quantity(np.max(sizes, axis=0))
    return BorePrediction(after, found)


def _round(sd: float) -> dict[str, Shift]:
    found = {}
    for d in DEPTHS:
        found[f"wear.{d}"] = Shift(0.0, sd)
        found[f"oval.{d}.x"] = Shift(0.0, sd / 2)
        found[f"oval.{d}.y"] = Shift(0.0, sd / 2)
    return found


def hone(bore: Bore, now: Estimate) -> Change:
    """Galling knocked down: high spots go, the wear and the play stay."""
    return Change(
        {
            f"oval.{d}.{axis}": Shift(0.0, HONED_MM, {f"oval.{d}.{axis}": 0.8})
            for d in DEPTHS
            for axis in ("x", "y")
        }
    )


def bush(bore: Bore, now: Estimate) -> Change:
    """Bored true, a bush pressed in and reamed to its mate."""
    mean, sd = GAP[bore.use]
    return Change({**_round(REAMED_MM), "gap": Shift(mean, sd)})


def step_up(bore: Bore, now: Estimate) -> Change:
    """Bored true, and a mate made larger to it."""
    mean, sd = GAP[bore.use]
    return Change({**_round(BORED_MM), "gap": Shift(mean, sd)})


def fit_mate(bore: Bore, now: Estimate) -> Change:
    """A mate made to the bore as it is: it passes the tightest place, and has all that the bore is wider
    elsewhere.
    """
    mean, sd = GAP[bore.use]
    least = min(DEPTHS, key=lambda d: now.source(f"wear.{d}").value - _half_oval(now, d))
    tight = Shift(mean + _half_oval(now, least), sd, {f"wear.{least}": -1.0})
    return Change({"gap": tight})


def _half_oval(now: Estimate, depth: str) -> float:
    """How far a bore is tighter one way than its mean there."""
    return math.hypot(*(now.source(f"oval.{depth}.{axis}").value for axis in ("x", "y")))


def bond(bore: Bore, now: Estimate) -> Change:
    """What is held is bonded in: the gap is filled, the bore stays as it is."""
    return Change({"gap": Shift(0.0, 0.003)})


def _risk(words: str) -> Callable[[Any, Any, Any, UnitSystem], str]:
    return lambda bore, split, then, system: words


def _repaired(bore: Bore) -> str:
    if bore.file == "skates":
        return "A file skates in it: no reamer or boring tool goes in. Ground outside, or another way."
    if bore.is_taper and not bore.file:
        return "Try a file in its mouth first, and state it: a hard taper ruins the reamer."
    if not bore.has_repair:
        return ""
    return "A repair is in it: find out what of first, a bush may turn or a weld be hard."


_bore = partial(Remedy, family="bore", outcome=_outcome)

BORE_REMEDIES: tuple[Remedy, ...] = (
    _bore("leave", "Leave it", "Write down why.", leave, 0, 0, 0, "Nothing.", _risk("Play grows with play.")),
    _bore(
        "hone",
        "Hone it down",
        "Galling and burrs only.",
        hone,
        5,
        1,
        0,
        "A hone of its size.",
        _risk("A hone follows the bore: it makes nothing round that was not, and nothing smaller."),
        on_it_hours=1.0,
    ),
    _bore(
        "bush",
        "Bore it true and bush it",
        "Reamed after pressing, to its mate as it is.",
        bush,
        14,
        5,
        0,
        "Bronze bar, a boring head or the lathe, a reamer.",
        _risk("The bore closes when the bush goes in: it is bored before pressing for the size after."),
        ("bush",),
        hinder=_repaired,
        answered_by="file",
        caution=HOT_METAL,
    ),
    _bore(
        "step_up",
        "Bore it true, mate made larger",
        "No bush: the shaft is stepped up to the bore.",
        step_up,
        10,
        5,
        0,
        "A boring head, bar for the shaft.",
        _risk("The next one has less metal to work with."),
        ("plain_pin",),
        hinder=_repaired,
        answered_by="file",
    ),
    _bore(
        "fit_mate",
        "Mate made to the bore as it is",
        "Nothing is bored: the shaft is turned to pass the tightest place.",
        fit_mate,
        6,
        2,
        0,
        "A bore gauge, bar for the shaft.",
        _risk("The bore's taper and oval stay: so much more play at its wide places."),
        ("fitted_pin",),
        applies=lambda b: b.use != "fixed" and not b.is_taper,
    ),
    _bore(
        "bond",
        "Bond it in",
        "For what is held in a bore that came out loose.",
        bond,
        3,
        0.5,
        1,
        "Retaining compound for the gap.",
        _risk("Over 0.15 mm it holds little: sleeve it then."),
        applies=lambda b: b.use == "fixed",
        caution=RETAINING,
        on_it_hours=0.5,
    ),
)
