"""What this machine makes of the work it is for, what is in the way of that, and which repairs buy most."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.condition import Change, Estimate, apply_change
from trebb.core.condition.draws import Array
from trebb.core.errors import InputError
from trebb.core.memory.taught import Taught
from trebb.core.register import FAMILIES
from trebb.core.remedies import Remedy, is_idle, remedy, sets_of, together
from trebb.core.stating.work import FIGURES, MEANS, METHODS, OFFSET, SELL
from trebb.core.words import large
from trebb.core.work import (
    Choice,
    Made,
    Option,
    Piece,
    WorkRow,
    begun_with,
    cheapest,
    edge_of,
    joined_options,
    made_of,
    piece_of,
    surest,
)
from trebb.core.work.made import LEAST_SD, drawn, drawn_by_hand, profile
from trebb.core.work.piece import KINDS, refuse_kind
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import Body, MatterStated, RemedyChosen
from trebb.logbook.plan.usual_work import usual_work

BY_HAND_HOURS = 0.2  # a piece, to offset what is known of it (practice)
SURE = 0.9  # chance that all of the work comes inside: what is called enough (practice)
LEAVE = "leave"
WORK = "work"  # what the memory calls it, beside the families


class PieceMade(Struct, frozen=True):
    """A piece as the machine would make it now; `why_not` where nothing of it can be said. `along` : of
    turned work its diameter's error along it, mm, where that is told.
    """

    piece: Piece
    figures: tuple[Made, ...]
    why_not: str = ""
    along: tuple[float, ...] = ()

    @property
    def told(self) -> tuple[Made, ...]:
        """Figures that readings tell."""
        return tuple(m for m in self.figures if m.is_told)


class MadeWork(Struct, frozen=True):
    """The work as it is made now, what is chosen, and what else there is to choose: `least` that is enough,
    and what to `begin` with where that is dear.
    """

    pieces: tuple[PieceMade, ...]
    choice: Choice
    chosen: Option
    least: Option | None
    edge: tuple[Option, ...]
    read_first: tuple[ReadFirst, ...] = ()
    begin: Option | None = None
    others: tuple[Option, ...] = ()
    conditions: tuple[Held, ...] = ()  # with the rows of all figures, told or not

    @property
    def untold(self) -> int:
        """How many figures no reading tells: nothing that is said of all of it holds of them."""
        return sum(len(p.figures) - len(p.told) for p in self.pieces)

    @property
    def unread(self) -> list[tuple[str, str]]:
        """What must be read before all of it is told: cause and the set-up that reads it, once each, in the
        order of `read_first`.
        """
        found = {s.cause: s.set_up for p in self.pieces for m in p.figures for s in m.unread}
        order = [r.set_up for r in self.read_first]
        return sorted(found.items(), key=lambda one: order.index(one[1]) if one[1] in order else len(order))


class ReadFirst(Struct, frozen=True):
    """A set-up that figures of the work wait for: how many do, and the minutes that it takes."""

    set_up: str
    figures: int
    minutes: float


class Came(Struct, frozen=True):
    """A figure of a piece that was made, mm, beside what was foretold of the repairs that are done."""

    figure: str
    made_mm: float
    foretold: Made

    @property
    def is_inside(self) -> bool:
        """Whether it is inside what it may be off by."""
        return abs(self.made_mm) <= self.foretold.tolerance_mm + 1e-12

    @property
    def away(self) -> float:
        """How many of its standard deviations it came out away from what was foretold; of what is a size the
        sign is not asked.
        """
        q = self.foretold.value
        return min(self.made_mm - q.value, abs(self.made_mm) - abs(q.value), key=abs) / max(q.sd, LEAST_SD)

    @property
    def is_as_foretold(self) -> bool:
        """Whether it lies in the 95 % interval that was foretold."""
        q = self.foretold.value
        return q.low <= self.made_mm <= q.high or min(abs(q.low), abs(q.high)) <= abs(self.made_mm) <= max(
            abs(q.low), abs(q.high)
        )


class Held(Struct):
    """Rows of the pieces over one condition: its case, and piece, row and tolerance each."""

    case: Case
    rows: list[tuple[str, WorkRow, float]]


def pieces_of(cases: Cases) -> list[Piece]:
    """The work that the machine is for, as far as it is stated."""
    found = [
        piece_of(key, told) for key, told in cases.job.matters("work").items() if told.get("gone") != "yes"
    ]
    return [p for p in found if p is not None]


def usual_piece(cases: Cases, at: int) -> list[MatterStated]:
    """Entries that state one of the usual pieces of such a machine. Raises InputError for none."""
    listed = usual_work(cases.kind.key)
    if not 0 <= at < len(listed):
        raise InputError(f"usual work {at + 1}", f"there are {len(listed)} for this kind of machine")
    key = work_key(cases)
    return [MatterStated("work", key, field, value) for field, value in listed[at].items()]


def work_key(cases: Cases) -> str:
    """A key for another piece."""
    taken = cases.job.matters("work")
    return next(f"work{i}" for i in range(1, 100_000) if f"work{i}" not in taken)


def _held(cases: Cases, piece: Piece, found: dict[str, Held]) -> tuple[list[tuple[Case, WorkRow]], str]:
    """The rows of a piece over every condition of the machine, and why there are none."""
    rows: list[tuple[Case, WorkRow]] = []
    try:
        refuse_kind(piece.kind, cases.kind.key)
        for case in cases.measurable():
            record = FAMILIES[case.family]
            if not record.work:
                continue
            for row in record.named(record.work)(case.subject_for("before"), piece):
                if row.figure in piece.tolerances:
                    rows.append((case, row))
                    held = found.setdefault(case.assembly_key, Held(case, []))
                    held.rows.append((piece.key, row, piece.tolerances[row.figure]))
    except InputError as error:
        return [], f"{error}"
    return rows, "" if rows else "nothing of this machine that is known here makes it"


def held_of(cases: Cases) -> tuple[list[PieceMade], dict[str, Held]]:
    """The pieces as they are made now, and their rows over each condition."""
    found: dict[str, Held] = {}
    pieces, wider = [], _wider(cases.taught)
    for piece in pieces_of(cases):
        rows, why_not = _held(cases, piece, found)
        figures = tuple(
            made_of(row, case.mended_from_alone, piece.tolerances[row.figure], case.alone, wider)
            for case, row in rows
        )
        told_ones = [(case, row) for (case, row), m in zip(rows, figures, strict=True) if m.is_told]
        pieces.append(
            PieceMade(piece, figures, why_not, _along(told_ones, lambda case: case.mended_from_alone))
        )
    return pieces, found


def made_work(cases: Cases) -> MadeWork:
    """The whole of it, as things stand."""
    pieces, found = held_of(cases)
    told = {(p.piece.key, m.figure) for p in pieces for m in p.told}
    rows = [(h.case, [one for one in h.rows if (one[0], one[1].figure) in told]) for h in found.values()]
    speaking = [Held(case, able) for case, able in rows if able]
    groups = [list(_options(held)) for held in speaking]
    choice = joined_options(groups)
    chosen = joined_options([[_chosen(held)] for held in speaking]).options[0]
    least = cheapest(choice.options, lambda o: o.chance >= SURE) if groups else None
    others = _others(cases, speaking)
    edge = tuple(edge_of(choice.options, lambda o: o.money, others))
    begin = begun_with(choice.options, least, next(iter(found.values())).case.hour_worth()) if least else None
    first = _read_first(cases, pieces)
    return MadeWork(tuple(pieces), choice, chosen, least, edge, first, begin, others, tuple(found.values()))


def _read_first(cases: Cases, pieces: Sequence[PieceMade]) -> tuple[ReadFirst, ...]:
    """Set-ups that figures wait for, those first that most wait for a minute."""
    waiting = Counter(s for p in pieces for m in p.figures for s in {share.set_up for share in m.unread})
    found = []
    for case in cases.measurable():
        for s in case.set_ups:
            if s.key in waiting:
                minutes = s.setting_minutes + s.minutes * len(case.places_left(s, "before"))
                found.append(ReadFirst(s.key, waiting.pop(s.key), minutes))
    return tuple(sorted(found, key=lambda r: r.minutes / r.figures))


def _wider(taught: Taught) -> float:
    """How many times wider the work is said, by the pieces that the shop made."""
    return taught.widen.get(WORK, 1.0)


def came_of(cases: Cases, piece: Piece, taught: Taught | None = None) -> list[Came]:
    """Figures of a piece that was made after the chosen repairs, beside what was foretold of them, by what
    the shop's other jobs taught or by `taught`.
    """
    wider = _wider(taught or cases.taught)
    told = cases.job.matter("work", piece.key)
    found = []
    for case, row in _held(cases, piece, {})[0]:
        made = told.get(f"made_{row.figure}")
        if isinstance(made, int | float):
            after = _after(case, {c.assembly_key: c.chosen.key for c in case.of_one_condition() if c.chosen})
            foretold = made_of(row, after, piece.tolerances[row.figure], wider=wider)
            found.append(Came(row.figure, float(made), foretold))
    return found


def within_means(cases: Cases, work: MadeWork) -> Option | None:
    """The most accurate set within the money and hours that there are; None where neither is stated."""
    told = cases.job.matter("work", MEANS)
    money, hours = told.get("money"), told.get("hours")
    if not isinstance(money, int | float) and not isinstance(hours, int | float):
        return None
    most = [float(v) if isinstance(v, int | float) else math.inf for v in (money, hours)]
    return surest(work.choice.options, most[0], most[1])


def _after(case: Case, remedies: Mapping[str, str]) -> Estimate:
    """The condition that a case's assemblies would be left in by these remedies."""
    now = case.mended_from
    for one in case.of_one_condition():
        key = remedies.get(one.assembly_key, LEAVE)
        if key != LEAVE:
            now = apply_change(now, remedy(key, one.family).change(one.subject_for("before"), now))
    return now


