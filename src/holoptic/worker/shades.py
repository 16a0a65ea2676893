"""The shading of the pictorials on a sheet, worked out on their solids."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from holoptic.curves.vectors import unit
from holoptic.job import Posed, SheetOrder
from holoptic.keeping import about
from holoptic.sheet.drawing import Ink
from holoptic.sheet.planning import Item, Layout
from holoptic.sheet.shading import ShadedCell, shaded_cells
from holoptic.solid.shelf import opened, seen, shape_of
from holoptic.worker.settling import sound


def shades_on(order: SheetOrder, items: Sequence[Item], layout: Layout) -> list[Ink]:
    """Return the lines that shade the pictorials on a page."""
    there = {at.figure for at in layout.placed}
    return [
        ink for item in items if item.figure in there
        for cell in shaded_figure(order, item, layout) for ink in cell.inks
    ]  # fmt: skip


def shaded_figure(order: SheetOrder, item: Item, layout: Layout) -> list[ShadedCell]:
    """Return the dark faces of a drawing on a page; views have none."""
    asked = order.wish.shade != "none" and item.window is None
    posed = order.of(item.figure) if asked else None
    if posed is None or item.angle is not None:
        return []
    return _shaded(item, layout, posed, order)


def _shaded(item: Item, layout: Layout, posed: Posed, order: SheetOrder) -> list[ShadedCell]:
    ready, at = sound(posed)[0], layout.of(item.figure)
    made, opening = ready.source, ready.opening
    with about(posed.figure.subject):
        solid = seen(made) if opening is None else opened(made, opening)
        shape = shape_of(made)  # cut faces are none of its walls: they stay plain, and are hatched
    cells: list[ShadedCell] = []
    for picture, (x, y) in item.pictures:
        toward = unit(picture.view.toward_viewer)

        def nearest(points: np.ndarray, toward: tuple[float, float, float] = toward) -> np.ndarray:
            return solid.depths(toward, points)[:, 1]

        place = at.origin[0] + at.scale * x, at.origin[1] + at.scale * y
        cells += shaded_cells(picture, place, at.scale, shape, nearest, order.wish.shade)
    return cells
