"""What lies inside the outline of a view that is closed by curves which are no arcs.

Faces are found between straight lines and arcs alone; where a curve closes the outline they would
run out through it.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np
import shapely

from holoptic.reading.lines import DrawnView, Free
from holoptic.tolerance import APART_MM, CHORD_MM, DRAWN_MM, NEAR_LINE_MM

_GRID_MM = APART_MM
_SHARES = (0.5, 0.1, 0.3, 0.7, 0.9)


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
    paths += list(_bridges(paths))
    area = shapely.union_all(shapely.get_parts(
        shapely.polygonize([shapely.union_all(paths, grid_size=_GRID_MM)])))  # fmt: skip
    area = shapely.union_all([shapely.Polygon(shapely.get_exterior_ring(part))
                              for part in shapely.get_parts(area)])  # fmt: skip
    edge = area.boundary
    if not any(edge.distance(_along(shape)) < NEAR_LINE_MM for shape in free):
        return None
    return Silhouette(area.buffer(2 * DRAWN_MM))


def _bridges(paths: Sequence[shapely.LineString]) -> Iterator[shapely.LineString]:
    """Yield what leads from the ends of lines over to others that they all but end on: an outline
    touches a curve beside its chords.
    """
    tree = shapely.STRtree(paths)
    for number, path in enumerate(paths):
        for end in (path.coords[0], path.coords[-1]):
            point = shapely.Point(end)
            for other in tree.query(point, "dwithin", CHORD_MM).tolist():
                (a, b), (c, d) = shapely.shortest_line(point, paths[other]).coords
                size = math.hypot(c - a, d - b)
                if other != number and size > 0:
                    beyond = 1 + 2 * _GRID_MM / size
                    yield shapely.LineString([end, (a + beyond * (c - a), b + beyond * (d - b))])


def _along(shape: Free) -> shapely.MultiPoint:
    """Return places in the middle of chords: a curve that runs round may close it in part."""
    ends = np.array(shape.points)
    middles = (ends[:-1] + ends[1:]) / 2
    last = len(middles) - 1
    return shapely.MultiPoint(middles[[round(share * last) for share in _SHARES]])