def _along(rows: Sequence[tuple[Case, WorkRow]], now: Callable[[Case], Estimate]) -> tuple[float, ...]:
    """Diameter along a turned piece, mm."""
    return next((tuple(profile(row, now(case))) for case, row in rows if row.figure == "dia"), ())


def along_after(cases: Cases, piece: Piece, option: Option) -> tuple[float, ...]:
    """Diameter along a turned piece after a set of repairs, mm; empty for other work."""
    return _along(_held(cases, piece, {})[0], lambda case: _after(case, option.remedies))


def _options(held: Held) -> Iterator[Option]:
    """What every way to mend the assemblies of one condition leaves."""
    for taken, _, now in ways_of(held):
        yield _option(held, now, taken)


def ways_of(held: Held) -> Iterator[tuple[dict[str, Remedy], tuple[Change, ...], Estimate]]:
    """Every way to mend the assemblies of one condition: of each one remedy, or several that can stand
    together, of those that move any of the figures; remedies by assembly, what they change in order, and the
    condition that they leave.
    """
    touched = {key for _, row, _ in held.rows for place in row.places for key in place}
    start = held.case.mended_from

    def walk(
        left: Sequence[Case], now: Estimate, taken: dict[str, Remedy], changes: tuple[Change, ...]
    ) -> Iterator[tuple[dict[str, Remedy], tuple[Change, ...], Estimate]]:
        if not left:
            yield taken, changes, now
            return
        case, rest = left[0], left[1:]
        subject = case.subject_for("before")
        yield from walk(rest, now, taken, changes)
        able = [
            r
            for r in case.possible()
            if not (is_idle(r) or r.hides or r.hinder(subject))
            and touched & set(r.change(subject, now).shifts)
        ]
        for r in (*able, *(together(members) for members in sets_of(able, subject, now))):
            change = r.change(subject, now)
            done = {**taken, case.assembly_key: case.priced(r)}
            yield from walk(rest, apply_change(now, change), done, (*changes, change))

    yield from walk(list(held.case.of_one_condition()), start, {}, ())  # type: ignore[arg-type]


