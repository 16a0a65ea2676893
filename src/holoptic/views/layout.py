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
    the scale is in pixels per mm. Views that stand far enough apart stay as they are.
    """
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
    third = all(view.origin[1] >= 0 for view in placed if view.name == "top")
    views = {view.name: view.picture for view in placed}
    x, y = front.origin
    made = lay_out(views, "third" if third else "first", apart / scale)
    return tuple(replace(view, origin=(view.origin[0] + x, view.origin[1] + y))
                 for view in made), scale  # fmt: skip


def layout_extent(placed: Sequence[PlacedView]) -> tuple[float, float, float, float]:
    """Return (xmin, ymin, xmax, ymax) of views laid out together, mm."""
    boxes = [view.extent for view in placed]
    return (
        min(box[0] for box in boxes),
        min(box[1] for box in boxes),
        max(box[2] for box in boxes),
        max(box[3] for box in boxes),
    )
