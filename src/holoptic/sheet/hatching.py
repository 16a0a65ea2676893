"""The lines of a hatch, clipped to its region."""

from __future__ import annotations

import math
from collections.abc import Iterator

from shapely import LineString, MultiLineString, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.ops import unary_union

from holoptic.sheet.drawing import Ink, Region

_MOST_LINES = 5000
"""In one region: a finer hatch is a grey that no reader tells from a filled region."""


def hatch_lines(region: Region) -> list[Ink]:
    """Return the lines of a region's hatch as ink. Raises ValueError for a pitch that is none."""
    hatch = region.hatch
    if hatch is None:
        return []
    if not hatch.pitch > 0:
        raise ValueError("a hatch needs a pitch above zero")
    area = area_of(region)
    if area.is_empty:
        return []
    cos, sin = (f(math.radians(hatch.angle_deg)) for f in (math.cos, math.sin))
    low_x, low_y, high_x, high_y = area.bounds
    corners = [(x, y) for x in (low_x, high_x) for y in (low_y, high_y)]
    away = [y * cos - x * sin for x, y in corners]
    along = [x * cos + y * sin for x, y in corners]
    first = math.ceil((min(away) - hatch.offset) / hatch.pitch)
    last = math.floor((max(away) - hatch.offset) / hatch.pitch)
    inks = []
    for number in range(first, min(last, first + _MOST_LINES) + 1):
        off = hatch.offset + number * hatch.pitch
        start, end = min(along) - 1.0, max(along) + 1.0
        line = LineString([(s * cos - off * sin, s * sin + off * cos) for s in (start, end)])
        for piece in _pieces(area.intersection(line)):
            inks.append(Ink(region.layer, piece, dashes=()))
    return inks


def area_of(region: Region) -> BaseGeometry:
    """Return what lies in an odd number of a region's outlines."""
    area: BaseGeometry = Polygon()
    for outline in region.outlines:
        area = area.symmetric_difference(Polygon(outline).buffer(0))
    return unary_union(area)


def _pieces(found: BaseGeometry) -> Iterator[tuple[tuple[float, float], ...]]:
    if isinstance(found, LineString) and not found.is_empty:
        (x1, y1), (x2, y2) = found.coords[0], found.coords[-1]
        yield (x1, y1), (x2, y2)
    elif isinstance(found, MultiLineString):
        for piece in found.geoms:
            yield from _pieces(piece)
