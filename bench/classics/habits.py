"""Habits of other hands: how curves of intersection are drawn, and how views stand on the sheet.

The views of a solid are written as the product writes them, and changed to a habit after.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path

import ezdxf
from ezdxf.entities import LWPolyline
from ezdxf.layouts import Modelspace
from ezdxf.math import ConstructionCircle

from holoptic.curves.vectors import Vec2
from holoptic.views import PlacedView

_NEAR_MM = 0.2
"""A curve of intersection may be drawn as an arc that is off by so much."""
_COARSE = 9
"""Corners of a coarse polyline."""

Placed = Sequence[PlacedView]


def touching(placed: Placed) -> list[PlacedView]:
    """Return views moved together until their outlines touch."""
    return _moved(placed, 0.0, 0.0)


def uneven(placed: Placed) -> list[PlacedView]:
    """Return views that stand apart unevenly: two close together, the third far away."""
    return _moved(placed, 3.5, 47.0)


def two_views(placed: Placed) -> list[PlacedView]:
    """Return the views without the last one."""
    return list(placed[:-1])


def _moved(placed: Placed, up: float, across: float) -> list[PlacedView]:
    """Return views with other gaps between the first one and those above or below, and beside."""
    front = placed[0]
    xmin, ymin, xmax, ymax = front.extent
    found = [front]
    for view in placed[1:]:
        left, low, right, high = view.extent
        x, y = view.origin
        if left >= xmax - _NEAR_MM:
            x -= left - xmax - across
        elif right <= xmin + _NEAR_MM:
            x += xmin - right - across
        elif low >= ymax - _NEAR_MM:
            y -= low - ymax - up
        else:
            y += ymin - high - up
        found.append(replace(view, origin=(x, y)))
    return found


def splines(path: Path) -> None:
    """Draw general curves as splines through some of their points."""
    _each_curve(path, lambda space, points, looks: space.add_spline(points, dxfattribs=looks))


def coarse(path: Path) -> None:
    """Draw general curves as polylines of few corners."""

    def drawn(space: Modelspace, points: list[Vec2], looks: dict[str, object]) -> None:
        step = (len(points) - 1) / (_COARSE - 1)
        few = points if len(points) <= _COARSE else [points[round(k * step)]
                                                     for k in range(_COARSE)]  # fmt: skip
        space.add_lwpolyline(few, dxfattribs=looks)

    _each_curve(path, drawn)


def arcs(path: Path) -> None:
    """Draw general curves as arcs where these lie within 0.2 mm."""

    def drawn(space: Modelspace, points: list[Vec2], looks: dict[str, object]) -> None:
        first, middle, last = points[0], points[len(points) // 2], points[-1]
        centre, radius = _circle(first, middle, last)
        if any(abs(math.dist(centre, point) - radius) > _NEAR_MM for point in points):
            space.add_lwpolyline(points, dxfattribs=looks)
            return
        turns = [math.degrees(math.atan2(y - centre[1], x - centre[0])) for x, y in (first, last)]
        (ax, ay), (bx, by), (cx, cy) = first, middle, last
        if (bx - ax) * (cy - ay) - (by - ay) * (cx - ax) < 0:
            turns.reverse()
        space.add_arc(centre, radius, *turns, dxfattribs=looks)

    _each_curve(path, drawn)


def _circle(first: Vec2, middle: Vec2, last: Vec2) -> tuple[Vec2, float]:
    """Return the centre and the radius of a circle through three points; far off for a line."""
    try:
        found = ConstructionCircle.from_3p(first, middle, last)
    except ZeroDivisionError:
        return first, math.inf
    return (found.center.x, found.center.y), found.radius


def _each_curve(
    path: Path, draw: Callable[[Modelspace, list[Vec2], dict[str, object]], object]
) -> None:
    """Draw each general curve of a file anew."""
    document = ezdxf.readfile(path)
    space = document.modelspace()
    for line in space.query("LWPOLYLINE"):
        assert isinstance(line, LWPolyline)
        points = [(x, y) for x, y in line.get_points("xy")]
        if line.closed:
            points.append(points[0])
        if len(points) > 3:
            looks = line.graphic_properties()
            space.delete_entity(line)
            draw(space, points, looks)
    document.saveas(path)


LAYOUTS: dict[str, Callable[[Placed], list[PlacedView]]] = {
    "touching views": touching, "uneven gaps": uneven, "two views": two_views,
}  # fmt: skip
CURVES: dict[str, Callable[[Path], None]] = {
    "splines": splines, "coarse polylines": coarse, "arcs": arcs,
}  # fmt: skip
