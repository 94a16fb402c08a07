"""Which thread a feed screw has, by what was measured and seen."""

from __future__ import annotations

import math
import statistics
from typing import TYPE_CHECKING

from trebb.core.families.screw_drive.facts import tried_from
from trebb.core.families.screw_drive.which_thread import CRESTS
from trebb.core.threads import Hand, ThreadSpec, thread_limits
from trebb.core.threads.naming import Naming, Seen, name_thread
from trebb.core.threads.offered import ThreadThere
from trebb.logbook.cases.drive_read import DriveRead
from trebb.logbook.log.entries import FactStated
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    pass

# A length over several turns, or crests: what each of the two ends is off.
OVER_TURNS_SD_MM, OVER_CRESTS_SD_MM = 0.05, 0.04


class DriveNamed(DriveRead):
    """A feed screw and its name."""

    @property
    @derived
    def seen(self) -> Seen:
        """What was measured and seen of the thread, for naming it."""
        facts = self.job.facts_of(self.assembly_key)
        read = {
            p.place: statistics.fmean(p.values) for p in self.job.standing(self.assembly_key, "which_thread")
        }
        turns = [p for p in self.job.standing(self.assembly_key, "turns_travel") if p.values]
        majors = [
            p for p in self.job.standing(self.assembly_key, "thread_size") if p.place == "major, unworn"
        ]
        counted = {key: int(facts.get(key) or CRESTS) for key in ("seen_turns", "seen_crests")}
        lead = (
            read["turns"] / counted["seen_turns"]
            if "turns" in read
            else statistics.fmean(turns[0].values) / self.drive.turns * self.drive.ratio
            if turns
            else None
        )
        major = read.get("major", statistics.fmean(majors[0].values) if majors else None)

        def fact(key: str) -> float | None:
            value = facts.get(key, "")
            return None if value == "" else float(value)

        starts = fact("seen_starts")
        return Seen(
            turns=counted["seen_turns"] if "turns" in read or not turns else round(self.drive.turns),
            crests=counted["seen_crests"],
            lead_mm=lead,
            lead_sd_mm=OVER_TURNS_SD_MM / (counted["seen_turns"] if "turns" in read else self.drive.turns),
            pitch_sd_mm=OVER_CRESTS_SD_MM / counted["seen_crests"],
            pitch_mm=read["crests"] / counted["seen_crests"] if "crests" in read else fact("seen_pitch_mm"),
            major_mm=major,
            worn_major_mm=read.get("worn"),
            angle_deg=fact("seen_angle"),
            gauge_deg=fact("seen_gauge"),
            depth_mm=read.get("depth"),
            crest_flat_mm=read.get("flat"),
            crest=str(facts.get("seen_crest", "")),
            starts=int(starts) if starts else None,
            hand=Hand(facts["seen_hand"]) if facts.get("seen_hand") else None,
            tried=tuple(tried_from(str(facts.get("tried", "")))),
        )

    @property
    @derived
    def naming(self) -> Naming | None:
        """The threads it could be, likeliest first; None until there is a pitch and a diameter."""
        seen = self.seen
        return name_thread(seen) if seen.is_enough else None

    def name_bodies(self, spec: ThreadSpec) -> list[FactStated]:
        """What stating a thread records, in one gesture."""
        facts: dict[str, str | float] = {
            "form": spec.form.value,
            "major_mm": spec.major_mm,
            "pitch_mm": spec.pitch_mm,
            "starts": float(spec.starts),
            "hand": spec.hand.value,
        }
        return [FactStated(assembly=self.assembly_key, field=k, value=v) for k, v in facts.items()]

    @property
    def thread_known(self) -> ThreadSpec | None:
        """The thread that is there: as stated, else the likeliest by what was measured of it; None where
        nothing was.
        """
        if self.is_stated:
            return self.drive.thread
        return self.naming.candidates[0].spec if self.naming is not None else None

    @property
    def thread_there(self) -> ThreadThere | None:
        """The screw that is there, for what is offered to it; None where nothing is known of its thread."""
        spec, now = self.thread_known, self.estimate
        if spec is None:
            return None
        if not self.is_stated:  # nothing that was measured of another thread counts
            limits = thread_limits(spec)
            return ThreadThere(spec, limits.screw_pitch.middle_mm, 0.0, self.seen.major_mm)
        limits = thread_limits(spec)
        unworn, major = now.source("unworn"), now.source("major")
        measured = unworn.sd < 0.05
        worn = self.split.told["screw"].value if "screw" in self.split.told else 0.0
        slope = math.tan(spec.form.half_angle)
        told = self.split.told.get("nut")
        nut = unworn.value + told.value / slope if slope and measured and told is not None else None
        return ThreadThere(
            spec,
            unworn.value if measured else limits.screw_pitch.middle_mm,
            worn,
            major.value if major.sd < 0.1 else None,
            nut,
            self.drive.nut_length_mm,
        )
