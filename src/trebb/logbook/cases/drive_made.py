"""What is made for a feed screw: sizes as measured, passes, change wheels."""

from __future__ import annotations

import math
from collections.abc import Mapping
from types import MappingProxyType
from typing import TYPE_CHECKING

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.survey import reduced_mean
from trebb.core.survey.base import station_of
from trebb.core.threads import Form, pitch_dia_from_wires_mm, thread_limits
from trebb.core.threads.groove import groove_of
from trebb.core.threads.wires import best_wire_mm, pitch_dia_from_balls_mm
from trebb.core.units import INCH_MM, UnitSystem
from trebb.logbook.cases.drive_named import DriveNamed
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.families.screw_drive.subject import ScrewDrive
    from trebb.core.gears.trains import Train
    from trebb.core.making.infeed import InfeedScheme, Pass
    from trebb.core.parts import PartInputs


# The first pass of a screw thread in steel, on radius; light enough for an old lathe.
FIRST_PASS_MM = 0.30
LAST_PASS_MM = 0.05
ROUGH_LEFT_MM = 0.1  # on radius, for the finisher
NUT_DONE_MM = 0.003  # radius within which a nut is its size


class DriveMade(DriveNamed):
    """A feed screw and its parts."""

    @property
    def optional_parts(self) -> tuple[str, ...]:  # type: ignore[override]
        """A dial, where there is one to read and a screw is made to carry it."""
        with_screw = self.chosen is None or "screw" in self.chosen.parts or self.is_made_too("dial")
        return ("dial",) if self.drive.has_dial and with_screw else ()

    def read_as(self, phase: str) -> ScrewDrive:
        made = super().read_as(phase)
        if phase == "before" or self.chosen is None or not self.is_made_too("dial"):
            return made
        return self._with_dial

    @property
    @derived
    def _with_dial(self) -> ScrewDrive:
        """The drive with the dial that is made for it: what is read counts in the lines of its first ring."""
        from trebb.core.families.screw_drive.dial import fields, rings

        inputs = self.part_inputs("dial", UnitSystem.INCH)
        reads = inputs.facts.get("reads", next(f.default for f in fields(inputs) if f.key == "reads"))
        return replace(self.made_drive, divisions=rings(self.made_drive, str(reads))[0].lines)

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
        from trebb.core.families.screw_drive.nut import nut_pitch_dia_mm

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
            for worn in (
                at
                for key, at in (
                    ("split_nut", self.split.least_worn),
                    ("lapped_nut", self.split.most_worn),
                )
                if chosen.includes(key)
            ):
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
        usual: dict[str, str | float] = {}
        for remedy in chosen.members if chosen else ():
            usual.update(self.STYLES.get(remedy, {}).get(key, {}))
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
        flat, full = groove_of(spec).flat_mm, self.full_depth_mm()
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
        """Radial depth that the screw's thread is cut to, mm."""
        return groove_of(self.made_drive.thread).depth_mm

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
