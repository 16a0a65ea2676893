"""The drawings of a part on its sheet, asked where its levels, circles and corners lie on paper."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec2, Vec3, add, apply, cross, dot
from holoptic.dimensions import Dimension, Level
from holoptic.dimensions.dimension import Circle, Cone, is_same
from holoptic.dimensions.needs import across_of, axis_of
from holoptic.pictorial import Picture, Stroke
from holoptic.sheet.drawing import moved
from holoptic.tolerance import GIVEN_MM

HIDDEN = 1
"""How a spot is seen: 0 on a visible line, 1 on a hidden one, 2 where no line is drawn."""
UNDRAWN = 2
_MOST_OF_ARC = 1.2 * math.pi
_ON_CIRCLE = 8
_FAINT = 0.2
"""An axis that is shortened more is no place for a length."""


@dataclass(frozen=True)
class Spot:
    """A place of the part, where it lies on the page (mm), and how it is seen."""

    place: Vec3
    at: Vec2
    seen: int


@dataclass(frozen=True)
class Rim:
    """A circle where it is drawn: the places along its stroke on the page, and how it is seen.

    `is_arc` says that it is no full circle, hidden or not: its radius is what it says.
    """

    path: tuple[Vec2, ...]
    seen: int
    is_arc: bool


class DimensionPane:
    """One picture on a page, at its place and scale."""

    def __init__(
        self, picture: Picture, at: Vec2, scale: float, *, hidden: bool, centres: bool,
        figure: str = "",
    ) -> None:  # fmt: skip
        """Take a picture; `hidden` and `centres` say which of its other lines are drawn, `figure`
        is the id of the figure that it belongs to.
        """
        self.picture, self.at, self.scale, self.figure = picture, at, scale, figure
        self._hidden = hidden
        self._spots: dict[Level, list[Spot]] = defaultdict(list)
        self._rims: list[tuple[Stroke, EllipticArc, int]] = []
        self._turned: dict[object, float] = defaultdict(float)
        self.lines = [moved(s.path, at, scale) for s in picture.visible]
        if hidden:
            self.lines += [moved(s.path, at, scale) for s in picture.of_role("hidden")]
        self.thin = [moved(s.path, at, scale) for s in picture.of_role("centre")] if centres else []
        # a hatch has no gaps for words: they keep out of it
        hatch = picture.hatched_for(scale).of_role("hatch")
        self.thin += [moved(s.path, at, scale) for s in hatch]
        self._gather()
        places = np.array([p for path in self.lines for p in (path[0], path[-1], *path[1:-1])])
        self.outline: np.ndarray = shapely.get_coordinates(
            shapely.convex_hull(shapely.multipoints(places))
        )

    @property
    def name(self) -> tuple[str, str]:
        """The id of its figure, and its kind: views of one figure are told apart by it."""
        return self.figure, self.picture.view.kind

    @property
    def extent(self) -> tuple[float, float, float, float]:
        """What the picture takes up on the page, mm."""
        (left, low), (right, high) = self.outline.min(axis=0), self.outline.max(axis=0)
        return float(left), float(low), float(right), float(high)

    def onto(self, point: Vec3) -> Vec2:
        """Return where a place of the part lies on the page, mm."""
        x, y = apply(self.picture.view.matrix, point)
        return self.at[0] + self.scale * x, self.at[1] + self.scale * y

    def way(self, axis: int) -> Vec2 | None:
        """Return how a millimetre along an axis runs on the page, None where it hardly shows."""
        x, y = (row[axis] for row in self.picture.view.matrix)
        return None if x * x + y * y < _FAINT**2 else (self.scale * x, self.scale * y)

    @property
    def is_view(self) -> bool:
        """Whether it is an orthographic view."""
        return self.picture.view.corner is None

    def shows_true(self, axis: int | None) -> bool:
        """Whether a face square to an axis is seen in its true shape."""
        if axis is None:
            return False
        return abs(dot(self.picture.view.toward_viewer, _unit(axis))) > 1 - _FAINT**2

    def spots(self, level: Level) -> Sequence[Spot]:
        """Return the places of the page at a level, on what is drawn."""
        return self._spots.get(level, ())

    def add_places(self, places: Iterable[Vec3]) -> None:
        """Know of places on which no line is drawn: middles of circles, corners of outlines."""
        for place in places:
            spot = Spot(place, self.onto(place), UNDRAWN)
            for axis in range(3):
                self._spots[Level.of(axis, place[axis])].append(spot)

    def rims(self, one: Dimension) -> Iterator[Rim]:
        """Yield the strokes of the circles that a dimension is about; of a cone's angle, those
        about the cone's axis.
        """
        for stroke, arc, axis in self._rims:
            if any(_is_rim(arc, axis, circle) for circle in one.circles) or (
                not one.circles and any(_is_about(arc, axis, cone) for cone in one.cones)
            ):
                seen = 0 if stroke.role == "visible" else HIDDEN
                is_arc = self._turned[_circle_key(arc, axis)] < _MOST_OF_ARC
                yield Rim(moved(stroke.path, self.at, self.scale), seen, is_arc)

    def _gather(self) -> None:
        """Note the places that lines of the picture end at, turn about, or reach furthest at."""
        for stroke in self.picture.strokes:
            if stroke.role == "centre":
                continue
            seen = 0 if stroke.role == "visible" else HIDDEN if self._hidden else UNDRAWN
            curve = stroke.curve
            if stroke.origin.edge is None:
                self._gather_outline(curve, seen)
                continue
            for place in (curve.start, curve.end):
                self._note(place, seen, range(3))
            axis = axis_of(curve.normal) if isinstance(curve, EllipticArc) else None
            if isinstance(curve, EllipticArc) and curve.is_circle and axis is not None:
                self._rims.append((stroke, curve, axis))
                self._gather_circle(curve, axis, seen)

    def _gather_outline(self, curve: Curve, seen: int) -> None:
        if isinstance(curve, EllipticArc):  # the outline of a ball stands about its middle
            self._note(curve.centre, seen, range(3))
            for k in range(3):
                for sign in (curve.major, -curve.major):
                    self._note(add(curve.centre, _unit(k), sign), seen, (k,))
        elif isinstance(curve, Segment):  # that of a cone ends at its apex
            self._note(curve.start, seen, range(3))
            self._note(curve.end, seen, range(3))

    def _gather_circle(self, arc: EllipticArc, axis: int, seen: int) -> None:
        self._note(arc.centre, seen, across_of(axis))
        first, last = arc.span
        self._turned[_circle_key(arc, axis)] += last - first
        for k in range(_ON_CIRCLE + 1):
            self._note(arc.at(first + (last - first) * k / _ON_CIRCLE), seen, (axis,))
        for k in across_of(axis):
            for place in _utmost(arc, k):
                self._note(place, seen, (k,))

    def _note(self, place: Vec3, seen: int, axes: Iterable[int]) -> None:
        spot = Spot(place, self.onto(place), seen)
        for axis in axes:
            self._spots[Level.of(axis, place[axis])].append(spot)


def _is_rim(arc: EllipticArc, axis: int, circle: Circle) -> bool:
    return (
        _is_about(arc, axis, circle)
        and is_same(circle.radius, arc.major)
        and (circle.at is None or is_same(circle.at, arc.centre[axis]))
    )


def _is_about(arc: EllipticArc, axis: int, round_one: Circle | Cone) -> bool:
    """Whether an arc stands about the axis of something round."""
    if round_one.axis != axis:
        return False
    places = (arc.centre[k] for k in across_of(axis))
    return all(map(is_same, round_one.across, places))


def _circle_key(arc: EllipticArc, axis: int) -> object:
    """What tells circles of one size on one axis apart: where they stand across, not along."""
    first, second = across_of(axis)
    return axis, *(round(v, 2) + 0.0 for v in (
        arc.major, arc.centre[first], arc.centre[second], arc.centre[axis]))  # fmt: skip


def _utmost(arc: EllipticArc, axis: int) -> Iterator[Vec3]:
    """Yield the places of a circle that lie furthest along an axis, both ways, on its arc."""
    first, last = arc.span
    side = cross(arc.normal, arc.x_axis)
    turn = math.atan2(side[axis], arc.x_axis[axis])
    for t in (turn, turn + math.pi):
        inside = first + (t - first) % math.tau
        if inside <= last + GIVEN_MM:
            yield arc.at(inside)


def places_of(dimensions: Iterable[Dimension]) -> Iterator[Vec3]:
    """Yield places of the part that dimensions are about though nothing may be drawn there."""
    for one in dimensions:
        for circle in one.circles:
            first, second = across_of(circle.axis)
            place = list(one.about or (0.0, 0.0, 0.0))
            place[first], place[second] = circle.across
            if circle.at is not None:
                place[circle.axis] = circle.at
            yield place[0], place[1], place[2]
        for bound in one.binds:
            yield bound.place
            yield bound.centre


def _unit(axis: int) -> Vec3:
    return float(axis == 0), float(axis == 1), float(axis == 2)
