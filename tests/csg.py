"""Solids of our own, described twice: for the kernel, and as plain inequalities for the judge.

A body is a list of primitives that are added or cut in turn. What the judge uses of it, `inside`,
`crossings` and `outlines`, is written out here and shares nothing with the kernel.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise

import numpy as np
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakePolygon,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Transform,
)
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakePrism,
    BRepPrimAPI_MakeRevol,
    BRepPrimAPI_MakeSphere,
    BRepPrimAPI_MakeTorus,
)
from OCP.collections import Array1_gp_Pnt
from OCP.GC import GC_MakeSegment
from OCP.Geom import Geom_BezierCurve
from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopoDS import TopoDS_Shape

Axis = tuple[float, float, float]


@dataclass(frozen=True)
class Primitive:
    """A simple solid standing on z = 0, turned about `axis` by `degrees`, then moved to `at`."""

    at: Axis = field(default=(0.0, 0.0, 0.0), kw_only=True)
    axis: Axis = field(default=(0.0, 0.0, 1.0), kw_only=True)
    degrees: float = field(default=0.0, kw_only=True)

    @cached_property
    def turn(self) -> np.ndarray:
        """The rotation matrix (Rodrigues' formula)."""
        x, y, z = np.array(self.axis) / np.linalg.norm(self.axis)
        k = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
        a = math.radians(self.degrees)
        return np.eye(3) + math.sin(a) * k + (1 - math.cos(a)) * k @ k

    def kernel_shape(self) -> TopoDS_Shape:
        turn, move = gp_Trsf(), gp_Trsf()
        if self.degrees:
            turn.SetRotation(
                gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(*self.axis)), math.radians(self.degrees)
            )
        move.SetTranslation(gp_Vec(*self.at))
        return BRepBuilderAPI_Transform(self._shape(), move.Multiplied(turn), True).Shape()

    def local(self, points: np.ndarray) -> np.ndarray:
        return (points - np.array(self.at)) @ self.turn

    def inside(self, points: np.ndarray) -> np.ndarray:
        return self._inside(self.local(points))

    def crossings(self, origins: np.ndarray, way: np.ndarray) -> np.ndarray:
        """Return parameters (n × k, NaN for none) at which rays meet the primitive's surfaces."""
        return self._crossings(self.local(origins), way @ self.turn)

    def outlines(self, toward: np.ndarray) -> Iterator[np.ndarray]:
        """Yield polylines of points where the surface turns away from the viewer."""
        for curve in self._outlines(toward @ self.turn):
            yield curve @ self.turn.T + np.array(self.at)

    def _shape(self) -> TopoDS_Shape:
        raise NotImplementedError

    def _inside(self, p: np.ndarray) -> np.ndarray:
        raise NotImplementedError

    def _crossings(self, o: np.ndarray, d: np.ndarray) -> np.ndarray:
        raise NotImplementedError

    def _outlines(self, d: np.ndarray) -> Iterator[np.ndarray]:
        del d
        yield from ()


