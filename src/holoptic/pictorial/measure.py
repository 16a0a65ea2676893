"""True and drawn: what an edge measures on the part and on paper."""

from __future__ import annotations

import math
from dataclasses import dataclass

from holoptic.curves.space import Curve, Segment
from holoptic.curves.vectors import Vec3, apply, subtract
from holoptic.pictorial.kinds import View


@dataclass(frozen=True)
class Measure:
    """True length, and for a straight line drawn length (scale 1:1), drawn angle and offsets.

    Lengths in mm, the angle in degrees from the right in (−90, 90].
    """

    true: float
    drawn: float | None = None
    angle: float | None = None
    offsets: Vec3 | None = None


def measure(curve: Curve, view: View) -> Measure:
    """Return the measures of a curve in a view."""
    if not isinstance(curve, Segment):
        return Measure(curve.length)
    (x1, y1), (x2, y2) = apply(view.matrix, curve.start), apply(view.matrix, curve.end)
    angle = math.degrees(math.atan2(y2 - y1, x2 - x1))
    if angle > 90:
        angle -= 180
    elif angle <= -90:
        angle += 180
    offsets = subtract(curve.end, curve.start)
    size = (abs(offsets[0]), abs(offsets[1]), abs(offsets[2]))
    return Measure(curve.length, math.hypot(x2 - x1, y2 - y1), angle, size)
