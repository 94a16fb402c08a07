"""Fields for what is stated of the job as a whole."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from trebb.app.look.fields import Fields
from trebb.app.window.session import Session
from trebb.core.facts import Choice, Fact, Words
from trebb.core.stating.matters import matter_schema
from trebb.logbook.log.entries import MatterStated


def matter_fields(
    session: Session,
    matter: str,
    of: Callable[[], str],
    keys: Iterable[str],
    *,
    columns: int = 1,
    usual: Callable[[str], str] = lambda key: "",
    prefix: str = "",
) -> Fields:
    """A grid of fields of one matter, of whichever `of` says; `usual` is shown where nothing is stated."""
    fields = Fields(columns)
    for key in keys:
        _add(fields, session, matter, of, matter_schema(matter).fact(key), usual, prefix)
    return fields


def _add(
    fields: Fields,
    session: Session,
    matter: str,
    of: Callable[[], str],
    fact: Fact,
    usual: Callable[[str], str],
    prefix: str,
) -> None:
    name = f"{prefix or matter}_{fact.key}"

    def read() -> str:
        value = session.job.matter(matter, of()).get(fact.key)
        if value is None:
            return usual(fact.key)
        if isinstance(fact, Choice):
            return str(value)
        return fact.shown(fact.admitted(value), session.system)

    def commit(text: str) -> None:
        value = text if isinstance(fact, Choice) else fact.typed(text, session.system)
        session.record(MatterStated(matter=matter, of=of(), field=fact.key, value=value))

    tip = fact.tip or fact.words
    if isinstance(fact, Choice):
        fields.add_choice(name, fact.words, fact.choices, read, commit, tip)
    else:
        fields.add(name, fact.words, read, commit, tip, is_words=isinstance(fact, Words) and fact.is_plain)
