"""Trebb: a bench companion for rebuilding worn machine tools."""

__version__ = "0.1.0"
