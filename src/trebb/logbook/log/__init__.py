"""Entries and their fold: what was recorded, and what of it stands."""
