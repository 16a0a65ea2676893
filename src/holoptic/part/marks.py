"""An operation as lines in space, to be marked on the crate."""

from __future__ import annotations

import math

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3, cross
from holoptic.part.crate import Crate, Face
from holoptic.part.expand import basics
from holoptic.part.operations import (
    Ball,
    Basic,
    CornerCut,
    Operation,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Strip,
    extent_mm,
    reach_mm,
)
from holoptic.part.outline import Side, sides_of
from holoptic.part.strips import strip_area


def crate_lines(low: Vec3, high: Vec3) -> list[Segment]:
    """Return the twelve edges of a crate."""
    corners = [(x, y, z) for x in (low[0], high[0]) for y in (low[1], high[1])
               for z in (low[2], high[2])]  # fmt: skip
    return [
        Segment(a, b)
        for i, a in enumerate(corners)
        for b in corners[i + 1 :]
        if sum(p != q for p, q in zip(a, b, strict=True)) == 1
    ]


def operation_lines(operation: Operation, crate: Crate) -> list[Curve]:
    """Return the outline of an operation at both of its depths, and what joins the two.

    Nothing for an outline that cannot be made.
    """
    try:
        return [line for basic in basics(operation, crate) for line in _lines(basic, crate)]
    except (ValueError, AttributeError):  # (a strip in several pieces has no one exterior)
        return []


def _lines(operation: Basic, crate: Crate) -> list[Curve]:
    depths = extent_mm(operation, crate)
    if isinstance(operation, Prism):
        return _outline_lines(operation, crate, depths)
    if isinstance(operation, Strip):
        area = strip_area(operation, crate)
        rings = [list(ring.coords)[:-1] for ring in (area.exterior, *area.interiors)]
        return [line for ring in rings
                for line in _ring_lines([ring, ring], operation.face, crate, depths)]  # fmt: skip
    if isinstance(operation, CornerCut):
        _, *ends = operation.corners_mm(crate)
        return [Segment(ends[k - 1], ends[k]) for k in range(3)]
    if isinstance(operation, Polygon | Pyramid):
        rings = [operation.corners_mm(crate, share) for share in (0.0, 1.0)]
        return _ring_lines(rings, operation.face, crate, depths)
    return _round_lines(operation, crate, depths)


def _outline_lines(prism: Prism, crate: Crate, depths: tuple[float, float]) -> list[Curve]:
    sides = sides_of(prism.outline)
    lines: list[Curve] = []
    for depth in depths:
        lines += [_side_line(side, prism.face, crate, depth) for side in sides]
    for side in sides:
        low, high = (crate.place(prism.face, *side.start, depth) for depth in depths)
        lines.append(Segment(low, high))
    return lines


def _side_line(side: Side, face: Face, crate: Crate, depth: float) -> Curve:
    if side.centre is None:
        return Segment(crate.place(face, *side.start, depth), crate.place(face, *side.end, depth))
    u, v = face.axes
    normal = cross(_unit(u), _unit(v))
    begin = math.atan2(side.start[1] - side.centre[1], side.start[0] - side.centre[0])
    first, last = sorted((begin, begin + side.sweep))
    return EllipticArc(
        crate.place(face, *side.centre, depth), normal, _unit(u), side.radius, side.radius,
        first, last,
    )  # fmt: skip


def _ring_lines(
    rings: list[list[tuple[float, float]]], face: Face, crate: Crate, depths: tuple[float, float]
) -> list[Curve]:
    placed = [
        [crate.place(face, u, v, depth) for u, v in ring]
        for ring, depth in zip(rings, depths, strict=True)
    ]
    lines: list[Curve] = []
    for corners in placed:
        pairs = zip(corners, corners[1:] + corners[:1], strict=True)
        lines += [Segment(a, b) for a, b in pairs if a != b]
    return lines + [Segment(a, b) for a, b in zip(*placed, strict=True)]


def _round_lines(
    item: Round | Ball | Ring, crate: Crate, depths: tuple[float, float]
) -> list[Curve]:
    u, v = item.centre_mm(crate)
    if isinstance(item, Round):
        rims = [(depths[0], item.radius_at(0.0)), (depths[1], item.radius_at(1.0))]
    else:
        rims = [(item.start.mm, reach_mm(item))]
    return [
        EllipticArc(
            crate.place(item.face, u, v, depth), _unit(item.face.normal_axis),
            _unit(item.face.axes[0]), radius, radius, 0.0, math.tau,
        )
        for depth, radius in rims if radius > 0
    ]  # fmt: skip


def _unit(axis: int) -> Vec3:
    unit = [0.0, 0.0, 0.0]
    unit[axis] = 1.0
    return unit[0], unit[1], unit[2]
