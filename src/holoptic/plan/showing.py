"""What must be in sight for a move: the whole sheet, an auxiliary figure, or the work itself."""

from __future__ import annotations

from typing import Literal

from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.instruments import PENCIL
from holoptic.plan.moves import (
    BORDER_LINE,
    CENTRE_LINES,
    CUTTING_LINES,
    DIMENSIONS,
    HATCHING,
    HEAVY_LINES,
    HIDDEN_LINES,
    LEFT_EDGE,
    LETTERING,
    LOWER_EDGE,
    OVER,
    SHADING,
    Move,
    Plan,
    Verb,
    bears_letter,
)

_WHOLE_SHEET = ("sheet", "start", "numbers and list", LETTERING)
_FINISHING = (HATCHING, CUTTING_LINES, DIMENSIONS, LETTERING, SHADING)
_PART = "part: "
_AFTER_PARTS = ("axis lines", "numbers and list")
_GOING_OVER = ("firm in", HIDDEN_LINES, CENTRE_LINES, HEAVY_LINES, "check", "")


def needs_whole_sheet(plan: Plan, index: int) -> bool:
    """Say whether a move is about border, title block or start point, or about numbers and list.

    With these the sheet is shown in the end too.
    """
    if index >= len(plan.moves):
        return bool(plan.setup.numbers) or plan.setup.finish is not None
    return plan.moves[index].phase in _WHOLE_SHEET


def lettered_places(plan: Plan, drafted: Drafter, index: int) -> list[Vec2]:
    """Return the lettered points of what a move works on: a figure, a part of an arrangement, or
    all but the figures.

    `drafted` is the paper after all moves; after the last move the work itself is shown.
    """
    phase = plan.moves[index].phase if index < len(plan.moves) else ""
    if phase.startswith(_PART):
        return [drafted.points[name] for name in letters_of_part(plan, phase)
                if name in drafted.points]  # fmt: skip
    at_figure, is_finishing = phase.startswith("figure"), phase in _FINISHING
    return [
        drafted.points[name]
        for move in plan.moves
        if move.phase.startswith("figure") == at_figure
        and (is_finishing or move.phase not in _FINISHING)
        for name in move.makes
        if bears_letter(name) and name in drafted.points
    ]


def letters_in_sight(plan: Plan, index: int) -> set[str] | None:
    """Return the letters that are shown while a move is made; None: all that are there.

    Of an arrangement that is drawn part by part, and of views, these are the letters that the part
    or the feature in hand needs: all together would hide the paper.
    """
    phase = plan.moves[index].phase if index < len(plan.moves) else ""
    if phase in _FINISHING or (not phase and plan.setup.finish is not None):
        return set()
    if plan.is_of_views:
        return set() if phase in _GOING_OVER else letters_of_part(plan, phase)
    own = phase.startswith(_PART) or phase in _AFTER_PARTS
    return letters_of_part(plan, phase) if own else None


def thin_strokes(plan: Plan) -> dict[str, str]:
    """Return the strokes that are gone over thinly, and how: axis lines and centre lines "centre",
    as a chain, hidden lines "hidden", heavy ones "visible thick", leaders of numbers "visible
    thin", the lines of dimensions and title block "fine", and those of shaded faces "shading".
    """
    styles: dict[str, str] = {}
    for move in plan.moves:
        if move.verb == "shade":
            styles |= dict.fromkeys(move.makes, "shading")
        elif move.phase == CENTRE_LINES and move.verb in ("go over", "firm in"):
            styles[move.makes[0]] = "centre"
        elif move.phase == HEAVY_LINES and move.verb == "firm in":
            styles[move.makes[0]] = "visible thick"
        elif move.verb == "go over" or (move.verb == "firm in" and move.phase == DIMENSIONS):
            styles[move.makes[0]] = "fine"
        elif move.verb == "firm in" and move.instrument == PENCIL:
            styles[move.makes[0]] = _thin_style(move)
    return styles


def _thin_style(move: Move) -> str:
    if move.makes[0].startswith(OVER):
        return "visible thin"
    return "hidden" if move.phase == HIDDEN_LINES else "centre"


def letters_of_part(plan: Plan, phase: str) -> set[str]:
    """Return the letters that the moves of a phase use and make."""
    own = (move for move in plan.moves if move.phase == phase)
    return {name for move in own for name in (*move.uses, *move.makes) if bears_letter(name)}


Filter = Literal["all", "settings", "lines", "curves", "firm lines", "lettering", "checks"]

FILTERS: dict[Filter, tuple[Verb, ...]] = {
    "all": (),
    "settings": ("set off", "swing", "plot"),
    "lines": ("draw", "parallel", "square", "join", "touch"),
    "curves": ("circle", "arc", "same arc", "trammel", "curve", "freehand"),
    "firm lines": ("firm in", "go over"),
    "lettering": ("guides", "letter", "head"),
    "checks": ("check",),
}
"""What moves can be picked out, and their verbs; "all" picks every move."""


def passes(move: Move, chosen: Filter) -> bool:
    """Say whether a move is among those picked out."""
    return chosen == "all" or move.verb in FILTERS[chosen]


def next_passing(plan: Plan, at: int, way: int, chosen: Filter) -> int:
    """Return how many moves are done after a step from `at`, forward (1) or back (−1).

    A step goes to the next move that is picked out; the moves between are done with it. Without
    one it goes to the end, or to the start.
    """
    count = len(plan.moves)
    if chosen == "all":
        return max(0, min(at + way, count))
    ahead = range(at + 1, count) if way > 0 else range(at - 1, -1, -1)
    found = (index for index in ahead if passes(plan.moves[index], chosen))
    return next(found, count if way > 0 else 0)


def light_lines(plan: Plan, paper: Drafter) -> list[str]:
    """Return the names of the construction lines on a paper: not its edges, no printed border."""
    printed = (LEFT_EDGE, LOWER_EDGE, *(() if plan.setup.blank else (BORDER_LINE,)))
    return [name for name in paper.lines if name not in printed]
