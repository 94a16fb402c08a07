"""What came back from a firm: its sizes against what was asked for; it is accepted by them, or goes back."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from trebb.app.look.fields import Fields
from trebb.app.look.widgets import button, clear, column, label
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.window.session import Session
from trebb.core.stating.matters import matter_schema
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.outside import Away, CameBack, away, returned_key
from trebb.logbook.plan.work import Work


class Returned(QWidget):
    """A field a size that was asked for, what that says; why it goes back, where it is for anything else."""

    def __init__(self, session: Session, assembly: Callable[[], str]) -> None:
        super().__init__()
        self._session, self._assembly = session, assembly
        self._away: Away | None = None
        self._of: tuple[object, ...] = ()
        box = column(spacing=4)
        self.setLayout(box)
        self.said = label("", wrap=True)
        box.addWidget(self.said)
        self.sizes = column(spacing=4)
        box.addLayout(self.sizes)
        self.fields: Fields | None = None
        box.addWidget(matter_fields(session, "outside", assembly, ("why",), prefix="outside"))
        box.addWidget(
            button(
                "It came, and goes back",
                self.send_back,
                tip="It was measured and is not as asked for: it is sent, and waited for, once more",
                name="outside_back",
            )
        )

    def send_back(self) -> None:
        """What came back is refused, whatever its sizes say."""
        times = float(self._away.turn if self._away else 0) + 1
        self._session.record(MatterStated("outside", self._assembly(), "refused", times))

    def show_return(self, work: Work | None) -> None:
        """Show the return that a task of the plan is about; hidden for any other task."""
        self.hide()
        if work is None or not work.task.key.startswith(("back.", "check.")):
            return
        self._away = gone = away(self._session.cases.of(work.assembly), self._session.system)
        now = f"back.{work.assembly}{f'.{gone.turn + 1}' if gone.turn else ''}"
        if work.is_done if work.kind == "check" else work.task.key != now or gone.is_accepted:
            return
        self.show()
        of = (work.assembly, gone.turn, *(one.wanted.key for one in gone.sizes), self._session.system)
        if of != self._of:
            self._of = of
            clear(self.sizes)
            self.fields = Fields(1)
            for one in gone.sizes:
                self._add(self.fields, work.assembly, gone.turn, one)
            self.sizes.addWidget(self.fields)
        assert self.fields is not None
        self.fields.refresh()
        self.said.setText(self._words(gone))

    def _add(self, fields: Fields, assembly: str, turn: int, one: CameBack) -> None:
        fact = matter_schema("returned").fact("size")
        of = returned_key(assembly, turn, one.wanted.key)

        def shown() -> str:
            told = self._session.job.matter("returned", of).get("size")
            return fact.shown(told, self._session.system) if told else ""

        def typed(text: str) -> None:
            value = fact.typed(text, self._session.system) if text.strip() else 0.0
            self._session.record(MatterStated("returned", of, "size", value))

        words = one.wanted.words.removesuffix(", finished")
        name = f"returned_{one.wanted.key}"
        fields.add(name, words, shown, typed, f"{words}, asked for {one.wanted.shown}")

    def _words(self, gone: Away) -> str:
        system = self._session.system
        off = [one.words(system) for one in gone.sizes if one.is_off]
        said = [f"Sent back {gone.turn} time{'s' if gone.turn > 1 else ''}."] if gone.turn else []
        if off:
            said.append(f"Outside: {'; '.join(off)}.")
        if not gone.sizes:
            said.append("No size with limits was asked for: say by hand whether it will do.")
        elif not gone.is_here:
            asked = "; ".join(f"{one.wanted.words} {one.wanted.shown}" for one in gone.sizes)
            said.append(f"Asked for: {asked}. Type what it measures.")
        else:
            left = sum(one.read_mm is None for one in gone.sizes)
            if left:
                said.append(f"{left} more to measure: then it is accepted, or goes back, by itself.")
        return " ".join(said)
