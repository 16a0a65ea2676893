"""What cubic curves draw: arcs of circles where they are such, straight lines, free curves."""

from __future__ import annotations

import math
from collections.abc import Iterator

from holoptic.curves.vectors import Vec2
from holoptic.paper.vector.page import Beziers
from holoptic.reading.chords import with_curves
from holoptic.reading.lines import Bow, Free, Shape, Straight
from holoptic.tolerance import FILE_CHORD_MM, GIVEN_MM, ROUNDING, SOLVED

Cubic = tuple[Vec2, Vec2, Vec2, Vec2]
_ROUND = 0.0015
"""A cubic stands off its circle by 0.03 % of the radius at a quarter turn, by 0.2 % at 120°; files
round their figures besides."""
_ROUND_MM = 0.006
_SAMPLES = (0.2, 0.35, 0.5, 0.65, 0.8)
_ALL_BUT = 0.02
_FLATTEST = 1500.0
"""No circle of a part is so much larger than its arc."""
_MOST_STEPS = 64


def shapes_of(run: Beziers) -> Iterator[Shape]:
    """Yield what cubics that follow each other draw; those of one circle are one arc, and short
    chords that follow each other smoothly a curve.
    """
    chords: list[Straight] = []
    for shape in _shapes(run):
        if isinstance(shape, Straight):
            chords.append(shape)
            continue
        yield from with_curves(chords)
        chords = []
        yield shape
    yield from with_curves(chords)


def _shapes(run: Beziers) -> Iterator[Shape]:
    free: list[Vec2] = []
    bow: Bow | None = None

    def done() -> Iterator[Shape]:
        nonlocal free, bow
        if bow is not None:
            yield _halved(bow)
        if len(free) > 1:
            yield Free(tuple(free))
        free, bow = [], None

    for cubic in run:
        shape = _shape(cubic)
        if isinstance(shape, Bow):
            joined = _joined(bow, shape) if bow is not None else None
            if joined is None:
                yield from done()
            bow = joined or shape
        elif isinstance(shape, Free):
            if bow is not None or (free and free[-1] != shape.start):
                yield from done()
            free += shape.points if not free else shape.points[1:]
        elif shape is not None:
            yield from done()
            yield shape
    yield from done()


def _shape(cubic: Cubic) -> Shape | None:
    if _is_straight(cubic):
        return Straight(cubic[0], cubic[3]) if math.dist(cubic[0], cubic[3]) > ROUNDING else None
    return _bow(cubic) or Free(tuple(_polyline(cubic)))


def _is_straight(cubic: Cubic) -> bool:
    (ax, ay), *middle, (bx, by) = cubic
    long = math.hypot(bx - ax, by - ay)
    if long < GIVEN_MM:
        return all(math.dist(cubic[0], place) < GIVEN_MM for place in middle)
    return all(abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) < GIVEN_MM * long
               for x, y in middle)  # fmt: skip


def _bow(cubic: Cubic) -> Bow | None:
    """Return the arc that a cubic draws, None where it is none."""
    middle = at(cubic, 0.5)
    centre = _centre(cubic[0], middle, cubic[3])
    if centre is None:
        return None
    radius = math.dist(centre, middle)
    within = max(_ROUND * radius, _ROUND_MM)
    if radius > _FLATTEST or any(
        abs(math.dist(centre, at(cubic, t)) - radius) > within for t in _SAMPLES
    ):
        return None
    first, between, last = (math.atan2(y - centre[1], x - centre[0])
                            for x, y in (cubic[0], middle, cubic[3]))  # fmt: skip
    if (between - first) % math.tau > (last - first) % math.tau:
        first, last = last, first  # it runs clockwise
    return Bow(centre, radius, first % math.tau, first % math.tau + (last - first) % math.tau)


def _centre(a: Vec2, b: Vec2, c: Vec2) -> Vec2 | None:
    """Return the centre of the circle through three places, None where they lie in line."""
    bx, by, cx, cy = b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]
    turn = 2 * (bx * cy - by * cx)
    if abs(turn) < SOLVED:
        return None
    x = (cy * (bx * bx + by * by) - by * (cx * cx + cy * cy)) / turn
    y = (bx * (cx * cx + cy * cy) - cx * (bx * bx + by * by)) / turn
    return a[0] + x, a[1] + y


def _joined(one: Bow, other: Bow) -> Bow | None:
    """Return two arcs of one circle that follow each other as one."""
    within = max(2 * _ROUND * one.radius, 2 * _ROUND_MM)
    if math.dist(one.centre, other.centre) > within or abs(one.radius - other.radius) > within:
        return None
    turn, more = one.last - one.first, other.last - other.first
    share = turn / (turn + more)
    centre = (one.centre[0] * share + other.centre[0] * (1 - share),
              one.centre[1] * share + other.centre[1] * (1 - share))  # fmt: skip
    radius = one.radius * share + other.radius * (1 - share)
    if turn + more > math.tau - 0.002:
        return Bow(centre, radius, 0.0, math.tau)
    if math.dist(one.end, other.start) < 2 * within:
        return Bow(centre, radius, one.first, one.first + turn + more)
    if math.dist(other.end, one.start) < 2 * within:
        return Bow(centre, radius, other.first, other.first + turn + more)
    return None


def _halved(bow: Bow) -> Bow:
    """Return an arc of all but half a circle as just that: its centre then is told by its ends
    alone, which files round, by the root of what they are rounded by.
    """
    if abs(bow.last - bow.first - math.pi) > _ALL_BUT:
        return bow
    (a, b), (c, d) = bow.start, bow.end
    centre = (a + c) / 2, (b + d) / 2
    first = math.atan2(b - centre[1], a - centre[0]) % math.tau
    return Bow(centre, math.dist(bow.start, bow.end) / 2, first, first + math.pi)


def _polyline(cubic: Cubic) -> list[Vec2]:
    """Return places close enough together along a cubic."""
    bend = max(_off(cubic[0], cubic[1], cubic[2]), _off(cubic[1], cubic[2], cubic[3]))
    # n chords stand off a cubic by no more than its second difference · 6/(8n²)
    count = min(_MOST_STEPS, max(2, math.ceil(math.sqrt(0.75 * bend / FILE_CHORD_MM))))
    return [at(cubic, k / count) for k in range(count + 1)]


def _off(a: Vec2, b: Vec2, c: Vec2) -> float:
    return math.hypot(a[0] - 2 * b[0] + c[0], a[1] - 2 * b[1] + c[1])


def at(cubic: Cubic, t: float) -> Vec2:
    """Return the place at a share of a cubic."""
    u = 1.0 - t
    weights = u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t
    return (sum(w * p[0] for w, p in zip(weights, cubic, strict=True)),
            sum(w * p[1] for w, p in zip(weights, cubic, strict=True)))  # fmt: skip


def line_as_cubic(a: Vec2, b: Vec2) -> Cubic:
    """Return a straight line as a cubic."""
    return a, ((2 * a[0] + b[0]) / 3, (2 * a[1] + b[1]) / 3), (
        (a[0] + 2 * b[0]) / 3, (a[1] + 2 * b[1]) / 3), b  # fmt: skip
