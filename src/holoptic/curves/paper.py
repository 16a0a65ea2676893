"""Straight lines on paper (2D, mm, X right, Y up)."""

from __future__ import annotations

import math

from holoptic.curves.vectors import Vec2
from holoptic.tolerance import PARALLEL


def direction(start: Vec2, end: Vec2) -> Vec2:
    """Return the unit direction from start to end. Raises ZeroDivisionError for one point."""
    size = math.dist(start, end)
    return (end[0] - start[0]) / size, (end[1] - start[1]) / size


def offset_from_line(point: Vec2, origin: Vec2, along: Vec2) -> float:
    """Return the signed distance of a point from a line; positive to the left of `along`."""
    return along[0] * (point[1] - origin[1]) - along[1] * (point[0] - origin[0])


def position_on_line(point: Vec2, origin: Vec2, along: Vec2) -> float:
    """Return how far along the line the foot of `point` lies."""
    return along[0] * (point[0] - origin[0]) + along[1] * (point[1] - origin[1])


def crossing(p: Vec2, along_p: Vec2, q: Vec2, along_q: Vec2) -> Vec2 | None:
    """Return where two lines cross, or None where they are parallel; unit directions."""
    sine = along_p[0] * along_q[1] - along_p[1] * along_q[0]
    if abs(sine) < PARALLEL:
        return None
    t = ((q[0] - p[0]) * along_q[1] - (q[1] - p[1]) * along_q[0]) / sine
    return p[0] + t * along_p[0], p[1] + t * along_p[1]


def distance_to_segment(point: Vec2, start: Vec2, end: Vec2) -> float:
    """Return the distance of a point from a piece of line."""
    if start == end:
        return math.dist(point, start)
    along = direction(start, end)
    t = min(max(position_on_line(point, start, along), 0.0), math.dist(start, end))
    return math.dist(point, (start[0] + t * along[0], start[1] + t * along[1]))


def extent(points: list[Vec2]) -> tuple[float, float, float, float]:
    """Return (xmin, ymin, xmax, ymax). Raises ValueError for no points."""
    xs = [point[0] for point in points]
    ys = [point[1] for point in points]
    return min(xs), min(ys), max(xs), max(ys)
