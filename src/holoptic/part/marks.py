"""An operation as lines in space, to be marked on the crate."""

from __future__ import annotations

import math

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3
from holoptic.part.crate import Crate
from holoptic.part.operations import Operation, Prism, Round, extent_mm


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
    """Return the outline of an operation at both of its depths, and what joins the two."""
    depths = extent_mm(operation, crate)
    if isinstance(operation, Prism):
        return _prism_lines(operation, crate, depths)
    return _round_lines(operation, crate, depths)


def _prism_lines(prism: Prism, crate: Crate, depths: tuple[float, float]) -> list[Curve]:
    rings = [
        [crate.place(prism.face, u, v, depth) for u, v in prism.outline_mm()] for depth in depths
    ]
    lines: list[Curve] = []
    for ring in rings:
        lines += [Segment(a, b) for a, b in zip(ring, ring[1:] + ring[:1], strict=True)]
    lines += [Segment(a, b) for a, b in zip(*rings, strict=True)]
    return lines


def _round_lines(item: Round, crate: Crate, depths: tuple[float, float]) -> list[Curve]:
    u, v = item.centre_mm(crate)
    unit = [0.0, 0.0, 0.0]
    unit[item.face.normal_axis] = 1.0
    across = [0.0, 0.0, 0.0]
    across[item.face.axes[0]] = 1.0
    radius = item.diameter.mm / 2
    return [
        EllipticArc(
            crate.place(item.face, u, v, depth), (unit[0], unit[1], unit[2]),
            (across[0], across[1], across[2]), radius, radius, 0.0, math.tau,
        )
        for depth in depths
    ]  # fmt: skip
