"""The eight stops in order: title, how far it is in two words, and how it is made."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING

from msgspec import Struct

from trebb.app.window.session import WAITS, Session
from trebb.core.machine import State
from trebb.core.units import UnitSystem

if TYPE_CHECKING:
    from trebb.app.stops.base import Stop
    from trebb.app.window.host import Host


class StopInfo(Struct, frozen=True):
    """One stop; `words` says how far it is, `module` and `name` where its class stands."""

    key: str
    title: str
    words: Callable[[Session], str]
    module: str
    name: str

    def make(self, frame: Host) -> Stop:
        """Build the stop's widget: on its first visit, so that the window opens sooner."""
        made: Stop = getattr(import_module(f"trebb.app.stops.{self.module}"), self.name)(frame)
        return made


def _intake(session: Session) -> str:
    graded = sum(session.job.grade(a.key) is not None for a in session.case.kind.assemblies)
    return "card done" if graded and session.job.number_one else f"{graded} graded"


def _survey(session: Session) -> str:
    if not session.case.has_set_ups:
        return "no set-ups"
    done, total = session.case.progress("before")
    return f"{done} of {total}"


def _findings(session: Session) -> str:
    if not session.is_told("expert"):
        return "yours to say"
    if session.figures_wait:
        return WAITS
    if not session.case.is_measured:
        return "nothing read"
    found = session.case.findings(UnitSystem.INCH)
    count = sum(f.state is not State.WITHIN for f in found)
    return f"{count} open" if count else "all within"


def _remedies(session: Session) -> str:
    return "one chosen" if session.job.chosen(session.case.assembly_key) else "none chosen"


def _parts(session: Session) -> str:
    if not session.case.has_parts:
        return "none"
    count = len(session.case.part_keys())
    return f"{count} drawn" if session.case.chosen or not session.case.has_set_ups else "not chosen"


def _make(session: Session) -> str:
    if session.case.chosen is None and not (session.case.has_parts and not session.case.has_set_ups):
        return "not begun"
    keys = session.case.part_keys()
    done = sum(len(session.job.steps_done(session.case.part_name(key))) for key in keys)
    return f"{done} done" if done else "not begun"


def _fit_up(session: Session) -> str:
    done = len(session.job.steps_done(session.case.fit_plan))
    return f"{done} done" if done else "not begun"


def _prove(session: Session) -> str:
    done, total = session.case.progress("after")
    return f"{done} of {total}" if done else "not begun"


STOPS: tuple[StopInfo, ...] = (
    StopInfo("intake", "Intake", _intake, "intake", "IntakeStop"),
    StopInfo("survey", "Survey", _survey, "survey", "SurveyStop"),
    StopInfo("findings", "Findings", _findings, "findings", "FindingsStop"),
    StopInfo("remedies", "Remedies", _remedies, "remedies", "RemediesStop"),
    StopInfo("parts", "Parts", _parts, "parts", "PartsStop"),
    StopInfo("make", "Make", _make, "make", "MakeStop"),
    StopInfo("fit_up", "Fit-up", _fit_up, "fit_up", "FitUpStop"),
    StopInfo("prove", "Prove", _prove, "prove", "ProveStop"),
)
# For the machine as a whole: beside the rail, reached from the strip.
PLAN = StopInfo("plan", "Plan", lambda session: "the whole job", "plan", "PlanStop")
STRIP_DOWN = StopInfo(
    "strip_down", "Strip-down", lambda session: "what came off", "strip_down", "StripDownStop"
)
PRACTICE = StopInfo("practice", "Practice", lambda session: "the bench", "practice", "PracticeStop")
WORK = StopInfo("work", "Work", lambda session: "what it makes", "work", "WorkStop")
ALL_STOPS = (*STOPS, PLAN, STRIP_DOWN, WORK, PRACTICE)
