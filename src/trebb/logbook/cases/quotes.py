"""What a firm asks for a repair, beside making it here: kept as a note a remedy, in figures."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.making.bought import is_bought, offer_of
from trebb.core.remedies import Remedy
from trebb.core.units import parse_number, show_money
from trebb.logbook.log.entries import NoteWritten
from trebb.logbook.log.fold import Job

# Packing, bringing and fetching: what is left of the bench hours of work that is given out (practice).
GIVEN_OUT_HOURS = 1.0
MOST_PRICE, MOST_DAYS, FIRM_LETTERS = 1e6, 730.0, 80


class Quote(Struct, frozen=True):
    """A price in the shop's own currency, days of waiting, and whose it is."""

    price: float
    days: float
    firm: str = ""

    @property
    def words(self) -> str:
        """In a few words, without the currency."""
        by = f", {self.firm}" if self.firm else ""
        return f"{show_money(self.price)}, {self.days:g} d{by}"


def quote_topic(assembly: str, remedy: str) -> str:
    """Topic of the note."""
    return f"quote.{assembly}.{remedy}"[:200]


def quote_of(job: Job, assembly: str, remedy: str) -> Quote | None:
    """What was quoted; None where nothing was, or it was taken back."""
    return quote_read(job.note(quote_topic(assembly, remedy)))


def quote_read(text: str) -> Quote | None:
    """A quote from how it is kept; None for an empty one, or what is none."""
    price, _, rest = text.partition(" ")
    days, _, firm = rest.partition(" ")
    try:
        return Quote(float(price), float(days), firm.strip()) if text.strip() else None
    except ValueError:  # written by a newer Trebb, or by hand
        return None


def quote_typed(assembly: str, remedy: str, price: str, days: str, firm: str = "") -> NoteWritten:
    """The entry for what was typed; both empty take the quote back. Raises InputError saying what would
    do.
    """
    topic = quote_topic(assembly, remedy)
    if not price.strip() and not days.strip():
        return NoteWritten(topic=topic, text="")
    figures = []
    for words, text, most in (("price", price, MOST_PRICE), ("days", days, MOST_DAYS)):
        try:
            number, unit = parse_number(text) if text.strip() else (0.0, "")
        except InputError:
            raise InputError(f"{words}: “{text.strip()}”", f"a figure alone, from 0 to {most:.0f}") from None
        if unit.lower().rstrip(".") not in ("", "d", "day", "days") or not 0 <= number <= most:
            raise InputError(f"{words}: “{text.strip()}”", f"a figure alone, from 0 to {most:.0f}")
        figures.append(number)
    return NoteWritten(
        topic=topic, text=f"{figures[0]:.12g} {figures[1]:g} {firm.strip()[:FIRM_LETTERS]}".strip()
    )


def as_quoted(
    r: Remedy, job: Job, assembly: str, part_facts: Mapping[str, Mapping[str, str | float]]
) -> Remedy:
    """A remedy with what it costs here: as a firm quoted it, or with the prices of its parts that are bought,
    each instead of its share of the usual cost, all alike.
    """
    quote = quote_of(job, assembly, r.key)
    if quote is not None:
        hours = min(r.hours, GIVEN_OUT_HOURS)
        return replace(r, cost=quote.price, wait_days=quote.days, hours=hours)
    offers = [offer_of(part_facts[key], {}) for key in r.parts if is_bought(part_facts[key])]
    prices = [offer.price for offer in offers if offer.price is not None]
    if not prices:
        return r
    left = 1.0 - len(prices) / len(r.parts)
    waits = [offer.wait_days for offer in offers if offer.wait_days is not None]
    others = [r.wait_days] if left or not waits else []
    return replace(r, cost=sum(prices) + left * r.cost, wait_days=max([*waits, *others]))
