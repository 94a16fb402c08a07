"""Bars, tools and what is used up: what is there, what to buy, how to cut it."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QWidget

from trebb.app.look import theme
from trebb.app.look.typed import DraftEdit
from trebb.app.look.widgets import Banner, Choice, button, clear, column, label, row, rule, scrolled
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError, TrebbError
from trebb.core.making.stock import (
    KERF_MM,
    SHAPES,
    WASTE_MM,
    Bar,
    Cut,
    Cutting,
    after_cutting,
)
from trebb.core.metals import MATERIALS
from trebb.core.units import parse_length, show_size
from trebb.core.words import large
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.bill import Bill, bill_of
from trebb.logbook.plan.job_plan import JobPlan
from trebb.logbook.plan.rack import Rack, read_rack, write_rack
from trebb.logbook.plan.shopping import (
    BUY_MM,
    Wanted,
    bar_words,
    cuts_of,
    sawn,
    section_words,
    shopping_list,
)

COLUMNS = 3
NEXT = {"": "yes", "yes": "no", "no": ""}
SIGN = {"": "", "yes": "✓ ", "no": "✕ "}


class StockPage(QWidget):
    """From the rack, to buy, tools, and the rack itself."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.rack = Rack(())
        self.bill: Bill | None = None
        self.plan_of_cuts = Cutting((), ())
        outer = column(spacing=6)
        self.setLayout(outer)
        self.banner = Banner()
        outer.addWidget(self.banner)
        inner = QWidget()
        box = column(spacing=6)
        inner.setLayout(box)
        outer.addWidget(scrolled(inner), 1)
        self.cuts = column(spacing=3)
        box.addLayout(self.cuts)
        box.addWidget(rule())
        box.addWidget(label("Tools, and what is used up: once for here, twice for missing", "strong"))
        self.tools = QGridLayout()
        self.tools.setSpacing(4)
        for k in range(COLUMNS):
            self.tools.setColumnStretch(k, 1)
        box.addLayout(self.tools)
        box.addWidget(rule())
        box.addWidget(label("The shop's rack, for all jobs", "strong"))
        self.bars = column(spacing=2)
        box.addLayout(self.bars)
        box.addLayout(self._adding())
        self.refusal = label("", "refused", wrap=True)
        box.addWidget(self.refusal)
        self.saw = matter_fields(
            session, "plan", lambda: "", ("kerf", "waste", "bar_length"), columns=3, usual=self._usual
        )
        box.addWidget(self.saw)
        box.addStretch(1)

    def _adding(self) -> QHBoxLayout:
        line = row(spacing=4)
        self.metal, self.shape = Choice(), Choice()
        for key, material in MATERIALS.items():
            self.metal.addItem(material.label, key)
        for key, words in SHAPES.items():
            self.shape.addItem(words, key)
        self.section = DraftEdit(
            "bar_size", "Diameter; of flat bar thickness × width", lambda: self._session.drafts
        )
        self.long = DraftEdit("bar_long", "Length; 3 × 300 for three of it", lambda: self._session.drafts)
        self.metal.setObjectName("bar_metal")
        self.metal.setAccessibleName("Metal")
        self.shape.setObjectName("bar_shape")
        self.shape.setAccessibleName("Round or flat")
        for widget in (self.metal, self.shape, self.section, self.long):
            widget.setToolTip(widget.accessibleName())
            line.addWidget(widget, 1)
        self.section.setPlaceholderText("size")
        self.long.setPlaceholderText("length")
        self.long.returnPressed.connect(self.add_bar)
        line.addWidget(
            button("Lay it in", self.add_bar, tip="Add it to the rack", key="Enter", name="add_bar")
        )
        return line

    def _usual(self, key: str) -> str:
        mm = {"kerf": KERF_MM, "waste": WASTE_MM, "bar_length": BUY_MM[self._session.system]}[key]
        return show_size(mm, self._session.system)

    # gestures ---------------------------------------------------------------------------------

    def add_bar(self) -> None:
        """Lay a bar in the rack, as typed."""
        system = self._session.system
        try:
            count, length = _counted(self.long.text())
            shape = str(self.shape.currentData())
            first, _, second = self.section.text().lower().replace("×", "x").partition("x")
            size = parse_length(first, system)
            width = parse_length(second, system) if second.strip() else 0.0
            if shape == "flat" and not width:
                raise InputError(f"“{self.section.text()}”", "of flat bar thickness × width, such as 10 × 40")
            low, high = (size, width) if not width or size <= width else (width, size)
            long = parse_length(length, system)
            bars = list(self.rack.bars)
            for _ in range(count):
                key = Rack(tuple(bars)).new_key()
                bars.append(Bar(key, str(self.metal.currentData()), shape, low, long, high))
            self.rack = write_rack(self.rack, bars)
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self._refuse("")
        self.long.entered()
        self._show()

    def take_off(self, key: str) -> None:
        """A bar is not there any more."""
        self._write([b for b in self.rack.bars if b.key != key])

    def cut_now(self, index: int) -> None:
        """These blanks are cut: the rack keeps what is left."""
        try:
            left = after_cutting(
                self.rack.bars,
                self.plan_of_cuts.cuts[index],
                waste_mm=self._session.job.plan_number("waste", WASTE_MM),
            )
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self._write(left)

    def _write(self, bars: list[Bar]) -> None:
        try:
            self.rack = write_rack(self.rack, bars)
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self._refuse("")
        self._show()

    def _refuse(self, sentence: str) -> None:
        self.refusal.setText(sentence)

    def mark_tool(self, words: str, now: str) -> None:
        """Here, missing, not said, in turn."""
        self._session.record(MatterStated("tool", words, "there", NEXT.get(now, "yes")))

    # showing ----------------------------------------------------------------------------------

    def show_plan(self, plan: JobPlan) -> None:
        """Show what the chosen parts need."""
        try:
            self.rack = read_rack()
        except TrebbError as error:
            self._refuse(f"{error}.")
        self._show()

    def _show(self) -> None:
        session = self._session
        self.bill = bill = bill_of(session.cases, session.system)
        self.plan_of_cuts = found = cuts_of(bill, session.job, self.rack.bars, session.system)
        self._say(bill, found)
        clear(self.cuts)
        for i, cut in enumerate(found.cuts):
            self._show_cut(i, cut)
        for name, stock in bill.others:
            self.cuts.addWidget(label(in_units(f"Beside bar: {name}, {stock}.", session.system), wrap=True))
        for sentence in found.refused:
            self.cuts.addWidget(label(f"{sentence}.", "refused", wrap=True))
        for name in bill.unknown:
            self.cuts.addWidget(label(f"Not worked out yet: {name}. See Parts.", "soft", wrap=True))
        for wanted in shopping_list(session.cases, self.rack.bars, session.system):
            if wanted.kind == "standard":
                self._show_standard(wanted)
        self._show_tools(bill)
        clear(self.bars)
        for b in self.rack.bars:
            line = row(spacing=6)
            line.addWidget(label(self._bar_words(b)), 1)
            line.addWidget(
                button("Take off", partial(self.take_off, b.key), kind="link", tip="It is not there any more")
            )
            self.bars.addLayout(line)
        if not self.rack.bars:
            self.bars.addWidget(label("Nothing in it yet.", "soft"))
        self.saw.refresh()

    def _show_standard(self, wanted: Wanted) -> None:
        """What is bought ready to go with a part or a repair."""
        usual = " Usual sizes, which nobody stated: measure yours." if wanted.usual else ""
        words = f"Buy {wanted.count} × {wanted.words}: {', '.join(wanted.parts)}.{usual}"
        self.cuts.addWidget(label(in_units(words, self._session.system), wrap=True))

    def _say(self, bill: Bill, found: Cutting) -> None:
        short = [n for n in bill.tools if n.there == "no"]
        bought = [c for c in found.cuts if c.to_buy]
        if not bill.blanks and not bill.tools:
            self.banner.say("soft", "No part is chosen that is made here.", "Choose a remedy at Remedies.")
        elif short or bought:
            parts = [f"{len(bought)} bars to buy"] if bought else []
            parts += [f"missing: {', '.join(n.words for n in short[:4])}"] if short else []
            text = "A task whose tool is missing waits in the plan until it is here." if short else ""
            self.banner.say("near", f"{large('; '.join(parts))}.", text)
        else:
            self.banner.say("within", "Everything is here.", "")

    def _show_cut(self, i: int, cut: Cut) -> None:
        system = self._session.system
        if cut.bars:
            section = section_words(cut.shape, cut.size_mm, cut.width_mm, system)
            head = f"From the rack, {MATERIALS[cut.metal].label} {section}:"
        else:
            head = f"Buy {bar_words(cut, self._session.job, system)}:"
        line = row(spacing=6)
        line.addWidget(label(head, "strong"), 1)
        if cut.bars:
            line.addWidget(
                button(
                    "It is cut",
                    partial(self.cut_now, i),
                    kind="chip",
                    tip="The rack keeps what is left",
                    name=f"cut_{i}",
                )
            )
        self.cuts.addLayout(line)
        names: dict[float, list[str]] = {}
        for b in cut.blanks:
            names.setdefault(round(b.length_mm, 6), []).append(b.name)
        for pieces, length, left in zip(cut.cuts.bars, cut.cuts.lengths, cut.cuts.left, strict=True):
            told = []
            for p in pieces:
                name = names.get(round(p, 6), [""])
                told.append(f"{sawn(p, system)} ({name.pop(0) if len(name) > 1 else name[0]})")
            words = (
                f"   {show_size(length, system)}: {', '.join(told)}; {show_size(max(0.0, left), system)} left"
            )
            self.cuts.addWidget(label(words, "soft", wrap=True))

    def _show_tools(self, bill: Bill) -> None:
        clear(self.tools)
        for i, need in enumerate(bill.tools):
            words = in_units(need.words, self._session.system)
            chip = self._tool(words, need.words, need.there)
            chip.setToolTip(f"{words}: for {'; '.join(need.parts)}")
            self.tools.addWidget(chip, i // COLUMNS, i % COLUMNS)

    def _tool(self, words: str, key: str, there: str) -> QPushButton:
        chip = button(
            f"{SIGN.get(there, '')}{words}",
            partial(self.mark_tool, key, there),
            kind="mark",
            tip=words,
            name="tool",
        )
        chip.setProperty("mark", {"yes": "here", "no": "yes"}.get(there, ""))
        chip.setMinimumWidth(60)
        theme.restyle(chip)
        return chip

    def _bar_words(self, b: Bar) -> str:
        system = self._session.system
        section = section_words(b.shape, b.size_mm, b.width_mm, system)
        return f"{MATERIALS[b.metal].label} {section}, {sawn(b.length_mm, system)} long"


def _counted(text: str) -> tuple[int, str]:
    """“3 × 300” is three of 300; a length alone is one."""
    first, cross, rest = text.replace("×", "x").partition("x")
    if cross and first.strip().isdecimal() and rest.strip():
        count = int(first)
        if not 1 <= count <= 50:
            raise InputError(f"“{text.strip()}”", "up to 50 bars at a time")
        return count, rest
    return 1, text
