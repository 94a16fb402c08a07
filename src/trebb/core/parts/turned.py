"""What the turned pieces share: fits from the measured mate, end threads, keys, cross holes, their checks."""

from __future__ import annotations

import itertools

from trebb.core.bores.bushes import running_clearance_um, running_fit, speed_m_s
from trebb.core.errors import InputError
from trebb.core.fits import shaft_limits
from trebb.core.fits.iso286 import it_um
from trebb.core.fits.keys import KeySeat, key_seat
from trebb.core.parts.base import Check, Feature, PartInputs, Section, SizeRow, band_of, round_size
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED, SCREWS, largest_under

CHAMFER_MM, UNDERCUT_MM = 0.5, 0.3
LEAST_WALL_MM = 1.5


THREAD_CHOICES = {"none": "none", **SCREWS}
HOLDS = {
    "key": "key", "taper_pin": "taper pin", "pin": "straight pin", "spring_pin": "spring pin",
    "shear_pin": "shear pin",
    "woodruff": "Woodruff key", "square": "square", "spline": "six splines", "screw": "set screw on a flat",
    "knurl": "a knurl, pressed",
    "none": "nothing",
}  # fmt: skip


def usual_thread(under_mm: float, *, inch: bool) -> str:
    """The largest listed thread that passes a bore with some room; "none" where none does."""
    return largest_under(LISTED, under_mm, inch=inch) or "none"


def clearance_mm(dia_mm: float, rpm: float = 0.0) -> tuple[float, float]:
    """Least and most running clearance of a turned or hand-turned shaft, mm."""
    dia = min(dia_mm, 120.0)
    low, high = running_clearance_um(dia, running_fit(speed_m_s(dia, rpm), by_hand=rpm == 0))
    return low / 1000, high / 1000


def to_mate(mate_mm: float, dia_mm: float, rpm: float = 0.0) -> Band:
    """Limits of a shaft that runs in a bore as *measured*: the running clearance taken off it, its upper
    half, since the bore is what it is.
    """
    least, most = clearance_mm(dia_mm, rpm)
    return Band(mate_mm - (least + most) / 2, mate_mm - least)


def journal(inputs: PartInputs, seat: str, dia_mm: float, words: str) -> tuple[Band, str, Check]:
    """Limits of a journal, the note beside them, and whether its bore was measured: without it the limits
    are those of a new bore of that name.
    """
    mate = inputs.measured.get(f"mate.{seat}")
    if mate is None and f"{seat}_dia" in inputs.facts and not is_called(dia_mm):
        fine = Band(dia_mm - it_um(dia_mm, 6) / 1000, dia_mm)
        return fine, "as set by hand", Check(True, f"The {words} is {inputs.size(dia_mm)}, as set by hand.")
    if mate is None:
        band = band_of(shaft_limits(dia_mm, "g6"))
        return (
            band,
            "g6, for an H7 bore",
            Check(
                False,
                f"The {words}'s bore is not measured: these limits are for a new H7 bore of "
                f"{inputs.size(dia_mm)}.",
            ),
        )
    return (
        to_mate(mate, dia_mm),
        f"to its bore, {inputs.size(mate)} as measured",
        Check(True, f"The {words} is fitted to its bore as measured."),
    )


def seat_band(inputs: PartInputs, seat: str, dia_mm: float) -> tuple[Band, str]:
    """Limits of a seat that a wheel slides on without play: to its bore as measured, else h6."""
    mate = inputs.measured.get(f"mate.{seat}")
    if mate is None:
        return band_of(shaft_limits(dia_mm, "h6")), "h6"
    return Band(mate - 0.012, mate - 0.002), f"slides in {inputs.size(mate)} as measured"


def key_of(dia_mm: float, *, inch: bool) -> KeySeat | None:
    """The usual key of a seat; None where the table has none so small."""
    try:
        return key_seat(dia_mm, inch=inch)
    except InputError:
        return None


def keyway(seat: KeySeat, start_mm: float, length_mm: float, dia_mm: float) -> Feature:
    """A keyway along a seat, its width with the limits of a key that is tight in its shaft (P9)."""
    return Feature(
        "keyway",
        start_mm,
        length_mm,
        seat.width_mm,
        seat.depth_mm(dia_mm),
        words=f"{seat.standard}",
        size=keyway_band(seat),
    )


