"""A measured size while threading: what is left, and what can be done if too much is gone."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.threads import (
    Band,
    Form,
    ThreadSpec,
    pitch_dia_from_wires_mm,
    size_over_wires_mm,
    thread_limits,
)
from trebb.core.threads.groove import SQUARE_OVER_MM, depth_at_pitch_dia_mm, groove_of
from trebb.core.threads.wires import pitch_dia_from_balls_mm, size_between_balls_mm
from trebb.core.units import UnitSystem, show_size, show_sizes, show_small


class ThreadState(Struct, frozen=True):
    """Where a thread being cut stands, mm.

    `flank_left_mm` is the metal to come off each flank, axially; `infeed_left_mm`
    the radial infeed that takes it with a tool of the right flat;
    `depth_mm` the depth reached. `verdict` is "large", "within" or "small".
    """

    over_wires_mm: float
    pitch_dia_mm: float
    target_mm: float
    band: Band
    flank_left_mm: float
    infeed_left_mm: float
    depth_mm: float
    verdict: str


def _groove_state(spec: ThreadSpec, depth_mm: float) -> ThreadState:
    """What the depth of a square groove says: its width is the tool's."""
    band = Band(spec.depth_mm, spec.depth_mm + SQUARE_OVER_MM)
    if not 0 < depth_mm < 2 * spec.depth_mm:
        raise InputError(
            f"a groove {depth_mm:.4g} mm deep",
            f"this one comes to {spec.depth_mm:.3f} mm; measure from the crest, not across",
        )
    verdict = "within" if band.holds(depth_mm) else "large" if depth_mm < band.low_mm else "small"
    return ThreadState(
        depth_mm, spec.pitch_dia_mm, band.middle_mm, band, 0.0, band.middle_mm - depth_mm, depth_mm, verdict
    )


def thread_state(drive: ScrewDrive, over_wires_mm: float) -> ThreadState:
    """What a size says of the screw's thread: over wires, or of a square thread the depth of its groove.

    The target is the middle of the class's band. Raises WireError when the size
    cannot be of this thread over these wires, InputError for a depth that cannot be.
    """
    spec = drive.thread
    if spec.form is Form.SQUARE:
        return _groove_state(spec, over_wires_mm)
    limits = thread_limits(spec)
    pitch_dia = pitch_dia_from_wires_mm(spec, drive.over_three_mm(over_wires_mm), drive.wire)
    flat = groove_of(spec).flat_mm
    target = limits.screw_pitch.middle_mm
    band = Band(
        *(
            drive.as_read_mm(size_over_wires_mm(spec, e, drive.wire))
            for e in (limits.screw_pitch.low_mm, limits.screw_pitch.high_mm)
        )
    )
    verdict = (
        "within" if limits.screw_pitch.holds(pitch_dia) else ("large" if pitch_dia > target else "small")
    )
    return ThreadState(
        over_wires_mm,
        pitch_dia,
        drive.as_read_mm(size_over_wires_mm(spec, target, drive.wire)),
        band,
        (pitch_dia - target) / 2 * math.tan(spec.form.half_angle),
        (pitch_dia - target) / 2,
        depth_at_pitch_dia_mm(spec, pitch_dia, flat),
        verdict,
    )


def state_sentence(drive: ScrewDrive, state: ThreadState, wanted_play_mm: float, system: UnitSystem) -> str:
    """What to do about it, in words."""
    if drive.thread.form is Form.SQUARE:
        if state.verdict == "large":
            return (
                f"{show_small(state.band.low_mm - state.over_wires_mm, system)} short of its depth: wind "
                f"in {show_small(state.infeed_left_mm, system)}, then widen to the play by the compound."
            )
        deep = (
            ""
            if state.verdict == "within"
            else f" {show_small(state.over_wires_mm - state.band.high_mm, system)} deeper than it need be: "
            "the screw is weaker by it, the fit is not touched."
        )
        return f"Deep enough: stop. The nut's ridge is made to this groove's width.{deep}"
    if state.verdict == "large":
        return (
            f"{show_small(state.over_wires_mm - state.band.high_mm, system)} over the band: "
            f"wind in {show_small(state.infeed_left_mm, system)} on radius in all, "
            f"{show_small(state.flank_left_mm, system)} a flank, to its middle."
        )
    if state.verdict == "within":
        return (
            f"Inside the band of {show_sizes(state.band.low_mm, state.band.high_mm, system)}: stop. "
            "Spring passes only."
        )
    slope = math.tan(drive.thread.form.half_angle)
    limits = thread_limits(drive.thread)
    basic_nut = limits.nut_pitch.middle_mm
    play = (basic_nut - state.pitch_dia_mm) * slope
    nut = state.pitch_dia_mm + wanted_play_mm / slope
    return (
        f"{show_small(state.band.low_mm - state.over_wires_mm, system)} under the band. In a nut to class it "
        "would have "
        f"{show_small(play, system)} of play. Cut the nut to suit, to a pitch diameter of "
        f"{show_size(nut, system)}, "
        f"and it has {show_small(wanted_play_mm, system)}: no bought nut will ever fit it. Or use the second "
        "blank."
    )


def nut_band_mm(drive: ScrewDrive, target_mm: float, ball_mm: float | None) -> Band:
    """Limits of the size between balls (of the largest plug that goes, with None) for a nut cut to a pitch
    diameter: a third of the play wanted either way, mm.
    """
    slope = math.tan(drive.thread.form.half_angle)
    room = NUT_PLAY_EITHER_WAY_MM / slope
    low, high = target_mm - room, target_mm + room
    return (
        Band(low, high)
        if ball_mm is None
        else Band(*(size_between_balls_mm(drive.thread, e, ball_mm) for e in (low, high)))
    )


NUT_PLAY_EITHER_WAY_MM = 0.013  # half a thou of play


def nut_sentence(
    drive: ScrewDrive, between_mm: float, ball_mm: float | None, target_mm: float, system: UnitSystem
) -> tuple[str, str, str]:
    """Tone, head and text for a nut's size between balls, or for the largest plug that goes (`ball_mm`
    None). Raises WireError for a size that cannot be.
    """
    pitch_dia = between_mm if ball_mm is None else pitch_dia_from_balls_mm(drive.thread, between_mm, ball_mm)
    band = nut_band_mm(drive, target_mm, ball_mm)
    slope = math.tan(drive.thread.form.half_angle)
    if band.holds(between_mm):
        return (
            "within",
            f"Inside {show_sizes(band.low_mm, band.high_mm, system)}: stop. Spring passes only.",
            "",
        )
    if between_mm < band.low_mm:
        left = (target_mm - pitch_dia) / 2
        return (
            "near",
            f"{show_small(left, system)} still to come off, on radius.",
            f"{show_small(left * slope, system)} a flank. Try the screw before the last pass.",
        )
    more = (pitch_dia - target_mm) * slope
    return (
        "beyond",
        f"{show_small(more, system)} more play than wanted.",
        "Keep it if the limit allows, cut the next screw larger to suit, or use the spare block.",
    )
