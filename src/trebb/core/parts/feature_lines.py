"""A turned part written as it lies on the bench: a line a feature, from its left end.

Sections come in order, `seat 20 h6 x 30`; what is cut in one stands below it,
`keyway 6 x 20 at 3`; then what is bored from either end, `bore 12 H7`,
`pocket 24 x 8`; holes in the face, centres. Lengths are of the shop's own
system as typed, and are kept in mm.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import UnitSystem, parse_length, show_size

# Sections from left to right, with the fit that one has where none is written.
SECTIONS: Mapping[str, str] = {"plain": "", "shoulder": "", "journal": "g6", "seat": "h6", "thread": ""}
# On the section above.
ON_SECTION = ("keyway", "square", "flat", "spline", "hole", "pin", "tap", "groove", "knurl")
# From the left end, and from the right.
INSIDE = ("bore", "inside", "pocket")
ENDS = ("holes", "centre")
KINDS = (*SECTIONS, *ON_SECTION, *INSIDE, *ENDS)
CENTRES = ("both", "left", "right", "none")
MOST_LINES, MOST_LETTERS = 60, 3000
_FIT = re.compile(r"(?:js|[a-z])\d{1,2}", re.IGNORECASE)
_CLAUSE = re.compile(r"\s+(x|×|at|deep|on|fit)\s+", re.IGNORECASE)
_EXAMPLES = {
    "plain": "plain 18 x 40",
    "shoulder": "shoulder 28 x 5",
    "journal": "journal 20 g6 x 25",
    "seat": "seat 22 h6 x 30",
    "thread": "thread M16 x 20",
    "keyway": "keyway 6 x 20 at 3, or keyway alone for the usual one",
    "square": "square 14",
    "flat": "flat x 12 deep 1",
    "spline": "spline 6",
    "hole": "hole 4 at 10",
    "pin": "pin 5 at 10",
    "tap": "tap M5 at 8",
    "groove": "groove 1.3 deep 0.6 at 5",
    "knurl": "knurl",
    "bore": "bore 12 H7, or bore 12 H7 x 25 for blind",
    "inside": "inside M20x1.5 x 10",
    "pocket": "pocket 24 x 8",
    "holes": "holes 3 x 5 on 40",
    "centre": "centre both",
}


class Item(Struct, frozen=True):
    """A line read: what it is and its sizes, mm.

    Parameters
    ----------
    kind : a key of `KINDS`.
    size_mm : diameter, width, across; 0 where it is left to what is usual, or named by `name`.
    long_mm : along the axis; 0 for through, or over its whole section.
    at_mm : from its section's left shoulder; less than nothing is from its right one. None in its middle.
    deep_mm : from the surface; on_mm the circle that holes stand on.
    count : of splines, of holes in the face.
    fit : zone of a section or a bore, or of splines; name a thread's marking, or which centres.
    """

    kind: str
    size_mm: float = 0.0
    long_mm: float = 0.0
    at_mm: float | None = None
    deep_mm: float = 0.0
    on_mm: float = 0.0
    count: int = 0
    fit: str = ""
    name: str = ""

    @property
    def is_section(self) -> bool:
        """Whether it is a length of the outside."""
        return self.kind in SECTIONS


def parse_list(text: str, system: UnitSystem) -> tuple[Item, ...]:
    """The lines of a list, one or several with `;` between. Raises InputError naming the line, with what
    would do.
    """
    if len(text) > MOST_LETTERS:
        raise InputError(f"{len(text)} letters", f"no more than {MOST_LETTERS}")
    lines = [line.strip() for line in re.split(r"[;\n]", text) if line.strip()]
    if len(lines) > MOST_LINES:
        raise InputError(f"{len(lines)} lines", f"no more than {MOST_LINES}")
    found: list[Item] = []
    for number, line in enumerate(lines, 1):
        try:
            item = _line(line, system)
        except InputError as error:
            raise InputError(f"line {number}, {error.given}", error.would_do) from None
        if item.kind in ON_SECTION and not any(one.is_section for one in found):
            raise InputError(f"line {number}, “{line}”", "it stands below the section that it is cut in")
        found.append(item)
    if not any(one.is_section for one in found):
        raise InputError(f"“{text.strip()[:60]}”", f"begin with a section, such as {_EXAMPLES['plain']}")
    return tuple(found)


def _line(line: str, system: UnitSystem) -> Item:
    kind, _, rest = line.partition(" ")
    kind = kind.lower()
    if kind not in KINDS:
        raise InputError(f"“{line}”", f"a line begins with {', '.join(KINDS)}")

    def length(text: str) -> float:
        try:
            return parse_length(text, system)
        except InputError:
            raise InputError(f"“{line}”", f"write it as {_EXAMPLES[kind]}") from None

    head, clauses = _clauses(kind, rest)
    at = clauses.get("at")
    item = Item(
        kind,
        long_mm=length(clauses["x"]) if "x" in clauses else 0.0,
        at_mm=None if at is None else -length(at[1:]) if at.startswith("-") else length(at),
        deep_mm=length(clauses["deep"]) if "deep" in clauses else 0.0,
        on_mm=length(clauses["on"]) if "on" in clauses else 0.0,
        fit=clauses.get("fit", ""),
    )
    item = _HEADS.get(kind, _sized)(item, head, length)
    _complete(item, line)
    return item


def _clauses(kind: str, rest: str) -> tuple[str, dict[str, str]]:
    """What stands before the first clause, and each clause by its word."""
    if kind not in ("thread", "inside", "tap"):  # a marking has an x of its own
        rest = re.sub(r"(?<=[\d\"])\s*[x×]\s*(?=[\d.])", " x ", rest)
    parts = _CLAUSE.split(f" {rest} ")
    words = {w.lower().replace("×", "x"): v.strip() for w, v in zip(parts[1::2], parts[2::2], strict=True)}
    return parts[0].strip(), words


Length = Callable[[str], float]


def _sized(item: Item, head: str, length: Length) -> Item:
    """A size, with a fit behind it where it has one."""
    words = head.split(" ")
    fit = words[-1] if len(words) > 1 and _FIT.fullmatch(words[-1]) else ""
    size = head.removesuffix(fit).strip() if fit else head
    return _with(item, size_mm=length(size) if size else 0.0, fit=fit or item.fit)


def _named(item: Item, head: str, length: Length) -> Item:
    return _with(item, name=head)


def _counted(item: Item, head: str, length: Length) -> Item:
    """So many; of holes their size stands behind the x."""
    if not head.isdecimal() or not 1 <= int(head) <= 60:
        raise InputError(f"“{item.kind} {head}”", f"write it as {_EXAMPLES[item.kind]}")
    if item.kind == "holes":
        return _with(item, count=int(head), size_mm=item.long_mm, long_mm=item.deep_mm)
    return _with(item, count=int(head))


def _nothing(item: Item, head: str, length: Length) -> Item:
    if head:
        raise InputError(f"“{item.kind} {head}”", f"write it as {_EXAMPLES[item.kind]}")
    return item


def _centre(item: Item, head: str, length: Length) -> Item:
    if head.lower() not in CENTRES:
        raise InputError(f"“centre {head}”", f"one of {', '.join(CENTRES)}")
    return _with(item, name=head.lower())


_HEADS: Mapping[str, Callable[[Item, str, Length], Item]] = {
    "thread": _named, "inside": _named, "tap": _named, "spline": _counted, "holes": _counted,
    "knurl": _nothing, "flat": _nothing, "centre": _centre,
}  # fmt: skip


def _with(item: Item, **more: object) -> Item:
    from msgspec.structs import replace

    return replace(item, **more)


# What a line must say, by kind: which of its figures are more than nothing.
_WANTED: Mapping[str, tuple[str, ...]] = {
    **dict.fromkeys(("plain", "shoulder", "journal", "seat", "pocket"), ("size_mm", "long_mm")),
    "thread": ("name", "long_mm"),
    "inside": ("name", "long_mm"),
    "tap": ("name",),
    "bore": ("size_mm",),
    "square": ("size_mm",),
    "flat": ("deep_mm",),
    "hole": ("size_mm",),
    "pin": ("size_mm",),
    "groove": ("size_mm", "deep_mm"),
    "holes": ("size_mm", "on_mm", "count"),
    "spline": ("count",),
}


def _complete(item: Item, line: str) -> None:
    for name in _WANTED.get(item.kind, ()):
        value = getattr(item, name)
        if not value or (isinstance(value, float) and value <= 0):
            raise InputError(f"“{line}”", f"write it as {_EXAMPLES[item.kind]}")


def write_list(items: Sequence[Item], system: UnitSystem) -> str:
    """The lines again, in a shop's own units."""
    return "\n".join(_written(item, system) for item in items)


def _written(item: Item, system: UnitSystem) -> str:
    def size(mm: float) -> str:
        text = show_size(mm, system, unit=False)
        return text.rstrip("0").rstrip(".") if "." in text else text

    words = [item.kind]
    if item.name:
        words.append(item.name)
    if item.count:
        words.append(str(item.count))
    if item.kind == "holes":
        words += ["x", size(item.size_mm), "on", size(item.on_mm)]
        return " ".join([*words, *(["deep", size(item.long_mm)] if item.long_mm else [])])
    if item.size_mm:
        words.append(size(item.size_mm))
    if item.fit:
        words += ["fit", item.fit] if item.kind == "spline" else [item.fit]
    if item.long_mm:
        words += ["x", size(item.long_mm)]
    if item.deep_mm:
        words += ["deep", size(item.deep_mm)]
    if item.at_mm is not None:
        words += ["at", f"-{size(-item.at_mm)}" if item.at_mm < 0 else size(item.at_mm)]
    return " ".join(words)
