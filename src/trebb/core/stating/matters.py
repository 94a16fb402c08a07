"""What is stated of the job as a whole, beside its assemblies: its plan, what came off and how, what the
owner hears, where oil goes, what to look at again. One kind of entry carries all of it: which matter, of
which one, field, value.
"""

from __future__ import annotations

import datetime
from collections.abc import Mapping
from typing import Any

from trebb.core import clock
from trebb.core.dates import date_typed, dates_typed, day_words, full_words, stored_date
from trebb.core.errors import InputError
from trebb.core.facts import Choice, Fact, Length, Number, Schema, Small, Stored, Words
from trebb.core.planning.evenings import LEAST_EVENING, MOST_EVENING
from trebb.core.stating.card import Money
from trebb.core.stating.work import WORK_FACTS
from trebb.core.units import UnitSystem

DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
DAY_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
YES_NO = {"": "not said", "yes": "yes", "no": "no"}
MOST_MONEY, MOST_HOURS, MOST_DAYS = 1e8, 1000.0, 730.0


class Date(Fact, frozen=True):
    """A date, kept as ISO 8601; `ahead` : not one that has been."""

    ahead: bool = False

    @property
    def takes(self) -> str:
        return "a date, such as 2026-12-05; nothing for none"

    def typed(self, text: str, system: UnitSystem) -> Stored:
        if not text.strip():
            return ""
        today = clock.today()
        found = date_typed(text, today)
        if self.ahead and found < today:
            raise InputError(f"“{text.strip()}”", "that day has been: today or later")
        return found.isoformat()

    def admitted(self, value: Stored) -> datetime.date | None:
        if not isinstance(value, str):
            raise InputError(f"{self.words}: {value}", "a date such as 2026-12-05")
        return stored_date(value) if value else None

    def shown(self, value: Any, system: UnitSystem) -> str:
        return full_words(value) if value else ""


class Hours(Number, frozen=True):
    """Hours of an evening; nothing is a day off."""

    def _within(self, number: float, given: str) -> float:
        if number and not LEAST_EVENING <= number <= MOST_EVENING:
            raise InputError(given, f"from a quarter of an hour to {MOST_EVENING:g}; 0 is a day off")
        return super()._within(number, given)


def _dates(text: str) -> tuple[datetime.date, ...]:
    return tuple(stored_date(part) for part in text.split())


def _dates_typed(text: str, _: UnitSystem) -> str:
    return " ".join(d.isoformat() for d in dates_typed(text, clock.today()))


def _weekdays(text: str) -> tuple[str, ...]:
    found = tuple(word[:3] for word in text.lower().replace(",", " ").split())
    if not set(found) <= set(DAYS):
        raise InputError(f"“{text.strip()[:40]}”", f"weekdays: {' '.join(DAYS)}")
    return tuple(d for d in DAYS if d in found)


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Mapping[str, Any]:
    return values


def _words(key: str, words: str, tip: str = "", *, most: int = 400) -> Words:
    return Words(key, words, tip or words, (), most=most)


def _yes(key: str, words: str, tip: str = "") -> Choice:
    return Choice(key, words, tip or words, (), choices=YES_NO)


