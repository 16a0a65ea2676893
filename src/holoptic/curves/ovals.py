"""Ways to draw an ellipse by hand, each with its figures and how far it is off.

An ellipse is the image of a circle. Where the circle lies on a face along two axes, the square
about it becomes a parallelogram whose half sides are conjugate half diameters of the ellipse.

Sources: the four-centre and closer ovals as in technical drawing manuals (tangent arcs through the
mid-points of the rhombus, or through the ends of the axes); the arcs' figures are found here by
making the largest deviation least.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from holoptic.catalogue import tr
from holoptic.curves.drawn import (
    Arc,
    ArcChain,
    DrawnCurve,
    FreehandArcs,
    FrenchCurve,
    Points,
    TrammelEllipse,
)
from holoptic.curves.methods import USUAL_ORDINATES, Method
from holoptic.curves.paper import crossing, direction
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.tolerance import FINE, ROUNDING, SEARCHED, SHARE, SLIGHT, SOLVED

_SAME_LENGTH = SHARE
"""Relative difference below which the sides of a parallelogram are equal."""
_ROUND = FINE
"""Relative difference below which an ellipse is a circle."""


@dataclass(frozen=True)
class Ellipse:
    """An ellipse to be drawn: centre, half axes as vectors, half sides of its parallelogram; mm.

    `half_sides` is None where the square about the circle does not lie along two axes.
    """

    centre: Vec2
    major: Vec2
    minor: Vec2
    half_sides: tuple[Vec2, Vec2] | None = None

    @classmethod
    def of(cls, arc: PaperArc, half_sides: tuple[Vec2, Vec2] | None = None) -> Ellipse:
        """Return the whole ellipse that an arc belongs to; its long axis points to the right.

        So equal ellipses have their arcs in the same order, whichever way their circles turn.
        """
        axes = arc.on_axes()
        (x, y), (u, v) = axes.a, axes.b
        if x < -ROUNDING * math.hypot(x, y) or (x <= ROUNDING * math.hypot(x, y) and y < 0):
            (x, y), (u, v) = (-x, -y), (-u, -v)
        return cls(axes.centre, (x, y), (u, v), half_sides)

    @property
    def half_axes(self) -> tuple[float, float]:
        """Lengths of the half axes, the longer first."""
        return math.hypot(*self.major), math.hypot(*self.minor)

    @property
    def is_circle(self) -> bool:
        """Whether both axes are equal."""
        a, b = self.half_axes
        return a - b <= _ROUND * a

    @property
    def is_flat(self) -> bool:
        """Whether it is so thin that it is a line."""
        a, b = self.half_axes
        return b < SLIGHT * a

    @property
    def turn(self) -> float:
        """Direction of the long axis in radians."""
        return math.atan2(self.major[1], self.major[0])

    @property
    def arc(self) -> PaperArc:
        """The whole ellipse as an arc."""
        return PaperArc(self.centre, self.major, self.minor, 0.0, math.tau)

    @property
    def is_rhombus(self) -> bool:
        """Whether its parallelogram has four equal sides."""
        if self.half_sides is None:
            return False
        p, q = (math.hypot(*side) for side in self.half_sides)
        return abs(p - q) <= _SAME_LENGTH * max(p, q)

    def placed(self, x: float, y: float) -> Vec2:
        """Return the paper point at (x, y) along the long and the short axis."""
        a, b = self.half_axes
        return (
            self.centre[0] + x * self.major[0] / a + y * self.minor[0] / b,
            self.centre[1] + x * self.major[1] / a + y * self.minor[1] / b,
        )

    def distances(self, points: Points) -> Points:
        """Return the signed distances of points from the ellipse, mm; positive outside.

        The foot of the normal is found by Newton's method on its eccentric angle.
        """
        a, b = self.half_axes
        shifted = np.abs(
            (points - np.array(self.centre))
            @ np.array([[self.major[0] / a, self.minor[0] / b],
                        [self.major[1] / a, self.minor[1] / b]])
        )  # fmt: skip
        x, y = shifted[:, 0], shifted[:, 1]
        t = np.arctan2(a * y, b * x)
        for _ in range(12):
            cosine, sine = np.cos(t), np.sin(t)
            value = (b * b - a * a) * cosine * sine + a * x * sine - b * y * cosine
            rate = (b * b - a * a) * (cosine**2 - sine**2) + a * x * cosine + b * y * sine
            t = np.clip(t - value / np.where(np.abs(rate) < SOLVED, SOLVED, rate), 0, np.pi / 2)
        gap = np.hypot(x - a * np.cos(t), y - b * np.sin(t))
        return np.asarray(np.where((x / a) ** 2 + (y / b) ** 2 >= 1, gap, -gap))


@dataclass(frozen=True)
class Construction:
    """One way to draw one ellipse. `centres` and `joins` are lettered points of its drawing.

    `centres`: arc centres, in the order of the arcs; `joins`: where arc `i` begins.
    """

    method: Method
    ellipse: Ellipse
    curve: DrawnCurve
    centres: tuple[Vec2, ...] = ()
    joins: tuple[Vec2, ...] = ()

    @property
    def radii(self) -> tuple[float, ...]:
        """Radii of the arcs, mm, in their order."""
        return (
            tuple(arc.radius for arc in self.curve.arcs) if isinstance(self.curve, ArcChain) else ()
        )

    @cached_property
    def _gaps(self) -> Points:
        t = np.linspace(self.curve.first, self.curve.last, 1441)
        return self.ellipse.distances(self.curve.many(t))

    @property
    def deviation(self) -> float:
        """Largest distance from the true ellipse, mm; never negative."""
        return float(np.abs(self._gaps).max()) if self.method not in ("true", "compass") else 0.0

    @property
    def band(self) -> tuple[float, float]:
        """How far it goes inside (≤ 0) and outside (≥ 0) the true ellipse, mm."""
        if self.method in ("true", "compass"):
            return 0.0, 0.0
        return min(float(self._gaps.min()), 0.0), max(float(self._gaps.max()), 0.0)

    @property
    def axes(self) -> tuple[float, float]:
        """Its own whole axes along the true ellipse's axes, mm."""
        t = np.linspace(self.curve.first, self.curve.last, 1441)
        points = self.curve.many(t) - np.array(self.ellipse.centre)
        a, b = self.ellipse.half_axes
        along = points @ np.array(self.ellipse.major) / a
        across = points @ np.array(self.ellipse.minor) / b
        return float(np.ptp(along)), float(np.ptp(across))

    @property
    def area(self) -> float:
        """Area inside, mm²."""
        t = np.linspace(self.curve.first, self.curve.last, 2881)
        x, y = (self.curve.many(t) - np.array(self.ellipse.centre)).T
        return abs(float(np.dot(x[:-1], y[1:]) - np.dot(x[1:], y[:-1]))) / 2


