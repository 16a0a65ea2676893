"""Curves as a hand draws them: compass arcs, trammel ellipses, French curves, freehand arcs.

Every one runs over a parameter from `first` to `last`; closed ones run counter-clockwise. Where
such curves meet lines, touch lines or come nearest to a point is found by looking along close
samples and then refining on the exact curve.

The window draws with these too, so nothing here loads SciPy, which takes most of a second.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Callable, Sequence
from functools import cached_property
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from holoptic.catalogue import tr
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.tolerance import CHORD_MM, FINE, ROUNDING, SHARE, SOLVED, SOLVED_SQUARE

Points = npt.NDArray[np.float64]
_SAMPLES_A_TURN = 96
_SAMPLES_A_SPAN = 12
_GOOD_ENOUGH = SOLVED_SQUARE
"""As shares of the largest value: what counts as zero at an open end, and between samples."""
_STEPS = 28
"""So many steps of false position reach the last digit between two samples."""


class DrawnCurve(ABC):
    """A curve on paper, mm; `at` and `slope` take parameters from `first` to `last`."""

    first: float
    last: float
    closed: bool

    @abstractmethod
    def many(self, t: Points) -> Points:
        """Return the points at parameters, shape (n, 2)."""

    @abstractmethod
    def slopes(self, t: Points) -> Points:
        """Return the derivatives at parameters, shape (n, 2)."""

    @abstractmethod
    def _steps(self) -> int:
        """Return how many samples find every crossing."""

    def at(self, t: float) -> Vec2:
        """Return the point at a parameter."""
        x, y = self.many(np.array([t]))[0]
        return float(x), float(y)

    def slope(self, t: float) -> Vec2:
        """Return the derivative at a parameter."""
        x, y = self.slopes(np.array([t]))[0]
        return float(x), float(y)

    @cached_property
    def samples(self) -> tuple[Points, Points]:
        """Parameters close to each other, and the points there."""
        t = np.linspace(self.first, self.last, self._steps() + 1)
        return t, self.many(t)

    def zeros(self, function: Callable[[Points, Points], Points]) -> list[float]:
        """Return the parameters where function(points, slopes) changes its sign."""
        t, points = self.samples
        values = function(points, self.slopes(t))
        found = [float(value) for value in t[:-1][values[:-1] == 0.0]]
        if not self.closed:  # at an end there may be no change of sign to see
            least = ROUNDING * np.abs(values).max()
            found += [float(t[k]) for k in (0, -1) if abs(values[k]) <= least]
        at = np.nonzero(values[:-1] * values[1:] < 0.0)[0]
        if len(at):
            brackets = t[at], t[at + 1], values[at], values[at + 1]
            least = _GOOD_ENOUGH * float(np.abs(values).max())
            found += self._refined_zeros(function, *brackets, least).tolist()
        if self.closed and self._changes_at_seam(values, found):
            found.append(self.first)
        return sorted(found)

    def _changes_at_seam(self, values: Points, found: list[float]) -> bool:
        """Say whether a sign changes where a closed curve begins, and rounding hid it there."""
        if abs(values[0]) > ROUNDING * np.abs(values).max() or values[1] * values[-2] > 0.0:
            return False
        step = (self.last - self.first) / len(values)
        return all(min(t - self.first, self.last - t) > FINE * step for t in found)

    def _refined_zeros(
        self, function: Callable[[Points, Points], Points], low: Points, high: Points,
        f_low: Points, f_high: Points, least: float,
    ) -> Points:  # fmt: skip
        """Return the zeros between pairs of parameters, by false position with Illinois' rule."""
        best, f_best = low, np.abs(f_low)
        for _ in range(_STEPS):
            middle = (low * f_high - high * f_low) / np.where(f_high == f_low, 1.0, f_high - f_low)
            f = function(self.many(middle), self.slopes(middle))
            best = np.where(np.abs(f) < f_best, middle, best)
            f_best = np.minimum(np.abs(f), f_best)
            if f_best.max() <= least:
                break
            same = f * f_low > 0
            # the end that stays counts half, or it would stay for ever
            f_low, f_high = np.where(same, f, f_low / 2), np.where(same, f_high / 2, f)
            low, high = np.where(same, middle, low), np.where(same, high, middle)
        return np.asarray(best)

    def crossings_with_line(self, origin: Vec2, along: Vec2) -> list[float]:
        """Return the parameters where a straight line without ends crosses the curve."""
        return self.zeros(
            lambda p, _: along[0] * (p[:, 1] - origin[1]) - along[1] * (p[:, 0] - origin[0])
        )

    def touching(self, way: Vec2) -> list[float]:
        """Return the parameters where the tangent runs along a direction."""
        return self.zeros(lambda _, s: way[0] * s[:, 1] - way[1] * s[:, 0])

    def tangents_from(self, point: Vec2) -> list[float]:
        """Return the parameters where a line from a point touches the curve."""
        return self.zeros(
            lambda p, s: (p[:, 0] - point[0]) * s[:, 1] - (p[:, 1] - point[1]) * s[:, 0]
        )

    def nearest(self, point: Vec2) -> float:
        """Return the parameter of the point nearest to a place."""
        feet = self.zeros(
            lambda p, s: (p[:, 0] - point[0]) * s[:, 0] + (p[:, 1] - point[1]) * s[:, 1]
        )
        ends = [] if self.closed else [self.first, self.last]
        t, points = self.samples
        best = float(t[((points - np.array(point)) ** 2).sum(axis=1).argmin()])
        return min([best, *feet, *ends], key=lambda value: math.dist(self.at(value), point))

    def crossings(self, other: DrawnCurve) -> list[tuple[float, float]]:
        """Return the pairs of parameters where two curves cross."""
        found: list[tuple[float, float]] = []
        for t, s in _rough_crossings(self.samples, other.samples):
            refined = _refined(self, other, t, s)
            if refined and all(abs(refined[0] - known[0]) > FINE for known in found):
                found.append(refined)
        return found

    def completed(self) -> DrawnCurve:
        """Return the closed curve that it is a part of, where that is known."""
        return self

    def wrapped(self, t: float) -> float:
        """Return a closed curve's parameter brought between its first and last."""
        if not self.closed:
            return min(max(t, self.first), self.last)
        return self.first + (t - self.first) % (self.last - self.first)

    def span(self, start: float, end: float) -> tuple[float, float]:
        """Return (start, end) with end beyond start: a closed curve is followed onward."""
        if self.closed and end <= start + SOLVED:
            end += self.last - self.first
        return start, end

    def path(self, start: float, end: float, chord: float = CHORD_MM) -> list[Vec2]:
        """Return the polyline from one parameter to another, no more than `chord` off."""
        share = abs(end - start) / (self.last - self.first)
        count = max(2, math.ceil(share * self._steps()))
        while True:
            t = np.linspace(start, end, 2 * count + 1)
            points = self.many(self._inside(t))
            off = np.abs(points[1::2] - (points[:-2:2] + points[2::2]) / 2).sum(axis=1).max()
            if off < chord or count > 20_000:
                return list(map(tuple, points.tolist()))
            count *= 2

    def _inside(self, t: Points) -> Points:
        if not self.closed:
            return np.clip(t, self.first, self.last)
        return self.first + (t - self.first) % (self.last - self.first)


