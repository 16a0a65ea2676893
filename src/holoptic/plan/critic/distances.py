"""Whether distances are lifted where they stand, in the words given for them, and can be set."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import cache

from holoptic.catalogue import tr
from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec3, cross
from holoptic.pictorial import Picture
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.critic.text import without_given
from holoptic.plan.errors import Sheets
from holoptic.plan.hand import Hand
from holoptic.plan.moves import Lift, Move
from holoptic.tolerance import CHORD_MM
from holoptic.units.spoken import said

_SAME_MM = CHORD_MM
_CROSSED = ("meet", "touch", "nearest")
"""What is found where lines cross flat is off by more than what was set, with nothing added up."""

_ADDED_UP_MM = 0.2
"""Rounded settings may put a point this far off, no further."""
_FINE = re.compile(r"(?<![\w.])\d+\.\d{2,}")
_LATER_THAN_DRAWING = ("letter", "guides", "shade", "head", "go over")


def judge_distances(sitting: Sitting) -> Iterator[Remark]:
    """Yield what is lifted where it does not stand, or cannot be set as it is said."""
    levels = _levels_in(sitting.views)
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


def _levels_in(views: Mapping[str, Picture]) -> dict[str, tuple[set[float], ...]]:
    """Return where lines of each view end, are centred or turn, along the axes it shows."""
    found: dict[str, tuple[set[float], ...]] = {}
    for name, view in views.items():
        levels: tuple[set[float], ...] = (set(), set(), set())
        for stroke in view.strokes:
            for spot in _telling_spots(stroke.curve):
                for axis in range(3):
                    if math.hypot(*(row[axis] for row in view.view.matrix)) > 0.5:
                        levels[axis].add(round(spot[axis], 2))
        found[name] = levels
    return found


def _telling_spots(curve: object) -> Iterator[Vec3]:
    start: Vec3 = curve.start  # type: ignore[attr-defined]
    yield start
    yield curve.end  # type: ignore[attr-defined]
    if isinstance(curve, EllipticArc):
        yield curve.centre
        first, last = curve.span
        across = cross(curve.normal, curve.x_axis)
        for axis in range(3):
            turn = math.atan2(curve.minor * across[axis], curve.major * curve.x_axis[axis])
            for t in (turn + k * math.pi for k in range(-4, 5)):
                if first <= t <= last:
                    yield curve.at(t)


def _misplaced(
    move: Move, lift: Lift, levels: Mapping[str, tuple[set[float], ...]], given: set[str]
) -> Iterator[Remark]:
    axis = axis_of(lift)
    seen = levels.get(lift.view)
    if seen is None:
        yield Remark("lifted", move.n, tr("there is no {view} view", view=lift.view))
        return
    words = said(lift.words)
    is_sum = any(sign in words for sign in "+-*/") or words in given

    def stands(at: float) -> bool:
        return any(round(at + step, 2) in seen[axis] for step in (-0.01, 0.0, 0.01))

    for spot in (lift.start, lift.end):
        at = spot[axis]
        # a half width stands to either side of its middle
        mirrored = 2 * lift.start[axis] - at
        if not is_sum and not stands(at) and not stands(mirrored):
            yield Remark("lifted", move.n, tr(
                "nothing in the {view} view stands at {at:.4g}, from where {words} is lifted",
                view=lift.view, at=at, words=words))  # fmt: skip


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
