"""How the readings of a set-up are pictured, by `SetUp.view`. A new picture is one file and one line in
`VIEWS`.
"""

from __future__ import annotations

from collections.abc import Callable

from trebb.app.views.base import ReadingView


def make_view(key: str) -> ReadingView:
    """The view of that key, built when first wanted."""
    from trebb.app.views import contact, gib, ladder, lead, naming, profile, push, rows, turn, warm

    views: dict[str, Callable[[], ReadingView]] = {
        "rows": rows.RowsView,
        "turn": turn.TurnView,
        "push": push.PushView,
        "warm": warm.WarmView,
        "contact": contact.ContactView,
        "ladder": ladder.LadderView,
        "gib": gib.GibView,
        "profile": profile.ProfileView,
        "lead": lead.LeadView,
        "naming": naming.NamingView,
    }
    return views[key]()


__all__ = ["ReadingView", "make_view"]
