"""Practice: what was used on a hidden machine, the verdict, and the machine opened."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import Banner, button, clear, column, exclusive, label, row, rule, scrolled
from trebb.app.practice.search import BestSearch
from trebb.app.stops.base import Stop
from trebb.core.dual_units import in_units
from trebb.core.errors import TrebbError
from trebb.core.remedies import remedy
from trebb.core.units import show_minutes
from trebb.logbook.log.entries import PracticeMarked

if TYPE_CHECKING:
    from trebb.app.window.host import Host
    from trebb.core.practice.piece import Piece
    from trebb.logbook.practice.lesson import Lesson
    from trebb.logbook.practice.opened import Opened
    from trebb.logbook.practice.trial import BestOrder


class PracticeStop(Stop):
    """Before: what was used so far, and the verdict with how sure it is. After: score, planted against
    believed, and what it teaches.
    """

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        self._said = ""
        self._sure = 0.0
        self._offer = ""
        self._opened: Opened | None = None
        self._kept = False
        self.search = BestSearch(self)
        self.search.found.connect(self._found)
        self.search.failed.connect(self._not_found)
        outer = column(spacing=8)
        self.setLayout(outer)
        self.title = label("", "title", wrap=True)
        outer.addWidget(self.title)
        self.banner = Banner()
        outer.addWidget(self.banner)
        self.story = label("", wrap=True)
        outer.addWidget(self.story)
        self.form = QWidget()
        self.form_box = column(spacing=7)
        self.form.setLayout(self.form_box)
        outer.addWidget(self.form)
        self.after = QWidget()
        self.after_box = column(spacing=7)
        self.after.setLayout(self.after_box)
        outer.addWidget(scrolled(self.after), 1)
        self.side = QWidget()
        self.side_box = column(spacing=5)
        self.side.setLayout(self.side_box)
        self._built = ""

    # showing ----------------------------------------------------------------------------------

    def refresh(self) -> None:
        piece = self._piece()
        self.story.setVisible(piece is not None)
        self.form.setVisible(piece is not None)
        if piece is None:
            self.title.setText("Practice")
            self.banner.say(
                "soft",
                "This job is a machine of your own.",
                "Hidden machines to practise on are begun on the start page (Ctrl+W).",
            )
            clear(self.side_box)
            clear(self.after_box)
            self.side_box.addStretch()
            return
        self.title.setText(piece.title + (f"   {piece.code}" if piece.code else ""))
        self.story.setText(in_units(piece.story, self.session.system))
        if self.session.job.practice_marks("opened"):
            self._show_opened(piece)
        else:
            self._show_form(piece)
        self._show_side(piece)

    def _piece(self) -> Piece | None:
        if not self.session.job.practice_marks("piece"):
            return None
        from trebb.logbook.cases.practice_piece import piece_of

        return piece_of(self.session.job)

    def _build_form(self, piece: Piece) -> None:
        from trebb.core.practice.ground_records import NOTHING
        from trebb.core.practice.scoring import SURENESS

        clear(self.form_box)
        self.form_box.addWidget(label("What is mostly wrong with it?", "head"))
        causes = column(spacing=4)
        self.causes = exclusive(
            self,
            causes,
            [
                (key, piece.ground.label_of(key), "Your verdict: the one that comes to most")
                for key in (*(c.key for c in piece.ground.causes), NOTHING)
            ],
            self._say_cause,
            prefix="cause",
        )
        self.form_box.addLayout(causes)
        self.form_box.addWidget(label("How sure are you?", "head"))
        line = row(spacing=4)
        self.sures = exclusive(
            self,
            line,
            [(s, f"{s:.0%}", "Sure and wrong costs most; say what you believe") for s in SURENESS],
            self._say_sure,
            prefix="sure",
        )
        line.addStretch()
        self.form_box.addLayout(line)
        self.offer_words = label("", wrap=True)
        self.form_box.addWidget(self.offer_words)
        offers = row(spacing=4)
        self.offers = exclusive(
            self,
            offers,
            (
                ("taken", "Use it", "Use what is offered"),
                ("left", "Leave it", "Leave what is offered"),
            ),
            self._say_offer,
            prefix="offer",
        )
        offers.addStretch()
        self.form_box.addLayout(offers)
        self.remedy_words = label("", wrap=True)
        self.form_box.addWidget(self.remedy_words)
        self.refusal = label("", "refused", wrap=True)
        self.form_box.addWidget(self.refusal)
        self._build_actions()

    def _build_actions(self) -> None:
        actions = row()
        actions.addWidget(
            button(
                "Say it, and open the machine",
                self.open_machine,
                kind="primary",
                tip="The verdict stands, the machine is opened and scored",
                key="Ctrl+Return",
                shortcut=True,
                name="open_machine",
            )
        )
        actions.addStretch()
        self.form_box.addLayout(actions)

    def _show_form(self, piece: Piece) -> None:
        self.banner.setVisible(self.search.is_running)
        self.after.hide()
        if self._built != piece.ground.key:
            self._built = piece.ground.key
            self._build_form(piece)
        for key, chip in self.causes.items():
            chip.setChecked(key == self._said)
        for sure, chip in self.sures.items():
            chip.setChecked(sure == self._sure)
        for key, chip in self.offers.items():
            chip.setChecked(key == self._offer)
            chip.setVisible(bool(piece.offer.words))
        self.offer_words.setText(in_units(piece.offer.words, self.session.system))
        self.offer_words.setVisible(bool(piece.offer.words))
        case = self.session.cases.of(piece.ground.assembly)
        self.remedy_words.setText(
            f"To be done: {case.chosen.title.lower()}, as chosen at Remedies."
            if case.chosen is not None
            else "Nothing is chosen at Remedies: it is left as it is."
        )

    def _show_side(self, piece: Piece) -> None:
        from trebb.logbook.practice.begun import used

        clear(self.side_box)
        spent = used(self.session.cases.of(piece.ground.assembly))
        self.side_box.addWidget(label("Used so far" if self._opened is None else "Used", "head"))
        budget = f" of {show_minutes(piece.minutes)}" if piece.minutes else ""
        for words in (
            f"{show_minutes(spent.minutes)}{budget} at the bench" if spent.minutes else "No minute yet",
            f"{spent.readings} reading{'s' if spent.readings != 1 else ''}",
            *(f"{n} × {_HINT[key]}" for key, n in spent.hints.items()),
            *([f"money: at most {piece.money:.0f}, hours counted at 20"] if piece.money else []),
        ):
            self.side_box.addWidget(label(words, wrap=True))
        self.side_box.addWidget(rule())
        if self._opened is not None:
            self._show_points(self._opened)
        else:
            self.side_box.addWidget(label("How it is scored", "head"))
            for words in (
                "30 for minutes: all of them up to twice the best order's, from the setting up on.",
                "40 for the verdict: all for sure and right, as many lost for sure and wrong.",
                "30 for money: all for the least that brings it within its limits.",
                "Minutes and money count as far as what you read tells what you say: a guess earns little.",
                "Hints cost 3 to 8 points, what is spoilt 15 each, over the budget 10.",
            ):
                self.side_box.addWidget(label(words, "soft", wrap=True))
        self.side_box.addStretch(1)

    def _show_points(self, opened: Opened) -> None:
        score = opened.score
        self.side_box.addWidget(label("Points", "head"))
        lines = [
            (f"{score.minutes:.0f} of 30", "minutes"),
            (f"{score.verdict:.0f} of 40".replace("-", "−"), "verdict"),
            (f"{score.money:.0f} of 30", "money"),
        ]
        if score.earned < 1:
            lines.append(
                (f"× {score.earned:.0%}", "minutes and money: what you said was not told by what you read")
            )
        if score.hints:
            lines.append((f"−{score.hints:.0f}", "hints"))
        lines += [("−15", words) for words in score.damage]
        lines += [("−10", words) for words in score.over]
        for points, words in lines:
            line = row()
            line.addWidget(label(points, "strong"))
            line.addWidget(label(words, wrap=True), 1)
            self.side_box.addLayout(line)
        self.side_box.addWidget(rule())
        self.side_box.addWidget(label("The best order", "head"))
        titles = opened.best.titles
        self.side_box.addWidget(
            label(
                f"{show_minutes(opened.best.minutes)}: "
                + (
                    "no quicker one was found than Trebb's own advice"
                    if not opened.best.is_found
                    else "yours, quicker than any that was looked for"
                    if opened.best.is_own
                    else "; ".join(titles)
                    + ("" if opened.best.is_proven else ". A quicker one may be: not all were tried")
                ),
                wrap=True,
            )
        )

    def _show_opened(self, piece: Piece) -> None:
        from trebb.app.practice.belief import BeliefPicture

        self.form.hide()
        self.after.show()
        opened = self._open()
        if opened is None:
            return
        truth = opened.truth
        right = opened.said == truth.chief
        self.banner.say(
            "within" if opened.score.total >= 80 else "near" if opened.score.total >= 50 else "beyond",
            f"{opened.score.total:.0f} of 100. {piece.ground.label_of(truth.chief)}.",
            f"You said: {piece.ground.label_of(opened.said).lower()}, {opened.sure:.0%} sure"
            f"{'' if right else ': that was not it'}. {self._money_words(opened)}",
        )
        clear(self.after_box)
        self.after_box.addWidget(label("What was planted, and what was believed at each reading", "head"))
        picture = BeliefPicture()
        picture.show_opened(opened)
        self.after_box.addWidget(picture)
        words = opened.wrong_why or (
            "What was believed held what was planted at the end."
            if opened.believed
            else "Nothing was read: there was nothing to believe."
        )
        self.after_box.addWidget(label(words, wrap=True))
        self._show_lesson(opened.lesson)
        if piece.lies:
            from trebb.core.practice.lies import lie

            told = " ".join(w for key in piece.lies if (w := lie(key).why) not in words)
            if told:
                self.after_box.addWidget(label(f"What lied: {told}", wrap=True))
        teaching = piece.teaching
        for head, text in (
            ("What it looks like", teaching.looks),
            ("What tells it", teaching.tells),
            ("What it costs", teaching.costs),
        ):
            if text:
                self.after_box.addWidget(label(head, "head"))
                self.after_box.addWidget(label(in_units(text, self.session.system), wrap=True))
        self.after_box.addStretch(1)

    def _show_lesson(self, lesson: Lesson) -> None:
        """What would have told it, what was believed on nothing, one's own way beside the shortest."""
        self.after_box.addWidget(label("The lesson", "head"))
        for words in (lesson.never, *lesson.on_nothing):
            if words:
                self.after_box.addWidget(label(in_units(words, self.session.system), wrap=True))
        ways = row(spacing=16)
        for head, steps in (("Your way", lesson.own), ("The shortest", lesson.best)):
            if steps:
                column_of = column(spacing=2)
                column_of.addWidget(label(head, "strong"))
                for i, step in enumerate(steps, start=1):
                    title = in_units(step.title, self.session.system)
                    column_of.addWidget(label(f"{i}  {title}, {show_minutes(step.minutes)}", wrap=True))
                column_of.addStretch(1)
                ways.addLayout(column_of, 1)
        self.after_box.addLayout(ways)

    def _money_words(self, opened: Opened) -> str:
        truth = opened.truth
        case = self.session.cases.of(opened.piece.ground.assembly)

        def named(key: str) -> str:
            return remedy(key, case.family).title.lower()

        left = truth.left.get(opened.chosen)
        much = f", which leaves {left:.1f} limits" if left is not None else ""
        if opened.chosen == truth.least:
            return f"Chosen: {named(opened.chosen)}{much}: nothing that mends it costs less."
        return (
            f"Chosen: {named(opened.chosen)} for {truth.worth.get(opened.chosen, 0):.0f}{much}; "
            f"{named(truth.least)} for {truth.worth[truth.least]:.0f} leaves {truth.left[truth.least]:.1f}."
        )

    def _open(self) -> Opened | None:
        if self._opened is None:
            from trebb.logbook.practice.opened import opened

            try:
                self._opened = opened(self.session.file.entries())
            except TrebbError as error:
                self.banner.say("beyond", "It cannot be opened.", str(error))
                return None
        return self._opened

    # gestures ---------------------------------------------------------------------------------

    def _say_cause(self, key: str) -> None:
        self._said = key
        self.refusal.setText("")

    def _say_sure(self, sure: float) -> None:
        self._sure = sure
        self.refusal.setText("")

    def _say_offer(self, key: str) -> None:
        self._offer = key
        self.refusal.setText("")

    def open_machine(self) -> None:
        """Record the verdict and open the machine; says what is missing where something is."""
        piece = self._piece()
        if piece is None or self.session.job.practice_marks("opened"):
            return
        for missing, words in (
            (not self._said, "Say what is mostly wrong with it, or that nothing is."),
            (not self._sure, "Say how sure you are."),
            (bool(piece.offer.words) and not self._offer, "Say whether you use what is offered."),
        ):
            if missing:
                self.refusal.setText(words)
                return
        bodies = [PracticeMarked(what="verdict", of=self._said, share=self._sure)]
        if self._offer:
            bodies.append(PracticeMarked(what="offer", of=self._offer))
        if self.session.record(*bodies):
            self.form.setEnabled(False)
            self.search.begin(self.session.file.entries())
            self.banner.say("soft", "Opening the machine: looking for the best order on it …")

    def _found(self, best: BestOrder) -> None:
        """The best order is found: now the machine is open for good."""
        from trebb.logbook.practice.opened import opening

        self.form.setEnabled(True)
        if self.session.record(opening(best)):
            self._keep()
            self.refresh()

    def _not_found(self, words: str) -> None:
        self.form.setEnabled(True)
        self.banner.say("beyond", "It cannot be opened.", words)

    def _keep(self) -> None:
        """Keep the score in the shop's memory; a job plays once."""
        opened = self._open()
        if opened is None or self._kept:
            return
        from trebb.logbook.practice.record import keep_score

        self._kept = True
        trouble = keep_score(opened, str(self.session.path))
        if trouble:
            self.session.refused.emit(f"The score is not kept: {trouble}")


_HINT = {"trust": "asked whether to trust", "next": "asked what next", "expert": "asked an expert"}
