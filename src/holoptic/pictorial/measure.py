"""True and drawn: what an edge measures on the part and on paper."""

from __future__ import annotations

import math
from dataclasses import dataclass

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec2, Vec3, apply, subtract
from holoptic.pictorial.kinds import View


@dataclass(frozen=True)
class Measure:
    """True length; for a straight line drawn length (scale 1:1), drawn angle and offsets.

    For an arc of a circle its radius, and the axes of the ellipse that it lies on when drawn.
    Lengths in mm, the angle in degrees from the right in (−90, 90], offsets along L, D, H.
    """

    true: float
    drawn: float | None = None
    angle: float | None = None
    offsets: Vec3 | None = None
    radius: float | None = None
    axes: Vec2 | None = None


def measure(curve: Curve, view: View) -> Measure:
    """Return the measures of a curve in a view."""
    if isinstance(curve, EllipticArc):
        arc = PaperArc((0.0, 0.0), *curve.image(view.matrix), 0.0, math.tau).on_axes()
        axes = 2 * math.hypot(*arc.a), 2 * math.hypot(*arc.b)
        return Measure(curve.length, radius=curve.major if curve.is_circle else None, axes=axes)
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
