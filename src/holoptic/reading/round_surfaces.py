"""Cones, balls, rings and leaning cylinders: looked for by the lines that they leave in views.

A cone leaves a circle in one view and lines toward its tip over the circle's diameter in the
others; a ball equal arcs about one centre in two views; a ring circles in one view and the circles
of its section in another; a cylinder that leans two parallel lines in the view along which it
leans, and ovals as wide as these are apart in the others. Each is only suspected: whether it is
there the cells decide.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import combinations, product
from typing import NamedTuple

from holoptic.curves.vectors import Vec2, dot, unit
from holoptic.part.walls import Drum, Globe, Taper, Tyre
from holoptic.reading.lines import Bow, DrawnView, Free, Straight
from holoptic.reading.planes import PLANES, placed
from holoptic.reading.surfaces import RingSurface, Surface, everywhere
from holoptic.tolerance import GIVEN_MM, LEANING, ROUGH_MM, TURN

Views = dict[int, DrawnView]
_LEAST_RADIUS = 0.3
_PARALLEL = TURN
_SAME_TIP_MM = 5 * GIVEN_MM
"""Two views that tell one level of a tip to this need no line that ends there."""
_LEAST_SLOPE = 0.02
"""A single line that leans less from the axis (run to rise) is no cone's."""
_LEAST_LEAN = LEANING
"""Of two lines to one tip each leans more than this."""


def round_surfaces(views: Views) -> Iterator[Surface | RingSurface]:
    """Yield the round surfaces, edge-on in no view, that canonical views by depth may show."""
    for depth in range(3):
        yield from map(cone_surface, _once(list(_cones(depth, views))))
    yield from map(ball_surface, _balls(views))
    for depth in range(3):
        for ring in _rings(depth, views):
            yield RingSurface(ring)
            # at a rounded rim it parts what lies behind the rounding from what was taken off
            yield drum_surface(Drum(ring.centre, ring.way, ring.radius))
        yield from map(drum_surface, _leaning(depth, views))


# --- cones ------------------------------------------------------------------------------------


def _cones(depth: int, views: Views) -> Iterator[Taper]:
    """Yield cones on the circles of the view along their axis, or what is their base's axis."""
    if depth not in views:
        return
    for centre, radius in _circles(views[depth]):
        tips = [list(_tips(depth, k, views, centre[k], radius)) for k in (0, 1)]
        whole: list[_Tip] = []
        for a, b in product(*tips):
            tip = a.place, b.place
            agree = _near(a.level, b.level) and _near(a.at, b.at)
            both = a.by_two and b.by_two and abs(a.level - b.level) < _SAME_TIP_MM
            is_told = both or math.dist(tip, centre) < ROUGH_MM
            if agree and (is_told or _is_node(depth, tip, a.level, views)):
                yield _taper(depth, centre, radius, tip, a.at, a.level)
                whole += [a, b]
        # half a cone has one line of each pair, if it stands upright
        for k in (0, 1):
            for one in tips[k]:
                if _near(one.place, centre[k]) and one not in whole:
                    yield _taper(depth, centre, radius, centre, one.at, one.level)


def _once(cones: list[Taper]) -> Iterator[Taper]:
    """Yield cones, of those that two circles of one tell only that on the larger."""
    kept: list[Taper] = []
    for cone in sorted(cones, key=lambda cone: -cone.radius):
        if not any(_is_same(cone, other) for other in kept):
            kept.append(cone)
            yield cone


def _is_same(one: Taper, other: Taper) -> bool:
    """Say whether two cones have one tip, and on the way to it one radius at any level."""
    depth = next(axis for axis in range(3) if abs(one.way[axis]) > 0.5)
    share = (one.centre[depth] - one.tip[depth]) / (other.centre[depth] - other.tip[depth])
    middle = [tip + share * (at - tip) for tip, at in zip(other.tip, other.centre, strict=True)]
    return (
        math.dist(one.tip, other.tip) < 2 * ROUGH_MM
        and math.dist(one.centre, middle) < 2 * ROUGH_MM
        and abs(share * other.radius - one.radius) < 2 * ROUGH_MM
    )


def _is_node(depth: int, tip: Vec2, level: float, views: Views) -> bool:
    """Say whether lines of the views beside end at a tip."""
    place = placed(depth, tip, level)
    return all(
        any(math.dist(end, tuple(place[a] for a in PLANES[view.name].axes)) < 2 * ROUGH_MM
            for line in _straight(view) for end in (line.start, line.end))
        for other, view in views.items() if other != depth
    )  # fmt: skip


class _Tip(NamedTuple):
    """What a view beside makes of a circle: the tip's place along the axis that they share, its
    level, the circle's level, and whether lines on both sides tell it.
    """

    place: float
    level: float
    at: float
    by_two: bool


