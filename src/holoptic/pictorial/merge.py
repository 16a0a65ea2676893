"""Each line on paper once: pieces of one edge joined, overlaps taken away, visible wins.

A piece's image runs along a *track*: the straight line or the ellipse on paper that carries it.
On a track a piece is an interval, and overlaps are interval arithmetic.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

import numpy as np

from holoptic.curves.paper import direction, offset_from_line, position_on_line
from holoptic.curves.space import Chord, Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Matrix23, Vec2, Vec3, apply, distance, dot
from holoptic.solid.pieces import Piece
from holoptic.tolerance import (
    COINCIDENT_MM,
    LEAST_SQUARE,
    ON_PAPER_MM,
    ROUNDING,
    SAME_ANGLE,
    SHORTEST_STROKE_MM,
)

_TURN = 2 * math.pi
_SAME_ANGLE = SAME_ANGLE
"""Radians; strokes of one line differ by rounding alone."""
_TWIN_MM = 50 * ON_PAPER_MM
"""A general curve whose samples all lie this near to another's is drawn by that one."""


def clean(
    pieces: Iterable[Piece],
    matrix: Matrix23,
    thick: frozenset[int] = frozenset(),
    toward: Vec3 = (0.0, 0.0, 0.0),
) -> list[Piece]:
    """Return the pieces so that on paper none overlaps another; visible pieces win over hidden.

    Of visible pieces the nearest win, `toward` being the way to the viewer, then those of the edges
    named in `thick`. Pieces that shrink to a point on paper are left out.
    """
    joined = _join_along_edges(pieces)
    # before short bits of curves become straight lines
    general = [piece for piece in joined if isinstance(piece.curve, SampledCurve)]
    others = [piece for piece in joined if not isinstance(piece.curve, SampledCurve)]
    drawn = _flattened([*others, *_without_twins(general, matrix)], matrix)
    crowded, kept = _tracks(drawn, matrix)
    left = [piece for track in crowded for piece in _without_overlaps(track, thick, toward)]
    kept += _join_along_edges(left)  # what is left of a closed edge may run on over its seam
    return kept + [piece for piece in drawn if isinstance(piece.curve, SampledCurve)]


# --- pieces of one edge ---------------------------------------------------------------------


def _join_along_edges(pieces: Iterable[Piece]) -> list[Piece]:
    by_edge: dict[tuple[int, bool], list[Piece]] = defaultdict(list)
    loose = []
    for piece in pieces:
        if piece.edge is None:
            loose.append(piece)
        else:
            by_edge[piece.edge, piece.visible].append(piece)
    return [whole for group in by_edge.values() for whole in _join(group)] + loose


def _join(group: list[Piece]) -> list[Piece]:
    """Join pieces that follow one another on their edge."""
    if len(group) == 1:
        return group
    group = sorted(group, key=_start_on_edge(group))
    joined = group[:1]
    for piece in group[1:]:
        longer = _joined_curve(joined[-1].curve, piece.curve)
        if longer is None:
            joined.append(piece)
        else:
            joined[-1] = piece._replace(curve=longer)
    if len(joined) > 1:  # a closed edge: its last piece may run into its first
        around = _joined_curve(joined[-1].curve, joined[0].curve)
        if around is not None:
            joined = [joined[0]._replace(curve=around), *joined[1:-1]]
    return joined


def _start_on_edge(group: list[Piece]) -> Callable[[Piece], float]:
    first = group[0].curve
    if isinstance(first, Segment):
        along = tuple(b - a for a, b in zip(first.start, first.end, strict=True))
        return lambda piece: sum(a * b for a, b in zip(along, piece.curve.start, strict=True))
    return lambda piece: piece.curve.span[0]


def _joined_curve(a: Curve, b: Curve) -> Curve | None:
    if isinstance(a, EllipticArc) and isinstance(b, EllipticArc):
        # of one edge and so of one ellipse: the angles tell, without a sine or cosine
        gap = (b.first - a.last + math.pi) % _TURN - math.pi
        if abs(gap) * a.major > COINCIDENT_MM * 10:
            return None
        return a.piece(a.first, a.last + (b.last - b.first))
    if distance(a.end, b.start) > COINCIDENT_MM * 10:
        return None
    if isinstance(a, Segment) and isinstance(b, Segment):
        return Segment(a.start, b.end)
    if isinstance(a, SampledCurve) and isinstance(b, SampledCurve):
        return SampledCurve(a.points + b.points[1:])
    return None


