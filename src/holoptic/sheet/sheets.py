"""Composing a sheet: drawings placed in what border and title block leave."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import takewhile

from holoptic.catalogue import tr
from holoptic.curves.paper import extent
from holoptic.curves.vectors import Vec2
from holoptic.job import (
    AS_FITS,
    PLAIN_LINES,
    VIEW_LINES,
    Angle,
    LineSchool,
    SheetWish,
    TitleBlock,
)
from holoptic.pictorial import Picture
from holoptic.plan import Setup
from holoptic.plan.moves import PartNumber
from holoptic.sheet.axis_marks import axis_marks
from holoptic.sheet.captions import captions_of
from holoptic.sheet.cutting_lines import cutting_lines, with_marks
from holoptic.sheet.details import circle_ink, within_circle
from holoptic.sheet.dimension_places import PlacedDimension
from holoptic.sheet.dimensioning import dimension_ink, measures
from holoptic.sheet.drawing import Drawing, Ink, PageMark, Region, Words, moved
from holoptic.sheet.frames import (
    TITLE_ROW_MM,
    BlockRow,
    Box,
    above_mm,
    block_rows,
    border_lines,
    drawing_area,
    frame_of,
    title_corner,
    title_lines,
    title_words,
)
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.inking import cut_areas, picture_ink
from holoptic.sheet.papers import Paper
from holoptic.sheet.part_marks import CIRCLE_MM, Mark, Outlines, mark_ink, place_marks
from holoptic.sheet.parts_table import parts_table, table_ruling
from holoptic.sheet.planning import Item, Layout, best_layout
from holoptic.sheet.symbols import angle_symbol
from holoptic.spread.parts_list import ListedPart
from holoptic.views import PlacedView
from holoptic.views.layout import layout_extent

_AIR_MM = 8.0
"""Least distance of an auxiliary figure from the drawings."""


@dataclass(frozen=True)
class ComposedSheet:
    """A composed page, and where the first drawing's own origin lies on it (mm), at which scale."""

    drawing: Drawing
    paper: Paper
    scale: float
    origin: Vec2


def picture_item(
    picture: Picture, figure_id: str = "", lines: LineSchool = PLAIN_LINES,
    scale: float | None = None, listed: tuple[ListedPart, ...] = (),
) -> Item:  # fmt: skip
    """Return a pictorial as a drawing to be placed, its parts numbered by a list if it has one."""
    return Item(figure_id, picture.view.title, picture.extent, ((picture, (0.0, 0.0)),), lines,
                None, scale, listed)  # fmt: skip


def views_item(
    placed: Sequence[PlacedView], angle: Angle, figure_id: str = "",
    lines: LineSchool = VIEW_LINES, scale: float | None = None,
) -> Item:  # fmt: skip
    """Return orthographic views as one drawing to be placed."""
    pictures = tuple((view.picture, view.origin) for view in placed)
    return Item(
        figure_id,
        tr("third-angle views") if angle == "third" else tr("first-angle views"),
        with_marks(placed, layout_extent(placed)),
        pictures,
        lines,
        angle,
        scale,
    )


def picture_sheet(
    picture: Picture, title: TitleBlock, lines: LineSchool = PLAIN_LINES,
    wish: SheetWish = AS_FITS, scale: float | None = None,
) -> ComposedSheet:  # fmt: skip
    """Return the finished sheet of a pictorial alone.

    Raises BadInput if it does not fit the sheet that is asked for.
    """
    return full_sheet([picture_item(picture, "", lines, scale)], title, wish)


def views_sheet(
    placed: Sequence[PlacedView],
    title: TitleBlock,
    angle: Angle = "third",
    wish: SheetWish = AS_FITS,
) -> ComposedSheet:
    """Return the sheet of the orthographic views, hidden lines dashed, their angle stated."""
    return full_sheet([views_item(placed, angle)], title, wish)


def full_sheet(
    items: Sequence[Item], title: TitleBlock, wish: SheetWish = AS_FITS
) -> ComposedSheet:
    """Return the finished sheet of several drawings. Raises BadInput if they do not fit."""
    above = above_mm(len(title.own), len(title.revisions), title.notes)
    items = [replace(item, above_mm=above) for item in items]
    return compose(items, best_layout(items, wish), title, wish)


