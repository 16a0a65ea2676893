"""A drawing as ink, regions and words on a page: what every writer of files and the screen shows.

Page coordinates: mm from the page's lower left corner, X right, Y up.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.sheet.layers import LAYERS

Anchor = Literal["start", "middle", "end"]

MEAN_LETTER = 0.7
"""Mean width of a letter of running words over the height of capitals, on the safe side."""
CAP_HEIGHT = 0.72
"""Height of capitals over the font size, of the lettering that ships with Holoptic."""


@dataclass(frozen=True)
class Ink:
    """One line: its layer, its points, its own weight in mm and dashes in mm, if it has any.

    `dashes` empty is continuous, None as the layer has it. The dashes begin `phase` mm into their
    pattern. `arc` is the exact curve where the points are those of an arc of a circle or an
    ellipse. `part` is the part of an arrangement that it belongs to, empty elsewhere.
    """

    layer: str
    path: tuple[Vec2, ...]
    weight: float | None = None
    dashes: tuple[float, ...] | None = None
    phase: float = 0.0
    arc: PaperArc | None = None
    part: str = ""

    @property
    def width(self) -> float:
        """Its weight, mm."""
        return LAYERS[self.layer].weight if self.weight is None else self.weight

    @property
    def pattern(self) -> tuple[float, ...]:
        """Its dashes, mm; empty where it is continuous."""
        return LAYERS[self.layer].dashes if self.dashes is None else self.dashes


@dataclass(frozen=True)
class Hatch:
    """Parallel lines over a region: direction in degrees, pitch square to it in mm.

    The lines are `offset` mm off the page's corner, square to them, so that hatches of equal
    direction and pitch can be told apart, or run on from region to region.
    """

    angle_deg: float = 45.0
    pitch: float = 2.5
    offset: float = 0.0


@dataclass(frozen=True)
class Region:
    """An area between closed outlines, hatched, or filled with the layer's colour.

    What lies in an even number of outlines is outside: islands are outlines too. `tint` is how
    much of the colour fills it, from 0 to 1; with a hatch None. `part` is the part of an
    arrangement that it belongs to, empty elsewhere.
    """

    layer: str
    outlines: tuple[tuple[Vec2, ...], ...]
    tint: float | None = 1.0
    hatch: Hatch | None = None
    part: str = ""

    @property
    def grey(self) -> float:
        """What it is filled with on paper, 0 black to 1 white."""
        return 1.0 - (self.tint or 0.0) * (1.0 - LAYERS[self.layer].grey)


@dataclass(frozen=True)
class Words:
    """A line of lettering: its place on the base line, height of capitals in mm, anchor.

    It runs along a direction of `along_deg`; its uprights lean `lean_deg` forward from the square
    to that; letters are `stretch` times as wide as usual.
    """

    at: Vec2
    text: str
    height: float = 2.5
    anchor: Anchor = "start"
    layer: str = "title"
    along_deg: float = 0.0
    lean_deg: float = 0.0
    stretch: float = 1.0

    @property
    def is_plain(self) -> bool:
        """Whether it stands level and upright."""
        return (self.along_deg, self.lean_deg, self.stretch) == (0.0, 0.0, 1.0)

    @property
    def axes(self) -> tuple[Vec2, Vec2]:
        """Where one mm along the line and one mm up a capital come to lie, without the place."""
        cos, sin = math.cos(math.radians(self.along_deg)), math.sin(math.radians(self.along_deg))
        lean = math.tan(math.radians(self.lean_deg))
        return (self.stretch * cos, self.stretch * sin), (lean * cos - sin, lean * sin + cos)


def words_in_plane(
    at: Vec2, text: str, height: float, across: Vec2, up: Vec2, anchor: Anchor = "start",
    layer: str = "title",
) -> Words:  # fmt: skip
    """Return lettering that lies in a plane of a pictorial.

    `across` and `up` are the images of one mm along the words and of one mm up their capitals.
    Raises ValueError where the words would be seen from behind, or edge-on.
    """
    turn = across[0] * up[1] - across[1] * up[0]
    if turn <= 0:
        raise ValueError("the words would be seen from behind or edge-on")
    along = math.atan2(across[1], across[0])
    width, tall = math.hypot(*across), turn / math.hypot(*across)
    lean = math.atan2(up[0] * math.cos(along) + up[1] * math.sin(along), tall)
    return Words(at, text, height * tall, anchor, layer, math.degrees(along), math.degrees(lean),
                 width / tall)  # fmt: skip


@dataclass(frozen=True)
class Measure:
    """A length on a page as one thing: what is measured, and what it is drawn with.

    `starts` are the places measured, `ends` those of its line; `lean_deg` is the direction of its
    extension lines, `value` the true size in mm. What it is drawn with stands among the page's own
    lines, regions and words too.
    """

    starts: tuple[Vec2, Vec2]
    ends: tuple[Vec2, Vec2]
    lean_deg: float
    value: float
    inks: tuple[Ink, ...]
    regions: tuple[Region, ...]
    words: Words


@dataclass(frozen=True)
class PageMark:
    """A place of a page that a reader may want to go to: its name, and what it takes up, mm."""

    name: str
    box: tuple[float, float, float, float]


@dataclass(frozen=True)
class Drawing:
    """Everything on one page, with what a file says of it: title, who drew it, what it is about;
    and the places on it by name.
    """

    width: float
    height: float
    inks: tuple[Ink, ...]
    words: tuple[Words, ...]
    title: str = ""
    regions: tuple[Region, ...] = ()
    measures: tuple[Measure, ...] = ()
    author: str = ""
    subject: str = ""
    marks: tuple[PageMark, ...] = ()


def rectangle(
    xmin: float, ymin: float, xmax: float, ymax: float, layer: str, weight: float | None = None
) -> Ink:
    """Return a closed rectangle."""
    corners = ((xmin, ymin), (xmax, ymin), (xmax, ymax), (xmin, ymax), (xmin, ymin))
    return Ink(layer, corners, weight)


def moved(path: Iterable[Vec2], origin: Vec2, scale: float = 1.0) -> tuple[Vec2, ...]:
    """Return a path scaled and then moved by `origin`."""
    return tuple((origin[0] + scale * x, origin[1] + scale * y) for x, y in path)
