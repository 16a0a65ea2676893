"""Where the views stand beside each other (third angle: each on the side it is seen from)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from holoptic.curves.vectors import Vec2
from holoptic.pictorial import Picture

GAP_MM = 18.0
"""Between neighbouring views at scale 1:1, room for dimensions."""


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


def lay_out(views: dict[str, Picture], gap: float = GAP_MM) -> tuple[PlacedView, ...]:
    """Place the front view, the top view above it and the right-side view to its right."""
    front, top, right = views["front"], views["top"], views["right"]
    above = front.extent[3] + gap - top.extent[1]
    beside = front.extent[2] + gap - right.extent[0]
    return (
        PlacedView("front", front, (0.0, 0.0)),
        PlacedView("top", top, (0.0, above)),
        PlacedView("right", right, (beside, 0.0)),
    )


def layout_extent(placed: Sequence[PlacedView]) -> tuple[float, float, float, float]:
    """Return (xmin, ymin, xmax, ymax) of views laid out together, mm."""
    boxes = [view.extent for view in placed]
    return (
        min(box[0] for box in boxes),
        min(box[1] for box in boxes),
        max(box[2] for box in boxes),
        max(box[3] for box in boxes),
    )
