"""How small and how large a common compass draws."""

from __future__ import annotations

LEAST_RADIUS_MM, LONGEST_RADIUS_MM = 3.0, 160.0
"""Smaller arcs are drawn with a template or by hand, larger ones through points."""
