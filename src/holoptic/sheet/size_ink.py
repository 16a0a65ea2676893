"""Sizes as ink and words: beside the views, and along the crate of a picture.

All distances follow the height of the capitals, so that they fit whatever the scale is.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace
from typing import NamedTuple

from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.part.crate import AXIS_LETTERS
from holoptic.pictorial import View
from holoptic.sheet.drawing import MEAN_LETTER, Ink, Words
from holoptic.sheet.layers import SIZE_LAYERS, THIN_MM
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Unit, show
from holoptic.views.sizes import SizeLine

_OVERALL = 1.15
"""Capitals of overall sizes over those of the sizes of features."""
_TICK, _OVERALL_TICK = 0.45, 0.5
_BESIDE = 0.6
"""From a line, or its end, to its words."""
_OUTSIDE = 1.4
"""From a line that is too short for its words to their middle."""
_EXTENSION = (0.4, 2.0)
_CRATE_LINE, _CRATE_WORDS = 1.5, 1.9
"""Along the crate: where extension lines begin and end, where the line lies, where words begin."""
_BOX = 1.6
"""How high a line of words is, with room about it. All are over the height of capitals."""


class SizeInk(NamedTuple):
    """A size as it is drawn: its lines, and its words."""

    inks: tuple[Ink, ...]
    words: Words


def size_ink(line: SizeLine, letter: float) -> SizeInk:
    """Return a size beside a view; `letter` is the height of capitals, mm in the layout.

    Its line is broken for the words. Where it is too short for them, those of a feature go on
    beyond its end, those of the whole part stand on its outer side.
    """
    layer = SIZE_LAYERS[line.axis]
    high = letter * (_OVERALL if line.is_overall else 1.0)
    tick = high * (_OVERALL_TICK if line.is_overall else _TICK)
    weight, dashes = (None, None) if line.is_overall else (THIN_MM, ())
    words = Words((0, 0), line.words, high, "middle", layer, 0.0 if line.is_across else 90.0)
    long = math.dist(line.start, line.end)
    half = _width(words) / 2 + _BESIDE * high
    middle = _between(line.start, line.end, 0.5)
    parts = [(line.start, line.end)]
    if long > 2 * half:
        part = 0.5 - half / long
        parts = [(line.start, _between(line.start, line.end, part)),
                 (_between(line.start, line.end, 1 - part), line.end)]  # fmt: skip
    elif line.is_overall:
        out = -_OUTSIDE * high if line.is_across else _OUTSIDE * high
        middle = _off(middle, 0, out) if line.is_across else _off(middle, out, 0)
    else:
        part = 1 + half / max(long, COINCIDENT_MM)
        middle = _between(line.start, line.end, part)
    aside = (0.0, tick) if line.is_across else (tick, 0.0)
    ticks = [(_off(at, -aside[0], -aside[1]), _off(at, *aside)) for at in (line.start, line.end)]
    inks = [Ink(layer, path, weight, dashes) for path in parts]
    inks += [Ink(layer, path, weight, ()) for path in ticks]
    # the base line lies half a capital below the middle of the words
    at = _off(middle, 0, -high / 2) if line.is_across else _off(middle, high / 2, 0)
    return SizeInk(tuple(inks), replace(words, at=at))


def crate_sizes(
    view: View, low: Vec3, high: Vec3, middle: Vec2, letter: float, unit: Unit
) -> Iterator[SizeInk]:
    """Yield length, depth and height along the crate's near edges, outside the picture.

    `low` and `high` are the crate's corners, `middle` is the middle of the picture, mm on paper at
    scale 1:1, and so is `letter`, the height of capitals.
    """
    signs = view.corner.signs if view.corner else (1, -1, 1)
    near = [high[axis] if signs[axis] > 0 else low[axis] for axis in range(3)]
    near[2] = low[2] if signs[2] > 0 else high[2]
    for axis in range(3):
        start = list(near)
        if axis == 2:  # the outer upright edge, clear of the picture
            start[0] = low[0] if signs[0] > 0 else high[0]
        end = list(start)
        start[axis], end[axis] = low[axis], high[axis]
        a, b = (apply(view.matrix, (at[0], at[1], at[2])) for at in (start, end))
        words = f"{AXIS_LETTERS[axis]} {show(high[axis] - low[axis], unit)}"
        yield _crate_size(axis, a, b, middle, words, letter)


def _crate_size(axis: int, a: Vec2, b: Vec2, middle: Vec2, text: str, letter: float) -> SizeInk:
    """Return a size beside a crate edge, on the side away from the middle."""
    layer = SIZE_LAYERS[axis]
    x, y = _away(a, b, middle)

    def beside(at: Vec2, by: float) -> Vec2:
        return _off(at, by * letter * x, by * letter * y)

    words = Words((0, 0), text, letter, "middle", layer)
    extensions = [tuple(beside(at, by) for by in _EXTENSION) for at in (a, b)]
    inks = [Ink(layer, path, THIN_MM, ()) for path in extensions]
    inks.append(Ink(layer, (beside(a, _CRATE_LINE), beside(b, _CRATE_LINE))))
    # far enough that the words clear the line whatever its direction
    clear = _CRATE_WORDS + abs(x) * _width(words) / letter / 2 + abs(y) * _BOX / 2
    place = _off(beside(_between(a, b, 0.5), clear), 0, -letter / 2)
    return SizeInk(tuple(inks), replace(words, at=place))


def _away(a: Vec2, b: Vec2, middle: Vec2) -> Vec2:
    """Return the unit direction square to a–b that leaves the middle."""
    long = math.dist(a, b)
    if long < COINCIDENT_MM:
        return 0.0, -1.0
    x, y = (b[1] - a[1]) / long, (a[0] - b[0]) / long
    centre = _between(a, b, 0.5)
    outward = x * (centre[0] - middle[0]) + y * (centre[1] - middle[1])
    return (x, y) if outward >= 0 else (-x, -y)


def _width(words: Words) -> float:
    """Return about how wide words are, mm."""
    return len(words.text) * MEAN_LETTER * words.height


def _between(a: Vec2, b: Vec2, part: float) -> Vec2:
    return a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part


def _off(at: Vec2, x: float, y: float) -> Vec2:
    return at[0] + x, at[1] + y
