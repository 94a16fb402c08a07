"""Texts found by words: a full-text index in memory that knows other words for the same, and slips.

It knows nothing of a job; anything of the logbook and of app may import it.
"""

from trebb.logbook.lookup.index import Entry, TextIndex

__all__ = ["Entry", "TextIndex"]
