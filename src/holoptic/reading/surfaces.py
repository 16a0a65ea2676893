"""Surfaces that are seen edge-on in no view, and part the space between the drawn lines further."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from holoptic.curves.vectors import Vec3, unit
from holoptic.part.walls import Tyre, Wall
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
        return Bundle((self,)).holds(points)[:, 0]

    def _value(self, p: Vec3) -> float:
        total = self.c
        for i in range(3):
            total += self.b[i] * p[i]
            for j in range(3):
                if self.a[i][j]:
                    total += self.a[i][j] * p[i] * p[j]
        return total

    @cached_property
    def is_flat(self) -> bool:
        """Whether it is a plane."""
        return not any(any(row) for row in self.a)

    def roots(self, depth: int, point: Vec3) -> list[tuple[float, Vec3]]:
        """Return where a line along an axis through a point meets it, with unit normals."""
        base = list(point)
        base[depth] = 0.0
        if self.is_flat:
            rest = self.c + self.b[0] * base[0] + self.b[1] * base[1] + self.b[2] * base[2]
            found = [-rest / self.b[depth]] if abs(self.b[depth]) > SOLVED else []
        else:
            square = self.a[depth][depth]
            linear = self.b[depth] + sum(
                (self.a[depth][j] + self.a[j][depth]) * base[j] for j in range(3) if j != depth
            )
            found = _quadratic(square, linear, self._value((base[0], base[1], base[2])))
        return [
            (at, self._normal((base[0], base[1], base[2])))
            for at in found if self._is_in_box(base, depth, at)
        ]  # fmt: skip

    def _is_in_box(self, base: list[float], depth: int, at: float) -> bool:
        base[depth] = at
        (x, y, z), (a, b, c), (d, e, f) = base, self.low, self.high
        return a < x < d and b < y < e and c < z < f

    def _normal(self, p: Vec3) -> Vec3:
        if self.is_flat:
            return self.b if abs(math.hypot(*self.b) - 1) < SOLVED else unit(self.b)
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


class Bundle:
    """Surfaces of which many points are asked at once."""

    def __init__(self, surfaces: Sequence[Surface | RingSurface]) -> None:
        self._rings = [(k, s) for k, s in enumerate(surfaces) if isinstance(s, RingSurface)]
        self._factors = np.array([_factors(surface) for surface in surfaces]).reshape(-1, 10)
        self._low = np.array([surface.low for surface in surfaces]).reshape(-1, 3)
        self._high = np.array([surface.high for surface in surfaces]).reshape(-1, 3)
        self._is_boxed = bool((self._high < _FAR_MM).any())
        self._bits = 1 << np.arange(len(surfaces), dtype=np.int64)

    def holds(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) whether they lie on the inner side of each surface (n × m)."""
        x, y, z = points.T
        powers = np.column_stack([x * x, y * y, z * z, x * y, y * z, z * x, x, y, z,
                                  np.ones(len(points))])  # fmt: skip
        found: np.ndarray = powers @ self._factors.T < 0
        for number, ring in self._rings:
            found[:, number] = ring.holds(points)
        if self._is_boxed:
            inside = (points[:, None] > self._low) & (points[:, None] < self._high)
            found &= inside.all(axis=2)
        return found

    def bits(self, points: np.ndarray) -> np.ndarray:
        """Return for each point (n × 3) a bit for every surface on whose inner side it lies."""
        found: np.ndarray = self.holds(points) @ self._bits
        return found


def _factors(surface: Surface | RingSurface) -> list[float]:
    if isinstance(surface, RingSurface):
        return [0.0] * 10
    a = surface.a
    return [
        a[0][0], a[1][1], a[2][2], a[0][1] + a[1][0], a[1][2] + a[2][1], a[2][0] + a[0][2],
        *surface.b, surface.c,
    ]  # fmt: skip


_FAR_MM = 1e6


def everywhere() -> tuple[Vec3, Vec3]:
    """Return the corners of a box that holds all of space."""
    return (-_FAR_MM, -_FAR_MM, -_FAR_MM), (_FAR_MM, _FAR_MM, _FAR_MM)


class RingSurface:
    """The surface of a ring of round section; on its inner side is the ring."""

    def __init__(self, wall: Tyre) -> None:
        self.wall = wall
        self._depth = next(axis for axis in range(3) if abs(wall.way[axis]) > 0.5)
        self.low, self.high = everywhere()

    def holds(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) whether they lie in the ring."""
        off = points - np.array(self.wall.centre)
        along = off[:, self._depth]
        across = np.sqrt(np.maximum((off**2).sum(axis=1) - along**2, 0.0))
        found: np.ndarray = np.hypot(across - self.wall.radius, along) < self.wall.thick
        return found

    def roots(self, depth: int, point: Vec3) -> list[tuple[float, Vec3]]:
        """Return where a line along an axis through a point meets it, with unit normals."""
        off = [x - c for x, c in zip(point, self.wall.centre, strict=True)]
        off[depth] = 0.0
        found = []
        for at in self._along_axis(off) if depth == self._depth else self._across(off, depth):
            place = list(off)
            place[depth] = at
            found.append((at + self.wall.centre[depth], self._normal(place)))
        return found

    def _along_axis(self, off: list[float]) -> list[float]:
        across = math.sqrt(sum(x * x for x in off))
        rise = self.wall.thick**2 - (across - self.wall.radius) ** 2
        return [-math.sqrt(rise), math.sqrt(rise)] if rise > 0 else []

    def _across(self, off: list[float], depth: int) -> list[float]:
        """Two circles about the axis at the line's level: of which the line meets each twice."""
        rise = self.wall.thick**2 - off[self._depth] ** 2
        if rise <= 0:
            return []
        aside = sum(x * x for k, x in enumerate(off) if k not in (depth, self._depth))
        found = []
        for sign in (-1.0, 1.0):
            reach = self.wall.radius + sign * math.sqrt(rise)
            half = reach**2 - aside
            if reach > 0 and half > 0:
                found += [-math.sqrt(half), math.sqrt(half)]
        return sorted(found)

    def _normal(self, place: list[float]) -> Vec3:
        across = math.sqrt(sum(x * x for k, x in enumerate(place) if k != self._depth)) or 1.0
        share = (across - self.wall.radius) / across
        way = [x * share for x in place]
        way[self._depth] = place[self._depth]
        size = math.sqrt(sum(x * x for x in way)) or 1.0
        return way[0] / size, way[1] / size, way[2] / size