# --- edge-on curves -------------------------------------------------------------------------


def _flattened(pieces: list[Piece], matrix: Matrix23) -> list[Piece]:
    """Return the pieces whose images are more than a point, as straight ones where these are."""
    straight = [piece for piece in pieces if isinstance(piece.curve, Segment)]
    starts, ends = _ends_on_paper(straight, matrix)
    long = (np.hypot(*(ends - starts).T) > SHORTEST_STROKE_MM).tolist()
    kept = [piece for piece, is_long in zip(straight, long, strict=True) if is_long]
    bent = [_straighten(piece, matrix) for piece in pieces if not isinstance(piece.curve, Segment)]
    return kept + [piece for piece in bent if piece is not None]


def _ends_on_paper(pieces: list[Piece], matrix: Matrix23) -> tuple[np.ndarray, np.ndarray]:
    """Return where straight pieces begin and end on paper (n × 2 each)."""
    figures = np.array([piece.curve.start + piece.curve.end for piece in pieces]).reshape(-1, 6)
    onto = np.array(matrix).T
    return figures[:, :3] @ onto, figures[:, 3:] @ onto


def _straighten(piece: Piece, matrix: Matrix23) -> Piece | None:
    """Return a bent piece as a straight one if its image is straight, None if that is a point."""
    assert not isinstance(piece.curve, Segment)
    if isinstance(piece.curve, EllipticArc) and not _is_edge_on(piece.curve, matrix):
        arc = piece.curve
        turn = arc.last - arc.first
        is_sliver = turn < 1 and turn * arc.major <= SHORTEST_STROKE_MM
        return None if is_sliver else piece
    path = piece.curve.path(matrix)
    far = max(path, key=lambda point: math.dist(point, path[0]))
    if math.dist(far, path[0]) <= SHORTEST_STROKE_MM:
        return None
    along = direction(path[0], far)
    if any(abs(offset_from_line(point, path[0], along)) > ON_PAPER_MM for point in path):
        return piece
    return piece._replace(curve=_chord(piece.curve, matrix, path[0], along))


def _is_edge_on(arc: EllipticArc, matrix: Matrix23) -> bool:
    """Say whether the whole ellipse of an arc is thinner on paper than a line."""
    (ax, ay), (bx, by) = arc.image(matrix)
    return abs(ax * by - ay * bx) <= ON_PAPER_MM * max(math.hypot(ax, ay), math.hypot(bx, by))


def _chord(curve: EllipticArc | SampledCurve, matrix: Matrix23, origin: Vec2, along: Vec2) -> Chord:
    """Return the straight line in space whose image an edge-on curve covers."""

    def position(t: float) -> float:
        return position_on_line(apply(matrix, curve.at(t)), origin, along)

    first, last = curve.span
    places = [first, last]
    if isinstance(curve, EllipticArc):
        # the position is a cosine of the parameter: its turning points are half a turn apart
        at_zero, at_quarter = (
            position(t) - position_on_line(apply(matrix, curve.centre), origin, along)
            for t in (0.0, math.pi / 2)
        )
        turning = math.atan2(at_quarter, at_zero)
        count = math.ceil((first - turning) / math.pi)
        while turning + count * math.pi <= last:
            places.append(turning + count * math.pi)
            count += 1
    else:
        places += [float(i) for i in range(int(last) + 1)]
    ends = curve.at(min(places, key=position)), curve.at(max(places, key=position))
    return Chord(*ends, of=curve)


# --- tracks and overlaps --------------------------------------------------------------------


@dataclass(frozen=True)
class _Run:
    """A piece as an interval on its track; `cut` returns the piece between two places."""

    piece: Piece
    low: float
    high: float
    cut: Callable[[float, float], Curve]
    shortest: float
    period: float | None = None


def _tracks(pieces: list[Piece], matrix: Matrix23) -> tuple[list[list[_Run]], list[Piece]]:
    """Return the tracks that carry several pieces, and the pieces that have a track alone."""
    straight = [piece for piece in pieces if isinstance(piece.curve, Segment)]
    arcs = [piece for piece in pieces if isinstance(piece.curve, EllipticArc)]
    crowded: list[list[_Run]] = []
    alone: list[Piece] = []
    for tracks in (_straight_tracks(straight, matrix), _round_tracks(arcs, matrix)):
        for track in tracks:
            if isinstance(track, Piece):
                alone.append(track)
            else:
                crowded.append(track)
    return crowded, alone


