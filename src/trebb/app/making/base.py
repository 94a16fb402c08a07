"""What every picture of an operation is to Make: it shows, it says what the size taken there means, it reads
what is typed.
"""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtWidgets import QWidget

from trebb.app.window.session import Session
from trebb.core.making.operations import Operation
from trebb.core.units import UnitSystem
from trebb.logbook.cases.drive_case import DriveCase

Setting = tuple[str, str, bool]  # words, figure, strong
Verdict = tuple[str, str, str]  # tone, head, text


class SizeShown(Struct, frozen=True):
    """What was measured last at an operation: what it is, the numeral, a note below it."""

    what: str
    numeral: str
    note: str


class OperationView(QWidget):
    """A picture that belongs to a kind of operation. It holds no state of the job.

    `with_words` whether hold, tool and time stand above it, `with_material`
    whether the part's material and diameters follow its settings, `leaves_room` whether
    the part's drawing stands below it.
    """

    with_words = True
    with_material = False
    leaves_room = False

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        """Show it; returns what belongs among the settings at the right."""
        raise NotImplementedError

    def taken(self, operation: Operation) -> SizeShown | None:
        """The size taken last; None where nothing is measured here."""
        return None

    def what(self, operation: Operation) -> str:
        """What is measured here, as the logbook names it."""
        return ""

    def read(self, text: str, operation: Operation) -> float:
        """A size as typed, mm. Raises a TrebbError that says what would do."""
        raise NotImplementedError

    def verdict(self, operation: Operation) -> Verdict | None:
        """What the size taken last means; None before the first."""
        return None

    def remark(self) -> str:
        """A line below the settings."""
        return ""

    def set_low(self, low: bool) -> None:
        """Words give way where the window is low."""

    @property
    def case(self) -> DriveCase:
        """The screw's case: threads are cut for no other."""
        case = self.session.case
        assert isinstance(case, DriveCase)
        return case

    @property
    def unit(self) -> str:
        """The unit of a size."""
        return "in" if self.session.system is UnitSystem.INCH else "mm"
