"""From facts as stated to what the core is told of an assembly."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import fields, replace
from typing import Any, TypeVar

T = TypeVar("T")
Facts = Mapping[str, str | float]


def with_facts(usual: T, facts: Facts, readers: Mapping[str, Callable[[str | float], Any]] | None = None) -> T:
    """The usual subject with what is stated of it; `readers` for what is no plain number. What a newer Trebb states is passed over.

    Raises InputError where the facts cannot be.
    """
    readers = readers or {}
    known = {f.name for f in fields(usual)}  # type: ignore[arg-type]
    changes = {name: readers[name](value) if name in readers else float(value) for name, value in facts.items() if name in known}
    return replace(usual, **changes)  # type: ignore[type-var]


def as_words(value: str | float) -> str:
    """A fact that is a word or a list."""
    return value if isinstance(value, str) else f"{value:g}"
