"""A plan joined in the middle: what stands on somebody's paper already is not drawn again.

What stands is told by names: strokes that were firmed in, or whatever a move makes that was done
otherwise. Moves that nothing else hangs on are skipped, and settings that were to be kept from
one of those are said anew.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace

from holoptic.catalogue import later, sentences
from holoptic.plan.instruments import COMPASS, DIVIDERS
from holoptic.plan.lifting import lifted
from holoptic.plan.moves import Move, Plan
from holoptic.units.spoken import on_rule

_ENDS = ("firm in", "go over", "head", "letter", "shade")
"""Verbs whose moves are wanted for themselves."""


def standing_with(plan: Plan, strokes: Collection[str]) -> frozenset[str]:
    """Return all that stands where some strokes do: themselves, the letters at their ends, the
    lines or curves that they run along, and the sheet with its border that they are drawn on.
    """
    found: set[str] = set()
    for move in plan.moves:
        if move.verb == "firm in" and move.makes[0] in strokes:
            found.update(move.makes, move.uses)
        elif move.phase == "sheet" and strokes:
            found.update(move.makes)
    return frozenset(found)


def needless(plan: Plan, stands: Collection[str]) -> frozenset[int]:
    """Return the places in a plan, from 0, of moves that need not be done where some names stand.

    A check is needless where one of its points is not on the paper without such a move.
    """
    if not stands:
        return frozenset()
    used: set[str] = set()
    kept: set[int] = set()
    for index in range(len(plan.moves) - 1, -1, -1):
        move = plan.moves[index]
        missing = set(move.makes).difference(stands)
        wanted = bool(missing) if move.verb in _ENDS else bool(missing & used)
        if wanted:
            kept.add(index)
            used.update(name for name in move.uses if name not in stands)
    there = {name for index in kept for name in plan.moves[index].makes}.union(stands)
    for index, move in enumerate(plan.moves):
        if move.verb == "check" and there.issuperset(move.uses):
            kept.add(index)
    return frozenset(range(len(plan.moves))).difference(kept)


def joined(plan: Plan, stands: Collection[str]) -> tuple[Plan, frozenset[int]]:
    """Return a plan whose sentences hold where some names stand, and the places of what is skipped.

    The moves keep their numbers.
    """
    skipped = needless(plan, stands)
    if not skipped:
        return plan, skipped
    moves: list[Move] = []
    still: dict[str, float | None] = {DIVIDERS: None, COMPASS: None}
    for index, move in enumerate(plan.moves):
        made = move
        if index not in skipped and move.instrument in still and move.setting_mm is not None:
            size = round(move.setting_mm, 6)
            if move.kept and still[move.instrument] != size:
                made = _set_anew(move)
            still[move.instrument] = size
        moves.append(made)
    return replace(plan, moves=tuple(moves)), skipped


def _set_anew(move: Move) -> Move:
    """Say a setting that was to be kept."""
    size = on_rule(move.setting_mm or 0.0)
    if move.instrument == COMPASS:
        words = later("Compass {radius}.", radius=size)
        if move.verb == "same arc":
            words = later("Compass {radius}, needle on {centre}.", radius=size, centre=move.uses[0])
        return replace(move, kept=False, template=sentences(words, move.rest))
    if move.lift is not None:
        text = lifted(move.lift, move.setting_mm or 0.0, move.rest)
    else:
        text = sentences(later("Dividers {size}.", size=size), move.rest)
    return replace(move, kept=False, template=text)
