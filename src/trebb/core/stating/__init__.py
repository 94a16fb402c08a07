"""What is stated of each kind of subject: the declarations of its facts.

Everything that asks, imports or opens facts goes through `schema_of`. A family's
facts are loaded when one of them is first wanted.
"""

from __future__ import annotations

from functools import cache
from typing import Any

from trebb.core.errors import InputError
from trebb.core.facts import Fact, Schema
from trebb.core.register import FAMILIES


@cache
def schema_of(family: str) -> Schema:
    """The facts of a family of assemblies. Raises InputError for a family that has none."""
    if family not in FAMILIES:
        raise InputError(f"family “{family}”", f"facts are stated of {', '.join(FAMILIES)}")
    found: Schema = FAMILIES[family].named(FAMILIES[family].facts)
    return found


@cache
def usual_subject(family: str) -> Any:
    """The subject of a family of which nothing is stated: what a part on its own takes its usual sizes
    from.
    """
    return schema_of(family).subject("lathe", "cross_slide" if family == "screw_drive" else "", {})


@cache
def card_schema() -> Schema:
    """The lines of the machine's card."""
    from trebb.core.stating.card import SCHEMA

    return SCHEMA


def limit_fact(label: str) -> Fact:
    """A rated limit, as a fact."""
    from trebb.core.facts import Small

    return Small("limit", label, "Most allowed", low=0.0001, high=2.0)


__all__ = ["card_schema", "limit_fact", "schema_of"]
