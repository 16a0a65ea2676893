"""Axes that round features of several solids share, and which stretches of lines are in sight."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Sequence
from copy import copy
from itertools import pairwise

import numpy as np

from holoptic.curves.many import arc_images, chords_of_all
from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3, add, dot, mix, subtract, unit
from holoptic.solid.pieces import AxisLine, RoundFeature
from holoptic.solid.seeing.sight import frame_of
from holoptic.tolerance import BESIDE_MM, CLEAR_MM, KERNEL_MM, ROUNDING, SHORTEST_STROKE_MM

_STEPS = 18
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
    lines: Sequence[AxisLine], curves: Sequence[Curve], depths: Depths, toward: Vec3
) -> Iterator[AxisLine]:
    """Yield the stretches of straight lines that nothing hides, seen along a unit vector.

    `curves` are the lines of what may hide them: one comes into sight and out of it only where
    their images cross its own.
    """
    frame = np.array(frame_of(toward)).reshape(3, 3)
    chords = _Chords(curves, frame[:2])
    begins = np.array([shared.line.start for shared in lines]).reshape(-1, 3)
    ways = np.array([shared.line.end for shared in lines]).reshape(-1, 3) - begins
    starts, across = begins @ frame[:2].T, ways @ frame[:2].T
    stops = _stops(starts, across, chords.near(np.concatenate([starts, starts + across])))
    counts = [len(each) - 1 for each in stops]
    if not sum(counts):
        return
    low, high = (np.concatenate([each[ends] for each in stops]) for ends in (_LOW, _HIGH))
    owner = np.repeat(np.arange(len(stops)), counts)
    # not quite the middle: what is symmetric may be crossed there
    places = begins[owner] + (low + 0.4683 * (high - low))[:, None] * ways[owner]
    flat = ways[owner] @ frame[:2].T
    aside = np.column_stack([-flat[:, 1], flat[:, 0]]) / np.linalg.norm(flat, axis=1)[:, None]
    aside = aside @ frame[:2] * BESIDE_MM
    reach = depths(toward, np.concatenate([places + aside, places - aside]))[:, 1]
    nearest = np.minimum(*reach.reshape(2, -1))
    free = nearest <= places @ frame[2] + CLEAR_MM
    for number, shared in enumerate(lines):
        for first, last in _runs(stops[number].tolist(), free[owner == number].tolist()):
            line = shared.line
            piece = Segment(mix(line.start, line.end, first), mix(line.start, line.end, last))
            if piece.length > SHORTEST_STROKE_MM:
                yield AxisLine(piece, shared.body)


_LOW, _HIGH = slice(None, -1), slice(1, None)


class _Chords:
    """The images of curves as chords, and where on its arc each begins."""

    def __init__(self, curves: Sequence[Curve], across: np.ndarray) -> None:
        self._curves, self._across = curves, across
        self.ends, self._owners = chords_of_all(curves, across, _STEPS)
        # the chords of a curve follow each other
        first = np.concatenate([[True], self._owners[1:] != self._owners[:-1]])[: len(self.ends)]
        begins = np.flatnonzero(first)
        counts = np.diff([*begins, len(self.ends)])
        self._places = np.arange(len(self.ends)) - np.repeat(begins, counts)

    def near(self, places: np.ndarray) -> _Chords:
        """Return those that come within the box of places."""
        if not len(places):
            return self
        low, high = places.min(axis=0), places.max(axis=0)
        least = np.minimum(self.ends[:, :2], self.ends[:, 2:])
        most = np.maximum(self.ends[:, :2], self.ends[:, 2:])
        on = ((least <= high) & (most >= low)).all(axis=1)
        found = copy(self)
        found.ends, found._owners = self.ends[on], self._owners[on]
        found._places = self._places[on]
        return found

    def on_arcs(self, chords: np.ndarray, starts: np.ndarray, ways: np.ndarray) -> np.ndarray:
        """Return where lines (n × 2 each: from, along) cross the arcs of chords themselves (n × 2);
        no figures where a chord is no arc's, or its line but touches the arc.
        """
        every = np.full((len(chords), 2), np.nan)
        owners, which = np.unique(self._owners[chords], return_inverse=True)
        arcs = {k: arc for k, arc in enumerate(self._curves[n] for n in owners.tolist())
                if isinstance(arc, EllipticArc)}  # fmt: skip
        is_arc = np.zeros(len(owners), bool)
        is_arc[list(arcs)] = True
        if not arcs:
            return every
        number = (np.cumsum(is_arc) - 1)[which]
        on_arc = is_arc[which]
        images = arc_images(list(arcs.values()), self._across.T)
        spans = np.array([arc.span for arc in arcs.values()])
        own = number[on_arc]
        centres, a, b = (image[own] for image in images)
        every[on_arc] = self._met(
            chords[on_arc], (centres, a, b), spans[own], starts[on_arc], ways[on_arc]
        )
        return every

    def _met(
        self, chords: np.ndarray, arcs: tuple[np.ndarray, np.ndarray, np.ndarray],
        spans: np.ndarray, starts: np.ndarray, ways: np.ndarray,
    ) -> np.ndarray:  # fmt: skip
        """Return where lines cross arcs (middles and half axes, n × 2 each) near their chords."""
        centres, a, b = arcs
        square = np.column_stack([-ways[:, 1], ways[:, 0]])
        # square · (centre + a cos t + b sin t − start) = 0
        cos, sin, rest = ((square * each).sum(axis=1) for each in (a, b, centres - starts))
        size = np.hypot(cos, sin)
        with np.errstate(invalid="ignore", divide="ignore"):
            middle, half = np.arctan2(sin, cos), np.arccos(-rest / size)
        step = (spans[:, 1] - spans[:, 0]) / _STEPS
        begin = spans[:, 0] + step * self._places[chords]
        found = np.full((len(chords), 2), np.nan)
        for t in (middle - half, middle + half):
            past = (t - begin + _SLACK * step) % math.tau
            on = past <= (1 + 2 * _SLACK) * step
            found[on] = (centres + np.cos(t)[:, None] * a + np.sin(t)[:, None] * b)[on]
        return found


_SLACK = 0.1
"""Of a chord's step: a line may cross the arc a little before the chord, or beyond."""


