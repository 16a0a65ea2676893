"""A page of lines as a file holds it: strokes with their looks, words, and what is filled."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.curves.vectors import Vec2
from holoptic.paper.figures import Figure
from holoptic.reading.lines import Box, Shape

Beziers = list[tuple[Vec2, Vec2, Vec2, Vec2]]
"""Cubic curves by their control points; a straight one has them on its chord."""


@dataclass(frozen=True)
class Look:
    """How a stroke is drawn: its width and its dashes in mm (none: solid), its colour 0xRRGGBB."""

    width: float
    dashes: tuple[float, ...] = ()
    colour: int = 0


@dataclass(frozen=True)
class Stroke:
    """A line of a page, mm from its lower left corner, Y up."""

    shape: Shape
    look: Look


@dataclass(frozen=True)
class Page:
    """A page: its size (mm), what is on it. `filled` are the boxes of small filled shapes, such as
    arrowheads; `pictured` is the share of the page that pictures cover.
    """

    size: Vec2
    strokes: tuple[Stroke, ...]
    figures: tuple[Figure, ...] = ()
    filled: tuple[Box, ...] = ()
    pictured: float = 0.0
