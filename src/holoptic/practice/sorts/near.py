"""Choose the near corner and the kind: whence a picture is seen, which shows most, which kind."""

from __future__ import annotations

import random

from holoptic.catalogue import tr
from holoptic.part import Corner, Face, Offset, Prism, Round
from holoptic.pictorial import view_of
from holoptic.pictorial.kinds import NearCorner
from holoptic.practice.crates import NEAR, DrawnCrate
from holoptic.practice.exercise import Choice, Exercise, NotMade
from holoptic.practice.eye import Eye
from holoptic.practice.pictures import (
    VIEWS,
    look_alike,
    picture_figure,
    sound_block,
    turned_figures,
)
from holoptic.practice.shapes import ALL, Block, block_of, squares
from holoptic.practice.sorts.pictorials import views_figure

_KINDS = ("isometric", "cavalier", "cabinet", "dimetric", "plan-oblique")
_BELOW = ("front-right-below", "front-left-below")


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where more than one answer would do."""
    if level < 3:
        return _whence(level, seed, dice, eye)
    if level == 3:
        return _kind(level, seed, dice)
    return _shows_most(level, seed, dice, eye)


def _whence(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    block = block_of(level + 1, dice, ALL)
    part = sound_block(block, eye)
    corners = NEAR if level == 1 else (*NEAR, *_BELOW)
    kind = "isometric" if level == 1 else dice.choice(("isometric", "cabinet"))
    right = dice.choice(corners)
    pictures = {corner: eye.picture(part, kind, corner) for corner in corners}
    if any(look_alike(pictures[right], other)
           for corner, other in pictures.items() if corner != right):  # fmt: skip
        raise NotMade("it looks the same from another corner")
    words = tuple(NearCorner(corner).title for corner in corners)
    why = tuple(
        tr("Right.") if corner == right
        else tr("From there the picture would show {faces}.", faces=_faces(corner))
        for corner in corners
    )  # fmt: skip
    return Exercise(
        "near", level, seed, tr("Which corner of the crate is nearest to you in the picture?"),
        (views_figure(eye.views(part, VIEWS)), picture_figure(pictures[right])),
        Choice(words, corners.index(right), why),
        (
            tr("Which faces does the picture show: front or rear, left or right, top or bottom?"),
            tr("Find a feature in the views that tells left from right, and look for it."),
            tr("The picture shows {faces}.", faces=_faces(right)),
        ),
        tr("The near corner is where the three faces in sight meet: {faces}.",
           faces=_faces(right)),
        turned_figures(part, eye), {"kind": kind, "corner": right},
    )  # fmt: skip


def _faces(corner: str) -> str:
    right, rear, above = NearCorner(corner).signs
    return ", ".join((
        tr("right") if right > 0 else tr("left"), tr("rear") if rear > 0 else tr("front"),
        tr("top") if above > 0 else tr("bottom"),
    ))  # fmt: skip


def _kind(level: int, seed: int, dice: random.Random) -> Exercise:
    sizes = dice.choice(((30, 30, 30), (42, 30, 24), (24, 36, 30), (48, 24, 36)))
    corner = dice.choice(NEAR[:2])
    kinds = list(_KINDS)
    dice.shuffle(kinds)
    right = dice.randrange(len(kinds))
    crate = DrawnCrate(view_of(kinds[right], corner), sizes)
    figure = crate.figure(tr("a crate of {length} × {depth} × {height}, drawn 1:1",
                             length=sizes[0], depth=sizes[1], height=sizes[2]))  # fmt: skip
    views = [view_of(kind, corner) for kind in kinds]
    why = tuple(
        tr("Right.") if k == right else
        tr("There length, depth and height run at {angles} and are drawn × {scales}.",
           angles=", ".join(f"{view.axis_angle(axis):.0f}°" for axis in range(3)),
           scales=", ".join(f"{view.axis_scale(axis):.3g}" for axis in range(3)))
        for k, view in enumerate(views)
    )  # fmt: skip
    return Exercise(
        "near", level, seed, tr("In which kind of pictorial is this crate drawn?"), (figure,),
        Choice(tuple(view.title for view in views), right, why),
        (
            tr("Is a face true, with right angles? Then it is an oblique of some sort."),
            tr("Compare the receding edges with the others: full length, or half of it?"),
            tr("Without a true face: are all three axes 120° apart?"),
        ),
        tr("A kind is told by the directions of its axes and by what a mm along each measures."),
        data={"kind": kinds[right], "corner": corner, "sizes": list(sizes)},
    )  # fmt: skip


def _facing(block: Block, dice: random.Random) -> Block:
    """Return a block with a recess in two faces side by side: seen from one corner only."""
    sides = dice.choice((Face.FRONT, Face.REAR)), dice.choice((Face.LEFT, Face.RIGHT))
    found = list(block.operations)
    for face in sides:
        wide, high = block.face_size(face)
        if block.thickness(face) < 2:
            raise NotMade("no room for a recess")
        u, v = dice.randint(1, wide - 1), dice.randint(1, high - 1)
        number = str(len(found) + 1)
        if dice.random() < 0.5:
            size = squares(dice.choice((1.0, 1.3, 1.5)))
            found.append(Round(number, "cut", face, size, Offset(squares(u)), Offset(squares(v)),
                               squares(0), squares(0.6)))  # fmt: skip
        else:
            outline = ((u - 0.5, v - 0.5), (u + 0.5, v - 0.5), (u + 0.5, v + 0.5),
                       (u - 0.5, v + 0.5))  # fmt: skip
            corners = tuple(Corner(squares(x), squares(y)) for x, y in outline)
            found.append(Prism(number, "cut", face, corners, squares(0), squares(0.5)))
    return Block(block.size, tuple(found))


def _shows_most(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    block = _facing(block_of(level - 2, dice, ALL), dice)
    part = block.part
    corners = NEAR if level == 4 else (*NEAR[:3], *_BELOW)
    whole = set(range(len(block.operations)))
    told = {}
    pictures = {}
    for corner in corners:
        picture = eye.picture(part, "isometric", corner)
        pictures[corner] = picture
        told[corner] = {stroke.origin.operation for stroke in picture.visible} & whole
    best = [corner for corner in corners if told[corner] == whole]
    if len(best) != 1:
        raise NotMade("no corner, or more than one, shows every feature")
    sound_block(block, eye)
    right = corners.index(best[0])
    why = tuple(
        tr("Right: every feature shows.") if k == right else
        tr("Only {some} of {all} features show.", some=len(told[corner]), all=len(whole))
        for k, corner in enumerate(corners)
    )  # fmt: skip
    return Exercise(
        "near", level, seed,
        tr("From one corner only, each of the {count} features of this part can be seen. Which?",
           count=len(block.operations)),
        (views_figure(eye.views(part, VIEWS)),),
        Choice(tuple(NearCorner(corner).title for corner in corners), right, why,
               tuple(picture_figure(pictures[corner]) for corner in corners)),
        (
            tr("Name the features first: which face does each start from?"),
            tr("A feature that starts from a face away from you is seen only if it goes through, "
               "or runs out at another face."),
            tr("Look for the picture with the most edges that are no edges of the crate."),
        ),
        tr("The near corner is chosen so that every feature shows."),
        data={"corner": best[0], "features": len(block.operations)},
    )  # fmt: skip
