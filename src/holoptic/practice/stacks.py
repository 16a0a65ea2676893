"""Stacks of cubes on a plan of squares: their picture, their views, and all that look the same.

A stack is rows of heights, rows from the front, columns from the left; nothing floats. Seen from a
near corner its columns stand along two ways, `i` to the right and `j` to the left, both away from
the viewer. On an isometric grid the corner of a cube (i, j, k) lies on the dot (i - j, i + j + 2k),
and what a face covers are triangles of that grid: (strip, middle), a strip lying between two
columns of dots.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from itertools import product
from typing import Literal

from holoptic.practice.exercise import Dot, Step, all_steps

Plan = tuple[tuple[int, ...], ...]
Triangle = tuple[int, int]
Side = Literal["top", "left", "right"]
Cell = tuple[int, int]
CORNERS = ("front-right", "front-left", "rear-right", "rear-left")
_MOST_HIDDEN = 12
"""No hidden column is tried higher."""


def turned(plan: Plan, corner: str) -> Plan:
    """Return a stack as it stands before a near corner: rows along `i`, columns along `j`."""
    rows, columns = len(plan), len(plan[0])
    if corner == "front-right":
        return tuple(tuple(plan[i][columns - 1 - j] for j in range(columns)) for i in range(rows))
    if corner == "front-left":
        return tuple(tuple(plan[j][i] for j in range(rows)) for i in range(columns))
    if corner == "rear-left":
        return tuple(tuple(plan[rows - 1 - i][j] for j in range(columns)) for i in range(rows))
    return tuple(
        tuple(plan[rows - 1 - j][columns - 1 - i] for j in range(rows)) for i in range(columns)
    )


def _covered(i: int, j: int, height: int) -> Iterator[tuple[Triangle, Side]]:
    """Yield the triangles that a column of cubes covers, the nearest first."""
    strip = i - j
    for k in range(height - 1, -1, -1):
        low = i + j + 2 * k
        for at, side in ((strip, "right"), (strip - 1, "left")):
            yield (at, low + 3), "top"
            yield (at, low + 1), side  # type: ignore[misc]
            yield (at, low + 2), side  # type: ignore[misc]


def _order(rows: int, columns: int) -> list[Cell]:
    """Return the columns of a stack, the nearest first: none hides one before it."""
    return sorted(((i, j) for i in range(rows) for j in range(columns)), key=sum)


def seen(stack: Plan) -> dict[Triangle, Side]:
    """Return what each triangle of the grid shows of a stack that is turned to its near corner."""
    found: dict[Triangle, Side] = {}
    for i, j in _order(len(stack), len(stack[0])):
        for triangle, side in _covered(i, j, stack[i][j]):
            found.setdefault(triangle, side)
    return found


def picture_lines(shown: dict[Triangle, Side]) -> frozenset[Step]:
    """Return the lines that a picture of cubes has: a triangle's sides, but for the one that runs
    through the middle of its own square.
    """
    count: Counter[Step] = Counter()
    for (strip, middle), side in shown.items():
        for kind, step in _sides(strip, middle):
            if kind != _inner(side):
                count[step] += 1
    return frozenset(count)


def _sides(strip: int, middle: int) -> Iterator[tuple[str, Step]]:
    """Yield the three sides of a triangle, each with its way: upright, rising, falling."""
    if (strip + middle) % 2:  # its upright stands on the left
        low, high, tip = (strip, middle - 1), (strip, middle + 1), (strip + 1, middle)
        yield "upright", (low, high)
        yield "rising", (low, tip)
        yield "falling", (high, tip)
    else:
        low, high, tip = (strip + 1, middle - 1), (strip + 1, middle + 1), (strip, middle)
        yield "upright", (low, high)
        yield "falling", (tip, low)
        yield "rising", (tip, high)


def _inner(side: Side) -> str:
    """Return the way of the line through the middle of a square, between its two triangles."""
    return {"top": "upright", "right": "falling", "left": "rising"}[side]


@dataclass(frozen=True)
class Bounds:
    """How many cubes a stack of some look has at least and at most."""

    least: int
    most: int


def bounds(stack: Plan) -> Bounds:
    """Return how many cubes stacks have that look the same as one that is turned to its corner.

    All of them are gone through: columns from the nearest, each as high as it can be without
    showing what the picture does not show, and no lower than to cover what only it can.
    """
    shown = seen(stack)
    order = _order(len(stack), len(stack[0]))
    last: dict[Triangle, int] = {}
    for number, (i, j) in enumerate(order):
        for triangle, _ in _covered(i, j, _MOST_HIDDEN):
            last[triangle] = number
    due: list[list[Triangle]] = [[] for _ in order]
    for triangle in shown:
        due[last[triangle]].append(triangle)

    @cache
    def rest(number: int, covered: frozenset[Triangle]) -> tuple[int, int] | None:
        if number == len(order):
            return 0, 0
        found: list[tuple[int, int]] = []
        for added, low, high in _ways(order[number], shown, covered):
            now = covered | added
            if not all(triangle in now for triangle in due[number]):
                continue
            behind = rest(number + 1, now)
            if behind is not None:
                found.append((low + behind[0], high + behind[1]))
        return (min(f[0] for f in found), max(f[1] for f in found)) if found else None

    told = rest(0, frozenset())
    assert told is not None  # the stack itself is one
    return Bounds(*told)


def _ways(
    cell: Cell, shown: dict[Triangle, Side], covered: frozenset[Triangle]
) -> Iterator[tuple[frozenset[Triangle], int, int]]:
    """Yield what a column can add to what is covered already, with its least and most height."""
    found: dict[frozenset[Triangle], list[int]] = {}
    for height in range(_MOST_HIDDEN + 1):
        new: set[Triangle] = set()
        is_right = True
        for triangle, side in _covered(*cell, height):
            if triangle in covered or triangle in new:
                continue
            is_right &= shown.get(triangle) == side
            new.add(triangle)
        if is_right:
            found.setdefault(frozenset(new), []).append(height)
    for added, heights in found.items():
        yield added, heights[0], heights[-1]


# --- views ----------------------------------------------------------------------------------


@dataclass(frozen=True)
class StackViews:
    """The visible lines of the three views of a stack, each from dot to dot of its own grid."""

    front: frozenset[Step]
    top: frozenset[Step]
    right: frozenset[Step]


@lru_cache(maxsize=20_000)
def views_of(plan: Plan) -> StackViews:
    """Return the views of a stack: lines where one sees from one plane to another one."""
    rows, columns = len(plan), len(plan[0])
    tall = max(map(max, plan))
    front = [[next((r for r in range(rows) if plan[r][c] > k), None) for k in range(tall)]
             for c in range(columns)]  # fmt: skip
    right = [[next((columns - 1 - c for c in range(columns - 1, -1, -1) if plan[r][c] > k), None)
              for k in range(tall)] for r in range(rows)]  # fmt: skip
    top = [[plan[r][c] or None for r in range(rows)] for c in range(columns)]
    return StackViews(_borders(front), _borders(top), _borders(right))


def _borders(cells: Sequence[Sequence[int | None]]) -> frozenset[Step]:
    """Return the lines between squares (by column and row) that lie at other depths."""
    columns, rows = len(cells), len(cells[0])

    def depth(column: int, row: int) -> int | None:
        inside = 0 <= column < columns and 0 <= row < rows
        return cells[column][row] if inside else None

    lines: list[tuple[Dot, Dot]] = []
    for column in range(columns + 1):
        for row in range(rows + 1):
            if depth(column, row) != depth(column - 1, row):
                lines.append(((column, row), (column, row + 1)))
            if depth(column, row) != depth(column, row - 1):
                lines.append(((column, row), (column + 1, row)))
    return all_steps(lines)


def same_views(plan: Plan, most: int = 2) -> list[Plan]:
    """Return stacks with the views of one, `most` of them at most.

    Row by row from the front: what a row can be by itself, which rows may stand behind each other,
    and last whether the whole has the same views.
    """
    wanted = views_of(plan)
    wide = tuple(map(max, zip(*plan, strict=True)))
    rows = [_rows_like(row, wide) for row in plan]
    found: list[Plan] = []

    def fill(standing: Plan) -> None:
        number = len(standing)
        if number == len(plan):
            if views_of(standing) == wanted:
                found.append(standing)
            return
        for row in rows[number]:
            if len(found) >= most:
                return
            pair = plan[number - 1 : number + 1]
            if number == 0 or _look_alike((standing[-1], row), pair):
                fill((*standing, row))

    fill(())
    return found


def _rows_like(row: tuple[int, ...], wide: tuple[int, ...]) -> list[tuple[int, ...]]:
    """Return the rows that look like one from above and from the right."""
    tops = [range(min(most, max(row)) + 1) for most in wide]
    return [one for one in product(*tops) if max(one) == max(row) and _look_alike((one,), (row,))]


def _look_alike(some: Plan, others: Plan) -> bool:
    """Say whether rows by themselves look like others from above and from the right."""
    one, other = views_of(some), views_of(others)
    return one.top == other.top and one.right == other.right
