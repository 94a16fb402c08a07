"""Facts: what a person states of a subject, each declared once.

A declaration says what a fact is called, which values it takes, how it is read
as typed and shown again, and where it is asked. Fields on the screen, the
command line, imports and the opening of a job all enforce the same one. A
stored value is a number (lengths in mm) or a text; `admitted` turns it into
what the subject holds, `typed` makes it from what somebody wrote.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from msgspec import Struct, field

from trebb.core.dual_units import FT_LB_NM, show_force, show_torque
from trebb.core.errors import InputError
from trebb.core.units import (
    LBF_N,
    UnitSystem,
    parse_length,
    parse_lengths,
    parse_number,
    show_size,
    show_small,
    size_unit,
    small_unit,
)

Stored = str | float
FEW = 9  # facts that are seen at once: more are asked for by the question they answer
MOST_LETTERS = 400  # of a fact that is words


class Fact(Struct, frozen=True):
    """A fact as declared.

    Parameters
    ----------
    key : under which it is stored.
    words : its caption; `tip` says more.
    asked : the places that ask for it, such as "survey" or "parts".
    attribute : of the subject it states, where that has another name.
    applies(subject) : whether such a subject has it: only then it is asked for.
    """

    key: str
    words: str
    tip: str = ""
    asked: tuple[str, ...] = ("survey",)
    attribute: str = ""
    applies: Callable[[Any], bool] = lambda subject: True

    @property
    def name(self) -> str:
        """The subject's attribute that it states."""
        return self.attribute or self.key

    @property
    def takes(self) -> str:
        """The values it takes, in a few words, for the page of formats."""
        raise NotImplementedError

    def typed(self, text: str, system: UnitSystem) -> Stored:
        """The value to store for what was typed. Raises InputError saying what would do."""
        raise NotImplementedError

    def admitted(self, value: Stored) -> Any:
        """What the subject is told for a stored value. Raises InputError where it will not do."""
        raise NotImplementedError

    def shown(self, value: Any, system: UnitSystem) -> str:
        """The subject's value as text that could be typed back."""
        return str(value)

    def shown_back(self, value: Any, system: UnitSystem) -> str:
        """The same with its unit, for showing how a list was read."""
        return self.shown(value, system)

    def in_words(self, stored: Stored, system: UnitSystem) -> str:
        """What was stored, as one would say it."""
        return self.shown_back(self.admitted(stored), system)

    def _number(self, value: Stored) -> float:
        if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
            raise InputError(f"{self.words}: “{value}”", "it is a number")
        return float(value)


class Length(Fact, frozen=True):
    """A length within bounds, mm; a bare number is the shop's unit."""

    low: float = 0.0
    high: float = 10_000.0

    @property
    def takes(self) -> str:
        return f"mm, {self.low:g} to {self.high:g}"

    def _show(self, mm: float, system: UnitSystem) -> str:
        return show_size(mm, system)

    def _bound(self, mm: float, system: UnitSystem) -> str:
        """A bound as one would say it: to three places, not to a hair."""
        name, unit_mm = self._unit(system)
        return f"{mm / unit_mm:.3g} {name}" if mm else "nothing"

    def _unit(self, system: UnitSystem) -> tuple[str, float]:
        return size_unit(system)

    def _bare_mm(self, system: UnitSystem) -> float | None:
        return None

    def typed(self, text: str, system: UnitSystem) -> Stored:
        value = parse_length(text, system, bare_mm=self._bare_mm(system))
        if not self.low <= value <= self.high:
            low, high = (self._bound(mm, system) for mm in (self.low, self.high))
            raise InputError(f"“{text.strip()}”", f"from {low} to {high}")
        return value

    def admitted(self, value: Stored) -> float:
        number = self._number(value)
        if not self.low <= number <= self.high:
            raise InputError(f"{self.words}: {number:g} mm", f"from {self.low:g} to {self.high:g} mm")
        return number

    def shown(self, value: Any, system: UnitSystem) -> str:
        return "" if value is None else self._show(float(value), system)


class Small(Length, frozen=True):
    """A small length; a bare number is thou or µm."""

    def _show(self, mm: float, system: UnitSystem) -> str:
        return show_small(mm, system)

    def _unit(self, system: UnitSystem) -> tuple[str, float]:
        return small_unit(system)

    def _bare_mm(self, system: UnitSystem) -> float | None:
        return small_unit(system)[1]


