"""The virtual drafter: knows nothing of the part, only its instruments and the moves.

It keeps what a sheet of paper would show: points, light lines, firm strokes. A move that uses
what is not yet on the paper is refused.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Iterable

from holoptic.curves.paper import crossing, direction, offset_from_line, position_on_line
from holoptic.curves.vectors import Vec2
from holoptic.errors import HolopticError
from holoptic.plan.instruments import can_draw
from holoptic.plan.moves import BORDER_CORNER, BORDER_LINE, Move
from holoptic.tolerance import PROVED_MM

Line = tuple[Vec2, Vec2]
"""A point and a unit direction."""


class DraftingError(HolopticError):
    """A move that cannot be carried out with what is on the paper."""

    def __init__(self, move: Move, reason: str) -> None:
        super().__init__(f"move {move.n} ({move.verb}): {reason}")
        self.move = move
        self.reason = reason

    def __reduce__(self) -> tuple[type, tuple[Move, str]]:
        return type(self), (self.move, self.reason)


class Drafter:
    """A sheet of paper and a pair of hands; distances in mm from the lower left border corner."""

    def __init__(self) -> None:
        self.points: dict[str, Vec2] = {BORDER_CORNER: (0.0, 0.0)}
        self.lines: dict[str, Line] = {BORDER_LINE: ((0.0, 0.0), (1.0, 0.0))}
        self.strokes: dict[str, tuple[str, str]] = {}
        self.readings: list[tuple[Move, float]] = []
        self._on_line: dict[str, list[str]] = defaultdict(list)
        self._actions: dict[str, Callable[[Move], None]] = {
            "set off": self._set_off,
            "draw": self._draw,
            "parallel": self._parallel,
            "meet": self._meet,
            "join": self._join,
            "firm in": self._firm_in,
            "check": self._check,
            "pending": lambda _: None,
        }

    def carry_out(self, moves: Iterable[Move]) -> Drafter:
        """Do the moves in order. Raises DraftingError for one that cannot be done."""
        for move in moves:
            self._actions[move.verb](move)
        return self

    def stroke_ends(self, name: str) -> tuple[Vec2, Vec2]:
        """Return the two ends of a firm stroke."""
        start, end = self.strokes[name]
        return self.points[start], self.points[end]

    def drawn_span(self, line: str, overrun: float = 4.0) -> tuple[Vec2, Vec2]:
        """Return the piece of a light line that its points need, with an overrun in mm."""
        origin, along = self.lines[line]
        places = [position_on_line(self.points[p], origin, along) for p in self._on_line[line]]
        low, high = min(places, default=0.0) - overrun, max(places, default=0.0) + overrun
        return (
            (origin[0] + low * along[0], origin[1] + low * along[1]),
            (origin[0] + high * along[0], origin[1] + high * along[1]),
        )

    def _point(self, move: Move, index: int) -> Vec2:
        name = move.uses[index]
        if name not in self.points:
            raise DraftingError(move, f"point {name} is not on the paper yet")
        return self.points[name]

    def _line(self, move: Move, index: int) -> Line:
        name = move.uses[index]
        if name not in self.lines:
            raise DraftingError(move, f"line {name} is not on the paper yet")
        return self.lines[name]

    def _new_point(self, name: str, place: Vec2, *lines: str) -> None:
        self.points[name] = place
        for line in lines:
            self._on_line[line].append(name)

    def _new_line(self, move: Move, through: Vec2, along: Vec2, meets_from: int) -> None:
        name, *point_names = move.makes
        self.lines[name] = through, along
        self._on_line[name].append(move.uses[0])
        for index, point in enumerate(point_names, meets_from):
            self._new_point(point, self._crossing(move, (through, along), index), name,
                            move.uses[index])  # fmt: skip

    def _crossing(self, move: Move, line: Line, index: int) -> Vec2:
        place = crossing(*line, *self._line(move, index))
        if place is None:
            raise DraftingError(move, "these lines do not cross")
        return place

    def _set_off(self, move: Move) -> None:
        start, (origin, along) = self._point(move, 0), self._line(move, 1)
        if abs(offset_from_line(start, origin, along)) > PROVED_MM:
            raise DraftingError(move, f"{move.uses[0]} does not lie on {move.uses[1]}")
        way = _way(move)
        if abs(along[0] * way[1] - along[1] * way[0]) > 1e-6:
            raise DraftingError(move, "the setting is not along its line")
        if move.setting_mm is None:
            raise DraftingError(move, "no setting is given")
        end = start[0] + move.setting_mm * way[0], start[1] + move.setting_mm * way[1]
        self._on_line[move.uses[1]].append(move.uses[0])
        self._new_point(move.makes[0], end, move.uses[1])

    def _draw(self, move: Move) -> None:
        way = _way(move)
        if not can_draw(move.instrument, move.angle_deg or 0.0):
            raise DraftingError(move, f"the {move.instrument} has no such angle")
        self._new_line(move, self._point(move, 0), way, meets_from=1)

    def _parallel(self, move: Move) -> None:
        _, along = self._line(move, 1)
        self._new_line(move, self._point(move, 0), along, meets_from=2)

    def _meet(self, move: Move) -> None:
        place = self._crossing(move, self._line(move, 0), 1)
        self._new_point(move.makes[0], place, *move.uses)

    def _join(self, move: Move) -> None:
        start, end = self._point(move, 0), self._point(move, 1)
        if math.dist(start, end) < PROVED_MM:
            raise DraftingError(move, "the two points fall on one place")
        self.lines[move.makes[0]] = start, direction(start, end)
        self._on_line[move.makes[0]] += move.uses

    def _firm_in(self, move: Move) -> None:
        origin, along = self._line(move, 2)
        for index in (0, 1):
            if abs(offset_from_line(self._point(move, index), origin, along)) > PROVED_MM:
                raise DraftingError(move, f"{move.uses[index]} does not lie on {move.uses[2]}")
        self._on_line[move.uses[2]] += move.uses[:2]
        self.strokes[move.makes[0]] = move.uses[0], move.uses[1]

    def _check(self, move: Move) -> None:
        self.readings.append((move, math.dist(self._point(move, 0), self._point(move, 1))))


def _way(move: Move) -> Vec2:
    if move.angle_deg is None:
        raise DraftingError(move, "no angle is given")
    angle = math.radians(move.angle_deg)
    return math.cos(angle), math.sin(angle)
