"""The picture as it is to stand on paper: each stroke by the construction chosen for it.

True ellipses give way to ovals, so the lines that meet them end a little elsewhere: an edge that
goes behind an oval ends on the oval, an outline generator touches it. This room says where, from
the closed figures of the constructions; the plan gets there with instruments, and the proof
compares the two.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise
from typing import Literal

import numpy as np
import shapely

from holoptic.construction.offsets import through_offsets
from holoptic.construction.rims import Rim, RimKey, feature_name, rim_key, rim_of
from holoptic.curves.drawn import DrawnCurve, common_tangents
from holoptic.curves.paper import crossing, direction, distance_to_segment
from holoptic.curves.space import Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.job import HandWays, LineSchool
from holoptic.part import Part, Source
from holoptic.part.provenance import given_offsets
from holoptic.pictorial import Picture, Stroke
from holoptic.solid.pieces import SolidFacts
from holoptic.tolerance import CHORD_MM, ON_CURVE_MM, ON_PAPER_MM, ROUNDING

How = Literal["spot", "meet", "touch", "nearest"]

_LEAST_CROSSING = math.sin(math.radians(4))
"""Lines that cross at less than 4° mark a point badly: it is then set off instead."""
_TANGENT = math.sin(math.radians(1.5))
_ON_CURVE_MM = ON_CURVE_MM
"""A true end this near to an ellipse lies on it."""


@dataclass(frozen=True)
class End:
    """One end of a stroke.

    spot: a point found by its offsets. meet: where the stroke's line crosses that of the stroke
    `other`. touch: where a straightedge touches the oval of `other`. nearest: the point of the
    stroke's own curve nearest to the place found by offsets. `place` is on the picture in mm at
    scale 1:1, `spot` the true point in space.
    """

    how: How
    place: Vec2
    spot: Vec3
    other: str | None = None


@dataclass(frozen=True)
class Straight:
    """A straight stroke between two ends; `generator` says that it is an outline of a round."""

    start: End
    end: End
    generator: bool = False

    @property
    def path(self) -> tuple[Vec2, ...]:
        """Its two ends, mm."""
        return self.start.place, self.end.place


@dataclass(frozen=True)
class Bent:
    """A stroke along a curve, from parameter `first` onward to `last`.

    `rim` is the construction it follows; without one the curve goes through `through`, points
    set off by their offsets.
    """

    curve: DrawnCurve
    first: float
    last: float
    start: End
    end: End
    rim: Rim | None = None
    through: tuple[Vec3, ...] = ()

    @property
    def is_whole(self) -> bool:
        """Whether it goes all the way round."""
        turn = self.curve.last - self.curve.first
        return self.curve.closed and self.last - self.first > turn - ROUNDING

    @cached_property
    def path(self) -> tuple[Vec2, ...]:
        """Its polyline, mm."""
        return tuple(self.curve.path(self.first, self.last, CHORD_MM / 10))


Made = Straight | Bent


ONLY_VISIBLE = LineSchool("omit", "one-weight", centre_lines=False)
"""What is drawn where nothing is said: what is seen, in lines of one weight."""

HEAVY = "heavy "
"""Begins the names of strokes that go over the thick parts of others once more."""


class Intended:
    """All strokes of a picture as they are to be drawn, by the stroke's name: what is seen, what is
    hidden and the centre lines where the line school wants them, and what is made heavy.
    """

    def __init__(
        self, source: Source, facts: SolidFacts, picture: Picture, ways: HandWays, scale: float,
        lines: LineSchool = ONLY_VISIBLE,
    ) -> None:  # fmt: skip
        self.source, self.facts, self.picture, self.ways = source, facts, picture, ways
        self.scale = scale
        self.matrix = picture.view.matrix
        self.rims: dict[RimKey, Rim] = {}
        self._rim_of: dict[str, RimKey] = {}
        self._french: dict[str, tuple[DrawnCurve, tuple[Vec3, ...]]] = {}
        self.lines = lines
        self.hidden = picture.of_role("hidden") if lines.hidden != "omit" else ()
        self.centre_lines = _centre_lines(picture) if lines.centre_lines else ()
        self.heavy = _heavy(picture) if lines.outline == "thick-and-thin" else ()
        self._edges = (*picture.visible, *self.hidden)
        self.drawn = (*self._edges, *picture.axis_lines, *self.centre_lines, *self.heavy)
        """All strokes that a hand draws, as the picture has them."""
        self._by_name = {stroke.id: stroke for stroke in self.drawn}
        self._find_curves()
        self._corners = self._strokes_by_corner(picture.visible)
        self._all_corners = self._strokes_by_corner(self._edges)
        self.strokes: dict[str, Made] = {}
        for stroke in self._edges:
            if self._is_generator(stroke):
                self.strokes[stroke.id] = self._generator(stroke)
        for stroke in self._edges:
            if stroke.id not in self.strokes:
                bent = self.is_bent(stroke.id)
                self.strokes[stroke.id] = self._bent(stroke) if bent else self._straight(stroke)
        for stroke in picture.axis_lines:
            self.strokes[stroke.id] = self._axis_line(stroke)
        for stroke in self.centre_lines:
            start, end = (
                End("spot", apply(self.matrix, spot), spot)
                for spot in (stroke.curve.start, stroke.curve.end)
            )
            self.strokes[stroke.id] = Straight(start, end)
        for stroke in self.heavy:
            self.strokes[stroke.id] = self._made_heavy(stroke)

    # --- curves -----------------------------------------------------------------------------

    def is_bent(self, name: str) -> bool:
        """Say whether a stroke is a curve on paper."""
        return name in self._rim_of or name in self._french

    def rim(self, name: str) -> Rim | None:
        """Return the rim that a stroke is a piece of."""
        return self.rims[self._rim_of[name]] if name in self._rim_of else None

    def curve(self, name: str) -> DrawnCurve:
        """Return the constructed curve that a bent stroke follows."""
        rim = self.rim(name)
        return rim.construction.curve if rim is not None else self._french[name][0]

    def _find_curves(self) -> None:
        for stroke in (*self._edges, *self.heavy):
            curve = stroke.curve
            if stroke.is_straight or falls_on_line(stroke.path):
                continue
            if isinstance(curve, EllipticArc):
                key = rim_key(curve)
                if key not in self.rims:
                    rim = rim_of(curve, self._feature(stroke), self.picture.view, self.ways,
                                 self.scale)  # fmt: skip
                    if rim is None:
                        continue
                    self.rims[key] = rim
                self._rim_of[stroke.id] = key
            else:
                self._french[stroke.id] = through_offsets(curve, self.matrix, self.scale)

    def _feature(self, stroke: Stroke) -> str:
        return feature_name(
            self.source, stroke.origin.operation, stroke.origin.edge, stroke.origin.body
        )

    # --- straight strokes -------------------------------------------------------------------

    def _is_generator(self, stroke: Stroke) -> bool:
        straight = stroke.is_straight and not self.facts.only_planes
        return straight and stroke.origin.edge is None

    def line_ends(self, stroke: Stroke) -> tuple[Vec3, Vec3]:
        """Return the spots that a straight stroke's line runs through: the ends of its edge."""
        edge = stroke.origin.edge
        curve = stroke.curve if edge is None else self.facts.edges[edge].curve
        if isinstance(curve, Segment):
            return curve.start, curve.end
        # a round edge seen edge-on: its image's ends
        return stroke.curve.start, stroke.curve.end

    def _line(self, stroke: Stroke) -> tuple[Vec2, Vec2]:
        """Return a point and the direction of a straight stroke's line, mm."""
        made = self.strokes.get(stroke.id)
        if isinstance(made, Straight) and made.generator:
            return made.start.place, direction(*made.path)
        a, b = (apply(self.matrix, spot) for spot in self.line_ends(stroke))
        if math.dist(a, b) < ON_PAPER_MM:
            a, b = stroke.path[0], stroke.path[-1]
        return a, direction(a, b)

    def _straight(self, stroke: Stroke) -> Straight:
        start, end = self._true_ends(stroke)
        return Straight(self._straight_end(stroke, *start), self._straight_end(stroke, *end))

    def _true_ends(self, stroke: Stroke) -> tuple[tuple[Vec2, Vec3], tuple[Vec2, Vec3]]:
        if stroke.is_straight or not falls_on_line(stroke.path):
            curve = stroke.curve
            return (stroke.path[0], curve.start), (stroke.path[-1], curve.end)
        return tuple(  # type: ignore[return-value]
            (place, _spot_at(stroke.curve, place, self.matrix))
            for place in (stroke.path[0], stroke.path[-1])
        )

    def _axis_line(self, stroke: Stroke) -> Straight:
        """Return an axis line: it ends at a feature, or where it goes behind something."""
        ends = []
        for spot in (stroke.curve.start, stroke.curve.end):
            place = apply(self.matrix, spot)
            end = End("spot", place, spot)
            cover, sine = self._cover_at(stroke, place)
            if cover is not None and sine >= _LEAST_CROSSING:
                met = self._meeting(stroke, cover, place)
                end = end if met is None else End("meet", met, spot, cover.id)
            ends.append(end)
        return Straight(ends[0], ends[1])

    def _straight_end(self, stroke: Stroke, place: Vec2, spot: Vec3) -> End:
        corner = _corner(spot)
        if stroke.is_straight and corner in map(_corner, self.line_ends(stroke)):
            for name in self._corners_for(stroke).get(corner, ()):
                met = self._meet_oval_at_corner(stroke, name, place)
                if met is not None:
                    return End("meet", met, spot, name)
            return End("spot", place, spot)
        cover, sine = self._cover_at(stroke, place)
        if cover is None or sine < _LEAST_CROSSING:
            return End("spot", place, spot)
        met = self._meeting(stroke, cover, place)
        return End("meet", met, spot, cover.id) if met else End("spot", place, spot)

    def _meet_oval_at_corner(self, stroke: Stroke, name: str, place: Vec2) -> Vec2 | None:
        """Return where an edge meets an oval that should run through its end, where the oval
        misses that, or nobody gave how far along the edge it is.
        """
        rim = self.rim(name)
        if rim is None or (self._lies_on(rim, place) and not self._is_found_on(stroke, rim)):
            return None
        t = rim.construction.curve.nearest(place)
        way, along = self._line(stroke)[1], _unit(rim.construction.curve.slope(t))
        if abs(way[0] * along[1] - way[1] * along[0]) < 3 * _LEAST_CROSSING:
            return None
        return self._meeting(stroke, self._by_name[name], place)

    def _is_found_on(self, stroke: Stroke, rim: Rim) -> bool:
        """Say whether an edge along an axis ends on a round where no length leads to."""
        if rim.construction.method == "offsets" or rim.axis is None:
            return False
        start, end = self.line_ends(stroke)
        axes = [axis for axis in range(3) if abs(start[axis] - end[axis]) > ON_PAPER_MM]
        if len(axes) != 1:
            return False
        (axis,) = axes
        reach = rim.arc.major
        given = {*self._given_places[axis]}
        given |= {round(rim.centre[axis] + side * reach, 3) for side in (-1, 0, 1)}
        return any(
            math.dist(apply(self.matrix, spot), rim.construction.curve.at(
                rim.construction.curve.nearest(apply(self.matrix, spot)))) < ON_PAPER_MM
            and round(spot[axis], 3) not in given
            for spot in (start, end)
        )  # fmt: skip

    @cached_property
    def _given_places(self) -> tuple[frozenset[float], ...]:
        """Where along each axis the lengths that were given lead to."""
        source = self.source
        givens = given_offsets(source) if isinstance(source, Part) else []
        return tuple(
            frozenset({0.0, *(round(one.at, 3) for one in givens if one.axis == axis)})
            for axis in range(3)
        )

    def _lies_on(self, rim: Rim, place: Vec2) -> bool:
        curve = rim.construction.curve
        return math.dist(curve.at(curve.nearest(place)), place) < ON_PAPER_MM

    def _meeting(self, one: Stroke, other: Stroke, place: Vec2) -> Vec2 | None:
        """Return where the constructed lines of two strokes cross nearest to a place."""
        found = self._crossings(one, other)
        near = min(found, key=lambda point: math.dist(point, place), default=None)
        reach = 0.05 + 4 * (self._deviation(one) + self._deviation(other))
        return near if near is not None and math.dist(near, place) < reach else None

    def _deviation(self, stroke: Stroke) -> float:
        """Return how far a stroke as constructed lies off the true one, mm: that of its oval, or
        of those that an outline touches.
        """
        made = self.strokes.get(stroke.id)
        names = [stroke.id]
        if isinstance(made, Straight) and made.generator:
            names = [end.other for end in (made.start, made.end) if end.other is not None]
        rims = (self.rim(name) for name in names)
        return max((rim.construction.deviation for rim in rims if rim is not None), default=0.0)

    def _crossings(self, one: Stroke, other: Stroke) -> list[Vec2]:
        bent_one, bent_other = self.is_bent(one.id), self.is_bent(other.id)
        if bent_one and bent_other:
            a = self.curve(one.id)
            return [a.at(t) for t, _ in a.crossings(self.curve(other.id))]
        if bent_one or bent_other:
            bent, straight = (one, other) if bent_one else (other, one)
            curve = self.curve(bent.id)
            return [curve.at(t) for t in curve.crossings_with_line(*self._line(straight))]
        point = crossing(*self._line(one), *self._line(other))
        return [point] if point else []

    def _cover_at(self, stroke: Stroke, place: Vec2) -> tuple[Stroke | None, float]:
        """Return the stroke that a stroke disappears behind at a place, and their sine.

        Of several the one that crosses it most squarely marks the point best.
        """
        way = _way_at(stroke.path, place)
        best, best_sine = None, 0.0
        for other in self._covers.near(place):
            if other is stroke:
                continue
            if self._rim_of.get(other.id, 0) == self._rim_of.get(stroke.id, 1):
                continue
            if distance_to_path(other.path, place) > 1.5 * CHORD_MM:
                continue
            along = _way_at(other.path, place)
            sine = abs(way[0] * along[1] - way[1] * along[0])
            if sine > best_sine:
                best, best_sine = other, sine
        return best, best_sine

    @cached_property
    def _covers(self) -> _Near:
        return _Near(self.picture.visible)

    # --- outline generators -----------------------------------------------------------------

    def _generator(self, stroke: Stroke) -> Straight:
        ends = self._true_ends(stroke)
        way = direction(stroke.path[0], stroke.path[-1])
        touched = [self._touched_rim(place, way) for place, _ in ends]
        places = self._generator_places(ends, touched)
        if places is None:
            one, two = (End("spot", *end) for end in ends)
            return Straight(one, two, generator=True)
        made = []
        for (_, spot), name, place in zip(ends, touched, places, strict=True):
            how: How = "touch" if name is not None else "spot"
            made.append(End(how, place, spot, name))
        return Straight(made[0], made[1], generator=True)

    def _touched_rim(self, place: Vec2, way: Vec2) -> str | None:
        """Return the stroke whose rim a generator touches at its end, or None."""
        for name in self._rim_of:
            rim = self.rim(name)
            if rim is None or not _is_near(self._by_name[name].path, place, 1.0):
                continue
            arc = rim.construction.ellipse
            if abs(float(arc.distances(np.array([place]))[0])) > _ON_CURVE_MM:
                continue
            if distance_to_path(self._by_name[name].path, place) > 1.5 * CHORD_MM:
                continue
            along = _way_at(self._by_name[name].path, place)
            if abs(way[0] * along[1] - way[1] * along[0]) < 3 * _TANGENT:
                return name
        return None

    def _generator_places(
        self, ends: Sequence[tuple[Vec2, Vec3]], touched: Sequence[str | None]
    ) -> tuple[Vec2, Vec2] | None:
        """Return where a generator runs from and to, or None where it touches no known rim."""
        (a, _), (b, _) = ends
        one, two = touched
        if one is not None and two is not None:
            first, second = self.curve(one), self.curve(two)
            pairs = [(first.at(t), second.at(s)) for t, s in common_tangents(first, second)]
            best = min(pairs, key=lambda p: math.dist(p[0], a) + math.dist(p[1], b), default=None)
            if best is None or math.dist(best[0], a) + math.dist(best[1], b) > self._slack(
                one, two
            ):
                return None
            return best
        name = one or two
        if name is None:
            return None
        near, far = (a, b) if one is not None else (b, a)
        curve = self.curve(name)
        spots = [curve.at(t) for t in curve.tangents_from(far)]
        touch = min(spots, key=lambda p: math.dist(p, near), default=None)
        if touch is None or math.dist(touch, near) > self._slack(name, name):
            return None
        return (touch, far) if one is not None else (far, touch)

    def _slack(self, *names: str) -> float:
        """Return how far touching points may move from the true ellipse's to the ovals'.

        Where a curve is flat, a small change of its shape moves a touching point far.
        """
        rims = [self.rim(name) for name in names]
        return sum(0.05 + 0.12 * r.construction.ellipse.half_axes[0] for r in rims if r)

    # --- curves -----------------------------------------------------------------------------

    def _corners_for(self, stroke: Stroke) -> Mapping[Vec3, list[str]]:
        """Return the rim strokes by corner that a stroke may end at: a line that is seen never
        hangs on one that is not.
        """
        return self._all_corners if stroke.role == "hidden" else self._corners

    def _strokes_by_corner(self, strokes: Sequence[Stroke]) -> dict[Vec3, list[str]]:
        """Return the rim strokes that end at each corner of the solid."""
        found: dict[Vec3, list[str]] = defaultdict(list)
        for name in (stroke.id for stroke in strokes if stroke.id in self._rim_of):
            edge = self._by_name[name].origin.edge
            if edge is None:
                continue
            curve = self.facts.edges[edge].curve
            if isinstance(curve, EllipticArc) and not curve.is_closed:
                for spot in (curve.start, curve.end):
                    found[_corner(spot)].append(name)
        return found

    def _bent(self, stroke: Stroke) -> Bent:
        rim = self.rim(stroke.id)
        if rim is None:
            return self._bent_through_offsets(stroke)
        curve = rim.construction.curve
        (start, spot), (end, end_spot) = self._true_ends(stroke)
        if math.dist(start, end) < ON_PAPER_MM and len(stroke.path) > 3:
            t = curve.nearest(start)
            whole = End("nearest", curve.at(t), spot)
            return Bent(curve, t, t + curve.last - curve.first, whole, whole, rim)
        if not _turns_left(stroke.path, rim.construction.ellipse.centre):
            start, spot, end, end_spot = end, end_spot, start, spot
        one, two = (
            self._bent_end(stroke, rim, start, spot),
            self._bent_end(stroke, rim, end, end_spot),
        )
        t, s = curve.span(curve.nearest(one.place), curve.nearest(two.place))
        return Bent(curve, t, s, one, two, rim)

    def _bent_end(self, stroke: Stroke, rim: Rim, place: Vec2, spot: Vec3) -> End:
        for name, made in self.strokes.items():
            if not (isinstance(made, Straight) and made.generator):
                continue
            for end in (made.start, made.end):
                touched = end.other is not None and self._rim_of.get(end.other) == rim.key
                if touched and math.dist(apply(self.matrix, end.spot), place) < 0.02:
                    return End("touch", end.place, spot, name)
        if self._is_corner(stroke, spot):
            met = self._corner_meeting(stroke, place, spot)
            if met is not None:
                return met
            if self._lies_on(rim, place):
                return End("spot", place, spot)
        else:
            cover, sine = self._cover_at(stroke, place)
            if cover is not None and sine > 2 * _LEAST_CROSSING:
                point = self._meeting(stroke, cover, place)
                if point is not None:
                    return End("meet", point, spot, cover.id)
        curve = rim.construction.curve
        return End("nearest", curve.at(curve.nearest(place)), spot)

    def _is_corner(self, stroke: Stroke, spot: Vec3) -> bool:
        return stroke.id in self._all_corners.get(_corner(spot), ())

    def _corner_meeting(self, stroke: Stroke, place: Vec2, spot: Vec3) -> End | None:
        """Return where an oval meets the straight edge that should end with it in a corner."""
        others = self._edges if stroke.role == "hidden" else self.picture.visible
        for other in others:
            if not other.is_straight or self._is_generator(other):
                continue
            if _corner(spot) not in map(_corner, (other.curve.start, other.curve.end)):
                continue
            met = self._meet_oval_at_corner(other, stroke.id, place)
            if met is not None:
                return End("meet", met, spot, other.id)
        return None

    def _made_heavy(self, stroke: Stroke) -> Made:
        """Return how the thick part of a stroke is gone over: like the stroke where it is all."""
        whole = self._by_name[stroke.id.removeprefix(HEAVY).partition(".")[0]]
        if stroke.curve is whole.curve:
            return self.strokes[whole.id]
        if self._is_generator(stroke) or not self.is_bent(stroke.id):
            start, end = self._true_ends(stroke)
            return Straight(self._straight_end(stroke, *start), self._straight_end(stroke, *end))
        return self._bent(stroke)

    def _bent_through_offsets(self, stroke: Stroke) -> Bent:
        curve, spots = self._french[stroke.id]
        ends = [
            End("spot", apply(self.matrix, spot), spot)
            for spot in (spots[0], spots[0] if curve.closed else spots[-1])
        ]
        return Bent(curve, curve.first, curve.last, ends[0], ends[1], None, spots)

    # --- how far off ------------------------------------------------------------------------

    def deviation(self, name: str) -> float:
        """Return how far a stroke as drawn lies from the true picture's lines, mm on paper."""
        made = self.strokes[name]
        path = (
            made.curve.path(made.first, made.last, 5 * CHORD_MM)
            if isinstance(made, Bent)
            else made.path
        )
        gaps = shapely.distance(shapely.points(path), self._true_lines)
        return self.scale * float(gaps.max())

    @cached_property
    def _true_lines(self) -> shapely.MultiLineString:
        lines = shapely.MultiLineString([stroke.path for stroke in self._by_name.values()])
        shapely.prepare(lines)
        return lines

    @cached_property
    def worst(self) -> tuple[float, str]:
        """The largest deviation from the true picture, mm on paper, and its feature."""
        gaps = [(self.deviation(name), name) for name in self.strokes]
        gap, name = max(gaps, default=(0.0, ""))
        return gap, self._feature(self._by_name[name]) if name else ""