def _chosen(held: Held) -> Option:
    """What is chosen already."""
    now, taken = held.case.mended_from, {}
    for case in held.case.of_one_condition():
        chosen = case.chosen
        if chosen is not None and chosen.key != LEAVE:
            now = apply_change(now, chosen.change(case.subject_for("before"), now))
            taken[case.assembly_key] = case.priced(chosen)
    return _option(held, now, taken)


def _others(cases: Cases, told: Sequence[Held]) -> tuple[Option, ...]:
    """What mends nothing: what is known offset by hand, of figures where that can be done; the machine sold
    and another found, where both sums are stated.
    """
    found = []
    if any(FIGURES[row.figure].by_hand for held in told for _, row, _ in held.rows):
        options = [_by_hand(held) for held in told]
        both = joined_options([[one] for one in options]).options[0]
        pieces = {key for held in told for key, *_ in held.rows}
        found.append(replace(both, how=OFFSET, hours=BY_HAND_HOURS * len(pieces)))
    means = cases.job.matter("work", MEANS)
    brings, another = means.get("brings"), means.get("another")
    if isinstance(brings, int | float) and isinstance(another, int | float):
        found.append(Option(max(0.0, another - brings), 0.0, {SELL: SURE}, {SELL: 1.0}, {}, how=SELL))
    return tuple(found)


