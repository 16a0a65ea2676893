"""Axes that round features of several solids share, and which stretches of lines are in sight."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import pairwise

import numpy as np

from holoptic.curves.space import Curve, Segment
from holoptic.curves.vectors import Vec3, add, dot, subtract, unit
from holoptic.solid.pieces import AxisLine, RoundFeature
from holoptic.solid.seeing.sight import frame_of
from holoptic.tolerance import BESIDE_MM, CLEAR_MM, KERNEL_MM, ROUNDING, SHORTEST_STROKE_MM

_STEPS = 24
"""Chords of a curve whose crossing with a line is looked for."""

Depths = Callable[[Vec3, np.ndarray], np.ndarray]
"""Tells from where to where lines along an axis through points (n × 3) meet what is there."""


def shared_axes(rounds: Iterable[RoundFeature]) -> list[AxisLine]:
    """Return the lines from the first to the last feature on each axis that several bodies share.

    Each is cut where a body ends, so that every part of it begins at a feature of its body.
    """
    groups: dict[tuple[float, ...], list[RoundFeature]] = defaultdict(list)
    for feature in rounds:
        along = subtract(feature.end, feature.start)
        if dot(along, along) > KERNEL_MM:
            groups[_line_of(feature)].append(feature)
    return [line for group in groups.values() for line in _joined(group)]


def _line_of(feature: RoundFeature) -> tuple[float, ...]:
    """Return what tells the straight line of an axis apart from others."""
    way = unit(subtract(feature.end, feature.start))
    way = way if max(way, key=abs) > 0 else (-way[0], -way[1], -way[2])
    foot = add(feature.start, way, -dot(feature.start, way))
    # + 0.0 turns −0.0 into 0.0
    return tuple(round(value, 3) + 0.0 for value in (*way, *foot))


def _joined(group: Sequence[RoundFeature]) -> Iterator[AxisLine]:
    if len({feature.body for feature in group}) < 2:
        return
    way = unit(subtract(group[0].end, group[0].start))
    spans: dict[int, list[Vec3]] = defaultdict(list)
    for feature in group:
        spans[feature.body] += [feature.start, feature.end]
    ends = [
        (min(places, key=lambda p: dot(p, way)), max(places, key=lambda p: dot(p, way)), body)
        for body, places in spans.items()
    ]
    ends.sort(key=lambda item: dot(item[0], way))
    for (start, _, body), (end, _, _) in pairwise(ends):
        if dot(subtract(end, start), way) > SHORTEST_STROKE_MM:
            yield AxisLine(Segment(start, end), body)
    start, end, body = ends[-1]
    yield AxisLine(Segment(start, end), body)


def in_sight(
    line: Segment, curves: Sequence[Curve], depths: Depths, toward: Vec3
) -> Iterator[Segment]:
    """Yield the stretches of a straight line that nothing hides.

    `curves` are the lines of what may hide it: it comes into sight and out of it only where their
    images cross its own.
    """
    stops = _stops(line, curves, toward)
    if len(stops) < 2:
        return
    low, high = np.array(stops[:-1]), np.array(stops[1:])
    middle = low + 0.4683 * (high - low)
    begin, way = np.array(line.start), np.array(subtract(line.end, line.start))
    frame = np.array(frame_of(toward)).reshape(3, 3)
    flat = frame[:2] @ way
    aside = np.array([-flat[1], flat[0]]) / np.linalg.norm(flat) @ frame[:2] * BESIDE_MM
    places = begin + middle[:, None] * way
    nearest = np.minimum(
        depths(toward, places + aside)[:, 1], depths(toward, places - aside)[:, 1]
    )  # fmt: skip
    free = nearest <= places @ frame[2] + CLEAR_MM
    for first, last in _runs(stops, free.tolist()):
        piece = Segment(add(line.start, tuple(way), first), add(line.start, tuple(way), last))
        if piece.length > SHORTEST_STROKE_MM:
            yield piece


def _stops(line: Segment, curves: Sequence[Curve], toward: Vec3) -> list[float]:
    """Return the shares of a line at which an image of a curve crosses its own, ends included."""
    frame = np.array(frame_of(toward)).reshape(3, 3)[:2]
    start, end = frame @ np.array(line.start), frame @ np.array(line.end)
    way = end - start
    size = float(way @ way)
    if size < KERNEL_MM:
        return []  # it is seen end-on
    chords = [
        np.hstack([places[:-1], places[1:]])
        for places in (curve.even_points(_count(curve)) @ frame.T for curve in curves)
    ]
    if not chords:
        return [0.0, 1.0]
    found = np.concatenate(chords)
    a, b = found[:, :2] - start, found[:, 2:] - start
    side_a, side_b = a[:, 0] * way[1] - a[:, 1] * way[0], b[:, 0] * way[1] - b[:, 1] * way[0]
    crossing = (side_a > 0) != (side_b > 0)
    share = side_a[crossing] / (side_a[crossing] - side_b[crossing])
    met = a[crossing] + share[:, None] * (b[crossing] - a[crossing])
    at = met @ way / size
    inside = at[(at > ROUNDING) & (at < 1 - ROUNDING)]
    return [0.0, *sorted(inside.tolist()), 1.0]


def _count(curve: Curve) -> int:
    return 2 if isinstance(curve, Segment) else _STEPS + 1


def _runs(stops: list[float], free: list[bool]) -> Iterator[tuple[float, float]]:
    """Yield from where to where pieces that are free follow each other."""
    begin = None
    for number, is_free in enumerate([*free, False]):
        if is_free and begin is None:
            begin = stops[number]
        if not is_free and begin is not None:
            yield begin, stops[number]
            begin = None