def _centre_lines(picture: Picture) -> tuple[Stroke, ...]:
    return tuple(s for s in picture.of_role("centre") if s not in picture.axis_lines)


def _heavy(picture: Picture) -> tuple[Stroke, ...]:
    """Return a stroke for each thick stretch of the strokes that are seen."""
    found = []
    for stroke in picture.visible:
        for number, (first, last) in enumerate(stroke.thick):
            if (first, last) == stroke.curve.span:
                found.append(replace(stroke, id=f"{HEAVY}{stroke.id}"))
                break
            curve = stroke.curve.piece(first, last)
            found.append(replace(stroke, id=f"{HEAVY}{stroke.id}.{number}", curve=curve,
                                 drawn=curve))  # fmt: skip
    return tuple(found)


def distance_to_path(path: Sequence[Vec2], place: Vec2) -> float:
    """Return the distance of a place from a polyline, mm."""
    pairs = pairwise(path)
    return min(distance_to_segment(place, a, b) for a, b in pairs)


class _Near:
    """Strokes by the boxes of their images, to be asked often which may run through a place."""

    def __init__(self, strokes: Sequence[Stroke]) -> None:
        self._strokes = strokes
        self._boxes = np.array([
            (*np.min(stroke.path, axis=0), *np.max(stroke.path, axis=0)) for stroke in strokes
        ]).reshape(-1, 4)  # fmt: skip

    def near(self, place: Vec2) -> list[Stroke]:
        """Return those whose boxes hold a place, or nearly."""
        low, high = self._boxes[:, :2] - _NEAR_MM, self._boxes[:, 2:] + _NEAR_MM
        on = ((low <= place) & (high >= place)).all(axis=1)
        return [self._strokes[k] for k in np.flatnonzero(on).tolist()]


