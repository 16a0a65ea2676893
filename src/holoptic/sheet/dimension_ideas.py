"""Where on a sheet a dimension may stand: every place worth a try, with what it costs at least.

A length may stand beside each drawing that shows both its ends, in rows, its extension lines along
an axis; an angle as an arc; a diameter or a note at the end of a leader.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import cast

import numpy as np

from holoptic.curves.vectors import Vec2, Vec3, add, dot
from holoptic.dimensions import Dimension, Level
from holoptic.sheet.dimension_ink import (
    HEAD_MM,
    Drawn,
    Habit,
    drawn_angle,
    drawn_leader,
    drawn_length,
)
from holoptic.sheet.dimension_panes import UNDRAWN, DimensionPane, Spot, places_of
from holoptic.tolerance import GIVEN_MM, SLIGHT

FIRST_MM, STEP_MM = 10.0, 8.0
"""From the drawing to the first dimension line, and from one to the next."""
_ROWS = 9
_UNSEEN, _NOT_TRUE, _ROW = 40.0, 12.0, 3.0
"""What each counts, in millimetres of extension line or leader."""
_IN_PICTURE = 300.0
"""So does a place in a pictorial, where the part has views on the sheet."""
_ARCS_MM, _LIKED = (9.0, 13.0, 18.0, 24.0, 32.0), 30.0
"""Radii at which an angle may be drawn; how much better an arc is than a note."""
_MOST_PLANES = 14
_TIPS, _REACHES = 12, (9.0, 15.0, 22.0, 30.0, 40.0, 52.0, 66.0)
_LEAST_SINE = 0.3

Worded = Callable[[bool], str]
"""Tells the words of a dimension: True for an arc of a circle."""


@dataclass(frozen=True)
class Idea:
    """A place that may be tried: what it costs at least, and what would stand there."""

    least: float
    draw: Callable[[], Drawn]
    pane: tuple[str, str]
    leads: bool = False


class Ideas:
    """The places about some drawings where dimensions may stand, by a sheet's habits."""

    def __init__(self, panes: Sequence[DimensionPane], habit: Habit) -> None:
        self._panes, self._habit = panes, habit
        views = any(pane.is_view for pane in panes)
        self._aside = [_IN_PICTURE if views and not pane.is_view else 0.0 for pane in panes]

    def of(self, one: Dimension, worded: Worded) -> Iterator[Idea]:
        """Yield the places where a dimension may stand."""
        return self._lengths(one, worded) if one.sort == "length" else self._noted(one, worded)

    def _lengths(self, one: Dimension, worded: Worded) -> Iterator[Idea]:
        words = worded(False)
        for pane, aside in zip(self._panes, self._aside, strict=True):
            along = pane.way(one.axis)
            if along is None:
                continue
            is_true = pane.is_view and pane.shows_true(one.face)
            unfit = aside + (0.0 if is_true else _NOT_TRUE)
            for other in (k for k in range(3) if k != one.axis):
                lean = pane.way(other)
                if lean is None or abs(_sine(along, lean)) < _LEAST_SINE:
                    continue
                for sign in (1.0, -1.0):
                    way = sign * lean[0], sign * lean[1]
                    side = _Side(pane, one, along, way, other)
                    for pair in side.pairs():
                        yield from self._rows(side, pair, words, unfit)

    def _rows(
        self, side: _Side, pair: tuple[Spot, Spot], words: str, unfit: float
    ) -> Iterator[Idea]:
        """Yield the rows in which a length may stand."""
        hidden = _UNSEEN * sum(spot.seen for spot in pair)
        starts = pair[0].at, pair[1].at
        for row in range(_ROWS):
            ends, far = side.ends(pair, FIRST_MM + row * STEP_MM)
            draw = partial(drawn_length, words, ends, starts, side.way, self._habit)
            yield Idea(hidden + unfit + far + _ROW * row, draw, side.pane.name)

    def _noted(self, one: Dimension, worded: Worded) -> Iterator[Idea]:
        """Yield arcs of an angle, and leaders with their notes."""
        yield from self._arcs(one, worded)
        yield from self._notes(one, worded)

    def _arcs(self, one: Dimension, worded: Worded) -> Iterator[Idea]:
        """Yield the arcs by which an angle may be drawn in views that show it true."""
        if one.rays is None or one.about is None:
            return
        words = worded(False)
        for pane in self._panes:
            if not (pane.is_view and pane.shows_true(one.face)):
                continue
            centre = pane.onto(one.about)
            begin, end = (_degrees(centre, pane.onto(add(one.about, ray))) for ray in one.rays)
            sweep = (end - begin + 180) % 360 - 180
            for radius in _ARCS_MM:
                draw = partial(drawn_angle, words, centre, begin, sweep, radius)
                if draw() is not None:
                    made = cast(Callable[[], Drawn], draw)
                    yield Idea(radius - _LIKED, made, pane.name)

    def _notes(self, one: Dimension, worded: Worded) -> Iterator[Idea]:
        for pane, aside in zip(self._panes, self._aside, strict=True):
            x0, y0, x1, y1 = pane.extent
            middle = (x0 + x1) / 2, (y0 + y1) / 2
            unfit = aside + (0.0 if pane.shows_true(one.face) else _NOT_TRUE)
            for tip, inside, seen, is_arc in _tips(pane, one):
                words = worded(is_arc)
                for way in _ways_out(tip, inside, middle):
                    for reach in _REACHES:
                        elbow = tip[0] + reach * way[0], tip[1] + reach * way[1]
                        draw = partial(drawn_leader, words, tip, elbow, to_right=way[0] >= 0)
                        cost = _UNSEEN * seen + unfit + reach
                        yield Idea(cost, draw, pane.name, leads=True)