class ArcChain(DrawnCurve):
    """Arcs of circles that meet end to end, each with a parameter span of 1."""

    def __init__(self, arcs: Sequence[Arc], closed: bool) -> None:
        self.arcs = tuple(arcs)
        self.closed = closed
        self.first, self.last = 0.0, float(len(arcs))
        self._figures = np.array([(*a.centre, a.radius, a.first, a.last) for a in self.arcs])

    def _steps(self) -> int:
        return _SAMPLES_A_SPAN * 2 * len(self.arcs) + _SAMPLES_A_TURN // 2

    def _angles(self, t: Points) -> tuple[Points, Points]:
        index = np.minimum(np.maximum(t.astype(int), 0), len(self.arcs) - 1)
        rows = self._figures[index]
        return rows, rows[:, 3] + (t - index) * (rows[:, 4] - rows[:, 3])

    def many(self, t: Points) -> Points:
        """Return the points at parameters, shape (n, 2)."""
        rows, angle = self._angles(t)
        turned = np.column_stack((np.cos(angle), np.sin(angle)))
        return np.asarray(rows[:, :2] + rows[:, 2:3] * turned)

    def slopes(self, t: Points) -> Points:
        """Return the derivatives at parameters, shape (n, 2)."""
        rows, angle = self._angles(t)
        size = (rows[:, 2] * (rows[:, 4] - rows[:, 3]))[:, None]
        return np.asarray(size * np.column_stack((-np.sin(angle), np.cos(angle))))

    def nearest(self, point: Vec2) -> float:
        """Return the parameter of the point nearest to a place, arc by arc in closed form."""
        found = []
        for k, arc in enumerate(self.arcs):
            across, up = point[0] - arc.centre[0], point[1] - arc.centre[1]
            sweep = arc.last - arc.first
            share = ((math.atan2(up, across) - arc.first) % math.tau) / sweep
            if share <= 1:
                found.append((abs(math.hypot(across, up) - arc.radius), k + share))
            else:
                found += [(math.dist(arc.start, point), float(k)),
                          (math.dist(arc.end, point), k + 1.0)]  # fmt: skip
        return min(found)[1]

    def index_at(self, t: float) -> int:
        """Return which arc a parameter lies on."""
        return min(int(self.wrapped(t)), len(self.arcs) - 1)

    def completed(self) -> DrawnCurve:
        """Return the whole circle of a single arc."""
        if self.closed or len(self.arcs) > 1:
            return self
        arc = self.arcs[0]
        return ArcChain([Arc(arc.centre, arc.radius, 0.0, math.tau)], closed=True)


