"""Moves of the hand, as data."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import count
from typing import Literal

from holoptic.curves.vectors import Vec2, Vec3

Verb = Literal["set off", "draw", "parallel", "meet", "join", "firm in", "check", "pending"]

BORDER_CORNER = "lower left border corner"
BORDER_LINE = "lower border"
"""What is on the paper before the first move."""

BORDER_MARK = "border mark"
"""The first point made: where the start point's upright stands on the lower border."""

UNLETTERED = frozenset({BORDER_CORNER, BORDER_MARK})
"""Points that bear no letter on the paper."""


@dataclass(frozen=True)
class Setup:
    """How the picture stands on its sheet.

    `start` is the place of the start point in mm from the lower left border corner; `scale` is
    paper over true size (0.5 for half size).
    """

    start: Vec2
    scale: float = 1.0

    def on_sheet(self, path: Iterable[Vec2], start_on_picture: Vec2) -> tuple[Vec2, ...]:
        """Return picture points (mm at 1:1) where they lie on the sheet (mm from the border)."""
        return tuple(
            (
                self.start[0] + self.scale * (x - start_on_picture[0]),
                self.start[1] + self.scale * (y - start_on_picture[1]),
            )
            for x, y in path
        )


@dataclass(frozen=True)
class Lift:
    """Where a distance is lifted: a view, the two ends as points of the part, and the sum."""

    view: str
    start: Vec3
    end: Vec3
    true_mm: float
    words: str


@dataclass(frozen=True)
class Move:
    """One move.

    set off: from the point uses[0] along the line uses[1] in direction `angle_deg`, the
        distance `setting_mm` on paper; makes a point.
    draw: a line through the point uses[0] at `angle_deg`; makes the line, then the points where
        it meets the lines uses[1:].
    parallel: a line through the point uses[0] parallel to the line uses[1]; makes the line, then
        the points where it meets the lines uses[2:].
    meet: makes the point where the lines uses[0] and uses[1] cross.
    join: the straight line through the points uses[0] and uses[1]; makes the line.
    firm in: goes over the line uses[2] from the point uses[0] to uses[1]; makes a stroke.
    check: the rule must read `setting_mm` between the points uses[0] and uses[1].
    pending: a stroke that this plan cannot construct yet; makes the stroke.
    """

    n: int
    phase: str
    verb: Verb
    instrument: str
    uses: tuple[str, ...]
    makes: tuple[str, ...]
    text: str
    setting_mm: float | None = None
    angle_deg: float | None = None
    lift: Lift | None = None


@dataclass(frozen=True)
class Plan:
    """The moves in order and where each named point lies on the part."""

    setup: Setup
    moves: tuple[Move, ...]
    spots: dict[str, Vec3]

    @property
    def phases(self) -> list[tuple[str, int, int]]:
        """(name, first move, one past the last) of each phase, as indices into `moves`."""
        bands: list[tuple[str, int, int]] = []
        for index, move in enumerate(self.moves):
            if bands and bands[-1][0] == move.phase:
                bands[-1] = (move.phase, bands[-1][1], index + 1)
            else:
                bands.append((move.phase, index, index + 1))
        return bands

    @property
    def pending(self) -> list[Move]:
        """The strokes that the plan cannot construct yet."""
        return [move for move in self.moves if move.verb == "pending"]


def point_names() -> Iterator[str]:
    """Yield names for points: A to Z without I and O, then A1 to Z1 and so on."""
    letters = "ABCDEFGHJKLMNPQRSTUVWXYZ"
    yield from letters
    for turn in count(1):
        yield from (f"{letter}{turn}" for letter in letters)
