"""What is stated of an assembly, as fields, by its family. What cannot be is refused where it is typed."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from trebb.app.fields import Fields
from trebb.app.session import Session
from trebb.core.errors import InputError
from trebb.core.machine import Spindle
from trebb.core.threads.marking import parse_marking
from trebb.core.threads.naming import GAUGES, TRIALS
from trebb.core.units import THOU_MM, UnitSystem, parse_length, parse_number, show_size, show_small
from trebb.logbook.bed_case import WAYS, bed_from_facts, stock_from
from trebb.logbook.casework import DriveCase, drive_from_facts, slide_from_facts, spindle_from_facts
from trebb.logbook.drive_case import tried_from
from trebb.logbook.entries import DriveStated

Facts = Mapping[str, str | float]
# Field, words, least and most in mm.
Length = tuple[str, str, float, float]

SPINDLE_LENGTHS: tuple[Length, ...] = (
    ("near_mm", "Near plane", 0.0, 200.0),
    ("far_mm", "Far plane", 40.0, 600.0),
    ("work_mm", "Counts at", 5.0, 600.0),
    ("seat_length_mm", "Taper seats over", 15.0, 250.0),
    ("pin_near_mm", "Pin, near", 5.0, 400.0),
    ("pin_far_mm", "Pin, far", 10.0, 600.0),
    ("face_radius_mm", "Face radius", 5.0, 300.0),
    ("front_bore_mm", "Front bore", 5.0, 120.0),
    ("front_outside_mm", "Front outside", 10.0, 240.0),
    ("rear_bore_mm", "Rear bore", 5.0, 120.0),
    ("bearing_width_mm", "Bearing width", 3.0, 80.0),
)
WAYS_LENGTHS: tuple[Length, ...] = (
    ("base_mm", "Level’s feet apart", 40.0, 600.0),
    ("gauge_mm", "Ways apart, middles", 40.0, 800.0),
    ("across_mm", "Feet, front to back", 80.0, 1500.0),
    ("along_mm", "Feet, along", 200.0, 6000.0),
    ("centre_mm", "Centres above ways", 40.0, 600.0),
    ("tool_height_mm", "Tool above feet", 150.0, 1800.0),
    ("nose_mm", "Station 0 to nose", -300.0, 600.0),
)
CUT_LENGTHS: tuple[Length, ...] = (
    ("near_mm", "Near land from nose", 5.0, 300.0),
    ("far_mm", "Far land from nose", 40.0, 900.0),
    ("face_radius_mm", "Facing at radius", 20.0, 400.0),
    ("lever_mm", "Pivot to jacking screw", 80.0, 1500.0),
    ("travel_mm", "A foot’s bolt takes", 0.2, 30.0),
    ("across_mm", "Feet, front to back", 80.0, 1500.0),
    ("along_mm", "Feet, along", 200.0, 6000.0),
    ("tool_height_mm", "Tool above feet", 150.0, 1800.0),
)
TAIL_LENGTHS: tuple[Length, ...] = (("centres_mm", "Bar between centres", 100.0, 5000.0), ("quill_mm", "Quill run out", 15.0, 300.0))
FEET_LENGTHS: tuple[Length, ...] = (
    ("across_mm", "Feet, front to back", 80.0, 1500.0), ("along_mm", "Feet, along", 200.0, 6000.0), ("tool_height_mm", "Tool above feet", 150.0, 1800.0), ("travel_mm", "A foot’s bolt takes", 0.2, 30.0),
)  # fmt: skip
GIB_LENGTHS: tuple[Length, ...] = (
    ("length_mm", "Gib’s length", 30.0, 2000.0),
    ("thin_mm", "Thin end", 1.0, 60.0),
    ("width_mm", "Width of its face", 5.0, 150.0),
    ("screw_pitch_mm", "Screw’s pitch", 0.4, 4.0),
    ("travel_mm", "Screw has left", 0.0, 60.0),
    ("stand_out_mm", "Stands out, by design", 0.0, 60.0),
    ("stock_mm", "Lining at hand", 0.3, 6.0),
    ("least_mm", "Thin end, at least", 0.5, 30.0),
)
SADDLE_LENGTHS: tuple[Length, ...] = (
    ("bearing_mm", "Lead screw, bearings apart", 200.0, 8000.0),
    ("apron_mm", "Bearing to half nuts", 50.0, 7000.0),
    ("screw_mm", "Lead screw, root", 8.0, 120.0),
    ("thread_depth_mm", "Thread’s depth", 0.4, 12.0),
)
TRAM_LENGTHS: tuple[Length, ...] = (
    ("radius_mm", "Swept at radius", 30.0, 500.0),
    ("square_mm", "Travel along square", 30.0, 800.0),
    ("column_mm", "Column along square", 50.0, 1200.0),
    ("bolts_mm", "Between bolts", 20.0, 900.0),
)


class Stating:
    """Builds the fields; `check` refuses facts that cannot be, `about` is the assembly they are kept under."""

    def __init__(self, session: Session, check: Callable[[Facts], object], about: str = "") -> None:
        self.session, self.check, self._about = session, check, about
        self.fields = Fields()

    @property
    def about(self) -> str:
        """The assembly that the facts are kept under."""
        return self._about or self.session.assembly

    def fact(self, key: str, value: str | float) -> None:
        """Record a fact, unless it cannot be."""
        self.check({**self.session.job.drive_facts(self.about), key: value})
        self.session.record(DriveStated(assembly=self.about, field=key, value=value))

    def _now(self, key: str) -> float:
        return float(getattr(self.session.case.subject, key, 0.0))  # another family's subject while it is being left

    def lengths(self, lengths: tuple[Length, ...]) -> None:
        """Fields of lengths, each within what can be."""
        for key, words, low, high in lengths:
            self.fields.add(key, words, lambda k=key: show_size(self._now(k), self.session.system), lambda text, k=key, a=low, b=high: self._length(k, text, a, b), words)  # type: ignore[misc]

    def _length(self, key: str, text: str, low: float, high: float) -> None:
        value = parse_length(text, self.session.system)
        if not low <= value <= high:
            raise InputError(f"“{text.strip()}”", f"from {show_size(low, self.session.system)} to {show_size(high, self.session.system)}")
        self.fact(key, value)

    def small(self, key: str, words: str, low: float, high: float) -> None:
        """A length in thou or µm."""
        def commit(text: str) -> None:
            value = parse_length(text, self.session.system, bare_mm=0.0254 if self.session.system is UnitSystem.INCH else 0.001)
            if not low <= value <= high:
                raise InputError(f"“{text.strip()}”", f"from {show_small(low, self.session.system)} to {show_small(high, self.session.system)}")
            self.fact(key, value)
        self.fields.add(key, words, lambda: show_small(self._now(key), self.session.system), commit, words)

    def number(self, key: str, words: str, low: float, high: float, what: str, shown: str = "{:g}") -> None:
        """A plain number; `what` says of what, for a refusal."""
        def commit(text: str) -> None:
            value = parse_number(text)[0]
            if not low <= value <= high:
                raise InputError(f"“{text.strip()}”", f"{what} from {low:g} to {high:g}")
            self.fact(key, value)
        self.fields.add(key, words, lambda: shown.format(self._now(key)), commit, what)


def spindle_fields(session: Session) -> Fields:
    """Fields of the chosen spindle."""
    made = Stating(session, lambda facts: spindle_from_facts(session.case.kind.key, facts))

    def spindle() -> Spindle:
        subject = session.case.subject
        return subject if isinstance(subject, Spindle) else Spindle()

    fields = made.fields
    fields.add("angles", "Angles", lambda: _angles(spindle()), lambda text: made.fact("angles", text.strip()), "How many, or a list such as 0, 40, 95")
    fields.add("seatings", "Bar's marks", lambda: ", ".join(f"{a:g}" for a in spindle().seatings), lambda text: made.fact("seatings", text.strip()), "Angles of the index mark, in the order taken")
    fields.add_choice("hardness", "Taper by a file", {"": "not tested", "soft": "soft: the file bites", "hard": "hard: the file skates"}, lambda: spindle().hardness, lambda v: made.fact("hardness", v), "Test before any reamer")
    fields.add_choice("bearing_count", "Bearings in front", {"1": "one", "2": "two"}, lambda: str(spindle().bearing_count), lambda v: made.fact("bearing_count", float(v)), "Bearings that carry the spindle in its quill")
    made.number("speed_rpm", "Usual speed", 20, 30000, "revolutions a minute", "{:g} rpm")
    made.number("pull_n", "Full pull", 10, 2000, "newtons", "{:.0f} N")
    made.lengths(SPINDLE_LENGTHS)
    return fields


def _angles(spindle: Spindle) -> str:
    n = len(spindle.angles)
    even = all(abs(a - 360 * i / n) < 1e-6 for i, a in enumerate(spindle.angles))
    return str(n) if even else ", ".join(f"{a:g}" for a in spindle.angles)


def _bed_fields(session: Session, lengths: tuple[Length, ...], *, steps: bool = False, stock: bool = False, passes: bool = False) -> Fields:
    """Fields of the bed; all four assemblies share what is stated of it."""
    made = Stating(session, bed_from_facts, WAYS)
    if steps:
        made.number("steps", "Steps of the level", 3, 24, "steps along the bed")
    made.lengths(lengths)
    if passes:
        made.small("pass_mm", "A scraping pass takes", 0.001, 0.05)
    if stock:
        def unit() -> tuple[str, float]:
            return ("thou", THOU_MM) if session.system is UnitSystem.INCH else ("mm", 1.0)

        def shown() -> str:
            name, mm = unit()
            return " ".join(f"{t / mm:.3g}" for t in getattr(session.case.subject, "stock_mm", ())) + f" {name}"

        def commit(text: str) -> None:
            made.fact("stock_mm", " ".join(f"{t:.5g}" for t in stock_from(text, unit()[1])))

        made.fields.add("stock_mm", "Shims at hand", shown, commit, "Thicknesses at hand, such as 0.02 0.05 0.1 mm or 1 2 5 thou")
    return made.fields


def gib_fields(session: Session) -> Fields:
    """Fields of the chosen slide."""
    made = Stating(session, slide_from_facts)
    made.number("ratio", "Taper, 1 :", 20, 300, "the gib’s taper, 1 in so many,")
    made.lengths(GIB_LENGTHS)
    made.small("running_mm", "To run with", 0.0, 0.2)
    made.small("scrape_mm", "Left to scrape, new", 0.0, 1.0)
    made.number("dovetail_deg", "Dovetail’s angle", 30, 80, "degrees", "{:g}°")
    if getattr(session.case.subject, "is_saddle", False):
        made.lengths(SADDLE_LENGTHS)
    return made.fields


def tram_fields(session: Session) -> Fields:
    """Fields of the chosen head or table."""
    made = Stating(session, lambda facts: facts)
    made.lengths(TRAM_LENGTHS)
    return made.fields


DRIVE_LENGTHS: tuple[Length, ...] = (("travel_mm", "Travel", 10.0, 6000.0), ("nut_length_mm", "Old nut", 5.0, 500.0))


def _of_drive(session: Session) -> Stating:
    """Facts of the chosen screw; a thread that cannot be is refused, and a trial that cannot be read."""
    def check(facts: Facts) -> object:
        usual = session.case.usual if isinstance(session.case, DriveCase) else None
        return drive_from_facts(facts, usual), list(tried_from(str(facts.get("tried", ""))))

    return Stating(session, check)


def drive_fields(session: Session) -> Fields:
    """The chosen screw's dial, travel and nut."""
    made = _of_drive(session)
    fields = made.fields
    made.number("divisions", "Dial divisions", 1, 2000, "divisions in a turn,")
    fields.add_choice("reads", "Dial counts", {"radius": "the slide's travel", "diameter": "the diameter"}, lambda: "diameter" if getattr(session.case.subject, "reads_diameter", False) else "radius", lambda v: made.fact("reads", v), "What the dial is numbered in")
    made.lengths(DRIVE_LENGTHS)
    made.number("turns", "Turns counted", 1, 200, "turns")

    def ways(text: str) -> None:
        sizes = [parse_length(word, session.system) for word in text.replace(",", " ").split()]
        made.fact("read_at", " ".join(f"{v:.2f}" for v in sizes))

    def shown() -> str:
        return "  ".join(show_size(v, session.system, unit=False) for v in getattr(session.case.subject, "extra_mm", ()))

    fields.add("read_at", "Screw read also at", shown, ways, "Ways along the travel at which the bare screw is read besides its stations, with a space between")
    return fields


