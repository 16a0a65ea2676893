"""Small services on the kernel's shapes."""

from __future__ import annotations

from collections.abc import Sequence

from OCP.BRep import BRep_Builder
from OCP.BRepGProp import BRepGProp
from OCP.BRepTools import BRepTools
from OCP.GProp import GProp_GProps
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS_Compound, TopoDS_Shape

from holoptic.tolerance import SMALLEST_VOLUME_MM3

SMALLEST_VOLUME = SMALLEST_VOLUME_MM3
"""mm³; what is left below this is nothing."""


def tidy(shape: TopoDS_Shape) -> TopoDS_Shape:
    """Join coplanar faces and collinear edges, so that no joint is drawn where none is seen."""
    # a tool that touches a face from within leaves edges in it that part nothing
    BRepTools.RemoveInternals_s(shape, False)
    unify = ShapeUpgrade_UnifySameDomain(shape, True, True, False)
    unify.Build()
    return unify.Shape()


def volume(shape: TopoDS_Shape) -> float:
    """Return the volume in mm³."""
    return abs(signed_volume(shape))


def signed_volume(shape: TopoDS_Shape) -> float:
    """Return the volume in mm³, below 0 where the skin is turned inward."""
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, properties)
    return float(properties.Mass())


def solids_of(shape: TopoDS_Shape) -> list[TopoDS_Shape]:
    """Return the solids that a shape holds."""
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_SOLID)
    found = []
    while explorer.More():
        found.append(explorer.Current())
        explorer.Next()
    return found


def count_solids(shape: TopoDS_Shape) -> int:
    """Return how many solids a shape holds."""
    return len(solids_of(shape))


def together(shapes: Sequence[TopoDS_Shape]) -> TopoDS_Shape:
    """Return several bodies as one shape; each keeps its own faces."""
    compound = TopoDS_Compound()
    builder = BRep_Builder()
    builder.MakeCompound(compound)
    for shape in shapes:
        builder.Add(compound, shape)
    return compound
