"""The plan for orthographic views: written in the order of the hand, then finished.

Widths and gaps are added up and set off before the first line of a view; light lines run through
all views of a row or column; depths go over a 45° line; then all is firmed in, hidden lines
dashed, centre lines as chains.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby

from holoptic.catalogue import Saying, later, tr
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.job import HandWays, LineSchool
from holoptic.part import Source, Whole
from holoptic.plan.completing import completed, drafted
from holoptic.plan.drafter import Drafter
from holoptic.plan.hand import Hand
from holoptic.plan.in_views.bands import ViewOnSheet, views_on_sheet
from holoptic.plan.in_views.board import ViewBoard
from holoptic.plan.in_views.layout_work import ViewsLayout
from holoptic.plan.in_views.polygons import PolygonWork
from holoptic.plan.in_views.runs import Run, runs_of
from holoptic.plan.in_views.strokes import ViewStrokes
from holoptic.plan.instruments import PENCIL, SOFT_PENCIL
from holoptic.plan.levels import Levels
from holoptic.plan.lifting import Lifting
from holoptic.plan.line_work import operation_name
from holoptic.plan.moves import CENTRE_LINES, HIDDEN_LINES, Move, Plan, Setup, Way
from holoptic.plan.sheet_work import lay_out_sheet
from holoptic.views import PlacedView

_PASSES = (
    ("visible", "firm in", SOFT_PENCIL), ("hidden", HIDDEN_LINES, PENCIL),
    ("centre", CENTRE_LINES, PENCIL),
)  # fmt: skip
_TURNS = {"circle": 0, "ellipse": 0, "curve": 0, "level": 1, "upright": 2, "slant": 3}


@dataclass(frozen=True)
class ViewsMeant:
    """Views as they are to stand on their sheet: what a plan draws, and what it is compared with.

    `low` and `high` are the corners of the crate, `start` is the start point in the layout.
    """

    source: Source
    placed: tuple[PlacedView, ...]
    low: Vec3
    high: Vec3
    lines: LineSchool
    ways: HandWays
    setup: Setup

    @property
    def start(self) -> Vec2:
        """The start point in the layout: the front view's lower left corner, mm at 1:1."""
        return start_of_views(self.placed, self.low)

    @property
    def views(self) -> tuple[ViewOnSheet, ...]:
        """The views where they stand on the sheet."""
        return views_on_sheet(self.placed, self.setup, self.start)

    @property
    def worst(self) -> tuple[float, str]:
        """The largest deviation of a curve as drawn from the true one, mm on paper, and where."""
        runs = runs_of(self.views, self.lines)
        gap, run = max(((run.true_gap, run) for run in runs), key=lambda pair: pair[0])
        return gap, operation_name(run.stroke, self.source) if gap else ""

    @property
    def wanted(self) -> dict[str, tuple[Vec2, ...]]:
        """The strokes that are to stand there, by their ids, mm from the border's corner."""
        return {run.id: run.path for run in runs_of(self.views, self.lines)}


def start_of_views(placed: Sequence[PlacedView], low: Vec3) -> Vec2:
    """Return the lower left corner of the front view's crate in the layout, mm at 1:1."""
    front = next(view for view in placed if view.name == "front")
    return front.origin[0] + low[0], front.origin[1] + low[2]


def make_views_plan(meant: ViewsMeant, hand: Hand) -> tuple[Plan, Drafter]:
    """Return the moves that draw views, and what the virtual drafter has on its paper then."""
    planner = _Planner(meant)
    made = completed(
        drafted(planner.write(), meant.ways.order), meant.setup, hand, meant.ways.outfit
    )
    budget = replace(made.budget, closure=None)  # there is no back corner
    why = tr("light lines run through all views of a row or column")
    way = Way(None, meant.ways.order, "end", why, is_own=False)
    spots, (gap, where) = planner.board.spots, meant.worst
    plan = Plan(meant.setup, made.moves, spots, gap, where, way, made.effort, made.saving, budget)
    return plan, made.paper


class _Planner:
    def __init__(self, meant: ViewsMeant) -> None:
        self.meant, self.source = meant, meant.source
        self.views = meant.views
        levels = Levels(lambda: {each.name: each.picture for each in meant.placed})
        self.board = ViewBoard(
            meant.setup, self.views, Lifting(meant.source, levels=levels), (meant.low, meant.high),
            meant.ways.outfit,
        )  # fmt: skip
        self.runs = runs_of(self.views, meant.lines)
        self.strokes = ViewStrokes(self.board, self.runs)
        self.polygons = PolygonWork(self.board, self.source)

    def write(self) -> list[Move]:
        """Write all moves: the layout, feature by feature, and the firming in."""
        board = self.board
        if board.setup.blank is not None:
            board.phase = "sheet"
            lay_out_sheet(board, board.setup.blank)
        ViewsLayout(board).lay_out()
        seen = [run for run in self.runs if run.stroke.role != "centre"]
        for _, group in groupby(sorted(seen, key=_origin), _origin):
            runs = list(group)
            origin = runs[0].stroke.origin
            board.operation = origin.operation
            kind = "part" if isinstance(self.source, Whole) else "carve"
            board.phase = f"{kind}: {operation_name(runs[0].stroke, self.source)}"
            self.polygons.construct(runs)
            self.strokes.construct(runs)
        board.operation, board.phase = None, CENTRE_LINES
        self.strokes.construct([run for run in self.runs if run.stroke.role == "centre"])
        self._firm_in()
        return board.moves

    # --- firming in ---------------------------------------------------------------------------

    def _firm_in(self) -> None:
        """Go over all strokes: curves first, then level lines downward, uprights, the rest."""
        for role, phase, pencil in _PASSES:
            self.board.phase = phase
            for run in sorted((r for r in self.runs if r.stroke.role == role), key=_turn):
                start, end = self.strokes.ends[run.id]
                uses = (start, end, self.strokes.items[run.id])
                words = _words(run, start, end, self.board.told(self.strokes.items[run.id]))
                self.board.write("firm in", pencil, uses, (run.id,), words)


def _origin(run: Run) -> tuple[int, int]:
    """Return the sort key of a stroke: operation by operation, of a whole body by body."""
    origin = run.stroke.origin
    return origin.body, -1 if origin.operation is None else origin.operation


def _turn(run: Run) -> tuple[int, float]:
    along = {"level": -run.start[1], "upright": run.start[0]}
    return _TURNS[run.sort], along.get(run.sort, 0.0)


def _words(run: Run, start: str, end: str, along: Saying) -> Saying:
    """Say how a stroke is gone over, along which line."""
    title, role = run.view.picture.view.title, run.stroke.role
    if role == "centre":
        return later("{view}: the centre line from {start} to {end}, a thin chain.", view=title,
                     start=start, end=end)  # fmt: skip
    if role == "hidden" and start == end:
        return later("{view}: dash {along}, all the way round from {start}, thin.", view=title,
                     along=along, start=start)  # fmt: skip
    if role == "hidden" and not run.is_straight:
        return later("{view}: dash {along} from {start} to {end}, thin.", view=title, along=along,
                     start=start, end=end)  # fmt: skip
    if role == "hidden":
        return later("{view}: dash from {start} to {end}, thin.", view=title, start=start,
                     end=end)  # fmt: skip
    if start == end:
        return later("{view}: firm in {along}, all the way round from {start}.", view=title,
                     along=along, start=start)  # fmt: skip
    if not run.is_straight:
        return later("{view}: firm in from {start} to {end}, along {along}.", view=title,
                     start=start, end=end, along=along)  # fmt: skip
    return later("{view}: firm in from {start} to {end}.", view=title, start=start, end=end)
