"""A drawing of the sheet while a hand moves it: it snaps to others, or to whole millimetres."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from holoptic.curves.vectors import Vec2
from holoptic.sheet.frames import Box
from holoptic.sheet.planning import PlacedFigure

_LEAST_MM = 1.0
"""A drawing that moves less was only clicked."""


@dataclass
class DraggedDrawing:
    """A drawing in hand: its frame as it stood, where it was taken hold of, and the others' frames.

    `uprights` and `levels` are the lines on which it is aligned with another one, mm.
    """

    figure: str
    start: Box
    grip: Vec2
    others: tuple[Box, ...]
    corner: Vec2 = (0.0, 0.0)
    uprights: list[float] = field(default_factory=list)
    levels: list[float] = field(default_factory=list)
    is_moved: bool = False

    @property
    def box(self) -> Box:
        """Its frame as it would stand now."""
        left, low, right, high = self.start
        x, y = self.corner
        return x, y, x + right - left, y + high - low

    def pull(self, place: Vec2, reach: float) -> None:
        """Move it with the pointer; lines of others that are within reach (mm) draw it on."""
        off = place[0] - self.grip[0], place[1] - self.grip[1]
        if not self.is_moved and max(abs(off[0]), abs(off[1])) < _LEAST_MM:
            return
        self.is_moved = True
        x, self.uprights = self._snapped(0, self.start[0] + off[0], reach)
        y, self.levels = self._snapped(1, self.start[1] + off[1], reach)
        self.corner = x, y

    def _snapped(self, index: int, at: float, reach: float) -> tuple[float, list[float]]:
        """Return where its lower edge comes to lie, and the lines on which it is aligned then."""
        size = self.start[index + 2] - self.start[index]
        best: tuple[float, float, float] | None = None
        for other in self.others:
            low, high = other[index], other[index + 2]
            edges = [(own, line) for own in (0.0, size) for line in (low, high)]
            for own, line in (*edges, (size / 2, (low + high) / 2)):
                away = abs(at + own - line)
                if away <= reach and (best is None or away < best[0]):
                    best = away, line - own, line
        if best is None:
            return float(round(at)), []
        return best[1], [best[2]]


def drawing_at(figures: Sequence[PlacedFigure], place: Vec2) -> DraggedDrawing | None:
    """Return the smallest drawing whose frame holds a place of the page, or None."""
    x, y = place
    under = [f for f in figures if f.extent[0] <= x <= f.extent[2]
             and f.extent[1] <= y <= f.extent[3]]  # fmt: skip
    if not under:
        return None
    taken = min(under, key=lambda f: (f.extent[2] - f.extent[0]) * (f.extent[3] - f.extent[1]))
    others = tuple(f.extent for f in figures if f is not taken)
    return DraggedDrawing(taken.figure, taken.extent, place, others, taken.extent[:2])
