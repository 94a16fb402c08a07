"""The practice bench's page: a machine by level, by code, from a file, or a set piece; and one's record."""

from __future__ import annotations

import random
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

import platformdirs
from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QFileDialog, QLineEdit, QVBoxLayout, QWidget

from trebb.app.look import painting, theme
from trebb.app.look.beside_page import BesidePage
from trebb.app.look.widgets import Choice, button, clear, column, exclusive, label, row, rule, scrolled, sheet
from trebb.core import clock
from trebb.core.errors import TrebbError
from trebb.core.practice.ground_records import GROUNDS
from trebb.core.practice.piece import LEVELS, MOST_NUMBER, Piece, drawn, read_code
from trebb.logbook.cases.practice_piece import read_piece, set_pieces
from trebb.logbook.memory.shop import read_shop
from trebb.logbook.practice.record import Played, by_trap, next_piece, scores

if TYPE_CHECKING:
    from trebb.app.window.start_page import Opener

AS_IT_COMES, WEAKEST = "", "weakest"

LEAST_HEIGHT = 60  # px: three lines of words where nothing was played


class RecordPicture(painting.Painted, QWidget):
    """One's own scores: a line a trap, a mark a machine, the newest at the right."""

    ROW = 26.0
    WORDS = 210.0

    def __init__(self) -> None:
        super().__init__()
        self._by_trap: dict[str, list[float]] = {}
        self.setAccessibleName("Your scores by trap")
        self.setToolTip(
            "Each mark a machine, the newest at the right; the figure is the mean of the last five"
        )

    def sizeHint(self) -> QSize:
        return QSize(360, int(self.ROW * max(1, len(self._by_trap)) + 24))

    def show_played(self, played: list[Played]) -> None:
        """Show scores, the weakest trap first."""
        found = by_trap(played)
        self._by_trap = dict(sorted(found.items(), key=lambda kv: sum(kv[1][-5:]) / len(kv[1][-5:])))
        self.setMinimumHeight(max(self.sizeHint().height(), LEAST_HEIGHT))
        self.updateGeometry()
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._by_trap:
            painter.setPen(theme.colour("soft"))
            painter.setFont(theme.font())
            painter.drawText(
                QRectF(self.rect()),
                Qt.TextFlag.TextWordWrap,
                "No machine played yet. Scores stand here by trap, and the next machine is drawn where you "
                "are weakest.",
            )
            return
        left, right = self.WORDS, self.width() - 40.0
        for i, (trap, totals) in enumerate(self._by_trap.items()):
            area = QRectF(0, i * self.ROW, self.width(), self.ROW)
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font())
            name = area.adjusted(0, 0, left - self.width() - 12, 0)
            painting.write_in(painter, name, Qt.AlignmentFlag.AlignVCenter, trap)
            middle = area.center().y()
            painter.setPen(painting.pen("line", 1))
            painter.drawLine(int(left), int(middle), int(right), int(middle))
            shown = totals[-12:]
            for k, total in enumerate(shown):
                x = left + (right - left) * (k + 0.5) / max(len(shown), 4)
                role = "within" if total >= 80 else "near" if total >= 50 else "beyond"
                height = 3 + (self.ROW - 8) * total / 100
                painter.fillRect(QRectF(x - 4, area.bottom() - 3 - height, 8, height), theme.colour(role))
            painter.setPen(theme.colour("ink"))
            mean = sum(totals[-5:]) / len(totals[-5:])
            painter.drawText(area, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, f"{mean:.0f}")


