"""What lies before or behind a box along one direction: the box's shadow on the paper.

The shadow of a box is a polygon, and its sides are square to the images of the box's edges. In
space each side is a plane along the direction, so that nothing need be brought to paper.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3, cross, dot, unit
from holoptic.tolerance import ROUNDING

Box3 = tuple[Vec3, Vec3]
"""Lowest and highest corner of a box along the axes, mm."""
_ALONG = ROUNDING
"""An axis that leans less to the direction than this has no image (sine squared)."""
_LEVEL_MM = ROUNDING
"""A piece that rises less than this toward a side runs along it."""
_SAMPLED_MM = 0.01
"""A sampled curve may bulge so far beyond its points."""
_NONE = np.zeros(3)
Hull = np.ndarray
"""Twelve figures: centre, half axes as an ellipse, half sizes as a box; mm."""
_AXES: tuple[Vec3, ...] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


class Hulls:
    """Simple bodies about curves and boxes: each a centre and how far it reaches from there."""

    def __init__(self, rows: Iterable[Hull]) -> None:
        several = list(rows)
        found = np.concatenate(several) if several else np.empty(0)
        parts: np.ndarray = found.reshape(-1, 4, 3).transpose(1, 0, 2)
        self._centres, self._a, self._b, self._halves = parts

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


def hull_of(curve: Curve) -> Hull:
    """Return a hull about a curve: of an arc about its whole ellipse."""
    if isinstance(curve, Segment):
        start, end = np.array([curve.start, curve.end])
        return np.concatenate([(start + end) / 2, (end - start) / 2, _NONE, _NONE])
    if isinstance(curve, EllipticArc):
        x_axis = curve.major * np.array(curve.x_axis)
        y_axis = curve.minor * np.array(cross(curve.normal, curve.x_axis))
        return np.concatenate([curve.centre, x_axis, y_axis, _NONE])
    points = np.array(curve.points)
    return hull_about((points.min(axis=0) - _SAMPLED_MM, points.max(axis=0) + _SAMPLED_MM))


def hull_about(box: tuple[Any, Any]) -> Hull:
    """Return a box, given by its lowest and highest corner, as a hull."""
    low, high = np.array(box)
    return np.concatenate([(low + high) / 2, _NONE, _NONE, (high - low) / 2])


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
        return cls(normals, -Hulls([hull_about(box)]).least(-normals)[0] + margin)

    def meets(self, hulls: Hulls) -> np.ndarray:
        """Say of each of some bodies whether it may lie in the shadow (n)."""
        return np.asarray((hulls.least(self.normals) <= self.reach).all(axis=1))

    def with_margin(self, margin: float) -> Shadow:
        """Return the shadow with so much more about it, mm."""
        return Shadow(self.normals, self.reach + margin)

    def about(self, hulls: Hulls) -> Shadow:
        """Return the shadow that holds some bodies too."""
        most = -hulls.least(-self.normals)
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
