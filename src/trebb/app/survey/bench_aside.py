"""Beside the readings: how the set-up is done, the axis in space, what is stated."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QButtonGroup, QStackedWidget, QWidget

from trebb.app.look.widgets import Banner, button, clear, column, label, row, scrolled
from trebb.app.survey.stated import FactFields, FactGroups, StatedFields
from trebb.app.views.base import Shown
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.core.stating import schema_of
from trebb.core.survey import AnySetUp
from trebb.core.units import UnitSystem


class BenchAside(QWidget):
    """One of up to three leaves: How, Axis, Stated."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._leaf = "how"
        self._last: tuple[AnySetUp, Shown] | None = None
        box = column(spacing=6)
        self.setLayout(box)
        self._tabs = QWidget()
        tabs = row(spacing=4)
        self._tabs.setLayout(tabs)
        group = QButtonGroup(self)
        self.buttons = {}
        for key, words, tip, keys in (
            ("how", "How", "Steps and cautions", "Alt+1"),
            ("axis", "Axis", "The axis in space, leaning", "Alt+2"),
            ("stated", "Stated", "Sizes and distances as stated", "Alt+3"),
        ):
            tab = button(
                words,
                partial(self.show_leaf, key),
                tip=tip,
                key=keys,
                shortcut=True,
                kind="chip",
                name=f"leaf_{key}",
            )
            tab.setCheckable(True)
            group.addButton(tab)
            tabs.addWidget(tab)
            self.buttons[key] = tab
        tabs.addStretch()
        box.addWidget(self._tabs)
        self._stack = QStackedWidget()
        box.addWidget(self._stack, 1)
        self.notes = _Notes(session)
        self._stack.addWidget(self.notes)
        self._leaves: dict[str, QWidget] = {"how": self.notes}
        self._stated = StatedFields(session)

    @property
    def fields(self) -> FactGroups:
        """What is stated of the chosen assembly."""
        return self._stated.now()[1]

    def show_leaf(self, key: str) -> None:
        """Another leaf."""
        self._leaf = key
        if self._last is not None:
            self.show_set_up(*self._last)

    def show_fact(self, key: str) -> bool:
        """Put the keys into the field of a fact; False where it does not stand here."""
        self.show_leaf("stated")
        return self.fields.go_to(key)

    def _made(self, leaf: str) -> QWidget:
        key = self._stated.key if leaf == "stated" else leaf
        if key not in self._leaves:
            if leaf == "axis":
                from trebb.app.views.turn import AxisView

                self._leaves[key] = AxisView()
            else:
                self._leaves[key] = scrolled(self.fields)
            self._stack.addWidget(self._leaves[key])
        return self._leaves[key]

    def show_set_up(self, s: AnySetUp, shown: Shown) -> None:
        """Show another set-up, or the same with other readings."""
        self._last = (s, shown)
        open_ = ["how", *(["axis"] if s.view == "turn" else []), "stated"]
        for key, tab in self.buttons.items():
            tab.setVisible(key in open_)
        self._tabs.setVisible(len(open_) > 1)
        leaf = self._leaf if self._leaf in open_ else "how"
        self.buttons[leaf].setChecked(True)
        widget = self._made(leaf)
        self._stack.setCurrentWidget(widget)
        if leaf == "how":
            self.notes.show_set_up(s, shown.session.system, head=len(open_) == 1)
        elif leaf == "axis":
            from trebb.app.views.turn import AxisView

            assert isinstance(widget, AxisView)
            widget.show_axes(shown)
        else:
            self.fields.refresh()


class _Notes(QWidget):
    """Steps, cautions, what it can and cannot tell."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=6)
        self.setLayout(box)
        inner = QWidget()
        both = column(spacing=6)
        inner.setLayout(both)
        self._asked, self._box = column(spacing=3), column(spacing=3)
        both.addLayout(self._asked)
        both.addLayout(self._box)
        box.addWidget(scrolled(inner))
        self._fields: dict[str, FactFields] = {}
        self._shown: tuple[str, UnitSystem] | None = None

    def show_set_up(self, s: AnySetUp, system: UnitSystem, *, head: bool) -> None:
        """Show another set-up's notes, above them what its readings are understood by."""
        self._show_asked(s)
        if (s.key, system) == self._shown:
            return
        self._shown = (s.key, system)
        clear(self._box)
        if head:
            self._box.addWidget(label("How", "strong"))
        for i, step in enumerate(s.steps, start=1):
            self._box.addWidget(label(f"{i}  {in_units(step, system)}", wrap=True))
        for caution in s.cautions:
            banner = Banner()
            banner.say("near", "", in_units(caution, system))
            self._box.addWidget(banner)
        self._box.addWidget(label("Tells", "strong"))
        self._box.addWidget(label(in_units(s.tells, system), wrap=True))
        self._box.addWidget(label("Cannot tell", "strong"))
        self._box.addWidget(label(in_units(s.cannot_tell, system), wrap=True))
        self._box.addStretch()

    def _show_asked(self, s: AnySetUp) -> None:
        """The facts that a set-up's readings are understood by, as fields."""
        for key, fields in self._fields.items():
            fields.setVisible(key == s.key)
        if not s.asks:
            return
        if s.key not in self._fields:
            schema = schema_of(s.family)
            self._fields[s.key] = FactFields(self._session, schema, tuple(schema.fact(key) for key in s.asks))
            self._asked.addWidget(self._fields[s.key])
        self._fields[s.key].refresh()
