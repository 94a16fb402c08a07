"""A plan kept to: nothing is taken down before it must be."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

from msgspec.structs import replace

from trebb.core.planning.evenings import Evenings
from trebb.core.planning.schedule import Plan, in_order
from trebb.core.planning.tasks import Task


def late_strips(tasks: Sequence[Task], evenings: Evenings, plan: Plan) -> Plan:
    """The same plan with nothing taken down before it must be: each strip right before the first that waits
    for it. The plan itself where that would end later or break a rule.
    """
    by_key = {t.key: t for t in tasks}
    strips = [key for key in plan.order if by_key[key].strips]
    if not strips:
        return plan
    order, moved = list(plan.order), set()
    for key in strips:
        waiting = [k for k in order if key in by_key[k].after]
        # A wait that it sends off is what it is taken down for: that begins at once.
        if not waiting or any(key in t.after for t in tasks if t.waits):
            continue
        moved.add(key)
        order.remove(key)
        order.insert(order.index(waiting[0]), key)
    held: dict[str, float] = {}
    better = plan
    for _ in range(2):  # moved first, then held until its hours are just enough
        new = in_order(tasks, evenings, order, held, bound=plan.bound)
        if new is None or new.evenings > better.evenings or new.apart > better.apart:
            break
        better = replace(new, is_least=plan.is_least or new.is_least)
        held = {}
        for key, following in reversed(list(itertools.pairwise(order))):
            if key in moved:
                held[key] = held.get(following, new.starts[following]) - by_key[key].hours
    return better
