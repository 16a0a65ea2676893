"""How far an operation reaches, exactly, along the crate's axes."""

from __future__ import annotations

import math
from collections.abc import Iterable

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.part.crate import Crate
from holoptic.part.expand import basics
from holoptic.part.operations import (
    Basic,
    CornerCut,
    Operation,
    Polygon,
    Prism,
    Pyramid,
    Strip,
    extent_mm,
    reach_mm,
)
from holoptic.part.outline import Side, sides_of
from holoptic.part.strips import strip_area

Bounds = tuple[Vec3, Vec3]


def bounds_of(operation: Operation, crate: Crate) -> Bounds | None:
    """Return the low and the high corner of an operation with all its copies, mm.

    None for one that is off or cannot be made.
    """
    try:
        places = [place for basic in basics(operation, crate) for place in _places(basic, crate)]
    except ValueError:
        return None
    if not places:
        return None
    xs, ys, zs = zip(*places, strict=True)
    return (min(xs), min(ys), min(zs)), (max(xs), max(ys), max(zs))


def _places(basic: Basic, crate: Crate) -> list[Vec3]:
    if isinstance(basic, CornerCut):
        return basic.corners_mm(crate)
    depths = extent_mm(basic, crate)
    return [crate.place(basic.face, u, v, w) for u, v in _outermost(basic, crate) for w in depths]


def _outermost(basic: Basic, crate: Crate) -> Iterable[Vec2]:
    """Return points of a basic operation on its face, the outermost along both axes among them."""
    if isinstance(basic, Prism):
        return [place for side in sides_of(basic.outline) for place in _side_places(side)]
    if isinstance(basic, Strip):
        xmin, ymin, xmax, ymax = strip_area(basic, crate).bounds
        return [(xmin, ymin), (xmax, ymax)]
    if isinstance(basic, Polygon | Pyramid):
        return [*basic.corners_mm(crate), *basic.corners_mm(crate, 1.0)]
    if isinstance(basic, CornerCut):
        return []
    (u, v), reach = basic.centre_mm(crate), reach_mm(basic)
    return [(u - reach, v - reach), (u + reach, v + reach)]


def _side_places(side: Side) -> list[Vec2]:
    """Return the ends of a side, and where an arc is level or upright."""
    places = [side.start, side.end]
    if side.centre is None or not side.sweep:
        return places
    (x, y), (a, b) = side.centre, side.start
    begin = math.atan2(b - y, a - x)
    for quarter in range(4):
        turn = quarter * math.pi / 2 - begin
        share = (turn % math.tau if side.sweep > 0 else -((-turn) % math.tau)) / side.sweep
        if share <= 1:
            places.append(side.at(share))
    return places
