"""Where the instruments lie on the paper for a move, as outlines in mm.

The T-square's head slides along the board's edge; set squares stand on its blade, or on a
straightedge laid for them. Where there is no room below the line the guide lies above it, and
the square hangs from it; where there is none beside it the square is turned over.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from holoptic.curves.paper import direction
from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.instruments import (
    BOTH_SQUARES,
    RULE,
    SLIDING,
    SQUARE_30,
    SQUARE_45,
    T_SQUARE,
)
from holoptic.plan.moves import Move
from holoptic.tolerance import ROUNDING, SHARE

_BLADE_MM = 16.0
_HEAD_MM = 42.0
_RULE_MM = 13.0
_SQUARE_MM = 92.0
"""Length of a set square's edge on the line."""
_BOARD_MM = 30.0
"""So far the board reaches beyond the sheet on every side."""
_CLEAR_MM = 6.0
"""The rounded tip of a set square must not blunt a corner: its guide lies so far off the line."""
_TICK_MM = 10.0


@dataclass(frozen=True)
class Board:
    """The board under the sheet, mm from the border's lower left corner, and whose hand works."""

    left: float = -50.0
    low: float = -40.0
    right: float = 420.0
    high: float = 300.0
    left_handed: bool = False

    @classmethod
    def about(cls, sheet: tuple[float, float, float, float], left_handed: bool = False) -> Board:
        """Return the board of a sheet (xmin, ymin, xmax, ymax)."""
        xmin, ymin, xmax, ymax = sheet
        return cls(xmin - _BOARD_MM, ymin - _BOARD_MM, xmax + _BOARD_MM, ymax + _BOARD_MM,
                   left_handed)  # fmt: skip


@dataclass(frozen=True)
class Shape:
    """An instrument's outline; `closed` ones are bodies, open ones are thin legs or ticks.

    `label` is written at the first point.
    """

    path: tuple[Vec2, ...]
    closed: bool = True
    label: str = ""


USUAL_BOARD = Board()


def instrument_shapes(
    move: Move, before: Drafter, after: Drafter, board: Board = USUAL_BOARD
) -> list[Shape]:
    """Return the outlines of the instruments that a move needs, lying where they must."""
    find = _FINDERS.get(move.verb)
    return find(move, before, after, board) if find else []


def _for_line(move: Move, before: Drafter, after: Drafter, board: Board) -> list[Shape]:
    span = after.drawn_span(move.makes[0])
    if move.instrument == T_SQUARE:
        return _t_square(before.points[move.uses[0]][1], board)
    if move.instrument == SLIDING:
        return _slid(span)
    if move.instrument in (SQUARE_30, SQUARE_45, BOTH_SQUARES):
        return _on_guide(move, span, board)
    return [_strip(*span)]


def _for_setting(move: Move, before: Drafter, after: Drafter, board: Board) -> list[Shape]:
    del board
    start, end = before.points[move.uses[0]], after.points[move.makes[0]]
    if move.instrument == RULE:
        return _rule(start, end)
    if move.verb == "swing":
        other = after.points[move.makes[1]]
        return [*_dividers(start, end), Shape((start, _raised(start, other), other), closed=False)]
    return _dividers(start, end)


def _for_check(move: Move, before: Drafter, after: Drafter, board: Board) -> list[Shape]:
    del after, board
    return _rule(before.points[move.uses[0]], before.points[move.uses[1]])


def _for_straightedge(move: Move, before: Drafter, after: Drafter, board: Board) -> list[Shape]:
    del before
    span = after.drawn_span(move.makes[0])
    if move.instrument == T_SQUARE:
        return _t_square(span[0][1], board)
    if move.instrument == SQUARE_30:  # held against a circle by its upright edge
        return _on_guide(replace(move, angle_deg=90.0), span, board)
    return [_strip(*span)]


def _for_compass(move: Move, before: Drafter, after: Drafter, board: Board) -> list[Shape]:
    """Return a compass standing on its needle, its lead where the arc begins, and the needle."""
    del board
    needle = before.points[move.uses[0]]
    lead = after.curve_paths[move.makes[0]][0]
    x, y = needle
    cross = Shape(((x - 1.6, y), (x, y + 1.6), (x + 1.6, y), (x, y - 1.6)))
    return [*_dividers(needle, lead), cross]


