"""Routes of screws, nuts, thrust rings and dials, by how they are made."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from trebb.core.machine import ScrewDrive, Workshop
from trebb.core.making.operations import SETTING_MINUTES, Row, SizeTarget, turning_minutes
from trebb.core.parts import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, FOUNDRY, LOCK_OUT, PRESS, RETAINING, STICK_OUT, STOP_BAR
from trebb.core.threads import Band, Form, Hand


def screw_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """By the part's construction: sleeve, new thread for an old end, bought bar, or whole."""
    by = {"sleeved": _sleeve, "joined": _joined, "bar": _from_bar}
    return by.get(part.construction, _solid)(part, drive)


def _way(drive: ScrewDrive) -> str:
    return (
        "Start at the relief groove and cut away from the headstock."
        if drive.thread.hand is Hand.LEFT
        else "Cut toward the headstock into the relief groove."
    )


def _thread_rows(drive: ScrewDrive) -> list[Row]:
    """Roughing and finishing the thread, with what indexes several starts."""
    spec, way = drive.thread, _way(drive)
    starts = f" Each pass on all {spec.starts} starts before the next depth." if spec.starts > 1 else ""
    square = (
        "Groove to depth with the flat tool; widen to the play on one flank, by the compound along the bed. "
        if spec.form is Form.SQUARE
        else ""
    )
    rows: list[Row] = [
        (
            "groove",
            "Relief groove at the collar",
            "Just under the root, wider than a pitch, corners rounded.",
            "between centres",
            "round-cornered parting tool",
            15,
            "A parting tool set high or with much overhang binds.",
            "plain",
        ),
        (
            "gears",
            "Change gears on, cut a trace",
            "The train shown; a trace a thou deep, measured over ten threads before any depth is cut.",
            "between centres",
            "pointed tool",
            20,
            f"{LOCK_OUT} The gear cover is open.",
            "gears",
        ),
    ]
    if spec.starts > 1:
        rows.append(
            (
                "index",
                f"Index {spec.starts} starts: try it in a trace",
                "A trace for each start, evenly spaced: measure the spaces before any depth is cut.",
                "between centres",
                "pointed tool",
                25,
                "",
                "index",
            )
        )
    return [
        *rows,
        (
            "thread_rough",
            "Rough the thread",
            f"{square}Tool narrower than the finisher by what is stated. {way}{starts}",
            "between centres, follower rest ahead of the tool",
            "roughing thread tool",
            45 * spec.starts,
            "Half nuts out before the collar: lock the carriage stop first.",
            "tool",
        ),
        (
            "thread",
            "Finish the thread",
            f"{way}{starts}",
            "between centres, follower rest",
            "finishing thread tool, ground to the flat",
            75 * spec.starts,
            "Let the work cool before the last passes.",
            "thread",
        ),
    ]


def _solid(part: Part, drive: ScrewDrive) -> list[Row]:
    spec = drive.thread
    start = part.largest_mm + 1.5
    thread = next(s for s in part.sections if s.kind == "thread")
    rough = SETTING_MINUTES + turning_minutes(part, start, spec.major_mm + 0.5, thread.length_mm)
    ends = SETTING_MINUTES + sum(
        turning_minutes(part, start, s.diameter_mm + 0.5, s.length_mm)
        for s in part.sections
        if s.kind == "plain"
    )
    return [
        ("blanks", "Saw two blanks", part.stock, "vice", "saw", 15, "", "plain"),
        (
            "centre",
            "Face and centre both ends",
            "Centres deep enough for the load; length to the drawing with facing allowance used up.",
            "three-jaw, steady if the bar does not pass",
            "facing tool, centre drill",
            20,
            CHUCK_KEY,
            "plain",
        ),
        (
            "rough",
            "Rough the thread land and the journals",
            "Leave 0.020 in (0.5 mm) on all diameters. Let it cool.",
            "between centres",
            "roughing tool",
            round(rough + ends),
            "Long work whips: follow with the tailstock snug, not tight.",
            "plain",
        ),
        (
            "finish",
            "Finish journals, collar and thread land",
            "Measure each at three places, also for taper, before the last cut.",
            "between centres, same dog",
            "finishing tool",
            40,
            CLOTH,
            "plain",
        ),
        *_thread_rows(drive),
        (
            "keyway",
            f"Keyway in the {drive.seat_words}; deburr",
            "Key fitted tight in the shaft.",
            "vee blocks on the mill",
            "slot drill",
            25,
            "",
            "plain",
        ),
        (
            "end_thread",
            f"Thread the {drive.driven_end}",
            "To its old nut; try it.",
            "between centres",
            "die or threading tool",
            20,
            "",
            "plain",
        ),
        (
            "fit",
            "Take the old screw out; try the new one in its bearings"
            if drive.half_nuts
            else "Take the old screw out; try the new one in bracket and dial",
            "Only now, where this lathe cut its own screw.",
            "bench",
            "",
            20,
            "",
            "plain",
        ),
    ]


