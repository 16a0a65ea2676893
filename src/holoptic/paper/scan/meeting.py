"""Ends of lines that were found, brought to where lines meet."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from holoptic.curves.vectors import Vec2
from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Bow, Straight
from holoptic.tolerance import ROUNDING

_REACH_MM, _HIDDEN_REACH_MM = 1.0, 2.6
"""A hidden line may end in a gap of its dashes."""
_BEYOND_MM = 1.2
_LEAST_SINE, _SHALLOW = 0.08, 0.62
_TO_HIDDEN_MM = 0.6
_BACK = 1.6
"""To cut a line is less likely than to prolong it."""


def met(lines: Sequence[Found]) -> list[Found]:
    """Return the lines of a view with their ends at the nearest crossings."""
    found = list(lines)
    for number, line in enumerate(found):
        if line.role == "centre" or not isinstance(line.shape, Straight):
            continue
        others = [other for k, other in enumerate(found) if k != number and other.role != "centre"]
        shape = line.shape
        start = _meeting(shape.end, shape.start, line, others) or shape.start
        end = _meeting(start, shape.end, line, others) or shape.end
        if math.dist(start, end) > _LEAST_SINE:
            found[number] = replace(line, shape=Straight(start, end))
    return found


def _meeting(start: Vec2, end: Vec2, line: Found, others: Sequence[Found]) -> Vec2 | None:
    """Return the crossing that an end belongs to, None where there is none within reach."""
    long = math.dist(start, end)
    if long < ROUNDING:
        return None
    way = (end[0] - start[0]) / long, (end[1] - start[1]) / long
    best: tuple[float, Vec2] | None = None
    reach = _REACH_MM if line.role == "visible" else _HIDDEN_REACH_MM
    for other in others:
        crossing = _crossing(end, way, other)
        if crossing is None:
            continue
        place, sine = crossing
        along = (place[0] - end[0]) * way[0] + (place[1] - end[1]) * way[1]
        cost = abs(along) * (0.6 if sine < _SHALLOW else 1.0 if along >= -0.3 else _BACK)
        cost += 0.0 if other.role == "visible" or line.role == "hidden" else _TO_HIDDEN_MM
        if cost < reach and (best is None or cost < best[0]):
            best = cost, place
    return best[1] if best else None


def _crossing(end: Vec2, way: Vec2, other: Found) -> tuple[Vec2, float] | None:
    """Return where a line through an end meets another line, and the sine between the two."""
    if isinstance(other.shape, Bow):
        return _on_circle(end, way, other.shape)
    if not isinstance(other.shape, Straight):
        return None
    (x, y), (u, v) = other.shape.start, other.shape.end
    long = math.hypot(u - x, v - y)
    if long < ROUNDING:
        return None
    run, rise = (u - x) / long, (v - y) / long
    sine = way[0] * rise - way[1] * run
    if abs(sine) < _LEAST_SINE:
        return None
    along = ((x - end[0]) * rise - (y - end[1]) * run) / sine
    place = end[0] + along * way[0], end[1] + along * way[1]
    on = (place[0] - x) * run + (place[1] - y) * rise
    return (place, abs(sine)) if -_BEYOND_MM < on < long + _BEYOND_MM else None


def _on_circle(end: Vec2, way: Vec2, bow: Bow) -> tuple[Vec2, float] | None:
    """Return where a line through an end meets a circle, the nearer place."""
    x, y = bow.centre[0] - end[0], bow.centre[1] - end[1]
    along, off = x * way[0] + y * way[1], x * way[1] - y * way[0]
    if abs(off) > bow.radius:
        return None
    half = math.sqrt(bow.radius**2 - off**2)
    step = min((along - half, along + half), key=abs)
    return (end[0] + step * way[0], end[1] + step * way[1]), half / bow.radius
