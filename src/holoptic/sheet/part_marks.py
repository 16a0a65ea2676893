"""Numbers of the parts beside an arrangement: circles in columns, with leaders that do not cross.

Each part is marked once. Its leader goes from a point of one of its visible lines, where a dot
stands, straight to its circle at the left or the right; the point and the side are those from which
it crosses the fewest lines, centre lines and axis lines among them. Circles follow each other up a
column as their points do, so that no leader crosses another; where that makes a leader cross lines,
other points of its part are tried. After ISO 6433.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.sheet.drawing import Ink, Region, Words
from holoptic.spread.parts_list import ListedPart
from holoptic.tolerance import SOLVED

CIRCLE_MM = 8.0
"""Diameter of a number's circle."""
MARKS_MM = 20.0
"""Room for a column of numbers beside a drawing."""
_APART_MM = 10.5
"""From circle to circle."""
_OUT_MM = 13.0
"""From the drawing to the middles of the circles."""
_FIGURE_MM = 3.5
_DOT_MM = 0.6
_LAYER = "number"
_SPOTS = 7
"""Points of a line that a leader may begin at."""
_TRIED = 12
"""Other beginnings that are tried for a leader that crosses lines."""

Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Outlines:
    """The lines of a body on the page, mm: those in sight."""

    body: int
    paths: tuple[tuple[Vec2, ...], ...]


@dataclass(frozen=True)
class Mark:
    """A number: where its leader begins on the part, and the middle of its circle, mm."""

    number: int
    spot: Vec2
    circle: Vec2
    crossed: int = 0
    """How many lines the leader crosses."""

    @property
    def leader(self) -> tuple[Vec2, Vec2]:
        """From the part to the edge of the circle."""
        reach = math.dist(self.spot, self.circle)
        share = 1 - CIRCLE_MM / 2 / reach if reach else 0.0
        (x, y), (u, v) = self.spot, self.circle
        return self.spot, (x + share * (u - x), y + share * (v - y))


def place_marks(
    rows: Sequence[ListedPart], outlines: Iterable[Outlines], extent: Box,
    besides: Iterable[tuple[Vec2, ...]] = (),
) -> list[Mark]:  # fmt: skip
    """Return where the numbers of parts stand about a drawing of an extent, mm.

    `besides` are lines of no part that leaders keep clear of as well. A part of which nothing is
    in sight gets no number.
    """
    placing = _Placing(list(outlines), extent, besides)
    return placing.placed([marks for row in rows if (marks := placing.possible(row))])


class _Placing:
    def __init__(
        self, outlines: list[Outlines], extent: Box, besides: Iterable[tuple[Vec2, ...]]
    ) -> None:
        self._outlines = outlines
        self._extent = extent
        lines = [shapely.linestrings(path) for one in outlines for path in one.paths]
        self._tree = shapely.STRtree([*lines, *(shapely.linestrings(path) for path in besides)])

    def possible(self, row: ListedPart) -> list[Mark]:
        """Return marks of a part, those first whose leaders cross the fewest lines."""
        found = [
            Mark(row.number, spot, circle)
            for one in self._outlines if one.body in row.bodies
            for spot in _spots(one)
            for circle in self._across_from(spot)
        ]  # fmt: skip
        return sorted(
            self._counted(found), key=lambda mark: (mark.crossed, math.dist(mark.spot, mark.circle))
        )

    def placed(self, possible: list[list[Mark]]) -> list[Mark]:
        """Return one mark of each part, circles spaced, so that few lines are crossed."""
        chosen = [marks[0] for marks in possible]
        best = self.spaced(chosen)
        for number in [mark.number for mark in best if mark.crossed]:
            at = next(k for k, mark in enumerate(chosen) if mark.number == number)
            for other in _differing(possible[at])[:_TRIED]:
                if not _price(best)[1]:
                    break
                tried = [*chosen[:at], other, *chosen[at + 1 :]]
                spaced = self.spaced(tried)
                if _price(spaced) < _price(best):
                    chosen, best = tried, spaced
        return best

    def _counted(self, marks: list[Mark]) -> list[Mark]:
        """Return marks with how many lines their leaders cross, those at their own beginning left
        out.
        """
        if not marks:
            return []
        leaders = _leaders(marks)
        along = leaders[:, 1] - leaders[:, 0]
        lengths = np.linalg.norm(along, axis=1, keepdims=True)
        leaders[:, 0] += along / np.maximum(lengths, SOLVED) * 2 * _DOT_MM
        crossing, _ = self._tree.query(shapely.linestrings(leaders), predicate="intersects")
        counts = np.bincount(crossing, minlength=len(marks)).tolist()
        return [replace(mark, crossed=n) for mark, n in zip(marks, counts, strict=True)]

    def _across_from(self, spot: Vec2) -> tuple[Vec2, Vec2]:
        left, _, right, _ = self._extent
        return (right + _OUT_MM, spot[1]), (left - _OUT_MM, spot[1])

    def spaced(self, marks: list[Mark]) -> list[Mark]:
        """Return marks whose circles stand clear of each other in their columns, in order."""
        middle = (self._extent[0] + self._extent[2]) / 2
        placed: list[Mark] = []
        for on_right in (True, False):
            column = [mark for mark in marks if (mark.circle[0] > middle) == on_right]
            column.sort(key=lambda mark: (mark.spot[1], mark.number))
            ups = _spread_out([mark.circle[1] for mark in column])
            placed += [
                replace(mark, circle=(mark.circle[0], up))
                for mark, up in zip(column, ups, strict=True)
            ]
        return sorted(self._counted(_uncrossed(placed)), key=lambda mark: mark.number)


