"""Words as they stand inside a sentence."""

from __future__ import annotations


def small(words: str) -> str:
    """Words with their first letter small, to stand behind others."""
    return words[:1].lower() + words[1:]
