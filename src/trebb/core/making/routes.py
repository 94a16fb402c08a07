"""Routes of operations."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from trebb.core.machine import MATERIALS, Material, ScrewDrive, Workshop
from trebb.core.making.infeed import turning_cut
from trebb.core.making.thread_dial import DialRule, ThreadDial, dial_rule
from trebb.core.parts import Part
from trebb.core.threads import Band, Hand
from trebb.core.units import INCH_MM

SETTING_MINUTES = 12.0


@dataclass(frozen=True)
class SizeTarget:
    """A size that an operation is to reach, usually a diameter; `side` +1 for an outside, which comes down to it, −1 for a bore."""

    what: str
    band: Band
    side: int
    is_diameter: bool = True


@dataclass(frozen=True)
class Operation:
    """One operation of a route.

    `kind` is "thread" where passes and sizes belong to it, "nut_thread" where
    the play is tried, "size" where a diameter is to reach `target`.
    """

    number: int
    key: str
    title: str
    detail: str
    hold: str
    tool: str
    minutes: float
    caution: str = ""
    kind: str = "plain"
    target: SizeTarget | None = None


def lathe_dial_rule(shop: Workshop, drive: ScrewDrive) -> DialRule:
    """Where this lathe picks up this thread, exactly.

    The lead is turned into an exact fraction: sixty-fourths and whole turns an
    inch for inch threads, hundredths of a millimetre for metric ones.
    """
    lead_mm = Fraction(drive.thread.lead_mm).limit_denominator(100_000)
    inch = Fraction(254, 10)
    exact_inch = (Fraction(drive.thread.lead_mm / INCH_MM)).limit_denominator(2_000)
    lead = exact_inch * inch if abs(float(exact_inch * inch) - drive.thread.lead_mm) < 1e-9 else lead_mm
    pitch = shop.lead_screw_pitch * (inch if shop.lead_screw_inch else 1)
    return dial_rule(ThreadDial(pitch, shop.dial_gear_teeth, shop.dial_marks), lead)


def material_of(part: Part) -> Material:
    """The material a part is drawn in."""
    return next(m for m in MATERIALS.values() if m.label == part.material)


def _turning_minutes(part: Part, start_mm: float, finish_mm: float, length_mm: float) -> float:
    cut = turning_cut(start_mm, finish_mm, 1.0, material_of(part).speed_m_min, 0.12, length_mm, 3)
    return cut.passes * cut.pass_seconds / 60


def route(part: Part, subject: Any, shop: Workshop) -> tuple[Operation, ...]:
    """The operations of a part, in order, numbered by tens."""
    from trebb.core.making.alignment_routes import ALIGNMENT_ROUTES  # they build on the rows here
    from trebb.core.making.spindle_routes import SPINDLE_ROUTES

    makers: dict[str, Callable[[Part, Any, Workshop], Sequence[Row]]] = {"screw": _screw_route, "nut": _nut_route, "thrust_collar": _ring_route, **SPINDLE_ROUTES, **ALIGNMENT_ROUTES}
    return tuple(Operation(10 * (i + 1), *row) for i, row in enumerate(makers[part.key](part, subject, shop)))


# Key, title, detail, hold, tool, minutes, caution, kind, and perhaps a SizeTarget.
Row = tuple[Any, ...]


def _screw_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    spec = drive.thread
    left = spec.hand is Hand.LEFT
    start = part.largest_mm + 1.5
    thread = next(s for s in part.sections if s.kind == "thread")
    rough = SETTING_MINUTES + _turning_minutes(part, start, spec.major_mm + 0.5, thread.length_mm)
    ends = SETTING_MINUTES + sum(_turning_minutes(part, start, s.diameter_mm + 0.5, s.length_mm) for s in part.sections if s.kind == "plain")
    way = "Start at the relief groove and cut away from the headstock." if left else "Cut toward the headstock into the relief groove."
    return [
        ("blanks", "Saw two blanks", part.stock, "vice", "saw", 15, "", "plain"),
        ("centre", "Face and centre both ends", "Centres deep enough for the load; length to the drawing with facing allowance used up.",
         "three-jaw, steady if the bar does not pass", "facing tool, centre drill", 20, "Chuck key out before the switch.", "plain"),
        ("rough", "Rough the thread land and the journals", "Leave 0.020 in (0.5 mm) on all diameters. Let it cool.",
         "between centres", "roughing tool", round(rough + ends), "Long work whips: follow with the tailstock snug, not tight.", "plain"),
        ("finish", "Finish journals, collar and thread land", "Measure each at three places, also for taper, before the last cut.",
         "between centres, same dog", "finishing tool", 40, "Cloth away from turning work; a short abrasive strip, hands far back, ways covered.", "plain"),
        ("groove", "Relief groove at the collar", "Just under the root, wider than a pitch, corners rounded.", "between centres", "round-cornered parting tool", 15,
         "A parting tool set high or with much overhang binds.", "plain"),
        ("thread_rough", "Rough the thread", f"Tool narrower than the finisher by a fifth. {way}", "between centres, follower rest ahead of the tool",
         "roughing thread tool", 45, "Half nuts out before the collar: lock the carriage stop first.", "plain"),
        ("thread", "Finish the thread", way, "between centres, follower rest", "finishing thread tool, ground to the flat", 75,
         "Let the work cool before the last passes.", "thread"),
        ("keyway", "Keyway in the dial seat; deburr", "Key fitted tight in the shaft.", "vee blocks on the mill", "slot drill", 25, "", "plain"),
        ("end_thread", "Thread the handwheel end", "To the old wheel nut; try it.", "between centres", "die or threading tool", 20, "", "plain"),
        ("fit", "Take the old screw out; try the new one in bracket and dial", "Only now: this lathe cut its own screw.", "bench", "", 20, "", "plain"),
    ]  # fmt: skip


def _nut_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    rows: list[Row] = [
        ("block", "Saw and square the block, and a spare", part.stock, "mill vice", "end mill", 40, "Bronze grabs: keep tools sharp with no rake.", "plain"),
        ("index", "Mark the axis from the old nut's seat", "Measure from the slide's underside with the screw at both ends of the travel.", "surface plate", "height gauge", 20, "", "plain"),
        ("bore", "Bore to the minor diameter", "Indicate the marked axis in the four-jaw. Bore, do not drill to size.", "four-jaw chuck", "boring bar", 35, "", "plain"),
        ("test", "Cut a test thread in a steel ring", "Same tool, same dial settings, before the one block.", "three-jaw", "internal threading tool", 30, "", "plain"),
        ("nut_thread", "Cut the nut's thread to its screw", "Infeed until the new screw enters with oil and turns free without shake. Left snug by tapping from both ends is the other school.",
         "four-jaw chuck", "internal threading tool, shank as thick as enters", 60, "Stop before the bar meets the chuck: mark its travel.", "nut_thread"),
    ]  # fmt: skip
    if part.title.endswith("split"):
        rows.append(("slit", "Saw the slot, drill and tap for the adjuster", "Drill and tap before sawing.", "mill vice", "slitting saw", 30, "", "plain"))
    rows += [
        ("oil", "Drill the oil hole", "Clear of the thread's ends; deburr inside.", "drill press", "drill", 10, "", "plain"),
        ("try", "Try it on its screw along the whole length", "Free from end to end, no shake that an indicator shows.", "bench", "indicator", 15, "", "plain"),
    ]
    return rows


def _ring_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    return [
        ("turn", "Turn, face and bore in one setting", "Faces square to the bore.", "three-jaw", "boring bar", 35, "Chuck key out before the switch.", "plain"),
        ("part", "Part off two; face the second side on a mandrel", "One is the spare.", "mandrel between centres", "parting tool", 25,
         "Stick-out short, speed low.", "plain"),
        ("tap", "Drill and tap for the locking screw", "Brass pad under the screw.", "vee block", "tap", 15, "", "plain"),
        ("face", "Reface the bracket square", "As much as the washers need, less the play that was there.", "on its own bore", "facing cutter", 40, "", "plain"),
    ]  # fmt: skip


def minutes_left(operations: tuple[Operation, ...], done: set[str]) -> tuple[float, float]:
    """Minutes of the operations done and left."""
    gone = sum(o.minutes for o in operations if o.key in done)
    return gone, sum(o.minutes for o in operations) - gone
