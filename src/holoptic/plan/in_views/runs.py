"""What is to be drawn in views: each stroke as it lies on the sheet, and its sort of line."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import shapely

from holoptic.construction.intended import falls_on_line
from holoptic.construction.offsets import through_offsets
from holoptic.curves.paper import distance_to_segment
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec2, apply
from holoptic.job import LineSchool
from holoptic.pictorial import Stroke
from holoptic.plan.in_views.bands import ViewOnSheet
from holoptic.tolerance import CHORD_MM, ON_CURVE_MM, ON_PAPER_MM, PROVED_MM

Sort = Literal["level", "upright", "slant", "circle", "ellipse", "curve"]


@dataclass(frozen=True)
class Run:
    """A stroke of a view on its sheet, mm from the lower left border corner.

    `arc` is the exact curve of a circle or an ellipse, counter-clockwise; `through` are the places
    that a general curve is drawn through; `path` is what must stand there in the end.
    """

    id: str
    view: ViewOnSheet
    stroke: Stroke
    sort: Sort
    start: Vec2
    end: Vec2
    path: tuple[Vec2, ...]
    arc: PaperArc | None = None
    through: tuple[Vec2, ...] = ()

    @property
    def is_straight(self) -> bool:
        """Whether it is drawn along a straightedge."""
        return self.sort in ("level", "upright", "slant")

    @property
    def is_whole(self) -> bool:
        """Whether it is a curve that goes all the way round."""
        return math.dist(self.start, self.end) < ON_PAPER_MM

    @property
    def radius(self) -> float:
        """Radius of a circle, mm."""
        return math.hypot(*self.arc.a) if self.arc is not None else 0.0

    def passes(self, place: Vec2) -> bool:
        """Say whether a place lies on it."""
        if self.arc is not None and self.sort == "circle":
            off = abs(math.dist(self.arc.centre, place) - self.radius)
            return off < ON_CURVE_MM and self._reaches(place)
        if not self.is_straight:
            return False
        return distance_to_segment(place, self.start, self.end) < ON_CURVE_MM

    @property
    def true_gap(self) -> float:
        """How far a general curve as drawn lies from the true one, mm on paper."""
        if self.sort != "curve":
            return 0.0
        true = shapely.LineString([self.view.on_sheet(place) for place in self.stroke.path])
        return float(shapely.distance(shapely.points(self.path), true).max())

    def _reaches(self, place: Vec2) -> bool:
        near = min(distance_to_segment(place, a, b)
                   for a, b in zip(self.path, self.path[1:], strict=False))  # fmt: skip
        return near < CHORD_MM + ON_CURVE_MM


def runs_of(views: Sequence[ViewOnSheet], lines: LineSchool) -> list[Run]:
    """Return what is to be drawn of views, view by view."""
    return [
        _run(view, stroke)
        for view in views
        for stroke in view.picture.strokes
        if stroke.role == "visible"
        or (stroke.role == "hidden" and lines.hidden == "dashed")
        or (stroke.role == "centre" and lines.centre_lines)
    ]


def _run(view: ViewOnSheet, stroke: Stroke) -> Run:
    name = f"{view.name} {stroke.id}"
    path = tuple(view.on_sheet(place) for place in stroke.path)
    if falls_on_line(stroke.path):
        start, end = _far_ends(path)
        return Run(name, view, stroke, _sort(start, end), start, end, (start, end))
    if isinstance(stroke.drawn, EllipticArc):
        arc = stroke.drawn.on_paper(stroke.matrix).placed(view.origin, view.scale)
        if not arc.runs_left:
            arc = PaperArc(arc.centre, arc.a, (-arc.b[0], -arc.b[1]), -arc.last, -arc.first)
        sort: Sort = "circle" if arc.radius is not None else "ellipse"
        path = tuple(arc.path(PROVED_MM / 10))
        return Run(name, view, stroke, sort, path[0], path[-1], path, arc)
    curve, spots = through_offsets(stroke.drawn, stroke.matrix, view.scale)
    through = tuple(view.on_sheet(apply(stroke.matrix, spot)) for spot in spots)
    if curve.closed:
        through = (*through, through[0])
    fine = curve.path(curve.first, curve.last, PROVED_MM / 10 / view.scale)
    path = tuple(view.on_sheet(place) for place in fine)
    return Run(name, view, stroke, "curve", through[0], through[-1], path, None, through)


def _far_ends(path: Sequence[Vec2]) -> tuple[Vec2, Vec2]:
    """Return the ends of the straight line that a path runs on."""
    end = max(path, key=lambda place: math.dist(path[0], place))
    start = max(path, key=lambda place: math.dist(end, place))
    return start, end


def _sort(start: Vec2, end: Vec2) -> Sort:
    if abs(start[1] - end[1]) < ON_PAPER_MM:
        return "level"
    return "upright" if abs(start[0] - end[0]) < ON_PAPER_MM else "slant"
