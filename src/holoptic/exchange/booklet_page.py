"""A page of a booklet: filled from the top, with its foot and the cautions."""

from __future__ import annotations

from dataclasses import dataclass, field

from holoptic.catalogue import tr
from holoptic.sheet.drawing import Drawing, Ink, Words
from holoptic.sheet.frames import CAUTION

WIDTH, HEIGHT = 210.0, 297.0
LEFT, RIGHT, TOP, LOW = 20.0, 198.0, 282.0, 14.0
TEXT_MM = 2.1
"""Of the capitals; pages are A4 upright, all figures mm."""


@dataclass
class Page:
    """A page being filled from the top."""

    title: str
    number: int
    y: float = TOP
    inks: list[Ink] = field(default_factory=list)
    words: list[Words] = field(default_factory=list)

    def write(self, text: str, x: float = LEFT, height: float = TEXT_MM, down: float = 0) -> None:
        """Write a line of text and go down by `down` mm."""
        self.words.append(Words((x, self.y), text, height))
        self.y -= down

    def rule(self) -> None:
        """Draw a fine line across the page."""
        self.inks.append(Ink("title", ((LEFT, self.y + 3.2), (RIGHT, self.y + 3.2)), 0.13))

    def drawing(self) -> Drawing:
        """Return the finished page."""
        foot = Words(
            (RIGHT, 5.0),
            tr("{title} · page {number}", title=self.title, number=self.number),
            1.8,
            "end",
        )
        caution = Words((LEFT, 8.6), f"{CAUTION[0]} {CAUTION[1]}", 1.6)
        words = (*self.words, foot, caution)
        return Drawing(WIDTH, HEIGHT, tuple(self.inks), words, self.title)
