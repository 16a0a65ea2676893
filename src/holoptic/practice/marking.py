"""Marking: what of an answer is right, what is missing, what is too much, what should be hidden."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from holoptic.catalogue import tr
from holoptic.practice.exercise import (
    Amount,
    Choice,
    Count,
    Exercise,
    Heights,
    Lines,
    Places,
    Step,
)
from holoptic.practice.sketching import LETTERS, joined

MOST_POINTS = 12
"""An exercise on the screen is worth so many."""
_HINT_COSTS = 0.25
_AGAIN_AT_MOST = 0.5
"""Whoever answers once more after a marking gets so much of the points at most."""
MarkState = Literal["right", "wrong", "missing", "too many", "hidden", "dashed"]


@dataclass(frozen=True)
class Drawn:
    """Lines that somebody drew from dot to dot, firm and dashed."""

    firm: frozenset[Step] = frozenset()
    dashed: frozenset[Step] = frozenset()


Given = tuple[int, int] | float | int | frozenset[int] | Drawn | tuple[tuple[int, ...], ...]
"""What is answered to: how many (least, most), an amount, a choice, places, lines, heights."""


@dataclass(frozen=True)
class Mark:
    """What is marked: a state, in words; the steps or the places (by number) that it is about."""

    state: MarkState
    words: str
    steps: frozenset[Step] = frozenset()
    places: frozenset[int] = frozenset()


@dataclass(frozen=True)
class Marked:
    """An answer as it is marked: the share of it that is right, 0 to 1, and its marks."""

    share: float
    marks: tuple[Mark, ...]

    @property
    def is_right(self) -> bool:
        """Whether nothing is wrong."""
        return self.share >= 1.0


def mark(exercise: Exercise, given: Given) -> Marked:
    """Return an answer as it is marked. Raises TypeError for one of another sort."""
    asked = exercise.asked
    if isinstance(asked, Count) and isinstance(given, tuple):
        least, most = given
        assert isinstance(least, int)
        assert isinstance(most, int)
        return _count(asked, (least, most))
    if isinstance(asked, Amount) and isinstance(given, float | int):
        return _amount(asked, float(given))
    if isinstance(asked, Choice) and isinstance(given, int):
        state: MarkState = "right" if given == asked.right else "wrong"
        share = float(given == asked.right)
        return Marked(share, (Mark(state, asked.why[given], places=frozenset({given})),))
    if isinstance(asked, Places) and isinstance(given, frozenset):
        return _places(asked, given)
    if isinstance(asked, Lines) and isinstance(given, Drawn):
        return _lines(asked, given)
    if isinstance(asked, Heights) and isinstance(given, tuple):
        return _heights(asked, given)  # type: ignore[arg-type]
    raise TypeError(f"{type(asked).__name__} is not answered by {type(given).__name__}")


def points(marked: Marked, hints: int, *, again: bool) -> int:
    """Return the points for an answer: hints cost a quarter each, a further try half."""
    most = _AGAIN_AT_MOST if again else 1.0
    return round(MOST_POINTS * marked.share * min(most, 1.0 - _HINT_COSTS * hints))


def _count(asked: Count, given: tuple[int, int]) -> Marked:
    if asked.least == asked.most and given[0] == given[1]:
        is_right = given[0] == asked.least
        words = tr("Right.") if is_right else _how_far(given[0], asked.least)
        return Marked(float(is_right), (Mark("right" if is_right else "wrong", words),))
    least = (tr("Least is right."), tr("Least is too many."), tr("Least is too few."))
    most = (tr("Most is right."), tr("Most is too many."), tr("Most is too few."))
    marks = []
    for one, right, said in ((given[0], asked.least, least), (given[1], asked.most, most)):
        is_right = one == right
        number = 0 if is_right else 1 if one > right else 2
        marks.append(Mark("right" if is_right else "wrong", said[number]))
    return Marked(sum(one.state == "right" for one in marks) / 2, tuple(marks))


def _how_far(given: int, right: int) -> str:
    return tr("Too many.") if given > right else tr("Too few.")


def _amount(asked: Amount, given: float) -> Marked:
    if abs(given - asked.value) <= asked.within:
        return Marked(1.0, (Mark("right", tr("Right.")),))
    words = tr("Too much.") if given > asked.value else tr("Too little.")
    return Marked(0.0, (Mark("wrong", words),))


def _places(asked: Places, given: frozenset[int]) -> Marked:
    marks = tuple(
        Mark("right" if k in asked.right else "too many", f"{LETTERS[k]}: {asked.why[k]}",
             places=frozenset({k})) for k in sorted(given)
    )  # fmt: skip
    wrong = len(given - asked.right)
    if asked.one_will_do:
        return Marked(float(bool(given) and not wrong), marks)
    missing = len(asked.right - given)
    if missing and len(asked.right) > 1:
        words = tr("{count} more are right.", count=missing) if missing > 1 else (
            tr("One more is right."))  # fmt: skip
        marks += (Mark("missing", words),)
    share = max(0.0, (len(asked.right) - missing - wrong) / len(asked.right))
    return Marked(share if missing or wrong else 1.0, marks)


def _heights(asked: Heights, given: tuple[tuple[int, ...], ...]) -> Marked:
    squares = [(r, c) for r, row in enumerate(asked.heights) for c in range(len(row))]
    columns = len(asked.heights[0])
    wrong = {r * columns + c for r, c in squares if given[r][c] != asked.heights[r][c]}
    if not wrong:
        return Marked(1.0, (Mark("right", tr("Right: it has these three views.")),))
    words = tr("{right} of {all} squares are right.", right=len(squares) - len(wrong),
               all=len(squares))  # fmt: skip
    return Marked(1.0 - len(wrong) / len(squares), (Mark("wrong", words, places=frozenset(wrong)),))


def _lines(asked: Lines, given: Drawn) -> Marked:
    firm, dashed = given.firm - asked.given, given.dashed - asked.given
    good = (firm & asked.right) | (dashed & asked.dashed)
    swapped = (firm & asked.dashed) | (dashed & asked.right)
    behind = (firm | dashed) & asked.behind - asked.right - asked.dashed
    extra = (firm | dashed) - asked.right - asked.dashed - asked.behind
    missing = (asked.right | asked.dashed) - firm - dashed
    marks: list[Mark] = []

    def add(state: MarkState, steps: frozenset[Step], one: str, many: str) -> None:
        if steps:
            count = len(joined(steps))
            marks.append(Mark(state, one if count == 1 else many.format(count=count), steps))

    add("right", good, tr("one line is right"), tr("{count} lines are right"))
    add("missing", missing, tr("one line is missing"), tr("{count} lines are missing"))
    add("too many", extra, tr("one line is too many: no edge lies there"),
        tr("{count} lines are too many: no edges lie there"))  # fmt: skip
    add("hidden", behind, tr("one line is hidden: it lies behind the part"),
        tr("{count} lines are hidden: they lie behind the part"))  # fmt: skip
    add("dashed", swapped, tr("one line is drawn firm for dashed, or dashed for firm"),
        tr("{count} lines are drawn firm for dashed, or dashed for firm"))  # fmt: skip
    total = len(asked.right | asked.dashed)
    share = max(0.0, (len(good) - len(extra | behind) / 2) / total)
    return Marked(min(share, 1.0) if len(good) == total and not extra and not behind
                  else min(share, 0.99), tuple(marks))  # fmt: skip
