"""What finishes a drawing by hand: dimensions, lettering, shading, as they are to stand there.

All places are in mm from the lower left border corner.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

from holoptic.curves.vectors import Vec2
from holoptic.job import LineEnd
from holoptic.plan.moves import OVER, Letters
from holoptic.tolerance import SEEN_MM

Path = tuple[Vec2, ...]

TITLE_SIDE = f"{OVER}title side"
"""The stroke that carries the side of the title block on to rows above it."""


@dataclass(frozen=True)
class DimensionToDraw:
    """A dimension: the pieces of its line, its lettering, and its `heads`, the ends of the line:
    place, and the direction of the line from there in degrees.

    A length has the places on the part that it is `between`, an extension line from each of them
    unless there is no room for one, and the `ends` of its line; a note has
    the tip and the elbow of its leader as `ends`; an angle has its `arc`: centre, radius, first
    and last direction in degrees.
    """

    letters: Letters
    pieces: tuple[tuple[Vec2, Vec2], ...]
    heads: tuple[tuple[Vec2, float], ...]
    ends: tuple[Vec2, Vec2]
    between: tuple[Vec2, Vec2] | None = None
    extensions: tuple[tuple[Vec2, Vec2] | None, ...] = ()
    arc: tuple[Vec2, float, float, float] | None = None
    end_shape: LineEnd = "arrow"

    @property
    def arc_path(self) -> Path:
        """The polyline of an angle's arc."""
        if self.arc is None:
            return ()
        (x, y), radius, first, last = self.arc
        turns = [math.radians(first + (last - first) * k / 720) for k in range(721)]
        return tuple((x + radius * math.cos(t), y + radius * math.sin(t)) for t in turns)


@dataclass(frozen=True)
class Caption:
    """A name to be lettered under a drawing."""

    letters: Letters


@dataclass(frozen=True)
class TitleCell:
    """A cell of the title block: its left edge and width, and what is lettered in it: the value,
    and above it in small letters what it is.
    """

    left: float
    width: float
    letters: tuple[Letters, ...]


@dataclass(frozen=True)
class TitleRow:
    """A row of the title block, from a level line up to the next."""

    low: float
    high: float
    cells: tuple[TitleCell, ...]

    @property
    def left(self) -> float:
        """Its left edge."""
        return self.cells[0].left

    @property
    def right(self) -> float:
        """Its right edge."""
        return self.cells[-1].left + self.cells[-1].width


@dataclass(frozen=True)
class ShadedFace:
    """The lines that shade one face; `slant` is their direction in degrees where it is one, `wide`
    and `close` are the largest and the least distance between neighbours, mm.
    """

    lines: tuple[Path, ...]
    slant: float | None
    wide: float
    close: float


@dataclass(frozen=True)
class HatchedFace:
    """The lines that hatch, or fill, one cut face, from one side to the other: their direction in
    degrees, how far apart they stand, and how far the first is off the outermost `corner`, mm.
    """

    lines: tuple[Path, ...]
    angle: float
    pitch: float
    first: float
    corner: Vec2
    is_filled: bool = False
    part: str = ""


@dataclass(frozen=True)
class CuttingLineToDraw:
    """Where a section is cut, in another view: the corners of its chain line, the pieces of it that
    are drawn thick, its arrows from tail to tip, and its letters.
    """

    path: Path
    thick: tuple[tuple[Vec2, Vec2], ...]
    arrows: tuple[tuple[Vec2, Vec2], ...]
    letters: tuple[Letters, ...]


