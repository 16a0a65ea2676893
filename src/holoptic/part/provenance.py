"""Where a place on a part comes from: which operation made it, and by which given length."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from shapely.geometry import Point
from shapely.geometry import Polygon as Area

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.part.bounds import bounds_of
from holoptic.part.crate import AXIS_LETTERS, Crate
from holoptic.part.expand import basics, from_middle
from holoptic.part.operations import (
    Ball,
    Basic,
    Corner,
    CornerCut,
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
from holoptic.part.outline import polyline, sides_of
from holoptic.part.part import Part
from holoptic.part.strips import strip_area
from holoptic.tolerance import GIVEN_MM
from holoptic.units import Length

_ABOVE = re.compile(r"(?P<end>[LDH])-(?:\((?P<sum>[^()]*)\)|(?P<rest>[^-+()]+))")
"""A depth counted from the far end that says a height above the near one: `H-(plate.top+9)`."""
_FROM_FAR_END = re.compile(r"\s*(?P<end>[LDH])\s*-(?P<rest>[^-+()LDH]+)")
"""A crate size less one product; `L-9-11` stays as it is, for its rest is no sum of its own."""


@dataclass(frozen=True)
class Given:
    """A distance along an axis that the maker of the part gave.

    `at` is the place in mm from the crate's near end of the axis; `far` says that the given
    length counts from the far end; `operation` is the index of the operation, None: the crate.
    `derived` says that it was not given itself, but follows from a centre and a diameter.
    """

    axis: int
    at: float
    far: bool
    length: Length
    operation: int | None
    derived: bool = False


def operation_at(part: Part, point: Vec3) -> int | None:
    """Return the last operation on whose boundary a point of the finished part lies, or None."""
    return operations_finder(part)([point])[0]


def operations_finder(part: Part) -> Callable[[list[Vec3]], list[int | None]]:
    """Return what finds the operations at many points, each as `operation_at` does."""
    made = [
        (index, _boundary(basic, part.crate))
        for index, operation in enumerate(part.operations)
        for basic in _sound_basics(operation, part.crate)
    ]
    made.reverse()
    low = np.array([boundary.low for _, boundary in made]).reshape(-1, 3) - GIVEN_MM
    high = np.array([boundary.high for _, boundary in made]).reshape(-1, 3) + GIVEN_MM

    def find(points: list[Vec3]) -> list[int | None]:
        places = np.array(points).reshape(-1, 1, 3)
        near = np.all((places >= low) & (places <= high), axis=2)
        return [
            next((made[k][0] for k in np.flatnonzero(row) if made[k][1].holds(point)), None)
            for point, row in zip(points, near, strict=True)
        ]

    return find


_MOST_POINTS = 2000


class _Boundary:
    """The boundary of a basic operation, and its bounds, ready to be asked about many points.

    What it was asked is kept, as an edit leaves most points where they were.
    """

    def __init__(self, basic: Basic, crate: Crate) -> None:
        self._basic, self._crate = basic, crate
        bounds = bounds_of(basic, crate)
        self.low, self.high = bounds if bounds is not None else (_NOWHERE, _NOWHERE)
        self._sides = sides_of(basic.outline) if isinstance(basic, Prism) else []
        self._area = Area(polyline(self._sides)) if self._sides else None
        self._known: dict[Vec3, bool] = {}

    def holds(self, point: Vec3) -> bool:
        """Say whether a point within the bounds lies on the boundary."""
        if point not in self._known:
            if len(self._known) > _MOST_POINTS:
                self._known.clear()
            self._known[point] = self._found(point)
        return self._known[point]

    def _found(self, point: Vec3) -> bool:
        if self._area is None:
            return _on_boundary(self._basic, self._crate, point)
        u, v, w = self._crate.on_face(self._basic.face, point)
        if any(side.distance((u, v)) <= GIVEN_MM for side in self._sides):
            return True
        start, end = extent_mm(self._basic, self._crate)
        on_end = min(abs(w - start), abs(w - end)) <= GIVEN_MM
        return on_end and bool(self._area.covers(Point(u, v)))


@lru_cache(maxsize=1000)
def _boundary(basic: Basic, crate: Crate) -> _Boundary:
    """Return a boundary; an edit leaves most as they were."""
    return _Boundary(basic, crate)


_NOWHERE = (math.inf, math.inf, math.inf)


def _sound_basics(operation: Operation, crate: Crate) -> tuple[Basic, ...]:
    """Return what an operation comes down to; nothing where it cannot be made."""
    try:
        return basics(operation, crate)
    except ValueError:
        return ()


def given_offsets(part: Part) -> list[Given]:
    """Return every distance along an axis that the part's description gives, in its order."""
    crate = part.crate
    givens = [
        Given(axis, length.mm, False, length, None)
        for axis, length in enumerate((crate.length, crate.depth, crate.height))
    ]
    for index in range(len(part.operations)):
        givens += operation_offsets(part, index)
    return givens


