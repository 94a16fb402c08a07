"""What the owner hears, feels and sees, as marks; suspects and looks beside them."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter
from PySide6.QtWidgets import QGridLayout, QPushButton, QWidget

from trebb.app.look import painting, theme
from trebb.app.look.fields import Fields
from trebb.app.look.flow import Flow
from trebb.app.look.painted_rows import PaintedRows
from trebb.app.look.widgets import Banner, button, clear, column, field_link, label, row, rule, scrolled
from trebb.app.survey.recordings import Recordings
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.stating.matters import matter_schema
from trebb.core.suspects.ranking import Suspect
from trebb.core.suspects.table import GROUPS
from trebb.core.words import small
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.leads import Lead, lead_of, spacing_words, turns_unstated
from trebb.logbook.plan.suspicion import ASKED, Suspicion, asked_of, suspicion

COLUMNS = 2
ROW = 40.0
MOST_SUSPECTS, MOST_LOOKS = 6, 3
ABOUT_PX = 84
SPACED = "marks_pitch"  # the symptom that has a spacing
NEXT = {"": "yes", "yes": "no", "no": ""}
SIGN = {"": "", "yes": "✓ ", "no": "✕ "}


class SymptomsPage(QWidget):
    """A chip a symptom: once for there, twice for not there. One looked at says where and how it came."""

    pitch_wanted = Signal(str)  # of a screw, by its assembly

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
        self._about = QWidget()  # what is said of one stands at one place, and moves nothing when it comes
        about = column(spacing=4)
        self._about.setLayout(about)
        self._about.setMinimumHeight(ABOUT_PX)
        self.here = label("", "strong", wrap=True)
        about.addWidget(self.here)
        self.fields = Fields(2)
        self._add_fields()
        about.addWidget(self.fields)
        self.slow = label("", "soft", wrap=True)
        about.addWidget(self.slow)
        self.pitches = Flow(spacing=4)
        about.addLayout(self.pitches)
        self._unstated: tuple[str, ...] = ()
        about.addStretch(1)
        box.addWidget(self._about)
        self.chips: dict[str, QPushButton] = {}
        self._table = asked_of(session.case.kind.key)
        for group, words in GROUPS.items():
            box.addWidget(label(words, "strong"))
            box.addLayout(self._chips_of(group))
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
        box.addWidget(rule())
        self.recordings = Recordings(session, "before")
        box.addWidget(self.recordings)
        box.addWidget(rule())
        box.addWidget(label("Asked once", "strong"))
        self.asked = Fields(2)
        for key, words, tip in ASKED:
            self._ask(key, words, tip)
        box.addWidget(self.asked)
        self.caution = Banner()
        box.addWidget(self.caution)
        box.addStretch(1)

    def _chips_of(self, group: str) -> QGridLayout:
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        for i, symptom in enumerate(s for s in self._table.symptoms if s.group == group):
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
        return grid

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
        spacing = matter_schema("symptom").fact("spacing_mm")

        def shown() -> str:
            told = self._session.job.matter("symptom", self._at).get("spacing_mm")
            return spacing.shown(told, self._session.system) if told else ""

        def typed(text: str) -> None:
            value = spacing.typed(text, self._session.system) if text.strip() else 0.0
            self._session.record(MatterStated("symptom", self._at, "spacing_mm", value))

        self.fields.add("symptom_spacing", spacing.words, shown, typed, spacing.tip)
        self.fields.is_asked = lambda key: key != "symptom_spacing" or self._at == SPACED

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
        table = self._table
        for symptom in table.symptoms:
            state = str(told.get(symptom.key, {}).get("there", ""))
            chip = self.chips[symptom.key]
            chip.setText(f"{SIGN.get(state, '')}{symptom.words}")
            if chip.property("mark") != state:
                chip.setProperty("mark", state)
                theme.restyle(chip)
        marked = self._at if told.get(self._at, {}).get("there") == "yes" else ""
        shown = marked in table.by_key
        self.fields.setVisible(shown)
        self.here.setText(table.by_key[marked].words if shown else "")
        if shown:
            self.fields.refresh()
        slow = shown and told[marked].get("grew") == "slowly" and table.by_key[marked].fitter_hears
        words = "What grew slowly the owner no longer hears: the fitter grades it." if slow else ""
        if not shown:
            words = "Where it is heard or felt, and how it came, is said here of the one marked last."
        unstated: tuple[str, ...] = ()
        if shown and marked == SPACED:
            words = spacing_words(self._session.cases, self._session.system)
            unstated = turns_unstated(self._session.cases) if words else ()
        self.slow.setVisible(bool(words))
        self.slow.setText(words)
        self._offer_pitches(unstated)
        self.asked.refresh()
        self.recordings.refresh()
        cautions = [
            tip for key, _, tip in ASKED if self._session.job.matter("asked", key).get("found") == "yes"
        ]
        if cautions:
            self.caution.say("near", "", " ".join(cautions))
        else:
            self.caution.hide()

    def _offer_pitches(self, unstated: tuple[str, ...]) -> None:
        """A button for each screw whose pitch is not stated: it goes to its field."""
        if unstated == self._unstated:
            return
        self._unstated = unstated
        clear(self.pitches)
        links = [
            field_link(
                small(self._session.cases.of(key).assembly.label),
                partial(self.pitch_wanted.emit, key),
                f"pitch_of_{key}",
            )
            for key in unstated
        ]
        if links:
            before = label("State the pitch of", "soft")
            before.setMinimumHeight(links[0].sizeHint().height())  # in one line with them
            self.pitches.addWidget(before)
        for link in links:
            self.pitches.addWidget(link)


class SuspectsSide(QWidget):
    """Suspects with their chance; where the one looked at leads; the looks that tell most a minute, each
    answered by yes or no.
    """

    chosen = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.found: Suspicion | None = None
        self.at = ""  # key of the suspect looked at
        box = column(spacing=6)
        self.setLayout(box)
        box.addWidget(label("Suspects", "head"))
        self.bars = SuspectBars()
        self.bars.looked.connect(self.look_at)
        self.bars.followed.connect(self.follow)
        box.addWidget(self.bars)
        self.moved = label("", "soft", wrap=True)
        box.addWidget(self.moved)
        self.why = label("", "soft", wrap=True)
        box.addWidget(self.why)
        self.go = button("", self.follow, tip="Where it is proven and mended", name="suspect_follow")
        box.addWidget(self.go)
        box.addWidget(rule())
        box.addWidget(label("Look at next", "head"))
        inner = QWidget()
        self.looks = column(spacing=6)
        inner.setLayout(self.looks)
        box.addWidget(scrolled(inner), 1)
        self.trouble = label("", "refused", wrap=True)
        box.addWidget(self.trouble)

    def look_at(self, key: str) -> None:
        """Look at another suspect."""
        self.at = key
        self.refresh()

    def _suspect(self) -> Suspect | None:
        """The one looked at, else the likeliest that anything speaks for."""
        found = self.found.ranking.suspects if self.found else ()
        here = next((s for s in found if s.key == self.at), None)
        return here or next((s for s in found if s.is_backed), None)

    def lead(self) -> Lead | None:
        """Where the suspect looked at leads."""
        suspect = self._suspect()
        return lead_of(suspect, self._session.cases) if suspect is not None else None

    def follow(self) -> None:
        """Go where the suspect looked at is proven; the piece that it needs is added first."""
        lead = self.lead()
        if lead is None or (lead.adds and not self._session.record(*lead.adds)):
            return
        self.chosen.emit(f"{lead.assembly} {lead.set_up}".strip())

    def _show_lead(self, *, any_marked: bool) -> None:
        suspect = self._suspect() if any_marked else None
        lead = self.lead() if suspect is not None else None
        self.why.setVisible(suspect is not None)
        self.go.setVisible(lead is not None)
        if suspect is None:
            return
        usual = ""
        if lead is not None:
            self.go.setText("Add it, and read it" if lead.adds else "Go there")
            listed = ", or ".join(small(r.title) for r in lead.remedies)
            usual = f" Usually: {listed}." if listed else ""
            if lead.set_up:
                title = small(lead.set_up_title)
                usual = f" Proven on {lead.label} by: {title}.{usual}"
        self.why.setText(f"{suspect.cause.words}. {suspect.cause.why}{usual}")

    def _names(self) -> dict[str, str]:
        return {a.key: a.label for a in self._session.case.kind.assemblies}

    def refresh(self) -> None:
        """Rank again."""
        self.found = found = suspicion(self._session.cases)
        names = self._names()
        any_marked = bool(found.marks or found.looked)
        shown = found.ranking.suspects[:MOST_SUSPECTS] if any_marked else ()
        here = self._suspect()
        self.bars.show_suspects(shown, names, here.key if here is not None and any_marked else "")
        self._show_lead(any_marked=any_marked)
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
            return "Several may be true at once: each has its own chance."
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


class SuspectBars(painting.Painted, PaintedRows):
    """A row a suspect: its name, where, its chance as a bar. Click it, or go to it by the keys, to look at
    it; Enter goes where it leads.
    """

    is_list = True

    looked = Signal(str)
    followed = Signal()

    def __init__(self) -> None:
        super().__init__(ROW)
        self._suspects: tuple[Suspect, ...] = ()
        self._names: dict[str, str] = {}
        self._at = ""
        self.setAccessibleName("Suspects by chance")
        self.setToolTip("Suspects by chance; click one to see where it leads, Enter goes there")

    def show_suspects(self, suspects: tuple[Suspect, ...], names: dict[str, str], at: str) -> None:
        """Show other suspects, with the names of their assemblies."""
        self._suspects, self._names, self._at = suspects, names, at
        self.setFixedHeight(int(self._row_px * len(suspects)) + 2)
        said = (f"{s.cause.words}, {names.get(s.assembly, '')}, {s.chance:.0%}" for s in suspects)
        self.setAccessibleDescription("; ".join(said))
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        wide = self.width() - 46.0
        for i, s in enumerate(self._suspects):
            area = self._row_area(i)
            top = area.top()
            if s.key == self._at:
                self._paint_here(painter, area)
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour("ink"))
            room = QRectF(4, top, self.width() - 8, 18)
            painting.write_in(painter, room, Qt.AlignmentFlag.AlignVCenter, s.cause.words)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("line"))
            painter.drawRect(QRectF(4, top + 20, wide - 4, 14))
            painter.setBrush(theme.colour("blue_wash"))
            painter.drawRect(QRectF(4, top + 20, (wide - 4) * s.chance, 14))
            painter.setBrush(theme.colour("blue"))
            painter.drawRect(QRectF(2 + (wide - 4) * s.chance, top + 20, 3, 14))
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.SMALL))
            where = self._names.get(s.assembly, "")
            mark = 2 + (wide - 4) * s.chance  # the name stands beside it, never under it
            room_left = mark - 8 >= painter.fontMetrics().horizontalAdvance(where) + 4
            left = 8.0 if room_left else mark + 8
            name = QRectF(left, top + 18, wide - left, 18)
            painting.write_in(painter, name, Qt.AlignmentFlag.AlignVCenter, where)
            painter.drawText(
                QRectF(wide, top + 18, 42, 18),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                f"{s.chance:.0%}",
            )

    def _here(self) -> int:
        keys = [s.key for s in self._suspects]
        return keys.index(self._at) if self._at in keys else 0

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._suspects):
            self.looked.emit(self._suspects[i].key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._suspects:
            self.followed.emit()
        else:
            super().keyPressEvent(event)
