"""Shapes whose faces are parallel to no axis: cones, balls, skew corners, pyramids.

Each knows its surfaces, which part space into more cells, where it is, and the operation it is.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.reading.planes import placed
from holoptic.reading.surfaces import Surface
from holoptic.tolerance import COINCIDENT_MM, REGULAR_MM, ROUNDING

_ZERO = ((0.0, 0.0, 0.0),) * 3


@dataclass(frozen=True)
class ConeShape:
    """A cone or frustum about an axis: radii at two levels of its depth axis, mm."""

    depth: int
    centre: Vec2
    low: float
    high: float
    low_radius: float
    high_radius: float

    def surfaces(self) -> list[Surface]:
        """Return its slanted surface: r² = (r₀ + k (w − w₀))² about the axis."""
        slope = (self.high_radius - self.low_radius) / (self.high - self.low)
        start = self.low_radius - slope * self.low
        a = [[0.0] * 3 for _ in range(3)]
        b = [0.0, 0.0, 0.0]
        for axis, middle in zip(_others(self.depth), self.centre, strict=True):
            a[axis][axis] = 1.0
            b[axis] = -2 * middle
        a[self.depth][self.depth] = -(slope**2)
        b[self.depth] = -2 * slope * start
        c = self.centre[0] ** 2 + self.centre[1] ** 2 - start**2
        reach = max(self.low_radius, self.high_radius) + 1.0
        low = placed(self.depth, (self.centre[0] - reach, self.centre[1] - reach), self.low)
        high = placed(self.depth, (self.centre[0] + reach, self.centre[1] + reach), self.high)
        rows = tuple((row[0], row[1], row[2]) for row in a)
        return [Surface(rows, (b[0], b[1], b[2]), c, low, high)]

    def inside(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) whether they lie in the shape."""
        u, v = _others(self.depth)
        off = np.hypot(points[:, u] - self.centre[0], points[:, v] - self.centre[1])
        at = points[:, self.depth]
        share = (at - self.low) / (self.high - self.low)
        radius = self.low_radius + share * (self.high_radius - self.low_radius)
        found: np.ndarray = (share > 0) & (share < 1) & (off < radius)
        return found


@dataclass(frozen=True)
class BallShape:
    """A ball, or the half of it on one side of its centre along an axis."""

    centre: Vec3
    radius: float
    half: tuple[int, bool] | None = None
    """Axis, and whether it is the half toward greater values."""

    def surfaces(self) -> list[Surface]:
        """Return its surface."""
        identity = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
        x, y, z = self.centre
        reach = self.radius + 1.0
        low, high = ((x + s * reach, y + s * reach, z + s * reach) for s in (-1, 1))
        c = x * x + y * y + z * z - self.radius**2
        return [Surface(identity, (-2 * x, -2 * y, -2 * z), c, low, high)]

    def inside(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) whether they lie in the shape."""
        off = points - np.array(self.centre)
        found: np.ndarray = (off**2).sum(axis=1) < self.radius**2
        if self.half is not None:
            axis, upper = self.half
            found &= (off[:, axis] > 0) == upper
        return found


@dataclass(frozen=True)
class CornerShape:
    """The corner of the crate that a skew cut takes off, by its three offsets (mm)."""

    corner: Vec3
    far: tuple[bool, bool, bool]
    offsets: Vec3

    def surfaces(self) -> list[Surface]:
        """Return the skew plane; its inner side is the corner."""
        signs = [-1.0 if far else 1.0 for far in self.far]
        b = [s / o for s, o in zip(signs, self.offsets, strict=True)]
        c = -1.0 - sum(x * y for x, y in zip(b, self.corner, strict=True))
        ends = [x + s * o for x, s, o in zip(self.corner, signs, self.offsets, strict=True)]
        low = [min(x, e) - COINCIDENT_MM for x, e in zip(self.corner, ends, strict=True)]
        high = [max(x, e) + COINCIDENT_MM for x, e in zip(self.corner, ends, strict=True)]
        return [Surface(_ZERO, (b[0], b[1], b[2]), c, (low[0], low[1], low[2]),
                        (high[0], high[1], high[2]))]  # fmt: skip

    def inside(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) whether they lie in the shape."""
        return self.surfaces()[0].holds(points)


@dataclass(frozen=True)
class TaperShape:
    """A pyramid or frustum: its corners at the wide end, and how much the other end is of it.

    Corners lie in the view along `depth`; `wide` and `narrow` are the levels of the two ends.
    """

    depth: int
    centre: Vec2
    corners: tuple[Vec2, ...]
    wide: float
    narrow: float
    share: float

    def surfaces(self) -> list[Surface]:
        """Return its slanted planes that are parallel to no axis; the others are drawn edge-on."""
        found = []
        low, high = sorted((self.wide, self.narrow))
        reach = max(math.dist(corner, self.centre) for corner in self.corners) + 1.0
        box = [placed(self.depth, (self.centre[0] + s * reach, self.centre[1] + s * reach), at)
               for s, at in ((-1, low), (1, high))]  # fmt: skip
        for k, corner in enumerate(self.corners):
            before = self.corners[k - 1]
            a, b = (np.array(placed(self.depth, p, self.wide)) for p in (before, corner))
            tip = np.array(placed(self.depth, self._narrow(corner), self.narrow))
            normal = np.cross(b - a, tip - a)
            normal /= np.linalg.norm(normal)
            if np.abs(normal).min() < COINCIDENT_MM:
                continue
            middle = np.array(placed(self.depth, self.centre, (self.wide + self.narrow) / 2))
            if normal @ (middle - a) > 0:
                normal = -normal
            x, y, z = normal.tolist()
            found.append(Surface(_ZERO, (x, y, z), -float(normal @ a), box[0], box[1]))
        return found

    def _narrow(self, corner: Vec2) -> Vec2:
        (x, y), (a, b) = self.centre, corner
        return x + self.share * (a - x), y + self.share * (b - y)

    def inside(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) whether they lie in the shape."""
        share = (points[:, self.depth] - self.wide) / (self.narrow - self.wide)
        found: np.ndarray = (share > 0) & (share < 1)
        scale = np.maximum(1 + share * (self.share - 1), ROUNDING)
        u, v = _others(self.depth)
        x = (points[:, u] - self.centre[0]) / scale + self.centre[0]
        y = (points[:, v] - self.centre[1]) / scale + self.centre[1]
        for k, (c, d) in enumerate(self.corners):
            a, b = self.corners[k - 1]
            found &= (c - a) * (y - b) - (d - b) * (x - a) > 0
        return found

    @property
    def is_about_centre(self) -> bool:
        """Whether the corners lie evenly about the centre."""
        count = len(self.corners)
        middle = [sum(corner[k] for corner in self.corners) / count for k in (0, 1)]
        return math.dist(middle, self.centre) < REGULAR_MM

    @property
    def is_box(self) -> bool:
        """Whether its corners make a rectangle along the axes."""
        us, vs = ({round(p[k], 2) for p in self.corners} for k in (0, 1))
        return len(self.corners) == 4 and len(us) == len(vs) == 2

    @property
    def is_regular(self) -> bool:
        """Whether its corners make a regular polygon."""
        radii = [math.dist(corner, self.centre) for corner in self.corners]
        sides = [math.dist(c, self.corners[k - 1]) for k, c in enumerate(self.corners)]
        return max(radii) - min(radii) < REGULAR_MM and max(sides) - min(sides) < REGULAR_MM


SkewShape = ConeShape | BallShape | CornerShape | TaperShape


def _others(depth: int) -> tuple[int, int]:
    u, v = (axis for axis in range(3) if axis != depth)
    return u, v
