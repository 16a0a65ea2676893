"""The moves that draw a circle's image: its square, its oval, its offset points.

Arcs are drawn only where a stroke needs them; what they hang on is drawn once.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from holoptic.catalogue import Saying, later, sentences, several, tr
from holoptic.construction.intended import Bent
from holoptic.construction.rims import Rim, RimKey, oval_shortfall, rim_of
from holoptic.curves.drawn import ArcChain, DrawnCurve, FreehandArcs
from holoptic.curves.methods import METHOD_TITLES
from holoptic.curves.paper import direction, offset_from_line
from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec2, Vec3, add, apply, cross
from holoptic.job import HandWays
from holoptic.plan.bench import Bench
from holoptic.plan.instruments import (
    COMPASS,
    DIVIDERS,
    FRENCH_CURVE,
    PENCIL,
    TEMPLATE,
    TRAMMEL,
    square_along,
)
from holoptic.plan.middles import find_middle
from holoptic.plan.spots import replace_axis, spot_of
from holoptic.tolerance import EXACT_MM, SHARE
from holoptic.units.spoken import on_rule

_UNITS: tuple[Vec3, ...] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


def _arcs_of(made: Bent, curve: ArcChain | FreehandArcs) -> list[int]:
    """Return the arcs of a closed chain that a stroke runs along, in order."""
    if made.is_whole:
        return list(range(round(curve.last)))
    first = math.floor(made.first + SHARE)
    last = math.ceil(made.last - SHARE) - 1
    return [k % round(curve.last) for k in range(first, max(last, first) + 1)]


class CurveWork:
    """Puts the curves of rims on the paper, whole or arc by arc."""

    def __init__(self, bench: Bench, ways: HandWays) -> None:
        self.bench, self.ways = bench, ways
        self.shapes: dict[str, DrawnCurve] = {}
        """Every curve on the paper by name, in picture coordinates, mm at 1:1."""
        self._shift = ways.depth_copy == "shift"
        self._items: dict[tuple[RimKey, int], str] = {}
        self._lines: dict[tuple[object, ...], str] = {}
        self._points: dict[Vec2, str] = {}
        self._alike: dict[tuple[object, ...], list[Rim]] = {}
        self._counts: dict[str, int] = {}
        self._needles: dict[str, str] = {}
        self._radii: dict[str, str] = {}
        """The letter that each arc is drawn about."""
        self._needed: set[tuple[RimKey, int]] = set()
        """The arcs that some stroke needs."""

    # --- what strokes ask for ---------------------------------------------------------------

    def items(self, made: Bent) -> tuple[tuple[str, ...], tuple[int, ...]]:
        """Return the curves on paper that a stroke runs along, and their places in its rim."""
        if made.rim is None:
            return (self._french(made),), (0,)
        curve = made.curve
        if not isinstance(curve, ArcChain | FreehandArcs):
            return (self._whole(made.rim),), (0,)
        order = _arcs_of(made, curve)
        return tuple(self.arc(made.rim, k) for k in order), tuple(order)

    def foresee(self, made: Bent) -> None:
        """Take note of the arcs that a stroke will need."""
        if made.rim is not None and isinstance(made.curve, ArcChain):
            self._needed.update((made.rim.key, k) for k in _arcs_of(made, made.curve))

    def foresee_at(self, made: Bent, place: Vec2) -> None:
        """Take note of the arc of a stroke's rim that something else will end at."""
        if made.rim is not None and isinstance(made.curve, ArcChain):
            self._needed.add((made.rim.key, made.curve.index_at(made.curve.nearest(place))))

    def item_at(self, made: Bent, place: Vec2) -> str:
        """Return the curve on paper of a stroke's rim that runs through a place."""
        curve = made.curve
        if made.rim is None:
            return self._french(made)
        if not isinstance(curve, ArcChain | FreehandArcs):
            return self._whole(made.rim)
        return self.arc(made.rim, curve.index_at(curve.nearest(place)))

    def arc(self, rim: Rim, index: int) -> str:
        """Return the name of one arc of a rim's oval, drawn unless it is there."""
        key = rim.key, index
        if key not in self._items:
            self._items[key] = self._draw_arc(rim, index)
        return self._items[key]

    def begins_at(self, rim: Rim, index: int) -> str:
        """Return the point where arc `index` begins."""
        return self._join_point(rim, index)

    # --- arcs -------------------------------------------------------------------------------

    def _draw_arc(self, rim: Rim, index: int) -> str:
        construction, curve = rim.construction, rim.construction.curve
        if isinstance(curve, FreehandArcs):
            return self._draw_freehand(rim, index)
        if not isinstance(curve, ArcChain):
            raise TypeError("this rim has no arcs")
        arc = curve.arcs[index]
        earlier = self._shifted_from(rim, index)
        name = self._name("arc")
        self.shapes[name] = ArcChain([arc], closed=False)
        pen = self._pen(arc.radius * self.bench.setup.scale)
        scale = self.bench.setup.scale
        radius = on_rule(arc.radius * scale)
        if earlier is not None:
            centre = self._shift_centre(rim, earlier, index)
            again = self._items[earlier.key, index]
            rest = later("Draw {arc} again.", arc=self.bench.told(again))
            self._tell_arc(name, centre, radius, pen)
            self.bench.write(
                "same arc",
                pen,
                (centre, again),
                (name,),
                sentences(later("Needle on {centre}, the compass left at {radius}.",
                                centre=centre, radius=radius) if pen == COMPASS else
                          later("Template {radius} about {centre}, or by hand.", radius=radius,
                                centre=centre), rest),
                setting=arc.radius * scale,
                rest=rest,
            )  # fmt: skip
            return name
        start, end = (self._join_point(rim, k % len(curve.arcs)) for k in (index, index + 1))
        centre = self._centre(rim, index)
        self._tell_arc(name, centre, radius, pen)
        rest = later("Needle on {centre}, a light arc from {start} to {end} ({method}).",
                  centre=centre, start=start, end=end,
                  method=METHOD_TITLES[construction.method])  # fmt: skip
        if pen == TEMPLATE:
            rest = later("About {centre} a light arc from {start} to {end} ({method}): by a "
                         "template, or by hand.", centre=centre, start=start, end=end,
                         method=METHOD_TITLES[construction.method])  # fmt: skip
        self.bench.write(
            "arc",
            pen,
            (centre, start, end),
            (name,),
            sentences(later("Compass {radius}.", radius=radius) if pen == COMPASS else
                      later("Radius {radius}, too small for the compass.", radius=radius), rest),
            setting=arc.radius * scale,
            rest=rest,
        )  # fmt: skip
        self._alike.setdefault(self._kind(rim), [])
        if rim not in self._alike[self._kind(rim)]:
            self._alike[self._kind(rim)].append(rim)
        return name

    def _pen(self, radius: float) -> str:
        """Return what draws an arc of a radius on paper, mm."""
        return COMPASS if radius >= self.ways.outfit.least_radius else TEMPLATE

    def along(self, items: Sequence[str]) -> Saying:
        """Return the words for the curves that a stroke runs along, one after the other."""
        if len(items) > 1 and all(item in self._needles for item in items):
            return later("the arcs about {centres}",
                         centres=several([self._middle(item) for item in items]))  # fmt: skip
        return several([self.bench.told(item) for item in items])

    def _middle(self, arc: str) -> Saying:
        """Return the words for the middle of an arc, with its radius where others have it too."""
        centre, radius = self._needles[arc], self._radii[arc]
        if all(self._radii[other] == radius for other, at in self._needles.items() if at == centre):
            return centre
        return later("{centre} of radius {radius}", centre=centre, radius=radius)

    def _tell_arc(self, name: str, centre: str, radius: str, pen: str) -> None:
        self._needles[name], self._radii[name] = centre, radius
        self.bench.tell(name, self._told_arc(centre, radius, pen))

    @staticmethod
    def _told_arc(centre: str, radius: str, pen: str) -> Saying:
        if pen == COMPASS:
            return later("the arc about {centre} of radius {radius}", centre=centre, radius=radius)
        return later("the small arc about {centre}", centre=centre)

    def _kind(self, rim: Rim) -> tuple[object, ...]:
        """Return what rims have in common whose arcs are the same but for a shift."""
        place = tuple(round(v, 5) for k, v in enumerate(rim.centre) if k != rim.axis)
        return rim.axis, rim.construction.method, round(rim.arc.major, 6), place

    def _shifted_from(self, rim: Rim, index: int) -> Rim | None:
        """Return an equal rim at another depth whose arc is drawn, where centres are shifted."""
        if rim.axis is None or not self._shift:
            return None
        for other in self._alike.get(self._kind(rim), []):
            if other.key != rim.key and (other.key, index) in self._items:
                return other
        return None

    def _shift_centre(self, rim: Rim, earlier: Rim, index: int) -> str:
        """Carry an arc's centre along the axis by the thickness."""
        place = rim.construction.centres[index]
        if self._rounded(place) in self._points:
            return self._points[self._rounded(place)]
        axis = rim.axis or 0
        before = self.spot_on(earlier, earlier.construction.centres[index])
        after = spot_of(replace_axis(before, axis, rim.centre[axis]))
        self.bench.adopt(before, self._centre(earlier, index))
        if after not in self.bench.points:
            line = self.bench.ensure_line(axis, before)
            if after not in self.bench.points:
                lift = self.bench.lifting.lift(axis, before, after, self.bench.operation)
                self.bench.set_off(axis, before, after, line, lift)
        return self._known(place, self.bench.points[after])

    def _centre(self, rim: Rim, index: int) -> str:
        place = rim.construction.centres[index]
        key = self._rounded(place)
        if key in self._points:
            return self._points[key]
        if rim.construction.method == "four-centre":
            name = self._rhombus_centre(rim, index)
        else:
            name = self._axis_centre(rim, index)
        return self._known(place, name)

    def _join_point(self, rim: Rim, index: int) -> str:
        place = rim.construction.joins[index]
        key = self._rounded(place)
        if key in self._points:
            return self._points[key]
        if rim.construction.method in ("four-centre", "sketch"):
            self._square_about(rim)
            name = self.bench.ensure_point(self.spot_on(rim, place))
        else:
            name = self._end_of_small_arc(rim, index)
        return self._known(place, name)

    def _middle_of(self, rim: Rim) -> str:
        """Put the centre of a rim on the paper, by diagonals where it is the middle of a face."""
        centre = spot_of(rim.centre)
        if rim.axis is not None:
            find_middle(self.bench, centre, rim.axis)
        return self.bench.ensure_point(centre)

    # --- the square about a circle ----------------------------------------------------------

    def _square_about(self, rim: Rim) -> None:
        """Draw centre lines and the four sides, once."""
        key = ("square", rim.key)
        if key in self._lines or rim.axis is None:
            return
        self._lines[key] = ""
        centre = spot_of(rim.centre)
        self._middle_of(rim)
        axes = [axis for axis in range(3) if axis != rim.axis]
        for axis in axes:
            self.bench.ensure_line(axis, centre)
        for axis, other in (axes, axes[::-1]):
            sides = [spot_of(replace_axis(centre, other, centre[other] + sign * rim.arc.major))
                     for sign in (-1, 1)]  # fmt: skip
            self.bench.swing_about(other, centre, sides, axis)
            for side in sides:
                self.bench.ensure_line(axis, side)

    def _corner(self, rim: Rim, index: int) -> tuple[Vec2, Vec3]:
        """Return the corner of the square between mid-points index and index + 1."""
        mids, centre = rim.construction.joins, rim.construction.ellipse.centre
        one, two = mids[index], mids[(index + 1) % 4]
        place = one[0] + two[0] - centre[0], one[1] + two[1] - centre[1]
        return place, self.spot_on(rim, place)

    def _rhombus_centre(self, rim: Rim, index: int) -> str:
        """Find where the perpendiculars at two neighbouring mid-points cross.

        In isometric the centres of the long arcs are the obtuse corners themselves.
        """
        place = rim.construction.centres[index]
        for k in range(4):
            corner, spot = self._corner(rim, k)
            if math.dist(corner, place) < EXACT_MM:
                return self.bench.ensure_point(spot)
        one, two = (self._perpendicular(rim, k % 4) for k in (index, index + 1))
        name = self.bench.name_place(place)

        words = later("Mark the arc centre {name} where {one} and {two} cross.", name=name,
                      one=self.bench.told(one), two=self.bench.told(two))  # fmt: skip
        self.bench.mark_crossing(
            (one, two), name, words,
            lambda _, other: later("It meets {other} at the arc centre {name}.", other=other,
                                   name=name),
        )  # fmt: skip
        return name

    def _perpendicular(self, rim: Rim, index: int) -> str:
        """Draw the line square to a side at its mid-point; it may run through a corner."""
        key = ("square to", rim.key, index)
        if key in self._lines:
            return self._lines[key]
        mid = self._join_point(rim, index)
        place = rim.construction.joins[index]
        next_place = rim.construction.centres[index]
        along = direction(place, next_place)
        for k in range(4):
            corner, spot = self._corner(rim, k)
            off = abs(offset_from_line(corner, place, along))
            if off < EXACT_MM and math.dist(corner, place) > 1.01 * rim.arc.major * 0.5:
                line = self.bench.join_letters(self.bench.ensure_point(spot), mid)
                self._lines[key] = line
                return line
        angle = math.degrees(math.atan2(along[1], along[0])) % 180
        standing = self.bench.standing(place, angle)
        if standing is not None:
            self._lines[key] = standing
            return standing
        line = self._name(tr("square line"))
        self.bench.tell(line, later("the perpendicular at {mid}", mid=mid))
        self.bench.slants.draw(
            mid,
            angle,
            line,
            later("At the mid-point {mid} draw the perpendicular to the side.", mid=mid),
            self.bench.told,
        )
        self._lines[key] = line
        return line

    # --- ovals about the axes ---------------------------------------------------------------

    def _axis_line(self, rim: Rim, long: bool) -> str:
        key = ("axis", rim.key, long)
        if key in self._lines:
            return self._lines[key]
        centre = self._middle_of(rim)
        ellipse = rim.construction.ellipse
        turn = math.degrees(ellipse.turn) + (0.0 if long else 90.0)
        standing = self.bench.standing(ellipse.centre, turn)
        if standing is not None:
            self._lines[key] = standing
            return standing
        name = self._name(tr("long axis") if long else tr("short axis"))
        self.bench.tell(name, later("the long axis through {centre}", centre=centre) if long else
                        later("the short axis through {centre}", centre=centre))  # fmt: skip
        if long:
            angle = math.degrees(ellipse.turn) % 180
            self.bench.slants.draw(
                centre,
                angle,
                name,
                later("Through the centre {centre} draw the long axis, at {angle:.1f}°.",
                      centre=centre, angle=angle),
                self.bench.told,
            )  # fmt: skip
        else:
            other = self._axis_line(rim, long=True)
            angle = (math.degrees(ellipse.turn) + 90) % 180
            self.bench.write(
                "square",
                square_along(angle),
                (centre, other),
                (name,),
                later(
                    "Through {centre} draw the short axis, square to {other}.",
                    centre=centre,
                    other=self.bench.told(other),
                ),
                angle=angle,
            )
        self._lines[key] = name
        return name

    def _along_axis(self, rim: Rim, long: bool, place: Vec2, what: Saying) -> str:
        """Set off a place on one of the axes from the centre."""
        line = self._axis_line(rim, long)
        centre = self._middle_of(rim)
        at = rim.construction.ellipse.centre
        return self._figure(line, centre, at, place, what)

    def _figure(self, line: str, start: str, at: Vec2, place: Vec2, what: Saying) -> str:
        """Set off a computed figure along a line with the rule."""
        size = math.dist(at, place) * self.bench.setup.scale
        way = direction(at, place)
        name = self.bench.name_place(place)
        rest = later("Set it off from {start} along {line}: {name}, {what}.", start=start,
                     line=self.bench.told(line), name=name, what=what)  # fmt: skip
        self.bench.write(
            "set off", DIVIDERS, (start, line), (name,),
            sentences(later("Dividers {size}.", size=on_rule(size)), rest),
            setting=size, angle=math.degrees(math.atan2(way[1], way[0])), rest=rest,
        )  # fmt: skip
        return name

    def _both_ways(self, rim: Rim, long: bool, places: tuple[Vec2, Vec2], what: Saying) -> None:
        """Swing the same figure over to both sides of the centre along an axis."""
        line = self._axis_line(rim, long)
        centre = self._middle_of(rim)
        at, (one, other) = rim.construction.ellipse.centre, places
        size, way = math.dist(at, one) * self.bench.setup.scale, direction(at, one)
        names = self.bench.name_place(one), self.bench.name_place(other)
        for place, name in zip(places, names, strict=True):
            self._known(place, name)
        rest = later("Swing it over to both sides of {centre} along {line}: {one} and {other}, "
                     "{what}.", centre=centre, line=self.bench.told(line), one=names[0],
                     other=names[1], what=what)  # fmt: skip
        self.bench.write(
            "swing", DIVIDERS, (centre, line), names,
            sentences(later("Dividers {size}.", size=on_rule(size)), rest),
            setting=size, angle=math.degrees(math.atan2(way[1], way[0])), rest=rest,
        )  # fmt: skip

    def _axis_centre(self, rim: Rim, index: int) -> str:
        centres = rim.construction.centres
        place, opposite = centres[index], centres[(index + 2) % 4]
        if self._needs_both(rim, index):
            self._both_ways(rim, index % 2 == 0, (place, opposite), later("arc centres"))
            return self._points[self._rounded(place)]
        return self._along_axis(rim, index % 2 == 0, place, later("an arc centre"))

    def _needs_both(self, rim: Rim, index: int) -> bool:
        """Say whether a centre and the one opposite are needed: to draw about, or to draw a join
        line through, which every arc ends on.
        """
        others = {(rim.key, k) for k in range(4) if k % 2 != index % 2}
        return bool(others & self._needed) or all(
            (rim.key, k) in self._needed for k in (index, (index + 2) % 4)
        )

    def _end_of_small_arc(self, rim: Rim, index: int) -> str:
        """Find where a small and a large arc join: on the line through both their centres."""
        small = index if index % 2 == 0 else index - 1
        large = (index - 1) % 4 if index % 2 == 0 else index
        needle, pivot = self._centre(rim, small), self._centre(rim, large)
        centres = rim.construction.centres
        line = self._name(tr("join line"))
        self.bench.tell(line, later("the line from {first} to {second}", first=pivot,
                                    second=needle))  # fmt: skip
        self.bench.rule_through(line, pivot, needle, later("Draw it on beyond {needle}.",
                                                           needle=needle))  # fmt: skip
        return self._figure(line, needle, centres[small], rim.construction.joins[index],
                            later("where two arcs join"))  # fmt: skip

    # --- whole curves -----------------------------------------------------------------------

    def _whole(self, rim: Rim) -> str:
        key = rim.key, -1
        if key not in self._items:
            method = rim.construction.method
            draw = {"compass": self._circle, "offsets": self._offsets, "true": self._trammel}
            self._items[key] = draw[method](rim)
        return self._items[key]

    def _circle(self, rim: Rim) -> str:
        centre = self._middle_of(rim)
        radius = rim.construction.ellipse.half_axes[0] * self.bench.setup.scale
        pen = self._pen(radius)
        name = self._named(rim, "circle")
        self.bench.tell(name, later("the circle about {centre} of radius {radius}", centre=centre,
                                    radius=on_rule(radius)))  # fmt: skip
        circle = later("Needle on {centre}, a light circle for the {feature}.", centre=centre,
                       feature=rim.feature)  # fmt: skip
        first = later("Compass {radius}.", radius=on_rule(radius))
        if pen == TEMPLATE:
            first = later("Radius {radius}, too small for the compass.", radius=on_rule(radius))
            circle = later("About {centre} a light circle for the {feature}: by a template, or by "
                           "hand.", centre=centre, feature=rim.feature)  # fmt: skip
        ovals = self._ovals_of_ball(rim)
        rest = sentences(circle, self._ball_note(rim, bool(ovals)))
        self.bench.write("circle", pen, (centre, *ovals), (name,), sentences(first, rest),
                         setting=radius, rest=rest)  # fmt: skip
        return name

    def _ovals_of_ball(self, rim: Rim) -> tuple[str, ...]:
        """Draw the three ovals that a ball's outline goes round, where its image is a circle."""
        if rim.axis is not None or self.ways.balls == "short":
            return ()
        drawn: list[str] = []
        for axis in range(3):
            radius, (normal, along) = rim.arc.major, (_UNITS[axis], _UNITS[axis - 1])
            arc = EllipticArc(rim.centre, normal, along, radius, radius, 0.0, math.tau)
            oval = rim_of(arc, rim.feature, self.bench.view, self.ways, self.bench.setup.scale)
            if oval is None:
                continue
            curve = oval.construction.curve
            if isinstance(curve, ArcChain | FreehandArcs):
                drawn += [self.arc(oval, k) for k in range(round(curve.last))]
            else:
                drawn.append(self._whole(oval))
        return tuple(drawn)

    def _ball_note(self, rim: Rim, has_ovals: bool) -> Saying:
        """Say what a ball's radius becomes, and what taking it off an oval would cost."""
        radius, drawn = rim.arc.major, rim.construction.ellipse.half_axes[0]
        if rim.axis is not None:
            return ""
        share = drawn / radius
        if abs(drawn - radius) < EXACT_MM:
            return later("It goes round the ball's three ovals.") if has_ovals else ""
        if has_ovals:
            return later("It goes round the ball's three ovals: {share:.4f} × the ball's radius.",
                         share=share)  # fmt: skip
        short = oval_shortfall(radius, share, self.bench.view)
        if short is None:
            return later("The short way: {share:.4f} × the ball's radius.", share=share)
        return later("The short way: {share:.4f} × the ball's radius; taken off a four-centre "
                     "oval it would be {short:.1f} % small.",
                     share=share, short=100 * short)  # fmt: skip

    def _offsets(self, rim: Rim) -> str:
        self._middle_of(rim)
        spots = [self.spot_on(rim, place) for place in rim.construction.joins]
        points = self.bench.plot(spots, later("points of the {feature}", feature=rim.feature))
        name = self._named(rim, "curve")
        self.bench.tell(name, later("the curve through {one} and {other}", one=points[0],
                                    other=points[1]))  # fmt: skip
        self.bench.write(
            "curve",
            FRENCH_CURVE,
            (*points, points[0]),
            (name,),
            later(
                "Lay the French curve through {points} to {points2} and back, lightly.",
                points=points[0],
                points2=points[-1],
            ),
        )
        return name

    def _trammel(self, rim: Rim) -> str:
        ellipse = rim.construction.ellipse
        a, b = ellipse.half_axes
        ends = [
            self._along_axis(rim, True, ellipse.placed(a, 0), later("an end of the ellipse")),
            self._along_axis(rim, False, ellipse.placed(0, b), later("an end of the ellipse")),
        ]
        centre = self._middle_of(rim)
        name = self._named(rim, "ellipse")
        self.bench.tell(name, later("the ellipse about {centre} through {one}", centre=centre,
                                    one=ends[0]))  # fmt: skip
        self.bench.write(
            "trammel",
            TRAMMEL,
            (centre, *ends),
            (name,),
            later(
                "Mark half the long and half the short axis on a paper strip and dot the "
                "ellipse of the {feature} about {centre}, through {one} and {other}.",
                feature=rim.feature,
                centre=centre,
                one=ends[0],
                other=ends[1],
            ),
        )
        return name

    def _draw_freehand(self, rim: Rim, index: int) -> str:
        start, end = (self._join_point(rim, k % 4) for k in (index, index + 1))
        corner = self.bench.ensure_point(self._corner(rim, index)[1])
        joins = rim.construction.joins
        name = self._name("freehand arc")
        self.bench.tell(name, later("the arc from {start} to {end}", start=start, end=end))
        self.shapes[name] = FreehandArcs(
            (joins[index], joins[(index + 1) % 4]), (self._corner(rim, index)[0],), closed=False
        )
        self.bench.write(
            "freehand",
            PENCIL,
            (start, corner, end),
            (name,),
            later(
                "By hand, a light arc from {start} to {end}, flat against the sides at {corner}.",
                start=start,
                end=end,
                corner=corner,
            ),
        )
        return name

    def _french(self, made: Bent) -> str:
        spots = tuple(spot_of(spot) for spot in made.through)
        key = ("french", spots)
        if key not in self._lines:
            points = self.bench.plot(spots, later("points of the curve"))
            uses = (*points, points[0]) if made.curve.closed else tuple(points)
            name = self._name("curve")
            self.bench.tell(name, later("the curve through {one} and {other}", one=points[0],
                                        other=points[1]))  # fmt: skip
            self.shapes[name] = made.curve
            self.bench.write(
                "curve",
                FRENCH_CURVE,
                uses,
                (name,),
                later(
                    "Lay the French curve through {points} to {points2}, lightly.",
                    points=points[0],
                    points2=points[-1],
                ),
            )
            self._lines[key] = name
        return self._lines[key]

    # --- names and places -------------------------------------------------------------------

    def spot_on(self, rim: Rim, place: Vec2) -> Vec3:
        """Return the spot in a rim's plane whose image is a place of the picture."""
        matrix = self.bench.view.matrix
        one, two = rim.arc.x_axis, cross(rim.arc.normal, rim.arc.x_axis)
        images = np.array([apply(matrix, one), apply(matrix, two)]).T
        centre = apply(matrix, rim.centre)
        apart = np.array([place[0] - centre[0], place[1] - centre[1]])
        u, v = np.linalg.solve(images, apart)
        return spot_of(add(add(rim.centre, one, float(u)), two, float(v)))

    def _named(self, rim: Rim, kind: str) -> str:
        name = self._name(kind)
        self.shapes[name] = rim.construction.curve
        return name

    def _name(self, kind: str) -> str:
        self._counts[kind] = self._counts.get(kind, 0) + 1
        return f"{kind} {self._counts[kind]}"

    def _known(self, place: Vec2, name: str) -> str:
        self._points[self._rounded(place)] = name
        return name

    @staticmethod
    def _rounded(place: Vec2) -> Vec2:
        return round(place[0], 5) + 0.0, round(place[1], 5) + 0.0
