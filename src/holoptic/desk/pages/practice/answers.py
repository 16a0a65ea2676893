"""What a learner has answered so far, sort by sort; no widgets, so that it is tested by itself."""

from __future__ import annotations

from dataclasses import dataclass, field

from holoptic.practice.exercise import Choice, Dot, Heights, Lines, Places, Step, steps_between
from holoptic.practice.marking import Drawn

_SQUARE_WAYS = {
    "left": (-1, 0), "right": (1, 0), "up": (0, 1), "down": (0, -1),
    "up left": (-1, 1), "up right": (1, 1), "down left": (-1, -1), "down right": (1, -1),
}  # fmt: skip
_ISOMETRIC_WAYS = {
    "left": (-2, 0), "right": (2, 0), "up": (0, 2), "down": (0, -2),
    "up left": (-1, 1), "up right": (1, 1), "down left": (-1, -1), "down right": (1, -1),
}  # fmt: skip


@dataclass
class Chosen:
    """One of several."""

    asked: Choice
    number: int | None = None

    def choose(self, number: int) -> None:
        """Choose another one."""
        if 0 <= number < len(self.asked.words):
            self.number = number

    @property
    def given(self) -> int | None:
        """The answer, None where there is none yet."""
        return self.number


@dataclass
class Marked:
    """Some of several places."""

    asked: Places
    numbers: set[int] = field(default_factory=set)

    def choose(self, number: int) -> None:
        """Mark a place, or take the mark away; where one is enough it is the only one."""
        if not 0 <= number < len(self.asked.places):
            return
        is_one = self.asked.one_will_do or len(self.asked.right) == 1
        if number in self.numbers:
            self.numbers.discard(number)
        elif is_one:
            self.numbers = {number}
        else:
            self.numbers.add(number)

    @property
    def given(self) -> frozenset[int] | None:
        """The answer, None where there is none yet."""
        return frozenset(self.numbers) or None


@dataclass
class Sketch:
    """Lines from dot to dot, with a pen that keys move."""

    asked: Lines
    firm: frozenset[Step] = frozenset()
    dashed: frozenset[Step] = frozenset()
    is_dashed: bool = False
    at: Dot = (0, 0)
    start: Dot | None = None
    _before: list[tuple[frozenset[Step], frozenset[Step]]] = field(default_factory=list)

    def __post_init__(self) -> None:
        dots = self.asked.grid.dots()
        middle = self.asked.grid.columns // 2, self.asked.grid.rows // 2
        self.at = min(dots, key=lambda dot: abs(dot[0] - middle[0]) + abs(dot[1] - middle[1]))

    def move(self, way: str) -> None:
        """Move the pen by a dot."""
        ways = _SQUARE_WAYS if self.asked.grid.kind == "square" else _ISOMETRIC_WAYS
        to = self.at[0] + ways[way][0], self.at[1] + ways[way][1]
        if to in set(self.asked.grid.dots()):
            self.at = to

    def press(self) -> None:
        """Begin a line where the pen is, or end it there."""
        if self.start is None:
            self.start = self.at
        else:
            self.draw(self.start, self.at)
            self.start = None

    def let_go(self) -> bool:
        """Give up a line that was begun; say whether there was one."""
        was_begun = self.start is not None
        self.start = None
        return was_begun

    def draw(self, start: Dot, end: Dot) -> None:
        """Draw a line; one that is there already, all of it, is taken away."""
        if start == end:
            return
        steps = frozenset(steps_between(start, end)) - self.asked.given
        self._before.append((self.firm, self.dashed))
        mine = self.dashed if self.is_dashed else self.firm
        if steps <= mine:
            self.firm, self.dashed = self.firm - steps, self.dashed - steps
        elif self.is_dashed:
            self.firm, self.dashed = self.firm - steps, self.dashed | steps
        else:
            self.firm, self.dashed = self.firm | steps, self.dashed - steps

    def back(self) -> None:
        """Take the last line back."""
        if self._before:
            self.firm, self.dashed = self._before.pop()

    @property
    def given(self) -> Drawn | None:
        """The answer, None where there is none yet."""
        return Drawn(self.firm, self.dashed) if self.firm or self.dashed else None


@dataclass
class Stack:
    """A plan of heights, with a square in hand; rows from the front, columns from the left."""

    asked: Heights
    at: tuple[int, int] = (0, 0)
    heights: list[list[int]] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.heights = [[0] * len(row) for row in self.asked.heights]

    def move(self, way: str) -> None:
        """Go to the square beside it."""
        across, up = _SQUARE_WAYS[way]
        row, column = self.at[0] + up, self.at[1] + across
        if 0 <= row < len(self.heights) and 0 <= column < len(self.heights[0]):
            self.at = row, column

    def put(self, height: int) -> None:
        """Give the square in hand a height."""
        if 0 <= height <= self.asked.most:
            self.heights[self.at[0]][self.at[1]] = height

    def add(self, by: int) -> None:
        """Put a cube on the square in hand, or take one away; over the highest it begins anew."""
        row, column = self.at
        self.heights[row][column] = (self.heights[row][column] + by) % (self.asked.most + 1)

    @property
    def given(self) -> tuple[tuple[int, ...], ...] | None:
        """The answer, None where there is none yet."""
        plan = tuple(map(tuple, self.heights))
        return plan if any(map(any, plan)) else None


Answering = Chosen | Marked | Sketch | Stack


def answering(asked: object) -> Answering | None:
    """Return what an answer is made with; None where it is typed."""
    if isinstance(asked, Choice):
        return Chosen(asked)
    if isinstance(asked, Places):
        return Marked(asked)
    if isinstance(asked, Lines):
        return Sketch(asked)
    if isinstance(asked, Heights):
        return Stack(asked)
    return None


def read_count(text: str) -> tuple[int, int] | None:
    """Return what stands for a number or for a range such as 9-11; None for anything else.

    >>> read_count("9-11"), read_count("7"), read_count("x")
    ((9, 11), (7, 7), None)
    """
    parts = [part.strip() for part in text.replace("–", "-").split("-")]
    if not 1 <= len(parts) <= 2 or not all(part.isdecimal() and len(part) < 5 for part in parts):
        return None
    return int(parts[0]), int(parts[-1])
