"""How many cubes: a stack seen from a corner; what is hidden is counted as least and most."""

from __future__ import annotations

import random
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.practice.exercise import Count, Exercise, Figure, Grid, NotMade, Step, all_steps
from holoptic.practice.eye import Eye
from holoptic.practice.sketching import cube_figure, letter, step_inks
from holoptic.practice.stacks import (
    CORNERS,
    Plan,
    bounds,
    picture_lines,
    seen,
    turned,
    views_of,
)

_PITCH_MM = 8.0
_OPPOSITE = {"front-right": "rear-left", "rear-left": "front-right", "front-left": "rear-right",
             "rear-right": "front-left"}  # fmt: skip


@dataclass(frozen=True)
class _Level:
    rows: int
    columns: int
    tall: int
    spread: int
    """So many cubes at most are uncertain; 0: all of them are certain."""
    is_shaded: bool = True


_LEVELS = (
    _Level(2, 2, 2, 0), _Level(2, 3, 3, 0), _Level(3, 3, 3, 2), _Level(3, 4, 4, 6),
    _Level(4, 4, 4, 10, is_shaded=False),
)  # fmt: skip


def make(level: int, seed: int, dice: random.Random, _eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where the stack that came does not do."""
    wanted = _LEVELS[level - 1]
    plan = _stack(wanted, dice)
    corner = dice.choice(CORNERS)
    stack = turned(plan, corner)
    shown = seen(stack)
    told = bounds(stack)
    spread = told.most - told.least
    if (spread == 0) != (wanted.spread == 0) or spread > max(wanted.spread, 0) or told.least < 4:
        raise NotMade("the stack is too certain, or not certain enough")
    total = sum(map(sum, plan))
    figure = cube_figure(shown, picture_lines(shown), _PITCH_MM, wanted.is_shaded,
                         _mat(stack), tr("on a plan of {rows} × {columns} squares",
                                         rows=len(stack), columns=len(stack[0])),
                         on_lines=dice.random() < 0.4)  # fmt: skip
    return Exercise(
        "cubes", level, seed, _question(spread > 0), (figure,), Count(told.least, told.most),
        (
            tr("Count by columns: how many cubes stand on each square of the plan?"),
            tr("A cube that shows rests on cubes down to the floor: count these too."),
            _last_hint(spread > 0),
        ),
        _reason(told.least, told.most, total),
        (_from_behind(plan, corner, wanted.is_shaded), plan_figure(plan)),
        {"heights": [list(row) for row in plan], "corner": corner, "least": told.least,
         "most": told.most},
    )  # fmt: skip


def _question(is_range: bool) -> str:
    if is_range:
        return tr("How many cubes are in the stack at least, and at most? Nothing floats; it "
                  "stands on no more squares than are drawn.")  # fmt: skip
    return tr("How many cubes are in the stack? Nothing floats.")


def _last_hint(is_range: bool) -> str:
    if is_range:
        return tr("Least: behind what shows nothing stands. Most: what is hidden is as high as it "
                  "can be without showing.")  # fmt: skip
    return tr("Each column is as high as its highest cube in sight; here that leaves no doubt.")


def _reason(least: int, most: int, total: int) -> str:
    if least == most:
        return tr("{total} cubes: the plan has the height of each column.", total=total)
    return tr("At least {least}, at most {most}. The stack that was drawn has {total}; the plan "
              "has the height of each of its columns.", least=least, most=most,
              total=total)  # fmt: skip


def _stack(level: _Level, dice: random.Random) -> Plan:
    """Return a stack, mostly falling toward some side, as stacks do that are not all hidden."""
    rows, columns = level.rows, level.columns
    if dice.random() < 0.5:
        rows, columns = columns, rows
    lean = dice.choice(((1, 1), (1, 0), (0, 1), (-1, 1), (1, -1), (-1, 0), (0, -1), (-1, -1)))

    def height(r: int, c: int) -> int:
        rise = lean[0] * (r - (rows - 1) / 2) + lean[1] * (c - (columns - 1) / 2)
        return max(0, min(level.tall, round(level.tall / 2 + rise + dice.uniform(-1.2, 1.2))))

    return tuple(tuple(height(r, c) for c in range(columns)) for r in range(rows))


def _mat(stack: Plan) -> frozenset[Step]:
    """Return what shows of the outline of the plan that a stack stands on."""
    rows, columns = len(stack), len(stack[0])
    shown = seen(stack)
    outline = all_steps([
        ((0, 0), (rows, rows)), ((0, 0), (-columns, columns)),
        ((rows, rows), (rows - columns, rows + columns)),
        ((-columns, columns), (rows - columns, rows + columns)),
    ])  # fmt: skip

    def is_hidden(step: Step) -> bool:
        (a, b), (c, d) = step
        strip, middle = min(a, c), max(b, d)
        return (strip, middle) in shown or (strip, middle - 1) in shown

    return frozenset(step for step in outline if not is_hidden(step))


def _from_behind(plan: Plan, corner: str, is_shaded: bool) -> Figure:
    stack = turned(plan, _OPPOSITE[corner])
    shown = seen(stack)
    return cube_figure(shown, picture_lines(shown), _PITCH_MM, is_shaded, _mat(stack),
                       tr("seen from the opposite corner"))  # fmt: skip


def plan_figure(plan: Plan) -> Figure:
    """Return the plan of a stack with the height of each column."""
    grid = Grid("square", (0.0, 0.0), _PITCH_MM, len(plan[0]), len(plan))
    outline = all_steps(
        [((c, r), (c + 1, r)) for c in range(len(plan[0])) for r in range(len(plan) + 1)]
        + [((c, r), (c, r + 1)) for c in range(len(plan[0]) + 1) for r in range(len(plan))]
    )
    words = tuple(
        letter(((c + 0.5) * _PITCH_MM, (r + 0.5) * _PITCH_MM), str(height))
        for r, row in enumerate(plan) for c, height in enumerate(row)
    )  # fmt: skip
    return Figure((*step_inks(views_of(plan).top, grid), *step_inks(outline, grid, "construction")),
                  words, caption=tr("plan, the front below"))  # fmt: skip
