"""An instrument checked on a block: readings up and down, and what they come to."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QGridLayout, QLineEdit, QWidget

from trebb.app.look.widgets import Choice, button, clear, column, label, row, scrolled
from trebb.core.dates import day_of
from trebb.core.errors import TrebbError
from trebb.core.survey.base import InstrumentKind
from trebb.core.units import UnitSystem, parse_lengths, show_small
from trebb.logbook.memory.instrument_checks import Check, admitted_check

KINDS = (
    InstrumentKind.INDICATOR,
    InstrumentKind.MICROMETER,
    InstrumentKind.CALIPER,
    InstrumentKind.HEIGHT,
    InstrumentKind.FEELERS,
)


class InstrumentsPage(QWidget):
    """A form at the left, instruments as checked at the right."""

    def __init__(self, keep: Callable[..., bool]) -> None:
        super().__init__()
        self._keep = keep
        box = row(spacing=24)
        self.setLayout(box)
        form = column(spacing=6)
        box.addLayout(form, 2)
        form.addWidget(label("Check one on a block", "head"))
        form.addWidget(
            label(
                "Five readings on a gauge block coming up to it, five coming down. Or against feelers, or "
                "round a turn: what matters is that the block does not change.",
                "soft",
                wrap=True,
            )
        )
        grid = QGridLayout()
        form.addLayout(grid)
        self.name = QLineEdit()
        self.kind = Choice()
        for kind in KINDS:
            self.kind.addItem(kind.value, kind.value)
        self.block = QLineEdit("0")
        self.up, self.down = QLineEdit(), QLineEdit()
        for i, (words, field, name, hint, tip) in enumerate(
            (
                ("Name", self.name, "name", "indicator with the red dot", "What you call it"),
                ("Kind", self.kind, "kind", "", "Readings of its kind take their ± from the newest check"),
                ("Block", self.block, "block", "0 or 10 mm", "What the block is; 0 where it is zeroed on it"),
                ("Going up", self.up, "up", "0.001  0.001  0.002 …", "Readings with space between them, mm"),
                ("Going down", self.down, "down", "0.004  0.003  0.004 …", "The same, coming down on it, mm"),
            )
        ):
            field.setObjectName(f"check_{name}")
            field.setAccessibleName(words)
            field.setToolTip(tip)
            if isinstance(field, QLineEdit):
                field.setPlaceholderText(hint)
            grid.addWidget(label(words), i, 0)
            grid.addWidget(field, i, 1)
        self.refusal = label("", "refused", wrap=True)
        form.addWidget(self.refusal)
        form.addWidget(
            button(
                "Keep this check",
                self.keep,
                kind="primary",
                tip="Keep it in the memory",
                key="Ctrl+Return",
                shortcut=True,
                name="keep_check",
            )
        )
        form.addStretch()
        inner = QWidget()
        self.rows = column(spacing=10)
        inner.setLayout(self.rows)
        box.addWidget(scrolled(inner), 3)

    def show_checks(self, checks: Sequence[tuple[str, Check]]) -> None:
        """Show instruments as checked, the newest first."""
        clear(self.rows)
        self.rows.addWidget(label("As checked", "head"))
        if not checks:
            self.rows.addWidget(
                label("None yet: until one is, readings count with the usual noise of their kind.", "soft")
            )
        first: dict[str, tuple[str, Check]] = {}
        for at, check in checks:
            first.setdefault(check.name, (at, check))
        in_use = {check.kind: check for _, check in checks}
        for at, check in reversed(checks):
            used = ": what its kind reads takes its ± from here" if in_use[check.kind] is check else ""
            self.rows.addWidget(label(f"{check.name}, {check.kind}, {day_of(at)}{used}", "strong", wrap=True))
            self.rows.addWidget(label(words_of(check), wrap=True))
            earlier = first[check.name][1]
            if earlier is not check:
                drift = check.off_mm - earlier.off_mm
                self.rows.addWidget(
                    label(
                        f"Since its first check it moved by {show_small(drift, UnitSystem.METRIC)}.", "soft"
                    )
                )
        self.rows.addStretch()

    def keep(self) -> None:
        """Keep the check that was typed; says here why it will not do."""
        try:
            checked = admitted_check(
                self.name.text(),
                str(self.kind.currentData()),
                sum(_lengths(self.block.text() or "0")[:1]),
                _lengths(self.up.text()),
                _lengths(self.down.text()),
            )
        except TrebbError as error:
            self.refusal.setText(str(error))
            return
        self.refusal.setText("")
        if self._keep(checked):
            for field in (self.name, self.up, self.down):
                field.clear()


def words_of(check: Check) -> str:
    """What a check came to, in a sentence."""

    def said(mm: float) -> str:
        return show_small(mm, UnitSystem.METRIC)

    step = f"moves in steps of {said(check.step_mm)}" if check.step_mm else "showed one figure only"
    return (
        f"It {step}, repeats to {said(check.repeat_mm)} (sd), reads {said(abs(check.hysteresis_mm))} "
        f"{'more' if check.hysteresis_mm > 0 else 'less'} coming down than going up, and is "
        f"{said(check.off_mm)} off the block. One reading by it is known to "
        f"± {said(2 * check.reading_sd_mm)}: a difference smaller than that is not shown, which is not "
        "the same as none."
    )


def _lengths(text: str) -> list[float]:
    return parse_lengths(text, UnitSystem.METRIC) if text.strip() else []
