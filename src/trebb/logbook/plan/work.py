"""A task of a job with what is known of it beside its clock, and all of them together."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct, field

from trebb.core.planning.tasks import Task

PLAN = "job"  # plan that tasks are ticked in


class Work(Struct, frozen=True):
    """A task, and what is known of it beside its clock.

    Parameters
    ----------
    stop : the stop that it opens; `assembly` and `part` there.
    kind : "read", "order", "wait", "send", "make", "strip", "mend", "fit", "check", "prove"
        or "own".
    steps : operations left of it, title and hours.
    ask : what to ask for when it is ordered.
    planned : hours it was planned with, before any of it was done.
    missing : what must be there before it can begin.
    cost : money it will cost beside the remedy's own.
    from_shop : where its hours come from, where they are as such work took in this shop's other jobs.
    """

    task: Task
    kind: str
    stop: str
    assembly: str
    part: str = ""
    steps: tuple[tuple[str, float], ...] = ()
    ask: tuple[str, ...] = ()
    planned: float = 0.0
    is_done: bool = False
    missing: str = ""
    spent: float = 0.0
    paid: float = 0.0
    cost: float = 0.0
    is_own: bool = False
    from_shop: str = ""


class Gathered(Struct):
    """Work of a job, the money of its remedies by assembly, and assemblies over their limit that nobody
    decided on.
    """

    work: list[Work] = field(default_factory=list)
    costs: dict[str, float] = field(default_factory=dict)
    undecided: list[str] = field(default_factory=list)

    def add(
        self,
        key: str,
        title: str,
        hours: float,
        kind: str,
        stop: str,
        assembly: str,
        after: Sequence[str] = (),
        **more: object,
    ) -> str:
        """Another task; returns its key."""
        clock = {k: more.pop(k) for k in ("waits", "needs_whole", "strips", "refits") if k in more}
        task = Task(key, max(0.0, hours), tuple(after), title=title, group=assembly, **clock)  # type: ignore[arg-type]
        told = {"planned": task.hours, **more}
        self.work.append(Work(task, kind, stop, assembly, **told))  # type: ignore[arg-type]
        return key
