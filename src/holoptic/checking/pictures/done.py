"""How far a sheet is drawn: the last move that is done on one that is not finished."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from holoptic.checking.pictures.measure import FlatSheet
from holoptic.checking.traces import Trace, Traced

_LEAST_MISSING = 3
_STRAY = 0.34
_LIGHT_SHARE = 0.6
_NEAR_MM = 1.2


def strokes_done(traces: Sequence[Trace], found: Sequence[bool]) -> int:
    """Return how many strokes are drawn, in the order of the plan: all of them unless those after
    are not there. `found` says of each whether it is found; a few may be found on other ink.
    """
    order = sorted(range(len(traces)), key=lambda k: traces[k].move)
    is_there = [found[k] for k in order]
    wrong = [is_there[:k].count(False) + is_there[k:].count(True)
             for k in range(len(is_there) + 1)]  # fmt: skip
    count = min(range(len(wrong)), key=wrong.__getitem__)
    after = is_there[count:]
    if after.count(False) < _LEAST_MISSING or after.count(True) > _STRAY * len(after):
        return len(traces)
    return count


def done_until(sheet: FlatSheet, traced: Traced, count: int) -> int | None:
    """Return the number of the last move that is done on a sheet with so many strokes; None where
    these are all.
    """
    numbers = sorted(traced.moves[one.move].n for one in traced.traces)
    if count == len(numbers):
        return None
    until = numbers[count - 1] if count else 0
    # what was drawn lightly since: the moves after the last stroke that is there
    for move in traced.moves:
        lines = [name for name in move.makes if name in traced.meant.lines]
        if until < move.n < numbers[count] and lines:
            if not all(_is_drawn(sheet, traced, name) for name in lines):
                break
            until = move.n
    return until


def _is_drawn(sheet: FlatSheet, traced: Traced, name: str) -> bool:
    """Say whether a light line can be seen about where it should lie."""
    start, end = (complex(*place) for place in traced.meant.drawn_span(name))
    share = np.linspace(0.0, 1.0, max(8, int(abs(end - start))))
    path = np.asarray(start + (end - start) * share, np.complex128)
    return sheet.share_found([path], _NEAR_MM, light=True) > _LIGHT_SHARE
