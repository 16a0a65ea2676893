"""Crate and carve: the plan for a picture, in the order a drafter works."""

from __future__ import annotations

import math

from holoptic.construction.intended import Bent, Intended
from holoptic.curves.vectors import Vec2, Vec3, apply, dot
from holoptic.part import Part, Source
from holoptic.pictorial import Picture, Stroke
from holoptic.plan.bench import Bench, CrateFrame, replace_axis, spot_of
from holoptic.plan.figure_work import FigureWork
from holoptic.plan.instruments import RULE, SOFT_PENCIL
from holoptic.plan.lifting import Lifting
from holoptic.plan.line_work import LineWork, operation_name
from holoptic.plan.moves import Plan, Setup
from holoptic.solid.pieces import SolidFacts
from holoptic.units import show


def make_plan(intended: Intended, setup: Setup) -> Plan:
    """Return the moves that draw the visible strokes of a picture as they are intended.

    Distances are explained by the given lengths of the part where it has any. Raises ValueError
    for an orthographic view, and where picture and sheet are not of one scale.
    """
    if intended.scale != setup.scale:
        raise ValueError("the constructions were chosen for another scale than the sheet's")
    return _Planner(intended, setup).plan()


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


class _Planner:
    def __init__(self, intended: Intended, setup: Setup) -> None:
        self.intended = intended
        self.source = intended.source
        self.picture = intended.picture
        self.frame = _frame(intended.source, intended.facts, intended.picture)
        self.bench = Bench(self.picture.view, self.frame, setup, Lifting(self.source))
        self.work = LineWork(self.bench, intended)
        raise_corners = intended.ways.raising == "corners"
        self.figures = (
            FigureWork(self.bench, self.source, raise_corners)
            if isinstance(self.source, Part)
            else None
        )
        self._at: int | None = None

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
        gap, where = self.intended.worst
        return Plan(self.bench.setup, tuple(self.bench.moves), spots, gap, where)

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
        points = bench.points
        self._check_distance(points[depth_side], points[back], "The back corner must close")

    def _other_end(self, spot: Vec3, axis: int) -> Vec3:
        return replace_axis(spot, axis, self.frame.bound(axis, spot[axis] == self.frame.low[axis]))

    def _check_distance(self, one: str, two: str, why: str) -> None:
        places = self.bench.places
        reading = math.dist(places[one], places[two]) * self.bench.setup.scale
        self.bench.write(
            "check", RULE, (one, two), (),
            f"{why}: the rule reads {show(reading)} from {one} to {two}.", setting=reading,
        )  # fmt: skip

    # --- strokes ----------------------------------------------------------------------------

    def _construct(self, stroke: Stroke) -> None:
        if stroke.origin.operation != self._at and self.figures is not None:
            self._at = stroke.origin.operation
            self.figures.begin(self._at)
        self.bench.operation = stroke.origin.operation
        self.bench.phase = f"carve: {operation_name(stroke, self.source)}"
        self.work.construct(stroke)

    # --- the end of the work ----------------------------------------------------------------

    def _firm_in(self) -> None:
        self.bench.phase = "firm in"
        for stroke in self.picture.visible:
            start, end, items = self.work.drawn[stroke.id]
            way = "all the way round" if start == end else f"from {start} to {end}"
            made = self.intended.strokes[stroke.id]
            along = " along the curve" if isinstance(made, Bent) and start != end else ""
            self.bench.write(
                "firm in", SOFT_PENCIL, (start, end, *items), (stroke.id,),
                f"Firm in {way}{along}.",
            )  # fmt: skip

    def _control(self) -> None:
        """Measure between the two firm points farthest apart: they carry the most errors."""
        self.bench.phase = "check"
        names = {name for start, end, _ in self.work.drawn.values() for name in (start, end)}
        places = [(self.bench.places[name], name) for name in sorted(names)]
        if len(places) < 2:
            return
        _, start, end = max(
            (math.dist(p, q), a, b) for i, (p, a) in enumerate(places) for q, b in places[i + 1 :]
        )
        self._check_distance(start, end, "Control distance")
