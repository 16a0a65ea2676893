"""The views of a part as drawn lines, to be read again or laid over given ones."""

from __future__ import annotations

import math
from collections.abc import Sequence

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.space import Curve, EllipticArc, SampledCurve
from holoptic.curves.vectors import Matrix23
from holoptic.pictorial import Picture, Stroke
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Free, Shape, Straight
from holoptic.tolerance import GIVEN_MM


def drawn_view(name: str, picture: Picture, smooth: Sequence[tuple[Curve, bool]] = ()) -> DrawnView:
    """Return an orthographic view as drawn lines; `smooth` are curves that may be drawn too, each
    with whether it is in sight.
    """
    matrix = picture.view.matrix
    lines = tuple(
        DrawnLine(_shape(stroke, matrix), stroke.role)
        for stroke in picture.strokes
        if stroke.role != "hatch"
    )
    further = tuple(
        DrawnLine(Free(tuple(curve.path(matrix))), "visible" if in_sight else "hidden")
        for curve, in_sight in smooth
    )
    return DrawnView(name, lines, smooth=further)


def _shape(stroke: Stroke, matrix: Matrix23) -> Shape:
    curve = stroke.curve
    if len(stroke.path) == 2 and not _is_bit(stroke):
        return Straight(stroke.path[0], stroke.path[1])
    if isinstance(curve, EllipticArc):
        arc = curve.on_paper(matrix)
        return round_shape(arc, stroke.path)
    return Free(stroke.path)


def _is_bit(stroke: Stroke) -> bool:
    """Say whether two points are but a bit of a general curve, which has two for being short."""
    if not isinstance(stroke.curve, SampledCurve) or len(stroke.curve.points) > 2:
        return False
    (a, b), (c, d) = stroke.path
    return math.dist((a, b), (c, d)) < _BIT_MM and min(abs(a - c), abs(b - d)) > GIVEN_MM


_BIT_MM = 1.0


def round_shape(arc: PaperArc, path: tuple[tuple[float, float], ...]) -> Shape:
    """Return an arc of a circle as such, of an ellipse as the polyline given."""
    radius = arc.radius
    if radius is None:
        return Free(path)
    turned = arc.on_axes()
    lean = math.atan2(turned.a[1], turned.a[0])
    first = (turned.first + lean) % math.tau
    return Bow(arc.centre, radius, first, first + min(turned.last - turned.first, math.tau))
