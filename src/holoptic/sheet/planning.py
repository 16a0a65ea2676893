"""Planning the sheet: paper, scale and the place of every drawing, before the first line.

Drawings stand in rows, with even gaps between them and to border and title block. Every paper of
a series, both ways round, at every standard scale is tried; what fits is ranked with its reasons.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import shapely

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.job import PLAIN_LINES, Angle, LineSchool, SheetWish
from holoptic.pictorial import Picture
from holoptic.sheet.frames import Box, drawing_area, list_height
from holoptic.sheet.papers import (
    LARGEST_SCALE,
    PAPERS,
    SMALLEST_SCALE,
    Paper,
    paper_named,
    scales_of,
    shown_scale,
)
from holoptic.sheet.part_marks import MARKS_MM
from holoptic.spread.parts_list import ListedPart
from holoptic.tolerance import ROUNDING, SEEN_MM
from holoptic.units.spoken import measure

ANSWERS = 5
"""So many answers stand side by side."""

_LARGEST_ROOM_MM = 100.0
_MOST_IN_ANY_ROWS = 7
OWN_SCALE_CAPTION_MM = 6.0
"""Room under a figure whose scale is not that of the sheet: its scale must stand there."""


@dataclass(frozen=True)
class Circle:
    """A circle about a piece of a drawing: letter, middle and radius, mm at 1:1."""

    letter: str
    middle: Vec2
    radius: float

    @property
    def box(self) -> Box:
        """What it takes up."""
        (x, y), r = self.middle, self.radius
        return x - r, y - r, x + r, y + r


@dataclass(frozen=True)
class Item:
    """A drawing to be placed: its figure's id and title, its extent and pictures, mm at 1:1.

    Each picture comes with the place of its own origin. `lines` says which lines are drawn,
    `angle` how orthographic views are laid out, None for a pictorial; `scale` is its own scale,
    None that of the sheet. `listed` is the parts list by which its parts are numbered,
    `names` are those of the bodies of an arrangement. `above_mm` is how much its sheet's title
    block has grown, `at` where a hand has put its lower left corner on the page, mm. `rooms` is how
    far its dimensions reach out of it to the left, down, to the right and up, mm; `start` is the
    corner that a pictorial is built from. A detail shows
    what of the pictures lies in its `window`; `circles` are those of details on the whole drawing.
    """

    figure: str
    title: str
    extent: Box
    pictures: tuple[tuple[Picture, Vec2], ...]
    lines: LineSchool = PLAIN_LINES
    angle: Angle | None = None
    scale: float | None = None
    listed: tuple[ListedPart, ...] = ()
    names: tuple[str, ...] = ()
    above_mm: float = 0.0
    at: Vec2 | None = None
    rooms: Box = (0.0, 0.0, 0.0, 0.0)
    start: Vec2 | None = None
    window: Circle | None = None
    circles: tuple[Circle, ...] = ()

    @property
    def aside_mm(self) -> float:
        """Room on paper at each side for the numbers of its parts."""
        return MARKS_MM if self.listed else 0.0

    def scale_on(self, sheet_scale: float) -> float:
        """Return the scale at which it is drawn on a sheet of a scale."""
        return sheet_scale if self.scale is None else self.scale


@dataclass(frozen=True)
class PlacedFigure:
    """Where a figure stands: extent and own origin, mm from the page's corner; its scale."""

    figure: str
    extent: Box
    origin: Vec2
    scale: float = 1.0


