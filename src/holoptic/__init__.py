"""Holoptic: a pictorial drafting bench."""

__version__ = "0.1.0"
