"""Pages of help made from what is declared: families, repairs, parts, causes, complaints, instruments; and
the trade's words in our own.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cache
from pathlib import Path

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.parts import all_families
from trebb.core.register import FAMILIES
from trebb.core.remedies import all_remedies
from trebb.core.survey import AnySetUp, InstrumentKind, all_set_ups, set_ups_of
from trebb.core.units import show_minutes
from trebb.core.words import large, small

TEXTS = Path(__file__).parent / "texts"
WORD, FAMILY, REPAIR, PART = "word", "family", "remedy", "part"
CAUSE, COMPLAINT, INSTRUMENT, PAPER, COMMAND, SET_UP = (
    "cause",
    "symptom",
    "instrument",
    "paper",
    "command",
    "set_up",
)
# What a topic of each kind is called in the list.
CALLED: Mapping[str, str] = {
    WORD: "word",
    FAMILY: "what it looks after",
    REPAIR: "repair",
    PART: "part",
    CAUSE: "cause",
    COMPLAINT: "complaint",
    INSTRUMENT: "instrument",
    PAPER: "paper",
    COMMAND: "shell",
    SET_UP: "set-up",
}
# What a family is called that no shop adds, for every machine of its kind has it.
OF_THE_MACHINE: Mapping[str, str] = {
    "ways": "Ways of a bed",
    "headstock": "Headstock",
    "tailstock": "Tailstock",
    "stand": "Stand and feet",
    "tram": "Head and table, square",
}


class Topic(Struct, frozen=True):
    """A page of help: its key, its title, its text in Markdown of ours before it is put into the shop's
    units, and other words for what it is about. A link in it is `[words](topic:key)`.
    """

    key: str
    title: str
    text: str
    others: str = ""

    @property
    def listed_as(self) -> str:
        """Its title as a list has it."""
        kind = CALLED.get(self.key.partition(".")[0]) if "." in self.key else None
        return f"{self.title} · {kind}" if kind else self.title


def family_name(key: str) -> str:
    """What a family of assemblies is called."""
    return FAMILIES[key].added or OF_THE_MACHINE.get(key, large(key.replace("_", " ")))


def _links(keys: Iterator[str] | list[str], titles: Mapping[str, str]) -> str:
    return "\n".join(f"- [{titles[key]}](topic:{key})" for key in keys if key in titles)


def set_up_topic(s: AnySetUp) -> Topic:
    """How a set-up is done, what it tells and what it cannot."""
    steps = "\n".join(f"{i}. {step}" for i, step in enumerate(s.steps, start=1))
    cautions = "".join(f"\n**{caution}**\n" for caution in s.cautions)
    text = (
        f"# {s.title}\n\n{s.instrument.value.capitalize()}. {show_minutes(s.setting_minutes)} to set up, "
        f"{show_minutes(s.minutes)} a place; {s.wanted} readings wanted at each.\n\n{steps}\n{cautions}\n"
        f"**Tells.** {s.tells}\n\n**Cannot tell.** {s.cannot_tell}\n"
    )
    return Topic(f"{SET_UP}.{s.key}", s.title, text, f"{s.short}, {s.settles}")


def declared_topics() -> list[Topic]:
    """Every page that is made from what is declared, of every kind of machine."""
    found = [set_up_topic(s) for s in dict.fromkeys(all_set_ups())]
    titles = {t.key: t.title for t in found}
    titles |= {f"{FAMILY}.{key}": family_name(key) for key in FAMILIES}
    titles |= {f"{REPAIR}.{r.family}.{r.key}": r.title for r in all_remedies()}
    titles |= {f"{PART}.{p.assembly}.{p.key}": p.title for p in all_families()}
    makers = (_families, _repairs, _parts, _causes, _instruments)
    return [*found, *(topic for make in makers for topic in make(titles))]


def _families(titles: Mapping[str, str]) -> Iterator[Topic]:
    for key in FAMILIES:
        name = family_name(key)
        read = _links([f"{SET_UP}.{s.key}" for s in set_ups_of(key)], titles)
        mended = _links([f"{REPAIR}.{r.family}.{r.key}" for r in all_remedies() if r.family == key], titles)
        made = _links([f"{PART}.{p.assembly}.{p.key}" for p in all_families() if p.assembly == key], titles)
        text = f"# {name}\n\n"
        text += "".join(
            f"**{head}**\n\n{links}\n\n"
            for head, links in (("Read by", read), ("Mended by", mended), ("Parts", made))
            if links
        )
        yield Topic(f"{FAMILY}.{key}", name, text)


def _repairs(titles: Mapping[str, str]) -> Iterator[Topic]:
    for r in all_remedies():
        wait = f", {r.wait_days:g} days' wait" if r.wait_days else ""
        needs = f"\n\n**Needs.** {large(r.needs)}." if r.needs else ""
        parts = _links([f"{PART}.{r.family}.{key}" for key in r.parts], titles)
        text = (
            f"# {r.title}\n\n{family_name(r.family)}. {r.summary}\n\nUsually {r.hours:g} h and {r.cost:g} "
            f"in money{wait}; a shop's own figures go before these.{needs}"
        )
        text += f"\n\n**{r.caution}**" if r.caution else ""
        text += f"\n\n**Makes or buys**\n\n{parts}" if parts else ""
        text += f"\n\nOf [{family_name(r.family)}](topic:{FAMILY}.{r.family}); chosen at Remedies."
        yield Topic(f"{REPAIR}.{r.family}.{r.key}", r.title, text, family_name(r.family))


def _parts(titles: Mapping[str, str]) -> Iterator[Topic]:
    for p in all_families():
        makers = (r for r in all_remedies() if r.family == p.assembly and p.key in r.parts)
        by = [f"{REPAIR}.{r.family}.{r.key}" for r in makers]
        text = (
            f"# {p.title}\n\nA part of: [{family_name(p.assembly)}](topic:{FAMILY}.{p.assembly}). Its sizes, "
            "fits, limits and drawing are worked out at Parts from what was read; its order of work, cuts "
            "and the sizes to take stand at Make."
        )
        text += f"\n\n**Easily forgotten.** {p.reminder}" if p.reminder else ""
        links = _links(by, titles)
        text += f"\n\n**Made for**\n\n{links}" if links else ""
        yield Topic(f"{PART}.{p.assembly}.{p.key}", p.title, text, family_name(p.assembly))


def _causes(titles: Mapping[str, str]) -> Iterator[Topic]:
    """What may be behind a complaint, and the complaints themselves."""
    from trebb.logbook.plan.suspicion import causes_table

    table, _ = causes_table()
    said = {s.key: s.words for s in table.symptoms}
    causes = {c.key: c for c in table.causes}
    for c in causes.values():
        shows = "\n".join(f"- [{said[k]}](topic:{COMPLAINT}.{k})" for k in c.shows if k in said)
        text = f"# {c.words}\n\n{c.why}\n\n**Shows as**\n\n{shows}"
        proved = _links([f"{SET_UP}.{c.set_up}"], titles)
        text += f"\n\n**Read by**\n\n{proved}" if proved else ""
        menders = (r for r in all_remedies() if r.key in c.remedies and _is_at(r.family, c.set_up))
        mended = _links([f"{REPAIR}.{r.family}.{r.key}" for r in menders], titles)
        text += f"\n\n**Usually mended by**\n\n{mended}" if mended else ""
        yield Topic(f"{CAUSE}.{c.key}", c.words, text)
    for key, words in said.items():
        behind = sorted((c for c in causes.values() if key in c.shows), key=lambda c: -c.shows[key] * c.share)
        listed = "\n".join(f"- [{c.words}](topic:{CAUSE}.{c.key})" for c in behind)
        text = (
            f"# {words}\n\nMark it at Intake, *Symptoms*: what may be behind it is then weighed together "
            f"with the rest. Behind it may be, the usual first:\n\n{listed}"
        )
        yield Topic(f"{COMPLAINT}.{key}", words, text)


def _is_at(family: str, set_up: str) -> bool:
    """Whether repairs of a family may mend what a set-up proves; any may where none does."""
    return not set_up or any(s.key == set_up for s in set_ups_of(family))


def _instruments(titles: Mapping[str, str]) -> Iterator[Topic]:
    for kind in InstrumentKind:
        used = [f"{SET_UP}.{s.key}" for s in dict.fromkeys(all_set_ups()) if s.instrument is kind]
        text = (
            f"# {large(kind.value)}\n\nWhat it reads to is chosen at the pod (Ctrl+I, *Reads to*), or seen "
            f"from how its figures fall; its check against blocks is kept at *Shop*.\n\n**Read with it**\n\n"
            f"{_links(used, titles)}"
        )
        yield Topic(f"{INSTRUMENT}.{kind.name.lower()}", large(kind.value), text)


@cache
def glossary() -> tuple[tuple[str, str, str, tuple[str, ...]], ...]:
    """Word, other words for it, what it is, keys of the pages that go on from there."""
    found = []
    for line in (TEXTS / "glossary.txt").read_text(encoding="utf-8").splitlines():
        if not line or line.startswith("#"):
            continue
        try:
            word, others, about, pages = (one.strip() for one in line.split(" | "))
        except ValueError:
            raise InputError(f"glossary: “{line[:40]}”", "four parts are wanted, between strokes") from None
        keys = tuple(key.removeprefix("stop.").removeprefix("page.") for key in pages.split(", "))
        found.append((word, others, about, keys))
    return tuple(found)


def word_topics(titles: Mapping[str, str]) -> list[Topic]:
    """The trade's words, each with where it goes on; `titles` of every other page by its key."""
    found = []
    for word, others, about, keys in glossary():
        key = f"{WORD}.{small(word).replace(' ', '_').replace('-', '_')}"
        text = f"# {word}\n\n{about}\n\nAlso: {others}.\n\n**Goes on at**\n\n{_links(list(keys), titles)}"
        found.append(Topic(key, word, text, others))
    return found
