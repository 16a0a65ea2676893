"""Levels of the part: those of all views along an axis, told to be the same by their order.

Two views of one part show its levels in the same order, however far apart a free hand put them;
so they are laid beside each other as two rows are (dynamic programming, Needleman and Wunsch
1970), outer sides to outer sides.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

_MOST_OFF_MM = 5.0
_ALONE_MM = 2.4
"""What a level costs that one view has alone; two that lie farther apart than twice that are two.
"""


@dataclass(frozen=True)
class Common:
    """The levels along one axis (mm of paper from the part's low side, ascending), and for each
    view that shows the axis the number of each of its levels.
    """

    at: tuple[float, ...]
    numbers: tuple[tuple[int, ...], ...]


def common_levels(rows: Sequence[Sequence[float]]) -> Common:
    """Return the levels of rows (ascending, mm of paper), each with its low side first."""
    rows = [[at - row[0] for at in row] for row in rows if row]
    if not rows:
        return Common((0.0,), ())
    span = float(np.mean([row[-1] for row in rows])) or 1.0
    rows = [[at * span / row[-1] if row[-1] > 0 else at for at in row] for row in rows]
    order = sorted(range(len(rows)), key=lambda k: -len(rows[k]))
    members: list[list[tuple[int, int]]] = [[(order[0], n)] for n in range(len(rows[order[0]]))]
    for k in order[1:]:
        members = _merged(members, rows, k)
    numbers = [[0] * len(row) for row in rows]
    for number, own in enumerate(members):
        for k, n in own:
            numbers[k][n] = number
    at = tuple(float(np.mean([rows[k][n] for k, n in own])) for own in members)
    return Common(tuple(np.maximum.accumulate(at).tolist()), tuple(map(tuple, numbers)))


def _merged(
    members: list[list[tuple[int, int]]], rows: Sequence[Sequence[float]], k: int
) -> list[list[tuple[int, int]]]:
    """Return levels with those of another row among them."""
    at = [float(np.mean([rows[j][n] for j, n in own])) for own in members]
    found: list[list[tuple[int, int]]] = []
    for mine, its in _pairs(at, rows[k]):
        own = list(members[mine]) if mine is not None else []
        found.append([*own, (k, its)] if its is not None else own)
    return found


def _pairs(some: Sequence[float], others: Sequence[float]) -> list[tuple[int | None, int | None]]:
    """Return which of two rows are the same, in order; the first and the last always are."""
    n, m = len(some), len(others)
    cost = np.full((n + 1, m + 1), np.inf)
    came = np.zeros((n + 1, m + 1), int)
    cost[0, 0] = 0.0
    for i in range(n + 1):
        for j in range(m + 1):
            for step, (di, dj) in enumerate(((1, 1), (1, 0), (0, 1))):
                if i < di or j < dj:
                    continue
                price = _ALONE_MM
                if step == 0:
                    off = abs(some[i - 1] - others[j - 1])
                    is_outer = (i == 1) == (j == 1) and (i == n) == (j == m)
                    price = off if is_outer and off < _MOST_OFF_MM else np.inf
                elif i - di in (0, n - 1) and j - dj in (0, m - 1) and min(n, m) > 1:
                    price = 10 * _ALONE_MM  # outer sides go together
                if cost[i - di, j - dj] + price < cost[i, j]:
                    cost[i, j], came[i, j] = cost[i - di, j - dj] + price, step
    found: list[tuple[int | None, int | None]] = []
    i, j = n, m
    while i or j:
        step = int(came[i, j])
        found.append((i - 1 if step < 2 else None, j - 1 if step != 1 else None))
        i, j = i - (step < 2), j - (step != 1)
    return found[::-1]