def _from_bar(part: Part, drive: ScrewDrive) -> list[Row]:
    return [
        (
            "measure_bar",
            "Measure the bar: lead over 300 mm, size over wires at three places",
            "Bought bar is often 0.1 mm in 300 out; send it back before it is cut.",
            "vee blocks",
            "wires, readout",
            20,
            "",
            "plain",
        ),
        (
            "saw",
            "Saw to length with facing allowance",
            part.stock,
            "vice, soft jaws on the thread",
            "saw",
            10,
            "",
            "plain",
        ),
        (
            "centre",
            "Face and centre both ends",
            "Held on the thread in a split bush, indicated over the crests.",
            "four-jaw with a split bush",
            "facing tool, centre drill",
            30,
            CHUCK_KEY,
            "plain",
        ),
        (
            "ends",
            "Turn the ends below the root",
            "No thread marks may stay in a journal.",
            "between centres",
            "finishing tool",
            60,
            CLOTH,
            "plain",
        ),
        (
            "collar",
            "Ring for the thrust, pressed or bonded against the thread's end",
            "Face it in place: square to the journal.",
            "between centres",
            "facing tool",
            40,
            "",
            "plain",
        ),
        (
            "keyway",
            f"Keyway in the {drive.seat_words}; deburr",
            "Key fitted tight in the shaft.",
            "vee blocks on the mill",
            "slot drill",
            25,
            "",
            "plain",
        ),
        (
            "fit",
            "Try it in its bearings and nut",
            "Free from end to end before anything is pinned.",
            "bench",
            "",
            20,
            "",
            "plain",
        ),
    ]


