"""Where dimensions stand: outside the drawings, clear of lines, words and each other.

A length stands beside a drawing that shows both its ends, its extension lines along an axis, the
shorter ones inside the longer. A diameter or a note stands at the end of a leader. Of all the
places that are tried the one is taken that overlaps least, hides least, and is nearest.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from holoptic.curves.vectors import Vec2
from holoptic.dimensions import Dimension
from holoptic.job import SizeWish
from holoptic.sheet.dimension_ideas import STEP_MM, Idea, Ideas
from holoptic.sheet.dimension_ink import Drawn, Habit, label
from holoptic.sheet.dimension_panes import DimensionPane, places_of
from holoptic.sheet.frames import Box
from holoptic.units import Unit

_OVERLAP, _CROSSED, _INSIDE = 1000.0, 4.0, 35.0
"""What each counts, in millimetres of extension line or leader."""
_REPAIRS = 12
"""So many dimensions at most are placed anew after others, where they found no clear place."""
_APART_MM = 2.0
"""Places nearer to each other are one for a hand that drags."""
_MOST_PASSED = 250
"""So many places are tried for the next good one."""


@dataclass(frozen=True)
class Wanted:
    """What is asked of a dimension, and where on the page its words are wanted, mm."""

    wish: SizeWish
    near: Vec2 | None = None


_NOTHING_WANTED: Mapping[str, Wanted] = {}
_FREE = Wanted(SizeWish(""))


@dataclass(frozen=True)
class PlacedDimension:
    """A dimension on the page; `overlaps` counts what it lies on or runs into.

    `pane` says at which picture it stands: the id of the figure, and the kind of the picture.
    """

    dimension: Dimension
    drawn: Drawn
    overlaps: int
    pane: tuple[str, str] = ("", "")


@dataclass(frozen=True)
class Ground:
    """What the dimensions of a part are placed on: its drawings, and an area of the page, mm.

    `taken` is what stands there already, of other parts; `names` are the rooms of other words.
    """

    panes: Sequence[DimensionPane]
    area: Box
    habit: Habit
    unit: Unit
    taken: Sequence[Drawn] = ()
    names: Sequence[shapely.Polygon] = ()


def place_dimensions(
    dimensions: Sequence[Dimension], ground: Ground, wanted: Mapping[str, Wanted] = _NOTHING_WANTED
) -> list[PlacedDimension]:
    """Return where the dimensions of a part stand about its drawings.

    `wanted` is what is asked of some, by their keys. Those that a hand has put somewhere are placed
    first; then lengths, the shortest of them inside, then diameters and notes. None is left out:
    what overlaps says so.
    """
    placing = _Placing(dimensions, ground, wanted)
    found = placing.all(dimensions)
    for _ in range(_REPAIRS):
        over = [one for one in found if one.overlaps]
        tried = (placing.repaired(found, one) for one in over)
        better = next((made for made in tried if made is not None), None)
        if better is None:
            break
        found = better
    return found


def good_places(
    key: str, dimensions: Sequence[Dimension], ground: Ground,
    wanted: Mapping[str, Wanted] = _NOTHING_WANTED,
) -> list[Drawn]:  # fmt: skip
    """Return where a dimension may be dragged to, the best place first.

    They are clear of all but the dimensions that make room for it: those that no hand has put where
    they stand. A key that none of them has gives none.
    """
    placing = _Placing(dimensions, ground, wanted)
    held = [one for one in dimensions
            if one.key != key and wanted.get(one.key, _FREE).near is not None]  # fmt: skip
    placing.all(held)
    return [place for one in dimensions if one.key == key for place in placing.clear_places(one)]


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
        self, dimensions: Sequence[Dimension], ground: Ground, wanted: Mapping[str, Wanted]
    ) -> None:
        panes = ground.panes
        for pane in panes:
            pane.add_places(places_of(dimensions))
        self._wanted, self._taken, self._names = wanted, ground.taken, ground.names
        self.area, self.unit = ground.area, ground.unit
        solid = [shapely.linestrings(path) for pane in panes for path in pane.lines]
        thin = [shapely.linestrings(path) for pane in panes for path in pane.thin]
        self._lines = shapely.STRtree(solid)
        self._all = shapely.STRtree([*solid, *thin])
        self._hulls = [shapely.Polygon(pane.outline) for pane in panes]
        self._ideas = Ideas(panes, ground.habit)
        self._clear()

    def keep(self, drawn: Drawn) -> None:
        self._rooms.add(drawn.room)
        self._own.add(drawn.line)
        for extension in drawn.extensions:
            self._extensions.add(extension)

    def all(self, dimensions: Sequence[Dimension]) -> list[PlacedDimension]:
        """Return all dimensions placed one after the other."""

        def turn(one: Dimension) -> tuple[bool, bool, float]:
            is_free = self._wanted.get(one.key, _FREE).near is None
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
        ideas = self._ideas_of(one)
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

    def _ideas_of(self, one: Dimension) -> Iterator[Idea]:
        return self._ideas.of(one, lambda is_arc: self._label(one, is_arc=is_arc))

    def _label(self, one: Dimension, *, is_arc: bool) -> str:
        words = label(one, self.unit, is_arc=is_arc)
        wanted = self._wanted.get(one.key)
        return words if wanted is None else wanted.wish.lettered(words)

    def _nearest(self, ideas: Iterable[Idea], near: Vec2) -> _Try | None:
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

    def clear_places(self, one: Dimension) -> list[Drawn]:
        """Return the clear places of a dimension, the best first, those apart that a hand can tell
        apart.
        """
        found: list[Drawn] = []
        middles = np.empty((0, 2))
        for idea in sorted(self._ideas_of(one), key=lambda idea: idea.least):
            drawn = idea.draw()
            middle = np.array(drawn.room.centroid.coords[0])
            if len(middles) and np.hypot(*(middles - middle).T).min() < _APART_MM:
                continue
            if self._overlaps(drawn, leads=idea.leads) == 0:
                found.append(drawn)
                middles = np.vstack([middles, middle])
        return found

    def _next(self, ideas: Iterable[Idea], passed: int) -> _Try | None:
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

    def _best(self, ideas: Iterable[Idea]) -> _Try | None:
        """Return the best of some places; those that cannot be better are not looked at."""
        best: _Try | None = None
        for idea in sorted(ideas, key=lambda idea: idea.least):
            if best is not None and idea.least >= best.cost:
                break
            tried = self._tried(idea, math.inf if best is None else best.cost)
            if tried is not None and (best is None or tried.cost < best.cost):
                best = tried
        return best

    def _tried(self, idea: Idea, most: float) -> _Try | None:
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


def _meet(one: Drawn, other: Drawn) -> bool:
    """Say whether two dimensions run into each other: words into anything, line into line."""
    pairs = [(one.room, other.room), (one.room, other.line), (one.line, other.room),
             (one.line, other.line)]  # fmt: skip
    pairs += [(one.room, extension) for extension in other.extensions]
    pairs += [(extension, other.room) for extension in one.extensions]
    return any(a.intersects(b) for a, b in pairs)
