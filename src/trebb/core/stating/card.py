"""The machine's card: what it is, and what the lathe that makes the parts can do."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from trebb.core.errors import InputError
from trebb.core.facts import Choice, Fact, Force, Length, Number, Schema, Words
from trebb.core.machine.workshop import ratio_from, wheels_from
from trebb.core.units import UnitSystem

MOST_WORTH = 1e8


def some_wheels(text: str) -> tuple[int, ...]:
    """Change gears of which two at least are there. Raises InputError."""
    wheels = wheels_from(text)
    if len(wheels) < 2:
        raise InputError(f"“{text.strip()[:60]}”", "list the wheels by their teeth, such as 20 24 28 127")
    return wheels


class Money(Number, frozen=True):
    """A sum of money: "1800", "1 800", "£1,800.50"; the sign before it is another line of the card."""

    def typed(self, text: str, system: UnitSystem) -> str | float:
        plain = text.strip().lstrip("£$€ ").replace(" ", "").replace("\u00a0", "")
        match = re.fullmatch(
            r"(?P<whole>[0-9]{1,9}|[0-9]{1,3}(?:,[0-9]{3}){1,2})(?P<part>[.,][0-9]{0,2})?", plain
        )
        if match is None:
            raise InputError(f"“{text.strip()[:40]}”", "write a sum of money such as 1800")
        part = (match["part"] or "").replace(",", ".")
        return self._within(float(match["whole"].replace(",", "") + part), f"“{text.strip()}”")


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Mapping[str, Any]:
    return values


INTAKE = ("intake",)
FACTS: tuple[Fact, ...] = (
    Words("make", "Make", "Maker's name and model", INTAKE),
    Words("year", "Year", "Year of making, if known", INTAKE, most=40),
    Words("size", "Size", "Swing and centres, table, or capacity", INTAKE),
    Choice(
        "units",
        "Called in",
        "Whether this machine's own sizes are called in inches or in millimetres",
        INTAKE,
        choices={"": "not said", "inch": "inches", "mm": "millimetres"},
    ),
    Choice(
        "looks",
        "To look",
        "How it is to look when it goes back: the plan has its hours, and the days that paint wants",
        INTAKE,
        choices={
            "": "not said",
            "clean": "clean, colour as it is",
            "honest": "touched in, honest marks stay",
            "full": "stripped, filled and painted",
        },
    ),
    Words("words", "In the owner's words", "What is wrong, in the owner's words", (), most=4000),
    Money("worth", "Worth about", "What the machine is worth mended", INTAKE, low=0, high=MOST_WORTH),
    Words("currency", "Currency", asked=(), most=8),
    Number(
        "lead_screw",
        "Lead screw",
        "Threads of the lead screw, for the thread dial's rule",
        INTAKE,
        low=0.25,
        high=100,
    ),
    Choice("lead_screw_unit", "Lead screw in", asked=(), choices={"inch": "turns an inch", "mm": "mm"}),
    Number(
        "dial_gear",
        "Thread dial gear, teeth",
        "Teeth of the thread dial's gear",
        INTAKE,
        low=4,
        high=500,
        whole=True,
    ),
    Number(
        "dial_marks", "Thread dial, lines", "Lines on the thread dial", INTAKE, low=1, high=64, whole=True
    ),
    Length(
        "spindle_bore_mm", "Spindle bore", "Bore of the spindle: what bar passes", INTAKE, low=3.0, high=500.0
    ),
    Choice(
        "compound_from",
        "Compound scale from",
        "Where the compound's degree scale is zero",
        INTAKE,
        choices={"cross slide": "the cross slide", "bed axis": "the bed's axis"},
    ),
    Length("compound_division_mm", "Compound, one division", asked=(), low=0.001, high=1.0),
    Words(
        "wheels",
        "Change gears",
        "Wheels at hand by their teeth; one owned twice is written twice",
        INTAKE,
        reader=some_wheels,
        writer=lambda text, _: " ".join(map(str, some_wheels(text))),
        form="teeth, 12 to 200, with spaces between",
    ),
    Length("wheel_module_mm", "Wheels' module", asked=(), low=0.3, high=10.0),
    Words(
        "gear_ratio",
        "Gearbox at",
        "Lead screw turns for one of the spindle with equal wheels on: 1, 2 or 1/2",
        INTAKE,
        reader=ratio_from,
        writer=lambda text, _: str(ratio_from(text)),
        form="a ratio such as 2 or 1/2",
        most=40,
    ),
    Length(
        "stud_to_screw_mm",
        "Stud to lead screw",
        "From the stud of the first wheel to the lead screw, middle to middle",
        INTAKE,
        low=40.0,
        high=600.0,
    ),
    Choice(
        "projection",
        "Drawings in",
        "How the views of a part stand to each other",
        INTAKE,
        choices={"": "the usual angle", "first": "first angle", "third": "third angle"},
    ),
    Force(
        "press_kn",
        "Press at hand",
        "What the arbor or hydraulic press pushes: kN, or tons of 2000 lbf",
        INTAKE,
        low=1,
        high=5000,
        unit_n=1000.0,
    ),
)
SCHEMA = Schema(FACTS, _build)
