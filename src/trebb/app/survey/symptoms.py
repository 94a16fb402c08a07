"""What the owner hears, feels and sees, as marks; suspects and looks beside them."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QGridLayout, QPushButton, QWidget

from trebb.app.look import painting, theme
from trebb.app.look.fields import Fields
from trebb.app.look.widgets import Banner, button, clear, column, label, row, rule, scrolled
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.stating.matters import matter_schema
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.suspicion import ASKED, Suspicion, causes_table, suspicion

COLUMNS = 2
ROW = 40.0
MOST_SUSPECTS, MOST_LOOKS = 6, 3
NEXT = {"": "yes", "yes": "no", "no": ""}
SIGN = {"": "", "yes": "✓ ", "no": "✕ "}


class SymptomsPage(QWidget):
    """A chip a symptom: once for there, twice for not there. One looked at says where and how it came."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._at = ""
        box = column(spacing=6)
        self.setLayout(box)
        box.addWidget(
            label(
                "Click what there is; twice what there is not. What is not marked counts for nothing.",
                "soft",
                wrap=True,
            )
        )
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.chips: dict[str, QPushButton] = {}
        table, _ = causes_table()
        for i, symptom in enumerate(table.symptoms):
            chip = button(
                symptom.words, partial(self.mark, symptom.key), kind="mark",
                tip=f"{symptom.words}: there, not there, not said",
                name=f"symptom_{symptom.key}",
            )  # fmt: skip
            chip.setMinimumHeight(24)
            self.chips[symptom.key] = chip
            grid.addWidget(chip, i // COLUMNS, i % COLUMNS)
        for k in range(COLUMNS):
            grid.setColumnStretch(k, 1)
        box.addLayout(grid)
        line = row(spacing=8)
        self.no_others = button(
            "Nothing else was noticed",
            self.mark_rest,
            kind="link",
            tip="Marks all the others as not there",
            name="no_others",
        )
        line.addWidget(self.no_others)
        line.addStretch(1)
        box.addLayout(line)
        self.here = label("", "strong", wrap=True)
        box.addWidget(self.here)
        self.fields = Fields(2)
        self._add_fields()
        box.addWidget(self.fields)
        self.slow = label("", "soft", wrap=True)
        box.addWidget(self.slow)
        box.addWidget(rule())
        box.addWidget(label("Asked once", "strong"))
        self.asked = Fields(2)
        for key, words, tip in ASKED:
            self._ask(key, words, tip)
        box.addWidget(self.asked)
        self.caution = Banner()
        box.addWidget(self.caution)
        box.addStretch(1)

    def _add_fields(self) -> None:
        kind = self._session.case.kind
        places = {"": "not said", **{a.key: a.label for a in kind.assemblies}}
        self.where = self.fields.add_choice(
            "symptom_assembly",
            "On",
            places,
            lambda: self._told("assembly"),
            self._state("assembly"),
            "Where it is heard or felt",
        )
        grew = matter_schema("symptom").fact("grew")
        self.fields.add_choice(
            "symptom_grew",
            "Came",
            getattr(grew, "choices", {}),
            lambda: self._told("grew"),
            self._state("grew"),
            "How it came",
        )

    def _told(self, field: str) -> str:
        return str(self._session.job.matter("symptom", self._at).get(field, ""))

    def _state(self, field: str) -> Callable[[str], object]:
        def state(field: str, value: str) -> None:
            if self._at:
                self._session.record(MatterStated("symptom", self._at, field, value))

        return partial(state, field)

    def _ask(self, key: str, words: str, tip: str) -> None:
        choices = {"": "not asked", "no": "no", "yes": "yes"}

        def read() -> str:
            return str(self._session.job.matter("asked", key).get("found", ""))

        self.asked.add_choice(
            f"asked_{key}",
            words,
            choices,
            read,
            lambda v: self._session.record(MatterStated("asked", key, "found", v)),
            tip,
        )

    def mark(self, key: str) -> None:
        """Mark a symptom: there, not there, not said, in turn."""
        self._at = key
        now = str(self._session.job.matter("symptom", key).get("there", ""))
        self._session.record(MatterStated("symptom", key, "there", NEXT.get(now, "yes")))

    def mark_rest(self) -> None:
        """All that is not marked is not there."""
        told = self._session.job.matters("symptom")
        left = [k for k in self.chips if told.get(k, {}).get("there", "") == ""]
        if left:
            self._session.record(*[MatterStated("symptom", k, "there", "no") for k in left])

    def refresh(self) -> None:
        """Show what is marked."""
        told = self._session.job.matters("symptom")
        table, _ = causes_table()
        for symptom in table.symptoms:
            state = str(told.get(symptom.key, {}).get("there", ""))
            chip = self.chips[symptom.key]
            chip.setText(f"{SIGN.get(state, '')}{symptom.words}")
            if chip.property("mark") != state:
                chip.setProperty("mark", state)
                theme.restyle(chip)
        marked = self._at if told.get(self._at, {}).get("there") == "yes" else ""
        shown = marked in table.by_key
        self.here.setVisible(shown)
        self.fields.setVisible(shown)
        if shown:
            self.here.setText(table.by_key[marked].words)
            self.fields.refresh()
        slow = shown and told[marked].get("grew") == "slowly" and table.by_key[marked].fitter_hears
        self.slow.setVisible(slow)
        self.slow.setText("What grew slowly the owner no longer hears: the fitter grades it.")
        self.asked.refresh()
        cautions = [
            tip for key, _, tip in ASKED if self._session.job.matter("asked", key).get("found") == "yes"
        ]
        if cautions:
            self.caution.say("near", "", " ".join(cautions))
        else:
            self.caution.hide()


class SuspectsSide(QWidget):
    """Suspects with their chance, and the looks that tell most a minute, each answered by yes or no."""

    chosen = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.found: Suspicion | None = None
        box = column(spacing=6)
        self.setLayout(box)
        box.addWidget(label("Suspects", "head"))
        self.bars = SuspectBars()
        self.bars.chosen.connect(self.chosen)
        box.addWidget(self.bars)
        self.moved = label("", "soft", wrap=True)
        box.addWidget(self.moved)
        box.addWidget(rule())
        box.addWidget(label("Look at next", "head"))
        inner = QWidget()
        self.looks = column(spacing=6)
        inner.setLayout(self.looks)
        box.addWidget(scrolled(inner), 1)
        self.trouble = label("", "refused", wrap=True)
        box.addWidget(self.trouble)

    def _names(self) -> dict[str, str]:
        return {a.key: a.label for a in self._session.case.kind.assemblies}

    def refresh(self) -> None:
        """Rank again."""
        self.found = found = suspicion(self._session.cases)
        names = self._names()
        any_marked = bool(found.marks or found.looked)
        rows = [
            (s.assembly, s.cause.words, names.get(s.assembly, ""), s.chance, s.cause.why)
            for s in found.ranking.suspects[:MOST_SUSPECTS]
        ]
        self.bars.show_rows(rows if any_marked else [])
        self.moved.setText(
            self._moved_words(found) if any_marked else "Mark what the owner says: suspects stand here."
        )
        self.trouble.setText(found.trouble)
        self.trouble.setVisible(bool(found.trouble))
        clear(self.looks)
        for a in found.ranking.advice[:MOST_LOOKS] if any_marked else ():
            where = f"{names[a.assembly]}: " if a.assembly in names else ""
            self.looks.addWidget(label(f"{where}{a.look.words}", wrap=True))
            line = row(spacing=4)
            line.addWidget(label(f"{a.look.minutes:.0f} min", "soft"))
            line.addStretch(1)
            for answer, words in (("yes", "Yes"), ("no", "No")):
                line.addWidget(
                    button(
                        words,
                        partial(self.answer, a.key, answer),
                        kind="chip",
                        tip=f"It shows: {answer}",
                        name=f"look_{answer}",
                    )
                )
            if a.look.set_up and a.assembly:
                line.addWidget(
                    button(
                        "Read it",
                        partial(self.chosen.emit, f"{a.assembly} {a.look.set_up}"),
                        kind="link",
                        tip="Go to its set-up",
                    )
                )
            self.looks.addLayout(line)
        self._answered(found, names)
        self.looks.addStretch(1)

    def _answered(self, found: Suspicion, names: dict[str, str]) -> None:
        by_key = {look.key: look for look in found.table.looks}
        for key, answer in reversed(found.looked.items()):
            look, _, place = key.partition("@")
            if look not in by_key:
                continue
            where = f"{names[place]}: " if place in names else ""
            line = row(spacing=4)
            line.addWidget(
                label(f"{'Yes' if answer else 'No'}. {where}{by_key[look].words}", "soft", wrap=True), 1
            )
            line.addWidget(
                button("Take back", partial(self.answer, key, ""), kind="link", tip="It was not looked at")
            )
            self.looks.addLayout(line)

    def _moved_words(self, found: Suspicion) -> str:
        """What the last answer did to the list."""
        if found.before is None:
            return ""
        moves = []
        for s in found.ranking.suspects[:12]:
            was = found.before.chance(s.key)
            if abs(s.chance - was) >= 0.05:
                moves.append(f"{s.cause.words} {was:.0%} → {s.chance:.0%}")
        return f"By the last look: {'; '.join(moves[:3])}." if moves else "The last look changed little."

    def answer(self, key: str, found: str) -> None:
        """What a look showed."""
        try:
            self._session.record(MatterStated("look", key, "found", found))
        except TrebbError as error:
            self.trouble.setText(f"{error}.")


class SuspectBars(painting.Painted, QWidget):
    """A row a suspect: its name, where, its chance as a bar; click it to choose its assembly."""

    is_list = True

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._rows: list[tuple[str, str, str, float, str]] = []
        self.setAccessibleName("Suspects by chance")
        self.setToolTip("Suspects by chance; click one to choose its assembly")

    def show_rows(self, rows: list[tuple[str, str, str, float, str]]) -> None:
        """Assembly, cause, its name, chance, why."""
        self._rows = rows
        self.setFixedHeight(int(ROW * len(rows)) + 2)
        self.setAccessibleDescription("; ".join(f"{r[1]}, {r[2]}, {r[3]:.0%}" for r in rows))
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        wide = self.width() - 46.0
        for i, (_, cause, where, chance, _why) in enumerate(self._rows):
            top = i * ROW
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour("ink"))
            painting.write_in(painter, QRectF(0, top, self.width(), 18), Qt.AlignmentFlag.AlignVCenter, cause)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("line"))
            painter.drawRect(QRectF(0, top + 20, wide, 14))
            painter.setBrush(theme.colour("blue_wash"))
            painter.drawRect(QRectF(0, top + 20, wide * chance, 14))
            painter.setBrush(theme.colour("blue"))
            painter.drawRect(QRectF(wide * chance - 2, top + 20, 3, 14))
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.SMALL))
            painter.drawText(QRectF(4, top + 18, wide, 18), Qt.AlignmentFlag.AlignVCenter, where)
            painter.drawText(
                QRectF(wide, top + 18, 44, 18),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                f"{chance:.0%}",
            )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() // ROW)
        if 0 <= i < len(self._rows) and self._rows[i][0]:
            self.chosen.emit(self._rows[i][0])
