"""What exercises ask of the geometry kernel and of the reading engine, which they do not know."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from holoptic.part import Part
from holoptic.pictorial import Picture
from holoptic.reading.lines import DrawnView
from holoptic.reading.result import Reading
from holoptic.solid.pieces import SolidFacts


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

    def section(self, part: Part, cut: str) -> Picture:
        """Return a part cut in words as a section view, with its cut faces as regions."""
        ...
