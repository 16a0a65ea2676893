"""Views as they are drawn: straight lines, arcs and free curves, each with its status."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from holoptic.catalogue import mark
from holoptic.curves.vectors import Vec2
from holoptic.tolerance import SHARE

Status = Literal["visible", "hidden", "centre"]
STATUS_WORDS = (mark("visible"), mark("hidden"), mark("centre"))
"""How they are told."""
Box = tuple[float, float, float, float]
"""xmin, ymin, xmax, ymax in mm."""


@dataclass(frozen=True)
class Straight:
    """A straight line, mm."""

    start: Vec2
    end: Vec2

    def path(self) -> list[Vec2]:
        """Return its polyline."""
        return [self.start, self.end]


@dataclass(frozen=True)
class Bow:
    """An arc of a circle, counter-clockwise from `first` to `last` (radians); mm."""

    centre: Vec2
    radius: float
    first: float
    last: float

    @property
    def is_closed(self) -> bool:
        """Whether it is a whole circle."""
        return self.last - self.first > math.tau - SHARE

    def at(self, angle: float) -> Vec2:
        """Return the point at an angle."""
        x, y = self.centre
        return x + self.radius * math.cos(angle), y + self.radius * math.sin(angle)

    @property
    def start(self) -> Vec2:
        """First point."""
        return self.at(self.first)

    @property
    def end(self) -> Vec2:
        """Last point."""
        return self.at(self.last)

    def path(self) -> list[Vec2]:
        """Return a fine polyline."""
        steps = max(2, math.ceil((self.last - self.first) / 0.05))
        return [
            self.at(self.first + (self.last - self.first) * k / steps) for k in range(steps + 1)
        ]


@dataclass(frozen=True)
class Free:
    """Any other curve, as points close enough together; mm."""

    points: tuple[Vec2, ...]

    @property
    def start(self) -> Vec2:
        """First point."""
        return self.points[0]

    @property
    def end(self) -> Vec2:
        """Last point."""
        return self.points[-1]

    def path(self) -> list[Vec2]:
        """Return its polyline."""
        return list(self.points)


Shape = Straight | Bow | Free


def with_ends(shape: Shape, moved: Mapping[Vec2, Vec2]) -> Shape:
    """Return a shape with its ends where they are moved to; arcs stay as they are."""
    if isinstance(shape, Straight):
        return Straight(moved.get(shape.start, shape.start), moved.get(shape.end, shape.end))
    if isinstance(shape, Free):
        first, *between, last = shape.points
        return Free((moved.get(first, first), *between, moved.get(last, last)))
    return shape


@dataclass(frozen=True)
class DrawnLine:
    """A line of a view."""

    shape: Shape
    status: Status = "visible"


@dataclass(frozen=True)
class DrawnView:
    """A view: its name (front, top, right, left, rear, bottom) and its lines.

    Coordinates are those of the view itself, right and up, in mm of the part. The lines of a
    guessed view are only possible ones. `smooth` are lines where faces run into each other without
    an edge: some draw them, some do not. A section says where it is `cut` (`part/cutting.py`),
    "?" where the drawing does not.
    """

    name: str
    lines: tuple[DrawnLine, ...]
    is_guessed: bool = False
    smooth: tuple[DrawnLine, ...] = ()
    cut: str = ""

    @property
    def drawn(self) -> tuple[DrawnLine, ...]:
        """The lines that are edges of the part: all but centre lines."""
        return tuple(line for line in self.lines if line.status != "centre")

    @property
    def box(self) -> Box:
        """The box about its edges. Raises ValueError for an empty view."""
        return box_of([line.shape for line in self.drawn])

    def moved(self, across: float, up: float) -> DrawnView:
        """Return the view moved."""

        def to(lines: tuple[DrawnLine, ...]) -> tuple[DrawnLine, ...]:
            return tuple(replace(x, shape=moved(x.shape, across, up)) for x in lines)

        return replace(self, lines=to(self.lines), smooth=to(self.smooth))


def box_of(shapes: list[Shape]) -> Box:
    """Return the box about shapes. Raises ValueError for none."""
    points = [point for shape in shapes for point in _bounding_points(shape)]
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return min(xs), min(ys), max(xs), max(ys)


def _bounding_points(shape: Shape) -> list[Vec2]:
    if not isinstance(shape, Bow):
        return shape.path()
    quarters = range(math.ceil(shape.first / (math.pi / 2)), 9)
    turns = [k * math.pi / 2 for k in quarters if k * math.pi / 2 <= shape.last]
    return [shape.start, shape.end, *(shape.at(turn) for turn in turns)]


def moved(shape: Shape, across: float, up: float) -> Shape:
    """Return a shape moved."""

    def to(point: Vec2) -> Vec2:
        return point[0] + across, point[1] + up

    if isinstance(shape, Straight):
        return Straight(to(shape.start), to(shape.end))
    if isinstance(shape, Bow):
        return replace(shape, centre=to(shape.centre))
    return Free(tuple(to(point) for point in shape.points))


def scaled(shape: Shape, factor: float) -> Shape:
    """Return a shape scaled about the origin."""

    def to(point: Vec2) -> Vec2:
        return point[0] * factor, point[1] * factor

    if isinstance(shape, Straight):
        return Straight(to(shape.start), to(shape.end))
    if isinstance(shape, Bow):
        return replace(shape, centre=to(shape.centre), radius=shape.radius * factor)
    return Free(tuple(to(point) for point in shape.points))


def turned(shape: Shape, quarters: int) -> Shape:
    """Return a shape turned by quarter turns to the left about the origin."""
    for _ in range(quarters % 4):
        shape = _quarter_turned(shape)
    return shape


def _quarter_turned(shape: Shape) -> Shape:
    if isinstance(shape, Straight):
        return Straight(_left(shape.start), _left(shape.end))
    if isinstance(shape, Bow):
        first = (shape.first + math.pi / 2) % math.tau
        return Bow(_left(shape.centre), shape.radius, first, first + shape.last - shape.first)
    return Free(tuple(_left(point) for point in shape.points))


def _left(point: Vec2) -> Vec2:
    return -point[1], point[0]


def mirrored(shape: Shape, across: bool, up: bool) -> Shape:
    """Return a shape with its x (`across`) or its y (`up`) turned round."""

    def to(point: Vec2) -> Vec2:
        return (-point[0] if across else point[0]), (-point[1] if up else point[1])

    if isinstance(shape, Straight):
        return Straight(to(shape.start), to(shape.end))
    if isinstance(shape, Free):
        return Free(tuple(to(point) for point in shape.points))
    first, last = shape.first, shape.last
    if across:
        first, last = math.pi - last, math.pi - first
    if up:
        first, last = -last, -first
    turns = math.floor(first / math.tau) * math.tau
    return Bow(to(shape.centre), shape.radius, first - turns, last - turns)
