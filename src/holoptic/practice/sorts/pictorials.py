"""Which pictorial belongs to these views: the wrong ones differ in one telling thing.

Each wrong picture is of a part with one feature changed, whose views differ from those given.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.errors import HolopticError
from holoptic.part import Corner, Offset, Operation, Prism, Round
from holoptic.pictorial import Picture
from holoptic.practice.exercise import Choice, Exercise, Figure, NotMade
from holoptic.practice.eye import Eye
from holoptic.practice.pictures import (
    SCALE,
    VIEWS,
    lines_of,
    look_alike,
    picture_figure,
    sound_block,
    turned_figures,
    view_figure,
)
from holoptic.practice.shapes import ALL, CELL_MM, Block, block_of, squares
from holoptic.practice.sketching import together

_WRONG = (2, 3, 3, 3, 3)
_GAP_MM = 8.0
_TRIES = 14
_CORNERS = ("front-right", "front-left")


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where too few wrong ones can be told apart."""
    block = block_of(level, dice, ALL)
    part = sound_block(block, eye)
    views = eye.views(part, VIEWS)
    corner = dice.choice(_CORNERS)
    right = eye.picture(part, "isometric", corner)
    wrong = _wrong_ones(block, corner, views, right, _WRONG[level - 1], dice, eye)
    offered = [(right, tr("Right: every line of the views is an edge of it.")), *wrong]
    dice.shuffle(offered)
    number = next(k for k, (picture, _) in enumerate(offered) if picture is right)
    return Exercise(
        "pictorial", level, seed, tr("Which picture belongs to these views?"),
        (views_figure(views),),
        Choice(("",) * len(offered), number, tuple(why for _, why in offered),
               tuple(picture_figure(picture) for picture, _ in offered)),
        (
            tr("Look along one axis after the other: what does each picture show from the front?"),
            tr("Count the planes of the top view by their heights, and look for each in the "
               "picture."),
            tr("Compare the hidden lines too: what lies behind must be there as well."),
        ),
        tr("The wrong ones differ in one feature each, and so in their views."),
        turned_figures(part, eye), {"corner": corner, "right": number},
    )  # fmt: skip


def views_figure(views: dict[str, Picture], scale: float = SCALE) -> Figure:
    """Return views in third angle."""
    front = views["front"].extent
    figures = []
    for name, picture in views.items():
        left, low, _, _ = picture.extent
        at = [-left * scale, -low * scale]
        if name == "top":
            at[1] += (front[3] - front[1]) * scale + _GAP_MM
        if name == "right":
            at[0] += (front[2] - front[0]) * scale + _GAP_MM
        figures.append((view_figure(picture, scale), (at[0], at[1])))
    return together(figures, tr("front view, top view above it, right view beside it"))


def _wrong_ones(
    block: Block, corner: str, views: dict[str, Picture], right: Picture, count: int,
    dice: random.Random, eye: Eye,
) -> list[tuple[Picture, str]]:  # fmt: skip
    """Return pictures of parts that differ in one feature, which can be told apart."""
    found: list[tuple[Picture, str]] = []
    for _ in range(_TRIES):
        if len(found) == count:
            return found
        number = dice.randrange(len(block.operations))
        change, why = dice.choice(_CHANGES)
        try:
            other = change(block.operations[number], block, dice)
            operations = (*block.operations[:number], other, *block.operations[number + 1 :])
            part = sound_block(Block(block.size, operations), eye)
            picture = eye.picture(part, "isometric", corner)
            is_new = not any(look_alike(picture, one) for one in (right, *(p for p, _ in found)))
            if is_new and _differs(eye.views(part, VIEWS), views):
                found.append((picture, why))
        except HolopticError:
            continue
    raise NotMade("too few pictures can be told apart")


def _differs(some: dict[str, Picture], others: dict[str, Picture]) -> bool:
    return any(
        lines_of(some[name], role) != lines_of(others[name], role)
        for name in VIEWS for role in ("visible", "hidden")
    )  # fmt: skip


# --- changes --------------------------------------------------------------------------------


def _mirrored(operation: Operation, block: Block, dice: random.Random) -> Operation:
    """Return a feature on the opposite side, left and right or below and above."""
    face = operation.face
    wide, high = (size * CELL_MM for size in block.face_size(face))
    is_across = dice.random() < 0.6
    if isinstance(operation, Prism):
        if any(point.arc is not None for point in operation.outline):
            raise NotMade("an arc does not turn over so simply")
        return replace(operation, outline=tuple(
            Corner(squares((wide - u) / CELL_MM), squares(v / CELL_MM)) if is_across
            else Corner(squares(u / CELL_MM), squares((high - v) / CELL_MM))
            for u, v in operation.outline_mm()
        ))  # fmt: skip
    if isinstance(operation, Round):
        u, v = operation.u.from_near(wide), operation.v.from_near(high)
        if is_across:
            return replace(operation, u=Offset(squares((wide - u) / CELL_MM)))
        return replace(operation, v=Offset(squares((high - v) / CELL_MM)))
    raise NotMade("it has no sides to change")


def _shifted(operation: Operation, block: Block, dice: random.Random) -> Operation:
    """Return a feature moved by a square."""
    step = dice.choice((-1, 1)) * CELL_MM
    is_across = dice.random() < 0.5
    if isinstance(operation, Prism):
        wide, high = (size * CELL_MM for size in block.face_size(operation.face))
        if any(point.arc is not None for point in operation.outline):
            raise NotMade("an arc does not move so simply")
        return replace(operation, outline=tuple(
            Corner(squares(_moved(u, step, wide)), squares(v / CELL_MM)) if is_across
            else Corner(squares(u / CELL_MM), squares(_moved(v, step, high)))
            for u, v in operation.outline_mm()
        ))  # fmt: skip
    if isinstance(operation, Round):
        wide, high = (size * CELL_MM for size in block.face_size(operation.face))
        place, size = (operation.u, wide) if is_across else (operation.v, high)
        mm = place.from_near(size) + step
        if not operation.diameter.mm / 2 < mm < size - operation.diameter.mm / 2:
            raise NotMade("it would leave the face")
        off = Offset(squares(mm / CELL_MM))
        return replace(operation, u=off) if is_across else replace(operation, v=off)
    raise NotMade("it has no place to change")


def _moved(mm: float, step: float, size: float) -> float:
    """Return a place in squares, moved unless it lies on the border."""
    found = mm if mm in (0.0, size) else mm + step
    if not 0 <= found <= size:
        raise NotMade("it would leave the face")
    return found / CELL_MM


def _other_depth(operation: Operation, block: Block, dice: random.Random) -> Operation:
    """Return a feature that goes through, or no longer does."""
    if not isinstance(operation, Prism | Round) or operation.mode != "cut":
        raise NotMade("it has no depth to change")
    deep = block.thickness(operation.face)
    if deep < 2:
        raise NotMade("there is no other depth")
    end = operation.end
    other = squares(dice.randint(1, deep - 1)) if end is None else None
    return replace(operation, end=other)


_CHANGES: tuple[tuple[Callable[[Operation, Block, random.Random], Operation], str], ...] = (
    (_mirrored, tr("Here one feature stands on the opposite side.")),
    (_shifted, tr("Here one feature is moved, or of another size.")),
    (_other_depth, tr("Here one feature goes to another depth.")),
)