def compose(
    items: Sequence[Item], layout: Layout, title: TitleBlock, wish: SheetWish,
    sizes: Sequence[Sequence[PlacedDimension]] = (), shades: Sequence[Ink] = (),
    note: str = "",
) -> ComposedSheet:  # fmt: skip
    """Return the finished sheet of drawings that are laid out, with the dimensions of each part,
    and the lines that shade them; a note says how it is to be read.
    """
    inks = [*border_lines(layout.paper), *shades]
    words: list[Words] = []
    regions: list[Region] = []
    for item in items:
        inks += _item_ink(item, layout)
        regions += areas_on(item, layout)
        more_inks, heads, letters = cutting_lines(item, layout, wish)
        inks, regions, words = inks + more_inks, regions + heads, words + letters
        words += [caption for caption, _ in captions_of(item, layout, wish)]
        at = layout.of(item.figure)
        more_inks, letters = circle_ink(item, at.origin, at.scale)
        inks, words = inks + more_inks, words + letters
        more_inks, dots, numbers = mark_ink(item_marks(item, layout))
        inks, regions, words = inks + more_inks, regions + dots, words + numbers
    marks = axis_marks(items, layout, wish).values()
    more_inks, heads, figures = dimension_ink(sizes, [mark for own in marks for mark in own])
    inks, regions, words = inks + more_inks, regions + heads, words + figures
    listed = next((item.listed for item in items if item.listed), ())
    if listed:
        table, entries = parts_table(listed, layout.paper, _grown(items))
        inks, words = inks + table, words + entries
    rows = title_rows(items, layout, title)
    inks += title_lines(layout.paper, rows)
    angles = [item.angle for item in items if item.angle is not None]
    if angles:
        x, y = title_corner(layout.paper)
        inks += angle_symbol(angles[0], x - 13.0, y - 3.5 * TITLE_ROW_MM)
    words += title_words(layout.paper, rows, note)
    page_title = f"{title.part} ({title.work})"
    drawing = Drawing(
        layout.paper.width, layout.paper.height, tuple(inks), tuple(words), page_title,
        tuple(regions), measures(sizes), title.drawn_by, _about(title, layout),
        tuple(PageMark(item.title, layout.of(item.figure).extent) for item in items),
    )  # fmt: skip
    return ComposedSheet(drawing, layout.paper, layout.scale, layout.placed[0].origin)


def _about(title: TitleBlock, layout: Layout) -> str:
    """Return what a sheet is, for whoever looks for its file: number, revision, scale, paper."""
    revision = tr("revision {letter}", letter=title.revision) if title.revision else ""
    said = (title.number, revision, layout.scale_text, layout.paper.title, title.date)
    return ", ".join(text for text in said if text)


def title_rows(items: Sequence[Item], layout: Layout, title: TitleBlock) -> list[BlockRow]:
    """Return the rows of the title block of a sheet."""
    whole = [item for item in items if item.window is None]
    drawn_as = whole[0].title if len(whole) == 1 else _counted(items)
    return block_rows(title, drawn_as, layout.scale_text)


def _grown(items: Sequence[Item]) -> float:
    """Return how much the title block has grown by more rows, mm."""
    return max((item.above_mm for item in items), default=0.0)


def ink_before(items: Sequence[Item], layout: Layout, figure_id: str) -> tuple[Ink, ...]:
    """Return the lines of the drawings that come before a figure on its sheet, mm from the page's
    corner: whoever draws one after the other has them on the paper. All of them for a figure that
    is not there.
    """
    earlier = takewhile(lambda item: item.figure != figure_id, items)
    return tuple(ink for item in earlier for ink in _item_ink(item, layout))


def _counted(items: Sequence[Item]) -> str:
    """Say what stands on a sheet of several drawings."""
    items = [item for item in items if item.window is None]
    pictorials = [item.title for item in items if item.angle is None]
    if not pictorials:
        return "views"
    what = (
        pictorials[0]
        if len(pictorials) == 1
        else tr("{pictorials} pictorials", pictorials=len(pictorials))
    )
    return what if len(pictorials) == len(items) else tr("{what} and views", what=what)


def item_marks(item: Item, layout: Layout) -> list[Mark]:
    """Return the numbers of a drawing's parts, where they stand on the page, mm."""
    if not item.listed:
        return []
    at = layout.of(item.figure)
    paths: dict[int, list[tuple[Vec2, ...]]] = {}
    centre_lines: list[tuple[Vec2, ...]] = []
    for picture, (x, y) in item.pictures:
        place = at.origin[0] + at.scale * x, at.origin[1] + at.scale * y
        for stroke in picture.visible:
            paths.setdefault(stroke.origin.body, []).append(moved(stroke.path, place, at.scale))
        if item.lines.centre_lines:
            strokes = picture.of_role("centre")
            centre_lines += (moved(stroke.path, place, at.scale) for stroke in strokes)
    outlines = [Outlines(body, tuple(own)) for body, own in paths.items()]
    return place_marks(item.listed, outlines, at.extent, centre_lines)


