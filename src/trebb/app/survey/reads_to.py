"""What a typed instrument reads to: what is offered, what is chosen, and what its figures tell."""

from __future__ import annotations

from trebb.app.window.session import Session
from trebb.core.survey import AnySetUp
from trebb.core.survey.steps import step_offers, step_words


def step_choices(session: Session, s: AnySetUp, phase: str) -> list[tuple[str, float]]:
    """Steps to choose from at a set-up, in words and mm; first that its figures tell, with what they do."""
    offers = step_offers(s, session.case.read_as(phase), session.system)
    if not offers:
        return []
    step = max((p.step for p in session.case.known_at(s.key, phase)), default=0.0)
    told = f": {step_words(s, step)}" if step else ""
    return [(f"Reads to: as its figures fall{told}", 0.0), *offers]


def step_said(session: Session, s: AnySetUp) -> str:
    """What was chosen, behind "typed"; "" where nobody said."""
    step = session.step_mm(s)
    if not step:
        return ""
    return f", to {step_words(s, step / s.unit_mm(session.case.subject))}"
