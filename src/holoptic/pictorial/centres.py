"""Centre lines of round features.

A feature that is looked at along its axis gets a cross over its largest circle. In a view it gets
its axis where it is seen from the side; in a pictorial a cross on the rim that faces the viewer,
if that rim is seen, with arms along the crate's axes. Every line overruns what it belongs to.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from holoptic.curves.space import EllipticArc, Segment
from holoptic.curves.vectors import Vec2, Vec3, add, apply, cross, dot, subtract, unit
from holoptic.pictorial.kinds import View
from holoptic.solid.pieces import Piece, RoundFeature
from holoptic.tolerance import FINE, KERNEL_MM, ON_PAPER_MM, PARALLEL

OVERRUN_MM = 3.0
"""How far a centre line runs beyond its feature on paper, at scale 1:1."""


@dataclass(frozen=True)
class _Axis:
    """The features on one straight line, and the line's direction."""

    way: Vec3
    features: tuple[RoundFeature, ...]

    @property
    def ends(self) -> Iterator[tuple[Vec3, float]]:
        """Centre and radius of every end."""
        for item in self.features:
            yield item.start, item.start_radius
            yield item.end, item.end_radius

    def rims_toward(self, toward: Vec3) -> Iterator[tuple[Vec3, float]]:
        """Centre and radius of every rim in a plane face that is turned to the viewer."""
        for item in self.features:
            for rim, face in (
                ((item.start, item.start_radius), item.start_face),
                ((item.end, item.end_radius), item.end_face),
            ):
                if face is not None and dot(face, toward) > PARALLEL:
                    yield rim

    @property
    def has_rims(self) -> bool:
        """Whether any end lies in a plane face; balls and rings have none."""
        return any(item.start_face or item.end_face for item in self.features)


def centre_lines(
    rounds: Iterable[RoundFeature], pieces: Iterable[Piece], view: View,
    covered: frozenset[Vec3] = frozenset(),
) -> list[Segment]:  # fmt: skip
    """Return the centre lines of round features in a view or pictorial, each once.

    A pictorial has no cross about a place that is `covered` by another body.
    """
    # in a picture each body has its own crosses; in a view one line runs through all
    axes = _axes(rounds, by_body=view.corner is not None)
    if view.corner is None:
        lines = [line for axis in axes for line in _in_view(axis, view)]
    else:
        arcs = _visible_turns(pieces)
        lines = [line for axis in axes for line in _in_pictorial(axis, view, arcs, covered)]
    return _each_once(lines, view)


def _axes(rounds: Iterable[RoundFeature], *, by_body: bool) -> list[_Axis]:
    """Return the features by the straight line that they are round about."""
    groups: dict[tuple[float, ...], list[RoundFeature]] = defaultdict(list)
    for feature in rounds:
        if math.dist(feature.start, feature.end) < KERNEL_MM:
            continue  # a damaged solid can have faces of no length, which have no axis
        way = _way(feature)
        foot = add(feature.start, way, -dot(feature.start, way))
        # + 0.0 turns −0.0 into 0.0
        body = feature.body if by_body else 0
        groups[(body, *(round(v, 4) + 0.0 for v in (*way, *foot)))].append(feature)
    return [_Axis(_way(group[0]), tuple(group)) for group in groups.values()]


def _way(feature: RoundFeature) -> Vec3:
    way = unit(subtract(feature.end, feature.start))
    return way if max(way, key=abs) > 0 else (-way[0], -way[1], -way[2])


def _in_view(axis: _Axis, view: View) -> Iterator[Segment]:
    toward = unit(view.toward_viewer)
    if _length(cross(axis.way, toward)) < FINE:
        centre, radius = max(axis.ends, key=lambda end: end[1])
        yield from _cross(centre, radius, _arms(axis.way), view)
        return
    places = sorted((dot(end, axis.way), end) for end, _ in axis.ends)
    yield _overrun(places[0][1], places[-1][1], view)