def construct(method: Method, ellipse: Ellipse, ordinates: int = USUAL_ORDINATES) -> Construction:
    """Return the construction of an ellipse by a method.

    Raises ValueError with the reason where the method cannot be used.
    """
    reason = why_not(method, ellipse)
    if reason:
        raise ValueError(reason)
    if method in ("true", "compass"):
        return Construction(method, ellipse, TrammelEllipse(ellipse.arc))
    if method == "offsets":
        points = offset_points(ellipse, ordinates)
        return Construction(method, ellipse, FrenchCurve(points, closed=True), (), tuple(points))
    if method == "sketch":
        return _sketch(ellipse)
    if method == "four-centre":
        return _four_centre(ellipse)
    return _symmetric_arcs(method, ellipse)


def why_not(method: Method, ellipse: Ellipse) -> str:
    """Return why a method cannot be used for an ellipse; empty where it can."""
    if ellipse.is_flat:
        return tr("the circle is seen edge-on: it is a line")
    if method == "compass":
        return "" if ellipse.is_circle else tr("its image is no circle")
    if ellipse.is_circle:
        return tr("its image is a true circle: take the compass")
    if method in ("four-centre", "sketch") and ellipse.half_sides is None:
        return tr("the square about it does not lie along two axes")
    if method == "four-centre" and not ellipse.is_rhombus:
        return tr("the square about it becomes a parallelogram with unequal sides, no rhombus")
    return ""


def offset_points(ellipse: Ellipse, ordinates: int) -> list[Vec2]:
    """Return the images of points at even angles of the circle, counter-clockwise.

    They start at the middle of a side of the square, or at the end of the long axis.
    """
    p, q = ellipse.half_sides or (ellipse.major, ellipse.minor)
    if p[0] * q[1] - p[1] * q[0] < 0:
        q = -q[0], -q[1]
    (x, y) = ellipse.centre
    turns = [math.tau * k / ordinates for k in range(ordinates)]
    return [
        (
            x + p[0] * math.cos(t) + q[0] * math.sin(t),
            y + p[1] * math.cos(t) + q[1] * math.sin(t),
        )
        for t in turns
    ]


def _ring_of_sides(ellipse: Ellipse) -> tuple[list[Vec2], list[Vec2]]:
    """Return mid-points and corners of the parallelogram, counter-clockwise; corner i follows
    mid-point i.
    """
    if ellipse.half_sides is None:
        raise ValueError(tr("the square about it does not lie along two axes"))
    p, q = ellipse.half_sides
    if p[0] * q[1] - p[1] * q[0] < 0:
        q = -q[0], -q[1]
    x, y = ellipse.centre
    signs = ((1, 0), (0, 1), (-1, 0), (0, -1))
    mids = [(x + i * p[0] + j * q[0], y + i * p[1] + j * q[1]) for i, j in signs]
    corners = [
        (x + i * p[0] + j * q[0], y + i * p[1] + j * q[1])
        for i, j in ((1, 1), (-1, 1), (-1, -1), (1, -1))
    ]
    return mids, corners


def _sketch(ellipse: Ellipse) -> Construction:
    mids, corners = _ring_of_sides(ellipse)
    return Construction("sketch", ellipse, FreehandArcs(mids, corners, closed=True), (),
                        tuple(mids))  # fmt: skip


