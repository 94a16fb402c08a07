"""What a stop says of an assembly that is not measured itself: its pieces, its grade, and where to go."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from trebb.app.look.flow import Flow
from trebb.app.look.widgets import button, clear, column, label
from trebb.app.survey.own_words import OwnWords
from trebb.app.window.session import Session
from trebb.core.register import FAMILIES
from trebb.core.units import show_small
from trebb.core.words import small


class Unmeasured(QWidget):
    """Says plainly that this part is measured by its pieces, lists those, and offers one more of each
    kind.
    """

    wanted = Signal(str)  # a family of pieces to add one of

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=8)
        self.setLayout(box)
        self.title = label("", "title")
        self.text = label("", wrap=True)
        self.note = label("", "soft", wrap=True)
        box.addWidget(self.title)
        box.addWidget(self.text)
        box.addWidget(self.note)
        self.pieces = column(spacing=4)
        box.addLayout(self.pieces)
        line = Flow()
        for key, family in FAMILIES.items():
            if family.is_piece:
                line.addWidget(
                    button(
                        f"Add {family.one}",
                        lambda key=key: self.wanted.emit(key),  # type: ignore[misc]
                        tip=f"Add {family.one} of this assembly: surveyed, judged and mended by itself",
                        name=f"add_{key}",
                    )
                )
        self.go = button(
            "Go to a part that can be measured",
            lambda: session.choose(session.cases.first().assembly_key),
            kind="link",
            tip="Choose the number one problem, or the first part with set-ups",
        )
        line.addWidget(self.go)
        box.addLayout(line)
        self.own = OwnWords(session)
        box.addWidget(self.own)
        box.addStretch(1)

    def refresh(self) -> None:
        """Show the chosen assembly."""
        session = self._session
        kind, assembly = session.case.kind, session.case.assembly
        held = kind.pieces_of(assembly.key)
        self.title.setText(assembly.label)
        self.text.setText(
            "Copied from an old one: which part, its sizes and its drawing are at Parts, its route at Make."
            if session.case.has_parts and not session.case.has_set_ups
            else "It is measured piece by piece: choose one, or add one more."
            if held
            else "Not measured itself: its shafts and bores are. Add each one that matters, with the "
            "Ins key or below; "
            "grade, notes and photographs are at Intake."
        )
        grade = session.job.grade(assembly.key)
        self.note.setText(
            f"Walk-round: {grade.note or grade.grade}" if grade else "Not graded at the walk-round yet."
        )
        self.own.refresh()
        clear(self.pieces)
        for piece in held:
            figure = session.cases.of(piece.key).figure_now()
            state = (
                "not measured"
                if figure is None
                else "not told yet"
                if figure.is_expected
                else show_small(figure.value.value, session.system)
            )
            self.pieces.addWidget(
                button(
                    f"{piece.label}: {state}",
                    lambda key=piece.key: session.choose(key),  # type: ignore[misc]
                    tip=f"Go to {piece.label}",
                    name=f"piece_{piece.key}",
                )
            )
        measurable = session.cases.measurable()
        self.go.setVisible(bool(measurable) and not held and not session.case.has_set_ups)
        if measurable:
            first = session.cases.first().assembly
            name = small(first.label)
            self.go.setText(f"Go to {name}")
