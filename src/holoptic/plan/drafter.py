"""The virtual drafter: knows nothing of the part, only its instruments and the moves.

It keeps what a sheet of paper would show: points, light lines, firm strokes. A move that uses
what is not yet on the paper is refused.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Collection, Iterable

from holoptic.catalogue import tr
from holoptic.curves.drawn import (
    Arc,
    ArcChain,
    DrawnCurve,
    FreehandArcs,
    FrenchCurve,
    TrammelEllipse,
    common_tangents,
)
from holoptic.curves.paper import crossing, direction, offset_from_line, position_on_line
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.errors import HolopticError
from holoptic.plan.instruments import SLIDING, can_draw
from holoptic.plan.moves import BORDER_CORNER, BORDER_LINE, PAPER_CORNER, Letters, Move
from holoptic.tolerance import PROVED_MM, SEEN_MM, SHARE

Line = tuple[Vec2, Vec2]
"""A point and a unit direction."""


class DraftingError(HolopticError):
    """A move that cannot be carried out with what is on the paper."""

    def __init__(self, move: Move, reason: str) -> None:
        super().__init__(tr("move {n} ({verb}): {reason}", n=move.n, verb=move.verb, reason=reason))
        self.move = move
        self.reason = reason

    def __reduce__(self) -> tuple[type, tuple[Move, str]]:
        return type(self), (self.move, self.reason)


class Drafter:
    """A sheet of paper and a pair of hands; distances in mm from the lower left border corner."""

    def __init__(self) -> None:
        self.points: dict[str, Vec2] = {BORDER_CORNER: (0.0, 0.0)}
        self.lines: dict[str, Line] = {BORDER_LINE: ((0.0, 0.0), (1.0, 0.0))}
        self.curves: dict[str, DrawnCurve] = {}
        self.strokes: dict[str, tuple[Vec2, ...]] = {}
        self.curve_paths: dict[str, tuple[Vec2, ...]] = {}
        """Every curve on the paper as a polyline, mm, to be shown."""
        self.heads: dict[str, tuple[Vec2, float]] = {}
        """Heads of dimensions: where the tip is, and the direction of the body, degrees."""
        self.letters: dict[str, Letters] = {}
        self._guided: dict[str, tuple[float, float]] = {}
        """How far guide lines reach, mm along them: no further than the words between them."""
        self.readings: list[tuple[Move, float]] = []
        self._on_line: dict[str, list[str]] = defaultdict(list)

    @property
    def _actions(self) -> dict[str, Callable[[Move], None]]:
        return {
            "lay": self._lay,
            "set off": self._set_off,
            "swing": self._swing,
            "plot": self._plot,
            "draw": self._draw,
            "parallel": self._parallel,
            "square": self._square,
            "meet": self._meet,
            "join": self._join,
            "circle": self._circle,
            "arc": self._arc,
            "same arc": self._same_arc,
            "trammel": self._trammel,
            "curve": self._curve_through,
            "freehand": self._freehand,
            "touch": self._touch,
            "nearest": self._nearest,
            "firm in": self._firm_in,
            "check": self._check,
            "go over": self._go_over,
            "head": self._head,
            "guides": self._guides,
            "letter": self._letter,
            "shade": self._shade,
        }

    def carry_out(self, moves: Iterable[Move]) -> Drafter:
        """Do the moves in order. Raises DraftingError for one that cannot be done."""
        actions = self._actions
        for move in moves:
            actions[move.verb](move)
            if move.makes and move.makes[0] in self.curves:
                curve = self.curves[move.makes[0]]
                self.curve_paths[move.makes[0]] = tuple(curve.path(curve.first, curve.last))
        return self

    def as_after(self, moves: Iterable[Move], stands: Collection[str] = ()) -> Drafter:
        """Return the paper as it stood after some of the moves carried out here.

        Nothing is drawn again: what those moves made, and what stands besides, is taken over.
        """
        done = tuple(moves)
        made = {name for move in done for name in move.makes}.union(stands)
        paper = Drafter()
        if PAPER_CORNER in self.points:  # a blank sheet: no border was printed on it
            paper.points.clear()
            paper.lines.clear()
        paper.points.update((n, p) for n, p in self.points.items() if n in made)
        paper.lines.update((n, line) for n, line in self.lines.items() if n in made)
        paper.curves = {n: curve for n, curve in self.curves.items() if n in made}
        paper.curve_paths = {n: path for n, path in self.curve_paths.items() if n in made}
        paper.strokes = {n: path for n, path in self.strokes.items() if n in made}
        paper.heads = {n: head for n, head in self.heads.items() if n in made}
        paper.letters = {n: words for n, words in self.letters.items() if n in made}
        paper._guided = self._guided
        for line, names in self._on_line.items():
            paper._on_line[line] = [name for name in names if name in paper.points]
        return paper

    def drawn_span(self, line: str, overrun: float = 4.0) -> tuple[Vec2, Vec2]:
        """Return the piece of a light line that its points need, with an overrun in mm."""
        origin, along = self.lines[line]
        if line in self._guided:
            low, high = self._guided[line]
            return (
                (origin[0] + low * along[0], origin[1] + low * along[1]),
                (origin[0] + high * along[0], origin[1] + high * along[1]),
            )
        places = [position_on_line(self.points[p], origin, along) for p in self._on_line[line]]
        low, high = min(places, default=0.0) - overrun, max(places, default=0.0) + overrun
        return (
            (origin[0] + low * along[0], origin[1] + low * along[1]),
            (origin[0] + high * along[0], origin[1] + high * along[1]),
        )

    def _point(self, move: Move, index: int) -> Vec2:
        name = move.uses[index]
        if name not in self.points:
            raise DraftingError(move, tr("point {name} is not on the paper yet", name=name))
        return self.points[name]

    def _line(self, move: Move, index: int) -> Line:
        name = move.uses[index]
        if name not in self.lines:
            raise DraftingError(move, tr("line {name} is not on the paper yet", name=name))
        return self.lines[name]

    def _curve(self, move: Move, index: int) -> DrawnCurve:
        name = move.uses[index]
        if name not in self.curves:
            raise DraftingError(move, tr("curve {name} is not on the paper yet", name=name))
        return self.curves[name]

    def _setting(self, move: Move) -> float:
        if move.setting_mm is None:
            raise DraftingError(move, tr("no setting is given"))
        return move.setting_mm

    def _new_point(self, name: str, place: Vec2, *lines: str) -> None:
        self.points[name] = place
        for line in lines:
            self._on_line[line].append(name)

    def _new_line(self, move: Move, through: Vec2, along: Vec2, meets_from: int) -> None:
        name, *point_names = move.makes
        self.lines[name] = through, along
        self._on_line[name].append(move.uses[0])
        for index, point in enumerate(point_names, meets_from):
            self._new_point(point, self._crossing(move, (through, along), index), name,
                            move.uses[index])  # fmt: skip

    def _crossing(self, move: Move, line: Line, index: int) -> Vec2:
        place = crossing(*line, *self._line(move, index))
        if place is None:
            raise DraftingError(move, tr("these lines do not cross"))
        return place

    def _lay(self, move: Move) -> None:
        """Take a blank sheet: nothing is on it but its own edges."""
        if len(self.points) > 1 or self.strokes:
            raise DraftingError(move, tr("there is a drawing on the board"))
        corner, line, edge = move.makes
        x, y = move.table[0]
        self.points = {corner: (x, y)}
        self.lines = {line: ((x, y), (1.0, 0.0)), edge: ((x, y), (0.0, 1.0))}

    def _set_off(self, move: Move) -> None:
        self._lay_off(move, 1.0, move.makes[0])

    def _swing(self, move: Move) -> None:
        self._lay_off(move, 1.0, move.makes[0])
        self._lay_off(move, -1.0, move.makes[1])

    def _lay_off(self, move: Move, sign: float, name: str) -> None:
        start, (origin, along) = self._point(move, 0), self._line(move, 1)
        if abs(offset_from_line(start, origin, along)) > PROVED_MM:
            raise DraftingError(
                move, tr("{uses} does not lie on {uses2}", uses=move.uses[0], uses2=move.uses[1])
            )
        way = _way(move)
        if abs(along[0] * way[1] - along[1] * way[0]) > SHARE:
            raise DraftingError(move, tr("the setting is not along its line"))
        size = self._setting(move)
        if len(move.uses) == 4:  # carried: what lies on the paper counts, not the figure
            size = math.dist(self._point(move, 2), self._point(move, 3))
        end = start[0] + sign * size * way[0], start[1] + sign * size * way[1]
        self._on_line[move.uses[1]].append(move.uses[0])
        self._new_point(name, end, move.uses[1])

    def _plot(self, move: Move) -> None:
        x, y = self._point(move, 0)
        ways = [self._line(move, index)[1] for index in range(1, len(move.uses))]
        for name, row in zip(move.makes, move.table, strict=True):
            if len(row) != len(ways):
                raise DraftingError(move, tr("{name} has no offset along each line", name=name))
            across = sum(size * way[0] for size, way in zip(row, ways, strict=True))
            up = sum(size * way[1] for size, way in zip(row, ways, strict=True))
            self._new_point(name, (x + across, y + up))

    def _draw(self, move: Move) -> None:
        way = _way(move)
        if not can_draw(move.instrument, move.angle_deg or 0.0):
            raise DraftingError(
                move, tr("the {instrument} has no such angle", instrument=move.instrument)
            )
        self._new_line(move, self._point(move, 0), way, meets_from=1)

    def _parallel(self, move: Move) -> None:
        _, along = self._line(move, 1)
        _require_square(move)
        self._new_line(move, self._point(move, 0), _toward(move, along), meets_from=2)

    def _square(self, move: Move) -> None:
        _, along = self._line(move, 1)
        _require_square(move)
        across = _toward(move, (-along[1], along[0]))
        self._new_line(move, self._point(move, 0), across, meets_from=2)

    def _meet(self, move: Move) -> None:
        first, second = move.uses[:2]
        if first in self.lines and second in self.lines:
            place = self._crossing(move, self._line(move, 0), 1)
            self._new_point(move.makes[0], place, first, second)
            return
        places = _told_apart(self._curve_crossings(move))
        if not places:
            raise DraftingError(move, tr("these lines do not cross"))
        if len(move.uses) > 2:
            near = self._point(move, 2)
            places.sort(key=lambda place: math.dist(place, near))
        elif len(places) > 1:
            raise DraftingError(move, tr("these lines cross more than once: nearest to what?"))
        on = [name for name in (first, second) if name in self.lines]
        self._new_point(move.makes[0], places[0], *on)

    def _curve_crossings(self, move: Move) -> list[Vec2]:
        first, second = move.uses[:2]
        if first in self.lines or second in self.lines:
            line, bent = (0, 1) if first in self.lines else (1, 0)
            curve = self._curve(move, bent)
            at, along = self._line(move, line)
            # a line that should touch may pass by a hair: a pencil line is far broader
            for aside in (0.0, SEEN_MM, -SEEN_MM):
                place = at[0] - aside * along[1], at[1] + aside * along[0]
                found = [curve.at(t) for t in curve.crossings_with_line(place, along)]
                if aside and len(found) == 2:
                    (x, y), (u, v) = found
                    return [((x + u) / 2, (y + v) / 2)]  # it touches half way between
                if found:
                    return found
            return []
        curve = self._curve(move, 0)
        return [curve.at(t) for t, _ in curve.crossings(self._curve(move, 1))]

    def _join(self, move: Move) -> None:
        start, end = self._point(move, 0), self._point(move, 1)
        if math.dist(start, end) < PROVED_MM:
            raise DraftingError(move, tr("the two points fall on one place"))
        self._new_line(move, start, direction(start, end), meets_from=2)
        self._on_line[move.makes[0]].append(move.uses[1])

    def _circle(self, move: Move) -> None:
        arc = Arc(self._point(move, 0), self._setting(move), 0.0, math.tau)
        self.curves[move.makes[0]] = ArcChain([arc], closed=True)

    def _arc(self, move: Move) -> None:
        centre, start, end = (self._point(move, index) for index in range(3))
        for name, place in zip(move.uses[1:], (start, end), strict=True):
            if abs(math.dist(centre, place) - self._setting(move)) > PROVED_MM:
                raise DraftingError(
                    move, tr("the compass does not reach {name} as it is set", name=name)
                )
        self.curves[move.makes[0]] = ArcChain([Arc.between(centre, start, end)], closed=False)

    def _same_arc(self, move: Move) -> None:
        curve = self._curve(move, 1)
        if not isinstance(curve, ArcChain):
            raise DraftingError(
                move, tr("{uses} was not drawn with the compass", uses=move.uses[1])
            )
        arc = curve.arcs[0]
        again = Arc(self._point(move, 0), arc.radius, arc.first, arc.last)
        self.curves[move.makes[0]] = ArcChain([again], curve.closed)

    def _trammel(self, move: Move) -> None:
        centre, one, two = (self._point(move, index) for index in range(3))
        a = one[0] - centre[0], one[1] - centre[1]
        b = two[0] - centre[0], two[1] - centre[1]
        if abs(a[0] * b[0] + a[1] * b[1]) > PROVED_MM * math.hypot(*a):
            raise DraftingError(move, tr("the axes of the ellipse are not square to each other"))
        ellipse = PaperArc(centre, a, b, 0.0, math.tau)
        self.curves[move.makes[0]] = TrammelEllipse(ellipse)

    def _curve_through(self, move: Move) -> None:
        points = [self._point(move, index) for index in range(len(move.uses))]
        closed = len(points) > 3 and move.uses[0] == move.uses[-1]
        self.curves[move.makes[0]] = FrenchCurve(points[:-1] if closed else points, closed)

    def _freehand(self, move: Move) -> None:
        start, corner, end = (self._point(move, index) for index in range(3))
        self.curves[move.makes[0]] = FreehandArcs((start, end), (corner,), closed=False)

    def _touch(self, move: Move) -> None:
        side = _way(move)
        first, second = move.uses
        places: list[tuple[Vec2, ...]]
        if first in self.lines:
            curve, along = self._curve(move, 1), self._line(move, 0)[1]
            places = [(curve.at(t),) for t in curve.touching(along)]
        elif first in self.points:
            curve, point = self._curve(move, 1), self._point(move, 0)
            places = [(curve.at(t),) for t in curve.tangents_from(point)]
        else:
            one, two = self._curve(move, 0), self._curve(move, 1)
            pairs = common_tangents(one.completed(), two.completed())
            places = [(one.completed().at(t), two.completed().at(s)) for t, s in pairs]
            for name, curve in ((first, one), (second, two)):
                which = 0 if name == first else 1
                places = [p for p in places if _distance(curve, p[which]) < PROVED_MM]
        if not places:
            raise DraftingError(move, tr("a straightedge touches nothing there"))
        best = max(places, key=lambda p: sum(q[0] * side[0] + q[1] * side[1] for q in p))
        line, *names = move.makes
        start = self.points.get(first, best[0])
        along = self._line(move, 0)[1] if first in self.lines else direction(start, best[-1])
        self.lines[line] = start, along
        for name, place in zip(names, best, strict=True):
            self._new_point(name, place, line)
        if first in self.points:
            self._on_line[line].append(first)

    def _nearest(self, move: Move) -> None:
        curve, place = self._curve(move, 0), self._point(move, 1)
        self._new_point(move.makes[0], curve.at(curve.nearest(place)))

    def _firm_in(self, move: Move) -> None:
        if move.uses[2] in self.curves:
            self.strokes[move.makes[0]] = self._over_curves(move)
            return
        origin, along = self._line(move, 2)
        for index in (0, 1):
            if abs(offset_from_line(self._point(move, index), origin, along)) > PROVED_MM:
                raise DraftingError(
                    move,
                    tr("{uses} does not lie on {uses2}", uses=move.uses[index], uses2=move.uses[2]),
                )
        self._on_line[move.uses[2]] += move.uses[:2]
        self.strokes[move.makes[0]] = self._point(move, 0), self._point(move, 1)

    def _over_curves(self, move: Move) -> tuple[Vec2, ...]:
        """Return the polyline over one curve or several that follow each other."""
        start, end = self._point(move, 0), self._point(move, 1)
        curves = [self._curve(move, index) for index in range(2, len(move.uses))]
        path: list[Vec2] = []
        for index, curve in enumerate(curves):
            is_first, is_last = index == 0, index == len(curves) - 1
            t = self._place_on(move, curve, start, move.uses[0]) if is_first else curve.first
            s = self._place_on(move, curve, end, move.uses[1]) if is_last else curve.last
            if len(curves) == 1:
                t, s = curve.span(t, s)
            piece = curve.path(t, s, PROVED_MM / 10)
            if path and math.dist(path[-1], piece[0]) > PROVED_MM:
                raise DraftingError(
                    move, tr("the arcs before {uses} do not meet it", uses=move.uses[2 + index])
                )
            path += piece
        return tuple(path)

    def _place_on(self, move: Move, curve: DrawnCurve, place: Vec2, name: str) -> float:
        t = curve.nearest(place)
        if math.dist(curve.at(t), place) > PROVED_MM:
            raise DraftingError(move, tr("{name} does not lie on the curve", name=name))
        return t

    # --- by eye -----------------------------------------------------------------------------

    def _go_over(self, move: Move) -> None:
        origin, along = self._line(move, 2)
        way = self._way_along(move, along)
        ends = []
        for index, beyond in zip((0, 1), move.table[0], strict=True):
            point = self._point(move, index)
            if abs(offset_from_line(point, origin, along)) > PROVED_MM:
                raise DraftingError(
                    move,
                    tr("{uses} does not lie on {uses2}", uses=move.uses[index], uses2=move.uses[2]),
                )
            ends.append((point[0] + beyond * way[0], point[1] + beyond * way[1]))
            self._on_line[move.uses[2]].append(move.uses[index])
        self.strokes[move.makes[0]] = ends[0], ends[1]

    def _head(self, move: Move) -> None:
        point = self._point(move, 0)
        if len(move.uses) > 1:
            origin, along = self._line(move, 1)
            self._way_along(move, along)
            if abs(offset_from_line(point, origin, along)) > PROVED_MM:
                raise DraftingError(
                    move, tr("{uses} does not lie on {uses2}", uses=move.uses[0],
                             uses2=move.uses[1])
                )  # fmt: skip
        _way(move)
        self.heads[move.makes[0]] = point, move.angle_deg or 0.0

    def _guides(self, move: Move) -> None:
        origin, along = self._line(move, 0)
        way = self._way_along(move, along)
        foot = self._point(move, 1)
        if abs(offset_from_line(foot, origin, along)) > PROVED_MM:
            raise DraftingError(
                move, tr("{uses} does not lie on {uses2}", uses=move.uses[1], uses2=move.uses[0])
            )
        for name, (aside,) in zip(move.makes, move.table, strict=True):
            self.lines[name] = (foot[0] - aside * way[1], foot[1] + aside * way[0]), way

    def _letter(self, move: Move) -> None:
        guides = [self._line(move, index) for index in range(len(move.uses))]
        for name, words in zip(move.makes, move.letters, strict=True):
            turn = math.radians(words.along_deg)
            way = math.cos(turn), math.sin(turn)
            if not any(
                abs(offset_from_line(words.at, *guide)) < PROVED_MM
                and abs(guide[1][0] * way[1] - guide[1][1] * way[0]) < SHARE
                for guide in guides
            ):
                raise DraftingError(move, tr("“{text}” stands on no guide line", text=words.text))
            self.letters[name] = words
            for guide in move.uses:
                self._reach(guide, words)

    def _reach(self, guide: str, words: Letters) -> None:
        """Let a guide line reach as far as words upon it, and a little further."""
        at, wide = position_on_line(words.at, *self.lines[guide]), words.width
        before = {"start": 0.0, "middle": 0.5, "end": 1.0}[words.anchor] * wide
        low, high = self._guided.get(guide, (at, at))
        margin = words.height / 2
        self._guided[guide] = (
            min(low, at - before - margin), max(high, at - before + wide + margin)
        )  # fmt: skip

    def _shade(self, move: Move) -> None:
        for name, row in zip(move.makes, move.table, strict=True):
            path = tuple(zip(row[::2], row[1::2], strict=True))
            if move.uses:
                origin, along = self._line(move, 0)
                off = {round(offset_from_line(place, origin, along), 4) for place in path}
                if max(off) - min(off) > PROVED_MM:
                    raise DraftingError(move, tr("this line does not run along {line}",
                                                 line=move.uses[0]))  # fmt: skip
            self.strokes[name] = path

    def _way_along(self, move: Move, along: Vec2) -> Vec2:
        """Return the direction that a move says, which must be that of its line."""
        way = _way(move)
        if abs(along[0] * way[1] - along[1] * way[0]) > SHARE:
            raise DraftingError(move, tr("this does not lie along its line"))
        return way

    def _check(self, move: Move) -> None:
        self.readings.append((move, math.dist(self._point(move, 0), self._point(move, 1))))


def _require_square(move: Move) -> None:
    if move.instrument != SLIDING and not can_draw(move.instrument, move.angle_deg or 0.0):
        raise DraftingError(
            move, tr("the {instrument} has no such angle", instrument=move.instrument)
        )


def _way(move: Move) -> Vec2:
    if move.angle_deg is None:
        raise DraftingError(move, tr("no angle is given"))
    angle = math.radians(move.angle_deg)
    return math.cos(angle), math.sin(angle)


def _toward(move: Move, along: Vec2) -> Vec2:
    """Return a line's direction the way round that the move's angle says."""
    if move.angle_deg is None:
        return along
    way = _way(move)
    return along if along[0] * way[0] + along[1] * way[1] >= 0 else (-along[0], -along[1])


def _distance(curve: DrawnCurve, place: Vec2) -> float:
    return math.dist(curve.at(curve.nearest(place)), place)


def _told_apart(places: Iterable[Vec2]) -> list[Vec2]:
    """Return places without those that lie on one before: where a line touches, it crosses twice
    in one place.
    """
    found: list[Vec2] = []
    for place in places:
        if all(math.dist(place, other) > PROVED_MM for other in found):
            found.append(place)
    return found
