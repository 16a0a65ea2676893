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
from holoptic.solid.anatomy.edge_curves import curve_of
from holoptic.solid.anatomy.rows import EdgeRow, edge_row
from holoptic.solid.caches import EDGES


@dataclass(eq=False)
class KnownEdge:
    """An edge's curve, what tells its vertices apart, and the kernel's own account of it.

    `low` and `high` are the kernel's parameters; `last` is what its border was found to be last.
    """

    edge: TopoDS_Edge
    curve: Curve
    ends: tuple[int, int]
    kernel_curve: object
    low: float
    high: float
    location: TopLoc_Location
    last: object = None

    @cached_property
    def row(self) -> EdgeRow:
        """It in figures."""
        return edge_row(self.curve)


def known_edge(key: int, edge: TopoDS_Edge) -> KnownEdge:
    """Return what is known of an edge with a hash code, whichever way round it runs."""
    known = EDGES.get(key)
    # what is kept keeps its edge alive, so that no other can take its place
    if known is not None and known.edge.IsSame(edge):
        return known
    ends = hash(TopExp.FirstVertex_s(edge)), hash(TopExp.LastVertex_s(edge))
    low, high = BRep_Tool.Range_s(edge)
    return EDGES.keep(
        key,
        KnownEdge(edge, curve_of(edge), ends, kernel_curve(edge), low, high, edge.Location()),
    )


def kernel_curve(edge: TopoDS_Edge) -> object:
    """Return the kernel's curve, which pieces of an edge and edges of two ends may share.

    It is the very same object for as long as it is kept.
    """
    return BRep_Tool.Curve_s(edge, TopLoc_Location(), 0.0, 1.0)
