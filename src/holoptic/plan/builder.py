"""The plan for a picture: written in the order a drafter works, then finished."""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import groupby

from holoptic.catalogue import later
from holoptic.construction.intended import Bent, Intended
from holoptic.curves.vectors import Vec2, Vec3, apply, dot
from holoptic.part import Part, Source, Whole
from holoptic.part.whole import UPRIGHT
from holoptic.pictorial import Picture, Stroke
from holoptic.plan.bench import Bench, CrateFrame, replace_axis, spot_of
from holoptic.plan.completing import completed
from holoptic.plan.controls import CLOSURE
from holoptic.plan.drafter import Drafter
from holoptic.plan.figure_work import FigureWork
from holoptic.plan.hand import Hand
from holoptic.plan.instruments import PENCIL, RULE, SOFT_PENCIL
from holoptic.plan.lifting import Lifting
from holoptic.plan.line_work import LineWork, operation_name
from holoptic.plan.moves import Move, Plan, Setup
from holoptic.plan.numbering import list_parts, number_parts
from holoptic.plan.sheet_work import find_start, lay_out_sheet
from holoptic.plan.strategies import choose_way, prepare, take_notes
from holoptic.solid.pieces import SolidFacts

STEADY = Hand()


def make_plan(intended: Intended, setup: Setup, hand: Hand = STEADY) -> Plan:
    """Return the moves that draw the visible strokes of a picture as they are intended.

    Distances are explained by the given lengths of the part where it has any; control distances
    and their tolerances follow from how far the hand's settings spread. Raises ValueError for an
    orthographic view, and where picture and sheet are not of one scale.
    """
    return make_plan_and_paper(intended, setup, hand)[0]


