"""Ends of lines that were found, brought to where lines meet.

An edge of a part ends on others, always; so does a piece of ink that is one.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations

from holoptic.curves.vectors import Vec2
from holoptic.paper.scan.apexes import with_apexes
from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Bow, Straight
from holoptic.tolerance import ROUNDING

_REACH_MM, _LONG_REACH_MM = 1.3, 2.6
"""A hidden line may end in a gap of its dashes, an edge be cut where a thinner line goes on."""
_BEYOND_MM = 1.2
_LEAST_SINE, _SHALLOW = 0.08, 0.62
_TO_HIDDEN_MM = 0.6
_SHORT_OF_IT = 0.3
_TANGENT_MM, _STROKE_MM = 0.35, 0.9
_ARC_REACH_MM = 1.2
_CRUMB_MM = 4.0
_BLUNT_MM, _CORNER_MM, _LARGEST_BLUNT_MM = 1.6, 0.4, 3.5
_ON_CIRCLE_MM, _AT_CENTRE_MM, _BEYOND_CIRCLE_MM = 0.45, 0.3, 6.0
_TWO_DASHES_MM = 9.5


def met(lines: Sequence[Found]) -> list[Found]:
    """Return the lines of a view with their ends where they meet; crumbs that meet nothing are
    left out.
    """
    lines = with_apexes(_without_chords(_without_corners(lines)))
    found, held = _tangent(_through_centres(lines))
    for number, line in enumerate(found):
        if line.role != "centre" and isinstance(line.shape, Straight):
            others = [other for k, other in enumerate(found)
                      if k != number and other.role != "centre"]  # fmt: skip
            found[number], ends = _line_met(line, others, held.get(number, (False, False)))
            held[number] = ends
    found = [_arc_met(line, found) for line in found]
    kept = [line for number, line in enumerate(found)
            if not _is_crumb(line, held.get(number, (True, True)))]  # fmt: skip
    # two dashes whose gap a centre line fills: thin, but from edge to edge
    return [replace(line, role="hidden") if line.role == "thin" else line for line in kept]


def _is_crumb(line: Found, held: tuple[bool, bool]) -> bool:
    if not isinstance(line.shape, Straight) or line.role == "centre":
        return False
    long = math.dist(line.shape.start, line.shape.end)
    if line.role == "thin":
        return long > _TWO_DASHES_MM or not all(held)
    return long < _LEAST_SINE or (long < _CRUMB_MM and not (
        all(held) if line.role == "visible" else any(held)))  # fmt: skip


def _without_corners(lines: Sequence[Found]) -> list[Found]:
    """Return lines without small arcs that are but the blunt corner of two straight lines."""
    straight = [x.shape for x in lines if x.role != "centre" and isinstance(x.shape, Straight)]
    return [
        line for line in lines
        if not isinstance(line.shape, Bow) or line.shape.is_closed
        or not _is_corner(line.shape, straight)
    ]  # fmt: skip


def _is_corner(bow: Bow, straight: Sequence[Straight]) -> bool:
    """Say whether the crossing of two lines that end there lies on an arc: of a true rounding it
    lies outside.
    """
    if bow.radius > _LARGEST_BLUNT_MM:
        return False
    near = [line for line in straight if any(
        math.dist(end, bow.centre) < bow.radius + _BLUNT_MM for end in (line.start, line.end)
    )]  # fmt: skip
    for one, other in combinations(near, 2):
        long = math.dist(one.start, one.end)
        way = (one.end[0] - one.start[0]) / long, (one.end[1] - one.start[1]) / long
        crossing = _crossing(one.end, way, Found("visible", other))
        if crossing is not None and (
            abs(math.dist(crossing[0], bow.centre) - bow.radius) < _CORNER_MM
        ):
            return True
    return False


def _without_chords(lines: Sequence[Found]) -> list[Found]:
    """Return lines without short straight ones that are but pieces of a circle."""
    bows = [line.shape for line in lines if isinstance(line.shape, Bow)]
    return [line for line in lines if not (
        isinstance(line.shape, Straight) and any(_is_chord(line.shape, bow) for bow in bows)
    )]  # fmt: skip


def _is_chord(line: Straight, bow: Bow) -> bool:
    middle = (line.start[0] + line.end[0]) / 2, (line.start[1] + line.end[1]) / 2
    return math.dist(line.start, line.end) < 0.9 * bow.radius + 1.0 and all(
        abs(math.dist(place, bow.centre) - bow.radius) < _ON_CIRCLE_MM
        for place in (line.start, middle, line.end)
    )


def _through_centres(lines: Sequence[Found]) -> list[Found]:
    """Return lines of which short ones that run through the centre of a circle are centre lines,
    however many of their dashes the circle hides.
    """
    bows = [line.shape for line in lines if isinstance(line.shape, Bow)]
    return [
        replace(line, role="centre")
        if isinstance(line.shape, Straight) and line.axis is not None
        and any(_runs_through(line.shape, bow) for bow in bows) else line
        for line in lines
    ]  # fmt: skip


def _runs_through(line: Straight, bow: Bow) -> bool:
    """Say whether a line runs through a circle's centre or at it, and hardly out of the circle."""
    long = math.dist(line.start, line.end)
    if long < ROUNDING or long > 2 * bow.radius + _BEYOND_CIRCLE_MM:
        return False
    run, rise = (line.end[0] - line.start[0]) / long, (line.end[1] - line.start[1]) / long
    off = abs((bow.centre[0] - line.start[0]) * rise - (bow.centre[1] - line.start[1]) * run)
    reach = bow.radius + _BEYOND_CIRCLE_MM
    return off < _AT_CENTRE_MM and all(
        math.dist(end, bow.centre) < reach for end in (line.start, line.end)
    )


