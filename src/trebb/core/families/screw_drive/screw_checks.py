"""What would spoil a feed screw."""

from __future__ import annotations

from collections.abc import Mapping

from trebb.core.families.screw_drive import screw_ends
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    PartInputs,
    number,
)
from trebb.core.parts.turned import bar_check
from trebb.core.threads import (
    Form,
    wire_range_mm,
)
from trebb.core.threads.tooling import follower_relief_mm, rest_words, wants_rest, work_spring_mm
from trebb.core.units import show_small

LIGHT_PASS_MM = 0.05


FACING_ALLOWANCE_MM = 1.6

JAW_MM = 10.0  # of a follower rest, along the screw
LEAST_AHEAD_MM = 3.0  # that its jaws must be ahead of the tool to bear on what is not cut
BARE_MM = 0.02  # that a screw may give where no rest stands: spring passes take that


def screw_checks(
    inputs: PartInputs, f: Mapping[str, str | float], stock_mm: float, length_mm: float
) -> tuple[Check, ...]:
    """What would spoil the screw: the bar, its ends, its thread, what it runs with. Fields as stored:
    lengths in mm.
    """
    return (
        *_bar_checks(inputs, f, stock_mm, length_mm),
        *_end_checks(inputs, f),
        *_spring_checks(inputs, f),
        *_thread_checks(inputs, f),
    )


def _bar_checks(
    inputs: PartInputs, f: Mapping[str, str | float], stock_mm: float, length_mm: float
) -> list[Check]:
    drive = inputs.about(ScrewDrive)
    spec = drive.thread
    checks = [bar_check(inputs, stock_mm, length_mm)]
    if f["construction"] == "bar":
        root = screw_ends.smallest_root_mm(drive)
        fits = largest_of_ends(f) <= root
        checks.append(
            Check.of(
                fits,
                f"All ends ({inputs.size(largest_of_ends(f))} at most) clean up below the bar's "
                f"smallest root, {inputs.size(root)}.",
                f"An end of {inputs.size(largest_of_ends(f))} does not clean up below the bar's "
                f"smallest root, {inputs.size(root)}: thread marks stay in it. Smaller ends, or from solid.",
            )
        )
    elif f["construction"] == "solid":
        checks += _step_checks(inputs, f)
        bearing_ok = number(f, "journal_dia") < spec.nut_minor_mm
        checks.append(
            Check(
                True,
                "The bearing could pass through the nut's bore."
                if bearing_ok
                else f"The bearing does not pass the nut's thread: it goes on from the {drive.driven_end}, "
                "and the collar stays on that side.",
            )
        )
    bar = number(f, "bar_length")
    if bar:
        wanted = length_mm + 2 * FACING_ALLOWANCE_MM
        checks.append(
            Check.of(
                bar >= wanted,
                f"The bar at hand, {inputs.size(bar)}, is long enough.",
                f"The bar at hand is {inputs.size(wanted - bar)} too short: a longer one, a shorter "
                "end, or a new thread joined to the old end.",
            )
        )
    return checks


def _end_checks(inputs: PartInputs, f: Mapping[str, str | float]) -> list[Check]:
    drive, spec = inputs.about(ScrewDrive), inputs.about(ScrewDrive).thread
    checks = []
    if f["fastening"] in ("taper_pin", "cross_pin"):
        pin, seat = 0.25 * number(f, "seat_dia"), number(f, "seat_dia")
        checks.append(
            Check(
                True,
                f"{screw_ends.FASTENINGS[str(f['fastening'])].capitalize()}: about {inputs.size(pin)} "
                f"through the {inputs.size(seat)} seat, a quarter of it; index the wheel to the dial before "
                "it is drilled."
                + (" A roll pin flexes and blocks an oil way." if f["fastening"] == "cross_pin" else ""),
            )
        )
    groove_ok = number(f, "groove_width") >= spec.pitch_mm
    checks.append(
        Check.of(
            groove_ok,
            "The relief groove is wider than a pitch: room to stop.",
            "The relief groove is narrower than a pitch: the tool has nowhere to stop.",
        )
    )
    room = number(f, "thread_length") - drive.travel_mm - drive.nut_length_mm
    checks.append(
        Check.of(
            room >= 0,
            f"The thread covers travel and nut with {inputs.size(room)} over.",
            f"The thread is {inputs.size(-room)} too short for travel and nut.",
        )
    )
    return checks


def _spring_checks(inputs: PartInputs, f: Mapping[str, str | float]) -> list[Check]:
    spec = inputs.about(ScrewDrive).thread
    checks = []
    if f["construction"] != "bar":
        spring = work_spring_mm(
            spec.screw_minor_max_mm,
            number(f, "thread_length") + 2 * spec.major_mm,
            spec,
            str(f["material"]),
            LIGHT_PASS_MM,
        )
        checks.append(_rest_check(inputs, f, spring))
    return checks


