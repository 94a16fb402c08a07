"""What is printed where not every letter can be: a terminal or a pipe of ASCII gets words it knows."""

from __future__ import annotations

import codecs
import io
import sys

_KNOWN = {
    "±": "+/-", "µ": "u", "μ": "u", "×": "x", "−": "-", "–": "-", "—": "-", "“": '"', "”": '"', "‘": "'",
    "’": "'", "°": " deg", "Ø": "dia. ", "…": "...", "½": "1/2", "¼": "1/4", "¾": "3/4", "·": ".", "²": "2",
    "³": "3", "≤": "<=", "≥": ">=", "→": "->", "√": "sqrt", "π": "pi", "″": '"', "′": "'", "£": "GBP ",
    "€": "EUR ",
}  # fmt: skip
PLAINLY = "trebb_plainly"


def _plainly(error: UnicodeError) -> tuple[str, int]:
    if not isinstance(error, UnicodeEncodeError):
        raise error
    lost = error.object[error.start : error.end]
    return "".join(_KNOWN.get(letter, "?") for letter in lost), error.end


def print_plainly() -> None:
    """From now on what standard output and error cannot write is written in letters that they can."""
    codecs.register_error(PLAINLY, _plainly)
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors=PLAINLY)
