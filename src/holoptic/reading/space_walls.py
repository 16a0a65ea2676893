"""The walls that part a space: what its lines stand for, seen edge-on, and its surfaces.

Which of them a filling uses tells how plain it is, and bounds its solid.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from holoptic.curves.vectors import Vec3, cross, dot, subtract
from holoptic.part.walls import Drum, Flat, Globe, Taper, Tyre, Wall
from holoptic.reading.lines import Bow, Shape, Straight
from holoptic.reading.pieces import SHORTEST_MM
from holoptic.reading.space import NOTHING, Space
from holoptic.reading.surfaces import RingSurface, Surface
from holoptic.tolerance import DRAWN_MM, ROUGH_MM, SLIGHT

_LOOKS = 6
"""So many places are looked at where two cells meet: at one of them a single wall is crossed."""


@dataclass(frozen=True)
class SpaceWall:
    """A wall, with the surface it is of if it is edge-on in no view. One that only touches such a
    surface is mostly no face, but the line of the surface's outline.
    """

    wall: Wall
    surface: Surface | RingSurface | None = None
    touches: bool = False

    def sides(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3) on which side they lie."""
        if self.surface is not None:
            return self.surface.holds(points)
        if isinstance(self.wall, Flat):
            found: np.ndarray = (points - np.array(self.wall.point)) @ np.array(
                self.wall.normal
            ) > 0
            return found
        assert isinstance(self.wall, Drum)
        off = points - np.array(self.wall.point)
        along = off @ np.array(self.wall.way)
        outside: np.ndarray = (off**2).sum(axis=1) - along**2 > self.wall.radius**2
        return outside


def walls_of(space: Space) -> list[SpaceWall]:
    """Return the walls of a space, each once."""
    surfaces = [SpaceWall(s.wall, s) for s in space.surfaces if s.wall is not None]
    found: list[SpaceWall] = []
    for view in space.views.values():
        for line in view.view.drawn:
            wall = wall_of(line.shape, view.plane.depth)
            if wall is not None and not any(_are_one(wall, other.wall) for other in found):
                touches = any(_touch(wall, other.wall) for other in surfaces)
                found.append(SpaceWall(wall, None, touches))
    return found + surfaces


Meeting = tuple[int, int, tuple[int, ...]]
"""Two cells that meet (NOTHING for what is empty), and the walls between them."""


def meetings(space: Space, walls: list[SpaceWall]) -> list[Meeting]:
    """Return where cells meet: each pair across every wall that parts it alone somewhere; where
    none does, across the fewest together.
    """
    alone: set[tuple[int, int, int]] = set()
    several: dict[tuple[int, int], tuple[int, ...]] = {}
    for axis in range(3):
        for cells, one, other in _neighbours(space, axis):
            crossed = np.array([w.sides(one) != w.sides(other) for w in walls])
            counts = crossed.sum(axis=0)
            both = np.sort(cells, axis=1).tolist()
            for (a, b), row, count in zip(both, crossed.T, counts.tolist(), strict=True):
                if count == 1:
                    alone.add((a, b, int(row.argmax())))
                elif count and ((a, b) not in several or count < len(several[a, b])):
                    several[a, b] = tuple(np.flatnonzero(row).tolist())
    known = {(a, b) for a, b, _ in alone}
    return [(a, b, (wall,)) for a, b, wall in sorted(alone)] + [
        (a, b, found) for (a, b), found in sorted(several.items()) if (a, b) not in known
    ]


def _neighbours(space: Space, axis: int) -> Iterator[tuple[np.ndarray, np.ndarray, np.ndarray]]:
    """Yield the pairs of cells that meet along an axis, with the two samples of each; several times
    over, at other places.
    """
    cells = np.moveaxis(space.cells, axis, 0)
    a, b = cells[:-1].ravel(), cells[1:].ravel()
    apart = np.flatnonzero((a != b) & ((a >= 0) | (b >= 0)))
    if not len(apart):
        return
    order = [axis, *(k for k in range(3) if k != axis)]
    dice = np.random.default_rng(axis)
    for _ in range(_LOOKS):
        some = dice.permutation(apart)
        keys = np.column_stack([a[some], b[some]])
        keys[keys < 0] = NOTHING
        _, first = np.unique(keys, axis=0, return_index=True)
        index = np.array(np.unravel_index(some[first], (cells.shape[0] - 1, *cells.shape[1:]))).T
        points = []
        for step in (0, 1):
            at = index + np.array([step, 0, 0])
            place = np.empty((len(at), 3))
            for column, own in enumerate(order):
                place[:, own] = space.samples[own][at[:, column]]
            points.append(place)
        yield keys[first], points[0], points[1]


