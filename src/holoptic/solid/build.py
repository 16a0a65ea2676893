"""From a part to its exact solid, with every failure laid at one operation's door."""

from __future__ import annotations

from collections.abc import Sequence

from OCP.BRep import BRep_Builder
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakePrism
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS_Compound, TopoDS_Shape

from holoptic.curves.vectors import Vec3, subtract
from holoptic.errors import PartError
from holoptic.part import Crate, Operation, Part, Prism, Round, check
from holoptic.part.operations import extent_mm

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
    return _round_tool(operation, crate)


def _prism_tool(prism: Prism, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(prism, crate)
    polygon = BRepBuilderAPI_MakePolygon()
    for u, v in prism.outline_mm():
        polygon.Add(gp_Pnt(*crate.place(prism.face, u, v, start)))
    polygon.Close()
    face = BRepBuilderAPI_MakeFace(polygon.Wire(), True).Face()
    way = _inward(prism, crate, start, end)
    return BRepPrimAPI_MakePrism(face, gp_Vec(*way)).Shape()


def _round_tool(item: Round, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(item, crate)
    centre = crate.place(item.face, *item.centre_mm(crate), start)
    axis = gp_Ax2(gp_Pnt(*centre), gp_Dir(*_inward(item, crate, start, end)))
    return BRepPrimAPI_MakeCylinder(axis, item.diameter.mm / 2, end - start).Shape()


def _inward(operation: Operation, crate: Crate, start: float, end: float) -> Vec3:
    return subtract(
        crate.place(operation.face, 0, 0, end), crate.place(operation.face, 0, 0, start)
    )
