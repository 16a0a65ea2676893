"""An outline walked on a face, step by step; each step is a few words.

    at 12, 8           where the walk begins (0, 0 if it is left out)
    r 26.5             right; l left, u up, d down: by a length
    r to L-12          until so far from the face's left edge (up and down: from its lower one)
    a 30 25            at a true angle for a length; a 30 r 12 and a 30 u 6 for a run or a rise
    go 40, 12+6        straight to a place
    a 150 meet         until level with, or over, the start: then one straight side closes
    close              back to the start
    circle 19          a whole circle of a diameter about the start, alone

Behind a step may stand `arc 21 left`, `arc 21 right large`, `arc bulge 8 left` or `arc smooth`: the
step then is an arc. Every length is a sum that keeps its words.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import ExpressionError
from holoptic.part.expand import figure, minus, plus
from holoptic.part.operations import Arc, Corner, OutlinePoint, Slope, corner_places
from holoptic.part.outline import sides_of
from holoptic.part.outline_text import read_arc
from holoptic.tolerance import COINCIDENT_MM, ROUNDING
from holoptic.units import Length, Unit

CLOSE = "close"
_WAYS = {"r": (0, 1), "l": (0, -1), "u": (1, 1), "d": (1, -1)}
_STEP = re.compile(r"\s*(?P<way>[rlud])\s+(?:(?P<to>to)\s+)?(?P<rest>.+)", re.S)
_SLOPE = re.compile(r"\s*a\s+(?P<angle>-?\d+(?:\.\d*)?)°?\s+(?P<rest>.+)", re.S)
_RUN = re.compile(r"(?P<way>[ru])\s+(?P<rest>.+)", re.S)
_CIRCLE = re.compile(r"\s*circle\s+(?P<size>.+)", re.S)
_PLACE = re.compile(r"\s*(?P<verb>at|go)\s+(?P<u>[^,]+),(?P<v>.+)", re.S)


@dataclass(frozen=True)
class Walk:
    """A walk so far: its corners, and the steps that led to them; `closed` once it came back.

    An arc belongs to the corner that its step began at.
    """

    points: tuple[OutlinePoint, ...] = (Corner(Length("0", 0.0), Length("0", 0.0)),)
    steps: tuple[str, ...] = ()
    closed: bool = False

    @property
    def places(self) -> list[Vec2]:
        """The corners, mm."""
        return corner_places(self.points)

    def after(self, step: str, unit: Unit, names: Mapping[str, float]) -> Walk:
        """Return the walk with one more step. Raises ExpressionError with the column."""
        words, arc = read_arc(step, unit, names)
        text = words.strip()
        if text == CLOSE:
            return self._closed(step, arc)
        if (match := _PLACE.fullmatch(words)) and match["verb"] == "at":
            if self.steps:
                raise ExpressionError(tr("“at” begins a walk; on the way it is “go”"), 0)
            start = self._place(match, unit, names)
            return replace(self, points=(start,), steps=(step.strip(),))
        if match := _CIRCLE.fullmatch(words):
            return self._circle(step, self._length(match, "size", unit, names))
        point = self._next(words, unit, names)
        before = self.points[-1]
        points = (*self.points[:-1], replace(before, arc=arc), point)
        made = Walk(points, (*self.steps, step.strip()))
        if math.dist(*made.places[-2:]) < COINCIDENT_MM:
            raise ExpressionError(tr("this step leads nowhere"), 0)
        return _drawable(made)

    def back(self) -> Walk:
        """Return the walk without its last step."""
        if self.closed and self.steps and self.steps[-1].startswith("circle"):
            (u, v), (right, _) = self.places
            start = Corner(figure((u + right) / 2), figure(v))
            return Walk((start,), self.steps[:-1]) if self.steps[:-1] else Walk()
        if self.closed:
            last = replace(self.points[-1], arc=None)
            return replace(
                self, points=(*self.points[:-1], last), steps=self.steps[:-1], closed=False
            )
        if len(self.points) < 2:
            return Walk()
        before = replace(self.points[-2], arc=None)
        return Walk((*self.points[:-2], before), self.steps[:-1])

    def to(self, place: Vec2, unit: Unit) -> Walk:
        """Return the walk with a step straight to a place, as a pointer makes it."""
        corner = Corner(Length.of(place[0], unit), Length.of(place[1], unit))
        words = f"{'go' if self.steps else 'at'} {corner.u.text}, {corner.v.text}"
        if not self.steps:
            return Walk((corner,), (words,))
        return Walk((*self.points, corner), (*self.steps, words))

    # --- steps --------------------------------------------------------------------------------

    def _closed(self, step: str, arc: Arc | None) -> Walk:
        if len(self.points) < 3 and not (arc and len(self.points) == 2):
            raise ExpressionError(tr("an outline needs at least three corners before it closes"), 0)
        last = replace(self.points[-1], arc=arc)
        return _drawable(Walk((*self.points[:-1], last), (*self.steps, step.strip()), closed=True))

    def _circle(self, step: str, size: Length) -> Walk:
        if len(self.points) > 1:
            raise ExpressionError(tr("a circle stands alone: begin at its centre"), 0)
        if size.mm <= 0:
            raise ExpressionError(tr("a circle needs a diameter above zero"), 0)
        radius = Length(f"({size.text})/2" if size.is_sum else f"{size.text}/2", size.mm / 2)
        (u, v), arc = self._here(), Arc(radius=radius, way="left")
        sides = Corner(minus(u, radius), v, arc), Corner(plus(u, radius), v, arc)
        return Walk(sides, (*self.steps, step.strip()), closed=True)

    def _next(self, words: str, unit: Unit, names: Mapping[str, float]) -> OutlinePoint:
        if match := _PLACE.fullmatch(words):
            return self._place(match, unit, names)
        if match := _STEP.fullmatch(words):
            return self._along(match, unit, names)
        if match := _SLOPE.fullmatch(words):
            return self._sloped(match, unit, names)
        raise ExpressionError(
            tr(
                "a step is r, l, u or d with a length; a with an angle and a "
                "length; go with a place; or close"
            ),
            0,
        )

    def _length(
        self, match: re.Match[str], group: str, unit: Unit, names: Mapping[str, float]
    ) -> Length:
        try:
            return Length.read(match[group], unit, names)
        except ExpressionError as error:
            raise ExpressionError(str(error), match.start(group) + error.column) from error

    def _here(self) -> tuple[Length, Length]:
        """Return the place of the last corner with its words, a slope's as bare figures."""
        point = self.points[-1]
        if isinstance(point, Corner):
            return point.u, point.v
        u, v = self.places[-1]
        return figure(u), figure(v)

    def _along(self, match: re.Match[str], unit: Unit, names: Mapping[str, float]) -> Corner:
        which, sign = _WAYS[match["way"]]
        here = list(self._here())
        if match["rest"].strip() == "meet":
            return self._meeting((sign, 0.0) if which == 0 else (0.0, sign))
        length = self._length(match, "rest", unit, names)
        if match["to"]:
            if (length.mm - here[which].mm) * sign <= 0:
                raise ExpressionError(tr("that place lies the other way"), match.start("rest"))
            here[which] = length
        else:
            here[which] = plus(here[which], length) if sign > 0 else minus(here[which], length)
        return Corner(here[0], here[1])

    def _place(self, match: re.Match[str], unit: Unit, names: Mapping[str, float]) -> Corner:
        u, v = (self._length(match, part, unit, names) for part in "uv")
        return Corner(u, v)

    def _sloped(self, match: re.Match[str], unit: Unit, names: Mapping[str, float]) -> OutlinePoint:
        angle, rest = float(match["angle"]), match["rest"]
        if rest.strip() == "meet":
            return self._meeting((math.cos(math.radians(angle)), math.sin(math.radians(angle))))
        run = _RUN.fullmatch(rest)
        text = run["rest"] if run else rest
        column = match.start("rest") + (run.start("rest") if run else 0)
        try:
            length = Length.read(text, unit, names)
        except ExpressionError as error:
            raise ExpressionError(str(error), column + error.column) from error
        if run is None:
            slope = Slope(angle, length=length)
        else:
            slope = Slope(angle, run=length) if run["way"] == "r" else Slope(angle, rise=length)
        try:
            slope.step_mm()
        except ValueError as error:
            raise ExpressionError(str(error), column) from error
        return slope

    def _meeting(self, way: Vec2) -> Corner:
        """Return where one comes level with the start, or stands over it, whichever is first."""
        (u, v), (u0, v0) = self.places[-1], self.places[0]
        reaches = [
            (goal - here) / along
            for here, goal, along in ((u, u0, way[0]), (v, v0, way[1]))
            if abs(along) > ROUNDING
        ]
        ahead = [reach for reach in reaches if reach > COINCIDENT_MM]
        if not ahead:
            raise ExpressionError(tr("this way one never comes level with the start"), 0)
        reach = min(ahead)
        start = self.points[0]
        place = u + reach * way[0], v + reach * way[1]
        # the start's own words are kept for the coordinate that is met
        lengths = [
            own
            if isinstance(start, Corner) and abs(at - own.mm) < ROUNDING
            else figure(round(at, 9))
            for at, own in zip(place, _own(start), strict=True)
        ]
        return Corner(lengths[0], lengths[1])


def _drawable(walk: Walk) -> Walk:
    """Return a walk. Raises ExpressionError where one of its arcs misses its ends."""
    try:
        sides_of(walk.points, closed=walk.closed)
    except ValueError as error:
        raise ExpressionError(str(error), 0) from error
    return walk


def _own(start: OutlinePoint) -> tuple[Length, Length]:
    if isinstance(start, Corner):
        return start.u, start.v
    return figure(0.0), figure(0.0)
