"""What to rub out before a feature is begun, where the construction crowds about it."""

from __future__ import annotations

from holoptic.curves.paper import distance_to_segment
from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.moves import Plan, bears_letter
from holoptic.plan.showing import light_lines

_NEAR_MM = 6.0
_CROWD = 8
"""So many lines that serve nothing any more, near the letters of a feature, are in its way."""
_CARVING = ("carve: ", "cut face: ", "part: ")


def to_rub_out(plan: Plan, drafted: Drafter, index: int) -> frozenset[str]:
    """Return the light lines to be rubbed out before the move at a place, from 0.

    There are some where a feature is begun, and lines that the feature before used last crowd about
    what it adds; `drafted` is the paper after all moves.
    """
    carving = [phase for phase in plan.phases if phase[0].startswith(_CARVING)]
    place = next((k for k, phase in enumerate(carving) if phase[1] == index), 0)
    if place == 0:
        return frozenset()
    (_, before, _), (_, first, last) = carving[place - 1 : place + 1]
    letters = [drafted.points[name] for move in plan.moves[first:last] for name in move.makes
               if bears_letter(name) and name in drafted.points]  # fmt: skip
    used = {name for move in plan.moves[first:] for name in move.uses}
    idle = set(light_lines(plan, drafted)).difference(used)
    idle &= {name for move in plan.moves[before:first] for name in (*move.makes, *move.uses)}
    near = frozenset(name for name in idle if _is_near(drafted.drawn_span(name), letters))
    return near if len(near) >= _CROWD else frozenset()


def _is_near(span: tuple[Vec2, Vec2], places: list[Vec2]) -> bool:
    return any(distance_to_segment(place, *span) < _NEAR_MM for place in places)
