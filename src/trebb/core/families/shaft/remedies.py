"""Remedies for a shaft: straighten or make new, sleeve, build up, bush, key, pin, square."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

import numpy as np
from msgspec import Struct

from trebb.core.bores.bushes import torsion_left
from trebb.core.condition import Change, Estimate, Quantity, Shift
from trebb.core.condition.draws import draw, quantity
from trebb.core.families.shaft.bend import SHAFT_SHEAR_MPA, bend_vectors, combinations, measure_value
from trebb.core.families.shaft.subject import SEATS, Shaft, bend_key
from trebb.core.metals import FILE_HRC
from trebb.core.remedies.base import BY_ITSELF, Remedy, leave
from trebb.core.safety import DRIFT, HOT_METAL, PRESS, RETAINING, WHEEL
from trebb.core.shafts.driving import shaft_torque
from trebb.core.shafts.squares import plug_possible
from trebb.core.shafts.straightening import HARDEST_HRC, Straightening, straighten
from trebb.core.units import UnitSystem, show_size

# What each leaves (practice): bend after the press, a new turned shaft, running play as made, a fitted key.
PRESSED_MM, NEW_BEND_MM, RUNNING_MM, RUNNING_SD_MM, KEYED_MM = 0.008, 0.004, 0.018, 0.005, 0.005
SLEEVE_SHARE = 0.8  # a journal is turned to this share of itself for a sleeve


class ShaftPrediction(Struct, frozen=True):
    """What a remedy would leave, by measure, mm."""

    after: Estimate
    measures: Mapping[str, Quantity]

    @property
    def worst(self) -> Quantity:
        """The bend."""
        return self.measures["bend"]


def _outcome(shaft: Shaft, after: Estimate) -> ShaftPrediction:
    drawn = draw(after)
    keys = ("bend", *combinations(shaft))
    found = {key: measure_value(shaft, drawn, key, ()) for key in keys}
    # What a press leaves lies anywhere round nothing: its size is what will be read, not its mean.
    sizes = [2 * np.abs(bend_vectors(shaft, drawn, z)) for z in shaft.free]
    found["bend"] = quantity(np.max(sizes, axis=0))
    return ShaftPrediction(after, found)


def press_plan(shaft: Shaft, press_n: float = 20_000.0) -> Straightening | None:
    """How this bow is pressed out; None while no bow is read."""
    if shaft.bow_mm <= 0:
        return None
    return straighten(
        shaft.dia_mm,
        shaft.press_mm,
        shaft.bow_mm,
        shaft.metal.stands_mpa,
        press_kn=press_n / 1000,
        hardness_hrc=FILE_HRC.get(shaft.file),
    )


def why_not_pressed(shaft: Shaft) -> str:
    """Why a shaft may not be pressed, in a sentence; "" where it may."""
    if not shaft.file:
        return "Try a file on it first: a hard shaft cracks in the press."
    plan = press_plan(shaft)
    if plan is None:
        return "Read it turned first: how much and which way is not known."
    return {
        "": "",
        "hard": f"Hard, about {FILE_HRC.get(shaft.file, 0):.0f} HRC where {HARDEST_HRC:.0f} may be "
        f"pressed: it would crack.",
        "press": f"The press is too small: {plan.press_kn or plan.fully_plastic_kn:.0f} kN wanted.",
        "hinge": "So large a bow folds at one point: press it at several places along it, a little "
        "each, or make it new.",
        "strain": "The outer fibres would tear: make it new.",
        "service": "Service would undo it: no yield is left.",
    }[plan.why_not]


def _straight(shaft: Shaft, sd: float) -> dict[str, Shift]:
    return {f"{bend_key(z)}.{axis}": Shift(0.0, sd) for z in shaft.free for axis in ("x", "y")}


def press(shaft: Shaft, now: Estimate) -> Change:
    """Pressed until it runs true: what stays is what one more stroke would move too far."""
    return Change(_straight(shaft, PRESSED_MM))


def _seats(play: bool, *seats: str) -> dict[str, Shift]:
    found = {}
    for seat in seats:
        found[f"wear.{seat}"] = Shift(0.0, 0.002)
        found[f"oval.{seat}"] = Shift(0.0, 0.002)
        if play:
            mean = RUNNING_MM if seat != "seat" else 0.008
            found[f"play.{seat}"] = Shift(mean, RUNNING_SD_MM)
    return found


def new(shaft: Shaft, now: Estimate) -> Change:
    """A new shaft to the bores as they are, with a new key or pin."""
    held = {
        "joint": Shift(0.02, 0.02),
        "slot.shaft": Shift(0.0, KEYED_MM),
        "slot.hub": Shift(0.0, KEYED_MM),
        "socket": Shift(0.03, 0.02),
    }
    return Change(
        {**_straight(shaft, NEW_BEND_MM), **_seats(True, *SEATS), **held, "float": Shift(0.05, 0.02)}
    )


def sleeve(shaft: Shaft, now: Estimate) -> Change:
    """Journals turned down, sleeved and finished to the bores."""
    return Change(_seats(True, "left", "right"))


def build_up(shaft: Shaft, now: Estimate) -> Change:
    """Journals and seat built up and ground outside."""
    return Change(_seats(True, *SEATS))


def bush(shaft: Shaft, now: Estimate) -> Change:
    """The bores bushed to the journals as they are."""
    return Change({f"play.{seat}": Shift(RUNNING_MM, RUNNING_SD_MM) for seat in ("left", "right")})


def fit_key(shaft: Shaft, now: Estimate) -> Change:
    """A key made to both slots; what the wheel rocks on its seat stays."""
    slots = now.combination(combinations(shaft)["keyed"]).value
    joint = now.source("joint").value
    return Change(
        {
            "slot.shaft": Shift(0.0, KEYED_MM),
            "slot.hub": Shift(0.0, KEYED_MM),
            "joint": Shift(max(0.0, joint - slots), 0.3 * max(0.02, slots)),
        }
    )


def next_size(shaft: Shaft, now: Estimate) -> Change:
    """The next taper pin, reamed to both mouths: hub, pin and shaft are one."""
    return Change({"joint": Shift(0.0, 0.01), "play.seat": Shift(0.0, 0.005)})


def bond(shaft: Shaft, now: Estimate) -> Change:
    """The wheel's bore filled with retaining compound, and pinned."""
    return Change({"joint": Shift(0.0, 0.01), "play.seat": Shift(0.0, 0.005)})


