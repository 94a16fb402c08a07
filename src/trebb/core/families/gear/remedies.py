"""Remedies for a gear: leave, oil, spacer or centres, sleeve, end for end, another, teeth put back, new."""

from __future__ import annotations

from functools import partial
from typing import Any

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.gear.findings import JUDGING, shift_mm, spacer_mm
from trebb.core.families.gear.subject import Gear
from trebb.core.findings.judging import Outcome, outcome_by
from trebb.core.remedies.base import BY_ITSELF, Remedy, always, leave
from trebb.core.safety import DRIFT, HOT_METAL, LOCK_OUT, MILLING
from trebb.core.units import UnitSystem, show_size, show_small

SET_MM, CUT_ONCE_MM, CUT_OWN_MM, USED_SHARE = 0.015, 0.010, 0.010, 0.5
RUNNING_MM = 0.015


def _lash(gear: Gear, sd: float = SET_MM) -> dict[str, Shift]:
    return {"lash": Shift(gear.wanted_lash_mm, sd)}


def space(gear: Gear, now: Estimate) -> Change:
    """A bevel moved along its axis: the mean lash is set, what goes once a turn stays."""
    return Change(_lash(gear))


def _turn(gear: Gear, keys: tuple[str, ...], sd: float) -> dict[str, Shift]:
    return {f"{key}.{axis}": Shift(0.0, sd) for key in keys for axis in ("x", "y")}


def sleeve(gear: Gear, now: Estimate) -> Change:
    """Bore trued by the teeth and sleeved to the shaft: play and the gear's own turn go."""
    return Change({"play": Shift(RUNNING_MM, 0.005), **_turn(gear, ("once",), 0.012)})


def turn_round(gear: Gear, now: Estimate) -> Change:
    """Turned end for end: fresh flanks drive; lash, runout and bore stay, the teeth's differences halve."""
    return Change({"own": Shift(0.0, 0.005, {"own": 0.5})})


def other(gear: Gear, now: Estimate) -> Change:
    """A bought used one, checked: about half the wear that is usual, its own runout, set at its lash."""
    return Change(
        {
            **(_lash(gear, 0.03) if gear.is_bevel else {"lash": Shift(0.0, 0.03, {"lash": USED_SHARE})}),
            **_turn(gear, ("once",), 0.012),
            "own": Shift(0.015, 0.010),
            "play": Shift(0.025, 0.010),
            "thin": Shift(0.05, 0.03),
        }
    )


def new(gear: Gear, now: Estimate) -> Change:
    """Cut new to the mate and the shaft as they are."""
    return Change(
        {
            **_lash(gear, 0.02),
            **_turn(gear, ("once",), CUT_ONCE_MM),
            "own": Shift(CUT_OWN_MM, 0.004),
            "play": Shift(RUNNING_MM, 0.005),
            "thin": Shift(0.0, 0.01),
        }
    )


def teeth_back(gear: Gear, now: Estimate) -> Change:
    """Teeth built up and recut, or pins set in: only those teeth change."""
    return Change({"own": Shift(0.03, 0.015)})


def _space_risk(gear: Gear, split: Any, then: Outcome, system: UnitSystem) -> str:
    known = next((m for m in split if m.key == "lash"), None)
    if known is None:
        return "Read the lash at four quarters first: the spacer follows from it."
    lash = known.value.value
    thick = spacer_mm(gear, lash)
    turn = next((m.value.value / 2 for m in split if m.key == "runout"), 0.0)
    left = gear.wanted_lash_mm - turn
    if thick < 0:
        return (
            f"The spacer would be {show_small(-thick, system)} less than nothing: shim the other of the two."
        )
    said = f"Spacer {show_size(thick, system)}; "
    if left <= 0:
        return said + "the tightest tooth would bind: runout first."
    return said + f"{show_small(left, system)} is left at the tightest tooth."


def _centres_risk(gear: Gear, split: Any, then: Outcome, system: UnitSystem) -> str:
    known = next((m for m in split if m.key == "lash"), None)
    if known is None:
        return "Read the lash at four quarters first."
    by = shift_mm(gear, known.value.value)
    way = "closer" if by > 0 else "apart"
    return f"Centres {show_small(abs(by), system)} {way}: only where the stud can move."