def _thinned(points: np.ndarray) -> np.ndarray:
    """Return every point that lies 0.35 mm further along than the one before."""
    along = np.concatenate([[0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    keep = np.flatnonzero(np.diff(np.floor(along / 0.35)) > 0)
    return points[np.unique([0, *keep, len(points) - 1])]


def _at_planes(o: np.ndarray, d: np.ndarray, normal: np.ndarray, *offsets: float) -> np.ndarray:
    slope = float(normal @ d)
    if abs(slope) < 1e-12:
        return np.full((len(o), len(offsets)), np.nan)
    return (np.array(offsets) - (o @ normal)[:, None]) / slope


def _roots(a: np.ndarray | float, b: np.ndarray, c: np.ndarray) -> np.ndarray:
    """Return the real roots of a t² + 2 b t + c (n × 2), NaN where there are none."""
    a = np.broadcast_to(a, b.shape)
    with np.errstate(all="ignore"):
        root = np.sqrt(b * b - a * c)
        both = np.stack([(-b - root) / a, (-b + root) / a], axis=1)
        line = np.stack([-c / (2 * b), np.full_like(b, np.nan)], axis=1)
    return np.where(np.abs(a)[:, None] > 1e-12, both, line)


@dataclass(frozen=True)
class Column(Primitive):
    """A convex polygon (counter-clockwise) raised to a height; a box, a wedge, a hexagon."""

    corners: tuple[tuple[float, float], ...]
    height: float

    def _shape(self) -> TopoDS_Shape:
        return BRepPrimAPI_MakePrism(
            BRepBuilderAPI_MakeFace(_wire(self.corners, 0.0), True).Face(),
            gp_Vec(0, 0, self.height),
        ).Shape()

    @cached_property
    def _sides(self) -> list[tuple[np.ndarray, float]]:
        ring = np.array(self.corners)
        sides = []
        for a, b in zip(ring, np.roll(ring, -1, axis=0), strict=True):
            normal = np.array([b[1] - a[1], a[0] - b[0], 0.0]) / math.dist(a, b)
            sides.append((normal, float(normal[:2] @ a)))
        return sides

    def _inside(self, p: np.ndarray) -> np.ndarray:
        result = (p[:, 2] > 0) & (p[:, 2] < self.height)
        for normal, offset in self._sides:
            result &= p @ normal < offset
        return result

    def _crossings(self, o: np.ndarray, d: np.ndarray) -> np.ndarray:
        ends = _at_planes(o, d, np.array([0.0, 0.0, 1.0]), 0.0, self.height)
        return np.hstack([ends, *(_at_planes(o, d, n, w) for n, w in self._sides)])


def _wire(corners: tuple[tuple[float, float], ...], z: float):
    polygon = BRepBuilderAPI_MakePolygon()
    for x, y in corners:
        polygon.Add(gp_Pnt(x, y, z))
    polygon.Close()
    return polygon.Wire()


def box(x: float, y: float, z: float, **place) -> Column:
    return Column(((0, 0), (x, 0), (x, y), (0, y)), z, **place)


def regular(sides: int, radius: float, height: float, **place) -> Column:
    turns = [math.tau * i / sides for i in range(sides)]
    return Column(
        tuple((radius * math.cos(t), radius * math.sin(t)) for t in turns), height, **place
    )


@dataclass(frozen=True)
class Taper(Primitive):
    """A frustum of a pyramid over a regular polygon: radius `low` below, `high` above."""

    sides: int
    low: float
    high: float
    height: float

    def _ring(self, radius: float) -> tuple[tuple[float, float], ...]:
        return regular(self.sides, radius, 1).corners

    def _shape(self) -> TopoDS_Shape:
        skin = BRepOffsetAPI_ThruSections(True, True)
        skin.AddWire(_wire(self._ring(self.low), 0.0))
        skin.AddWire(_wire(self._ring(self.high), self.height))
        skin.Build()
        return skin.Shape()

    @cached_property
    def _planes(self) -> list[tuple[np.ndarray, float]]:
        low, high = np.array(self._ring(self.low)), np.array(self._ring(self.high))
        planes = []
        for i in range(self.sides):
            a, b = (np.array([*low[j % self.sides], 0.0]) for j in (i, i + 1))
            c = np.array([*high[i], self.height])
            normal = np.cross(b - a, c - a)
            normal /= np.linalg.norm(normal)
            planes.append((normal, float(normal @ a)))
        return planes

    def _inside(self, p: np.ndarray) -> np.ndarray:
        result = (p[:, 2] > 0) & (p[:, 2] < self.height)
        for normal, offset in self._planes:
            result &= p @ normal < offset
        return result

    def _crossings(self, o: np.ndarray, d: np.ndarray) -> np.ndarray:
        ends = _at_planes(o, d, np.array([0.0, 0.0, 1.0]), 0.0, self.height)
        return np.hstack([ends, *(_at_planes(o, d, n, w) for n, w in self._planes)])


@dataclass(frozen=True)
class Cone(Primitive):
    """A frustum of a cone about z: radius `low` at z = 0, `high` at the height; a cylinder too."""

    low: float
    high: float
    height: float

    @property
    def _slope(self) -> float:
        return (self.high - self.low) / self.height

    def _shape(self) -> TopoDS_Shape:
        if self.low == self.high:
            return BRepPrimAPI_MakeCylinder(self.low, self.height).Shape()
        return BRepPrimAPI_MakeCone(self.low, self.high, self.height).Shape()

    def _inside(self, p: np.ndarray) -> np.ndarray:
        radius = self.low + self._slope * p[:, 2]
        return (p[:, 2] > 0) & (p[:, 2] < self.height) & (np.hypot(p[:, 0], p[:, 1]) < radius)

    def _crossings(self, o: np.ndarray, d: np.ndarray) -> np.ndarray:
        k = self._slope
        radius = self.low + k * o[:, 2]
        a = d[0] ** 2 + d[1] ** 2 - (k * d[2]) ** 2
        b = o[:, 0] * d[0] + o[:, 1] * d[1] - radius * k * d[2]
        c = o[:, 0] ** 2 + o[:, 1] ** 2 - radius**2
        ends = _at_planes(o, d, np.array([0.0, 0.0, 1.0]), 0.0, self.height)
        return np.hstack([ends, _roots(a, b, c)])

    def _outlines(self, d: np.ndarray) -> Iterator[np.ndarray]:
        # the normal (cos φ, sin φ, −k) stands square to d
        size = math.hypot(d[0], d[1])
        if size < 1e-9 or abs(self._slope * d[2]) >= size:
            return
        middle, half = math.atan2(d[1], d[0]), math.acos(self._slope * d[2] / size)
        z = np.linspace(0, self.height, 3 + int(12 * self.height))
        for phi in (middle - half, middle + half):
            radius = self.low + self._slope * z
            yield np.stack([radius * math.cos(phi), radius * math.sin(phi), z], axis=1)


def cylinder(radius: float, height: float, **place) -> Cone:
    return Cone(radius, radius, height, **place)


@dataclass(frozen=True)
class Ball(Primitive):
    """A sphere about its place."""

    radius: float

    def _shape(self) -> TopoDS_Shape:
        return BRepPrimAPI_MakeSphere(self.radius).Shape()

    def _inside(self, p: np.ndarray) -> np.ndarray:
        return (p**2).sum(axis=1) < self.radius**2

    def _crossings(self, o: np.ndarray, d: np.ndarray) -> np.ndarray:
        return _roots(float(d @ d), o @ d, (o**2).sum(axis=1) - self.radius**2)

    def _outlines(self, d: np.ndarray) -> Iterator[np.ndarray]:
        first = np.cross(d, [0.31, 0.52, 0.79])
        first /= np.linalg.norm(first)
        second = np.cross(d, first)
        second /= np.linalg.norm(second)
        t = np.linspace(0, math.tau, 1441)[:, None]
        yield self.radius * (first * np.cos(t) + second * np.sin(t))


@dataclass(frozen=True)
class Ring(Primitive):
    """A torus about z."""

    major: float
    minor: float

    def _shape(self) -> TopoDS_Shape:
        return BRepPrimAPI_MakeTorus(self.major, self.minor).Shape()

    def _inside(self, p: np.ndarray) -> np.ndarray:
        across = np.hypot(p[:, 0], p[:, 1]) - self.major
        return across**2 + p[:, 2] ** 2 < self.minor**2

    def _crossings(self, o: np.ndarray, d: np.ndarray) -> np.ndarray:
        # (|p|² + R² − r²)² = 4 R² (x² + y²), a quartic in t; roots as eigenvalues
        dd, od = float(d @ d), o @ d
        k = (o**2).sum(axis=1) + self.major**2 - self.minor**2
        flat, f = 4 * self.major**2, (o[:, 0] * d[0] + o[:, 1] * d[1])
        c4 = dd * dd
        c3, c2 = 4 * dd * od, 2 * dd * k + 4 * od**2 - flat * (d[0] ** 2 + d[1] ** 2)
        c1, c0 = 4 * od * k - 2 * flat * f, k**2 - flat * (o[:, 0] ** 2 + o[:, 1] ** 2)
        companion = np.zeros((len(o), 4, 4))
        companion[:, 1, 0] = companion[:, 2, 1] = companion[:, 3, 2] = 1
        for row, c in enumerate((c0, c1, c2, c3)):
            companion[:, row, 3] = -c / c4
        roots = np.linalg.eigvals(companion)
        return np.where(np.abs(roots.imag) < 1e-5, roots.real, np.nan)

    def _outlines(self, d: np.ndarray) -> Iterator[np.ndarray]:
        u = np.linspace(0, math.tau, 20001)
        level = d[0] * np.cos(u) + d[1] * np.sin(u)
        if abs(d[2]) < 1e-9:
            return
        for v in (np.arctan2(-level, d[2]), np.arctan2(level, -d[2])):
            radius = self.major + self.minor * np.cos(v)
            yield np.stack([radius * np.cos(u), radius * np.sin(u), self.minor * np.sin(v)], axis=1)


@dataclass(frozen=True)
class Turned(Primitive):
    """A turned body whose radius is a Bézier polynomial of z, even steps of z: a spline face."""

    radii: tuple[float, ...]
    height: float

    def _radius(self, z: np.ndarray) -> np.ndarray:
        n, t = len(self.radii) - 1, z / self.height
        terms = [math.comb(n, i) * r * t**i * (1 - t) ** (n - i) for i, r in enumerate(self.radii)]
        return np.sum(terms, axis=0)

    def _shape(self) -> TopoDS_Shape:
        n = len(self.radii) - 1
        poles = Array1_gp_Pnt(1, n + 1)
        for i, radius in enumerate(self.radii):
            poles.SetValue(i + 1, gp_Pnt(radius, 0, self.height * i / n))
        wire = BRepBuilderAPI_MakeWire()
        wire.Add(BRepBuilderAPI_MakeEdge(Geom_BezierCurve(poles)).Edge())
        corners = [(self.radii[-1], self.height), (0, self.height), (0, 0), (self.radii[0], 0)]
        for (x1, z1), (x2, z2) in pairwise(corners):
            side = GC_MakeSegment(gp_Pnt(x1, 0, z1), gp_Pnt(x2, 0, z2)).Value()
            wire.Add(BRepBuilderAPI_MakeEdge(side).Edge())
        face = BRepBuilderAPI_MakeFace(wire.Wire(), True).Face()
        return BRepPrimAPI_MakeRevol(face, gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))).Shape()

    def _inside(self, p: np.ndarray) -> np.ndarray:
        near = np.hypot(p[:, 0], p[:, 1]) < self._radius(p[:, 2])
        return (p[:, 2] > 0) & (p[:, 2] < self.height) & near

    def _crossings(self, o: np.ndarray, d: np.ndarray) -> np.ndarray:
        ends = _at_planes(o, d, np.array([0.0, 0.0, 1.0]), 0.0, self.height)
        # the signs of x² + y² − r(z)² at many places of the ray, halved down to its roots
        reach = (max(self.radii) + self.height) * 1.5 / np.linalg.norm(d)
        middle = -(o @ d) / (d @ d)
        t = middle[:, None] + np.linspace(-reach, reach, 240)

        def gap(t: np.ndarray) -> np.ndarray:
            p = o[:, None, :] + t[..., None] * d
            z = np.clip(p[..., 2], 0, self.height)
            return np.hypot(p[..., 0], p[..., 1]) - self._radius(z)

        sign = gap(t) > 0
        changes = sign[:, 1:] != sign[:, :-1]
        order = np.argsort(~changes, axis=1, kind="stable")[:, :4]
        has = np.take_along_axis(changes, order, axis=1)
        low, high = (np.take_along_axis(t, order + shift, axis=1) for shift in (0, 1))
        first = gap(low) > 0
        for _ in range(30):
            half = (low + high) / 2
            same = (gap(half) > 0) == first
            low, high = np.where(same, half, low), np.where(same, high, half)
        return np.hstack([ends, np.where(has, low, np.nan)])

    def _outlines(self, d: np.ndarray) -> Iterator[np.ndarray]:
        z = np.linspace(0, self.height, 1600)
        slope = np.gradient(self._radius(z), z)
        size = math.hypot(d[0], d[1])
        cosine = slope * d[2] / max(size, 1e-9)
        middle, real = math.atan2(d[1], d[0]), np.abs(cosine) < 1
        half = np.arccos(np.clip(cosine, -1, 1))
        for run in np.split(np.arange(len(z)), np.flatnonzero(np.diff(real)) + 1):
            if not real[run[0]]:
                continue
            # one step further, where the two sides meet
            reach = np.arange(max(run[0] - 1, 0), min(run[-1] + 2, len(z)))
            for sign in (-1, 1):
                phi = middle + sign * half[reach]
                across = self._radius(z[reach])
                yield np.stack([across * np.cos(phi), across * np.sin(phi), z[reach]], axis=1)


@dataclass(frozen=True)
class Body:
    """Primitives added (+) or cut (−) one after another."""

    name: str
    steps: tuple[tuple[str, Primitive], ...]

    def plus(self, *primitives: Primitive) -> Body:
        return Body(self.name, (*self.steps, *(("+", p) for p in primitives)))

    def minus(self, *primitives: Primitive) -> Body:
        return Body(self.name, (*self.steps, *(("-", p) for p in primitives)))

    def kernel_shape(self) -> TopoDS_Shape:
        shape = self.steps[0][1].kernel_shape()
        for sign, primitive in self.steps[1:]:
            make = BRepAlgoAPI_Fuse if sign == "+" else BRepAlgoAPI_Cut
            shape = make(shape, primitive.kernel_shape()).Shape()
        return shape

    def inside(self, points: np.ndarray) -> np.ndarray:
        state = np.zeros(len(points), bool)
        for sign, primitive in self.steps:
            covered = primitive.inside(points)
            state = state | covered if sign == "+" else state & ~covered
        return state

    def crossings(self, origins: np.ndarray, way: np.ndarray) -> np.ndarray:
        return np.hstack([p.crossings(origins, way) for _, p in self.steps])


def body(name: str, first: Primitive) -> Body:
    return Body(name, (("+", first),))


Maker = Callable[[], Body]
