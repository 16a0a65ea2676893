"""Symbols drawn in ink."""

from __future__ import annotations

import math

from holoptic.job import Angle
from holoptic.sheet.drawing import Ink


def angle_symbol(angle: Angle, x: float, y: float) -> list[Ink]:
    """Return the symbol of third- or first-angle views (ISO 5456-2), centred at x, y (mm).

    It shows a frustum from the side and from its small end: in third angle that end view stands
    on the side it is seen from, in first angle on the other.
    """
    rings, cone = (-6.0, -0.5) if angle == "third" else (5.5, -8.0)
    inks = [Ink("symbol", _ring(x + rings, y, radius)) for radius in (1.5, 3.0)]
    left, right = x + cone, x + cone + 7
    side = ((left, y - 1.5), (right, y - 3), (right, y + 3), (left, y + 1.5), (left, y - 1.5))
    axis = Ink("symbol", ((x - 10.5, y), (x + 10, y)), 0.13, (2.0, 0.8, 0.4, 0.8))
    return [*inks, Ink("symbol", side), axis]


def _ring(x: float, y: float, radius: float) -> tuple[tuple[float, float], ...]:
    turns = (math.tau * i / 48 for i in range(49))
    return tuple((x + radius * math.cos(t), y + radius * math.sin(t)) for t in turns)
