"""The trihedral corner rule, on any set of straight strokes.

Where planar faces meet at a visible corner, at least three edges leave it. A corner with two
drawn lines has one missing, or one of its edges is hidden; a single line that ends nowhere is
loose.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from holoptic.curves.paper import direction, distance_to_segment
from holoptic.curves.vectors import Vec2

Line = tuple[Vec2, Vec2]
Verdict = Literal["complete", "edge hidden", "edge hidden or missing", "edge missing", "loose end"]

CORNER_MM = 0.02
"""Ends nearer than this are one corner (paper, mm)."""
_SAME_WAY = math.radians(0.05)


@dataclass(frozen=True)
class CornerFinding:
    """A corner on paper: how many lines leave it, drawn and hidden, and what follows."""

    place: Vec2
    drawn: int
    hidden: int
    verdict: Verdict


def check_corners(
    drawn: Iterable[Line],
    hidden: Iterable[Line] | None = None,
    reach: float = CORNER_MM,
) -> tuple[CornerFinding, ...]:
    """Return what the rule says of every corner; `hidden` are hidden edges, if they are known.

    Lines in mm on paper. Work drawn by hand wants a larger `reach`.
    """
    lines = [line for line in drawn if math.dist(*line) > reach]
    behind = None if hidden is None else [line for line in hidden if math.dist(*line) > reach]
    findings = []
    for place in _places(lines, reach):
        ways = _ways(place, lines, reach)
        covered = 0 if behind is None else len(_ways(place, behind, reach))
        verdict = _verdict(ways, covered, behind is not None)
        findings.append(CornerFinding(place, len(ways), covered, verdict))
    return tuple(findings)


def _places(lines: Sequence[Line], reach: float) -> list[Vec2]:
    places: list[Vec2] = []
    for end in sorted(end for line in lines for end in line):
        if not any(math.dist(end, place) <= reach for place in reversed(places[-64:])):
            places.append(end)
    return places


def _ways(place: Vec2, lines: Sequence[Line], reach: float) -> list[float]:
    """Return the distinct directions (radians) in which lines leave a place."""
    ways: list[float] = []
    for start, end in lines:
        if distance_to_segment(place, start, end) > reach:
            continue
        for far in (start, end):
            if math.dist(far, place) > reach:
                x, y = direction(place, far)
                way = math.atan2(y, x)
                if not any(_apart(way, other) < _SAME_WAY for other in ways):
                    ways.append(way)
    return ways


def _apart(a: float, b: float) -> float:
    return abs((a - b + math.pi) % math.tau - math.pi)


def _verdict(ways: Sequence[float], covered: int, hidden_known: bool) -> Verdict:
    if len(ways) >= 3:
        return "complete"
    if len(ways) == 2 and _apart(_apart(ways[0], ways[1]), math.pi) < _SAME_WAY:
        return "complete"  # one line, drawn in two pieces
    if covered:
        return "edge hidden"
    if len(ways) <= 1:
        return "loose end"
    return "edge missing" if hidden_known else "edge hidden or missing"
