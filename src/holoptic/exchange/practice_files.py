"""Exercises as data for other programs."""

from __future__ import annotations

import json
from collections.abc import Sequence

from holoptic.practice.answers import answer_words, points_of
from holoptic.practice.exercise import (
    Amount,
    Choice,
    Count,
    Exercise,
    Heights,
    Lines,
    OnPaper,
    Places,
)
from holoptic.practice.sketching import LETTERS


def practice_json(exercises: Sequence[Exercise]) -> str:
    """Return exercises with their answers as JSON; lengths in mm."""
    content = {"exercises": [_one(exercise) for exercise in exercises]}
    return json.dumps(content, indent=2, ensure_ascii=False) + "\n"


def _one(exercise: Exercise) -> dict[str, object]:
    return {
        "skill": exercise.skill, "level": exercise.level, "seed": exercise.seed,
        "question": exercise.question, "answer": _answer(exercise),
        "answer_words": answer_words(exercise), "points": points_of(exercise),
        "hints": list(exercise.hints), "reason": exercise.reason, **exercise.data,
    }  # fmt: skip


def _answer(exercise: Exercise) -> object:
    asked = exercise.asked
    if isinstance(asked, Count):
        return asked.least if asked.least == asked.most else [asked.least, asked.most]
    if isinstance(asked, Amount):
        return round(asked.value, 3)
    if isinstance(asked, Choice):
        return LETTERS[asked.right]
    if isinstance(asked, Places):
        return [LETTERS[k] for k in sorted(asked.right)]
    if isinstance(asked, Heights):
        return [list(row) for row in asked.heights]
    if isinstance(asked, OnPaper):
        return {"lines": asked.count}
    return {"visible": _steps(asked, hidden=False), "hidden": _steps(asked, hidden=True)}


def _steps(asked: Lines, *, hidden: bool) -> list[list[list[int]]]:
    return [[list(a), list(b)] for a, b in sorted(asked.dashed if hidden else asked.right)]
