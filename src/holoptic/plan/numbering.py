"""The last moves of an arrangement: numbers with their leaders, and the parts list.

Both stand where the sheet has them. Circles of a column are set off from the lower border, each
from there, so that no error adds to another; all are drawn with one setting of the compass.
"""

from __future__ import annotations

import math
from collections.abc import Container, Iterable
from itertools import groupby

from holoptic.catalogue import Saying, later, mark, several, tr
from holoptic.curves.vectors import Vec2
from holoptic.plan.bench import Bench
from holoptic.plan.instruments import (
    COMPASS,
    DIVIDERS,
    PENCIL,
    RULE,
    SOFT_PENCIL,
    SQUARE_30,
    STRAIGHTEDGE,
    T_SQUARE,
)
from holoptic.plan.moves import BORDER_CORNER, BORDER_LINE, OVER, PartNumber, PartsTable
from holoptic.tolerance import SEEN_MM
from holoptic.units.spoken import figure

_COLUMN, _COLUMN_LINE = mark("number mark {count}"), mark("number upright {count}")
_MIDDLE, _CIRCLE = mark("middle of number {count}"), mark("number circle {count}")
_SPOT, _LEADER, _EDGE = (
    mark("beginning of leader {count}"),
    mark("leader {count}"),
    mark("end of leader {count}"),
)
_FOOT, _UPRIGHT = mark("list mark {count}"), mark("list upright {count}")
_LEVEL_END, _LEVEL = mark("list level mark {count}"), mark("list level {count}")
_CROSSING = mark("list crossing {count}.{number}")

Path = tuple[Vec2, ...]


def numbering_paths(numbers: tuple[PartNumber, ...], table: PartsTable | None) -> dict[str, Path]:
    """Return the strokes that numbers and list are to have, mm from the border, by their names."""
    made: dict[str, Path] = {}
    for one in numbers:
        (x, y), turns = one.middle, 720
        made[_firm(tr(_CIRCLE, count=one.number))] = tuple(
            (
                x + one.radius * math.cos(math.tau * k / turns),
                y + one.radius * math.sin(math.tau * k / turns),
            )
            for k in range(turns + 1)
        )
        made[_firm(tr(_LEADER, count=one.number))] = one.edge, one.spot
    if table is not None:
        left, right = table.columns[0], table.columns[-1]
        low, high = table.levels[0], table.levels[-1]
        for count, up in enumerate(table.levels[1:], 1):
            made[_firm(tr(_LEVEL, count=count))] = (left, up), (right, up)
        for count, across in enumerate(table.columns[:-1], 1):
            made[_firm(tr(_UPRIGHT, count=count))] = (across, low), (across, high)
    return made


def _firm(line: str) -> str:
    """Return the name of the stroke over a light line."""
    return f"{OVER}{line}"


def lettered_numbers(numbers: Iterable[PartNumber], strokes: Container[str]) -> list[PartNumber]:
    """Return the numbers whose circles are gone over on a paper of strokes: they are lettered."""
    return [one for one in numbers if _firm(tr(_CIRCLE, count=one.number)) in strokes]


def number_parts(bench: Bench) -> None:
    """Draw the circles of the parts' numbers, column by column, and their leaders."""
    numbers = sorted(bench.setup.numbers, key=lambda one: (one.middle[0], one.middle[1]))
    for count, (across, column) in enumerate(groupby(numbers, lambda one: one.middle[0]), 1):
        line = _upright(bench, across, tr(_COLUMN, count=count), tr(_COLUMN_LINE, count=count))
        for one in column:
            _number(bench, one, tr(_COLUMN, count=count), line)


def _upright(bench: Bench, across: float, foot: str, line: str) -> str:
    """Draw a light upright so far from the left border."""
    words = later(
        "From the lower left border corner set off {across} along the lower border.",
        across=figure(across),
    )
    _set_off(bench, (BORDER_CORNER, BORDER_LINE), foot, across, 0.0, words)
    bench.write(
        "draw",
        SQUARE_30,
        (foot,),
        (line,),
        later("Draw a light upright line there: {line}.", line=line),
        angle=90.0,
    )
    return line


def _set_off(
    bench: Bench, uses: tuple[str, str], makes: str, size: float, angle: float, words: Saying
) -> None:
    bench.write("set off", RULE, uses, (makes,), words, setting=size, angle=angle)


