"""An exercise as a value: what is shown, what is asked, what is right, and why.

Figures are drawn in mm of paper, X right, Y up; where lines are asked for, they run from dot to dot
of a grid, and are told by the dots' numbers (column, row).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Literal

from holoptic.curves.vectors import Vec2
from holoptic.errors import HolopticError
from holoptic.part import Part
from holoptic.sheet.drawing import Ink, Region, Words

Dot = tuple[int, int]
Step = tuple[Dot, Dot]
"""The shortest line between two dots of a grid on its way, the lesser dot first."""
LEVELS = 5


class NotMade(HolopticError):
    """From a seed no exercise came that has one right answer; another seed may."""


@dataclass(frozen=True)
class Grid:
    """The dots that a figure is drawn on: where dot (0, 0) lies, and one step right and up, mm.

    An isometric grid has dots at whole multiples of half a step up; see `at`.
    """

    kind: Literal["square", "isometric"]
    origin: Vec2
    pitch: float
    columns: int
    rows: int

    def at(self, dot: Dot) -> Vec2:
        """Return where a dot lies, mm."""
        across, up = (1.0, 1.0) if self.kind == "square" else (0.75**0.5, 0.5)
        return (self.origin[0] + dot[0] * across * self.pitch,
                self.origin[1] + dot[1] * up * self.pitch)  # fmt: skip

    def dots(self) -> list[Dot]:
        """Return all dots; of an isometric grid those of equal parity alone."""
        return [(column, row) for column in range(self.columns + 1) for row in range(self.rows + 1)
                if self.kind == "square" or (column + row) % 2 == 0]  # fmt: skip


@dataclass(frozen=True)
class Figure:
    """A drawing of an exercise, with a caption under it."""

    inks: tuple[Ink, ...]
    words: tuple[Words, ...] = ()
    regions: tuple[Region, ...] = ()
    dots: tuple[Vec2, ...] = ()
    caption: str = ""

    @property
    def box(self) -> tuple[float, float, float, float]:
        """What it takes up: (xmin, ymin, xmax, ymax), mm."""
        places = [p for ink in self.inks for p in ink.path]
        places += [p for region in self.regions for outline in region.outlines for p in outline]
        places += [*self.dots, *(words.at for words in self.words)]
        xs, ys = [p[0] for p in places], [p[1] for p in places]
        return min(xs), min(ys), max(xs), max(ys)


@dataclass(frozen=True)
class Count:
    """How many: at least and at most; equal where it is certain."""

    least: int
    most: int


@dataclass(frozen=True)
class Amount:
    """A length or an angle, right within a tolerance."""

    value: float
    within: float
    unit: Literal["mm", "°"]


@dataclass(frozen=True)
class Choice:
    """One of several, each called by a letter: `right` counts from 0, `why` says of each what is
    wrong or right about it. With `figures` each is a figure of its own.
    """

    words: tuple[str, ...]
    right: int
    why: tuple[str, ...]
    figures: tuple[Figure, ...] = ()


@dataclass(frozen=True)
class Places:
    """Some of several marked places of the first figure, each called by a letter; `right` are
    those that belong to the answer. Where `one_will_do`, any one of them is enough.
    """

    places: tuple[Vec2, ...]
    right: frozenset[int]
    why: tuple[str, ...]
    one_will_do: bool = False


@dataclass(frozen=True)
class Lines:
    """Lines to be drawn from dot to dot of a grid on the figure of number `figure`.

    `given` stand there already; `right` are the visible ones that are asked for, `dashed` the
    hidden ones that are, `behind` are hidden edges that are not to be drawn.
    """

    figure: int
    grid: Grid
    given: frozenset[Step]
    right: frozenset[Step]
    dashed: frozenset[Step] = frozenset()
    behind: frozenset[Step] = frozenset()


@dataclass(frozen=True)
class Heights:
    """A stack of cubes to be built on a plan: rows from the front, columns from the left."""

    heights: tuple[tuple[int, ...], ...]
    most: int


@dataclass(frozen=True)
class OnPaper:
    """The whole pictorial of a part on a sheet of paper, which is marked from a picture of it:
    `count` visible lines of a kind of pictorial, seen from a corner of the crate.
    """

    part: Part
    kind: str
    corner: str
    count: int


Asked = Count | Amount | Choice | Places | Lines | Heights | OnPaper


@dataclass(frozen=True)
class Exercise:
    """One exercise. `hints` are given one after the other; `reason` is told once it was marked, and
    `shown` are figures that show it. `data` tells other programs what it is about.
    """

    skill: str
    level: int
    seed: int
    question: str
    figures: tuple[Figure, ...]
    asked: Asked
    hints: tuple[str, str, str]
    reason: str
    shown: tuple[Figure, ...] = ()
    data: dict[str, object] = field(default_factory=dict)


def steps_between(start: Dot, end: Dot) -> list[Step]:
    """Return the shortest steps from dot to dot along a line, each with its lesser dot first."""
    across, up = end[0] - start[0], end[1] - start[1]
    count = _common(abs(across), abs(up))
    dots = [(start[0] + across * k // count, start[1] + up * k // count) for k in range(count + 1)]
    return [(min(a, b), max(a, b)) for a, b in pairwise(dots)]


def all_steps(lines: Iterable[tuple[Dot, Dot]]) -> frozenset[Step]:
    """Return the steps of several lines, each once."""
    return frozenset(step for start, end in lines if start != end
                     for step in steps_between(start, end))  # fmt: skip


def _common(a: int, b: int) -> int:
    while b:
        a, b = b, a % b
    return max(a, 1)