@dataclass(frozen=True)
class Layout:
    """A sheet with its drawings placed.

    `gap` is the least distance kept inside the border and between drawings with the room for
    dimensions and captions about them, `fill` how much of the room is taken, across or up.
    `over_title` is what stands over the usual title block, mm.
    """

    paper: Paper
    scale: float
    placed: tuple[PlacedFigure, ...]
    gap: float
    fill: float
    over_title: float = 0.0

    @property
    def scale_text(self) -> str:
        """The scale as the title block states it."""
        return shown_scale(self.scale, self.paper.series)

    def of(self, figure_id: str) -> PlacedFigure:
        """Return where a figure stands. Raises KeyError."""
        for item in self.placed:
            if item.figure == figure_id:
                return item
        raise KeyError(figure_id)

    def scale_text_of(self, figure_id: str) -> str:
        """The scale of a figure, as it is stated."""
        return shown_scale(self.of(figure_id).scale, self.paper.series)

    @property
    def reasons(self) -> str:
        """Why one would take it, in a line, its lengths marked (`units.spoken`)."""
        if self.scale == 1:
            how = tr("straight off the rule")
        elif self.scale > 1:
            how = tr("all times {scale:g}", scale=self.scale)
        else:
            how = tr("all over {scale:g}", scale=1 / self.scale)
        return tr(
            "{how}; fills {fill:.0f} %; {gap} free",
            how=how,
            fill=100 * self.fill,
            gap=measure(round(self.gap)),
        )


@dataclass(frozen=True)
class WayOut:
    """A change of what is asked of the sheet after which everything fits.

    `moved` is the id of a figure that is put on a sheet of its own, if it is that; `in_rows` says
    that drawings which a hand has put somewhere stand in rows again.
    """

    words: str
    wish: SheetWish
    moved: str | None = None
    in_rows: bool = False


@dataclass(frozen=True)
class Misfit:
    """Why the drawings do not fit as asked, and the ways out, the mildest first."""

    trouble: str
    ways_out: tuple[WayOut, ...]

    def __str__(self) -> str:
        words = "; ".join(way.words for way in self.ways_out)
        return (
            tr("{trouble}; what helps: {words}", trouble=self.trouble, words=words)
            if words
            else self.trouble
        )


def require_sound(wish: SheetWish) -> None:
    """Raise BadInput where a sheet is asked for that cannot be."""
    if wish.paper is not None:
        paper_named(wish.paper)
    require_scale(wish.scale)
    for name, room in (("margin", wish.margin_mm), (tr("room for dimensions"), wish.dimensions_mm),
                       (tr("room for captions"), wish.caption_mm)):  # fmt: skip
        if not 0 <= room <= _LARGEST_ROOM_MM:
            raise BadInput(
                tr(
                    "the {name} must lie between 0 and {largest_room_mm}",
                    name=name,
                    largest_room_mm=measure(_LARGEST_ROOM_MM),
                )
            )


def require_scale(scale: float | None) -> None:
    """Raise BadInput for a scale that cannot be drawn."""
    if scale is not None and not SMALLEST_SCALE <= scale <= LARGEST_SCALE:
        raise BadInput(tr("a scale of {scale:g} cannot be drawn", scale=scale))


def plan_sheet(items: Sequence[Item], wish: SheetWish) -> tuple[tuple[Layout, ...], Misfit | None]:
    """Return the layouts that fit what is asked, the best first, and a misfit where none does.

    With a misfit the layouts are those of the ways out.
    """
    found = sorted(_layouts(items, wish), key=_penalty)
    if found:
        return _varied(found), None
    ways = tuple(_ways_out(items, wish))
    others = tuple(min(_layouts(_staying(items, way), way.wish), key=_penalty) for way in ways)
    return others, Misfit(_trouble(items, wish), ways)


def best_layout(items: Sequence[Item], wish: SheetWish) -> Layout:
    """Return the best layout. Raises BadInput with the ways out where nothing fits."""
    layouts, misfit = plan_sheet(items, wish)
    if misfit is not None:
        raise BadInput(str(misfit))
    return layouts[0]


def accepted(wish: SheetWish, layout: Layout) -> SheetWish:
    """Return what is asked of the sheet with a layout's paper and scale taken."""
    paper = layout.paper
    return replace(wish, series=paper.series, paper=paper.name, upright=paper.is_upright,
                   scale=layout.scale)  # fmt: skip


# --- trying -----------------------------------------------------------------------------------


def _layouts(items: Sequence[Item], wish: SheetWish) -> Iterator[Layout]:
    for paper, scale in _candidates(items, wish):
        layout = _arranged(items, paper, scale, wish)
        if layout is not None:
            yield layout


