"""An outline that was read: straight sides and arcs, closed."""

from __future__ import annotations

import math
from dataclasses import dataclass

from holoptic.curves.vectors import Vec2


@dataclass(frozen=True)
class Side:
    """A side of an outline from one corner to the next; an arc has a centre and turns one way."""

    start: Vec2
    end: Vec2
    centre: Vec2 | None = None
    radius: float = 0.0
    left: bool = True

    @property
    def turn(self) -> float:
        """How far an arc turns, radians (0 to 2π)."""
        if self.centre is None:
            return 0.0
        first, last = (
            math.atan2(y - self.centre[1], x - self.centre[0]) for x, y in (self.start, self.end)
        )
        turn = (last - first if self.left else first - last) % math.tau
        return turn or math.tau


@dataclass(frozen=True)
class Outline:
    """A closed outline, counter-clockwise."""

    sides: tuple[Side, ...]

    @property
    def circle(self) -> tuple[Vec2, float] | None:
        """Centre and radius, if it is a circle."""
        if len(self.sides) == 1 and self.sides[0].centre is not None:
            return self.sides[0].centre, self.sides[0].radius
        return None
