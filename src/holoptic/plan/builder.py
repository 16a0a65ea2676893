"""The plan for a picture: written in the order a drafter works, then finished."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace
from itertools import groupby

from holoptic.catalogue import later
from holoptic.construction.intended import Bent, Intended
from holoptic.curves.vectors import Vec2, Vec3, apply, dot
from holoptic.part import Part, Source
from holoptic.pictorial import Picture, Stroke
from holoptic.plan.bench import Bench, CrateFrame, replace_axis, spot_of
from holoptic.plan.controls import CLOSURE, with_controls
from holoptic.plan.drafter import Drafter
from holoptic.plan.economy import needed, share_settings
from holoptic.plan.effort import effort_of
from holoptic.plan.figure_work import FigureWork
from holoptic.plan.hand import Hand
from holoptic.plan.instruments import RULE, SOFT_PENCIL
from holoptic.plan.lifting import Lifting
from holoptic.plan.line_work import LineWork, operation_name
from holoptic.plan.moves import Move, Plan, Saving, Setup
from holoptic.plan.schedule import batched
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
    written = needed(planner.write())
    moves, saving = share_settings(written), None
    if planner.way.order == "batched":
        before, (reordered, least) = effort_of(moves), batched(written)
        moves = share_settings(reordered)
        saving = Saving(before, effort_of(moves), least)
    paper = Drafter().carry_out(moves)
    moves, budget = with_controls(moves, paper, hand)
    numbered = tuple(replace(move, n=number) for number, move in enumerate(moves, 1))
    spots = {name: spot for spot, name in planner.bench.points.items()}
    gap, where = intended.worst
    effort = effort_of(numbered)
    plan = Plan(setup, numbered, spots, gap, where, planner.way, effort, saving, budget)
    return plan, paper


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

    def write(self) -> list[Move]:
        """Write all moves, operation by operation."""
        bench = self.bench
        if bench.setup.blank is not None:
            bench.phase = "sheet"
            lay_out_sheet(bench, bench.setup.blank)
        bench.phase = "start"
        find_start(bench)
        bench.phase = "crate"
        self._crate()
        take_notes(bench, self.intended)
        prepare(bench, self.intended, self.way.strategy)
        strokes = sorted(self.picture.visible, key=self._turn)
        for _, group in groupby(strokes, key=lambda stroke: stroke.origin.operation):
            certain = list(group)
            for stroke in certain:
                self._construct(stroke)
            if self.way.firming == "soon":
                self._firm_in(certain)
        if self.way.firming == "end":
            bench.phase = "firm in"
            self._firm_in(self.picture.visible)
        return bench.moves

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
        one, two = points[depth_side], points[back]
        reading = math.dist(bench.places[one], bench.places[two]) * bench.setup.scale
        bench.write("check", RULE, (one, two), (), CLOSURE, setting=reading)

    def _other_end(self, spot: Vec3, axis: int) -> Vec3:
        return replace_axis(spot, axis, self.frame.bound(axis, spot[axis] == self.frame.low[axis]))

    # --- strokes ----------------------------------------------------------------------------

    def _construct(self, stroke: Stroke) -> None:
        if stroke.origin.operation != self._at and self.figures is not None:
            self._at = stroke.origin.operation
            self.figures.begin(self._at)
        self.bench.operation = stroke.origin.operation
        self.bench.phase = f"carve: {operation_name(stroke, self.source)}"
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