_GONE = _yes("gone", "Taken off the list")
_PLAN: tuple[Fact, ...] = (
    *(
        Hours(key, name, f"Hours at the bench on a {name}; 0 is a day off", (), high=MOST_EVENING, unit=" h")
        for key, name in zip(DAYS, DAY_NAMES, strict=True)
    ),
    Words(
        "off",
        "Days off",
        "Dates with commas between, or the first to the last",
        (),
        reader=_dates,
        writer=_dates_typed,
        show=lambda days, _: ", ".join(map(day_words, days or ())),
        form="dates such as 2026-12-05, with spaces between",
        most=4000,
    ),
    Words(
        "helper_days",
        "Help on",
        "Weekdays on which somebody lifts with you: sat sun",
        (),
        reader=_weekdays,
        writer=lambda text, _: " ".join(_weekdays(text)),
        show=lambda days, _: " ".join(days or ()),
        form="weekdays such as sat sun, with spaces between",
    ),
    Date("ready_by", "Ready by", "The day it must be ready, if there is one", (), ahead=True),
    Choice(
        "cuts_own",
        "Its parts are cut on",
        "A machine that cuts its own parts must stand whole while it does",
        (),
        choices={"": "as usual for its kind", "yes": "this machine", "no": "another lathe"},
    ),
    Money(
        "hour_worth", "An hour is worth", "Of your own time, for the money; 0 counts none", (), high=10_000
    ),
    _words("order", "Order taken", "Keys of the tasks in the order that was taken for them", most=20_000),
    Length("kerf", "Saw cut", "What the saw takes", (), low=0.0, high=20.0),
    Length("waste", "Chuck holds", "What a bar keeps in the chuck or vise", (), low=0.0, high=300.0),
    Length("bar_length", "Bars are sold in", "Length of a bar as sold", (), low=50.0, high=6000.0),
)
_TASK: tuple[Fact, ...] = (
    _words("title", "Task", "What there is to do", most=200),
    Number("hours", "Hours", "Bench hours, as you think", (), high=MOST_HOURS, unit=" h"),
    Number(
        "days", "Days", "Days of waiting, from when it is ordered or begun", (), high=MOST_DAYS, unit=" d"
    ),
    Date("comes", "Comes on", "The day it is promised for", (), ahead=True),
    Date("pinned", "Not before", "The day it is held until", ()),
    Number("spent", "Hours spent", "Hours it took so far", (), high=MOST_HOURS, unit=" h"),
    _words("timer", "Timer since", "When its timer was started", most=40),
    Money("cost", "Money", "What it will cost, beside the remedy's own", (), high=MOST_MONEY),
    Money("paid", "Paid", "What was paid for it", (), high=MOST_MONEY),
    Number(
        "part",
        "Its first part",
        "Hours of it that are done apart from the rest",
        (),
        high=MOST_HOURS,
        unit=" h",
    ),
    _words("after", "Only after", "Keys of the tasks it waits for", most=2000),
    _words("assembly", "Belongs to", "Assembly it belongs to", most=60),
    Choice(
        "kind",
        "Kind",
        "Work of yours, or a wait",
        (),
        choices={"": "work", "wait": "a wait", "whole": "work on this machine, whole"},
    ),
    _yes("own", "A task of one's own"),
    _yes("helper", "Needs help", "It is lifted by two: only on days with help"),
    _words("missing", "Missing", "What must be there before it can begin"),
    _GONE,
)
_STRIP: tuple[Fact, ...] = (
    _words("assembly", "Of", "Assembly it came off", most=60),
    _words("what", "What came off", "The part, in your words", most=120),
    _words("held", "Held by", "Fasteners, counted, with their size: 4 × M8 × 30 cap screws", most=200),
    _words("hidden", "Hidden fastener", "Where one hides", most=200),
    _words("way", "Which way round", "How it sat: thick end left, oil hole up", most=200),
    _words("mark", "Match mark", "What is marked, where: two dots on bracket and bed", most=200),
    Small("shim", "Shim", "Thickness of the shim that lay there", (), high=25.0),
    _words("shim_at", "Shim lay", "Which place", most=120),
    _words("stuck", "Stuck", "What would not come, and what moved it", most=200),
    _words("tray", "Bag or tray", "Number or letter of the bag", most=40),
    _words("first", "To take before", "A length or setting to take before it comes out", most=200),
    _words("taken", "Taken", "What it read", most=200),
    _words("waived", "Waived", "Why it was not taken", most=200),
    _yes("meets", "It meets", "Seen to meet again, before anything fixes it for good"),
    _words("allowed", "May be off by", "What may be left between the marks: 0.5 div, 2°", most=60),
    _words("again", "Read again", "What it read once all was together again", most=200),
    _words("photo", "Photograph", "Its SHA-256 in the job file", most=64),
    _words("step", "Fit-up step", "Key of the step that puts it back", most=60),
    Number("at", "Place in the order", "", (), low=-1e6, high=1e6),
    _GONE,
)
_RULE: tuple[Fact, ...] = (
    _words("assembly", "Of", "", most=60),
    _words("before", "Goes first", "Key of the step that must come first", most=60),
    _words("then", "Goes after", "Key of the step that cannot come before it", most=60),
    _words("why", "Why", "What happened the first time"),
    _GONE,
)
_SYMPTOM: tuple[Fact, ...] = (
    _yes("there", "There"),
    _yes("after", "Still there", "After the repair"),
    _words("assembly", "On", "Assembly it is heard or felt on", most=60),
    Length("spacing_mm", "Every", "From one mark in the work to the next", (), low=0.05, high=500.0),
    Choice(
        "grew",
        "Came",
        "How it came",
        (),
        choices={"": "not said", "slowly": "slowly, over years", "suddenly": "from one day to the next"},
    ),
    _words("note", "Note"),
)
_LOOK: tuple[Fact, ...] = (
    Choice("found", "Found", "What the look showed", (), choices=YES_NO),
    _words("note", "Note"),
)
_TOOL: tuple[Fact, ...] = (Choice("there", "Here", "Whether it is in the shop", (), choices=YES_NO),)
_ASKED: tuple[Fact, ...] = (
    Choice("found", "Found", "Asked once", (), choices=YES_NO),
    _words("note", "Note", "What, where"),
)
OIL_KINDS = {
    "": "not said",
    "vg10": "spindle oil ISO VG 10",
    "vg22": "spindle or hydraulic oil ISO VG 22",
    "vg32": "hydraulic oil ISO VG 32",
    "vg46": "hydraulic oil ISO VG 46",
    "vg68": "way oil ISO VG 68",
    "vg100": "gear oil ISO VG 100",
    "vg150": "gear oil ISO VG 150",
    "vg220": "way or gear oil ISO VG 220",
    "nlgi1": "grease NLGI 1",
    "nlgi2": "grease NLGI 2",
    "nlgi3": "grease NLGI 3",
}
OIL_HOW = {
    "": "not said",
    "ball": "ball oiler, by can",
    "cup": "cup",
    "wick": "wick",
    "pump": "pump through a meter",
    "splash": "splash, to the sight glass",
    "nipple": "grease nipple",
    "packed": "grease, packed by volume",
}
OIL_OFTEN = {
    "": "not said",
    "daily": "before each day's work",
    "weekly": "each week",
    "monthly": "each month",
    "yearly": "each year",
    "at rebuild": "when it is apart",
}
_OIL: tuple[Fact, ...] = (
    _words("assembly", "Of", "", most=60),
    _words("where", "Point", "Where oil goes in", most=120),
    Choice("kind", "With", "By ISO VG or NLGI", (), choices=OIL_KINDS),
    Choice("how", "How", "How it gets there", (), choices=OIL_HOW),
    Choice("often", "How often", "", (), choices=OIL_OFTEN),
    Choice(
        "state",
        "Tried",
        "Whether oil comes through",
        (),
        choices={
            "": "not tried",
            "open": "oil comes through",
            "blocked": "blocked",
            "cleared": "was blocked",
        },
    ),
    Length("bore", "Bearing's bore", "For the grease a bearing takes", (), high=500.0),
    Length("outer", "Its outside", "Outside of the bearing", (), high=800.0),
    Length("wide", "Its width", "Width of the bearing", (), high=300.0),
    Number("drops", "Drops an hour", "What its meter gives", (), high=2000),
    Length("line_bore", "Line's bore", "Inside of the pipe that feeds it", (), high=30.0),
    Length("line_long", "Line's length", "From the manifold to here", (), high=10_000.0),
    Length(
        "line_up",
        "Ends above it",
        "How far it ends above the manifold; below is less than nothing",
        (),
        low=-3000.0,
        high=3000.0,
    ),
    Length("tray_long", "Tray, long", "Inside of the tray under the apron", (), high=2000.0),
    Length("tray_wide", "wide", "Inside of the tray under the apron", (), high=1000.0),
    Length("tray_high", "high", "Height of its sides", (), high=300.0),
    _words("note", "Note"),
    _GONE,
)
_AGAIN: tuple[Fact, ...] = (
    _words("what", "What", "What to look at", most=200),
    _words("assembly", "Of", "", most=60),
    _words("why", "Why"),
    Date("due", "Due", "The day to look", ()),
    Date("done", "Looked", "The day it was", ()),
    _GONE,
)
_TRIAL: tuple[Fact, ...] = (
    Choice(
        "came",
        "Came",
        "How the trial came",
        (),
        choices={"": "not tried", "good": "good", "bad": "bad"},
    ),
    _words("note", "With what", "Which bar, which chuck, which lands, what came", most=200),
    _words("words", "Tried", "What was tried, of a trial of one's own", most=160),
    _words("about", "About", "Key of the complaint that it is about", most=40),
    _words("hangs_on", "Hangs on", "Keys of what it hangs on, with spaces between", most=200),
    _GONE,
)
_BOX: tuple[Fact, ...] = (
    Choice(
        "found",
        "In the boxes",
        "Whether it was found",
        (),
        choices={"": "not looked for", "yes": "here", "no": "missing", "hurt": "here, and hurt"},
    ),
    _words("measured", "Measured", "What it measured as it lay there", most=200),
    _words("note", "Note", "What you know of it, or saw", most=400),
    _words("photo", "Photograph", "Its SHA-256 in the job file", most=64),
)
_OUTSIDE: tuple[Fact, ...] = (
    Number("refused", "Sent back", "How often what came back was sent back", (), high=9),
    _words("why", "Wrong with it", "What was wrong with it when it came back"),
)
_WORK: tuple[Fact, ...] = (*WORK_FACTS, _GONE)
_RETURNED: tuple[Fact, ...] = (
    Length("size", "Measured", "What it measured when it came back", (), high=5000.0),
)
MATTERS: dict[str, Schema] = {
    key: Schema(facts, _build)
    for key, facts in (
        ("plan", _PLAN),
        ("task", _TASK),
        ("strip", _STRIP),
        ("rule", _RULE),
        ("symptom", _SYMPTOM),
        ("look", _LOOK),
        ("asked", _ASKED),
        ("tool", _TOOL),
        ("oil", _OIL),
        ("again", _AGAIN),
        ("outside", _OUTSIDE),
        ("returned", _RETURNED),
        ("work", _WORK),
        ("trial", _TRIAL),
        ("box", _BOX),
    )
}
HEADS = {
    "plan": "The plan's calendar",
    "task": "A task of the plan",
    "strip": "A part as it came off",
    "rule": "An order of assembly that was learned",
    "symptom": "What the owner hears, feels or sees",
    "look": "What a look showed",
    "asked": "Asked once at intake",
    "tool": "A tool, or what is used up",
    "oil": "A place that is oiled",
    "again": "What to look at again",
    "outside": "What a firm has: an assembly given out",
    "work": "A piece of work that the machine is for",
    "returned": "A size of what came back from a firm: of assembly, return, size",
    "trial": "A trial and how it came",
    "box": "A thing of an assembly that came in boxes",
}


def matter_schema(matter: str) -> Schema:
    """The facts of a matter. Raises InputError for one that is none."""
    if matter not in MATTERS:
        raise InputError(f"matter “{matter[:40]}”", f"known here are {', '.join(MATTERS)}")
    return MATTERS[matter]
