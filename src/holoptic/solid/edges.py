"""The edges of a solid as exact curves."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import NamedTuple

import numpy as np
from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.BRepBndLib import BRepBndLib
from OCP.collections import (
    IndexedDataMap_TopoDS_Shape_List_TopoDS_Shape_TopTools_ShapeMapHasher as FacesOfEdge,
)
from OCP.collections import IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher as ShapeMap
from OCP.GCPnts import GCPnts_TangentialDeflection
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_Shape, GeomAbs_SurfaceType
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Face, TopoDS_Shape

from holoptic.curves.space import Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Vec3
from holoptic.progress import tell
from holoptic.solid.build import volume
from holoptic.solid.pieces import Edge, SolidFacts
from holoptic.solid.rounds import plane_rims, round_features

_SAMPLE_CHORD_MM = 0.002
_SAMPLE_ANGLE = 0.05
"""Radians; general curves are sampled this finely."""

_EXACT = (
    GeomAbs_CurveType.GeomAbs_Line,
    GeomAbs_CurveType.GeomAbs_Circle,
    GeomAbs_CurveType.GeomAbs_Ellipse,
)

OperationAt = Callable[[Vec3], int | None]


def curve_of(edge: TopoDS_Edge) -> Curve:
    """Return the exact curve of an edge, or samples of it where it is neither line nor ellipse."""
    adaptor = BRepAdaptor_Curve(edge)
    first, last = adaptor.FirstParameter(), adaptor.LastParameter()
    kind = adaptor.GetType()
    if kind == GeomAbs_CurveType.GeomAbs_Line:
        return Segment(_xyz(adaptor.Value(first)), _xyz(adaptor.Value(last)))
    if kind == GeomAbs_CurveType.GeomAbs_Circle:
        circle = adaptor.Circle()
        radius = circle.Radius()
        return _arc(circle.Position(), radius, radius, first, last)
    if kind == GeomAbs_CurveType.GeomAbs_Ellipse:
        ellipse = adaptor.Ellipse()
        return _arc(ellipse.Position(), ellipse.MajorRadius(), ellipse.MinorRadius(), first, last)
    sampler = _sampler(adaptor)
    return SampledCurve(tuple(_xyz(sampler.Value(i + 1)) for i in range(sampler.NbPoints())))


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
        _SAMPLE_CHORD_MM,
    )


class DrawnEdge(NamedTuple):
    """A kernel's edge that is a line of the solid, and the faces that meet there."""

    edge: TopoDS_Edge
    faces: list[TopoDS_Face]


def facts(shape: TopoDS_Shape, operation_at: OperationAt) -> tuple[SolidFacts, list[DrawnEdge]]:
    """Return the facts of a solid, and its kernel edges in the order of their indices."""
    drawn = _drawn_edges(shape)
    edges = []
    for index, (kernel_edge, _) in enumerate(drawn):
        tell("working out its edges", index / len(drawn))
        curve = curve_of(kernel_edge)
        first, last = curve.span
        edges.append(Edge(index, curve, operation_at(curve.at((first + last) / 2))))
    low, high = _box(shape)
    rounds = round_features(shape, plane_rims(drawn))
    plain = SolidFacts(tuple(edges), low, high, volume(shape), _only_planes(shape), rounds)
    return plain, drawn


def _drawn_edges(shape: TopoDS_Shape) -> list[DrawnEdge]:
    """Return the edges where two faces meet at an angle; seams and tangent joins are no lines."""
    found = FacesOfEdge()
    TopExp.MapShapesAndAncestors_s(
        shape, TopAbs_ShapeEnum.TopAbs_EDGE, TopAbs_ShapeEnum.TopAbs_FACE, found
    )
    edges = []
    for i in range(1, found.Extent() + 1):
        edge = TopoDS.Edge(found.FindKey(i))
        beside = found.FindFromIndex(i)
        # going through the kernel's list takes half a millisecond; its two ends take none
        ends = (beside.First(), beside.Last()) if beside.Size() == 2 else beside
        faces = [TopoDS.Face(face) for face in ends]
        if BRep_Tool.Degenerated_s(edge) or any(BRep_Tool.IsClosed_s(edge, f) for f in faces):
            continue
        if len(faces) == 2 and BRep_Tool.Continuity_s(edge, *faces) != GeomAbs_Shape.GeomAbs_C0:
            continue
        edges.append(DrawnEdge(edge, faces))
    return edges


def _arc(position: object, major: float, minor: float, first: float, last: float) -> Curve:
    last = min(last, first + 2 * math.pi)
    return EllipticArc(
        _xyz(position.Location()),  # type: ignore[attr-defined]
        _direction(position.Direction()),  # type: ignore[attr-defined]
        _direction(position.XDirection()),  # type: ignore[attr-defined]
        major,
        minor,
        first,
        last,
    )


def _only_planes(shape: TopoDS_Shape) -> bool:
    found = ShapeMap()
    TopExp.MapShapes_s(shape, TopAbs_ShapeEnum.TopAbs_FACE, found)
    surfaces = (
        BRepAdaptor_Surface(TopoDS.Face(found.FindKey(i + 1))) for i in range(found.Extent())
    )
    return all(surface.GetType() == GeomAbs_SurfaceType.GeomAbs_Plane for surface in surfaces)


def _box(shape: TopoDS_Shape) -> tuple[Vec3, Vec3]:
    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(shape, box, False, False)
    box.SetGap(0.0)
    return _xyz(box.CornerMin()), _xyz(box.CornerMax())


def _xyz(point: object) -> Vec3:
    # + 0.0 turns a kernel's −0.0 into 0.0; twelve places drop its last rounding
    x, y, z = point.X(), point.Y(), point.Z()  # type: ignore[attr-defined]
    return round(x, 10) + 0.0, round(y, 10) + 0.0, round(z, 10) + 0.0


def _direction(direction: object) -> Vec3:
    return direction.X(), direction.Y(), direction.Z()  # type: ignore[attr-defined]