def new_shear_pin(shaft: Shaft, now: Estimate) -> Change:
    """A pin new in the hole as it is: its clearance, 0.02 to 0.11 mm, rocks by 2 c/d at the radius."""
    share = 2 * shaft.wheel_mm / shaft.dia_mm
    return Change({"joint": Shift(0.06 * share, 0.025 * share)})


def plug(shaft: Shaft, now: Estimate) -> Change:
    """The socket plugged, broached and pinned."""
    return Change({"socket": Shift(0.03, 0.02), "joint": Shift(0.05, 0.04)})


def collar(shaft: Shaft, now: Estimate) -> Change:
    """A collar made to the stack of faces."""
    return Change({"float": Shift(0.05, 0.02)})


def stub(shaft: Shaft, now: Estimate) -> Change:
    """A new end pressed into the bored shaft and finished in place."""
    return Change({**_seats(True, "seat"), "joint": Shift(0.02, 0.02)})


def _risk(words: str) -> Callable[[Any, Any, Any, UnitSystem], str]:
    return lambda shaft, split, then, system: words


def _press_risk(shaft: Shaft, split: Any, then: Any, system: UnitSystem) -> str:
    plan = press_plan(shaft)
    if plan is None:
        return "It may come back a little within a day: read it again."
    return (
        f"Press {show_size(plan.springback_mm, system)} past straight on blocks "
        f"{show_size(shaft.press_mm, system, resolution_mm=1)} "
        "apart: so much springs back. Read after each stroke; twice past and it work-hardens."
    )


def _sleeve_hinder(shaft: Shaft) -> str:
    if shaft.file == "skates":
        return "Hard journals are not turned: build them up and grind, or make it new."
    left = shaft_torque(shaft.dia_mm, 0.0, SHAFT_SHEAR_MPA) * torsion_left(
        shaft.dia_mm, SLEEVE_SHARE * shaft.dia_mm
    )
    if shaft.torque_nm > left:
        return (
            f"Turned down for a sleeve it carries {left:.0f} N·m of the {shaft.torque_nm:g} asked: the "
            "sleeve counts for nothing."
        )
    return ""


_shaft = partial(Remedy, family="shaft", outcome=_outcome)