def make_plan_and_paper(
    intended: Intended, setup: Setup, hand: Hand = STEADY
) -> tuple[Plan, Drafter]:
    """Return a plan as `make_plan` does, and what the virtual drafter has on its paper after it."""
    if intended.scale != setup.scale:
        raise ValueError("the constructions were chosen for another scale than the sheet's")
    planner = _Planner(intended, setup)
    made = completed(planner.write(), planner.way.order, setup, hand)
    spots = {name: spot for spot, name in planner.bench.points.items()}
    gap, where = intended.worst
    plan = Plan(setup, made.moves, spots, gap, where, planner.way, made.effort, made.saving,
                made.budget)  # fmt: skip
    return plan, made.paper


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
        self.way = choose_way(intended)
        self._at: int | None = None
        self._body: int | None = None
        self._nearest: dict[int, int] = {}

    def write(self) -> list[Move]:
        """Write all moves, operation by operation."""
        bench = self.bench
        if bench.setup.blank is not None:
            bench.phase = "sheet"
            lay_out_sheet(bench, bench.setup.blank)
        bench.phase = "start"
        find_start(bench)
        bench.phase = "crate"
        self._crate(self.frame)
        take_notes(bench, self.intended)
        prepare(bench, self.intended, self.way.strategy)
        self._nearest = _nearest_first(self.intended.facts, self.picture.view.toward_viewer)
        strokes = sorted(self.picture.visible, key=self._turn)
        for _, group in groupby(strokes, key=_origin):
            certain = list(group)
            self._take_in_hand(certain[0].origin.body)
            for stroke in certain:
                self._construct(stroke)
            if self.way.firming == "soon":
                self._firm_in(certain)
        if self.way.firming == "end":
            bench.phase = "firm in"
            self._firm_in(self.picture.visible)
        self._axis_lines()
        bench.phase = "numbers and list"
        number_parts(bench)
        if bench.setup.table is not None:
            list_parts(bench, bench.setup.table)
        return bench.moves

    # --- the parts of a whole ---------------------------------------------------------------

    def _take_in_hand(self, body: int) -> None:
        """Draw the crate of a part of a whole within the large one, and work from it."""
        source, bench = self.source, self.bench
        if not isinstance(source, Whole) or body == self._body:
            return
        self._body, one = body, source.bodies[body]
        bench.frame = self.frame
        bench.phase = f"part: {one.name}"
        low, high = self.intended.facts.boxes[body]
        frame = CrateFrame(spot_of(low), spot_of(high), self.frame.near)
        bench.ensure_point(spot_of(frame.start_corner()))
        self._crate(frame)
        bench.frame = frame
        upright = one.turning == UPRIGHT
        bench.lifting = Lifting(one.source, one.offset) if upright else Lifting(source)

    def _axis_lines(self) -> None:
        """Draw what the parts share last: where each goes is said by these lines."""
        self.bench.frame, self.bench.phase = self.frame, "axis lines"
        self.bench.operation = None
        for stroke in self.picture.axis_lines:
            self.work.construct(stroke)
            start, end, items = self.work.drawn[stroke.id]
            words = later("Go over the axis from {start} to {end} in a thin chain line.",
                          start=start, end=end)  # fmt: skip
            self.bench.write("firm in", PENCIL, (start, end, *items), (stroke.id,), words)

    def _turn(self, stroke: Stroke) -> tuple[int, int, float]:
        """Return the sort key of a stroke: of a whole the nearest body first, then operation by
        operation, the nearest to the viewer first.

        So distances are set off on the near edges, where they are seen best, and carried back.
        """
        operation = stroke.origin.operation
        toward = self.picture.view.toward_viewer
        nearest = max(dot(toward, stroke.curve.start), dot(toward, stroke.curve.end))
        body = self._nearest.get(stroke.origin.body, 0)
        return body, -1 if operation is None else operation, -nearest

    # --- crate ------------------------------------------------------------------------------

    def _crate(self, frame: CrateFrame) -> None:
        """Three axes from the start point, the three sizes, then parallels to the back corner."""
        bench, start = self.bench, spot_of(frame.start_corner())
        far = [_other_end(frame, start, axis) for axis in range(3)]
        for axis in (2, 0, 1):
            line = bench.ensure_line(axis, start)
            if far[axis] not in bench.points:
                bench.set_off(axis, start, far[axis], line,
                              bench.lifting.crate_lift(axis, start, far[axis]))  # fmt: skip
        near_top = far[2]
        for axis in (0, 1):
            bench.ensure_line(2, far[axis])
            self._corner(axis, near_top, _other_end(frame, near_top, axis), 2)
        side, depth_side = _other_end(frame, near_top, 0), _other_end(frame, near_top, 1)
        back = _other_end(frame, side, 1)
        bench.ensure_line(1, side)
        self._corner(0, depth_side, back, 1)
        if frame is not self.frame:
            return
        points = bench.points
        one, two = points[depth_side], points[back]
        reading = math.dist(bench.places[one], bench.places[two]) * bench.setup.scale
        bench.write("check", RULE, (one, two), (), CLOSURE, setting=reading)

    def _corner(self, axis: int, start: Vec3, corner: Vec3, other: int) -> None:
        """Draw a line of a crate to its corner, where it meets another line of it."""
        bench = self.bench
        if corner in bench.points:
            bench.ensure_line(axis, start)
        elif bench.has_line(axis, start):
            bench.ensure_point(corner)
        else:
            bench.ensure_line(axis, start, meeting=(corner, other))

    # --- strokes ----------------------------------------------------------------------------

    def _construct(self, stroke: Stroke) -> None:
        if stroke.origin.operation != self._at and self.figures is not None:
            self._at = stroke.origin.operation
            self.figures.begin(self._at)
        self.bench.operation = stroke.origin.operation
        kind = "part" if isinstance(self.source, Whole) else "carve"
        self.bench.phase = f"{kind}: {operation_name(stroke, self.source)}"
        self.work.construct(stroke)

    def _firm_in(self, strokes: Iterable[Stroke]) -> None:
        for stroke in strokes:
            start, end, items = self.work.drawn[stroke.id]
            is_bent = isinstance(self.intended.strokes[stroke.id], Bent)
            if start == end:
                words = later("Firm in all the way round.")
            elif is_bent:
                words = later(
                    "Firm in from {start} to {end} along the curve.", start=start, end=end
                )
            else:
                words = later("Firm in from {start} to {end}.", start=start, end=end)
            self.bench.write(
                "firm in", SOFT_PENCIL, (start, end, *items), (stroke.id,),
                words,
            )  # fmt: skip


def _other_end(frame: CrateFrame, spot: Vec3, axis: int) -> Vec3:
    return replace_axis(spot, axis, frame.bound(axis, spot[axis] == frame.low[axis]))


def _origin(stroke: Stroke) -> tuple[int, int | None]:
    return stroke.origin.body, stroke.origin.operation


def _nearest_first(facts: SolidFacts, toward: Vec3) -> dict[int, int]:
    """Return the turn of each body of a whole: the one nearest to the viewer is drawn first."""
    nearest = [
        max(dot(toward, (x, y, z)) for x in (low[0], high[0]) for y in (low[1], high[1])
            for z in (low[2], high[2]))
        for low, high in facts.boxes
    ]  # fmt: skip
    order = sorted(range(len(nearest)), key=lambda body: -nearest[body])
    return {body: turn for turn, body in enumerate(order)}
