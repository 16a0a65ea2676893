"""Small slips of a drawing mended: ends that all but meet, lines all but level, lines drawn twice.

Along each axis the ends of all views are gathered into levels; what lies within a tenth of a
millimetre of a level is put on it, in every view alike.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.reading.checks import NEAR_MISS_MM, check_views
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Shape, Straight
from holoptic.reading.planes import PLANES, canonical
from holoptic.tolerance import ROUNDING

_GAP_MM = 0.7 * NEAR_MISS_MM


def mend(views: Sequence[DrawnView]) -> list[DrawnView]:
    """Return canonical views with their small slips mended; see `planes.canonical`."""
    whole = [canonical(view) for view in views]
    levels = [_levels(axis, whole) for axis in range(3)]
    mended = []
    for view in whole:
        u, v = PLANES[view.name].axes
        lines = [replace(x, shape=_settled(x.shape, levels[u], levels[v])) for x in view.lines]
        mended.append(_without_doubles(replace(view, lines=tuple(lines))))
    return [_turned_back(view) for view in mended]


def _turned_back(view: DrawnView) -> DrawnView:
    """Return a canonical view as it is drawn on paper, with its corner at the origin."""
    return canonical(view)  # turning round twice changes nothing


def _levels(axis: int, views: Sequence[DrawnView]) -> np.ndarray:
    """Return the levels along an axis.

    Round lines and curves are drawn as a whole, so that their places agree among themselves; where
    a level has such places it lies there, else in the mean of the ends of its lines.
    """
    ends: list[float] = []
    rounds: list[float] = []
    for view in views:
        if axis not in PLANES[view.name].axes:
            continue
        own = PLANES[view.name].axes.index(axis)
        for line in view.drawn:
            shape = line.shape
            if isinstance(shape, Straight):
                ends += [shape.start[own], shape.end[own]]
                continue
            rounds += [shape.start[own], shape.end[own]]
            if isinstance(shape, Bow):
                rounds += [shape.centre[own] + s * shape.radius for s in (-1, 0, 1)]
            else:
                along = [point[own] for point in shape.path()]
                rounds += [min(along), max(along)]
    order = np.argsort([*ends, *rounds], kind="stable")
    values, is_round = np.array([*ends, *rounds])[order], order >= len(ends)
    breaks = np.flatnonzero(np.diff(values) > _GAP_MM) + 1
    groups = zip(np.split(values, breaks), np.split(is_round, breaks), strict=True)
    return np.array(
        [float(np.median(group[own])) if own.any() else group.mean() for group, own in groups]
    )


def _settled(shape: Shape, us: np.ndarray, vs: np.ndarray) -> Shape:
    def to(place: Vec2) -> Vec2:
        return _on(us, place[0]), _on(vs, place[1])

    if isinstance(shape, Straight):
        return Straight(to(shape.start), to(shape.end))
    if not isinstance(shape, Bow):
        return shape
    centre = to(shape.centre)
    edges = [abs(_on(us, shape.centre[0] + s * shape.radius) - centre[0]) for s in (-1, 1)]
    edges += [abs(_on(vs, shape.centre[1] + s * shape.radius) - centre[1]) for s in (-1, 1)]
    radius = float(np.median(edges))
    if shape.is_closed:
        return replace(shape, centre=centre, radius=radius)
    (a, b), (c, d) = to(shape.start), to(shape.end)
    first = math.atan2(b - centre[1], a - centre[0]) % math.tau
    turn = (math.atan2(d - centre[1], c - centre[0]) - first) % math.tau
    return Bow(centre, radius, first, first + (turn or math.tau))


def _on(levels: np.ndarray, value: float) -> float:
    nearest = float(levels[np.abs(levels - value).argmin()])
    return nearest if abs(nearest - value) < NEAR_MISS_MM else value


def _without_doubles(view: DrawnView) -> DrawnView:
    """Leave out lines without length, drawn twice, or hidden under visible ones."""
    lines = [line for line in view.lines if not _is_nothing(line)]
    kept: list[DrawnLine] = []
    for line in lines:
        if not any(other.shape == line.shape and other.status == line.status for other in kept):
            kept.append(line)
    thinned = replace(view, lines=tuple(kept))
    odd = {check.path for check in check_views([thinned])
           if check.sort in ("doubled", "hidden under visible", "sliver")}  # fmt: skip
    left: list[DrawnLine] = []
    for line in thinned.lines:
        if tuple(line.shape.path()) in odd and line.status != "centre":
            odd.discard(tuple(line.shape.path()))
        else:
            left.append(line)
    return replace(view, lines=tuple(left))


def _is_nothing(line: DrawnLine) -> bool:
    shape = line.shape
    return isinstance(shape, Straight) and math.dist(shape.start, shape.end) < ROUNDING
