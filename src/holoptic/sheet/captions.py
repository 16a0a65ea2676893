"""The names under drawings and views, and the room that their words take."""

from __future__ import annotations

from collections.abc import Sequence

import shapely

from holoptic.job import SheetWish
from holoptic.plan.letter_widths import width_of
from holoptic.sheet.cutting_lines import cutting_lines
from holoptic.sheet.drawing import Words
from holoptic.sheet.planning import Item, Layout, caption_room, rooms_about
from holoptic.views.layout import GAP_MM

_CAPTION_MM = 3.5
_AIR_MM = 0.8


def captions_of(item: Item, layout: Layout, wish: SheetWish) -> list[tuple[Words, tuple[str, str]]]:
    """Return what stands under a drawing: its name where room is asked for it, its own scale; each
    with the figure and the kind of the picture that it belongs to.

    Of several views each has its own name.
    """
    room = caption_room(item, wish)
    if not room:
        return []
    placed = layout.of(item.figure)
    height = min(_CAPTION_MM, 0.6 * room)
    below = rooms_about(item, wish)[1] + (room + height) / 2
    own = "" if item.scale is None else layout.scale_text_of(item.figure)
    xmin, ymin, xmax, _ = placed.extent
    middle = (xmin + xmax) / 2, ymin - below
    if item.angle is None or not wish.caption_mm:
        text = ", ".join(words for words in (item.title, own) if words)
        first = item.figure, item.pictures[0][0].view.kind
        return [(Words(middle, text, height, "middle", "symbol"), first)]
    scale, (x, y) = placed.scale, placed.origin
    # between views there is only the gap that they stand apart
    height = min(height, 0.3 * GAP_MM * scale)
    below = min(below, (GAP_MM * scale + height) / 2)
    return [
        (Words((x + scale * (left + (low_x + high_x) / 2), y + scale * (up + low_y) - below),
               ", ".join(words for words in (picture.view.title, own) if words),
               height, "middle", "symbol"), (item.figure, picture.view.kind))
        for picture, (left, up) in item.pictures
        for low_x, low_y, high_x, _ in [picture.extent]
    ]  # fmt: skip


def caption_boxes(items: Sequence[Item], layout: Layout, wish: SheetWish) -> list[shapely.Polygon]:
    """Return the rooms of the names under the drawings of a page, and of what says where sections
    are cut, mm.
    """
    words = [one for item in items for one, _ in captions_of(item, layout, wish)]
    rooms = []
    for item in items:
        inks, _, letters = cutting_lines(item, layout, wish)
        words += letters
        rooms += [shapely.LineString(ink.path).buffer(_AIR_MM) for ink in inks if ink.dashes == ()]
    return [*(_box(one) for one in words), *rooms]


def _box(words: Words) -> shapely.Polygon:
    (x, y), half = words.at, width_of(words.text, words.height) / 2
    return shapely.box(x - half - _AIR_MM, y - _AIR_MM, x + half + _AIR_MM,
                       y + words.height + _AIR_MM)  # fmt: skip