def _for_pencil(move: Move, before: Drafter, after: Drafter, board: Board) -> list[Shape]:
    del board
    if move.verb == "firm in":
        tip = before.points[move.uses[1]]
    elif move.makes[0] in after.points:
        tip = after.points[move.makes[0]]
    else:
        tip = after.curve_paths[move.makes[0]][0]
    return _pencil(tip)


_FINDERS: dict[str, Callable[[Move, Drafter, Drafter, Board], list[Shape]]] = {
    "draw": _for_line, "parallel": _for_line, "square": _for_line,
    "set off": _for_setting, "swing": _for_setting,
    "join": _for_straightedge, "touch": _for_straightedge, "check": _for_check,
    "circle": _for_compass, "arc": _for_compass, "same arc": _for_compass,
    "plot": _for_pencil, "trammel": _for_pencil, "curve": _for_pencil, "freehand": _for_pencil,
    "nearest": _for_pencil, "meet": _for_pencil, "firm in": _for_pencil,
}  # fmt: skip


# --- squares on their guide ---------------------------------------------------------------------


def _on_guide(move: Move, span: tuple[Vec2, Vec2], board: Board) -> list[Shape]:
    """Return T-square and set square, above or below the line, on the side that has room."""
    low, high = sorted(span, key=lambda point: point[1])
    below = low[1] - _CLEAR_MM
    hangs = below - _BLADE_MM < board.low
    guide = high[1] + _CLEAR_MM + _BLADE_MM if hangs else below
    edge = guide - _BLADE_MM if hangs else guide
    foot = _at_height(span, edge)
    up = -1.0 if hangs else 1.0
    reach = max(_SQUARE_MM, math.dist(*span) + 14.0)
    turn = (move.angle_deg or 0.0) % 180
    bodies = _bodies(move.instrument, foot, turn, up, reach, board)
    return [*_t_square(guide, board), *bodies]


def _bodies(
    instrument: str, foot: Vec2, turn: float, up: float, reach: float, board: Board
) -> list[Shape]:
    """Return the set square, or both, with one edge on the line through the foot."""
    way = math.cos(math.radians(turn)) * up, math.sin(math.radians(turn)) * up
    tip = foot[0] + reach * way[0], foot[1] + reach * way[1]
    if abs(turn - 90) < SHARE:
        side = _free_side(foot[0], reach / math.sqrt(3), board)
        return [Shape((foot, tip, (foot[0] + side * reach / math.sqrt(3), foot[1])))]
    if instrument != BOTH_SQUARES:
        return [Shape((foot, tip, (tip[0], foot[1])))]
    # one square carries the other: the lower one's long edge lies at 30° or 45°
    lean = min(turn, 180 - turn)
    first = 30.0 if lean > 45 else 45.0
    aside = 1.0 if way[0] > 0 else -1.0
    slope = math.cos(math.radians(first)) * aside, math.sin(math.radians(first)) * up
    under = foot[0] + reach * slope[0], foot[1] + reach * slope[1]
    return [Shape((foot, under, (under[0], foot[1]))), Shape((foot, tip, under))]


def _free_side(x: float, width: float, board: Board) -> float:
    """Return +1 for a square to the right of an upright, −1 for one to its left.

    A right hand draws along the left edge of the square, a left hand along its right one; it is
    turned over where the board ends.
    """
    usual = -1.0 if board.left_handed else 1.0
    ends = board.left if usual < 0 else board.right
    beyond = x + usual * width
    return -usual if (beyond - ends) * usual > 0 else usual


def _slid(span: tuple[Vec2, Vec2]) -> list[Shape]:
    """Return a set square with one leg on the line, sliding along a straightedge."""
    along = direction(*span)
    across = along[1], -along[0]
    reach = max(_SQUARE_MM, math.dist(*span) + 8.0)
    corner = span[0][0] - 4 * along[0], span[0][1] - 4 * along[1]
    tip = corner[0] + reach * along[0], corner[1] + reach * along[1]
    leg = reach / math.sqrt(3)
    heel = corner[0] + leg * across[0], corner[1] + leg * across[1]
    back = corner[0] - 24 * across[0], corner[1] - 24 * across[1]
    front = heel[0] + 24 * across[0], heel[1] + 24 * across[1]
    return [Shape((corner, tip, heel)), _strip(back, front)]


