"""The moves for one stroke: its line or curve, and the points where it ends."""

from __future__ import annotations

import math
from collections.abc import Callable

from holoptic.catalogue import Saying, later, sentences, tr
from holoptic.construction.intended import Bent, End, Intended, Straight
from holoptic.curves.drawn import DrawnCurve
from holoptic.curves.paper import direction
from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.part import Part, Source, Whole
from holoptic.pictorial import Stroke
from holoptic.plan.bench import Bench
from holoptic.plan.curve_work import CurveWork
from holoptic.plan.instruments import PENCIL, STRAIGHTEDGE
from holoptic.plan.spots import spot_of
from holoptic.tolerance import KERNEL_MM, ON_CURVE_MM, ON_PAPER_MM, ROUNDING

_CLEARLY_NEARER, _JUST_NEARER = 0.8, 0.98
"""How much nearer than the next a crossing must be to the point that tells it."""

Drawn = tuple[str, str, tuple[str, ...]]
"""The points where a stroke begins and ends, and the lines or curves it runs along."""


def operation_name(stroke: Stroke, source: Source) -> str:
    """Return the name of the operation that a stroke comes from; of a whole, of the body."""
    index = stroke.origin.operation
    if isinstance(source, Whole):
        return source.bodies[stroke.origin.body].name
    if index is None or not isinstance(source, Part):
        return tr("the block")
    return source.operations[index].name


