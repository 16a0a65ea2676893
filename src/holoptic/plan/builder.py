"""Crate and carve: the plan for a picture, in the order a drafter works."""

from __future__ import annotations

import math

from holoptic.curves.paper import direction, distance_to_segment
from holoptic.curves.space import Segment
from holoptic.curves.vectors import Vec2, Vec3, apply, dot
from holoptic.part import Part, Source
from holoptic.pictorial import Picture, Stroke
from holoptic.plan.bench import Bench, CrateFrame, replace_axis, spot_of
from holoptic.plan.instruments import PENCIL, RULE, SOFT_PENCIL
from holoptic.plan.lifting import Lifting
from holoptic.plan.moves import Plan, Setup
from holoptic.solid.pieces import SolidFacts
from holoptic.tolerance import ON_PAPER_MM
from holoptic.units import show

_LEAST_CROSSING = math.sin(math.radians(4))
"""Lines that cross at less than 4° mark a point badly: it is then set off instead."""


def make_plan(source: Source, facts: SolidFacts, picture: Picture, setup: Setup) -> Plan:
    """Return the moves that draw the visible straight strokes of a picture.

    Round strokes, and straight ones that end on them, are listed as pending. Distances are
    explained by the given lengths of `source` where it has any.
    """
    return _Planner(source, facts, picture, setup).plan()


def start_on_picture(source: Source, facts: SolidFacts, picture: Picture) -> Vec2:
    """Return where a plan's start point lies on its picture, mm at scale 1:1."""
    return apply(picture.view.matrix, _frame(source, facts, picture).start_corner())


def crate_bounds(source: Source, facts: SolidFacts) -> tuple[Vec3, Vec3]:
    """Return the crate's low and high corner: as described, or the solid's own bounds."""
    if isinstance(source, Part):
        return (0.0, 0.0, 0.0), spot_of(source.crate.sizes)
    return spot_of(facts.low), spot_of(facts.high)


def _frame(source: Source, facts: SolidFacts, picture: Picture) -> CrateFrame:
    corner = picture.view.corner
    if corner is None:
        raise ValueError("a plan needs a pictorial, not an orthographic view")
    return CrateFrame(*crate_bounds(source, facts), corner.signs)


class _Unreachable(Exception):
    """A stroke that straight construction cannot reach yet."""


