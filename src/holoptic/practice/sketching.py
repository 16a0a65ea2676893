"""How exercises draw: lines from dot to dot, letters at places, arrows, squares of cubes."""

from __future__ import annotations

import math
from collections.abc import Iterable

from holoptic.curves.vectors import Vec2
from holoptic.practice.exercise import Figure, Grid, Step
from holoptic.practice.stacks import Side, Triangle
from holoptic.sheet.drawing import Ink, Region, Words

LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ"
"""Letters that call answers: without I and O, which look like figures."""
LETTER_MM = 3.0
_TINTS: dict[Side, float] = {"top": 0.0, "left": 0.22, "right": 0.1}


def step_inks(steps: Iterable[Step], grid: Grid, layer: str = "visible") -> tuple[Ink, ...]:
    """Return lines from dot to dot, those that run on as one."""
    return tuple(Ink(layer, (grid.at(a), grid.at(b))) for a, b in joined(steps))


def joined(steps: Iterable[Step]) -> list[Step]:
    """Return steps with those that run on along each other joined into one, in a fixed order."""
    left = set(steps)
    found: list[Step] = []
    for step in sorted(left):
        if step not in left:
            continue
        left.discard(step)
        (a, b), way = step, (step[1][0] - step[0][0], step[1][1] - step[0][1])
        while (further := (b, (b[0] + way[0], b[1] + way[1]))) in left:
            left.discard(further)
            b = further[1]
        found.append((a, b))
    return found


def letter(place: Vec2, text: str, height: float = LETTER_MM) -> Words:
    """Return a letter whose middle lies at a place."""
    return Words((place[0], place[1] - height / 2), text, height, "middle", "title")


def arrow(start: Vec2, end: Vec2, layer: str = "dimension", head: float = 2.4) -> tuple[Ink, ...]:
    """Return a line with an open head at its end."""
    way = math.atan2(end[1] - start[1], end[0] - start[0])
    barbs = [(end[0] - head * math.cos(way + turn), end[1] - head * math.sin(way + turn))
             for turn in (0.35, -0.35)]  # fmt: skip
    return Ink(layer, (start, end)), Ink(layer, (barbs[0], end, barbs[1]))


def both_ways(
    start: Vec2, end: Vec2, layer: str = "dimension", head: float = 2.4
) -> tuple[Ink, ...]:
    """Return a line with heads at both its ends."""
    return (*arrow(start, end, layer, head), arrow(end, start, layer, head)[1])


def cube_figure(
    shown: dict[Triangle, Side], lines: Iterable[Step], pitch: float, is_shaded: bool,
    mat: Iterable[Step] = (), caption: str = "", on_lines: bool = False,
) -> Figure:  # fmt: skip
    """Return the picture of a stack of cubes, on dots or `on_lines` about it; `mat` is what it
    stands on.
    """
    rows = [m for _, m in shown] + [y for step in mat for _, y in step]
    strips = [s for s, _ in shown] + [x for step in mat for x, _ in step]
    left, low = min(strips) - 2, min(rows) - 3
    grid = Grid("isometric", (0.0, 0.0), pitch, 0, 0)
    dots = tuple(grid.at((c, r)) for c in range(left, max(strips) + 4)
                 for r in range(low, max(rows) + 4) if (c + r) % 2 == 0)  # fmt: skip
    regions = tuple(
        Region("shading", (tuple(map(grid.at, corners(*triangle))),), _TINTS[side])
        for triangle, side in sorted(shown.items()) if is_shaded and _TINTS[side]
    )  # fmt: skip
    inks = (*step_inks(mat, grid, "construction"), *step_inks(lines, grid))
    if on_lines:
        columns, rows_up = (left, max(strips) + 3), (low, max(rows) + 3)
        return Figure((*_grid_lines(grid, columns, rows_up), *inks), (), regions, (), caption)
    return Figure(inks, (), regions, dots, caption)


def _grid_lines(grid: Grid, columns: tuple[int, int], rows: tuple[int, int]) -> list[Ink]:
    """Return the lines of an isometric grid between columns and rows of dots."""
    found = set()
    for c in range(columns[0], columns[1] + 1):
        for r in range(rows[0], rows[1] + 1):
            for to in ((c, r + 2), (c + 1, r + 1), (c + 1, r - 1)):
                if (c + r) % 2 == 0 and to[0] <= columns[1] and rows[0] <= to[1] <= rows[1]:
                    found.add(((c, r), to))
    return [Ink("construction", (grid.at(a), grid.at(b)), 0.1) for a, b in joined(found)]


def corners(strip: int, middle: int) -> tuple[tuple[int, int], ...]:
    """Return the three dots of a triangle of the isometric grid (`practice/stacks.py`)."""
    if (strip + middle) % 2:
        return (strip, middle - 1), (strip, middle + 1), (strip + 1, middle)
    return (strip + 1, middle - 1), (strip + 1, middle + 1), (strip, middle)


def moved(figure: Figure, by: Vec2) -> Figure:
    """Return a figure moved on its paper, mm."""

    def to(place: Vec2) -> Vec2:
        return place[0] + by[0], place[1] + by[1]

    return Figure(
        tuple(Ink(k.layer, tuple(map(to, k.path)), k.weight, k.dashes, k.phase)
              for k in figure.inks),
        tuple(Words(to(w.at), w.text, w.height, w.anchor, w.layer) for w in figure.words),
        tuple(Region(r.layer, tuple(tuple(map(to, o)) for o in r.outlines), r.tint, r.hatch)
              for r in figure.regions),
        tuple(map(to, figure.dots)), figure.caption,
    )  # fmt: skip


def together(figures: Iterable[tuple[Figure, Vec2]], caption: str = "") -> Figure:
    """Return several figures as one, each moved to its place."""
    placed = [moved(figure, by) for figure, by in figures]
    return Figure(
        tuple(k for f in placed for k in f.inks), tuple(w for f in placed for w in f.words),
        tuple(r for f in placed for r in f.regions), tuple(d for f in placed for d in f.dots),
        caption,
    )  # fmt: skip
