"""The work: what the machine is for, what it comes out as, what is in the way, which repairs buy most."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer
from PySide6.QtGui import QHideEvent
from PySide6.QtWidgets import QLayout, QVBoxLayout, QWidget

from trebb.app.look.flow import Flow
from trebb.app.look.widgets import (
    Banner,
    Choice,
    button,
    clear,
    column,
    exclusive,
    label,
    row,
    rule,
    scrolled,
)
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.plots.work_edge import EdgePlot, PieceDrawn, state_of
from trebb.app.stops.base import Stop
from trebb.app.stops.work_rows import ROW, WorkRows
from trebb.app.window.behind import Behind
from trebb.core.machine import State
from trebb.core.stating.work import MEANS, OFFSET, SELL
from trebb.core.survey import set_up
from trebb.core.units import UnitSystem, show_minutes, show_money, show_size, show_small, show_uncertain
from trebb.core.words import large
from trebb.core.work import FIGURES, KINDS, Made, Option, edge_of
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.made_work import (
    SURE,
    Came,
    MadeWork,
    PieceMade,
    along_after,
    apart_words,
    came_of,
    choose,
    made_work,
    option_words,
    usual_piece,
    way_words,
    within_means,
    work_key,
)
from trebb.logbook.plan.usual_work import usual_work
from trebb.logbook.plan.work_first import ReadToChoose, choices_asked, read_to_choose
from trebb.logbook.plan.work_limits import limits_from_work, limits_words, take_limits

if TYPE_CHECKING:
    from trebb.app.window.host import Host

EVERY = 2  # places along a piece: each second is written
MOST_DOUBT = 10.0  # times the tolerance: a doubt beyond it is as good as nothing known
AXES = (("money", "By money", "Money across"), ("hours", "By hours", "Bench hours across"))
SUMS = ("money", "hours", "brings", "another")
SIZES = ("title", "kind", "dia_mm", "length_mm", "high_mm")
CUT = ("material", "depth_mm", "feed_mm")
TURNED = ("chuck", "centres")
NOT_WEIGHED = "What to read before choosing could not be worked out just now."
KNOWN_NOTHING = (
    "Of heat, chatter, a slide's play and the hand nothing is known here. What gives under the cut counts "
    "once its metal, depth and feed are stated."
)


def made_words(m: Made, system: UnitSystem) -> str:
    """A figure as it would be made, against what it may be off by."""
    may = f"may be {show_small(m.tolerance_mm, system)}"
    if not m.is_told:
        known = m.value.half_width < MOST_DOUBT * m.tolerance_mm
        to = f", known to ± {show_small(m.value.half_width, system)}" if known else ""
        return f"not told yet{to}, {may}"
    size = show_uncertain(m.value.value, m.value.half_width, system)
    return f"{size}, {may}, inside by {m.chance:.0%}"


def _came_words(came: Came, system: UnitSystem) -> str:
    """What a piece came out as, against what it may be and what was foretold."""
    q = came.foretold.value
    inside = "inside" if came.is_inside else "not inside"
    as_said = "as foretold" if came.is_as_foretold else "not as foretold"
    return (
        f"{FIGURES[came.figure].label} came out {show_small(came.made_mm, system)}: {inside}, {as_said} "
        f"({show_uncertain(q.value, q.half_width, system)})."
    )


class WorkStop(Stop):
    """Pieces at the top, one drawn, the edge below; at the right its sizes, its budget, what to read."""

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        self.at = ""
        self.axis = "money"
        self.said = ""
        self.point = 0
        self.work: MadeWork | None = None
        self.edge: list[Option] = []
        self.weighing = Behind(self, read_to_choose, NOT_WEIGHED)
        self.weighing.made.connect(self._show_first)
        self.weighing.failed.connect(lambda said: self._show_first([], said))
        self.setLayout(self._middle())
        self.side = self._side()

    def _middle(self) -> QVBoxLayout:
        box = column(spacing=6)
        head = row(spacing=8)
        head.addWidget(label("What it is to make", "title"), 1)
        self.usual = Choice()
        self.usual.setMinimumContentsLength(20)
        self.usual.setObjectName("work_usual")
        self.usual.setAccessibleName("Usual work")
        self.usual.setToolTip("A usual piece of work, to be changed")
        head.addWidget(self.usual)
        self.takes = [button("Take it", self.take_usual, tip="Add this piece", name="work_take")]
        head.addWidget(self.takes[0])
        own = button("One of your own", self.add_own, tip="An empty piece, to be filled in", name="work_own")
        self.takes.append(own)
        head.addWidget(own)
        box.addLayout(head)
        self.banner = Banner()
        box.addWidget(self.banner)
        self.rows = WorkRows()
        self.rows.chosen.connect(self.look_at)
        self.room = scrolled(self.rows)
        box.addWidget(self.room, 3)
        self.drawn = PieceDrawn()
        box.addWidget(self.drawn)
        box.addWidget(rule())
        line = row(spacing=4)
        line.addWidget(label("What repairs buy", "head"))
        self.means = matter_fields(self.session, "work", lambda: MEANS, SUMS, columns=2, prefix="means")
        line.addWidget(self.means, 1)
        self.axes = exclusive(self, line, AXES, self.show_axis, prefix="work")
        self.axes["money"].setChecked(True)
        box.addLayout(line)
        self.plot = EdgePlot(SURE)
        self.plot.chosen.connect(self.walk)
        box.addWidget(self.plot, 2)
        self.first = label("", wrap=True)
        self.first.setObjectName("work_first")
        before = row(spacing=8)
        before.addWidget(self.first, 1)
        self.first_reads = column(spacing=2)
        before.addLayout(self.first_reads)
        box.addLayout(before)
        foot = row(spacing=8)
        self.option = label("", wrap=True)
        foot.addWidget(self.option, 1)
        self.take_option = button(
            "Choose these", self.choose, kind="primary", tip="Choose this set at Remedies", name="work_choose"
        )
        foot.addWidget(self.take_option)
        box.addLayout(foot)
        return box

    def _side(self) -> QWidget:
        side = QWidget()
        box = column(spacing=6)
        side.setLayout(box)
        self.title = label("", "head", wrap=True)
        box.addWidget(self.title)
        inner = QWidget()
        about = column(spacing=5)
        inner.setLayout(about)
        self.budget = column(spacing=2)
        about.addLayout(self.budget)
        self.read = Flow(spacing=6)
        about.addLayout(self.read)
        about.addWidget(rule())
        figures = tuple(f"{field}_{key}" for field in ("tol", "made") for key in FIGURES)
        self.fields = matter_fields(self.session, "work", lambda: self.at, (*SIZES, *figures, *CUT))
        self.fields.is_asked = self._is_asked
        about.addWidget(self.fields)
        about.addWidget(label(KNOWN_NOTHING, "soft", wrap=True))
        about.addStretch(1)
        box.addWidget(scrolled(inner), 1)
        self.gone = button(
            "Not this work", self.take_off, kind="link", tip="Take it off the list", name="work_gone"
        )
        foot = Flow(spacing=6)
        foot.addWidget(self.gone)
        foot.addWidget(
            button(
                "Limits from the work",
                self.take_limits,
                kind="link",
                tip="Make each assembly's limit its share of what the pieces may be off by",
                name="work_limits",
            )
        )
        box.addLayout(foot)
        return side

    def _is_asked(self, key: str) -> bool:
        kind = KINDS.get(str(self.session.job.matter("work", self.at).get("kind", "")))
        field = key.removeprefix("work_")
        what, _, figure = field.partition("_")
        if what in ("tol", "made") and figure in FIGURES:
            asked = what == "tol" or bool(self.session.job.matter("work", self.at).get(f"tol_{figure}"))
            return kind is not None and figure in kind.figures and asked
        if field in CUT:
            return str(self.session.job.matter("work", self.at).get("kind", "")) in TURNED
        return field != "high_mm" or (kind is not None and bool(kind.high))

    # gestures ---------------------------------------------------------------------------------

    def take_usual(self) -> None:
        """Add the usual piece that is shown."""
        at = self.usual.currentIndex()
        if at >= 0:
            entries = usual_piece(self.session.cases, at)
            self.at = entries[0].of
            self.session.record(*entries)

    def add_own(self) -> None:
        """A piece of one's own, to be filled in at the right."""
        self.at = work_key(self.session.cases)
        self.session.record(MatterStated("work", self.at, "title", "Work of your own"))

    def take_off(self) -> None:
        """This is no work of this machine."""
        if self.at:
            self.session.record(MatterStated("work", self.at, "gone", "yes"))

    def take_limits(self) -> None:
        """Make each assembly's limit its share of the work: one gesture, to be undone whole."""
        found = limits_from_work(self.session.cases)
        entries = take_limits(found)
        if entries:
            self.session.record(*entries)
        self.said = limits_words(found, self.session.system)
        self._show()

    def look_at(self, key: str) -> None:
        """Look at another piece."""
        self.at = key
        self._show()

    def step(self, by: int) -> bool:
        keys = self._keys()
        if keys:
            i = keys.index(self.at) if self.at in keys else 0
            self.look_at(keys[max(0, min(len(keys) - 1, i + by))])
        return True

    def show_axis(self, key: str) -> None:
        """Money or hours across."""
        self.axis, self.point = key, 0
        self._show()

    def walk(self, i: int) -> None:
        """Look at another set on the edge."""
        self.point = i
        self._show()

    def choose(self) -> None:
        """Choose the set that is looked at: one gesture, to be undone whole."""
        if self.work is not None and self.edge:
            entries = choose(self.session.cases, self.edge[self.point], self.work)
            if entries:
                self.session.record(*entries)

    # showing ----------------------------------------------------------------------------------

    def _is_known(self) -> bool:
        key = self.session.case.kind.key
        return any(key in kind.machines for kind in KINDS.values())

    def _keys(self) -> list[str]:
        told = self.session.job.matters("work")
        return [key for key, one in told.items() if one.get("gone") != "yes" and key != MEANS]

    def refresh(self) -> None:
        self.work = made_work(self.session.cases)
        listed = [str(one["title"]) for one in usual_work(self.session.case.kind.key)]
        if [self.usual.itemText(i) for i in range(self.usual.count())] != listed:
            self.usual.clear()
            for words in listed:
                self.usual.addItem(words)
        self._show_first(self.weighing.ask(choices_asked(self.work)) or [])
        self._show()

    def _show_first(self, first: list[ReadToChoose], said: str = "") -> None:
        """What is to be read before any of it is chosen, and between what it decides."""
        clear(self.first_reads)
        if first:
            one = first[0]
            now, then = apart_words(self.session.cases, one.now, one.then)
            said = (
                f"Read first, {show_minutes(one.minutes)}: it decides between “{now}” and “{then}”; by "
                f"{one.changes:.0%} it changes what is chosen."
            )
        self.first.setText(said)
        self.first.setVisible(bool(said))
        for key in first[0].set_ups if first else ():
            self._add_read(self.first_reads, key, set_up(key).title, f"work_first_{key}")

    def _add_read(self, to: QLayout, key: str, words: str, name: str) -> None:
        tip = "Go to the set-up that tells it"
        to.addWidget(button(words, partial(self.open_set_up, key), kind="link", tip=tip, name=name))

    def _show(self) -> None:
        work = self.work
        assert work is not None
        keys = self._keys()
        if self.at not in keys:
            self.at = keys[0] if keys else ""
        self.edge = edge_of(work.choice.options, lambda o: float(getattr(o, self.axis)), work.others)
        self.point = min(self.point, max(0, len(self.edge) - 1))
        for widget in (self.usual, *self.takes):
            widget.setVisible(self._is_known())
        self.rows.show_rows(self._row_words(work), self.at)
        here = self.rows.here_area()
        QTimer.singleShot(0, self, lambda: self.room.ensureVisible(0, int(here.center().y()), 0, int(ROW)))
        self._say(work)
        self._show_edge(work)
        self.means.refresh()
        self._show_piece(next((p for p in work.pieces if p.piece.key == self.at), None))

    def hideEvent(self, event: QHideEvent) -> None:
        self.said = ""
        super().hideEvent(event)

    def _row_words(self, work: MadeWork) -> list[tuple[str, str, str, State]]:
        system = self.session.system
        made = {p.piece.key: p for p in work.pieces}
        found: list[tuple[str, str, str, State]] = []
        for key in self._keys():
            title = str(self.session.job.matter("work", key).get("title") or "Work")
            piece = made.get(key)
            if piece is None:
                found.append((key, title, "say its kind, its sizes, what it may be off by", State.UNKNOWN))
            elif piece.why_not:
                found.append((key, title, piece.why_not, State.UNKNOWN))
            else:
                found += [
                    (
                        key,
                        f"{title}: {FIGURES[m.figure].label.lower()}",
                        made_words(m, system),
                        state_of(m.ratio, m.chance, SURE) if m.is_told else State.UNKNOWN,
                    )
                    for m in piece.figures
                ]
        return found

    def _say(self, work: MadeWork) -> None:
        told = [m for p in work.pieces for m in p.told]
        unread = work.unread
        if not self._is_known():
            self.banner.say(
                "soft",
                "What such a machine makes is not known here yet.",
                "A lathe's, a mill's and a drill's work is: the limits at Findings hold for any.",
            )
        elif not self._keys():
            self.banner.say(
                "soft",
                "What is this machine to make?",
                "Take a usual piece, or one of your own: then it says what that comes out as, what is in the "
                "way, and which repairs buy most.",
            )
        elif not told:
            names = ", ".join(cause for cause, _ in unread[:3])
            self.banner.say("soft", "Nothing of it is told yet.", f"Read first: {names}." if names else "")
        else:
            out = [m for m in told if m.ratio > 1]
            worst = max(told, key=lambda m: m.ratio)
            dark = f"; {work.untold} not told" if work.untold else ""
            head = f"{len(told) - len(out)} of {len(told)} figures come inside{dark}."
            text = f"Worst: {FIGURES[worst.figure].label.lower()}, {worst.ratio:.1f} of what it may be."
            if work.least is not None and out:
                least = option_words(self.session.cases, work.least.remedies)
                text += f" Least that makes it, nine times in ten: {least}."
                if work.begin is not None:
                    begin = option_words(self.session.cases, work.begin.remedies)
                    text += f" Begin with: {begin}; that is enough by {work.begin.chance:.0%}, then measure."
            elif work.least is None and out:
                text += (
                    " No set of repairs makes all of it nine times in ten: the nearest comes to "
                    f"{self.edge[-1].worst:.2f} of what it may be. Another method would do: ground, lapped, "
                    "offset by hand; or a wider tolerance."
                )
            best = within_means(self.session.cases, work)
            if best is not None and out:
                words = option_words(self.session.cases, best.remedies)
                text += f" Best for what there is: {words}, {best.worst:.2f} of what it may be."
            if unread:
                text += f" Not told yet, for it hangs on: {', '.join(cause for cause, _ in unread[:3])}."
            self.banner.say("beyond" if out else "soft" if dark else "within", head, self.said or text)

    def _show_edge(self, work: MadeWork) -> None:
        here = self.edge[self.point] if self.edge and any(p.told for p in work.pieces) else None
        self.plot.setVisible(here is not None)
        self.take_option.setVisible(here is not None)
        self.option.setVisible(here is not None)
        if here is None:
            return
        is_chosen = not choose(self.session.cases, here, work)
        self.take_option.setEnabled(not is_chosen)
        self.take_option.setText("Chosen" if is_chosen else "Choose this" if here.how else "Choose these")
        currency = self.session.job.card("currency", "")
        across = "money" if self.axis == "money" else "bench hours"
        self.plot.show_edge(self.edge, [float(getattr(o, self.axis)) for o in self.edge], across, self.point)
        if here.how == SELL:
            self.option.setText(
                f"{way_words(self.session.cases, here)}: {show_money(here.money, currency)} more than this "
                "one brings. Whether that one makes it is for its own readings to say."
            )
            return
        days = f", {here.days:.0f} days' wait" if here.days else ""
        costs = f"{show_money(here.money, currency)}, {here.hours:.1f}\u00a0h{days}"
        all_ = "what is told of it" if work.untold else "all of it"
        words = way_words(self.session.cases, here)
        self.option.setText(
            f"{words}. {costs}: nine times in ten the worst comes to no "
            f"more than {here.worst:.2f} of what it may be; {all_} is inside by {here.chance:.0%}."
        )

    def _by_hand(self, made: PieceMade | None) -> list[str]:
        """How what is known of a piece is offset, where that is the way looked at."""
        if made is None or not self.edge or self.edge[self.point].how != OFFSET:
            return []
        system = self.session.system
        found = [
            f"{FIGURES[m.figure].label}: {FIGURES[m.figure].by_hand}."
            for m in made.told
            if FIGURES[m.figure].by_hand
        ]
        if made.along:
            places = range(EVERY, len(made.along), EVERY)
            far = len(made.along) - 1
            listed = [
                f"{show_size(made.piece.length_mm * i / far, system)}: {show_small(-made.along[i], system)}"
                for i in places
            ]
            found.append(f"Set on diameter, from its headstock end, + is larger: {', '.join(listed)}.")
        return found

    def _show_piece(self, made: PieceMade | None) -> None:
        system = self.session.system
        self.title.setText(str(self.session.job.matter("work", self.at).get("title") or "No work yet"))
        self.fields.setVisible(bool(self.at))
        self.fields.refresh()
        self.gone.setVisible(bool(self.at))
        clear(self.budget)
        clear(self.read)
        along = made.along if made is not None else ()
        tolerance = made.piece.tolerances.get("dia", 0.0) if made is not None else 0.0
        after: tuple[float, ...] = ()
        if along and made is not None and self.edge and self.edge[self.point].remedies:
            after = along_after(self.session.cases, made.piece, self.edge[self.point])
        words = f"{made.piece.title}, errors of its diameter enlarged" if made is not None else ""
        between = made is not None and made.piece.kind == "centres"
        self.drawn.show_piece(along if tolerance else (), after, tolerance, words, between=between)
        for came in came_of(self.session.cases, made.piece) if made is not None else ():
            self.budget.addWidget(label(_came_words(came, system), "strong", wrap=True))
        for m in made.figures if made is not None else ():
            self.budget.addWidget(label(FIGURES[m.figure].label, "strong"))
            for s in m.budget[:5]:
                mm = "not told" if s.mm is None else show_small(s.mm, system)
                self.budget.addWidget(label(f"{large(s.cause)}: {mm}", "soft", wrap=True))
        for words in self._by_hand(made):
            self.budget.addWidget(label(words, wrap=True))
        unread = {s.set_up for m in made.figures for s in m.unread} if made is not None else set()
        if unread:
            self.read.addWidget(label("To read:", "soft"))
        for r in (r for r in self.work.read_first if r.set_up in unread) if self.work is not None else ():
            words = f"{set_up(r.set_up).title}, {show_minutes(r.minutes)}"
            self._add_read(self.read, r.set_up, words, f"work_read_{r.set_up}")