def operation_offsets(part: Part, index: int) -> list[Given]:
    """Return every distance along an axis that one operation gives, in its order."""
    givens: list[Given] = []
    for basic in _sound_basics(part.operations[index], part.crate):
        givens += _given_on_face(basic, part.crate, index)
        givens += _given_inward(basic, part.crate, index)
    return givens


def _given_on_face(operation: Basic, crate: Crate, index: int) -> Iterator[Given]:
    axes = operation.face.axes
    if isinstance(operation, CornerCut):
        for axis, (far, length) in enumerate(operation.sides):
            at = crate.sizes[axis] - length.mm if far else length.mm
            yield Given(axis, at, far, length, index)
        return
    if isinstance(operation, Prism | Strip):
        for corner in operation.outline:
            if isinstance(corner, Corner):
                yield from _both_ways(axes[0], corner.u, crate, index)
                yield from _both_ways(axes[1], corner.v, crate, index)
        return
    centre = operation.centre_mm(crate)
    for axis, at, offset in zip(axes, centre, (operation.u, operation.v), strict=True):
        words = offset.distance
        if offset.centred:
            words = Length(from_middle(AXIS_LETTERS[axis], words), at)
        yield Given(axis, at, offset.far, words, index)
        if isinstance(operation, Round | Ball) and not offset.centred:
            yield from _sides_of_circle(axis, at, offset, operation, index)
        if isinstance(operation, Polygon):
            yield from _flats(Given(axis, at, offset.far, words, index), operation, crate)


def _sides_of_circle(
    axis: int, at: float, offset: Offset, item: Round | Ball, index: int
) -> Iterator[Given]:
    """Yield where the square about a circle lies: its centre's distance and its radius."""
    radius = item.diameter.mm / 2
    for sign, mark in ((1, "+"), (-1, "-")):
        size = offset.distance.mm + sign * radius
        words = Length(f"{offset.distance.text}{mark}{item.diameter.text}/2", size)
        if abs(size - item.diameter.mm) < GIVEN_MM:
            words = item.diameter  # it touches the edge that it is counted from
        place = at - sign * radius if offset.far else at + sign * radius
        if "/" not in item.diameter.text and not _is_several(item.diameter.text):
            yield Given(axis, place, offset.far, words, index, derived=True)


def _flats(middle: Given, item: Polygon, crate: Crate) -> Iterator[Given]:
    """Yield where the flats lie of a polygon given across them: half of that off its middle."""
    size, axis = item.size, middle.axis
    if item.measure != "across flats" or "/" in size.text or _is_several(size.text):
        return
    k = item.face.axes.index(axis)
    centre = item.centre_mm(crate)[k]
    for sign in (1, -1):
        place = centre + sign * size.mm / 2
        if any(abs(corner[k] - place) < GIVEN_MM for corner in item.corners_mm(crate)):
            out = -sign if middle.far else sign
            words = f"{middle.length.text}{'+' if out > 0 else '-'}{size.text}/2"
            far_or_near = crate.sizes[axis] - place if middle.far else place
            yield replace(middle, at=place, length=Length(words, far_or_near), derived=True)


def _is_several(words: str) -> bool:
    return any(mark in words for mark in "+-")


