"""What is stated of an assembly, as fields: made from the declarations of its facts."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton, QScrollArea, QWidget

from trebb.app.look.fields import Fields
from trebb.app.look.widgets import button, column, label
from trebb.app.window.session import Session
from trebb.core.facts import Choice, Fact, Lengths, Schema, Words
from trebb.core.families.gib.facts import SADDLE
from trebb.core.families.screw_drive.facts import PARTS, SEEN, SURVEY
from trebb.core.register import FAMILIES
from trebb.core.stating import schema_of
from trebb.core.words import small
from trebb.logbook.log.entries import FactStated

HEADS = {
    "spindle": "Spindle, as stated",
    "screw_drive": "Dial and travel, as stated",
    "ways": "Bed, as stated",
    "headstock": "Lands and feet, as stated",
    "tailstock": "Tailstock, as stated",
    "stand": "Feet, as stated",
    "gib": "Gib and slot, as stated",
    "tram": "Head and table, as stated",
    "copied": "What is copied",
}


class FactFields(Fields):
    """Fields of some facts of whichever assembly is chosen, as long as it is of this family."""

    def __init__(self, session: Session, schema: Schema, facts: tuple[Fact, ...]) -> None:
        super().__init__()
        self._session, self._schema, self._facts = session, schema, facts
        self.about = session.case.holder
        self.is_usual = self._is_usual
        self.is_asked = lambda key: schema.fact(key).applies(session.case.subject)
        for fact in facts:
            self._add_fact(fact)

    def _add_fact(self, fact: Fact) -> None:
        def read() -> str:
            value = self._session.case.stated(fact)
            return "" if value is None else fact.shown(value, self._session.system)

        def commit(text: str) -> None:
            value = fact.typed(text, self._session.system)
            self._session.record(FactStated(assembly=self.about, field=fact.key, value=value))

        tip = fact.tip or fact.words
        if isinstance(fact, Choice):
            self.add_choice(fact.key, fact.words, fact.choices, lambda: self._chosen(fact), commit, tip)
        else:
            preview = self._shown_back(fact) if isinstance(fact, Lengths | Words) else None
            plain = isinstance(fact, Words) and fact.is_plain
            self.add(fact.key, fact.words, read, commit, tip, preview, is_words=plain)

    def in_a_line(self) -> str:
        """What is stated of them, in a line."""
        case = self._session.case
        stated = [f for f in self._facts if f.key in case.facts and f.applies(case.subject)]
        return " · ".join(
            f"{small(f.words)} {f.in_words(case.facts[f.key], self._session.system)}" for f in stated
        )

    def is_any_asked(self) -> bool:
        """Whether any of them is asked of the chosen assembly."""
        return any(fact.applies(self._session.case.subject) for fact in self._facts)

    def _is_usual(self, key: str) -> bool:
        """Whether what is shown of a fact was stated by nobody."""
        case = self._session.case
        return key not in case.facts and bool(case.stated(self._schema.fact(key)))

    def _chosen(self, fact: Choice) -> str:
        """The stored key of what the subject holds."""
        value = self._session.case.stated(fact)
        if value is None:
            return ""
        for key in fact.choices:
            if key == value or (key != "" and fact.convert(key) == value):
                return key
        return f"{value:g}" if isinstance(value, float) else str(value)

    def _shown_back(self, fact: Fact) -> Callable[[str], str]:
        def shown(text: str) -> str:
            """A list as it will be taken, shown back before it counts."""
            value = fact.admitted(fact.typed(text, self._session.system))
            return fact.shown_back(value, self._session.system)

        return shown

    def refresh(self) -> None:
        """Show another assembly's values; what was typed for the one before it does not come along."""
        if self._session.case.family and schema_of(self._session.case.family) is not self._schema:
            return
        self.about = self._session.case.holder
        super().refresh()