class Arc:
    """An arc of a circle, counter-clockwise from angle `first` to `last` in radians; mm."""

    __slots__ = ("centre", "first", "last", "radius")

    def __init__(self, centre: Vec2, radius: float, first: float, last: float) -> None:
        self.centre, self.radius = centre, radius
        self.first = first
        self.last = last if last > first else last + math.tau

    @classmethod
    def between(cls, centre: Vec2, start: Vec2, end: Vec2) -> Arc:
        """Return the arc about a centre from one point counter-clockwise to another."""
        first = math.atan2(start[1] - centre[1], start[0] - centre[0])
        last = math.atan2(end[1] - centre[1], end[0] - centre[0])
        return cls(centre, math.dist(centre, start), first, last)

    @property
    def start(self) -> Vec2:
        """Where it begins."""
        return self.at(self.first)

    @property
    def end(self) -> Vec2:
        """Where it ends."""
        return self.at(self.last)

    def at(self, angle: float) -> Vec2:
        """Return the point at an angle in radians."""
        return (
            self.centre[0] + self.radius * math.cos(angle),
            self.centre[1] + self.radius * math.sin(angle),
        )


class TrammelEllipse(DrawnCurve):
    """An exact ellipse, or an arc of one, as a paper-strip trammel gives it."""

    def __init__(self, arc: PaperArc) -> None:
        self.arc = arc.on_axes()
        self.closed = arc.is_closed
        self.first, self.last = self.arc.first, self.arc.last

    def _steps(self) -> int:
        return max(_SAMPLES_A_SPAN, math.ceil(_SAMPLES_A_TURN * (self.last - self.first) / 6.28))

    def many(self, t: Points) -> Points:
        """Return the points at parameters, shape (n, 2)."""
        arc = self.arc
        return (
            np.array(arc.centre)
            + np.outer(np.cos(t), np.array(arc.a))
            + np.outer(np.sin(t), np.array(arc.b))
        )

    def slopes(self, t: Points) -> Points:
        """Return the derivatives at parameters, shape (n, 2)."""
        return np.outer(-np.sin(t), np.array(self.arc.a)) + np.outer(
            np.cos(t), np.array(self.arc.b)
        )


