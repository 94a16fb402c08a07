"""The families of assemblies, each whole in one record: where its facts, set-ups, remedies and parts stand.

A record names modules and loads none: what belongs to a family is loaded when
one of its assemblies is first opened. The case that joins them to a job is
named in `logbook/casework.py`, its pictures in `app/pictures`.
"""

from __future__ import annotations

from collections.abc import Iterator
from importlib import import_module
from typing import Any

from msgspec import Struct


class Family(Struct, frozen=True):
    """One record. Each name is "module.NAME" in the room it is about.

    Parameters
    ----------
    facts : module of `core.stating` that declares what is stated of it, or "module.SCHEMA" where it has
    several.
    set_ups : in `core.survey`, in the order they are offered.
    remedies : the tuple of them in `core.remedies`.
    parts : in `core.parts`; a name may be one part family or a tuple of them.
    routes : in `core.making`, each a part's key → what makes its operations.
    added : what an assembly of it is called where a shop adds one; "" where only a kind of machine has it.
    is_piece : one of several that an assembly may hold: a shaft, a bore.
    judging : in `core.findings`, how its pieces are judged, where one record says it; "" where its case does.
    """

    facts: str
    set_ups: tuple[str, ...]
    remedies: str
    parts: tuple[str, ...] = ()
    routes: tuple[str, ...] = ()
    added: str = ""
    is_piece: bool = False
    judging: str = ""

    @property
    def one(self) -> str:
        """One of what may be added, in a sentence: "a shaft", "an index plate", "ways by map"."""
        words = self.added.lower()
        if words.split(" ")[0].endswith("s"):
            return words
        return f"{'an' if words[0] in 'aeiou' else 'a'} {words}"


