"""The kernel's edges as exact curves."""

from __future__ import annotations

import math

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GCPnts import GCPnts_TangentialDeflection
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.TopoDS import TopoDS_Edge

from holoptic.curves.space import Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Vec3
from holoptic.tolerance import SAMPLE_CHORD_MM

_SAMPLE_ANGLE = 0.05
"""Radians; general curves are sampled this finely."""

_EXACT = (
    GeomAbs_CurveType.GeomAbs_Line,
    GeomAbs_CurveType.GeomAbs_Circle,
    GeomAbs_CurveType.GeomAbs_Ellipse,
)


def curve_of(edge: TopoDS_Edge) -> Curve:
    """Return the exact curve of an edge, or samples of it where it is neither line nor ellipse."""
    adaptor = BRepAdaptor_Curve(edge)
    first, last = adaptor.FirstParameter(), adaptor.LastParameter()
    kind = adaptor.GetType()
    if kind == GeomAbs_CurveType.GeomAbs_Line:
        return Segment(xyz(adaptor.Value(first)), xyz(adaptor.Value(last)))
    if kind == GeomAbs_CurveType.GeomAbs_Circle:
        circle = adaptor.Circle()
        radius = circle.Radius()
        return _arc(circle.Position(), radius, radius, first, last)
    if kind == GeomAbs_CurveType.GeomAbs_Ellipse:
        ellipse = adaptor.Ellipse()
        return _arc(ellipse.Position(), ellipse.MajorRadius(), ellipse.MinorRadius(), first, last)
    sampler = _sampler(adaptor)
    points = tuple(xyz(sampler.Value(i + 1)) for i in range(sampler.NbPoints()))
    # where plane faces meet the kernel sometimes leaves a spline that runs straight
    return SampledCurve(points) if len(points) > 2 else Segment(points[0], points[-1])


def even_parameters(edge: TopoDS_Edge, count: int) -> list[float]:
    """Return the kernel's parameters at even steps of the parameter of the edge's `Curve`."""
    adaptor = BRepAdaptor_Curve(edge)
    first, last = adaptor.FirstParameter(), adaptor.LastParameter()
    if adaptor.GetType() in _EXACT:
        return [float(value) for value in np.linspace(first, last, count)]
    sampler = _sampler(adaptor)
    known = [sampler.Parameter(i + 1) for i in range(sampler.NbPoints())]
    even = np.interp(np.linspace(0, len(known) - 1, count), np.arange(len(known)), known)
    return [float(value) for value in even]


def _sampler(adaptor: BRepAdaptor_Curve) -> GCPnts_TangentialDeflection:
    return GCPnts_TangentialDeflection(
        adaptor,
        adaptor.FirstParameter(),
        adaptor.LastParameter(),
        _SAMPLE_ANGLE,
        SAMPLE_CHORD_MM,
    )


def _arc(position: object, major: float, minor: float, first: float, last: float) -> Curve:
    last = min(last, first + 2 * math.pi)
    return EllipticArc(
        xyz(position.Location()),  # type: ignore[attr-defined]
        _direction(position.Direction()),  # type: ignore[attr-defined]
        _direction(position.XDirection()),  # type: ignore[attr-defined]
        major,
        minor,
        first,
        last,
    )


def xyz(point: object) -> Vec3:
    """Return a point of the kernel as plain numbers."""
    # + 0.0 turns a kernel's −0.0 into 0.0; twelve places drop its last rounding
    x, y, z = point.X(), point.Y(), point.Z()  # type: ignore[attr-defined]
    return round(x, 10) + 0.0, round(y, 10) + 0.0, round(z, 10) + 0.0


def _direction(direction: object) -> Vec3:
    return direction.X(), direction.Y(), direction.Z()  # type: ignore[attr-defined]
