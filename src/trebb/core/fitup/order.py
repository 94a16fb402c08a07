"""Assembly as a partial order; here that of a slide on its screw, and of a lead screw with its half nuts."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import Literal

from msgspec import Struct

from trebb.core.errors import InputError


class FitUpError(InputError):
    """A step ticked before what it needs, or an order that goes in a circle."""


# What a step is beside its words: a weight hangs; it turns under power. Before anything runs, whatever came
# off is back: it may hold, guard or lock (see `stripped.with_came`).
Act = Literal["", "lifts", "runs"]


class FitStep(Struct, frozen=True):
    """One step; `after` are the keys of the steps it cannot go before. `why` says what happens otherwise,
    `act` what kind of step it is where that asks for more; `takes_apart` : it is done before what comes off
    is off.
    """

    key: str
    title: str
    after: tuple[str, ...]
    why: str
    remind: str = ""
    caution: str = ""
    minutes: float = 10
    act: Act = ""
    takes_apart: bool = False


def assembly_order(steps: Sequence[FitStep]) -> list[FitStep]:
    """The steps in an order that respects what each needs; among equals, as listed.

    Raises FitUpError where steps wait for each other or name one that is not there.
    """
    import networkx as nx  # about 0.2 s

    place = {step.key: i for i, step in enumerate(steps)}
    graph: nx.DiGraph[str] = nx.DiGraph()
    graph.add_nodes_from(place)
    for step in steps:
        for needed in step.after:
            if needed not in place:
                raise FitUpError(f"step “{step.title}”", f"it waits for “{needed}”, which is not a step here")
            graph.add_edge(needed, step.key)
    if not nx.is_directed_acyclic_graph(graph):
        circle = " → ".join(a for a, _ in nx.find_cycle(graph))
        raise FitUpError("an order that goes in a circle", circle)
    by_key = {step.key: step for step in steps}
    return [by_key[key] for key in nx.lexicographical_topological_sort(graph, key=lambda k: place[k])]


def blocked_by(step: FitStep, steps: Sequence[FitStep], done: Collection[str]) -> list[FitStep]:
    """The steps that still stand before this one, nearest first."""
    return [s for s in steps if s.key in step.after and s.key not in done]