class _Side:
    """One side of a drawing on which a length may stand: its direction, and that of its extension
    lines, which run along an axis away from the drawing.
    """

    def __init__(
        self, pane: DimensionPane, one: Dimension, along: Vec2, way: Vec2, lean_axis: int
    ) -> None:
        self.pane, self.one, self.way = pane, one, way
        self.third = 3 - one.axis - lean_axis
        size = math.hypot(*along)
        normal = -along[1] / size, along[0] / size
        if normal[0] * way[0] + normal[1] * way[1] < 0:
            normal = -normal[0], -normal[1]
        self._normal = normal
        self._out = normal[0] * way[0] + normal[1] * way[1]
        self._edge = float((pane.outline @ np.array(normal)).max())

    def _depth(self, spot: Spot) -> float:
        """Return how far a spot lies behind the outermost line of the drawing, mm."""
        return self._edge - (self._normal[0] * spot.at[0] + self._normal[1] * spot.at[1])

    def pairs(self) -> Iterator[tuple[Spot, Spot]]:
        """Yield pairs of spots in one plane of the two axes: the length is seen true there."""
        first, second = (self.pane.spots(level) for level in self.one.levels)
        if not first or not second:
            return
        if self.pane.way(self.third) is None:
            yield self._best(first), self._best(second)
            return
        planes = dict.fromkeys(round(s.place[self.third], 2) for s in (*first, *second))
        found = []
        for plane in list(planes)[:_MOST_PLANES]:
            pair = self._in_plane(first, plane), self._in_plane(second, plane)
            found.append((sum(40.0 * s.seen + self._depth(s) for s in pair), plane, pair))
        found.sort(key=lambda item: item[:2])
        yield from (pair for _, _, pair in found[:2])

    def _best(self, spots: Sequence[Spot]) -> Spot:
        return min(spots, key=lambda spot: 40.0 * spot.seen + self._depth(spot))

    def _in_plane(self, spots: Sequence[Spot], plane: float) -> Spot:
        """Return the best spot in a plane; where none is drawn, the place where it would be."""
        own = [s for s in spots if abs(s.place[self.third] - plane) < 100 * GIVEN_MM]
        if own:
            return self._best(own)
        near = self._best(spots)
        place = list(near.place)
        place[self.third] = plane
        moved: Vec3 = (place[0], place[1], place[2])
        return Spot(moved, self.pane.onto(moved), UNDRAWN)

    def ends(self, pair: tuple[Spot, Spot], off: float) -> tuple[tuple[Vec2, Vec2], float]:
        """Return the ends of the dimension line so far off the drawing, and how long both extension
        lines are together, mm.
        """
        made: list[Vec2] = []
        total = 0.0
        for spot in pair:
            share = (self._depth(spot) + off) / self._out
            made.append((spot.at[0] + share * self.way[0], spot.at[1] + share * self.way[1]))
            total += share * math.hypot(*self.way)
        return (made[0], made[1]), total


