"""What to do again: the least set of strokes to rub out and of moves that put a sheet right."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from holoptic.checking.report import Redraw, StrokeFound
from holoptic.plan.moves import Move

_STROKES = ("firm in", "go over")
_RUBBED = ("shifted", "long")


def redraw_of(
    moves: Sequence[Move], strokes: Sequence[StrokeFound], guilty: Collection[int]
) -> Redraw:
    """Return what to rub out and to do again; `guilty` are numbers of moves that were done wrong.

    A guilty move is done again, and of what hangs on it only what a stroke that is off needs.
    """
    by_name = {stroke.id: stroke for stroke in strokes}
    wrong = {stroke.id for stroke in strokes if stroke.state != "there"}
    moved = _hanging_on(moves, guilty)
    needed: set[str] = set()
    again: list[int] = []
    for move in reversed(moves):
        makes_wrong = move.verb in _STROKES and move.makes[0] in wrong
        makes_needed = bool(needed.intersection(move.makes)) and move.n in moved
        if move.n in guilty or makes_wrong or makes_needed:
            again.append(move.n)
            needed.update(move.uses)
    rub_out = [name for name in wrong if by_name[name].state in _RUBBED]
    return Redraw(tuple(sorted(rub_out, key=lambda name: by_name[name].move)), tuple(again[::-1]))


def _hanging_on(moves: Sequence[Move], guilty: Collection[int]) -> set[int]:
    """Return the numbers of the moves that are guilty, or use what such moves have made."""
    made: set[str] = set()
    found: set[int] = set()
    for move in moves:
        if move.n in guilty or made.intersection(move.uses):
            found.add(move.n)
            made.update(move.makes)
    return found
