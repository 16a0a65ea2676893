"""What somebody says of a sheet on paper: all of it is proposed, and none of it must be said."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.reading.lines import Box
from holoptic.sheet.frames import frame_of
from holoptic.sheet.papers import paper_named

PAGE_SUFFIXES = (".pdf", ".svg")
USUAL_PAPER = "A4"
Sizes = tuple[float | None, float | None, float | None]
TrueLevels = tuple[tuple[float, float], ...]
"""Pairs of (where a level was measured, where it truly lies), mm from the low side of the part."""
_LEAST_MM, _MOST_MM = 20.0, 3000.0


@dataclass(frozen=True)
class Given:
    """The page of a file, counted from 1; the paper of its frame, by name (None: the one that a
    scan or a page says it is, else the usual one); the frame's own size
    (mm) where it is another, and where its corners lie in the picture (dots, lower left first);
    boxes about the views (mm of paper); length, depth and height of the part (mm); of each of
    these axes the levels whose true places are known; whether the picture is a sketch by a free
    hand, out of proportion and without a border.
    """

    page: int = 1
    paper: str | None = None
    frame: Vec2 | None = None
    corners: tuple[Vec2, ...] | None = None
    boxes: tuple[Box, ...] = ()
    sizes: Sizes = (None, None, None)
    levels: tuple[TrueLevels, TrueLevels, TrueLevels] = ((), (), ())
    is_sketch: bool = False

    def inner(self) -> Vec2:
        """Return the size within the frame, mm, long side first. Raises BadInput."""
        if self.frame is not None:
            if not all(_LEAST_MM < side < _MOST_MM for side in self.frame):
                raise BadInput(tr("a frame is {least:.0f} to {most:.0f} mm wide and high",
                                  least=_LEAST_MM, most=_MOST_MM))  # fmt: skip
            return max(self.frame), min(self.frame)
        blank = frame_of(paper_named(self.paper or USUAL_PAPER))
        wide, high = blank.inner
        return max(wide, high), min(wide, high)

    def sheet(self) -> Vec2:
        """Return the size of the paper, mm, long side first. Raises BadInput."""
        if self.frame is not None:
            return self.inner()
        paper = paper_named(self.paper or USUAL_PAPER)
        return max(paper.width, paper.height), min(paper.width, paper.height)
