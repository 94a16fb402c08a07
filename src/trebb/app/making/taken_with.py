"""What a size is taken with: as chosen for such sizes, else as the last one alike was."""

from __future__ import annotations

from trebb.app.look.widgets import Choice
from trebb.core.making.operations import MEASURED_BY, Operation
from trebb.logbook.log.fold import Job

Alike = tuple[str, int]


class TakenWith(Choice):
    """Outsides, bores and threads are each taken with an instrument of their own."""

    def __init__(self) -> None:
        super().__init__()
        self._chosen: dict[Alike, str] = {}
        self._at: Alike = ("", 0)
        self.setObjectName("size_by")
        self.setAccessibleName("What the size is taken with")
        self.setToolTip("What the size is taken with: it stands beside it on the acceptance sheet")
        self.addItem("taken with …", "")
        for key, words in MEASURED_BY.items():
            self.addItem(words, key)
        self.activated.connect(lambda at: self._chosen.update({self._at: str(self.itemData(at))}))

    @property
    def key(self) -> str:
        """The instrument, "" where none is said."""
        return str(self.currentData() or "")

    def show_for(self, operation: Operation, what: str, job: Job) -> None:
        """Show what such sizes are taken with."""
        self._at = (operation.kind, operation.target.side if operation.target else 0)
        taken = (s.taken for s in reversed(job.all_sizes()) if s.struck is None and s.taken.what == what)
        last = next((t.instrument for t in taken if t.instrument in MEASURED_BY), "")
        self.setCurrentIndex(max(0, self.findData(self._chosen.get(self._at, last))))