class FrenchCurve(DrawnCurve):
    """A smooth curve through points: a cubic spline over the lengths of their chords.

    A closed one does not repeat its first point. Raises ValueError for fewer than two points.
    """

    def __init__(self, points: Sequence[Vec2], closed: bool = False) -> None:
        if len(points) < (3 if closed else 2):
            raise ValueError(tr("a curve needs more points"))
        self.closed = closed
        through = np.array([*points, points[0]] if closed else points)
        chords = np.hypot(*np.diff(through, axis=0).T)
        self.knots = np.concatenate(([0.0], np.cumsum(chords)))
        self._through = through
        self._bends = _second_derivatives(self.knots, through, closed)
        self.first, self.last = 0.0, float(self.knots[-1])

    def _steps(self) -> int:
        return _SAMPLES_A_SPAN * (len(self.knots) - 1)

    def _local(self, t: Points) -> tuple[Points, ...]:
        """Return for each parameter both knots' points and bends, its shares, and the step."""
        k = np.clip(np.searchsorted(self.knots, t, side="right") - 1, 0, len(self.knots) - 2)
        step = (self.knots[k + 1] - self.knots[k])[:, None]
        b = (t - self.knots[k])[:, None] / step
        p, m = self._through, self._bends
        return p[k], p[k + 1], m[k], m[k + 1], 1 - b, b, step

    def many(self, t: Points) -> Points:
        """Return the points at parameters, shape (n, 2)."""
        p, q, m, n, a, b, step = self._local(t)
        return np.asarray(a * p + b * q + step**2 / 6 * ((a**3 - a) * m + (b**3 - b) * n))

    def slopes(self, t: Points) -> Points:
        """Return the derivatives at parameters, shape (n, 2)."""
        p, q, m, n, a, b, step = self._local(t)
        return np.asarray((q - p) / step + step / 6 * ((3 * b**2 - 1) * n - (3 * a**2 - 1) * m))


def _second_derivatives(knots: Points, through: Points, closed: bool) -> Points:
    """Return the second derivatives at the knots of the cubic spline through points, (n, 2).

    Where two cubics meet, their slopes agree: h·m₋ + 2(h + h′)·m + h′·m₊ = 6·(d′ − d), with d the
    chords' slopes. Open curves end with the bend of their neighbour, as a French curve is laid.
    """
    steps = np.diff(knots)
    slopes = np.diff(through, axis=0) / steps[:, None]
    count = len(knots)
    matrix, right = np.zeros((count, count)), np.zeros((count, 2))
    for k in range(1, count - 1):
        matrix[k, k - 1 : k + 2] = steps[k - 1], 2 * (steps[k - 1] + steps[k]), steps[k]
        right[k] = 6 * (slopes[k] - slopes[k - 1])
    if closed:
        matrix[0, :2] = 2 * (steps[-1] + steps[0]), steps[0]
        matrix[0, -2] += steps[-1]
        right[0] = 6 * (slopes[0] - slopes[-1])
        matrix[-1, 0], matrix[-1, -1] = 1.0, -1.0
    else:
        bent = count > 2
        matrix[0, 0], matrix[0, 1] = 1.0, -1.0 if bent else 0.0
        matrix[-1, -1], matrix[-1, -2] = 1.0, -1.0 if bent else 0.0
    return np.asarray(np.linalg.solve(matrix, right))


class FreehandArcs(DrawnCurve):
    """Arcs by hand, each from one point to the next and flat against both sides of a corner.

    A hand that only knows its ends and its tangents draws about a parabola.
    """

    def __init__(self, points: Sequence[Vec2], corners: Sequence[Vec2], closed: bool) -> None:
        self.closed = closed
        ring = [*points, points[0]] if closed else list(points)
        self._spans = [
            (np.array(a), np.array(k), np.array(b))
            for (a, b), k in zip(pairwise(ring), corners, strict=True)
        ]
        self._rows = np.array(self._spans)
        self.first, self.last = 0.0, float(len(self._spans))

    def _steps(self) -> int:
        return 2 * _SAMPLES_A_SPAN * len(self._spans)

    def _local(self, t: Points) -> tuple[Points, Points]:
        index = np.clip(np.floor(t).astype(int), 0, len(self._spans) - 1)
        return self._rows[index], (t - index)[:, None]

    def many(self, t: Points) -> Points:
        """Return the points at parameters, shape (n, 2)."""
        rows, s = self._local(t)
        return (1 - s) ** 2 * rows[:, 0] + 2 * s * (1 - s) * rows[:, 1] + s**2 * rows[:, 2]

    def slopes(self, t: Points) -> Points:
        """Return the derivatives at parameters, shape (n, 2)."""
        rows, s = self._local(t)
        return 2 * (1 - s) * (rows[:, 1] - rows[:, 0]) + 2 * s * (rows[:, 2] - rows[:, 1])

    def index_at(self, t: float) -> int:
        """Return which arc a parameter lies on."""
        return min(int(self.wrapped(t)), len(self._spans) - 1)


