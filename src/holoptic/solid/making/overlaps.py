"""Where two solids overlap, and whether they touch: asked of the kernel."""

from __future__ import annotations

from OCP.BRepAlgoAPI import BRepAlgoAPI_Common
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
from OCP.TopoDS import TopoDS_Shape

from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.edge_curves import xyz
from holoptic.tolerance import CHANGED_VOLUME_MM3, CLEAR_MM


def overlap_of(first: TopoDS_Shape, second: TopoDS_Shape) -> tuple[float, Vec3] | None:
    """Return the volume (mm³) that two solids share and its middle, or None where they share none.

    Raises RuntimeError where the kernel cannot tell.
    """
    common = BRepAlgoAPI_Common(first, second)
    if not common.IsDone():
        raise RuntimeError("the kernel could not intersect two solids")
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(common.Shape(), properties)
    volume = abs(float(properties.Mass()))
    return (volume, xyz(properties.CentreOfMass())) if volume > CHANGED_VOLUME_MM3 else None


def do_touch(first: TopoDS_Shape, second: TopoDS_Shape) -> bool:
    """Say whether two solids come as near to each other as surfaces that touch."""
    distance = BRepExtrema_DistShapeShape(first, second)
    return bool(distance.IsDone()) and float(distance.Value()) <= CLEAR_MM
