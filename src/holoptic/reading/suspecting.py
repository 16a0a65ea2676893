"""Shapes parallel to no axis that views may show: looked for by the lines they leave.

A cone leaves a circle in one view and slanted lines over its diameter in another, a ball equal
arcs in two, a skew corner cut slanted lines over the same corner in two, a pyramid lines that all
run to one point. Each is only suspected: whether it is there the cells decide.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from itertools import combinations, product

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.reading.lines import Bow, DrawnView, Straight
from holoptic.reading.planes import PLANES
from holoptic.reading.skew_shapes import BallShape, ConeShape, CornerShape, SkewShape, TaperShape
from holoptic.tolerance import ROUGH_MM, SHARE

_MOST = 12
"""Shapes suspected at once; each may part every cell in two."""


def suspected(views: Sequence[DrawnView], sizes: Vec3) -> list[SkewShape]:
    """Return the shapes that canonical views may show."""
    by_depth = {PLANES[view.name].depth: view for view in views}
    found: list[SkewShape] = []
    for depth in range(3):
        found += _cones(depth, by_depth)
        found += _tapers(depth, by_depth)
    found += _balls(by_depth, sizes)
    found += _corners(by_depth, sizes)
    return list(dict.fromkeys(found))[:_MOST]


def _near(a: float, b: float) -> bool:
    return abs(a - b) < ROUGH_MM


def _slanted(view: DrawnView) -> list[Straight]:
    return [
        line.shape
        for line in view.drawn
        if isinstance(line.shape, Straight)
        and not _near(line.shape.start[0], line.shape.end[0])
        and not _near(line.shape.start[1], line.shape.end[1])
    ]


def _bows(view: DrawnView) -> list[Bow]:
    return [line.shape for line in view.drawn if isinstance(line.shape, Bow)]


def _beside(depth: int, views: dict[int, DrawnView]) -> Iterator[tuple[int, int, DrawnView]]:
    """Yield the views that hold a depth axis: the number of the axis that they share with the
    view along it, the place of that axis in them, and the view.
    """
    for k, axis in enumerate(a for a in range(3) if a != depth):
        view = views.get(3 - depth - axis)
        if view is not None:
            yield k, PLANES[view.name].axes.index(axis), view


def _levels(line: Straight, own: int) -> tuple[tuple[float, float], tuple[float, float]]:
    """Return the ends of a line as (value along the shared axis, depth)."""
    return (line.start[own], line.start[1 - own]), (line.end[own], line.end[1 - own])


def _cones(depth: int, views: dict[int, DrawnView]) -> Iterator[ConeShape]:
    for bow in _bows(views[depth]) if depth in views else ():
        for k, own, view in _beside(depth, views):
            for line in _slanted(view):
                for (a, at), (b, to) in _both_ways(_levels(line, own)):
                    reach = abs(a - bow.centre[k])
                    other = abs(b - bow.centre[k])
                    if not _near(reach, bow.radius) or other > reach + ROUGH_MM:
                        continue
                    if (a - bow.centre[k]) * (b - bow.centre[k]) < -ROUGH_MM:
                        continue
                    other = 0.0 if other < ROUGH_MM else other
                    ends = sorted(((at, bow.radius), (to, other)))
                    yield ConeShape(depth, bow.centre, ends[0][0], ends[1][0],
                                    round(ends[0][1], 6), round(ends[1][1], 6))  # fmt: skip


def _both_ways(
    ends: tuple[tuple[float, float], tuple[float, float]],
) -> Iterable[tuple[tuple[float, float], tuple[float, float]]]:
    return ends, (ends[1], ends[0])


def _balls(views: dict[int, DrawnView], sizes: Vec3) -> Iterator[BallShape]:
    """Yield balls, halves where the crate cuts them: equal arcs about one centre in two views."""
    for one, other in combinations(sorted(views), 2):
        shared = 3 - one - other
        own = PLANES[views[one].name].axes.index(shared)
        theirs = PLANES[views[other].name].axes.index(shared)
        for a, b in product(_bows(views[one]), _bows(views[other])):
            if not _near(a.radius, b.radius) or not _near(a.centre[own], b.centre[theirs]):
                continue
            centre = [0.0, 0.0, 0.0]
            centre[shared] = a.centre[own]
            centre[other] = a.centre[1 - own]
            centre[one] = b.centre[1 - theirs]
            x, y, z = (round(value, 6) for value in centre)
            radius = round(a.radius, 6)
            if all(radius <= c <= size - radius for c, size in zip((x, y, z), sizes, strict=True)):
                yield BallShape((x, y, z), radius)
                continue
            for axis, upper in product(range(3), (False, True)):
                yield BallShape((x, y, z), radius, (axis, upper))


def _corners(views: dict[int, DrawnView], sizes: Vec3) -> Iterator[CornerShape]:
    for far in product((False, True), repeat=3):
        corner = [size if is_far else 0.0 for size, is_far in zip(sizes, far, strict=True)]
        offsets: list[set[float]] = [set(), set(), set()]
        pairs: set[tuple[int, float, int, float]] = set()
        for view in views.values():
            u, v = PLANES[view.name].axes
            for line in _slanted(view):
                for (a, b), (c, d) in ((line.start, line.end), (line.end, line.start)):
                    # from the edge along u, at the corner's v, to the edge along v
                    if _near(b, corner[v]) and _near(c, corner[u]):
                        along, up = round(abs(a - corner[u]), 4), round(abs(d - corner[v]), 4)
                        offsets[u].add(along)
                        offsets[v].add(up)
                        pairs.add((u, along, v, up))
        for x, y, z in product(*offsets):
            agree = sum(p in pairs for p in ((0, x, 1, y), (0, x, 2, z), (1, y, 2, z)))
            if agree >= 2:
                yield CornerShape((corner[0], corner[1], corner[2]),
                                  (far[0], far[1], far[2]), (x, y, z))  # fmt: skip


def _tapers(depth: int, views: dict[int, DrawnView]) -> Iterator[TaperShape]:
    """Yield pyramids: lines of a view whose carriers meet in one point and end in like shares."""
    if depth not in views:
        return
    lines = [line.shape for line in views[depth].drawn if isinstance(line.shape, Straight)]
    seen: set[tuple[int, int]] = set()
    for a, b in combinations(lines, 2):
        centre = _meeting(a, b)
        if centre is None or (key := (round(centre[0] * 50), round(centre[1] * 50))) in seen:
            continue
        seen.add(key)
        spokes: dict[float, list[tuple[Vec2, Vec2]]] = {}
        for line in lines:
            spoke = _spoke(line, centre)
            if spoke is not None:
                spokes.setdefault(round(spoke[2], 2), []).append(spoke[:2])
        for share, group in spokes.items():
            if len(group) >= 3:
                yield from _standing(depth, centre, group, share, views)


def _meeting(a: Straight, b: Straight) -> Vec2 | None:
    (px, py), (rx, ry) = a.start, (a.end[0] - a.start[0], a.end[1] - a.start[1])
    (qx, qy), (sx, sy) = b.start, (b.end[0] - b.start[0], b.end[1] - b.start[1])
    turn = rx * sy - ry * sx
    if abs(turn) < SHARE * math.hypot(rx, ry) * math.hypot(sx, sy):
        return None
    t = ((qx - px) * sy - (qy - py) * sx) / turn
    return px + t * rx, py + t * ry


def _spoke(line: Straight, centre: Vec2) -> tuple[Vec2, Vec2, float] | None:
    """Return a line that runs toward a centre: far end, near end, near over far distance."""
    far, near = sorted((line.start, line.end), key=lambda p: -math.dist(p, centre))
    reach, rest = math.dist(far, centre), math.dist(near, centre)
    if reach < 1.0 or abs(reach - rest - math.dist(far, near)) > ROUGH_MM:
        return None
    return far, near, rest / reach


def _standing(
    depth: int, centre: Vec2, spokes: list[tuple[Vec2, Vec2]], share: float,
    views: dict[int, DrawnView],
) -> Iterator[TaperShape]:  # fmt: skip
    """Yield the pyramid on spokes, between the levels that a view beside shows one of them at."""
    spokes = sorted(spokes, key=lambda s: math.atan2(s[0][1] - centre[1], s[0][0] - centre[0]))
    far = tuple(spoke[0] for spoke in spokes)
    exact = sum(math.dist(n, centre) for _, n in spokes) / sum(math.dist(f, centre) for f in far)
    levels: set[tuple[float, float]] = set()
    for k, own, view in _beside(depth, views):
        for line in _slanted(view):
            for (a, at), (b, to) in _both_ways(_levels(line, own)):
                if any(_near(a, f[k]) and _near(b, n[k]) for f, n in spokes):
                    levels.add((round(at, 6), round(to, 6)))
    for wide, narrow in levels:
        shape = TaperShape(depth, centre, far, wide, narrow, 0.0 if share == 0 else exact)
        if shape.is_about_centre and (shape.is_box or shape.is_regular):
            yield shape
