"""From a sketch to its views: strokes, boxes, order, and figures that tell where all of it lies."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.checking.pictures.ink import Grey
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.paper.axis_levels import Levels
from holoptic.paper.freehand.outlines import outlined
from holoptic.paper.freehand.part_levels import common_levels
from holoptic.paper.freehand.placing import (
    Known,
    Placed,
    Ring,
    known_of,
    placed_levels,
    radius_of,
)
from holoptic.paper.freehand.strokes import strokes_of
from holoptic.paper.freehand.view_order import Edge, Numbers, OrderedView, Round, ordered
from holoptic.paper.given import Sizes, TrueLevels
from holoptic.paper.scan.frame import lie_flat, whole_picture
from holoptic.paper.scan.levels import SHORTEST_MM
from holoptic.paper.scan.roles import Found
from holoptic.paper.scan.sheet import (
    FlatSheet,
    Interpreted,
    held_as,
    ink_of,
    on_sheet,
    sides_of,
    tidied,
    upright_line,
)
from holoptic.paper.scan.views import lines_in
from holoptic.part.crate import AXIS_NAMES
from holoptic.progress import tell
from holoptic.reading.arrangement import Arrangement, ViewOnSheet, Wish, arrange
from holoptic.reading.figures import plain_mm
from holoptic.reading.lines import Bow, Box, DrawnLine, Shape, Straight, box_of, moved
from holoptic.reading.planes import PLANES, Plane
from holoptic.tolerance import SHARE

_IN_LINE = 0.6
"""Views that share so much of the smaller one's width or height stand in line."""


@dataclass(frozen=True)
class _View:
    """A view: its name, its box on paper (mm) as it was drawn and as it was meant to stand, its
    lines by its own levels, and for each of these, across and up, which level of the part it is.
    """

    name: str
    box: Box
    straight: Box
    order: OrderedView
    numbers: tuple[tuple[int, ...], ...] = ()

    @property
    def plane(self) -> Plane:
        """Which axes of the part it shows."""
        return PLANES[self.name]


def interpret_sketch(
    sheet: FlatSheet, wish: Wish = "auto", sizes: Sizes = (None, None, None),
    boxes: Sequence[Box] = (), true: Sequence[TrueLevels] = ((), (), ()),
) -> Interpreted:  # fmt: skip
    """Return the views of a sketch that lies flat: like `scan.sheet.interpret`, but places come
    from the figures alone. Raises BadInput for fewer than two views.
    """
    given = list(boxes) if boxes else list(sheet.boxes)
    lumps = [lines_in(sheet.lines, box) for box in given]
    lumps = [lump for lump in lumps if sum(line.role == "visible" for line in lump) > 1]
    if len(lumps) < 2:
        raise BadInput(tr("fewer than two views were found in the sketch: draw a box about each"))
    views, rough = _named(lumps, wish)
    views, measured = _told_apart(views)
    rings = [ring for view in views for ring in _rings(view)]
    known = [known_of(*one) for one in zip(measured, sizes, true, strict=True)]
    for axis, own in enumerate(known):
        _require_order(own, axis)
    placed = placed_levels(measured, known, rings)
    levels = tuple(Levels(at, one.at) for at, one in zip(measured, placed, strict=True))
    used = [_used(views, axis) for axis in range(3)]
    asked = tuple((axis, measured[axis][number]) for axis in range(3)
                  for number in sorted(placed[axis].asked & used[axis]))  # fmt: skip
    # while figures are wanted, views lie over the sketch as it was drawn; then none comes nearer to
    # another than it was
    at = [Placed(own, frozenset()) for own in measured] if asked else placed
    scale = 0.0 if asked else max(one.scale for one in levels)
    arrangement = Arrangement(rough.angle, tuple(
        _on_sheet(view, at, scale) for view in views), rough.remarks)  # fmt: skip
    boxes = tuple(view.box for view in views)
    return Interpreted(arrangement, boxes, levels, scale or 1.0, asked)


def _require_order(known: Known, axis: int) -> None:
    """Raise BadInput unless figures grow as the levels do that they are told of."""
    last = 0.0
    for _, place in sorted(known.items()):
        if place < last:  # one place may have been drawn as two
            raise BadInput(tr(
                "along the {axis_names} {place} mm comes after {before} mm in the sketch: places "
                "are counted from the left, the front, the floor",
                axis_names=AXIS_NAMES[axis], place=plain_mm(place), before=plain_mm(last),
            ))  # fmt: skip
        last = place


def flat_sketch(picture: Grey, corners: Sequence[Vec2] | None, paper: Vec2) -> FlatSheet:
    """Return a sketch laid flat with its strokes. It has no border; `corners` (dots, lower left
    first) are those of its paper (mm, long side first) where they are known.
    """
    tell(tr("making the sheet straight"), 0.2)
    found = tuple(corners) if corners else whole_picture(picture)
    size = held_as(found, paper)
    flat = lie_flat(picture, found, size)
    tell(tr("looking for lines"), 0.4)
    ink = ink_of(flat, has_border=False)
    boxes, inside = outlined(ink.mask)
    tell(tr("following each line"), 0.7)
    # an extension line goes on from an edge, so what lies outside is followed by itself
    strokes = [*strokes_of(ink.mask & inside), *strokes_of(ink.mask & (1 - inside))]
    lines = tuple(upright_line(line, size[1]) for line in strokes)
    return FlatSheet(flat, size, found, has_border=bool(corners), lines=lines,
                     boxes=tuple(_upright_box(box, size[1]) for box in boxes))  # fmt: skip


def _upright_box(box: Box, high: float) -> Box:
    (left, low), (right, top) = on_sheet((box[0], box[3]), high), on_sheet((box[2], box[1]), high)
    return left, low, right, top


