"""Middles of faces by their diagonals: nothing is measured where four corners stand."""

from __future__ import annotations

import math

from holoptic.catalogue import later
from holoptic.curves.vectors import Vec3
from holoptic.plan.bench import Bench, line_key, replace_axis, spot_of
from holoptic.tolerance import COINCIDENT_MM, PROVED_MM


def find_middle(bench: Bench, spot: Vec3) -> bool:
    """Mark the middle of a face of the crate by the face's diagonals; return whether that is what
    the spot is and how it is found.

    It is measured where a line through it stands already: that is one setting, and the diagonals
    are two lines. Source: handbook, work in order, step 5.
    """
    corners = _corners_about(bench, spot)
    if spot in bench.points or not corners:
        return False
    (one, opposite), (other, last) = corners
    if not all(corner in bench.points for corner in (one, opposite, other, last)):
        return False
    within = [axis for axis in range(3) if one[axis] != opposite[axis]]
    if any(bench.has_line(axis, spot) or bench.known_on(axis, spot) for axis in within):
        return False
    first, second = _diagonal(bench, one, opposite), _diagonal(bench, other, last)
    told = bench.told(first), bench.told(second)
    name = bench.name_point(spot)
    words = later("Mark {name}, the middle of the face, where {first} and {second} cross.",
                  name=name, first=told[0], second=told[1])  # fmt: skip
    bench.mark_crossing(
        (first, second), name, words,
        lambda _, other: later("It meets {other} at {name}, the middle of the face.",
                               other=other, name=name),
    )  # fmt: skip
    return True


def _corners_about(bench: Bench, spot: Vec3) -> tuple[tuple[Vec3, Vec3], tuple[Vec3, Vec3]] | None:
    """Return the pairs of opposite corners of the crate's face that a spot is the middle of."""
    frame = bench.frame
    inner = frame.inner_axes(spot)
    if len(inner) != 2:
        return None
    low, high = frame.low, frame.high
    if any(abs(low[axis] + high[axis] - 2 * spot[axis]) > COINCIDENT_MM for axis in inner):
        return None
    a, b = inner

    def corner(far_a: bool, far_b: bool) -> Vec3:
        there = replace_axis(spot, a, frame.bound(a, far_a))
        return spot_of(replace_axis(there, b, frame.bound(b, far_b)))

    return (corner(False, False), corner(True, True)), (corner(True, False), corner(False, True))


def _diagonal(bench: Bench, start: Vec3, end: Vec3) -> str:
    """Draw a diagonal, or the axis line that falls on it in this picture; return its name."""
    (x, y), (u, v) = (bench.places[bench.points[spot]] for spot in (start, end))
    way = math.degrees(math.atan2(v - y, u - x))
    for axis in range(3):
        if abs((bench.view.axis_angle(axis) - way + 90) % 180 - 90) < PROVED_MM:
            for corner in (start, end):
                if line_key(axis, corner) in bench.lines:
                    return bench.lines[line_key(axis, corner)]
    return bench.join_letters(bench.points[start], bench.points[end])