def _joined(part: Part, drive: ScrewDrive) -> list[Row]:
    spigot = part.sections[0]
    assert spigot.size is not None
    pressed = any(row.key == "press" for row in part.rows)
    join: Row = (
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
    return [
        (
            "look",
            "Look for an earlier repair in the old end",
            "Etch or polish its face: a ring shows a sleeve, a dot a pin. Drilled into, it comes loose.",
            "bench",
            "polishing stick, etchant",
            10,
            "",
            "plain",
        ),
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
        ("blanks", "Saw two blanks for the new length", part.stock, "vice", "saw", 15, "", "plain"),
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
        (
            "spigot",
            "Finish the spigot to the measured bore",
            "Lead-in at 15°; measure at both ends for taper.",
            "between centres",
            "finishing tool",
            30,
            CLOTH,
            "size",
            SizeTarget("spigot", spigot.size, +1),
        ),
        *_thread_rows(drive),
        join,
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
    ]


def _reamed(part: Part) -> Band:
    """About what the reamer leaves: what it measures then decides the spigot."""
    reamer = part.size_mm("reamer")
    return Band(reamer - 0.005, reamer + 0.03)


def _sleeve(part: Part, drive: ScrewDrive) -> list[Row]:
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


def nut_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """Blank, bore, thread, then what its style needs."""
    assert part.bore is not None
    half, flanged = "half nuts" in part.title, "flanged" in part.title
    minor = part.bore.size
    assert minor is not None
    rows: list[Row] = []
    if part.stock.startswith("cast"):
        rows += [
            (
                "mould",
                "Make the mould: base, draft, core",
                "Drilled or turned from steel or iron, two degrees of draft, a base that knocks out; sooted, "
                "dried over a flame.",
                "bench",
                "lathe",
                90,
                "",
                "plain",
            ),
            (
                "melt",
                "Melt and pour",
                "Mould warm and dry; pour without a stop; leave it till it is black.",
                "sand floor",
                "crucible, tongs",
                60,
                FOUNDRY,
                "plain",
            ),
            (
                "knock",
                "Knock it out; saw riser and gate off",
                "Look for blow holes now, not at the last pass: the second casting is the spare.",
                "vice",
                "drift, saw",
                20,
                "",
                "plain",
            ),
        ]
    if flanged:
        rows.append(
            (
                "turn",
                "Turn flange and body in one setting",
                "Body to its hole as measured.",
                "three-jaw",
                "turning tools",
                45,
                CHUCK_KEY,
                "plain",
            )
        )
    else:
        rows += [
            (
                "block",
                "Saw and square the block, and a spare",
                part.stock,
                "mill vice",
                "end mill",
                40,
                "Bronze grabs: keep tools sharp with no rake.",
                "plain",
            ),
            (
                "index",
                "Mark the axis from the old nut's seat",
                "Measure from the slide's underside with the screw at both ends of the travel."
                if not half
                else "From the half nut slide, with the lead screw in both brackets.",
                "surface plate",
                "height gauge",
                20,
                "",
                "plain",
            ),
        ]
    if half:
        rows.append(
            (
                "pack",
                "Saw it through, pack the cut, bolt it together again",
                "Packing as thick as the saw took: closed, the halves then fit round the screw. Mark one "
                "side of both.",
                "mill vice",
                "slitting saw, shim",
                35,
                "",
                "plain",
            )
        )
    rows += [
        (
            "bore",
            "Bore to the minor diameter",
            "Indicate the marked axis in the four-jaw. Bore, do not drill to size.",
            "four-jaw chuck",
            "boring bar",
            35,
            "",
            "size",
            SizeTarget("minor bore", minor, -1),
        ),
        (
            "test",
            "Cut a test thread in a steel ring",
            "Same tool, same dial settings, before the one block.",
            "three-jaw",
            "internal threading tool",
            30,
            "",
            "plain",
        ),
        (
            "nut_thread",
            "Cut the nut's thread to its screw",
            "Infeed until the new screw enters with oil and turns free without shake. Left snug by tapping "
            "from both ends is the other school.",
            "four-jaw chuck",
            "internal threading tool, shank as thick as enters",
            60 * drive.thread.starts,
            STOP_BAR,
            "nut_thread",
        ),
    ]
    if "split" in part.title:
        rows.append(
            (
                "slit",
                "Saw the slot, drill and tap for the adjuster",
                "Drill and tap before sawing.",
                "mill vice",
                "slitting saw",
                30,
                "",
                "plain",
            )
        )
    if "two-piece" in part.title:
        rows.append(
            (
                "part",
                "Part it in two; key and spring seat",
                "Marked along one line before parting: they must go back in step.",
                "mill vice",
                "slitting saw",
                45,
                "Springs under load: clamp before a screw is drawn.",
                "plain",
            )
        )
    if half:
        rows.append(
            (
                "halve",
                "Take the packing out; fit the halves to their slide",
                "Close them on the screw by the lever: full depth, no jump.",
                "bench",
                "file, scraper",
                60,
                "",
                "plain",
            )
        )
    if flanged:
        rows.append(
            (
                "holes",
                "Drill the bolt holes; knurl or press where it is held so",
                "Spot through from the casting.",
                "drill press",
                "drill",
                20,
                "",
                "plain",
            )
        )
    return [
        *rows,
        (
            "oil",
            "Drill the oil hole",
            "Clear of the thread's ends; deburr inside.",
            "drill press",
            "drill",
            10,
            "",
            "plain",
        ),
        (
            "try",
            "Try it on its screw along the whole length",
            "Free from end to end, no shake that an indicator shows.",
            "bench",
            "indicator",
            15,
            "",
            "plain",
        ),
    ]


def ring_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """The thrust ring and its bracket."""
    return [
        (
            "turn",
            "Turn, face and bore in one setting",
            "Faces square to the bore; width as rounded up.",
            "three-jaw",
            "boring bar",
            35,
            CHUCK_KEY,
            "plain",
        ),
        (
            "part",
            "Part off two; face the second side on a mandrel",
            "One is the spare.",
            "mandrel between centres",
            "parting tool",
            25,
            STICK_OUT,
            "plain",
        ),
        (
            "tap",
            "Drill and tap for the locking screw",
            "Brass pad under the screw.",
            "vee block",
            "tap",
            15,
            "",
            "plain",
        ),
        (
            "face",
            "Face to fit, a little at a time",
            "Assemble, feel, face off what is left: the stack's own tolerance is in it.",
            "mandrel between centres",
            "facing tool",
            40,
            "",
            "plain",
        ),
    ]


def dial_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """The dial: turned, divided, stamped."""
    return [
        (
            "turn",
            "Turn and bore on one mandrel",
            "Rim true to the bore.",
            "mandrel between centres",
            "turning tool",
            40,
            CHUCK_KEY,
            "plain",
        ),
        (
            "divide",
            "Divide the rim",
            "Long line every tenth, middling every fifth; spindle indexed by a wheel of as many teeth, or a "
            "dividing head.",
            "mandrel, indexed",
            "pointed tool fed by the carriage",
            90,
            f"{LOCK_OUT} The spindle is indexed by hand.",
            "plain",
        ),
        (
            "stamp",
            "Try the direction on the machine, then stamp",
            "Numbers rise as the tool goes in.",
            "jig for the stamps",
            "figure stamps",
            45,
            "Eye shield.",
            "plain",
        ),
        (
            "spring",
            "Friction spring in its groove",
            "Turns by hand, stays by itself.",
            "bench",
            "",
            15,
            "",
            "plain",
        ),
    ]


SCREW_ROUTES: dict[str, Callable[[Part, Any, Workshop], Sequence[Row]]] = {
    "screw": screw_route,
    "nut": nut_route,
    "thrust_collar": ring_route,
    "dial": dial_route,
}
