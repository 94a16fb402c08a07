"""Parts: what is to be made, worked out and drawn."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QLabel, QWidget

from trebb.app.drawing_view import DrawingView, save_dxf, save_pdf, save_svg
from trebb.app.fields import Fields
from trebb.app.part_tabs import PartTabs
from trebb.app.sizes_panel import SizesPanel
from trebb.app.stated import StatedFields
from trebb.app.stops.base import DriveStop
from trebb.app.widgets import Banner, Mark, button, clear, column, label, row, scrolled
from trebb.core.errors import InputError, TrebbError
from trebb.core.machine import ScrewDrive, State
from trebb.core.parts import PartField, family
from trebb.core.parts.base import readings_of
from trebb.core.threads import Form, Hand, ThreadSpec
from trebb.core.units import UnitSystem, parse_count, parse_length, show_size, show_small
from trebb.logbook.casework import DriveCase, drive_from_facts
from trebb.logbook.entries import DriveStated, PartSet

if TYPE_CHECKING:
    from trebb.app.frame import Frame

FORMS = {form.value: form.value for form in Form if form.is_translating}


class PartsStop(DriveStop):
    """Drawing and checks in the middle, sizes at the right, fields at the left below the machine."""

    def __init__(self, frame: Frame) -> None:
        super().__init__(frame)
        self.key = "screw"
        body = self.body_box
        head = row(spacing=6)
        self.tabs = PartTabs("Work out", "part", across=4)
        self.tabs.chosen.connect(self.show_part)
        head.addWidget(self.tabs, 1)
        for words, suffix in (("DXF", "dxf"), ("SVG", "svg"), ("PDF", "pdf")):
            head.addWidget(button(f"Save {words}", partial(self._save, suffix), tip=f"Write this drawing as {words}", name=f"save_{suffix}"))
        body.addLayout(head)
        self.make_too = button("Make this one too", self._make_too, kind="dark", tip="Add this part to what is made", name="make_too")
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
        area = scrolled(inner)
        area.setFixedHeight(228)
        body.addWidget(area)
        self.sizes = SizesPanel()
        self.side = QWidget()
        side = column(spacing=6)
        self.side.setLayout(side)
        self.sizes_head = label("Sizes", "head")
        side.addWidget(self.sizes_head)
        side.addWidget(scrolled(self.sizes), 1)
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
        self._stated: dict[str, tuple[QLabel, Fields]] = {}
        self._others = StatedFields(self.session)
        self._part_fields: dict[str, Fields] = {}
        self._part_heads: dict[str, QLabel] = {}

    # fields -----------------------------------------------------------------------------------

    def _stated_fields(self) -> Fields:
        """What is stated of the assembly, built when its family is first shown."""
        is_screw = self.session.case.family == "screw_drive"
        name = "screw_drive" if is_screw else self._others.key
        if name not in self._stated:
            words, made = ("Thread, by survey or by hand", self._thread_fields()) if is_screw else self._others.now()
            head = label(words, "strong")
            place = self._stated_first if is_screw else self._stated_last
            place.addWidget(head)
            place.addWidget(made)
            self._stated[name] = (head, made)
        for key, (head, fields) in self._stated.items():
            head.setVisible(key == name)
            fields.setVisible(key == name)
        return self._stated[name][1]

    def _drive(self) -> ScrewDrive:
        subject = self.session.case.subject
        return subject if isinstance(subject, ScrewDrive) else ScrewDrive()

    def _thread_fields(self) -> Fields:
        session = self.session
        fields = Fields()

        def fact(key: str, value: str | float) -> None:
            drive_from_facts({**session.job.drive_facts(session.assembly), key: value}, session.case.usual if isinstance(session.case, DriveCase) else None)  # refuses a thread that cannot be
            session.record(DriveStated(assembly=session.assembly, field=key, value=value))

        def length(key: str, words: str, tip: str, read: Callable[[], float]) -> None:
            fields.add(key, words, lambda: show_size(read(), session.system), lambda text: fact(key, parse_length(text, session.system)), tip)

        def thread() -> ThreadSpec:
            return self._drive().thread

        fields.add_choice("form", "Form", FORMS, lambda: thread().form.value, lambda v: fact("form", v), "Thread form")
        length("major_mm", "Major", "Nominal major diameter", lambda: thread().major_mm)
        fields.add("pitch_mm", "Pitch", lambda: thread().pitch_words, lambda text: fact("pitch_mm", self._read_pitch(text)), "Pitch, or threads an inch such as 8 tpi")
        fields.add("starts", "Starts", lambda: str(thread().starts), lambda text: fact("starts", float(parse_count(text, "the number of starts", high=12))), "Thread beginnings at the end")
        fields.add_choice("hand", "Hand", {h.value: h.value for h in Hand}, lambda: thread().hand.value, lambda v: fact("hand", v), "Hand of the thread")
        fields.add_choice("tolerance_class", "Class", {c: c for c in ("2G", "3G", "4G")}, lambda: thread().tolerance_class, lambda v: fact("tolerance_class", v), "Acme class")
        length("wire_mm", "Wires", "Wires at hand", lambda: self._drive().wire)
        fields.add("divisions", "Dial divisions", lambda: str(self._drive().divisions), lambda text: fact("divisions", float(parse_count(text, "the dial", high=2000))), "Divisions in one turn")
        fields.add_choice("reads", "Dial counts", {"radius": "the slide's travel", "diameter": "the diameter"}, lambda: "diameter" if self._drive().reads_diameter else "radius",
                          lambda v: fact("reads", v), "What the dial is numbered in")  # fmt: skip
        fields.add_choice("gauge", "Wear read", {"wires": "over three wires", "one_wire": "over one wire", "thickness": "ridge thickness"}, lambda: self._drive().gauge, lambda v: fact("gauge", v), "How the screw's wear is measured")
        length("crest_mm", "Crests measure", "Over the crests, for a single wire", lambda: self._drive().crest_mm or thread().major_mm)
        length("travel_mm", "Travel", "Travel of the slide", lambda: self._drive().travel_mm)
        length("nut_length_mm", "Old nut", "Length of the old nut", lambda: self._drive().nut_length_mm)
        return fields

    def _read_pitch(self, text: str) -> float:
        words = text.lower().replace("tpi", "").strip()
        if words != text.lower().strip():
            try:
                count = float(words)
            except ValueError:
                count = 0.0
            if not 0.5 <= count <= 120:
                raise InputError(f"“{text.strip()}”", "write threads an inch such as 8 tpi")
            return 25.4 / count
        return parse_length(text, self.session.system)

    def _fields_of(self, key: str) -> Fields:
        wanted = family(key).fields(self.session.case.part_inputs(key))
        name = f"{self.session.case.part_name(key)}/{' '.join(field.key for field in wanted)}"  # a construction has fields of its own
        if name not in self._part_fields:
            fields = Fields()
            for field in wanted:
                self._add_field(fields, key, field)
            head = label(f"{family(key).title}, set by hand", "strong")
            self._part_box.addWidget(head)
            self._part_box.addWidget(fields)
            self._part_fields[name] = fields
            self._part_heads[name] = head
        return self._part_fields[name]

    def _add_field(self, fields: Fields, part: str, field: PartField) -> None:
        def value() -> str | float:
            inputs = self.session.case.part_inputs(part)
            now = next((f for f in family(part).fields(inputs) if f.key == field.key), field)
            return inputs.facts.get(field.key, now.default)

        def commit(text: str) -> None:
            typed: str | float = text if field.choices else self._readings(text) if field.is_readings else parse_length(text, self.session.system, bare_mm=self._bare(field))
            inputs = self.session.case.part_inputs(part)
            now = next(f for f in family(part).fields(inputs) if f.key == field.key)
            self.session.record(PartSet(part=self.session.case.part_name(part), field=field.key, value=now.checked(typed)))

        if field.choices:
            fields.add_choice(f"{part}_{field.key}", field.label, field.choices, lambda: str(value()), commit, field.label)
        elif field.is_readings:
            fields.add(f"{part}_{field.key}", field.label, lambda: "  ".join(show_size(v, self.session.system, unit=False) for v in readings_of(value())), commit, f"{field.label}: several readings, with a space between")
        else:
            show = show_small if field.is_small else show_size
            fields.add(f"{part}_{field.key}", field.label, lambda: show(float(value()), self.session.system), commit, field.label)

    def _readings(self, text: str) -> str:
        """Several readings, typed in any unit with spaces between, as they are kept: mm."""
        return " ".join(f"{parse_length(word, self.session.system):.4f}" for word in text.replace(",", " ").split())

    def _bare(self, field: PartField) -> float | None:
        if not field.is_small:
            return None
        return 0.0254 if self.session.system is UnitSystem.INCH else 0.001

    # showing ----------------------------------------------------------------------------------

    def show_part(self, key: str) -> None:
        """Work out another part."""
        self.key = key
        self.saved.hide()
        self.refresh()

    def has_job(self) -> bool:
        case = self.session.case
        return super().has_job() and bool(case.part_keys() or case.default_parts)

    def show_nothing(self) -> None:
        self._forms.hide()
        if self.session.case.has_set_ups:
            self.other.text.setText("Nothing is made for this: it is set by hand. Go on to Fit-up.")

    def show_job(self) -> None:
        self._forms.show()
        keys = self.session.case.part_keys() or self.session.case.default_parts
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
        current.refresh()
        self._show()

    def _show(self) -> None:
        try:
            part = self.session.case.part(self.key, self.session.system)
        except TrebbError as error:
            self.trouble.say("beyond", "This part cannot be as set by hand.", f"{error}.")
            return
        self.trouble.hide()
        system = self.session.system
        self.drawing.show_part(part, system)
        self.sizes_head.setText(f"Sizes, {'in' if system is UnitSystem.INCH else 'mm'}")
        self.sizes.show_rows(part.rows, system)
        clear(self.checks)
        for check in sorted(part.checks, key=lambda c: c.is_ok):
            line = row(spacing=8)
            line.addWidget(Mark(State.WITHIN if check.is_ok else State.BEYOND))
            line.addWidget(label(check.sentence, "" if check.is_ok else "strong", wrap=True), 1)
            self.checks.addLayout(line)
        self.checks.addStretch(1)

    def _make_too(self) -> None:
        self.session.record(PartSet(part=self.session.case.part_name(self.key), field="make", value="yes"))

    # files ------------------------------------------------------------------------------------

    def _save(self, suffix: str) -> None:
        start = self.session.path.with_name(f"{self.session.path.stem}-{self.key}.{suffix}")
        name, _ = QFileDialog.getSaveFileName(self, f"Save the drawing as {suffix.upper()}", str(start), f"{suffix.upper()} (*.{suffix})")
        if name:
            self.save_to(Path(name))

    def save_to(self, path: Path) -> None:
        """Write the drawing in the format of the file's ending; says here where it is, or why not."""
        writers = {".dxf": save_dxf, ".svg": save_svg, ".pdf": save_pdf}
        self.saved.show()
        writer = writers.get(path.suffix.lower())
        if writer is None:
            self.saved.setText(f"{path.name}: a drawing is saved as .dxf, .svg or .pdf.")
            return
        try:
            writer(self.session.case.part(self.key, self.session.system), self.session.system, path)
        except TrebbError as error:
            self.saved.setText(f"{error}.")
            return
        self.saved.setText(f"Saved: {path}")


