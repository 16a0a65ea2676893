"""A whole of several parts, each turned and placed: what an arrangement comes down to."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3, add, dot, subtract
from holoptic.part.part import ImportedSolid, Part

PartSource = Part | ImportedSolid
"""What one part can be."""

Turning = tuple[Vec3, Vec3, Vec3]
"""The rows of a rotation matrix."""

UPRIGHT: Turning = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
"""No turn at all."""


@dataclass(frozen=True)
class Body:
    """A part in its place: turned about its own origin, set off by `at`, and spread by `moved`.

    Its id is that of the placed part; lengths in mm. `colour` is `#rrggbb` or empty.
    """

    id: str
    name: str
    part: str
    """The id of the part that it is."""
    source: PartSource
    turning: Turning = UPRIGHT
    at: Vec3 = (0.0, 0.0, 0.0)
    moved: Vec3 = (0.0, 0.0, 0.0)
    material: str = ""
    colour: str = ""

    @property
    def offset(self) -> Vec3:
        """From its origin as it was described to where it stands, mm."""
        return add(self.at, self.moved)

    def described(self, point: Vec3) -> Vec3:
        """Return the point of its part that stands at a place, mm: the inverse of `place`."""
        return turned_back(self.turning, subtract(point, self.offset))

    def curve_of(self, curve: Curve) -> Curve:
        """Return a curve of it as its part was described."""
        if isinstance(curve, Segment):
            return Segment(self.described(curve.start), self.described(curve.end))
        if isinstance(curve, EllipticArc):
            normal, x_axis = (turned_back(self.turning, v) for v in (curve.normal, curve.x_axis))
            return replace(
                curve, centre=self.described(curve.centre), normal=normal, x_axis=x_axis
            )  # fmt: skip
        return replace(curve, points=tuple(map(self.described, curve.points)))

    def place(self, point: Vec3) -> Vec3:
        """Return where a point of its part stands, mm."""
        return add(turned(self.turning, point), self.offset)


@dataclass(frozen=True)
class Whole:
    """Several bodies that are looked at together."""

    name: str
    bodies: tuple[Body, ...]
    number: str = ""
    type: Literal["whole"] = "whole"

    def moved(self, by: dict[str, Vec3]) -> Whole:
        """Return the whole with bodies spread, by their ids; the others stand where they belong."""
        nowhere = (0.0, 0.0, 0.0)
        return replace(
            self, bodies=tuple(replace(b, moved=by.get(b.id, nowhere)) for b in self.bodies)
        )


Source = Part | ImportedSolid | Whole
"""What can be drawn."""


def turned(turning: Turning, point: Vec3) -> Vec3:
    """Return a point turned about the origin."""
    return dot(turning[0], point), dot(turning[1], point), dot(turning[2], point)


def turned_back(turning: Turning, point: Vec3) -> Vec3:
    """Return the point that `turned` brings to `point`: a rotation's inverse is its transpose."""
    (a, b, c), (d, e, f), (g, h, i) = turning
    return turned(((a, d, g), (b, e, h), (c, f, i)), point)


def rotation(axis: Vec3, angle: float) -> Turning:
    """Return the rotation by an angle (radians) about an axis of length 1 (Rodrigues)."""
    (x, y, z), c, s = axis, math.cos(angle), math.sin(angle)
    d = 1 - c
    return (
        (c + d * x * x, d * x * y - s * z, d * x * z + s * y),
        (d * x * y + s * z, c + d * y * y, d * y * z - s * x),
        (d * x * z - s * y, d * y * z + s * x, c + d * z * z),
    )


def after(second: Turning, first: Turning) -> Turning:
    """Return the rotation that does one after another."""
    a, b, c = (turned(second, (x, y, z)) for x, y, z in zip(*first, strict=True))
    return (a[0], b[0], c[0]), (a[1], b[1], c[1]), (a[2], b[2], c[2])
