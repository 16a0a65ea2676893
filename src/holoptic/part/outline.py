"""Outlines with arcs: their sides, and a fine polyline of them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.curves.paper import direction, distance_to_segment
from holoptic.curves.vectors import Vec2
from holoptic.part.crate import Crate
from holoptic.part.expand import basics
from holoptic.part.operations import (
    Arc,
    Basic,
    Bevel,
    CornerCut,
    Operation,
    OutlinePoint,
    Polygon,
    Prism,
    Pyramid,
    Round,
    Strip,
    corner_places,
    reach_mm,
)
from holoptic.part.strips import strip_area
from holoptic.tolerance import COINCIDENT_MM, ROUNDING
from holoptic.units.spoken import figure, measure

_STEP = math.radians(2)
_STRAIGHT = ROUNDING
"""Sine of an angle that is none."""


@dataclass(frozen=True)
class Side:
    """A side of an outline on a face, mm; an arc has a centre, and turns left or right."""

    start: Vec2
    end: Vec2
    centre: Vec2 | None = None
    left: bool = True

    @property
    def radius(self) -> float:
        """Radius of an arc, mm; 0 for a straight side."""
        return math.dist(self.centre, self.start) if self.centre else 0.0

    @property
    def sweep(self) -> float:
        """How far an arc turns, radians; negative to the right, 0 for a straight side."""
        if self.centre is None:
            return 0.0
        (x, y), (a, b), (c, d) = self.centre, self.start, self.end
        turn = math.atan2(d - y, c - x) - math.atan2(b - y, a - x)
        return turn % math.tau if self.left else -((-turn) % math.tau)

    @property
    def heading(self) -> Vec2:
        """The direction in which the side ends."""
        if self.centre is None:
            return direction(self.start, self.end)
        x, y = direction(self.centre, self.end)
        return (-y, x) if self.left else (y, -x)

    def at(self, share: float) -> Vec2:
        """Return the point at a share (0 to 1) of the way along."""
        if self.centre is None:
            (a, b), (c, d) = self.start, self.end
            return a + share * (c - a), b + share * (d - b)
        (x, y), (a, b) = self.centre, self.start
        angle = math.atan2(b - y, a - x) + share * self.sweep
        return x + self.radius * math.cos(angle), y + self.radius * math.sin(angle)

    def distance(self, place: Vec2) -> float:
        """Return how far a place lies from the side, mm."""
        if self.centre is None:
            return distance_to_segment(place, self.start, self.end)
        (x, y), (a, b) = self.centre, self.start
        turn = math.atan2(place[1] - y, place[0] - x) - math.atan2(b - y, a - x)
        turn = turn % math.tau if self.left else (-turn) % math.tau
        if turn <= abs(self.sweep):
            return abs(math.dist(place, self.centre) - self.radius)
        return min(math.dist(place, self.start), math.dist(place, self.end))


def sides_of(outline: Sequence[OutlinePoint], closed: bool = True) -> list[Side]:
    """Return the sides of an outline, in mm. Raises ValueError with the reason for an arc that
    misses its end points or a slope that leads nowhere.
    """
    places = corner_places(tuple(outline))
    ends = places[1:] + places[:1]
    sides: list[Side] = []
    for number, (point, start, end) in enumerate(zip(outline, places, ends, strict=True), 1):
        if not closed and number == len(places):
            break
        where = tr(
            "corner {number} to corner {number2}", number=number, number2=number % len(places) + 1
        )
        if point.arc is not None and point.arc.is_smooth:
            before = sides[-1] if sides else _closing_side(outline, places, where)
            sides.append(_smooth_side(before, start, end, where))
        else:
            sides.append(_side(point.arc, start, end, where))
    return sides


def _closing_side(outline: Sequence[OutlinePoint], places: Sequence[Vec2], where: str) -> Side:
    """Return the last side, for a smooth arc that begins at the first corner."""
    last = outline[-1].arc
    if last is not None and last.is_smooth:
        raise ValueError(
            tr("has only smooth arcs before the one from {where}: give one a radius", where=where)
        )
    return _side(last, places[-1], places[0], tr("the last corner to the first"))


def _smooth_side(before: Side, start: Vec2, end: Vec2, where: str) -> Side:
    """Return the arc that goes on from a side without a bend: its centre lies square to both."""
    ahead, chord = before.heading, (end[0] - start[0], end[1] - start[1])
    size = math.hypot(*chord)
    if size < COINCIDENT_MM:
        raise ValueError(tr("has an arc without length from {where}", where=where))
    off = (ahead[0] * chord[1] - ahead[1] * chord[0]) / size
    if abs(off) < _STRAIGHT:
        if ahead[0] * chord[0] + ahead[1] * chord[1] < 0:
            raise ValueError(
                tr("has a smooth arc that would turn straight back from {where}", where=where)
            )
        return Side(start, end)
    radius = size / (2 * off)  # positive to the left
    return Side(start, end, (start[0] - radius * ahead[1], start[1] + radius * ahead[0]), off > 0)


def _side(arc: Arc | None, start: Vec2, end: Vec2, where: str) -> Side:
    if arc is None:
        return Side(start, end)
    chord = math.dist(start, end)
    if arc.bulge is not None:
        bulge = arc.bulge.mm
        if chord < COINCIDENT_MM or bulge < COINCIDENT_MM:
            raise ValueError(tr("has an arc that does not bulge from {where}", where=where))
        radius, large = (chord * chord / 4 + bulge * bulge) / (2 * bulge), bulge > chord / 2
    else:
        radius, large = arc.radius.mm if arc.radius else 0.0, arc.large
    if chord < COINCIDENT_MM or radius < chord / 2 - COINCIDENT_MM:
        raise ValueError(
            tr(
                "has an arc of radius {radius} that misses its end points from "
                "{where}: they are {chord} apart, so it needs at least {chord2}",
                radius=measure(radius),
                where=where,
                chord=measure(chord),
                chord2=figure(chord / 2),
            )
        )
    height = math.sqrt(max(radius * radius - chord * chord / 4, 0.0))
    along = direction(start, end)
    # the centre of the shorter arc lies on the side one turns to
    sign = 1.0 if (arc.way == "left") != large else -1.0
    middle = (start[0] + end[0]) / 2, (start[1] + end[1]) / 2
    centre = middle[0] - sign * height * along[1], middle[1] + sign * height * along[0]
    return Side(start, end, centre, arc.way == "left")


def polyline(sides: Sequence[Side]) -> list[Vec2]:
    """Return a fine polyline of sides, mm; its end is left out."""
    points: list[Vec2] = []
    for side in sides:
        count = max(1, math.ceil(abs(side.sweep) / _STEP))
        points += [side.at(k / count) for k in range(count)]
    return points


def face_rings(operation: Operation, crate: Crate) -> list[list[Vec2]]:
    """Return the closed polylines of an operation as it lies on its face, mm, for showing it.

    A bevel has none, as it lies on two. Empty too for an outline that cannot be made.
    """
    if isinstance(operation, Bevel):
        return []
    try:
        return [ring for basic in basics(operation, crate) for ring in _rings(basic, crate)]
    except ValueError:
        return []


def _rings(operation: Basic, crate: Crate) -> list[list[Vec2]]:
    if isinstance(operation, Prism):
        return [polyline(sides_of(operation.outline))]
    if isinstance(operation, Strip):
        areas = getattr(area := strip_area(operation, crate), "geoms", [area])
        return [list(r.coords) for a in areas for r in (a.exterior, *a.interiors)]
    if isinstance(operation, CornerCut):
        corner, along_u, along_v, _ = operation.corners_mm(crate)
        return [[corner[:2], along_u[:2], along_v[:2]]]
    if isinstance(operation, Polygon | Pyramid):
        return [operation.corners_mm(crate, share) for share in (0.0, 1.0)]
    u, v = operation.centre_mm(crate)
    if isinstance(operation, Round):
        radii = sorted({operation.radius_at(0.0), operation.radius_at(1.0)})
    else:
        radii = [reach_mm(operation)]
    turns = [math.tau * k / 120 for k in range(120)]
    return [[(u + r * math.cos(t), v + r * math.sin(t)) for t in turns] for r in radii if r > 0]
