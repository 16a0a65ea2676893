"""Details: a round piece of a drawing, shown larger beside it, and the circles that say which."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace

import shapely

from holoptic.catalogue import tr
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.job import Figure, detail_id
from holoptic.sheet.drawing import Ink, Words
from holoptic.sheet.planning import Circle, Item
from holoptic.tolerance import SHORTEST_STROKE_MM

_LETTER_MM, _OFF_MM = 5.0, 1.2
_QUARTER = 90
"""Chords to a quarter of the circle that clips."""
_DIAGONAL = math.sqrt(0.5)


def with_details(item: Item, figure: Figure) -> list[Item]:
    """Return a drawing, circled where it has details, with these behind it as drawings."""
    circles = tuple(Circle(one.letter, one.middle, one.radius) for one in figure.details)
    made = [replace(item, circles=circles)]
    for one, circle in zip(figure.details, circles, strict=True):
        made.append(replace(
            item, figure=detail_id(figure.id, one.letter), extent=circle.box, angle=None,
            title=tr("detail {letter}", letter=one.letter), scale=one.scale, listed=(),
            at=one.at, start=None, window=circle,
        ))  # fmt: skip
    return made


def within_circle(inks: Iterable[Ink], circle: Circle, origin: Vec2, scale: float) -> list[Ink]:
    """Return what of the lines of a drawing lies within a circle; where the drawing's own origin
    lies on the page, mm, and its scale, say where that is.
    """
    x, y = circle.middle
    middle = shapely.Point(origin[0] + scale * x, origin[1] + scale * y)
    disc = middle.buffer(scale * circle.radius, quad_segs=_QUARTER)
    shapely.prepare(disc)
    kept: list[Ink] = []
    for ink in inks:
        line = shapely.LineString(ink.path)
        if disc.contains(line):
            kept.append(ink)
        elif disc.intersects(line):
            kept += (replace(ink, path=path, arc=None) for path in _pieces(line, disc))
    return kept


def _pieces(line: shapely.LineString, disc: shapely.Polygon) -> Iterable[tuple[Vec2, ...]]:
    found = line.intersection(disc)
    for piece in getattr(found, "geoms", [found]):
        if isinstance(piece, shapely.LineString) and piece.length > SHORTEST_STROKE_MM:
            yield tuple((a, b) for a, b in piece.coords)


def circle_ink(item: Item, origin: Vec2, scale: float) -> tuple[list[Ink], list[Words]]:
    """Return the circles on a drawing with their letters, or the rim of a detail."""
    circles: Sequence[Circle] = item.circles if item.window is None else (item.window,)
    inks, words = [], []
    for circle in circles:
        x, y = origin[0] + scale * circle.middle[0], origin[1] + scale * circle.middle[1]
        radius = scale * circle.radius
        arc = PaperArc((x, y), (radius, 0.0), (0.0, radius), 0.0, math.tau)
        inks.append(Ink("symbol", tuple(arc.path()), arc=arc))
        if item.window is None:
            out = _DIAGONAL * (radius + _OFF_MM)
            words.append(Words((x + out, y + out), circle.letter, _LETTER_MM, "start", "symbol"))
    return inks, words
