"""Results that know what they rest on.

A method marked `derived` keeps its result. While it works, every topic of the
job that it asks for, and every other derived result it uses, is noted; the
result is worked out again exactly when one of those changed. Nothing is
stamped by hand.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from functools import wraps
from typing import Any, Concatenate, ParamSpec, Protocol, Self, TypeVar, cast

from trebb.core.errors import TrebbError

Topic = tuple[Hashable, ...]
P = ParamSpec("P")
T = TypeVar("T")


class Node:
    """A kept result: value or refusal, what it read, when it was last found true and when it last changed."""

    __slots__ = ("changed", "error", "reads", "value", "verified", "work")

    def __init__(self, work: Callable[[], Any]) -> None:
        self.work = work
        self.value: Any = None
        self.error: TrebbError | None = None
        self.reads: tuple[Node | Topic, ...] = ()
        self.verified = self.changed = -1


class Ledger:
    """Counts changes, and notes who reads what. A job is one; `version` rises with each entry."""

    def __init__(self) -> None:
        self.version = 0
        self._changed: dict[Topic, int] = {}
        self.nodes: dict[tuple[object, ...], Node] = {}
        self.frames: list[dict[Node | Topic, None]] = []

    @property
    def job(self) -> Self:
        """Itself: what is derived of a job by the job stands on it."""
        return self

    def touch(self, topic: Topic) -> None:
        """A topic changed."""
        self._changed[topic] = self.version

    def saw(self, topic: Topic) -> None:
        """A topic was read."""
        if self.frames:
            self.frames[-1][topic] = None

    def changed_at(self, topic: Topic) -> int:
        """The version at which a topic changed last; −1 where it never did."""
        return self._changed.get(topic, -1)


class Owner(Protocol):
    """What may have derived results: it stands on a job and holds its nodes."""

    @property
    def job(self) -> Any: ...

    nodes: dict[tuple[object, ...], Node]


O = TypeVar("O", bound=Owner)  # noqa: E741


def derived(method: Callable[Concatenate[O, P], T]) -> Callable[Concatenate[O, P], T]:
    """Keep a method's result by its arguments (hashable) until something it read changed.

    A refusal (TrebbError) is kept like a result and raised again.
    """
    name = method.__qualname__

    @wraps(method)
    def ask(self: O, *args: P.args, **kwargs: P.kwargs) -> T:
        ledger: Ledger = self.job
        key = (name, args, *sorted(kwargs.items())) if kwargs else (name, args)
        node = self.nodes.get(key)
        if node is None:
            node = Node(lambda: method(self, *args, **kwargs))
            _refresh(node, ledger)
            self.nodes[key] = node
        elif node.verified != ledger.version:
            _refresh(node, ledger)
        if ledger.frames:
            ledger.frames[-1][node] = None
        if node.error is not None:
            raise node.error
        return cast(T, node.value)

    return cast(Callable[Concatenate[O, P], T], ask)


def _is_stale(node: Node, ledger: Ledger) -> bool:
    if node.verified < 0:
        return True
    for read in node.reads:
        if isinstance(read, Node):
            if read.verified != ledger.version:
                _refresh(read, ledger)
            if read.changed > node.verified:
                return True
        elif ledger.changed_at(read) > node.verified:
            return True
    return False


def _refresh(node: Node, ledger: Ledger) -> None:
    if not _is_stale(node, ledger):
        node.verified = ledger.version
        return
    frame: dict[Node | Topic, None] = {}
    ledger.frames.append(frame)
    value = error = None
    try:
        value = node.work()
    except TrebbError as refused:
        error = refused
    finally:
        ledger.frames.pop()
    if node.verified < 0 or error is not None or node.error is not None or not is_same(node.value, value):
        node.value, node.error, node.changed = value, error, ledger.version
    node.reads = tuple(frame)
    node.verified = ledger.version


def is_same(one: Any, other: Any) -> bool:
    """Whether two results are equal; where that cannot be said (arrays within), they count as different."""
    if one is other:
        return True
    if type(one) is not type(other):
        return False
    try:
        return bool(one == other)
    except (ValueError, TypeError):
        return False
