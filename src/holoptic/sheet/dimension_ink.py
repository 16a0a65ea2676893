"""A dimension as ink and words: extension lines, dimension line, heads, lettering.

Two habits are known: ISO 129-1 writes along the line and above it, ASME Y14.5 breaks the line and
writes upright. Weights and lengths are mm on paper.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import shapely

from holoptic.catalogue import tr
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.dimensions import Dimension
from holoptic.job import DimensionStyle, Lettered, LineEnd
from holoptic.plan.letter_widths import width_of
from holoptic.sheet.drawing import Anchor, Ink, Measure, Region, Words
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Unit, show

LETTER_MM = 3.5
"""Height of capitals."""
HEAD_MM = 3.0
"""Length of a head; it is a third as wide."""
CLEAR_MM, BEYOND_MM = 1.0, 2.0
"""Extension lines begin so far off the outline, and end so far beyond the dimension line."""
ABOVE_MM = 1.0
"""From a dimension line to the words above it."""
_OUTSIDE = 2.2
"""A line shorter than so many heads has them at its outer sides."""
_TAIL_MM = 6.0
_AIR_MM, _ASIDE_MM = 0.5, 1.4
_TALL_MM = LETTER_MM + _AIR_MM
_OFF_TIP_MM = 0.6
_DOT_MM, _DOT_SIDES, _SLASH_MM = 0.8, 24, 0.4
_DIAGONAL = math.sqrt(0.5)
LAYER = "dimension"


@dataclass(frozen=True)
class Habit:
    """How a sheet letters its dimensions."""

    style: DimensionStyle = "ISO"
    text: Lettered = "sheared"
    ends: LineEnd = "arrow"

    @property
    def breaks_line(self) -> bool:
        """Whether the words stand in a gap of the line."""
        return self.style == "ASME" or self.text == "upright"


@dataclass(frozen=True)
class Drawn:
    """A dimension as drawn: `room` is what its words take up, `line` its own line or leader."""

    inks: tuple[Ink, ...]
    regions: tuple[Region, ...]
    words: Words
    room: shapely.Polygon
    line: shapely.LineString
    extensions: tuple[shapely.LineString, ...] = ()
    ends: tuple[tuple[Vec2, float], ...] = ()
    """Where its line ends, and the direction of the line from there, degrees."""
    end_shape: LineEnd = "arrow"
    measured: tuple[tuple[Vec2, Vec2], tuple[Vec2, Vec2], float] | None = None
    """Of a length: what is measured, the ends of its line, the direction of extension lines."""

    def measure(self, value: float) -> Measure | None:
        """Return a length of a true size as one thing, None for what is no length."""
        if self.measured is None:
            return None
        return Measure(*self.measured, value, self.inks, self.regions, self.words)


def label(one: Dimension, unit: Unit, *, is_arc: bool = False) -> str:
    """Return what a dimension says. It follows the part: nothing of it is typed."""
    if one.sort == "length":
        return show(one.value, unit)
    if one.sort == "angle":
        return f"{one.value:.4g}°"
    if one.sort == "shape":
        if one.words.endswith("×"):
            return f"{one.words} ⌀{show(one.value, unit)}"
        return f"{one.words} {show(one.value, unit)}"
    several = len({circle.across for circle in one.circles})
    words = f"R{show(one.value / 2, unit)}" if is_arc else f"⌀{show(one.value, unit)}"
    if several > 1:
        words = f"{several} × {words}"
    if one.cones:
        words += f" × {one.cones[0].degrees:.4g}°"
    if one.depth is not None:
        deep = show(abs(one.depth[1].at - one.depth[0].at), unit)
        words = tr("{size}, {deep} deep", size=words, deep=deep)
    return words


def drawn_length(
    words: str, ends: tuple[Vec2, Vec2], starts: tuple[Vec2, Vec2], lean: Vec2, habit: Habit
) -> Drawn:
    """Return a length: its line from end to end, extension lines from `starts` on the part.

    `lean` is the direction of the extension lines. The words stand on the line, along it, sheared
    as its plane is, or upright; where the line is too short for them beyond its end.
    """
    (a, b) = ends if ends[0] <= ends[1] else (ends[1], ends[0])
    long = math.dist(a, b)
    along = _unit(a, b)
    upright = habit.breaks_line and habit.text == "upright"
    wide = _wide(words)
    angle = math.degrees(math.atan2(along[1], along[0]))
    across = abs(wide * along[0]) + abs(LETTER_MM * along[1]) if upright else wide
    is_tight = long < across + 2 * (HEAD_MM + _AIR_MM)
    is_outside = long < _OUTSIDE * HEAD_MM
    middle = _mid(a, b)
    if is_tight:
        out = (_TAIL_MM + _AIR_MM if is_outside else ABOVE_MM) + across / 2
        middle = b[0] + along[0] * out, b[1] + along[1] * out
    written, room = _written(words, middle, angle, lean, habit, upright=upright)
    inks = [Ink(LAYER, path) for path in _line(a, b, along, words, habit, is_tight, is_outside)]
    if is_tight:
        reach = out + (across / 2 if not habit.breaks_line else -across / 2 - ABOVE_MM / 2)
        inks.append(Ink(LAYER, (b, (b[0] + along[0] * reach, b[1] + along[1] * reach))))
    extensions = []
    for start, end in ((starts[0], ends[0]), (starts[1], ends[1])):
        path = _extension(start, end)
        if path is not None:
            extensions.append(shapely.LineString(path))
            inks.append(Ink(LAYER, path))
    back = (-along[0], -along[1])
    sign = -1.0 if is_outside else 1.0
    ways = (a, (sign * along[0], sign * along[1])), (b, (sign * back[0], sign * back[1]))
    heads = tuple(end_at(habit.ends, *end) for end in ways)
    line = shapely.LineString([a, b])
    turn = math.degrees(math.atan2(lean[1], lean[0]))
    measured = starts, ends, turn
    return Drawn(tuple(inks), heads, written, room, line, tuple(extensions), _told(ways),
                 habit.ends, measured)  # fmt: skip


def drawn_leader(words: str, tip: Vec2, elbow: Vec2, *, to_right: bool) -> Drawn:
    """Return a note with its leader: from a head at `tip` to an elbow, and on under the words."""
    wide, aside = _wide(words), _aside_of_leader(tip, elbow, to_right=to_right)
    end = elbow[0] + (wide + aside if to_right else -wide - aside), elbow[1]
    left = elbow[0] + aside if to_right else end[0]
    at = left, elbow[1] + ABOVE_MM
    anchor: Anchor = "start" if to_right else "end"
    begin = (left, at[1]) if to_right else (elbow[0] - aside, at[1])
    written = Words(begin, words, LETTER_MM, anchor, LAYER)
    top = elbow[1] + ABOVE_MM + LETTER_MM
    room = shapely.box(left - _ASIDE_MM, elbow[1] - _AIR_MM, left + wide + _ASIDE_MM, top + _AIR_MM)
    inks = (Ink(LAYER, (tip, elbow)), Ink(LAYER, (elbow, end)))
    way = _unit(tip, elbow)
    x, y = _unit(tip, elbow)  # what it points at is not in its way
    line = shapely.LineString([(tip[0] + _OFF_TIP_MM * x, tip[1] + _OFF_TIP_MM * y), elbow])
    return Drawn(inks, (head_at(tip, way),), written, room, line, (), _told(((tip, way),)))


def _aside_of_leader(tip: Vec2, elbow: Vec2, *, to_right: bool) -> float:
    """Return how far words must stand aside of the elbow so that a leader from above misses them.

    Words stand between two heights over the elbow; there the leader runs from one place to another.
    """
    x, y = tip[0] - elbow[0], tip[1] - elbow[1]
    if y <= ABOVE_MM:
        return 0.0
    sign = 1.0 if to_right else -1.0
    high = min(ABOVE_MM + LETTER_MM, y)
    nearest = max(sign * x * ABOVE_MM / y, sign * x * high / y)
    return max(nearest + _ASIDE_MM, 0.0)


def drawn_angle(
    words: str, centre: Vec2, begin: float, sweep: float, radius: float
) -> Drawn | None:
    """Return an angle as an arc about a corner, with its words beyond the middle of it.

    It begins in a direction `begin` and turns by `sweep`, both in degrees; a line goes out from the
    corner where it begins. None where the arc is too short for its heads.
    """
    if radius * math.radians(abs(sweep)) < _OUTSIDE * HEAD_MM:
        return None

    def at(degrees: float, reach: float) -> Vec2:
        turn = math.radians(degrees)
        return centre[0] + reach * math.cos(turn), centre[1] + reach * math.sin(turn)

    first, last = sorted((math.radians(begin), math.radians(begin + sweep)))
    arc = PaperArc(centre, (radius, 0.0), (0.0, radius), first, last)
    side = (CLEAR_MM, radius + BEYOND_MM)
    level = at(begin, side[0]), at(begin, side[1])
    sign = math.copysign(1.0, sweep)
    # a head lies along the chord from its tip to where the arc is a head's length further on
    back = math.degrees(HEAD_MM / radius) * sign
    ends = (begin, begin + sweep)
    tips = tuple(
        (at(end, radius), _unit(at(end, radius), at(end + way, radius)))
        for end, way in zip(ends, (back, -back), strict=True)
    )
    heads = tuple(head_at(*tip) for tip in tips)
    wide = _wide(words)
    middle = begin + sweep / 2
    turn = math.radians(middle)
    out = ABOVE_MM + abs(math.cos(turn)) * wide / 2 + abs(math.sin(turn)) * LETTER_MM / 2
    x, y = at(middle, radius + out)
    written = Words((x, y - LETTER_MM / 2), words, LETTER_MM, "middle", LAYER)
    half = wide / 2 + _ASIDE_MM
    tall = LETTER_MM / 2 + _AIR_MM
    room = shapely.box(x - half, y - tall, x + half, y + tall)
    within = [begin + sweep * (0.08 + 0.84 * k / 12) for k in range(13)]
    line = shapely.LineString([at(degrees, radius) for degrees in within])
    inks = (Ink(LAYER, tuple(arc.path()), arc=arc), Ink(LAYER, level))
    sides = (shapely.LineString(level),)
    return Drawn(inks, heads, written, room, line, sides, _told(tips))


def _line(
    a: Vec2, b: Vec2, along: Vec2, words: str, habit: Habit, is_tight: bool, is_outside: bool
) -> list[tuple[Vec2, Vec2]]:
    """Return the pieces of a dimension line; outer tails where its heads stand outside."""
    pieces = [(a, b)]
    if habit.breaks_line and not is_tight:
        half = _wide(words) / 2 + ABOVE_MM
        if habit.text == "upright":
            half = min(half, (LETTER_MM / 2 + ABOVE_MM) / max(abs(along[1]), COINCIDENT_MM))
        x, y = _mid(a, b)
        gap = (x - half * along[0], y - half * along[1]), (x + half * along[0], y + half * along[1])
        pieces = [(a, gap[0]), (gap[1], b)]
    if is_outside:
        pieces.append((a, (a[0] - _TAIL_MM * along[0], a[1] - _TAIL_MM * along[1])))
        pieces.append((b, (b[0] + _TAIL_MM * along[0], b[1] + _TAIL_MM * along[1])))
    return pieces


def _written(
    words: str, middle: Vec2, angle: float, lean: Vec2, habit: Habit, *, upright: bool
) -> tuple[Words, shapely.Polygon]:
    """Return the words about a place of their line, and the room they take."""
    wide = _wide(words)
    if upright:
        at = middle[0], middle[1] - LETTER_MM / 2
        side = wide / 2 + _ASIDE_MM
        room = shapely.box(middle[0] - side, at[1] - _AIR_MM, middle[0] + side,
                           at[1] + LETTER_MM + _AIR_MM)  # fmt: skip
        return Words(at, words, LETTER_MM, "middle", LAYER), room
    low = -LETTER_MM / 2 if habit.breaks_line else ABOVE_MM
    turn, skew = math.radians(angle), _skew(lean, angle)
    up = -math.sin(turn), math.cos(turn)
    # words stand over their line as capitals do: along the lean of the plane
    along = low * math.tan(math.radians(skew))
    at = (middle[0] + low * up[0] + along * math.cos(turn),
          middle[1] + low * up[1] + along * math.sin(turn))  # fmt: skip
    written = Words(at, words, LETTER_MM, "middle", LAYER, angle, skew)
    side = wide / 2 + _ASIDE_MM
    cos, sin = math.cos(turn), math.sin(turn)
    lean_mm = math.tan(math.radians(skew))  # sheared capitals stand over more than their line
    corners = [
        (at[0] + along * cos + h * up[0], at[1] + along * sin + h * up[1])
        for s, h in ((-1, -_AIR_MM), (1, -_AIR_MM), (1, _TALL_MM), (-1, _TALL_MM))
        for along in (s * side + h * lean_mm,)
    ]
    return written, shapely.Polygon(corners)


def _skew(lean: Vec2, angle: float) -> float:
    """Return how far uprights lean forward from the square to a line, as its plane has them."""
    if math.hypot(*lean) < COINCIDENT_MM:
        return 0.0
    off = math.degrees(math.atan2(lean[1], lean[0])) - angle
    off = (off + 180) % 180
    return 90.0 - off


def _extension(start: Vec2, end: Vec2) -> tuple[Vec2, Vec2] | None:
    long = math.dist(start, end)
    if long < CLEAR_MM:
        return None
    x, y = _unit(start, end)
    return (
        (start[0] + CLEAR_MM * x, start[1] + CLEAR_MM * y),
        (end[0] + BEYOND_MM * x, end[1] + BEYOND_MM * y),
    )


def end_at(shape: LineEnd, tip: Vec2, way: Vec2) -> Region:
    """Return the end of a line in one of its shapes, the line running on in a direction."""
    if shape == "arrow":
        return head_at(tip, way)
    if shape == "dot":
        turns = [math.tau * k / _DOT_SIDES for k in range(_DOT_SIDES + 1)]
        rim = ((tip[0] + _DOT_MM * math.cos(t), tip[1] + _DOT_MM * math.sin(t)) for t in turns)
        return Region(LAYER, (tuple(rim),))
    # a short stroke at 45° over the line, half as broad again as that
    x, y = (way[0] - way[1]) * _DIAGONAL, (way[0] + way[1]) * _DIAGONAL
    x, y = x * HEAD_MM / 2, y * HEAD_MM / 2
    a, b = (tip[0] - x, tip[1] - y), (tip[0] + x, tip[1] + y)
    u, v = -y * _SLASH_MM / HEAD_MM, x * _SLASH_MM / HEAD_MM
    corners = ((a[0] + u, a[1] + v), (b[0] + u, b[1] + v), (b[0] - u, b[1] - v),
               (a[0] - u, a[1] - v), (a[0] + u, a[1] + v))  # fmt: skip
    return Region(LAYER, (corners,))


def _told(ends: Iterable[tuple[Vec2, Vec2]]) -> tuple[tuple[Vec2, float], ...]:
    """Return ends with the directions of their lines in degrees."""
    return tuple((tip, math.degrees(math.atan2(way[1], way[0]))) for tip, way in ends)


def head_at(tip: Vec2, way: Vec2) -> Region:
    """Return a filled head at a tip, its body along a direction."""
    back = tip[0] + HEAD_MM * way[0], tip[1] + HEAD_MM * way[1]
    x, y = -way[1] * HEAD_MM / 6, way[0] * HEAD_MM / 6
    return Region(LAYER, ((tip, (back[0] + x, back[1] + y), (back[0] - x, back[1] - y), tip),))


def _wide(words: str) -> float:
    return width_of(words, LETTER_MM)


def _mid(a: Vec2, b: Vec2) -> Vec2:
    return (a[0] + b[0]) / 2, (a[1] + b[1]) / 2


def _unit(a: Vec2, b: Vec2) -> Vec2:
    long = math.dist(a, b) or 1.0
    return (b[0] - a[0]) / long, (b[1] - a[1]) / long
