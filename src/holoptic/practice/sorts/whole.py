"""The whole pictorial, drawn from the views from dot to dot of a grid."""

from __future__ import annotations

import random

from holoptic.catalogue import tr
from holoptic.pictorial import Picture
from holoptic.practice.exercise import Exercise, Figure, Grid, Lines, NotMade, Step
from holoptic.practice.eye import Eye
from holoptic.practice.pictures import (
    PITCH_MM,
    grid_steps,
    picture_figure,
    sound_block,
    square_figure,
    square_views,
)
from holoptic.practice.shapes import CELL_MM, STRAIGHT, Block, block_of
from holoptic.practice.sketching import letter
from holoptic.sheet.drawing import Words

_OBLIQUE = "oblique:45:0.7071067811865476"
"""Depth goes half a square to the side and half a square up: from dot to dot of half squares."""
_MARGIN = 2


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where a line would end between dots."""
    block = block_of(level, dice, STRAIGHT)
    part = sound_block(block, eye)
    is_isometric = dice.random() < 0.7
    kind = "isometric" if is_isometric else _OBLIQUE
    corner = dice.choice(("front-right", "front-left"))
    picture = eye.picture(part, kind, corner)
    visible, hidden = (grid_steps(picture, role, is_isometric) for role in ("visible", "hidden"))
    if not visible:
        raise NotMade("there is nothing to draw")
    grid, by = _grid(visible, is_isometric)
    right, behind = _moved(visible, by), _moved(hidden - visible, by)
    start = _start(block, picture, by, is_isometric)
    board = Figure((), (_mark(grid, start),), dots=tuple(map(grid.at, grid.dots())),
                   caption=_caption(is_isometric, corner))  # fmt: skip
    squares = square_views(block, eye)
    views = square_figure(
        squares.values(), tr("front view, top view above it, right view beside it")
    )
    return Exercise(
        "draw", level, seed,
        tr("Draw the pictorial of this part. Hidden lines are left out; a square of the views is a "
           "step along an axis. Begin at S: the near corner of its crate, on the floor."),
        (board, views), Lines(0, grid, frozenset(), right, frozenset(), behind),
        (
            tr("Draw the crate lightly in your mind: length, depth and height from S."),
            tr("Carve feature by feature: set each off along the axes from an edge of the crate."),
            tr("{count} steps from dot to dot make the whole picture.", count=len(right)),
        ),
        tr("Each plane is drawn where the views put it, and only what is in sight."),
        (picture_figure(picture, caption=tr("the picture")),),
        {"kind": "isometric" if is_isometric else "oblique", "corner": corner,
         "start": list(start), "visible": [[list(a), list(b)] for a, b in sorted(right)]},
    )  # fmt: skip


def _caption(is_isometric: bool, corner: str) -> str:
    if is_isometric:
        return (tr("isometric, near corner front right") if corner == "front-right"
                else tr("isometric, near corner front left"))  # fmt: skip
    return (
        tr("oblique, the front true, depth up to the left: half a square to each side")
        if corner == "front-left"
        else tr("oblique, the front true, depth up to the right: half a square to each side")
    )


def _grid(steps: frozenset[Step], is_isometric: bool) -> tuple[Grid, tuple[int, int]]:
    """Return a grid with room about a picture, and by how much the picture's dots move on it."""
    columns = [x for step in steps for x, _ in step]
    rows = [y for step in steps for _, y in step]
    by = (_MARGIN - min(columns), _MARGIN - min(rows))
    if is_isometric and sum(by) % 2:
        by = (by[0], by[1] + 1)
    wide, high = max(columns) + by[0] + _MARGIN, max(rows) + by[1] + _MARGIN
    kind, pitch = ("isometric", PITCH_MM) if is_isometric else ("square", PITCH_MM / 2)
    return Grid(kind, (0.0, 0.0), pitch, wide, high), by  # type: ignore[arg-type]


def _moved(steps: frozenset[Step], by: tuple[int, int]) -> frozenset[Step]:
    x, y = by
    return frozenset(((a + x, b + y), (c + x, d + y)) for (a, b), (c, d) in steps)


def _start(
    block: Block, picture: Picture, by: tuple[int, int], is_isometric: bool
) -> tuple[int, int]:
    """Return the dot of the crate's near corner on the floor."""
    toward = picture.view.toward_viewer
    place = [size * CELL_MM if way > 0 else 0.0
             for size, way in zip(block.size[:2], toward[:2], strict=True)]  # fmt: skip
    (a, b, _), (d, e, _) = picture.view.matrix
    x, y = a * place[0] + b * place[1], d * place[0] + e * place[1]
    step = (CELL_MM * 0.75**0.5, CELL_MM / 2) if is_isometric else (CELL_MM / 2, CELL_MM / 2)
    return round(x / step[0]) + by[0], round(y / step[1]) + by[1]


def _mark(grid: Grid, start: tuple[int, int]) -> Words:
    x, y = grid.at(start)
    return letter((x, y - 2.5), "S", 2.4)
