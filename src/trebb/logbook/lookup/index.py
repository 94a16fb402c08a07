"""A full-text index over a few hundred pages: SQLite's own (FTS5, words by their stems, ranked by bm25)."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterable, Sequence
from difflib import get_close_matches

from msgspec import Struct

TITLE, OTHERS, TEXT = 10.0, 8.0, 1.0  # how much a word counts by where it stands
LIKE = 0.74  # of a word's letters: what is so alike is taken for a slip
LEAST_LETTERS = 4  # of a word that may have slipped
FEW = 3  # hits below which pages with only some of the words follow
_LITTLE = re.compile(
    "an?|and|at|by|do|does|for|from|how|i|in|is|its?|my|of|on|or|the|there|to|what|when|which|why|with"
)
_WORD = re.compile(r"[^\W_]+(?:['’][^\W_]+)?", re.UNICODE)


class Entry(Struct, frozen=True):
    """A page: its key, its title, other words for what it is about, and its text."""

    key: str
    title: str
    others: str
    text: str


class TextIndex:
    """Pages found by words.

    Parameters
    ----------
    alike : words that are looked for as one, in groups.
    """

    def __init__(self, entries: Iterable[Entry], alike: Sequence[Sequence[str]] = ()) -> None:
        self._alike: dict[str, set[str]] = {}
        for group in alike:
            for word in group:
                self._alike.setdefault(word, set()).update(group)
        self._db = sqlite3.connect(":memory:", check_same_thread=False)
        self._db.execute(
            "CREATE VIRTUAL TABLE page USING fts5(key UNINDEXED, title, others, text, "
            "tokenize='porter unicode61 remove_diacritics 2')"
        )
        listed = list(entries)
        self._db.executemany(
            "INSERT INTO page VALUES (?, ?, ?, ?)", [(e.key, e.title, e.others, e.text) for e in listed]
        )
        titles: dict[str, list[str]] = {}
        others: dict[str, list[str]] = {}
        for e in listed:
            titles.setdefault(_plain(e.title), []).append(e.key)
            for other in e.others.split(","):
                others.setdefault(_plain(other), []).append(e.key)
        self._names = (titles, others)
        self._words = sorted({w for e in listed for w in _words(f"{e.title} {e.others} {e.text}")})
        self._known = set(self._words)

    def found(self, said: str, most: int = 60) -> list[str]:
        """Keys of the pages that words lead to, the likeliest first: those called so, those with all the
        words or their likes, where those are few those with any of them.
        """
        words = [part for w in marked_words(said) or _words(said) for part in self._parted(w)]
        if not words:
            return []
        wanted = [self._meant(word) for word in words]
        plain = _plain(said)
        called = [key for names in self._names for key in names.get(plain, ())]
        as_said = self._matched("{title others} : (" + " AND ".join(_any([w]) for w in words) + ")", most)
        alike = self._matched(" AND ".join(_any(w) for w in wanted), most)
        keys = [*called, *as_said, *alike]
        if len(set(keys)) < FEW:
            keys += self._matched(" OR ".join(_any(w) for w in wanted), most)
        return list(dict.fromkeys(keys))[:most]

    def _matched(self, query: str, most: int) -> list[str]:
        rows = self._db.execute(
            "SELECT key FROM page WHERE page MATCH ? ORDER BY bm25(page, 0, ?, ?, ?), rowid LIMIT ?",
            (query, TITLE, OTHERS, TEXT, most),
        )
        return [str(key) for (key,) in rows]

    def _parted(self, word: str) -> list[str]:
        """A word as it stands; one that no page has as two that they have, where it is those."""
        if word in self._known or any(known.startswith(word) for known in self._words):
            return [word]
        ends = range(FEW, len(word) - FEW + 1)
        return next(([word[:i], word[i:]] for i in ends if {word[:i], word[i:]} <= self._known), [word])

    def _meant(self, word: str) -> list[str]:
        """A word with its likes; where no page has it, the words that it may have been meant for."""
        if word not in self._known and word not in self._alike and len(word) >= LEAST_LETTERS:
            begun = any(known.startswith(word) for known in self._words)
            near = [] if begun else get_close_matches(word, self._words, 3, LIKE)
            return [word, *near]
        return [word, *sorted(self._alike.get(word, set()) - {word})]


def like_groups(text: str) -> list[list[str]]:
    """Words that are looked for alike, a line a group; lines of # say something."""
    lines = (line for line in text.splitlines() if line.strip() and not line.startswith("#"))
    return [line.split() for line in lines]


def marked_words(said: str) -> list[str]:
    """The words of what was said that are worth marking in a page."""
    return [w for w in _words(said) if not _LITTLE.fullmatch(w)]


def _any(words: Sequence[str]) -> str:
    """Any of some words, or what begins so."""
    return "(" + " OR ".join(f'"{w}"*' if len(w) > FEW else f'"{w}"' for w in words) + ")"


def _words(text: str) -> list[str]:
    return [w.replace("’", "'").removesuffix("'s") for w in _WORD.findall(text.casefold())]


def _plain(text: str) -> str:
    return " ".join(_words(text))
