"""The whole pictorial on paper: drawn by hand from the views, marked from a picture of it."""

from __future__ import annotations

import random

from holoptic.catalogue import tr
from holoptic.practice.exercise import Exercise, OnPaper
from holoptic.practice.eye import Eye, SheetStart
from holoptic.practice.pictures import picture_figure, sound_block, square_figure, square_views
from holoptic.practice.shapes import ALL, CELL_MM, STRAIGHT, block_of

_ROUND_FROM = 4
"""The level from which parts have round features too."""
_KINDS = ("isometric", "isometric", "cabinet", "cavalier")
_TITLES = {
    "isometric": tr("isometric drawing"), "cabinet": tr("cabinet drawing"),
    "cavalier": tr("cavalier drawing"),
}  # fmt: skip
_CORNERS = {"front-right": tr("front right"), "front-left": tr("front left")}


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade."""
    block = block_of(level, dice, ALL if level >= _ROUND_FROM else STRAIGHT)
    part = sound_block(block, eye)
    kind = dice.choice(_KINDS) if level > 1 else _KINDS[0]
    corner = dice.choice(tuple(_CORNERS))
    picture, begin = eye.picture(part, kind, corner), eye.start_on_sheet(part, kind, corner)
    views = square_figure(square_views(block, eye).values(),
                          tr("its views; a square is {size} mm", size=_mm(CELL_MM)))  # fmt: skip
    return Exercise(
        "paper", level, seed, _question(kind, corner, begin), (views,),
        OnPaper(part, kind, corner, len(picture.visible)),
        (
            tr("Draw the crate lightly first: three axes from the start point, the three sizes, "
               "and parallels until the back corner closes."),
            tr("Carve feature by feature: set each off along the crate's edges, and firm in what "
               "is certain."),
            tr("{count} lines are firm in the end.", count=len(picture.visible)),
        ),
        tr("Each line is looked for where its plan puts it, within what a hand may be off."),
        (picture_figure(picture, caption=tr("the picture")),),
        {"kind": kind, "corner": corner, "lines": len(picture.visible), "paper": begin.paper,
         "scale": begin.scale, "border": list(begin.border), "start": list(begin.start)},
    )  # fmt: skip


def _question(kind: str, corner: str, begin: SheetStart) -> str:
    left, other = begin.margins
    return tr(
        "On {paper}, lengthwise, draw the {kind} of this part by hand, near corner {corner}, scale "
        "{scale}. Its border is {wide} × {high} mm, {left} from the left edge and {other} from the "
        "others. Start {across} to the right of the border's lower left corner and {up} above it: "
        "the near corner of the crate, on the floor. Hidden lines are left out. Then show the "
        "sheet.",
        paper=begin.paper, kind=_TITLES[kind], corner=_CORNERS[corner], scale=_scale(begin.scale),
        wide=_mm(begin.border[0]), high=_mm(begin.border[1]), left=_mm(left),
        other=_mm(other), across=_mm(begin.start[0]), up=_mm(begin.start[1]),
    )  # fmt: skip


def _scale(scale: float) -> str:
    return f"{scale:g} : 1" if scale >= 1 else f"1 : {1 / scale:g}"


def _mm(size: float) -> str:
    return f"{size:g}"
