"""Where a place on a part comes from: which operation made it, and by which given length."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass

from shapely.geometry import LinearRing, Point, Polygon

from holoptic.curves.vectors import Vec3
from holoptic.part.crate import AXIS_LETTERS, Crate
from holoptic.part.operations import Operation, Prism, extent_mm
from holoptic.part.part import Part
from holoptic.units import Length

_ON_MM = 1e-4

_FROM_FAR_END = re.compile(r"\s*(?P<end>[LDH])\s*-(?P<rest>[^-+()LDH]+)")
"""A crate size less one product; `L-9-11` stays as it is, for its rest is no sum of its own."""


@dataclass(frozen=True)
class Given:
    """A distance along an axis that the maker of the part gave.

    `at` is the place in mm from the crate's near end of the axis; `far` says that the given
    length counts from the far end; `operation` is the index of the operation, None: the crate.
    """

    axis: int
    at: float
    far: bool
    length: Length
    operation: int | None


def operation_at(part: Part, point: Vec3) -> int | None:
    """Return the last operation on whose boundary a point of the finished part lies, or None."""
    for index in reversed(range(len(part.operations))):
        if _on_boundary(part.operations[index], part.crate, point):
            return index
    return None


def given_offsets(part: Part) -> list[Given]:
    """Return every distance along an axis that the part's description gives, in its order."""
    crate = part.crate
    givens = [
        Given(axis, length.mm, False, length, None)
        for axis, length in enumerate((crate.length, crate.depth, crate.height))
    ]
    for index, operation in enumerate(part.operations):
        givens += _given_on_face(operation, crate, index)
        givens += _given_inward(operation, crate, index)
    return givens


def _given_on_face(operation: Operation, crate: Crate, index: int) -> Iterator[Given]:
    axes = operation.face.axes
    if isinstance(operation, Prism):
        for corner in operation.outline:
            yield from _both_ways(axes[0], corner.u, crate, index)
            yield from _both_ways(axes[1], corner.v, crate, index)
        return
    centre = operation.centre_mm(crate)
    for axis, at, offset in zip(axes, centre, (operation.u, operation.v), strict=True):
        yield Given(axis, at, offset.far, offset.distance, index)


def _both_ways(axis: int, length: Length, crate: Crate, index: int) -> Iterator[Given]:
    """Yield a distance from the near end, and from the far end where its words say so: `L-26.5`."""
    from_far = _FROM_FAR_END.fullmatch(length.text)
    if from_far is not None and from_far["end"] == AXIS_LETTERS[axis]:
        rest = Length(from_far["rest"].strip(), crate.sizes[axis] - length.mm)
        yield Given(axis, length.mm, True, rest, index)
    yield Given(axis, length.mm, False, length, index)


def _given_inward(operation: Operation, crate: Crate, index: int) -> Iterator[Given]:
    axis, far = operation.face.normal_axis, operation.face.is_far
    for length in (operation.start, operation.end):
        if length is not None and length.mm > 0:
            at = crate.sizes[axis] - length.mm if far else length.mm
            yield Given(axis, at, far, length, index)


def _on_boundary(operation: Operation, crate: Crate, point: Vec3) -> bool:
    u, v, w = crate.on_face(operation.face, point)
    start, end = extent_mm(operation, crate)
    if not start - _ON_MM <= w <= end + _ON_MM:
        return False
    on_end = min(abs(w - start), abs(w - end)) <= _ON_MM
    if isinstance(operation, Prism):
        corners = operation.outline_mm()
        place = Point(u, v)
        if LinearRing(corners).distance(place) <= _ON_MM:
            return True
        return on_end and bool(Polygon(corners).covers(place))
    centre = operation.centre_mm(crate)
    off = math.dist((u, v), centre) - operation.diameter.mm / 2
    return abs(off) <= _ON_MM or (on_end and off < 0)
