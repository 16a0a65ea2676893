"""What lies before or behind a box along one direction: the box's shadow on the paper.

The shadow of a box is a polygon, and its sides are square to the images of the box's edges. In
space each side is a plane along the direction, so that nothing need be brought to paper.
"""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3, cross, dot, unit

Box3 = tuple[Vec3, Vec3]
"""Lowest and highest corner of a box along the axes, mm."""
_ALONG = 1e-9
"""An axis that leans less to the direction than this has no image (sine squared)."""
_LEVEL_MM = 1e-9
"""A piece that rises less than this toward a side runs along it."""
_SAMPLED_MM = 0.01
"""A sampled curve may bulge so far beyond its points."""
_AXES: tuple[Vec3, ...] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


class Hulls:
    """Simple bodies about curves and boxes: each a centre and how far it reaches from there."""

    def __init__(self, curves: Iterable[Curve], boxes: Iterable[Box3] = ()) -> None:
        rows = [_hull(curve) for curve in curves]
        rows += [_about(*box) for box in boxes]
        found = np.array(rows, float).reshape(-1, 4, 3)
        self._centres, self._a, self._b, self._halves = found.transpose(1, 0, 2)

    def least(self, normals: np.ndarray) -> np.ndarray:
        """Return the least of normal · p on each body (n × k); arcs count as whole ellipses."""
        n = normals.T
        round_about = np.hypot(self._a @ n, self._b @ n)
        least: np.ndarray = self._centres @ n - round_about - self._halves @ np.abs(n)
        return least

    def box(self) -> Box3 | None:
        """Return the box about all of them; None about nothing."""
        if not len(self._centres):
            return None
        least = self.least(np.array([*_AXES, *-np.array(_AXES)])).min(axis=0).tolist()
        return (least[0], least[1], least[2]), (-least[3], -least[4], -least[5])


def _hull(curve: Curve) -> tuple[object, ...]:
    """Return a curve's centre, half axes as an ellipse, and half sizes as a box."""
    none = (0.0, 0.0, 0.0)
    if isinstance(curve, Segment):
        (a, b, c), (d, e, f) = curve.start, curve.end
        return ((a + d) / 2, (b + e) / 2, (c + f) / 2), ((d - a) / 2, (e - b) / 2, (f - c) / 2), \
            none, none  # fmt: skip
    if isinstance(curve, EllipticArc):
        (a, b, c), (d, e, f) = curve.x_axis, cross(curve.normal, curve.x_axis)
        major, minor = curve.major, curve.minor
        return curve.centre, (major * a, major * b, major * c), \
            (minor * d, minor * e, minor * f), none  # fmt: skip
    points = np.array(curve.points)
    return _about(points.min(axis=0) - _SAMPLED_MM, points.max(axis=0) + _SAMPLED_MM)


def _about(low: object, high: object) -> tuple[object, ...]:
    bottom, top = np.array(low), np.array(high)
    none = (0.0, 0.0, 0.0)
    return (bottom + top) / 2, none, none, (top - bottom) / 2


class Shadow:
    """The points p with normal · p ≤ reach for each of some normals (k × 3) square to a direction.

    The normals come in pairs that look opposite ways, the second half opposite to the first.
    """

    def __init__(self, normals: np.ndarray, reach: np.ndarray) -> None:
        self.normals, self.reach = normals, reach

    @classmethod
    def of_box(cls, box: Box3, toward: Vec3, margin: float) -> Shadow:
        """Return the shadow of a box with some margin (mm) along a direction."""
        sides = [cross(unit(toward), axis) for axis in _AXES]
        one_way = np.array([unit(side) for side in sides if dot(side, side) > _ALONG])
        normals = np.concatenate([one_way, -one_way])
        return cls(normals, -Hulls((), [box]).least(-normals)[0] + margin)

    def meets(self, hulls: Hulls) -> np.ndarray:
        """Say of each of some bodies whether it may lie in the shadow (n)."""
        return np.asarray((hulls.least(self.normals) <= self.reach).all(axis=1))

    def with_margin(self, margin: float) -> Shadow:
        """Return the shadow with so much more about it, mm."""
        return Shadow(self.normals, self.reach + margin)

    def about(self, curves: Iterable[Curve]) -> Shadow:
        """Return the shadow that holds whole curves too."""
        most = -Hulls(curves).least(-self.normals)
        return Shadow(self.normals, np.maximum(self.reach, most.max(axis=0, initial=-np.inf)))

    def shares(self, starts: np.ndarray, ends: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Return from which to which share straight pieces (n × 3 each) lie in the shadow.

        Where a piece lies outside, the first share is not below the second. Each side of the shadow
        leaves the shares t with t · along ≤ room (Cyrus and Beck's way of clipping).
        """
        room = self.reach - starts @ self.normals.T
        along = (ends - starts) @ self.normals.T
        with np.errstate(divide="ignore", invalid="ignore"):
            at = room / along
        low = np.where(along < -_LEVEL_MM, at, 0.0).max(axis=1).clip(min=0.0)
        high = np.where(along > _LEVEL_MM, at, 1.0).min(axis=1).clip(max=1.0)
        outside = ((np.abs(along) <= _LEVEL_MM) & (room < 0.0)).any(axis=1)
        return np.where(outside, 1.0, low), np.where(outside, 0.0, high)
