"""Views that touch: their lines make one cluster, which is taken apart where the sizes agree.

The depth of what stands above or below the front view is that of what stands beside it, and the
corner of the sheet between the two is empty. So a cut through a cluster is told by its sizes.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace
from itertools import pairwise, product

import numpy as np
from numpy.typing import NDArray

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import Bow, Box, DrawnLine, Straight, box_of
from holoptic.tolerance import APART_MM

_NEAR_MM = 0.05
_LEAST_MM = 1.0
"""No view is thinner."""
_SAME_SIZE = 0.02
Floats = NDArray[np.float64]
Cut = tuple[float | None, float | None]
"""Where a cluster is cut: an upright at x, a level at y."""
Cell = tuple[int, ...]
"""On which side of each cut a view lies: 0 before, 1 behind."""


def taken_apart(clusters: Sequence[list[DrawnLine]]) -> list[list[DrawnLine]] | None:
    """Return clusters with the one that holds views that touch taken apart; None where no cut
    leaves views whose sizes agree.
    """
    for number, cluster in enumerate(clusters):
        others = [other for k, other in enumerate(clusters) if k != number]
        for cut in _cuts(cluster, [_box(other) for other in others]):
            views = _views(cluster, cut)
            if views and all(_fills(view, _box(cluster), cut) for view in views):
                return [*views, *others]
    return None


def _cuts(cluster: Sequence[DrawnLine], others: Sequence[Box]) -> Iterator[Cut]:
    """Yield the cuts that leave views whose sizes agree, with another view or among themselves."""
    box = _box(cluster)
    yield from _corners(cluster, box)
    for other in others:
        yield from _beside(box, other)


def _beside(box: Box, other: Box) -> Iterator[Cut]:
    """Yield the cuts that leave a view in line with another one, and one as deep as it is."""
    for axis in (0, 1):
        low, high = box[axis], box[axis + 2]
        first, last = other[axis], other[axis + 2]
        deep = other[3 - axis] - other[1 - axis]
        for is_in_line, at, left in (
            (_is_near(low, first), last, high - last), (_is_near(high, last), first, first - low),
        ):  # fmt: skip
            if is_in_line and left > _LEAST_MM and abs(left - deep) <= _SAME_SIZE * deep:
                yield (at, None) if axis == 0 else (None, at)


def _corners(cluster: Sequence[DrawnLine], box: Box) -> Iterator[Cut]:
    """Yield the cuts at an upright and a level that leave two views of one depth about an empty
    corner.
    """
    boxes = np.array([box_of([line.shape]) for line in cluster if line.status != "centre"])
    levels = [np.unique(np.round(boxes[:, (axis, axis + 2)], 3)) for axis in (0, 1)]
    inside = [some[(some > box[axis] + _LEAST_MM) & (some < box[axis + 2] - _LEAST_MM)]
              for axis, some in enumerate(levels)]  # fmt: skip
    for is_right, is_above in product((True, False), repeat=2):
        deep = box[2] - inside[0] if is_right else inside[0] - box[0]
        wanted = box[3] - deep if is_above else box[1] + deep
        for x, y in zip(inside[0].tolist(), wanted.tolist(), strict=True):
            near = inside[1][np.abs(inside[1] - y) < _NEAR_MM]
            if len(near) and _is_empty(boxes, (x, float(near[0])), is_right, is_above):
                yield x, float(near[0])


def _is_empty(boxes: Floats, at: Vec2, is_right: bool, is_above: bool) -> bool:
    """Say whether no line's box reaches into a corner of the sheet beyond a place."""
    across = boxes[:, 2] > at[0] + _NEAR_MM if is_right else boxes[:, 0] < at[0] - _NEAR_MM
    up = boxes[:, 3] > at[1] + _NEAR_MM if is_above else boxes[:, 1] < at[1] - _NEAR_MM
    return not bool((across & up).any())


