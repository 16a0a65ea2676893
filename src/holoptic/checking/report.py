"""What a check has found: stroke by stroke, what is too much, and what caused it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from holoptic.catalogue import Saying
from holoptic.curves.vectors import Vec2

State = Literal["there", "missing", "shifted", "short", "long", "light"]


@dataclass(frozen=True)
class StrokeFound:
    """A planned stroke on the drawn sheet: its state, how far it is off (mm, the most along it;
    for one too short or too long by how much), how far it may be, and where it is found.

    `path` has the places along it as they were found, `meant` as they should be (mm from the lower
    left border corner). `move` is the number of the move that draws it.
    """

    id: str
    state: State
    off_mm: float
    allowed_mm: float
    move: int
    meant: tuple[Vec2, ...]
    path: tuple[Vec2, ...] = ()


@dataclass(frozen=True)
class Extra:
    """Ink that no stroke and no construction explains: its ends (mm from the border's corner)."""

    start: Vec2
    end: Vec2

    @property
    def length(self) -> float:
        """From end to end, mm."""
        (a, b), (c, d) = self.start, self.end
        return float(((c - a) ** 2 + (d - b) ** 2) ** 0.5)


@dataclass(frozen=True)
class Cause:
    """What may have caused the deviations: the move (its number), what of it was set, to what
    instead of what (mm; of an angle degrees), how likely it is, and the story.

    `group` tells causes of the same deviations apart from those of others: one slip each.
    """

    move: int
    what: str
    was_set: float
    should: float
    weight: float
    story: Saying
    group: int = 0


@dataclass(frozen=True)
class Deciding:
    """The one distance that decides between two causes: from where to where, and what it measures
    after either (mm).
    """

    start: str
    end: str
    moves: tuple[int, int]
    readings: tuple[float, float]


@dataclass(frozen=True)
class Redraw:
    """What puts a sheet right: strokes to rub out, and the numbers of the moves to do again."""

    rub_out: tuple[str, ...]
    moves: tuple[int, ...]


@dataclass(frozen=True)
class CheckReport:
    """All of it; `share` is how much of the planned lines was found where it should be, `until` the
    number of the last move that is done on a sheet that is not finished.
    """

    figure: str
    strokes: tuple[StrokeFound, ...]
    extra: tuple[Extra, ...]
    causes: tuple[Cause, ...]
    deciding: Deciding | None = None
    redraw: Redraw | None = None
    until: int | None = None
    hands: tuple[float, ...] | None = None
    """How likely what was measured is for hands of all spreads (`own_hand`)."""

    @property
    def agrees(self) -> bool:
        """Whether the sheet agrees with its plan within tolerance."""
        return not self.extra and all(stroke.state == "there" for stroke in self.strokes)

    @property
    def worst_first(self) -> tuple[StrokeFound, ...]:
        """The strokes that are not as they should be, what is furthest off first."""
        wrong = [stroke for stroke in self.strokes if stroke.state != "there"]
        return tuple(sorted(wrong, key=lambda one: (one.state != "missing", -abs(one.off_mm))))
