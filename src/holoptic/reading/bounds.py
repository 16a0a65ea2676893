"""From full and empty cells to the surfaces that part them: what bounds a solid.

Where no feature that has a name makes a filling, its solid is still known: it lies between the
surfaces at which full cells meet empty ones.
"""

from __future__ import annotations

import numpy as np

from holoptic.curves.vectors import Vec3
from holoptic.part.walls import Panel
from holoptic.reading.space import Space
from holoptic.reading.space_walls import SpaceWall

_MOST_PAIRS = 40_000


class Bounds:
    """What bounds one filling of a space's cells."""

    def __init__(self, space: Space, walls: list[SpaceWall], filling: np.ndarray) -> None:
        self._space, self._walls, self._filling = space, walls, filling
        sampled = space.cells
        self._full = (sampled >= 0) & filling[sampled]

    def panels(self, used: set[int], *, alone: bool = False) -> list[Panel]:
        """Return the walls that part full from empty, each once, as far as they are needed; where
        several could, those that are `used` (by their numbers), or these `alone`.
        """
        one, other = self._pairs()
        crossed = np.array([wall.sides(one) != wall.sides(other) for wall in self._walls])
        if not crossed.size:
            return []
        counts = crossed.sum(axis=0)
        needed = np.asarray(crossed[:, counts == 1].any(axis=1))
        # where several could part a pair, one that is needed anyway does it
        for more in (np.array([k in used for k in range(len(self._walls))]), ~needed):
            open_pairs = (counts > 1) & ~crossed[needed].any(axis=0)
            needed = needed | (more & crossed[:, open_pairs].any(axis=1))
        if alone:
            needed = needed & np.array([k in used for k in range(len(self._walls))])
        return [
            Panel(self._walls[k].wall, *self._box(one[crossed[k]], other[crossed[k]]))
            for k in np.flatnonzero(needed).tolist()
        ]

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
        if space.is_beyond(point):
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
        ones: list[np.ndarray] = []
        others: list[np.ndarray] = []
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
