"""What an operation shows beside its words, by its kind. A new picture is one file and one line in
`make_operation_view`.
"""

from __future__ import annotations

from collections.abc import Callable

from trebb.app.making.base import OperationView
from trebb.app.window.session import Session


def make_operation_view(kind: str, session: Session) -> OperationView | None:
    """The view of an operation's kind, built when first wanted; None where words are enough."""
    from trebb.app.making import gears, nut, screw_thread, starts, to_size, tool

    views: dict[str, Callable[[Session], OperationView]] = {
        "thread": screw_thread.ScrewThreadView,
        "size": to_size.ToSizeView,
        "gears": gears.GearsView,
        "index": starts.StartsView,
        "tool": tool.ToolView,
        "nut_thread": nut.NutThreadView,
    }
    return views[kind](session) if kind in views else None


__all__ = ["OperationView", "make_operation_view"]