def _views(cluster: Sequence[DrawnLine], cut: Cut) -> list[list[DrawnLine]]:
    """Return the lines of each view that a cut leaves; none where an arc would be cut."""
    parts: list[list[DrawnLine]] = [list(cluster)]
    for axis, at in enumerate(cut):
        if at is not None:
            halves = [_halves(part, axis, at) for part in parts]
            if any(half is None for half in halves):
                return []
            parts = [side for half in halves if half is not None for side in half]
    used = [axis for axis in (0, 1) if cut[axis] is not None]
    cells = dict(zip(product((0, 1), repeat=len(used)), parts, strict=True))
    # what has centre lines alone is no view
    cells = {
        cell: part for cell, part in cells.items()
        if any(line.status != "centre" and not _lies_on(line, cut) for line in part)
    }  # fmt: skip
    if len(cells) != len(used) + 1:
        return []
    owns, along = [], []
    for cell, part in cells.items():
        shared = _shared(cell, cells, used, cut)
        owns.append([line for line in part if not _lies_on(line, shared)])
        along.append([line for line in part if _lies_on(line, shared)])
    seams = [line for line in cluster if _lies_on(line, cut)]
    if any(_overlap(one, other) for k, one in enumerate(seams) for other in seams[k + 1 :]):
        held = _shared_out(owns, along)
    else:
        held = [_held(_pieces(some, _all_ends(own)), _all_ends(own))
                for own, some in zip(owns, along, strict=True)]  # fmt: skip
    return [[*own, *some] for own, some in zip(owns, held, strict=True)]


def _shared(cell: Cell, cells: Collection[Cell], used: Sequence[int], cut: Cut) -> Cut:
    """Return the cuts that a view shares with a neighbour: beyond others is the empty corner."""
    found: list[float | None] = [None, None]
    for k, axis in enumerate(used):
        beyond = (*cell[:k], 1 - cell[k], *cell[k + 1 :])
        found[axis] = cut[axis] if beyond in cells else None
    return found[0], found[1]


def _fills(view: Sequence[DrawnLine], box: Box, cut: Cut) -> bool:
    """Say whether a view reaches from the edge of its cluster to the cut, as its neighbours do."""
    own = _box(view)
    for axis, at in enumerate(cut):
        sides = (box[axis], box[axis + 2]) if at is None else (box[axis], at, box[axis + 2])
        if not any(_is_near(own[axis], low) and _is_near(own[axis + 2], high)
                   for low, high in pairwise(sides)):  # fmt: skip
            return False
    return True


def _halves(
    lines: Sequence[DrawnLine], axis: int, at: float
) -> tuple[list[DrawnLine], list[DrawnLine]] | None:
    """Return lines parted at a level; those that lie on it belong to both sides."""
    before: list[DrawnLine] = []
    after: list[DrawnLine] = []
    for line in lines:
        box = box_of([line.shape])
        low, high = box[axis], box[axis + 2]
        if line.status == "centre":
            (before if low + high < 2 * at else after).append(line)
            continue
        if high <= at + _NEAR_MM:
            before.append(line)
        if low >= at - _NEAR_MM:
            after.append(line)
        if low < at - _NEAR_MM and high > at + _NEAR_MM:
            if not isinstance(line.shape, Straight):
                return None
            first, last = sorted((line.shape.start, line.shape.end), key=lambda end: end[axis])
            share = (at - first[axis]) / (last[axis] - first[axis])
            middle = tuple(a + share * (b - a) for a, b in zip(first, last, strict=True))
            meeting: Vec2 = (middle[0], middle[1])
            before.append(replace(line, shape=Straight(first, meeting)))
            after.append(replace(line, shape=Straight(meeting, last)))
    return before, after


def _shared_out(
    owns: Sequence[Sequence[DrawnLine]], along: Sequence[Sequence[DrawnLine]]
) -> list[list[DrawnLine]]:
    """Return which of the lines along the cut belong to each view, where either view has its own:
    those whose ends meet its lines, as often as they are drawn.

    A corner that two neighbours close between them may be none of this view: it comes last.
    """
    found: dict[tuple[Vec2, ...], dict[int, list[DrawnLine]]] = {}
    surely: dict[tuple[Vec2, ...], set[int]] = {}
    for number, (own, some) in enumerate(zip(owns, along, strict=True)):
        ends = _all_ends(own)
        for line in _held(some, ends):
            found.setdefault(_key(line), {}).setdefault(number, []).append(line)
        for axis in (0, 1):
            for line in _held([each for each in some if _axis_of(each) == axis], ends):
                surely.setdefault(_key(line), set()).add(number)
    taken: list[list[DrawnLine]] = [[] for _ in owns]
    for key, holders in sorted(found.items(), key=lambda item: len(item[1])):
        left = max(map(len, holders.values()))
        for number in sorted(holders, key=lambda k: k not in surely.get(key, set())):
            line = holders[number][0]
            is_free = not any(_overlap(line, other) for other in taken[number])
            if left and (is_free or len(holders) == 1):
                taken[number].append(line)
                left -= 1
    return taken