def _candidates(items: Sequence[Item], wish: SheetWish) -> Iterator[tuple[Paper, float]]:
    papers = (
        [paper for paper in PAPERS if paper.series == wish.series]
        if wish.paper is None
        else [paper_named(wish.paper)]
    )
    ways = (False, True) if wish.upright is None else (wish.upright,)
    # where every figure has its own scale the sheet's is that of the first
    own = [item.scale for item in items if item.scale is not None]
    given = own[0] if len(own) == len(items) else wish.scale
    for paper in papers:
        scales = scales_of(paper.series) if given is None else (given,)
        for upright in ways:
            for scale in scales:
                yield paper.turned(upright), scale


def _penalty(layout: Layout) -> float:
    """Return how far a layout is from what a drafter would take first.

    Full size comes first, as distances are read straight off a rule; then the smaller paper, on
    its long side, well filled. Small things are enlarged rather than drawn where they cannot be
    read.
    """
    doublings = math.log2(layout.scale)
    odd = 0.1 * doublings if doublings > 0 else -doublings
    series = [paper for paper in PAPERS if paper.series == layout.paper.series]
    size = (0.0, 0.5, 1.6, 2.6, 3.6)[
        next(k for k, paper in enumerate(series) if paper.name == layout.paper.name)
    ]
    empty = 2 * max(0.7 - layout.fill, 0.0)
    return odd + size + empty + (0.3 if layout.paper.is_upright else 0.0)


def _varied(found: Sequence[Layout]) -> tuple[Layout, ...]:
    """Return the best few, each paper with each scale once."""
    kept: dict[tuple[str, float], Layout] = {}
    for layout in found:
        kept.setdefault((layout.paper.name, layout.scale), layout)
    return tuple(list(kept.values())[:ANSWERS])


def _arranged(items: Sequence[Item], paper: Paper, scale: float, wish: SheetWish) -> Layout | None:
    """Return the arrangement in rows with the widest gaps, or None where none keeps the margin."""
    sizes = [_block(item, scale, wish) for item in items]
    best, rows = max(
        ((_gaps(sizes, rows, _area(items, paper)), rows) for rows in _rows(len(items))),
        key=lambda found: min(found[0]),
    )
    if min(best) < wish.margin_mm - ROUNDING:
        return None
    layout = _placed_in_rows(items, sizes, rows, paper, scale, wish)
    return _put_by_hand(items, layout, wish)


def _put_by_hand(items: Sequence[Item], layout: Layout, wish: SheetWish) -> Layout | None:
    """Return a layout with those drawings moved that a hand has put somewhere, or None where they
    would leave the sheet or run into another one.
    """
    if all(item.at is None for item in items):
        return layout
    placed = tuple(
        at if item.at is None else _placed_at(item, layout.scale, *item.at)
        for item, at in zip(items, layout.placed, strict=True)
    )
    blocks = [_around(item, at, wish) for item, at in zip(items, placed, strict=True)]
    area = shapely.box(*_area(items, layout.paper)).buffer(ROUNDING)
    stand = all(area.contains(block) for block in blocks)
    bare = [shapely.box(*at.extent) for at in placed]
    apart = all(not block.buffer(-SEEN_MM).intersects(other) for k, block in enumerate(blocks)
                for j, other in enumerate(bare) if j != k)  # fmt: skip
    return replace(layout, placed=placed) if stand and apart else None


def _around(item: Item, at: PlacedFigure, wish: SheetWish) -> shapely.Polygon:
    """Return what a drawing takes with the room about it, as far as that may not be shared."""
    xmin, ymin, xmax, ymax = at.extent
    return shapely.box(xmin, ymin - caption_room(item, wish), xmax, ymax)


def _block(item: Item, scale: float, wish: SheetWish) -> Vec2:
    """Return the size that a drawing takes with the room about it, mm on paper."""
    xmin, ymin, xmax, ymax = item.extent
    scale = item.scale_on(scale)
    left, low, right, high = rooms_about(item, wish)
    wide = scale * (xmax - xmin) + left + right + 2 * item.aside_mm
    return wide, scale * (ymax - ymin) + low + high + caption_room(item, wish)


