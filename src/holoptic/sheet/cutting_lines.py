"""Cutting lines on a page: a chain line with thick ends and corners, arrows, letters; and the names
of sections, which stand under them in any case.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import cast

from holoptic.curves.paper import direction
from holoptic.curves.vectors import Vec2
from holoptic.job import SheetWish
from holoptic.pictorial import Picture
from holoptic.pictorial.picture import CuttingLine
from holoptic.sheet.dimension_ink import end_at
from holoptic.sheet.drawing import Anchor, Ink, Region, Words, moved
from holoptic.sheet.frames import Box
from holoptic.sheet.layers import THICK_MM
from holoptic.sheet.planning import Item, Layout
from holoptic.views import PlacedView

LAYER = "section"
_THICK_END_MM, _THICK_CORNER_MM = 6.0, 3.0
_ARROW_MM, _OFF_MM = 8.0, 1.2
LETTER_MM, _BELOW_MM = 5.0, 3.0
_REACH_MM = _ARROW_MM + LETTER_MM + _OFF_MM


@dataclass(frozen=True)
class MarkOnPage:
    """A cutting line where it stands: its corners, the pieces drawn thick, its arrows from tail to
    tip, and its letters; mm.
    """

    path: tuple[Vec2, ...]
    thick: tuple[tuple[Vec2, Vec2], ...]
    arrows: tuple[tuple[Vec2, Vec2], ...]
    words: tuple[Words, ...]


def mark_on_page(mark: CuttingLine, origin: Vec2, scale: float) -> MarkOnPage:
    """Return a cutting line at a place on the page."""
    path = moved(mark.path, origin, scale)
    size = math.hypot(*mark.sight)
    way = mark.sight[0] / size, mark.sight[1] / size
    arrows, words = [], []
    for end in (path[0], path[-1]):
        # the arrow points at the thick end, so that the letter stands free of the view
        tail = end[0] - _ARROW_MM * way[0], end[1] - _ARROW_MM * way[1]
        arrows.append((tail, end))
        at = (tail[0] - _OFF_MM * way[0] - LETTER_MM * 0.5 * max(way[0], 0.0),
              tail[1] - _OFF_MM * way[1] - LETTER_MM * (way[1] + 1) / 2)  # fmt: skip
        words.append(Words(at, mark.letter, LETTER_MM, "middle", LAYER))
    return MarkOnPage(path, tuple(_thick(path)), tuple(arrows), tuple(words))


def cutting_ink(
    mark: CuttingLine, origin: Vec2, scale: float
) -> tuple[list[Ink], list[Region], list[Words]]:
    """Return the lines, heads and letters of a cutting line at a place on the page."""
    made = mark_on_page(mark, origin, scale)
    inks = [Ink(LAYER, made.path), *(Ink(LAYER, piece, THICK_MM, ()) for piece in made.thick)]
    inks += (Ink(LAYER, arrow, None, ()) for arrow in made.arrows)
    heads = [
        Region(LAYER, (end_at("arrow", tip, direction(tip, tail)).outlines[0],))
        for tail, tip in made.arrows
    ]
    return inks, heads, list(made.words)


def cutting_lines(
    item: Item, layout: Layout, wish: SheetWish
) -> tuple[list[Ink], list[Region], list[Words]]:  # fmt: skip
    """Return where sections are cut, on the views of a drawing, and the names of the sections."""
    inks: list[Ink] = []
    regions: list[Region] = []
    words: list[Words] = []
    at = layout.of(item.figure)
    for picture, (x, y) in item.pictures if item.window is None else ():
        origin = at.origin[0] + at.scale * x, at.origin[1] + at.scale * y
        for mark in picture.marks:
            lines, heads, letters = cutting_ink(mark, origin, at.scale)
            inks, regions, words = inks + lines, regions + heads, words + letters
        if picture.view.corner is None and picture.regions and not wish.caption_mm:
            words.append(section_name(picture, origin, at.scale))
    return inks, regions, words


def section_name(picture: Picture, origin: Vec2, scale: float) -> Words:
    """Return the name under a section, where no other names stand under the views: in the middle,
    or at its left edge where a cutting line ends there.
    """
    left, low, right, _ = picture.extent
    ends = [end for mark in picture.marks for end in (mark.path[0], mark.path[-1])]
    is_taken = any(y < low and left < x for x, y in ends)
    x, anchor = (left, "start") if is_taken else ((left + right) / 2, "middle")
    at = origin[0] + scale * x, origin[1] + scale * low - LETTER_MM - _BELOW_MM
    return Words(at, picture.view.title, LETTER_MM, cast(Anchor, anchor), LAYER)


def with_marks(placed: Sequence[PlacedView], box: Box) -> Box:
    """Return the room that views take with their cutting lines and the names of sections, mm."""
    x0, y0, x1, y1 = box
    for view in placed:
        x, y = view.origin
        if view.picture.regions:
            y0 = min(y0, view.extent[1] - LETTER_MM - 2 * _BELOW_MM)
        for mark in view.picture.marks:
            for u, v in (mark.path[0], mark.path[-1]):
                x0, y0 = min(x0, x + u - _REACH_MM), min(y0, y + v - _REACH_MM)
                x1, y1 = max(x1, x + u + _REACH_MM), max(y1, y + v + _REACH_MM)
    return x0, y0, x1, y1


def _thick(path: tuple[Vec2, ...]) -> Iterator[tuple[Vec2, Vec2]]:
    """Yield the pieces drawn thick: both ends, and beside each corner."""
    last = len(path) - 2
    for k, (a, b) in enumerate(pairwise(path)):
        begins = _THICK_END_MM if k == 0 else _THICK_CORNER_MM
        ends = _THICK_END_MM if k == last else _THICK_CORNER_MM
        long = math.dist(a, b)
        if begins + ends >= long:
            yield a, b
            continue
        way = (b[0] - a[0]) / long, (b[1] - a[1]) / long
        yield a, (a[0] + begins * way[0], a[1] + begins * way[1])
        yield (b[0] - ends * way[0], b[1] - ends * way[1]), b
