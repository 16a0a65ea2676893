"""From full and empty cells to the surfaces that part them: what bounds a solid.

Where no feature that has a name makes a filling, its solid is still known: it lies between the
surfaces at which full cells meet empty ones.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from holoptic.curves.vectors import Vec3, cross, dot, subtract
from holoptic.part.walls import Drum, Flat, Panel, Wall
from holoptic.reading.lines import Bow, Shape, Straight
from holoptic.reading.pieces import SHORTEST_MM
from holoptic.reading.space import Space
from holoptic.tolerance import DRAWN_MM, SHARE

_MOST_PAIRS = 40_000


class Bounds:
    """What bounds one filling of a space's cells."""

    def __init__(self, space: Space, filling: np.ndarray) -> None:
        self._space, self._filling = space, filling
        sampled = space.cells
        self._full = (sampled >= 0) & filling[sampled]

    def panels(self) -> list[Panel]:
        """Return the walls that part full from empty, each once, as far as they are needed."""
        one, other = self._pairs()
        candidates = list(self._candidates())
        crossed = np.array([_side(wall, one) != _side(wall, other) for wall, _ in candidates])
        if not crossed.size:
            return []
        counts = crossed.sum(axis=0)
        needed = crossed[:, counts == 1].any(axis=1)
        # where several could part a pair, one that is needed anyway does it
        open_pairs = (counts > 1) & ~crossed[needed].any(axis=0)
        needed |= crossed[:, open_pairs].any(axis=1)
        return [
            Panel(wall, *self._box(one[parted], other[parted]))
            for (_, wall), is_in, parted in zip(candidates, needed, crossed, strict=True) if is_in
        ]  # fmt: skip

    def _box(self, one: np.ndarray, other: np.ndarray) -> tuple[Vec3, Vec3]:
        """Return the box of whole slabs about pairs of samples."""
        low = np.minimum(one, other).min(axis=0).tolist()
        high = np.maximum(one, other).max(axis=0).tolist()
        for axis, breaks in enumerate(self._space.breaks):
            low[axis] = float(breaks[np.searchsorted(breaks, low[axis]) - 1])
            high[axis] = float(breaks[np.searchsorted(breaks, high[axis])])
        return (low[0], low[1], low[2]), (high[0], high[1], high[2])

    def is_full(self, points: np.ndarray) -> np.ndarray:
        """Say for points (n × 3, mm) whether they lie in full cells."""
        return np.array([self._is_full((x, y, z)) for x, y, z in points.tolist()], bool)

    def _is_full(self, point: Vec3) -> bool:
        space = self._space
        box = [space.slab(axis, point[axis]) for axis in range(3)]
        if not all(0 <= slab < len(space.breaks[axis]) - 1 for axis, slab in enumerate(box)):
            return False
        front, top, side = (
            space.views[depth].faces.face_at(
                (point[space.views[depth].plane.axes[0]], point[space.views[depth].plane.axes[1]])
            )
            for depth in (1, 2, 0)
        )
        cell = space.cell((box[0], box[1], box[2]), front, top, side, space.side(point))
        if 0 <= cell < len(self._filling):
            return bool(self._filling[cell])
        return cell >= 0 and self._is_full_near(point)

    def _is_full_near(self, point: Vec3) -> bool:
        """Say it of a bit that is too small for any sample: as the nearest sample is."""
        at = tuple(
            int(np.abs(self._space.samples[axis] - point[axis]).argmin()) for axis in range(3)
        )
        return bool(self._full[at])

    def _pairs(self) -> tuple[np.ndarray, np.ndarray]:
        """Return neighbouring samples (two times n × 3) of which one is full and one empty."""
        ones, others = [], []
        samples = self._space.samples
        # beyond the crate all is empty; there its own sides part
        for axis in range(3):
            a = np.moveaxis(self._full, axis, 0)
            at = np.argwhere(a[1:] != a[:-1])
            order = [axis, *(k for k in range(3) if k != axis)]
            back = np.argsort(order)
            for found, step in ((ones, 0), (others, 1)):
                index = (at + np.array([step, 0, 0]))[:, back]
                found.append(np.column_stack([samples[k][index[:, k]] for k in range(3)]))
        one, other = np.concatenate(ones), np.concatenate(others)
        if len(one) > _MOST_PAIRS:
            some = np.random.default_rng(0).choice(len(one), _MOST_PAIRS, replace=False)
            one, other = one[some], other[some]
        return one, other

    def _candidates(self) -> Iterator[tuple[object, Wall]]:
        """Yield every line's wall, lines that carry on another once, and the surfaces."""
        found: list[Wall] = []
        for view in self._space.views.values():
            for line in view.view.drawn:
                wall = wall_of(line.shape, view.plane.depth)
                if wall is not None and not any(_are_one(wall, other) for other in found):
                    found.append(wall)
                    yield wall, wall
        for surface in self._space.surfaces:
            if surface.wall is not None:
                yield surface, surface.wall


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


def _side(wall: object, points: np.ndarray) -> np.ndarray:
    """Say for points on which side of a wall they lie; a surface has its box as well."""
    if isinstance(wall, Flat):
        return (points - np.array(wall.point)) @ np.array(wall.normal) > 0
    if isinstance(wall, Drum):
        off = points - np.array(wall.point)
        way = np.array(wall.way)
        along = off @ way
        return (off**2).sum(axis=1) - along**2 > wall.radius**2
    found: np.ndarray = wall.holds(points)  # type: ignore[attr-defined]
    return found


def _are_one(one: Wall, other: Wall) -> bool:
    """Say whether two walls of lines are the same surface."""
    if isinstance(one, Drum) and isinstance(other, Drum):
        apart = np.abs(np.subtract((*one.point, *one.way, one.radius),
                                   (*other.point, *other.way, other.radius)))  # fmt: skip
        return bool(apart.max() < DRAWN_MM)
    if isinstance(one, Flat) and isinstance(other, Flat):
        sine = math.dist(cross(one.normal, other.normal), (0.0, 0.0, 0.0))
        off = dot(subtract(one.point, other.point), other.normal)
        return sine < SHARE and abs(off) < DRAWN_MM
    return False
