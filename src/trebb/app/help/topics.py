"""What help there is: our own texts, and one page a set-up made from its declaration."""

from __future__ import annotations

from pathlib import Path

from msgspec import Struct

from trebb.app.stops.register import ALL_STOPS
from trebb.core.dual_units import in_units
from trebb.core.survey import AnySetUp
from trebb.core.units import UnitSystem, show_minutes

TEXTS = Path(__file__).parent / "texts"
FIRST_STEPS, FORMULAS, KEYS = "first_steps", "formulas", "keys"


class Topic(Struct, frozen=True):
    """A page of help: its key, its title, and its text in Markdown of ours."""

    key: str
    title: str
    text: str


def _of_file(key: str) -> Topic:
    text = (TEXTS / f"{key}.md").read_text(encoding="utf-8")
    return Topic(key, text.splitlines()[0].removeprefix("# ").split(":")[0], text)


def written_topics() -> list[Topic]:
    """First steps, the stops in their order, the formulas."""
    return [_of_file(key) for key in (FIRST_STEPS, *(stop.key for stop in ALL_STOPS), FORMULAS)]


def set_up_topic(s: AnySetUp, system: UnitSystem) -> Topic:
    """How a set-up is done, what it tells and what it cannot, in the shop's units."""
    steps = "\n".join(f"{i}. {step}" for i, step in enumerate(s.steps, start=1))
    cautions = "".join(f"\n**{caution}**\n" for caution in s.cautions)
    text = (
        f"# {s.title}\n\n{s.instrument.value.capitalize()}. {show_minutes(s.setting_minutes)} to set up, "
        f"{show_minutes(s.minutes)} a place; {s.wanted} readings wanted at each.\n\n{steps}\n{cautions}\n"
        f"**Tells.** {s.tells}\n\n**Cannot tell.** {s.cannot_tell}\n"
    )
    return Topic(f"set_up.{s.key}", s.title, in_units(text, system))


def found(topics: list[Topic], words: str) -> list[Topic]:
    """Topics that hold every word looked for: those with it in the title first, then by how often."""
    wanted = words.casefold().split()
    if not wanted:
        return topics

    def rank(topic: Topic) -> tuple[bool, int]:
        text = topic.text.casefold()
        return any(w in topic.title.casefold() for w in wanted), sum(text.count(w) for w in wanted)

    hits = [t for t in topics if all(w in f"{t.title} {t.text}".casefold() for w in wanted)]
    return sorted(hits, key=rank, reverse=True)
