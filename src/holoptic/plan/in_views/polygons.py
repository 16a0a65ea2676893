"""Polygons in the view that shows them true: their corners by the set squares.

From the middle, or from a corner that stands, a line at the angle of a set square leads to the next
corner where it meets a level line or an upright whose place is given: a hexagon across flats needs
but its middle and its two flat sides. What the squares do not reach is measured.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from holoptic.curves.vectors import Vec2
from holoptic.part import Part, Polygon, Source, basics
from holoptic.plan.in_views.bands import ViewOnSheet
from holoptic.plan.in_views.board import ViewBoard, rounded
from holoptic.plan.in_views.runs import Run
from holoptic.plan.instruments import square_for
from holoptic.tolerance import ON_CURVE_MM


class PolygonWork:
    """Writes how the corners of polygons are found before their sides are drawn."""

    def __init__(self, board: ViewBoard, source: Source) -> None:
        self.board = board
        self._part = source if isinstance(source, Part) else None

    def construct(self, runs: Sequence[Run]) -> None:
        """Find the corners of the polygons of the operation in hand, where its strokes end."""
        for view in dict.fromkeys(run.view for run in runs):
            slants = [run for run in runs if run.view is view and run.sort == "slant"]
            ends = {rounded(place) for run in slants for place in (run.start, run.end)}
            for middle, corners, is_about in self._seen(view):
                if all(any(math.dist(corner, end) < ON_CURVE_MM for end in ends)
                       for corner in corners):  # fmt: skip
                    self._find(view, middle, corners, is_about)

    def _seen(self, view: ViewOnSheet) -> Iterator[tuple[Vec2, list[Vec2], bool]]:
        """Yield middle and corners of each polygon that the view shows true, on the sheet, mm, and
        whether the circle about it is given.
        """
        part, index = self._part, self.board.operation
        if part is None or index is None:
            return
        for item in basics(part.operations[index], part.crate):
            axes = {view.column.axis, view.row.axis}
            if not isinstance(item, Polygon) or item.face.normal_axis in axes:
                continue
            places = [item.centre_mm(part.crate), *item.corners_mm(part.crate)]
            spots = [part.crate.place(item.face, u, v, 0.0) for u, v in places]
            middle, *corners = [
                (view.column.place(spot[view.column.axis]), view.row.place(spot[view.row.axis]))
                for spot in spots
            ]
            side_is_radius = item.measure == "side" and item.sides == _SIX
            yield middle, corners, side_is_radius or item.measure == "across corners"

    def _find(
        self, view: ViewOnSheet, middle: Vec2, corners: Sequence[Vec2], is_about: bool
    ) -> None:
        """Find the corners one after the other, as long as one leads to the next."""
        board = self.board
        if not all(self._is_given(view, middle)):
            return
        left = [corner for corner in corners if board.point_at(corner) is None]
        while left:
            found = next((corner for corner in left if self._reach(view, middle, corners, corner)),
                         None)  # fmt: skip
            if found is None and is_about:
                found = next((one for one in left if self._on_circle(view, middle, one)), None)
            if found is None:
                return
            left.remove(found)

    def _is_given(self, view: ViewOnSheet, place: Vec2) -> tuple[bool, bool]:
        """Say whether the upright and the level line through a place stand or are given."""
        board = self.board
        return board.is_plain(view.column, place[0]), board.is_plain(view.row, place[1])

    def _reach(
        self, view: ViewOnSheet, middle: Vec2, corners: Sequence[Vec2], corner: Vec2
    ) -> bool:
        """Mark a corner if a set square leads to it; say whether it does."""
        board = self.board
        upright, level = self._is_given(view, corner)
        if upright and level:
            board.crossing(view.column, corner[0], view.row, corner[1])
            return True
        if not (upright or level):
            return False
        band, at = (view.column, corner[0]) if upright else (view.row, corner[1])
        for place in (middle, *_beside(corners, corner)):
            angle = _angle(place, corner)
            stands = place == middle or board.point_at(place) is not None
            if stands and angle % 90.0 and square_for(angle) is not None:
                name = board.crossing(view.column, place[0], view.row, place[1])
                line = board.line(band, at)  # before the slant, which then is said to meet it
                board.met(board.slant(name, angle), line, corner, view)
                return True
        return False

    def _on_circle(self, view: ViewOnSheet, middle: Vec2, corner: Vec2) -> bool:
        """Mark a corner on the circle about the polygon if a square leads there from the middle."""
        board, angle = self.board, _angle(middle, corner)
        if square_for(angle) is None:
            return False
        name = board.crossing(view.column, middle[0], view.row, middle[1])
        circle = board.circle(view, middle, math.dist(middle, corner), is_whole=True)
        if angle % 90.0:
            line = board.slant(name, angle)
        else:
            line = board.line(*((view.column, middle[0]) if angle else (view.row, middle[1])))
        opposite = 2 * middle[0] - corner[0], 2 * middle[1] - corner[1]
        if board.meeting((line, circle.name), corner, (opposite,)) is None:
            return False
        board.tell_slant(line, corner)
        return True


_SIX = 6
"""Only of a hexagon the side is the radius of the circle about it."""


def _angle(start: Vec2, end: Vec2) -> float:
    """Return the angle of the line through two places, degrees in [0, 180)."""
    angle = round(math.degrees(math.atan2(end[1] - start[1], end[0] - start[0])) % 180.0, 5)
    return angle % 180.0


def _beside(corners: Sequence[Vec2], corner: Vec2) -> tuple[Vec2, Vec2]:
    """Return the corners before and after a corner."""
    at = corners.index(corner)
    return corners[at - 1], corners[(at + 1) % len(corners)]
