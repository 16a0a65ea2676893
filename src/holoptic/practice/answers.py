"""What is right in an exercise, in words and as a figure."""

from __future__ import annotations

from dataclasses import replace

from holoptic.catalogue import tr
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
)
from holoptic.practice.sketching import LETTERS, joined, step_inks


def answer_words(exercise: Exercise) -> str:
    """Return the right answer in words."""
    asked = exercise.asked
    if isinstance(asked, Count):
        if asked.least == asked.most:
            return str(asked.least)
        return tr("at least {least}, at most {most}", least=asked.least, most=asked.most)
    if isinstance(asked, Amount):
        return f"{asked.value:.1f} {asked.unit}"
    if isinstance(asked, Choice):
        words = asked.words[asked.right]
        return f"{LETTERS[asked.right]}: {words}" if words else LETTERS[asked.right]
    if isinstance(asked, Places):
        letters = [LETTERS[k] for k in sorted(asked.right)]
        if asked.one_will_do and len(letters) > 1:
            return tr("{letters} or {last}", letters=", ".join(letters[:-1]), last=letters[-1])
        return ", ".join(letters)
    if isinstance(asked, Heights):
        return tr("see the plan of heights")
    if isinstance(asked, OnPaper):
        return tr("see the picture: {count} lines", count=asked.count)
    count = len(joined(asked.right)) + len(joined(asked.dashed))
    return tr("see the figure: {count} lines", count=count)


def answer_figures(exercise: Exercise) -> tuple[Figure, ...]:
    """Return figures that show the answer: the one that was drawn on with all its lines, and those
    that show the reason.
    """
    asked = exercise.asked
    if not isinstance(asked, Lines):
        return exercise.shown
    board = exercise.figures[asked.figure]
    inks = (*board.inks, *step_inks(asked.right, asked.grid),
            *step_inks(asked.dashed, asked.grid, "hidden"))  # fmt: skip
    return (replace(board, inks=inks, caption=""), *exercise.shown)


def points_of(exercise: Exercise) -> int:
    """Return how many points an exercise is worth: one, and of drawings one for each line, 10 at
    most, on paper 20.
    """
    asked = exercise.asked
    if isinstance(asked, Lines):
        return max(1, min(10, len(joined(asked.right)) + len(joined(asked.dashed))))
    if isinstance(asked, OnPaper):
        return max(1, min(20, asked.count))
    if isinstance(asked, Heights):
        return sum(map(len, asked.heights))
    if isinstance(asked, Places) and not asked.one_will_do:
        return len(asked.places)
    return 2 if isinstance(asked, Count) and asked.least != asked.most else 1
