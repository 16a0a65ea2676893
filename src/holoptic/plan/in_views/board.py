"""The views under way: which lines and points are on the paper, and how to add one.

Lines run through all views of a row or column. A new one is brought over from what is drawn
already, through a point, along a circle or over a 45° line, and measured only where nothing gives
it. Places are in mm from the lower left border corner.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from holoptic.catalogue import Saying, later, sentences, several, tr
from holoptic.curves.paper import offset_from_line
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.job import Outfit
from holoptic.plan.in_views.bands import Band, ViewOnSheet
from holoptic.plan.instruments import (
    COMPASS,
    DIVIDERS,
    PENCIL,
    SQUARE_30,
    SQUARE_45,
    STRAIGHTEDGE,
    T_SQUARE,
    TEMPLATE,
    TRAMMEL,
    square_for,
)
from holoptic.plan.lifting import Lifting, lifted
from holoptic.plan.moves import Setup
from holoptic.plan.writing import MoveWriter
from holoptic.tolerance import FINE, ON_CURVE_MM
from holoptic.units.spoken import on_rule

_FIRST_ENDS = (-1, -1, -1)
"""Where nothing is given, distances count from the crate's near ends."""
_CLEARLY_NEARER = 0.8
_WAYS = {0: later("to the right"), 90: later("up"), 180: later("to the left"), 270: later("down")}

LineKey = tuple[bool, float]
"""Whether a line is upright, and its place rounded so that equal places compare equal."""


def line_key(is_upright: bool, place: float) -> LineKey:
    """Return the key of a level line or an upright."""
    return is_upright, round(place, 4) + 0.0


@dataclass(frozen=True)
class LightCircle:
    """A circle on the paper: its name, view, centre and radius, mm."""

    name: str
    view: str
    centre: Vec2
    radius: float


