"""In which plane each view lies, and from which side it is seen.

Reading works in canonical coordinates: u and v of a view grow with the part's own axes, and the
part's box begins at the origin.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.reading.lines import DrawnView, mirrored


@dataclass(frozen=True)
class Plane:
    """A view's two axes and its depth axis (0 length, 1 depth, 2 height).

    `turned` says which of the two runs the other way on paper; `near_is_high`, whether what is
    nearer to the viewer has the greater coordinate.
    """

    axes: tuple[int, int]
    depth: int
    turned: tuple[bool, bool]
    near_is_high: bool


PLANES = {
    "front": Plane((0, 2), 1, (False, False), False),
    "top": Plane((0, 1), 2, (False, False), True),
    "right": Plane((1, 2), 0, (False, False), True),
    "left": Plane((1, 2), 0, (True, False), False),
    "rear": Plane((0, 2), 1, (True, False), True),
    "bottom": Plane((0, 1), 2, (False, True), False),
}


OPPOSITE = {"front": "rear", "rear": "front", "right": "left", "left": "right", "top": "bottom",
            "bottom": "top"}  # fmt: skip


def canonical(view: DrawnView) -> DrawnView:
    """Return a view in canonical coordinates, its box beginning at the origin.

    It is its own inverse but for the place of the origin. Raises ValueError for an empty view.
    """
    across, up = PLANES[view.name].turned
    lines, smooth = (
        tuple(replace(x, shape=mirrored(x.shape, across, up)) for x in some)
        for some in (view.lines, view.smooth)
    )
    turned = replace(view, lines=lines, smooth=smooth)
    xmin, ymin, _, _ = turned.box
    return turned.moved(-xmin, -ymin)


def placed(depth: int, across: Vec2, at: float) -> Vec3:
    """Return the point at a place of the canonical view along an axis, `at` so far along that."""
    u, v = (axis for axis in range(3) if axis != depth)
    place = [0.0, 0.0, 0.0]
    place[u], place[v], place[depth] = across[0], across[1], at
    return place[0], place[1], place[2]
