"""What must be in sight for a move: the whole sheet, an auxiliary figure, or the work itself."""

from __future__ import annotations

from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.moves import Plan, bears_letter

_WHOLE_SHEET = ("sheet", "start")


def needs_whole_sheet(plan: Plan, index: int) -> bool:
    """Say whether a move is about border, title block or start point."""
    return index < len(plan.moves) and plan.moves[index].phase in _WHOLE_SHEET


def lettered_places(plan: Plan, drafted: Drafter, index: int) -> list[Vec2]:
    """Return the lettered points of what a move works on: a figure, or all but the figures.

    `drafted` is the paper after all moves; after the last move the work itself is shown.
    """
    phase = plan.moves[index].phase if index < len(plan.moves) else ""
    at_figure = phase.startswith("figure")
    return [
        drafted.points[name]
        for move in plan.moves
        if move.phase.startswith("figure") == at_figure
        for name in move.makes
        if bears_letter(name) and name in drafted.points
    ]
