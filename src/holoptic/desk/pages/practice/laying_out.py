"""Where the figures of an exercise stand on the board."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from holoptic.curves.vectors import Vec2
from holoptic.practice.exercise import Choice, Exercise, Figure, Grid, Heights

Box = tuple[float, float, float, float]
_GAP_MM, _FOOT_MM, _PAD_MM = 12.0, 7.0, 4.0
PLAN_MM = 9.0
"""A square of the plan that heights are put on."""


@dataclass(frozen=True)
class OnBoard:
    """A figure with how far it is moved, and what it takes up there (mm); `choice` is the number of
    the answer that it stands for.
    """

    figure: Figure
    by: Vec2
    box: Box
    choice: int | None = None

    def at(self, place: Vec2) -> Vec2:
        """Return where a place of the figure lies on the board."""
        return place[0] + self.by[0], place[1] + self.by[1]


@dataclass(frozen=True)
class Layout:
    """All figures of a board; `plan` is where a plan of heights begins."""

    figures: tuple[OnBoard, ...]
    extent: Box
    plan: Vec2 | None = None


def laid_out(exercise: Exercise, ratio: float) -> Layout:
    """Return the figures of an exercise on a board that is `ratio` times as wide as high."""
    asked = exercise.asked
    choices = asked.figures if isinstance(asked, Choice) else ()
    figures: list[tuple[Figure, int | None]] = [(figure, None) for figure in exercise.figures]
    figures += [(figure, k) for k, figure in enumerate(choices)]
    extra = None
    if isinstance(asked, Heights):
        extra = len(asked.heights[0]) * PLAN_MM, len(asked.heights) * PLAN_MM
    return best(figures, ratio, extra)


def best(figures: Sequence[tuple[Figure, int | None]], ratio: float, extra: Vec2 | None) -> Layout:
    """Return the layout in rows that can be drawn largest."""
    layouts = [_in_rows(figures, count, extra) for count in range(1, len(figures) + 2)]
    return max(layouts, key=lambda one: _scale(one.extent, ratio))


def _scale(extent: Box, ratio: float) -> float:
    return min(ratio / (extent[2] - extent[0]), 1.0 / (extent[3] - extent[1]))


def _in_rows(
    figures: Sequence[tuple[Figure, int | None]], count: int, extra: Vec2 | None
) -> Layout:
    placed: list[OnBoard] = []
    plan: Vec2 | None = None
    top, wide = 0.0, 1.0
    items: list[tuple[Figure, int | None] | None] = [*figures, *([None] if extra else [])]
    for first in range(0, len(items), count):
        row = items[first : first + count]
        high = max(extra[1] if item is None and extra else _size(item)[1] for item in row)
        x = 0.0
        for item in row:
            if item is None:
                assert extra is not None
                plan = x + _PAD_MM, top - high
                x += extra[0] + _GAP_MM + _PAD_MM
                continue
            figure, choice = item
            left, low, right, _ = figure.box
            by = x - left, top - high - low
            box = (x - _PAD_MM, top - high - _PAD_MM, x + right - left + _PAD_MM, top + _PAD_MM)
            placed.append(OnBoard(figure, by, box, choice))
            x += max(right - left, 2 * _PAD_MM) + _GAP_MM
        wide = max(wide, x - _GAP_MM)
        top -= high + _GAP_MM + _FOOT_MM
    extent = (-_PAD_MM, top + _GAP_MM, wide + _PAD_MM, _PAD_MM)
    return Layout(tuple(placed), extent, plan)


def _size(item: tuple[Figure, int | None] | None) -> Vec2:
    if item is None:
        return 0.0, 0.0
    left, low, right, high = item[0].box
    return right - left, high - low


def dot_near(grid: Grid, place: Vec2) -> tuple[int, int] | None:
    """Return the dot of a grid that is near a place of its figure (mm)."""
    found = min(grid.dots(), key=lambda dot: _off(grid.at(dot), place))
    return found if _off(grid.at(found), place) < 0.6 * grid.pitch else None


def _off(one: Vec2, other: Vec2) -> float:
    return math.dist(one, other)
