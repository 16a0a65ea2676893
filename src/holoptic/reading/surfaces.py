"""Surfaces that are seen edge-on in no view, and part the space between the drawn lines further."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from holoptic.curves.vectors import Vec3
from holoptic.part.walls import Wall
from holoptic.tolerance import SOLVED


@dataclass(frozen=True)
class Surface:
    """The points x of a box where x·A·x + b·x + c = 0; on its inner side the sum is negative.

    `low` and `high` are the corners of the box, mm: beyond them the surface is not there.
    """

    a: tuple[tuple[float, float, float], ...]
    b: Vec3
    c: float
    low: Vec3
    high: Vec3
    wall: Wall | None = None
    """The surface as a solid can be bounded by it."""

    def holds(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) whether they lie in the box on the inner side."""
        a, b = np.array(self.a), np.array(self.b)
        value = np.einsum("ni,ij,nj->n", points, a, points) + points @ b + self.c
        inside = ((points > self.low) & (points < self.high)).all(axis=1)
        found: np.ndarray = (value < 0) & inside
        return found

    def holds_one(self, p: Vec3) -> bool:
        """Say the same of one point."""
        if not all(lo < x < hi for x, lo, hi in zip(p, self.low, self.high, strict=True)):
            return False
        return self._value(p) < 0

    def _value(self, p: Vec3) -> float:
        total = self.c
        for i in range(3):
            total += self.b[i] * p[i]
            for j in range(3):
                if self.a[i][j]:
                    total += self.a[i][j] * p[i] * p[j]
        return total

    def roots(self, depth: int, point: Vec3) -> list[tuple[float, Vec3]]:
        """Return where a line along an axis through a point meets it, with unit normals."""
        base = list(point)
        base[depth] = 0.0
        square = self.a[depth][depth]
        linear = self.b[depth] + sum(
            (self.a[depth][j] + self.a[j][depth]) * base[j] for j in range(3) if j != depth
        )
        rest = self._value((base[0], base[1], base[2]))
        found = []
        for at in _quadratic(square, linear, rest):
            base[depth] = at
            if all(lo < x < hi for x, lo, hi in zip(base, self.low, self.high, strict=True)):
                found.append((at, self._normal((base[0], base[1], base[2]))))
        return found

    def _normal(self, p: Vec3) -> Vec3:
        way = [
            self.b[i] + sum((self.a[i][j] + self.a[j][i]) * p[j] for j in range(3))
            for i in range(3)
        ]
        size = math.sqrt(sum(x * x for x in way)) or 1.0
        return way[0] / size, way[1] / size, way[2] / size


def _quadratic(a: float, b: float, c: float) -> list[float]:
    if abs(a) < SOLVED:
        return [-c / b] if abs(b) > SOLVED else []
    under = b * b - 4 * a * c
    if under < 0:
        return []
    half = math.sqrt(under)
    return sorted(((-b - half) / (2 * a), (-b + half) / (2 * a)))


_FAR_MM = 1e6


def everywhere() -> tuple[Vec3, Vec3]:
    """Return the corners of a box that holds all of space."""
    return (-_FAR_MM, -_FAR_MM, -_FAR_MM), (_FAR_MM, _FAR_MM, _FAR_MM)
