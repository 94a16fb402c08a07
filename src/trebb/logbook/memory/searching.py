"""Things of the memory found by what a shop says: words, and sizes in any unit ("8 tpi", "2 in", ".75")."""

from __future__ import annotations

import re
from collections.abc import Mapping

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import INCH_MM, UnitSystem, parse_length

NEAR = 0.005  # of a size, that it may be off and still be the one asked for
_THREADS = re.compile(r"(?i)(\d+(?:[.,]\d+)?)\s*(?:tpi|threads?(?:\s+(?:an|per)\s+inch)?)\b")
_FIGURE = r"[-+]?(?:\d+(?:[-\s]\d+/\d+|/\d+)?(?:[.,]\d+)?|[.,]\d+)"
_SIZE = re.compile(rf"(?i)(?<![\w/.-])({_FIGURE})\s*(mm|in|inch|\"|thou|µm|cm)?(?![\w/-])")


class Asked(Struct, frozen=True):
    """What is looked for: words, and sizes, each as the millimetres that it may be."""

    words: tuple[str, ...]
    sizes: tuple[tuple[str, tuple[float, ...]], ...]

    def finds(self, text: str, facts: Mapping[str, str | float]) -> bool:
        """Whether all of it is in a thing's words or among its sizes."""
        whole = text.lower()
        numbers = [v for v in facts.values() if isinstance(v, int | float) and not isinstance(v, bool)]
        return all(word in whole for word in self.words) and all(
            said in whole or any(abs(n - mm) <= NEAR * abs(mm) for n in numbers for mm in each)
            for said, each in self.sizes
        )


def asked_for(text: str) -> Asked:
    """What a text asks for. A bare figure may be inches, millimetres, or a number of something."""
    rest, sizes = text, list[tuple[str, tuple[float, ...]]]()
    for found in _THREADS.finditer(text):
        sizes.append((found[0].lower(), (INCH_MM / float(found[1].replace(",", ".")),)))
        rest = rest.replace(found[0], " ", 1)
    for found in _SIZE.finditer(rest):
        said = found[0].strip()
        try:
            each = {parse_length(said, system) for system in UnitSystem}
        except InputError:
            continue
        plain = {float(said.replace(",", "."))} if re.fullmatch(r"[-+]?[\d.,]+", said) else set[float]()
        sizes.append((said.lower(), tuple(each | plain)))
        rest = rest.replace(found[0], " ", 1)
    return Asked(tuple(rest.lower().split()), tuple(sizes))