class LineWork:
    """Writes the construction of strokes; remembers what each runs along and where it ends."""

    def __init__(self, bench: Bench, intended: Intended) -> None:
        self.bench = bench
        self.intended = intended
        self.curves = CurveWork(bench, intended.ways)
        self.drawn: dict[str, Drawn] = {}
        for made in intended.strokes.values():
            if isinstance(made, Bent):
                self.curves.foresee(made)
            for end in (made.start, made.end):
                other = intended.strokes.get(end.other or "")
                if isinstance(other, Bent) and end.how in ("meet", "touch"):
                    self.curves.foresee_at(other, end.place)
        self._strokes = {stroke.id: stroke for stroke in intended.drawn}
        self._lines: dict[str, str] = {}
        self._ends: dict[tuple[str, Vec2], str] = {}
        self._count = 0

    def begin(self, stroke: Stroke, is_drawn: Callable[[str], bool]) -> None:
        """Write what can be written of a stroke that ends at something not yet drawn: its line or
        curve, and those ends that hang on nothing else. `is_drawn` tells of other strokes.
        """
        made = self.intended.strokes[stroke.id]
        if isinstance(made, Bent):
            self.curves.items(made)
        elif made.generator:
            return
        else:
            self._line_of(stroke, made)
        for end in (made.start, made.end):
            if end.other is None or is_drawn(end.other):
                self._end(stroke, end)

    def construct(self, stroke: Stroke) -> None:
        """Write what a stroke needs before it can be firmed in."""
        made = self.intended.strokes[stroke.id]
        if isinstance(made, Straight):
            line = self._line_of(stroke, made)
            ends = [self._end(stroke, end) for end in (made.start, made.end)]
            self.drawn[stroke.id] = ends[0], ends[1], (line,)
            return
        items, order = self.curves.items(made)
        if made.is_whole:
            start = self._begin_of_whole(made, order)
            self.drawn[stroke.id] = start, start, items
            return
        ends = [self._end(stroke, end) for end in (made.start, made.end)]
        self.drawn[stroke.id] = ends[0], ends[1], items

    def _begin_of_whole(self, made: Bent, order: tuple[int, ...]) -> str:
        """Return a point on a curve that goes all the way round, to begin at."""
        rim = made.rim
        if rim is None:
            return self.bench.plot([spot_of(made.through[0])], later("on the curve"))[0]
        if rim.construction.joins:
            if rim.construction.method == "offsets":
                return self.bench.points[self.curves.spot_on(rim, rim.construction.joins[0])]
            return self.curves.begins_at(rim, order[0])
        place = rim.construction.curve.at(0.0)
        return self._nearest(made, place, self.curves.spot_on(rim, place))

    # --- lines ------------------------------------------------------------------------------

    def _line_of(self, stroke: Stroke, made: Straight) -> str:
        if stroke.id not in self._lines:
            if made.generator:
                self._lines[stroke.id] = self._generator(stroke, made)
            else:
                self._lines[stroke.id] = self._edge_line(stroke)
        return self._lines[stroke.id]

    def _edge_line(self, stroke: Stroke) -> str:
        start, end = (spot_of(spot) for spot in self.intended.line_ends(stroke))
        axes = [axis for axis in range(3) if start[axis] != end[axis]]
        if not stroke.is_straight:  # a curve seen edge-on: the ends of its image
            made = self.intended.strokes[stroke.id]
            start, end = spot_of(made.start.spot), spot_of(made.end.spot)
            axes = []
        if len(axes) == 1:
            ends_known = start in self.bench.points or end in self.bench.points
            if not ends_known and not self.bench.has_line(axes[0], start):
                self.bench.ensure_point(start)
            return self.bench.ensure_line(axes[0], start)
        self.bench.ensure_point(start)
        self.bench.ensure_point(end)
        return self.bench.join(start, end)

    def _generator(self, stroke: Stroke, made: Straight) -> str:
        """Lay a straightedge on the ovals that an outline touches."""
        touching = [end for end in (made.start, made.end) if end.how == "touch" and end.other]
        if not touching:
            names = self.bench.plot([spot_of(made.start.spot), spot_of(made.end.spot)],
                                    later("the ends of an outline"))  # fmt: skip
            self._ends[stroke.id, made.start.place] = names[0]
            self._ends[stroke.id, made.end.place] = names[1]
            return self._joined(names[0], names[1])
        uses = [self._curve_at(end) for end in touching]
        if len(touching) == 1:
            far = made.end if touching[0] is made.start else made.start
            point = self.bench.plot([spot_of(far.spot)], later("where the outline ends"))[0]
            self._ends[stroke.id, far.place] = point
            uses.insert(0, point)
        names = [self.bench.name_place(end.place) for end in touching]
        for end, name in zip(touching, names, strict=True):
            self._ends[stroke.id, end.place] = name
        self._count += 1
        line = tr("tangent {number}", number=self._count)
        told = [self.bench.told(use) for use in uses]
        self.bench.tell(line, later("the tangent through {name}", name=names[0]))
        words = (
            later("From {start} lay the straightedge against {curve}; mark {name} where it "
                  "touches, and draw the tangent.", start=uses[0], curve=told[1], name=names[0])
            if len(touching) == 1
            else later("Lay the straightedge against {curve} and {curve2}; mark {one} and {other} "
                       "where it touches, and draw the tangent.", curve=told[0], curve2=told[1],
                       one=names[0], other=names[-1])
        )  # fmt: skip
        self.bench.write(
            "touch", STRAIGHTEDGE, (uses[0], uses[1]), (line, *names),
            words, angle=self._side(touching, made),
        )  # fmt: skip
        return line

    def _joined(self, start: str, end: str) -> str:
        standing = self.bench.standing_between(start, end)
        if standing is not None:
            return standing
        self._count += 1
        line = f"outline {self._count}"
        self.bench.tell(line, later("the line from {first} to {second}", first=start, second=end))
        self.bench.rule_through(line, start, end)
        return line

    def _curve_at(self, end: End) -> str:
        made = self.intended.strokes[end.other or ""]
        if not isinstance(made, Bent):
            raise TypeError("an outline can touch curves only")
        return self.curves.item_at(made, end.place)

    def _side(self, touching: list[End], made: Straight) -> float:
        """Return the direction from the ovals' middle to the touching line, degrees."""
        way = direction(*made.path)
        square = -way[1], way[0]
        rim = self.intended.rim(touching[0].other or "")
        centre = rim.construction.ellipse.centre if rim else (0.0, 0.0)
        place = touching[0].place
        side = (place[0] - centre[0]) * square[0] + (place[1] - centre[1]) * square[1]
        sign = 1.0 if side > 0 else -1.0
        angle = math.degrees(math.atan2(sign * square[1], sign * square[0]))
        return round(angle, 3)

    # --- ends -------------------------------------------------------------------------------

    def _end(self, stroke: Stroke, end: End) -> str:
        """Return the point where a stroke ends, put on the paper unless it is there."""
        key = stroke.id, end.place
        if key not in self._ends:
            self._ends[key] = self._make_end(stroke, end)
        return self._ends[key]

    def _make_end(self, stroke: Stroke, end: End) -> str:
        made = self.intended.strokes[stroke.id]
        spot = spot_of(end.spot)
        if end.how == "spot":
            if isinstance(made, Bent) and made.rim is None:
                return self.bench.plot([spot], later("the end of the curve"))[0]
            known = self.bench.points.get(spot) or self.bench.letter_at(spot)
            if known is not None:
                self.bench.adopt(spot, known)
            return known or self.bench.ensure_point(spot)
        if end.how == "touch":
            return self._touching_point(end)
        if isinstance(made, Bent) and end.how == "nearest":
            return self._nearest(made, end.place, spot)
        if isinstance(made, Straight) and spot in self.bench.points and self._is_at(end, spot):
            return self.bench.points[spot]
        return self._meet(stroke, end)

    def _is_at(self, end: End, spot: Vec3) -> bool:
        place = apply(self.bench.view.matrix, spot)
        return math.dist(place, end.place) < ON_PAPER_MM / 10

    def _touching_point(self, end: End) -> str:
        """Return the point where the generator `end.other` touches an oval."""
        other = self._strokes[end.other or ""]
        made = self.intended.strokes[other.id]
        if not isinstance(made, Straight):
            raise TypeError("only a straight outline touches an oval")
        self._line_of(other, made)
        for (name, place), point in self._ends.items():
            if name == other.id and math.dist(place, end.place) < KERNEL_MM:
                return point
        raise KeyError(end.other)

    def _nearest(self, made: Bent, place: Vec2, spot: Vec3) -> str:
        """Mark the point of a curve that lies nearest to a place found by offsets."""
        if made.rim is not None:
            for k, join in enumerate(made.rim.construction.joins):
                if math.dist(join, place) < KERNEL_MM and made.rim.construction.method != "offsets":
                    return self.curves.begins_at(made.rim, k)
        item = self.curves.item_at(made, place)
        known = self.bench.letter_on(place)
        if known is not None:
            return known
        what = (
            later("where to begin on {curve}", curve=self.bench.told(item))
            if made.is_whole
            else later("where {curve} ends", curve=self.bench.told(item))
        )
        helper = self.bench.plot([spot], what)[0]
        if math.dist(apply(self.bench.view.matrix, spot), place) < ON_PAPER_MM / 10:
            return helper
        name = self.bench.name_place(place)
        self.bench.write(
            "nearest",
            PENCIL,
            (item, helper),
            (name,),
            later(
                "Mark {name} on {curve}, beside {helper}.",
                name=name,
                curve=self.bench.told(item),
                helper=helper,
            ),
        )
        return name

    def _meet(self, stroke: Stroke, end: End) -> str:
        other = self._strokes[end.other or ""]
        one, two = self._item(stroke, end.place), self._item(other, end.place)
        shared = self._ends.get((other.id, end.place)) or self._standing(end)
        if shared is not None:
            return shared
        hint = self._hint(one, two, end.place)
        if hint is None:
            # two crossings close to each other: the offsets of the true end tell which
            self.bench.plot([spot_of(end.spot)], later("near a crossing"))
            marked = self._standing(end)
            if marked is not None:
                return marked
            hint = self._hint(one, two, end.place, _JUST_NEARER)
            if hint is None:
                return self._plotted(stroke, end)
        told, told_other = self.bench.told(one), self.bench.told(two)
        name = self.bench.name_place(end.place)
        text = self._meeting_words(stroke, end, name, told, told_other)
        if not any(item in self.curves.shapes for item in (one, two)):
            self._mark_crossing(stroke, end, (one, two), name, text)
            return name
        if hint:
            text = sentences(text, later("Of the crossings take the one nearest to {hint}.",
                                         hint=hint))  # fmt: skip
        self.bench.write(
            "meet",
            PENCIL,
            (one, two, *([hint] if hint else ())),
            (name,),
            text,
        )
        self._adopt(end, name)
        return name

    def _standing(self, end: End) -> str | None:
        """Return the letter that stands where a stroke ends, if there is one."""
        known = self.bench.letter_on(end.place)
        if known is not None:
            self._adopt(end, known)
        return known

    def _adopt(self, end: End, name: str) -> None:
        """Remember the spot of the part that a crossing on paper shows."""
        spot = spot_of(end.spot)
        if self._is_at(end, spot) and spot not in self.bench.points:
            self.bench.adopt(spot, name)

    def _mark_crossing(
        self, stroke: Stroke, end: End, lines: tuple[str, str], name: str, words: Saying
    ) -> None:
        """Mark where a stroke's own line, the first, meets another one or goes behind it."""
        ends = self._is_corner(stroke, end)

        def met(number: int, other: Saying) -> Saying:
            if ends or number == 1:
                return later("It meets {other} at {name}.", other=other, name=name)
            return later("It goes behind {other} at {name}.", other=other, name=name)

        self.bench.mark_crossing(lines, name, words, met)
        self._adopt(end, name)

    def _meeting_words(
        self, stroke: Stroke, end: End, name: str, one: Saying, two: Saying
    ) -> Saying:
        """Say that a line goes behind another, or that both meet in a corner of the part."""
        if self._is_corner(stroke, end):
            return later("Mark {name} where {one} meets {two}.", name=name, one=one, two=two)
        return later("Mark {name} where {one} goes behind {two}.", name=name, one=one, two=two)

    def _is_corner(self, stroke: Stroke, end: End) -> bool:
        """Whether a stroke ends there because its edge does."""
        spot = spot_of(end.spot)
        own = [spot_of(place) for place in self.intended.line_ends(stroke)]
        if isinstance(stroke.curve, EllipticArc):
            own += [spot_of(stroke.curve.start), spot_of(stroke.curve.end)]
            edge = stroke.origin.edge
            curve = None if edge is None else self.intended.facts.edges[edge].curve
            own = [spot_of(curve.start), spot_of(curve.end)] if curve is not None else []
        return any(math.dist(spot, place) < ON_CURVE_MM for place in own)

    def _plotted(self, stroke: Stroke, end: End) -> str:
        """Mark an end by its offsets where no crossing marks it well."""
        made = self.intended.strokes[stroke.id]
        if isinstance(made, Bent):
            return self._nearest(made, end.place, spot_of(end.spot))
        return self.bench.plot([spot_of(end.spot)], later("where the line ends"))[0]

    def _item(self, stroke: Stroke, place: Vec2) -> str:
        made = self.intended.strokes[stroke.id]
        if isinstance(made, Straight):
            return self._line_of(stroke, made)
        return self.curves.item_at(made, place)

    def _hint(self, one: str, two: str, place: Vec2, enough: float = _CLEARLY_NEARER) -> str | None:
        """Return the lettered point that tells the right crossing: "" where there is one only,
        None where the crossing is not found or no point tells it.
        """
        others = self._crossings(one, two)
        if others is None:
            return ""
        right = [point for point in others if math.dist(point, place) < KERNEL_MM]
        wrong = [point for point in others if math.dist(point, place) >= KERNEL_MM]
        if not right:
            return None
        if not wrong:
            return ""
        places = self.bench.places

        def share(name: str) -> float:
            wrong_distance = min(math.dist(places[name], point) for point in wrong)
            return math.dist(places[name], place) / max(wrong_distance, ROUNDING)

        best = min(places, key=share)
        return best if share(best) < enough else None

    def _crossings(self, one: str, two: str) -> list[Vec2] | None:
        """Return where two things on the paper cross; None for two straight lines."""
        shapes: dict[str, DrawnCurve] = self.curves.shapes
        if one in shapes and two in shapes:
            return [shapes[one].at(t) for t, _ in shapes[one].crossings(shapes[two])]
        if one not in shapes and two not in shapes:
            return None
        curve, line = (shapes[one], two) if one in shapes else (shapes[two], one)
        return [curve.at(t) for t in curve.crossings_with_line(*self._placed_line(line))]

    def _placed_line(self, line: str) -> tuple[Vec2, Vec2]:
        """Return a point and the direction of a line on the paper, in picture coordinates."""
        for name, known in self._lines.items():
            if known == line:
                made = self.intended.strokes[name]
                start, end = made.start.place, made.end.place
                if isinstance(made, Straight) and not made.generator:
                    matrix = self.bench.view.matrix
                    start, end = (
                        apply(matrix, spot) for spot in self.intended.line_ends(self._strokes[name])
                    )
                return start, direction(start, end)
        raise KeyError(line)
