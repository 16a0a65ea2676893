"""Short centre lines told from dashes by where they stand: through a round line, meeting nothing.

Where a centre line is short its chain has hardly a long dash or a dot to be known by.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import shapely

from holoptic.curves.vectors import Vec2
from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Bow, Straight

_THROUGH_MM = 0.3
_EVEN_MM = 1.0
"""Both halves of a centre line are as long as each other, by eye."""
_FREE_MM = 0.6
_SIGN_MM, _BEYOND_MM = 1.3, 0.4
"""Letters and the sign for a diameter hold round loops of such a radius."""


def with_axes(lines: Sequence[Found]) -> list[Found]:
    """Return the lines of a view with those taken for centre lines that were taken for hidden ones,
    but stand on the middle of a round line, reach beyond it on both sides alike and end in nothing.
    """
    bows = [line.shape for line in lines if isinstance(line.shape, Bow)]
    return [
        replace(line, role="centre")
        if line.role == "hidden" and any(_is_axis(line, bow) for bow in bows)
        and _is_free(line, lines) else line
        for line in lines
    ]  # fmt: skip


def without_signs(lines: Sequence[Found]) -> list[Found]:
    """Return the lines of a view without round loops of letters that a leader touches: so small a
    hole has a centre line.
    """
    return [
        line for line in lines
        if not isinstance(line.shape, Bow) or line.shape.radius > _SIGN_MM
        or any(_crosses(other, line.shape) for other in lines)
    ]  # fmt: skip


def _crosses(line: Found, bow: Bow) -> bool:
    """Say whether a level or upright line runs through the middle of a circle and out of it."""
    shape = line.shape
    if not isinstance(shape, Straight) or line.axis is None:
        return False
    own, far = line.axis, bow.radius + _BEYOND_MM
    low, high = sorted((shape.start[own], shape.end[own]))
    off = abs(shape.start[1 - own] - bow.centre[1 - own])
    return off < _THROUGH_MM and low < bow.centre[own] - far and high > bow.centre[own] + far


def _is_axis(line: Found, bow: Bow) -> bool:
    shape = line.shape
    if not isinstance(shape, Straight) or line.axis is None:
        return False
    (x, y), (u, v) = shape.start, shape.end
    own = 0 if abs(x - u) > abs(y - v) else 1
    if abs((shape.start[1 - own] + shape.end[1 - own]) / 2 - bow.centre[1 - own]) > _THROUGH_MM:
        return False
    halves = [abs(end[own] - bow.centre[own]) for end in (shape.start, shape.end)]
    middle = (shape.start[own] + shape.end[own]) / 2
    return (
        min(halves) > bow.radius
        and abs(halves[0] - halves[1]) < _EVEN_MM
        and abs(middle - bow.centre[own]) < _EVEN_MM
    )


def _is_free(line: Found, lines: Sequence[Found]) -> bool:
    """Say whether a line meets no line of a part at its ends."""
    assert isinstance(line.shape, Straight)
    others = [shapely.LineString(x.shape.path()) for x in lines
              if x is not line and x.role in ("visible", "hidden")]  # fmt: skip
    return not any(_touches(end, others) for end in (line.shape.start, line.shape.end))


def _touches(end: Vec2, others: Sequence[shapely.LineString]) -> bool:
    return any(path.distance(shapely.Point(end)) < _FREE_MM for path in others)
