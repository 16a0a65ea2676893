"""What lies inside the outline of a view that is closed by curves which are no arcs.

Faces are found between straight lines and arcs alone; where a curve closes the outline they would
run out through it.
"""

from __future__ import annotations

import numpy as np
import shapely

from holoptic.reading.lines import DrawnView, Free
from holoptic.tolerance import APART_MM, DRAWN_MM, NEAR_LINE_MM

_GRID_MM = APART_MM


class Silhouette:
    """The area within an outline."""

    def __init__(self, area: shapely.Geometry) -> None:
        self._area = area
        shapely.prepare(area)

    def holds(self, us: np.ndarray, vs: np.ndarray) -> np.ndarray:
        """Say for places (us and vs of one shape) whether they lie within."""
        found: np.ndarray = shapely.contains_xy(self._area, us, vs)
        return found


def silhouette_of(view: DrawnView) -> Silhouette | None:
    """Return the area within the outline of a view, None where no free curve closes it."""
    free = [line.shape for line in view.drawn if isinstance(line.shape, Free)]
    if not free:
        return None
    paths = [shapely.LineString(line.shape.path()) for line in view.drawn]
    area = shapely.union_all(shapely.get_parts(
        shapely.polygonize([shapely.union_all(paths, grid_size=_GRID_MM)])))  # fmt: skip
    area = shapely.union_all([shapely.Polygon(shapely.get_exterior_ring(part))
                              for part in shapely.get_parts(area)])  # fmt: skip
    edge = area.boundary
    if not any(edge.distance(shapely.Point(_middle(shape))) < NEAR_LINE_MM for shape in free):
        return None
    return Silhouette(area.buffer(2 * DRAWN_MM))


def _middle(shape: Free) -> tuple[float, float]:
    at = (len(shape.points) - 1) // 2
    (a, b), (c, d) = shape.points[at], shape.points[min(at + 1, len(shape.points) - 1)]
    return (a + c) / 2, (b + d) / 2
