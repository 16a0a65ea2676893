"""Planes that are parallel to no axis: looked for by the edges that views agree about.

A corner of the part is a place that all three views can show; an edge runs between two corners
whose images are joined by lines in every view. Where such edges lie in one plane and close, a face
may lie between them.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from itertools import combinations, pairwise

import numpy as np

from holoptic.curves.vectors import Vec2, Vec3, cross, dot, subtract
from holoptic.part.walls import Flat
from holoptic.reading.lines import Bow, DrawnView, Free, Straight
from holoptic.reading.pieces import split
from holoptic.reading.planes import PLANES
from holoptic.reading.surfaces import Surface, everywhere
from holoptic.tolerance import LEAST_SQUARE, REGULAR_MM, SLIGHT, TURN

_NEAR_MM = 0.02
_MOST_CORNERS = 400
_SHARES = np.array([0.11, 0.23, 0.37, 0.5, 0.63, 0.77, 0.89])
_LEAST_NORMAL = TURN
"""Planes whose normal has less than this along an axis are drawn edge-on."""

Edge = tuple[int, int]


class Wires:
    """The corners and the sloping edges that three canonical views can mean."""

    def __init__(self, views: dict[int, DrawnView]) -> None:
        self._views = views
        self._lines = {depth: _segments(view) for depth, view in views.items()}
        self._nodes = {depth: _nodes(view) for depth, view in views.items()}
        self.corners = self._corners()
        self.edges = list(self._edges())

    def _corners(self) -> np.ndarray:
        """Return the places (n × 3) that are nodes in two views and lie on lines in the third."""
        found: list[np.ndarray] = []
        for depth in self._views:
            shared = [axis for axis in range(3) if axis != depth]
            found.append(self._met(depth, shared[0], shared[1]))
        places = np.concatenate(found) if found else np.zeros((0, 3))
        if not len(places):
            return places
        keys = np.round(places / _NEAR_MM).astype(np.int64)
        _, first = np.unique(keys, axis=0, return_index=True)
        kept: list[np.ndarray] = []
        for place in places[np.sort(first)]:
            if not any(np.abs(place - other).max() < 2 * _NEAR_MM for other in kept):
                kept.append(place)
        corners: np.ndarray = np.array(kept)[:_MOST_CORNERS].reshape(-1, 3)
        return corners

    def _met(self, depth: int, one: int, other: int) -> np.ndarray:
        """Return corners that are nodes in the views along two axes; a line along the third has
        them too.
        """
        a, b = self._nodes[one], self._nodes[other]
        if not len(a) or not len(b):
            return np.zeros((0, 3))
        # the view along `one` shows depth and other; that along `other` shows depth and one
        own_a, own_b = _own(one, depth), _own(other, depth)
        gaps = np.abs(a[:, own_a][:, None] - b[:, own_b][None, :])
        i, j = np.nonzero(gaps < _NEAR_MM)
        places = np.zeros((len(i), 3))
        places[:, depth] = a[i, own_a]
        places[:, other] = a[i, 1 - own_a]
        places[:, one] = b[j, 1 - own_b]
        images = places[:, _axes(depth)]
        met: np.ndarray = places[self._on_lines(depth, images)]
        return met

    def _on_lines(self, depth: int, images: np.ndarray) -> np.ndarray:
        """Say for places (n × 2) of a view whether something is drawn there."""
        segments = self._lines[depth]
        found = np.zeros(len(images), bool)
        for start in range(0, len(images), 512):
            some = images[start : start + 512]
            found[start : start + 512] = _gaps(some, segments).min(axis=1, initial=9.0) < _NEAR_MM
        return found

    def _edges(self) -> Iterator[Edge]:
        """Yield pairs of corners between which every view has lines, none along an axis."""
        corners = self.corners
        if len(corners) < 2:
            return
        i, j = np.triu_indices(len(corners), 1)
        ways = np.abs(corners[j] - corners[i])
        sloping = (ways > _NEAR_MM).sum(axis=1) >= 2
        i, j = i[sloping], j[sloping]
        for depth in self._views:
            a, b = corners[i][:, _axes(depth)], corners[j][:, _axes(depth)]
            is_in = np.ones(len(i), bool)
            for share in (0.5, 0.23, 0.77, 0.37, 0.63, 0.11, 0.89):
                at = np.flatnonzero(is_in)
                places = a[at] + share * (b[at] - a[at])
                is_in[at] = self._on_lines(depth, places)
            i, j = i[is_in], j[is_in]
        yield from zip(i.tolist(), j.tolist(), strict=True)


def _has_leaning(view: DrawnView) -> bool:
    """Say whether a straight line of a view leans, or a curve may."""
    return any(
        isinstance(line.shape, Free)
        or (isinstance(line.shape, Straight)
            and min(abs(a - b) for a, b in zip(line.shape.start, line.shape.end, strict=True))
            > _NEAR_MM)
        for line in view.drawn
    )  # fmt: skip


def skew_planes(views: Sequence[DrawnView]) -> list[Surface]:
    """Return the planes parallel to no axis in which edges close, the most telling first."""
    by_depth = {PLANES[view.name].depth: view for view in views}
    # of three edges of such a face no two are level in the same two views
    if len(by_depth) != 3 or sum(map(_has_leaning, views)) < 2:
        return []
    wires = Wires(by_depth)
    found: list[tuple[int, Flat]] = []
    for normal, point in _planes(wires):
        if any(_is_same(flat, normal, point) for _, flat in found):
            continue
        edges = _in_plane(wires, normal, point)
        closed = _closed(wires, edges)
        if len(closed) >= 3:
            found.append((len(closed), Flat(point, normal)))
    found.sort(key=lambda item: -item[0])
    return [plane_surface(flat) for _, flat in found]


def plane_surface(flat: Flat) -> Surface:
    """Return a plane as a surface that parts all of space."""
    low, high = everywhere()
    off = -dot(flat.normal, flat.point)
    return Surface(((0.0, 0.0, 0.0),) * 3, flat.normal, off, low, high, flat)


def _planes(wires: Wires) -> Iterator[tuple[Vec3, Vec3]]:
    """Yield normal and point of the planes of two sloping edges at a corner."""
    at: dict[int, list[int]] = defaultdict(list)
    for a, b in wires.edges:
        at[a].append(b)
        at[b].append(a)
    for corner, others in at.items():
        point = _vec(wires.corners[corner])
        for one, other in combinations(others, 2):
            first = subtract(_vec(wires.corners[one]), point)
            second = subtract(_vec(wires.corners[other]), point)
            normal = cross(first, second)
            size = math.sqrt(dot(normal, normal))
            if size < SLIGHT * math.sqrt(dot(first, first) * dot(second, second)):
                continue
            x, y, z = (n / size for n in normal)
            if min(abs(x), abs(y), abs(z)) > _LEAST_NORMAL:
                yield (x, y, z), point


def _is_same(flat: Flat, normal: Vec3, point: Vec3) -> bool:
    sine = cross(flat.normal, normal)
    off = dot(subtract(point, flat.point), flat.normal)
    return math.sqrt(dot(sine, sine)) < TURN and abs(off) < 2 * REGULAR_MM


def _in_plane(wires: Wires, normal: Vec3, point: Vec3) -> list[Edge]:
    off = np.abs((wires.corners - np.array(point)) @ np.array(normal)) < _NEAR_MM
    return [(a, b) for a, b in wires.edges if off[a] and off[b]]


def _closed(wires: Wires, edges: list[Edge]) -> list[Edge]:
    """Return the edges that are left once those with a loose end are taken away, again and again;
    an edge that runs over others counts for nothing.
    """
    while edges:
        counts: dict[int, set[tuple[int, ...]]] = defaultdict(set)
        for a, b in edges:
            for here, there in ((a, b), (b, a)):
                way = wires.corners[there] - wires.corners[here]
                way = way / np.linalg.norm(way)
                counts[here].add(tuple(np.round(way, 3).tolist()))
        kept = [(a, b) for a, b in edges if len(counts[a]) >= 2 and len(counts[b]) >= 2]
        if len(kept) == len(edges):
            return edges
        edges = kept
    return []


def _vec(row: np.ndarray) -> Vec3:
    return float(row[0]), float(row[1]), float(row[2])


def _axes(depth: int) -> list[int]:
    return [axis for axis in range(3) if axis != depth]


def _own(depth: int, axis: int) -> int:
    """Return the place of an axis in the view along another."""
    return _axes(depth).index(axis)


def _nodes(view: DrawnView) -> np.ndarray:
    """Return the places (n × 2) where lines of a view end or cross."""
    pieces = split(view.lines)
    places: list[Vec2] = [end for piece in pieces for end in (piece.start, piece.end)]
    for line in view.drawn:
        if isinstance(line.shape, Free):
            places += [line.shape.start, line.shape.end]
    if not places:
        return np.zeros((0, 2))
    keys = np.round(np.array(places) / (_NEAR_MM / 4)).astype(np.int64)
    _, first = np.unique(keys, axis=0, return_index=True)
    return np.array(places)[first]


def _segments(view: DrawnView) -> np.ndarray:
    """Return the drawn lines of a view as chords (n × 2 × 2)."""
    found = []
    for line in view.drawn:
        if isinstance(line.shape, Straight):
            found.append((line.shape.start, line.shape.end))
        elif isinstance(line.shape, Bow):
            path = line.shape.path()
            found += list(pairwise(path))
        else:
            found += list(pairwise(line.shape.points))
    return np.array(found).reshape(-1, 2, 2)


def _gaps(places: np.ndarray, segments: np.ndarray) -> np.ndarray:
    """Return the distances of places from chords (n × m)."""
    starts, ways = segments[:, 0], segments[:, 1] - segments[:, 0]
    sizes = np.maximum((ways**2).sum(axis=1), LEAST_SQUARE)
    off = places[:, None, :] - starts[None]
    shares = np.clip((off * ways[None]).sum(axis=2) / sizes, 0.0, 1.0)
    rest = off - shares[:, :, None] * ways[None]
    gaps: np.ndarray = np.hypot(rest[:, :, 0], rest[:, :, 1])
    return gaps
