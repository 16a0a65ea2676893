"""Where the instruments lie on the paper for a move, as outlines in mm."""

from __future__ import annotations

import math
from dataclasses import dataclass

from holoptic.curves.paper import direction
from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.instruments import RULE, SQUARE_30, SQUARE_45, T_SQUARE
from holoptic.plan.moves import Move

_BLADE_MM = 16.0
_HEAD_MM = 42.0
_RULE_MM = 13.0
_SQUARE_MM = 92.0
"""Length of a set square's edge on the line."""


@dataclass(frozen=True)
class Shape:
    """An instrument's outline; `closed` ones are bodies, open ones are thin legs or ticks."""

    path: tuple[Vec2, ...]
    closed: bool = True


def instrument_shapes(move: Move, before: Drafter, after: Drafter) -> list[Shape]:
    """Return the outlines of the instruments that a move needs, lying where they must."""
    if move.verb in ("draw", "parallel", "square"):
        origin = before.points[move.uses[0]]
        return _square_shapes(move, origin, after.drawn_span(move.makes[0]))
    if move.verb == "set off" and move.instrument == RULE:
        return [_strip(before.points[move.uses[0]], after.points[move.makes[0]])]
    if move.verb in _COMPASS_MOVES:
        return _compass_shapes(move, before, after)
    if move.verb in ("plot", "trammel", "curve", "freehand", "nearest"):
        return _pencil_shapes(after.points[move.makes[0]] if move.verb in ("plot", "nearest")
                              else after.curve_paths[move.makes[0]][0])  # fmt: skip
    if move.verb == "touch":
        return [_strip(*after.drawn_span(move.makes[0]))]
    if move.verb == "set off":
        return _divider_shapes(before.points[move.uses[0]], after.points[move.makes[0]])
    if move.verb == "join":
        return [_strip(*after.drawn_span(move.makes[0]))]
    if move.verb == "check":
        return [_strip(before.points[move.uses[0]], before.points[move.uses[1]])]
    if move.verb == "firm in":
        return _pencil_shapes(before.points[move.uses[1]])
    return []


_COMPASS_MOVES = ("circle", "arc", "same arc")


def _compass_shapes(move: Move, before: Drafter, after: Drafter) -> list[Shape]:
    """Return a compass standing on its needle, its lead where the arc begins, and the needle."""
    needle = before.points[move.uses[0]]
    lead = after.curve_paths[move.makes[0]][0]
    legs = _divider_shapes(needle, lead)
    x, y = needle
    return [*legs, Shape(((x - 1.6, y), (x, y + 1.6), (x + 1.6, y), (x, y - 1.6)))]


def _square_shapes(move: Move, origin: Vec2, span: tuple[Vec2, Vec2]) -> list[Shape]:
    if move.instrument == T_SQUARE:
        return _t_square(origin[1])
    if move.instrument not in (SQUARE_30, SQUARE_45):
        return [_strip(*span)]
    low = min(span, key=lambda point: point[1])
    guide = low[1] - 6.0  # the rounded tip must not blunt the corner: the guide lies lower
    foot = _at_height(span, guide)
    return [*_t_square(guide), Shape(_triangle(foot, (move.angle_deg or 0.0) % 180, span))]


def _triangle(foot: Vec2, angle: float, span: tuple[Vec2, Vec2]) -> tuple[Vec2, ...]:
    """Return a set square standing on its guide with one edge on the line.

    An upright line runs along a leg, a slanted one along the long side.
    """
    reach = max(_SQUARE_MM, math.dist(*span) + 14.0)
    if abs(angle - 90) < 1e-6:
        return foot, (foot[0], foot[1] + reach), (foot[0] - reach / math.sqrt(3), foot[1])
    rad = math.radians(angle)
    top = foot[0] + reach * math.cos(rad), foot[1] + reach * math.sin(rad)
    return foot, top, (top[0], foot[1])


def _at_height(span: tuple[Vec2, Vec2], y: float) -> Vec2:
    (x1, y1), (x2, y2) = span
    if abs(y2 - y1) < 1e-9:
        return x1, y
    return x1 + (x2 - x1) * (y - y1) / (y2 - y1), y


def _t_square(y: float) -> list[Shape]:
    """Return a T-square whose blade's upper edge lies at a height, its head left of the sheet."""
    left, right = -14.0, 420.0
    blade = ((left, y), (right, y), (right, y - _BLADE_MM), (left, y - _BLADE_MM))
    middle = y - _BLADE_MM / 2
    head = (
        (left - 14, middle + _HEAD_MM), (left, middle + _HEAD_MM),
        (left, middle - _HEAD_MM), (left - 14, middle - _HEAD_MM),
    )  # fmt: skip
    return [Shape(blade), Shape(head)]


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


def _divider_shapes(start: Vec2, end: Vec2) -> list[Shape]:
    """Return dividers standing on both points, hinge away from the line."""
    span = math.dist(start, end)
    if span < 1e-9:
        return []
    along = direction(start, end)
    across = (-along[1], along[0]) if along[0] >= 0 else (along[1], -along[0])
    rise = min(max(34.0, 0.5 * span), 62.0)
    middle = (start[0] + end[0]) / 2, (start[1] + end[1]) / 2
    hinge = middle[0] + rise * across[0], middle[1] + rise * across[1]
    knob = hinge[0] + 9 * across[0], hinge[1] + 9 * across[1]
    return [Shape((start, hinge, end), closed=False), Shape((hinge, knob), closed=False)]


def _pencil_shapes(tip: Vec2) -> list[Shape]:
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
