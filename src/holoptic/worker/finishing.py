"""What finishes a figure by hand on its sheet: its dimensions, names, title block and shading."""

from __future__ import annotations

from collections.abc import Sequence

from holoptic.curves.vectors import Vec2
from holoptic.job import SheetOrder, TitleBlock
from holoptic.plan import Setup
from holoptic.plan.finish import Caption, CuttingLineToDraw, Finish, HatchedFace, TitleRow
from holoptic.sheet.axis_marks import axis_marks
from holoptic.sheet.by_hand import (
    captions_by_hand,
    cutting_lines_by_hand,
    dimensions_by_hand,
    finish_by_hand,
    hatches_by_hand,
    marks_by_hand,
    shades_by_hand,
    title_by_hand,
)
from holoptic.sheet.captions import captions_of
from holoptic.sheet.frames import frame_of
from holoptic.sheet.inking import cut_areas
from holoptic.sheet.planning import Item, Layout
from holoptic.sheet.sheets import title_rows
from holoptic.worker.shades import shaded_figure
from holoptic.worker.sizing import SetUp, placed_on


def finish_of(
    order: SheetOrder, ready: SetUp, layout: Layout, setup: Setup, item: Item,
    origins: Sequence[Vec2], start: Vec2, title: TitleBlock,
) -> Finish | None:  # fmt: skip
    """Return what finishes a drawing that stands on a layout, None where nothing does.

    `origins` is where its pictures stand in the drawing as it is planned, `start` the start point
    there, mm at 1:1. The title block is lettered with the border.
    """
    at, shifts = layout.of(item.figure), {}
    for (picture, (x, y)), origin in zip(item.pictures, origins, strict=True):
        place = setup.on_sheet((origin,), start)[0]
        page = at.origin[0] + at.scale * x, at.origin[1] + at.scale * y
        shifts[item.figure, picture.view.kind] = place[0] - page[0], place[1] - page[1]
    sizes = dimensions_by_hand(placed_on(ready, layout, order), shifts) if ready.sizes else ()
    own = axis_marks(ready.items, layout, ready.wish).get(item.figure, [])
    sizes += marks_by_hand(own, shifts[item.figure, item.pictures[0][0].view.kind]) if own else ()
    captions: tuple[Caption, ...] = ()
    rows: tuple[TitleRow, ...] = ()
    if order.letters_by_hand(item.figure):
        captions = captions_by_hand(captions_of(item, layout, ready.wish), shifts)
        if setup.blank is not None:
            frame = frame_of(layout.paper)
            block = title_rows(ready.items, layout, title)
            rows = title_by_hand(layout.paper, block, (-frame.left, -frame.low))
    first = shifts[item.figure, item.pictures[0][0].view.kind]
    shades = shades_by_hand(shaded_figure(order, item, layout), first)
    top = frame_of(layout.paper).title_height
    hatches: list[HatchedFace] = []
    lines: list[CuttingLineToDraw] = []
    for picture, (x, y) in item.pictures:
        shift = shifts[item.figure, picture.view.kind]
        page = at.origin[0] + at.scale * x, at.origin[1] + at.scale * y
        hatches += hatches_by_hand(cut_areas(picture, page, at.scale, item.names), shift)
        lines += cutting_lines_by_hand(picture, page, at.scale, shift)
    made = Finish(sizes, captions, rows, top, shades, tuple(hatches), tuple(lines))
    return finish_by_hand(made)
