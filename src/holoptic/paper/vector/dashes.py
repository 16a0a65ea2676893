"""Dashes that a file draws one by one: joined to the lines that they make.

A dash ends in the open, where an edge of a part ends on another line: that tells them apart.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import TypeVar

import shapely

from holoptic.curves.vectors import Vec2
from holoptic.paper.vector.page import Look, Stroke
from holoptic.reading.lines import Bow, Straight

_LONGEST_MM, _WIDEST_GAP_MM, _NARROWEST_GAP_MM = 20.0, 4.0, 0.12
_SAME_TURN, _SAME_MM = 0.006, 0.06
_TOUCH_MM = 0.06
_TOUCHING = 0.34
"""Of the inner ends so many may lie on lines that cross by chance."""
_UNEVEN = 2.2
"""Pieces longer than the shortest by this are the long ones of a chain line."""
_FEW = 2
_LONGEST_DASH_MM, _AS_DASH = 7.5, 1.5
_OVER = 1.15
"""Times a gap: how far a line may end before what it ends on."""

T = TypeVar("T")


def joined(strokes: Sequence[Stroke]) -> list[Stroke]:
    """Return strokes with dashes of one line joined to a stroke with these dashes."""
    open_ends, drawn = _OpenEnds(strokes), set(strokes)
    found: list[Stroke] = []
    for look, own in _by_look(strokes).items():
        if look.dashes:
            found += own
            continue
        left = []
        for group in [*_lines(own), *_circles(own)]:
            for chain in _chains(group, open_ends):
                found.append(chain) if isinstance(chain, Stroke) else left.append(chain[0])
        found += [stroke for stroke in own if not _is_piece(stroke)] + left
    meetings = _Meetings(strokes)
    return [meetings.prolonged(s) if s not in drawn else s for s in _with_short(found)]


def _by_look(strokes: Sequence[Stroke]) -> dict[Look, list[Stroke]]:
    found: dict[Look, list[Stroke]] = defaultdict(list)
    for stroke in strokes:
        found[stroke.look].append(stroke)
    return found


def _is_piece(stroke: Stroke) -> bool:
    shape = stroke.shape
    if isinstance(shape, Straight):
        return math.dist(shape.start, shape.end) < _LONGEST_MM
    return isinstance(shape, Bow) and shape.radius * (shape.last - shape.first) < _LONGEST_MM


class _OpenEnds:
    """Tells whether ends of strokes lie in the open."""

    def __init__(self, strokes: Sequence[Stroke]) -> None:
        self._paths = [shapely.LineString(stroke.shape.path()) for stroke in strokes]
        self._tree = shapely.STRtree(self._paths)

    def is_open(self, end: Vec2, own: int = 1) -> bool:
        """Say whether nothing but the stroke itself lies at an end."""
        near = self._tree.query(shapely.Point(end), "dwithin", _TOUCH_MM)
        return len(near) <= own


def _lines(strokes: Sequence[Stroke]) -> Iterator[list[tuple[Stroke, float, float]]]:
    """Yield short straight strokes in groups of one line, with where they lie along it."""
    rows = []
    for stroke in strokes:
        shape = stroke.shape
        if isinstance(shape, Straight) and _is_piece(stroke):
            (x, y), (u, v) = shape.start, shape.end
            turn = math.atan2(v - y, u - x) % math.pi
            turn = 0.0 if math.pi - turn < _SAME_TURN else turn
            rows.append((turn, stroke))
    for turned in _clusters(rows, _SAME_TURN):
        turn = turned[len(turned) // 2][0]
        along, across = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
        offs = []
        for _, stroke in turned:
            assert isinstance(stroke.shape, Straight)
            (x, y), (u, v) = stroke.shape.start, stroke.shape.end
            off = (x + u) / 2 * across[0] + (y + v) / 2 * across[1]
            span = sorted((x * along[0] + y * along[1], u * along[0] + v * along[1]))
            offs.append((off, (stroke, span[0], span[1])))
        for group in _clusters(offs, _SAME_MM):
            yield sorted((piece for _, piece in group), key=lambda piece: piece[1])


def _circles(strokes: Sequence[Stroke]) -> Iterator[list[tuple[Stroke, float, float]]]:
    """Yield short arcs in groups of one circle, with where they lie along it (mm)."""
    groups: list[list[Stroke]] = []
    for stroke in strokes:
        if isinstance(stroke.shape, Bow) and _is_piece(stroke):
            home = next((group for group in groups if _are_one_circle(group[0], stroke)), None)
            groups.append([stroke]) if home is None else home.append(stroke)
    for group in groups:
        pieces = []
        for stroke in group:
            assert isinstance(stroke.shape, Bow)
            shape = stroke.shape
            pieces.append((stroke, shape.first * shape.radius, shape.last * shape.radius))
        yield sorted(pieces, key=lambda piece: piece[1])


def _are_one_circle(one: Stroke, other: Stroke) -> bool:
    assert isinstance(one.shape, Bow)
    assert isinstance(other.shape, Bow)
    within = max(_SAME_MM, 0.02 * one.shape.radius)
    return (math.dist(one.shape.centre, other.shape.centre) < within
            and abs(one.shape.radius - other.shape.radius) < within)  # fmt: skip


def _clusters(rows: list[tuple[float, T]], apart: float) -> Iterator[list[tuple[float, T]]]:
    rows.sort(key=lambda row: row[0])
    group: list[tuple[float, T]] = []
    for row in rows:
        if group and row[0] - group[-1][0] > apart:
            yield group
            group = []
        group.append(row)
    if group:
        yield group


def _chains(
    pieces: list[tuple[Stroke, float, float]], open_ends: _OpenEnds
) -> Iterator[Stroke | tuple[Stroke]]:
    """Yield pieces joined where they are dashes, else by themselves."""
    run: list[tuple[Stroke, float, float]] = []
    for piece in pieces:
        gap = piece[1] - run[-1][2] if run else 0.0
        if run and not _NARROWEST_GAP_MM < gap < _WIDEST_GAP_MM:
            yield from _run(run, open_ends)
            run = []
        run.append(piece)
    if run:
        yield from _run(run, open_ends)


def _run(
    run: list[tuple[Stroke, float, float]], open_ends: _OpenEnds
) -> Iterator[Stroke | tuple[Stroke]]:
    ends = [end for (one, *_), (other, *_) in pairwise(run) for end in _facing(one, other)]
    shut = sum(not open_ends.is_open(end) for end in ends)
    if shut > _TOUCHING * len(ends) or not _is_pattern([high - low for _, low, high in run]):
        yield from ((piece[0],) for piece in run)
        return
    lengths = [high - low for _, low, high in run]
    gap = sorted(b[1] - a[2] for a, b in pairwise(run))[(len(run) - 1) // 2]
    first, last = run[0][0].shape, run[-1][0].shape
    look = replace(run[0][0].look, dashes=_pattern(lengths, gap))
    if isinstance(first, Bow) and isinstance(last, Bow):
        is_whole = (last.last - first.first) * first.radius > (
            math.tau * first.radius - _WIDEST_GAP_MM)  # fmt: skip
        turn = math.tau if is_whole else last.last - first.first
        yield Stroke(Bow(first.centre, first.radius, first.first, first.first + turn), look)
    else:
        places = [p for one, *_ in run for p in one.shape.path()]
        low = min(places)
        high = max(places, key=lambda p: math.dist(p, low))
        low = max(places, key=lambda p: math.dist(p, high))
        yield Stroke(Straight(low, high), look)


class _Meetings:
    """Where lines through ends of dashed lines meet other strokes: a pattern may end in a gap."""

    def __init__(self, strokes: Sequence[Stroke]) -> None:
        self._paths = [shapely.LineString(stroke.shape.path()) for stroke in strokes]
        self._tree = shapely.STRtree(self._paths)

    def prolonged(self, stroke: Stroke) -> Stroke:
        """Return a joined line with each end in the open where it would meet something."""
        shape = stroke.shape
        if not isinstance(shape, Straight) or not stroke.look.dashes:
            return stroke
        reach = stroke.look.dashes[1] * _OVER
        start = self._end(shape.end, shape.start, reach)
        end = self._end(shape.start, shape.end, reach)
        return replace(stroke, shape=Straight(start, end))

    def _end(self, start: Vec2, end: Vec2, reach: float) -> Vec2:
        long = math.dist(start, end)
        way = (end[0] - start[0]) / long, (end[1] - start[1]) / long
        if self._others(shapely.Point(end), way):
            return end
        far = end[0] + reach * way[0], end[1] + reach * way[1]
        ray = shapely.LineString([end, far])
        places = [
            place for k in self._tree.query(ray, "intersects")
            if not self._is_along(k, way)
            for place in shapely.get_coordinates(ray.intersection(self._paths[k])).tolist()
        ]  # fmt: skip
        if not places:
            return end
        x, y = min(places, key=lambda place: math.dist(place, end))
        return float(x), float(y)

    def _others(self, place: shapely.Point, way: Vec2) -> bool:
        near = self._tree.query(place, "dwithin", _TOUCH_MM)
        return any(not self._is_along(k, way) for k in near)

    def _is_along(self, number: int, way: Vec2) -> bool:
        (x, y), *_, (u, v) = self._paths[number].coords
        long = math.hypot(u - x, v - y)
        return long > 0 and abs((u - x) * way[1] - (v - y) * way[0]) < _SAME_TURN * long


def _is_pattern(lengths: list[float]) -> bool:
    """Say whether pieces are as long as dashes are: short ones, or long ones with dots between."""
    if len(lengths) < _FEW:
        return False
    longest, shortest = max(lengths), min(lengths)
    if len(lengths) == _FEW or longest < _UNEVEN * shortest:
        return longest < _LONGEST_DASH_MM
    inner = lengths[1:-1]
    return longest < _LONGEST_DASH_MM or min(inner) * _UNEVEN < longest


def _facing(one: Stroke, other: Stroke) -> tuple[Vec2, Vec2]:
    """Return the two ends that face each other over a gap."""
    ends = one.shape.path()[0], one.shape.path()[-1]
    others = other.shape.path()[0], other.shape.path()[-1]
    return min(((a, b) for a in ends for b in others), key=lambda pair: math.dist(*pair))


def _pattern(lengths: list[float], gap: float) -> tuple[float, ...]:
    short, long = min(lengths), max(lengths)
    inner = lengths[1:-1] or lengths
    is_chain = len(lengths) > _FEW and max(lengths) > _UNEVEN * min(inner) and (
        sum(length < long / _UNEVEN for length in lengths) >= len(lengths) // 3)  # fmt: skip
    return (long, gap, short, gap) if is_chain else (long, gap)


def _with_short(strokes: list[Stroke]) -> list[Stroke]:
    """Take solid strokes no longer than a dash of lines of their look for such lines, where they
    end on edges: hidden lines that are too short for a gap.
    """
    known = {
        (stroke.look.width, stroke.look.colour): stroke.look
        for stroke in strokes if len(stroke.look.dashes) == 2
    }  # fmt: skip
    if not known:
        return strokes
    edges = [
        stroke for stroke in strokes
        if stroke.look.dashes or (stroke.look.width, stroke.look.colour) not in known
    ]  # fmt: skip
    on_edges = _OpenEnds(edges)
    found = []
    for stroke in strokes:
        look = known.get((stroke.look.width, stroke.look.colour))
        if look is not None and not stroke.look.dashes and _is_dash(stroke, look, on_edges):
            found.append(replace(stroke, look=look))
        else:
            found.append(stroke)
    return found


def _is_dash(stroke: Stroke, look: Look, on_edges: _OpenEnds) -> bool:
    shape = stroke.shape
    if not isinstance(shape, Straight):
        return False
    long = math.dist(shape.start, shape.end)
    return long < _AS_DASH * look.dashes[0] and not (
        on_edges.is_open(shape.start, 0) and on_edges.is_open(shape.end, 0))  # fmt: skip
