"""The faces of one view's arrangement, found slab by slab.

Between two neighbouring breaks of an axis no piece begins or ends, so there the pieces stand in a
fixed order and part the slab into strips. Strips that meet across a break where nothing is drawn
belong to one face. Face 0 is the outside.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from itertools import pairwise

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.reading.pieces import SNAP_MM, ViewPiece

OUTSIDE = 0


class Faces:
    """The faces of a view, with `breaks` along its two axes (each sorted, mm)."""

    def __init__(self, pieces: list[ViewPiece], breaks: tuple[np.ndarray, np.ndarray]) -> None:
        self.pieces = pieces
        self.breaks = breaks
        self._lists = breaks[0].tolist(), breaks[1].tolist()
        self._orders = (
            [self._order(0, slab) for slab in range(len(breaks[0]) - 1)],
            [self._order(1, slab) for slab in range(len(breaks[1]) - 1)],
        )
        self._walls = self._lines_on_breaks(0), self._lines_on_breaks(1)
        self._names_u, self.count = self._name_faces()
        self._names_v = [self._names_along_v(slab) for slab in range(len(breaks[1]) - 1)]

    # --- asking ---------------------------------------------------------------------------------

    def slab(self, axis: int, value: float) -> int:
        """Return the slab of an axis that holds a value; −1 or the count outside of all."""
        return bisect_right(self._lists[axis], value) - 1

    def face_at(self, place: Vec2) -> int:
        """Return the face at a place that lies on no piece."""
        slab = self.slab(0, place[0])
        if not 0 <= slab < len(self._names_u):
            return OUTSIDE
        below = sum(self.pieces[i].v_at(place[0]) < place[1] for i in self._orders[0][slab])
        return self._names_u[slab][below]

    def faces_at(self, us: np.ndarray, vs: np.ndarray) -> np.ndarray:
        """Return the faces (len(us) × len(vs)) at the places of a grid; none may lie on a piece."""
        found = np.zeros((len(us), len(vs)), np.int32)
        for row, u in enumerate(us.tolist()):
            slab = self.slab(0, u)
            if 0 <= slab < len(self._names_u):
                levels = np.array([self.pieces[i].v_at(u) for i in self._orders[0][slab]])
                found[row] = np.array(self._names_u[slab])[np.searchsorted(levels, vs)]
        return found

    def crossed(self, axis: int, value: float) -> tuple[list[int], list[int]]:
        """Return what a line across the view crosses, where `axis` has a value: the pieces in
        order along the other axis, and the faces before, between and after them.
        """
        slab = self.slab(axis, value)
        names = self._names_u if axis == 0 else self._names_v
        if not 0 <= slab < len(names):
            return [], [OUTSIDE]
        return self._orders[axis][slab], names[slab]

    def order(self, axis: int, slab: int) -> list[int]:
        """Return the pieces that cross a slab of an axis, in order along the other one."""
        return self._orders[axis][slab]

    def is_drawn_wall(self, axis: int, number: int, value: float) -> bool:
        """Say whether a line is drawn along break `number` of an axis, at a place along it."""
        return any(low <= value <= high for low, high in self._walls[axis].get(number, ()))

    def drawn_walls(self, axis: int, numbers: list[int], values: np.ndarray) -> np.ndarray:
        """Return the same for several breaks and places (len(numbers) × len(values))."""
        found = np.zeros((len(numbers), len(values)), bool)
        for row, number in enumerate(numbers):
            for low, high in self._walls[axis].get(number, ()):
                found[row] |= (values >= low) & (values <= high)
        return found

    def is_plain(self, axis: int, slab: int) -> bool:
        """Say whether only lines along the axes cross a slab."""
        return all(
            self.pieces[i].is_level if axis == 0 else self.pieces[i].is_upright
            for i in self._orders[axis][slab]
        )

    # --- making ---------------------------------------------------------------------------------

    def _order(self, axis: int, slab: int) -> list[int]:
        low, high = self._lists[axis][slab : slab + 2]
        middle = (low + high) / 2
        found = []
        for number, piece in enumerate(self.pieces):
            first, last = sorted((piece.start[axis], piece.end[axis]))
            if first <= low and last >= high:
                at = piece.v_at(middle) if axis == 0 else piece.u_at(middle)
                found.append((at, number))
        return [number for _, number in sorted(found)]

    def _lines_on_breaks(self, axis: int) -> dict[int, list[tuple[float, float]]]:
        found: dict[int, list[tuple[float, float]]] = {}
        for piece in self.pieces:
            if piece.is_upright if axis == 0 else piece.is_level:
                number = bisect_left(self._lists[axis], piece.start[axis])
                span = sorted((piece.start[1 - axis], piece.end[1 - axis]))
                found.setdefault(number, []).append((span[0], span[1]))
        return found

    def _name_faces(self) -> tuple[list[list[int]], int]:
        """Number the strips of the u slabs, then join those that belong to one face."""
        offsets = np.cumsum([0, *(len(order) + 1 for order in self._orders[0])]).tolist()
        parents = list(range(offsets[-1] + 1))  # the last one is the outside

        def find(item: int) -> int:
            while parents[item] != item:
                parents[item] = parents[parents[item]]
                item = parents[item]
            return item

        def join(a: int, b: int) -> None:
            parents[find(a)] = find(b)

        outside = offsets[-1]
        for slab, order in enumerate(self._orders[0]):
            join(offsets[slab], outside)
            join(offsets[slab] + len(order), outside)
        for number in range(len(self._lists[0])):
            self._join_across(number, offsets, join)
        names: dict[int, int] = {find(outside): OUTSIDE}
        return [
            [names.setdefault(find(offsets[slab] + k), len(names)) for k in range(len(order) + 1)]
            for slab, order in enumerate(self._orders[0])
        ], len(names)

    def _join_across(self, number: int, offsets: list[int], join) -> None:  # type: ignore[no-untyped-def]
        """Join strips left and right of a u break along what is not drawn of it."""
        left = self._strips_at(number - 1, number)
        right = self._strips_at(number, number)
        outside = offsets[-1]
        walls = self._walls[0].get(number, [])
        for a, (low_a, high_a) in left:
            for b, (low_b, high_b) in right:
                low, high = max(low_a, low_b), min(high_a, high_b)
                if high - low > 2 * SNAP_MM and _is_open(low, high, walls):
                    join(
                        outside if a is None else offsets[number - 1] + a,
                        outside if b is None else offsets[number] + b,
                    )

    def _strips_at(self, slab: int, number: int) -> list[tuple[int | None, tuple[float, float]]]:
        """Return a slab's strips with their spans along v at one of its breaks."""
        far = 1e9
        if not 0 <= slab < len(self._orders[0]):
            return [(None, (-far, far))]
        u = self._lists[0][number]
        levels = [-far, *(self.pieces[i].v_at(u) for i in self._orders[0][slab]), far]
        return list(enumerate(pairwise(levels)))

    def _names_along_v(self, slab: int) -> list[int]:
        low, high = self._lists[1][slab : slab + 2]
        # off the middle: where a piece of another slab might pass exactly
        v = low + 0.4871 * (high - low)
        us = [self.pieces[i].u_at(v) for i in self._orders[1][slab]]
        inner = [self.face_at((a + 0.4923 * (b - a), v)) for a, b in pairwise(us)]
        return [OUTSIDE, *inner, OUTSIDE] if us else [OUTSIDE]


def _is_open(low: float, high: float, walls: list[tuple[float, float]]) -> bool:
    """Say whether something of a span is not covered."""
    at = low
    for first, last in sorted(walls):
        if first > at + 2 * SNAP_MM:
            return True
        at = max(at, last)
        if at >= high - 2 * SNAP_MM:
            return False
    return high > at + 2 * SNAP_MM