def seen_fields(session: Session) -> Fields:
    """What is seen of the chosen screw's thread."""
    made = _of_drive(session)

    def seen(key: str) -> str:
        value = session.job.drive_facts(made.about).get(key, "")
        return value if isinstance(value, str) else f"{value:g}"

    def number(key: str, text: str, low: float, high: float, what: str) -> None:
        value = parse_number(text.rstrip("° "))[0]
        if not low <= value <= high:
            raise InputError(f"“{text.strip()}”", f"{what} from {low:g} to {high:g}")
        made.fact(key, value)

    fields = made.fields
    fields.add("seen_angle", "Flank angle", lambda: f"{seen('seen_angle')}°" if seen("seen_angle") else "", lambda text: number("seen_angle", text, 0, 90, "degrees, included,"), "Included flank angle, by protractor or on a projected shadow")
    fields.add_choice("seen_gauge", "Pitch gauge that sits", {"": "none tried", **{f"{g:g}": f"{g:g}°" if g else "square" for g in GAUGES}}, lambda: seen("seen_gauge"), lambda v: made.fact("seen_gauge", float(v)) if v else None, "The gauge that shows least light")
    fields.add_choice("seen_starts", "Starts", {"": "not counted", **{str(n): str(n) for n in range(1, 7)}}, lambda: seen("seen_starts"), lambda v: made.fact("seen_starts", float(v)) if v else None, "Thread beginnings at the screw's end")
    fields.add_choice("seen_hand", "Hand", {"": "not looked at", "right": "right", "left": "left"}, lambda: seen("seen_hand"), lambda v: made.fact("seen_hand", v) if v else None, "Hand of the thread")
    fields.add_choice("seen_crest", "Crests", {"": "not looked at", "flat": "flat", "sharp": "sharp", "round": "round"}, lambda: seen("seen_crest"), lambda v: made.fact("seen_crest", v) if v else None, "How an unworn crest looks")
    fields.add("tried", "What was tried", lambda: seen("tried"), lambda text: made.fact("tried", checked_trials(text)), "Such as: 3/4-8 Acme LH: starts, then binds")
    return fields


