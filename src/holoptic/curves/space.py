"""Curves in space: straight segments, elliptic arcs (circles among them), sampled curves.

Each can be cut to a piece by its own parameter, and flattened on paper.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import (
    Matrix23,
    Vec2,
    Vec3,
    add,
    apply,
    cross,
    distance,
    mix,
)
from holoptic.tolerance import CHORD_MM, ROUNDING

Box = tuple[float, float, float, float]
"""xmin, ymin, xmax, ymax on paper, mm."""


@dataclass(frozen=True)
class Segment:
    """A straight piece; its parameter is the distance from `start` in mm."""

    start: Vec3
    end: Vec3

    @property
    def length(self) -> float:
        """True length, mm."""
        return distance(self.start, self.end)

    @property
    def span(self) -> tuple[float, float]:
        """First and last parameter."""
        return 0.0, self.length

    def at(self, t: float) -> Vec3:
        """Return the point at parameter t."""
        length = self.length
        return mix(self.start, self.end, t / length) if length else self.start

    @property
    def middle(self) -> Vec3:
        """The point at half its span."""
        return mix(self.start, self.end, 0.5)

    def even_points(self, count: int) -> np.ndarray:
        """Return points (count × 3, mm) at even steps of the parameter."""
        return np.linspace(self.start, self.end, count)

    def piece(self, first: float, last: float) -> Segment:
        """Return the piece between two parameters."""
        return Segment(self.at(first), self.at(last))

    def path(self, matrix: Matrix23, chord: float = CHORD_MM) -> list[Vec2]:  # noqa: ARG002
        """Return its polyline on paper, mm."""
        return [apply(matrix, self.start), apply(matrix, self.end)]

    def box(self, matrix: Matrix23) -> Box:
        """Return (xmin, ymin, xmax, ymax) of its image on paper, mm."""
        return _box(self.path(matrix))


@dataclass(frozen=True)
class Chord(Segment):
    """The straight line on which a curve seen edge-on falls; `of` is the exact curve.

    A piece cut from it is a plain segment, as no piece of the curve answers to it.
    """

    of: EllipticArc | SampledCurve


@dataclass(frozen=True)
class EllipticArc:
    """An arc of a circle or an ellipse; its parameter is the eccentric angle in radians.

    point(t) = centre + major · cos t · x_axis + minor · sin t · (normal × x_axis)
    """

    centre: Vec3
    normal: Vec3
    x_axis: Vec3
    major: float
    minor: float
    first: float
    last: float

    @property
    def is_circle(self) -> bool:
        """Whether both half axes are equal."""
        return self.major == self.minor

    @property
    def is_closed(self) -> bool:
        """Whether it goes all the way round."""
        return self.last - self.first > 2 * math.pi - ROUNDING

    @property
    def span(self) -> tuple[float, float]:
        """First and last parameter."""
        return self.first, self.last

    @property
    def start(self) -> Vec3:
        """First point."""
        return self.at(self.first)

    @property
    def end(self) -> Vec3:
        """Last point."""
        return self.at(self.last)

    @property
    def middle(self) -> Vec3:
        """The point at half its span."""
        return self.at((self.first + self.last) / 2)

    @property
    def length(self) -> float:
        """True length, mm (by chords of a fine polyline where it is no circle)."""
        if self.is_circle:
            return self.major * (self.last - self.first)
        return _polyline_length([self.at(t) for t in _even(self.first, self.last, 256)])

    def at(self, t: float) -> Vec3:
        """Return the point at parameter t."""
        point = add(self.centre, self.x_axis, self.major * math.cos(t))
        return add(point, cross(self.normal, self.x_axis), self.minor * math.sin(t))

    def even_points(self, count: int) -> np.ndarray:
        """Return points (count × 3, mm) at even steps of the parameter."""
        t = np.linspace(self.first, self.last, count)[:, None]
        x_axis = self.major * np.array(self.x_axis)
        y_axis = self.minor * np.array(cross(self.normal, self.x_axis))
        found: np.ndarray = self.centre + np.cos(t) * x_axis + np.sin(t) * y_axis
        return found

    def piece(self, first: float, last: float) -> EllipticArc:
        """Return the piece between two parameters."""
        # not by dataclasses.replace, which is slow where hundreds of pieces are cut
        return EllipticArc(
            self.centre, self.normal, self.x_axis, self.major, self.minor, first, last
        )

    def path(self, matrix: Matrix23, chord: float = CHORD_MM) -> list[Vec2]:
        """Return its polyline on paper, mm, no more than `chord` off the curve."""
        return self.on_paper(matrix).path(chord)

    def box(self, matrix: Matrix23) -> Box:
        """Return (xmin, ymin, xmax, ymax) of its image on paper, mm."""
        return self.on_paper(matrix).box

    def on_paper(self, matrix: Matrix23) -> PaperArc:
        """Return its image on paper."""
        return PaperArc(apply(matrix, self.centre), *self.image(matrix), self.first, self.last)

    def image(self, matrix: Matrix23) -> tuple[Vec2, Vec2]:
        """Return the images of the two half axes: conjugate half diameters on paper, mm."""
        y_axis = cross(self.normal, self.x_axis)
        (ax, ay), (bx, by) = apply(matrix, self.x_axis), apply(matrix, y_axis)
        return (ax * self.major, ay * self.major), (bx * self.minor, by * self.minor)


@dataclass(frozen=True)
class SampledCurve:
    """Any other curve, as points close enough for paper; its parameter is the index."""

    points: tuple[Vec3, ...]

    @property
    def span(self) -> tuple[float, float]:
        """First and last parameter."""
        return 0.0, float(len(self.points) - 1)

    @property
    def start(self) -> Vec3:
        """First point."""
        return self.points[0]

    @property
    def end(self) -> Vec3:
        """Last point."""
        return self.points[-1]

    @property
    def middle(self) -> Vec3:
        """The point at half its span."""
        return self.at((len(self.points) - 1) / 2)

    @property
    def length(self) -> float:
        """True length, mm."""
        return _polyline_length(list(self.points))

    def at(self, t: float) -> Vec3:
        """Return the point at parameter t."""
        index = min(max(int(t), 0), len(self.points) - 2)
        return mix(self.points[index], self.points[index + 1], t - index)

    def even_points(self, count: int) -> np.ndarray:
        """Return points (count × 3, mm) at even steps of the parameter."""
        return np.array([self.at(t) for t in _even(*self.span, count - 1)])

    def piece(self, first: float, last: float) -> SampledCurve:
        """Return the piece between two parameters."""
        inner = range(math.floor(first) + 1, math.ceil(last))
        return SampledCurve((self.at(first), *(self.points[i] for i in inner), self.at(last)))

    def path(self, matrix: Matrix23, chord: float = CHORD_MM) -> list[Vec2]:  # noqa: ARG002
        """Return its polyline on paper, mm."""
        return [apply(matrix, point) for point in self.points]

    def box(self, matrix: Matrix23) -> Box:
        """Return (xmin, ymin, xmax, ymax) of its image on paper, mm."""
        return _box(self.path(matrix))


Curve = Segment | EllipticArc | SampledCurve


def moved(curve: Curve, by: Vec3) -> Curve:
    """Return a curve set off by a vector, mm; its parameter stays."""
    if isinstance(curve, Segment):
        return Segment(add(curve.start, by), add(curve.end, by))
    if isinstance(curve, EllipticArc):
        return EllipticArc(
            add(curve.centre, by), curve.normal, curve.x_axis, curve.major, curve.minor,
            curve.first, curve.last,
        )  # fmt: skip
    return SampledCurve(tuple(add(point, by) for point in curve.points))


def _box(path: list[Vec2]) -> Box:
    xs, ys = zip(*path, strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def _polyline_length(points: list[Vec3]) -> float:
    return sum(distance(a, b) for a, b in pairwise(points))


def _even(first: float, last: float, steps: int) -> list[float]:
    return [first + (last - first) * i / steps for i in range(steps + 1)]