class Number(Fact, frozen=True):
    """A plain number within bounds; `what` says of what in a refusal, `unit` stands behind it when shown."""

    low: float = 0.0
    high: float = 1e6
    what: str = ""
    unit: str = ""
    whole: bool = False

    @property
    def takes(self) -> str:
        return f"{'whole number' if self.whole else 'number'}, {self.low:g} to {self.high:g}"

    def _within(self, number: float, given: str) -> float:
        if not self.low <= number <= self.high or (self.whole and number != int(number)):
            of = f"{self.what} " if self.what else ""
            whole = "a whole number " if self.whole else ""
            raise InputError(given, f"{of}{whole}from {self.low:g} to {self.high:g}")
        return number

    def typed(self, text: str, system: UnitSystem) -> Stored:
        try:
            number, unit = parse_number(text)
        except InputError as error:
            raise InputError(error.given, f"write a number from {self.low:g} to {self.high:g}") from None
        if unit and unit.rstrip(".").lower() != self.unit.strip().lower():
            does = f"leave “{unit}” away" + (f" or write {self.unit.strip()}" if self.unit else "")
            raise InputError(f"“{text.strip()}”", does)
        return self._within(number, f"“{text.strip()}”")

    def admitted(self, value: Stored) -> float | int:
        number = self._within(self._number(value), f"{self.words}: {value}")
        return int(number) if self.whole else number

    def shown(self, value: Any, system: UnitSystem) -> str:
        return "" if value is None else f"{value:g}{self.unit}"


# Torques by what they are called without the points, strokes and spaces between their halves, in N·m.
_JOINED = str.maketrans("", "", "·.-*⋅ ")
_TORQUES = {
    "nm": 1.0, "ncm": 0.01, "ftlb": FT_LB_NM, "lbft": FT_LB_NM, "ftlbs": FT_LB_NM, "lbsft": FT_LB_NM,
    "inlb": FT_LB_NM / 12, "lbin": FT_LB_NM / 12, "inlbs": FT_LB_NM / 12, "kgm": 9.80665,
}  # fmt: skip
# What forces are called at the bench, in newtons. A ton is the 2000 lbf that presses are sold by.
_FORCES = {
    "n": 1.0, "newton": 1.0, "newtons": 1.0, "kn": 1000.0, "lbf": LBF_N, "lb": LBF_N, "lbs": LBF_N,
    "pound": LBF_N, "pounds": LBF_N, "kgf": 9.80665, "kg": 9.80665, "kp": 9.80665, "t": 9806.65,
    "tonne": 9806.65, "tonnes": 9806.65, "ton": 2000 * LBF_N, "tons": 2000 * LBF_N,
}  # fmt: skip


class InOwnUnit(Fact, frozen=True):
    """A force, a torque: stored in one unit, typed in any, a bare number in the shop's own."""

    low: float = 0.0
    high: float = 1e6

    @property
    def stored_in(self) -> str:
        """Name of the unit it is stored in."""
        raise NotImplementedError

    def scale_of(self, unit: str, system: UnitSystem) -> float | None:
        """How many of the stored unit one of a typed unit is, of the shop's own where it is ""; None for
        none of them.
        """
        raise NotImplementedError

    def as_text(self, value: float, system: UnitSystem) -> str:
        """A stored value in the shop's own unit."""
        raise NotImplementedError

    @property
    def takes(self) -> str:
        return f"{self.stored_in}, {self.low:g} to {self.high:g}"

    def typed(self, text: str, system: UnitSystem) -> Stored:
        shown = f"“{text.strip()}”"
        such = " or ".join(self.as_text(self.such, s) for s in (UnitSystem.INCH, UnitSystem.METRIC))
        try:
            number, unit = parse_number(text)
        except InputError:
            raise InputError(shown, f"write it such as {such}") from None
        scale = self.scale_of(unit.rstrip(".").lower(), system)
        if scale is None:
            raise InputError(shown, f"“{unit}” is no unit of it known here: write it such as {such}")
        value = number * scale
        if not self.low <= value <= self.high:
            low, high = (self.as_text(v, system) for v in (self.low, self.high))
            raise InputError(shown, f"from {low} to {high}")
        return value

    @property
    def such(self) -> float:
        """A value for an example, as stored."""
        raise NotImplementedError

    def admitted(self, value: Stored) -> float:
        number = self._number(value)
        if not self.low <= number <= self.high:
            raise InputError(
                f"{self.words}: {number:g} {self.stored_in}",
                f"from {self.low:g} to {self.high:g} {self.stored_in}",
            )
        return number

    def shown(self, value: Any, system: UnitSystem) -> str:
        return "" if value is None else self.as_text(float(value), system)