def wall_of(shape: Shape, depth: int) -> Flat | Drum | None:
    """Return what a line of the view along a depth axis stands for, seen edge-on; None for a free
    curve.
    """
    u, v = (axis for axis in range(3) if axis != depth)
    if isinstance(shape, Bow):
        way = [0.0, 0.0, 0.0]
        way[depth] = 1.0
        return Drum(_placed(u, v, shape.centre), (way[0], way[1], way[2]), shape.radius)
    if isinstance(shape, Straight):
        (a, b), (c, d) = shape.start, shape.end
        size = math.dist(shape.start, shape.end)
        if size > SHORTEST_MM:
            return Flat(_placed(u, v, shape.start), _placed(u, v, ((b - d) / size, (c - a) / size)))
    return None


def _placed(u: int, v: int, place: tuple[float, float]) -> Vec3:
    found = [0.0, 0.0, 0.0]
    found[u], found[v] = place
    return found[0], found[1], found[2]


def _are_one(one: Wall, other: Wall) -> bool:
    """Say whether two walls of lines are the same surface."""
    if isinstance(one, Drum) and isinstance(other, Drum):
        apart = np.abs(np.subtract((*one.point, *one.way, one.radius),
                                   (*other.point, *other.way, other.radius)))  # fmt: skip
        return bool(apart.max() < DRAWN_MM)
    if isinstance(one, Flat) and isinstance(other, Flat):
        sine = math.dist(cross(one.normal, other.normal), (0.0, 0.0, 0.0))
        off = dot(subtract(one.point, other.point), other.normal)
        return sine < SLIGHT and abs(off) < DRAWN_MM
    return False


def _touch(wall: Wall, other: Wall) -> bool:
    """Say whether a line's wall only touches a surface."""
    if isinstance(other, Globe):
        return _touches_ball(wall, other)
    if isinstance(other, Tyre):
        return _touches_ring(wall, other)
    if not isinstance(wall, Flat):
        return False
    if isinstance(other, Drum):
        is_along = abs(dot(wall.normal, other.way)) < SLIGHT
        return is_along and _near(abs(_off(wall, other.point)), other.radius)
    if isinstance(other, Taper):
        upright = dot(wall.normal, other.way)
        across = math.sqrt(max(1 - upright * upright, 0.0))
        reach = abs(_off(wall, other.centre)) / across if across > SLIGHT else 0.0
        return abs(_off(wall, other.tip)) < 2 * ROUGH_MM and _near(reach, other.radius)
    return False


def _touches_ball(wall: Wall, ball: Globe) -> bool:
    if isinstance(wall, Flat):
        return _near(abs(_off(wall, ball.centre)), ball.radius)
    assert isinstance(wall, Drum)
    off = subtract(ball.centre, wall.point)
    across = math.sqrt(max(dot(off, off) - dot(off, wall.way) ** 2, 0.0))
    return across < ROUGH_MM and _near(wall.radius, ball.radius)


def _touches_ring(wall: Wall, ring: Tyre) -> bool:
    if isinstance(wall, Flat):
        is_level = abs(abs(dot(wall.normal, ring.way)) - 1) < SLIGHT
        return is_level and _near(abs(_off(wall, ring.centre)), ring.thick)
    assert isinstance(wall, Drum)
    if abs(dot(wall.way, ring.way)) > SLIGHT:
        return any(_near(wall.radius, ring.radius + sign * ring.thick) for sign in (-1, 1))
    # the circle of its section, seen along the ring's plane
    off = subtract(wall.point, ring.centre)
    across = dot(off, cross(wall.way, ring.way))
    is_there = _near(abs(dot(off, ring.way)), 0.0) and _near(abs(across), ring.radius)
    return is_there and _near(wall.radius, ring.thick)


def _off(flat: Flat, point: Vec3) -> float:
    return dot(subtract(point, flat.point), flat.normal)


def _near(a: float, b: float) -> bool:
    return abs(a - b) < 2 * ROUGH_MM
