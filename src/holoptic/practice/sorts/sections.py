"""Sections: what is hatched. The cells of a section view are lettered; some of them are cut."""

from __future__ import annotations

import random

import shapely
from shapely import set_precision
from shapely.ops import polygonize_full, unary_union

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.part import Face, Offset, Operation, Round
from holoptic.pictorial import Picture
from holoptic.practice.exercise import Exercise, Figure, NotMade, Places
from holoptic.practice.eye import Eye
from holoptic.practice.pictures import SCALE, VIEWS, picture_figure, sound_block
from holoptic.practice.shapes import ALL, CELL_MM, Block, block_of, squares
from holoptic.practice.sketching import LETTERS, arrow, letter, together
from holoptic.practice.sorts.pictorials import views_figure
from holoptic.sheet.drawing import Ink, Words

_LEAST_AREA = 40.0
"""mm² of a cell of the section: smaller ones have no room for a letter."""
_GRID_MM = 0.01
_OFFERED = (3, 3, 4, 4, 5)
"""So many areas a level has at least."""
_BLOCKS = (1, 2, 3, 3, 4)
_MOST = 12


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where there is too little to tell."""
    block = _bored(block_of(_BLOCKS[level - 1], dice, ALL), dice)
    half = block.size[1] * CELL_MM / 2
    try:
        section = eye.section(block.part, f"full:depth={half:g}")
    except BadInput as error:
        raise NotMade("the plane misses it") from error
    cells = _cells(section)
    if not _OFFERED[level - 1] <= len(cells) <= _MOST:
        raise NotMade("too few cells, or too many")
    right = frozenset(k for k, (_, is_cut) in enumerate(cells) if is_cut)
    if not right or len(right) == len(cells):
        raise NotMade("all is cut, or nothing")
    part = sound_block(block, eye)
    views = eye.views(part, VIEWS)
    inks = tuple(
        Ink("visible", tuple((SCALE * x, SCALE * y) for x, y in stroke.path))
        for stroke in section.visible
    )  # fmt: skip
    places = tuple((SCALE * x, SCALE * y) for (x, y), _ in cells)
    words = tuple(letter(place, LETTERS[k], 2.6) for k, place in enumerate(places))
    shown = Figure(inks, words, caption=tr("section A–A, without its hatching"))
    why = tuple(
        tr("It lies in the cutting plane: hatched.") if is_cut
        else tr("It lies behind the plane, or there is nothing: not hatched.")
        for _, is_cut in cells
    )  # fmt: skip
    return Exercise(
        "sections", level, seed,
        tr("The part is cut along A–A in the middle of its depth. Which areas of the section are "
           "hatched?"), (shown, _with_line(views)),
        Places(places, right, why),
        (
            tr("Hatched is what the plane itself cuts: where there is material at A–A."),
            tr("Follow the line A–A in the top view: where does it run through material, where "
               "through a hole or beside the part?"),
            tr("{count} of the {all} areas are hatched.", count=len(right), all=len(cells)),
        ),
        tr("Only what lies in the cutting plane is hatched; what is seen behind it is drawn, but "
           "not hatched."),
        (_hatched(section), picture_figure(
            eye.picture(part, "isometric", "front-right", f"full:depth={half:g}"),
            caption=tr("cut open"))),
        {"cut": f"full:depth={half:g}", "hatched": [LETTERS[k] for k in sorted(right)]},
    )  # fmt: skip


def _bored(block: Block, dice: random.Random) -> Block:
    """Return a block with a hole that the plane in the middle of its depth meets."""
    face = dice.choice((Face.TOP, Face.TOP, Face.LEFT, Face.RIGHT))
    wide, high = block.face_size(face)
    size = dice.choice((0.8, 1.0, 1.4))
    middle = block.size[1] / 2
    if face == Face.TOP:
        u, v = dice.choice([k / 2 for k in range(2, 2 * wide - 1)]), middle
    else:
        u, v = middle, dice.choice([k / 2 for k in range(2, 2 * high - 1)] or [high / 2])
    deep = block.thickness(face)
    end = None if dice.random() < 0.5 else squares(dice.randint(1, deep - 1) if deep > 1 else 0.5)
    hole: Operation = Round(str(len(block.operations) + 1), "cut", face, squares(size),
                            Offset(squares(u)), Offset(squares(v)), squares(0), end)  # fmt: skip
    return Block(block.size, (*block.operations, hole))


def _cells(section: Picture) -> list[tuple[tuple[float, float], bool]]:
    """Return a place in each cell of a section, and whether it is cut; from the left, from above.

    Raises NotMade where one is too small for a letter.
    """
    lines = [shapely.LineString(stroke.path) for stroke in section.visible]
    faces = [shapely.Polygon(region.rings[0], region.rings[1:]) for region in section.regions]
    cut = unary_union(faces)
    found = []
    pieces, cuts, dangles, _ = polygonize_full(set_precision(unary_union(lines), _GRID_MM))
    if not (cuts.is_empty and dangles.is_empty):
        raise NotMade("a line ends in an area")
    for cell in pieces.geoms:
        if cell.area < _LEAST_AREA:
            raise NotMade("a cell is too small for a letter")
        share = cell.intersection(cut).area / cell.area
        if 0.01 < share < 0.99:
            raise NotMade("a cell is cut in part only")
        place = shapely.maximum_inscribed_circle(cell, tolerance=0.5).coords[0]
        found.append(((place[0], place[1]), share > 0.5))
    return sorted(found, key=lambda one: (-round(one[0][1]), one[0][0]))


def _hatched(section: Picture) -> Figure:
    """Return the section as it is drawn."""
    hatched = section.hatched_for(SCALE)
    inks = [Ink("visible", tuple((SCALE * x, SCALE * y) for x, y in stroke.path))
            for stroke in section.visible]  # fmt: skip
    inks += [Ink("hatch", tuple((SCALE * x, SCALE * y) for x, y in stroke.path))
             for stroke in hatched.strokes if stroke.role == "hatch"]  # fmt: skip
    return Figure(tuple(inks), caption=tr("section A–A"))


def _with_line(views: dict[str, Picture]) -> Figure:
    """Return the views with the cutting line in the top view."""
    figure = views_figure(views)
    front, top = views["front"].extent, views["top"].extent
    low = (front[3] - front[1]) * SCALE + 8.0
    y = low + (top[3] - top[1]) * SCALE / 2
    left, right = -4.0, (top[2] - top[0]) * SCALE + 4.0
    line = Ink("section", ((left, y), (right, y)))
    arrows = (*arrow((left, y - 4.5), (left, y)), *arrow((right, y - 4.5), (right, y)))
    words: tuple[Words, ...] = (letter((left - 2.5, y - 3), "A", 2.6),
                                letter((right + 2.5, y - 3), "A", 2.6))  # fmt: skip
    return together([(figure, (0.0, 0.0)), (Figure((line, *arrows), words), (0.0, 0.0))],
                    figure.caption)  # fmt: skip
