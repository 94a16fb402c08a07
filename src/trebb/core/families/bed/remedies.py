"""Remedies for ways, headstock, tailstock and stand of a lathe: one machine in space, so what is done to one
part shows at the others.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from msgspec import Struct

from trebb.core.condition import Change, Estimate, Quantity, Shift, size_of
from trebb.core.condition.draws import draw
from trebb.core.dual_units import in_units
from trebb.core.families.bed.cuts import taper_row
from trebb.core.families.bed.findings import MEASURES, linear, measure_value
from trebb.core.families.bed.subject import FEET, WAYS, Bed
from trebb.core.remedies.base import BY_STEPS, Remedy, leave
from trebb.core.safety import LEAD_PAINT, LEVER, SCRAPERS, SLING
from trebb.core.units import UnitSystem, show_small

# What a level leaves when the bed is set by it; what a cut that is measured three times leaves on diameter.
LEVEL_LEFT_MRAD, CUT_LEFT_MM = 0.020, 0.004
TAIL_LEFT_MM, TAIL_HIGH_LEFT_MM = 0.004, 0.006
SCRAPED_MM = 0.003
KEY_LEFT = Shift(0.010, 0.003)


class BedPrediction(Struct, frozen=True):
    """What a remedy would leave, by measure, mm; `judged` is the one remedies of its assembly are compared
    by first.
    """

    after: Estimate
    measures: Mapping[str, Quantity]
    judged: str

    @property
    def worst(self) -> Quantity:
        """The assembly's first measure."""
        return self.measures[self.judged]


def _outcome(assembly: str, bed: Bed, after: Estimate) -> BedPrediction:
    drawn = draw(after)
    plain = linear(bed)
    values = {
        key: size_of(after.combination(plain[key])) if key in plain else measure_value(bed, drawn, key)
        for key in MEASURES
    }
    return BedPrediction(
        after, values, next(key for key, (part, _, _) in MEASURES.items() if part == assembly)
    )


# feet and headstock ---------------------------------------------------------------------------


def level_change(bed: Bed, now: Estimate) -> Change:
    """The feet set until the level across, on unworn metal, reads the same at both ends."""
    return Change({"twist": Shift(0.0, LEVEL_LEFT_MRAD)})


def shim_change(bed: Bed, now: Estimate) -> Change:
    """The feet shimmed until the two-collar cut is parallel, whatever made it tapered.

    The twist is then what outweighs all the rest over the lands, to what a cut tells.
    """
    coefficients = dict(taper_row(bed, 0).coefficients)
    per_mrad = coefficients.pop("twist")
    coefficients.pop("spring")
    return Change(
        {
            "twist": Shift(
                0.0, CUT_LEFT_MM / abs(per_mrad), {key: -c / per_mrad for key, c in coefficients.items()}
            )
        }
    )


def as_shimmed(bed: Bed) -> Change:
    """What lies under the feet by the trials so far: the twist as the bed answered to it."""
    return Change({"twist": Shift(0.0, 0.0, {"twist": 1.0, "answer": bed.shimmed(len(bed.shims))})})


def over_change(bed: Bed, now: Estimate) -> Change:
    """The headstock set over until the cut is parallel."""
    coefficients = dict(taper_row(bed, 0).coefficients)
    per_mrad = coefficients.pop("yaw")
    coefficients.pop("spring")
    return Change(
        {
            "yaw": Shift(
                0.0, CUT_LEFT_MM / abs(per_mrad), {key: -c / per_mrad for key, c in coefficients.items()}
            )
        }
    )


def level_and_over_change(bed: Bed, now: Estimate) -> Change:
    """The bed levelled, then the headstock set over for what is left: wear, side bend and the headstock
    itself.
    """
    over = over_change(bed, now).shifts["yaw"]
    of = {key: c for key, c in over.of.items() if key != "twist"}
    return level_change(bed, now).then(Change({"yaw": Shift(0.0, over.sd, of)}))


