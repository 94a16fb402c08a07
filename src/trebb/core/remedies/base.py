"""What a remedy says of itself, and its prediction."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Protocol

from msgspec import Struct

from trebb.core.condition import Change, Estimate, Quantity, apply_change
from trebb.core.items import Item
from trebb.core.units import UnitSystem


class Prediction(Protocol):
    """What a remedy would leave, in its family's own terms; `worst` is the figure remedies are compared by,
    mm.
    """

    @property
    def after(self) -> Estimate:
        """The condition to expect."""
        ...

    @property
    def worst(self) -> Quantity:
        """What is left at the worst."""
        ...


# How a remedy is done in place, nothing taken down for it: fit-up's steps are its work, or it is one step.
BY_STEPS, BY_ITSELF = "steps", "itself"
JOINED = "+"  # between the keys of remedies that are done together


def _nothing_hinders(subject: Any) -> str:
    return ""


class Remedy(Struct, frozen=True):
    """One way to mend.

    Parameters
    ----------
    change(subject, now) : what it does to the condition.
    cost : money at the shop's usual prices, in its own currency; `hours` of bench time;
        `wait_days` for parts or others.
    needs : what must be at hand.
    risk(subject, split, prediction, system) : one sentence, from the prediction; `split` is the
        family's findings.
    outcome(subject, after) : the condition after it in the family's terms.
    parts : part families it makes or buys.
    buys : those of them that are bought, unless one says that they are made here after all.
    hinder(subject) : why it may not be chosen as things stand, or "".
    answered_by : key of the fact that takes the hindrance away or makes it final; "" for none.
    applies(subject) : whether this machine could have it at all.
    caution : what can hurt.
    comes_whole : what is bought comes put together.
    items(subject) : what is bought ready for it, beside what goes with its parts.
    first(subject) : key of a cheap trial that comes before it, for what it mends by itself often enough; ""
        for none, or where it was made.
    in_place : `BY_STEPS` or `BY_ITSELF` where nothing comes apart for it; "" where what it mends is taken
        down first.
    works_on : key of another assembly that the work is on, where the machine has it: that comes apart, in its
        place of the order; "" for its own.
    on_it_hours : bench hours of work on the thing itself, once it is off, that neither a part's route nor
        fit-up has.
    hides : it only hides what is wrong, so it is offered but never advised.
    """

    key: str
    title: str
    summary: str
    change: Callable[[Any, Estimate], Change]
    cost: float
    hours: float
    wait_days: float
    needs: str
    risk: Callable[[Any, Any, Any, UnitSystem], str]
    parts: tuple[str, ...] = ()
    buys: tuple[str, ...] = ()
    family: str = ""
    outcome: Callable[[Any, Estimate], Any] = lambda subject, after: after
    hinder: Callable[[Any], str] = _nothing_hinders
    answered_by: str = ""
    applies: Callable[[Any], bool] = lambda subject: True
    caution: str = ""
    hides: bool = False
    comes_whole: bool = False
    items: Callable[[Any], tuple[Item, ...]] = lambda subject: ()
    first: Callable[[Any], str] = lambda subject: ""
    in_place: str = ""
    works_on: str = ""
    on_it_hours: float = 0.0

    @property
    def members(self) -> tuple[str, ...]:
        """Keys of the remedies done together; its own alone where it is one."""
        return tuple(self.key.split(JOINED))

    def includes(self, *keys: str) -> bool:
        """Whether one of these is done."""
        return any(key in keys for key in self.members)


def predict(remedy: Remedy, subject: Any, now: Estimate) -> Any:
    """What a remedy would leave, with its 95 % band, in the family's terms."""
    return remedy.outcome(subject, apply_change(now, remedy.change(subject, now)))


def leave(subject: Any, now: Estimate) -> Change:
    """Leave everything."""
    return Change()


def always(words: str) -> Callable[[Any, Any, Any, UnitSystem], str]:
    """A risk that is the same whatever was found."""
    return lambda subject, split, then, system: words
