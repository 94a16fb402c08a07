"""A plan kept to: nothing is taken down before it must be."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from trebb.core.planning.evenings import Evenings
from trebb.core.planning.schedule import Plan, in_order
from trebb.core.planning.tasks import Task


def late_strips(tasks: Sequence[Task], evenings: Evenings, plan: Plan) -> Plan:
    """The same plan with nothing taken down before it must be: each strip right before the first that waits
    for it, one after another, where that ends no later and breaks no rule.
    """
    by_key = {t.key: t for t in tasks}
    better, held = plan, dict[str, float]()
    for key in reversed([key for key in plan.order if by_key[key].strips]):
        waiting = [k for k in better.order if key in by_key[k].after]
        # A wait that it sends off is what it is taken down for: that begins at once.
        if not waiting or any(key in t.after for t in tasks if t.waits):
            continue
        order = [k for k in better.order if k != key]
        order.insert(order.index(waiting[0]), key)
        moved = _no_later(tasks, evenings, order, held, better)
        if moved is None:
            continue
        better = moved
        following = order[order.index(key) + 1]
        hold = {**held, key: better.starts[following] - by_key[key].hours}
        late = _no_later(tasks, evenings, order, hold, better)
        if late is not None:
            better, held = late, hold
    return better


def _no_later(
    tasks: Sequence[Task], evenings: Evenings, order: Sequence[str], held: Mapping[str, float], than: Plan
) -> Plan | None:
    """A plan in an order, unless it ends on a later day or stands apart for longer."""
    new = in_order(tasks, evenings, order, held, bound=than.bound)
    if new is None or new.evenings > than.evenings or new.apart > than.apart:
        return None
    return replace(new, is_least=than.is_least or new.is_least)
