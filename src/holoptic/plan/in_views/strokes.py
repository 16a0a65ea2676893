"""The construction of the strokes of views: what each runs along, and where it ends."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from itertools import groupby

from holoptic.catalogue import later, tr
from holoptic.curves.paper import direction
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.plan.in_views.bands import Band
from holoptic.plan.in_views.board import LightCircle, ViewBoard, line_key, rounded
from holoptic.plan.in_views.runs import Run
from holoptic.plan.instruments import FRENCH_CURVE, TRAMMEL
from holoptic.tolerance import ON_CURVE_MM, ON_PAPER_MM
from holoptic.units.spoken import on_rule

_TANGENT = math.sin(math.radians(1.5))
_FLAT = math.sin(math.radians(8))
"""Lines that cross at less than 8° mark a point badly."""


class ViewStrokes:
    """Writes what the strokes of views need before they can be firmed in."""

    def __init__(self, board: ViewBoard, runs: Sequence[Run]) -> None:
        self.board, self.runs = board, runs
        self.items: dict[str, str] = {}
        """The line or curve that each stroke runs along."""
        self.ends: dict[str, tuple[str, str]] = {}
        """The letters where each stroke begins and ends."""
        self._circles: dict[str, LightCircle] = {}
        self._tangents = 0
        self._curves = 0
        for run in runs:
            if run.sort in ("level", "upright"):
                board.wanted.add(line_key(run.sort == "upright", _own(run)))

    def construct(self, runs: Sequence[Run]) -> None:
        """Draw light lines and curves, then mark the ends of strokes on them."""
        for run in sorted(runs, key=lambda run: run.sort != "circle"):
            if run.sort == "circle":
                self._round(run)
        for run in runs:
            if run.sort == "slant" and run.stroke.role != "centre":
                self._lay_against(run)
        for run in runs:
            if run.id not in self.items:
                self.items[run.id] = self._item(run)
        for run in runs:
            if run.id not in self.ends:
                self.ends[run.id] = self._ends(run)

    # --- lines and curves ---------------------------------------------------------------------

    def _item(self, run: Run) -> str:
        if run.stroke.role == "centre" and run.sort == "slant":
            what = later("the ends of a centre line")
            return self.board.join(*self.board.plot(run.view, (run.start, run.end), what))
        if run.sort in ("level", "upright"):
            return self.board.line(_band(run), _own(run))
        if run.sort == "slant":
            ends = self._end(run, run.start), self._end(run, run.end)
            self.ends[run.id] = ends
            return self.board.join(*ends)
        if run.sort == "ellipse" and run.arc is not None:
            return self._ellipse(run, run.arc)
        return self._through(run)

    def _round(self, run: Run) -> None:
        if run.arc is None:
            raise TypeError("a circle has an arc")
        centre, radius = run.arc.centre, run.radius
        same = (other for other in self.runs if other.view is run.view and other.sort == "circle"
                and other.arc is not None and math.dist(other.arc.centre, centre) < ON_CURVE_MM
                and abs(other.radius - radius) < ON_CURVE_MM)  # fmt: skip
        turn = sum(other.arc.last - other.arc.first for other in same if other.arc is not None)
        whole = turn > math.tau - _TANGENT
        circle = self.board.circle(run.view, centre, radius, whole)
        self.items[run.id] = circle.name
        self._circles[run.id] = circle

    def _ellipse(self, run: Run, arc: PaperArc) -> str:
        axes = arc.on_axes()
        (x, y), a, b = axes.centre, axes.a, axes.b
        for other in self.runs:
            if other is not run and other.view is run.view and other.id in self.items:
                known = other.arc
                if known is not None and _same_ellipse(known.on_axes(), axes):
                    return self.items[other.id]
        centre, one, two = self.board.plot(
            run.view, (axes.centre, (x + a[0], y + a[1]), (x + b[0], y + b[1])),
            later("middle and half axes of an ellipse"),
        )  # fmt: skip
        name = self._curve_name()
        self.board.tell(name, later("the ellipse about {centre} through {one}", centre=centre,
                                    one=one))  # fmt: skip
        words = later("Ellipse about {centre} through {one} and {two} with the trammel.",
                      centre=centre, one=one, two=two)  # fmt: skip
        self.board.write("trammel", TRAMMEL, (centre, one, two), (name,), words)
        return name

    def _through(self, run: Run) -> str:
        plotted = self.board.plot(run.view, run.through, later("for a smooth curve"))
        # places nearer than a needle is broad are one
        points = [name for name, _ in groupby(plotted)]
        name = self._curve_name()
        self.board.tell(name, later("the curve from {one} to {two}", one=points[0],
                                    two=points[-1]))  # fmt: skip
        words = later("Smooth curve from {one} through all of them to {two}.", one=points[0],
                      two=points[-1])  # fmt: skip
        self.board.write("curve", FRENCH_CURVE, tuple(points), (name,), words)
        self.ends[run.id] = points[0], points[-1]
        return name

    def _curve_name(self) -> str:
        self._curves += 1
        return tr("curve {count}", count=self._curves)

    def _lay_against(self, run: Run) -> None:
        """Lay a straightedge against the circles that a slanting line runs smoothly into."""
        way = direction(run.start, run.end)
        smooth = [self._touched(run, place, way) for place in (run.start, run.end)]
        round_ends = [circle for circle in smooth if circle is not None]
        if not round_ends or (smooth[0] is not None and smooth[0] is smooth[1]):
            return  # a line so short that it touches one circle at both ends is joined
        places = (run.start, run.end)
        touching = [place for place, circle in zip(places, smooth, strict=True) if circle]
        uses = tuple(circle.name for circle in round_ends)
        if len(round_ends) == 1:
            far = next(place for place, circle in zip(places, smooth, strict=True) if not circle)
            uses = (self._end(run, far), *uses)
        (x, y), (u, v) = touching[0], round_ends[0].centre
        angle = math.degrees(math.atan2(y - v, x - u))
        self._tangents += 1
        name = tr("tangent {number}", number=self._tangents)
        self.items[run.id] = self.board.touch((uses[0], uses[1]), touching, angle, name)

    def _touched(self, run: Run, place: Vec2, way: Vec2) -> LightCircle | None:
        """Return the circle that a slanting line touches at its end."""
        for other in self._mates(run, place):
            circle = self._circles.get(other.id)
            if circle is not None:
                out = direction(circle.centre, place)
                if abs(out[0] * way[0] + out[1] * way[1]) < _TANGENT:
                    return circle
        return None

    def _mates(self, run: Run, place: Vec2) -> list[Run]:
        """Return the other strokes of the view on which a place lies."""
        return [
            other for other in self.runs
            if other.view is run.view and other is not run and other.stroke.role != "centre"
            and other.passes(place)
        ]  # fmt: skip

    # --- ends ---------------------------------------------------------------------------------

    def _ends(self, run: Run) -> tuple[str, str]:
        if run.stroke.role == "centre":
            return self._centre_ends(run)
        if run.is_whole:
            start = self._on_whole(run)
            return start, start
        return self._end(run, run.start), self._end(run, run.end)

    def _end(self, run: Run, place: Vec2) -> str:
        board = self.board
        known = board.point_at(place)
        if known is not None:
            return known
        made = self._met(run, place)
        if made is not None:
            return made
        if run.is_straight:
            return board.crossing(run.view.column, place[0], run.view.row, place[1])
        return board.plot(run.view, (place,), later("where a curve ends"))[0]

    def _met(self, run: Run, place: Vec2) -> str | None:
        """Mark an end where the stroke's line or curve meets another one, if that is drawn."""
        view, board = run.view, self.board
        plain = board.is_plain(view.column, place[0]) and board.is_plain(view.row, place[1])
        circle = self._circles.get(run.id)
        is_square = circle is None or _is_quadrant(circle, place)
        if plain and is_square and run.sort != "ellipse":
            return board.crossing(view.column, place[0], view.row, place[1])
        if circle is not None:
            return self._on_circle(run, circle, place)
        if run.sort not in ("level", "upright"):
            return None
        for other in self._mates(run, place):
            crossed = self._circles.get(other.id)
            if crossed is not None:
                return self._line_meets(_band(run), _own(run), crossed, place)
            if other.sort == "slant" and other.id in self.items:
                line = board.line(_band(run), _own(run))
                known = board.point_at(place)
                return known or board.meeting((line, self.items[other.id]), place, ())
        return None

    def _on_circle(self, run: Run, circle: LightCircle, place: Vec2) -> str | None:
        """Mark the end of an arc on its circle."""
        view = run.view
        if abs(place[0] - circle.centre[0]) < ON_CURVE_MM:
            return self._line_meets(view.column, circle.centre[0], circle, place)
        if abs(place[1] - circle.centre[1]) < ON_CURVE_MM:
            return self._line_meets(view.row, circle.centre[1], circle, place)
        for other in self._mates(run, place):
            if other.sort in ("level", "upright"):
                made = self._line_meets(_band(other), _own(other), circle, place)
                if made is not None:
                    return made
            if other.sort == "slant" and other.id in self.items:
                return self._slant_meets(self.items[other.id], other, circle, place)
            second = self._circles.get(other.id)
            if second is not None:
                made = self._circles_meet(circle, second, place)
                if made is not None:
                    return made
        return None

    def _line_meets(self, band: Band, at: float, circle: LightCircle, place: Vec2) -> str | None:
        """Mark where a level line or an upright meets a circle, unless it does so too flat."""
        index = 0 if band.is_column else 1
        away = place[1 - index] - circle.centre[1 - index]
        if abs(away) < _FLAT * circle.radius:
            return None
        line = self.board.line(band, at)
        known = self.board.point_at(place)
        if known is not None:
            return known
        other = list(place)
        other[1 - index] = circle.centre[1 - index] - away
        return self.board.meeting((line, circle.name), place, ((other[0], other[1]),))

    def _slant_meets(self, line: str, slant: Run, circle: LightCircle, place: Vec2) -> str | None:
        way = direction(slant.start, slant.end)
        along = sum((place[k] - circle.centre[k]) * way[k] for k in range(2))
        if abs(along) < _FLAT * circle.radius:
            return None
        other = place[0] - 2 * along * way[0], place[1] - 2 * along * way[1]
        return self.board.meeting((line, circle.name), place, (other,))

    def _circles_meet(self, one: LightCircle, two: LightCircle, place: Vec2) -> str | None:
        way = direction(one.centre, two.centre) if one.centre != two.centre else None
        if way is None:
            return None
        off = (place[0] - one.centre[0]) * -way[1] + (place[1] - one.centre[1]) * way[0]
        if abs(off) < _FLAT * one.radius:
            return None
        other = place[0] + 2 * off * way[1], place[1] - 2 * off * way[0]
        return self.board.meeting((one.name, two.name), place, (other,))

    def _on_whole(self, run: Run) -> str:
        """Return a letter on a curve that goes all the way round, to begin at."""
        circle = self._circles.get(run.id)
        if circle is None or run.arc is None:
            axes = run.arc.on_axes() if run.arc is not None else None
            place = axes.at(0.0) if axes is not None else run.start
            return self.board.plot(run.view, (place,), later("on the curve"))[0]
        (x, y), radius = circle.centre, circle.radius
        quadrants = ((x + radius, y), (x - radius, y), (x, y + radius), (x, y - radius))
        for place in quadrants:
            name = self.board.point_at(place)
            if name is not None:
                return name
        for place in quadrants:
            band, at = (run.view.row, y) if place[1] == y else (run.view.column, x)
            made = self._line_meets(band, at, circle, place)
            if made is not None:
                return made
        return self.board.plot(run.view, quadrants[:1], later("on the circle"))[0]

    # --- centre lines -------------------------------------------------------------------------

    def _centre_ends(self, run: Run) -> tuple[str, str]:
        """Set off how far a centre line runs beyond what it belongs to."""
        board, line = self.board, self.items[run.id]
        if run.sort == "slant":
            return board.points[rounded(run.start)], board.points[rounded(run.end)]
        middle = _middle(run.start, run.end)
        centre = board.point_at(middle)
        if centre is not None and not (board.point_at(run.start) or board.point_at(run.end)):
            words = later("Centre line, {size} to each side.",
                          size=on_rule(math.dist(middle, run.end)))  # fmt: skip
            board.swing(centre, line, (run.start, run.end), words)
        return self._overrun(run, line, run.start), self._overrun(run, line, run.end)

    def _overrun(self, run: Run, line: str, end: Vec2) -> str:
        known = self.board.point_at(end)
        if known is not None:
            return known
        across = run.view.row if run.sort == "upright" else run.view.column
        index = 1 if run.sort == "upright" else 0
        near = self._nearest_line(across, end[index])
        start = self.board.crossing(_band(run), _own(run), across, near)
        size = abs(near - end[index])
        if size < ON_PAPER_MM:
            return start
        words = later("The centre line runs {size} on.", size=on_rule(size))
        return self.board.beyond(start, line, end, size, words)

    def _nearest_line(self, band: Band, place: float) -> float:
        """Return where the line of a band lies that is nearest to a place."""
        board = self.board
        low, high = band.bounds(board.low, board.high)
        places = (at for (upright, _), at in board.line_places.items() if upright == band.is_column)
        inside = [at for at in places if low - ON_PAPER_MM <= at <= high + ON_PAPER_MM]
        return min(inside, key=lambda at: abs(at - place))


def _band(run: Run) -> Band:
    """Return the band whose line a straight stroke runs along."""
    return run.view.column if run.sort == "upright" else run.view.row


def _own(run: Run) -> float:
    """Return where the line lies that a level stroke or an upright runs along."""
    return run.start[0] if run.sort == "upright" else run.start[1]


def _middle(one: Vec2, two: Vec2) -> Vec2:
    return (one[0] + two[0]) / 2, (one[1] + two[1]) / 2


def _is_quadrant(circle: LightCircle, place: Vec2) -> bool:
    return min(abs(place[k] - circle.centre[k]) for k in range(2)) < ON_CURVE_MM


def _same_ellipse(one: PaperArc, two: PaperArc) -> bool:
    def corners(arc: PaperArc) -> Iterable[float]:
        return (*arc.centre, abs(arc.a[0]), abs(arc.a[1]), abs(arc.b[0]), abs(arc.b[1]))

    return all(abs(p - q) < ON_PAPER_MM for p, q in zip(corners(one), corners(two), strict=True))
