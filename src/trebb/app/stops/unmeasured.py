"""What a stop says of an assembly that has no set-ups yet."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from trebb.app.session import Session
from trebb.app.widgets import button, column, label, row


class Unmeasured(QWidget):
    """Says plainly that this part is not measured, what the walk-round said of it, and where to go."""

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
        line = row()
        self.go = button(
            "Go to a part that can be measured",
            lambda: session.choose(session.cases.first().assembly_key),
            tip="Choose the number one problem, or the first part with set-ups",
        )
        line.addWidget(self.go)
        line.addStretch()
        box.addLayout(line)
        box.addStretch(1)

    def refresh(self) -> None:
        """Show the chosen assembly."""
        assembly = self._session.case.kind.assembly(self._session.assembly)
        self.title.setText(assembly.label)
        self.text.setText(
            f"Not measured. This Trebb has set-ups for {self._known()}; for this part it keeps grade, notes "
            "and photographs at Intake."
        )
        grade = self._session.job.grade(assembly.key)
        self.note.setText(
            f"Walk-round: {grade.note or grade.grade}" if grade else "Not graded at the walk-round yet."
        )
        first = self._session.cases.first().assembly
        name = f"{first.label[0].lower()}{first.label[1:]}"
        self.go.setText(f"Go to {name}".replace("&", "&&"))  # an & alone marks a key
        self.go.setVisible(not self._session.case.has_set_ups)

    def _known(self) -> str:
        names = [
            f"{n[0].lower()}{n[1:]}" for n in (c.assembly.label for c in self._session.cases.measurable())
        ]
        return " and ".join([*([", ".join(names[:-1])] if len(names) > 1 else []), names[-1]])