def rooms_about(item: Item, wish: SheetWish) -> Box:
    """Return the room kept for dimensions to the left of a drawing, below, to the right, above, mm:
    what they need, but at least what is asked for. A detail has none.
    """
    if item.window is not None:
        return 0.0, 0.0, 0.0, 0.0
    is_kept = wish.dimensions == "auto" or wish.axis_angles == "show"
    needed = item.rooms if is_kept else (0.0, 0.0, 0.0, 0.0)
    left, low, right, high = (max(room, wish.dimensions_mm) for room in needed)
    return left, low, right, high


def _area(items: Sequence[Item], paper: Paper) -> Box:
    return drawing_area(paper, over_title(items))


def over_title(items: Sequence[Item]) -> float:
    """Return what stands over the usual title block: more rows of it, a parts list; mm."""
    rows = max((len(item.listed) for item in items), default=0)
    return list_height(rows) + max((item.above_mm for item in items), default=0.0)


def caption_room(item: Item, wish: SheetWish) -> float:
    """Return the room kept under a drawing for its name and its own scale, mm."""
    least = 0.0 if item.scale is None else OWN_SCALE_CAPTION_MM
    return max(wish.caption_mm, least)


def _rows(count: int) -> Iterator[tuple[tuple[int, ...], ...]]:
    """Yield the ways to set drawings out in rows, their order kept: every one, but for many
    drawings, as the ways double with each, those with as many in each row.
    """
    if count > _MOST_IN_ANY_ROWS:
        for wide in range(1, count + 1):
            yield tuple(
                tuple(range(first, min(first + wide, count))) for first in range(0, count, wide)
            )
        return
    for breaks in range(2 ** (count - 1)):
        rows: list[list[int]] = [[0]]
        for index in range(1, count):
            if breaks >> (index - 1) & 1:
                rows.append([])
            rows[-1].append(index)
        yield tuple(tuple(row) for row in rows)


def _gaps(sizes: Sequence[Vec2], rows: Sequence[Sequence[int]], area: Box) -> list[float]:
    """Return the even gap up and down, and that of each row across, mm."""
    xmin, ymin, xmax, ymax = area
    heights = sum(max(sizes[index][1] for index in row) for row in rows)
    up = (ymax - ymin - heights) / (len(rows) + 1)
    across = [
        (xmax - xmin - sum(sizes[index][0] for index in row)) / (len(row) + 1) for row in rows
    ]
    return [up, *across]


def _placed_in_rows(
    items: Sequence[Item], sizes: Sequence[Vec2], rows: Sequence[Sequence[int]], paper: Paper,
    scale: float, wish: SheetWish,
) -> Layout:  # fmt: skip
    area = xmin, ymin, xmax, ymax = _area(items, paper)
    up, *across = _gaps(sizes, rows, area)
    placed: dict[int, PlacedFigure] = {}
    top, fill = ymax, 0.0
    for row, gap in zip(rows, across, strict=True):
        height = max(sizes[index][1] for index in row)
        top -= up
        left = xmin + gap
        for index in row:
            room_left, room_low, _, _ = rooms_about(items[index], wish)
            below = caption_room(items[index], wish) + room_low
            low = top - height / 2 - sizes[index][1] / 2 + below
            aside = room_left + items[index].aside_mm
            placed[index] = _placed_at(items[index], scale, left + aside, low)
            left += sizes[index][0] + gap
        top -= height
        fill = max(fill, 1 - gap * (len(row) + 1) / (xmax - xmin))
    fill = max(fill, 1 - up * (len(rows) + 1) / (ymax - ymin))
    order = tuple(placed[index] for index in range(len(items)))
    return Layout(paper, scale, order, min(up, *across), fill, over_title(items))


