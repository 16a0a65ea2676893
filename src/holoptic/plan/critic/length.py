"""Whether a plan is no longer than a careful hand needs, and middles are found by diagonals."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import combinations, pairwise

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.moves import Move
from holoptic.tolerance import SEEN_MM

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
    """Yield middles of faces that were measured though their corners stood.

    A middle is measured where one of the lines through it stands already, or leads through a
    letter that does: that is cheaper than two diagonals.
    """
    crate = [move for move in sitting.plan.moves if move.phase == "crate"]
    corners = [name for move in crate for name in move.makes if name in sitting.letters]
    middles = list(_middles(sitting, corners))
    if sitting.picture is None or not middles:
        return
    for move in (move for move in sitting.plan.moves if not move.phase.startswith("figure")):
        for name in (name for name in move.makes if name in sitting.letters):
            place = sitting.paper.points[name]
            if any(math.dist(place, middle) < SEEN_MM for middle in middles):
                lines = move.uses[:2] if move.verb == "meet" else (move.makes[0], move.uses[-1])
                if all(_is_set_off_for(sitting, line, move) for line in lines):
                    yield Remark("centres", move.n, tr("{name} is the middle of a face whose "
                                                       "corners stand: its diagonals give it",
                                                       name=name))  # fmt: skip


def _is_set_off_for(sitting: Sitting, line: str, move: Move) -> bool:
    """Say whether a line goes through a letter that was measured for nothing but this line."""
    if line not in sitting.paper.lines:
        return False
    drawn = sitting.plan.moves[sitting.made_at[line]]
    if drawn.verb not in ("draw", "parallel") or drawn.uses[0] not in sitting.letters:
        return False
    start = drawn.uses[0]
    made = sitting.plan.moves[sitting.made_at[start]]
    others = (other for other in sitting.plan.moves[: move.n - 1] if other is not drawn)
    is_used = any(start in other.uses for other in others)
    return made.verb == "set off" and made.phase != "crate" and not is_used


def _middles(sitting: Sitting, corners: list[str]) -> Iterator[Vec2]:
    """Yield the middles of the crate's faces: where two pairs of its corners have one middle, and
    the sides between them run along two axes.
    """
    places = [sitting.paper.points[name] for name in corners]
    found: dict[Vec2, list[tuple[Vec2, Vec2]]] = {}
    for one, other in combinations(places, 2):
        middle = round((one[0] + other[0]) / 2, 3), round((one[1] + other[1]) / 2, 3)
        found.setdefault(middle, []).append((one, other))
    angles = sitting.axis_angles or ()
    for middle, pairs in found.items():
        for (a, b), (c, _) in combinations(pairs, 2):
            if {_axis(a, c, angles), _axis(b, c, angles)} <= {0, 1, 2}:
                yield middle


def _axis(one: Vec2, other: Vec2, angles: tuple[float, ...]) -> int | None:
    """Return the axis along which two places lie, None where it is none."""
    way = math.degrees(math.atan2(other[1] - one[1], other[0] - one[0]))
    return next((k for k, angle in enumerate(angles)
                 if abs((way - angle + 90) % 180 - 90) < 0.01), None)  # fmt: skip
