"""What the core says of a feed screw."""

from __future__ import annotations

import math
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import replace
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

import numpy as np

from trebb.core.condition import Change, ErrorModel, Estimate, Quantity, Suggestion
from trebb.core.errors import InputError
from trebb.core.facts import Fact
from trebb.core.findings import Finding, LashSplit, Measure, lash_findings, split_lash, split_parts
from trebb.core.findings.base import judge, unread_words
from trebb.core.findings.lash_split import KNOWN_SHARE, PART_NAMES, lash_measure
from trebb.core.findings.screw_lash import (
    DIAL_SHARE,
    LEAST_ENGAGED,
    lead_is_read,
    progressive_error,
    suggestion_reason,
)
from trebb.core.machine import RatedLimit, ScrewDrive, State, drive_model
from trebb.core.remedies.screw_drive import made_as
from trebb.core.stating.screw_drive import MAKE, tried_from, usual_drive
from trebb.core.survey import AnySetUp, reduced_mean
from trebb.core.survey.base import station_of
from trebb.core.survey.which_thread import CRESTS
from trebb.core.threads import (
    Form,
    Hand,
    ThreadSpec,
    pitch_dia_from_wires_mm,
    size_over_wires_mm,
    thread_limits,
    tool_flat_mm,
)
from trebb.core.threads.naming import Naming, Seen, name_thread
from trebb.core.threads.offered import ThreadThere
from trebb.core.threads.wires import best_wire_mm, pitch_dia_from_balls_mm, size_between_balls_mm
from trebb.core.units import INCH_MM, THOU_MM, UnitSystem, show_small, show_uncertain
from trebb.logbook.case import Answer, Case, Question
from trebb.logbook.casework import Cases
from trebb.logbook.entries import FactStated, Planted
from trebb.logbook.fold import Job
from trebb.logbook.tracking import derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.gears.trains import Train
    from trebb.core.making.infeed import InfeedScheme, Pass
    from trebb.core.parts import PartInputs
    from trebb.core.proof import Comparison

# The first pass of a screw thread in steel, on radius; light enough for an old lathe.
FIRST_PASS_MM = 0.30
LAST_PASS_MM = 0.05
ROUGH_LEFT_MM = 0.1  # on radius, for the finisher
NUT_DONE_MM = 0.003  # radius within which a nut is its size