def _rest_check(inputs: PartInputs, f: Mapping[str, str | float], spring_mm: float) -> Check:
    """Whether a follower rest reaches the thread's end as it is drawn, and what the screw gives over what it
    does not reach. `spring_mm` : of the bare screw at its middle. Fields as stored: lengths in mm.
    """
    spec, long = inputs.about(ScrewDrive).thread, number(f, "thread_length")
    words = rest_words(spring_mm, long, inputs.system)
    if not wants_rest(spring_mm):
        return Check(True, words)
    # A right hand is cut toward the collar, into the groove; a left hand away from it, out over the pilot.
    is_left = spec.hand.value == "left"
    there = number(f, "pilot_length" if is_left else "groove_width")
    where = "pilot" if is_left else "relief groove"
    ahead = there - JAW_MM / 2 - 0.5 * spec.pitch_mm
    if ahead >= LEAST_AHEAD_MM - 0.5:
        return Check(
            True,
            f"{words} Its jaws no more than {inputs.size(ahead)} ahead of the tool: they end on the {where}.",
        )
    left = follower_relief_mm(LEAST_AHEAD_MM, JAW_MM, spec.pitch_mm) - there
    whole = long + 2 * spec.major_mm
    bare = spring_mm * 16 * (left * (whole - left)) ** 2 / whole**4  # a load beside a support, not midway
    wanted = inputs.size(there + left)
    if bare <= BARE_MM:
        return Check(
            True,
            f"{words} Jaws ahead of the tool stop {show_small(left, inputs.system)} before the thread's end: "
            f"the {where} is {inputs.size(there)} where {wanted} would do: over that they run behind it, and "
            f"the screw gives {show_small(bare, inputs.system)}.",
        )
    return Check(
        False,
        f"{words} It never reaches the thread's end: the {where} is {inputs.size(there)}, and over the last "
        f"{inputs.size(left)} the screw gives {show_small(bare, inputs.system)}. Make the {where} {wanted}.",
    )


def _unlike(inputs: PartInputs) -> list[Check]:
    """A thread that is not the old one: its nut goes with it, and what counts its turns."""
    old, drive = inputs.measured.get("old_lead"), inputs.about(ScrewDrive)
    if old is None:
        return []
    new = drive.thread.lead_mm
    same = abs(new - old) < 1e-6
    counts = "the dial" if drive.has_dial else "the threading chart and the thread dial"
    return [
        Check(
            True,
            f"{drive.thread.designation} is not the old thread: the old nut does not go on it, a new one "
            "is made with it.",
        ),
        Check.of(
            same,
            "A turn moves it as far as before.",
            f"A turn moves it {inputs.size(new)}, before {inputs.size(old)}: {counts} no longer reads "
            "true; make or change it too.",
        ),
    ]


def _thread_checks(inputs: PartInputs, f: Mapping[str, str | float]) -> list[Check]:
    drive, spec = inputs.about(ScrewDrive), inputs.about(ScrewDrive).thread
    checks = _unlike(inputs)
    if spec.form is not Form.SQUARE:
        low, high = wire_range_mm(spec)
        fits = low <= drive.wire <= high
        rest = "they sink below the crests" if drive.wire < low else "they rest on the crests, not the flanks"
        checks.append(
            Check.of(
                fits,
                f"Wires of {inputs.size(drive.wire)} sit between flank and crest (from {inputs.size(low)} to "
                f"{inputs.size(high)}).",
                f"Wires of {inputs.size(drive.wire)} do not sit: "
                f"{rest}; from {inputs.size(low)} to {inputs.size(high)} would.",
            )
        )
    if inputs.partner.get("material"):
        nut = material(str(inputs.partner["material"]))
        softer = nut.hardness_hb < material(str(f["material"])).hardness_hb
        checks.append(
            Check.of(
                softer,
                f"The nut ({nut.label}) is softer than the screw, so the cheaper part wears.",
                f"The nut ({nut.label}) is not softer than the screw: the screw will wear. Choose "
                "bronze, or a harder screw.",
            )
        )
    if number(f, "oil_way"):
        left = (spec.screw_minor_max_mm - number(f, "oil_way")) / 2
        checks.append(
            Check(
                left >= 0.25 * spec.screw_minor_max_mm,
                f"The oil way leaves a wall of {inputs.size(left)} under the thread"
                + ("." if left >= 0.25 * spec.screw_minor_max_mm else ": too thin; a smaller drill."),
            )
        )
    return checks


def _step_checks(inputs: PartInputs, f: Mapping[str, str | float]) -> list[Check]:
    """Whether everything slides on from its end, and the collar carries."""
    seat = inputs.about(ScrewDrive).seat_words.capitalize()
    seat_ok = number(f, "seat_dia") < number(f, "journal_dia") <= number(f, "collar_dia")
    face = (number(f, "collar_dia") - number(f, "journal_dia")) / 2
    face_ok = face >= 0.1 * number(f, "journal_dia")
    pilot_ok = number(f, "pilot_dia") < inputs.about(ScrewDrive).thread.screw_minor_max_mm
    return [
        Check.of(
            seat_ok,
            f"{seat}, journal and collar step up in that order, so each part slides on from the "
            f"{inputs.about(ScrewDrive).driven_end}.",
            f"{seat}, journal and collar must step up in that order, or the bracket cannot slide on.",
        ),
        Check(
            face_ok,
            f"The collar's face is {inputs.size(face)} "
            f"wide{'' if face_ok else ': too narrow to carry thrust; a larger collar needs larger bar'}.",
        ),
        Check.of(
            pilot_ok,
            "The pilot is under the root, so the nut goes on over it.",
            "The pilot is over the root: the nut cannot go on.",
        ),
    ]


def largest_of_ends(f: Mapping[str, str | float]) -> float:
    """Thickest of what is turned on the ends, mm."""
    return max(number(f, "journal_dia"), number(f, "seat_dia"), number(f, "end_dia"), number(f, "pilot_dia"))