@dataclass(frozen=True)
class Finish:
    """What a drawing gets last, in this order; cut faces are hatched before all that.

    The outline of the usual title block, up to `title_top`, stands with the border already.
    """

    dimensions: tuple[DimensionToDraw, ...] = ()
    captions: tuple[Caption, ...] = ()
    title: tuple[TitleRow, ...] = ()
    title_top: float = 0.0
    shades: tuple[ShadedFace, ...] = ()
    hatches: tuple[HatchedFace, ...] = ()
    cutting_lines: tuple[CuttingLineToDraw, ...] = ()

    def stands(self, level: float) -> bool:
        """Say whether a level line of the title block was drawn with the border."""
        return min(abs(level), abs(level - self.title_top)) < SEEN_MM

    @property
    def paths(self) -> dict[str, Path]:
        """The strokes that are to stand there, by their names."""
        made: dict[str, Path] = {}
        for k, one in enumerate(self.dimensions, 1):
            made |= dict(pieces_of(one, k))
        for k, row in enumerate(self.title, 1):
            if not self.stands(row.low):
                made[title_line(k)] = (row.left, row.low), (row.right, row.low)
            for j, cell in enumerate(row.cells[1:], 1):
                made[title_upright(k, j)] = (cell.left, row.low), (cell.left, row.high)
        top = self.title[0] if self.title else None
        if top is not None and not self.stands(top.high):
            made[title_line(0)] = (top.left, top.high), (top.right, top.high)
            made[TITLE_SIDE] = (top.left, self.title_top), (top.left, top.high)
        for k, face in enumerate(self.shades, 1):
            made |= {shade_line(k, j): path for j, path in enumerate(face.lines, 1)}
        for k, cut in enumerate(self.hatches, 1):
            made |= {hatch_line(k, j): path for j, path in enumerate(cut.lines, 1)}
        for k, line in enumerate(self.cutting_lines, 1):
            for what, pieces in (("chain", tuple(pairwise(line.path))), ("thick", line.thick),
                                 ("arrow", line.arrows)):  # fmt: skip
                made |= {cut_piece(what, k, j): piece for j, piece in enumerate(pieces, 1)}
        return made

    @property
    def letters(self) -> dict[str, Letters]:
        """The lettering that is to stand there, by its names."""
        made = {f"words {k}": one.letters for k, one in enumerate(self.dimensions, 1)}
        made |= {f"caption {k}": one.letters for k, one in enumerate(self.captions, 1)}
        for k, row in enumerate(self.title, 1):
            for j, cell in enumerate(row.cells, 1):
                for n, letters in enumerate(cell.letters, 1):
                    made[f"cell {k}.{j}.{n}"] = letters
        for k, line in enumerate(self.cutting_lines, 1):
            made |= {cut_letter(k, j): letters for j, letters in enumerate(line.letters, 1)}
        return made

    @property
    def heads(self) -> dict[str, tuple[Vec2, float]]:
        """The heads that are to stand there, by their names."""
        made = {
            head_name(k, j, one.end_shape): head
            for k, one in enumerate(self.dimensions, 1)
            for j, head in enumerate(one.heads, 1)
        }
        for k, line in enumerate(self.cutting_lines, 1):
            for j, (tail, tip) in enumerate(line.arrows, 1):
                angle = math.degrees(math.atan2(tail[1] - tip[1], tail[0] - tip[0]))
                made[cut_head(k, j)] = tip, angle
        return made


def pieces_of(one: DimensionToDraw, k: int) -> list[tuple[str, Path]]:
    """Return the strokes of a dimension by their names."""
    straight = (*(path for path in one.extensions if path is not None), *one.pieces)
    made: list[tuple[str, Path]] = [
        (f"{OVER}dimension {k}.{j}", path) for j, path in enumerate(straight, 1)
    ]
    if one.arc is not None:
        made.append((arc_name(k), one.arc_path))
    return made


def arc_name(k: int) -> str:
    """Return the name of the stroke over the arc of an angle."""
    return f"{OVER}dimension arc {k}"


def head_name(k: int, j: int, shape: LineEnd) -> str:
    """Return the name of an end of a dimension line, which tells its shape."""
    return f"{shape} {k}.{j}"


def shape_of(name: str) -> LineEnd:
    """Return the shape that the name of an end tells."""
    shape = name.partition(" ")[0]
    return "slash" if shape == "slash" else "dot" if shape == "dot" else "arrow"


def title_line(k: int) -> str:
    """Return the name of the stroke under a row of the title block."""
    return f"{OVER}title row {k}"


def title_upright(k: int, j: int) -> str:
    """Return the name of the stroke before a cell of the title block."""
    return f"{OVER}title cell {k}.{j}"


def shade_line(k: int, j: int) -> str:
    """Return the name of a line that shades a face."""
    return f"{OVER}shade {k}.{j}"


def hatch_line(k: int, j: int) -> str:
    """Return the name of a line that hatches a cut face."""
    return f"{OVER}hatch {k}.{j}"


def cut_piece(what: str, k: int, j: int) -> str:
    """Return the name of a piece of a cutting line: of its chain, a thick one, or an arrow's."""
    return f"{OVER}cut {what} {k}.{j}"


def cut_head(k: int, j: int) -> str:
    """Return the name of the head of an arrow at a cutting line."""
    return f"arrow cut {k}.{j}"


def cut_letter(k: int, j: int) -> str:
    """Return the name of a letter of a cutting line."""
    return f"cut letter {k}.{j}"
