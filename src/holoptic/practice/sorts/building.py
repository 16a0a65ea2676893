"""Build the stack from its views: the plan of heights that front, top and right view leave."""

from __future__ import annotations

import random

from holoptic.catalogue import tr
from holoptic.practice.exercise import Exercise, Figure, Grid, Heights, NotMade, Step
from holoptic.practice.eye import Eye
from holoptic.practice.sketching import cube_figure, step_inks, together
from holoptic.practice.sorts.cubes import plan_figure
from holoptic.practice.stacks import (
    Plan,
    StackViews,
    picture_lines,
    same_views,
    seen,
    turned,
    views_of,
)

_PITCH_MM = 8.0
_GAP_MM = 14.0
_LEVELS = ((2, 2, 2), (2, 3, 3), (3, 3, 3), (3, 4, 4), (4, 4, 4))
"""Rows, columns, height of a level."""
_LEAST_CUBES = 4


def make(level: int, seed: int, dice: random.Random, _eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where several stacks have the same views."""
    rows, columns, tall = _LEVELS[level - 1]
    empty = 0.15 if level > 1 else 0.0
    plan = tuple(
        tuple(0 if dice.random() < empty else dice.randint(1, tall) for _ in range(columns))
        for _ in range(rows)
    )
    if len({height for row in plan for height in row}) < 2 or sum(map(sum, plan)) < _LEAST_CUBES:
        raise NotMade("there is nothing to tell")
    if not all(map(any, plan)) or not all(map(any, zip(*plan, strict=True))):
        raise NotMade("a row of the plan is empty, so its place could not be told")
    if len(same_views(plan)) != 1:
        raise NotMade("other stacks have the same views")
    stack = turned(plan, "front-right")
    shown = seen(stack)
    picture = cube_figure(shown, picture_lines(shown), _PITCH_MM, is_shaded=True,
                          caption=tr("the stack from the front right"))  # fmt: skip
    return Exercise(
        "stack", level, seed,
        tr("Build the stack that has these views: how high is each square of the plan? Hidden "
           "lines are left out."),
        (views_figure(plan),), Heights(plan, tall),
        (
            tr("The front view tells how high each column of squares is at its highest."),
            tr("A line in the top view stands between squares of different heights; without one "
               "they are equal."),
            tr("A square cannot be higher than its column in the front view, nor than its row in "
               "the right view."),
        ),
        tr("Only one stack has these three views: all others were gone through."),
        (plan_figure(plan), picture), {"heights": [list(row) for row in plan]},
    )  # fmt: skip


def views_figure(plan: Plan) -> Figure:
    """Return front, top and right view of a stack, in third angle."""
    views: StackViews = views_of(plan)
    rows, columns, tall = len(plan), len(plan[0]), max(map(max, plan))

    def one(steps: frozenset[Step], wide: int, high: int) -> Figure:
        grid = Grid("square", (0.0, 0.0), _PITCH_MM, wide, high)
        return Figure(step_inks(steps, grid), dots=tuple(map(grid.at, grid.dots())))

    return together([
        (one(views.front, columns, tall), (0.0, 0.0)),
        (one(views.top, columns, rows), (0.0, tall * _PITCH_MM + _GAP_MM)),
        (one(views.right, rows, tall), (columns * _PITCH_MM + _GAP_MM, 0.0)),
    ], tr("front view, top view above it, right view beside it"))  # fmt: skip
