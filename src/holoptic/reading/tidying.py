"""Views as they are meant, where a program drew them a few micrometres off.

Where surfaces meet in a curve that has no formula, a picture's lines end some micrometres beside
the place that is meant: bits of a circle are drawn besides it, one level comes as two, one line in
pieces that bend. Nobody draws
what is as near as that; it is one. Drawings without such slips come back as they are.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Straight, with_ends
from holoptic.reading.pieces import SHORTEST_MM
from holoptic.reading.planes import PLANES, canonical
from holoptic.reading.straightening import straightened
from holoptic.tolerance import CHORD_MM, KERNEL_MM

_SLIP_MM = CHORD_MM
"""Places nearer than this are meant as one (length, mm)."""


def tidied(views: Sequence[DrawnView]) -> list[DrawnView]:
    """Return views without slips of less than a hundredth of a millimetre."""
    turned = [canonical(view) for view in views]
    kept = [straightened(_without_bits(view)) for view in turned]
    levels = [_levels(axis, kept) for axis in range(3)]
    # turned round twice a view may come back with other rounding
    return [
        given if (found := _on_levels(view, levels)) is seen else canonical(found)
        for given, seen, view in zip(views, turned, kept, strict=True)
    ]


# --- bits along a circle ------------------------------------------------------------------------


def _without_bits(view: DrawnView) -> DrawnView:
    """Leave out what is too short to be a line, and bits of curves that an arc draws already."""
    bows = [(line, line.shape) for line in view.drawn if isinstance(line.shape, Bow)]
    circles = np.array([(*bow.centre, bow.radius) for _, bow in bows]).reshape(-1, 3)

    def is_bit(line: DrawnLine) -> bool:
        if line.status == "centre" or isinstance(line.shape, Bow):
            return False
        off = np.hypot(*(circles[:, :2] - line.shape.start).T) - circles[:, 2]
        near = np.flatnonzero(np.abs(off) < _SLIP_MM)
        return _is_bit(line, [bows[k] for k in near])

    kept = tuple(line for line in view.lines if not is_bit(line))
    left = replace(view, lines=kept)
    return left if left.drawn and len(kept) < len(view.lines) else view


def _is_bit(line: DrawnLine, bows: Sequence[tuple[DrawnLine, Bow]]) -> bool:
    shape = line.shape
    path = np.array(shape.path())
    long = float(np.hypot(*np.diff(path, axis=0).T).sum())
    if long < SHORTEST_MM:
        return True
    # between its ends a straight line may leave the arc
    tried = np.vstack([path, (path[:-1] + path[1:]) / 2]) if isinstance(shape, Straight) else path
    hides = {line.status, "visible"}
    return any(over.status in hides and _lies_along(tried, bow) for over, bow in bows)


def _lies_along(places: np.ndarray, bow: Bow) -> bool:
    off = places - np.array(bow.centre)
    if np.abs(np.hypot(*off.T) - bow.radius).max() > _SLIP_MM:
        return False
    if bow.is_closed:
        return True
    slack = _SLIP_MM / bow.radius
    turns = (np.arctan2(off[:, 1], off[:, 0]) - bow.first + slack) % math.tau
    return bool(turns.max() < bow.last - bow.first + 2 * slack)


# --- levels -------------------------------------------------------------------------------------


def _levels(axis: int, views: Sequence[DrawnView]) -> np.ndarray:
    """Return the levels along an axis that level lines and circles tell, each once: of those that
    are meant as one, the one that most tell.
    """
    told = np.sort([at for view in views for at in _told(axis, view)])
    if not len(told):
        return told
    groups = np.split(told, np.flatnonzero(np.diff(told) > _SLIP_MM) + 1)
    return np.array([_most_told(group) for group in groups])


def _told(axis: int, view: DrawnView) -> Iterator[float]:
    if axis not in PLANES[view.name].axes:
        return
    own = PLANES[view.name].axes.index(axis)
    for shape in (line.shape for line in view.drawn):
        if isinstance(shape, Bow):
            yield from (shape.centre[own] + s * shape.radius for s in (-1, 0, 1))
        elif isinstance(shape, Straight) and abs(shape.start[own] - shape.end[own]) < _SLIP_MM:
            yield from (shape.start[own], shape.end[own])


def _most_told(group: np.ndarray) -> float:
    _, which, counts = np.unique(
        np.round(group / KERNEL_MM), return_inverse=True, return_counts=True
    )
    return float(np.median(group[which == counts.argmax()]))


def _on_levels(view: DrawnView, levels: Sequence[np.ndarray]) -> DrawnView:
    """Put the ends of lines on levels that they all but lie on."""
    u, v = PLANES[view.name].axes

    def to(end: Vec2) -> Vec2:
        return _on(levels[u], end[0]), _on(levels[v], end[1])

    ends = {end for line in view.drawn if not isinstance(line.shape, Bow)
            for end in (line.shape.start, line.shape.end)}  # fmt: skip
    moved = {end: to(end) for end in ends if to(end) != end}
    if not moved:
        return view
    lines = (
        line if line.status == "centre" else replace(line, shape=with_ends(line.shape, moved))
        for line in view.lines
    )
    return replace(view, lines=tuple(lines))


def _on(levels: np.ndarray, value: float) -> float:
    if not len(levels):
        return value
    nearest = float(levels[np.abs(levels - value).argmin()])
    off = abs(nearest - value)
    return nearest if KERNEL_MM < off < _SLIP_MM else value
