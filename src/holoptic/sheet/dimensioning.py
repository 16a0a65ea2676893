"""The dimensions of a sheet: which drawings share those of a part, and how much room they need."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from holoptic.dimensions import Dimension
from holoptic.job import SheetWish, SizeWish
from holoptic.sheet.axis_marks import axis_marks
from holoptic.sheet.captions import caption_boxes
from holoptic.sheet.dimension_ink import Drawn, Habit
from holoptic.sheet.dimension_panes import DimensionPane
from holoptic.sheet.dimension_places import (
    Ground,
    PlacedDimension,
    Wanted,
    good_places,
    place_dimensions,
)
from holoptic.sheet.drawing import Ink, Measure, Region, Words
from holoptic.sheet.frames import Box, drawing_area
from holoptic.sheet.planning import Item, Layout, over_title
from holoptic.units import Unit

BETWEEN_VIEWS_MM = 34.0
"""On paper, between neighbouring views that have dimensions."""
_EDGE_MM = 2.0


@dataclass(frozen=True)
class Sized:
    """The dimensions of a part, and the figures of a sheet that show it."""

    figures: tuple[str, ...]
    dimensions: tuple[Dimension, ...]

    @property
    def keys(self) -> frozenset[str]:
        """The keys of its dimensions."""
        return frozenset(dimension.key for dimension in self.dimensions)


def dimensioned(
    items: Sequence[Item], layout: Layout, sized: Sequence[Sized], wish: SheetWish, unit: Unit,
    wishes: Sequence[SizeWish] = (), area: Box | None = None,
) -> list[list[PlacedDimension]]:  # fmt: skip
    """Return the dimensions of each part where they stand on the page.

    `wishes` is what is asked of single ones. They stay within an area, by default what border and
    title block leave.
    """
    ground = _ground(items, layout, wish, unit, area)
    found: list[list[PlacedDimension]] = []
    for one in sized:
        own = replace(ground, panes=_panes(one, items, layout))
        placed = place_dimensions(one.dimensions, own, _wanted(one, layout, wishes))
        ground = replace(ground, taken=[*ground.taken, *(each.drawn for each in placed)])
        found.append(placed)
    return found


def places_to_drag(
    key: str, items: Sequence[Item], layout: Layout, sized: Sequence[Sized], wish: SheetWish,
    unit: Unit, wishes: Sequence[SizeWish] = (),
) -> list[Drawn]:  # fmt: skip
    """Return the places of the page to which a dimension may be dragged, the best first.

    A key that no part on the sheet has gives none.
    """
    at = next((k for k, one in enumerate(sized) if key in one.keys), None)
    if at is None:
        return []
    before = dimensioned(items, layout, sized[:at], wish, unit, wishes)
    ground = _ground(items, layout, wish, unit)
    taken = [*ground.taken, *(each.drawn for own in before for each in own)]
    ground = replace(ground, panes=_panes(sized[at], items, layout), taken=taken)
    return good_places(key, sized[at].dimensions, ground, _wanted(sized[at], layout, wishes))


def _ground(
    items: Sequence[Item], layout: Layout, wish: SheetWish, unit: Unit, area: Box | None = None
) -> Ground:
    """Return a sheet on which no dimension stands yet, and none of its drawings is in hand."""
    xmin, ymin, xmax, ymax = area or drawing_area(layout.paper, over_title(items))
    inside = xmin + _EDGE_MM, ymin + _EDGE_MM, xmax - _EDGE_MM, ymax - _EDGE_MM
    marks = axis_marks(items, layout, wish).values()
    return Ground(
        (), inside, Habit(wish.style, wish.text, wish.ends), unit,
        [mark for own in marks for mark in own], caption_boxes(items, layout, wish),
    )  # fmt: skip


def _panes(one: Sized, items: Sequence[Item], layout: Layout) -> list[DimensionPane]:
    """Return the pictures of a part on the page."""
    own = (item for item in items if item.figure in one.figures)
    return [pane for item in own for pane in panes_of(item, layout)]


def _wanted(one: Sized, layout: Layout, wishes: Sequence[SizeWish]) -> dict[str, Wanted]:
    """Return what is asked of a part's dimensions; places are told from its first figure."""
    own = one.keys
    found = {}
    for wish in wishes:
        if wish.key in own and one.figures:
            x, y = layout.of(one.figures[0]).origin
            near = None if wish.near is None else (x + wish.near[0], y + wish.near[1])
            found[wish.key] = Wanted(wish, near)
    return found


def panes_of(item: Item, layout: Layout) -> list[DimensionPane]:
    """Return the pictures of a drawing where they stand on the page."""
    at = layout.of(item.figure)
    return [
        DimensionPane(
            picture, (at.origin[0] + at.scale * x, at.origin[1] + at.scale * y), at.scale,
            hidden=item.lines.hidden != "omit", centres=item.lines.centre_lines,
            figure=item.figure,
        )
        for picture, (x, y) in item.pictures
    ]  # fmt: skip


def rooms_needed(
    items: Sequence[Item], layout: Layout, sized: Sequence[Sized], wish: SheetWish, unit: Unit,
    wishes: Sequence[SizeWish] = (),
) -> dict[str, Box]:  # fmt: skip
    """Return how far the dimensions at each drawing reach out of it where nothing keeps them in: to
    the left, down, to the right and up, mm.
    """
    width, height = layout.paper.width, layout.paper.height
    endless = -width, -height, 2 * width, 2 * height
    boxes = {item.figure: layout.of(item.figure).extent for item in items}
    placed = dimensioned(items, layout, sized, wish, unit, wishes, endless)
    stand = [(each.pane[0], each.drawn) for own in placed for each in own]
    marks = axis_marks(items, layout, wish)
    stand += [(figure, mark) for figure, own in marks.items() for mark in own]
    rooms: dict[str, Box] = {}
    for figure, drawn in stand:
        x0, y0, x1, y1 = drawn.room.union(drawn.line).bounds
        left, low, right, high = boxes[figure]
        known = rooms.get(figure, (0.0, 0.0, 0.0, 0.0))
        reach = left - x0, low - y0, x1 - right, y1 - high
        a, b, c, d = (max(pair) for pair in zip(known, reach, strict=True))
        rooms[figure] = a, b, c, d
    return rooms


def dimension_ink(
    placed: Sequence[Sequence[PlacedDimension]], marks: Sequence[Drawn] = (),
) -> tuple[list[Ink], list[Region], list[Words]]:  # fmt: skip
    """Return the lines, heads and words of dimensions, and of marks that are drawn like them."""
    drawn = [*(each.drawn for own in placed for each in own), *marks]
    inks = [ink for one in drawn for ink in one.inks]
    regions = [region for one in drawn for region in one.regions]
    return inks, regions, [one.words for one in drawn]


def measures(placed: Sequence[Sequence[PlacedDimension]]) -> tuple[Measure, ...]:
    """Return the lengths among dimensions, each as one thing."""
    found = (each.drawn.measure(each.dimension.value) for own in placed for each in own)
    return tuple(one for one in found if one is not None)
