"""Trebb: a bench companion for rebuilding worn machine tools."""

__version__ = "0.3.0"