_gear = partial(Remedy, family="gear", outcome=outcome_by(JUDGING))
_spur = partial(_gear, applies=lambda g: not g.is_bevel)
_bevel = partial(_gear, applies=lambda g: g.is_bevel)

GEAR_REMEDIES: tuple[Remedy, ...] = (
    _gear("leave", "Leave it", "Write down why.", leave, 0, 0, 0, "Nothing.", always("Noise and wear grow.")),
    _gear(
        "oil",
        "Quieter oil",
        "A heavier oil or a tacky one: less noise, nothing mended.",
        leave,
        2,
        0.3,
        0,
        "Oil that suits the pair, and bronze if it is one.",
        always("It only hides it."),
        hides=True,
        in_place=BY_ITSELF,
    ),
    _bevel(
        "spacer",
        "Shim it with a spacer",
        "One of the pair moved along its axis.",
        space,
        4,
        3,
        0,
        "Bar for a spacer, or shim washers.",
        _space_risk,
        ("gear_spacer",),
        caution=LOCK_OUT,
    ),
    _spur(
        "centres",
        "Set the centres",
        "Stud or bracket moved on its slot.",
        space,
        0,
        1,
        0,
        "A stud that can move; paper between the teeth.",
        _centres_risk,
        caution=LOCK_OUT,
        in_place=BY_ITSELF,
    ),
    _gear(
        "sleeve",
        "Sleeve the bore",
        "Bored true to the teeth, a sleeve pressed in, reamed to its shaft.",
        sleeve,
        9,
        4,
        0,
        "Bronze or iron bar; the gear held by its teeth.",
        always("Held by its outside it comes true to that, not to the teeth: pins in three spaces."),
        ("gear_sleeve",),
        caution=HOT_METAL,
    ),
    _gear(
        "turn",
        "Turn it end for end",
        "The unworn flanks drive.",
        turn_round,
        0,
        1.5,
        0,
        "A hub that allows it.",
        always("A long hub or a dog stands the wrong way then."),
        applies=lambda g: g.kind in ("spur", "helical") and g.hub_length_mm == 0,
        caution=DRIFT,
        on_it_hours=1.5,
    ),
    _gear(
        "used",
        "Another, used and checked",
        "Bought by its measurements, and measured before anything is taken apart for it.",
        other,
        35,
        3,
        10,
        "Teeth, name, bore, face, key, hub: ask for each.",
        always(
            "It may be the same age. Checked before the spindle comes out, because it must come out for it."
        ),
        ("new_gear",),
        ("new_gear",),
        caution=DRIFT,
    ),
    _gear(
        "build_up",
        "Build up the teeth and cut them again",
        "Brazed or welded, then cut with a form cutter.",
        teeth_back,
        15,
        5,
        3,
        "A welder for the metal, a form cutter, a dividing head.",
        always("Not in zinc, and not in hard teeth; the tooth beside it may crack."),
        hinder=lambda g: "Zinc cannot be built up: it melts first." if g.metal == "zinc" else "",
        applies=lambda g: bool(g.missing or g.chipped),
        caution=HOT_METAL,
        on_it_hours=5.0,
    ),
    _gear(
        "pins",
        "Pin in a tooth",
        "Screws side by side in the root, filed to the form.",
        teeth_back,
        3,
        3,
        0,
        "Screws of tough steel, a file, the mate as a gauge.",
        always("For light trains: it carries a part of what a tooth does."),
        hinder=lambda g: "Under module 1 there is no room for a screw in a root." if g.module_mm < 1 else "",
        applies=lambda g: bool(g.missing or g.chipped),
        on_it_hours=3.0,
    ),
    _gear(
        "new",
        "Make it new",
        "A blank, a form cutter, a dividing head.",
        new,
        25,
        8,
        0,
        "Bar, its form cutter, a mandrel.",
        always("A new gear with a worn mate wears quickly: run it in with both."),
        ("new_gear",),
        caution=MILLING,
    ),
    _bevel(
        "both",
        "Both of the pair, cut outside",
        "A pair is lapped together and stays together.",
        new,
        180,
        3,
        21,
        "A gear cutter's quote.",
        always("One of a lapped pair is no pair."),
    ),
)