def scrape_change(bed: Bed, now: Estimate) -> Change:
    """Both ways scraped to one plane: bend, wear and side bend gone to what scraping leaves; the bed is
    levelled after.
    """
    shifts: dict[str, Shift] = {
        f"{way}.{k}": Shift(0.0, SCRAPED_MM) for way in WAYS for k in range(bed.steps + 1)
    }
    shifts.update({f"bend.{k}": Shift(0.0, SCRAPED_MM) for k in range(1, bed.steps)})
    shifts.update({f"side.{k}": Shift(0.0, SCRAPED_MM) for k in range(1, bed.steps)})
    return Change(shifts).then(level_change(bed, now))


# tailstock ------------------------------------------------------------------------------------


def set_over_change(bed: Bed, now: Estimate) -> Change:
    """Moved across until it reads right tightened; it lands there as well as it comes back."""
    wander = now.source("wander").value
    side = _parallel(bed, (TAIL_LEFT_MM**2 + wander**2) ** 0.5)
    return Change({"tail_side": side, "tail_used": Shift(0.0, 0.004)})


def _parallel(bed: Bed, sd: float) -> Shift:
    """The tailstock set until a piece between centres comes out parallel: it takes what the bed does too."""
    coefficients = bed.set_over()
    share = coefficients.pop("tail_side")
    return Shift(0.0, sd, {key: -c / share for key, c in coefficients.items()})


def raise_change(bed: Bed, now: Estimate) -> Change:
    """A shim of computed thickness under its base."""
    return Change({"tail_high": Shift(0.0, TAIL_HIGH_LEFT_MM)})


def key_change(bed: Bed, now: Estimate) -> Change:
    """Slot shimmed each side of the key, then set over."""
    return Change(
        {
            "tail_key": KEY_LEFT,
            "wander": Shift(0.002, 0.001),
            "tail_side": _parallel(bed, TAIL_LEFT_MM),
            "tail_shift": Shift(0.0, 0.004),
            "tail_used": Shift(0.0, 0.003),
        }
    )


def tail_all_change(bed: Bed, now: Estimate) -> Change:
    """Key, height and across."""
    return raise_change(bed, now).then(key_change(bed, now))


# stand ----------------------------------------------------------------------------------------


def feet_change(bed: Bed, now: Estimate) -> Change:
    """Soft feet packed to the floor, then all bolts drawn down."""
    return Change({f"foot.{foot}": Shift(0.010, 0.005) for foot in FEET})


def brace_change(bed: Bed, now: Estimate) -> Change:
    """Feet packed, the stand bolted to the floor and braced."""
    return feet_change(bed, now).then(Change({"stand_flex": Shift(0.0, 0.004, {"stand_flex": 0.35})}))


# words ----------------------------------------------------------------------------------------


Risk = Callable[[Any, Any, Any, UnitSystem], str]


def _risk(words: str) -> Risk:
    return lambda bed, split, then, system: words


def _risk_shim(bed: Bed, split: object, then: BedPrediction, system: UnitSystem) -> str:
    twist = then.measures["twist"]
    return (
        "It makes a cylinder of what the headstock does too: the bed is then left twisted by "
        f"{show_small(twist.value, system)} {in_units('in 1000 mm', system)}, and work between centres "
        "feels it."
    )


def _risk_key(bed: Bed, split: object, then: BedPrediction, system: UnitSystem) -> str:
    return (
        "Packed too tight it binds where the slot is least worn: try it along the whole bed. It then "
        f"comes back to {show_small(then.measures['tail_wander'].value, system)}."
    )


def _of(assembly: str) -> partial[Remedy]:
    return partial(Remedy, family=assembly, outcome=partial(_outcome, assembly))


_ways, _head, _tail, _stand = _of("ways"), _of("headstock"), _of("tailstock"), _of("stand")