def _tips(depth: int, k: int, views: Views, middle: float, radius: float) -> Iterator[_Tip]:
    """Yield the tips that the view beside shows over a circle about `middle`."""
    axis = [a for a in range(3) if a != depth][k]
    view = views.get(3 - depth - axis)
    if view is None:
        return
    own = PLANES[view.name].axes.index(axis)
    sides: dict[int, list[tuple[float, float]]] = {-1: [], 1: []}
    for line in _straight(view):
        for start, end in ((line.start, line.end), (line.end, line.start)):
            run, rise = end[own] - start[own], end[1 - own] - start[1 - own]
            if abs(rise) < ROUGH_MM:
                continue
            for side in (-1, 1):
                if _near(start[own], middle + side * radius):
                    sides[side].append((start[1 - own], run / rise))
    paired = set()
    for (at, slope), (level, other) in product(sides[-1], sides[1]):
        if _near(at, level) and abs(slope - other) > _PARALLEL:
            rise = 2 * radius / (slope - other)
            by_two = min(abs(slope), abs(other)) > _LEAST_LEAN  # else a chamfer and a side
            place = middle - radius + slope * rise
            # far from the lines that tell it, a little is much
            place = middle if _near(place, middle) else place
            yield _Tip(place, at + rise, at, by_two)
            paired |= {(-1, at, slope), (1, level, other)}
    for side in (-1, 1):
        for at, slope in sides[side]:
            if abs(slope) > _LEAST_SLOPE and (side, at, slope) not in paired:
                yield _Tip(middle, at - side * radius / slope, at, by_two=False)


def _taper(depth: int, centre: Vec2, radius: float, tip: Vec2, at: float, level: float) -> Taper:
    way = [0.0, 0.0, 0.0]
    way[depth] = 1.0
    return Taper(placed(depth, tip, level), placed(depth, centre, at),
                 (way[0], way[1], way[2]), radius)  # fmt: skip


def cone_surface(cone: Taper) -> Surface:
    """Return a cone, on its tip's side toward the circle, as the surface it lies on.

    With s = (w − w₁) / (w₀ − w₁) from the tip's level to the circle's, the middle of the circle at
    a level is p + s·(c − p), and its radius s·r: |x − p − s·(c − p)|² = s²·r².
    """
    depth = next(axis for axis in range(3) if abs(cone.way[axis]) > 0.5)
    span = cone.centre[depth] - cone.tip[depth]
    a = [[0.0] * 3 for _ in range(3)]
    b, c = [0.0] * 3, 0.0
    # each coordinate across is x − m·w − n, with m = (c − p) / span
    for axis in (k for k in range(3) if k != depth):
        m = (cone.centre[axis] - cone.tip[axis]) / span
        n = cone.tip[axis] - m * cone.tip[depth]
        a[axis][axis] += 1.0
        a[axis][depth] -= m
        a[depth][axis] -= m
        a[depth][depth] += m * m
        b[axis] -= 2 * n
        b[depth] += 2 * m * n
        c += n * n
    k, start = cone.radius / span, cone.tip[depth]
    a[depth][depth] -= k * k
    b[depth] += 2 * k * k * start
    c -= (k * start) ** 2
    low, high = everywhere()
    low_, high_ = list(low), list(high)
    (low_ if span > 0 else high_)[depth] = start
    rows = tuple((row[0], row[1], row[2]) for row in a)
    return Surface(rows, (b[0], b[1], b[2]), c, (low_[0], low_[1], low_[2]),
                   (high_[0], high_[1], high_[2]), cone)  # fmt: skip


# --- balls ------------------------------------------------------------------------------------


def _balls(views: Views) -> Iterator[Globe]:
    """Yield balls: equal arcs about one centre in two views, but for what three views deny."""
    for one, other in combinations(sorted(views), 2):
        shared = 3 - one - other
        own = PLANES[views[one].name].axes.index(shared)
        theirs = PLANES[views[other].name].axes.index(shared)
        for (a, r), (b, s) in product(_circles(views[one]), _circles(views[other])):
            if _near(r, s) and _near(a[own], b[theirs]):
                centre = [0.0, 0.0, 0.0]
                centre[shared] = a[own]
                centre[other] = a[1 - own]
                centre[one] = b[1 - theirs]
                yield Globe((centre[0], centre[1], centre[2]), r)


def ball_surface(ball: Globe) -> Surface:
    """Return a ball's surface."""
    identity = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
    x, y, z = ball.centre
    low, high = everywhere()
    c = x * x + y * y + z * z - ball.radius**2
    return Surface(identity, (-2 * x, -2 * y, -2 * z), c, low, high, ball)


# --- rings ------------------------------------------------------------------------------------


