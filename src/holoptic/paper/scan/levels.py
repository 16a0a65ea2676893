"""Levels: along each axis of the part, where lines of all views lie, put on common places.

What was measured of one level in several views is weighed together; so the views agree exactly,
which is what reading needs, and a size that is known of an axis stretches all of its levels.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.paper.axis_levels import SAME_LEVEL_MM, Levels
from holoptic.paper.given import Sizes, TrueLevels
from holoptic.paper.scan.roles import Found
from holoptic.paper.scan.rounds import agreeing
from holoptic.reading.lines import Bow, Box, Shape, Straight, box_of
from holoptic.reading.planes import PLANES

Rounding = float
"""To whole multiples of what levels are put, mm; 0: as they were measured."""
_SAME_MM = 0.36
_OUTER_MM = 0.45
_HIDDEN_WEIGHT = 0.4
_LEAST_SHARE = 0.2
_STEPS_MM = ((0.5, 0.05), (0.1, 0.02), (0.05, 0.01))
"""Steps, and how far off levels lie in the mean of squares that are meant so; by chance they lie
0.29 of a step off."""
_ROUNDS_MM, _TENTH_MM = 0.13, 0.1
_NEAR_RADIUS_MM = 0.35
_QUARTER_MM = 0.5
SHORTEST_MM = 0.3


@dataclass(frozen=True)
class ViewFound:
    """A view as it was found on its sheet (mm of paper, Y up): its name, its lines, its box by
    outer sides that more than a stray end bears out.
    """

    name: str
    lines: tuple[Found, ...]
    box: Box


def outer_box(lines: Sequence[Found]) -> Box:
    """Return the box about the visible lines of a view; each side by two witnesses, or by a line
    along it. Raises ValueError for none.
    """
    visible = [line for line in lines if line.role == "visible"] or list(lines)
    if not visible:
        raise ValueError("no lines")
    low = [_outer(visible, axis, -1) for axis in (0, 1)]
    high = [_outer(visible, axis, 1) for axis in (0, 1)]
    return low[0], low[1], high[0], high[1]


def _outer(lines: Sequence[Found], axis: int, side: int) -> float:
    witnesses: list[tuple[float, float]] = []
    for line in lines:
        shape = line.shape
        if isinstance(shape, Straight):
            if math.dist(shape.start, shape.end) < 2.0:
                continue
            if line.axis == 1 - axis:
                witnesses.append(((shape.start[axis] + shape.end[axis]) / 2, 2.0))
            else:
                witnesses += [(shape.start[axis], 1.0), (shape.end[axis], 1.0)]
        else:
            box = box_of([shape])
            witnesses += [(box[axis], 2.0), (box[axis + 2], 2.0)]
    if not witnesses:
        box = box_of([line.shape for line in lines])
        return box[axis + 2] if side > 0 else box[axis]
    witnesses.sort(key=lambda one: -side * one[0])
    places, weights = np.array(witnesses).T
    for place in places:
        near = np.abs(places - place) < _OUTER_MM
        if weights[near].sum() >= 2:
            return float(np.average(places[near], weights=weights[near] ** 2))
    return float(places[0])


# --- levels ---------------------------------------------------------------------------------------


def levels_of(
    views: Sequence[ViewFound], sizes: Sizes = (None, None, None),
    true: Sequence[TrueLevels] = ((), (), ()), rounding: Rounding = 0.0,
) -> list[Levels]:  # fmt: skip
    """Return the levels along length, depth and height; a size that is given (mm) is that of the
    part, and where none is, the mean of the others scales it. `true` are levels of each axis whose
    places are known; the others lie between them as measured, rounded.
    """
    measured = [_measured(views, axis) for axis in range(3)]
    stretches = [_stretch(own, size, known)
                 for own, size, known in zip(measured, sizes, true, strict=True)]  # fmt: skip
    some = [stretch for stretch in stretches if stretch is not None]
    usual = float(np.median(some)) if some else 1.0
    found, held = [], []
    for own, stretch, size, known in zip(measured, stretches, sizes, true, strict=True):
        if own:
            placed = _placed(own, stretch or usual, size, known, rounding)
            found.append(Levels(tuple(own), placed))
        else:
            found.append(Levels((0.0,), (0.0,)))
        told = {_nearest(own, at) for at, _ in known} if own else set()
        held.append(frozenset({0, len(own) - 1} | told))
    whole = [(view.name, view.lines, view.box) for view in views]
    return agreeing(whole, found, held, rounding)


def _nearest(own: Sequence[float], at: float) -> int:
    return min(range(len(own)), key=lambda k: abs(own[k] - at))


def likely_roundings(levels: Sequence[Levels]) -> list[Rounding]:
    """Return how levels may be meant, the likeliest first: in halves, tenths or twentieths where
    they lie nearer to such than chance puts them, then as they were measured, then in tenths all
    the same. None is always right, so each may be tried in turn.
    """
    inner = np.array([at for one in levels for at in one.placed[1:-1]])
    if not len(inner):
        return [0.0]
    likely = [
        step for step, within in _STEPS_MM
        if float(np.sqrt(np.mean((inner - np.round(inner / step) * step) ** 2))) < within
    ]  # fmt: skip
    return list(dict.fromkeys([*likely, 0.0, _TENTH_MM]))


def _stretch(own: Sequence[float], size: float | None, known: TrueLevels) -> float | None:
    """Return how much larger the part is along an axis than what was measured, None if unknown."""
    span = own[-1] - own[0] if own else 0.0
    if span <= 0:
        return None
    if size:
        return size / span
    far = max(known, key=lambda pair: pair[0], default=None)
    if far is not None and far[0] > _LEAST_SHARE * span and far[1] > 0:
        return far[1] / far[0]
    return None


def _placed(
    own: Sequence[float], stretch: float, size: float | None, known: TrueLevels, rounding: Rounding
) -> tuple[float, ...]:
    """Return where levels are put: those that are known there, the others between them."""
    low = own[0]
    anchors = {low: 0.0}
    if size:
        anchors[own[-1]] = size
    for measured, true in known:
        nearest = min(own, key=lambda at: abs(at - measured))
        if abs(nearest - measured) < SAME_LEVEL_MM:
            anchors[nearest] = true
    at = sorted(anchors)
    placed: list[float] = []
    for level in own:
        if level in anchors:
            place = anchors[level]
        else:
            below = max((a for a in at if a < level), default=at[0])
            above = min((a for a in at if a > level), default=None)
            if above is None or anchors[above] <= anchors[below]:
                place = anchors[below] + (level - below) * stretch
            else:
                share = (level - below) / (above - below)
                place = anchors[below] + share * (anchors[above] - anchors[below])
            place = _rounded(place, rounding)
        placed.append(max(place, placed[-1]) if placed else place)
    return tuple(placed)


def _rounded(place: float, rounding: Rounding) -> float:
    if not rounding:
        return place
    near = round(round(place / rounding) * rounding, 3)
    return near if abs(near - place) < _ROUNDS_MM else place


def _measured(views: Sequence[ViewFound], axis: int) -> list[float]:
    """Return where levels lie along an axis, from the low side of the part."""
    seen = [one for view in views for one in _observed(view, axis)]
    if not seen:
        return []
    seen.sort()
    groups: list[list[tuple[float, float]]] = [[seen[0]]]
    for one in seen[1:]:
        last = groups[-1]
        if one[0] - last[-1][0] > _SAME_MM or one[0] - last[0][0] > 2 * _SAME_MM:
            groups.append([])
        groups[-1].append(one)
    heavy = [(float(np.average([v for v, _ in g], weights=[w for _, w in g])),
              sum(w for _, w in g)) for g in groups]  # fmt: skip
    low, high = _ends(views, axis)
    kept = [at for at, _ in heavy if low - SAME_LEVEL_MM < at < high + SAME_LEVEL_MM]
    return kept or [at for at, _ in heavy]


def _ends(views: Sequence[ViewFound], axis: int) -> tuple[float, float]:
    long = [view.box[k + 2] - view.box[k] for view in views
            for k, own in enumerate(PLANES[view.name].axes) if own == axis]  # fmt: skip
    return 0.0, float(np.median(long)) if long else 0.0


def _observed(view: ViewFound, axis: int) -> Iterator[tuple[float, float]]:
    """Yield where lines of a view lie along an axis, and how much each counts."""
    plane = PLANES[view.name]
    if axis not in plane.axes:
        return
    k = plane.axes.index(axis)
    low, high = view.box[k], view.box[k + 2]

    def own(at: float) -> float:
        return high - at if plane.turned[k] else at - low

    for line in view.lines:
        shape = line.shape
        share = 1.0 if line.role == "visible" else _HIDDEN_WEIGHT
        if isinstance(shape, Straight):
            long = math.dist(shape.start, shape.end)
            if line.axis == 1 - k:
                yield own((shape.start[k] + shape.end[k]) / 2), long * share
            elif line.role != "centre":
                weight = 0.3 if line.axis == k else 0.8
                yield own(shape.start[k]), weight * share
                yield own(shape.end[k]), weight * share
        elif isinstance(shape, Bow):
            yield own(shape.centre[k]), 0.8 * shape.radius * share
            box = box_of([shape])
            for at in (box[k], box[k + 2]):
                if abs(abs(at - shape.centre[k]) - shape.radius) < _NEAR_RADIUS_MM:
                    yield own(at), 0.4 * shape.radius * share


# --- putting lines on them ------------------------------------------------------------------------


def settled(view: ViewFound, levels: Sequence[Levels]) -> list[Found]:
    """Return the lines of a view on the levels, in mm of the part from the view's own corner."""
    plane = PLANES[view.name]
    own = [levels[axis] for axis in plane.axes]
    sizes = [one.placed[-1] for one in own]

    def to(place: Vec2) -> Vec2:
        found = []
        for k in (0, 1):
            low, high = view.box[k], view.box[k + 2]
            if plane.turned[k]:
                found.append(sizes[k] - own[k].put(high - place[k]))
            else:
                found.append(own[k].put(place[k] - low))
        return found[0], found[1]

    scale = sum(one.scale for one in own) / 2
    done = []
    for line in view.lines:
        shape = _settled(line, to, scale)
        if shape is not None:
            done.append(replace(line, shape=shape))
    return done


