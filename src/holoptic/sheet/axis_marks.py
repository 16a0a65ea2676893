"""The angles at which the axes of a pictorial run, marked at the corner that it is built from."""

from __future__ import annotations

import math
from collections.abc import Sequence

from holoptic.job import SheetWish
from holoptic.sheet.dimension_ink import Drawn, drawn_angle
from holoptic.sheet.planning import Item, Layout

_RADIUS_MM, _ARC_MM, _LARGEST_MM = 18.0, 7.2, 70.0
_SQUARE_DEG = 0.5
"""An axis that runs level or upright within this needs no mark."""


def axis_marks(items: Sequence[Item], layout: Layout, wish: SheetWish) -> dict[str, list[Drawn]]:
    """Return the marks of each pictorial on a page, by its figure, where they are asked for."""
    if wish.axis_angles == "none":
        return {}
    return {item.figure: _marks(item, layout) for item in items if item.start is not None}


def _marks(item: Item, layout: Layout) -> list[Drawn]:
    at, view = layout.of(item.figure), item.pictures[0][0].view
    if item.start is None or view.corner is None:
        return []
    corner = tuple(at.origin[k] + at.scale * item.start[k] for k in range(2))
    made = []
    for axis, near in zip((0, 1), view.corner.signs, strict=False):
        # from the near corner the crate lies the other way along both axes
        angle = (view.axis_angle(axis) + (180.0 if near > 0 else 0.0) + 180.0) % 360.0 - 180.0
        if min(abs(angle) % 90.0, 90.0 - abs(angle) % 90.0) < _SQUARE_DEG:
            continue
        level = 0.0 if abs(angle) < 90.0 else 180.0
        sweep = (angle - level + 180.0) % 360.0 - 180.0
        # a small angle needs a long arc, or there is no room for its heads
        radius = min(max(_RADIUS_MM, _ARC_MM / math.radians(abs(sweep))), _LARGEST_MM)
        mark = drawn_angle(f"{abs(sweep):.4g}°", (corner[0], corner[1]), level, sweep, radius)
        if mark is not None:
            made.append(mark)
    return made