def _item_ink(item: Item, layout: Layout) -> list[Ink]:
    at = layout.of(item.figure)
    origin, scale = at.origin, at.scale
    inks = []
    for picture, (x, y) in item.pictures:
        place = origin[0] + scale * x, origin[1] + scale * y
        inks += picture_ink(picture, item.lines, place, scale, item.names)
    if item.window is None:
        return inks
    inks += (ink for area in _areas(item, origin, scale) for ink in hatch_lines(area))
    return within_circle(inks, item.window, origin, scale)


def areas_on(item: Item, layout: Layout) -> list[Region]:
    """Return the cut faces of a drawing; in a detail their lines are ink."""
    at = layout.of(item.figure)
    return _areas(item, at.origin, at.scale) if item.window is None else []


def _areas(item: Item, origin: Vec2, scale: float) -> list[Region]:
    return [
        area
        for picture, (x, y) in item.pictures
        for area in cut_areas(
            picture, (origin[0] + scale * x, origin[1] + scale * y), scale, item.names
        )
    ]


def plan_setup(
    layout: Layout,
    figure_id: str,
    start_on_picture: Vec2,
    draws_border: bool = True,
    items: Sequence[Item] = (),
) -> Setup:
    """Return how a figure of a layout is set up for drawing by hand.

    The start point is moved to whole millimetres, which a rule can set without a lens. Of `items`,
    the drawings on the sheet, the figure's own tells which numbers and list it gets.
    """
    frame = frame_of(layout.paper)
    placed = layout.of(figure_id)
    exact = (
        placed.origin[0] + placed.scale * start_on_picture[0] - frame.left,
        placed.origin[1] + placed.scale * start_on_picture[1] - frame.low,
    )
    start = float(round(exact[0])), float(round(exact[1]))
    blank = frame if draws_border else None
    width = frame.inner[0]
    setup = Setup(start, placed.scale, _rooms(layout), width, blank,
                  layout.scale_text_of(figure_id))  # fmt: skip
    listing = [item for item in items if item.listed]
    item = next((one for one in listing if one.figure == figure_id), None)
    if item is None:
        return setup
    aside = start[0] - exact[0] - frame.left, start[1] - exact[1] - frame.low
    table = table_ruling(item.listed, layout.paper, item.above_mm) if item is listing[0] else None
    return replace(setup, numbers=_numbers(item, layout, aside), table=table)


def _numbers(item: Item, layout: Layout, aside: Vec2) -> tuple[PartNumber, ...]:
    """Return the numbers of a drawing's parts, moved from the page by so much; their circles
    stand on whole millimetres, and tenths lead from there to the part.
    """
    names = {row.number: row.name for row in item.listed}
    (x, y), radius = aside, CIRCLE_MM / 2
    return tuple(
        PartNumber(
            one.number, names[one.number],
            (float(round(one.circle[0] + x)), float(round(one.circle[1] + y))),
            (round(one.spot[0] + x, 1), round(one.spot[1] + y, 1)), radius,
        )
        for one in item_marks(item, layout)
    )  # fmt: skip


def _rooms(layout: Layout) -> tuple[Box, ...]:
    """Return the free places right, left, above and below of the drawings, the largest first.

    In mm from the lower left border corner.
    """
    frame = frame_of(layout.paper)
    left, low, right, high = drawing_area(layout.paper, layout.over_title)
    corners = [corner for item in layout.placed for corner in (item.extent[:2], item.extent[2:])]
    taken = extent(corners)
    rooms = [
        (taken[2] + _AIR_MM, low, right, high), (left, low, taken[0] - _AIR_MM, high),
        (left, taken[3] + _AIR_MM, right, high), (left, low, right, taken[1] - _AIR_MM),
    ]  # fmt: skip
    free = [
        (room[0] + _AIR_MM - frame.left, room[1] + _AIR_MM - frame.low,
         room[2] - _AIR_MM - frame.left, room[3] - _AIR_MM - frame.low)
        for room in rooms
    ]  # fmt: skip
    free = [room for room in free if room[2] > room[0] and room[3] > room[1]]
    return tuple(sorted(free, key=lambda r: (r[0] - r[2]) * (r[3] - r[1])))
