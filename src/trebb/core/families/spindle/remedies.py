"""Remedies for a spindle: bearings, journals, taper, seat, quill, coupler, chuck."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import cached_property, partial

from msgspec import Struct

from trebb.core.condition import Change, Estimate, Quantity, Shift
from trebb.core.condition.draws import draw
from trebb.core.families.spindle.bearings import front_and_rear, second
from trebb.core.families.spindle.findings import SpindleSplit, best_clocking
from trebb.core.families.spindle.sizes import measure_limits, measure_value
from trebb.core.families.spindle.subject import FITS, ONE_BEARING_LEVER, Spindle, vector_keys
from trebb.core.remedies.base import BY_STEPS, Remedy
from trebb.core.safety import HOT_BEARINGS, HOT_METAL, LOCK_OUT_CHUCK, PLATING, PRESS, SOLVENT, WHEEL
from trebb.core.units import UnitSystem, show_small

# What is left after work done with care, mm: amount and how well it repeats. Shop practice.
PRELOAD_LEFT = Shift(0.002, 0.0015)
FLOAT_LEFT = Shift(0.003, 0.002)
NEW_BEARING_SD, NEW_BEARING_LEAN_SD = 0.0012, 0.0005
GROUND_SD, GROUND_LEAN_SD = 0.0015, 0.0006
REAMED_SD, REAMED_LEAN_SD = 0.0040, 0.0020
SOUND_SEAT = Shift(0.0012, 0.0005)
REAMED_SEAT = Shift(0.0020, 0.0008)
FITTED = Shift(0.0, 0.0005)
LOOSE_MM = 0.002  # under this a bearing still holds
# What cleaning leaves of a seat's scatter, by where the blue rubbed: burrs go, wear stays.
CLEANED = {
    "one side": (0.25, 0.15),
    "patches": (0.6, 0.2),
    "all round and along": (0.5, 0.2),
    "the back only": (0.9, 0.1),
    "the mouth only": (0.9, 0.1),
}
CLEANED_UNKNOWN = (0.65, 0.3)


def _vector(name: str, sd: float, lean_sd: float = 0.0) -> dict[str, Shift]:
    """A vector made anew: true, but for the scatter of making."""
    shifts = {key: Shift(0.0, sd) for key in vector_keys(name)}
    if lean_sd:
        shifts.update({key: Shift(0.0, lean_sd) for key in vector_keys(f"{name}_lean")})
    return shifts


class SpindlePrediction(Struct, frozen=True, dict=True):
    """A spindle after a repair, in its measures."""

    spindle: Spindle
    after: Estimate

    @cached_property
    def measures(self) -> Mapping[str, Quantity]:
        """Each measure of this kind of spindle, mm."""
        drawn = draw(self.after)
        return {key: measure_value(self.spindle, drawn, key) for key in measure_limits(self.spindle)}

    @property
    def worst(self) -> Quantity:
        """Error at the work."""
        return self.measures["work"]


def no_change(spindle: Spindle, now: Estimate) -> Change:
    """Leave everything."""
    return Change()


def _clean_first(spindle: Spindle) -> str:
    """Dirt and burrs are why most seats do not repeat: two hours, before anything is ground."""
    return "" if spindle.cleaned == "yes" else "clean"


def clean_change(spindle: Spindle, now: Estimate) -> Change:
    """The seat's scatter falls by as much as dirt and burrs made of it."""
    share, doubt = CLEANED.get(spindle.contact, CLEANED_UNKNOWN)
    return Change({"seat": Shift(0.0003, 0.0003 + doubt * now.source("seat").value, {"seat": share})})


def _turned(name: str, turn_deg: float) -> dict[str, Shift]:
    """A vector turned by an angle, marks trusted to a degree or so."""
    c, s = math.cos(math.radians(turn_deg)), math.sin(math.radians(turn_deg))
    shifts = {}
    for x, y in (vector_keys(name), vector_keys(f"{name}_lean")):
        shifts[x] = Shift(0.0, 0.0003, {x: c, y: -s})
        shifts[y] = Shift(0.0, 0.0003, {x: s, y: c})
    return shifts


def clock_change(spindle: Spindle, now: Estimate) -> Change:
    """The chuck is turned on its seat until its error opposes the spindle's."""
    clocking = best_clocking(spindle, draw(now), spindle.pin_near_mm, "chuck")
    return Change(_turned("chuck", clocking.turn_deg))


