"""Which tasks can be planned at all: of the rest a plan always stands, and what is left out says why."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.planning.evenings import Evenings
from trebb.core.planning.keeping import late_strips
from trebb.core.planning.schedule import Plan, fewest_apart, fewest_evenings, from_order
from trebb.core.planning.tasks import Task, begun, checked

FEW = 10  # tasks up to which the fewest days apart are looked for too
APART = (
    "it needs the machine whole, which stands apart until after it: refit it in between, or have it made "
    "elsewhere"
)
CIRCLE = "it waits for what waits for it: none of them can begin"
TOO_LONG = "there are not so many evenings in the days looked ahead: longer ones, or in parts"


class Plannable(Struct, frozen=True):
    """Tasks that can be planned, their plan (None where there are none), and why each other cannot be:
    `why_not` in words by its key; those of `waiting` can for no other reason than that they wait for one.
    """

    tasks: tuple[Task, ...]
    plan: Plan | None
    why_not: Mapping[str, str]
    waiting: frozenset[str] = frozenset()


def planned(
    tasks: Sequence[Task],
    evenings: Evenings,
    *,
    missing: Mapping[str, str] | None = None,
    kept: Sequence[str] = (),
    idle: float | None = None,
) -> Plannable:
    """The plan of what can be planned. Never raises for what tasks say.

    Parameters
    ----------
    missing : what is not there for a task, in words, by its key.
    kept : an order that stood before, kept to where no other ends on an earlier day.
    idle : hours of waiting up to which it is kept to whenever it can be; None where another may be better.
    """
    waiting: set[str] = set()
    why = dict(missing or {})
    why.update(_impossible_alone([t for t in tasks if t.key not in why], evenings))
    left = _without(tasks, why, waiting)
    circle = _circle(left)
    why.update(dict.fromkeys(circle, CIRCLE))
    left = _without(left, why, waiting)
    while True:
        apart = _never_whole(left)
        if not apart:
            break
        why.update(dict.fromkeys(apart, APART))
        left = _without(left, why, waiting)
    while left:
        try:
            return Plannable(tuple(left), _best(left, evenings, kept, idle), why, frozenset(waiting))
        except InputError as error:
            out = _given_up(left)
            why[out.key] = APART if out.needs_whole else TOO_LONG if out.hours else str(error)
            left = _without(left, why, waiting)
    return Plannable((), None, why, frozenset(waiting))


def _best(tasks: Sequence[Task], evenings: Evenings, kept: Sequence[str], idle: float | None) -> Plan:
    """The kept order, unless another ends on an earlier day: what one goes by moves little. With `idle` hours
    it is kept whenever it can be, for it says which machine goes before which.
    """
    if idle is not None:
        firm = from_order(tasks, evenings, kept, idle=idle)
        if firm is not None:
            return late_strips(tasks, evenings, firm)
    least = fewest_evenings(tasks, evenings)
    if least.is_least and len(tasks) <= FEW:
        least = fewest_apart(tasks, evenings)
    least = late_strips(tasks, evenings, least)
    own = from_order(tasks, evenings, kept, bound=least.bound) if kept else None
    if own is None or own.evenings > least.evenings:
        return least
    return late_strips(tasks, evenings, own)


def _without(tasks: Sequence[Task], why: dict[str, str], waiting: set[str]) -> list[Task]:
    """Tasks without those that cannot be planned, and what waits for them; those are told of in `why`."""
    titles = {t.key: t.title or t.key for t in tasks}
    left = [t for t in tasks if t.key not in why]
    while True:
        out = {t.key: next(a for a in t.after if a in why) for t in left if set(t.after) & why.keys()}
        if not out:
            return left
        why.update({key: f"it waits for {titles.get(a, a)}" for key, a in out.items()})
        waiting.update(out)
        left = [t for t in left if t.key not in out]


def _impossible_alone(tasks: Iterable[Task], evenings: Evenings) -> dict[str, str]:
    """Tasks that no evening holds, or that begin beyond the days looked ahead."""
    found = {}
    for t in tasks:
        try:
            checked([replace(t, after=())], evenings)
            if not t.waits:
                begun(evenings.start_of(t.not_before), t, evenings)
            elif t.not_before:
                evenings.start_of(t.not_before)
        except InputError as error:
            found[t.key] = str(error)
    return found


def _circle(tasks: Sequence[Task]) -> list[str]:
    """Tasks that wait for each other, and none for anything else."""
    done: set[str] = set()
    left = list(tasks)
    while True:
        ready = [t for t in left if set(t.after) <= done]
        if not ready:
            break
        done |= {t.key for t in ready}
        left = [t for t in left if t.key not in done]
    inside = {t.key for t in left}
    while True:  # what only waits for the circle is not in it
        waited = {a for t in left for a in t.after if a in inside}
        rest = [t for t in left if t.key in waited]
        if len(rest) == len(left):
            return [t.key for t in left]
        left, inside = rest, {t.key for t in rest}


def _never_whole(tasks: Sequence[Task]) -> list[str]:
    """Tasks that need the machine whole while something that stands apart now goes together only after them,
    or never.
    """
    by_key = {t.key: t for t in tasks}
    strips = {t.strips for t in tasks if t.strips}
    open_now = [t for t in tasks if t.refits and t.refits not in strips]
    if not open_now:
        return []
    before: set[str] = set()
    left = [a for t in open_now for a in t.after]
    while left:
        key = left.pop()
        if key not in before:
            before.add(key)
            left += by_key[key].after
    return [t.key for t in tasks if t.needs_whole and t.key in before]


def _given_up(tasks: Sequence[Task]) -> Task:
    """The task to leave out where the rest cannot be planned with it: of those that need the machine whole
    the last written, else the longest.
    """
    whole = [t for t in tasks if t.needs_whole]
    return whole[-1] if whole else max(tasks, key=lambda t: (t.hours, t.not_before))
