"""A whole of several parts, each turned and placed: what an arrangement comes down to."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from holoptic.curves.vectors import Vec3, add, dot
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

    Its id is that of the placed part; lengths in mm.
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

    @property
    def offset(self) -> Vec3:
        """From its origin as it was described to where it stands, mm."""
        return add(self.at, self.moved)

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
