"""What is said where an instrument is shorter than what is to be drawn with it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from holoptic.catalogue import Saying, later, sentences
from holoptic.curves.paper import offset_from_line, position_on_line
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
    return tuple(_told(move, paper, outfit) for move in moves)


def _told(move: Move, paper: Drafter, outfit: Outfit) -> Move:
    if move.instrument in _SQUARES:
        longest = max((length_of(name, paper) for name in move.makes), default=0.0)
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


def length_of(line: str, paper: Drafter) -> float:
    """Return how long a light line must be, mm: from the first place on it to the last."""
    if line not in paper.lines:
        return 0.0
    origin, along = paper.lines[line]
    places = [
        position_on_line(point, origin, along)
        for point in paper.points.values()
        if abs(offset_from_line(point, origin, along)) < SEEN_MM
    ]
    return max(places) - min(places) if places else 0.0