class DriveCase(Case):
    """What the core says of a feed screw."""

    family = "screw_drive"
    default_parts = ("screw", "nut")

    @property
    def usual(self) -> ScrewDrive:
        """What such a drive usually is, before anything is stated."""
        return usual_drive(self.kind.works_as, self.assembly_key)

    @property
    def drive(self) -> ScrewDrive:
        """The drive as stated."""
        found: ScrewDrive = self.subject
        return found

    @property
    def made_subject(self) -> ScrewDrive:
        return self.made_drive

    @property
    def made_drive(self) -> ScrewDrive:
        """The drive as it is made: with the new thread where a new screw is, else with the old one."""
        chosen = self.chosen
        return self.drive.as_made if chosen is None or "screw" in chosen.parts else self.drive

    def stated(self, fact: Fact) -> Any:
        drive = self.drive
        shown = {"wire_mm": drive.wire, "crest_mm": drive.crest_mm or drive.thread.major_mm}
        if fact.key in shown:
            return shown[fact.key]
        if fact.key.startswith(MAKE):
            return self.facts.get(fact.key)
        return getattr(drive.thread, fact.name) if hasattr(drive.thread, fact.name) else super().stated(fact)

    @property
    def is_stated(self) -> bool:
        """Whether somebody said which thread it is."""
        return "pitch_mm" in self.job.facts_of(self.assembly_key)

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return drive_model(self.drive)

    @property
    def dial_is_stated(self) -> bool:
        """Whether the dial's convention was asked and answered."""
        return "reads" in self.job.facts_of(self.assembly_key)

    def question(self, s: AnySetUp, phase: str, system: UnitSystem) -> Question | None:
        if phase != "before" or s.key != "lash" or self.dial_is_stated:
            return super().question(s, phase, system)
        answers = tuple(
            Answer(
                f"dial_{key}",
                words,
                f"{words}; asked once",
                (FactStated(assembly=self.assembly_key, field="reads", value=key),),
            )
            for key, words in (("radius", "Counts the slide's travel"), ("diameter", "Counts the diameter"))
        )
        return Question(
            "dial",
            "How is this dial numbered?",
            "Turn the handwheel once and measure: does the dial count the slide's travel, or twice that (the "
            "work's diameter)?",
            answers,
        )

    def warning(self, s: AnySetUp, phase: str) -> tuple[str, str, tuple[tuple[str, str], ...]] | None:
        if (
            phase != "before"
            or self.is_stated
            or s.key == "which_thread"
            or (not self.job.facts_of(self.assembly_key) and self.planted() is None)
        ):
            return None
        return (
            "Nobody has said which thread this is.",
            f"Until it is named Trebb counts with a usual one, {self.drive.thread.designation}.",
            (("Name the thread", "which_thread"),),
        )

    @property
    def limit(self) -> RatedLimit:
        return self.job.limit(self.drive.limit_key)

    def limit_keys(self) -> Sequence[str]:
        return (self.drive.limit_key, "lead_error")

    @property
    def judged(self) -> Measure:
        figures = self.figures
        return figures[0] if figures else self._usual()

    def _usual(self) -> Measure:
        """The lash as such a screw usually has it, where nothing of it is read."""
        unread = (("anything of the lash", "lash"),)
        return Measure(
            "lash", "Lash at the worst", self.limit, self.split.worst.total, unread, is_expected=True
        )

    @property
    @derived
    def figures(self) -> Sequence[Measure]:
        return self._figures_of("before")

    def _figures_of(self, phase: str) -> Sequence[Measure]:
        lash = lash_measure(self.drive, self._split_of(phase), self.limit)
        error = self._lead_measure(self.alone_of(phase))
        return tuple(m for m in (lash, error) if m is not None)

    def _lead_measure(self, now: Estimate) -> Measure | None:
        """The screw's own error in 300 mm, where it was read."""
        if not lead_is_read(self.drive, now):
            return None
        q = progressive_error(self.drive, now)
        size = Quantity(
            abs(q.value), max(0.0, abs(q.value) - q.half_width), abs(q.value) + q.half_width, q.sd
        )
        return Measure("lead_error", "Screw's error in 300 mm", self.job.limit("lead_error"), size)

    def left_by(self, prediction: Any, figure: str = "") -> Quantity:
        """What a prediction leaves of the lash at its worst, or of the screw's own error."""
        if figure == "lead_error":
            left = self._lead_measure(prediction.after)
            if left is not None:
                return left.value
        worst: Quantity = prediction.worst
        return worst

    def _left_judged(self, prediction: Any, measure: Measure) -> State:
        """The worst that any station is judged to be: one over the limit is enough, all must be inside."""
        if measure.key != "lash":
            return super()._left_judged(prediction, measure)
        states = {judge(q, measure.limit.limit_mm) for q in prediction.lash}
        order = (State.BEYOND, State.UNKNOWN, State.NEAR, State.WITHIN)
        state = next(state for state in order if state in states)
        # How much of a sum a repair takes out is not known while the sum is all that is: it may be all of it.
        hangs = state is State.BEYOND and self._mended(prediction) - set(self.split.told)
        return State.UNKNOWN if hangs else state

    def _mended(self, prediction: Any) -> set[str]:
        """Parts of the lash, as it is split, that a repair changes."""
        now, then = self.alone, prediction.after
        changed = {
            source.key
            for source, was, is_ in zip(now.model.sources, now.mean, then.mean, strict=True)
            if abs(is_ - was) > 1e-9
        }
        parts = {"screw" if key.startswith("wear.") else key for key in changed}
        return parts & {"nut", "screw", "float", "key"}

    def figure_now(self) -> Measure | None:
        after = self._figures_of("after") if self.progress("after")[0] else ()
        return after[0] if after else super().figure_now()

    @property
    def fit_plan(self) -> str:
        return "fit" if self.assembly_key == "cross_slide" else f"fit.{self.assembly_key}"

    @property
    @derived
    def split(self) -> LashSplit:
        """The lash split among its sources."""
        return self._split_of("before")

    @property
    def is_told_apart(self) -> bool:
        return {"nut", "screw", "float"} <= set(self.split.told) and not self.split.stations_unread()

    @derived
    def _split_of(self, phase: str) -> LashSplit:
        return split_lash(self.drive, self.estimate_of(phase), self.alone_of(phase), self.limit.limit_mm)

    def _findings(self, system: UnitSystem) -> list[Finding]:
        return lash_findings(self.drive, self.estimate, self.alone, self.limit, system)

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return split_parts(self.split if self.is_measured else None, dial=self.drive.has_dial)

    def doubt_scale_mm(self) -> float:
        return KNOWN_SHARE * self.limit.limit_mm

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return suggestion_reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)

    # which thread ---------------------------------------------------------------------------

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
        lead = (
            read["turns"] / CRESTS
            if "turns" in read
            else statistics.fmean(turns[0].values) / self.drive.turns
            if turns
            else None
        )
        major = read.get("major", statistics.fmean(majors[0].values) if majors else None)

        def fact(key: str) -> float | None:
            value = facts.get(key, "")
            return None if value == "" else float(value)

        starts = fact("seen_starts")
        return Seen(
            lead_mm=lead,
            pitch_mm=read["crests"] / CRESTS if "crests" in read else fact("seen_pitch_mm"),
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

    # parts and making -------------------------------------------------------------------------

    @property
    def optional_parts(self) -> tuple[str, ...]:  # type: ignore[override]
        """A dial, where there is one to read and a screw is made to carry it."""
        with_screw = self.chosen is None or "screw" in self.chosen.parts or self.is_made_too("dial")
        return ("dial",) if self.drive.has_dial and with_screw else ()

    def sizes_of(self, part: str, operation: str) -> list[float]:
        """Sizes of a part that stand, in the order taken, mm; of a screw's thread only those read as it is
        read now.
        """
        sizes = [s.taken for s in self.job.sizes(self.part_name(part), operation) if s.struck is None]
        how = {"thread": self.thread_size_words, "nut_thread": self.nut_size_words}.get(operation)
        return [t.value_mm for t in sizes if how is None or t.what == how]

    @property
    def nut_check(self) -> str:
        """How the nut's thread is checked: by its "screw", by a "plug" of known size, or by "balls" (a
        square thread only by its screw).
        """
        chosen = str(self.job.part_facts(self.part_name("nut")).get("check", "screw"))
        return chosen if chosen == "screw" or self.made_drive.thread.form is not Form.SQUARE else "screw"

    @property
    def nut_size_words(self) -> str:
        """What is measured of a nut's thread being cut."""
        return {"balls": "between balls", "plug": "largest plug that goes"}.get(
            self.nut_check, "play on its screw"
        )

    @property
    def ball_mm(self) -> float:
        """Balls that sit at the nut's pitch line."""
        return round(best_wire_mm(self.made_drive.thread) * 8) / 8

    @property
    def nut_target_mm(self) -> float:
        """Pitch diameter the nut is to be cut to."""
        from trebb.core.parts.nut import nut_pitch_dia_mm

        return nut_pitch_dia_mm(self.part_inputs("nut"))

    def nut_pitch_dia(self) -> float | None:
        """Pitch diameter of the nut as cut, by its last size that stands; None before the first."""
        sizes = self.sizes_of("nut", "nut_thread")
        if not sizes or self.made_drive.thread.form is Form.SQUARE:
            return None
        if self.nut_check == "balls":
            return pitch_dia_from_balls_mm(self.made_drive.thread, sizes[-1], self.ball_mm)
        if self.nut_check == "plug":
            return sizes[-1]
        return self._screw_pitch_dia() + sizes[-1] / math.tan(self.made_drive.thread.form.half_angle)

    def _screw_pitch_dia(self) -> float:
        """Pitch diameter of the screw the nut is for: measured, else the middle of its class."""
        found, _ = self._screw_for_nut()
        return found if found is not None else thread_limits(self.made_drive.thread).screw_pitch.middle_mm

    @property
    def thread_size_words(self) -> str:
        """What is measured of a screw's thread being cut: no wire sits in a square one."""
        return (
            "depth of the groove"
            if self.made_drive.thread.form is Form.SQUARE
            else "over one wire"
            if self.made_drive.gauge == "one_wire"
            else "over wires"
        )

    def wear_read(self) -> list[tuple[float, float]]:
        """The screw's wear where its thread was measured, each against its unworn end: way along the travel
        and play gone, mm.
        """
        s, drive = next(s for s in self.set_ups if s.key == "thread_size"), self.drive
        means = {p.place: reduced_mean(s, drive, p) for p in self.known_places(s, "before")}
        slope = math.tan(drive.thread.form.half_angle)
        found = []
        for how, factor in (("wires", slope), ("thickness", 1.0)):
            new = means.get(f"{how}, unworn")
            for place, size in means.items():
                what, where = place.split(", ")
                if what == how and new is not None and where != "unworn":
                    way = (
                        float(where[3:-3]) if where.startswith("at ") else drive.station_mm(station_of(where))
                    )
                    found.append((way, (new - size) * factor))
        return found

    def made_screw_pitch_dia(self) -> float | None:
        """Pitch diameter of the screw as cut: the last size over wires that stands."""
        sizes = self.sizes_of("screw", "thread")
        if not sizes or self.made_drive.thread.form is Form.SQUARE:
            return None
        try:
            return pitch_dia_from_wires_mm(
                self.made_drive.thread, self.made_drive.over_three_mm(sizes[-1]), self.made_drive.wire
            )
        except InputError:  # a size of the thread as it was stated before; it stays in the logbook
            return None

    def _screw_for_nut(self) -> tuple[float | None, str]:
        """Pitch diameter that the nut is to suit, and where it comes from."""
        made = self.made_screw_pitch_dia()
        if made is not None:
            return made, "to the new screw as measured"
        chosen = self.chosen
        if chosen is not None and "screw" not in chosen.parts and self.estimate.source("unworn").sd < 0.05:
            old = self.estimate.source("unworn").value
            worn = {"split_nut": self.split.least_worn, "lapped_nut": self.split.most_worn}.get(chosen.key)
            if worn is not None:
                old -= worn.wear.value / max(1e-9, math.tan(self.drive.thread.form.half_angle))
            return old, "to the old screw as measured"
        return None, ""

    # What a remedy makes of a part unless it is set by hand.
    STYLES: Mapping[str, Mapping[str, Mapping[str, str | float]]] = MappingProxyType(
        {
            "split_nut": {"nut": {"style": "split"}},
            "two_piece": {"nut": {"style": "two_piece"}},
            "half_nuts": {"nut": {"style": "half"}},
            "new_thread": {"screw": {"construction": "joined"}},
        }
    )

    def part_inputs(self, key: str, system: UnitSystem = UnitSystem.INCH) -> PartInputs:
        """What a part is worked out from."""
        from trebb.core.parts import PartInputs

        partner = {"screw": "nut", "nut": "screw", "thrust_collar": "screw", "dial": "screw"}[key]
        default = {"nut": "bronze", "screw": "alloy_ht"}[partner]
        other: dict[str, str | float] = {"material": default, **self.job.part_facts(self.part_name(partner))}
        facts = dict(self.part_facts(key))
        chosen = self.chosen
        usual = dict(self.STYLES.get(chosen.key if chosen else "", {}).get(key, {}))
        if key == "screw" and self.kind.key == "lathe":
            usual["cut_on"] = "own"
        if key == "nut" and self.drive.half_nuts:
            usual["style"] = "half"
        if usual.get("style") in ("split", "two_piece"):
            usual["length"] = self.drive.nut_length_mm + 0.5 * INCH_MM
        pitch_dia, source = self._screw_for_nut()
        measured = {
            name: sizes[-1] for name in ("bore", "socket", "spigot") if (sizes := self.sizes_of(key, name))
        }
        if self.made_drive is not self.drive:
            measured["old_lead"] = self.drive.thread.lead_mm
        return PartInputs(
            self.made_drive, self.workshop, {**usual, **facts}, other, pitch_dia, source, system, measured
        )

    def passes(self, scheme: InfeedScheme, *, nut: bool = False) -> list[Pass]:
        """The passes left for a thread, from what was last measured."""
        from trebb.core.making.infeed import infeed_plan, spring_only

        spec = self.made_drive.thread
        limits = thread_limits(spec)
        if nut:
            return self._nut_passes(scheme)
        flat = tool_flat_mm(spec, limits.allowance_mm, axial_play_mm=limits.axial_play_mm.low_mm)
        full = self.full_depth_mm()
        start = self.touches_mm if self.is_roughed else 0.0
        made = self.made_screw_pitch_dia()
        if made is not None:
            start = max(0.0, full - (made - limits.screw_pitch.middle_mm) / 2)
        elif spec.form is Form.SQUARE and (depths := self.sizes_of("screw", "thread")):
            start = depths[-1]
            made = limits.screw_pitch.low_mm if start >= spec.depth_mm else None
        if (made is not None or start > 0) and (
            start >= full or (made is not None and limits.screw_pitch.holds(made))
        ):
            return spring_only(start)
        return infeed_plan(
            full,
            flat,
            spec.form.half_angle,
            scheme,
            first_mm=FIRST_PASS_MM,
            last_mm=LAST_PASS_MM,
            start_mm=start,
        )

    def _nut_passes(self, scheme: InfeedScheme) -> list[Pass]:
        """To the pitch diameter that the nut is to have, from what it was last found to have."""
        from trebb.core.making.infeed import infeed_plan, spring_only
        from trebb.core.threads.tool import nut_cut_mm

        spec = self.made_drive.thread
        flat, depth = nut_cut_mm(spec, self.nut_target_mm)
        sizes, now = self.sizes_of("nut", "nut_thread"), self.nut_pitch_dia()
        if sizes and now is None:  # a square thread: its screw enters, or not
            return spring_only(depth)
        left = depth if now is None else (self.nut_target_mm - now) / 2
        if left <= NUT_DONE_MM:
            return spring_only(depth)
        return infeed_plan(
            depth,
            flat,
            spec.form.half_angle,
            scheme,
            first_mm=0.2,
            last_mm=LAST_PASS_MM,
            start_mm=max(0.0, depth - left),
        )

    @property
    def is_roughed(self) -> bool:
        """Whether the screw's thread is ticked as roughed."""
        return "thread_rough" in self.job.steps_done(self.part_name("screw"))

    @property
    def rough_depth_mm(self) -> float:
        """Radial depth to rough the screw's thread to."""
        return self.made_drive.thread.depth_mm - ROUGH_LEFT_MM

    @property
    def rough_narrower_mm(self) -> float:
        """How much narrower than the finisher the roughing tool is, as set or usual."""
        from trebb.core.parts import family

        inputs = self.part_inputs("screw")
        usual = next((f.default for f in family("screw").fields(inputs) if f.key == "rough_narrower"), 0.0)
        return float(inputs.facts.get("rough_narrower", usual))

    @property
    def touches_mm(self) -> float:
        """Depth at which the finisher first touches what roughing left."""
        from trebb.core.threads.tool import touches_after_rough_mm

        half_angle = self.made_drive.thread.form.half_angle
        return touches_after_rough_mm(self.rough_depth_mm, self.rough_narrower_mm, half_angle)

    def full_depth_mm(self) -> float:
        """Radial depth at which the thread's pitch diameter is in the middle of its band; a square thread's
        a hair over its depth.
        """
        spec = self.made_drive.thread
        limits = thread_limits(spec)
        extra = (
            (limits.screw_pitch.high_mm - limits.screw_pitch.middle_mm) / 2
            if spec.form is not Form.SQUARE
            else 0.05
        )
        return spec.depth_mm + extra

    @derived
    def trains(self) -> tuple[list[Train], float]:
        """Change-gear trains that cut this lead, the most exact first, and the ppm allowed to find one."""
        from trebb.core.gears.trains import exact_lead, trains_for
        from trebb.core.machine.workshop import banjo_of

        shop, lead = self.workshop, exact_lead(self.made_drive.thread.lead_mm)
        return trains_for(shop.lead_screw_mm, lead, shop.wheels, banjo_of(shop))

    def train(self) -> Train | None:
        """The train in use: as chosen by hand, else the best that meshes."""
        trains, _ = self.trains()
        wanted = str(self.job.part_facts(self.part_name("screw")).get("train", ""))
        return next((t for t in trains if t.words == wanted), trains[0] if trains else None)

    def reminder(self, key: str) -> str:
        if key != "screw":
            return super().reminder(key)
        if self.job.part_facts(self.part_name("screw")).get("cut_on", self.kind.key) not in ("own", "lathe"):
            return "On the lathe at hand: its lead screw and wheels stand at Intake."
        least = self.split.least_worn.station if self.is_measured else 1
        if self.drive.half_nuts:
            return (
                "This lathe cuts its own lead screw with the old one in: cut it where that is least worn, "
                f"near station {least}; its error is copied."
            )
        return (
            "This lathe cuts its own screw: the old one stays in until the end. Lock the slide at station "
            f"{least}, where it is least worn."
        )

    # proof ------------------------------------------------------------------------------------

    def proof_head(self, rows: Sequence[Comparison], system: UnitSystem) -> tuple[State, str, str]:
        m = lash_measure(self.drive, self._split_of("after"), self.limit)
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
        key = [("key and handwheel", split.key)] if self.drive.has_dial else []
        return [
            ("screw, worst", split.most_worn.wear),
            (self.drive.nut_words, split.nut),
            ("end float", split.float_),
            *key,
            ("all, worst", split.worst.total),
        ]

    # practice ---------------------------------------------------------------------------------

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
