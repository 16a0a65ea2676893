"""What exercises ask of the geometry kernel and of the reading engine, which they do not know."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from holoptic.curves.vectors import Vec2
from holoptic.part import Part
from holoptic.pictorial import Picture
from holoptic.reading.lines import DrawnView
from holoptic.reading.result import Reading
from holoptic.solid.pieces import SolidFacts


@dataclass(frozen=True)
class SheetStart:
    """Where a drawing begins on a sheet of its own: the name of the paper, the border's size and
    its margins from the left and from the other edges, the start point from the border's lower left
    corner (all mm), and the scale.
    """

    paper: str
    border: Vec2
    margins: Vec2
    start: Vec2
    scale: float


class Eye(Protocol):
    """Looks at parts. What cannot be made raises HolopticError."""

    def facts(self, part: Part) -> SolidFacts:
        """Return what is known of a part's solid."""
        ...

    def picture(self, part: Part, kind: str, corner: str, cut: str = "") -> Picture:
        """Return a picture of a part, cut open in words (`part/cutting.py`) where that is asked."""
        ...

    def views(self, part: Part, names: Sequence[str]) -> dict[str, Picture]:
        """Return views of a part by their names."""
        ...

    def drawn(self, part: Part, names: Sequence[str]) -> list[DrawnView]:
        """Return views of a part as drawn lines, for reading them."""
        ...

    def read(self, views: Sequence[DrawnView], most: int, seconds: float) -> Reading:
        """Return what views mean, so many parts at most."""
        ...

    def go_together(self, views: Sequence[DrawnView]) -> bool:
        """Say whether some part of faces along the axes has three views."""
        ...

    def start_on_sheet(self, part: Part, kind: str, corner: str) -> SheetStart:
        """Return where the drawing of a part begins on a sheet of its own."""
        ...

    def section(self, part: Part, cut: str) -> Picture:
        """Return a part cut in words as a section view, with its cut faces as regions."""
        ...
