"""A sketched view by the order of its lines: numbered levels, and lines from level to level.

Where a free hand's lines end and meet is taken for what was meant; how far apart they lie is not.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import permutations

from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Bow, Status, Straight
from holoptic.tolerance import SHARE

Numbers = tuple[int, int]
_SAME_MM, _SAME_BESIDE_MM = 1.5, 0.8
"""Lines so near are of one level; where they run beside each other they are nearer, if so."""
_BESIDE_MM = 2.0
_END_MM, _HIDDEN_END_MM, _CHANGE_MM, _SUPPORT_MM = 2.6, 4.2, 6.5, 3.0
"""Hidden lines may end in a gap; where a line changes to hidden a dash may have run into it."""
_NARROW_MM = 3.2
_INSIDE = 0.25
"""Radians that an arc goes on to both sides of where it is widest."""
_HALF_CENTRE = 0.8
_STRONG, _WEAK = True, False


@dataclass(frozen=True)
class Edge:
    """A straight line by the numbers of the levels that its ends lie on."""

    start: Numbers
    end: Numbers
    status: Status

    def on(self, k: int) -> set[int]:
        """Return the numbers of the levels it lies on, across (0) or up (1)."""
        return {self.start[k], self.end[k]}


@dataclass(frozen=True)
class Round:
    """A circle or an arc by numbers of levels: of its centre, of its low and high side along both
    axes (None where it has none), of its ends (none of a whole circle), counter-clockwise.
    """

    centre: Numbers
    low: tuple[int | None, int | None]
    high: tuple[int | None, int | None]
    ends: tuple[Numbers, Numbers] | None
    status: Status

    def on(self, k: int) -> set[int]:
        """Return the numbers of the levels it lies on, across (0) or up (1)."""
        sides = {n for n in (self.low[k], self.high[k]) if n is not None}
        return {self.centre[k], *sides, *(end[k] for end in self.ends or ())}


@dataclass(frozen=True)
class OrderedView:
    """A view: its levels across and up (mm of paper, ascending), and its lines."""

    levels: tuple[tuple[float, ...], tuple[float, ...]]
    lines: tuple[Edge | Round, ...]


@dataclass
class _Seen:
    """Something that lies on a level: where, how much it counts, and from where to where."""

    at: float
    weight: float
    span: tuple[float, float]
    is_strong: bool
    reach: float = _END_MM


@dataclass
class _Level:
    """What lies on one level."""

    seen: list[_Seen] = field(default_factory=list)

    @property
    def at(self) -> float:
        """Where it lies, mm."""
        return sum(one.at * one.weight for one in self.seen) / sum(x.weight for x in self.seen)


def ordered(lines: Sequence[Found]) -> OrderedView:
    """Return the lines of a view (mm of paper, Y up) from level to level."""
    seen = [list(_observed(lines, k)) for k in (0, 1)]
    levels = [_levels(one) for one in seen]
    numbers = _Numbers(levels)
    found: dict[Edge | Round, None] = {}
    for line in lines:
        if line.role == "centre":
            continue
        one = numbers.edge(line) if isinstance(line.shape, Straight) else numbers.round(line)
        if one is not None:
            found[one] = None
    across, up = (tuple(level.at for level in own) for own in levels)
    bridges = _bridges([one for one in found if isinstance(one, Edge)], (across, up))
    return OrderedView((across, up), (*found, *bridges))


def _bridges(edges: Sequence[Edge], levels: Sequence[Sequence[float]]) -> Iterator[Edge]:
    """Yield what is wanting between two edges of one sort that go on from each other over less than
    a hand draws features apart: a bit between two lines that cross there.
    """
    for one, other in permutations(edges, 2):
        for k in (0, 1):
            is_level = one.start[1 - k] == one.end[1 - k] == other.start[1 - k] == other.end[1 - k]
            first, last = one.end[k], other.start[k]
            if not is_level or last != first + 1 or one.status != other.status:
                continue
            if levels[k][last] - levels[k][first] < _NARROW_MM:
                yield Edge(one.end, other.start, one.status)


def _observed(lines: Sequence[Found], k: int) -> Iterator[_Seen]:
    """Yield what lies on levels along an axis of the paper."""
    for line in lines:
        shape = line.shape
        if isinstance(shape, Straight):
            a, b = shape.start, shape.end
            if line.axis == 1 - k:
                span = min(a[1 - k], b[1 - k]), max(a[1 - k], b[1 - k])
                yield _Seen((a[k] + b[k]) / 2, math.dist(a, b), span, _STRONG)
            elif line.role != "centre":
                for end, reach in zip((a, b), _reaches(line), strict=True):
                    yield _Seen(end[k], 0.5, (end[1 - k], end[1 - k]), _WEAK, reach)
        elif isinstance(shape, Bow):
            yield from _of_bow(shape, k)


def _of_bow(bow: Bow, k: int) -> Iterator[_Seen]:
    across = bow.centre[1 - k]
    yield _Seen(bow.centre[k], _HALF_CENTRE * bow.radius, (across, across), bow.is_closed)
    for side in (-1, 1):
        if is_wide(bow, k, side):
            at = bow.centre[k] + side * bow.radius
            yield _Seen(at, bow.radius / 2, (across, across), _STRONG)
    if not bow.is_closed:
        for end in (bow.start, bow.end):
            yield _Seen(end[k], 0.5, (end[1 - k], end[1 - k]), _WEAK)


def is_wide(bow: Bow, k: int, side: int) -> bool:
    """Say whether an arc has its own low (-1) or high (1) side along an axis of the paper."""
    angle = (0.0 if k == 0 else math.pi / 2) + (math.pi if side < 0 else 0.0)
    return bow.is_closed or (
        _INSIDE < (angle - bow.first) % math.tau < bow.last - bow.first - _INSIDE)  # fmt: skip


# --- levels ---------------------------------------------------------------------------------------


def _levels(seen: Sequence[_Seen]) -> list[_Level]:
    """Return levels, ascending: the nearest of what is drawn for one are joined first."""
    levels = [_Level([one]) for one in seen if one.is_strong]
    levels.sort(key=lambda level: level.at)
    _joined(levels)
    loose = []
    for one in (x for x in seen if not x.is_strong):
        near = min(levels, key=lambda level: abs(level.at - one.at), default=None)
        if near is None or abs(near.at - one.at) > one.reach:
            loose.append(_Level([one]))
        else:
            near.seen.append(_Seen(one.at, SHARE, one.span, _WEAK))
    loose.sort(key=lambda level: level.at)
    _joined(loose)
    return sorted([*levels, *loose], key=lambda level: level.at)


def _joined(levels: list[_Level]) -> None:
    while len(levels) > 1:
        gaps = [(levels[k + 1].at - levels[k].at, k) for k in range(len(levels) - 1)]
        joined = [(gap, k) for gap, k in gaps if gap < _reach(levels[k], levels[k + 1])]
        if not joined:
            return
        _, k = min(joined)
        levels[k].seen += levels.pop(k + 1).seen


def _reach(low: _Level, high: _Level) -> float:
    beside = any(min(a.span[1], b.span[1]) - max(a.span[0], b.span[0]) > _BESIDE_MM
                 for a in low.seen for b in high.seen)  # fmt: skip
    return _SAME_BESIDE_MM if beside else _SAME_MM


# --- lines from level to level --------------------------------------------------------------------


class _Numbers:
    """Finds the numbers of levels that places lie on."""

    def __init__(self, levels: Sequence[Sequence[_Level]]) -> None:
        self._levels = levels

    def edge(self, line: Found) -> Edge | None:
        assert isinstance(line.shape, Straight)
        start, end = line.shape.start, line.shape.end
        if line.axis is not None:
            k = 1 - line.axis
            middle = (start[k] + end[k]) / 2
            own = self._nearest(k, middle)
            a, b = (self._at(1 - k, one[1 - k], middle, reach)
                    for one, reach in zip((start, end), _reaches(line), strict=True))  # fmt: skip
            first, last = ((own, a), (own, b)) if k == 0 else ((a, own), (b, own))
        else:
            first, last = self._both(start), self._both(end)
        if first == last:
            return None
        first, last = min(first, last), max(first, last)
        return Edge(first, last, _status(line))

    def round(self, line: Found) -> Round | None:
        bow = line.shape
        assert isinstance(bow, Bow)
        centre = self._nearest(0, bow.centre[0]), self._nearest(1, bow.centre[1])
        low, high = ([
            self._nearest(k, bow.centre[k] + side * bow.radius) if is_wide(bow, k, side) else None
            for k in (0, 1)] for side in (-1, 1))  # fmt: skip
        ends = None if bow.is_closed else (self._both(bow.start), self._both(bow.end))
        if ends is not None and ends[0] == ends[1]:
            return None
        return Round(centre, (low[0], low[1]), (high[0], high[1]), ends, _status(line))

    def _both(self, place: tuple[float, float]) -> Numbers:
        return self._at(0, place[0], place[1]), self._at(1, place[1], place[0])

    def _nearest(self, k: int, at: float) -> int:
        levels = self._levels[k]
        return min(range(len(levels)), key=lambda n: abs(levels[n].at - at))

    def _at(self, k: int, at: float, across: float, reach: float = _END_MM) -> int:
        """Return the number of the level that an end lies on: a near one that has something there,
        else the nearest.
        """
        levels = self._levels[k]
        near = [n for n, level in enumerate(levels) if abs(level.at - at) < reach]
        there = [n for n in near if _is_there(levels[n], across)]
        return min(there or near or range(len(levels)), key=lambda n: abs(levels[n].at - at))


def _is_there(level: _Level, across: float) -> bool:
    return any(one.span[0] - _SUPPORT_MM < across < one.span[1] + _SUPPORT_MM
               for one in level.seen if one.weight > SHARE)  # fmt: skip


def _reaches(line: Found) -> tuple[float, float]:
    """Return from how far its two ends are brought to levels, mm."""
    usual = _HIDDEN_END_MM if line.role == "hidden" else _END_MM
    first, last = (_CHANGE_MM if cut else usual for cut in line.cut)
    return first, last


def _status(line: Found) -> Status:
    return "hidden" if line.role == "hidden" else "visible"
