"""Facts of a feed screw with its nut and dial."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.facts import Choice, Fact, Length, Lengths, Number, Schema, Words
from trebb.core.families.screw_drive.subject import USUAL_DRIVES, ScrewDrive
from trebb.core.metals import FILES
from trebb.core.stating.readers import Pitch
from trebb.core.threads import Form, Hand, ThreadSpec
from trebb.core.threads.marking import parse_marking
from trebb.core.threads.naming import GAUGES, TRIALS

PARTS, SURVEY, SEEN = "parts", "survey", "seen"
MAKE = "make_"  # of the thread to make, where it is to be unlike the old one
_THREAD = ("form", "major_mm", "pitch_mm", "starts", "hand", "tolerance_class", "square_clearance_mm")


def tried_from(text: str) -> Iterator[tuple[ThreadSpec, str]]:
    """What was tried on the thread, from its stored words: "3/4-8 Acme LH: goes on; …".

    Raises InputError where a marking or an outcome cannot be read.
    """
    for one in filter(str.strip, text.split(";")):
        marking, _, outcome = one.rpartition(":")
        if outcome.strip() not in TRIALS:
            raise InputError(f"“{one.strip()}”", f"write the marking, a colon, and {', or '.join(TRIALS)}")
        yield parse_marking(marking), outcome.strip()


def _trials(text: str) -> str:
    list(tried_from(text))
    return text


def usual_drive(kind: str, assembly: str) -> ScrewDrive:
    """What such a drive usually is, before anything is stated: of its kind of machine, else of whichever has
    one of that name.
    """
    like = (drive for (_, key), drive in USUAL_DRIVES.items() if key == assembly)
    return USUAL_DRIVES.get((kind, assembly)) or next(like, ScrewDrive())


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> ScrewDrive:
    plain = usual_drive(kind, assembly)
    thread = replace(plain.thread, **{name: values[name] for name in _THREAD if name in values})
    unlike = {k.removeprefix(MAKE): v for k, v in values.items() if k.startswith(MAKE) and v}
    apart = (*_THREAD, "tried")
    own = {k: v for k, v in values.items() if k not in apart and not k.startswith(("seen_", MAKE))}
    to_make = replace(thread, **unlike) if unlike else None
    drive = replace(plain, thread=thread, to_make=to_make, **own)
    for way in drive.extra_mm:
        if not way <= drive.travel_mm:
            raise InputError(f"{way:g} mm", f"the travel goes from nothing to {drive.travel_mm:g} mm")
    return drive


def _seen(key: str, words: str, tip: str, choices: Mapping[str, str], *, numeric: bool = False) -> Choice:
    return Choice(key, words, tip, (SEEN,), choices=choices, numeric=numeric)


# The size of a thread, asked of the one there and, where it is to be unlike it, of the one to make.
_SIZED: tuple[Fact, ...] = (
    Length("major_mm", "Major", "Nominal major diameter", (PARTS,), low=2.0, high=200.0),
    Pitch("pitch_mm", "Pitch", "Pitch, or threads an inch such as 8 tpi", (PARTS,), low=0.2, high=60.0),
    Number(
        "starts",
        "Starts",
        "Thread beginnings at the end",
        (PARTS,),
        low=1,
        high=12,
        what="starts",
        whole=True,
    ),
)


def _to_make(fact: Fact) -> Fact:
    words = f"New {fact.words.lower()}"
    return replace(fact, key=MAKE + fact.key, words=words, tip=f"{fact.tip}: of the thread to make")


FACTS: tuple[Fact, ...] = (
    Choice("form", "Form", "Thread form", (PARTS,), choices={f.value: f.value for f in Form}, convert=Form),
    *_SIZED,
    Choice(
        "hand", "Hand", "Hand of the thread", (PARTS,), choices={h.value: h.value for h in Hand}, convert=Hand
    ),
    Choice("tolerance_class", "Class", "Acme class", (PARTS,), choices={c: c for c in ("2G", "3G", "4G")}),
    Length(
        "square_clearance_mm",
        "Square thread clears",
        "At crest and root of a square thread, on diameter: no standard fixes it",
        (PARTS,),
        low=0.02,
        high=3.0,
        applies=lambda drive: Form.SQUARE in (drive.thread.form, (drive.to_make or drive.thread).form),
    ),
    Choice(
        "make_form",
        "New form",
        "Form of the thread to make, where it is unlike the old",
        (PARTS,),
        choices={"": "as the old", **{f.value: f.value for f in Form}},
        convert=lambda v: Form(v) if v else None,
    ),
    *map(_to_make, _SIZED),
    Choice(
        "make_hand",
        "New hand",
        "Hand to make, unlike the old",
        (PARTS,),
        choices={"": "as the old", **{h.value: h.value for h in Hand}},
        convert=lambda v: Hand(v) if v else None,
    ),
    Length("wire_mm", "Wires", "Wires at hand", (PARTS,), low=0.1, high=40.0),
    Number(
        "divisions",
        "Dial divisions",
        "Divisions in one turn",
        (PARTS, SURVEY),
        low=1,
        high=2000,
        what="divisions in a turn,",
        whole=True,
    ),
    Number(
        "ratio",
        "Handle to screw",
        "Turns of the handwheel to one of the screw, where bevels, a worm or a belt lie between",
        (SURVEY,),
        low=0.02,
        high=100.0,
        what="turns of the handwheel to one of the screw,",
    ),
    Choice(
        "reads",
        "Dial counts",
        "What the dial is numbered in",
        (PARTS, SURVEY),
        attribute="reads_diameter",
        choices={"radius": "the slide's travel", "diameter": "the diameter"},
        convert=lambda v: v == "diameter",
    ),
    Choice(
        "gauge",
        "Wear read",
        "How the screw's wear is measured",
        (PARTS,),
        choices={"wires": "over three wires", "one_wire": "over one wire", "thickness": "ridge thickness"},
    ),
    Length("crest_mm", "Crests measure", "Over the crests, for a single wire", (PARTS,), low=1.0, high=210.0),
    Choice("file", "A file on the screw", "Tried where no nut runs", (SURVEY,), choices=FILES),
    Choice(
        "nut_gone",
        "The old nut",
        "Whether the old nut carries at all",
        (SURVEY,),
        choices={"": "carries", "yes": "runs through"},
    ),
    Length("travel_mm", "Travel", "Travel of the slide", (PARTS, SURVEY), low=10.0, high=6000.0),
    Length("nut_length_mm", "Old nut", "Length of the old nut", (PARTS, SURVEY), low=5.0, high=500.0),
    Number(
        "turns",
        "Turns counted",
        "Turns of the screw over the travel",
        low=1,
        high=200,
        what="turns",
        whole=True,
    ),
    Lengths(
        "read_at",
        "Screw read also at",
        "Ways along the travel at which the bare screw is read besides its stations, with a space between",
        attribute="extra_mm",
        low=0.0,
        high=6000.0,
        most=20,
        ordered=True,
    ),
    Pitch(
        "seen_pitch_mm",
        "Pitch by gauge",
        "What stands on the leaf that sits: 8 tpi, or 3 mm",
        (SEEN,),
        low=0.2,
        high=60.0,
    ),
    Number(
        "seen_turns",
        "Turns counted",
        "Over how many turns the travel was measured, where not over ten",
        (SEEN,),
        low=2,
        high=200,
        what="turns",
        whole=True,
    ),
    Number(
        "seen_crests",
        "Crests counted",
        "Over how many crests it was measured, where not over ten",
        (SEEN,),
        low=2,
        high=200,
        what="crests",
        whole=True,
    ),
    Number(
        "seen_angle",
        "Flank angle",
        "Included flank angle, by protractor or on a projected shadow",
        (SEEN,),
        low=0,
        high=90,
        what="degrees, included,",
        unit="°",
    ),
    _seen(
        "seen_gauge",
        "Pitch gauge that sits",
        "The gauge that shows least light",
        {"": "none tried", **{f"{g:g}": f"{g:g}°" if g else "square" for g in GAUGES}},
        numeric=True,
    ),
    _seen(
        "seen_starts",
        "Starts",
        "Thread beginnings at the screw's end",
        {"": "not counted", **{str(n): str(n) for n in range(1, 7)}},
        numeric=True,
    ),
    _seen("seen_hand", "Hand", "Hand of the thread", {"": "not looked at", "right": "right", "left": "left"}),
    _seen(
        "seen_crest",
        "Crests",
        "How an unworn crest looks",
        {"": "not looked at", "flat": "flat", "sharp": "sharp", "round": "round"},
    ),
    Words(
        "tried",
        "What was tried",
        "Such as: 3/4-8 Acme LH: starts, then binds",
        (SEEN,),
        reader=_trials,
        form="markings, each with a colon and what it did",
    ),
)
GROUPS = (
    (
        "The thread there is",
        ("form", "major_mm", "pitch_mm", "starts", "hand", "tolerance_class", "square_clearance_mm"),
    ),
    ("How it is measured", ("gauge", "wire_mm", "crest_mm")),
    (
        "Dial, travel and nut",
        ("divisions", "ratio", "reads", "travel_mm", "nut_length_mm", "nut_gone", "file"),
    ),
    (
        "The thread to make, where unlike",
        ("make_form", "make_major_mm", "make_pitch_mm", "make_starts", "make_hand"),
    ),
    ("Where it is read", ("turns", "read_at")),
    (
        "By gauge and eye",
        ("seen_pitch_mm", "seen_angle", "seen_gauge", "seen_starts", "seen_hand", "seen_crest"),
    ),
    ("Counted and tried", ("seen_turns", "seen_crests", "tried")),
)
SCHEMA = Schema(FACTS, _build, groups=GROUPS)
