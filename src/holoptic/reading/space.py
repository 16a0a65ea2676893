"""The space that three views share: breaks along each axis, and the cells between faces.

Every face that is parallel to an axis is edge-on, and so drawn, in some view. A cell is what can
be reached without crossing any drawn line in any view; it is full or empty as a whole.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.errors import BadInput
from holoptic.linked import group_numbers
from holoptic.reading.faces import OUTSIDE, Faces
from holoptic.reading.lines import DrawnView, Free, Straight
from holoptic.reading.outlines import Neighbours
from holoptic.reading.pieces import SNAP_MM, ViewPiece, split
from holoptic.reading.planes import PLANES, Plane
from holoptic.reading.silhouette import silhouette_of
from holoptic.reading.surfaces import Bundle, RingSurface, Surface
from holoptic.tolerance import LEAST_SQUARE, NEAR_LINE_MM

NOTHING = -1
"""The cell of what lies outside an outline."""
_FINE = (0.003, 0.113, 0.307, 0.523, 0.737, 0.881, 0.9964)
_COARSE = (0.01, 0.263, 0.523, 0.771, 0.987)
_ROUGH = (0.07, 0.523, 0.927)
_ASIDE = (0.0, 0.0011, -0.0007)
"""By axis, and all of them uneven: a line from corner to corner of a box must meet no sample."""
_MOST_SAMPLES = 1_500_000


class ViewSpace:
    """One view in the shared space: its plane, its drawn lines and its faces."""

    def __init__(self, view: DrawnView, pieces: list[ViewPiece], faces: Faces) -> None:
        self.view, self.pieces, self.faces = view, pieces, faces
        self.neighbours = Neighbours(faces)
        self.silhouette = silhouette_of(view)
        self.is_void = self._outside_of_outline()
        self.plane: Plane = PLANES[view.name]
        straight = [(p.start, p.end) for p in pieces if p.centre is None]
        self._straight = np.array(straight).reshape(-1, 2, 2)
        self._round = np.array(
            [(*p.centre, p.radius) for p in pieces if p.centre is not None]
        ).reshape(-1, 3)
        free = [line.shape.points for line in view.drawn if isinstance(line.shape, Free)]
        chords = [pair for points in free for pair in pairwise(points)]
        self._chords = np.array(chords).reshape(-1, 2, 2)

    def _outside_of_outline(self) -> np.ndarray:
        """Return for each face whether it lies outside the outline, where nothing can be."""
        found = np.zeros(self.faces.count, bool)
        found[OUTSIDE] = True
        if self.silhouette is not None:
            return found  # faces run out through the outline
        for piece, (a, b) in zip(self.pieces, self.neighbours.beside, strict=True):
            if not piece.lines:
                found[a] = found[b] = True
        return found

    def is_outside(self, place: Vec2) -> bool:
        """Say whether a place lies outside the outline, where nothing can be."""
        if self.is_void[self.faces.face_at(place)]:
            return True
        return self.is_beyond(place)

    def is_beyond(self, place: Vec2) -> bool:
        """Say the same as far as faces do not tell it."""
        if self.silhouette is None:
            return False
        return not bool(self.silhouette.holds(np.array([place[0]]), np.array([place[1]]))[0])

    def inside(self, us: np.ndarray, vs: np.ndarray) -> np.ndarray:
        """Say for a grid (len(us) × len(vs)) which places lie within the outline."""
        found: np.ndarray = ~self.is_void[self.faces.faces_at(us, vs)]
        if self.silhouette is not None:
            grid = np.meshgrid(us, vs, indexing="ij")
            found &= self.silhouette.holds(*grid)
        return found

    def is_near_line(self, place: Vec2) -> bool:
        """Say whether something is drawn so near to a place that the place says nothing itself."""
        at = np.array(place)
        near_chord = (_distances(at, self._chords) < NEAR_CHORD_MM).any()
        return bool(near_chord) or self.is_near_piece(place, NEAR_LINE_MM)

    def is_near_piece(self, place: Vec2, gap: float) -> bool:
        """Say whether a straight line or the circle of an arc lies nearer to a place than a gap."""
        at = np.array(place)
        off = np.hypot(*(at - self._round[:, :2]).T) - self._round[:, 2]
        return bool((_distances(at, self._straight) < gap).any() or (np.abs(off) < gap).any())


NEAR_CHORD_MM = 0.02
"""A free curve's points lie this near to the curve itself."""


