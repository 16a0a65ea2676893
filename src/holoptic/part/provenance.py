"""Where a place on a part comes from: which operation made it, and by which given length."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass

from shapely.geometry import Point
from shapely.geometry import Polygon as Area

from holoptic.curves.vectors import Vec3
from holoptic.part.crate import AXIS_LETTERS, Crate
from holoptic.part.operations import (
    Ball,
    Corner,
    Offset,
    Operation,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Strip,
    extent_mm,
)
from holoptic.part.outline import polyline, sides_of, strip_area
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
    if isinstance(operation, Prism | Strip):
        for corner in operation.outline:
            if isinstance(corner, Corner):
                yield from _both_ways(axes[0], corner.u, crate, index)
                yield from _both_ways(axes[1], corner.v, crate, index)
        return
    centre = operation.centre_mm(crate)
    for axis, at, offset in zip(axes, centre, (operation.u, operation.v), strict=True):
        yield Given(axis, at, offset.far, offset.distance, index)
        if isinstance(operation, Round):
            yield from _sides_of_circle(axis, at, offset, operation, index)


def _sides_of_circle(
    axis: int, at: float, offset: Offset, item: Round, index: int
) -> Iterator[Given]:
    """Yield where the square about a circle lies: its centre's distance and its radius."""
    radius = item.diameter.mm / 2
    for sign, mark in ((1, "+"), (-1, "-")):
        size = offset.distance.mm + sign * radius
        words = Length(f"{offset.distance.text}{mark}{item.diameter.text}/2", size)
        place = at - sign * radius if offset.far else at + sign * radius
        if "/" not in item.diameter.text and not _is_several(item.diameter.text):
            yield Given(axis, place, offset.far, words, index)


def _is_several(words: str) -> bool:
    return any(mark in words for mark in "+-")


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
    if isinstance(operation, Ball | Ring):
        return _on_ball_or_ring(operation, crate, (u, v, w))
    on_end = min(abs(w - start), abs(w - end)) <= _ON_MM
    share = (w - start) / max(end - start, _ON_MM)
    if isinstance(operation, Round):
        centre = operation.centre_mm(crate)
        off = math.dist((u, v), centre) - operation.radius_at(share)
        return abs(off) <= _ON_MM or (on_end and off < 0)
    if isinstance(operation, Prism):
        sides = sides_of(operation.outline)
        if min(side.distance((u, v)) for side in sides) <= _ON_MM:
            return True
        return on_end and bool(Area(polyline(sides)).covers(Point(u, v)))
    area, place = _section(operation, crate, share), Point(u, v)
    return bool(area.boundary.distance(place) <= _ON_MM or (on_end and area.covers(place)))


def _on_ball_or_ring(item: Ball | Ring, crate: Crate, at: Vec3) -> bool:
    u, v = item.centre_mm(crate)
    across, along = math.dist(at[:2], (u, v)), at[2] - item.start.mm
    if isinstance(item, Ball):
        on_flat = item.part != "whole" and abs(along) <= _ON_MM and across <= item.diameter.mm / 2
        return on_flat or abs(math.hypot(across, along) - item.diameter.mm / 2) <= _ON_MM
    section = math.hypot(across - item.diameter.mm / 2, along)
    return abs(section - item.thickness.mm / 2) <= _ON_MM


def _section(item: Strip | Polygon | Pyramid, crate: Crate, share: float) -> Area:
    """Return the area of a straight-sided operation at a share of its way inward."""
    if isinstance(item, Strip):
        return strip_area(item)
    corners = item.corners_mm(crate, share)
    return Area(corners) if len(set(corners)) > 2 else Area()
