"""The solids that operations add or take away."""

from __future__ import annotations

import math
from collections.abc import Sequence

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakePolygon,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_MakeVertex,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Sewing,
)
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
from OCP.GC import GC_MakeArcOfCircle
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Vec
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Shape, TopoDS_Wire

from holoptic.curves.vectors import Vec2, Vec3, distance, subtract
from holoptic.part import (
    Ball,
    Basic,
    CornerCut,
    Crate,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Strip,
)
from holoptic.part.operations import extent_mm
from holoptic.part.outline import Side, sides_of
from holoptic.part.strips import strip_area
from holoptic.solid.anatomy.kernel_shapes import signed_volume
from holoptic.tolerance import COINCIDENT_MM


def block(crate: Crate) -> TopoDS_Shape:
    """Return a full crate."""
    return BRepPrimAPI_MakeBox(*crate.sizes).Shape()


def tool_of(operation: Basic, crate: Crate) -> TopoDS_Shape:
    """Return the solid that an operation adds or takes away, its skin turned outward."""
    tool = _tool(operation, crate)
    return tool.Reversed() if signed_volume(tool) < 0 else tool


def _tool(operation: Basic, crate: Crate) -> TopoDS_Shape:
    if isinstance(operation, Prism):
        return _prism_tool(operation, crate)
    if isinstance(operation, Strip):
        return _strip_tool(operation, crate)
    if isinstance(operation, Polygon | Pyramid):
        return _tapered_tool(operation, crate)
    if isinstance(operation, CornerCut):
        return _corner_tool(operation, crate)
    return _round_tool(operation, crate)


def _corner_tool(cut: CornerCut, crate: Crate) -> TopoDS_Shape:
    """Return a tetrahedron: the corner, and the ends of the three offsets."""
    places = cut.corners_mm(crate)
    return _sewn([[p for k, p in enumerate(places) if k != left_out] for left_out in range(4)])


def _prism_tool(prism: Prism, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(prism, crate)
    wire = BRepBuilderAPI_MakeWire()
    for side in sides_of(prism.outline):
        wire.Add(_side_edge(side, prism, crate, start))
    face = BRepBuilderAPI_MakeFace(wire.Wire(), True).Face()
    return BRepPrimAPI_MakePrism(face, _inward(prism, crate, start, end)).Shape()


def _side_edge(side: Side, prism: Prism, crate: Crate, depth: float) -> TopoDS_Edge:
    def point(place: Vec2) -> gp_Pnt:
        return gp_Pnt(*crate.place(prism.face, *place, depth))

    if side.centre is None:
        return BRepBuilderAPI_MakeEdge(point(side.start), point(side.end)).Edge()
    arc = GC_MakeArcOfCircle(point(side.start), point(side.at(0.5)), point(side.end))
    return BRepBuilderAPI_MakeEdge(arc.Value()).Edge()


def _strip_tool(strip: Strip, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(strip, crate)
    area = strip_area(strip, crate)

    def wire(ring: Sequence[Vec2]) -> TopoDS_Wire:
        return _polygon_wire([crate.place(strip.face, u, v, start) for u, v in ring[:-1]])

    outer = BRepBuilderAPI_MakeFace(wire(list(area.exterior.coords)), True).Face()
    shape: TopoDS_Shape = BRepPrimAPI_MakePrism(outer, _inward(strip, crate, start, end)).Shape()
    for hole in area.interiors:
        inner = BRepBuilderAPI_MakeFace(wire(list(hole.coords)), True).Face()
        tool = BRepPrimAPI_MakePrism(inner, _inward(strip, crate, start, end)).Shape()
        shape = BRepAlgoAPI_Cut(shape, tool).Shape()
    return shape


def _tapered_tool(item: Polygon | Pyramid, crate: Crate) -> TopoDS_Shape:
    """Return a polygon or rectangle carried inward to its other end, which may be an apex."""
    if isinstance(item, Pyramid):
        ends = item.end_width.mm, item.end_height.mm
        if min(ends) < COINCIDENT_MM < max(ends):
            return _ridge_tool(item, crate)
    start, end = extent_mm(item, crate)
    sections = BRepOffsetAPI_ThruSections(True, True)
    for share, depth in ((0.0, start), (1.0, end)):
        corners = [crate.place(item.face, u, v, depth) for u, v in item.corners_mm(crate, share)]
        if max(distance(corners[0], corner) for corner in corners) < COINCIDENT_MM:
            apex = BRepBuilderAPI_MakeVertex(gp_Pnt(*corners[0]))
            sections.AddVertex(apex.Vertex())
        else:
            sections.AddWire(_polygon_wire(corners))
    sections.Build()
    return sections.Shape()


def _ridge_tool(item: Pyramid, crate: Crate) -> TopoDS_Shape:
    """Return a roof: four faces over a rectangle that meet in a ridge."""
    start, end = extent_mm(item, crate)
    base = [crate.place(item.face, u, v, start) for u, v in item.corners_mm(crate)]
    ridge = [crate.place(item.face, u, v, end) for u, v in item.corners_mm(crate, 1.0)]
    return _sewn([base, *([base[k], base[k - 1], ridge[k - 1], ridge[k]] for k in range(4))])


def _sewn(sides: Sequence[Sequence[Vec3]]) -> TopoDS_Shape:
    """Return the solid within plane sides, each given by its corners."""
    sewing = BRepBuilderAPI_Sewing()
    for side in sides:
        corners = [c for k, c in enumerate(side) if distance(c, side[k - 1]) > COINCIDENT_MM]
        sewing.Add(BRepBuilderAPI_MakeFace(_polygon_wire(corners), True).Face())
    sewing.Perform()
    solid = BRepBuilderAPI_MakeSolid(TopoDS.Shell(sewing.SewedShape())).Solid()
    BRepLib.OrientClosedSolid_s(solid)
    return solid


def _polygon_wire(corners: Sequence[Vec3]) -> TopoDS_Wire:
    polygon = BRepBuilderAPI_MakePolygon()
    for corner in corners:
        polygon.Add(gp_Pnt(*corner))
    polygon.Close()
    return polygon.Wire()


def _round_tool(item: Round | Ball | Ring, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(item, crate)
    way = _inward(item, crate, start, end)
    middle = start if isinstance(item, Round) else item.start.mm
    centre = crate.place(item.face, *item.centre_mm(crate), middle)
    axis = gp_Ax2(gp_Pnt(*centre), gp_Dir(way))
    if isinstance(item, Ring):
        return BRepPrimAPI_MakeTorus(axis, item.diameter.mm / 2, item.thickness.mm / 2).Shape()
    if isinstance(item, Ball):
        low = -math.pi / 2 if item.part != "inner half" else 0.0
        high = math.pi / 2 if item.part != "outer half" else 0.0
        return BRepPrimAPI_MakeSphere(axis, item.diameter.mm / 2, low, high).Shape()
    first, last = item.radius_at(0.0), item.radius_at(1.0)
    if abs(first - last) < COINCIDENT_MM:
        return BRepPrimAPI_MakeCylinder(axis, first, end - start).Shape()
    return BRepPrimAPI_MakeCone(axis, first, last, end - start).Shape()


def _inward(operation: Basic, crate: Crate, start: float, end: float) -> gp_Vec:
    low, high = (crate.place(operation.face, 0, 0, depth) for depth in (start, end))
    return gp_Vec(*subtract(high, low))
