"""An operation from two metres: the size now, what is left, what the dial is set to next."""

from __future__ import annotations

from trebb.app.making.base import OperationView
from trebb.app.window.far_cover import Far
from trebb.core.making.operations import Operation

KEYS, MOST = "up and down: another operation    ·    D marks it done", 3


def far_words(operation: Operation, view: OperationView | None, part: str) -> Far:
    """What is said of it; where nothing is measured there, how it is done."""
    head = f"{operation.number}   {operation.title}"
    size = view.taken(operation) if view is not None else None
    if view is None or size is None:
        held = " · ".join(w for w in (operation.hold, operation.tool) if w)
        return Far(head, lines=tuple(w for w in (operation.detail, held) if w), keys=KEYS)
    verdict = view.verdict(operation)
    lines = [verdict[1] if verdict is not None else size.note]
    settings = view.show_operation(part, operation)
    lines += [f"{words}: {figure}" for words, figure, is_strong in settings if is_strong]
    role = verdict[0] if verdict is not None else "ink"
    return Far(head, size.numeral, tuple(lines[:MOST]), role, f"Space takes the size    ·    {KEYS}")
