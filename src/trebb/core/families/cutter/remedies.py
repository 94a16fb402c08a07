"""Remedies for a cutter: leave, turn it in its holder, true the holder, grind all flutes alike, another."""

from __future__ import annotations

from functools import partial

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.cutter.findings import JUDGING
from trebb.core.families.cutter.subject import Cutter
from trebb.core.findings.judging import outcome_by
from trebb.core.remedies.base import BY_ITSELF, BY_STEPS, Remedy, always, leave
from trebb.core.safety import WHEEL

GROUND_MM, HOLDER_MM = 0.002, 0.003


def turn(cutter: Cutter, now: Estimate) -> Change:
    """Turned half round in its holder: its part of the runout changes sides."""
    return Change({f"holder.{axis}": Shift(0.0, 0.002, {f"holder.{axis}": -1.0}) for axis in ("x", "y")})


def true_holder(cutter: Cutter, now: Estimate) -> Change:
    """Holder cleaned, trued or another: it runs off no more."""
    return Change({f"holder.{axis}": Shift(0.0, HOLDER_MM) for axis in ("x", "y")})


def grind(cutter: Cutter, now: Estimate) -> Change:
    """All flutes ground alike about the shank: each comes to the lowest, the size with it."""
    low = min(now.source(f"edge.{k}").value for k in range(1, cutter.count + 1))
    return Change({f"edge.{k}": Shift(low - GROUND_MM, GROUND_MM) for k in range(1, cutter.count + 1)})


def other(cutter: Cutter, now: Estimate) -> Change:
    """Another cutter in the same holder."""
    return Change({f"edge.{k}": Shift(0.0, 0.003) for k in range(1, cutter.count + 1)})


_cutter = partial(Remedy, family="cutter", outcome=outcome_by(JUDGING))

CUTTER_REMEDIES: tuple[Remedy, ...] = (
    _cutter(
        "leave",
        "Leave it",
        "Let it float, or write down its size.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        always("Its hole is what it is."),
    ),
    _cutter(
        "turn",
        "Turn it half round in its holder",
        "Where cutter and holder run off they may cancel.",
        turn,
        0,
        0.2,
        0,
        "A mark on both.",
        always("Two errors alike cancel; else one is left."),
        in_place=BY_STEPS,
    ),
    _cutter(
        "holder",
        "Clean or true the holder",
        "Collet, taper, nut; or another.",
        true_holder,
        5,
        0.5,
        0,
        "A clean collet.",
        always("What the cutter runs off its own shank stays."),
        in_place=BY_ITSELF,
    ),
    _cutter(
        "grind",
        "Grind all flutes alike",
        "Between its centres, one flute lined up, all to the lowest.",
        grind,
        0,
        1.5,
        0,
        "Centres, a tooth rest, a wheel; its centres sound.",
        always("It is smaller by twice what comes off; on a taper only deeper."),
        ("cutter_grind",),
        caution=WHEEL,
        in_place=BY_ITSELF,
    ),
    _cutter(
        "new",
        "Another cutter",
        "Bought, read in the holder before it is used.",
        other,
        30,
        0.3,
        5,
        "Its size.",
        always("A hard hole ruins the next one too."),
        in_place=BY_ITSELF,
    ),
    _cutter(
        "other_way",
        "Another way for that hole",
        "Ground, lapped, or bushed.",
        leave,
        20,
        3,
        5,
        "A grinder or a lap.",
        always("No reamer goes in."),
        applies=lambda c: c.hole_file in ("skates", "drags"),
        hides=False,
        in_place=BY_ITSELF,
    ),
)
