"""What a careful drafter notices in views before reading them, each with its place."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import combinations, pairwise

import numpy as np
import shapely

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.part.crate import AXIS_NAMES
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Straight
from holoptic.reading.pieces import SHORTEST_MM
from holoptic.reading.planes import OPPOSITE, PLANES, canonical
from holoptic.reading.result import Check
from holoptic.reading.space import clustered
from holoptic.tolerance import DRAWN_MM
from holoptic.units.spoken import figure, measure

NEAR_MISS_MM = 0.1
"""Ends nearer than this but not together are taken for a slip of the pen (length, mm)."""
_SIZES_AGREE_MM = 0.02
_UNDER_MM = 0.02


def check_views(views: Sequence[DrawnView]) -> list[Check]:
    """Return what is odd about views, the gravest first; nothing for sound ones."""
    found = list(_sizes_apart(views))
    found += _wrong_side(views)
    for view in views:
        found += _loose_ends(view)
        found += _near_misses(view)
        found += _doubled(view)
    found += _without_counterpart(views)
    return found


def _sizes_apart(views: Sequence[DrawnView]) -> Iterator[Check]:
    for one, other in combinations(views, 2):
        for axis in set(PLANES[one.name].axes) & set(PLANES[other.name].axes):
            (a, path), (b, _) = _size_along(one, axis), _size_along(other, axis)
            if abs(a - b) > _SIZES_AGREE_MM:
                words = tr(
                    "the overall {axis_names} is {a} in the {name} view but {b} in "
                    "the {name2} view",
                    axis_names=AXIS_NAMES[axis],
                    a=figure(a),
                    name=tr(one.name),
                    b=figure(b),
                    name2=tr(other.name),
                )
                yield Check("sizes", one.name, path, words, abs(a - b) <= NEAR_MISS_MM)


def _size_along(view: DrawnView, axis: int) -> tuple[float, tuple[Vec2, ...]]:
    xmin, ymin, xmax, ymax = view.box
    if PLANES[view.name].axes.index(axis) == 0:
        return xmax - xmin, ((xmin, ymin), (xmax, ymin))
    return ymax - ymin, ((xmax, ymin), (xmax, ymax))


def _ends(view: DrawnView) -> list[Vec2]:
    return [
        end
        for line in view.drawn
        if not _is_closed(line)
        for end in (line.shape.start, line.shape.end)
    ]


def _is_closed(line: DrawnLine) -> bool:
    if isinstance(line.shape, Bow):
        return line.shape.is_closed
    return math.dist(line.shape.start, line.shape.end) < DRAWN_MM


def _loose_ends(view: DrawnView) -> Iterator[Check]:
    """Yield ends of visible lines that touch nothing."""
    paths = [shapely.LineString(line.shape.path()) for line in view.drawn]
    tree = shapely.STRtree(paths)
    for number, line in enumerate(view.drawn):
        if _is_closed(line):
            continue
        for end in (line.shape.start, line.shape.end):
            near = tree.query(shapely.Point(end), "dwithin", NEAR_MISS_MM)
            if all(k == number for k in near.tolist()):
                yield Check("loose end", view.name, (end,), tr("a line ends here in nothing"))


def _near_misses(view: DrawnView) -> Iterator[Check]:
    """Yield ends that come near each other but do not meet."""
    ends = np.array(_ends(view)).reshape(-1, 2)
    seen: set[tuple[float, float]] = set()
    for k, end in enumerate(ends):
        gaps = np.hypot(*(ends[k + 1 :] - end).T)
        near = (gaps > DRAWN_MM) & (gaps < NEAR_MISS_MM)
        place = round(float(end[0]), 1), round(float(end[1]), 1)
        if near.any() and place not in seen:
            seen.add(place)
            gap = float(gaps[near].min())
            words = tr(
                "two lines miss each other here by {float}", float=measure(float(f"{gap:.2g}"))
            )
            yield Check("near miss", view.name, (_pair(end),), words, can_be_mended=True)


def _doubled(view: DrawnView) -> Iterator[Check]:
    """Yield lines drawn twice, and hidden lines under visible ones."""
    lines = view.drawn
    paths = [shapely.LineString(line.shape.path()) for line in lines]
    visible = [
        path.buffer(_UNDER_MM, cap_style="square")
        for path, line in zip(paths, lines, strict=True)
        if line.status == "visible"
    ]
    over = shapely.union_all(visible)
    done: set[int] = set()
    for number, (line, path) in enumerate(zip(lines, paths, strict=True)):
        if _size(line) < SHORTEST_MM:
            yield Check("sliver", view.name, _path(line), tr("a line is too short to be one"), True)
        elif line.status == "hidden" and path.within(over):
            words = tr("a hidden line is drawn under a visible one")
            yield Check("hidden under visible", view.name, _path(line), words, True)
        elif number not in done:
            twins = _twins(number, lines, paths)
            done.update(twins)
            for twin in twins:  # it lies on the other one as a whole, which need not lie on it
                yield Check("doubled", view.name, _path(lines[twin]), tr("a line is drawn twice"),
                            True)  # fmt: skip


def _twins(
    number: int, lines: Sequence[DrawnLine], paths: Sequence[shapely.LineString]
) -> list[int]:
    around = paths[number].buffer(_UNDER_MM, cap_style="square")
    return [
        k
        for k in range(number + 1, len(lines))
        if lines[k].status == lines[number].status and paths[k].within(around)
    ]


def _without_counterpart(views: Sequence[DrawnView]) -> Iterator[Check]:
    """Yield lines along an axis at a level that no line of the neighbouring view begins or ends at.

    Every edge square to a view's axis lies on a level that shows in the view beside it.
    """
    whole = [canonical(view) for view in views]
    for view, given in zip(whole, views, strict=True):
        for k, axis in enumerate(PLANES[view.name].axes):
            for other in whole:
                if other is view or axis not in PLANES[other.name].axes:
                    continue
                levels = _levels(other, PLANES[other.name].axes.index(axis))
                for line, path in zip(view.lines, given.lines, strict=True):
                    at = _level_of(line, k)
                    if at is not None and np.abs(levels - at).min() > NEAR_MISS_MM:
                        words = tr(
                            "this line has no counterpart in the {name} view", name=tr(other.name)
                        )
                        yield Check("no counterpart", view.name, _path(path), words)


def _wrong_side(views: Sequence[DrawnView]) -> Iterator[Check]:
    """Yield a view whose lines find their counterparts only as those of the opposite view."""
    if not any(_without_counterpart(views)):
        return
    for name in ("front", "right", "left", "rear"):
        view = next((view for view in views if view.name == name), None)
        if view is None:
            continue
        other = OPPOSITE[name]
        turned = [replace(view, name=other) if one is view else one for one in views]
        if not any(_without_counterpart(turned)):
            xmin, ymin, xmax, ymax = view.box
            path = (xmin, ymin), (xmax, ymin), (xmax, ymax), (xmin, ymax), (xmin, ymin)
            words = tr(
                "the {name} view fits the others only as a {other} view: it is drawn from the "
                "wrong side, or named wrongly",
                name=tr(name),
                other=tr(other),
            )
            yield Check("wrong side", name, path, words)
            return


def _levels(view: DrawnView, axis: int) -> np.ndarray:
    values = [end[axis] for end in _ends(view)]
    for line in view.drawn:
        if isinstance(line.shape, Bow):
            values += [line.shape.centre[axis] + s * line.shape.radius for s in (-1, 0, 1)]
        elif not isinstance(line.shape, Straight):
            values += [point[axis] for point in line.shape.path()]
    return clustered(values)


def _level_of(line: DrawnLine, axis: int) -> float | None:
    """Return the level that a straight line along the other axis keeps."""
    shape = line.shape
    if line.status == "centre" or not isinstance(shape, Straight):
        return None
    if abs(shape.start[axis] - shape.end[axis]) > DRAWN_MM:
        return None
    return shape.start[axis]


def _size(line: DrawnLine) -> float:
    path = line.shape.path()
    return sum(math.dist(a, b) for a, b in pairwise(path))


def _path(line: DrawnLine) -> tuple[Vec2, ...]:
    return tuple(line.shape.path())


def _pair(point: np.ndarray) -> Vec2:
    return float(point[0]), float(point[1])