def _both_ways(axis: int, length: Length, crate: Crate, index: int) -> Iterator[Given]:
    """Yield a distance from the near end, and from the far end where its words say so: `L-26.5`."""
    from_far = _FROM_FAR_END.fullmatch(length.text)
    if from_far is not None and from_far["end"] == AXIS_LETTERS[axis]:
        rest = Length(from_far["rest"].strip(), crate.sizes[axis] - length.mm)
        yield Given(axis, length.mm, True, rest, index)
    yield Given(axis, length.mm, False, length, index)


def _given_inward(operation: Basic, crate: Crate, index: int) -> Iterator[Given]:
    axis, far = operation.face.normal_axis, operation.face.is_far
    if isinstance(operation, Ball):
        at = crate.sizes[axis] - operation.start.mm if far else operation.start.mm
        middle = Offset(operation.start, far)
        yield from _sides_of_circle(axis, at, middle, operation, index)
    for length in (operation.start, operation.end):
        if length is not None and length.mm > 0:
            at = crate.sizes[axis] - length.mm if far else length.mm
            above = _ABOVE.fullmatch(length.text)
            if far and above is not None and above["end"] == AXIS_LETTERS[axis]:
                # a height above something was given: it is lifted from there
                words = above["sum"] or above["rest"]
                yield Given(axis, at, False, Length(words.strip(), at), index)
            else:
                yield Given(axis, at, far, length, index)


def _on_boundary(operation: Basic, crate: Crate, point: Vec3) -> bool:
    if isinstance(operation, CornerCut):
        return _on_corner_cut(operation, crate, point)
    u, v, w = crate.on_face(operation.face, point)
    start, end = extent_mm(operation, crate)
    if not start - GIVEN_MM <= w <= end + GIVEN_MM:
        return False
    if isinstance(operation, Ball | Ring):
        return _on_ball_or_ring(operation, crate, (u, v, w))
    on_end = min(abs(w - start), abs(w - end)) <= GIVEN_MM
    share = (w - start) / max(end - start, GIVEN_MM)
    if isinstance(operation, Round):
        centre = operation.centre_mm(crate)
        off = math.dist((u, v), centre) - operation.radius_at(share)
        return abs(off) <= GIVEN_MM or (on_end and off < 0)
    if isinstance(operation, Prism):
        raise TypeError(tr("the boundary of a prism is found by its sides"))
    area, place = _section(operation, crate, share), Point(u, v)
    return bool(area.boundary.distance(place) <= GIVEN_MM or (on_end and area.covers(place)))


def _on_corner_cut(cut: CornerCut, crate: Crate, point: Vec3) -> bool:
    """Say whether a point lies on the skew face: its shares of the three offsets add up to one."""
    shares = []
    for value, size, (far, offset) in zip(point, crate.sizes, cut.sides, strict=True):
        shares.append(((size - value) if far else value) / offset.mm)
    slack = GIVEN_MM / min(offset.mm for _, offset in cut.sides)
    return abs(sum(shares) - 1) <= slack and min(shares) >= -slack


def _on_ball_or_ring(item: Ball | Ring, crate: Crate, at: Vec3) -> bool:
    u, v = item.centre_mm(crate)
    across, along = math.dist(at[:2], (u, v)), at[2] - item.start.mm
    if isinstance(item, Ball):
        on_flat = item.part != "whole" and abs(along) <= GIVEN_MM and across <= item.diameter.mm / 2
        return on_flat or abs(math.hypot(across, along) - item.diameter.mm / 2) <= GIVEN_MM
    section = math.hypot(across - item.diameter.mm / 2, along)
    return abs(section - item.thickness.mm / 2) <= GIVEN_MM


def _section(item: Strip | Polygon | Pyramid, crate: Crate, share: float) -> Area:
    """Return the area of a straight-sided operation at a share of its way inward."""
    if isinstance(item, Strip):
        return strip_area(item, crate)
    corners = item.corners_mm(crate, share)
    return Area(corners) if len(set(corners)) > 2 else Area()
