"""Whether a plan is no longer than a careful hand needs, and middles are found by diagonals."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.moves import Move

_CLEARLY_DEG = 15.0
_RULED = ("draw", "parallel", "square", "join")
_BLOCK_MOVES = 25
"""A plain block: two settings to the start point, three axes, three sizes, six parallels, the check
that it closes, nine firm lines, and one to spare for an angle that no square has."""


def judge_length(sitting: Sitting) -> Iterator[Remark]:
    """Yield moves that the one before could have done, checks in a row, blocks drawn at length."""
    moves = sitting.plan.moves
    for before, move in pairwise(moves):
        if move.verb == "meet" and _draws_one(sitting, before, move):
            yield Remark("length", move.n, tr("the move before draws one of the lines: it could "
                                              "mark this too"))  # fmt: skip
    if sitting.picture is not None and sitting.features == ():
        count = sum(move.phase != "sheet" for move in moves)
        firm = sum(move.verb == "firm in" for move in moves if move.phase != "sheet")
        if firm == 9 and count > _BLOCK_MOVES:
            yield Remark("length", 0, tr("{count} moves for a plain block", count=count))


def _draws_one(sitting: Sitting, before: Move, move: Move) -> bool:
    lines = move.uses[:2]
    straight = all(line in sitting.paper.lines for line in lines)
    return straight and before.verb in _RULED and before.makes[0] in lines


def judge_centres(sitting: Sitting) -> Iterator[Remark]:
    """Yield middles of rectangles that were measured though their corners stood.

    A middle is measured where one of the lines through it stands already, or leads through a
    letter that does: that is cheaper than two diagonals; and where the diagonals would hardly
    cross.
    """
    if sitting.picture is None:
        return
    for move in (move for move in sitting.plan.moves if not move.phase.startswith("figure")):
        for name in (name for name in move.makes if name in sitting.letters):
            lines = move.uses[:2] if move.verb == "meet" else (move.makes[0], move.uses[-1])
            if all(_is_set_off_for(sitting, line, move) for line in lines):
                spots = _standing(sitting, move, lines)
                if any(_has_corners(sitting, name, spots, normal) for normal in range(3)):
                    yield Remark("centres", move.n, tr("{name} is the middle of a face whose "
                                                       "corners stand: its diagonals give it",
                                                       name=name))  # fmt: skip


def _is_set_off_for(sitting: Sitting, line: str, move: Move) -> bool:
    """Say whether a line goes through a letter that was measured for nothing but this line."""
    return _set_off_for(sitting, line, move) is not None


def _set_off_for(sitting: Sitting, line: str, move: Move) -> int | None:
    """Return the index of the move that set a distance off for nothing but a line; it may have
    been led to the line by another. None where there is none.
    """
    if line not in sitting.paper.lines:
        return None
    drawn = sitting.plan.moves[sitting.made_at[line]]
    if drawn.verb not in ("draw", "parallel") or drawn.uses[0] not in sitting.letters:
        return None
    start = drawn.uses[0]
    made = sitting.plan.moves[sitting.made_at[start]]
    others = (other for other in sitting.plan.moves[: move.n - 1] if other is not drawn)
    if any(start in other.uses for other in others) or made.phase == "crate":
        return None
    if made.verb == "set off":
        return sitting.made_at[start]
    leads = made.verb == "parallel" and start in made.makes[1:]
    return _set_off_for(sitting, made.makes[0], made) if leads else None


def _standing(sitting: Sitting, move: Move, lines: tuple[str, ...]) -> set[Vec3]:
    """Return the spots that had letters before anything was set off for the lines of a move."""
    first = min(_set_off_for(sitting, line, move) or 0 for line in lines)
    return {spot for name, spot in sitting.plan.spots.items()
            if sitting.made_at.get(name, first) < first}  # fmt: skip


def _has_corners(sitting: Sitting, name: str, spots: set[Vec3], normal: int) -> bool:
    """Say whether a spot is the middle of four others, a rectangle with its sides along axes."""
    middle = sitting.plan.spots[name]
    a, b = (axis for axis in range(3) if axis != normal)
    for corner in spots:
        half = [abs(corner[axis] - middle[axis]) for axis in (a, b)]
        if corner[normal] != middle[normal] or not all(half):
            continue
        others = (
            _moved(middle, {a: i * half[0], b: j * half[1]}) for i in (-1, 1) for j in (-1, 1)
        )
        if all(other in spots for other in others) and _cross_clearly(sitting, half, (a, b)):
            return True
    return False


def _moved(spot: Vec3, by: dict[int, float]) -> Vec3:
    x, y, z = (round(value + by.get(axis, 0.0), 6) + 0.0 for axis, value in enumerate(spot))
    return x, y, z


def _cross_clearly(sitting: Sitting, half: list[float], axes: tuple[int, int]) -> bool:
    """Say whether the diagonals of a rectangle, given by half its sides, cross at more than
    15 degrees on paper.
    """
    sides = []
    for size, axis in zip(half, axes, strict=True):
        turn = math.radians((sitting.axis_angles or (0.0, 0.0, 0.0))[axis])
        reach = size * sitting.axis_scale(axis)
        sides.append((reach * math.cos(turn), reach * math.sin(turn)))
    (x, y), (u, v) = sides
    turns = [math.degrees(math.atan2(y + sign * v, x + sign * u)) for sign in (1, -1)]
    return abs((turns[0] - turns[1] + 90) % 180 - 90) > _CLEARLY_DEG