def _straight_tracks(pieces: list[Piece], matrix: Matrix23) -> Iterator[Piece | list[_Run]]:
    if not pieces:
        return
    starts, ends = _ends_on_paper(pieces, matrix)
    angles = np.arctan2(*(ends - starts).T[::-1]) % math.pi
    angles[angles > math.pi - _SAME_ANGLE] -= math.pi
    alike = _parted(np.zeros(len(pieces), int), angles, _SAME_ANGLE)
    # one angle for all of a kind, so that their offsets can be compared
    means = np.bincount(alike, angles) / np.bincount(alike)
    angles = means[alike]
    along = np.column_stack([np.cos(angles), np.sin(angles)])
    offsets = ((starts + ends) / 2 * np.column_stack([-along[:, 1], along[:, 0]])).sum(axis=1)
    start, end = (starts * along).sum(axis=1), (ends * along).sum(axis=1)
    alike = _parted(alike, offsets, ON_PAPER_MM)
    crowded = _overlapping(alike, np.minimum(start, end), np.maximum(start, end))
    for line in _groups(alike):
        if line[0] in crowded:
            yield [_straight_run(pieces[i], float(start[i]), float(end[i])) for i in line]
        else:
            yield from (pieces[i] for i in line)


def _overlapping(alike: np.ndarray, low: np.ndarray, high: np.ndarray) -> set[int]:
    """Return the members of those groups in which any two intervals overlap."""
    order = np.lexsort((low, alike))
    here, there = order[:-1], order[1:]
    overlap = (alike[here] == alike[there]) & (high[here] > low[there] + ROUNDING)
    return set(np.flatnonzero(np.isin(alike, alike[here[overlap]])).tolist())


def _straight_run(piece: Piece, start: float, end: float) -> _Run:
    curve = piece.curve
    assert isinstance(curve, Segment)
    true_per_paper = curve.length / (end - start)

    def cut(low: float, high: float) -> Curve:
        a, b = (low, high) if start < end else (high, low)
        first, last = (a - start) * true_per_paper, (b - start) * true_per_paper
        return curve.piece(max(first, 0.0), min(last, curve.length))

    low, high = min(start, end), max(start, end)
    return _Run(piece, low, high, cut, SHORTEST_STROKE_MM)


def _round_tracks(pieces: list[Piece], matrix: Matrix23) -> Iterator[Piece | list[_Run]]:
    """Group arcs whose images lie on one ellipse.

    The image of an arc is centre + A · (cos t, sin t). Two images lie on one ellipse when the
    centres and A·Aᵀ agree; then the matrices differ by a rotation or reflection, and the
    eccentric angles by a shift and perhaps a sign.
    """
    arcs = [piece.curve for piece in pieces if isinstance(piece.curve, EllipticArc)]
    if not arcs:
        return
    centres = np.array([arc.centre for arc in arcs]) @ np.array(matrix).T
    shapes = np.array([arc.image(matrix) for arc in arcs]).transpose(0, 2, 1)
    squares = shapes @ shapes.transpose(0, 2, 1)
    sizes = np.sqrt(np.trace(squares, axis1=1, axis2=2))
    keys = np.column_stack([centres, squares.reshape(-1, 4) / sizes[:, None]])
    alike = np.zeros(len(arcs), int)
    for column in keys.T:
        alike = _parted(alike, column, ON_PAPER_MM)
    for group in _groups(alike):
        if len(group) == 1:
            yield pieces[group[0]]
        else:
            yield [_round_run(pieces[i], matrix) for i in group]


def _round_run(piece: Piece, matrix: Matrix23) -> _Run:
    arc = piece.curve
    assert isinstance(arc, EllipticArc)
    (ax, ay), (bx, by) = arc.image(matrix)
    # the symmetric root of A·Aᵀ is the same for every arc of the ellipse; for a 2 × 2 matrix Q
    # it is (Q + √det·I) / √(trace + 2·√det), and A is that root times a turn (with sign)
    root_det = abs(ax * by - ay * bx)
    p, q, r = ax * ax + bx * bx + root_det, ax * ay + bx * by, ay * ay + by * by + root_det
    sign = 1.0 if ax * by - ay * bx > 0 else -1.0
    shift = math.atan2(p * ay - q * ax, r * ax - q * ay)
    ends = sorted((shift + sign * arc.first, shift + sign * arc.last))
    base = math.floor(ends[0] / _TURN) * _TURN

    def cut(low: float, high: float) -> Curve:
        a, b = ((place + base - shift) * sign for place in (low, high))
        return arc.piece(min(a, b), max(a, b))

    size = math.hypot(ax, ay, bx, by)
    shortest = SHORTEST_STROKE_MM / max(size, SHORTEST_STROKE_MM)
    return _Run(piece, ends[0] - base, ends[1] - base, cut, shortest, _TURN)


