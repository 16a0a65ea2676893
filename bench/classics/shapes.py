"""Simple solids of the kernel, put together for exercise drawings. Lengths in mm."""

from __future__ import annotations

import math
from collections.abc import Sequence

from OCP.BRepAlgoAPI import BRepAlgoAPI_Common, BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakePolygon,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_MakeVertex,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Sewing,
    BRepBuilderAPI_Transform,
)
from OCP.BRepGProp import BRepGProp
from OCP.BRepLib import BRepLib
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeBox,
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakePrism,
    BRepPrimAPI_MakeSphere,
    BRepPrimAPI_MakeTorus,
)
from OCP.gp import gp_Ax1, gp_Ax2, gp_Circ, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.TopoDS import TopoDS, TopoDS_Shape

Point = tuple[float, float, float]
_FAR = 500.0
AXES: tuple[Point, Point, Point] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


def box(low: Point, high: Point) -> TopoDS_Shape:
    """Return the block between two corners."""
    return BRepPrimAPI_MakeBox(gp_Pnt(*low), gp_Pnt(*high)).Shape()


def cylinder(base: Point, way: Point, radius: float, length: float) -> TopoDS_Shape:
    """Return a cylinder on a base, along a way."""
    return BRepPrimAPI_MakeCylinder(_frame(base, way), radius, length).Shape()


def cone(base: Point, way: Point, radius: float, top: float, length: float) -> TopoDS_Shape:
    """Return a cone or frustum, by its radii at base and top."""
    if abs(radius - top) < 1e-6:
        return cylinder(base, way, radius, length)
    return BRepPrimAPI_MakeCone(_frame(base, way), radius, top, length).Shape()


def oblique(radius: float, tip: Point) -> TopoDS_Shape:
    """Return a cone on a level circle about the origin, its tip anywhere above or below."""
    circle = BRepBuilderAPI_MakeEdge(gp_Circ(_frame((0.0, 0.0, 0.0), AXES[2]), radius)).Edge()
    loft = BRepOffsetAPI_ThruSections(True, True)
    loft.AddWire(BRepBuilderAPI_MakeWire(circle).Wire())
    loft.AddVertex(BRepBuilderAPI_MakeVertex(gp_Pnt(*tip)).Vertex())
    loft.Build()
    return loft.Shape()


def ball(centre: Point, radius: float) -> TopoDS_Shape:
    """Return a whole ball."""
    return BRepPrimAPI_MakeSphere(gp_Pnt(*centre), radius).Shape()


def ring(centre: Point, way: Point, radius: float, thick: float) -> TopoDS_Shape:
    """Return a ring of round section: the radii of its middle line and of its section."""
    return BRepPrimAPI_MakeTorus(_frame(centre, way), radius, thick).Shape()


def prism(outline: Sequence[Point], way: Point) -> TopoDS_Shape:
    """Return a plane outline carried along a way."""
    return BRepPrimAPI_MakePrism(_face(outline), gp_Vec(*way)).Shape()


def hull(base: Sequence[Point], top: Sequence[Point]) -> TopoDS_Shape:
    """Return the solid between two plane outlines of as many corners, or an outline and a tip."""
    faces = [base[::-1]]
    count = len(base)
    if len(top) == 1:
        faces += [(base[k - 1], base[k], top[0]) for k in range(count)]
    else:
        faces.append(list(top))
        faces += [(base[k - 1], base[k], top[k], top[k - 1]) for k in range(count)]
    sewing = BRepBuilderAPI_Sewing(1e-5)
    for outline in faces:
        sewing.Add(_face(outline))
    sewing.Perform()
    solid = BRepBuilderAPI_MakeSolid(TopoDS.Shell(sewing.SewedShape())).Solid()
    BRepLib.OrientClosedSolid_s(solid)
    return solid


def below(point: Point, normal: Point) -> TopoDS_Shape:
    """Return a large block on the side of a plane that its normal points away from."""
    frame = gp_Ax2(gp_Pnt(*point), gp_Dir(*normal))
    corner = gp_Pnt(*point).Translated(
        gp_Vec(frame.XDirection()) * -_FAR + gp_Vec(frame.YDirection()) * -_FAR
        + gp_Vec(frame.Direction()) * -_FAR
    )  # fmt: skip
    return BRepPrimAPI_MakeBox(gp_Ax2(corner, frame.Direction(), frame.XDirection()),
                               2 * _FAR, 2 * _FAR, _FAR).Shape()  # fmt: skip


def fuse(*shapes: TopoDS_Shape) -> TopoDS_Shape:
    """Return shapes as one."""
    found = shapes[0]
    for other in shapes[1:]:
        found = BRepAlgoAPI_Fuse(found, other).Shape()
    return one(found)


def cut(shape: TopoDS_Shape, *tools: TopoDS_Shape) -> TopoDS_Shape:
    """Return a shape without some others."""
    for tool in tools:
        shape = BRepAlgoAPI_Cut(shape, tool).Shape()
    return one(shape)


def common(shape: TopoDS_Shape, *tools: TopoDS_Shape) -> TopoDS_Shape:
    """Return what shapes have in common."""
    for tool in tools:
        shape = BRepAlgoAPI_Common(shape, tool).Shape()
    return one(shape)


def one(shape: TopoDS_Shape) -> TopoDS_Shape:
    """Return a shape without joints between like faces."""
    unify = ShapeUpgrade_UnifySameDomain(shape, True, True, False)
    unify.Build()
    return unify.Shape()


def turned(shape: TopoDS_Shape, way: Point, degrees: float) -> TopoDS_Shape:
    """Return a shape turned about a line through the origin."""
    move = gp_Trsf()
    move.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(*way)), math.radians(degrees))
    return BRepBuilderAPI_Transform(shape, move, True).Shape()


def stood(shape: TopoDS_Shape, axis: int) -> TopoDS_Shape:
    """Return a shape with its height along an axis."""
    if axis == 0:
        return turned(shape, AXES[1], 90)
    return turned(shape, AXES[0], -90) if axis == 1 else shape


def volume(shape: TopoDS_Shape) -> float:
    """Return a solid's volume, mm³."""
    found = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, found)
    return float(found.Mass())


def _frame(base: Point, way: Point) -> gp_Ax2:
    return gp_Ax2(gp_Pnt(*base), gp_Dir(*way))


def _face(outline: Sequence[Point]) -> TopoDS_Shape:
    polygon = BRepBuilderAPI_MakePolygon()
    for point in outline:
        polygon.Add(gp_Pnt(*point))
    polygon.Close()
    return BRepBuilderAPI_MakeFace(polygon.Wire(), True).Face()