class _Planner:
    def __init__(self, source: Source, facts: SolidFacts, picture: Picture, setup: Setup) -> None:
        self.source = source
        self.facts = facts
        self.picture = picture
        self.frame = _frame(source, facts, picture)
        self.bench = Bench(picture.view, self.frame, setup, Lifting(source))
        self.ends: dict[str, tuple[str, str, str]] = {}  # stroke: from, to, line
        self.pending: list[Stroke] = []

    def plan(self) -> Plan:
        self.bench.phase = "start"
        self.bench.start()
        self.bench.phase = "crate"
        self._crate()
        for stroke in sorted(self.picture.visible, key=self._turn):
            self._construct(stroke)
        self._firm_in()
        self._control()
        spots = {name: spot for spot, name in self.bench.points.items()}
        return Plan(self.bench.setup, tuple(self.bench.moves), spots)

    def _turn(self, stroke: Stroke) -> tuple[int, float]:
        """Return the sort key of a stroke: operation by operation, the nearest to the viewer first.

        So distances are set off on the near edges, where they are seen best, and carried back.
        """
        operation = stroke.origin.operation
        toward = self.picture.view.toward_viewer
        nearest = max(dot(toward, stroke.curve.start), dot(toward, stroke.curve.end))
        return -1 if operation is None else operation, -nearest

    # --- crate ------------------------------------------------------------------------------

    def _crate(self) -> None:
        """Three axes from the start point, the three sizes, then parallels to the back corner."""
        bench, start = self.bench, spot_of(self.frame.start_corner())
        far = [self._other_end(start, axis) for axis in range(3)]
        for axis in (2, 0, 1):
            line = bench.ensure_line(axis, start)
            bench.set_off(axis, start, far[axis], line,
                          bench.lifting.crate_lift(axis, start, far[axis]))  # fmt: skip
        near_top = far[2]
        for axis in (0, 1):
            bench.ensure_line(2, far[axis])
            bench.ensure_line(axis, near_top, meeting=(self._other_end(near_top, axis), 2))
        side, depth_side = self._other_end(near_top, 0), self._other_end(near_top, 1)
        back = self._other_end(side, 1)
        bench.ensure_line(1, side)
        bench.ensure_line(0, depth_side, meeting=(back, 1))
        self._check_distance(depth_side, back, "The back corner must close")

    def _other_end(self, spot: Vec3, axis: int) -> Vec3:
        return replace_axis(spot, axis, self.frame.bound(axis, spot[axis] == self.frame.low[axis]))

    def _check_distance(self, start: Vec3, end: Vec3, why: str) -> None:
        matrix, scale = self.picture.view.matrix, self.bench.setup.scale
        reading = math.dist(apply(matrix, start), apply(matrix, end)) * scale
        one, two = self.bench.points[start], self.bench.points[end]
        self.bench.write(
            "check", RULE, (one, two), (),
            f"{why}: the rule reads {show(reading)} from {one} to {two}.", setting=reading,
        )  # fmt: skip

    # --- strokes ----------------------------------------------------------------------------

    def _construct(self, stroke: Stroke) -> None:
        self.bench.operation = stroke.origin.operation
        self.bench.phase = f"carve: {self._operation_name(stroke)}"
        curve = stroke.curve
        if not isinstance(curve, Segment) or (
            stroke.origin.edge is None and not self.facts.only_planes
        ):
            self.pending.append(stroke)
            return
        try:
            line = self._line_of(stroke)
            start, end = (
                self._end_point(stroke, point, line) for point in (curve.start, curve.end)
            )
        except _Unreachable:
            self.pending.append(stroke)
            return
        self.ends[stroke.id] = (start, end, line)

    def _operation_name(self, stroke: Stroke) -> str:
        index = stroke.origin.operation
        if index is None or not isinstance(self.source, Part):
            return "the block"
        return self.source.operations[index].name

    def _edge_ends(self, stroke: Stroke) -> tuple[Vec3, Vec3]:
        """Return the spots that a straight stroke's line runs through: the ends of its edge."""
        edge = stroke.origin.edge
        curve = stroke.curve if edge is None else self.facts.edges[edge].curve
        if not isinstance(curve, Segment):  # a round edge seen edge-on
            raise _Unreachable
        return spot_of(curve.start), spot_of(curve.end)

    def _line_of(self, stroke: Stroke) -> str:
        start, end = self._edge_ends(stroke)
        axes = [axis for axis in range(3) if start[axis] != end[axis]]
        if len(axes) == 1:
            ends_known = start in self.bench.points or end in self.bench.points
            if not ends_known and not self.bench.has_line(axes[0], start):
                self.bench.ensure_point(start)
            return self.bench.ensure_line(axes[0], start)
        self.bench.ensure_point(start)
        self.bench.ensure_point(end)
        return self.bench.join(start, end)

    def _end_point(self, stroke: Stroke, point: Vec3, line: str) -> str:
        """Return the paper point where a stroke ends."""
        spot = spot_of(point)
        if spot in self.bench.points:
            return self.bench.points[spot]
        if spot in self._edge_ends(stroke):
            return self.bench.ensure_point(spot)
        cover, sine = self._cover_at(stroke, point)
        if cover is None:
            raise _Unreachable
        if sine < _LEAST_CROSSING:
            return self.bench.ensure_point(spot)
        other = self._line_of(cover)
        name = self.bench.name_point(spot)
        self.bench.write(
            "meet", PENCIL, (line, other), (name,),
            f"Mark {name} where this edge goes behind the {self._operation_name(cover)}.",
        )  # fmt: skip
        return name

    def _cover_at(self, stroke: Stroke, point: Vec3) -> tuple[Stroke | None, float]:
        """Return the straight stroke that a stroke disappears behind at a point, and their sine.

        Of several the one that crosses it most squarely marks the point best.
        """
        place = apply(self.picture.view.matrix, point)
        way = direction(stroke.path[0], stroke.path[-1])
        best, best_sine = None, 0.0
        for other in self.picture.visible:
            if other is stroke or not other.is_straight or self._is_generator(other):
                continue
            if distance_to_segment(place, other.path[0], other.path[-1]) > ON_PAPER_MM:
                continue
            along = direction(other.path[0], other.path[-1])
            sine = abs(way[0] * along[1] - way[1] * along[0])
            if sine > best_sine:
                best, best_sine = other, sine
        return best, best_sine

    def _is_generator(self, stroke: Stroke) -> bool:
        return stroke.origin.edge is None and not self.facts.only_planes

    # --- the end of the work ----------------------------------------------------------------

    def _firm_in(self) -> None:
        self.bench.phase = "firm in"
        for stroke in self.picture.visible:
            if stroke.id in self.ends:
                start, end, line = self.ends[stroke.id]
                self.bench.write(
                    "firm in", SOFT_PENCIL, (start, end, line), (stroke.id,),
                    f"Firm in from {start} to {end}.",
                )  # fmt: skip
        for stroke in self.pending:
            what = "edge that ends on a round" if stroke.is_straight else "true ellipse"
            self.bench.write(
                "pending", SOFT_PENCIL, (), (stroke.id,),
                f"Still to come: the {what} of “{self._operation_name(stroke)}” "
                "(not constructed by this plan).",
            )  # fmt: skip

    def _control(self) -> None:
        """Measure between the two firm points farthest apart: they carry the most errors."""
        self.bench.phase = "check"
        names = {name for start, end, _ in self.ends.values() for name in (start, end)}
        spots = [spot for spot, name in self.bench.points.items() if name in names]
        if len(spots) < 2:
            return
        matrix = self.picture.view.matrix
        places = [(apply(matrix, spot), spot) for spot in spots]
        _, start, end = max(
            (math.dist(p, q), a, b) for i, (p, a) in enumerate(places) for q, b in places[i + 1 :]
        )
        self._check_distance(start, end, "Control distance")
