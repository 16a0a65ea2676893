"""A second opinion on overlaps: of a finished page, by the widths of the letters themselves.

It knows nothing of how dimensions are placed: it takes the words of a page with the metrics of the
font that is drawn, and asks whether any line, head or other word touches them, or whether they
leave the border.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import cache

import shapely

from holoptic.exchange.pdf_letters import written_width
from holoptic.sheet.drawing import CAP_HEIGHT, Drawing, Words

_AIR_MM = 0.15
"""Letters that a line comes nearer to than this touch it."""


def touched_words(page: Drawing, layer: str = "dimension") -> list[str]:
    """Return what those words of a layer say that something touches, or that leave the border."""
    words = [one for one in page.words if one.text.strip()]
    rooms = [_room(one) for one in words]
    things = [shapely.LineString(ink.path) for ink in page.inks if len(ink.path) > 1]
    things += [shapely.Polygon(region.outlines[0]) for region in page.regions]
    lines, letters = shapely.STRtree(things), shapely.STRtree(rooms)
    border = shapely.box(*max((shapely.LineString(ink.path).bounds for ink in page.inks
                               if ink.layer == "border"), key=lambda b: b[2] - b[0]))  # fmt: skip
    found = []
    for number, (one, room) in enumerate(zip(words, rooms, strict=True)):
        if one.layer != layer:
            continue
        near = room.buffer(_AIR_MM)
        met = len(lines.query(near, predicate="intersects"))
        others = [k for k in letters.query(near, predicate="intersects") if k != number]
        if met or others or not border.contains(room):
            found.append(one.text)
    return found


def _room(words: Words) -> shapely.Polygon:
    """Return what a line of lettering takes up on the page, mm."""
    wide = _width(words.text) * words.height / CAP_HEIGHT
    left = {"start": 0.0, "middle": -wide / 2, "end": -wide}[words.anchor]
    return shapely.Polygon(list(_corners(words, left, left + wide)))


def _corners(words: Words, left: float, right: float) -> Iterator[tuple[float, float]]:
    turn, lean = math.radians(words.along_deg), math.tan(math.radians(words.lean_deg))
    cos, sin = math.cos(turn), math.sin(turn)
    for along, up in ((left, 0.0), (right, 0.0), (right, 1.0), (left, 1.0)):
        x, y = along + up * words.height * lean, up * words.height
        yield words.at[0] + x * cos - y * sin, words.at[1] + x * sin + y * cos


@cache
def _width(text: str) -> float:
    return written_width(text, 1.0)
