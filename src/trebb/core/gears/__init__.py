"""Gears: what they are called, how they are measured, what they carry, how they are cut. Lengths mm."""