_NEAR_MM = 0.05


def _is_near(path: Sequence[Vec2], place: Vec2, reach: float) -> bool:
    """Say quickly whether a place lies within a polyline's box."""
    xs, ys = [p[0] for p in path], [p[1] for p in path]
    inside_x = min(xs) - reach <= place[0] <= max(xs) + reach
    return inside_x and min(ys) - reach <= place[1] <= max(ys) + reach


def _way_at(path: Sequence[Vec2], place: Vec2) -> Vec2:
    """Return a polyline's direction at a place on it."""
    pairs = [(a, b) for a, b in pairwise(path) if a != b]
    return direction(*min(pairs, key=lambda pair: distance_to_segment(place, *pair)))


def _unit(way: Vec2) -> Vec2:
    return direction((0.0, 0.0), way)


def falls_on_line(path: Sequence[Vec2]) -> bool:
    """Say whether a polyline is one straight line: a curve seen edge-on."""
    if len(path) == 2:
        return True
    a = path[0]
    b = max(path, key=lambda point: math.dist(a, point))
    return math.dist(a, b) < ON_PAPER_MM or all(
        distance_to_segment(point, a, b) < ON_PAPER_MM for point in path
    )


def _turns_left(path: Sequence[Vec2], centre: Vec2) -> bool:
    """Say whether a polyline runs counter-clockwise about a centre."""
    area = sum(
        (a[0] - centre[0]) * (b[1] - centre[1]) - (a[1] - centre[1]) * (b[0] - centre[0])
        for a, b in pairwise(path)
    )
    return area > 0


def _corner(spot: Vec3) -> Vec3:
    return round(spot[0], 4) + 0.0, round(spot[1], 4) + 0.0, round(spot[2], 4) + 0.0


def _spot_at(curve: Curve, place: Vec2, matrix: tuple[Vec3, Vec3]) -> Vec3:
    """Return a point in space on a curve seen edge-on whose image is a place."""
    first, last = curve.span
    if isinstance(curve, SampledCurve):
        candidates: Sequence[Vec3] = curve.points
    else:
        candidates = [curve.at(first + (last - first) * k / 720) for k in range(721)]
    return min(candidates, key=lambda spot: math.dist(apply(matrix, spot), place))