def _four_centre(ellipse: Ellipse) -> Construction:
    """Arcs that touch a rhombus at the middle of each side.

    The perpendiculars at two neighbouring mid-points cross at the centre of the arc between
    them. In isometric those of the long arcs run through the obtuse corners.
    """
    mids, corners = _ring_of_sides(ellipse)
    arcs = []
    for k in range(4):
        one, two, corner = mids[k], mids[(k + 1) % 4], corners[k]
        along_one, along_two = direction(one, corner), direction(two, corner)
        centre = crossing(one, (-along_one[1], along_one[0]), two, (-along_two[1], along_two[0]))
        if centre is None:
            raise ValueError(tr("the sides of the square fall on one line"))
        arcs.append(Arc.between(centre, one, two))
    return Construction("four-centre", ellipse, ArcChain(arcs, closed=True),
                        tuple(arc.centre for arc in arcs), tuple(mids))  # fmt: skip


def _symmetric_arcs(method: Method, ellipse: Ellipse) -> Construction:
    """Four tangent arcs about the axes, the ratio's best figures scaled to this ellipse."""
    a, b = ellipse.half_axes
    half_long, half_short, small = best_arcs(round(b / a, 12), method == "free-arcs")
    half_long, half_short, small = a * half_long, a * half_short, a * small
    large = _large_radius(half_long, half_short, small)
    out, beyond = half_long - small, large - half_short
    # the ends of the small arcs: on the lines through a small and a large centre
    rise = math.atan2(beyond, out)
    ends = [
        (sx * (out + small * math.cos(rise)), sy * small * math.sin(rise))
        for sx, sy in ((1, -1), (1, 1), (-1, 1), (-1, -1))
    ]
    middles = [(out, 0.0), (0.0, -beyond), (-out, 0.0), (0.0, beyond)]
    joins = [ellipse.placed(*end) for end in ends]
    centres = [ellipse.placed(*middle) for middle in middles]
    arcs = [Arc.between(centres[k], joins[k], joins[(k + 1) % 4]) for k in range(4)]
    return Construction(method, ellipse, ArcChain(arcs, closed=True), tuple(centres), tuple(joins))


def _large_radius(half_long: float, half_short: float, small: float) -> float:
    """Return the radius of the large arcs that are tangent to the small ones.

    Both centres lie on the axes and as far apart as the radii differ:
    (a − r)² + (R − b)² = (R − r)².
    """
    a, b, r = half_long, half_short, small
    return (a * a - 2 * a * r + b * b) / (2 * (b - r))


@lru_cache(maxsize=256)
def best_arcs(ratio: float, free: bool) -> tuple[float, float, float]:
    """Return half axes and small radius of the best four arcs for half axes 1 and `ratio`.

    With `free` all three figures are free, else the arcs go through the ends of the true axes.
    "Best" makes the largest distance from the ellipse least.
    """
    # imported late: it takes most of a second, and the window loads this room too
    from scipy.optimize import minimize, minimize_scalar  # noqa: PLC0415

    ellipse = Ellipse((0.0, 0.0), (1.0, 0.0), (0.0, ratio))

    def worst(half_long: float, half_short: float, small: float) -> float:
        if not 0.001 * ratio < small < 0.999 * half_short or half_short >= half_long:
            return 10.0
        return float(np.abs(ellipse.distances(_quarter(half_long, half_short, small))).max())

    trials = [ratio * k / 40 for k in range(1, 40)]
    start = min(trials, key=lambda small: worst(1.0, ratio, small))
    step = ratio / 40
    bounds = max(start - step, 0.002 * ratio), min(start + step, 0.998 * ratio)
    small = float(
        minimize_scalar(lambda r: worst(1.0, ratio, r), bounds=bounds, method="bounded",
                        options={"xatol": SOLVED}).x
    )  # fmt: skip
    if not free:
        return 1.0, ratio, small
    found = np.array([1.0, ratio, small])
    for size in (0.01, 0.002, 0.0004):  # the largest of many distances has creases: start again
        corners = [found] + [found + size * np.eye(3)[k] * ratio for k in range(3)]
        found = minimize(
            lambda figures: worst(*figures), found, method="Nelder-Mead",
            options={"initial_simplex": corners, "xatol": SEARCHED, "fatol": SOLVED,
                     "maxiter": 2000},
        ).x  # fmt: skip
    return float(found[0]), float(found[1]), float(found[2])


def _quarter(half_long: float, half_short: float, small: float) -> Points:
    """Return points on a quarter of the four arcs, shape (n, 2)."""
    large = _large_radius(half_long, half_short, small)
    out, beyond = half_long - small, large - half_short
    rise = math.atan2(beyond, out)
    near = np.linspace(0.0, rise, 41)
    far = np.linspace(rise, math.pi / 2, 41)
    return np.vstack((
        np.column_stack((out + small * np.cos(near), small * np.sin(near))),
        np.column_stack((large * np.cos(far), large * np.sin(far) - beyond)),
    ))  # fmt: skip
