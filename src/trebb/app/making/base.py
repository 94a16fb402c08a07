"""What every picture of an operation is to Make."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QWidget

from trebb.app.session import Session
from trebb.core.making.routes import Operation
from trebb.logbook.casework import DriveCase

Setting = tuple[str, str, bool]  # words, figure, strong


class OperationView(QWidget):
    """A picture that belongs to a kind of operation. It holds no state of the job."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        """Show it; returns what belongs among the settings at the right."""
        raise NotImplementedError

    @property
    def case(self) -> DriveCase:
        """The screw's case: threads are cut for no other."""
        case = self.session.case
        assert isinstance(case, DriveCase)
        return case