class _Fold(QWidget):
    """One question's fields: a line that opens them, and, while they are folded, what is stated in them."""

    def __init__(self, words: str, fields: FactFields) -> None:
        super().__init__()
        self._words, self.fields = words, fields
        box = column(spacing=3)
        self.setLayout(box)
        self.head: QPushButton = button(words, self.turn, kind="link", tip=f"Open or fold: {words}")
        self.inside = label("", "soft", wrap=True)
        self.inside.setContentsMargins(18, 0, 0, 2)
        for widget in (self.head, self.inside, fields):
            box.addWidget(widget)
        box.setAlignment(self.head, Qt.AlignmentFlag.AlignLeft)
        self.open(is_open=False)

    @property
    def is_open(self) -> bool:
        """Whether its fields are seen."""
        return not self.fields.isHidden()

    def open(self, *, is_open: bool = True) -> None:
        """Show its fields, or fold them."""
        self.fields.setVisible(is_open)
        self.head.setText(f"{'▾' if is_open else '▸'}  {self._words}")
        self._show_inside()

    def turn(self) -> None:
        """Open what is folded, fold what is open."""
        self.open(is_open=not self.is_open)

    def _show_inside(self) -> None:
        self.inside.setVisible(not self.is_open)
        self.inside.setText(self.fields.in_a_line() or "nothing stated")

    def refresh(self) -> None:
        """Show the job's values."""
        self.fields.refresh()
        self._show_inside()
        self.setVisible(self.fields.is_any_asked())


class FactGroups(QWidget):
    """Facts of an assembly by the question they answer: the deciding are open, the rest folded with what is
    in them in a line; few stand as one.
    """

    def __init__(self, session: Session, schema: Schema, facts: tuple[Fact, ...]) -> None:
        super().__init__()
        box = column(spacing=6)
        self.setLayout(box)
        self._folds: list[_Fold] = []
        self._fields: list[FactFields] = []
        for words, some in schema.grouped(facts):
            fields = FactFields(session, schema, some)
            self._fields.append(fields)
            if words:
                fold = _Fold(words, fields)
                self._folds.append(fold)
                box.addWidget(fold)
            else:
                box.addWidget(fields)
        if self._folds:
            self._folds[0].open()

    def fields_of(self, key: str) -> FactFields | None:
        """The fields among which a fact stands; None where it stands elsewhere."""
        return next((fields for fields in self._fields if fields.field(key) is not None), None)

    def field(self, key: str) -> QWidget | None:
        """The field of a fact, opened so that it can be seen; None where it stands elsewhere."""
        fields = self.fields_of(key)
        for fold in (f for f in self._folds if f.fields is fields and not f.is_open):
            fold.open()
        return None if fields is None else fields.field(key)

    def go_to(self, key: str) -> bool:
        """Put the keys into the field of a fact, scrolled to; False where it stands elsewhere."""
        field = self.field(key)
        if field is None or field.property("unasked"):
            return False
        area = self.parent()
        while area is not None and not isinstance(area, QScrollArea):
            area = area.parent()
        field.setFocus(Qt.FocusReason.ShortcutFocusReason)
        if isinstance(area, QScrollArea):
            layout = self.layout()
            if layout is not None:
                layout.activate()
            area.ensureWidgetVisible(field)
        return True

    def refresh(self) -> None:
        """Show the job's values."""
        for fold in self._folds:
            fold.refresh()
        if not self._folds:
            self._fields[0].refresh()


def asked_of(session: Session, where: str = SURVEY) -> tuple[Fact, ...]:
    """The facts that are asked of the chosen assembly at a place."""
    case = session.case
    schema = schema_of(case.family)
    if schema.holder:  # several families share it: each asks its own
        return schema.asked(case.family)
    saddle = schema.asked(SADDLE) if getattr(case.subject, "is_saddle", False) else ()
    return schema.asked(where) + saddle


class StatedFields:
    """Fields of each family as they are first wanted; a lathe's saddle has more than another slide."""

    def __init__(self, session: Session, where: str = SURVEY) -> None:
        self._session, self._where = session, where
        self.made: dict[str, FactGroups] = {}

    @property
    def key(self) -> str:
        """What the chosen assembly's fields are kept under."""
        case = self._session.case
        return f"{case.family}.saddle" if getattr(case.subject, "is_saddle", False) else case.family

    def now(self) -> tuple[str, FactGroups]:
        """Heading and fields of the chosen assembly."""
        if self.key not in self.made:
            schema = schema_of(self._session.case.family)
            self.made[self.key] = FactGroups(self._session, schema, asked_of(self._session, self._where))
        family = self._session.case.family
        return HEADS.get(family, f"{FAMILIES[family].added}, as stated"), self.made[self.key]


__all__ = ["HEADS", "PARTS", "SEEN", "SURVEY", "FactFields", "FactGroups", "StatedFields", "asked_of"]
