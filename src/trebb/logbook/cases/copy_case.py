"""What the core says of a part that is copied from an old one: sizes, checks, drawing and route; no
survey.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.findings import Measure
from trebb.core.stating import usual_subject
from trebb.logbook.cases.case import Case


class CopyCase(Case):
    """A part on its own."""

    family = "copied"

    @property
    def has_set_ups(self) -> bool:
        return False

    @property
    def has_parts(self) -> bool:
        return True

    @property
    def what(self) -> str:
        """Key of the part's family."""
        return str(self.subject.what)

    @property
    def made_subject(self) -> Any:
        from trebb.core.parts import family

        return self.in_own_units(usual_subject(family(self.what).assembly))

    def part_keys(self) -> tuple[str, ...]:
        return (self.what,)

    def makes(self, key: str) -> bool:
        return key == self.what

    @property
    def figures(self) -> Sequence[Measure]:
        return ()

    def _part_subject(self, key: str) -> Any:
        from trebb.core.parts import family

        # Of the part asked for: what is copied may have changed since.
        return self.in_own_units(usual_subject(family(key).assembly))
