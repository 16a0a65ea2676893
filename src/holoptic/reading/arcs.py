"""Arcs that a drawing shows as other curves: a drilled hole seen through the wall of a tube."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import Bow, DrawnView, Free
from holoptic.tolerance import APART_MM, NEAR_LINE_MM, ROUGH_MM

_LEAST_SAG_MM = 0.05
"""A curve that bows less than this is hardly told from a straight line."""
_FEWEST = 5
_ONE_CIRCLE_MM = 0.05
"""A short arc tells its circle no better than that."""


def with_arcs(view: DrawnView) -> DrawnView:
    """Return a view whose curves are arcs where they lie on a circle; where arcs are drawn on that
    circle, or longer curves, it is theirs.
    """
    bows = [line.shape for line in view.lines if isinstance(line.shape, Bow)]
    free = [line.shape for line in view.lines if isinstance(line.shape, Free)]
    taken: dict[Free, Bow] = {}
    for shape in sorted(free, key=lambda one: -len(one.points)):
        bow = arc_of(shape.points)
        if bow is not None:
            taken[shape] = _on_known(bow, bows)
            bows.append(taken[shape])
    lines = tuple(
        replace(line, shape=taken.get(line.shape, line.shape))
        if isinstance(line.shape, Free) else line
        for line in view.lines
    )  # fmt: skip
    return replace(view, lines=lines)


def _on_known(bow: Bow, known: list[Bow]) -> Bow:
    """Return an arc on the circle of another that it all but lies on."""
    for other in known:
        apart = math.dist(bow.centre, other.centre) + abs(bow.radius - other.radius)
        if apart < _ONE_CIRCLE_MM and all(
            abs(math.dist(end, other.centre) - other.radius) < ROUGH_MM
            for end in (bow.start, bow.end)
        ):
            return replace(bow, centre=other.centre, radius=other.radius)
    return bow


def arc_of(points: tuple[Vec2, ...]) -> Bow | None:
    """Return the arc on which points lie, None where they lie on none.

    The circle of least squares: x² + y² = 2 a x + 2 b y + c (Kåsa, 1976).
    """
    if len(points) < _FEWEST:
        return None
    places = np.array(points)
    middle = places.mean(axis=0)
    off = places - middle
    rows = np.column_stack([2 * off, np.ones(len(off))])
    (a, b, c), *_ = np.linalg.lstsq(rows, (off**2).sum(axis=1), rcond=None)
    radius = math.sqrt(max(c + a * a + b * b, 0.0))
    from_centre = off - (a, b)
    gaps = np.abs(np.hypot(*from_centre.T) - radius)
    if gaps.max() > APART_MM:
        return None
    turns = np.unwrap(np.arctan2(from_centre[:, 1], from_centre[:, 0]))
    span = float(turns[-1] - turns[0])
    if radius * (1 - math.cos(min(abs(span), math.pi) / 2)) < _LEAST_SAG_MM:
        return None
    if np.abs(np.diff(turns)).max() > 1.0 or (np.diff(turns) * span).min() < 0:
        return None
    first = float(turns[0] if span > 0 else turns[-1]) % math.tau
    span = abs(span)
    if radius * abs(span - math.tau) < NEAR_LINE_MM:
        first, span = 0.0, math.tau
    centre = float(middle[0] + a), float(middle[1] + b)
    return Bow(centre, radius, first, first + min(span, math.tau))
