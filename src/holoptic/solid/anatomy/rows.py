"""Faces and edges in figures, as the own way to hidden lines takes them."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve2d, BRepAdaptor_Surface
from OCP.BRepTools import BRepTools
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.GeomAbs import GeomAbs_SurfaceType as Kind
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Face

from holoptic.curves.space import Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import cross
from holoptic.solid.anatomy.nets import net_over
from holoptic.tolerance import FINE, SHARE

PLANE, CYLINDER, CONE, BALL, TORUS, FREE = range(6)
STRAIGHT, ARC, SAMPLED = range(3)
"""Sorts of faces and of edges, as the compiled part numbers them."""

_KINDS = {
    Kind.GeomAbs_Plane: PLANE, Kind.GeomAbs_Cylinder: CYLINDER, Kind.GeomAbs_Cone: CONE,
    Kind.GeomAbs_Sphere: BALL, Kind.GeomAbs_Torus: TORUS,
}  # fmt: skip
FIGURED = frozenset(_KINDS)
"""Surfaces that figures tell all of; other faces are given by a net."""
_BORDERS = (TopAbs_Orientation.TopAbs_FORWARD, TopAbs_Orientation.TopAbs_REVERSED)
_RING_STEPS = 96
BOUNDS = slice(15, 19)
"""Where among a face's figures its bounds stand: the lowest and highest u, and v."""
_NO_RINGS, _NO_NET = np.empty((0, 4)), np.empty((0, 0, 6))


class FaceRow(NamedTuple):
    """A face in figures: its surface's kind, frame (12), sizes, sign, bounds, and what fills them.

    `rings` are its borders in the surface's parameters (n × 4), where they do not fill the bounds.
    """

    kind: int
    figures: tuple[float, ...]
    """Frame (12), radius, half angle or small radius, sign, bounds (4)."""
    is_whole: bool
    has_apex: bool
    rings: np.ndarray
    net: np.ndarray
    """Of a free face: places with the outward normals there, evenly over its bounds (u × v × 6)."""


class EdgeRow(NamedTuple):
    """An edge in figures: its kind, place and two axes (9), first and last parameter, samples."""

    kind: int
    figures: tuple[float, ...]
    samples: np.ndarray | None


def face_row(face: TopoDS_Face, surface: BRepAdaptor_Surface, fills_bounds: bool) -> FaceRow:
    """Return a face in figures; `fills_bounds` says that it is known to fill its bounds."""
    kind = _KINDS.get(surface.GetType())
    if kind is None:
        return _free_row(face)
    shape = (surface.Plane, surface.Cylinder, surface.Cone, surface.Sphere, surface.Torus)[kind]()
    axes = shape.Position()
    radius = angle = 0.0
    if kind == CONE:
        radius, angle = shape.RefRadius(), shape.SemiAngle()
    elif kind == TORUS:
        radius, angle = shape.MajorRadius(), shape.MinorRadius()
    elif kind != PLANE:
        radius = shape.Radius()
    bounds = (0.0, 0.0, 0.0, 0.0) if kind == PLANE else tuple(BRepTools.UVBounds_s(face))
    place, x, y, z = axes.Location(), axes.XDirection(), axes.YDirection(), axes.Direction()
    figures = (
        place.X(), place.Y(), place.Z(), x.X(), x.Y(), x.Z(), y.X(), y.Y(), y.Z(), z.X(), z.Y(),
        z.Z(), radius, angle, sign_of(face, axes.Direct()), *bounds,
    )  # fmt: skip
    if kind == PLANE:
        return FaceRow(kind, figures, True, False, _NO_RINGS, _NO_NET)
    has_apex = False
    if kind == CONE:
        apex = -radius / math.sin(angle)
        has_apex = min(abs(bounds[2] - apex), abs(bounds[3] - apex)) < FINE
    rings = _NO_RINGS if fills_bounds else _rings(face, bounds)
    return FaceRow(kind, figures, not len(rings), has_apex, rings, _NO_NET)


def _free_row(face: TopoDS_Face) -> FaceRow:
    bounds = tuple(BRepTools.UVBounds_s(face))
    rings = _rings(face, bounds)
    figures = (*(0.0,) * 14, 1.0, *bounds)
    return FaceRow(FREE, figures, not len(rings), False, rings, net_over(face, bounds))


def _rings(face: TopoDS_Face, bounds: tuple[float, ...]) -> np.ndarray:
    """Return the borders of a face in its surface's parameters: u, v to u, v (n × 4).

    None where it fills its bounds.
    """
    found = []
    explorer = TopExp_Explorer(face, TopAbs_ShapeEnum.TopAbs_EDGE)
    while explorer.More():
        edge = TopoDS.Edge(explorer.Current())
        explorer.Next()
        if edge.Orientation() not in _BORDERS:
            continue  # it lies in the face, and material on both of its sides
        curve = BRepAdaptor_Curve2d(edge, face)
        first, last = curve.FirstParameter(), curve.LastParameter()
        is_straight = curve.GetType() == GeomAbs_CurveType.GeomAbs_Line
        steps = 1 if is_straight else _RING_STEPS
        values = [curve.Value(first + (last - first) * k / steps) for k in range(steps + 1)]
        points = [(value.X(), value.Y()) for value in values]
        if edge.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
            points.reverse()
        found += [(*a, *b) for a, b in pairwise(points)]
    rings = np.array(found).reshape(-1, 4)
    u0, u1, v0, v1 = bounds
    area = abs(float((rings[:, 0] * rings[:, 3] - rings[:, 2] * rings[:, 1]).sum())) / 2
    is_whole = abs(area - (u1 - u0) * (v1 - v0)) <= SHARE * max(1.0, area)
    return _NO_RINGS if is_whole else rings


def edge_row(curve: Curve) -> EdgeRow:
    """Return an edge in figures; its parameter is that of its curve."""
    first, last = curve.span
    if isinstance(curve, Segment):
        (ax, ay, az), (bx, by, bz) = curve.start, curve.end
        long = last or 1.0
        way = ((bx - ax) / long, (by - ay) / long, (bz - az) / long)
        return EdgeRow(STRAIGHT, (ax, ay, az, *way, 0.0, 0.0, 0.0, first, last), None)
    if isinstance(curve, EllipticArc):
        (xx, xy, xz), (yx, yy, yz) = curve.x_axis, cross(curve.normal, curve.x_axis)
        a, b = curve.major, curve.minor
        figures = (*curve.centre, a * xx, a * xy, a * xz, b * yx, b * yy, b * yz, first, last)
        return EdgeRow(ARC, figures, None)
    assert isinstance(curve, SampledCurve)
    return EdgeRow(SAMPLED, (*curve.start, *(0.0,) * 6, first, last), np.array(curve.points))


def sign_of(face: TopoDS_Face, is_direct: bool) -> float:
    """Return -1 where the normal of a face is opposite to its surface's axes, as in a mirror."""
    turned = face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
    return -1.0 if turned == is_direct else 1.0
