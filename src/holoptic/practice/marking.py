"""Marking: what of an answer is right, what is missing, what is too much, what should be hidden."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport, State, StrokeFound
from holoptic.curves.vectors import Vec2
from holoptic.practice.exercise import (
    Amount,
    Choice,
    Count,
    Exercise,
    Figure,
    Heights,
    Lines,
    OnPaper,
    Places,
    Step,
)
from holoptic.practice.sketching import LETTERS, joined
from holoptic.sheet.drawing import Ink

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


Given = (
    tuple[int, int] | float | int | frozenset[int] | Drawn | tuple[tuple[int, ...], ...]
    | CheckReport
)  # fmt: skip
"""What is answered to: how many (least, most), an amount, a choice, places, lines, heights, a drawn
sheet as it was found.
"""


@dataclass(frozen=True)
class Mark:
    """What is marked: a state, in words; the steps, the places (by number) or the paths on a drawn
    sheet (mm from the border's corner) that it is about.
    """

    state: MarkState
    words: str
    steps: frozenset[Step] = frozenset()
    places: frozenset[int] = frozenset()
    paths: tuple[tuple[Vec2, ...], ...] = ()


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
    if isinstance(asked, OnPaper) and isinstance(given, CheckReport):
        return _sheet(given)
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


_ON_PAPER: dict[State, tuple[MarkState, str, str]] = {
    "there": ("right", tr("one line is right"), tr("{count} lines are right")),
    "missing": ("missing", tr("one line is missing"), tr("{count} lines are missing")),
    "shifted": ("wrong", tr("one line lies elsewhere, by up to {off} mm"),
                tr("{count} lines lie elsewhere, by up to {off} mm")),
    "short": ("wrong", tr("one line is too short, by up to {off} mm"),
              tr("{count} lines are too short, by up to {off} mm")),
    "long": ("wrong", tr("one line is too long, by up to {off} mm"),
             tr("{count} lines are too long, by up to {off} mm")),
    "light": ("wrong", tr("one line is not firmed in"), tr("{count} lines are not firmed in")),
}  # fmt: skip


def _sheet(report: CheckReport) -> Marked:
    """Mark a drawn sheet: line by line, ink that is too much, and the slips that explain it."""
    marks = []
    for state, (kind, one, many) in _ON_PAPER.items():
        found = [stroke for stroke in report.strokes if stroke.state == state]
        if found:
            words = one if len(found) == 1 else many
            off = f"{max(abs(stroke.off_mm) for stroke in found):.1f}"
            paths = tuple(_path_of(stroke) for stroke in found)
            marks.append(Mark(kind, words.format(count=len(found), off=off), paths=paths))
    if report.extra:
        count = len(report.extra)
        words = (tr("one line is too many: no edge lies there") if count == 1 else
                 tr("{count} lines are too many: no edges lie there", count=count))  # fmt: skip
        paths = tuple((extra.start, extra.end) for extra in report.extra)
        marks.append(Mark("too many", words, paths=paths))
    groups = dict.fromkeys(cause.group for cause in report.causes)
    for group in groups:
        likeliest = max((cause for cause in report.causes if cause.group == group),
                        key=lambda cause: cause.weight)  # fmt: skip
        marks.append(Mark("wrong", str(likeliest.story)))
    right = sum(stroke.state == "there" for stroke in report.strokes)
    share = max(0.0, (right - len(report.extra) / 2) / max(len(report.strokes), 1))
    return Marked(1.0 if report.agrees else min(share, 0.99), tuple(marks))


def figure_of(report: CheckReport) -> Figure:
    """Return the lines of a drawn sheet that are there, as a figure; marks lie over it."""
    inks = tuple(
        Ink("visible" if stroke.state == "there" else "construction", _path_of(stroke))
        for stroke in report.strokes if stroke.state != "missing"
    )  # fmt: skip
    return Figure(inks, caption=tr("your sheet"))


def _path_of(stroke: StrokeFound) -> tuple[Vec2, ...]:
    """Return where a line was found, or where it should be."""
    return stroke.path if len(stroke.path) > 1 and stroke.state == "shifted" else stroke.meant