def _price(marks: Sequence[Mark]) -> tuple[int, int]:
    return crossings(marks), sum(mark.crossed for mark in marks)


def _differing(marks: list[Mark]) -> list[Mark]:
    """Return marks that begin well away from each other or end in other columns, in their order."""
    kept: list[Mark] = []
    for mark in marks:
        if all(
            math.dist(mark.spot, one.spot) > _FIGURE_MM or mark.circle[0] != one.circle[0]
            for one in kept
        ):
            kept.append(mark)
    return kept


def _spots(one: Outlines) -> list[Vec2]:
    """Return points of a body's lines, some of each, ends left out."""
    found = []
    for path in one.paths:
        line = shapely.linestrings(path)
        shares = (np.arange(_SPOTS) + 0.5) / _SPOTS
        points = shapely.line_interpolate_point(line, shares, normalized=True)
        found += [(float(p.x), float(p.y)) for p in points]
    return found


def _spread_out(places: list[float]) -> list[float]:
    """Return rising places as near as may be to those given, each at least so far from the next."""
    groups: list[tuple[float, int]] = []  # the lowest place of a run of circles, and their count
    for place in places:
        groups.append((place, 1))
        while len(groups) > 1 and groups[-1][0] < groups[-2][0] + groups[-2][1] * _APART_MM:
            (low, count), (high, more) = groups[-2], groups[-1]
            total = count + more
            # each run stands about the middle of where its members would be
            wanted = low * count + (high - count * _APART_MM) * more
            groups[-2:] = [(wanted / total, total)]
    return [low + k * _APART_MM for low, count in groups for k in range(count)]


def _uncrossed(marks: list[Mark]) -> list[Mark]:
    """Return marks with circles exchanged until no leader crosses another of its column."""
    made = list(marks)
    columns = np.array([mark.circle[0] for mark in made])
    same = np.tril(columns[:, None] == columns[None, :], -1)
    for _ in range(len(made)):
        pairs = np.argwhere(_cross_each_other(_leaders(made)) & same)
        if not len(pairs):
            break
        i, j = pairs[0].tolist()
        one, other = made[i], made[j]
        made[i], made[j] = replace(one, circle=other.circle), replace(other, circle=one.circle)
    return made


def _leaders(marks: Sequence[Mark]) -> np.ndarray:
    """Return the leaders of marks (n × 2 × 2: from, to; mm)."""
    return np.array([mark.leader for mark in marks]).reshape(-1, 2, 2)


def _cross_each_other(leaders: np.ndarray) -> np.ndarray:
    """Return which straight pieces (n × 2 × 2) meet which others (n × n), touching counted.

    Two do where the ends of each lie on either side of the other (Cormen et al., Introduction to
    Algorithms, 33.1).
    """
    starts, ends = leaders[:, 0], leaders[:, 1]
    along = ends - starts
    sides = [_turns(along, points[None] - starts[:, None]) for points in (starts, ends)]
    apart = np.minimum(*sides) * np.maximum(*sides) > 0
    met: np.ndarray = ~(apart | apart.T)
    # those in one line meet only where their boxes do
    low, high = np.minimum(starts, ends), np.maximum(starts, ends)
    met &= ((low[:, None] <= high) & (low[None] <= high[:, None])).all(axis=2)
    return met


def _turns(along: np.ndarray, off: np.ndarray) -> np.ndarray:
    """Return the cross product of each direction (n × 2) with its row of offsets (n × m × 2)."""
    return np.asarray(along[:, None, 0] * off[..., 1] - along[:, None, 1] * off[..., 0])


def mark_ink(marks: Iterable[Mark]) -> tuple[list[Ink], list[Region], list[Words]]:
    """Return the leaders and circles, the dots that leaders begin with, and the numbers."""
    inks, dots, words = [], [], []
    for mark in marks:
        inks.append(Ink(_LAYER, mark.leader))
        inks.append(_circle(mark.circle, CIRCLE_MM / 2))
        dots.append(Region(_LAYER, (_circle(mark.spot, _DOT_MM).path,)))
        x, y = mark.circle
        place = x, y - _FIGURE_MM / 2
        words.append(Words(place, str(mark.number), _FIGURE_MM, "middle", _LAYER))
    return inks, dots, words


def _circle(middle: Vec2, radius: float) -> Ink:
    arc = PaperArc(middle, (radius, 0.0), (0.0, radius), 0.0, math.tau)
    return Ink(_LAYER, tuple(arc.path()), arc=arc)


def crossings(marks: Sequence[Mark]) -> int:
    """Return how many pairs of leaders cross."""
    return int(np.tril(_cross_each_other(_leaders(marks)), -1).sum())
