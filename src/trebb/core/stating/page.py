"""The page of formats' tables of facts, made from the declarations: `make formats`."""

from __future__ import annotations

import sys
from pathlib import Path

from trebb.core.facts import Fact
from trebb.core.machine import KINDS
from trebb.core.register import FAMILIES
from trebb.core.stating import card_schema, schema_of
from trebb.core.stating.matters import HEADS as MATTER_HEADS
from trebb.core.stating.matters import MATTERS

HEADS = {
    "screw_drive": "Feed and lead screws",
    "spindle": "Spindles",
    "bed": "A lathe in space, all kept under `ways`",
    "gib": "Slides on a gib",
    "tram": "Heads over a table",
    "copied": "Parts copied without a survey",
}


def plural(folder: str) -> str:
    """How the pieces of a family are called, from what one is called where it is added."""
    added = next(record.added for record in FAMILIES.values() if record.folder == folder)
    return f"{added}s"


def facts_page() -> str:
    """Tables of every fact: field, words, the values it takes."""
    found: dict[str, tuple[Fact, ...]] = {}
    numbered: dict[str, Fact] = {}
    for family, record in FAMILIES.items():
        schema = schema_of(family)
        found[record.folder] = schema.facts
        if schema.numbered is not None:
            numbered[record.folder] = schema.numbered
    parts = []
    for key, facts in found.items():
        lines = [
            f"**{HEADS.get(key, plural(key))}**",
            "",
            "| field | words | takes |",
            "|---|---|---|",
            *map(_line, facts),
        ]
        if key in numbered:
            one = numbered[key]
            lines.append(f"| {one.key}.1, {one.key}.2 … | {one.words} | {one.takes} |")
        parts.append("\n".join(lines))
    card = ["**The machine's card (`card.changed`)**", "", "| field | words | takes |", "|---|---|---|"]
    parts.append("\n".join([*card, *map(_line, card_schema().facts)]))
    for key, schema in MATTERS.items():
        head = f"**{MATTER_HEADS[key]} (`matter.stated`, matter `{key}`)**"
        parts.append(
            "\n".join([head, "", "| field | words | takes |", "|---|---|---|", *map(_line, schema.facts)])
        )
    return "\n\n".join(parts)


def _line(fact: Fact) -> str:
    return f"| {fact.key} | {fact.words} | {fact.takes} |"


def between(text: str, name: str, page: str) -> str:
    """A page of formats with what is declared between the two marks of a name."""
    begin, end = f"<!-- {name}: begin -->", f"<!-- {name}: end -->"
    before, rest = text.split(begin)
    return f"{before}{begin}\n{page}\n{rest[rest.index(end) :]}"


def with_page(text: str) -> str:
    """A page of formats with its tables of facts as they are declared now."""
    return between(text, "facts", facts_page())


def main(path: Path) -> None:
    """Write the tables into a page."""
    path.write_text(with_page(path.read_text(encoding="utf-8")), encoding="utf-8")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
    print(f"{len(KINDS)} kinds of machine, {len(FAMILIES)} families")