BED_REMEDIES: tuple[Remedy, ...] = (
    _ways(
        "leave",
        "Leave it",
        "Write down why, and where on the bed work comes out best.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        _risk("Wear goes on where it is worst: near the chuck."),
    ),
    _ways(
        "level",
        "Level it by its feet",
        "Shims under the feet until the level across reads the same at both ends.",
        level_change,
        8,
        2.5,
        0,
        "Shim stock, a bar, a level of 0.02 mm/m.",
        _risk("A settled bed moves again: read it after a week and after a month."),
        ("foot_shims",),
        caution=LEVER,
        in_place=BY_STEPS,
    ),
    _ways(
        "scrape",
        "Scrape the ways, line the saddle",
        "Both ways to one plane with the least removed; the saddle lined up to its height again.",
        scrape_change,
        140,
        60,
        7,
        "Straightedge as long as the worn part, blue, scrapers, lining; patience.",
        _risk(
            "Hardened ways are ground, not scraped: file first. The saddle comes down by what is taken: line "
            "it, or rack and screw bind."
        ),
        ("saddle_liner", "foot_shims"),
        caution=f"{SCRAPERS} {SLING} {LEAD_PAINT}",
    ),
    _head(
        "leave",
        "Leave it",
        "Write down the taper, and turn to a stop.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        _risk("Every long bore and every shaft is filed to fit."),
    ),
    _head(
        "shim",
        "Shim by trial cuts",
        "Feet shimmed until two lands come out alike; each trial logged, the bed's answer learned.",
        shim_change,
        8,
        2.0,
        0,
        "Shim stock, a stub, a micrometer.",
        _risk_shim,
        ("foot_shims",),
        caution=LEVER,
        in_place=BY_STEPS,
    ),
    _head(
        "set_over",
        "Set the headstock over",
        "Swung on its pivot by its jacking screws until two lands come out alike.",
        over_change,
        0,
        2.5,
        0,
        "Its bolts and dowels in reach; a stub, a micrometer.",
        _risk(
            "Done on a twisted bed it hides the twist. Dowels and jacking screws must be found; a headstock "
            "that sits on a vee cannot be set over."
        ),
        caution="Under power between trials: chuck key out, bolts tight before every cut.",
        in_place=BY_STEPS,
    ),
    _head(
        "level_over",
        "Level the bed, then set the headstock over",
        "Twist out by the level first; the headstock takes what is left.",
        level_and_over_change,
        8,
        4.5,
        0,
        "A level, shim stock, a stub, a micrometer.",
        _risk("Longest of the three; the only one that leaves bed and headstock both right."),
        ("foot_shims",),
        caution=LEVER,
        in_place=BY_STEPS,
    ),
    _tail(
        "leave",
        "Leave it",
        "Log the tightened reading, set over by hand for each long piece.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        _risk("Each long piece begins with a trial cut."),
    ),
    _tail(
        "set_over",
        "Set it over",
        "Moved across until the tightened reading is nothing; aimed off for its habit.",
        set_over_change,
        0,
        1.0,
        0,
        "Bar between centres.",
        _risk("With a loose key it is right until it is moved."),
        in_place=BY_STEPS,
    ),
    _tail(
        "raise",
        "Raise it",
        "A shim of computed thickness under its whole base.",
        raise_change,
        5,
        3.0,
        0,
        "Brass or steel shim as large as the base.",
        _risk("A shim that does not reach the corners rocks."),
        ("tail_shim",),
    ),
    _tail(
        "key",
        "Shim its key, set it over",
        "The slot shimmed each side of the key; then it comes back to where it was.",
        key_change,
        6,
        3.0,
        0,
        "Shim strip or a new key.",
        _risk_key,
        ("tail_key",),
    ),
    _tail(
        "all",
        "Key, height and across",
        "Key shimmed, base shimmed, set over.",
        tail_all_change,
        11,
        5.5,
        0,
        "Shim strip, sheet, bar between centres.",
        _risk_key,
        ("tail_key", "tail_shim"),
    ),
    _stand(
        "leave",
        "Leave it",
        "All bolts drawn down as they are.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        _risk("A foot that is pulled down bends the bed; slackening it changes every level taken."),
    ),
    _stand(
        "feet",
        "Pack the soft feet",
        "Each foot packed to the floor before its bolt is drawn down.",
        feet_change,
        6,
        1.5,
        0,
        "Shim stock, a bar.",
        _risk("The bed springs as it comes free: level it again afterwards."),
        ("foot_shims",),
        caution=LEVER,
        in_place=BY_STEPS,
    ),
    _stand(
        "brace",
        "Pack the feet and brace the stand",
        "Bolted to the floor, a plate across its back.",
        brace_change,
        45,
        6,
        2,
        "Anchors, plate, a drill.",
        _risk("A floor that moves moves the machine: concrete, not boards."),
        ("foot_shims",),
        caution=LEVER,
        in_place=BY_STEPS,
    ),
)
