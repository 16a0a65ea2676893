"""The first moves of views: sizes and gaps added up, set off, and the crates ruled."""

from __future__ import annotations

from itertools import pairwise

from holoptic.catalogue import Saying, later, sentences
from holoptic.curves.vectors import Vec3
from holoptic.plan.in_views.bands import Band
from holoptic.plan.in_views.board import ViewBoard
from holoptic.plan.instruments import DIVIDERS, RULE
from holoptic.plan.lifting import lifted
from holoptic.plan.moves import Lift
from holoptic.plan.sheet_work import mark_start
from holoptic.tolerance import ON_PAPER_MM
from holoptic.units.spoken import on_rule

_ACROSS = {True: (0.0, later("to the right")), False: (180.0, later("to the left"))}
_UP = {True: (90.0, later("up")), False: (-90.0, later("down"))}


class ViewsLayout:
    """Finds the start point, the front view's lower left corner, and goes on from there: along
    the level line through it for the columns, up the upright for the rows.
    """

    def __init__(self, board: ViewBoard) -> None:
        self.board = board
        self.front = next(view for view in board.views if view.name == "front")

    def lay_out(self) -> None:
        """Set off what the views take up, and rule their crates."""
        board, front = self.board, self.front
        x, y = start = board.setup.start
        board.phase = "start"
        upright = board.name_line(True, x)
        name = board.name_point(start, front.spot(start, board.low))
        mark_start(board, upright, name, self._sums())
        board.line(front.row, y)
        board.phase = "crate"
        for first in (front.column, front.row):
            low, high = self._ends(first)
            self._size(first, low, high)
            others = [band for band in self._like(first) if band != first]
            self._go_on(sorted((b for b in others if self._ends(b) > (low, high)),
                               key=self._ends), high)  # fmt: skip
            self._go_on(sorted((b for b in others if self._ends(b) < (low, high)),
                               key=self._ends, reverse=True), low)  # fmt: skip

    def _like(self, band: Band) -> list[Band]:
        return [other for other in self.board.bands if other.is_column == band.is_column]

    def _ends(self, band: Band) -> tuple[float, float]:
        return band.bounds(self.board.low, self.board.high)

    def _sums(self) -> Saying:
        """Add up what stands across the sheet, and up it: margin, sizes and gaps, margin."""
        blank = self.board.setup.blank
        width, height = blank.inner if blank is not None else (self.board.setup.width, 0.0)
        across = self._sum(self.front.column, width)
        if not height:
            return later("Add up first, across: {sum}.", sum=across)
        return later("Add up first: across {sum}; up {sum2}.", sum=across,
                     sum2=self._sum(self.front.row, height))  # fmt: skip

    def _sum(self, band: Band, whole: float) -> str:
        ends = sorted(self._ends(other) for other in self._like(band))
        edges = [0.0, *(edge for pair in ends for edge in pair), whole]
        first, *others = (round(b - a, 3) for a, b in pairwise(edges))
        # crates may overlap where the part does not fill its own
        rest = (f" − {on_rule(-size)}" if size < 0 else f" + {on_rule(size)}" for size in others)
        return f"{on_rule(first)}{''.join(rest)} = {on_rule(whole)}"

    def _go_on(self, bands: list[Band], at: float) -> None:
        """Set off gap and size of bands that follow each other away from the front view."""
        for band in bands:
            ends = self._ends(band)
            near, far = ends if ends[0] > at else ends[::-1]
            self._mark(band, at, near, later("The gap to the next view:"), None)
            self._size(band, near, far)
            at = far

    def _size(self, band: Band, start: float, end: float) -> None:
        """Set a size of the crate off from one of its edges, and rule the other one."""
        lift = self.board.lifting.crate_lift(band.axis, self._spot(band, start),
                                             self._spot(band, end))  # fmt: skip
        self._mark(band, start, end, lifted(lift, abs(end - start), ""), lift)

    def _spot(self, band: Band, place: float) -> Vec3:
        spot = list(self.board.low)
        spot[band.axis] = band.value(place)
        return spot[0], spot[1], spot[2]

    def _mark(self, band: Band, start: float, end: float, words: Saying, lift: Lift | None) -> None:
        """Set a distance off along the edge that all columns, or all rows, are set off along."""
        board, (x, y) = self.board, self.board.setup.start
        if band.is_column:
            places, edge = ((start, y), (end, y)), board.line(self.front.row, y)
            angle, way = _ACROSS[end > start]
        else:
            places, edge = ((x, start), (x, end)), board.line(self.front.column, x)
            angle, way = _UP[end > start]
        begin = board.point_at(places[0])
        if begin is None:
            raise KeyError(places[0])
        name = board.name_point(places[1])
        rest = later("From {start} set it off {way}: {name}.", start=begin, way=way, name=name)
        size = abs(end - start)
        instrument = RULE if lift is None else DIVIDERS
        text = sentences(words, rest) if lift is not None else sentences(
            later("{words} {size}.", words=words, size=on_rule(size)), rest
        )  # fmt: skip
        board.write("set off", instrument, (begin, edge), (name,), text, setting=size,
                    angle=angle, lift=lift, rest=rest)  # fmt: skip
        if size > ON_PAPER_MM:
            board.draw_through(name, band.is_column, end)