def common_tangents(one: DrawnCurve, other: DrawnCurve) -> list[tuple[float, float]]:
    """Return the parameter pairs where a straightedge touches both curves from outside.

    A line with normal n touches a curve where n·p is largest, and both where these values agree.
    From a rough normal the straightedge is laid again through the two points it touches.
    """
    # not at round angles, where symmetrical curves make the difference vanish exactly
    angles = np.linspace(0.0, math.tau, 361) + 0.00137
    normals = np.vstack((np.cos(angles), np.sin(angles)))
    gaps = (one.samples[1] @ normals).max(axis=0) - (other.samples[1] @ normals).max(axis=0)
    found: list[tuple[float, float]] = []
    for k in np.nonzero(gaps[:-1] * gaps[1:] <= 0)[0]:
        normal = float(normals[0, k]), float(normals[1, k])
        pair = _laid(one, other, normal)
        if pair is not None and all(abs(pair[0] - known[0]) > SHARE for known in found):
            found.append(pair)
    return found


def _laid(one: DrawnCurve, other: DrawnCurve, normal: Vec2) -> tuple[float, float] | None:
    """Lay a straightedge on two curves, its normal pointing away from them; None if it cannot."""
    for _ in range(60):
        t, s = (_farthest(curve, normal) for curve in (one, other))
        p, q = one.at(t), other.at(s)
        size = math.dist(p, q)
        if size < ROUNDING:
            return None
        across = (q[1] - p[1]) / size, (p[0] - q[0]) / size
        if across[0] * normal[0] + across[1] * normal[1] < 0:
            across = -across[0], -across[1]
        if math.dist(across, normal) < SOLVED:
            return t, s
        normal = across
    return None


def _farthest(curve: DrawnCurve, normal: Vec2) -> float:
    """Return the parameter of the point that lies farthest in a direction."""
    t, points = curve.samples
    rough = float(t[(points @ np.array(normal)).argmax()])
    return max(
        [rough, *curve.touching((-normal[1], normal[0]))],
        key=lambda value: float(np.dot(curve.at(value), normal)),
    )


def _rough_crossings(
    one: tuple[Points, Points], other: tuple[Points, Points]
) -> list[tuple[float, float]]:
    """Return the pairs of parameters where two polylines cross, and where they come close."""
    (t, p), (s, q) = one, other
    d, e = np.diff(p, axis=0), np.diff(q, axis=0)
    apart = q[None, :-1] - p[:-1, None]
    sine = d[:, None, 0] * e[None, :, 1] - d[:, None, 1] * e[None, :, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        u = (apart[..., 0] * e[None, :, 1] - apart[..., 1] * e[None, :, 0]) / sine
        v = (apart[..., 0] * d[:, None, 1] - apart[..., 1] * d[:, None, 0]) / sine
    slack = 0.15  # polylines may just miss where the curves meet
    hit = (u > -slack) & (u < 1 + slack) & (v > -slack) & (v < 1 + slack)
    return [
        (float(t[i] + u[i, j] * (t[i + 1] - t[i])), float(s[j] + v[i, j] * (s[j + 1] - s[j])))
        for i, j in np.argwhere(hit)
    ]


def _refined(one: DrawnCurve, other: DrawnCurve, t: float, s: float) -> tuple[float, float] | None:
    """Bring a rough crossing onto both curves by Newton's method; None where it runs away."""
    for _ in range(30):
        t, s = one.wrapped(t), other.wrapped(s)
        (px, py), (qx, qy) = one.at(t), other.at(s)
        (ax, ay), (bx, by) = one.slope(t), other.slope(s)
        sine = ax * by - ay * bx
        if abs(sine) < SOLVED:
            return None
        dx, dy = qx - px, qy - py
        step_t, step_s = (dx * by - dy * bx) / sine, (dx * ay - dy * ax) / sine
        if math.hypot(dx, dy) < SOLVED:
            return t, s
        t, s = t + step_t, s + step_s
    same = math.dist(one.at(one.wrapped(t)), other.at(other.wrapped(s))) < ROUNDING
    return (one.wrapped(t), other.wrapped(s)) if same else None
