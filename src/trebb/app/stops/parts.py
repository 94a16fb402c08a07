"""Parts: what is to be made, worked out and drawn."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QLabel, QWidget

from trebb.app.look.fields import Fields
from trebb.app.look.widgets import Banner, Mark, button, clear, column, label, row, scrolled
from trebb.app.parts.drawing_title import title_of
from trebb.app.parts.drawing_view import WRITERS, DrawingView
from trebb.app.parts.feature_list import FeatureList
from trebb.app.parts.part_tabs import PartTabs
from trebb.app.parts.sizes_panel import SizesPanel, size_text
from trebb.app.shop.drawn_before import DrawnBefore
from trebb.app.stops.base import DriveStop
from trebb.app.survey.stated import PARTS, FactGroups, StatedFields
from trebb.app.window.far_cover import Far
from trebb.core.errors import TrebbError, UnreadError
from trebb.core.machine import State
from trebb.core.parts import PartField, family
from trebb.core.units import UnitSystem
from trebb.core.words import large
from trebb.logbook.log.entries import PartSet

if TYPE_CHECKING:
    from trebb.app.window.host import Host


FAR_LINES = 8
CHECKS_HIGH = 190  # px: the drawing has the rest


class PartsStop(DriveStop):
    """Drawing and checks in the middle, sizes at the right, fields at the left below the machine."""

    paper = "part"
    waits_for = "The sizes below are usual ones, to measure by; what is read or stated takes their place."

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        self.key = "screw"
        body = self.body_box
        head = row(spacing=6)
        self.tabs = PartTabs("Work out", "part")
        self.tabs.chosen.connect(self.show_part)
        head.addWidget(self.tabs, 1)
        for words, suffix in (("DXF", "dxf"), ("SVG", "svg"), ("PDF", "pdf")):
            head.addWidget(
                button(
                    f"Save {words}",
                    partial(self._save, suffix),
                    tip=f"Write this drawing as {words}",
                    name=f"save_{suffix}",
                )
            )
        body.addLayout(head)
        self.make_too = button(
            "Make this one too",
            self._make_too,
            kind="dark",
            tip="Add this part to what is made",
            name="make_too",
        )
        self.make_too.hide()
        body.addWidget(self.make_too)
        self.saved = label("", "soft", wrap=True)
        self.saved.hide()
        body.addWidget(self.saved)
        self.drawing = DrawingView()
        body.addWidget(self.drawing, 1)
        self.trouble = Banner()
        self.trouble.hide()
        body.addWidget(self.trouble)
        inner = QWidget()
        self.checks = column(spacing=5)
        inner.setLayout(self.checks)
        self._checks_area = scrolled(inner)
        self._checks_area.setFixedHeight(CHECKS_HIGH)
        body.addWidget(self._checks_area)
        self._nothing = QWidget()  # takes the room while there is nothing to draw
        body.addWidget(self._nothing, 1)
        self._nothing.hide()
        self._build_side()
        self._stated: dict[str, tuple[QLabel, FactGroups]] = {}
        self._screws, self._others = StatedFields(self.session, PARTS), StatedFields(self.session)
        self._part_fields: dict[str, Fields] = {}
        self._part_heads: dict[str, QLabel] = {}
        self._part_lists: dict[str, list[FeatureList]] = {}

    def _build_side(self) -> None:
        self.sizes = SizesPanel()
        self.sizes.pointed.connect(self.drawing.light)
        self.drawing.pointed.connect(self.sizes.light)
        self.side = QWidget()
        side = column(spacing=6)
        self.side.setLayout(side)
        self.sizes_head = label("Sizes", "head")
        side.addWidget(self.sizes_head)
        side.addWidget(scrolled(self.sizes), 1)
        self.before = DrawnBefore(self.session)
        side.addWidget(self.before)
        self.instead = QWidget()
        left = column(spacing=6)
        left.setContentsMargins(14, 2, 10, 4)
        self.instead.setLayout(left)
        self._forms = QWidget()
        self._form_box = column(spacing=6)
        self._forms.setLayout(self._form_box)
        left.addWidget(scrolled(self._forms))
        self._stated_first, self._part_box, self._stated_last = column(), column(), column()
        for inner_box in (self._stated_first, self._part_box, self._stated_last):
            self._form_box.addLayout(inner_box)
        self._form_box.addStretch(1)

    # fields -----------------------------------------------------------------------------------

    def _stated_fields(self) -> FactGroups:
        """What is stated of the assembly, built when its family is first shown."""
        is_screw = self.session.case.family == "screw_drive"
        stated = self._screws if is_screw else self._others
        if stated.key not in self._stated:
            words, made = stated.now()
            head = label("Thread, by survey or by hand" if is_screw else words, "strong")
            first = is_screw or not self.session.case.has_set_ups  # what a copy is of comes before its sizes
            place = self._stated_first if first else self._stated_last
            place.addWidget(head)
            place.addWidget(made)
            self._stated[stated.key] = (head, made)
        for key, (head, fields) in self._stated.items():
            head.setVisible(key == stated.key)
            fields.setVisible(key == stated.key)
        return self._stated[stated.key][1]

    def show_fact(self, key: str) -> None:
        """Put the keys into the field of a fact of the assembly."""
        self._stated_fields().go_to(key)

    def _fields_of(self, key: str) -> Fields:
        wanted = self.session.case.part_fields(key, self.session.system)
        # a construction has fields of its own
        name = f"{self.session.case.part_name(key)}/{' '.join(field.key for field in wanted)}"
        if name not in self._part_fields:
            fields = Fields()
            for field in (one for one in wanted if not one.is_list):
                self._add_field(fields, key, field)
            fields.is_usual = lambda name: (
                name.removeprefix(f"{key}_") in self.session.case.usual_fields(key, self.session.system)
            )
            head = label(
                f"{family(key).title}, set by hand; dashed: usual, measured by nobody", "strong", wrap=True
            )
            self._part_box.addWidget(head)
            self._part_lists[name] = [FeatureList(self.session, key, one) for one in wanted if one.is_list]
            for lines in self._part_lists[name]:
                self._part_box.addWidget(lines)
            self._part_box.addWidget(fields)
            self._part_fields[name] = fields
            self._part_heads[name] = head
        return self._part_fields[name]

    def _add_field(self, fields: Fields, part: str, field: PartField) -> None:
        about = self.session.assembly

        def now() -> PartField:
            known = self.session.case.part_fields(part, self.session.system)
            return next((f for f in known if f.key == field.key), field)

        def value() -> str | float:
            inputs = self.session.case.part_inputs(part, self.session.system)
            return inputs.facts.get(field.key, now().default)

        def commit(text: str) -> None:
            if self.session.assembly != about:
                return  # the piece that it was typed for was taken off meanwhile
            value = now().typed(text, self.session.system)
            self.session.record(PartSet(part=self.session.case.part_name(part), field=field.key, value=value))

        if field.choices:
            fields.add_choice(
                f"{part}_{field.key}", field.label, field.choices, lambda: str(value()), commit, field.label
            )
        elif field.is_readings:
            fields.add(
                f"{part}_{field.key}",
                field.label,
                lambda: field.shown(value(), self.session.system),
                commit,
                f"{field.label}: several readings, with a space between",
                lambda text: field.shown(field.typed(text, self.session.system), self.session.system),
            )
        else:
            fields.add(
                f"{part}_{field.key}",
                field.label,
                lambda: field.shown(value(), self.session.system),
                commit,
                field.label,
            )

    # showing ----------------------------------------------------------------------------------

    def show_part(self, key: str) -> None:
        """Work out another part."""
        self.key = key
        self.saved.hide()
        self.refresh()

    def has_job(self) -> bool:
        return self.session.case.has_parts and bool(self._keys())

    def _keys(self) -> tuple[str, ...]:
        case = self.session.case
        comes_whole = case.chosen is not None and case.chosen.comes_whole
        return case.part_keys() or (() if comes_whole else case.default_parts)

    def show_nothing(self) -> None:
        self._forms.hide()
        self.sizes.show_rows((), self.session.system)
        self.sizes_head.setText("Sizes")
        if self.session.case.has_set_ups:
            chosen = self.session.case.chosen
            self.other.text.setText(
                "Nothing is made for this: it comes whole, with its own bearings and spacers. Go on to "
                "Fit-up."
                if chosen is not None and chosen.comes_whole
                else "Nothing is made for this: it is set by hand. Go on to Fit-up."
            )

    def show_job(self) -> None:
        self._forms.show()
        keys = self._keys()
        extra = self.session.case.extra_parts()
        if self.key not in (*keys, *extra):
            self.key = keys[0]
        self.tabs.show_parts((*keys, *extra), self.key)
        self.make_too.setVisible(self.key in extra)
        self._stated_fields().refresh()
        current = self._fields_of(self.key)
        for name, fields in self._part_fields.items():
            fields.setVisible(fields is current)
            self._part_heads[name].setVisible(fields is current)
            for lines in self._part_lists[name]:
                lines.setVisible(fields is current)
                lines.refresh()
        current.refresh()
        self._show()

    def far(self) -> Far:
        """The part's sizes."""
        if not self.session.case.has_parts or self.key not in (
            *self._keys(),
            *self.session.case.extra_parts(),
        ):
            return super().far()
        try:
            part = self.session.case.part(self.key, self.session.system)
        except TrebbError as error:
            return Far(self.session.case.assembly.label, lines=(f"{error}",))
        rows = [f"{row.label}: {size_text(row, self.session.system)}" for row in part.rows]
        return Far(part.title, lines=tuple(rows[:FAR_LINES]))

    def _show(self) -> None:
        self.before.show_part(self.key)
        try:
            part = self.session.case.part(self.key, self.session.system)
        except UnreadError as error:
            self._show_none("near", error.what, error.would_do)
            return
        except TrebbError as error:
            self._show_none("beyond", "This part cannot be as set by hand", f"{error}")
            return
        self.trouble.hide()
        self._show_worked(there=True)
        system = self.session.system
        self.drawing.show_part(part, system, title_of(self.session.case))
        self.sizes_head.setText(f"Sizes, {'in' if system is UnitSystem.INCH else 'mm'}")
        self.sizes.show_rows(part.rows, system)
        clear(self.checks)
        asked = self.session.case.asked_for(self.key, system)
        if asked:
            words = label("Ask for: " + "; ".join(asked) + ".", "", wrap=True)
            words.setObjectName("ask_for")
            words.setTextInteractionFlags(
                Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
            )
            self.checks.addWidget(words)
        checks = self.session.case.part_checks(self.key, system)
        for state, sentence, asks in (
            *((State.BEYOND, c.sentence, c.asks) for c in checks if not c.is_ok),
            *(((State.UNKNOWN, part.usual_words, ()),) if part.usual else ()),
            *((State.WITHIN, c.sentence, ()) for c in checks if c.is_ok),
        ):
            line = row(spacing=8)
            line.addWidget(Mark(state))
            line.addWidget(label(sentence, "strong" if state is State.BEYOND else "", wrap=True), 1)
            for link in self.fact_links(asks):
                line.addWidget(link)
            self.checks.addLayout(line)
        self.checks.addStretch(1)

    def _show_none(self, tone: str, head: str, words: str) -> None:
        """No part, and why; nothing of one looked at before stays behind."""
        self.trouble.say(tone, f"{head}.", f"{large(words)}.")
        self._show_worked(there=False)
        self.sizes.show_rows((), self.session.system)

    def _show_worked(self, *, there: bool) -> None:
        self.drawing.setVisible(there)
        self._checks_area.setVisible(there)
        self._nothing.setVisible(not there)

    def _make_too(self) -> None:
        self.session.record(PartSet(part=self.session.case.part_name(self.key), field="make", value="yes"))

    # files ------------------------------------------------------------------------------------

    def _save(self, suffix: str) -> None:
        start = self.session.path.with_name(f"{self.session.path.stem}-{self.key}.{suffix}")
        name, _ = QFileDialog.getSaveFileName(
            self, f"Save the drawing as {suffix.upper()}", str(start), f"{suffix.upper()} (*.{suffix})"
        )
        if name:
            self.save_to(Path(name))

    def save_to(self, path: Path) -> None:
        """Write the drawing in the format of the file's ending; says here where it is, or why not."""
        writer = WRITERS.get(path.suffix.lower())
        if writer is None:
            self.saved.setText(f"{path.name}: a drawing is saved as .dxf, .svg or .pdf.")
            return
        try:
            case, system = self.session.case, self.session.system
            writer(case.part(self.key, system), system, path, title_of(case))
        except TrebbError as error:
            self.saved.setText(f"{error}.")
            return
        self.saved.setText(f"Saved: {path}")
