"""The root of every error Trebb raises on purpose.

A leaf also inherits the built-in that fits, keeps its data as attributes and
builds from them one plain sentence: what was given, and what would do.
"""


class TrebbError(Exception):
    """Root of Trebb's own errors; `str()` of one can be shown to the rebuilder."""


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
