"""Strokes of a sketch: pieces that go on from each other, told by their gaps for what they are.

A free hand's lines are all about as thick, so gaps alone tell: short pieces in a row are a hidden
line, long and short ones in turn a centre line, all else is visible.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

import numpy as np

from holoptic.catalogue import tr
from holoptic.curves.paper import distance_to_segment
from holoptic.errors import BadInput
from holoptic.paper.freehand.pieces import along, pieces_of, round_through
from holoptic.paper.scan.ink import Mask
from holoptic.paper.scan.roles import Found, Role
from holoptic.paper.scan.seeds import Circle, Places, Seed, fit_line
from holoptic.reading.lines import Bow, Straight
from holoptic.tolerance import ROUNDING

_GAP_MM, _ASIDE_MM = 3.2, 1.1
_SAME_WAY_LONG, _SAME_WAY, _SAME_WAY_SHORT = (math.radians(one) for one in (6, 14, 26))
_SHORT_MM = 5.0
_BESIDE_MM = 1.5
_ONE_RUN_MM, _CROSSED_MM = 1.1, 1.8
_DASH_MM, _DOT_MM, _POINT_MM = 6.5, 2.5, 1.5
"""A piece shorter than a point has no way."""
_LEVEL = ((30.0, math.radians(5.5)), (12.0, math.radians(8.5)))
"""How far lines longer than so much (mm) lean that are meant level or upright."""
_LEVEL_SHORT, _LONG_MM = math.radians(15), 12.0
_TWO_DASHES_MM, _PASSES = 10.5, 3
_TOUCH_MM, _MEETS_MM, _DOT_LOST_MM = 2.0, 1.2, 6.0
_AROUND_MM, _AROUND_SHARE = 0.45, 0.08
_MOST_AROUND_MM, _TANGENT, _ALIKE = 1.3, 0.4, 0.2
_WHOLE, _HAS_CENTRE = 0.8, 1.2
_BINS = 48
_MOST_PIECES = 800


@dataclass(frozen=True, eq=False)
class _Piece:
    """A straight piece: its ends (mm), which way it runs and how long it is."""

    start: Places
    end: Places

    @cached_property
    def way(self) -> Places:
        return np.asarray((self.end - self.start) / max(self.long, ROUNDING))

    @cached_property
    def long(self) -> float:
        return float(np.hypot(*(self.end - self.start)))


def strokes_of(mask: Mask) -> list[Found]:
    """Return the strokes of a sketch in the flat picture (mm, Y down): visible and hidden lines,
    circles and arcs, centre lines. Raises BadInput where it is no sketch, by how much is drawn.
    """
    pieces = pieces_of(mask)
    if len(pieces) > _MOST_PIECES:
        raise BadInput(tr("more lines than a sketch has: is it the photo of something else?"))
    bows, left = _rounds(pieces)
    lines = [stroke for group in _grouped([_straight(one) for one in left])
             for stroke in _roles(group)]  # fmt: skip
    found = [*bows, *lines]
    return _with_centre_lines(found)


def _straight(piece: Seed) -> _Piece:
    middle, way = fit_line(piece.places)
    at = (piece.places - middle) @ way
    low, high = middle + at.min() * way, middle + at.max() * way
    return _Piece(low, high)


# --- circles and arcs -----------------------------------------------------------------------------


def _rounds(pieces: Sequence[Seed]) -> tuple[list[Found], list[Seed]]:
    """Return circles and arcs, and the pieces that belong to none."""
    left = list(pieces)
    found: list[Found] = []
    for seed in sorted((one for one in pieces if one.circle), key=lambda one: -along(one.places)):
        if not any(one is seed for one in left):
            continue
        assert seed.circle is not None
        circle, members = seed.circle, [seed]
        for _ in range(2):
            members = _reached(seed, [one for one in left if _lies_on(one, circle)])
            better = round_through(np.concatenate([one.places for one in members]))
            circle = better or circle
        found.append(Found("visible", _bow(circle, members)))
        left = [one for one in left if not any(one is other for other in members)]
    return found, left


def _reached(seed: Seed, pieces: Sequence[Seed]) -> list[Seed]:
    """Return a piece with those that go on from it, end to end: another line may touch its circle
    elsewhere.
    """
    found = [seed]
    left = [one for one in pieces if one is not seed]
    for member in found:  # grows as it is gone through
        near = [one for one in left if min(
            float(np.hypot(*(a - b))) for a in (member.places[0], member.places[-1])
            for b in (one.places[0], one.places[-1])) < _GAP_MM]  # fmt: skip
        found += near
        left = [one for one in left if not any(one is other for other in near)]
    return found


def _lies_on(piece: Seed, circle: Circle) -> bool:
    if piece.circle is None and not _is_tangent(piece, circle):
        return False
    within = min(_AROUND_MM + _AROUND_SHARE * circle.radius, _MOST_AROUND_MM)
    if piece.circle is not None and _is_alike(piece.circle, circle):
        within *= 2.0  # what a quarter says of the next one is not much
    return bool(np.percentile(circle.off(piece.places), 95) < within)


def _is_alike(one: Circle, other: Circle) -> bool:
    slack = _ALIKE * other.radius + _AROUND_MM
    apart = float(np.hypot(*(one.centre - other.centre)))
    return apart < slack and abs(one.radius - other.radius) < slack


def _is_tangent(piece: Seed, circle: Circle) -> bool:
    """Say whether a piece that is straight may be a bit of a circle, by its way."""
    chord = piece.places[-1] - piece.places[0]
    out = piece.places.mean(axis=0) - circle.centre
    long, far = np.hypot(*chord), np.hypot(*out)
    is_along = abs(float(chord @ out)) < _TANGENT * long * far
    return is_along and along(piece.places) < circle.radius


def _bow(circle: Circle, members: Sequence[Seed]) -> Bow:
    """Return the whole circle, or as much of it as its pieces cover (Y down)."""
    centre = float(circle.centre[0]), float(circle.centre[1])
    places = np.concatenate([one.places for one in members]) - circle.centre
    angles = np.sort(np.arctan2(places[:, 1], places[:, 0]))
    hit = np.unique((angles / math.tau * _BINS).astype(int) % _BINS)
    if len(hit) > _WHOLE * _BINS:
        return Bow(centre, circle.radius, 0.0, math.tau)
    gaps = np.diff(np.r_[angles, angles[0] + math.tau])
    k = int(gaps.argmax())
    first = float(angles[(k + 1) % len(angles)])
    return Bow(centre, circle.radius, first, first + math.tau - float(gaps[k]))


# --- straight lines -------------------------------------------------------------------------------


def _grouped(pieces: Sequence[_Piece]) -> Iterator[list[_Piece]]:
    """Yield pieces that go on from each other; a point, which has no way, goes with the line that
    it lies on best.
    """
    dots = [one for one in pieces if one.long < _POINT_MM]
    pieces = [one for one in pieces if one.long >= _POINT_MM]
    groups = [[one] for one in pieces]
    for _ in range(_PASSES):
        groups = _joined(groups)
    wholes = [_whole(group) for group in groups]
    for dot in dots:
        near = [(_aside(dot, one), n) for n, one in enumerate(wholes) if _goes_on(dot, one)]
        if near:
            groups[min(near)[1]].append(dot)
    yield from _joined(groups)  # what a point lies between goes on over it


def _joined(groups: Sequence[list[_Piece]]) -> list[list[_Piece]]:
    """Return groups with those joined that go on from each other as wholes."""
    wholes = [_whole(group) for group in groups]
    number = list(range(len(groups)))

    def root(k: int) -> int:
        while number[k] != k:
            k = number[k]
        return k

    for k, n in _near(wholes):
        if _goes_on(wholes[k], wholes[n]):
            number[root(k)] = root(n)
    found: dict[int, list[_Piece]] = {}
    for k, group in enumerate(groups):
        found.setdefault(root(k), []).extend(group)
    return list(found.values())


def _near(pieces: Sequence[_Piece]) -> Iterator[tuple[int, int]]:
    """Yield the numbers of pieces that have ends near each other: only such can go on."""
    if not pieces:
        return
    ends = np.array([(one.start, one.end) for one in pieces])
    far = np.linalg.norm(ends[:, None, :, None] - ends[None, :, None, :], axis=-1).min(axis=(2, 3))
    for k, n in np.argwhere(far < _GAP_MM + _BESIDE_MM).tolist():
        if n < k:
            yield k, n


def _whole(group: Sequence[_Piece]) -> _Piece:
    """Return the line through a group of pieces, from its first end to its last."""
    if len(group) == 1:
        return group[0]
    ends = np.array([end for one in group for end in (one.start, one.end)])
    middle, way = fit_line(ends)
    at = (ends - middle) @ way
    return _Piece(middle + at.min() * way, middle + at.max() * way)


def _goes_on(one: _Piece, other: _Piece) -> bool:
    long, short = (one, other) if one.long > other.long else (other, one)
    turn = math.acos(min(1.0, abs(float(long.way @ short.way))))
    if short.long > _POINT_MM and turn > _most_turn(short.long):
        return False
    at = sorted(float((end - long.start) @ long.way) for end in (short.start, short.end))
    gap = max(at[0] - long.long, -at[1])
    if gap > _GAP_MM or -gap > _BESIDE_MM:
        return False
    near = min((short.start, short.end), key=lambda end: abs(
        float((end - long.start) @ long.way) - long.long / 2))  # fmt: skip
    return _off(near, long) < _ASIDE_MM


def _most_turn(long: float) -> float:
    """Return by how much a piece so long may turn from the line that it belongs to (radians)."""
    if long < _SHORT_MM:
        return _SAME_WAY_SHORT
    return _SAME_WAY if long < _LONG_MM else _SAME_WAY_LONG


def _aside(dot: _Piece, line: _Piece) -> float:
    return _off((dot.start + dot.end) / 2, line)


def _off(place: Places, line: _Piece) -> float:
    """Return how far a place lies off the endless line of a piece, mm."""
    step = place - line.start
    return abs(float(step[0] * line.way[1] - step[1] * line.way[0]))


def _roles(group: Sequence[_Piece]) -> Iterator[Found]:
    """Yield what a row of pieces is."""
    ends = np.array([end for one in group for end in (one.start, one.end)])
    weights = np.repeat([one.long for one in group], 2)
    middle = np.average(ends, axis=0, weights=weights)
    longest = max(group, key=lambda one: one.long)
    way = fit_line(ends)[1] if len(group) > 1 else longest.way
    at = np.sort(((ends - middle) @ way).reshape(-1, 2), axis=1)
    runs = _runs(sorted((float(a), float(b)) for a, b in at))
    found = list(_decoded(runs))
    for k, (role, first, last) in enumerate(found):
        a, b = middle + first * way, middle + last * way
        start, end = (float(a[0]), float(a[1])), (float(b[0]), float(b[1]))
        cut = _changes(found, k - 1), _changes(found, k)
        yield Found(role, Straight(start, end), _axis(start, end), cut)


def _changes(found: Sequence[tuple[Role, float, float]], k: int) -> bool:
    """Say whether one line goes on as one of another role: where is less sure then."""
    if not 0 <= k < len(found) - 1:
        return False
    return found[k][0] != found[k + 1][0] and found[k + 1][1] - found[k][2] < _GAP_MM


def _runs(
    spans: Sequence[tuple[float, float]], gap: float = _ONE_RUN_MM
) -> list[tuple[float, float]]:
    runs: list[tuple[float, float]] = []
    for first, last in spans:
        if runs and first - runs[-1][1] < gap:
            runs[-1] = runs[-1][0], max(runs[-1][1], last)
        else:
            runs.append((first, last))
    return runs


def _decoded(runs: Sequence[tuple[float, float]]) -> Iterator[tuple[Role, float, float]]:
    """Yield the lines that runs of ink along one line make."""
    longs = [last - first for first, last in runs]
    dots = sum(long < _DOT_MM for long in longs[1:-1])
    dashed = sum(_DOT_MM <= long < _DASH_MM for long in longs)
    if dots and dashed <= dots and max(longs) > _DASH_MM:
        yield "centre", runs[0][0], runs[-1][1]
        return
    if dashed < 2:  # an end is cut off by what crosses there
        runs = _runs(runs, _CROSSED_MM)
    # two dashes may have run into each other where most are dashes
    longest = _DASH_MM if dashed < 2 or dashed < len(runs) / 2 else _TWO_DASHES_MM
    dashes: list[tuple[float, float]] = []
    for run in [*runs, None]:
        if run is not None and run[1] - run[0] < longest and len(runs) > 1:
            dashes.append(run)
            continue
        if dashes:
            if len(dashes) > 1 or dashes[0][1] - dashes[0][0] > _DOT_MM:
                yield "hidden", dashes[0][0], dashes[-1][1]
            dashes = []
        if run is not None:
            yield "visible", *run


def _axis(start: tuple[float, float], end: tuple[float, float]) -> int | None:
    """Return 0 for a level line, 1 for an upright one, None for one that leans."""
    run, rise = abs(end[0] - start[0]), abs(end[1] - start[1])
    long = math.hypot(run, rise)
    within = next((turn for least, turn in _LEVEL if long > least), _LEVEL_SHORT)
    lean = math.atan2(min(run, rise), max(run, rise))
    return None if lean > within else (0 if run > rise else 1)


def _with_centre_lines(lines: Sequence[Found]) -> list[Found]:
    """Return lines with those told as centre lines that end in the open: edges end on others. One
    open end is enough where the line goes on from a centre line, or through the middle of a circle.
    """
    found = list(lines)
    for k, n in _broken_in_the_open(found):
        for number in (k, n):
            found[number] = Found("centre", found[number].shape, found[number].axis)
    for _ in range(_PASSES):
        for k, line in enumerate(found):
            if line.role == "centre" or not isinstance(line.shape, Straight):
                continue
            others = [one for n, one in enumerate(found) if n != k]
            is_open = _open_ends(line, others)
            if (all(is_open) and line.role == "visible") or (
                any(is_open) and _is_axis(line.shape, others)
            ):
                found[k] = Found("centre", line.shape, line.axis)
    return [line for k, line in enumerate(found) if not _is_loose(line, found[:k] + found[k + 1 :])]


def _broken_in_the_open(lines: Sequence[Found]) -> Iterator[tuple[int, int]]:
    """Yield the numbers of visible lines that go on from each other over a gap at which nothing
    stands: a centre line whose dot lies under another line.
    """
    straight = [(k, one.shape) for k, one in enumerate(lines)
                if one.role == "visible" and isinstance(one.shape, Straight)]  # fmt: skip
    edges = [one for one in lines if one.role != "centre"]
    for (k, one), (n, other) in combinations(straight, 2):
        a, b = min(((a, b) for a in (one.start, one.end) for b in (other.start, other.end)),
                   key=lambda ends: math.dist(*ends))  # fmt: skip
        if not _ONE_RUN_MM < math.dist(a, b) < _DOT_LOST_MM:
            continue
        first, last = (_Piece(np.array(x.start), np.array(x.end)) for x in (one, other))
        if abs(float(first.way @ last.way)) < math.cos(_SAME_WAY) or _off(np.array(b), first) > (
            _ASIDE_MM):  # fmt: skip
            continue
        own = lines[k], lines[n]
        if all(_far(end, edge) > _MEETS_MM for end in (a, b) for edge in edges if edge not in own):
            yield k, n


def _open_ends(line: Found, others: Sequence[Found]) -> tuple[bool, bool]:
    """Say of both ends of a line whether it ends on no edge there."""
    assert isinstance(line.shape, Straight | Bow)
    edges = [one for one in others if one.role != "centre"]
    first, last = (all(_far(end, one) > _TOUCH_MM for one in edges)
                   for end in (line.shape.start, line.shape.end))  # fmt: skip
    return first, last


def _is_loose(line: Found, others: Sequence[Found]) -> bool:
    """Say whether an arc ends in the open: a bit of something that is none."""
    if not isinstance(line.shape, Bow) or line.shape.is_closed:
        return False
    return any(_open_ends(line, others))


def _is_axis(line: Straight, others: Sequence[Found]) -> bool:
    """Say whether a line goes on from a centre line, or through the middle of a circle."""
    piece = _Piece(np.array(line.start), np.array(line.end))
    for one in others:
        if isinstance(one.shape, Bow) and one.shape.last - one.shape.first > _HAS_CENTRE:
            centre = np.array(one.shape.centre)
            past = float((centre - piece.start) @ piece.way)
            reach = one.shape.radius + _DASH_MM
            if _off(centre, piece) < _ASIDE_MM and -reach < past < piece.long + reach:
                return True
        elif one.role == "centre" and isinstance(one.shape, Straight):
            other = _Piece(np.array(one.shape.start), np.array(one.shape.end))
            if _goes_on(piece, other):
                return True
    return False


def _far(place: tuple[float, float], line: Found) -> float:
    """Return how far a place lies from a line, mm."""
    shape = line.shape
    if isinstance(shape, Bow):
        x, y = place[0] - shape.centre[0], place[1] - shape.centre[1]
        if (math.atan2(y, x) - shape.first) % math.tau <= shape.last - shape.first:
            return abs(math.hypot(x, y) - shape.radius)
        return min(math.dist(place, shape.start), math.dist(place, shape.end))
    return distance_to_segment(place, shape.start, shape.end)
