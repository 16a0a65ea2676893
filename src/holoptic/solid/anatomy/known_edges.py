"""What was found out about the kernel's edges, whatever faces meet there.

An edit leaves most edges of a solid as they were, the very same; each is looked into once.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from OCP.BRep import BRep_Tool
from OCP.TopExp import TopExp
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Edge

from holoptic.curves.space import Curve
from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.edge_curves import curve_of
from holoptic.solid.anatomy.measures import swept_area
from holoptic.solid.anatomy.rows import EdgeRow, edge_row
from holoptic.solid.caches import EDGES


@dataclass(eq=False)
class KnownEdge:
    """An edge and its curve; `last` is what its border was found to be last."""

    edge: TopoDS_Edge
    curve: Curve
    last: object = None

    @cached_property
    def ends(self) -> tuple[int, int]:
        """What tells its vertices apart."""
        return hash(TopExp.FirstVertex_s(self.edge)), hash(TopExp.LastVertex_s(self.edge))

    @cached_property
    def kernel_curve(self) -> object:
        """The kernel's own curve."""
        return kernel_curve(self.edge)

    @cached_property
    def range(self) -> tuple[float, float]:
        """Its first and last parameter as the kernel counts them."""
        low, high = BRep_Tool.Range_s(self.edge)
        return low, high

    @cached_property
    def row(self) -> EdgeRow:
        """It in figures."""
        return edge_row(self.curve)

    @cached_property
    def swept(self) -> Vec3 | None:
        """The area that the line from the origin sweeps along it, mm²."""
        return swept_area(self.row)


def known_edge(key: int, edge: TopoDS_Edge) -> KnownEdge:
    """Return what is known of an edge with a hash code, whichever way round it runs."""
    known = EDGES.get(key)
    # what is kept keeps its edge alive, so that no other can take its place
    if known is not None and known.edge.IsSame(edge):
        return known
    return EDGES.keep(key, KnownEdge(edge, curve_of(edge)))


def kernel_curve(edge: TopoDS_Edge) -> object:
    """Return the kernel's curve, which pieces of an edge and edges of two ends may share.

    It is the very same object for as long as it is kept.
    """
    return BRep_Tool.Curve_s(edge, TopLoc_Location(), 0.0, 1.0)