def preload_change(spindle: Spindle, now: Estimate) -> Change:
    """Bearing slack and end float go; a bearing loose on its journal stays loose."""
    return Change({"slack": PRELOAD_LEFT, "float": FLOAT_LEFT})


def bearings_change(spindle: Spindle, now: Estimate) -> Change:
    """New bearings, preloaded, on the journals as they are. A loose journal lets them sit off centre by half
    its play.
    """
    off = math.hypot(NEW_BEARING_SD, 0.25 * now.source("loose.front").value)
    return preload_change(spindle, now).then(Change(_vector("bearing", off, NEW_BEARING_LEAN_SD)))


def sleeve_change(spindle: Spindle, now: Estimate) -> Change:
    """Every seat shown loose gets a sleeve, the loosest in any case; the bearings go back and are
    preloaded.
    """
    loose = {key for key in FITS if now.source(key).low > LOOSE_MM} | {loosest(now)}
    return preload_change(spindle, now).then(Change(dict.fromkeys(loose, FITTED)))


def loosest(now: Estimate) -> str:
    """The seat of a bearing with most looseness."""
    return max(FITS, key=lambda key: now.source(key).value)


def ream_change(spindle: Spindle, now: Estimate) -> Change:
    """The taper reamed in place on its own bearings."""
    return Change({**_vector("taper", REAMED_SD, REAMED_LEAN_SD), "seat": REAMED_SEAT})


def grind_change(spindle: Spindle, now: Estimate) -> Change:
    """Journals built up and ground, new bearings, then the taper ground on them."""
    fits = {"loose.front": FITTED, "loose.rear": FITTED}
    return bearings_change(spindle, now).then(
        Change(
            {
                **_vector("bearing", NEW_BEARING_SD, NEW_BEARING_LEAN_SD),
                **_vector("taper", GROUND_SD, GROUND_LEAN_SD),
                **fits,
                "seat": SOUND_SEAT,
            }
        )
    )


def cartridge_change(spindle: Spindle, now: Estimate) -> Change:
    """Spindle, bearings and their housing new."""
    return grind_change(spindle, now).then(Change({"loose.housing": FITTED}))


def second_bearing_change(spindle: Spindle, now: Estimate) -> Change:
    """A second bearing at the quill's other end: the spindle no longer swings about one."""
    share = 1 / ONE_BEARING_LEVER
    return Change({key: Shift(0.0, 0.0005, {key: share}) for key in ("loose.front", "loose.housing")}).then(
        Change(
            {
                "slack": Shift(PRELOAD_LEFT.amount * share, PRELOAD_LEFT.sd * share),
                "float": FLOAT_LEFT,
                **_vector("bearing", NEW_BEARING_SD, NEW_BEARING_LEAN_SD),
            }
        )
    )


def quill_change(spindle: Spindle, now: Estimate) -> Change:
    """The head's bore bushed and honed to the quill."""
    return Change({"quill": Shift(0.008, 0.003)})


def coupler_change(spindle: Spindle, now: Estimate) -> Change:
    """A sleeve over the worn splines, fitted to the drive."""
    return Change({"coupler": Shift(0.05, 0.02), "coupler_side": Shift(0.02, 0.01)})


def overhaul_change(spindle: Spindle, now: Estimate) -> Change:
    """Second bearing, quill's bore and coupler at one strip-down."""
    return (
        second_bearing_change(spindle, now)
        .then(quill_change(spindle, now))
        .then(coupler_change(spindle, now))
    )


def jaws_change(spindle: Spindle, now: Estimate) -> Change:
    """Jaws ground in place: the chuck runs as the spindle does, at that diameter."""
    return Change(_vector("chuck", 0.008, 0.006))


def backplate_change(spindle: Spindle, now: Estimate) -> Change:
    """Register eased, chuck tapped true by its pin, bolts drawn up: the offset goes, the lean stays."""
    z = spindle.pin_near_mm / 100.0
    x, y = vector_keys("chuck")
    lean_x, lean_y = vector_keys("chuck_lean")
    return Change({x: Shift(0.0, 0.006, {lean_x: -z}), y: Shift(0.0, 0.006, {lean_y: -z})})


# risks ----------------------------------------------------------------------------------------

Risk = Callable[[Spindle, SpindleSplit, SpindlePrediction, UnitSystem], str]


def _left(split: SpindleSplit, then: SpindlePrediction, key: str, system: UnitSystem) -> str:
    now = next((m.value.value for m in split.measures if m.key == key), None)
    left = then.measures[key].value
    if now is None:
        return f"{show_small(left, system)} left, by what such machines are like"
    return f"{show_small(now, system, unit=False)} now, {show_small(left, system)} then"