def keyway_band(seat: KeySeat) -> Band:
    """Limits of a keyway's width in a shaft, where the key is tight: about P9, mm."""
    w = seat.width_mm
    return Band(w - 0.042 if w > 6 else w - 0.030, w - 0.012 if w > 6 else w - 0.006)


def keyway_row(seat: KeySeat) -> SizeRow:
    """The width of a keyway in a shaft."""
    return SizeRow("Keyway's width", "band", keyway_band(seat), "tight in the shaft", key="keyway_width")


def shoulder_checks(inputs: PartInputs, sections: tuple[Section, ...]) -> list[Check]:
    """Shoulders that are too small for what bears on them, and lengths that are none."""
    found = []
    for one, other in itertools.pairwise(sections):
        step = abs(one.diameter_mm - other.diameter_mm) / 2
        if 0.03 < step < 0.5:  # less is one diameter with two limits
            found.append(
                Check(
                    False,
                    f"The shoulder between {one.label} and {other.label} is only {inputs.size(step)} "
                    f"high: a washer or "
                    "a bearing's corner rides over it.",
                )
            )
    if not found:
        found.append(Check(True, "Every shoulder stands over the corner of what bears on it."))
    return found


def bar_for(
    inputs: PartInputs, largest_mm: float, length_mm: float, *, skin_mm: float = 1.5, ends_mm: float = 6.0
) -> tuple[str, Check]:
    """The round bar that a part is turned from, in words, and whether it goes through the lathe's spindle.

    Parameters
    ----------
    largest_mm, length_mm : of the finished part.
    skin_mm, ends_mm : what the bar is larger by, before its diameter is the next that is sold, and
        longer by, for facing (practice).
    """
    least, long = largest_mm + skin_mm, length_mm + ends_mm
    return bar_words(inputs, least, long), bar_check(inputs, inputs.bar_mm(least), long)


def bar_words(inputs: PartInputs, least_mm: float, long_mm: float) -> str:
    """A piece of the next round bar that is sold."""
    return f"bar {inputs.bar(least_mm)} × {inputs.size(long_mm)}"


def bar_check(inputs: PartInputs, dia_mm: float, long_mm: float) -> Check:
    """Whether a bar passes the lathe's spindle, or is short enough for the chuck alone."""
    bore = inputs.workshop.spindle_bore_mm
    if dia_mm <= bore and not inputs.workshop.is_bore_known:
        return Check(
            False, f"Bar of {inputs.size(dia_mm)} passes a usual bore of {inputs.size(bore)}: measure yours."
        )
    if dia_mm <= bore:
        return Check(True, f"Bar of {inputs.size(dia_mm)} passes the spindle's {inputs.size(bore)}.")
    if long_mm <= 4 * dia_mm:
        return Check(
            True,
            f"Bar of {inputs.size(dia_mm)} does not pass the spindle: cut to length first, it is "
            f"short enough.",
        )
    return Check(
        False,
        f"Bar of {inputs.size(dia_mm)} does not pass the spindle's {inputs.size(bore)}: between "
        f"centres, or a steady.",
    )


def broken_ends(length_mm: float) -> tuple[Feature, ...]:
    """A chamfer at both ends of a turned part."""
    return (Feature("chamfer", 0.0, CHAMFER_MM), Feature("chamfer", length_mm, CHAMFER_MM))


def undercuts(sections: tuple[Section, ...]) -> list[Feature]:
    """A relief at every shoulder that something bears on, and a chamfer at both ends."""
    found, z = [], 0.0
    total = sum(s.length_mm for s in sections)
    for i, s in enumerate(sections):
        z += s.length_mm
        if i + 1 < len(sections) and sections[i + 1].diameter_mm != s.diameter_mm:
            small = min(s.diameter_mm, sections[i + 1].diameter_mm)
            at = z if small == sections[i + 1].diameter_mm else z - 1.0
            found.append(Feature("undercut", at, 1.0, 0.0, UNDERCUT_MM))
    return [*found, *broken_ends(total)]


def is_inch_made(inputs: PartInputs) -> bool:
    """Whether the part's sizes are called in inches: those of what it belongs to, whatever is shown."""
    return bool(getattr(inputs.subject, "is_inch", False))


def is_called(mm: float) -> bool:
    """Whether a size is one that parts are called by, and not one off a micrometer. In mm."""
    return min(abs(mm - round_size(mm, inch)) for inch in (True, False)) < 0.003
