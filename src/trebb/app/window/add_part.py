"""Adding to the machine: a piece of the chosen assembly, or an assembly of its own, with two keys."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QWidget

from trebb.app.look.typed import BenchEdit
from trebb.app.look.widgets import Choice, button, column, label, row
from trebb.app.window.session import Session
from trebb.core.errors import InputError
from trebb.core.register import FAMILIES
from trebb.logbook.log.entries import AssemblyAdded
from trebb.logbook.log.fold_facts import key_for

GRADED_ONLY = "Part to grade and note"


class AddPart(QWidget):
    """A button that opens to a line: what it is, what it is called. Enter adds it and chooses it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=4)
        box.setContentsMargins(12, 2, 12, 0)
        self.setLayout(box)
        line = row(spacing=4)
        self.open = button(
            "Add a part", self.unfold, kind="link", tip="Add a piece or an assembly to the machine",
            key="Ins", name="add_part", shortcut=True,
        )  # fmt: skip
        line.addWidget(self.open)
        line.addStretch()
        self.off = button(
            "Take it off", self._take_off, kind="link", tip="Take this added part off the list again",
            name="take_part_off",
        )  # fmt: skip
        line.addWidget(self.off)
        box.addLayout(line)
        self._box = box
        self.form: QWidget | None = None

    @property
    def is_open(self) -> bool:
        """Whether the line stands open."""
        return self.form is not None and self.form.isVisible()

    def _opened(self) -> QWidget:
        """The line, built when first wanted."""
        if self.form is not None:
            return self.form
        self.form = QWidget()
        form = column(spacing=4)
        self.form.setLayout(form)
        self.where = label("", "small", wrap=True)
        form.addWidget(self.where)
        self.what = Choice()
        self.what.setObjectName("part_family")
        self.what.setAccessibleName("What is added")
        self.what.setToolTip("What is added")
        self.what.currentIndexChanged.connect(self._propose)
        form.addWidget(self.what)
        self.name = BenchEdit()
        self.name.setObjectName("part_label")
        self.name.setAccessibleName("What it is called")
        self.name.setToolTip("What it is called (Enter adds it)")
        self.name.returnPressed.connect(self._add)
        line = row(spacing=4)
        line.addWidget(self.name, 1)
        line.addWidget(button("Add", self._add, tip="Add it to the machine", key="Enter", name="part_add"))
        form.addLayout(line)
        self.refusal = label("", "refused", wrap=True)
        form.addWidget(self.refusal)
        self._box.addWidget(self.form)
        self.form.hide()
        return self.form

    @property
    def _under(self) -> str:
        """The assembly that a piece would belong to."""
        chosen = self._session.case.assembly
        return chosen.under or chosen.key

    def add_one(self, family: str) -> None:
        """Add a piece of that family at once, under the name proposed."""
        self._fill()
        self.what.setCurrentIndex(self.what.findData(family))
        self._add()

    def unfold(self) -> None:
        """Open the line with a name proposed, so that Enter alone will do; a second time closes it."""
        if self.is_open:
            self.fold()
            return
        self._fill()
        self._opened().show()
        self.name.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _fill(self) -> None:
        self._opened()
        self.what.blockSignals(True)
        self.what.clear()
        for key, family in FAMILIES.items():
            if family.added and family.is_piece:
                self.what.addItem(family.added, key)
        for key, family in FAMILIES.items():
            if family.added and not family.is_piece:
                self.what.addItem(family.added, key)
        self.what.addItem(GRADED_ONLY, "")
        self.what.blockSignals(False)
        self.refusal.setText("")
        self.refusal.hide()
        self._propose()

    def fold(self) -> None:
        """Close the line."""
        self._opened().hide()
        window = self.window()
        window.setFocus(Qt.FocusReason.OtherFocusReason)

    def _family(self) -> str:
        return str(self.what.currentData() or "")

    def _is_piece(self) -> bool:
        family = FAMILIES.get(self._family())
        return bool(family and family.is_piece)

    def _propose(self) -> None:
        kind = self._session.case.kind
        if self._is_piece():
            self.where.setText(f"A piece of: {kind.assembly(self._under).label}")
        else:
            self.where.setText("An assembly of the machine")
        family = FAMILIES.get(self._family())
        words = family.added if family else "Part"
        taken = {a.label.casefold() for a in kind.assemblies}
        names = (words if i == 1 else f"{words} {i}" for i in range(1, 1000))
        self.name.setText(next(n for n in names if n.casefold() not in taken))
        self.name.selectAll()

    def _add(self) -> None:
        session, words = self._session, self.name.text().strip()
        key = key_for(session.job.machine, words or "part")
        body = AssemblyAdded(
            assembly=key,
            label=words[:60],
            family=self._family(),
            under=self._under if self._is_piece() else "",
        )
        try:
            made = session.record(body)
        except InputError as error:
            self.refusal.setText(f"{error}.")
            self.refusal.show()
            return
        if made:
            self.fold()
            session.choose(key)

    def _take_off(self) -> None:
        session, chosen = self._session, self._session.case.assembly
        try:
            session.record(
                AssemblyAdded(
                    assembly=chosen.key,
                    label=chosen.label,
                    family=chosen.family,
                    under=chosen.under,
                    gone=True,
                )
            )
        except InputError as error:
            self._opened().show()
            self.refusal.setText(f"{error}.")
            self.refusal.show()

    def refresh(self) -> None:
        """Show what may be done with the chosen part."""
        session = self._session
        self.off.setVisible(session.job.was_added(session.assembly))
        if self.is_open and not self.name.hasFocus() and not self.what.hasFocus():
            self._propose()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.is_open:
            self.fold()
            return
        super().keyPressEvent(event)