def _loose(then: SpindlePrediction, system: UnitSystem) -> str:
    worst = loosest(then.after)
    q = then.after.source(worst)
    if q.value < 0.003:
        return ""
    return f" The {FITS[worst]} stays {show_small(q.value, system)} loose: that slack no preload takes out."


def _risk(words: str, key: str = "work") -> Risk:
    def risk(spindle: Spindle, split: SpindleSplit, then: SpindlePrediction, system: UnitSystem) -> str:
        label = measure_limits(spindle)[key][0]
        return f"{label}: {_left(split, then, key, system)}. {words}"

    return risk


def _risk_bearings(spindle: Spindle, split: SpindleSplit, then: SpindlePrediction, system: UnitSystem) -> str:
    return f"Slack: {_left(split, then, 'slack', system)}.{_loose(then, system)} What the taper adds stays."


def _risk_preload(spindle: Spindle, split: SpindleSplit, then: SpindlePrediction, system: UnitSystem) -> str:
    return (
        f"Slack: {_left(split, then, 'slack', system)}.{_loose(then, system)} Too tight, it heats: run "
        "it warm and look."
    )


def _risk_clean(spindle: Spindle, split: SpindleSplit, then: SpindlePrediction, system: UnitSystem) -> str:
    known = (
        f"The blue says {spindle.contact}."
        if spindle.contact
        else "Without blue it is a guess how much is dirt."
    )
    return f"Seat: {_left(split, then, 'seat', system)}. {known}"


def _risk_clock(spindle: Spindle, split: SpindleSplit, then: SpindlePrediction, system: UnitSystem) -> str:
    clocking = best_clocking(spindle, split.drawn, spindle.pin_near_mm, "chuck")
    before, after = (show_small(q.value, system) for q in (clocking.before, clocking.after))
    shown = (
        ""
        if clocking.is_shown
        else " The directions are not shown yet: read the chuck and the spindle first."
    )
    return (
        f"Turned {clocking.turn_deg:.0f}°, a pin in the chuck goes from {before} to {after}.{shown} It "
        "holds while the mark is kept; nothing is mended."
    )


def _ream_hinder(spindle: Spindle) -> str:
    if spindle.hardness == "hard":
        return "The taper is hard: a reamer would be ruined and the bore scored. Grind it, or leave it."
    if spindle.hardness != "soft":
        return (
            "Hardness is not tested: draw a fine file lightly over the taper's mouth first. If it "
            "skates, it is hard."
        )
    return ""


def _one_bearing(spindle: Spindle) -> bool:
    return spindle.has_quill and spindle.bearing_count == 1


def _has_pair(spindle: Spindle) -> bool:
    """One bearing alone has nothing to be set against."""
    return not _one_bearing(spindle)


_spindle = partial(Remedy, family="spindle", outcome=SpindlePrediction)

