"""Words as they stand inside a sentence."""

from __future__ import annotations


def small(words: str) -> str:
    """Words with their first letter small, to stand behind others."""
    return words[:1].lower() + words[1:]


def large(words: str) -> str:
    """Words with their first letter large, to begin a sentence."""
    return words[:1].upper() + words[1:]
