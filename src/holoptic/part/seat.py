"""How a part stands in what is drawn: by itself, or turned and set off among others."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from holoptic.curves.vectors import Vec3
from holoptic.part.part import Part
from holoptic.part.provenance import Given, given_offsets
from holoptic.part.whole import Body, Turning
from holoptic.tolerance import FINE

_AXES = (0, 1, 2)


@dataclass(frozen=True)
class Seat:
    """Where a part's axes lie among those of the drawing, and where its origin is, mm.

    `ways` has for each axis of the part that of the drawing, and 1, or −1 where it runs against it.
    """

    ways: tuple[tuple[int, int], ...] = ((0, 1), (1, 1), (2, 1))
    origin: Vec3 = (0.0, 0.0, 0.0)

    def along(self, axis: int, value: float) -> tuple[int, float]:
        """Return where a place along an axis of the part lies: along which axis, and at what."""
        other, way = self.ways[axis]
        return other, way * value + self.origin[other]

    def axis(self, axis: int) -> int:
        """Return the axis of the drawing along which one of the part lies."""
        return self.ways[axis][0]

    def axis_within(self, axis: int) -> int:
        """Return the axis of the part that lies along one of the drawing."""
        return next(own for own in _AXES if self.axis(own) == axis)

    def is_reversed(self, axis: int) -> bool:
        """Say whether an axis of the part runs against that of the drawing."""
        return self.ways[axis][1] < 0

    def place(self, point: Vec3) -> Vec3:
        """Return where a point of the part lies, mm."""
        found = dict(self.along(axis, point[axis]) for axis in _AXES)
        return found[0], found[1], found[2]

    def givens(self, part: Part) -> list[Given]:
        """Return the distances that the part's description gives, where they lie."""
        return [self._given(given) for given in given_offsets(part)]

    def _given(self, given: Given) -> Given:
        axis, at = self.along(given.axis, given.at)
        far = given.far != self.is_reversed(given.axis)
        return replace(given, axis=axis, at=at, far=far)


AS_DESCRIBED = Seat()
"""A part by itself."""


def seat_of(body: Body) -> Seat | None:
    """Return how a body stands, None where it is turned so that its axes lie along no others."""
    ways = _ways(body.turning)
    return None if ways is None else Seat(ways, body.offset)


def _ways(turning: Turning) -> tuple[tuple[int, int], ...] | None:
    """Return for each column of a rotation, the image of an axis, along which axis it lies."""
    found = []
    for column in zip(*turning, strict=True):
        axis = int(np.argmax(np.abs(column)))
        if abs(abs(column[axis]) - 1.0) > FINE:
            return None
        found.append((axis, 1 if column[axis] > 0 else -1))
    return tuple(found)
