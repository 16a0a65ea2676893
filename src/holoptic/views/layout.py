"""Where the views stand beside each other.

Third angle: each view on the side it is seen from. First angle: on the opposite side.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from holoptic.curves.vectors import Vec2
from holoptic.job import Angle
from holoptic.pictorial import Picture
from holoptic.tolerance import COINCIDENT_MM

GAP_MM = 18.0
"""Between neighbouring views at scale 1:1, room for dimensions."""

_LEAST_SCALE = 1 / 1000
_APART = 3.8
"""The least between neighbours over the height of capitals: for a name, and a size."""


@dataclass(frozen=True)
class PlacedView:
    """A view with the paper position (mm at scale 1:1) of its own origin."""

    name: str
    picture: Picture
    origin: Vec2

    @property
    def extent(self) -> tuple[float, float, float, float]:
        """(xmin, ymin, xmax, ymax) in the layout, mm."""
        x, y = self.origin
        xmin, ymin, xmax, ymax = self.picture.extent
        return xmin + x, ymin + y, xmax + x, ymax + y


_SIDES: dict[Angle, dict[str, Vec2]] = {
    "third": {"top": (0, 1), "bottom": (0, -1), "right": (1, 0), "left": (-1, 0), "rear": (1, 0)},
    "first": {"top": (0, -1), "bottom": (0, 1), "right": (-1, 0), "left": (1, 0), "rear": (1, 0)},
}
"""On which side of the front view (right, up) each view stands; the rear view at the far right."""


def lay_out(
    views: dict[str, Picture], angle: Angle = "third", gap: float = GAP_MM
) -> tuple[PlacedView, ...]:
    """Place the views about the front view, each in line with it."""
    placed = [PlacedView("front", views["front"], (0.0, 0.0))]
    reach = list(views["front"].extent)
    for name, (right, up) in _SIDES[angle].items():
        if name not in views:
            continue
        xmin, ymin, xmax, ymax = views[name].extent
        if right:
            across = reach[2] + gap - xmin if right > 0 else reach[0] - gap - xmax
            placed.append(PlacedView(name, views[name], (across, 0.0)))
            reach[0], reach[2] = min(reach[0], xmin + across), max(reach[2], xmax + across)
        else:
            shift = reach[3] + gap - ymin if up > 0 else reach[1] - gap - ymax
            placed.append(PlacedView(name, views[name], (0.0, shift)))
    order = list(views)
    return tuple(sorted(placed, key=lambda view: order.index(view.name)))


def spaced(
    placed: Sequence[PlacedView], room: Vec2, letter: float
) -> tuple[tuple[PlacedView, ...], float]:
    """Return views set as far apart as a pane needs it, and the scale at which they fit it.

    `room` is the pane's width and height, `letter` the height of capitals there, both in pixels;
    the scale is in pixels per mm. Views that stand far enough apart stay as they are. Six views
    are stacked in two columns where a narrow pane shows them much larger so.
    """
    kept, scale = _spaced(placed, room, letter)
    stack = stacked(placed, _APART * letter)
    if stack is None:
        return kept, scale
    wide, tall = stack.size
    larger = min((room[0] - _APART * letter) / max(wide, COINCIDENT_MM),
                 (room[1] - 3 * _APART * letter) / max(tall, COINCIDENT_MM))  # fmt: skip
    left, low, right, high = layout_extent(kept)
    fit = min(scale, room[0] / max(right - left, COINCIDENT_MM),
              room[1] / max(high - low, COINCIDENT_MM))  # fmt: skip
    if larger <= _MUCH_LARGER * fit:
        return kept, scale
    return stack.at(_APART * letter / larger), larger


def _spaced(
    placed: Sequence[PlacedView], room: Vec2, letter: float
) -> tuple[tuple[PlacedView, ...], float]:
    apart = _APART * letter
    columns = sorted({(view.extent[0], view.extent[2]) for view in placed if view.origin[1] == 0})
    rows = sorted({(view.extent[1], view.extent[3]) for view in placed if view.origin[0] == 0})
    scales = []
    for spans, pixels in ((columns, room[0]), (rows, room[1])):
        needed = sum(high - low for low, high in spans)
        scales.append((pixels - apart * (len(spans) - 1)) / max(needed, COINCIDENT_MM))
    scale = max(min(scales), _LEAST_SCALE)
    if apart / scale <= GAP_MM:
        return tuple(placed), scale
    front = next(view for view in placed if view.name == "front")
    views = {view.name: view.picture for view in placed}
    x, y = front.origin
    made = lay_out(views, _angle_of(placed), apart / scale)
    return tuple(replace(view, origin=(view.origin[0] + x, view.origin[1] + y))
                 for view in made), scale  # fmt: skip


def _angle_of(placed: Sequence[PlacedView]) -> Angle:
    third = all(view.origin[1] >= 0 for view in placed if view.name == "top")
    return "third" if third else "first"


_MUCH_LARGER = 1.25
_STACKS: dict[Angle, tuple[tuple[str, str], ...]] = {
    "third": (("top", ""), ("front", "right"), ("bottom", ""), ("rear", "left")),
    "first": (("bottom", ""), ("front", "left"), ("top", ""), ("rear", "right")),
}
"""Rows of a stack from the top. Front, top, bottom and one side stay in line; rear and the other
side, which projection would set far out, stand below.
"""


@dataclass(frozen=True)
class Stack:
    """Six views in two columns."""

    rows: tuple[tuple[PlacedView, PlacedView | None], ...]

    @property
    def size(self) -> Vec2:
        """Width and height of the views without the room between them, mm at scale 1:1."""
        first = max(_wide(row[0]) for row in self.rows)
        second = max(_wide(row[1]) for row in self.rows if row[1] is not None)
        return first + second, sum(self._high(row) for row in self.rows)

    def _high(self, row: tuple[PlacedView, PlacedView | None]) -> float:
        return max(_tall(view) for view in row if view is not None)

    def at(self, gap: float) -> tuple[PlacedView, ...]:
        """Return the views in place, so many mm apart, in the order in which they came."""
        first = max(_wide(row[0]) for row in self.rows)
        made: dict[str, PlacedView] = {}
        down = 0.0
        for row in self.rows:
            down -= self._high(row)
            for view, across in zip(row, (0.0, first + gap), strict=True):
                if view is not None:
                    xmin, ymin, _, _ = view.picture.extent
                    made[view.name] = replace(view, origin=(across - xmin, down - ymin))
            down -= gap
        return tuple(made[name] for name in self.names)

    @property
    def names(self) -> list[str]:
        """The names of its views in the usual order."""
        own = [view.name for row in self.rows for view in row if view is not None]
        return sorted(own, key=_ORDER.index)


_ORDER = ("front", "top", "right", "left", "rear", "bottom")


def stacked(placed: Sequence[PlacedView], apart: float) -> Stack | None:
    """Return six views as a stack, None for fewer of them; `apart` must leave room for names."""
    by_name = {view.name: view for view in placed}
    if set(by_name) != set(_ORDER) or apart <= 0:
        return None
    rows = _STACKS[_angle_of(placed)]
    return Stack(tuple((by_name[one], by_name.get(two)) for one, two in rows))


def _wide(view: PlacedView | None) -> float:
    return view.extent[2] - view.extent[0] if view is not None else 0.0


def _tall(view: PlacedView) -> float:
    return view.extent[3] - view.extent[1]


def layout_extent(placed: Sequence[PlacedView]) -> tuple[float, float, float, float]:
    """Return (xmin, ymin, xmax, ymax) of views laid out together, mm."""
    boxes = [view.extent for view in placed]
    return (
        min(box[0] for box in boxes),
        min(box[1] for box in boxes),
        max(box[2] for box in boxes),
        max(box[3] for box in boxes),
    )
