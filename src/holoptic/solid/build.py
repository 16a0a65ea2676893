"""From a part to its exact solid, with every failure laid at one operation's door."""

from __future__ import annotations

import math
from collections.abc import Sequence

from OCP.BRep import BRep_Builder
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakePolygon,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_MakeVertex,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Sewing,
)
from OCP.BRepCheck import BRepCheck_Analyzer
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
from OCP.GC import GC_MakeArcOfCircle
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Compound, TopoDS_Edge, TopoDS_Shape, TopoDS_Wire

from holoptic.curves.vectors import Vec2, Vec3, distance, subtract
from holoptic.errors import PartError
from holoptic.part import (
    Ball,
    Crate,
    Operation,
    Part,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Strip,
    check,
)
from holoptic.part.operations import extent_mm
from holoptic.part.outline import Side, sides_of, strip_area
from holoptic.tolerance import COINCIDENT_MM

_SMALLEST_VOLUME = 1e-6
"""mm³; what is left below this is nothing."""


def build(part: Part) -> TopoDS_Shape:
    """Return the part's solid. Raises PartError with the operation that spoils it."""
    check(part)
    shape = _block(part.crate) if part.begin == "block" else None
    first_split: int | None = None  # since when the part is in several pieces
    for index, operation in enumerate(part.operations):
        shape = _apply(shape, operation, part.crate, index)
        if volume(shape) < _SMALLEST_VOLUME:
            raise PartError(f"“{operation.name}” leaves nothing of the part", index)
        if count_solids(shape) > 1:
            first_split = index if first_split is None else first_split
        else:
            first_split = None
    if first_split is not None:
        name = part.operations[first_split].name
        raise PartError(
            f"“{name}” leaves the part in {count_solids(shape)} separate pieces", first_split
        )
    return tidy(shape)


def tidy(shape: TopoDS_Shape) -> TopoDS_Shape:
    """Join coplanar faces and collinear edges, so that no joint is drawn where none is seen."""
    unify = ShapeUpgrade_UnifySameDomain(shape, True, True, False)
    unify.Build()
    return unify.Shape()


def volume(shape: TopoDS_Shape) -> float:
    """Return the volume in mm³."""
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, properties)
    return abs(float(properties.Mass()))


def count_solids(shape: TopoDS_Shape) -> int:
    """Return how many solids a shape holds."""
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_SOLID)
    count = 0
    while explorer.More():
        count += 1
        explorer.Next()
    return count


def _block(crate: Crate) -> TopoDS_Shape:
    return BRepPrimAPI_MakeBox(*crate.sizes).Shape()


def _apply(
    shape: TopoDS_Shape | None, operation: Operation, crate: Crate, index: int
) -> TopoDS_Shape:
    tool = _tool(operation, crate)
    if shape is None:
        return tool
    make = BRepAlgoAPI_Cut if operation.mode == "cut" else BRepAlgoAPI_Fuse
    result = make(shape, tool)
    if not result.IsDone() or not BRepCheck_Analyzer(result.Shape()).IsValid():
        raise PartError(f"“{operation.name}” could not be worked into the part", index)
    # coplanar leftovers of this operation would trouble the next one
    return tidy(result.Shape()) if count_solids(result.Shape()) else together([])


def together(shapes: Sequence[TopoDS_Shape]) -> TopoDS_Shape:
    """Return several bodies as one shape; each keeps its own faces."""
    compound = TopoDS_Compound()
    builder = BRep_Builder()
    builder.MakeCompound(compound)
    for shape in shapes:
        builder.Add(compound, shape)
    return compound


def _tool(operation: Operation, crate: Crate) -> TopoDS_Shape:
    if isinstance(operation, Prism):
        return _prism_tool(operation, crate)
    if isinstance(operation, Strip):
        return _strip_tool(operation, crate)
    if isinstance(operation, Polygon | Pyramid):
        return _tapered_tool(operation, crate)
    return _round_tool(operation, crate)


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
    area = strip_area(strip)

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
    sewing = BRepBuilderAPI_Sewing()
    sides = [base, *([base[k], base[k - 1], ridge[k - 1], ridge[k]] for k in range(4))]
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


def _inward(operation: Operation, crate: Crate, start: float, end: float) -> gp_Vec:
    low, high = (crate.place(operation.face, 0, 0, depth) for depth in (start, end))
    return gp_Vec(*subtract(high, low))
