"""Facts of a part that is copied."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Choice, Fact, Schema
from trebb.core.families.copied.subject import COPIES, Copied


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Copied:
    return Copied(**values)


FACTS: tuple[Fact, ...] = (Choice("what", "Part", "What is copied", choices=COPIES),)
SCHEMA = Schema(FACTS, _build)