class PracticePage(BesidePage):
    """Choose a hidden machine at the left; set pieces in the middle; the record at the right."""

    def __init__(self, window: Opener, back: Callable[[], object]) -> None:
        words = "A machine with a hidden fault, the real stops, and a score at the end."
        super().__init__("Practice bench", words, back, name="practice")
        self._window = window
        self._level = 1
        middle = row(spacing=14)
        self.outer.addLayout(middle, 1)
        middle.addWidget(sheet(self._draw_box(), 20), 4)
        middle.addWidget(sheet(self._pieces_box(), 20), 6)
        middle.addWidget(sheet(self._record_box(), 20), 5)
        self.refresh()

    def _draw_box(self) -> QVBoxLayout:
        box = column(spacing=8)
        box.addWidget(label("Draw one", "head"))
        self.levels = exclusive(
            self,
            box,
            [(n, f"{n}   {words}", f"Level {n}: {words.lower()}") for n, words in LEVELS.items()],
            self._choose_level,
            prefix="level",
        )
        box.addWidget(label("On"))
        self.on = Choice()
        self.on.addItem("as it comes", AS_IT_COMES)
        self.on.addItem("where I am weakest", WEAKEST)
        for ground in GROUNDS.values():
            self.on.addItem(ground.label, ground.key)
        self.on.setObjectName("practice_on")
        self.on.setAccessibleName("On")
        self.on.setToolTip("Which assembly of which machine")
        box.addWidget(self.on)
        box.addWidget(
            button(
                "Draw a machine",
                self.draw_one,
                kind="primary",
                tip="Begin on a machine drawn by chance",
                key="Ctrl+N",
                shortcut=True,
                name="draw_machine",
            )
        )
        box.addWidget(rule())
        box.addWidget(label("The same one that another had"))
        line = row(spacing=6)
        self.code = QLineEdit()
        self.code.setObjectName("practice_code")
        self.code.setAccessibleName("Code")
        self.code.setPlaceholderText("2-ABCX")
        self.code.setToolTip("A code as shown beside a machine's name")
        self.code.returnPressed.connect(self.begin_code)
        line.addWidget(self.code, 1)
        line.addWidget(button("Begin", self.begin_code, tip="Begin on that machine", name="begin_code"))
        box.addLayout(line)
        self.refusal = label("", "refused", wrap=True)
        box.addWidget(self.refusal)
        box.addWidget(
            button(
                "A set piece from a file",
                self._from_file,
                tip="A text file that a foreman wrote; its form is in docs/FORMATS.md",
                name="piece_file",
            )
        )
        box.addStretch()
        return box

    def _pieces_box(self) -> QVBoxLayout:
        box = column(spacing=6)
        box.addWidget(label("Set pieces, one for each trap", "head"))
        inner = QWidget()
        self.pieces = column(spacing=2)
        inner.setLayout(self.pieces)
        box.addWidget(scrolled(inner), 1)
        return box

    def _record_box(self) -> QVBoxLayout:
        box = column(spacing=8)
        box.addWidget(label("Your record", "head"))
        self.record = RecordPicture()
        inner = QWidget()
        inside = column()
        inner.setLayout(inside)
        inside.addWidget(self.record)
        inside.addStretch()
        box.addWidget(scrolled(inner), 1)
        self.record_words = label("", "soft", wrap=True)
        box.addWidget(self.record_words)
        return box

    def refresh(self) -> None:
        """Show scores as they now are."""
        entries, trouble = read_shop()
        played = scores(entries)
        self.played = played
        if trouble:
            self.banner.say("near", "Your record cannot be read.", f"{trouble}. Practice goes on without it.")
        else:
            self.banner.hide()
        for level, chip in self.levels.items():
            chip.setChecked(level == self._level)
        clear(self.pieces)
        best: dict[str, float] = {}
        for one in played:
            best[one.score.title] = max(best.get(one.score.title, 0.0), one.score.total)
        for key, piece in set_pieces().items():
            made = button(
                piece.title,
                partial(self.begin, piece),
                kind="link",
                tip=f"{piece.ground.label}: {piece.story}",
                name=f"piece_{key}",
            )
            made.setStyleSheet("text-align: left;")
            made.setFixedWidth(190)
            line = row(spacing=8)
            line.addWidget(made)
            line.addWidget(label(piece.ground.label, "soft"), 1)
            score = f"best {best[piece.title]:.0f}" if piece.title in best else "not played"
            line.addWidget(label(score, "strong" if piece.title in best else "small"))
            self.pieces.addLayout(line)
        self.pieces.addStretch()
        self.record.show_played(played)
        totals = [p.score.total for p in played]
        self.record_words.setText(
            f"Machines played: {len(totals)}, mean {sum(totals) / len(totals):.0f} of 100." if totals else ""
        )

    def _choose_level(self, level: int) -> None:
        self._level = level

    def draw_one(self) -> None:
        """Begin on a machine drawn by chance."""
        number = random.randrange(MOST_NUMBER)
        on = str(self.on.currentData())
        if on == WEAKEST:
            self.begin(next_piece(self._level, number, self.played))
        else:
            self.begin(drawn(self._level, number, on))

    def begin_code(self) -> None:
        """Begin on the machine of a code."""
        try:
            piece = drawn(*read_code(self.code.text()))
        except TrebbError as error:
            self.refusal.setText(str(error))
            return
        self.refusal.setText("")
        self.begin(piece)

    def _from_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A set piece", str(Path.home()), "Set pieces (*.toml)")
        if name:
            self.begin_file(Path(name))

    def begin_file(self, path: Path) -> None:
        """Begin on the piece of a file; says here why it will not do."""
        try:
            self.begin(read_piece(path))
        except TrebbError as error:
            self.refusal.setText(str(error))

    def begin(self, piece: Piece) -> None:
        """Begin a job on a piece; says here why it could not be."""
        from trebb.logbook.practice.begun import begin

        try:
            path = new_path(piece)
            path.parent.mkdir(parents=True, exist_ok=True)
            job_file = begin(path, piece)
        except (TrebbError, OSError) as error:
            self.refusal.setText(str(error))
            return
        self.refusal.setText("")
        self._window.open_file(job_file)


def new_path(piece: Piece) -> Path:
    """Where a practice job is kept: among the user's data, by code or title and the time."""
    folder = platformdirs.user_data_path("trebb", appauthor=False) / "practice"
    name = piece.code or "".join(c if c.isalnum() else "-" for c in piece.title.lower())[:40]
    stamp = clock.now().astimezone().strftime("%Y%m%d-%H%M%S-%f")
    return folder / f"{name}-{stamp}.trebb"
