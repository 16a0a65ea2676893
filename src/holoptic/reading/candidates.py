"""The surfaces, edge-on in no view, that views may show."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import astuple

import numpy as np

from holoptic.part.walls import Wall
from holoptic.reading.lines import DrawnView
from holoptic.reading.planes import PLANES
from holoptic.reading.round_surfaces import round_surfaces
from holoptic.reading.skew_planes import skew_planes
from holoptic.reading.surfaces import RingSurface, Surface
from holoptic.tolerance import ROUGH_MM

_MOST = 24


def candidates(views: Sequence[DrawnView]) -> list[Surface | RingSurface]:
    """Return the surfaces that canonical views may show, the most telling first."""
    by_depth = {PLANES[view.name].depth: view for view in views}
    found: list[Surface | RingSurface] = []
    for surface in (*skew_planes(views), *round_surfaces(by_depth)):
        if not any(_are_one(surface.wall, other.wall) for other in found):
            found.append(surface)
    return found[:_MOST]


def _are_one(one: Wall | None, other: Wall | None) -> bool:
    """Say whether two walls are the same but for rounding."""
    if type(one) is not type(other) or one is None or other is None:
        return False
    a, b = (np.hstack([np.ravel(value) for value in astuple(wall)]) for wall in (one, other))
    return bool(np.abs(a - b).max() < ROUGH_MM)