# --- which view is which --------------------------------------------------------------------------


def _named(lumps: Sequence[Sequence[Found]], wish: Wish) -> tuple[list[_View], Arrangement]:
    boxes = [box_of([x.shape for x in lump if x.role != "centre"]) for lump in lumps]
    straight = _in_line(boxes)
    rough = arrange([DrawnLine(side) for box in straight for side in sides_of(box)], wish)
    views = []
    for view in rough.views:
        k = min(range(len(boxes)), key=lambda n: math.dist(straight[n][:2], view.box[:2]))
        views.append(_View(view.name, boxes[k], straight[k], ordered(lumps[k])))
    return views, rough


def _in_line(boxes: Sequence[Box]) -> list[Box]:
    """Return boxes as they were meant: those that nearly stand in line do, and are as large."""
    found = [list(box) for box in boxes]
    for k in (0, 1):
        left = list(range(len(boxes)))
        while left:
            row = [left.pop(0)]
            row += [n for n in left if _share(boxes[row[0]], boxes[n], k) > _IN_LINE
                    and _share(boxes[row[0]], boxes[n], 1 - k) <= 0]  # fmt: skip
            left = [n for n in left if n not in row]
            for side in (k, k + 2):
                mean = sum(boxes[n][side] for n in row) / len(row)
                for n in row:
                    found[n][side] = mean
    return [(a, b, c, d) for a, b, c, d in found]


def _share(one: Box, other: Box, k: int) -> float:
    """Return how much of the smaller box's extent along an axis both have."""
    shared = min(one[k + 2], other[k + 2]) - max(one[k], other[k])
    return shared / max(min(one[k + 2] - one[k], other[k + 2] - other[k]), SHARE)


# --- levels of the part ---------------------------------------------------------------------------


def _told_apart(views: Sequence[_View]) -> tuple[list[_View], list[tuple[float, ...]]]:
    """Return views with their levels as those of the part, and where these were drawn (mm of paper
    from the low side of each axis).
    """
    numbers: dict[tuple[int, int], tuple[int, ...]] = {}
    measured = []
    for axis in range(3):
        shown = [(n, view.plane.axes.index(axis)) for n, view in enumerate(views)
                 if axis in view.plane.axes]  # fmt: skip
        common = common_levels([_row(views[n], k) for n, k in shown])
        measured.append(common.at)
        for (n, k), own in zip(shown, common.numbers, strict=True):
            numbers[n, k] = own[::-1] if views[n].plane.turned[k] else own
    return [replace(view, numbers=(numbers[n, 0], numbers[n, 1]))
            for n, view in enumerate(views)], measured  # fmt: skip


def _row(view: _View, k: int) -> list[float]:
    """Return the levels of a view as the part's axis runs."""
    own = view.order.levels[k]
    return [-at for at in reversed(own)] if view.plane.turned[k] else list(own)


def _used(views: Sequence[_View], axis: int) -> frozenset[int]:
    """Return the numbers of the levels along an axis that something lies on."""
    found: set[int] = set()
    for view in views:
        for k, own in enumerate(view.plane.axes):
            if own == axis:
                found |= {view.numbers[k][n] for line in view.order.lines for n in line.on(k)}
    return frozenset(found)


def _rings(view: _View) -> Iterator[Ring]:
    for line in view.order.lines:
        if isinstance(line, Round):
            yield _ring(view, line)


def _ring(view: _View, line: Round) -> Ring:
    low, high = list(line.low), list(line.high)
    for k in (0, 1):
        if view.plane.turned[k]:
            low[k], high[k] = high[k], low[k]

    def number(k: int, n: int | None) -> int | None:
        return None if n is None else view.numbers[k][n]

    return Ring(
        view.plane.axes, (number(0, low[0]), number(1, low[1])),
        (view.numbers[0][line.centre[0]], view.numbers[1][line.centre[1]]),
        (number(0, high[0]), number(1, high[1])),
    )  # fmt: skip


# --- views of the part ----------------------------------------------------------------------------


def _on_sheet(view: _View, placed: Sequence[Placed], scale: float) -> ViewOnSheet:
    """Return a view with its lines where the levels lie, at its place on the paper: as it was drawn
    (0), or in line with the others at a scale.
    """

    def at(place: Numbers) -> Vec2:
        found = []
        for k, axis in enumerate(view.plane.axes):
            own = placed[axis].at
            here = own[view.numbers[k][place[k]]]
            found.append(own[-1] - here if view.plane.turned[k] else here)
        return found[0], found[1]

    places = [one.at for one in placed]
    lines = [DrawnLine(shape, line.status) for line in view.order.lines
             if (shape := _shape(view, line, at, places)) is not None]  # fmt: skip
    drawn = view.order.levels[0][0], view.order.levels[1][0]
    corner = (scale * view.straight[0], scale * view.straight[1]) if scale else drawn
    return ViewOnSheet(view.name, tuple(
        replace(line, shape=moved(line.shape, *corner)) for line in tidied(lines)))  # fmt: skip


def _shape(
    view: _View, line: Edge | Round, at: Callable[[Numbers], Vec2],
    places: Sequence[Sequence[float]],
) -> Shape | None:  # fmt: skip
    if isinstance(line, Edge):
        start, end = at(line.start), at(line.end)
        return Straight(start, end) if math.dist(start, end) > SHORTEST_MM else None
    radius, centre = radius_of(_ring(view, line), places), at(line.centre)
    if radius < SHORTEST_MM:
        return None
    if line.ends is None:
        return Bow(centre, radius, 0.0, math.tau)
    first, last = (math.atan2(y - centre[1], x - centre[0]) for x, y in map(at, line.ends))
    return Bow(centre, radius, first % math.tau,
               first % math.tau + ((last - first) % math.tau or math.tau))  # fmt: skip
