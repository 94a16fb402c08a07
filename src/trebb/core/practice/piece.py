"""A machine to practise on: where it stands, what is wrong with it, how its set-ups lie, what may be spent;
drawn by a code that others can be given, or written by hand.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

import numpy as np
from msgspec import Struct, field

from trebb.core.condition import ErrorModel
from trebb.core.errors import InputError
from trebb.core.practice.ground_records import GROUNDS, LEAST, MOST, Condition, Ground, ground
from trebb.core.practice.grounds import planted, shares, sound_condition
from trebb.core.practice.lies import LIES, lie
from trebb.core.stating import schema_of

LEVELS = {
    1: "One fault",
    2: "Two that mask each other",
    3: "A set-up that lies",
    4: "All of it, on a budget",
}
_LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"  # none that reads like another
_PLACES = 3
MOST_LIMITS = 40.0
# A budget that a careful worker keeps, by family: minutes at the bench; money, hours counted with it.
BUDGETS: dict[str, tuple[float, float]] = {
    "screw_drive": (85.0, 600.0),
    "spindle": (80.0, 1300.0),
    "gib": (45.0, 1400.0),
    "tailstock": (190.0, 300.0),
    "headstock": (150.0, 300.0),
    "shaft": (60.0, 500.0),
    "bore": (30.0, 300.0),
}
FORMAT = 1


class Teaching(Struct, frozen=True):
    """What a set piece teaches: the trap, what it looks like, what tells it, what it costs."""

    trap: str = ""
    looks: str = ""
    tells: str = ""
    costs: str = ""


class Offer(Struct, frozen=True):
    """Something offered that may spoil the work: a tap in a drawer. `spoils` is hidden until the end."""

    words: str = ""
    spoils: bool = False
    money: float = 0.0  # what taking it saves, where it will do
    why: str = ""


class Piece(Struct, frozen=True):
    """One machine to practise on.

    Parameters
    ----------
    causes : each cause planted, in limits. sources : what is planted beyond them, source by source, in the
        source's unit.
    lies : how its set-ups lie, each with its amount.
    minutes, money : what may be spent; 0 is no budget.
    is_hard : a file skates on it, which only trying one tells.
    """

    title: str
    ground: Ground
    seed: int
    causes: Mapping[str, float] = field(default_factory=dict)
    sources: Mapping[str, float] = field(default_factory=dict)
    lies: Mapping[str, float] = field(default_factory=dict)
    facts: Mapping[str, str | float] = field(default_factory=dict)
    level: int = 1
    minutes: float = 0.0
    money: float = 0.0
    story: str = ""
    code: str = ""
    offer: Offer = Offer()
    teaching: Teaching = Teaching()
    is_hard: bool = False

    @property
    def trap(self) -> str:
        """By what its score is kept: its own trap, or what lies, or the cause that is planted most."""
        if self.teaching.trap:
            return self.teaching.trap
        if self.lies:
            return LIES[next(iter(self.lies))].label
        if len(self.causes) > 1:
            return "Two that mask each other"
        return self.ground.label

    def condition(self, subject: Any, model: ErrorModel, limits: Mapping[str, float]) -> Condition:
        """Its hidden condition, by source. Limits in mm. Raises InputError for a source it has not."""
        rng = np.random.default_rng(self.seed)
        found = sound_condition(self.ground, subject, model, limits, rng)
        for key, size in self.causes.items():
            found = planted(self.ground, subject, found, limits, self.ground.cause(key), size, rng)
        for key, value in self.sources.items():
            if key not in found:
                raise InputError(
                    f"source “{key}”", f"{self.ground.label} has {', '.join(s.key for s in model.sources)}"
                )
            found[key] = value
        return found

    def comes_to(
        self, subject: Any, condition: Mapping[str, float], limits: Mapping[str, float]
    ) -> dict[str, float]:
        """What each cause of its condition comes to, in limits."""
        return shares(self.ground, subject, condition, limits)


# codes ----------------------------------------------------------------------------------------


def code_of(level: int, number: int) -> str:
    """The code of a level and a number, with a letter that checks it: "3-KQ7B"."""
    digits, left = "", number
    for _ in range(_PLACES):
        left, last = divmod(left, len(_LETTERS))
        digits = _LETTERS[last] + digits
    return f"{level}-{digits}{_check(level, digits)}"


def _check(level: int, digits: str) -> str:
    total = level + sum((2 * i + 3) * _LETTERS.index(letter) for i, letter in enumerate(digits))
    return _LETTERS[total % len(_LETTERS)]


def read_code(text: str) -> tuple[int, int]:
    """Level and number of a code. Raises InputError for what is none."""
    given = text.strip().upper().replace(" ", "").replace("–", "-")
    would = "a code is a level from 1 to 4, a dash and four letters or figures, such as “2-ABCX”"
    head, dash, key = given.partition("-")
    if not dash or head not in {"1", "2", "3", "4"} or len(key) != _PLACES + 1:
        raise InputError(f"code “{text.strip()}”", would)
    if any(letter not in _LETTERS for letter in key):
        raise InputError(f"code “{text.strip()}”", f"{would}; I, O, 0 and 1 are in none")
    level, digits = int(head), key[:_PLACES]
    if _check(level, digits) != key[_PLACES]:
        raise InputError(f"code “{text.strip()}”", "it is misread somewhere: its last letter does not fit")
    number = 0
    for letter in digits:
        number = number * len(_LETTERS) + _LETTERS.index(letter)
    return level, number


MOST_NUMBER = len(_LETTERS) ** _PLACES


def drawn(level: int, number: int, on: str = "") -> Piece:
    """The machine of a level and a number; `on` a ground wished for: then the next number that is of it.

    Raises InputError for a level or a number that is none.
    """
    if level not in LEVELS:
        raise InputError(f"level {level}", "levels are 1 to 4")
    if not 0 <= number < MOST_NUMBER:
        raise InputError(f"machine number {number}", f"from 0 to {MOST_NUMBER - 1}")
    grounds = list(GROUNDS.values())
    if on:
        wish = ground(on)
        while grounds[number % len(grounds)] is not wish:
            number = (number + 1) % MOST_NUMBER
    chosen = grounds[number % len(grounds)]
    rng = np.random.default_rng([level, number])
    order = [chosen.causes[i] for i in rng.permutation(len(chosen.causes))]
    size = float(rng.uniform(LEAST, MOST))
    causes: dict[str, float] = {}
    if level in (2, 4):
        causes = {order[0].key: size, order[1].key: size * float(rng.uniform(0.7, 0.9))}
    elif level == 1 or rng.random() < 0.7:  # now and then nothing is wrong but the set-up
        causes = {order[0].key: size} if level != 1 or rng.random() < 0.9 else {}
    lies: dict[str, float] = {}
    if level == 3 or (level == 4 and rng.random() < 0.5):
        may = [one for one in LIES.values() if chosen.family in one.families]
        if may:
            one = may[int(rng.integers(len(may)))]
            lies = {one.key: one.usual * float(rng.uniform(0.8, 1.5))}
            if one.key == "miscounted":
                lies = {one.key: 1.0}
    on_budget = level == 4
    return Piece(
        f"{chosen.label}, drawn",
        chosen,
        int(rng.integers(1, 2**31)),
        causes,
        lies=lies,
        level=level,
        minutes=BUDGETS[chosen.family][0] if on_budget else 0.0,
        money=BUDGETS[chosen.family][1] if on_budget else 0.0,
        story=f"{LEVELS[level]}. {chosen.label}: nobody knows what is wrong with it.",
        code=code_of(level, number),
    )


# as a mapping ---------------------------------------------------------------------------------

_TOP = {"format", "title", "story", "ground", "seed", "level", "causes", "sources", "lies", "facts", "budget",
        "offer", "teaching", "hard"}  # fmt: skip


def _number(value: object, what: str, low: float, high: float) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        raise InputError(f"{what}: {value!r}", f"a number from {low:g} to {high:g}")
    if not low <= value <= high:
        raise InputError(f"{what}: {value:g}", f"from {low:g} to {high:g}")
    return float(value)


def _text(value: object, what: str, most: int = 2000) -> str:
    if not isinstance(value, str) or len(value) > most:
        raise InputError(f"{what}", f"text of at most {most} letters")
    return value


def _table(value: object, what: str) -> Mapping[str, Any]:
    if not isinstance(value, Mapping):
        raise InputError(f"{what}", "a table of names and values")
    return value


def _known(found: object, what: str, keys: tuple[str, ...]) -> Mapping[str, Any]:
    """A table of known names alone."""
    table = _table(found, what)
    strange = next((key for key in table if key not in keys), "")
    if strange:
        raise InputError(f"{what}: “{strange}”", f"it has {', '.join(keys)}")
    return table


def _truth(value: object, what: str) -> bool:
    if not isinstance(value, bool):
        raise InputError(f"{what}: {value!r}", "true or false, without quotation marks")
    return value


def _whole(value: object, what: str, low: int, high: int) -> int:
    number = _number(value, what, low, high)
    if number != int(number):
        raise InputError(f"{what}: {number:g}", f"a whole number from {low} to {high}")
    return int(number)


def _facts(value: object, on: Ground) -> dict[str, str | float]:
    """Facts as they may be stated of what it is read at."""
    schema = schema_of(on.family)
    found: dict[str, str | float] = {}
    for key, one in _table(value, "facts").items():
        stored = one if isinstance(one, str) else _number(one, f"fact “{key}”", -1e6, 1e6)
        try:
            schema.fact(key).admitted(stored)
        except InputError as error:
            raise InputError(f"fact “{key}”: {error.given}", error.would_do) from None
        found[key] = stored
    return found


def _hard(value: object, on: Ground) -> bool:
    if _truth(value, "hard") and on.family not in ("bore", "shaft"):
        raise InputError("hard", f"{on.label} is not filed: only a bore or a shaft may be hard")
    return bool(value)


def piece_from(found: Mapping[str, Any]) -> Piece:
    """A set piece from what its file says. Raises InputError naming what will not do, and what would."""
    unknown = sorted(set(found) - _TOP)
    if unknown:
        raise InputError(f"“{unknown[0]}”", f"a set piece has {', '.join(sorted(_TOP))}")
    if found.get("format", FORMAT) != FORMAT:
        raise InputError(f"format {found.get('format')}", f"this Trebb reads set pieces of format {FORMAT}")
    on = ground(_text(found.get("ground", ""), "ground", 60))
    causes = {
        on.cause(key).key: _number(value, f"cause “{key}”", 0.0, MOST_LIMITS)
        for key, value in _table(found.get("causes", {}), "causes").items()
    }
    lies: dict[str, float] = {}
    for key, value in _table(found.get("lies", {}), "lies").items():
        one = lie(key)
        if on.family not in one.families:
            may = [x.key for x in LIES.values() if on.family in x.families]
            raise InputError(
                f"set-up that lies “{key}”", f"{on.label} may have {', '.join(may) if may else 'none'}"
            )
        lies[key] = _number(value, f"lie “{key}”", 0.0, one.most)
    sources = {
        key: _number(value, f"source “{key}”", -1e4, 1e4)
        for key, value in _table(found.get("sources", {}), "sources").items()
    }
    facts = _facts(found.get("facts", {}), on)
    budget = _known(found.get("budget", {}), "budget", ("minutes", "money"))
    offer = _known(found.get("offer", {}), "offer", ("words", "spoils", "money", "why"))
    told = _known(found.get("teaching", {}), "teaching", ("trap", "looks", "tells", "costs"))
    return Piece(
        _text(found.get("title", ""), "title", 120) or on.label,
        on,
        _whole(found.get("seed", 1), "seed", 0, 2**31),
        causes,
        sources,
        lies,
        facts,
        _whole(found.get("level", 1), "level", 1, 4),
        _number(budget.get("minutes", 0), "budget, minutes", 0, 10_000),
        _number(budget.get("money", 0), "budget, money", 0, 1_000_000),
        _text(found.get("story", ""), "story"),
        "",
        Offer(
            _text(offer.get("words", ""), "offer, words"),
            _truth(offer.get("spoils", False), "offer, spoils"),
            _number(offer.get("money", 0), "offer, money", 0, 100_000),
            _text(offer.get("why", ""), "offer, why"),
        ),
        Teaching(
            *(_text(told.get(name, ""), f"teaching, {name}") for name in ("trap", "looks", "tells", "costs"))
        ),
        _hard(found.get("hard", False), on),
    )


def piece_as(piece: Piece) -> dict[str, Any]:
    """A piece as its file would say it; `piece_from` reads it back."""
    found: dict[str, Any] = {
        "format": FORMAT,
        "title": piece.title,
        "story": piece.story,
        "ground": piece.ground.key,
        "seed": piece.seed,
        "level": piece.level,
        "causes": dict(piece.causes),
        "sources": dict(piece.sources),
        "lies": dict(piece.lies),
        "facts": dict(piece.facts),
        "budget": {"minutes": piece.minutes, "money": piece.money},
        "teaching": {
            "trap": piece.teaching.trap,
            "looks": piece.teaching.looks,
            "tells": piece.teaching.tells,
            "costs": piece.teaching.costs,
        },
    }
    if piece.is_hard:
        found["hard"] = True
    if piece.offer.words:
        found["offer"] = {
            "words": piece.offer.words,
            "spoils": piece.offer.spoils,
            "money": piece.offer.money,
            "why": piece.offer.why,
        }
    return found