def _number(bench: Bench, one: PartNumber, foot: str, column: str) -> None:
    """Draw the circle of a number, and its leader as far as the circle."""
    count = one.number
    middle, circle, spot, leader, edge = (
        tr(what, count=count) for what in (_MIDDLE, _CIRCLE, _SPOT, _LEADER, _EDGE)
    )
    up = one.middle[1]
    words = later(
        "Number {count}: set off {up} up {column}.", count=count, up=figure(up), column=column
    )
    _set_off(bench, (foot, column), middle, up, 90.0, words)
    bench.write(
        "circle",
        COMPASS,
        (middle,),
        (circle,),
        later(
            "Compass {radius}: a light circle there, {circle}.",
            radius=figure(one.radius),
            circle=circle,
        ),
        setting=one.radius,
    )
    _lead(bench, one, column)
    bench.write(
        "meet",
        PENCIL,
        (leader, circle, spot),
        (edge,),
        later("Mark where {leader} meets {circle}.", leader=leader, circle=circle),
    )
    bench.write(
        "firm in",
        SOFT_PENCIL,
        (edge, edge, circle),
        (_firm(circle),),
        later("Go over {circle} and letter {count} in it.", circle=circle, count=count),
    )
    bench.write(
        "firm in",
        PENCIL,
        (edge, spot, leader),
        (_firm(leader),),
        later("Go over {leader} from its circle to the dot, thin.", leader=leader),
    )


def _lead(bench: Bench, one: PartNumber, column: str) -> None:
    """Set off the dot on the part, and rule the leader from it to the middle of the circle."""
    middle, circle, spot, leader = (
        tr(what, count=one.number) for what in (_MIDDLE, _CIRCLE, _SPOT, _LEADER)
    )
    across, up = one.spot[0] - one.middle[0], one.spot[1] - one.middle[1]
    figures: dict[str, object] = {
        "circle": circle, "leader": leader, "part": one.part, "across": figure(abs(across)),
        "side": later("to the right") if across > 0 else later("to the left"),
    }  # fmt: skip
    if abs(up) < SEEN_MM:
        words = later("Through the middle of {circle} a light level line: {leader}.", **figures)
        bench.write("draw", T_SQUARE, (middle,), (leader,), words, angle=0.0)
        words = later(
            "From the middle of {circle} set off {across} {side} along {leader}: a dot on the "
            "{part}, where {leader} begins.",
            **figures,
        )
        _set_off(bench, (middle, leader), spot, abs(across), 0.0 if across > 0 else 180.0, words)
        return
    words = later(
        "From the middle of {circle} set off {across} {side} and {up} {way}: a dot on "
        "the {part}, where {leader} begins.",
        up=figure(abs(up)),
        way=later("up") if up > 0 else later("down"),
        **figures,
    )
    bench.write("plot", DIVIDERS, (middle, BORDER_LINE, column), (spot,), words,
                table=((across, up),))  # fmt: skip
    words = later(
        "Lay the straightedge from the dot to the middle of {circle}; a light line: {leader}.",
        **figures,
    )
    bench.write("join", STRAIGHTEDGE, (middle, spot), (leader,), words)


def list_parts(bench: Bench, table: PartsTable) -> None:
    """Rule the parts list over the title block, and letter it row by row."""
    *columns, right = table.columns
    uprights = [
        _upright(bench, across, tr(_FOOT, count=count), tr(_UPRIGHT, count=count))
        for count, across in enumerate(columns, 1)
    ]
    last = "right border"
    if bench.setup.blank is None:
        last = _upright(bench, right, tr(_FOOT, count=len(table.columns)), last)
    ends = [_level(bench, count, up, uprights, last) for count, up in enumerate(table.levels)]
    for count, entry in enumerate(table.entries, 1):
        words = later(
            "Go over {level} and letter the row under it: {entry}.",
            level=tr(_LEVEL, count=count),
            entry=entry,
        )
        bench.write(
            "firm in",
            SOFT_PENCIL,
            (ends[count][0], ends[count][-1], tr(_LEVEL, count=count)),
            (_firm(tr(_LEVEL, count=count)),),
            words,
        )
    for number, line in enumerate(uprights):
        bench.write(
            "firm in",
            SOFT_PENCIL,
            (ends[0][number], ends[-1][number], line),
            (_firm(line),),
            later("Go over {line}.", line=line),
        )


def _level(bench: Bench, count: int, up: float, uprights: list[str], last: str) -> list[str]:
    """Draw a level line of the list; return its points on the uprights and at its end."""
    start = tr(_LEVEL_END, count=count)
    words = later(
        "Up {upright} set off {up} from the lower border.", upright=uprights[0], up=figure(up)
    )
    _set_off(bench, (tr(_FOOT, count=1), uprights[0]), start, up, 90.0, words)
    others = [*uprights[1:], last]
    crossings = [tr(_CROSSING, count=count, number=k) for k in range(2, len(others) + 2)]
    bench.write(
        "draw",
        T_SQUARE,
        (start, *others),
        (tr(_LEVEL, count=count), *crossings),
        later(
            "Draw a light level line there, {level}, across {uprights}.",
            level=tr(_LEVEL, count=count),
            uprights=several(others),
        ),
        angle=0.0,
    )
    return [start, *crossings]