def _rings(depth: int, views: Views) -> Iterator[Tyre]:
    """Yield rings about the circles of the view along their axis, whose section shows beside."""
    if depth not in views:
        return
    way = [0.0, 0.0, 0.0]
    way[depth] = 1.0
    circles = list(_circles(views[depth]))
    for k, axis in enumerate(a for a in range(3) if a != depth):
        view = views.get(3 - depth - axis)
        if view is None:
            continue
        own = PLANES[view.name].axes.index(axis)
        for (place, thick), (centre, radius) in product(_circles(view), circles):
            middle = abs(place[own] - centre[k])
            if middle < _LEAST_RADIUS or not any(
                _near(radius, middle + sign * thick) for sign in (-1, 0, 1)
            ):
                continue
            yield Tyre(placed(depth, centre, place[1 - own]), (way[0], way[1], way[2]),
                       middle, thick)  # fmt: skip


# --- leaning cylinders ------------------------------------------------------------------------


def _leaning(depth: int, views: Views) -> Iterator[Drum]:
    """Yield cylinders whose axis is square to the view along `depth`, and leans in it."""
    if depth not in views:
        return
    lines = [line for line in _straight(views[depth]) if _is_slanted(line)]
    others = [views[axis] for axis in range(3) if axis != depth and axis in views]
    # lines tell exactly how wide it is, samples of a curve only nearly
    exact = sorted({level for view in others for level in _level_lines(view, depth)})
    rough = sorted({value for view in others for value in _extremes(view, depth)})
    widths = [*combinations(exact, 2), *combinations(rough, 2)]
    for one, other in combinations(lines, 2):
        gap = _gap(one, other)
        if gap is None:
            continue
        radius, point, way = gap
        for low, high in widths:
            if abs(high - low - 2 * radius) < 2 * ROUGH_MM:
                yield Drum(placed(depth, point, (low + high) / 2), placed(depth, way, 0.0), radius)


def _gap(one: Straight, other: Straight) -> tuple[float, Vec2, Vec2] | None:
    """Return half the gap of two parallel lines, a point half way between them, their way."""
    (a, b), (c, d) = one.start, one.end
    size = math.dist(one.start, one.end)
    x, y = (c - a) / size, (d - b) / size
    offs = [(p[0] - a) * -y + (p[1] - b) * x for p in (other.start, other.end)]
    if abs(offs[0] - offs[1]) > ROUGH_MM or abs(offs[0]) < 2 * _LEAST_RADIUS:
        return None
    alongs = sorted((p[0] - a) * x + (p[1] - b) * y for p in (other.start, other.end))
    if alongs[0] > size + abs(offs[0]) or alongs[1] < -abs(offs[0]):
        return None
    half = (offs[0] + offs[1]) / 4
    return abs(half), (a - half * y, b + half * x), (x, y)


def _level_lines(view: DrawnView, axis: int) -> Iterator[float]:
    """Yield where lines of a view stay along an axis."""
    own = PLANES[view.name].axes.index(axis)
    for line in _straight(view):
        if _near(line.start[own], line.end[own]):
            yield round(line.start[own], 4)


def _extremes(view: DrawnView, axis: int) -> Iterator[float]:
    """Yield how far free curves and arcs of a view reach along an axis."""
    own = PLANES[view.name].axes.index(axis)
    for line in view.drawn:
        if isinstance(line.shape, Free):
            values = [point[own] for point in line.shape.points]
            yield round(min(values), 3)
            yield round(max(values), 3)


def drum_surface(drum: Drum) -> Surface:
    """Return a cylinder's surface: |x − p|² − ((x − p)·w)² = r²."""
    w, p = unit(drum.way), drum.point
    rows = [[(1.0 if i == j else 0.0) - w[i] * w[j] for j in range(3)] for i in range(3)]
    a = tuple((row[0], row[1], row[2]) for row in rows)
    ap = tuple(dot(row, p) for row in a)
    low, high = everywhere()
    c = dot(p, (ap[0], ap[1], ap[2])) - drum.radius**2
    return Surface(a, (-2 * ap[0], -2 * ap[1], -2 * ap[2]), c, low, high, drum)


# --- lines of a view --------------------------------------------------------------------------


def _circles(view: DrawnView) -> list[tuple[Vec2, float]]:
    """Return the circles that arcs of a view lie on, each once."""
    found: list[tuple[Vec2, float]] = []
    for line in view.drawn:
        if isinstance(line.shape, Bow):
            centre, radius = line.shape.centre, line.shape.radius
            if radius > _LEAST_RADIUS and not any(
                math.dist(centre, c) < ROUGH_MM and _near(radius, r) for c, r in found
            ):
                found.append((centre, radius))
    return found


def _straight(view: DrawnView) -> list[Straight]:
    return [line.shape for line in view.drawn if isinstance(line.shape, Straight)]


def _is_slanted(line: Straight) -> bool:
    return not _near(line.start[0], line.end[0]) and not _near(line.start[1], line.end[1])


def _near(a: float, b: float) -> bool:
    return abs(a - b) < ROUGH_MM