def _distances(place: np.ndarray, segments: np.ndarray) -> np.ndarray:
    starts, ways = segments[:, 0], segments[:, 1] - segments[:, 0]
    sizes = np.maximum((ways**2).sum(axis=1), LEAST_SQUARE)
    shares = np.clip(((place - starts) * ways).sum(axis=1) / sizes, 0.0, 1.0)
    gaps: np.ndarray = np.hypot(*(starts + shares[:, None] * ways - place).T)
    return gaps


@dataclass(frozen=True)
class Atoms:
    """The smallest bits that reading knows of: what three faces have in common in a box of breaks.

    For each the cell that it belongs to, its slab along each axis, its face in the view along each
    depth axis, its volume in mm³ (from samples, so it is near and not exact), and a point in it.
    """

    cells: np.ndarray
    slabs: tuple[np.ndarray, np.ndarray, np.ndarray]
    faces: tuple[np.ndarray, np.ndarray, np.ndarray]
    volumes: np.ndarray
    points: np.ndarray


class Space:
    """Three canonical views of one part, one for each depth axis."""

    def __init__(
        self, views: Sequence[DrawnView], surfaces: Sequence[Surface | RingSurface] = ()
    ) -> None:
        """Part the space further by surfaces. Raises ValueError unless the views lie in three
        different planes.
        """
        self.surfaces = tuple(surfaces)
        self._bundle = Bundle(self.surfaces)
        by_depth = {PLANES[view.name].depth: view for view in views}
        if sorted(by_depth) != [0, 1, 2] or len(views) != 3:
            raise ValueError(tr("three views in three planes are needed"))
        self.sizes = _sizes(by_depth)
        frames = {depth: _frame(self.sizes, PLANES[v.name].axes) for depth, v in by_depth.items()}
        pieces = {depth: split(view.lines, frames[depth]) for depth, view in by_depth.items()}
        self.breaks = [_breaks(axis, by_depth, pieces) for axis in range(3)]
        self.views: dict[int, ViewSpace] = {}
        for depth, view in by_depth.items():
            axes = PLANES[view.name].axes
            breaks = self.breaks[axes[0]], self.breaks[axes[1]]
            exact = on_breaks(pieces[depth], breaks)
            self.views[depth] = ViewSpace(view, exact, Faces(exact, breaks))
        self._lists = [breaks.tolist() for breaks in self.breaks]
        self._voids = {depth: view.is_void.tolist() for depth, view in self.views.items()}
        counts = [self.views[depth].faces.count for depth in (1, 2, 0)]
        sides = 1 << len(self.surfaces)
        self._counts = counts[1], counts[2], counts[0] * counts[1] * counts[2] * sides
        self._slabs = tuple(len(breaks) for breaks in self._lists)
        self._sample()

    # --- cells ----------------------------------------------------------------------------------

    def _sample(self) -> None:
        """Find the cells with samples between the breaks, denser where lines are not level."""
        for shares in (_FINE, _COARSE, _ROUGH):
            self.samples = [self._samples(axis, shares) for axis in range(3)]
            count = np.prod([float(len(one)) for one in self.samples])
            if count <= _MOST_SAMPLES:
                break
        if count > 4 * _MOST_SAMPLES:
            raise BadInput(tr("the views hold too many different levels to be read at once"))
        front, top, side = (self._faces_of(depth) for depth in (1, 2, 0))
        keys = self._keys(front[:, None, :], top[:, :, None], side[None, :, :])
        keys = (keys << len(self.surfaces)) + self._sides(keys.shape)
        solid = [self._inside(depth) for depth in (1, 2, 0)]
        inside = solid[0][:, None, :] & solid[1][:, :, None] & solid[2][None, :, :]
        edges = [self._joins(axis, keys, inside) for axis in range(3)]
        ends = np.concatenate(edges, axis=1) if edges else np.zeros((2, 0), int)
        flat = inside.ravel()
        groups = group_numbers(keys.size, ends.T)
        _, cells = np.unique(groups[flat], return_inverse=True)
        every = np.full(keys.size, NOTHING, np.int64)
        every[flat] = cells
        self.cells: np.ndarray = every.reshape(keys.shape)
        self._note_atoms(keys)

    def _samples(self, axis: int, shares: tuple[float, ...]) -> np.ndarray:
        breaks = self.breaks[axis]
        found = []
        for slab, (low, high) in enumerate(pairwise(breaks.tolist())):
            plain = not self.surfaces and all(
                view.faces.is_plain(view.plane.axes.index(axis), slab)
                for view in self.views.values()
                if axis in view.plane.axes
            )
            found += [low + (share + _ASIDE[axis]) * (high - low)
                      for share in ((0.4951,) if plain else shares)]  # fmt: skip
        return np.array(found)

    def _sides(self, shape: tuple[int, ...]) -> np.ndarray:
        """Return for each sample a bit for every surface on whose inner side it lies."""
        if not self.surfaces:
            return np.zeros(shape, np.int64)
        found = np.empty(shape, np.int64)
        rest = np.stack(np.meshgrid(*self.samples[1:], indexing="ij"), axis=-1).reshape(-1, 2)
        points = np.empty((len(rest), 3))
        points[:, 1:] = rest
        for number, x in enumerate(self.samples[0].tolist()):  # sheet by sheet: memory
            points[:, 0] = x
            found[number] = self._bundle.bits(points).reshape(shape[1:])
        return found

    def sides_along(self, depth: int, place: Vec2, values: list[float]) -> list[int]:
        """Return the same for points along a depth axis, at a place of the view along it."""
        if not self.surfaces:
            return [0] * len(values)
        u, v = self.views[depth].plane.axes
        points = np.empty((len(values), 3))
        points[:, u], points[:, v], points[:, depth] = place[0], place[1], values
        found: list[int] = self._bundle.bits(points).tolist()
        return found

    def side(self, point: Vec3) -> int:
        """Return the same for one point."""
        return int(self._bundle.bits(np.array([point]))[0]) if self.surfaces else 0

    def _inside(self, depth: int) -> np.ndarray:
        view = self.views[depth]
        u, v = view.plane.axes
        return view.inside(self.samples[u], self.samples[v])

    def _faces_of(self, depth: int) -> np.ndarray:
        view = self.views[depth]
        u, v = view.plane.axes
        return view.faces.faces_at(self.samples[u], self.samples[v])

    def _keys(self, front: np.ndarray, top: np.ndarray, side: np.ndarray) -> np.ndarray:
        tops, sides = self.views[2].faces.count, self.views[0].faces.count
        keys: np.ndarray = (front.astype(np.int64) * tops + top) * sides + side
        return keys

    def _joins(self, axis: int, keys: np.ndarray, inside: np.ndarray) -> np.ndarray:
        """Return pairs of neighbouring samples along an axis with nothing drawn between them."""
        before = [slice(None)] * 3
        after = [slice(None)] * 3
        before[axis], after[axis] = slice(None, -1), slice(1, None)
        a, b = tuple(before), tuple(after)
        joined = (keys[a] == keys[b]) & inside[a] & inside[b]
        slabs = np.searchsorted(self.breaks[axis], self.samples[axis]) - 1
        steps = np.flatnonzero(slabs[1:] != slabs[:-1])
        numbers = (slabs[steps] + 1).tolist()
        for view in self.views.values():
            if axis not in view.plane.axes:
                continue
            own = view.plane.axes.index(axis)
            other = view.plane.axes[1 - own]
            walls = view.faces.drawn_walls(own, numbers, self.samples[other])
            shape = [1, 1, 1]
            shape[axis], shape[other] = walls.shape
            placed = (walls if axis < other else walls.T).reshape(shape)
            index = [slice(None)] * 3
            index[axis] = steps  # type: ignore[call-overload]
            joined[tuple(index)] &= ~placed
        indices = np.arange(keys.size).reshape(keys.shape)
        return np.array([indices[a][joined], indices[b][joined]])

    def _note_atoms(self, keys: np.ndarray) -> None:
        """Note which faces meet in which box, with the cell that they belong to there."""
        slabs = [np.searchsorted(self.breaks[axis], self.samples[axis]) - 1 for axis in range(3)]
        boxes = self._box(slabs[0][:, None, None], slabs[1][None, :, None], slabs[2][None, None, :])
        sizes = [
            np.diff(self.breaks[axis])[slabs[axis]] / np.bincount(slabs[axis])[slabs[axis]]
            for axis in range(3)
        ]
        weights = sizes[0][:, None, None] * sizes[1][None, :, None] * sizes[2][None, None, :]
        places = (boxes * self._key_count + keys).ravel()
        # a curve may part what is outside an outline from what is inside: that comes first
        order = np.argsort(self.cells.ravel() == NOTHING, kind="stable")
        packed, first, back = np.unique(places[order], return_index=True, return_inverse=True)
        first, back = order[first], back.ravel()[np.argsort(order)]
        # bits of the same faces in one box are one cell, even where samples part them
        cells = self.cells.ravel()[first]
        names, numbers = np.unique(cells[cells >= 0], return_inverse=True)
        cells = cells.copy()
        cells[cells >= 0] = numbers
        outside = self.cells == NOTHING
        self.cells = cells[back].reshape(keys.shape)
        weights = np.where(outside & (self.cells != NOTHING), 0.0, weights)
        self.cells[outside] = NOTHING
        self.count = self.sampled = len(names)
        self._known = dict(zip(packed.tolist(), cells.tolist(), strict=True))
        box, key = np.divmod(packed, self._key_count)
        key >>= len(self.surfaces)
        rest, top_side = np.divmod(key, self.views[2].faces.count * self.views[0].faces.count)
        top, side = np.divmod(top_side, self.views[0].faces.count)
        first_two, third = np.divmod(box, len(self._lists[2]))
        one, two = np.divmod(first_two, len(self._lists[1]))
        volumes = np.bincount(back, weights.ravel())
        at = np.unravel_index(first, keys.shape)
        points = np.column_stack([self.samples[axis][at[axis]] for axis in range(3)])
        self.atoms = Atoms(cells, (one, two, third), (side, rest, top), volumes, points)

    @property
    def _key_count(self) -> int:
        front, top, side = (self.views[depth].faces.count for depth in (1, 2, 0))
        return front * top * side << len(self.surfaces)

    def _box(self, i: Any, j: Any, k: Any) -> Any:
        return (i * len(self._lists[1]) + j) * len(self._lists[2]) + k

    def cell(
        self, box: tuple[int, int, int], front: int, top: int, side: int, inner: int = 0
    ) -> int:
        """Return the cell of three faces in a box of breaks, on the inner side of some surfaces;
        one that no sample met is new.
        """
        if self._voids[1][front] or self._voids[2][top] or self._voids[0][side]:
            return NOTHING
        tops, sides, every = self._counts
        i, j, k = box
        _, columns, rows = self._slabs
        key = (front * tops + top) * sides + side
        place = ((i * columns + j) * rows + k) * every + (key << len(self.surfaces)) + inner
        if place not in self._known:
            self._known[place] = self.count
            self.count += 1
        found: int = self._known[place]
        return found

    def is_beyond(self, point: Vec3) -> bool:
        """Say whether a point lies outside an outline that free curves close."""
        return any(
            view.is_beyond((point[view.plane.axes[0]], point[view.plane.axes[1]]))
            for view in self.views.values() if view.silhouette is not None
        )  # fmt: skip

    def neighbours(self) -> list[tuple[int, int]]:
        """Return the pairs of cells that lie against each other."""
        found = []
        for axis in range(3):
            a = np.moveaxis(self.cells, axis, 0)[:-1].ravel()
            b = np.moveaxis(self.cells, axis, 0)[1:].ravel()
            apart = (a != b) & (a >= 0) & (b >= 0)
            found.append(np.sort(np.column_stack([a[apart], b[apart]]), axis=1))
        pairs = np.unique(np.concatenate(found), axis=0)
        return [(int(a), int(b)) for a, b in pairs]

    def slab(self, axis: int, value: float) -> int:
        """Return the slab of an axis that a value lies in."""
        return bisect_right(self._lists[axis], value) - 1

    def point(self, depth: int, place: Vec2, at: float) -> Vec3:
        """Return the point of the part at a place of a view and a depth."""
        u, v = self.views[depth].plane.axes
        found = [0.0, 0.0, 0.0]
        found[u], found[v], found[depth] = place[0], place[1], at
        return found[0], found[1], found[2]