def _tips(pane: DimensionPane, one: Dimension) -> Iterator[tuple[Vec2, Vec2, int, bool]]:
    """Yield places where a leader may end, a place inside of what it is about, how it is seen, and
    whether only an arc is there.
    """
    rims = sorted(pane.rims(one), key=lambda rim: rim.seen)
    if rims:
        seen = rims[0].seen
        for rim in [rim for rim in rims if rim.seen == seen][:3]:
            path = rim.path
            inside = (
                sum(x for x, _ in path) / len(path),
                sum(y for _, y in path) / len(path),
            )
            for k in range(_TIPS):
                yield path[(2 * k + 1) * (len(path) - 1) // (2 * _TIPS)], inside, seen, rim.is_arc
        return
    for spot in _spots_about(pane, one):
        yield spot.at, spot.at, spot.seen, False


def _spots_about(pane: DimensionPane, one: Dimension) -> list[Spot]:
    """Return places of the part that a note without a circle in sight may point at."""
    wanted = [bound.place for bound in one.binds]
    if one.about is not None:
        wanted.append(one.about)
    for circle in one.circles:
        wanted += list(places_of([replace(one, circles=(circle,), binds=())]))
    found: list[Spot] = []
    if one.tilt is not None:
        tilt = one.tilt
        for stroke in pane.picture.visible:
            curve = stroke.curve
            ends = curve.start, curve.middle, curve.end
            if all(abs(dot(tilt.normal, p) - tilt.off) < 100 * GIVEN_MM for p in ends):
                found.append(Spot(curve.middle, pane.onto(curve.middle), 0))
    for place in wanted:
        near = [s for s in pane.spots(Level.of(0, place[0])) if math.dist(s.place, place) < 0.01]
        found.append(min(near, key=lambda s: s.seen) if near else
                     Spot(place, pane.onto(place), UNDRAWN))  # fmt: skip
    least = min((spot.seen for spot in found), default=0)
    return [spot for spot in found if spot.seen == least][:6]


def _ways_out(tip: Vec2, inside: Vec2, middle: Vec2) -> Iterator[Vec2]:
    """Yield directions in which a leader may leave: out of its circle, or out of the drawing."""
    x, y = tip[0] - inside[0], tip[1] - inside[1]
    if math.hypot(x, y) < HEAD_MM * SLIGHT:
        for degrees in (60, 120, 30, 150, -60, -120, -30, -150):
            yield math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
        return
    size = math.hypot(x, y)
    yield x / size, y / size
    out = tip[0] - middle[0], tip[1] - middle[1]
    size = math.hypot(*out)
    if size > HEAD_MM and out[0] * x + out[1] * y > 0:
        yield out[0] / size, out[1] / size


def _degrees(a: Vec2, b: Vec2) -> float:
    return math.degrees(math.atan2(b[1] - a[1], b[0] - a[0]))


def _sine(a: Vec2, b: Vec2) -> float:
    return (a[0] * b[1] - a[1] * b[0]) / (math.hypot(*a) * math.hypot(*b))
