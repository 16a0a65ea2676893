"""Arcs that a drawing shows as other curves: a drilled hole seen through the wall of a tube."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import Bow, DrawnView, Free, Shape, Straight
from holoptic.tolerance import APART_MM, GIVEN_MM, KERNEL_MM, NEAR_LINE_MM, ROUGH_MM

_LEAST_SAG_MM = 0.05
"""A curve that bows less than this is hardly told from a straight line."""
_FEWEST = 5
_EXACT_MM = KERNEL_MM
"""Parts of a curve are arcs only where they are exact ones: an oval is nearly one everywhere."""
_MEANT_MM = GIVEN_MM
_LEAST_RUN_MM = 1.0
_FEWEST_IN_RUN = 7
_TELLING_SWEEP = 1.5
"""A curve that sweeps less (radians) is an arc only where it is an exact one."""
_LEAST_SWEEP = 0.5
"""An arc that is part of a curve sweeps more than this (radians)."""
_ONE_CIRCLE_MM = 0.05
"""A short arc tells its circle no better than that."""


def with_arcs(view: DrawnView) -> DrawnView:
    """Return a view whose curves are arcs where they lie on a circle; where arcs are drawn on that
    circle, or longer curves, it is theirs.
    """
    lines = [
        replace(line, shape=shape)
        for line in view.lines
        for shape in (_runs(line.shape) if isinstance(line.shape, Free) else [line.shape])
    ]
    drawn = [line.shape for line in view.lines]
    known = [shape for shape in drawn if isinstance(shape, Bow)]
    fresh = [
        line.shape for line in lines if isinstance(line.shape, Bow) and line.shape not in drawn
    ]
    taken: dict[Shape, Bow] = {}
    for bow in sorted(fresh, key=lambda one: -one.radius * (one.last - one.first)):
        taken[bow] = _on_known(bow, known)
        known.append(taken[bow])
    return replace(view, lines=tuple(replace(x, shape=taken.get(x.shape, x.shape)) for x in lines))


def _runs(curve: Free) -> list[Shape]:
    """Return a curve as its straight runs and arcs, and what is neither."""
    whole = arc_of(curve.points)
    if whole is not None and (
        whole.last - whole.first > _TELLING_SWEEP or arc_of(curve.points, _EXACT_MM) is not None
    ):
        return [whole]
    points, found = curve.points, list[Shape]()
    steps = np.hypot(*np.diff(np.array(points), axis=0).T)
    usual = float(np.median(steps))
    begin = at = 0
    while at < len(points) - 1:
        run, end = _run_from(points, at, usual)
        if run is None:
            at += 1
            continue
        if at > begin:
            found.append(Free(points[begin : at + 1]))
        found.append(run)
        begin = at = end
    if begin == 0:
        return [curve]
    if begin < len(points) - 1:
        found.append(Free(points[begin:]))
    return found


def _run_from(points: tuple[Vec2, ...], at: int, usual: float) -> tuple[Shape | None, int]:
    """Return the straight run or arc that a curve begins at a point, and the point it ends at."""
    straight = _furthest(points, at, 1, _is_straight)
    if math.dist(points[at], points[straight]) > max(_LEAST_RUN_MM, 6 * usual):
        return Straight(points[at], points[straight]), straight
    last = _furthest(
        points, at, _FEWEST_IN_RUN, lambda some: arc_of(some, _EXACT_MM, 0.0) is not None
    )
    bow = arc_of(points[at : last + 1], _EXACT_MM)
    if bow is None:
        return None, at
    # the ends of a curve are less exact
    while last + 1 < len(points) and (
        abs(math.dist(points[last + 1], bow.centre) - bow.radius) < APART_MM
    ):
        last += 1
    bow = _spanning(bow, points[at : last + 1])
    if bow.last - bow.first > _LEAST_SWEEP:
        return bow, last
    return None, at


def _spanning(bow: Bow, points: tuple[Vec2, ...]) -> Bow:
    """Return the arc of a circle along which points run."""
    off = np.array(points) - np.array(bow.centre)
    turns = np.unwrap(np.arctan2(off[:, 1], off[:, 0]))
    low, high = sorted((float(turns[0]), float(turns[-1])))
    first = low % math.tau
    return replace(bow, first=first, last=first + min(high - low, math.tau))


def _furthest(
    points: tuple[Vec2, ...], at: int, least: int, fits: Callable[[tuple[Vec2, ...]], bool]
) -> int:
    """Return how far a run that begins at a point goes on to fit: to that point if not at all."""
    low, step = at, least
    while low + step < len(points) and fits(points[at : low + step + 1]):
        low, step = low + step, step * 2
    while step > 1:
        step //= 2
        if (
            low + step < len(points)
            and low + step - at >= least
            and fits(points[at : low + step + 1])
        ):
            low += step
    return low


def _is_straight(points: tuple[Vec2, ...]) -> bool:
    (a, b), (c, d) = points[0], points[-1]
    size = math.dist(points[0], points[-1])
    return size > 0 and all(
        abs((c - a) * (y - b) - (d - b) * (x - a)) < _EXACT_MM * size for x, y in points
    )


def _meant(value: float) -> float:
    """Return the figure that is all but hit: samples of a curve are not exact."""
    near = round(value, 3)
    return near if abs(value - near) < _MEANT_MM else value


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


def arc_of(
    points: tuple[Vec2, ...], within: float = APART_MM, least_sag: float = _LEAST_SAG_MM
) -> Bow | None:
    """Return the arc on which points lie `within` some mm, None where they lie on none, or where it
    bows less than it must to be told from a straight line.

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
    if gaps.max() > within:
        return None
    turns = np.unwrap(np.arctan2(from_centre[:, 1], from_centre[:, 0]))
    span = float(turns[-1] - turns[0])
    if radius * (1 - math.cos(min(abs(span), math.pi) / 2)) < least_sag:
        return None
    if np.abs(np.diff(turns)).max() > 1.0 or (np.diff(turns) * span).min() < 0:
        return None
    first = float(turns[0] if span > 0 else turns[-1]) % math.tau
    span = abs(span)
    if radius * abs(span - math.tau) < NEAR_LINE_MM:
        first, span = 0.0, math.tau
    centre = _meant(float(middle[0] + a)), _meant(float(middle[1] + b))
    return Bow(centre, _meant(radius), first, first + min(span, math.tau))
