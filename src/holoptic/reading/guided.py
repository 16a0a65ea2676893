"""The guided way: the outlines intersected, then loop after loop taken away by hand.

Where reading does not come to an end by itself, a drafter still can: what no outline allows is cut
off, and each closed loop of a view is taken away between two levels that another view shows.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.reading.faces import OUTSIDE
from holoptic.reading.features import Feature, Recipe
from holoptic.reading.guide import Guide, Loop
from holoptic.reading.lines import Bow, DrawnView
from holoptic.reading.outline import Outline
from holoptic.reading.parts import add_feature, make_part
from holoptic.reading.planes import canonical
from holoptic.reading.space import Space, ViewSpace
from holoptic.reading.third_view import without_third
from holoptic.tolerance import APART_MM

_TWO = 2


def begin(views: Sequence[DrawnView], name: str) -> Guide:
    """Return the intersection of the outlines, and the loops of all views. Raises BadInput."""
    whole = [canonical(view) for view in views if view.drawn]
    if len(whole) < _TWO:
        raise BadInput(tr("at least two views in different planes are needed"))
    space = Space(without_third(whole, rounds=False) if len(whole) == _TWO else whole[:3])
    features: list[Feature] = []
    loops: list[Loop] = []
    for depth, view in space.views.items():
        if not view.view.is_guessed:
            features += _outside(view, depth, space.sizes[depth])
            loops += _loops(view, depth, space.breaks[depth])
    part = make_part(name, space.sizes, Recipe("block", tuple(features)))
    return Guide(part, tuple(loops))


def take_away(guide: Guide, number: int, low: float, high: float) -> Guide:
    """Return the guide with a loop taken away between two levels. Raises BadInput."""
    if not low < high:
        raise BadInput(tr("the two levels must lie apart"))
    loop = guide.loops[number]
    feature = Feature(loop.depth, loop.outline, low, high, "cut")
    return replace(guide, part=add_feature(guide.part, feature))


def _outside(view: ViewSpace, depth: int, size: float) -> list[Feature]:
    """Return the cuts that take away what lies in the crate but outside an outline."""
    faces = {int(face) for face in np.flatnonzero(view.is_void)} - {OUTSIDE}
    found = []
    for group in view.neighbours.groups(faces):
        outlines = view.neighbours.outlines(group)
        if outlines is not None and len(outlines) == 1:
            found.append(Feature(depth, outlines[0], 0.0, size, "cut"))
    return found


def _loops(view: ViewSpace, depth: int, levels: np.ndarray) -> list[Loop]:
    """Return the loops of circles, of visible and of hidden lines alone, then single faces."""
    faces = {int(face) for face in np.flatnonzero(~view.is_void)}
    groups = [
        *_within_circles(view, faces),
        *view.neighbours.groups(faces, lambda piece: not piece.visible),
        *view.neighbours.groups(faces, lambda piece: piece.visible),
        *(frozenset([face]) for face in sorted(faces)),
    ]
    places = tuple(round(float(level), 4) for level in levels)
    found = []
    for group in dict.fromkeys(groups):
        outlines = view.neighbours.outlines(group)
        if len(group) < len(faces) and outlines is not None and len(outlines) == 1:
            path = _path(outlines[0])
            found.append(Loop(view.view.name, depth, outlines[0], places, path))
    return found


def _within_circles(view: ViewSpace, faces: set[int]) -> list[frozenset[int]]:
    """Return for each whole circle the faces within it."""
    found = []
    for line in view.view.drawn:
        bow = line.shape
        if not isinstance(bow, Bow) or not bow.is_closed:
            continue
        inside = set()
        for piece, beside in zip(view.pieces, view.neighbours.beside, strict=True):
            u, v = piece.at(0.4937)
            normal = piece.normal_at((u, v))
            for face, sign in zip(beside, (1, -1), strict=True):
                place = u + sign * APART_MM * normal[0], v + sign * APART_MM * normal[1]
                off = (place[0] - bow.centre[0]) ** 2 + (place[1] - bow.centre[1]) ** 2
                if off < bow.radius**2:
                    inside.add(face)
        found.append(frozenset(inside & faces))
    return found


def _path(outline: Outline) -> tuple[Vec2, ...]:
    points: list[Vec2] = []
    for side in outline.sides:
        if side.centre is None:
            points += [side.start, side.end]
            continue
        x, y = side.start[0] - side.centre[0], side.start[1] - side.centre[1]
        first = float(np.arctan2(y, x))
        bow = Bow(side.centre, side.radius, first, first + side.turn)
        arc = bow.path()
        if not side.left:
            arc = Bow(side.centre, side.radius, first - side.turn, first).path()[::-1]
        points += arc
    return tuple(points)
