"""Colours, lettering, icons and what the desk remembers of its user."""
