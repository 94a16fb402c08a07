"""The root of every error Trebb raises on purpose.

A leaf also inherits the built-in that fits, keeps its data as attributes and
builds from them one plain sentence: what was given, and what would do.
"""

import re

MOST_ECHOED = 60  # letters of what was given that a sentence repeats
# Controls, what turns the direction of writing, half letters: none of them can be shown as it is.
_UNSHOWN = re.compile("[\x00-\x1f\x7f-\x9f\u200e\u200f\u2028-\u202e\u2066-\u2069\ud800-\udfff]+")
_QUOTED = re.compile(f"“([^“”]{{{MOST_ECHOED}}})[^“”]+”")


def echoed(sentence: str) -> str:
    """A sentence with what was given in it as it can be shown: cut, and without control characters."""
    return _QUOTED.sub(r"“\1…”", _UNSHOWN.sub(" ", sentence))


class TrebbError(Exception):
    """Root of Trebb's own errors; `str()` of one can be shown to the rebuilder."""

    def __init__(self, sentence: str = "") -> None:
        super().__init__(echoed(sentence))


class UnreadError(TrebbError, ValueError):
    """Something that is worked out from readings which were not taken, or not answered for."""

    def __init__(self, what: str, would_do: str) -> None:
        self.what = what
        self.would_do = would_do
        super().__init__(f"{what}: {would_do}")


class InputError(TrebbError, ValueError):
    """Something typed or handed in cannot be used as it stands."""

    def __init__(self, given: str, would_do: str) -> None:
        self.given = given
        self.would_do = would_do
        super().__init__(f"{given}: {would_do}")