def checked_trials(text: str) -> str:
    """What was tried, as it is stored. Raises InputError where a marking or an outcome cannot be read."""
    for one in filter(str.strip, text.split(";")):
        marking, _, outcome = one.rpartition(":")
        if outcome.strip() not in TRIALS:
            raise InputError(f"“{one.strip()}”", f"write the marking, a colon, and {', or '.join(TRIALS)}")
        parse_marking(marking)
    return text.strip()


STATED: dict[str, tuple[str, Callable[[Session], Fields]]] = {
    "spindle": ("Spindle, as stated", spindle_fields),
    "screw_drive": ("Dial and travel, as stated", drive_fields),
    "ways": ("Bed, as stated", lambda session: _bed_fields(session, WAYS_LENGTHS, steps=True, stock=True, passes=True)),
    "headstock": ("Lands and feet, as stated", lambda session: _bed_fields(session, CUT_LENGTHS, stock=True)),
    "tailstock": ("Tailstock, as stated", lambda session: _bed_fields(session, TAIL_LENGTHS, stock=True)),
    "stand": ("Feet, as stated", lambda session: _bed_fields(session, FEET_LENGTHS, stock=True)),
    "gib": ("Gib and slot, as stated", gib_fields),
    "tram": ("Head and table, as stated", tram_fields),
}


class StatedFields:
    """Fields of each family as they are first wanted; a lathe's saddle has more than another slide."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self.made: dict[str, Fields] = {}

    @property
    def key(self) -> str:
        """What the chosen assembly's fields are kept under."""
        case = self._session.case
        return f"{case.family}.saddle" if getattr(case.subject, "is_saddle", False) else case.family

    def now(self) -> tuple[str, Fields]:
        """Heading and fields of the chosen assembly."""
        words, make = STATED[self._session.case.family]
        if self.key not in self.made:
            self.made[self.key] = make(self._session)
        return words, self.made[self.key]
