"""The plan for a picture: written in the order a drafter works, then finished."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import groupby

from holoptic.catalogue import Saying, later, mark, sentences
from holoptic.construction.intended import Bent, Intended
from holoptic.curves.vectors import Vec2, Vec3, apply, dot, subtract
from holoptic.job import LineSchool
from holoptic.part import Part, Source, Whole
from holoptic.part.seat import AS_DESCRIBED, Seat, seat_of
from holoptic.pictorial import Picture, Stroke
from holoptic.plan.bench import Bench
from holoptic.plan.centre_work import draw_centre_line
from holoptic.plan.completing import Draft, completed, drafted
from holoptic.plan.controls import CLOSURE
from holoptic.plan.drafter import Drafter
from holoptic.plan.figure_work import FigureWork
from holoptic.plan.hand import Hand
from holoptic.plan.instruments import PENCIL, RULE, SOFT_PENCIL
from holoptic.plan.levels import Levels
from holoptic.plan.lifting import Lifting
from holoptic.plan.line_work import LineWork, operation_name
from holoptic.plan.moves import (
    CENTRE_LINES,
    CUT_FACE,
    CUT_PLANE,
    HEAVY_LINES,
    HIDDEN_LINES,
    Move,
    Plan,
    Setup,
    Way,
)
from holoptic.plan.numbering import list_parts, number_parts
from holoptic.plan.sheet_work import find_start, lay_out_sheet
from holoptic.plan.spots import CrateFrame, replace_axis, spot_of
from holoptic.plan.strategies import prepare, take_notes, usual_way
from holoptic.solid.pieces import SolidFacts
from holoptic.tolerance import GIVEN_MM, PARALLEL

STEADY = Hand()


def make_plan(intended: Intended, setup: Setup, hand: Hand = STEADY) -> Plan:
    """Return the moves that draw the visible strokes of a picture as they are intended.

    Distances are explained by the given lengths of the part where it has any; control distances
    and their tolerances follow from how far the hand's settings spread. Raises ValueError for an
    orthographic view, and where picture and sheet are not of one scale.
    """
    return make_plan_and_paper(intended, setup, hand)[0]


def make_plan_and_paper(
    intended: Intended, setup: Setup, hand: Hand = STEADY, way: Way | None = None
) -> tuple[Plan, Drafter]:
    """Return a plan as `make_plan` does, and what the virtual drafter has on its paper after it.

    `way` is how the work is gone about; None: as was chosen, else as usual.
    """
    return draft_plan(intended, setup, way or usual_way(intended)).complete(hand)


@dataclass(frozen=True)
class DraftedPlan:
    """A plan that was written in some way, and not yet checked and finished."""

    intended: Intended
    setup: Setup
    way: Way
    draft: Draft
    spots: dict[str, Vec3]

    def complete(self, hand: Hand) -> tuple[Plan, Drafter]:
        """Return the plan, and what the virtual drafter has on its paper after it."""
        made = completed(self.draft, self.setup, hand, self.intended.ways.outfit)
        gap, where = self.intended.worst
        plan = Plan(self.setup, made.moves, self.spots, gap, where, self.way, made.effort,
                    made.saving, made.budget)  # fmt: skip
        return plan, made.paper


def draft_plan(
    intended: Intended, setup: Setup, way: Way, levels: Levels | None = None
) -> DraftedPlan:
    """Return a plan as it is written in a way of working. Raises ValueError as `make_plan` does."""
    if intended.scale != setup.scale:
        raise ValueError("the constructions were chosen for another scale than the sheet's")
    planner = _Planner(intended, setup, way, levels)
    draft = drafted(planner.write(), way.order, planner.features())
    spots = {name: spot for spot, name in planner.bench.points.items()}
    return DraftedPlan(intended, setup, way, draft, spots)


def left_out(picture: Picture, lines: LineSchool) -> Saying:
    """Say which lines of a picture are left out by choice; nothing where none is."""
    said: list[Saying] = []
    if lines.hidden == "omit" and picture.of_role("hidden"):
        said.append(later("Hidden lines are left out."))
    if not lines.centre_lines and len(picture.of_role("centre")) > len(picture.axis_lines):
        said.append(later("Centre lines are left out."))
    return sentences(*said)


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
    def __init__(self, intended: Intended, setup: Setup, way: Way, levels: Levels | None) -> None:
        self.intended = intended
        self.source = intended.source
        self.picture = intended.picture
        self.frame = _frame(intended.source, intended.facts, intended.picture)
        self.levels = levels
        self.bench = Bench(self.picture.view, self.frame, setup, self._lifting(self.source))
        self.work = LineWork(self.bench, intended)
        raise_corners = intended.ways.raising == "corners"
        self.figures = FigureWork(self.bench, raise_corners)
        self.figures.take(self.source)
        self.way = way
        self._at: int | None = None
        self._body: int | None = None
        self._nearest: dict[int, int] = {}
        self._crates: dict[int, tuple[CrateFrame, Lifting]] = {}

    def write(self) -> list[Move]:
        """Write all moves, operation by operation."""
        bench = self.bench
        if bench.setup.blank is not None:
            bench.phase = "sheet"
            lay_out_sheet(bench, bench.setup.blank)
        bench.phase = "start"
        find_start(bench, left_out(self.picture, self.intended.lines))
        bench.phase = "crate"
        self._crate(self.frame)
        take_notes(bench, self.intended)
        prepare(bench, self.intended, self.way.strategy, self.figures)
        self._nearest = _nearest_first(self.intended.facts, self.picture.view.toward_viewer)
        self._lay_planes()
        self._features(sorted(self.picture.visible, key=self._turn))
        self._hidden_lines()
        if self.way.firming == "end":
            bench.phase = "firm in"
            self._firm_in(self.picture.visible)
        self._centre_lines()
        self._heavy_lines()
        self._axis_lines()
        bench.phase = "numbers and list"
        number_parts(bench)
        if bench.setup.table is not None:
            list_parts(bench, bench.setup.table)
        return bench.moves

    def _lifting(self, source: Source, seat: Seat | None = AS_DESCRIBED) -> Lifting:
        return Lifting(source, seat, self.levels)

    def features(self) -> dict[str, str]:
        """Return the name of the feature that each stroke belongs to, of a whole of the part."""
        return {stroke.id: operation_name(stroke, self.source) for stroke in self.intended.drawn}

    def _features(self, strokes: Sequence[Stroke]) -> None:
        """Draw feature by feature. A line that ends behind something still to come is drawn light
        with its own feature, and ended and firmed in once that stands.
        """
        groups = [list(group) for _, group in groupby(strokes, key=self._group)]
        turn = {stroke.id: number for number, group in enumerate(groups) for stroke in group}
        ready = {stroke.id: self._ready_at(stroke, turn) for stroke in strokes}
        for number, group in enumerate(groups):
            self._take_in_hand(group[0].origin.body)
            for stroke in group:
                self._approach(stroke)
                if ready[stroke.id] == number:
                    self.work.construct(stroke)
                else:
                    self.work.begin(stroke, partial(_is_drawn, turn, number))
            late = [s for s in strokes if ready[s.id] == number and turn[s.id] < number]
            for stroke in late:
                self.work.construct(stroke)
            if self.way.firming == "soon":
                self._firm_in([*(s for s in group if ready[s.id] == number), *late])

    def _ready_at(self, stroke: Stroke, turn: Mapping[str, int]) -> int:
        """Return the turn in which all that a stroke ends at is on the paper."""
        made = self.intended.strokes[stroke.id]
        others = (end.other for end in (made.start, made.end) if end.other is not None)
        return max([turn[stroke.id], *(turn.get(other, 0) for other in others)])

    # --- the parts of a whole ---------------------------------------------------------------

    def _take_in_hand(self, body: int) -> None:
        """Draw the crate of a part of a whole within the large one, and work from it."""
        source, bench = self.source, self.bench
        if not isinstance(source, Whole) or body == self._body:
            return
        self._body, one = body, source.bodies[body]
        seat = seat_of(one)
        self.figures.take(one.source, seat)
        self._at = None
        if body in self._crates:
            bench.frame, bench.lifting = self._crates[body]
            return
        bench.frame, bench.lifting = self.frame, self._lifting(source)
        bench.phase = f"part: {one.name}"
        low, high = self.intended.facts.boxes[body]
        frame = CrateFrame(spot_of(low), spot_of(high), self.frame.near)
        bench.ensure_point(spot_of(frame.start_corner()))
        bench.lifting = self._lifting(one.source, seat)
        self._crate(frame)
        bench.frame = frame
        self._crates[body] = frame, bench.lifting

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

    # --- what is cut open -------------------------------------------------------------------

    def _lay_planes(self) -> None:
        """Draw light where the planes of a cut that the crate has meet it."""
        self.bench.phase = CUT_PLANE
        for axis, at in dict.fromkeys(_crate_planes(self.picture)):
            if self.frame.low[axis] < at < self.frame.high[axis]:
                one, other = (k for k in range(3) if k != axis)
                spot = spot_of(replace_axis(self.frame.start_corner(), axis, at))
                for k in (one, other):
                    self.bench.ensure_line(k, spot)
                for k, along in ((one, other), (other, one)):
                    far = self.frame.bound(k, spot[k] == self.frame.low[k])
                    self.bench.ensure_line(along, spot_of(replace_axis(spot, k, far)))

    def _is_cut(self, stroke: Stroke) -> bool:
        """Say whether a stroke lies in a cut face: the plane meets it."""
        curve = stroke.curve
        return any(
            region.body == stroke.origin.body
            and all(abs(dot(region.normal, subtract(point, region.place))) < GIVEN_MM
                    for point in (curve.start, curve.middle, curve.end))
            for region in self.picture.regions
        )  # fmt: skip

    def _group(self, stroke: Stroke) -> tuple[int, bool, int | None]:
        return stroke.origin.body, self._is_cut(stroke), stroke.origin.operation

    def _turn(self, stroke: Stroke) -> tuple[int, bool, int, float]:
        """Return the sort key of a stroke: of a whole the nearest body first, then what a cut
        meets, then operation by operation, the nearest to the viewer first.

        So distances are set off on the near edges, where they are seen best, and carried back.
        """
        operation = stroke.origin.operation
        toward = self.picture.view.toward_viewer
        nearest = max(dot(toward, stroke.curve.start), dot(toward, stroke.curve.end))
        body = self._nearest.get(stroke.origin.body, 0)
        number = -1 if operation is None else operation
        return body, not self._is_cut(stroke), number, -nearest

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

    def _approach(self, stroke: Stroke) -> None:
        """Turn to the feature that a stroke belongs to."""
        if stroke.origin.operation != self._at:
            self._at = stroke.origin.operation
            self.figures.begin(self._at)
        self.bench.operation = stroke.origin.operation
        kind = "part: " if isinstance(self.source, Whole) else "carve: "
        if kind == "carve: " and self._is_cut(stroke):
            kind = CUT_FACE
        self.bench.phase = f"{kind}{operation_name(stroke, self.source)}"

    def _firm_in(self, strokes: Iterable[Stroke]) -> None:
        for stroke in strokes:
            start, end, items = self.work.drawn[stroke.id]
            words = self._going_over(stroke, _FIRM)
            self.bench.write("firm in", SOFT_PENCIL, (start, end, *items), (stroke.id,), words)

    def _going_over(self, stroke: Stroke, how: tuple[str, str, str]) -> Saying:
        """Say how a stroke is gone over: all the way round, along a curve, or straight."""
        start, end, items = self.work.drawn[stroke.id]
        round_about, bent, straight = how
        if start == end:
            return later(round_about, start=start, items=self.work.curves.along(items))
        if isinstance(self.intended.strokes[stroke.id], Bent):
            return later(bent, start=start, end=end, items=self.work.curves.along(items))
        return later(straight, start=start, end=end)

    # --- hidden, centre and heavy lines -----------------------------------------------------

    def _hidden_lines(self) -> None:
        """Construct what is not seen, and dash it or draw it thinly."""
        how = _DASHED if self.intended.lines.hidden == "dashed" else _THIN
        for stroke in sorted(self.intended.hidden, key=self._turn):
            self._take_in_hand(stroke.origin.body)
            self._approach(stroke)
            self.bench.phase = HIDDEN_LINES
            self.work.construct(stroke)
            start, end, items = self.work.drawn[stroke.id]
            words = self._going_over(stroke, how)
            self.bench.write("firm in", PENCIL, (start, end, *items), (stroke.id,), words)

    def _centre_lines(self) -> None:
        """Go over the centre lines of round features as thin chains, a little beyond them."""
        for stroke in self.intended.centre_lines:
            self._take_in_hand(stroke.origin.body)
            self.bench.phase, self.bench.operation = CENTRE_LINES, stroke.origin.operation
            draw_centre_line(self.bench, stroke)

    def _heavy_lines(self) -> None:
        """Go over once more what the thick-and-thin school draws thick."""
        for stroke in self.intended.heavy:
            self.bench.phase = HEAVY_LINES
            self.work.construct(stroke)
            start, end, items = self.work.drawn[stroke.id]
            words = self._going_over(stroke, _HEAVILY)
            self.bench.write("firm in", SOFT_PENCIL, (start, end, *items), (stroke.id,), words)


_FIRM = (
    mark("Firm in all the way round from {start}, along {items}."),
    mark("Firm in from {start} to {end}, along {items}."),
    mark("Firm in from {start} to {end}."),
)
_DASHED = (
    mark("Dash thinly all the way round from {start}, along {items}."),
    mark("Dash thinly from {start} to {end}, along {items}."),
    mark("Dash thinly from {start} to {end}."),
)
_THIN = (
    mark("Thinly, all the way round from {start}, along {items}."),
    mark("Thinly from {start} to {end}, along {items}."),
    mark("Thinly from {start} to {end}."),
)
_HEAVILY = (
    mark("Go over it heavily all the way round from {start}, along {items}."),
    mark("Go over it heavily from {start} to {end}, along {items}."),
    mark("Go over it heavily from {start} to {end}."),
)


def _is_drawn(turn: Mapping[str, int], now: int, other: str) -> bool:
    """Whether a stroke is no later than turn `now`; what has no turn of its own stands anyway."""
    return turn.get(other, 0) <= now


def _other_end(frame: CrateFrame, spot: Vec3, axis: int) -> Vec3:
    return replace_axis(spot, axis, frame.bound(axis, spot[axis] == frame.low[axis]))


def _crate_planes(picture: Picture) -> Iterator[tuple[int, float]]:
    """Yield the planes of cut faces that stand square to an axis: the axis, and where."""
    for region in picture.regions:
        axis = max(range(3), key=lambda k: abs(region.normal[k]))
        if abs(region.normal[axis]) > 1 - PARALLEL:
            yield axis, round(region.place[axis], 6)


def _nearest_first(facts: SolidFacts, toward: Vec3) -> dict[int, int]:
    """Return the turn of each body of a whole: the one nearest to the viewer is drawn first."""
    nearest = [
        max(dot(toward, (x, y, z)) for x in (low[0], high[0]) for y in (low[1], high[1])
            for z in (low[2], high[2]))
        for low, high in facts.boxes
    ]  # fmt: skip
    order = sorted(range(len(nearest)), key=lambda body: -nearest[body])
    return {body: turn for turn, body in enumerate(order)}
