"""Composing a sheet: drawings placed in what border and title block leave."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from holoptic.curves.paper import extent
from holoptic.curves.vectors import Vec2
from holoptic.job import Angle, Choice, SheetWish
from holoptic.pictorial import Picture
from holoptic.plan import Setup
from holoptic.sheet.drawing import Drawing, Ink, Words
from holoptic.sheet.frames import (
    Box,
    TitleBlock,
    border_lines,
    drawing_area,
    frame_of,
    title_corner,
    title_lines,
    title_words,
)
from holoptic.sheet.inking import picture_ink
from holoptic.sheet.papers import Paper
from holoptic.sheet.planning import VIEWS, Item, Layout, best_layout
from holoptic.sheet.symbols import angle_symbol
from holoptic.views import PlacedView
from holoptic.views.layout import GAP_MM, layout_extent

_AIR_MM = 8.0
"""Least distance of an auxiliary figure from the drawings."""
_CAPTION_MM = 3.5


@dataclass(frozen=True)
class Sheet:
    """A composed page, and where the first drawing's own origin lies on it (mm), at which scale."""

    drawing: Drawing
    paper: Paper
    scale: float
    origin: Vec2


_PLAIN = Choice()
_VIEW_LINES = Choice(hidden="dashed")


def picture_item(picture: Picture) -> Item:
    """Return a pictorial as a drawing to be placed."""
    return Item(picture.view.kind, picture.view.title, picture.extent, ((picture, (0.0, 0.0)),))


def views_item(placed: Sequence[PlacedView], angle: Angle) -> Item:
    """Return orthographic views as one drawing to be placed."""
    pictures = tuple((view.picture, view.origin) for view in placed)
    return Item(VIEWS, f"{angle}-angle views", layout_extent(placed), pictures)


def picture_sheet(picture: Picture, title: TitleBlock, choice: Choice = _PLAIN) -> Sheet:
    """Return the finished sheet of a pictorial alone, its lines drawn as `choice` says.

    Raises BadInput if it does not fit the sheet that is asked for.
    """
    alone = replace(choice, sheet=replace(choice.sheet, company=()))
    return full_sheet([picture_item(picture)], title, alone)


def views_sheet(
    placed: Sequence[PlacedView],
    title: TitleBlock,
    angle: Angle = "third",
    wish: SheetWish | None = None,
) -> Sheet:
    """Return the sheet of the orthographic views, hidden lines dashed, their angle stated."""
    wish = replace(wish or SheetWish(), company=())
    return full_sheet([views_item(placed, angle)], title, Choice(sheet=wish), angle)


def full_sheet(
    items: Sequence[Item], title: TitleBlock, choice: Choice, angle: Angle = "third"
) -> Sheet:
    """Return the finished sheet of several drawings. Raises BadInput if they do not fit."""
    return compose(items, best_layout(items, choice.sheet), title, choice, angle)


def compose(
    items: Sequence[Item], layout: Layout, title: TitleBlock, choice: Choice, angle: Angle
) -> Sheet:
    """Return the finished sheet of drawings that are laid out."""
    inks, words = list(border_lines(layout.paper)), []
    for item in items:
        inks += _item_ink(item, layout, choice)
        words += _caption(item, layout, choice.sheet)
    inks += title_lines(layout.paper)
    if any(item.name == VIEWS for item in items):
        x, y = title_corner(layout.paper)
        inks += angle_symbol(angle, x - 14.0, y - 5.0)
    drawn_as = items[0].title if len(items) == 1 else _counted(items)
    words += title_words(layout.paper, title, drawn_as, layout.scale_text)
    page_title = f"{title.part} ({title.work})"
    drawing = Drawing(
        layout.paper.width, layout.paper.height, tuple(inks), tuple(words), page_title
    )
    return Sheet(drawing, layout.paper, layout.scale, layout.placed[0].origin)


def _counted(items: Sequence[Item]) -> str:
    """Say what stands on a sheet of several drawings."""
    pictorials = [item.title for item in items if item.name != VIEWS]
    what = pictorials[0] if len(pictorials) == 1 else f"{len(pictorials)} pictorials"
    return what if len(pictorials) == len(items) else f"{what} and views"


def _item_ink(item: Item, layout: Layout, choice: Choice) -> list[Ink]:
    origin, scale = layout.of(item.name).origin, layout.scale
    lines = _VIEW_LINES if item.name == VIEWS else choice
    inks = []
    for picture, (x, y) in item.pictures:
        inks += picture_ink(picture, lines, (origin[0] + scale * x, origin[1] + scale * y), scale)
    return inks


def _caption(item: Item, layout: Layout, wish: SheetWish) -> list[Words]:
    """Return the name under a drawing, where room for it is asked for; each view has its own."""
    if not wish.caption_mm:
        return []
    placed = layout.of(item.name)
    height = min(_CAPTION_MM, 0.6 * wish.caption_mm)
    below = wish.dimensions_mm + (wish.caption_mm + height) / 2
    if item.name != VIEWS:
        xmin, ymin, xmax, _ = placed.extent
        return [Words(((xmin + xmax) / 2, ymin - below), item.title, height, "middle", "symbol")]
    scale, (x, y) = layout.scale, placed.origin
    # between views there is only the gap that they stand apart
    height = min(height, 0.3 * GAP_MM * scale)
    below = min(below, (GAP_MM * scale + height) / 2)
    return [
        Words((x + scale * (left + (low_x + high_x) / 2), y + scale * (up + low_y) - below),
              picture.view.title, height, "middle", "symbol")
        for picture, (left, up) in item.pictures
        for low_x, low_y, high_x, _ in [picture.extent]
    ]  # fmt: skip


def plan_setup(layout: Layout, name: str, start_on_picture: Vec2, wish: SheetWish) -> Setup:
    """Return how a drawing of a layout is set up for drawing by hand.

    The start point is moved to whole millimetres, which a rule can set without a lens.
    """
    frame = frame_of(layout.paper)
    origin = layout.of(name).origin
    start = (
        float(round(origin[0] + layout.scale * start_on_picture[0] - frame.left)),
        float(round(origin[1] + layout.scale * start_on_picture[1] - frame.low)),
    )
    blank = frame if wish.frame == "draw" else None
    width = frame.inner[0]
    return Setup(start, layout.scale, _rooms(layout), width, blank, layout.scale_text)


def _rooms(layout: Layout) -> tuple[Box, ...]:
    """Return the free places right, left, above and below of the drawings, the largest first.

    In mm from the lower left border corner.
    """
    frame = frame_of(layout.paper)
    left, low, right, high = drawing_area(layout.paper)
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