def _visible_turns(pieces: Iterable[Piece]) -> dict[tuple[float, ...], tuple[float, float]]:
    """Return for each circle, by centre and radius, how far round it is seen and hidden."""
    turns: dict[tuple[float, ...], tuple[float, float]] = {}
    for piece in pieces:
        arc = piece.curve
        if isinstance(arc, EllipticArc):
            key, turn = _rim_key(arc.centre, arc.major), arc.last - arc.first
            seen, hidden = turns.get(key, (0.0, 0.0))
            turns[key] = (seen + turn, hidden) if piece.visible else (seen, hidden + turn)
    return turns


def _rim_key(centre: Vec3, radius: float) -> tuple[float, ...]:
    x, y, z = centre
    return round(x, 4) + 0.0, round(y, 4) + 0.0, round(z, 4) + 0.0, round(radius, 4)


def _in_pictorial(
    axis: _Axis, view: View, turns: dict[tuple[float, ...], tuple[float, float]],
    covered: frozenset[Vec3],
) -> Iterator[Segment]:  # fmt: skip
    toward = unit(view.toward_viewer)
    nearest = max(dot(centre, toward) for centre, _ in axis.ends)
    rims = []
    for centre, radius in axis.rims_toward(toward):
        seen, hidden = turns.get(_rim_key(centre, radius), (0.0, 0.0))
        # a shoulder round something that stands out further has its centre inside that
        is_last = dot(centre, toward) > nearest - KERNEL_MM
        if seen > hidden and is_last and centre not in covered:
            rims.append((centre, radius))
    if rims:
        centre, radius = max(rims, key=lambda rim: rim[1])
        yield from _cross(centre, radius, _arms(axis.way), view)
    elif not axis.has_rims:
        item = max(axis.features, key=lambda item: item.start_radius)
        if item.middle not in covered:
            yield from _cross(item.middle, item.start_radius, _arms(axis.way), view)


def _arms(way: Vec3) -> tuple[Vec3, Vec3]:
    """Return the two directions of a cross: the crate's own axes where the feature allows."""
    crate: tuple[Vec3, ...] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
    square = [axis for axis in crate if abs(dot(axis, way)) < FINE]
    if len(square) >= 2:
        return square[0], square[1]
    first = square[0] if square else unit(cross(way, (0.0, 0.0, 1.0)))
    return first, unit(cross(way, first))


def _cross(centre: Vec3, radius: float, arms: tuple[Vec3, Vec3], view: View) -> Iterator[Segment]:
    for arm in arms:
        if math.hypot(*apply(view.matrix, arm)) > PARALLEL:
            yield _overrun(add(centre, arm, -radius), add(centre, arm, radius), view)


def _overrun(start: Vec3, end: Vec3, view: View) -> Segment:
    """Return the line from start to end, longer at both ends by the overrun on paper."""
    way = unit(subtract(end, start))
    further = OVERRUN_MM / max(math.hypot(*apply(view.matrix, way)), 0.05)
    return Segment(add(start, way, -further), add(end, way, further))


def _each_once(lines: list[Segment], view: View) -> list[Segment]:
    """Leave out a line whose image lies within another's; the longest stay."""
    kept: dict[tuple[float, float], list[tuple[Vec2, Vec2]]] = defaultdict(list)
    once = []
    ends = [(apply(view.matrix, line.start), apply(view.matrix, line.end), line) for line in lines]
    for a, b, line in sorted(ends, key=lambda item: -math.dist(item[0], item[1])):
        same_line = kept[_track(a, b)]
        if not any(_lies_on(a, c, d) and _lies_on(b, c, d) for c, d in same_line):
            same_line.append((a, b))
            once.append(line)
    return once


def _track(a: Vec2, b: Vec2) -> tuple[float, float]:
    """Return angle and offset of the straight line through two points, rounded to be compared."""
    angle = round(math.atan2(b[1] - a[1], b[0] - a[0]) % math.pi, 4) % round(math.pi, 4)
    return angle, round(a[1] * math.cos(angle) - a[0] * math.sin(angle), 2) + 0.0


def _lies_on(point: Vec2, start: Vec2, end: Vec2) -> bool:
    detour = math.dist(start, point) + math.dist(point, end) - math.dist(start, end)
    return detour < ON_PAPER_MM


def _length(vector: Vec3) -> float:
    return math.sqrt(dot(vector, vector))
