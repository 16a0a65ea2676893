"""Causes that cannot be told apart, and the one distance to measure that would decide."""

from __future__ import annotations

from itertools import combinations

import numpy as np

from holoptic.checking.causes import Suspect, Suspects
from holoptic.checking.report import Deciding
from holoptic.plan.errors import stroke_ends

_CLOSE = 0.2
"""A cause that is this likely, of the two, is not to be passed over."""
_LEAST_MM = 0.6
_MOST_POINTS = 40


def deciding_between(suspects: Suspects, one: Suspect, other: Suspect) -> Deciding | None:
    """Return the distance that differs most after either cause; None where none differs enough."""
    if other.weight < _CLOSE * (one.weight + other.weight):
        return None
    traced = suspects.traced
    sheets = suspects.sheets([one.slips, other.slips])
    names = [name for name in stroke_ends(traced.moves) if name in sheets.points][:_MOST_POINTS]
    best: Deciding | None = None
    most = _LEAST_MM
    for a, b in combinations(names, 2):
        readings = np.abs(sheets.points[a] - sheets.points[b])
        gap = float(abs(readings[0] - readings[1]))
        if gap > most:
            most = gap
            moves = tuple(traced.moves[suspects.draws[s.slips[-1].draw].move].n
                          for s in (one, other))  # fmt: skip
            best = Deciding(a, b, (moves[0], moves[1]), (float(readings[0]), float(readings[1])))
    return best