class ViewBoard(MoveWriter):
    """Writes moves; remembers which lines, points and circles are on the paper."""

    def __init__(
        self, setup: Setup, views: Sequence[ViewOnSheet], lifting: Lifting,
        box: tuple[Vec3, Vec3], outfit: Outfit,
    ) -> None:  # fmt: skip
        super().__init__(setup)
        self.views, self.lifting = views, lifting
        self.low, self.high = box
        self.outfit = outfit
        self.bands = tuple(dict.fromkeys(band for v in views for band in (v.column, v.row)))
        self.operation: int | None = None
        self.lines: dict[LineKey, str] = {}
        self.line_places: dict[LineKey, float] = {}
        """Where the lines lie, mm."""
        self.points: dict[Vec2, str] = {}
        self.circles: list[LightCircle] = []
        self.spots: dict[str, Vec3] = {}
        """Where lettered points lie on the part, as far as their view tells it."""
        self.wanted: set[LineKey] = set()
        """The lines that some stroke needs in its own view."""
        self._keys: dict[str, LineKey] = {}
        self._on: dict[LineKey, list[str]] = defaultdict(list)
        self._counts: dict[bool, int] = defaultdict(int)
        self._diagonals: dict[tuple[Band, Band], str] = {}
        self._slants: dict[str, tuple[str, float]] = {}
        """Lines drawn at the angle of a set square: a letter on each, and its angle in degrees."""
        self._by_two: set[str] = set()
        self._made: dict[str, int] = {}
        """The index of the move that draws a line."""

    # --- names --------------------------------------------------------------------------------

    def name_line(self, is_upright: bool, place: float) -> str:
        """Return the name of a line that is about to be drawn."""
        self._counts[is_upright] += 1
        count = self._counts[is_upright]
        name = tr("upright {count}", count=count)
        if not is_upright:
            name = tr("level {count}", count=count)
        self.register_line(is_upright, place, name)
        return name

    def register_line(self, is_upright: bool, place: float, name: str) -> None:
        """Say that a line is on the paper."""
        self.lines[line_key(is_upright, place)] = name
        self._keys[name] = line_key(is_upright, place)
        self._made[name] = len(self.moves)
        self.line_places[line_key(is_upright, place)] = place

    def told(self, name: str) -> Saying:
        """Return the words for a line or a curve: a level line or an upright by a letter on it."""
        key = self._keys.get(name)
        if key is None or not self._on[key]:
            return super().told(name)
        letter = self._on[key][0]
        return (
            later("the upright through {letter}", letter=letter)
            if key[0]
            else later("the level line through {letter}", letter=letter)
        )

    def name_point(self, place: Vec2, spot: Vec3 | None = None) -> str:
        """Return the letter of a point that is about to be marked."""
        name = self.name_place(place)
        self.points[rounded(place)] = name
        self._on[line_key(True, place[0])].append(name)
        self._on[line_key(False, place[1])].append(name)
        if spot is not None:
            self.spots[name] = spot
        return name

    def has_line(self, is_upright: bool, place: float) -> bool:
        """Say whether a line is on the paper."""
        return line_key(is_upright, place) in self.lines

    def point_at(self, place: Vec2) -> str | None:
        """Return the letter of a point, None where there is none yet."""
        return self.points.get(rounded(place))

    def bound(self, band: Band, high: bool = False) -> float:
        """Return where the crate ends in a band: its near or its far end, mm."""
        return band.place((self.high if high else self.low)[band.axis])

    def is_plain(self, band: Band, place: float) -> bool:
        """Say whether a line is there, or a given length leads to it."""
        return self.has_line(band.is_column, place) or self.lifting.is_given(
            band.axis, band.value(place)
        )

    # --- lines --------------------------------------------------------------------------------

    def line(self, band: Band, place: float) -> str:
        """Draw a line of a band unless it is there; return its name."""
        key = line_key(band.is_column, place)
        if key not in self.lines:
            _ = (
                self._from_here(band, place)
                or self._over_45(band, place)
                or self._measured(band, place)
            )
        return self.lines[key]

    def _from_here(self, band: Band, place: float) -> bool:
        """Draw a line through a lettered point, or along a circle of the band."""
        names = self._on[line_key(band.is_column, place)]
        if names:
            self.draw_through(names[0], band.is_column, place)
            return True
        for circle in self.circles:
            if circle.view in band.views:
                off = place - circle.centre[0 if band.is_column else 1]
                if abs(abs(off) - circle.radius) < ON_CURVE_MM:
                    self._along(circle, band.is_column, place, off > 0)
                    return True
        return False

    def draw_through(self, point: str, is_upright: bool, place: float) -> None:
        """Draw a level line or an upright through a lettered point."""
        line = self.name_line(is_upright, place)
        angle, instrument = (90.0, SQUARE_30) if is_upright else (0.0, T_SQUARE)
        words = (
            later("Through {point} draw an upright.", point=point)
            if is_upright
            else later("Through {point} draw a level line.", point=point)
        )
        self.write("draw", instrument, (point,), (line,), words, angle=angle)

    def _along(self, circle: LightCircle, is_upright: bool, place: float, is_beyond: bool) -> None:
        """Lay the square against a circle: no distance is measured twice."""
        (x, y), index = circle.centre, 0 if is_upright else 1
        touching = (place, y) if index == 0 else (x, place)
        reference = next(name for (upright, _), name in self.lines.items() if upright == is_upright)
        line = self.name_line(is_upright, place)
        angle = (0.0 if is_upright else 90.0) + (0.0 if is_beyond else 180.0)
        self.write(
            "touch", SQUARE_30 if is_upright else T_SQUARE, (reference, circle.name),
            (line, self.name_point(touching)),
            later("Lay the set square upright against {circle}, {way}, and draw along it; it "
                  "touches at {point}.", circle=self.told(circle.name), way=_SIDES[round(angle)],
                  point=self.point_at(touching) or "")
            if is_upright else
            later("Lay the T-square level against {circle}, {way}, and draw along it; it touches "
                  "at {point}.", circle=self.told(circle.name), way=_SIDES[round(angle)],
                  point=self.point_at(touching) or ""),
            angle=angle if angle <= 180.0 else angle - 360.0,
        )  # fmt: skip

    def _over_45(self, band: Band, place: float) -> bool:
        """Bring a line over from a row to a column, or back, where it stands there already."""
        value = band.value(place)
        for other in self.bands:
            if not other.is_across_from(band):
                continue
            there = other.place(value)
            if self.has_line(other.is_column, there) or self._from_here(other, there):
                self._turn(other, there, band, place)
                return True
            key = line_key(other.is_column, there)
            seen_there = self._lift_view(other.axis, value) in other.views
            if key in self.wanted and seen_there and self._measured(other, there):
                self._turn(other, there, band, place)
                return True
        return False

    def _turn(self, source: Band, there: float, band: Band, place: float) -> None:
        row, column = (source, band) if band.is_column else (band, source)
        diagonal = self.diagonal(row, column)
        line = self.lines[line_key(source.is_column, there)]
        at = (place, there) if band.is_column else (there, place)
        corner = self.point_at(at) or self._marked(line, diagonal, at)
        self.draw_through(corner, band.is_column, place)

    def _marked(self, line: str, diagonal: str, at: Vec2) -> str:
        told = self.told(line)
        name = self.name_point(at)

        words = later("Where {line} meets the {diagonal} mark {name}.", line=told,
                      diagonal=diagonal, name=name)  # fmt: skip
        self.mark_crossing(
            (line, diagonal), name, words,
            lambda _, other: later("It meets {other} at {name}.", other=other, name=name),
        )  # fmt: skip
        return name

    def diagonal(self, row: Band, column: Band) -> str:
        """Return the 45° line between a row and a column of one axis; draw it at first, and see
        whether it closes: the far ends of both crates must meet on it.
        """
        if (row, column) not in self._diagonals:
            rises = row.per_mm * column.per_mm > 0
            count = len(self._diagonals) + 1
            name = tr("45° line") if count == 1 else tr("45° line {count}", count=count)
            self._diagonals[row, column] = name
            corner = self.crossing(column, self.bound(column), row, self.bound(row))
            words = later("Through {point} draw the {name} with the 45 set square: over it depths "
                          "go from view to view.", point=corner, name=name)  # fmt: skip
            self.write("draw", SQUARE_45, (corner,), (name,), words,
                       angle=45.0 if rises else 135.0)  # fmt: skip
        return self._diagonals[row, column]

    # --- measuring ----------------------------------------------------------------------------

    def _lift_view(self, axis: int, value: float) -> str:
        start, end = self._ends(axis, self.low[axis], value)
        return self.lifting.lift(axis, start, end, self.operation).view

    def _ends(self, axis: int, first: float, last: float) -> tuple[Vec3, Vec3]:
        def moved(value: float) -> Vec3:
            spot = list(self.low)
            spot[axis] = value
            return spot[0], spot[1], spot[2]

        return moved(first), moved(last)

    def _measured(self, band: Band, place: float) -> bool:
        """Set a distance off from the end of the crate that it is given from, along its edge."""
        value = band.value(place)
        far = self.lifting.counts_from_far_end(band.axis, value, self.operation, _FIRST_ENDS)
        first = self.bound(band, far)
        lift = self.lifting.lift(
            band.axis, *self._ends(band.axis, band.value(first), value), self.operation
        )
        view = next((v for v in self.views if v.name in band.views and v.name == lift.view), None)
        if view is None:
            view = next(v for v in self.views if v.name in band.views)
        across = view.row if band.is_column else view.column
        base = self.bound(across)
        start = self.crossing(band, first, across, base)
        edge = self.lines[line_key(not band.is_column, base)]
        end = (place, base) if band.is_column else (base, place)
        angle = (0 if band.is_column else 90) + (0 if place > first else 180)
        name = self.name_point(end, lift.end)
        rest = later("From {start} set it off {way}: {name}.", start=start, way=_WAYS[angle],
                     name=name)  # fmt: skip
        setting = lift.true_mm * self.setup.scale
        self.write(
            "set off", DIVIDERS, (start, edge), (name,), lifted(lift, setting, rest),
            setting=setting, angle=_half_turn(angle), lift=lift, rest=rest,
        )  # fmt: skip
        self.draw_through(name, band.is_column, place)
        return True

    # --- points -------------------------------------------------------------------------------

    def crossing(self, band: Band, place: float, across: Band, there: float) -> str:
        """Mark where a line of a band crosses one of another; return the letter."""
        column, row = (band, across) if band.is_column else (across, band)
        x, y = (place, there) if band.is_column else (there, place)
        known = self.point_at((x, y))
        if known is not None:
            return known
        lines = self.line(column, x), self.line(row, y)
        found = self.point_at((x, y))
        return found or self._mark(lines, (x, y), self._spot(column, row, (x, y)))

    def _spot(self, column: Band, row: Band, place: Vec2) -> Vec3 | None:
        shared = set(column.views) & set(row.views)
        view = next((view for view in self.views if view.name in shared), None)
        return view.spot(place, self.low) if view is not None else None

    def _mark(self, lines: tuple[str, str], place: Vec2, spot: Vec3 | None) -> str:
        """Mark a crossing; together with the line that was drawn last, where that is fresh."""
        told = [self.told(line) for line in lines]
        name = self.name_point(place, spot)
        at = max(self._made[line] for line in lines)
        move = self.moves[at]
        if move.verb == "draw" and move.phase == self.phase and move.makes[0] in lines:
            other = lines[1] if move.makes[0] == lines[0] else lines[0]
            met = later("It meets {line} at {point}.", line=told[lines.index(other)], point=name)
            self.moves[at] = replace(move, uses=(*move.uses, other), makes=(*move.makes, name),
                                     template=sentences(move.template, met))  # fmt: skip
            return name
        words = later("Mark {name} where {one} and {two} cross.", name=name, one=told[0],
                      two=told[1])  # fmt: skip
        self.mark_crossing(
            lines, name, words,
            lambda _, other: later("It meets {line} at {point}.", line=other, point=name),
        )  # fmt: skip
        return name

    def plot(self, view: ViewOnSheet, places: Iterable[Vec2], what: Saying) -> list[str]:
        """Set places of a view off by their offsets from the nearest corner of its crate.

        `what` says for the sentence what they are for.
        """
        wanted = [rounded(place) for place in places]
        new = [place for place in dict.fromkeys(wanted) if place not in self.points]
        if new:
            corner = self._near_corner(view, new)
            x, y = self.places[corner]
            uses = (corner, self.line(view.row, y), self.line(view.column, x))
            table = tuple((round(u - x, 9) + 0.0, round(v - y, 9) + 0.0) for u, v in new)
            names = tuple(self.name_point(place, view.spot(place, self.low)) for place in new)
            several = (
                later("{names} to {names2}", names=names[0], names2=names[-1])
                if len(names) > 1
                else names[0]
            )
            words = later("From {points} set off by the table, to the right and up: {several}, "
                          "{what}.", points=corner, several=several, what=what)  # fmt: skip
            self.write("plot", DIVIDERS, uses, names, words, table=table)
        return [self.points[place] for place in wanted]

    def _near_corner(self, view: ViewOnSheet, places: Sequence[Vec2]) -> str:
        corners = [
            (x, y)
            for x in view.column.bounds(self.low, self.high)
            for y in view.row.bounds(self.low, self.high)
        ]
        x, y = min(corners, key=lambda corner: max(math.dist(corner, place) for place in places))
        return self.crossing(view.column, x, view.row, y)

    # --- curves and slants ----------------------------------------------------------------------

    def slant(self, point: str, angle: float) -> str:
        """Draw a line through a letter at a set square's angle (degrees, 0 to 180), unless
        it is there; return its name.
        """
        known = self._slant_through(self.places[point], angle)
        if known is not None:
            return known
        name = tr("slant {number}", number=len(self._slants) + 1)
        square, flat = square_for(angle) or SQUARE_30, min(angle, 180.0 - angle)
        rise = (
            later("rises at {angle}° to the right", angle=f"{flat:g}")
            if angle < 90.0
            else later("rises at {angle}° to the left", angle=f"{flat:g}")
        )
        self.tell(name, later("the line through {point} that {rise}", point=point, rise=rise))
        words = later("With the {square} draw a line through {point} that {rise}.",
                      square=later(square), point=point, rise=rise)  # fmt: skip
        self._slants[name] = point, angle
        self._made[name] = len(self.moves)
        self.write("draw", square, (point,), (name,), words, angle=angle)
        return name

    def _slant_through(self, place: Vec2, angle: float) -> str | None:
        """Return the slant at an angle through a place, None where there is none."""
        way = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        for name, (point, known) in self._slants.items():
            off = offset_from_line(place, self.places[point], way)
            if abs(known - angle) < FINE and abs(off) < ON_CURVE_MM:
                return name
        return None

    def met(self, slant: str, line: str, place: Vec2, view: ViewOnSheet) -> str:
        """Mark where a slant meets a level line or an upright; return the letter."""
        name = self.point_at(place) or self._mark((slant, line), place, view.spot(place, self.low))
        self.tell_slant(slant, place)
        return name

    def tell_slant(self, slant: str, place: Vec2) -> None:
        """Tell a slant by its first two letters from when it has them."""
        if slant in self._slants and slant not in self._by_two:
            self._by_two.add(slant)
            first, second = sorted((self._slants[slant][0], self.points[rounded(place)]))
            self.tell(slant, later("the line through {first} and {second}", first=first,
                                   second=second))  # fmt: skip

    def circle(self, view: ViewOnSheet, centre: Vec2, radius: float, is_whole: bool) -> LightCircle:
        """Draw a circle of a view unless it is there."""
        for circle in self.circles:
            is_there = circle.view == view.name and math.dist(circle.centre, centre) < ON_CURVE_MM
            if is_there and abs(circle.radius - radius) < ON_CURVE_MM:
                return circle
        point = self.crossing(view.column, centre[0], view.row, centre[1])
        name = tr("circle {count}", count=len(self.circles) + 1)
        self.tell(name, later("the circle about {point} of radius {radius}", point=point,
                              radius=on_rule(radius)))  # fmt: skip
        text = (
            later("Needle on {point}, compass {radius}: a light circle.", point=point,
                  radius=on_rule(radius))
            if is_whole
            else later("Needle on {point}, compass {radius}: a light circle, no further than the "
                       "outline needs it.", point=point, radius=on_rule(radius))
        )  # fmt: skip
        pen = COMPASS
        if radius < self.outfit.least_radius:
            pen, text = TEMPLATE, later(
                "About {point} a light circle of radius {radius}, too small for the compass: by a "
                "template, or by hand.", point=point, radius=on_rule(radius))  # fmt: skip
        elif radius > self.outfit.largest_radius:
            pen, text = TRAMMEL, later(
                "About {point} a light circle of radius {radius}, too large for the compass: by a "
                "strip of card with a pin on {point} and a hole {radius} from it.", point=point,
                radius=on_rule(radius))  # fmt: skip
        self.write("circle", pen, (point,), (name,), text, setting=radius)
        self.circles.append(LightCircle(name, view.name, centre, radius))
        return self.circles[-1]

    def join(self, start: str, end: str) -> str:
        """Draw the straight line through two points; return its name."""
        (x, y), (u, v) = self.places[start], self.places[end]
        known = self._slant_through((x, y), math.degrees(math.atan2(v - y, u - x)) % 180.0)
        if known is not None:
            return known
        first, second = sorted((start, end))
        name = tr("line {ends}", ends=f"{first}{second}")
        if all(name not in move.makes for move in self.moves):
            self.tell(name, later("the line from {first} to {second}", first=first,
                                  second=second))  # fmt: skip
            self.rule_through(name, first, second)
        return name

    def touch(
        self, uses: tuple[str, str], touching: Sequence[Vec2], angle: float, name: str
    ) -> str:
        """Lay a straightedge on two circles, or on a point and a circle; return the line."""
        told = self.told(uses[0]), self.told(uses[1])
        points = [self.point_at(place) or self.name_point(place) for place in touching]
        self.tell(name, later("the tangent through {point}", point=points[0]))
        words = later("Lay the straightedge against {one} and {two}; mark where it touches, "
                      "{points}, and draw the tangent.", one=told[0], two=told[1],
                      points=several(points))  # fmt: skip
        self.write("touch", STRAIGHTEDGE, uses, (name, *points), words, angle=round(angle, 3))
        return name

    def meeting(self, items: tuple[str, str], place: Vec2, others: Sequence[Vec2]) -> str | None:
        """Mark where a line and a curve, or two curves, cross, of several crossings by the letter
        that is nearest; None where no letter tells them apart.
        """
        hint: tuple[str, ...] = ()
        if others:
            near = [
                (math.dist(at, place), name)
                for name, at in self.places.items()
                if all(math.dist(at, place) < _CLEARLY_NEARER * math.dist(at, other)
                       for other in others)
            ]  # fmt: skip
            if not near:
                return None
            hint = (min(near)[1],)
        told = self.told(items[0]), self.told(items[1])
        name = self.name_point(place)
        text: Saying = later("Mark {name} where {one} and {two} cross.", name=name, one=told[0],
                             two=told[1])  # fmt: skip
        if hint:
            text = sentences(text, later("Of the crossings take the one nearest to {hint}.",
                                         hint=hint[0]))  # fmt: skip
        self.write("meet", PENCIL, (*items, *hint), (name,), text)
        return name

    def beyond(self, start: str, line: str, end: Vec2, size: float, words: Saying) -> str:
        """Set a point off along a line from a letter; return its letter."""
        (x, y), name = self.places[start], self.name_point(end)
        angle = math.degrees(math.atan2(end[1] - y, end[0] - x))
        rest = later("From {start} set it off {way}: {name}.", start=start,
                     way=_WAYS[round(angle) % 360], name=name)  # fmt: skip
        self.write("set off", DIVIDERS, (start, line), (name,), sentences(words, rest),
                   setting=size, angle=float(round(angle)), rest=rest)  # fmt: skip
        return name

    def swing(self, centre: str, line: str, ends: tuple[Vec2, Vec2], words: Saying) -> None:
        """Set the same distance off to both sides of a letter along a line."""
        first, second = ends
        size = math.dist(self.places[centre], second)
        names = self.name_point(second), self.name_point(first)
        is_upright = abs(second[0] - first[0]) < ON_CURVE_MM
        rest = later("From {centre} swing it over to both sides: {first} to the left, {second} to "
                     "the right.", centre=centre, first=names[1], second=names[0])  # fmt: skip
        if is_upright:
            rest = later("From {centre} swing it over to both sides: {first} down, {second} up.",
                         centre=centre, first=names[1], second=names[0])  # fmt: skip
        self.write("swing", DIVIDERS, (centre, line), names, sentences(words, rest),
                   setting=size, angle=90.0 if is_upright else 0.0, rest=rest)  # fmt: skip


_SIDES = {
    0: later("on its right"),
    90: later("above it"),
    180: later("on its left"),
    270: later("below it"),
}


def rounded(place: Vec2) -> Vec2:
    """Return a place on the paper, mm, as the key its point's letter is kept under."""
    return round(place[0], 4) + 0.0, round(place[1], 4) + 0.0


def _half_turn(angle: int) -> float:
    return float(angle if angle <= 180 else angle - 360)
