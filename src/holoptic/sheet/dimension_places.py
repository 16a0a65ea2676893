"""Where dimensions stand: outside the drawings, clear of lines, words and each other.

A length stands beside a drawing that shows both its ends, its extension lines along an axis, the
shorter ones inside the longer. A diameter or a note stands at the end of a leader. Of all the
places that are tried the one is taken that overlaps least, hides least, and is nearest.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import cast

import numpy as np
import shapely

from holoptic.curves.vectors import Vec2, Vec3, add, dot
from holoptic.dimensions import Dimension, Level
from holoptic.job import SizeWish
from holoptic.sheet.dimension_ink import (
    HEAD_MM,
    Drawn,
    Habit,
    drawn_angle,
    drawn_leader,
    drawn_length,
    label,
)
from holoptic.sheet.dimension_panes import UNDRAWN, DimensionPane, Spot, places_of
from holoptic.sheet.frames import Box
from holoptic.tolerance import GIVEN_MM, SLIGHT
from holoptic.units import Unit

FIRST_MM, STEP_MM = 10.0, 8.0
"""From the drawing to the first dimension line, and from one to the next."""
_ROWS = 9
_OVERLAP, _UNSEEN, _NOT_TRUE, _CROSSED, _ROW, _INSIDE = 1000.0, 40.0, 12.0, 4.0, 3.0, 35.0
"""What each counts, in millimetres of extension line or leader."""
_ARCS_MM, _LIKED = (9.0, 13.0, 18.0, 24.0, 32.0), 30.0
"""Radii at which an angle may be drawn; how much better an arc is than a note."""
_IN_PICTURE = 300.0
"""So does a place in a pictorial, where the part has views on the sheet."""
_MOST_PLANES = 14
_TIPS, _REACHES = 12, (9.0, 15.0, 22.0, 30.0, 40.0, 52.0, 66.0)
_LEAST_SINE = 0.3
_REPAIRS = 12
"""So many dimensions at most are placed anew after others, where they found no clear place."""
_MOST_PASSED = 250
"""So many places are tried for the next good one."""


@dataclass(frozen=True)
class Wanted:
    """What is asked of a dimension, and where on the page its words are wanted, mm."""

    wish: SizeWish
    near: Vec2 | None = None


_NOTHING_WANTED: Mapping[str, Wanted] = {}


@dataclass(frozen=True)
class PlacedDimension:
    """A dimension on the page; `overlaps` counts what it lies on or runs into.

    `pane` says at which picture it stands: the id of the figure, and the kind of the picture.
    """

    dimension: Dimension
    drawn: Drawn
    overlaps: int
    pane: tuple[str, str] = ("", "")


def place_dimensions(
    dimensions: Sequence[Dimension], panes: Sequence[DimensionPane], area: Box, habit: Habit,
    unit: Unit, taken: Iterable[Drawn] = (), wanted: Mapping[str, Wanted] = _NOTHING_WANTED,
    names: Iterable[shapely.Polygon] = (),
) -> list[PlacedDimension]:  # fmt: skip
    """Return where the dimensions of a part stand about its drawings, within an area of the page.

    What stands there already, of other parts, is `taken`; `names` are the rooms of other words;
    `wanted` is what is asked of some, by their keys. Those that a hand has put somewhere are placed
    first; then lengths, the shortest of them inside, then diameters and notes. None is left out:
    what overlaps says so.
    """
    for pane in panes:
        pane.add_places(places_of(dimensions))
    placing = _Placing(panes, area, habit, unit, wanted, [*taken], [*names])
    found = placing.all(dimensions)
    for _ in range(_REPAIRS):
        over = [one for one in found if one.overlaps]
        tried = (placing.repaired(found, one) for one in over)
        better = next((made for made in tried if made is not None), None)
        if better is None:
            break
        found = better
    return found


@dataclass(frozen=True)
class _Idea:
    """A place that may be tried: what it costs at least, and what would stand there."""

    least: float
    draw: Callable[[], Drawn]
    pane: tuple[str, str]
    leads: bool = False


@dataclass(frozen=True)
class _Try:
    cost: float
    overlaps: int
    drawn: Drawn
    pane: tuple[str, str]


class _Things:
    """What stands on the page already, to be asked what of it something meets."""

    def __init__(self) -> None:
        self._geometries: list[shapely.Geometry] = []
        self._boxes = np.empty((0, 4))

    def add(self, geometry: shapely.Geometry) -> None:
        """Let something more stand there."""
        self._geometries.append(geometry)
        self._boxes = np.vstack([self._boxes, geometry.bounds])

    def met(self, geometry: shapely.Geometry) -> int:
        """Return how many of them something meets; few of them are near enough to be asked."""
        left, low, right, high = geometry.bounds
        boxes = self._boxes
        near = (boxes[:, 0] <= right) & (boxes[:, 2] >= left)
        near &= (boxes[:, 1] <= high) & (boxes[:, 3] >= low)
        return sum(
            bool(geometry.intersects(self._geometries[k])) for k in np.flatnonzero(near).tolist()
        )


class _Placing:
    def __init__(
        self, panes: Sequence[DimensionPane], area: Box, habit: Habit, unit: Unit,
        wanted: Mapping[str, Wanted], taken: Sequence[Drawn], names: Sequence[shapely.Polygon],
    ) -> None:  # fmt: skip
        self._wanted, self._taken, self._names = wanted, taken, names
        self.panes, self.area, self.habit, self.unit = panes, area, habit, unit
        solid = [shapely.linestrings(path) for pane in panes for path in pane.lines]
        thin = [shapely.linestrings(path) for pane in panes for path in pane.thin]
        self._lines = shapely.STRtree(solid)
        self._all = shapely.STRtree([*solid, *thin])
        self._hulls = [shapely.Polygon(pane.outline) for pane in panes]
        views = any(pane.is_view for pane in panes)
        self._aside = [_IN_PICTURE if views and not pane.is_view else 0.0 for pane in panes]
        self._clear()

    def keep(self, drawn: Drawn) -> None:
        self._rooms.add(drawn.room)
        self._own.add(drawn.line)
        for extension in drawn.extensions:
            self._extensions.add(extension)

    def all(self, dimensions: Sequence[Dimension]) -> list[PlacedDimension]:
        """Return all dimensions placed one after the other."""

        def turn(one: Dimension) -> tuple[bool, bool, float]:
            is_free = one.key not in self._wanted or self._wanted[one.key].near is None
            is_note = one.sort != "length"
            return is_free, is_note, 0.0 if is_note else one.value

        found = [self.placed(one) for one in sorted(dimensions, key=turn)]
        return [one for one in found if one is not None]

    def repaired(
        self, found: Sequence[PlacedDimension], one: PlacedDimension
    ) -> list[PlacedDimension] | None:
        """Return the dimensions with those placed anew that one of them runs into, after it; None
        where that is no better.
        """
        moved = [other for other in found
                 if other is not one and _meet(other.drawn, one.drawn)]  # fmt: skip
        stay = [other for other in found if other is not one and other not in moved]
        self._clear()
        for other in stay:
            self.keep(other.drawn)
        again = [self.placed(each.dimension) for each in (one, *moved)]
        made = [*stay, *(each for each in again if each is not None)]
        bad = sum(each.overlaps > 0 for each in made)
        if len(made) == len(found) and bad < sum(each.overlaps > 0 for each in found):
            return made
        return None

    def _clear(self) -> None:
        """Take away all dimensions; what stands there of other parts, and other words, stays."""
        self._rooms, self._own, self._extensions = _Things(), _Things(), _Things()
        for drawn in self._taken:
            self.keep(drawn)
        for room in self._names:
            self._rooms.add(room)

    def placed(self, one: Dimension) -> PlacedDimension | None:
        """Return a dimension where it stands best, None where no drawing shows what it is of."""
        ideas = self._lengths(one) if one.sort == "length" else self._noted(one)
        wanted = self._wanted.get(one.key)
        if wanted is not None and wanted.near is not None:
            best = self._nearest(ideas, wanted.near)
        elif wanted is not None and wanted.wish.passed:
            best = self._next(ideas, wanted.wish.passed)
        else:
            best = self._best(ideas)
        if best is None:
            return None
        self.keep(best.drawn)
        return PlacedDimension(one, best.drawn, best.overlaps, best.pane)

    def _label(self, one: Dimension, *, is_arc: bool = False) -> str:
        words = label(one, self.unit, is_arc=is_arc)
        wanted = self._wanted.get(one.key)
        return words if wanted is None else wanted.wish.lettered(words)

    def _nearest(self, ideas: Iterable[_Idea], near: Vec2) -> _Try | None:
        """Return the clear place nearest to where a hand has put the words."""

        def far(drawn: Drawn) -> float:
            middle = drawn.room.centroid
            return math.dist((middle.x, middle.y), near)

        best: _Try | None = None
        found = [(far(drawn := idea.draw()), drawn, idea) for idea in ideas]
        for away, drawn, idea in sorted(found, key=lambda item: item[0]):
            if best is not None and away >= best.cost:
                break
            overlaps = self._overlaps(drawn, leads=idea.leads)
            cost = away + _OVERLAP * overlaps
            if best is None or cost < best.cost:
                best = _Try(cost, overlaps, drawn, idea.pane)
        return best

    def _next(self, ideas: Iterable[_Idea], passed: int) -> _Try | None:
        """Return the good place that comes after so many others, the first again after the last."""
        found: list[_Try] = []
        for idea in sorted(ideas, key=lambda idea: idea.least)[:_MOST_PASSED]:
            tried = self._tried(idea, _OVERLAP)
            if tried is None:
                continue
            middle = tried.drawn.room.centroid
            if all(middle.distance(one.drawn.room.centroid) > STEP_MM / 2 for one in found):
                found.append(tried)
        found.sort(key=lambda tried: tried.cost)
        return found[passed % len(found)] if found else self._best(ideas)

    def _best(self, ideas: Iterable[_Idea]) -> _Try | None:
        """Return the best of some places; those that cannot be better are not looked at."""
        best: _Try | None = None
        for idea in sorted(ideas, key=lambda idea: idea.least):
            if best is not None and idea.least >= best.cost:
                break
            tried = self._tried(idea, math.inf if best is None else best.cost)
            if tried is not None and (best is None or tried.cost < best.cost):
                best = tried
        return best

    def _tried(self, idea: _Idea, most: float) -> _Try | None:
        """Return a place with what it costs, None where that is at least so much."""
        drawn = idea.draw()
        overlaps = self._overlaps(drawn, leads=idea.leads)
        if idea.least + _OVERLAP * overlaps >= most:
            return None
        crossed = self._crossed(drawn)
        cost = idea.least + _OVERLAP * overlaps + _CROSSED * crossed
        if idea.leads and any(hull.intersects(drawn.room) for hull in self._hulls):
            cost += _INSIDE
        return _Try(cost, overlaps, drawn, idea.pane)

    # --- what is in the way -----------------------------------------------------------------

    def _overlaps(self, drawn: Drawn, *, leads: bool = False) -> int:
        """Return how much a dimension lies on or runs into."""
        left, low, right, high = self.area
        room, line = drawn.room, drawn.line
        (a, b, c, d), (e, f, g, h) = room.bounds, line.bounds
        count = sum((min(a, e) < left, min(b, f) < low, max(c, g) > right, max(d, h) > high))
        count += len(self._all.query(room, predicate="intersects"))
        count += self._rooms.met(room) + self._own.met(room) + self._extensions.met(room)
        if not leads:
            count += len(self._lines.query(line, predicate="intersects"))
        count += self._rooms.met(line) + self._own.met(line)
        count += sum(self._rooms.met(extension) for extension in drawn.extensions)
        return int(count)

    def _crossed(self, drawn: Drawn) -> int:
        """Return how many lines are crossed that may be, though they had better not be."""
        count = 0 if drawn.extensions else len(self._lines.query(drawn.line, predicate="crosses"))
        for extension in drawn.extensions:
            count += len(self._lines.query(extension, predicate="intersects"))
            count += self._own.met(extension)
        return count + self._extensions.met(drawn.line)

    # --- lengths ----------------------------------------------------------------------------

    def _lengths(self, one: Dimension) -> Iterator[_Idea]:
        words = self._label(one)
        for pane, aside in zip(self.panes, self._aside, strict=True):
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
    ) -> Iterator[_Idea]:
        """Yield the rows in which a length may stand."""
        hidden = _UNSEEN * sum(spot.seen for spot in pair)
        starts = pair[0].at, pair[1].at
        for row in range(_ROWS):
            ends, far = side.ends(pair, FIRST_MM + row * STEP_MM)
            draw = partial(drawn_length, words, ends, starts, side.way, self.habit)
            yield _Idea(hidden + unfit + far + _ROW * row, draw, side.pane.name)

    # --- diameters and notes ----------------------------------------------------------------

    def _noted(self, one: Dimension) -> Iterator[_Idea]:
        """Yield arcs of an angle, and leaders with their notes."""
        yield from self._arcs(one)
        yield from self._notes(one)

    def _arcs(self, one: Dimension) -> Iterator[_Idea]:
        """Yield the arcs by which an angle may be drawn in views that show it true."""
        if one.rays is None or one.about is None:
            return
        words = self._label(one)
        for pane in self.panes:
            if not (pane.is_view and pane.shows_true(one.face)):
                continue
            centre = pane.onto(one.about)
            begin, end = (_degrees(centre, pane.onto(add(one.about, ray))) for ray in one.rays)
            sweep = (end - begin + 180) % 360 - 180
            for radius in _ARCS_MM:
                draw = partial(drawn_angle, words, centre, begin, sweep, radius)
                if draw() is not None:
                    made = cast(Callable[[], Drawn], draw)
                    yield _Idea(radius - _LIKED, made, pane.name)

    def _notes(self, one: Dimension) -> Iterator[_Idea]:
        for pane, aside in zip(self.panes, self._aside, strict=True):
            x0, y0, x1, y1 = pane.extent
            middle = (x0 + x1) / 2, (y0 + y1) / 2
            unfit = aside + (0.0 if pane.shows_true(one.face) else _NOT_TRUE)
            for tip, inside, seen, is_arc in _tips(pane, one):
                words = self._label(one, is_arc=is_arc)
                for way in _ways_out(tip, inside, middle):
                    for reach in _REACHES:
                        elbow = tip[0] + reach * way[0], tip[1] + reach * way[1]
                        draw = partial(drawn_leader, words, tip, elbow, to_right=way[0] >= 0)
                        cost = _UNSEEN * seen + unfit + reach
                        yield _Idea(cost, draw, pane.name, leads=True)


def _meet(one: Drawn, other: Drawn) -> bool:
    """Say whether two dimensions run into each other: words into anything, line into line."""
    pairs = [(one.room, other.room), (one.room, other.line), (one.line, other.room),
             (one.line, other.line)]  # fmt: skip
    pairs += [(one.room, extension) for extension in other.extensions]
    pairs += [(extension, other.room) for extension in one.extensions]
    return any(a.intersects(b) for a, b in pairs)


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
