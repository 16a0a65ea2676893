"""Whether distances are lifted where they stand, in the words given for them, and can be set."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace
from functools import cache

from holoptic.catalogue import tr
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.critic.text import without_given
from holoptic.plan.errors import Sheets
from holoptic.plan.hand import Hand
from holoptic.plan.levels import Levels
from holoptic.plan.moves import Lift, Move
from holoptic.tolerance import CHORD_MM
from holoptic.units.spoken import said

_SAME_MM = CHORD_MM
_CROSSED = ("meet", "touch", "nearest", "join")
"""What is found where lines cross flat is off by more than what was set, with nothing added up."""

_ADDED_UP_MM = 0.2
"""Rounded settings may put a point this far off, no further."""
_FINE = re.compile(r"(?<![\w.])\d+\.\d{2,}")
_LATER_THAN_DRAWING = ("letter", "guides", "shade", "head", "go over")


def judge_distances(sitting: Sitting) -> Iterator[Remark]:
    """Yield what is lifted where it does not stand, or cannot be set as it is said."""
    levels = Levels(lambda: sitting.views)
    given = {item.length.text for item in sitting.givens}
    for move in sitting.plan.moves:
        if move.lift is not None:
            yield from _misplaced(move, move.lift, levels, given)
            if move.phase.startswith("part: ") or not sitting.is_whole:
                yield from _wrong_words(sitting, move, move.lift)
        yield from _too_fine(sitting, move)
    yield from _added_up(sitting)


def axis_of(lift: Lift) -> int:
    """Return the axis along which a lift goes."""
    return max(range(3), key=lambda k: abs(lift.end[k] - lift.start[k]))


def _misplaced(move: Move, lift: Lift, levels: Levels, given: set[str]) -> Iterator[Remark]:
    axis = axis_of(lift)
    if lift.view not in levels.names():
        yield Remark("lifted", move.n, tr("there is no {view} view", view=lift.view))
        return
    words = said(lift.words)
    if lift.is_worked_out:
        seen = [v for v in levels.names() if levels.stand(v, axis, lift.start, lift.end)]
        for view in seen[:1]:
            yield Remark("lifted", move.n, tr("{words} is said to be worked out, and stands in the "
                                              "{view} view", words=words, view=view))  # fmt: skip
        return
    is_sum = any(sign in words for sign in "+-*/") or words in given
    if not is_sum and not levels.stand(lift.view, axis, lift.start, lift.end):
        yield Remark("lifted", move.n, tr(
            "nothing in the {view} view stands at both ends, {start:.4g} and {end:.4g}, of "
            "{words} that is lifted", view=lift.view, start=lift.start[axis], end=lift.end[axis],
            words=words))  # fmt: skip


def _wrong_words(sitting: Sitting, move: Move, lift: Lift) -> Iterator[Remark]:
    axis = axis_of(lift)
    given = {
        given.length.text for given in sitting.givens
        if given.axis == axis and not given.derived and abs(given.at - lift.end[axis]) < _SAME_MM
        and abs(given.length.mm - lift.true_mm) < _SAME_MM
    }  # fmt: skip
    words = said(lift.words)
    if given and words not in given:
        yield Remark("lifted", move.n, tr("given as {given}, said as {words}", words=words,
                                          given=" or ".join(sorted(given))))  # fmt: skip


def _too_fine(sitting: Sitting, move: Move) -> Iterator[Remark]:
    """A rule is set to a tenth; finer figures stand only where somebody gave them."""
    if move.verb in _LATER_THAN_DRAWING:
        return
    texts = {given.length.text for given in sitting.givens}
    for number in _FINE.findall(without_given(move.english)):
        is_ratio = f"{number} ×" in move.english
        if number not in texts and not is_ratio and not _is_given(sitting, float(number)):
            yield Remark("lifted", move.n, tr("nobody sets {number}: {text}", number=number,
                                              text=move.text))  # fmt: skip


def _is_given(sitting: Sitting, value: float) -> bool:
    return any(abs(given.length.mm - value) < _SAME_MM for given in sitting.givens)


@cache
def _said(text: str) -> tuple[float, ...]:
    return tuple(map(float, re.findall(r"(?<![\w.])\d+(?:\.\d+)?", without_given(text))))


def _as_said(move: Move) -> Move:
    """Return a move with its setting as it is read from the sentence."""
    if move.verb == "plot":
        rows = (tuple(round(value, 1) for value in row) for row in move.table)
        return replace(move, table=tuple(rows))
    size = move.setting_mm
    if size is None or move.verb == "check":
        return move
    near = min(_said(move.english), key=lambda value: abs(value - size), default=size)
    return replace(move, setting_mm=near) if abs(near - size) < 0.06 else move


def _added_up(sitting: Sitting) -> Iterator[Remark]:
    """Set everything as it is read: no point may come to lie noticeably elsewhere."""
    moves = [move for move in sitting.plan.moves if move.verb not in _LATER_THAN_DRAWING]
    steady = Sheets(Hand(0.0, 0.0, 0.0), 1).draw([_as_said(move) for move in moves], sitting.paper)
    meant = sitting.paper.points
    off = {
        name: abs(complex(steady.points[name][0]) - complex(*meant[name]))
        for name in sitting.letters
        if name in steady.points and sitting.plan.moves[sitting.made_at[name]].verb not in _CROSSED
    }  # fmt: skip
    worst = max(off, key=lambda name: off[name], default=None)
    if worst is not None and off[worst] > _ADDED_UP_MM:
        made = sitting.plan.moves[sitting.made_at[worst]]
        yield Remark("lifted", made.n, tr("rounded settings add up to {off:.2f} mm at {name}",
                                          off=off[worst], name=worst))  # fmt: skip
