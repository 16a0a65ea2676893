"""A drawing file as it was found: its lines, how they look, the figures on it."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.reading.lines import Box, DrawnLine, Status, Straight


@dataclass(frozen=True)
class LineGroup:
    """Lines that look alike in the file: layer, linetype, colour number; and how they are taken.

    `is_clear` says whether the file itself told.
    """

    layer: str
    linetype: str
    colour: int
    count: int
    status: Status
    is_clear: bool

    @property
    def key(self) -> tuple[str, str, int]:
        """What it is told by."""
        return self.layer, self.linetype, self.colour


@dataclass(frozen=True)
class GivenSize:
    """A dimension of the file: two places (mm), the distance drawn and the one written, mm."""

    start: tuple[float, float]
    end: tuple[float, float]
    drawn: float
    written: float

    def scaled(self, factor: float) -> GivenSize:
        """Return the dimension on a sheet drawn larger or smaller; what is written stays."""
        (a, b), (c, d) = self.start, self.end
        start, end = (a * factor, b * factor), (c * factor, d * factor)
        return GivenSize(start, end, self.drawn * factor, self.written)


@dataclass(frozen=True)
class Sketch:
    """The lines of a file in mm, how they were told apart, and its dimensions.

    `hatched` are the boxes of what is hatched, `cutting` the lines that say where it was cut.
    """

    name: str
    lines: tuple[DrawnLine, ...]
    groups: tuple[LineGroup, ...]
    sizes: tuple[GivenSize, ...]
    unit_is_given: bool
    hatched: tuple[Box, ...] = ()
    cutting: tuple[Straight, ...] = ()
