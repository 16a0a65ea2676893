"""Straight lines as they are meant, where a program drew one in pieces that do not quite line up.

An outline of a surface without a formula comes in pieces, and its last one bends to where the
outline was found to end, some micrometres beside. What is read of such lines (a cone's tip, say)
lies far beyond them, so the line is put on the pieces that lie in one line, and what ended at its
ends ends there still. What is in one line already, or is no line, stays as it is.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import (
    Bow,
    DrawnLine,
    DrawnView,
    Shape,
    Status,
    Straight,
    with_ends,
)
from holoptic.tolerance import CHORD_MM, COINCIDENT_MM, ON_PAPER_MM

_SLIP_MM = CHORD_MM / 2
"""Pieces of one line meet, and stand off it, within this (length, mm)."""
_LEAST_LEAN = 0.03
"""Lines that lean less against each other (run to rise) cross anywhere."""
_IN_LINE = 0.6
"""Share of a row of pieces that must lie in one line; sides of a fine polygon do not."""


@dataclass(frozen=True)
class _Row:
    """Pieces of a view that run on from each other: their numbers, status, and corners in order."""

    numbers: tuple[int, ...]
    status: Status
    corners: np.ndarray
    place: np.ndarray
    way: np.ndarray
    """The line that most of it lies on: a place, and a direction of length 1."""

    @property
    def ends(self) -> tuple[Vec2, Vec2]:
        """Where it was drawn to begin and to end, mm."""
        return _place(self.corners[0]), _place(self.corners[-1])

    @property
    def inner(self) -> list[Vec2]:
        """Where its pieces meet, mm."""
        return [_place(corner) for corner in self.corners[1:-1]]

    def beside(self, place: Vec2) -> Vec2:
        """Return the place on its line beside one."""
        return _place(self.place + float((np.array(place) - self.place) @ self.way) * self.way)


def straightened(view: DrawnView) -> DrawnView:
    """Return a view with each line that comes in slightly different directions as one."""
    rows = list(_rows(view))
    if not rows:
        return view
    taken = {number for row in rows for number in row.numbers}
    rest = [line for number, line in enumerate(view.lines) if number not in taken]
    meant = {place: row.beside(place) for row in rows for place in row.inner}
    meant |= {end: _end_of(row, end, rows, rest) for row in rows for end in row.ends}
    places = _Ends(list(meant))
    moved = {
        end: meant[near[0]]
        for line in rest
        if not isinstance(line.shape, Bow)
        for end in (line.shape.start, line.shape.end)
        if (near := places.near(end))
    }
    kept = [line if line.status == "centre" else replace(line, shape=with_ends(line.shape, moved))
            for line in rest]  # fmt: skip
    made = [DrawnLine(Straight(*(meant[end] for end in row.ends)), row.status) for row in rows]
    return replace(view, lines=(*kept, *made))


# --- rows of pieces -----------------------------------------------------------------------------


class _Ends:
    """Places, found by what lies within a slip of them."""

    def __init__(self, places: Sequence[Vec2]) -> None:
        self._cells: dict[tuple[int, int], list[Vec2]] = defaultdict(list)
        for place in dict.fromkeys(places):
            self._cells[self._cell(place)].append(place)

    def near(self, place: Vec2) -> list[Vec2]:
        """Return the places near one, the nearest first."""
        column, line = self._cell(place)
        found = [other for dx in (-1, 0, 1) for dy in (-1, 0, 1)
                 for other in self._cells.get((column + dx, line + dy), ())
                 if math.dist(place, other) < _SLIP_MM]  # fmt: skip
        return sorted(found, key=lambda other: math.dist(place, other))

    @staticmethod
    def _cell(place: Vec2) -> tuple[int, int]:
        return math.floor(place[0] / _SLIP_MM), math.floor(place[1] / _SLIP_MM)


def _rows(view: DrawnView) -> Iterator[_Row]:
    """Yield the rows that are meant as one line each and are not drawn as one."""
    pieces = {
        number: path
        for number, line in enumerate(view.lines)
        if line.status != "centre" and (path := _straight_path(line.shape)) is not None
    }
    ends = _Ends([end for path in pieces.values() for end in (path[0], path[-1])])
    at: dict[Vec2, list[int]] = defaultdict(list)
    for number, path in pieces.items():
        at[path[0]].append(number)
        at[path[-1]].append(number)
    left = dict(pieces)
    while left:
        number, path = left.popitem()
        numbers, status = [number], view.lines[number].status

        def onward(path: list[Vec2], status: Status = status) -> tuple[int, list[Vec2]] | None:
            for end in ends.near(path[-1]):
                for other in at[end]:
                    if other not in left or view.lines[other].status != status:
                        continue
                    more = left[other] if left[other][0] == end else left[other][::-1]
                    longer = [*path, *more[1:]]
                    if more[0] == end and _runs_on(path, more) and _bend(longer) < _SLIP_MM:
                        return other, longer
            return None

        for _ in range(2):
            while (found := onward(path)) is not None:
                numbers.append(found[0])
                del left[found[0]]
                path = found[1]
            path = path[::-1]
        row = _row(tuple(numbers), status, np.array(path))
        if row is not None:
            yield row


def _straight_path(shape: Shape) -> list[Vec2] | None:
    """Return the corners of a straight line, or of a curve that is one all but drawn."""
    if isinstance(shape, Bow) or math.dist(shape.start, shape.end) < _SLIP_MM:
        return None
    if isinstance(shape, Straight):
        return [shape.start, shape.end]
    path = [a for a, b in zip(shape.points, (*shape.points[1:], None), strict=True) if a != b]
    return path if _bend(path) < _SLIP_MM else None


def _runs_on(path: Sequence[Vec2], more: Sequence[Vec2]) -> bool:
    (a, b), (c, d), (e, f), (g, h) = path[0], path[-1], more[0], more[-1]
    return (c - a) * (g - e) + (d - b) * (h - f) > 0


def _bend(path: Sequence[Vec2]) -> float:
    """Return how far a path stands off the straight line between its ends, mm."""
    places = np.array(path)
    way = places[-1] - places[0]
    return float(np.abs(_across(places - places[0], way / np.hypot(*way))).max())


def _row(numbers: tuple[int, ...], status: Status, corners: np.ndarray) -> _Row | None:
    """Return a row with the line that most of it lies on; None where it is drawn as one, or where
    hardly two pieces are in line.
    """
    # the first step of a curve may be no longer than the slip with which it follows
    corners = corners[np.append(True, np.diff(corners, axis=0).any(axis=1))]
    if len(corners) < 3 or _bend([_place(corner) for corner in corners]) < COINCIDENT_MM:
        return None
    steps = np.diff(corners, axis=0)
    longs = np.hypot(*steps.T)
    best, on_best = 0, 0.0
    for k in range(len(steps)):
        off = np.abs(_across(corners - corners[k], steps[k] / longs[k]))
        on_line = float(longs[np.maximum(off[:-1], off[1:]) < ON_PAPER_MM].sum())
        if (on_line, longs[k]) > (on_best, longs[best]):
            best, on_best = k, on_line
    if on_best < _IN_LINE * longs.sum():
        return None
    return _Row(numbers, status, corners, corners[best], steps[best] / longs[best])


# --- where they end -----------------------------------------------------------------------------


def _end_of(row: _Row, end: Vec2, rows: Sequence[_Row], rest: Sequence[DrawnLine]) -> Vec2:
    """Return where a row ends: on the line that it meets there, if any, else beside its end."""
    for place, way in _meeting(end, row, rows, rest):
        lean = float(_across(row.way, way))
        if abs(lean) < _LEAST_LEAN:
            continue
        along = float(_across(place - row.place, way)) / lean
        crossing = _place(row.place + along * row.way)
        if math.dist(crossing, end) < 2 * _SLIP_MM:
            return crossing if math.dist(crossing, end) > COINCIDENT_MM else end
    beside = row.beside(end)
    return beside if math.dist(beside, end) > COINCIDENT_MM else end


def _meeting(
    end: Vec2, row: _Row, rows: Sequence[_Row], rest: Sequence[DrawnLine]
) -> Iterator[tuple[np.ndarray, np.ndarray]]:
    """Yield the lines that end where a row does: a place of each, and its direction."""
    for shape in (line.shape for line in rest if line.status != "centre"):
        if isinstance(shape, Straight) and _ends_at((shape.start, shape.end), end):
            way = np.subtract(shape.end, shape.start)
            yield np.array(shape.start), way / np.hypot(*way)
    for other in rows:
        if other is not row and _ends_at(other.ends, end):
            yield other.place, other.way


def _ends_at(ends: tuple[Vec2, Vec2], place: Vec2) -> bool:
    return ends[0] != ends[1] and min(math.dist(end, place) for end in ends) < _SLIP_MM


def _across(one: np.ndarray, other: np.ndarray) -> np.ndarray:
    """Return the cross product of vectors in the plane, of each in a row (… × 2)."""
    crossed: np.ndarray = one[..., 0] * other[..., 1] - one[..., 1] * other[..., 0]
    return crossed


def _place(values: np.ndarray) -> Vec2:
    return float(values[0]), float(values[1])
