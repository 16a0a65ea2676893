"""Parallel lines over an area."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from shapely import LineString, MultiLineString, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.ops import unary_union

from holoptic.curves.vectors import Vec2
from holoptic.tolerance import COINCIDENT_MM

_MOST_LINES = 5000
"""In one area: a finer hatch is a grey that no reader tells from a filled one."""


def area_within(outlines: Sequence[Sequence[Vec2]]) -> BaseGeometry:
    """Return what lies in an odd number of closed outlines."""
    area: BaseGeometry = Polygon()
    for outline in outlines:
        area = area.symmetric_difference(Polygon(outline).buffer(0))
    return unary_union(area)


def lines_over(
    area: BaseGeometry, angle_deg: float, pitch: float, offset: float = 0.0
) -> list[tuple[Vec2, Vec2]]:
    """Return the lines in a direction that fill an area, `pitch` from each other; one of them
    would run so far off the origin. Raises ValueError for a pitch that is none.
    """
    if not pitch > 0:
        raise ValueError("a hatch needs a pitch above zero")
    area = area.buffer(-COINCIDENT_MM)  # no line runs along the border
    if area.is_empty:
        return []
    cos, sin = (f(math.radians(angle_deg)) for f in (math.cos, math.sin))
    low_x, low_y, high_x, high_y = area.bounds
    corners = [(x, y) for x in (low_x, high_x) for y in (low_y, high_y)]
    away = [y * cos - x * sin for x, y in corners]
    along = [x * cos + y * sin for x, y in corners]
    first = math.ceil((min(away) - offset) / pitch)
    last = math.floor((max(away) - offset) / pitch)
    found: list[tuple[Vec2, Vec2]] = []
    for number in range(first, min(last, first + _MOST_LINES) + 1):
        off = offset + number * pitch
        ends = min(along) - 1.0, max(along) + 1.0
        line = LineString([(s * cos - off * sin, s * sin + off * cos) for s in ends])
        found += _pieces(area.intersection(line))
    return found


def _pieces(found: BaseGeometry) -> Iterator[tuple[Vec2, Vec2]]:
    if isinstance(found, LineString) and not found.is_empty:
        (x1, y1), (x2, y2) = found.coords[0], found.coords[-1]
        yield (x1, y1), (x2, y2)
    elif isinstance(found, MultiLineString):
        for piece in found.geoms:
            yield from _pieces(piece)
