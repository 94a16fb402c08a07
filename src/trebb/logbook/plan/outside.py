"""A job given to a firm next door: what it is told, and what becomes of it when it comes back.

What is wanted, and by what it is accepted, is what the job itself says; the trade's own order of work, datum
and what must not be done stand in a table (`data/outside.json`), by family and remedy.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from pathlib import Path

from msgspec import Struct, json

from trebb.core.errors import InputError, TrebbError
from trebb.core.families.spindle.journals import SEATS, nominal_mm
from trebb.core.fits.iso286 import hole_limits, shaft_limits
from trebb.core.machine import State
from trebb.core.making.bought import is_bought
from trebb.core.remedies import Remedy
from trebb.core.threads import Band
from trebb.core.units import UnitSystem, show_size, show_sizes, show_small, show_uncertain
from trebb.core.words import small
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.quotes import Quote, quote_of
from trebb.logbook.cases.spindle_case import SpindleCase
from trebb.logbook.plan.work import PLAN

TABLE = Path(__file__).parents[1] / "data" / "outside.json"
ANY = "any"
# Seats that are built up and ground: by seat the zone it is ground to and the fact its bearing is stated by.
SEAT_FITS: Mapping[str, tuple[str, str]] = {
    "front journal": ("k5", "front_bore_mm"),
    "rear journal": ("k5", "rear_bore_mm"),
    "front housing": ("JS6", "front_outside_mm"),
}


class Told(Struct, frozen=True):
    """What a firm of a trade is told of such work."""

    trade: str
    datum: str
    order: tuple[str, ...]
    must_not: tuple[str, ...]


class Wanted(Struct, frozen=True):
    """What is asked for: `band` its limits, mm, where it is a size that is measured when it is back."""

    key: str
    words: str
    shown: str
    band: Band | None = None


class CameBack(Struct, frozen=True):
    """A size that was asked for and what it measured when it came back; None : not measured yet."""

    wanted: Wanted
    read_mm: float | None

    @property
    def off_mm(self) -> float:
        """How far it is over what was asked for, mm; under it less than nothing, within it nothing."""
        band = self.wanted.band
        if self.read_mm is None or band is None:
            return 0.0
        return max(0.0, self.read_mm - band.high_mm) + min(0.0, self.read_mm - band.low_mm)

    @property
    def is_off(self) -> bool:
        """Whether it is outside what was asked for."""
        return bool(self.off_mm)

    def words(self, system: UnitSystem) -> str:
        """What it measured, how far that is from what was asked for."""
        if self.read_mm is None:
            return f"{small(self.wanted.words)} not measured"
        way = "over" if self.off_mm > 0 else "under"
        off = f", {show_small(abs(self.off_mm), system)} {way}" if self.is_off else ""
        read = show_size(self.read_mm, system)
        return f"{small(self.wanted.words)} {read}{off}, asked for {self.wanted.shown}"


class Away(Struct, frozen=True):
    """How often it came back and went back again, each with why; the sizes of the turn that it is in now."""

    refused: tuple[str, ...]
    sizes: tuple[CameBack, ...]

    @property
    def turn(self) -> int:
        """How often it was sent back."""
        return len(self.refused)

    @property
    def is_here(self) -> bool:
        """Whether anything of it was measured since it was sent last."""
        return any(one.read_mm is not None for one in self.sizes)

    @property
    def is_accepted(self) -> bool:
        """Whether every size that was asked for was measured and is as asked for."""
        return bool(self.sizes) and all(one.read_mm is not None and not one.is_off for one in self.sizes)


class OutsideJob(Struct, frozen=True):
    """A job given out: what it is, as found, what is wanted after it, by what it is accepted.

    `found` and `wanted` are words and figures; `accepted_by` set-ups with their limit; `lacks` what must be
    read or stated before anything can be asked for.
    """

    remedy: Remedy
    told: Told
    quote: Quote | None
    found: tuple[tuple[str, str], ...]
    wanted: tuple[Wanted, ...]
    accepted_by: tuple[tuple[str, str], ...]
    lacks: tuple[str, ...]
    parts: tuple[str, ...]


@cache
def _table() -> Mapping[str, Told]:
    data = json.decode(TABLE.read_bytes(), type=dict[str, Told | str])
    return {key: told for key, told in data.items() if isinstance(told, Told)}


def told_of_work(family: str, remedy: Remedy) -> Told:
    """What a firm is told of a remedy; of several together, of each in turn. What holds for any is in all."""
    table = _table()
    known = [table[f"{family}/{key}"] for key in remedy.members if f"{family}/{key}" in table]
    usual = table[ANY]
    if not known:
        return usual
    return Told(
        "; ".join(t.trade for t in known),
        " ".join(dict.fromkeys(t.datum for t in known)),
        tuple(line for t in known for line in t.order),
        (*(line for t in known for line in t.must_not), *usual.must_not),
    )


def is_known_outside(family: str, remedy: Remedy) -> bool:
    """Whether such work is often given out."""
    return any(f"{family}/{key}" in _table() for key in remedy.members)


def outside_job(case: Case, system: UnitSystem) -> OutsideJob:
    """The job that a firm is given. Raises InputError where no remedy is chosen, or nothing is given out."""
    chosen = case.chosen
    if chosen is None or chosen.key == "leave":
        raise InputError(f"a job outside for {case.assembly.label}", "choose a remedy first")
    quote = quote_of(case.job, case.assembly_key, chosen.key)
    if quote is None and not is_known_outside(case.family, chosen):
        raise InputError(
            f"“{chosen.title}” as a job outside", "type what the firm asks at Remedies, under Quoted outside"
        )
    here = case.parts_here() if quote is not None or chosen.on_it_hours else ()
    parts = tuple(k for k in case.part_keys() if k not in here and not is_bought(case.part_facts(k)))
    wanted, lacks = _wanted(case, parts, system)
    return OutsideJob(
        chosen,
        told_of_work(case.family, chosen),
        quote,
        _found(case, system),
        wanted,
        _accepted_by(case, system),
        lacks,
        parts,
    )


def _found(case: Case, system: UnitSystem) -> tuple[tuple[str, str], ...]:
    """What was read of it, and nothing else."""
    found = [
        (m.label, f"{show_uncertain(m.value.value, m.value.half_width, system)}{_and_more(m.unread)}")
        for m in case.figures
        if not m.is_expected
    ]
    if isinstance(case, SpindleCase):
        found += [
            (
                s.seat.capitalize(),
                f"{show_size(s.mean_mm, system)}, out of round {show_small(s.out_of_round_mm, system)}, "
                f"taper {show_small(abs(s.taper_mm), system)}",
            )
            for s in case.seats()
        ]
    return tuple(found)


def _and_more(unread: tuple[tuple[str, str], ...]) -> str:
    return f", at least: {', '.join(name for name, _ in unread)} not read" if unread else ""


def _wanted(
    case: Case, parts: tuple[str, ...], system: UnitSystem
) -> tuple[tuple[Wanted, ...], tuple[str, ...]]:
    """Sizes with their limits after the work, and what is not known yet to ask for."""
    wanted: list[Wanted] = []
    lacks: list[str] = []
    chosen = case.chosen
    if isinstance(case, SpindleCase) and chosen is not None and chosen.includes("grind"):
        for seat, _ in SEATS:
            zone, fact = SEAT_FITS[seat]
            if fact not in case.facts:
                lacks.append(f"the bearing of the {seat}: state its size")
                continue
            size = nominal_mm(case.spindle, seat)
            inside = zone[0].isupper()
            limits = hole_limits(size, zone) if inside else shaft_limits(size, zone)
            low, high = limits.low_mm, limits.high_mm
            shown = f"{show_sizes(low, high, system)} ({zone})"
            key = seat.replace(" ", "_")
            wanted.append(Wanted(key, f"{seat.capitalize()}, finished", shown, Band(low, high)))
    for key in parts:
        try:
            part = case.part(key, system)
        except TrebbError as error:
            lacks.append(f"{key.replace('_', ' ')}: {error}")
            continue
        lacks += [f"{part.title}: {part.usual_words}"] if part.usual else []
        wanted += [
            Wanted(
                f"{key}.{row.key or i}",
                f"{part.title}, {row.label.lower()}",
                show_sizes(row.value.low_mm, row.value.high_mm, system),
                row.value,
            )
            for i, row in enumerate(part.rows)
            if row.is_key and isinstance(row.value, Band)
        ]
    wanted += [
        Wanted(m.key, f"{m.label}, when it is together", f"{show_small(m.limit.limit_mm, system)} at most")
        for m in case.figures
        if m.state is State.BEYOND
    ]
    return tuple(wanted), tuple(dict.fromkeys(lacks))


def _accepted_by(case: Case, system: UnitSystem) -> tuple[tuple[str, str], ...]:
    """What it is read by when it is back: its sizes, then what sent it away in the first place."""
    limits = {m.key: m.limit for m in case.figures if m.state is State.BEYOND}
    found = [("Sizes", "each by micrometer or bore gauge; one outside its limits sends it back")]
    for s in case.proving():
        taken = case.job.standing(case.assembly_key, s.key, "before")
        named = s.measure(case.subject, taken[0].place)[0] if taken and s.measure is not None else ""
        if named in limits:
            words = f"together again, no more than {show_small(limits[named].limit_mm, system)}"
            found.append((s.title, words))
    return tuple(found)


def returned_key(assembly: str, turn: int, key: str) -> str:
    """What a size measured at a return is `of`: whose, which return, which size."""
    return f"{assembly}.{turn}.{key}"


def away(case: Case, system: UnitSystem) -> Away:
    """What came back of an assembly given out, return by return. One that was measured whole and has a size
    outside its limits was refused by that, unless it was taken as it is; by hand it may be for anything.
    """
    told = case.job.matter("outside", case.assembly_key)
    by_hand, why = int(float(told.get("refused", 0.0))), str(told.get("why", ""))
    try:
        wanted = [w for w in outside_job(case, system).wanted if w.band is not None]
    except TrebbError:
        wanted = []
    read = case.job.matters("returned")
    is_taken = f"check.{case.assembly_key}" in case.job.steps_done(PLAN)
    refused: list[str] = []
    while True:
        sizes = tuple(
            CameBack(w, float(size) if isinstance(size, int | float) and size else None)
            for w in wanted
            for size in (read.get(returned_key(case.assembly_key, len(refused), w.key), {}).get("size"),)
        )
        off = [f"{small(one.wanted.words)} outside its limits" for one in sizes if one.is_off]
        is_read = all(one.read_mm is not None for one in sizes)
        if len(refused) >= by_hand and (is_taken or not off or not is_read):
            return Away(tuple(refused), sizes)
        refused.append("; ".join(off) or why)