def _placed_at(item: Item, scale: float, left: float, low: float) -> PlacedFigure:
    xmin, ymin, xmax, ymax = item.extent
    scale = item.scale_on(scale)
    box = left, low, left + scale * (xmax - xmin), low + scale * (ymax - ymin)
    return PlacedFigure(item.figure, box, (left - scale * xmin, low - scale * ymin), scale)


# --- where nothing fits -----------------------------------------------------------------------


def _trouble(items: Sequence[Item], wish: SheetWish) -> str:
    """Say by how much the drawings do not fit, at the best of what is asked for."""
    in_rows = [replace(item, at=None) for item in items]
    if in_rows != [*items] and any(True for _ in _layouts(in_rows, wish)):
        return tr("a drawing has no room where it was put: it would leave the sheet, or run into "
                  "another one or the title block")  # fmt: skip
    paper, scale, gaps = max(
        (
            (
                paper,
                scale,
                _gaps([_block(item, scale, wish) for item in items], rows, _area(items, paper)),
            )
            for paper, scale in _candidates(items, wish)
            for rows in _rows(len(items))
        ),
        key=lambda tried: min(tried[2]),
    )
    up, across = gaps[0], min(gaps[1:])
    what = tr("the drawings") if len(items) > 1 else tr("the drawing")
    if wish.paper is None and wish.scale is None:
        words = shown_scale(scale, paper.series)
        return tr(
            "{what} would be too large for any paper, even at {words}", what=what, words=words
        )
    lacks = [
        words
        for lack, words in (
            (
                wish.margin_mm - across,
                tr("{size} across", size=measure(round(wish.margin_mm - across))),
            ),
            (wish.margin_mm - up, tr("{size} up", size=measure(round(wish.margin_mm - up)))),
        )
        if lack > ROUNDING
    ]
    by = tr("{one} and {other}", one=lacks[0], other=lacks[1]) if len(lacks) > 1 else lacks[0]
    return tr(
        "{what} will not fit on {paper} at {scale}: the gaps would fall short by {by}",
        what=what, paper=paper.title, scale=shown_scale(scale, paper.series), by=by,
    )  # fmt: skip


def _ways_out(items: Sequence[Item], wish: SheetWish) -> Iterator[WayOut]:
    """Yield the mildest changes after which it fits, at most one of each sort."""
    for way in _changes(items, wish):
        if any(True for _ in _layouts(_staying(items, way), way.wish)):
            yield way


def _staying(items: Sequence[Item], way: WayOut) -> list[Item]:
    """Return the drawings that stay on the sheet with a way out, as they stand then."""
    stay = [item for item in items if item.figure != way.moved]
    return [replace(item, at=None) for item in stay] if way.in_rows else stay


def _changes(items: Sequence[Item], wish: SheetWish) -> Iterator[WayOut]:
    if any(item.at is not None for item in items):
        yield WayOut(tr("all drawings in rows again"), wish, in_rows=True)
    series = wish.series if wish.paper is None else paper_named(wish.paper).series
    free = replace(wish, series=series, paper=None, upright=None)
    if wish.upright is not None:
        words = (
            tr("turn the sheet on its long side") if wish.upright else tr("stand the sheet upright")
        )
        yield WayOut(words, replace(wish, upright=not wish.upright))
    if wish.dimensions == "auto":
        without = replace(wish, dimensions="none", dimensions_mm=0.0)
        yield WayOut(tr("leave out the dimensions"), without)
    elif wish.dimensions_mm > 0:
        yield WayOut(tr("leave out the room for dimensions"), replace(wish, dimensions_mm=0.0))
    if wish.margin_mm > 5:
        yield WayOut(tr("margins of {value}", value=measure(5)), replace(wish, margin_mm=5.0))
    if wish.scale is not None:
        yield WayOut(tr("another scale on this paper"), replace(wish, scale=None))
    if wish.paper is not None:
        yield WayOut(tr("another paper at this scale"), free)
    for item in [item for item in items[1:] if item.window is None]:
        yield WayOut(tr("a sheet of its own for the {title}", title=item.title), wish, item.figure)
    if wish.paper is not None or wish.scale is not None:
        yield WayOut(tr("another paper and another scale"), replace(free, scale=None))
