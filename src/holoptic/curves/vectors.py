"""Small vectors as tuples: hashable, picklable and quick for a handful of points."""

from __future__ import annotations

import math

Vec2 = tuple[float, float]
Vec3 = tuple[float, float, float]
Matrix23 = tuple[Vec3, Vec3]
"""A parallel projection: paper = M · point, rows X (right) and Y (up)."""


def apply(matrix: Matrix23, point: Vec3) -> Vec2:
    """Project a point (mm) to paper (mm)."""
    (a, b, c), (d, e, f) = matrix
    x, y, z = point
    return a * x + b * y + c * z, d * x + e * y + f * z


def add(a: Vec3, b: Vec3, scale: float = 1.0) -> Vec3:
    """Return a + scale · b."""
    return a[0] + scale * b[0], a[1] + scale * b[1], a[2] + scale * b[2]


def subtract(a: Vec3, b: Vec3) -> Vec3:
    """Return a − b."""
    return a[0] - b[0], a[1] - b[1], a[2] - b[2]


def dot(a: Vec3, b: Vec3) -> float:
    """Return the scalar product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vec3, b: Vec3) -> Vec3:
    """Return the vector product."""
    return (
        a[1] * b[2] - a[2] * b[1],
        a[2] * b[0] - a[0] * b[2],
        a[0] * b[1] - a[1] * b[0],
    )


def unit(a: Vec3) -> Vec3:
    """Return the vector of length 1 along `a`. Raises ZeroDivisionError for a zero vector."""
    size = math.sqrt(dot(a, a))
    return a[0] / size, a[1] / size, a[2] / size


def distance(a: Vec3, b: Vec3) -> float:
    """Return the distance of two points."""
    return math.dist(a, b)


def mix(a: Vec3, b: Vec3, t: float) -> Vec3:
    """Return the point that is `t` of the way from a to b."""
    return a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), a[2] + t * (b[2] - a[2])


def middle(a: Vec3, b: Vec3) -> Vec3:
    """Return the point half way between a and b."""
    return mix(a, b, 0.5)
