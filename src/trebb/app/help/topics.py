"""What help there is: our own texts, the pages made from what is declared, and all of it found by words."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

from msgspec import Struct

from trebb.app.help import COMMANDS
from trebb.app.help.declared import (
    COMMAND,
    PAPER,
    TEXTS,
    Topic,
    declared_topics,
    set_up_topic,
    word_topics,
)
from trebb.app.papers.of_job import KINDS
from trebb.app.stops.register import ALL_STOPS
from trebb.core.words import large
from trebb.logbook.lookup import Entry, TextIndex
from trebb.logbook.lookup.index import like_groups

FIRST_STEPS, FORMULAS, KEYS, UNITS, PAPERS = "first_steps", "formulas", "keys", "units", "papers"
STANDARDS = "standards"
MEMORY = "memory"


# What else the written pages are looked for as.
OTHERS: Mapping[str, str] = {
    FORMULAS: "formulas, formula, equations, where figures come from",
    FIRST_STEPS: "getting started, tutorial, begin",
    MEMORY: "shop memory, own figures, learned, history, past jobs, two shops",
    UNITS: "unit, thousandths, decimal comma",
    STANDARDS: "class, grade, factory figures, inspection sheet, better than new, cosmetic, paint, patina, "
    "restoration, lead paint, rust, rust remover, derust, looks, finish",
}


def _of_file(key: str) -> Topic:
    text = (TEXTS / f"{key}.md").read_text(encoding="utf-8")
    return Topic(key, text.splitlines()[0].removeprefix("# ").split(":")[0], text, OTHERS.get(key, ""))


def keys_topic(text: str = "") -> Topic:
    """The page of the keys; what answers hangs on what is on the screen."""
    return Topic(KEYS, "Keys", text, "shortcuts, keyboard, hotkeys")


def written_topics() -> list[Topic]:
    """First steps, the stops in their order, the formulas, the units."""
    keys = (FIRST_STEPS, *(stop.key for stop in ALL_STOPS), FORMULAS, UNITS, STANDARDS, MEMORY)
    return [_of_file(key) for key in keys]


class Library(Struct, frozen=True):
    """All pages there are by key, and the index that finds them."""

    topics: Mapping[str, Topic]
    index: TextIndex


@cache
def library() -> Library:
    """The written pages, what is declared, and the trade's words; made once, of every kind of machine."""
    found = [*written_topics(), keys_topic(), *declared_topics(), *_papers(), *_commands()]
    titles = {t.key: t.title for t in found}
    found += word_topics(titles)
    alike = like_groups((TEXTS / "same_words.txt").read_text(encoding="utf-8"))
    index = TextIndex((Entry(t.key, t.title, t.others, t.text) for t in found), alike)
    return Library({t.key: t for t in found}, index)


def _papers() -> list[Topic]:
    listed = "\n".join(f"- [{k.title}](topic:{PAPER}.{k.key})" for k in KINDS)
    found = [
        Topic(PAPERS, "Papers", f"# Papers\n\nPrinted or saved as PDF by Ctrl+P.\n\n{listed}", "print, PDF")
    ]
    for k in KINDS:
        text = f"# {k.title}\n\n{k.tip}. Printed or saved as PDF by Ctrl+P."
        found.append(Topic(f"{PAPER}.{k.key}", k.title, text, "print, PDF, paper, sheet"))
    return found


def _commands() -> list[Topic]:
    found = []
    for name, (words, example) in COMMANDS.items():
        line = f"`{example}`\n\n`trebb {name} --help` says more."
        text = f"# trebb {name}\n\n{large(words)}.\n\n{line}"
        found.append(Topic(f"{COMMAND}.{name}", f"trebb {name}", text, f"{name}, shell, command line"))
    return found


__all__ = [
    "FIRST_STEPS",
    "FORMULAS",
    "KEYS",
    "Library",
    "Topic",
    "library",
    "set_up_topic",
    "written_topics",
]
