"""Middles by diagonals: nothing is measured where four corners stand."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from holoptic.catalogue import later
from holoptic.curves.vectors import Vec3
from holoptic.plan.spots import line_key, replace_axis, spot_of
from holoptic.tolerance import PROVED_MM

if TYPE_CHECKING:
    from holoptic.plan.bench import Bench

Corners = tuple[Vec3, Vec3, Vec3, Vec3]
"""The corners of a rectangle, all the way round."""


_CLEARLY_DEG = 15.0
"""Lines that cross at less leave it open where they do."""


def find_middle(bench: Bench, spot: Vec3, *normals: int) -> bool:
    """Mark a spot by the diagonals of a rectangle whose middle it is, square to one of the axes
    `normals`: a face of the crate or of a feature whose corners stand. Return whether it is marked.

    It is measured where a line through it stands already: that is one setting, and the diagonals
    are two lines. Source: handbook, work in order, step 5.
    """
    if spot in bench.points:
        return False
    for normal in normals:
        within = [axis for axis in range(3) if axis != normal]
        if not any(_leads_through(bench, axis, spot) for axis in within):
            corners = _corners_about(bench, spot, normal)
            if corners is not None:
                _cross_diagonals(bench, spot, corners, within)
                return True
    return False


def _cross_diagonals(bench: Bench, spot: Vec3, corners: Corners, within: list[int]) -> None:
    one, other, opposite, last = corners
    first, second = _diagonal(bench, one, opposite), _diagonal(bench, other, last)
    told = bench.told(first), bench.told(second)
    name = bench.name_point(spot)
    what = _FACE if _is_of_crate(bench, one, opposite, within) else _RECTANGLE
    words = later("Mark {name}, {middle}, where {first} and {second} cross.",
                  name=name, middle=what, first=told[0], second=told[1])  # fmt: skip
    bench.mark_crossing(
        (first, second), name, words,
        lambda _, other: later("It meets {other} at {name}, {middle}.",
                               other=other, name=name, middle=what),
    )  # fmt: skip


_FACE = later("the middle of the face")
_RECTANGLE = later("halfway between the four corners")


def _leads_through(bench: Bench, axis: int, spot: Vec3) -> bool:
    return bench.has_line(axis, spot) or bench.known_on(axis, spot) is not None


def _corners_about(bench: Bench, spot: Vec3, normal: int) -> Corners | None:
    """Return the largest rectangle of lettered spots, its sides along axes, about a spot."""
    a, b = (axis for axis in range(3) if axis != normal)
    found: list[tuple[float, Corners]] = []
    for corner in bench.points:
        if corner[normal] == spot[normal] and corner[a] < spot[a] and corner[b] < spot[b]:
            beside = spot_of(replace_axis(corner, a, 2 * spot[a] - corner[a]))
            behind = spot_of(replace_axis(corner, b, 2 * spot[b] - corner[b]))
            opposite = spot_of(replace_axis(beside, b, behind[b]))
            corners = corner, beside, opposite, behind
            if all(each in bench.points for each in corners) and _cross_clearly(bench, corners):
                found.append((math.dist(corner, opposite), corners))
    return max(found)[1] if found else None


def _cross_clearly(bench: Bench, corners: Corners) -> bool:
    """Say whether the diagonals of a rectangle cross clearly enough on paper to mark where."""
    (a, b), (c, d), (e, f), (g, h) = (bench.places[bench.points[spot]] for spot in corners)
    turns = [math.degrees(math.atan2(y, x)) for x, y in ((e - a, f - b), (g - c, h - d))]
    return abs((turns[0] - turns[1] + 90) % 180 - 90) > _CLEARLY_DEG


def _is_of_crate(bench: Bench, one: Vec3, opposite: Vec3, within: list[int]) -> bool:
    return all(bench.frame.is_bound(axis, spot[axis]) for spot in (one, opposite)
               for axis in within)  # fmt: skip


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