def _stops(starts: np.ndarray, ways: np.ndarray, near: _Chords) -> list[np.ndarray]:
    """Return for each line the shares of it at which curves cross its image, ends included.

    Of a line that is seen end-on there is one alone.
    """
    sizes, chords = (ways * ways).sum(axis=1), near.ends
    # on which side of each line a chord begins and ends
    square = np.column_stack([ways[:, 1], -ways[:, 0]])
    base = (square * starts).sum(axis=1)[:, None]
    side_a, side_b = square @ chords[:, :2].T - base, square @ chords[:, 2:].T - base
    line, chord = np.nonzero((side_a > 0) != (side_b > 0))
    one, other = side_a[line, chord], side_b[line, chord]
    begin, along = chords[chord, :2] - starts[line], chords[chord, 2:] - chords[chord, :2]
    met = begin + (one / (one - other))[:, None] * along
    exact = near.on_arcs(chord, starts[line], ways[line]) - starts[line]
    met = np.where(np.isnan(exact), met, exact)
    at = (met * ways[line]).sum(axis=1) / np.maximum(sizes[line], KERNEL_MM)
    inside = (at > ROUNDING) & (at < 1 - ROUNDING)
    return [
        np.concatenate([[0.0], np.sort(at[inside & (line == number)]), [1.0]])
        if size >= KERNEL_MM
        else np.zeros(1)
        for number, size in enumerate(sizes.tolist())
    ]


def _runs(stops: list[float], free: list[bool]) -> Iterator[tuple[float, float]]:
    """Yield from where to where pieces that are free follow each other."""
    begin = None
    for number, is_free in enumerate([*free, False]):
        if is_free and begin is None:
            begin = stops[number]
        if not is_free and begin is not None:
            yield begin, stops[number]
            begin = None