class Force(InOwnUnit, frozen=True):
    """A force within bounds, stored in `unit_n` newtons: bare in pounds-force or newtons, of a press in tons
    or kilonewtons.
    """

    unit_n: float = 1.0

    @property
    def stored_in(self) -> str:
        return "kN" if self.unit_n == 1000 else "N"

    def scale_of(self, unit: str, system: UnitSystem) -> float | None:
        big = self.unit_n == 1000
        bare = self.unit_n if system is UnitSystem.METRIC else 2000 * LBF_N if big else LBF_N
        newtons = _FORCES.get(unit) if unit else bare
        return None if newtons is None else newtons / self.unit_n

    @property
    def such(self) -> float:
        return 178.0 / self.unit_n if self.unit_n == 1 else 18.0

    def as_text(self, value: float, system: UnitSystem) -> str:
        return show_force(value * self.unit_n, system)


class Torque(InOwnUnit, frozen=True):
    """A torque within bounds, stored in N·m: bare in foot-pounds or newton metres."""

    @property
    def stored_in(self) -> str:
        return "N·m"

    def scale_of(self, unit: str, system: UnitSystem) -> float | None:
        own = "ftlb" if system is UnitSystem.INCH else "nm"
        return _TORQUES.get(unit.translate(_JOINED).replace("lbf", "lb") if unit else own)

    @property
    def such(self) -> float:
        return 25.0

    def as_text(self, value: float, system: UnitSystem) -> str:
        return show_torque(value, system)


class Choice(Fact, frozen=True):
    """One of a few; `choices` maps what is stored to the words shown.

    `convert` makes of the stored value what the subject holds; numbers are
    stored as such where `numeric`.
    """

    choices: Mapping[str, str] = field(default_factory=dict)
    convert: Callable[[str], Any] = str
    numeric: bool = False

    def __hash__(self) -> int:
        return hash(self.key)

    @property
    def takes(self) -> str:
        return ", ".join(key if key else "nothing" for key in self.choices)

    def typed(self, text: str, system: UnitSystem) -> Stored:
        plain = text.strip()
        for key, words in self.choices.items():
            if plain.lower() in (key.lower(), words.lower()):
                return float(key) if self.numeric and key else key
        raise InputError(f"“{plain}”", f"one of {', '.join(k for k in self.choices if k)}")

    def admitted(self, value: Stored) -> Any:
        key = value if isinstance(value, str) else f"{self._number(value):g}"
        if key not in self.choices:
            raise InputError(f"{self.words}: “{key}”", f"one of {', '.join(k for k in self.choices if k)}")
        return self.convert(key)

    def in_words(self, stored: Stored, system: UnitSystem) -> str:
        return self.choices[stored if isinstance(stored, str) else f"{stored:g}"]

    def shown(self, value: Any, system: UnitSystem) -> str:
        return str(value)


def no_system(reader: Callable[[str], Any]) -> Callable[[str, UnitSystem], Stored]:
    """A reader that stores the text as typed once it can be read."""

    def typed(text: str, system: UnitSystem) -> Stored:
        reader(text.strip())
        return text.strip()

    return typed


class Words(Fact, frozen=True):
    """A text with a grammar of its own: `reader` makes the subject's value of the stored text or refuses it.

    `writer` makes the stored text of what was typed; `show` what is shown.
    """

    reader: Callable[[str], Any] = str
    writer: Callable[[str, UnitSystem], Stored] | None = None
    show: Callable[[Any, UnitSystem], str] | None = None
    form: str = "text"
    most: int = MOST_LETTERS

    @property
    def is_plain(self) -> bool:
        """Whether any words will do, half of them too: no grammar is read in them."""
        return self.reader is str and self.writer is None

    @property
    def takes(self) -> str:
        return self.form

    def typed(self, text: str, system: UnitSystem) -> Stored:
        self._short(text)
        value = self.writer(text, system) if self.writer is not None else text.strip()
        self.admitted(value)
        return value

    def admitted(self, value: Stored) -> Any:
        text = value if isinstance(value, str) else f"{self._number(value):g}"
        self._short(text)
        return self.reader(text)

    def _short(self, text: str) -> None:
        if len(text) > self.most:
            raise InputError(
                f"{self.words}: {len(text)} letters", f"no more than {self.most}; put the rest in a note"
            )

    def shown(self, value: Any, system: UnitSystem) -> str:
        if self.show is not None:
            return self.show(value, system)
        return "" if value is None else str(value)


