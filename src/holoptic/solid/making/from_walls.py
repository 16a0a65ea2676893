"""A solid from the surfaces that bound it, where it is known of every place whether it is full."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from OCP.BOPTools import BOPTools_AlgoTools3D
from OCP.BRepAlgoAPI import BRepAlgoAPI_Splitter
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_MakeVertex,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Sewing,
)
from OCP.BRepClass3d import BRepClass3d_SolidClassifier
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeBox,
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakeSphere,
    BRepPrimAPI_MakeTorus,
)
from OCP.collections import List_TopoDS_Shape as ListOfShapes
from OCP.gp import gp_Ax2, gp_Circ, gp_Dir, gp_Pln, gp_Pnt, gp_Vec
from OCP.IntTools import IntTools_Context
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum, TopAbs_State
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Face, TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, add, distance, dot, subtract, unit
from holoptic.errors import BadInput
from holoptic.part.walls import Drum, Flat, Globe, Taper, Tyre, Wall
from holoptic.solid.anatomy.kernel_shapes import count_solids, solids_of, tidy
from holoptic.tolerance import COINCIDENT_MM

IsFull = Callable[[np.ndarray], np.ndarray]
"""Says for points (n × 3, mm) whether they lie in the solid."""
_STEPS_MM = (0.03, 0.008, 0.002)
"""So far inside its face a place of a cell is looked for (length, mm)."""
_SEWN_MM = 1e-5


def solid_between(size: Vec3, walls: Sequence[Wall], is_full: IsFull) -> TopoDS_Shape:
    """Return the solid whose faces lie on some walls or on the crate, which begins at the origin.

    The walls part the crate into cells, each of which is full or empty as a whole.
    Raises BadInput where no single solid comes of it.
    """
    reach = 2 * distance((0.0, 0.0, 0.0), size)
    cells = _cells(BRepPrimAPI_MakeBox(*size).Shape(), [_face_of(wall, reach) for wall in walls])
    full = [cell for cell, is_in in zip(cells, _told(cells, is_full), strict=True) if is_in]
    if not full:
        raise BadInput(tr("nothing is left between its faces"))
    solid = tidy(_skin_of(full))
    if count_solids(solid) != 1:
        raise BadInput(tr("its faces bound no single solid"))
    return solid


def _cells(crate: TopoDS_Shape, faces: Sequence[TopoDS_Shape]) -> list[TopoDS_Shape]:
    """Return the crate in pieces."""
    if not faces:
        return [crate]
    crates, tools = ListOfShapes(), ListOfShapes()
    crates.Append(crate)
    for face in faces:
        tools.Append(face)
    splitter = BRepAlgoAPI_Splitter()
    splitter.SetArguments(crates)
    splitter.SetTools(tools)
    splitter.SetFuzzyValue(COINCIDENT_MM)
    splitter.Build()
    if not splitter.IsDone():
        raise BadInput(tr("its faces do not part the crate"))
    return solids_of(splitter.Shape())


def _told(cells: Sequence[TopoDS_Shape], is_full: IsFull) -> np.ndarray:
    """Return for each cell whether it is full, asked at a place inside it."""
    places = [_inside(cell) for cell in cells]
    known = [place for place in places if place is not None]
    answers = iter(is_full(np.array(known).reshape(-1, 3)).tolist())
    return np.array([place is not None and next(answers) for place in places])


def _inside(cell: TopoDS_Shape) -> Vec3 | None:
    """Return a place inside a cell, None for one that is too thin to have any."""
    context = IntTools_Context()
    for step in _STEPS_MM:
        explorer = TopExp_Explorer(cell, TopAbs_ShapeEnum.TopAbs_FACE)
        while explorer.More():
            place = _behind(TopoDS.Face(explorer.Current()), step, context)
            if place is not None and _holds(cell, place):
                return place
            explorer.Next()
    return None


def _behind(face: TopoDS_Face, step: float, context: IntTools_Context) -> Vec3 | None:
    """Return a place behind the middle of a face, as seen from outside."""
    from OCP.gp import gp_Pnt2d  # noqa: PLC0415

    point, flat = gp_Pnt(), gp_Pnt2d()
    if BOPTools_AlgoTools3D.PointInFace_s(face, point, flat, context):
        return None
    normal = gp_Dir()
    if not BOPTools_AlgoTools3D.GetNormalToSurface_s(
        context.SurfaceAdaptor(face).Surface().Surface(), flat.X(), flat.Y(), normal
    ):
        return None
    sign = 1.0 if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED else -1.0
    place = point.Translated(gp_Vec(normal).Multiplied(sign * step))
    return place.X(), place.Y(), place.Z()


def _holds(cell: TopoDS_Shape, place: Vec3) -> bool:
    classifier = BRepClass3d_SolidClassifier(cell, gp_Pnt(*place), COINCIDENT_MM)
    return classifier.State() == TopAbs_State.TopAbs_IN


def _skin_of(cells: Sequence[TopoDS_Shape]) -> TopoDS_Shape:
    """Return cells as one solid: the faces between two of them are left out."""
    if len(cells) == 1:
        return cells[0]
    faces: list[TopoDS_Shape] = []
    for cell in cells:
        explorer = TopExp_Explorer(cell, TopAbs_ShapeEnum.TopAbs_FACE)
        while explorer.More():
            faces.append(explorer.Current())
            explorer.Next()
    counts: dict[int, list[TopoDS_Shape]] = {}
    for face in faces:
        alike = counts.setdefault(hash(face), [])
        alike.append(face)
    sewing = BRepBuilderAPI_Sewing(_SEWN_MM)
    for alike in counts.values():
        for face in alike:
            if sum(face.IsSame(other) for other in alike) == 1:
                sewing.Add(face)
    sewing.Perform()
    make = BRepBuilderAPI_MakeSolid()
    explorer = TopExp_Explorer(sewing.SewedShape(), TopAbs_ShapeEnum.TopAbs_SHELL)
    while explorer.More():
        make.Add(TopoDS.Shell(explorer.Current()))
        explorer.Next()
    if not make.IsDone():
        raise BadInput(tr("its faces bound no single solid"))
    return make.Solid()


def _face_of(wall: Wall, reach: float) -> TopoDS_Shape:
    """Return a wall as a face that reaches beyond the crate on all sides."""
    if isinstance(wall, Flat):
        plane = gp_Pln(gp_Pnt(*wall.point), gp_Dir(*wall.normal))
        return BRepBuilderAPI_MakeFace(plane, -reach, reach, -reach, reach).Face()
    if isinstance(wall, Drum):
        start = add(wall.point, unit(wall.way), -reach)
        made = BRepPrimAPI_MakeCylinder(_frame(start, wall.way), wall.radius, 2 * reach)
        return made.Face()
    if isinstance(wall, Globe):
        return BRepPrimAPI_MakeSphere(gp_Pnt(*wall.centre), wall.radius).Face()
    if isinstance(wall, Tyre):
        return BRepPrimAPI_MakeTorus(_frame(wall.centre, wall.way), wall.radius, wall.thick).Face()
    return _cone(wall, reach)


def _cone(wall: Taper, reach: float) -> TopoDS_Shape:
    """Return a cone from its tip beyond the crate."""
    axis = subtract(wall.centre, wall.tip)
    along = dot(axis, unit(wall.way))
    size = distance(wall.centre, wall.tip)
    is_right = abs(abs(along) - size) < COINCIDENT_MM
    share = reach / size
    radius = wall.radius * share
    if is_right:
        return BRepPrimAPI_MakeCone(_frame(wall.tip, axis), 0.0, radius, reach).Face()
    far = add(wall.tip, axis, share)
    circle = gp_Circ(_frame(far, wall.way), radius)
    loft = BRepOffsetAPI_ThruSections(False, True)
    loft.AddWire(BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(circle).Edge()).Wire())
    loft.AddVertex(BRepBuilderAPI_MakeVertex(gp_Pnt(*wall.tip)).Vertex())
    loft.Build()
    return loft.Shape()


def _frame(point: Vec3, way: Vec3) -> gp_Ax2:
    return gp_Ax2(gp_Pnt(*point), gp_Dir(*way))


