"""How the readings of a set-up are pictured, by `SetUp.view`. A new picture is one file and one line in
`VIEWS`.
"""

from __future__ import annotations

from importlib import import_module

from trebb.app.views.base import ReadingView

# View → module here and its class.
VIEWS = {
    "rows": ("rows", "RowsView"),
    "turn": ("turn", "TurnView"),
    "push": ("push", "PushView"),
    "warm": ("warm", "WarmView"),
    "contact": ("contact", "ContactView"),
    "ladder": ("ladder", "LadderView"),
    "gib": ("gib", "GibView"),
    "profile": ("profile", "ProfileView"),
    "lead": ("lead", "LeadView"),
    "naming": ("naming", "NamingView"),
    "bore": ("bore", "BoreView"),
    "gear": ("gear", "GearView"),
    "gear_names": ("gear_names", "GearNamesView"),
}


def make_view(key: str) -> ReadingView:
    """The view of that key, loaded and built when first wanted."""
    module, name = VIEWS[key]
    made: ReadingView = getattr(import_module(f"trebb.app.views.{module}"), name)()
    return made


__all__ = ["ReadingView", "make_view"]
