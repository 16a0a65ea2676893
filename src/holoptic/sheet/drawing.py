"""A drawing as ink and words on a page: what every writer of files and the screen can show.

Page coordinates: mm from the page's lower left corner, X right, Y up.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2

Layer = Literal["border", "title", "visible", "hidden", "centre", "construction", "symbol", "check"]
Anchor = Literal["start", "middle", "end"]

OUTLINE_MM = 0.5
THIN_MM = 0.25
BORDER_MM = 0.7
"""Line weights of ISO 128, mm."""

THICK_MM = 0.7
"""The heavy line of the thick-and-thin school; its light one is half as heavy."""

DASHED = (3.0, 1.5)
CHAIN = (8.0, 1.4, 0.6, 1.4)
"""Dashes of hidden lines, and of centre lines: long dash and dot."""


@dataclass(frozen=True)
class Ink:
    """One line: its layer, its points, weight in mm and dashes in mm (none: continuous).

    The dashes begin `phase` mm into their pattern. `arc` is the exact curve where the points
    are those of an arc of a circle or an ellipse.
    """

    layer: Layer
    path: tuple[Vec2, ...]
    weight: float = THIN_MM
    dashes: tuple[float, ...] = ()
    phase: float = 0.0
    arc: PaperArc | None = None


@dataclass(frozen=True)
class Words:
    """A line of lettering: its place on the base line, height of capitals in mm, anchor."""

    at: Vec2
    text: str
    height: float = 2.5
    anchor: Anchor = "start"
    layer: Layer = "title"


@dataclass(frozen=True)
class Drawing:
    """Everything on one page."""

    width: float
    height: float
    inks: tuple[Ink, ...]
    words: tuple[Words, ...]
    title: str = ""


def rectangle(
    xmin: float, ymin: float, xmax: float, ymax: float, layer: Layer, weight: float
) -> Ink:
    """Return a closed rectangle."""
    corners = ((xmin, ymin), (xmax, ymin), (xmax, ymax), (xmin, ymax), (xmin, ymin))
    return Ink(layer, corners, weight)


def moved(path: Iterable[Vec2], origin: Vec2, scale: float = 1.0) -> tuple[Vec2, ...]:
    """Return a path scaled and then moved by `origin`."""
    return tuple((origin[0] + scale * x, origin[1] + scale * y) for x, y in path)
