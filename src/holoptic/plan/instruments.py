"""Which instrument gives which angle."""

from __future__ import annotations

T_SQUARE = "T-square"
SQUARE_30 = "30/60 set square"
SQUARE_45 = "45 set square"
ADJUSTABLE = "adjustable square"
DIVIDERS = "dividers"
RULE = "scale rule"
STRAIGHTEDGE = "straightedge"
PENCIL = "hard pencil"
SOFT_PENCIL = "soft pencil"
COMPASS = "compass"
FRENCH_CURVE = "French curve"
TRAMMEL = "paper-strip trammel"

_WHOLE = 1e-7


def square_for(angle_deg: float) -> str:
    """Return the square that draws lines at an angle (degrees from the right)."""
    turn = angle_deg % 180
    for step, instrument in ((180, T_SQUARE), (30, SQUARE_30), (45, SQUARE_45)):
        if min(turn % step, step - turn % step) < _WHOLE:
            return instrument
    return ADJUSTABLE


def can_draw(instrument: str, angle_deg: float) -> bool:
    """Say whether a square can draw a line at an angle."""
    steps = {T_SQUARE: 180, SQUARE_30: 30, SQUARE_45: 45}
    if instrument not in steps:
        return True
    step = steps[instrument]
    rest = angle_deg % step
    return min(rest, step - rest) < _WHOLE
