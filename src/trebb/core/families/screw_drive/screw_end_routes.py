"""Routes of a screw's ends: a new thread joined to the old end, a sleeve on a worn journal."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.families.screw_drive.thread_rows import thread_rows
from trebb.core.making.operations import Row, SizeTarget
from trebb.core.parts import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, PRESS, RETAINING
from trebb.core.threads import Band

PINNED: tuple[Row, ...] = (
    (
        "pin",
        "Drill and ream across, taper pin in",
        "After the joint is cured or pressed: two parts drilled loose turn and bind the drill. Index the "
        "wheel to the dial first.",
        "vee block on the drill",
        "drill, taper reamer",
        30,
        "Clamp the vee block: the drill grabs as it breaks through.",
        "plain",
    ),
    (
        "true",
        "Indicate the new length on the old journals",
        "Tap or press straight: an indicator over the crests within what is allowed.",
        "vee blocks on the journals",
        "indicator",
        20,
        "",
        "plain",
    ),
    ("fit", "Try it in bracket, dial and nut", "Free from end to end.", "bench", "", 15, "", "plain"),
)


def joined_route(part: Part, drive: ScrewDrive) -> list[Row]:
    """A socket in the old end, a new thread with a spigot, joined and pinned; the thread first where the old
    screw is what cuts it.
    """
    new = (
        [MEASURE_BAR, *_from_bought(part)]
        if "bought" in part.ways
        else [*_blank(part), *thread_rows(drive, part)]
    )
    if "own" not in part.ways:
        return [LOOK, *_socket(part), *new, _spigot(part), _join(part), *PINNED]
    return [LOOK, *new, _ring(part), _spigot(part), *_last_socket(part), _join(part), *PINNED]


LOOK: Row = (
    "look",
    "Look for an earlier repair in the old end",
    "Etch or polish its face: a ring shows a sleeve, a dot a pin. Drilled into, it comes loose.",
    "bench",
    "polishing stick, etchant",
    10,
    "",
    "plain",
)
MEASURE_BAR: Row = (
    "measure_bar",
    "Measure the bar: lead over 300 mm, size over wires at three places",
    "Bought bar is often 0.1 mm in 300 out; send it back before it is cut.",
    "vee blocks",
    "wires, readout",
    20,
    "",
    "plain",
)

# A bought bar is held on its thread.
CENTRE_IN_BUSH: Row = (
    "centre",
    "Face and centre both ends",
    "Held on the thread in a split bush, indicated over the crests.",
    "four-jaw with a split bush",
    "facing tool, centre drill",
    30,
    CHUCK_KEY,
    "plain",
)


def _ring(part: Part) -> Row:
    """What the reamer leaves, before the end that it is for can be reached."""
    return (
        "socket",
        "Drill, bore, ream a trial ring of the old end's metal",
        "With the reamer, oil and speed that the old end will get: the spigot is turned to this bore while "
        "the slide can still be fed. Measure at three depths.",
        "three-jaw",
        "drill, boring bar, reamer",
        30,
        CHUCK_KEY,
        "size",
        SizeTarget("bore", _reamed(part), -1),
    )


def _last_socket(part: Part) -> tuple[Row, ...]:
    """From here on the machine has no screw: what is left needs none."""
    return (
        (
            "off",
            "Take the old screw out; saw its thread off; face and centre the old end",
            "Only now: the new length is cut and its spigot finished. Leave the collar whole. Lock the slide "
            "by its gib; face with the compound.",
            "four-jaw, indicated on the journal",
            "saw, facing tool",
            35,
            CHUCK_KEY,
            "plain",
        ),
        (
            "socket_last",
            "Drill and ream the socket from the tailstock",
            "Bored true with the compound under the same size first: a reamer follows a crooked hole. Try "
            "the spigot as the trial ring took it.",
            "four-jaw, journal running true",
            "drill, boring bar, reamer",
            50,
            "Hardness first: a file on the face before any reamer.",
            "plain",
        ),
    )


def _socket(part: Part) -> tuple[Row, ...]:
    return (
        (
            "off",
            "Saw the old thread off; face and centre the old end",
            "Leave the collar whole.",
            "four-jaw, indicated on the journal",
            "saw, facing tool",
            25,
            CHUCK_KEY,
            "plain",
        ),
        (
            "socket",
            "Drill, bore true, ream the socket",
            "Bored true to the journal first: a reamer follows a crooked hole. Blow it out, measure at three "
            "depths.",
            "four-jaw, journal running true",
            "drill, boring bar, reamer",
            45,
            "Hardness first: a file on the face before any reamer.",
            "size",
            SizeTarget("bore", _reamed(part), -1),
        ),
    )


def _blank(part: Part) -> tuple[Row, ...]:
    return (
        ("blanks", "Saw two blanks for the new length", part.stock_words, "vice", "saw", 15, "", "plain"),
        (
            "rough",
            "Face, centre, rough",
            "Leave 0.020 in (0.5 mm). Let it cool.",
            "between centres",
            "roughing tool",
            50,
            "",
            "plain",
        ),
    )


def _from_bought(part: Part) -> tuple[Row, ...]:
    return (
        ("blanks", "Saw the new length off, facing over", part.stock_words, "vice", "saw", 10, "", "plain"),
        CENTRE_IN_BUSH,
    )


def _spigot(part: Part) -> Row:
    spigot = part.sections[0]
    assert spigot.size is not None
    return (
        "spigot",
        "Finish the spigot to the measured bore",
        "Lead-in at 15°; measure at both ends for taper.",
        "between centres",
        "finishing tool",
        30,
        CLOTH,
        "size",
        SizeTarget("spigot", spigot.size, +1),
    )


def _join(part: Part) -> Row:
    pressed = any(row.key == "press" for row in part.rows)
    return (
        (
            "join",
            "Press the spigot home",
            "Old end supported square under its collar; oil, straight, without a stop until it seats. "
            f"{part.checks[0].sentence}",
            "press",
            "press, sleeve",
            20,
            PRESS,
            "plain",
        )
        if pressed
        else (
            "join",
            "Bond the spigot in",
            "Both parts degreased; compound round the spigot, twist as it goes in; leave it a day at 20 °C. "
            f"{part.checks[0].sentence}",
            "vee blocks, end stop",
            "retaining compound",
            20,
            RETAINING,
            "plain",
        )
    )


def _reamed(part: Part) -> Band:
    """About what the reamer leaves: what it measures then decides the spigot."""
    reamer = part.size_mm("reamer")
    return Band(reamer - 0.005, reamer + 0.03)


def sleeve_route(part: Part, drive: ScrewDrive) -> list[Row]:
    sleeve = part.sections[0]
    assert sleeve.size is not None
    core, bore = part.size_mm("journal"), part.size_mm("bore")
    return [
        (
            "bore",
            "Turn and bore the sleeve, outside 0.5 mm over",
            "Two: one is the spare. Measure the bore at both ends.",
            "three-jaw",
            "boring bar",
            40,
            CHUCK_KEY,
            "size",
            SizeTarget("sleeve's bore", Band(bore - 0.05, bore + 0.05), -1),
        ),
        (
            "journal",
            "Turn the worn journal to suit the bore",
            "Indicate on unworn places first; measure at three places.",
            "between centres",
            "finishing tool",
            35,
            CLOTH,
            "size",
            SizeTarget("journal", Band(core - 0.004, core + 0.004), +1),
        ),
        (
            "press",
            "Press the sleeve on",
            "Oil, straight, to the shoulder.",
            "press",
            "press, tube",
            15,
            PRESS,
            "plain",
        ),
        (
            "finish",
            "Finish the outside in place",
            "Let it cool; measure also for taper.",
            "between centres",
            "finishing tool",
            30,
            CLOTH,
            "size",
            SizeTarget("journal over the sleeve", sleeve.size, +1),
        ),
        ("fit", "Try it in its bush", "Slides by hand, no shake.", "bench", "", 10, "", "plain"),
    ]
