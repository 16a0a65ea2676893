"""What finishes a drawing by hand, as it stands on its sheet: told to the plan with its setup.

The plan moves a drawing a little, so that it starts on whole millimetres; what belongs to a picture
goes with it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

from holoptic.curves.vectors import Vec2
from holoptic.pictorial import Picture
from holoptic.plan.finish import (
    Caption,
    CuttingLineToDraw,
    DimensionToDraw,
    Finish,
    HatchedFace,
    ShadedFace,
    TitleCell,
    TitleRow,
    shape_of,
)
from holoptic.plan.moves import Letters
from holoptic.sheet.cutting_lines import mark_on_page
from holoptic.sheet.dimension_ink import BEYOND_MM, CLEAR_MM, Drawn, end_at
from holoptic.sheet.dimension_places import PlacedDimension
from holoptic.sheet.drawing import Hatch, Region, Words
from holoptic.sheet.frames import (
    TITLE_WIDTH_MM,
    BlockRow,
    rows_with_place,
    title_corner,
    title_words,
)
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.papers import Paper
from holoptic.sheet.shading import ShadedCell
from holoptic.tolerance import SEEN_MM

_FILLED_DEG, _FILLED_MM = 45.0, 0.5
"""How thin walls are filled by hand: by lines that stand close."""

Shifts = Mapping[tuple[str, str], Vec2]
"""How far each picture stands from its place on the page: by figure and kind, mm. A place of the
page is counted from its corner, one of the plan from the lower left border corner.
"""


def dimensions_by_hand(
    placed: Sequence[Sequence[PlacedDimension]], shifts: Shifts
) -> tuple[DimensionToDraw, ...]:
    """Return the dimensions that stand at pictures which have a shift."""
    return tuple(
        _dimension(each.drawn, shifts[each.pane])
        for own in placed
        for each in own
        if each.pane in shifts
    )


def marks_by_hand(marks: Sequence[Drawn], by: Vec2) -> tuple[DimensionToDraw, ...]:
    """Return marks that are drawn like dimensions, at a picture that stands so far aside."""
    return tuple(_dimension(mark, by) for mark in marks)


def _dimension(drawn: Drawn, by: Vec2) -> DimensionToDraw:
    letters = letters_of(drawn.words, by)
    heads = tuple((_shifted(tip, by), angle) for tip, angle in drawn.ends)
    paths = [_straight(ink.path, by) for ink in drawn.inks if ink.arc is None]
    if drawn.measured is not None:
        starts, ends, _ = drawn.measured
        between = _shifted(starts[0], by), _shifted(starts[1], by)
        mine = _shifted(ends[0], by), _shifted(ends[1], by)
        known = [_straight(tuple(line.coords), by) for line in drawn.extensions]
        extensions = tuple(
            next((path for path in known if _leads(path, one, two)), None)
            for one, two in zip(between, mine, strict=True)
        )
        pieces = tuple(path for path in paths if path not in known)
        return DimensionToDraw(letters, pieces, heads, mine, between, extensions,
                               end_shape=drawn.end_shape)  # fmt: skip
    arc = next((ink.arc for ink in drawn.inks if ink.arc is not None), None)
    if arc is None:
        return DimensionToDraw(letters, tuple(paths), heads, paths[0])
    radius, centre = math.hypot(*arc.a), _shifted(arc.centre, by)
    turn = (centre, radius, math.degrees(arc.first), math.degrees(arc.last))
    return DimensionToDraw(letters, tuple(paths), heads, (centre, centre), arc=turn)


def _leads(path: tuple[Vec2, Vec2], start: Vec2, end: Vec2) -> bool:
    """Say whether an extension line leads from a place on the part to the end of a line."""
    begins = math.dist(start, path[0]) < CLEAR_MM + SEEN_MM
    return begins and math.dist(end, path[1]) < BEYOND_MM + SEEN_MM


def letters_of(words: Words, by: Vec2) -> Letters:
    """Return words as they are lettered by hand."""
    return Letters(words.text, _shifted(words.at, by), words.height, words.anchor,
                   words.along_deg, words.lean_deg)  # fmt: skip


def words_of(letters: Letters) -> Words:
    """Return lettering as words of a page."""
    return Words(letters.at, letters.text, letters.height, letters.anchor, "title",
                 letters.along_deg, letters.lean_deg)  # fmt: skip


def head_outline(name: str, tip: Vec2, angle: float) -> tuple[Vec2, ...]:
    """Return the outline of the end of a line; its name tells its shape (`finish.shape_of`)."""
    turn = math.radians(angle)
    return end_at(shape_of(name), tip, (math.cos(turn), math.sin(turn))).outlines[0]


def captions_by_hand(captions: Sequence[tuple[Words, tuple[str, str]]], shifts: Shifts
                     ) -> tuple[Caption, ...]:  # fmt: skip
    """Return the names under pictures; each comes with the figure and kind that it belongs to."""
    return tuple(Caption(letters_of(words, shifts[at])) for words, at in captions if at in shifts)


def title_by_hand(paper: Paper, rows: Sequence[BlockRow], by: Vec2) -> tuple[TitleRow, ...]:
    """Return the rows of a title block with what stands in their cells."""
    words = [one for one in title_words(paper, rows) if one.layer == "title"]
    made = []
    for row, low in rows_with_place(paper, rows):
        left, cells = title_corner(paper)[0] - TITLE_WIDTH_MM, []
        for cell in row.cells:
            own = [w for w in words if left <= w.at[0] < left + cell.width
                   and low <= w.at[1] < low + row.height]  # fmt: skip
            own.sort(key=lambda one: -one.at[1])
            letters = tuple(letters_of(one, by) for one in own)
            cells.append(TitleCell(left + by[0], cell.width, letters))
            left += cell.width
        made.append(TitleRow(low + by[1], low + row.height + by[1], tuple(cells)))
    return tuple(made)


def shades_by_hand(cells: Sequence[ShadedCell], by: Vec2) -> tuple[ShadedFace, ...]:
    """Return the faces that are shaded."""
    return tuple(
        ShadedFace(tuple(tuple(_shifted(p, by) for p in ink.path) for ink in cell.inks),
                   cell.slant, *cell.pitches)
        for cell in cells
    )  # fmt: skip


def hatches_by_hand(areas: Sequence[Region], by: Vec2) -> tuple[HatchedFace, ...]:
    """Return the cut faces that are hatched, or filled by lines that stand close."""
    made = []
    for area in areas:
        hatch = area.hatch or Hatch(_FILLED_DEG, _FILLED_MM)
        lines = [ink.path for ink in hatch_lines(replace(area, tint=None, hatch=hatch))]
        if not lines:
            continue
        turn = math.radians(hatch.angle_deg)
        across = -math.sin(turn), math.cos(turn)
        offs = [across[0] * x + across[1] * y for (x, y), _ in lines]
        corner = min(area.outlines[0], key=lambda p: across[0] * p[0] + across[1] * p[1])
        first = min(offs) - across[0] * corner[0] - across[1] * corner[1]
        paths = tuple(tuple(_shifted(point, by) for point in line) for line in lines)
        made.append(HatchedFace(paths, hatch.angle_deg, hatch.pitch, first, _shifted(corner, by),
                                area.hatch is None, area.part))  # fmt: skip
    return tuple(made)


def cutting_lines_by_hand(
    picture: Picture, origin: Vec2, scale: float, by: Vec2
) -> list[CuttingLineToDraw]:
    """Return where sections are cut in a view that stands at a place of the page."""
    made = []
    for mark in picture.marks:
        one = mark_on_page(mark, origin, scale)
        made.append(CuttingLineToDraw(
            tuple(_shifted(place, by) for place in one.path),
            tuple(_straight(piece, by) for piece in one.thick),
            tuple(_straight(arrow, by) for arrow in one.arrows),
            tuple(letters_of(words, by) for words in one.words),
        ))  # fmt: skip
    return made


def finish_by_hand(finish: Finish) -> Finish | None:
    """Return what finishes a drawing, None where nothing does."""
    return finish if finish != Finish(title_top=finish.title_top) else None


def _shifted(place: Vec2, by: Vec2) -> Vec2:
    return place[0] + by[0], place[1] + by[1]


def _straight(path: Sequence[Vec2], by: Vec2) -> tuple[Vec2, Vec2]:
    return _shifted(path[0], by), _shifted(path[-1], by)