_BED_PARTS = ("foot_parts.FAMILIES",)
_ALIGNMENT = ("alignment_routes.ALIGNMENT_ROUTES",)
FAMILIES: dict[str, Family] = {
    "screw_drive": Family(
        "screw_drive",
        (
            "lash.SET_UP",
            "push_pull.SET_UP",
            "end_float.SET_UP",
            "turns_travel.SET_UP",
            "thread_size.SET_UP",
            "lead_error.SET_UP",
            "screw_bend.SET_UP",
            "half_nuts.SET_UP",
            "which_thread.SET_UP",
        ),
        "screw_drive.SCREW_REMEDIES",
        ("screw.FAMILY", "nut.FAMILY", "thrust_collar.FAMILY", "dial.FAMILY"),
        ("screw_routes.SCREW_ROUTES",),
        added="Feed screw and nut",
    ),
    "spindle": Family(
        "spindle",
        (
            "nose.SET_UP",
            "taper_bore.SET_UP",
            "test_bar.SET_UP",
            "chuck_pin.SET_UP",
            "push_test.SET_UP",
            "spindle_float.SET_UP",
            "coupler.SET_UP",
            "warm_run.SET_UP",
            "contact.SET_UP",
            "journals.SET_UP",
            "reach.SET_UP",
            "push_test.PIN_SET_UP",
        ),
        "spindle.SPINDLE_REMEDIES",
        ("spindle_parts.FAMILIES", "spindle_sleeve.FAMILY", "stepped_spacer.FAMILY"),
        ("spindle_routes.SPINDLE_ROUTES", "stepped_spacer_route.ROUTES"),
        added="Spindle",
    ),
    "ways": Family(
        "bed",
        (
            "bed_levels.ALONG",
            "bed_levels.ACROSS",
            "bed_levels.COLLIMATOR",
            "bed_straight.STRAIGHTEDGE",
            "bed_straight.REFERENCE_BAR",
            "bed_straight.RIDGE",
        ),
        "bed.BED_REMEDIES",
        _BED_PARTS,
        _ALIGNMENT,
    ),
    "headstock": Family(
        "bed",
        ("bed_cuts.TWO_COLLAR", "bed_cuts.TRIALS", "bed_cuts.FACING", "bed_sweep.BAR_SWEEP"),
        "bed.BED_REMEDIES",
        _BED_PARTS,
        _ALIGNMENT,
    ),
    "tailstock": Family(
        "bed",
        ("bed_centres.CENTRES", "bed_axes.QUILL", "bed_axes.KEY", "bed_cuts.LONG_PIECE"),
        "bed.BED_REMEDIES",
        _BED_PARTS,
        _ALIGNMENT,
    ),
    "stand": Family(
        "bed", ("bed_axes.SOFT_FEET", "bed_axes.STAND_FLEX"), "bed.BED_REMEDIES", _BED_PARTS, _ALIGNMENT
    ),
    "gib": Family(
        "slide",
        (
            "gib_gaps.FEELERS",
            "gib_gaps.STAND_OUT",
            "gib_gaps.ROCK",
            "gib_gaps.DROP",
            "gib_gaps.SPOTS_PER_INCH",
            "contact.GIB",
        ),
        "gib.GIB_REMEDIES",
        ("gib_parts.FAMILIES",),
        _ALIGNMENT,
        added="Slide on a gib",
    ),
    "tram": Family(
        "tram",
        ("tram.SWEEP", "tram.SQUARE", "tram.SAG", "tram.TRAVEL", "tram.COLUMN", "table_edges.SET_UP"),
        "tram.TRAM_REMEDIES",
        _BED_PARTS,
        _ALIGNMENT,
    ),
    "shaft": Family(
        "shaft",
        (
            "shaft_turns.SET_UP",
            "shaft_sizes.SIZES",
            "shaft_sizes.MATES",
            "shaft_sizes.PUSH",
            "shaft_sizes.FLOAT",
            "shaft_wheel.ROCK",
            "shaft_wheel.KEYS",
            "shaft_wheel.PIN_HOLE",
            "shaft_wheel.SQUARE",
            "shaft_wheel.END_THREAD",
        ),
        "shaft.SHAFT_REMEDIES",
        ("shaft_parts.FAMILIES",),
        ("shaft_routes.ROUTES", "bush_routes.ROUTES", "pin_routes.ROUTES"),
        added="Shaft",
        is_piece=True,
    ),
    "bore": Family(
        "bore",
        ("bore_gauge.GAUGE", "bore_gauge.MATE", "bore_gauge.PUSH", "bore_gauge.CONTACT"),
        "bore.BORE_REMEDIES",
        ("bore_parts.FAMILIES",),
        ("shaft_routes.ROUTES", "bush_routes.ROUTES", "pin_routes.ROUTES"),
        added="Bore",
        is_piece=True,
    ),
    "gear": Family(
        "gear",
        ("gear_reading.SET_UPS", "gear_name.NAME"),
        "gear.GEAR_REMEDIES",
        ("gear_parts.FAMILIES",),
        ("gear_routes.ROUTES",),
        added="Gear",
        is_piece=True,
        judging="gear.JUDGING",
    ),
    "train": Family(
        "train",
        ("train_reading.ROCK",),
        "train.TRAIN_REMEDIES",
        ("train_parts.FAMILY",),
        ("train_routes.ROUTES",),
        added="Train of gears",
        is_piece=True,
        judging="train.JUDGING",
    ),
    "cone": Family(
        "cone",
        ("cone_reading.SET_UPS",),
        "cone.CONE_REMEDIES",
        ("cone_parts.FAMILIES",),
        ("cone_routes.ROUTES",),
        added="Friction cone",
        is_piece=True,
        judging="cone.JUDGING",
    ),
    "casting": Family(
        "casting",
        ("casting_reading.SET_UPS",),
        "casting.CASTING_REMEDIES",
        ("casting_parts.FAMILIES",),
        ("casting_routes.ROUTES",),
        added="Cracked casting",
        is_piece=True,
        judging="casting.JUDGING",
    ),
    "jaws": Family(
        "plates.JAWS",
        ("plates_reading.JAW_SET_UPS",),
        "plates.JAW_REMEDIES",
        ("jaw_parts.JAW_FAMILIES",),
        ("plate_routes.ROUTES",),
        added="Vise or plate",
        is_piece=True,
        judging="jaws.JUDGING",
    ),
    "index_plate": Family(
        "plates.INDEX",
        ("plates_reading.INDEX_SET_UPS",),
        "plates.INDEX_REMEDIES",
        ("plate_parts.INDEX_FAMILY",),
        ("plate_routes.ROUTES",),
        added="Index plate",
        is_piece=True,
        judging="index_plate.JUDGING",
    ),
    "cutter": Family(
        "cutter",
        ("cutter_reading.SET_UPS",),
        "cutter.CUTTER_REMEDIES",
        ("plate_parts.CUTTER_FAMILY",),
        ("plate_routes.ROUTES",),
        added="Cutter",
        is_piece=True,
        judging="cutter.JUDGING",
    ),
    "way": Family(
        "way",
        ("way_reading.MAP",),
        "way.WAY_REMEDIES",
        added="Ways by map",
        is_piece=True,
        judging="way.JUDGING",
    ),
    "copied": Family("copied", (), "copied.COPY_REMEDIES", added="Part to copy", is_piece=True),
}


def named(room: str, name: str) -> Any:
    """What a name of a record stands for, loaded now: `named("survey", "lash.SET_UP")`."""
    module, _, attribute = name.rpartition(".")
    return getattr(import_module(f"trebb.core.{room}.{module}"), attribute)


def each(room: str, names: tuple[str, ...]) -> Iterator[Any]:
    """What each of several names stands for; a tuple one after another."""
    for name in names:
        found = named(room, name)
        yield from found if isinstance(found, tuple) else (found,)
