"""Views of a page put on whole thousandths of a mm.

A page holds places in fractions of points or of other units, rounded each by itself; what is one
level in three views comes out as three, some hundred-thousandths apart.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import Bow, DrawnView, Shape, Straight
from holoptic.reading.mending import mend

_PLACES = 3


def settled(views: Sequence[DrawnView]) -> list[DrawnView]:
    """Return views with small slips mended and all places in thousandths."""
    return [
        replace(view, lines=tuple(replace(line, shape=_settled(line.shape)) for line in view.lines))
        for view in mend(views)
    ]


def _settled(shape: Shape) -> Shape:
    if isinstance(shape, Straight):
        return Straight(_rounded(shape.start), _rounded(shape.end))
    if not isinstance(shape, Bow):
        return replace(shape, points=tuple(map(_rounded, shape.points)))
    centre, radius = _rounded(shape.centre), round(shape.radius, _PLACES)
    if shape.is_closed:
        return Bow(centre, radius, 0.0, math.tau)
    (a, b), (c, d) = _rounded(shape.start), _rounded(shape.end)
    first = math.atan2(b - centre[1], a - centre[0]) % math.tau
    turn = (math.atan2(d - centre[1], c - centre[0]) - first) % math.tau
    return Bow(centre, radius, first, first + (turn or math.tau))


def _rounded(place: Vec2) -> Vec2:
    return round(place[0], _PLACES), round(place[1], _PLACES)