# --- tangents -------------------------------------------------------------------------------------


def _tangent(lines: list[Found]) -> tuple[list[Found], dict[int, tuple[bool, bool]]]:
    """Return lines with those that run into arcs smoothly ending where they touch, and which ends
    are so. Along a tangent the ink of both lies together for a while, so ink does not tell.
    """
    held: dict[int, tuple[bool, bool]] = {}
    for number, line in enumerate(lines):
        if not isinstance(line.shape, Straight) or line.role == "centre":
            continue
        for k, other in enumerate(lines):
            if not isinstance(other.shape, Bow) or other.role == "centre":
                continue
            foot = _foot(line.shape, other.shape)
            if foot is None:
                continue
            bow, reach = other.shape, math.sqrt(_STROKE_MM * other.shape.radius) + 0.6
            straight = lines[number].shape
            assert isinstance(straight, Straight)
            start_near, end_near = (math.dist(place, foot) < reach
                                    for place in (straight.start, straight.end))  # fmt: skip
            if start_near and end_near:
                start_near = math.dist(straight.start, foot) < math.dist(straight.end, foot)
                end_near = not start_near
            if start_near or end_near:
                moved = (Straight(foot, straight.end) if start_near
                         else Straight(straight.start, foot))  # fmt: skip
                lines[number] = replace(lines[number], shape=moved)
                before = held.get(number, (False, False))
                held[number] = before[0] or start_near, before[1] or end_near
            if not bow.is_closed and (start_near or end_near):
                lines[k] = replace(other, shape=_ending_at(bow, foot, reach))
    return lines, held


def _foot(line: Straight, bow: Bow) -> Vec2 | None:
    """Return where a line touches a circle, None where it does not."""
    (x, y), (u, v) = line.start, line.end
    long = math.hypot(u - x, v - y)
    if long < ROUNDING:
        return None
    run, rise = (u - x) / long, (v - y) / long
    along = (bow.centre[0] - x) * run + (bow.centre[1] - y) * rise
    foot = x + along * run, y + along * rise
    return foot if abs(math.dist(foot, bow.centre) - bow.radius) < _TANGENT_MM else None


def _ending_at(bow: Bow, place: Vec2, reach: float) -> Bow:
    """Return an arc with the end nearest to a place on it there, if it is within reach."""
    angle = math.atan2(place[1] - bow.centre[1], place[0] - bow.centre[0])
    first_off = (angle - bow.first + math.pi) % math.tau - math.pi
    last_off = (angle - bow.last + math.pi) % math.tau - math.pi
    off = min(abs(first_off), abs(last_off))
    if off * bow.radius > reach:
        return bow
    first, last = bow.first, bow.last
    if abs(first_off) < abs(last_off):
        first += first_off
    else:
        last += last_off
    turn = last - first
    return replace(bow, first=first % math.tau, last=first % math.tau + turn)


# --- crossings ------------------------------------------------------------------------------------


