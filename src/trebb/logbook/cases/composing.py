"""Remedies chosen together: as they are typed, and what of them cannot stand together."""

from __future__ import annotations

import re
from itertools import combinations

from trebb.core.errors import InputError
from trebb.core.remedies import JOINED, Remedy
from trebb.logbook.cases.case import Case


def remedy_typed(case: Case, text: str) -> Remedy:
    """A remedy by its key, or several with + or commas between. Raises InputError for what there is not here,
    or what cannot be done together, saying why.
    """
    known = {r.key: r for r in case.possible()}
    keys = [key for key in re.split(r"[+,\s]+", text.strip()) if key]
    for key in keys or [""]:
        if key not in known:
            raise InputError(f"remedy “{key}”", f"remedies here are {', '.join(known)}")
    refuse_apart(case, keys)
    return case.foretold(case.set_with(keys))[0]


def refuse_apart(case: Case, keys: list[str]) -> None:
    """Raises InputError where two of these cannot be done together."""
    for one, other in combinations(dict.fromkeys(keys), 2):
        why = case.why_apart(one, other)
        if why:
            raise InputError(f"{one} {JOINED} {other}", why.rstrip("."))