def _key(line: DrawnLine) -> tuple[Vec2, ...]:
    return tuple(sorted((round(x, 1), round(y, 1)) for x, y in _ends(line)))


def _overlap(one: DrawnLine, other: DrawnLine) -> bool:
    """Say whether two level or upright lines lie on each other along some way."""
    axis = _axis_of(one)
    if axis != _axis_of(other):
        return False
    a, b = box_of([one.shape]), box_of([other.shape])
    k = 1 - axis
    return _is_near(a[axis], b[axis]) and min(a[k + 2], b[k + 2]) - max(a[k], b[k]) > _NEAR_MM


def _all_ends(lines: Sequence[DrawnLine]) -> list[Vec2]:
    return [end for line in lines for end in _ends(line)]


def _held(pieces: Sequence[DrawnLine], ends: Sequence[Vec2]) -> list[DrawnLine]:
    """Return pieces both of whose ends meet one of some ends or another piece."""
    left = list(pieces)
    while True:
        kept = [piece for k, piece in enumerate(left)
                if all(_meets(end, ends, left[:k] + left[k + 1 :])
                       for end in _ends(piece))]  # fmt: skip
        if len(kept) == len(left):
            return kept
        left = kept


def _meets(end: Vec2, ends: Sequence[Vec2], pieces: Sequence[DrawnLine]) -> bool:
    others = (at for piece in pieces for at in _ends(piece))
    return any(math.dist(end, at) < _NEAR_MM for at in (*ends, *others))


def _axis_of(piece: DrawnLine) -> int:
    """Return 0 for an upright, 1 for a level line."""
    start, end = _ends(piece)
    return 0 if abs(start[0] - end[0]) < abs(start[1] - end[1]) else 1


def _is_on(at: Vec2, line: DrawnLine) -> bool:
    start, end = _ends(line)
    return math.dist(start, at) + math.dist(at, end) < math.dist(start, end) + APART_MM


def _pieces(lines: Sequence[DrawnLine], ends: Sequence[Vec2]) -> list[DrawnLine]:
    """Return the pieces between some ends of lines that lie along a cut, each once."""
    both = [*ends, *_all_ends(lines)]
    return list({_key(piece): piece for line in lines for piece in _parted(line, both)}.values())


def _parted(line: DrawnLine, ends: Sequence[Vec2]) -> Iterator[DrawnLine]:
    """Yield a line that lies along a cut in pieces between the ends of other lines on it."""
    start, end = _ends(line)
    on = [at for at in ends if _is_on(at, line)]
    on = sorted([start, *on, end], key=lambda at: math.dist(start, at))
    for one, other in pairwise(on):
        if math.dist(one, other) > _NEAR_MM:
            yield replace(line, shape=Straight(one, other))


def _lies_on(line: DrawnLine, cut: Cut) -> bool:
    if line.status == "centre" or not isinstance(line.shape, Straight):
        return False
    return any(
        at is not None and all(abs(end[axis] - at) < _NEAR_MM for end in _ends(line))
        for axis, at in enumerate(cut)
    )


def _ends(line: DrawnLine) -> tuple[Vec2, Vec2]:
    if isinstance(line.shape, Bow) and line.shape.is_closed:
        return line.shape.centre, line.shape.centre
    path = line.shape.path()
    return path[0], path[-1]


def _is_near(one: float, other: float) -> bool:
    return abs(one - other) < _NEAR_MM


def _box(cluster: Sequence[DrawnLine]) -> Box:
    return box_of([line.shape for line in cluster if line.status != "centre"])
