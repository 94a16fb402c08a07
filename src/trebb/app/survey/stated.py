"""What is stated of an assembly, as fields: made from the declarations of its facts."""

from __future__ import annotations

from collections.abc import Callable

from trebb.app.look.fields import Fields
from trebb.app.window.session import Session
from trebb.core.facts import Choice, Fact, Lengths, Schema, Words
from trebb.core.families.gib.facts import SADDLE
from trebb.core.families.screw_drive.facts import PARTS, SEEN, SURVEY
from trebb.core.register import FAMILIES
from trebb.core.stating import schema_of
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
        self._session, self._schema = session, schema
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
        self.made: dict[str, FactFields] = {}

    @property
    def key(self) -> str:
        """What the chosen assembly's fields are kept under."""
        case = self._session.case
        return f"{case.family}.saddle" if getattr(case.subject, "is_saddle", False) else case.family

    def now(self) -> tuple[str, FactFields]:
        """Heading and fields of the chosen assembly."""
        if self.key not in self.made:
            schema = schema_of(self._session.case.family)
            self.made[self.key] = FactFields(self._session, schema, asked_of(self._session, self._where))
        family = self._session.case.family
        return HEADS.get(family, f"{FAMILIES[family].added}, as stated"), self.made[self.key]


__all__ = ["HEADS", "PARTS", "SEEN", "SURVEY", "FactFields", "StatedFields", "asked_of"]