def _line_met(
    line: Found, others: Sequence[Found], held: tuple[bool, bool]
) -> tuple[Found, tuple[bool, bool]]:
    """Return a line with its ends at the nearest crossings, and which ends have one."""
    shape = line.shape
    assert isinstance(shape, Straight)
    start = None if held[0] else _meeting(shape.end, shape.start, line, line.cut[0], others)
    begin = start or shape.start
    end = None if held[1] else _meeting(begin, shape.end, line, line.cut[1], others)
    done = Straight(begin, end or shape.end)
    return replace(line, shape=done), (held[0] or start is not None, held[1] or end is not None)


def _meeting(
    start: Vec2, end: Vec2, line: Found, is_cut: bool, others: Sequence[Found]
) -> Vec2 | None:
    """Return the crossing that an end belongs to, None where there is none within reach."""
    long = math.dist(start, end)
    if long < ROUNDING:
        return None
    way = (end[0] - start[0]) / long, (end[1] - start[1]) / long
    best: tuple[float, Vec2] | None = None
    reach = _REACH_MM if line.role == "visible" and not is_cut else _LONG_REACH_MM
    for other in others:
        crossing = _crossing(end, way, other)
        if crossing is None:
            continue
        place, sine, beyond = crossing
        along = (place[0] - end[0]) * way[0] + (place[1] - end[1]) * way[1]
        if -along > 0.9 * long:
            continue
        cost = abs(along) * (0.6 if sine < _SHALLOW else 1.0)
        cost += _SHORT_OF_IT * beyond
        cost += 0.0 if other.role == "visible" or line.role == "hidden" else _TO_HIDDEN_MM
        if cost < reach and (best is None or cost < best[0]):
            best = cost, place
    return best[1] if best else None


def _crossing(end: Vec2, way: Vec2, other: Found) -> tuple[Vec2, float, float] | None:
    """Return where a line through an end meets another line, the sine between the two, and how far
    the other one ends before that (mm).
    """
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
    beyond = max(-on, on - long, 0.0)
    reach = _LONG_REACH_MM if other.role == "hidden" else _BEYOND_MM
    return (place, abs(sine), beyond) if beyond < reach else None


def _on_circle(end: Vec2, way: Vec2, bow: Bow) -> tuple[Vec2, float, float] | None:
    """Return where a line through an end meets an arc, the nearer place."""
    x, y = bow.centre[0] - end[0], bow.centre[1] - end[1]
    along, off = x * way[0] + y * way[1], x * way[1] - y * way[0]
    if abs(off) > bow.radius:
        return None
    half = math.sqrt(bow.radius**2 - off**2)
    step = min((along - half, along + half), key=abs)
    place = end[0] + step * way[0], end[1] + step * way[1]
    return (place, half / bow.radius, 0.0) if _is_on(place, bow) else None


def _is_on(place: Vec2, bow: Bow) -> bool:
    if bow.is_closed:
        return True
    angle = math.atan2(place[1] - bow.centre[1], place[0] - bow.centre[0])
    slack = _BEYOND_MM / bow.radius
    return (angle - bow.first + slack) % math.tau < bow.last - bow.first + 2 * slack


def _arc_met(line: Found, lines: Sequence[Found]) -> Found:
    """Return an arc with its ends at crossings with straight lines that are near."""
    bow = line.shape
    if not isinstance(bow, Bow) or bow.is_closed:
        return line
    for other in lines:
        if isinstance(other.shape, Straight) and other.role != "centre":
            for place in _crossings(other.shape, bow):
                bow = _ending_at(bow, place, _ARC_REACH_MM)
    return replace(line, shape=bow)


def _crossings(line: Straight, bow: Bow) -> list[Vec2]:
    """Return where a line crosses the whole circle of an arc, not where it touches it."""
    (x, y), (u, v) = line.start, line.end
    long = math.hypot(u - x, v - y)
    if long < ROUNDING:
        return []
    run, rise = (u - x) / long, (v - y) / long
    along = (bow.centre[0] - x) * run + (bow.centre[1] - y) * rise
    off = abs((bow.centre[0] - x) * rise - (bow.centre[1] - y) * run)
    if off > bow.radius - _TANGENT_MM:
        return []
    half = math.sqrt(bow.radius**2 - off**2)
    return [(x + at * run, y + at * rise) for at in (along - half, along + half)
            if -_BEYOND_MM < at < long + _BEYOND_MM]  # fmt: skip
