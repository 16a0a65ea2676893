"""Which instrument gives which angle."""

from __future__ import annotations

from holoptic.catalogue import mark
from holoptic.tolerance import EXACT_MM

T_SQUARE = mark("T-square")
SQUARE_30 = mark("30/60 set square")
SQUARE_45 = mark("45 set square")
BOTH_SQUARES = mark("45 set square on the 30/60")
SLIDING = mark("set square, slid")
DIVIDERS = mark("dividers")
RULE = mark("scale rule")
STRAIGHTEDGE = mark("straightedge")
PENCIL = mark("hard pencil")
SOFT_PENCIL = mark("soft pencil")
COMPASS = mark("compass")
TEMPLATE = mark("template")
FRENCH_CURVE = mark("French curve")
TRAMMEL = mark("paper-strip trammel")

_STEPS = {T_SQUARE: 180, SQUARE_30: 30, SQUARE_45: 45, BOTH_SQUARES: 15}
"""Each square gives the multiples of an angle, degrees; both together those of 15°."""


def square_for(angle_deg: float) -> str | None:
    """Return the square that draws lines at an angle (degrees from the right).

    None where no square has it: such a line is drawn through two points.
    """
    return next((square for square in _STEPS if can_draw(square, angle_deg)), None)


def square_along(angle_deg: float) -> str:
    """Return what draws a line along another one at an angle: any direction can be slid."""
    return square_for(angle_deg) or SLIDING


def can_draw(instrument: str, angle_deg: float) -> bool:
    """Say whether a square can draw a line at an angle, with nothing but its guide."""
    step = _STEPS.get(instrument)
    if step is None:
        return False
    rest = angle_deg % step
    return min(rest, step - rest) < EXACT_MM
