"""Centre lines of a pictorial: thin chains over light lines that stand already, where they do."""

from __future__ import annotations

import math

from holoptic.catalogue import Saying, later, mark
from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.pictorial import Stroke
from holoptic.plan.bench import Bench
from holoptic.plan.instruments import PENCIL
from holoptic.plan.spots import spot_of
from holoptic.tolerance import ROUNDING
from holoptic.units.spoken import on_rule

_AT_LETTER_MM = 0.05
"""What a rule shows as nothing."""
_FROM = mark("from {letter}"), mark("from {size} before {letter}")
_TO = mark("to {letter}"), mark("to {size} beyond {letter}")


def draw_centre_line(bench: Bench, stroke: Stroke) -> None:
    """Draw a centre line: along an axis from letter to letter and a little beyond, by eye; else
    between two places set off for it.
    """
    start, end = spot_of(stroke.curve.start), spot_of(stroke.curve.end)
    axes = [axis for axis in range(3) if abs(start[axis] - end[axis]) > ROUNDING]
    if len(axes) != 1:
        _between_points(bench, stroke, start, end)
        return
    middle = spot_of(_middle(stroke.curve.start, stroke.curve.end))
    bench.ensure_point(middle)
    line = bench.ensure_line(axes[0], middle)
    ends = [apply(bench.view.matrix, spot) for spot in (stroke.curve.start, stroke.curve.end)]
    letters = [_nearest(bench, axes[0], middle, place) for place in ends]
    way = ends[1][0] - ends[0][0], ends[1][1] - ends[0][1]
    beyond = tuple(_along(bench.places[name], place, way) * bench.setup.scale
                   for name, place in zip(letters, ends, strict=True))  # fmt: skip
    words = later("Go over {line} as a thin chain, {begin} {end}.", line=bench.told(line),
                  begin=_reach(_FROM, beyond[0], letters[0]),
                  end=_reach(_TO, beyond[1], letters[1]))  # fmt: skip
    bench.write("go over", PENCIL, (*letters, line), (stroke.id,), words,
                angle=math.degrees(math.atan2(way[1], way[0])), table=(beyond,))  # fmt: skip


def _reach(words: tuple[str, str], beyond: float, letter: str) -> Saying:
    """Say where a centre line begins or ends: at a letter, or so far beside it."""
    at_letter, beside = words
    if abs(beyond) < _AT_LETTER_MM:
        return later(at_letter, letter=letter)
    return later(beside, size=on_rule(abs(beyond)), letter=letter)


def _between_points(bench: Bench, stroke: Stroke, start: Vec3, end: Vec3) -> None:
    one, other = bench.plot([start, end], later("the ends of a centre line"))
    line = f"centre {stroke.id}"
    bench.tell(line, later("the line from {first} to {second}", first=one, second=other))
    bench.rule_through(line, one, other)
    words = later("Go over it from {start} to {end} as a thin chain.", start=one, end=other)
    bench.write("firm in", PENCIL, (one, other, line), (stroke.id,), words)


def _nearest(bench: Bench, axis: int, middle: Vec3, place: Vec2) -> str:
    """Return the letter on an axis line that is nearest to where a centre line ends, and lies
    within it.
    """
    centre = apply(bench.view.matrix, middle)
    reach = math.dist(centre, place)
    names = [name for name in bench.letters_on(axis, middle)
             if math.dist(bench.places[name], centre) <= reach]  # fmt: skip
    return min(names, key=lambda name: math.dist(bench.places[name], place))


def _along(at: Vec2, place: Vec2, way: Vec2) -> float:
    """Return how far a place lies on from another along a direction, mm."""
    size = math.hypot(*way)
    return ((place[0] - at[0]) * way[0] + (place[1] - at[1]) * way[1]) / size


def _middle(one: Vec3, other: Vec3) -> Vec3:
    x, y, z = ((a + b) / 2 for a, b in zip(one, other, strict=True))
    return x, y, z
