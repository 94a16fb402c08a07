"""What the core says of a feed screw."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from msgspec.structs import replace

from trebb.core.condition import Change, Quantity
from trebb.core.errors import InputError
from trebb.core.families.screw_drive.changes import made_as
from trebb.core.families.screw_drive.lash_split import PART_NAMES, lash_measure
from trebb.core.families.screw_drive.screw_lash import DIAL_SHARE, LEAST_ENGAGED
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.findings.base import unread_words
from trebb.core.machine import RatedLimit, State
from trebb.core.threads import Form, Hand, ThreadSpec, size_over_wires_mm, thread_limits
from trebb.core.threads.wires import size_between_balls_mm
from trebb.core.units import THOU_MM, UnitSystem, show_small, show_uncertain
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.drive_made import DriveMade
from trebb.logbook.log.entries import Planted
from trebb.logbook.log.fold import Job

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.making.infeed import InfeedScheme
    from trebb.core.practice import PracticeMachine
    from trebb.core.proof import Comparison


class DriveCase(DriveMade):
    """What the core says of a feed screw."""

    def proof_head(self, rows: Sequence[Comparison], system: UnitSystem) -> tuple[State, str, str]:
        m = lash_measure(self.read_as("after"), self._split_of("after"), self.limit)
        if m is None:
            return State.UNKNOWN, f"{self.judged.label}: nothing of it is read again yet.", ""
        name = "The dial still loses" if self.drive.has_dial else f"The {self.drive.what} still shifts by"
        was = lash_measure(self.drive, self.split, self.limit)
        head = (
            f"{name} up to {show_uncertain(m.value.value, m.value.half_width, system)}, limit "
            f"{show_small(self.limit.limit_mm, system)}"
            + (f"; it was {show_small(was.value.value, system)}." if was is not None else ".")
        )
        words = [unread_words(m.unread)] if m.unread else []
        told = sorted(self._split_of("after").told.items(), key=lambda part: -part[1].value)
        if m.state is not State.WITHIN and len(told) > 1:
            (key, first), (_, second) = told[:2]
            if first.value - second.value > first.half_width + second.half_width:
                name = self.drive.nut_words if key == "nut" else PART_NAMES[key]
                words.append(f"Most of what is left is {name}.")
        return m.state, head, " ".join(words)

    def describe(self) -> str:
        if not self.is_stated:
            return ""
        dial = (
            f", dial of {self.drive.divisions} divisions"
            if self.drive.has_dial
            else f", with {self.drive.nut_words}"
        )
        return self.drive.thread.designation + dial

    def limit_by(self, measure: str) -> RatedLimit:
        """The lash's and the lead's at Intake; of half nuts what shops go by."""
        depth, pitch = self.drive.thread.basic_height_mm, self.drive.thread.pitch_mm
        practice = {
            "standoff": (
                "Half nuts stand off",
                (1 - LEAST_ENGAGED) * depth,
                "three fifths of the depth engaged",
            ),
            "dial_slack": ("Thread dial's slack", DIAL_SHARE * pitch, "a line within a sixth of a thread"),
        }
        if measure in practice:
            label, limit_mm, why = practice[measure]
            return RatedLimit(measure, label, limit_mm, f"shop practice: {why}")
        return self.job.limit("lead_error") if measure == "lead_error" else self.limit

    shares_title = "Lash found before, by source"

    def shares(self) -> list[tuple[str, Quantity]]:
        split = self.split
        names = {
            "screw": "screw, worst",
            "nut": self.drive.nut_words,
            "float": "end float",
            "key": "key and handwheel",
        }
        found = [(name, split.told[key]) for key, name in names.items() if key in split.told]
        whole = split.whole
        if whole is not None and not whole.unread:
            found.append(("all, worst", split.worst.total))
        return found

    def practice(self, phase: str) -> PracticeMachine | None:
        machine = super().practice(phase)
        made = self.read_as(phase)
        return machine if machine is None or made is self.drive else replace(machine, subject=made)

    def practised(self, planted: Planted) -> ScrewDrive:
        """The drive with the thread it really has: a job may have been told another, or none."""
        hidden = planted.condition
        if "thread.pitch_mm" not in hidden:
            return self.drive
        spec = ThreadSpec(
            list(Form)[int(hidden["thread.form"])],
            hidden["thread.major_mm"],
            hidden["thread.pitch_mm"],
            int(hidden.get("thread.starts", 1)),
            Hand.LEFT if hidden.get("thread.left") else Hand.RIGHT,
            self.drive.thread.tolerance_class,
            self.drive.thread.square_clearance_mm,
        )
        return replace(self.drive, thread=spec)

    def _as_made(self, change: Change) -> Change:
        return made_as(change, self.nut_play_mm())

    def nut_play_mm(self) -> float | None:
        """Play of the new nut on its screw, as measured last on the bench; None if it was not.

        A screw that was cut below or above its band after the nut was fitted
        changes the play by ΔE·tan α: the nut is then no longer to suit.
        """
        sizes = self.sizes_of("nut", "nut_thread")
        if sizes and self.nut_check != "screw":
            nut = self.nut_pitch_dia()
            return (
                None
                if nut is None
                else max(
                    0.0, (nut - self._screw_pitch_dia()) * math.tan(self.made_drive.thread.form.half_angle)
                )
            )
        return sizes[-1] if sizes else None

    def simulated_size(self, part: str, scheme: InfeedScheme, operation: str = "") -> float | None:
        """What the practice machine's micrometer would read after the next pass; None for a real job.

        Over wires for the screw's thread: roughing leaves two thirds of the
        depth, then each size is taken after the next pass. For the nut the play
        on its screw. Both with the scatter of a careful turner.
        """
        planted = self.job.planted(self.assembly_key)
        if planted is None:
            return None
        sizes = self.job.sizes(
            self.part_name(part), operation or ("thread" if part == "screw" else "nut_thread")
        )
        rng = np.random.default_rng(planted.seed + 31 * len(sizes) + (0 if part == "screw" else 997))
        scatter = float(rng.standard_normal())
        target = next((o.target for o in self.route(part) if o.key == operation), None)
        if target is not None:  # a diameter comes down (a bore comes up) to its band in three cuts
            far = (0.4, 0.08, 0.0)[min(len(sizes), 2)]
            return target.band.middle_mm + target.side * far + 0.15 * target.band.width_mm * scatter
        if part != "screw" and self.nut_check != "screw":
            left = (0.30, 0.06, 0.0)[min(len(sizes), 2)]
            nut = self.nut_target_mm - left + 0.004 * scatter
            return (
                nut
                if self.nut_check == "plug"
                else size_between_balls_mm(self.made_drive.thread, nut, self.ball_mm)
            )
        if part != "screw":
            wanted = self.part_inputs("nut").facts.get("play", 1.5 * THOU_MM)
            return max(0.1 * THOU_MM, float(wanted) + 0.25 * THOU_MM * scatter)
        spec = self.made_drive.thread
        cuts = [p for p in self.passes(scheme) if not p.is_spring]
        begun = bool(self.sizes_of("screw", "thread"))
        depth = (
            self.full_depth_mm() if not cuts else cuts[0].cross_mm if begun else 0.66 * self.full_depth_mm()
        )
        if spec.form is Form.SQUARE:
            return depth + 0.006 * scatter
        pitch_dia = thread_limits(spec).screw_pitch.middle_mm + 2 * (self.full_depth_mm() - depth)
        return self.made_drive.as_read_mm(
            size_over_wires_mm(spec, pitch_dia + 0.006 * scatter, self.made_drive.wire)
        )


def drive_case(job: Job, assembly: str = "cross_slide") -> DriveCase:
    """The case of a feed screw. Raises InputError for an assembly that is none."""
    case = Cases(job).of(assembly)
    if not isinstance(case, DriveCase):
        raise InputError(f"assembly “{assembly}”", "it is not a feed screw")
    return case
