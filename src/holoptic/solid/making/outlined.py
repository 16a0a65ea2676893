"""Plane faces, and places in faces: what solids between surfaces are put together from."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from OCP.BOPTools import BOPTools_AlgoTools3D
from OCP.BRepAlgoAPI import BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon
from OCP.gp import gp_Pnt, gp_Pnt2d
from OCP.IntTools import IntTools_Context
from OCP.TopoDS import TopoDS_Face, TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.errors import BadInput

IsFull = Callable[[np.ndarray], np.ndarray]
"""Says for points (n × 3, mm) whether they lie in the solid."""


def outlined(corners: Sequence[Vec3]) -> TopoDS_Shape:
    """Return the plane face with some corners."""
    polygon = BRepBuilderAPI_MakePolygon()
    for corner in corners:
        polygon.Add(gp_Pnt(*corner))
    polygon.Close()
    return BRepBuilderAPI_MakeFace(polygon.Wire(), True).Face()


def place_in(face: TopoDS_Face, context: IntTools_Context) -> Vec3 | None:
    """Return a place well inside a face, None for one that is too thin to have any."""
    found = spot_in(face, context)
    return None if found is None else found[0]


def spot_in(
    face: TopoDS_Face, context: IntTools_Context
) -> tuple[Vec3, tuple[float, float]] | None:
    """Return the same with the face's own parameters there."""
    point, flat = gp_Pnt(), gp_Pnt2d()
    if BOPTools_AlgoTools3D.PointInFace_s(face, point, flat, context):
        return None
    return (point.X(), point.Y(), point.Z()), (flat.X(), flat.Y())


def fused(shapes: Sequence[TopoDS_Shape]) -> TopoDS_Shape:
    """Return shapes as one. Raises BadInput for none."""
    if not shapes:
        raise BadInput(tr("nothing is left between its faces"))
    found = shapes[0]
    for other in shapes[1:]:
        found = BRepAlgoAPI_Fuse(found, other).Shape()
    return found
