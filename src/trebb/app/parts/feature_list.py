"""A part's features as lines, typed from its left end; the drawing grows with each that is taken."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtWidgets import QWidget

from trebb.app.look.typed import Notes
from trebb.app.look.widgets import column, label
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.parts import family
from trebb.core.parts.base import PartField
from trebb.core.parts.feature_lines import INSIDE, ON_SECTION, SECTIONS
from trebb.logbook.log.entries import PartSet

HIGH = 210
HINT = (
    f"A line a feature. Along it: {', '.join(SECTIONS)}. Cut in the line above: {', '.join(ON_SECTION)}. "
    f"Inside: {', '.join(INSIDE)}. Then holes, centre. Such as: seat 20 h6 x 30; below it keyway."
)


class FeatureList(QWidget):
    """The field of a list: lines taken at rest and refused line by line; what stood goes on standing."""

    def __init__(self, session: Session, part: str, field: PartField) -> None:
        super().__init__()
        self._session, self._part, self._field = session, part, field
        box = column(spacing=4)
        self.setLayout(box)
        box.addWidget(label(field.label, "strong"))
        box.addWidget(label(HINT, "small", wrap=True))
        about: Callable[[], object] = lambda: (session.assembly, session.system)  # noqa: E731 - what it is of
        self.edit = Notes(
            f"{part}_{field.key}",
            f"{field.label}: a line a feature",
            self._read,
            self._commit,
            about=about,
            height=HIGH,
        )
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        box.addWidget(self.refusal)
        box.addWidget(self.edit)

    def _read(self) -> str:
        inputs = self._session.case.part_inputs(self._part, self._session.system)
        value = inputs.facts.get(self._field.key, self._field.default)
        return self._field.shown(value, self._session.system)

    def _commit(self, text: str) -> object:
        try:
            value = self._field.typed(text, self._session.system)
            inputs = self._session.case.part_inputs(self._part, self._session.system)
            tried = replace(inputs, facts={**inputs.facts, self._field.key: value})
            family(self._part).build(tried)  # what will not do is said in the units that are shown
            taken = self._session.record(
                PartSet(part=self._session.case.part_name(self._part), field=self._field.key, value=value)
            )
        except TrebbError as error:
            self.refusal.setText(f"{error}.")
            self.refusal.show()
            return []
        self.refusal.hide()
        return taken

    def refresh(self) -> None:
        """Show what is kept, unless something else is being typed."""
        self.edit.show_value()
