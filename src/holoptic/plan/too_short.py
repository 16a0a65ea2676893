"""What is said where an instrument is shorter than what is to be drawn with it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from holoptic.catalogue import Saying, later, sentences
from holoptic.job import Outfit
from holoptic.plan.drafter import Drafter
from holoptic.plan.instruments import BOTH_SQUARES, DIVIDERS, RULE, SLIDING, SQUARE_30, SQUARE_45
from holoptic.plan.moves import Move
from holoptic.tolerance import SEEN_MM, SHARE
from holoptic.units.spoken import on_rule

_SQUARES = (SQUARE_30, SQUARE_45, BOTH_SQUARES, SLIDING)
_ROUND_MM = 10.0


def told_where_too_short(moves: Sequence[Move], paper: Drafter, outfit: Outfit) -> tuple[Move, ...]:
    """Return moves with what to do where set square or rule are too short for them.

    A light line is as long as the places on it that stand in the end.
    """
    lengths = Lengths(paper)
    return tuple(_told(move, lengths, outfit) for move in moves)


def _told(move: Move, lengths: Lengths, outfit: Outfit) -> Move:
    if move.instrument in _SQUARES:
        longest = max((lengths.of(name) for name in move.makes), default=0.0)
        if longest > outfit.square + SEEN_MM:
            carry = later("It is longer than the set square: carry it on with the straightedge.")
            return replace(move, template=sentences(move.template, carry))
    if move.instrument in (RULE, DIVIDERS) and move.verb == "set off" and not move.kept:
        size = move.setting_mm or 0.0
        if size > outfit.rule + SEEN_MM:
            parts = _in_parts(size, math.floor(outfit.rule / _ROUND_MM) * _ROUND_MM)
            return replace(move, template=sentences(move.template, parts))
    return move


def _in_parts(size: float, step: float) -> Saying:
    """Say how a distance is set off with a rule that measures no more than a step, both mm."""
    times = math.ceil(size / step - SHARE) - 1
    last = on_rule(size - times * step)
    if times == 1:
        return later("It is longer than the rule: {step} first, then {last} from there.",
                     step=on_rule(step), last=last)  # fmt: skip
    return later("It is longer than the rule: {times} times {step}, then {last} from there.",
                 times=times, step=on_rule(step), last=last)  # fmt: skip


class Lengths:
    """How long the light lines on a paper must be."""

    def __init__(self, paper: Drafter) -> None:
        self._lines = paper.lines
        self._places = np.array(list(paper.points.values())).reshape(-1, 2)

    def of(self, line: str) -> float:
        """Return how long a light line must be, mm: from the first place on it to the last; 0 for
        what is no line.
        """
        if line not in self._lines:
            return 0.0
        origin, (x, y) = self._lines[line]
        off = self._places - origin
        on = np.abs(off @ (-y, x)) < SEEN_MM
        along = off[on] @ (x, y)
        return float(along.max() - along.min()) if len(along) else 0.0
