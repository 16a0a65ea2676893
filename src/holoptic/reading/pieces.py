"""The arrangement of one view: its lines split at every end, quadrant point and crossing.

A piece is monotone along both axes, so at each u it has one v and at each v one u.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from scipy.spatial import cKDTree

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import Bow, DrawnLine, Free, Straight
from holoptic.tolerance import APART_MM, GIVEN_MM, ROUNDING

SNAP_MM = APART_MM
"""Places nearer than this are one place (length, mm)."""
SHORTEST_MM = 0.022
"""A line shorter than this is a slip of the pen, not an edge (length, mm)."""
_QUARTER = math.pi / 2


@dataclass(frozen=True)
class ViewPiece:
    """A piece between two vertices, `start` left of (or below) `end`; straight without a centre.

    `lines` are the indices of the drawn lines that run along it; the piece is visible if one is.
    """

    start: Vec2
    end: Vec2
    visible: bool
    lines: tuple[int, ...]
    centre: Vec2 | None = None
    radius: float = 0.0
    upper: bool = False
    """Of an arc: whether it lies above its centre."""
    right: bool = False
    """Of an arc: whether it lies right of its centre."""

    @property
    def is_upright(self) -> bool:
        """Whether it is a vertical line."""
        return self.centre is None and self.start[0] == self.end[0]

    @property
    def is_level(self) -> bool:
        """Whether it is a horizontal line."""
        return self.centre is None and self.start[1] == self.end[1]

    def v_at(self, u: float) -> float:
        """Return v at a place along u; not for an upright piece."""
        # the ends were put on breaks, so close to an upright tangent the circle lies elsewhere
        if u == self.start[0]:
            return self.start[1]
        if u == self.end[0]:
            return self.end[1]
        if self.centre is not None:
            rise = math.sqrt(max(self.radius**2 - (u - self.centre[0]) ** 2, 0.0))
            return self.centre[1] + (rise if self.upper else -rise)
        share = (u - self.start[0]) / (self.end[0] - self.start[0])
        return self.start[1] + share * (self.end[1] - self.start[1])

    def u_at(self, v: float) -> float:
        """Return u at a place along v; not for a level piece."""
        if v == self.start[1]:
            return self.start[0]
        if v == self.end[1]:
            return self.end[0]
        if self.centre is not None:
            run = math.sqrt(max(self.radius**2 - (v - self.centre[1]) ** 2, 0.0))
            return self.centre[0] + (run if self.right else -run)
        share = (v - self.start[1]) / (self.end[1] - self.start[1])
        return self.start[0] + share * (self.end[0] - self.start[0])

    def normal_at(self, place: Vec2) -> Vec2:
        """Return a unit normal at a place of the piece."""
        if self.centre is not None:
            x, y = place[0] - self.centre[0], place[1] - self.centre[1]
        else:
            x, y = self.end[1] - self.start[1], self.start[0] - self.end[0]
        size = math.hypot(x, y)
        return x / size, y / size

    @property
    def middle(self) -> Vec2:
        """The point half way along."""
        return self.at(0.5)

    def at(self, share: float) -> Vec2:
        """Return the point at a share (0 to 1) of the way, of an arc of its angle."""
        if self.centre is None:
            (a, b), (c, d) = self.start, self.end
            return a + share * (c - a), b + share * (d - b)
        first, last = (
            math.atan2(y - self.centre[1], x - self.centre[0]) for x, y in (self.start, self.end)
        )
        turn = (last - first + math.pi) % math.tau - math.pi
        angle = first + share * turn
        return (
            self.centre[0] + self.radius * math.cos(angle),
            self.centre[1] + self.radius * math.sin(angle),
        )


def split(lines: Sequence[DrawnLine], frame: Sequence[Straight] = ()) -> list[ViewPiece]:
    """Return the arrangement of straight lines and arcs; free curves and centre lines stay out.

    A `frame` is split with them; pieces along which only it runs name no lines.
    """
    curves = [_Carrier((index,), line) for index, line in enumerate(lines) if _takes_part(line)]
    curves += [_Carrier((), DrawnLine(line, "hidden")) for line in frame]
    vertices = _merged([place for curve in curves for place in curve.own] + _crossings(curves))
    found: dict[tuple[Vec2, Vec2], list[ViewPiece]] = {}
    for curve in curves:
        for piece in curve.pieces(vertices):
            _note(piece, found.setdefault((piece.start, piece.end), []))
    return [piece for alike in found.values() for piece in alike]


def _takes_part(line: DrawnLine) -> bool:
    if line.status == "centre" or isinstance(line.shape, Free):
        return False
    if isinstance(line.shape, Bow):
        return line.shape.radius * (line.shape.last - line.shape.first) > SHORTEST_MM
    return math.dist(line.shape.start, line.shape.end) > SHORTEST_MM


def _note(piece: ViewPiece, alike: list[ViewPiece]) -> None:
    """Add a piece to others with the same ends, or join it to the one that it runs along."""
    for k, other in enumerate(alike):
        if math.dist(other.middle, piece.middle) < 4 * SNAP_MM:
            visible, lines = other.visible or piece.visible, (*other.lines, *piece.lines)
            alike[k] = replace(other, visible=visible, lines=lines)
            return
    alike.append(piece)


class _Carrier:
    """A drawn line with what is needed to split it."""

    def __init__(self, lines: tuple[int, ...], line: DrawnLine) -> None:
        self.lines, self.visible, self.shape = lines, line.status == "visible", line.shape
        if isinstance(line.shape, Straight):
            self.own = [line.shape.start, line.shape.end]
        else:
            assert isinstance(line.shape, Bow)
            bow = line.shape
            quarters = range(math.ceil(bow.first / _QUARTER - ROUNDING), 12)
            turns = [k * _QUARTER for k in quarters if k * _QUARTER < bow.last + ROUNDING]
            self.own = [bow.start, bow.end, *(bow.at(turn) for turn in turns)]
        us, vs = [u for u, _ in self.own], [v for _, v in self.own]
        self.low, self.high = (min(us), min(vs)), (max(us), max(vs))

    def pieces(self, vertices: np.ndarray) -> Iterable[ViewPiece]:
        """Yield the pieces between the vertices that lie on the line."""
        near = (
            (vertices[:, 0] >= self.low[0] - SNAP_MM)
            & (vertices[:, 0] <= self.high[0] + SNAP_MM)
            & (vertices[:, 1] >= self.low[1] - SNAP_MM)
            & (vertices[:, 1] <= self.high[1] + SNAP_MM)
        )
        places = vertices[near]
        if isinstance(self.shape, Straight):
            yield from self._straight_pieces(places, self.shape)
        else:
            assert isinstance(self.shape, Bow)
            yield from self._round_pieces(places, self.shape)

    def _straight_pieces(self, places: np.ndarray, line: Straight) -> Iterable[ViewPiece]:
        start = np.array(line.start, float)
        way = np.array(line.end) - start
        size = float(np.hypot(*way))
        if size <= SNAP_MM:
            return
        way /= size
        off = np.abs((places - start) @ np.array([-way[1], way[0]]))
        on = places[off <= 1.5 * SNAP_MM]
        on = on[np.argsort((on - start) @ way)]
        for a, b in pairwise(map(tuple, on.tolist())):
            first, last = sorted((a, b))
            yield ViewPiece(first, last, self.visible, self.lines)

    def _round_pieces(self, places: np.ndarray, bow: Bow) -> Iterable[ViewPiece]:
        off = places - np.array(bow.centre)
        on = np.abs(np.hypot(off[:, 0], off[:, 1]) - bow.radius) <= 1.5 * SNAP_MM
        places, off = places[on], off[on]
        slack = 2 * SNAP_MM / bow.radius
        angles = (np.arctan2(off[:, 1], off[:, 0]) - bow.first + slack) % math.tau - slack
        inside = angles <= bow.last - bow.first + slack
        order = np.argsort(angles[inside])
        ring = list(map(tuple, places[inside][order].tolist()))
        turns = angles[inside][order].tolist()
        if bow.is_closed and ring:
            ring.append(ring[0])
            turns.append(turns[0] + math.tau)
        for (a, b), (s, t) in zip(pairwise(ring), pairwise(turns), strict=True):
            if a == b:
                continue
            u, v = bow.at(bow.first + (s + t) / 2)
            first, last = sorted((a, b))
            yield ViewPiece(first, last, self.visible, self.lines, bow.centre, bow.radius,
                        v > bow.centre[1], u > bow.centre[0])  # fmt: skip


def _crossings(curves: list[_Carrier]) -> list[Vec2]:
    if not curves:
        return []
    low = np.array([curve.low for curve in curves]) - SNAP_MM
    high = np.array([curve.high for curve in curves]) + SNAP_MM
    meet = ((low[:, None] <= high[None]) & (low[None] <= high[:, None])).all(axis=2)
    found: list[Vec2] = []
    for i, j in np.argwhere(np.triu(meet, 1)).tolist():
        found += crossings(curves[i].shape, curves[j].shape)
    return found


def crossings(a: Straight | Bow | Free, b: Straight | Bow | Free) -> list[Vec2]:
    """Return where two lines or arcs cross or touch, but not where they run along each other."""
    if isinstance(a, Straight) and isinstance(b, Straight):
        return _line_line(a, b)
    if isinstance(a, Bow) and isinstance(b, Straight):
        a, b = b, a
    if isinstance(a, Straight) and isinstance(b, Bow):
        return [p for p in _line_circle(a, b) if _is_on(p, a) and _is_on(p, b)]
    if isinstance(a, Bow) and isinstance(b, Bow):
        return [p for p in _circle_circle(a, b) if _is_on(p, a) and _is_on(p, b)]
    return []


def _is_on(place: Vec2, shape: Straight | Bow) -> bool:
    """Say whether a place on the carrying line or circle lies within the shape."""
    if isinstance(shape, Straight):
        (a, b), (c, d) = shape.start, shape.end
        size = math.hypot(c - a, d - b)
        along = ((place[0] - a) * (c - a) + (place[1] - b) * (d - b)) / size
        return -SNAP_MM <= along <= size + SNAP_MM
    angle = math.atan2(place[1] - shape.centre[1], place[0] - shape.centre[0])
    slack = SNAP_MM / shape.radius
    return (angle - shape.first + slack) % math.tau <= shape.last - shape.first + 2 * slack


def _line_line(a: Straight, b: Straight) -> list[Vec2]:
    (px, py), (rx, ry) = a.start, (a.end[0] - a.start[0], a.end[1] - a.start[1])
    (qx, qy), (sx, sy) = b.start, (b.end[0] - b.start[0], b.end[1] - b.start[1])
    turn = rx * sy - ry * sx
    if abs(turn) < ROUNDING * math.hypot(rx, ry) * math.hypot(sx, sy):
        return []
    t = ((qx - px) * sy - (qy - py) * sx) / turn
    place = px + t * rx, py + t * ry
    return [place] if _is_on(place, a) and _is_on(place, b) else []


def _line_circle(line: Straight, bow: Bow) -> list[Vec2]:
    (a, b), (c, d) = line.start, line.end
    size = math.hypot(c - a, d - b)
    if size <= SNAP_MM:
        return []
    x, y = (c - a) / size, (d - b) / size
    along = (bow.centre[0] - a) * x + (bow.centre[1] - b) * y
    foot = a + along * x, b + along * y
    off = math.dist(foot, bow.centre)
    if off > bow.radius + SNAP_MM:
        return []
    half = math.sqrt(max(bow.radius**2 - off**2, 0.0))
    if half < 4 * SNAP_MM:
        return [foot]  # it is meant to touch: two places as near as these would bend the line
    return [(foot[0] + sign * half * x, foot[1] + sign * half * y) for sign in (-1.0, 1.0)]


def _circle_circle(a: Bow, b: Bow) -> list[Vec2]:
    apart = math.dist(a.centre, b.centre)
    if apart < SNAP_MM or apart > a.radius + b.radius + SNAP_MM:
        return []
    if apart < abs(a.radius - b.radius) - SNAP_MM:
        return []
    along = (apart**2 + a.radius**2 - b.radius**2) / (2 * apart)
    half = math.sqrt(max(a.radius**2 - along**2, 0.0))
    x, y = (b.centre[0] - a.centre[0]) / apart, (b.centre[1] - a.centre[1]) / apart
    foot = a.centre[0] + along * x, a.centre[1] + along * y
    if half < GIVEN_MM:
        return [foot]
    return [(foot[0] - s * half * y, foot[1] + s * half * x) for s in (-1.0, 1.0)]


def _merged(places: list[Vec2]) -> np.ndarray:
    """Return places (n × 2) without those nearer to an earlier one than the snap."""
    if not places:
        return np.zeros((0, 2))
    array = np.array(places)
    kept = np.ones(len(array), bool)
    for i, j in sorted(cKDTree(array).query_pairs(1.5 * SNAP_MM)):
        if kept[i]:
            kept[j] = False
    return array[kept]