class Lengths(Fact, frozen=True):
    """Several lengths, mm, kept as a text with spaces between, in order where `ordered`."""

    low: float = 0.0
    high: float = 10_000.0
    most: int = 40
    ordered: bool = False
    bare: Callable[[UnitSystem], float] | None = None

    @property
    def takes(self) -> str:
        return f"up to {self.most} numbers in mm with spaces between, each {self.low:g} to {self.high:g}"

    def typed(self, text: str, system: UnitSystem) -> Stored:
        found = parse_lengths(text, system, bare_mm=self.bare(system) if self.bare else None)
        value = " ".join(f"{mm:.5g}" if mm < 1 else f"{mm:.4f}".rstrip("0").rstrip(".") for mm in found)
        self._within(found, f"“{text.strip()}”")
        return value

    def admitted(self, value: Stored) -> tuple[float, ...]:
        words = value.split() if isinstance(value, str) else [str(value)]
        try:
            found = tuple(float(word) for word in words)
        except ValueError:
            raise InputError(f"{self.words}: “{value}”", "numbers in mm with spaces between") from None
        return self._within(found, f"{self.words}: “{str(value)[:60]}”")

    def _within(self, found: Sequence[float], given: str) -> tuple[float, ...]:
        if len(found) > self.most or not all(self.low <= mm <= self.high for mm in found):
            raise InputError(given, f"up to {self.most} lengths, each from {self.low:g} to {self.high:g} mm")
        return tuple(sorted(set(found))) if self.ordered else tuple(found)

    def shown(self, value: Any, system: UnitSystem) -> str:
        return "  ".join(show_size(mm, system, unit=False) for mm in value or ())

    def shown_back(self, value: Any, system: UnitSystem) -> str:
        return f"{self.shown(value, system)} {size_unit(system)[0]}"


class Schema(Struct, frozen=True):
    """The facts of a kind of subject.

    Parameters
    ----------
    facts : each declared once.
    build : (kind of machine, assembly, admitted values by the subject's
        attribute) → the subject; raises InputError where they cannot be together.
    numbered : for facts whose key carries a number ("shim.3"): key before the
        dot, and the fact that each of them is.
    holder : the assembly they are kept under, where that is another.
    groups : the questions they answer, the deciding first: words and keys; none where they are few.
    """

    facts: tuple[Fact, ...]
    build: Callable[[str, str, Mapping[str, Any]], Any]
    numbered: Fact | None = None
    holder: str = ""
    groups: tuple[tuple[str, tuple[str, ...]], ...] = ()

    def fact(self, key: str) -> Fact:
        """The declaration of a key. Raises InputError naming the keys there are."""
        for fact in self.facts:
            if fact.key == key:
                return fact
        if self.numbered is not None:
            start, dot, number = key.partition(".")
            if start == self.numbered.key and dot and number.isascii() and number.isdecimal():
                return self.numbered
        raise InputError(f"fact “{key[:60]}”", f"known here are {', '.join(f.key for f in self.facts)}")

    def asked(self, where: str) -> tuple[Fact, ...]:
        """The facts that a place asks for, in order."""
        return tuple(f for f in self.facts if where in f.asked)

    def grouped(self, facts: Sequence[Fact]) -> list[tuple[str, tuple[Fact, ...]]]:
        """Some of the facts by the question they answer; one group without words where they are few."""
        of = {key: words for words, keys in self.groups for key in keys}
        if len(facts) <= FEW:
            return [("", tuple(facts))]
        found = [(words, tuple(f for f in facts if of.get(f.key, "") == words)) for words, _ in self.groups]
        rest = tuple(f for f in facts if f.key not in of)
        return [(words, some) for words, some in (*found, ("Else", rest)) if some]

    def subject(self, kind: str, assembly: str, stored: Mapping[str, Stored]) -> Any:
        """The subject with these facts stated. Raises InputError where one or all together will not do."""
        values: dict[str, Any] = {}
        numbered: dict[int, Any] = {}
        for key, value in stored.items():
            fact = self.fact(key)
            if fact is self.numbered:
                numbered[int(key.partition(".")[2])] = fact.admitted(value)
            else:
                values[fact.name] = fact.admitted(value)
        if self.numbered is not None and numbered:
            values[self.numbered.name] = tuple(value for _, value in sorted(numbered.items()))
        try:
            return self.build(kind, assembly, values)
        except InputError:
            raise
        except (ValueError, ArithmeticError) as error:  # facts that make no subject are the shop's to mend
            raise InputError("these facts together", f"they cannot be ({error})") from None


YES = {"no": "no", "yes": "yes"}
