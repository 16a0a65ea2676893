"""Two views alone: in the missing plane any line along the axes may run, so all are allowed for."""

from __future__ import annotations

from collections.abc import Sequence

from holoptic.reading.lines import DrawnLine, DrawnView, Straight
from holoptic.reading.pieces import split
from holoptic.reading.planes import PLANES
from holoptic.reading.space import clustered

_USUAL = {0: "right", 1: "front", 2: "top"}


def without_third(views: Sequence[DrawnView]) -> list[DrawnView]:
    """Return two canonical views and a third that has a line at every level of the others."""
    given = {PLANES[view.name].depth for view in views}
    (missing,) = {0, 1, 2} - given
    name = _USUAL[missing]
    u, v = PLANES[name].axes
    levels = {axis: _levels(axis, views) for axis in (u, v)}
    (left, *_, right), (low, *_, high) = levels[u], levels[v]
    lines = [DrawnLine(Straight((x, low), (x, high)), "hidden") for x in levels[u]]
    lines += [DrawnLine(Straight((left, y), (right, y)), "hidden") for y in levels[v]]
    return [*views, DrawnView(name, tuple(lines), is_guessed=True)]


def _levels(axis: int, views: Sequence[DrawnView]) -> list[float]:
    values: list[float] = []
    for view in views:
        axes = PLANES[view.name].axes
        if axis in axes:
            own = axes.index(axis)
            for piece in split(view.lines):
                values += [piece.start[own], piece.end[own]]
    return [float(value) for value in clustered(values)]
