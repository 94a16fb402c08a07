"""What every picture of an assembly is to the stops, and the leaves it may have."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtWidgets import QStackedWidget, QWidget

from trebb.app.look.widgets import column, exclusive, row
from trebb.app.plots.proof_plot import ProofPlot, ProofRow
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.core.units import show_small
from trebb.logbook.cases.casework import Case


class CasePicture(QWidget):
    """A picture of the chosen assembly. It holds no state of the job."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session

    def show_found(self, *, known: bool) -> None:
        """Show what was found; `known` False while causes cannot be told apart."""
        raise NotImplementedError

    def show_then(self, prediction: Any) -> None:
        """Show what a remedy would leave."""
        raise NotImplementedError


class PictureStack(QStackedWidget):
    """Pictures by family, each built when its family is first looked at."""

    def __init__(self, session: Session, make: Callable[[str, Session], CasePicture]) -> None:
        super().__init__()
        self._session, self._make = session, make
        self._made: dict[str, CasePicture] = {}

    def picture(self) -> CasePicture:
        """The chosen assembly's, now seen."""
        family = self._session.case.family
        if family not in self._made:
            self._made[family] = self._make(family, self._session)
            self.addWidget(self._made[family])
        self.setCurrentWidget(self._made[family])
        return self._made[family]


class Leaves(QWidget):
    """Several canvases of one thing, one seen at a time."""

    def __init__(self, leaves: Sequence[tuple[str, str, str, QWidget]]) -> None:
        """`leaves`: key, words, tooltip, canvas."""
        super().__init__()
        box = column(spacing=6)
        self.setLayout(box)
        self.line = row(spacing=4)
        box.addLayout(self.line)
        self.stack = QStackedWidget()
        box.addWidget(self.stack, 1)
        self._canvases = {key: canvas for key, _, _, canvas in leaves}
        self._offered = set(self._canvases)
        self.buttons = exclusive(
            self,
            self.line,
            ((key, words, tip) for key, words, tip, _ in leaves),
            self.show_leaf,
            prefix="picture",
        )
        for *_, canvas in leaves:
            self.stack.addWidget(canvas)
        self.line.addStretch()
        self.show_leaf(leaves[0][0])

    def show_leaf(self, key: str) -> None:
        """Another leaf."""
        self.buttons[key].setChecked(True)
        self.stack.setCurrentWidget(self._canvases[key])

    def offer(self, key: str, *, on: bool) -> None:
        """Whether a leaf can be had now; the first is seen where it was the current one. A single leaf needs
        no button.
        """
        self._offered = (self._offered | {key}) if on else (self._offered - {key})
        if self.current not in self._offered:
            self.show_leaf(next(iter(self.buttons)))
        for name, chip in self.buttons.items():
            chip.setVisible(name in self._offered and len(self._offered) > 1)

    @property
    def current(self) -> str:
        """Key of the leaf seen."""
        return next(key for key, chip in self.buttons.items() if chip.isChecked())


class OutcomePlot(ProofPlot):
    """Each measure of a case now, and as a remedy would leave it, against its limit."""

    def __init__(self) -> None:
        super().__init__("Nothing is read yet.", ("now", "then", "limit"))

    def show_outcome(self, case: Case, prediction: Any, session: Session) -> None:
        """Show a prediction."""
        self.show_rows(
            [
                ProofRow(
                    in_units(m.label, session.system),
                    m.value.value,
                    m.value.half_width,
                    then.value,
                    (then.low + then.high) / 2,
                    then.half_width,
                    m.limit.limit_mm,
                    show_small(m.limit.limit_mm, session.system, unit=False),
                )
                for m in case.figures
                for then in [case.left_by(prediction, m.key)]
            ],
            session.system,
        )