def _sizes(views: dict[int, DrawnView]) -> tuple[float, float, float]:
    """Return length, depth and height: the larger where two views disagree."""
    sizes = [0.0, 0.0, 0.0]
    for view in views.values():
        _, _, *far = view.box
        for axis, size in zip(PLANES[view.name].axes, far, strict=True):
            sizes[axis] = max(sizes[axis], size)
    return sizes[0], sizes[1], sizes[2]


def _frame(sizes: Vec3, axes: tuple[int, int]) -> list[Straight]:
    """Return the crate as a view shows it."""
    u, v = (sizes[axis] for axis in axes)
    corners = [(0.0, 0.0), (u, 0.0), (u, v), (0.0, v)]
    return [Straight(corners[k - 1], corners[k]) for k in range(4)]


def _breaks(
    axis: int, views: dict[int, DrawnView], pieces: dict[int, list[ViewPiece]]
) -> np.ndarray:
    """Return the places along an axis where a piece of some view begins or ends."""
    values: list[float] = []
    for depth, view in views.items():
        axes = PLANES[view.name].axes
        if axis in axes:
            own = axes.index(axis)
            values += [end[own] for piece in pieces[depth] for end in (piece.start, piece.end)]
    return clustered(values)


def clustered(values: Sequence[float], gap: float = 2 * SNAP_MM) -> np.ndarray:
    """Return the means of values that lie no further than a gap apart, sorted."""
    if not len(values):
        return np.zeros(0)
    order = np.sort(np.array(values))
    groups = np.split(order, np.flatnonzero(np.diff(order) > gap) + 1)
    return np.array([group.mean() for group in groups])


def on_breaks(pieces: list[ViewPiece], breaks: tuple[np.ndarray, np.ndarray]) -> list[ViewPiece]:
    """Return pieces with their ends put exactly on the breaks; those that shrink are left out."""

    def to(place: Vec2) -> Vec2:
        return _nearest(breaks[0], place[0]), _nearest(breaks[1], place[1])

    found = []
    for piece in pieces:
        start, end = sorted((to(piece.start), to(piece.end)))
        if start == end:
            continue
        if start[0] == end[0] or start[1] == end[1]:
            # the flat end of an arc that spans less than what is told apart
            found.append(replace(piece, start=start, end=end, centre=None))
        else:
            found.append(replace(piece, start=start, end=end))
    return found


def _nearest(values: np.ndarray, value: float) -> float:
    at = int(np.searchsorted(values, value))
    around = values[max(at - 1, 0) : at + 1]
    return float(around[np.abs(around - value).argmin()])