def _without_overlaps(runs: list[_Run], thick: frozenset[int], toward: Vec3) -> list[Piece]:
    """Keep each place of a track once: visible before hidden, near, thick, long before short."""

    def rank(run: _Run) -> tuple[bool, float, bool, float]:
        piece = run.piece
        depth = -round(dot(piece.curve.middle, toward), 3)
        return not piece.visible, depth, piece.edge not in thick, run.low - run.high

    kept = []
    covered: list[tuple[float, float]] = []
    for run in sorted(runs, key=rank):
        free = _minus((run.low, run.high), covered, run.period)
        if free == [(run.low, run.high)]:
            kept.append(run.piece)
        else:
            kept += [
                run.piece._replace(curve=run.cut(low, high))
                for low, high in free
                if high - low > run.shortest
            ]
        _cover(covered, run.low, run.high)
    return kept


def _cover(covered: list[tuple[float, float]], low: float, high: float) -> None:
    """Add an interval to disjoint ones, which it may join."""
    apart = [(a, b) for a, b in covered if b < low or a > high]
    for a, b in covered:
        if b >= low and a <= high:
            low, high = min(low, a), max(high, b)
    covered[:] = [*apart, (low, high)]


def _minus(
    interval: tuple[float, float], covered: list[tuple[float, float]], period: float | None
) -> list[tuple[float, float]]:
    free = [interval]
    shifts = (0.0,) if period is None else (-period, 0.0, period)
    for low, high in ((a + s, b + s) for a, b in covered for s in shifts):
        free = [
            part
            for a, b in free
            for part in ((a, min(b, low)), (max(a, high), b))
            if part[0] < part[1]
        ]
    return free


def _without_twins(pieces: list[Piece], matrix: Matrix23) -> list[Piece]:
    """Leave out general curves whose whole image lies on another's; visible ones stay, and of
    these the longest: bits of an edge right behind another may count as visible too.
    """
    kept: list[tuple[Piece, np.ndarray]] = []
    boxes = np.empty((len(pieces), 2, 2))
    paths = [(piece, np.array(piece.curve.path(matrix))) for piece in pieces]
    for piece, path in sorted(paths, key=lambda item: (not item[0].visible, -_size(item[1]))):
        probes = path[:: max(1, len(path) // 8)]
        within = boxes[: len(kept)]
        about = (within[:, 0] <= probes.min(axis=0)) & (within[:, 1] >= probes.max(axis=0))
        if not any(_lies_on(probes, kept[k][1]) for k in np.flatnonzero(about.all(axis=1))):
            # what lies on a curve lies in the box about it
            boxes[len(kept)] = path.min(axis=0) - _TWIN_MM, path.max(axis=0) + _TWIN_MM
            kept.append((piece, path))
    return [piece for piece, _ in kept]


def _size(path: np.ndarray) -> float:
    return float(np.hypot(*np.diff(path, axis=0).T).sum())


def _lies_on(probes: np.ndarray, other: np.ndarray) -> bool:
    starts, steps = other[:-1], np.diff(other, axis=0)
    lengths = np.maximum((steps**2).sum(axis=1), LEAST_SQUARE)
    for probe in probes:
        t = np.clip(((probe - starts) * steps).sum(axis=1) / lengths, 0, 1)
        gaps = np.hypot(*(starts + t[:, None] * steps - probe).T)
        if gaps.min() > _TWIN_MM:
            return False
    return True


def _parted(alike: np.ndarray, values: np.ndarray, gap: float) -> np.ndarray:
    """Return the group numbers `alike` parted further, where values leave a gap."""
    order = np.lexsort((values, alike))
    breaks = (np.diff(alike[order]) != 0) | (np.diff(values[order]) > gap)
    parted = np.empty_like(alike)
    parted[order] = np.concatenate([[0], np.cumsum(breaks)])
    return parted


def _groups(alike: np.ndarray) -> list[list[int]]:
    """Return the indices of each group."""
    order = np.argsort(alike, kind="stable")
    breaks = (np.flatnonzero(np.diff(alike[order])) + 1).tolist()
    indices = order.tolist()
    return [indices[a:b] for a, b in zip([0, *breaks], [*breaks, len(indices)], strict=True)]
