"""General curves as hands draw them: smooth through points set off by a table."""

from __future__ import annotations

import math

import shapely

from holoptic.curves.drawn import FrenchCurve
from holoptic.curves.space import Curve
from holoptic.curves.vectors import Matrix23, Vec3, apply
from holoptic.tolerance import ON_PAPER_MM

_OFF_MM = 0.05
_FEWEST, _MOST, _MORE = 5, 33, 4


def through_offsets(
    curve: Curve, matrix: Matrix23, scale: float
) -> tuple[FrenchCurve, tuple[Vec3, ...]]:
    """Return a smooth curve through as few points of a general curve as will do, and these points.

    The curve is on paper, mm at 1:1; at `scale` it is off the true image by less than a pencil
    line is broad, unless that takes more points than anybody sets off.
    """
    first, last = curve.span
    # a curve whose ends fall together on paper is drawn all the way round
    closed = math.dist(apply(matrix, curve.start), apply(matrix, curve.end)) < ON_PAPER_MM
    true = shapely.LineString(curve.path(matrix))
    count = _FEWEST + 3 * closed
    while True:
        steps = count if closed else count - 1
        spots = tuple(curve.at(first + (last - first) * k / steps) for k in range(count))
        drawn = FrenchCurve([apply(matrix, spot) for spot in spots], closed)
        off = float(shapely.distance(shapely.points(drawn.samples[1]), true).max())
        if off * scale < _OFF_MM or count >= _MOST:
            return drawn, spots
        count += _MORE
