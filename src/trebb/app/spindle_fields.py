"""What is stated of a spindle, as fields."""

from __future__ import annotations

from trebb.app.fields import Fields
from trebb.app.session import Session
from trebb.core.errors import InputError
from trebb.core.machine import Spindle
from trebb.core.units import parse_length, parse_number, show_size
from trebb.logbook.casework import spindle_from_facts
from trebb.logbook.entries import DriveStated

# Field, words, least and most in mm.
LENGTHS: tuple[tuple[str, str, float, float], ...] = (
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


def spindle_fields(session: Session) -> Fields:
    """Fields of the chosen spindle. What cannot be is refused where it is typed."""
    fields = Fields()

    def spindle() -> Spindle:
        subject = session.case.subject
        return subject if isinstance(subject, Spindle) else Spindle()

    def fact(key: str, value: str | float) -> None:
        spindle_from_facts(session.case.kind.key, {**session.job.drive_facts(session.assembly), key: value})
        session.record(DriveStated(assembly=session.assembly, field=key, value=value))

    def length(key: str, text: str, low: float, high: float) -> None:
        value = parse_length(text, session.system)
        if not low <= value <= high:
            raise InputError(f"“{text.strip()}”", f"from {show_size(low, session.system)} to {show_size(high, session.system)}")
        fact(key, value)

    def number(key: str, text: str, low: float, high: float, what: str) -> None:
        value = parse_number(text)[0]
        if not low <= value <= high:
            raise InputError(f"“{text.strip()}”", f"{what} from {low:g} to {high:g}")
        fact(key, value)

    fields.add("angles", "Angles", lambda: _angles(spindle()), lambda text: fact("angles", text.strip()), "How many, or a list such as 0, 40, 95")
    fields.add("seatings", "Bar's marks", lambda: ", ".join(f"{a:g}" for a in spindle().seatings), lambda text: fact("seatings", text.strip()), "Angles of the index mark, in the order taken")
    fields.add_choice("hardness", "Taper by a file", {"": "not tested", "soft": "soft: the file bites", "hard": "hard: the file skates"}, lambda: spindle().hardness, lambda v: fact("hardness", v), "Test before any reamer")
    fields.add_choice("bearing_count", "Bearings in front", {"1": "one", "2": "two"}, lambda: str(spindle().bearing_count), lambda v: fact("bearing_count", float(v)), "Bearings that carry the spindle in its quill")
    fields.add("speed_rpm", "Usual speed", lambda: f"{spindle().speed_rpm:g} rpm", lambda text: number("speed_rpm", text, 20, 30000, "revolutions a minute"), "Usual middle speed, revolutions a minute")
    fields.add("pull_n", "Full pull", lambda: f"{spindle().pull_n:.0f} N", lambda text: number("pull_n", text, 10, 2000, "newtons"), "Full pull of the push test, in newtons (10 lbf is 44 N)")
    for key, words, low, high in LENGTHS:
        fields.add(key, words, lambda k=key: show_size(getattr(spindle(), k), session.system), lambda text, k=key, a=low, b=high: length(k, text, a, b), words)  # type: ignore[misc]
    return fields


def _angles(spindle: Spindle) -> str:
    n = len(spindle.angles)
    even = all(abs(a - 360 * i / n) < 1e-6 for i, a in enumerate(spindle.angles))
    return str(n) if even else ", ".join(f"{a:g}" for a in spindle.angles)