SHAFT_REMEDIES: tuple[Remedy, ...] = (
    _shaft(
        "leave",
        "Leave it",
        "Write down why.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        _risk("What is loose wears faster."),
    ),
    _shaft(
        "press",
        "Straighten it in the press",
        "Over straight by what springs back.",
        press,
        0,
        1.5,
        0,
        "A press, V-blocks, an indicator.",
        _press_risk,
        hinder=why_not_pressed,
        answered_by="file",
        caution=PRESS,
        on_it_hours=1.5,
    ),
    _shaft(
        "new",
        "Make the shaft new",
        "To the bores as they are, with a new key or pin.",
        new,
        15,
        6,
        0,
        "Bar, and one spare blank.",
        _risk("Index the wheel before it is pinned: its mark is lost else."),
        ("stepped_shaft",),
    ),
    _shaft(
        "stub",
        "Bore it and press a stub in",
        "Turned in place, so that it runs true.",
        stub,
        8,
        3.5,
        0,
        "A chuck or collet that holds it true.",
        _risk("The hole comes out larger than the cutter: the stub is turned to the hole as measured."),
        ("stub",),
        applies=lambda s: s.is_broken,
        caution=HOT_METAL,
    ),
    _shaft(
        "sleeve",
        "Sleeve the journals",
        "Turned down, sleeve pressed on, ground to the bores.",
        sleeve,
        12,
        5,
        0,
        "Bar for two sleeves.",
        _risk("A sleeve adds nothing to the strength."),
        ("journal_sleeve",),
        hinder=_sleeve_hinder,
    ),
    _shaft(
        "build_up",
        "Build up and grind",
        "Sprayed or plated and ground outside.",
        build_up,
        90,
        2,
        14,
        "A grinding shop.",
        _risk("Plated layers flake from a sharp edge: ask for the corners."),
        caution=WHEEL,
        on_it_hours=2.0,
    ),
    _shaft(
        "bush",
        "Bush the bores",
        "To the journals as they are.",
        bush,
        10,
        4,
        0,
        "Bronze bar, a reamer.",
        _risk("Both bores in one line: line-ream them together."),
        ("shaft_bush",),
    ),
    _shaft(
        "key",
        "Make a key to both slots",
        "Stepped where they differ.",
        fit_key,
        2,
        1,
        0,
        "Key stock.",
        _risk("Only what the key allowed goes: a wheel loose on its seat still rocks."),
        ("key",),
        applies=lambda s: s.drive == "key",
    ),
    _shaft(
        "next_pin",
        "Ream for the next pin",
        "By hand until it stands right.",
        next_size,
        3,
        0.7,
        0,
        "The reamer of that size.",
        _risk("Reamed with the wheel out of line it stays so."),
        ("taper_pin",),
        applies=lambda s: s.drive == "taper_pin",
        hinder=lambda s: "A file skates: no reamer cuts it." if s.file == "skates" else "",
        in_place=BY_ITSELF,
    ),
    _shaft(
        "weld_hole",
        "Weld the hole and drill anew",
        "For a hole that no pin cleans up.",
        next_size,
        8,
        2.5,
        0,
        "A welder, and time to cool.",
        _risk(
            "Heat moves the shaft: read it turned again before it is drilled. Drill beside the weld, "
            "not in it."
        ),
        ("taper_pin",),
        applies=lambda s: s.drive == "taper_pin",
        caution=HOT_METAL,
        on_it_hours=1.5,
    ),
    _shaft(
        "bond",
        "Compound and a pin",
        "For a wheel that came out loose on its seat.",
        bond,
        4,
        1,
        1,
        "Retaining compound, a pin.",
        _risk("Bonded before it is drilled: drilled loose, it turns and binds the drill."),
        ("straight_pin",),
        applies=lambda s: s.drive in ("pin", "spring_pin", "screw", "none"),
        caution=RETAINING,
    ),
    _shaft(
        "shear_pin",
        "New shear pin",
        "Weak on purpose: it goes before what it guards.",
        new_shear_pin,
        1.5,
        0.5,
        0,
        "Free-cutting or brass bar.",
        _risk("In a hole worn long it rocks on: ream for the next size and neck the pin."),
        ("shear_pin",),
        applies=lambda s: s.drive == "shear_pin",
        caution=DRIFT,
        in_place=BY_ITSELF,
    ),
    _shaft(
        "plug",
        "Plug the socket and broach it",
        "A plug turned to the hole, drilled, broached, pinned.",
        plug,
        25,
        3,
        7,
        "A broach, bought or borrowed first.",
        _risk("The broach wants a guide and a straight press."),
        ("square_plug",),
        applies=lambda s: s.drive == "square",
        hinder=lambda s: (
            "" if plug_possible(s.square_mm or 8.0, s.hub_mm) else "Too little wall is left round a plug."
        ),
        caution=PRESS,
    ),
    _shaft(
        "collar",
        "Collar to the stack of faces",
        "Takes the end float.",
        collar,
        4,
        1.5,
        0,
        "Bar end.",
        _risk("Each face read several times, or it binds at a high spot."),
        ("stack_collar",),
    ),
)