SPINDLE_REMEDIES: tuple[Remedy, ...] = (
    _spindle(
        "leave",
        "Leave it",
        "Write down why; work near the nose, take light cuts.",
        no_change,
        0,
        0,
        0,
        "Nothing.",
        _risk("It goes on as it is, and a little worse each year."),
    ),
    _spindle(
        "clean",
        "Clean, deburr, seat again",
        "Both tapers washed, burrs stoned off, seated the same way each time.",
        clean_change,
        5,
        2,
        0,
        "Fine stone, solvent, marking blue to see by.",
        _risk_clean,
        caution=SOLVENT,
        in_place=BY_STEPS,
    ),
    _spindle(
        "clock",
        "Scribe and clock the chuck",
        "Turned on its seat until its error opposes the spindle's, and marked.",
        clock_change,
        0,
        1.5,
        0,
        "Scriber, a ground pin.",
        _risk_clock,
        caution=LOCK_OUT_CHUCK,
        in_place=BY_STEPS,
    ),
    _spindle(
        "preload",
        "Set the preload",
        "Tightened until the play goes, then checked that it still turns free.",
        preload_change,
        0,
        2,
        0,
        "Pin spanner, spring balance, thermometer.",
        _risk_preload,
        ("pin_spanner",),
        applies=_has_pair,
        in_place=BY_STEPS,
    ),
    _spindle(
        "bearings",
        "New bearings on the old journals",
        "A matched set, preloaded by spacers or nut.",
        bearings_change,
        180,
        8,
        7,
        "Bearings of the spindle class, puller, oven or induction heater, grease or oil.",
        _risk_bearings,
        ("spacer", "pin_spanner"),
        caution=HOT_BEARINGS,
        items=front_and_rear,
    ),
    _spindle(
        "sleeve",
        "Sleeve the loose seats",
        "Turned down or bored, a sleeve shrunk on, ground or turned true.",
        sleeve_change,
        60,
        11,
        4,
        "Another lathe, or a grinder; a press or an oven.",
        _risk_bearings,
        ("sleeve", "spacer"),
        caution=f"{PRESS} {HOT_METAL}",
    ),
    _spindle(
        "ream",
        "Ream the taper on its own bearings",
        "Only a soft one: a light cut by hand, spindle turned slowly.",
        ream_change,
        45,
        3,
        4,
        "Finishing taper reamer in good order, cutting oil.",
        _risk("A reamer follows the old hole: it trues less than grinding does."),
        hinder=_ream_hinder,
        answered_by="hardness",
        first=_clean_first,
        in_place=BY_STEPS,
    ),
    _spindle(
        "grind",
        "Build up and grind, taper last",
        "Journals plated and ground, new bearings, then the taper ground on them.",
        grind_change,
        420,
        14,
        28,
        "A licensed plating shop and a specialist grinder; new bearings.",
        _risk("It leaves the shop for a month; agree the sizes in writing."),
        ("spacer", "pin_spanner"),
        caution=PLATING,
        first=_clean_first,
        items=front_and_rear,
        on_it_hours=6.0,
    ),
    _spindle(
        "cartridge",
        "A whole new cartridge",
        "Spindle, bearings and housing as one.",
        cartridge_change,
        950,
        9,
        35,
        "The maker's or a specialist's part; a box or jack that takes its weight; every stored tool length "
        "shifts.",
        _risk("Measure one tool's length before the old one comes out. Its float and preload are its own."),
        comes_whole=True,
        first=_clean_first,
    ),
    _spindle(
        "second_bearing",
        "A second quill bearing",
        "The quill's other end bored for a second bearing: the spindle is held at both ends.",
        second_bearing_change,
        55,
        9,
        5,
        "A lathe that swings the quill, or a mill to bore it; a bearing.",
        _risk(
            "Indicate the quill by its outside, not by the old bore; measure the wall under the rack first.",
            "slack",
        ),
        ("bearing_seat", "locking_collar"),
        applies=_one_bearing,
        items=second,
    ),
    _spindle(
        "quill",
        "Bush the quill's bore",
        "The head bored, a cast-iron bush pressed in and honed to the quill.",
        quill_change,
        70,
        9,
        5,
        "A mill that takes the head, a hone.",
        _risk("Bushed out of line it moves the drill sideways through the stroke.", "slack"),
        ("sleeve",),
        applies=lambda s: s.has_quill,
    ),
    _spindle(
        "coupler",
        "Sleeve the drive coupler",
        "A sleeve over the worn splines, fitted to the drive.",
        coupler_change,
        15,
        3,
        2,
        "Bar end, a file or a broach for the splines.",
        _risk("Spins free first: pin it only after it is tried.", "coupler"),
        ("coupler_sleeve",),
        applies=lambda s: s.has_quill,
    ),
    _spindle(
        "overhaul",
        "Second bearing, quill and coupler",
        "All three while it is apart.",
        overhaul_change,
        125,
        18,
        5,
        "As for each of the three.",
        _risk("Most work of all, and one strip-down.", "slack"),
        ("bearing_seat", "locking_collar", "sleeve", "coupler_sleeve"),
        applies=_one_bearing,
        items=second,
    ),
    _spindle(
        "jaws",
        "True the jaws in place",
        "Jaws loaded outward on a ring and ground.",
        jaws_change,
        20,
        2,
        0,
        "A small grinder on the slide, the ways well covered.",
        _risk("True at that diameter only; the spindle is not mended.", "chuck"),
        applies=lambda s: s.kind == "lathe",
        caution=WHEEL,
        in_place=BY_STEPS,
    ),
    _spindle(
        "backplate",
        "Adjust the chuck on its backplate",
        "Bolts eased, tapped true on a pin, drawn up.",
        backplate_change,
        0,
        1.5,
        0,
        "A soft hammer, a ground pin.",
        _risk("The offset goes, the lean stays; it may move again after a bump.", "chuck"),
        applies=lambda s: s.kind == "lathe",
        in_place=BY_STEPS,
    ),
)
