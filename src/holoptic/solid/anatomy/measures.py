"""Volumes and boxes of faces in closed form, from their figures and those of their edges."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import numpy as np

from holoptic.curves.many import arc_boxes
from holoptic.curves.vectors import Vec3, add, cross, dot
from holoptic.solid.anatomy.rows import (
    ARC,
    BALL,
    BOUNDS,
    CONE,
    CYLINDER,
    PLANE,
    SAMPLED,
    TORUS,
    EdgeRow,
    FaceRow,
)
from holoptic.tolerance import SHARE

RULED = (PLANE, CYLINDER, CONE)
"""Each point of such a face lies between two of its border: a box about that holds it."""


_NOTHING = (0.0, 0.0, 0.0)


def volume_under(row: FaceRow, around: Iterable[tuple[Vec3 | None, int]]) -> float | None:
    """Return the volume of the cone on a face from the origin, mm³; None where no closed form is
    known. `around` are the areas its edges sweep, each with its way round: 0 along the edge,
    1 against it, 2 where it is no border.
    """
    if row.kind == PLANE:
        area = _area(around)
        return None if area is None else dot(area, _vector(row.figures, 0)) / 3
    if row.kind in RULED and row.is_whole:
        return _under_rectangle(row)
    return None


def _area(around: Iterable[tuple[Vec3 | None, int]]) -> Vec3 | None:
    """Return the area that edges go round, as a normal of that length, mm²."""
    x = y = z = 0.0
    for swept, way in around:
        if swept is None:
            return None
        if way > 1:
            continue
        side = -1.0 if way else 1.0
        x, y, z = x + side * swept[0], y + side * swept[1], z + side * swept[2]
    return x, y, z


def swept_area(row: EdgeRow) -> Vec3 | None:
    """Return the area that the line from the origin to a place on an edge sweeps along it, as a
    vector (½ ∫ r × dr, Stokes), mm²; None for samples.
    """
    kind, figures, _ = row
    if kind == SAMPLED:
        return None
    place, x, (low, high) = _vector(figures, 0), _vector(figures, 3), figures[9:]
    if kind != ARC:
        return add(_NOTHING, cross(place, x), (high - low) / 2)
    y = _vector(figures, 6)
    run = _sum(x, math.cos(high) - math.cos(low), y, math.sin(high) - math.sin(low))
    return _sum(cross(place, run), 0.5, cross(x, y), (high - low) / 2)


def _under_rectangle(row: FaceRow) -> float:
    """Return the volume under a cylinder or a cone that fills its bounds: a third of ∫ r·n dA."""
    figures = row.figures
    place, x, y, z = (_vector(figures, first) for first in (0, 3, 6, 9))
    radius, angle, sign, u0, u1, v0, v1 = figures[12:]
    cos, sin = math.cos(angle), math.sin(angle)
    outward = _sum(x, math.sin(u1) - math.sin(u0), y, math.cos(u0) - math.cos(u1))
    turn = u1 - u0
    lean = cos * (dot(place, outward) + turn * radius) - sin * turn * dot(place, z)
    return sign * lean * (v1 - v0) * (radius + sin * (v0 + v1) / 2) / 3


def _sum(a: Vec3, by: float, b: Vec3, too: float) -> Vec3:
    """Return a · by + b · too."""
    return a[0] * by + b[0] * too, a[1] * by + b[1] * too, a[2] * by + b[2] * too


def _vector(figures: Sequence[float], first: int) -> Vec3:
    return figures[first], figures[first + 1], figures[first + 2]


def edge_boxes(rows: Sequence[EdgeRow]) -> np.ndarray:
    """Return the boxes that just hold edges (n × 6: low, high; mm); samples by their points."""
    figures = np.array([row.figures for row in rows]).reshape(-1, 11)
    kinds = np.array([row.kind for row in rows])
    place, x, y = figures[:, :3], figures[:, 3:6], figures[:, 6:9]
    low, high = figures[:, 9:10], figures[:, 10:]
    ends = np.stack([place + low * x, place + high * x])
    boxes = np.hstack([ends.min(axis=0), ends.max(axis=0)])
    arcs = np.flatnonzero(kinds == ARC)
    if len(arcs):
        boxes[arcs] = arc_boxes(place[arcs], x[arcs], y[arcs], low[arcs], high[arcs])
    for k in np.flatnonzero(kinds == SAMPLED):
        points = rows[int(k)].samples
        assert points is not None
        boxes[k] = (*points.min(axis=0), *points.max(axis=0))
    return boxes


def turning_points(row: FaceRow) -> list[Vec3] | None:
    """Return the places inside a face farthest out along ± length, depth and height, mm: with the
    box of its border they give its own. None where they are not known in closed form.
    """
    if row.kind in RULED:
        return []
    if row.kind not in (BALL, TORUS) or not row.is_whole:
        return None
    return [
        _on_round(row, u, v)
        for axis in range(3)
        for side in (1.0, -1.0)
        for u, v in _square_to(row, axis, side)
        if _is_inside(row, u, v)
    ]


def _square_to(row: FaceRow, axis: int, side: float) -> list[tuple[float, float]]:
    """Return the parameters (u, v) of a ball or a ring where its normal runs along ± an axis."""
    x, y, z = (side * row.figures[first + axis] for first in (3, 6, 9))
    flat = math.hypot(x, y)
    u = math.atan2(y, x) if flat > SHARE else row.figures[BOUNDS][0]
    found = [(u, math.atan2(z, flat))]
    if row.kind == TORUS:  # and on its inner side
        found.append((u + math.pi if flat > SHARE else u, math.atan2(z, -flat)))
    return found


def _is_inside(row: FaceRow, u: float, v: float) -> bool:
    first, last, low, high = row.figures[BOUNDS]
    return (u - first) % math.tau <= last - first and (v - low) % math.tau <= high - low


def _on_round(row: FaceRow, u: float, v: float) -> Vec3:
    place, x, y, z = (_vector(row.figures, first) for first in (0, 3, 6, 9))
    size, tube = row.figures[12:14]
    big, small = (size, tube) if row.kind == TORUS else (0.0, size)
    out = big + small * math.cos(v)
    return add(add(add(place, x, out * math.cos(u)), y, out * math.sin(u)), z, small * math.sin(v))