def _settled(line: Found, to: object, scale: float) -> Shape | None:
    assert callable(to)
    shape = line.shape
    if isinstance(shape, Straight):
        start, end = shape.start, shape.end
        if line.axis is not None:
            k = 1 - line.axis
            middle = (start[k] + end[k]) / 2
            start, end = _with_axis(start, k, middle), _with_axis(end, k, middle)
        a, b = to(start), to(end)
        return Straight(a, b) if math.dist(a, b) > SHORTEST_MM else None
    if not isinstance(shape, Bow):
        return None
    return _settled_bow(shape, to, scale)


def _with_axis(place: Vec2, axis: int, value: float) -> Vec2:
    return (value, place[1]) if axis == 0 else (place[0], value)


def _settled_bow(bow: Bow, to: object, scale: float) -> Bow:
    assert callable(to)
    centre = to(bow.centre)
    radius = bow.radius * scale
    edges = []
    for quarter in range(4):
        on = bow.at(quarter * math.pi / 2)
        edges.append(abs(to(on)[quarter % 2] - centre[quarter % 2]))
    near = [edge for edge in edges if abs(edge - radius) < _NEAR_RADIUS_MM * max(scale, 1.0)]
    if near:
        radius = float(np.median(near))
    if bow.is_closed:
        return Bow(centre, radius, 0.0, math.tau)
    first, last = (_turned_to(angle, bow, to, centre) for angle in (bow.first, bow.last))
    while last <= first:
        last += math.tau
    return Bow(centre, radius, first % math.tau, first % math.tau + last - first)


def _turned_to(angle: float, bow: Bow, to: object, centre: Vec2) -> float:
    """Return the angle of an arc's end: at a quarter where it is near one, else by its place."""
    assert callable(to)
    quarter = round(angle / (math.pi / 2)) * math.pi / 2
    if abs(angle - quarter) * bow.radius < _QUARTER_MM:
        return quarter
    place = to(bow.at(angle))
    return math.atan2(place[1] - centre[1], place[0] - centre[0])