def _by_hand(held: Held) -> Option:
    rows = [row for _, row, _ in held.rows]
    by_hand = [FIGURES[row.figure].by_hand_mm for row in rows]
    wider = _wider(held.case.taught)
    return _of_sizes(held, drawn_by_hand(rows, held.case.mended_from, by_hand, wider), {})


def _option(held: Held, now: Estimate, taken: Mapping[str, Remedy]) -> Option:
    wider = _wider(held.case.taught)
    return _of_sizes(held, drawn([row for _, row, _ in held.rows], now, wider), taken)


def _of_sizes(held: Held, drawn_mm: Sequence[Array], taken: Mapping[str, Remedy]) -> Option:
    sizes = [np.abs(one) for one in drawn_mm]
    may = [tolerance for *_, tolerance in held.rows]
    inside = np.all([size <= most for size, most in zip(sizes, may, strict=True)], axis=0)
    nine_in_ten = [float(np.quantile(size, SURE)) for size in sizes]
    return Option(
        sum(r.cost for r in taken.values()),
        sum(r.hours for r in taken.values()),
        {held.case.assembly_key: float(np.mean(inside))},
        {
            f"{key}.{row.figure}": size / most
            for (key, row, most), size in zip(held.rows, nine_in_ten, strict=True)
        },
        {key: r.key for key, r in taken.items()},
        max((r.wait_days for r in taken.values()), default=0.0),
    )


def choose(cases: Cases, option: Option, of: MadeWork) -> list[Body]:
    """Entries that choose a set, and leave what another had of the same assemblies, as one gesture."""
    touched = {key for one in of.choice.options for key in one.remedies}
    found: list[Body] = []
    for key in sorted(touched):
        wanted, had = option.remedies.get(key, LEAVE), cases.job.chosen(key)
        if (had.remedy if had is not None else LEAVE) != wanted:
            found.append(RemedyChosen(assembly=key, remedy=wanted, reason="for the work"))
    had_how = str(cases.job.matter("work", MEANS).get("method", ""))
    how = [MatterStated("work", MEANS, "method", option.how)] if option.how != had_how else []
    return [*found, *how]


def way_words(cases: Cases, option: Option) -> str:
    """What a way does: its remedies, or how it is done without any."""
    return large(METHODS[option.how]) if option.how else option_words(cases, option.remedies)


def option_words(cases: Cases, remedies: Mapping[str, str]) -> str:
    """The remedies of a set, by assembly."""
    if not remedies:
        return "Leave it as it is"
    names = [
        f"{cases.of(key).assembly.label}: {remedy(r, cases.of(key).family).title.lower()}"
        for key, r in remedies.items()
    ]
    return "; ".join(names)


def apart_words(cases: Cases, one: Mapping[str, str], other: Mapping[str, str]) -> tuple[str, str]:
    """Two sets by what is not alike in them; what only the other does is left as it is in the one."""
    apart = [key for key in {**one, **other} if one.get(key, LEAVE) != other.get(key, LEAVE)]

    def words(of: Mapping[str, str]) -> str:
        return option_words(cases, {key: of.get(key, LEAVE) for key in apart})

    return words(one), words(other)


def told_of_work(work: MadeWork) -> dict[str, object]:
    """All of it as JSON has it."""

    def told(option: Option) -> dict[str, object]:
        return {
            "money": round(option.money, 2),
            "hours": round(option.hours, 2),
            "days": option.days,
            "worst_ratio": round(option.worst, 4),
            "chance": round(option.chance, 4),
            "remedies": dict(option.remedies),
            "how": option.how,
        }

    return {
        "pieces": [
            {
                "key": p.piece.key,
                "title": p.piece.title,
                "kind": KINDS[p.piece.kind].label,
                "why_not": p.why_not,
                "figures": [
                    {
                        "figure": m.figure,
                        "mm": None if not m.is_told else round(m.value.value, 5),
                        "half_mm": None if not m.is_told else round(m.value.half_width, 5),
                        "tolerance_mm": m.tolerance_mm,
                        "chance": None if not m.is_told else round(m.chance, 4),
                        "budget": [{"cause": s.cause, "mm": s.mm, "set_up": s.set_up} for s in m.budget],
                    }
                    for m in p.figures
                ],
            }
            for p in work.pieces
        ],
        "chosen": told(work.chosen),
        "least": told(work.least) if work.least is not None else None,
        "begin": told(work.begin) if work.begin is not None else None,
        "edge": [told(o) for o in work.edge],
        "is_exact": work.choice.is_exact,
        "read_first": [
            {"set_up": r.set_up, "figures": r.figures, "minutes": round(r.minutes, 1)}
            for r in work.read_first
        ],
    }