def _at_height(span: tuple[Vec2, Vec2], y: float) -> Vec2:
    (x1, y1), (x2, y2) = span
    if abs(y2 - y1) < ROUNDING:
        return x1, y
    return x1 + (x2 - x1) * (y - y1) / (y2 - y1), y


def _t_square(y: float, board: Board) -> list[Shape]:
    """Return a T-square whose blade's upper edge lies at a height, its head at the board's edge.

    The head is held by the hand that does not draw.
    """
    x, sign = (board.right, -1.0) if board.left_handed else (board.left, 1.0)
    end = board.left if board.left_handed else board.right
    blade = ((x, y), (end, y), (end, y - _BLADE_MM), (x, y - _BLADE_MM))
    middle = y - _BLADE_MM / 2
    head = (
        (x - sign * 14, middle + _HEAD_MM), (x, middle + _HEAD_MM),
        (x, middle - _HEAD_MM), (x - sign * 14, middle - _HEAD_MM),
    )  # fmt: skip
    return [Shape(blade), Shape(head)]


# --- other instruments --------------------------------------------------------------------------


def _rule(start: Vec2, end: Vec2) -> list[Shape]:
    """Return a rule along a distance, its zero at the start, with a tick each 10 mm."""
    size = math.dist(start, end)
    if size < ROUNDING:
        return []
    along = direction(start, end)
    across = along[1], -along[0]

    def tick(at: float, length: float, label: str = "") -> Shape:
        x, y = start[0] + at * along[0], start[1] + at * along[1]
        return Shape(((x + length * across[0], y + length * across[1]), (x, y)), False, label)

    count = int((size + 8) // _TICK_MM)
    ticks = [tick(k * _TICK_MM, 4.5 if k % 5 == 0 else 2.6) for k in range(1, count + 1)]
    return [_strip(start, end), tick(0.0, 6.0, "0"), *ticks]


def _strip(start: Vec2, end: Vec2) -> Shape:
    """Return a straightedge with its edge on a line, reaching a little over both ends."""
    along = direction(start, end)
    across = along[1], -along[0]
    a = start[0] - 8 * along[0], start[1] - 8 * along[1]
    b = end[0] + 8 * along[0], end[1] + 8 * along[1]
    return Shape((
        a, b,
        (b[0] + _RULE_MM * across[0], b[1] + _RULE_MM * across[1]),
        (a[0] + _RULE_MM * across[0], a[1] + _RULE_MM * across[1]),
    ))  # fmt: skip


def _raised(start: Vec2, end: Vec2) -> Vec2:
    """Return where the hinge of dividers on two points is seen, away from the line."""
    span = math.dist(start, end)
    along = direction(start, end)
    across = (-along[1], along[0]) if along[0] >= 0 else (along[1], -along[0])
    rise = min(max(34.0, 0.5 * span), 62.0)
    middle = (start[0] + end[0]) / 2, (start[1] + end[1]) / 2
    return middle[0] + rise * across[0], middle[1] + rise * across[1]


def _dividers(start: Vec2, end: Vec2) -> list[Shape]:
    """Return dividers standing on both points, hinge away from the line."""
    if math.dist(start, end) < ROUNDING:
        return []
    hinge = _raised(start, end)
    middle = (start[0] + end[0]) / 2, (start[1] + end[1]) / 2
    out = direction(middle, hinge)
    knob = hinge[0] + 9 * out[0], hinge[1] + 9 * out[1]
    return [Shape((start, hinge, end), closed=False), Shape((hinge, knob), closed=False)]


def _pencil(tip: Vec2) -> list[Shape]:
    """Return a pencil leaning to the right over its tip."""
    lean = math.cos(math.radians(58)), math.sin(math.radians(58))
    across = -lean[1], lean[0]

    def at(up: float, side: float) -> Vec2:
        return (
            tip[0] + up * lean[0] + side * across[0],
            tip[1] + up * lean[1] + side * across[1],
        )

    return [
        Shape((tip, at(7, 1.9), at(7, -1.9))),
        Shape((at(7, 1.9), at(46, 1.9), at(46, -1.9), at(7, -1.9))),
    ]
