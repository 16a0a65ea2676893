"""What is seen of a solid from one direction, by the kernel's exact hidden-line removal.

Visibility depends on the direction alone, so one run serves every pictorial and every view.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from OCP.BRep import BRep_Tool
from OCP.BRepLib import BRepLib
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.HLRAlgo import HLRAlgo_Projector
from OCP.HLRBRep import HLRBRep_Algo, HLRBRep_HLRToShape
from OCP.HLRBRep import HLRBRep_TypeOfResultingEdge as Kind
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Shape

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3
from holoptic.solid.edges import OperationAt, curve_of, facts
from holoptic.solid.pieces import Edge, Look, Piece, SolidFacts


class SeenSolid:
    """A solid ready to be looked at, with its edges worked out once for all directions."""

    def __init__(self, shape: TopoDS_Shape, operation_at: OperationAt) -> None:
        # without this, tangent joins and coplanar seams come out as sharp edges
        BRepLib.EncodeRegularity_s(shape)
        self._shape = shape
        self._operation_at = operation_at
        self.facts: SolidFacts
        self.facts, kernel_edges = facts(shape, operation_at)
        self._curves = [_curve(edge) for edge in kernel_edges]
        self._by_curve: dict[int, list[tuple[Edge, TopoDS_Edge]]] = defaultdict(list)
        for edge, kernel_edge, curve in zip(
            self.facts.edges, kernel_edges, self._curves, strict=True
        ):
            # the curve objects are kept above, so that their ids stay theirs
            self._by_curve[id(curve)].append((edge, kernel_edge))
        self._looks: dict[Vec3, Look] = {}

    def look(self, toward_viewer: Vec3) -> Look:
        """Return the visible and hidden pieces along a direction; worked out once."""
        if toward_viewer not in self._looks:
            self._looks[toward_viewer] = Look(toward_viewer, tuple(self._pieces(toward_viewer)))
        return self._looks[toward_viewer]

    def _pieces(self, toward_viewer: Vec3) -> Iterator[Piece]:
        algorithm = HLRBRep_Algo()
        algorithm.Add(self._shape)
        viewer = gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*toward_viewer))
        algorithm.Projector(HLRAlgo_Projector(viewer))
        algorithm.Update()
        algorithm.Hide()
        result = HLRBRep_HLRToShape(algorithm)
        for visible in (True, False):
            for edge in _edges(result.CompoundOfEdges(Kind.HLRBRep_Sharp, visible, True)):
                yield self._sharp(edge, visible)
            for edge in _edges(result.CompoundOfEdges(Kind.HLRBRep_OutLine, visible, True)):
                yield self._outline(edge, visible)

    def _sharp(self, kernel_edge: TopoDS_Edge, visible: bool) -> Piece:
        first, last = BRep_Tool.Range_s(kernel_edge)
        # the kernel's pieces share the curve of their edge, so the match is exact; edges of a
        # prism's two ends share it too and differ by their placement
        for edge, whole in self._by_curve.get(id(_curve(kernel_edge)), []):
            low, high = BRep_Tool.Range_s(whole)
            inside = low <= (first + last) / 2 <= high
            if inside and whole.Location().IsEqual(kernel_edge.Location()):
                piece = _part_of(edge.curve, kernel_edge, first, last, low)
                return Piece(edge.index, edge.operation, piece, visible)
        return self._outline(kernel_edge, visible)

    def _outline(self, kernel_edge: TopoDS_Edge, visible: bool) -> Piece:
        curve = curve_of(kernel_edge)
        first, last = curve.span
        return Piece(None, self._operation_at(curve.at((first + last) / 2)), curve, visible)


def _curve(kernel_edge: TopoDS_Edge) -> object:
    return BRep_Tool.Curve_s(kernel_edge, TopLoc_Location(), 0.0, 1.0)


def _part_of(
    curve: Curve, kernel_piece: TopoDS_Edge, first: float, last: float, low: float
) -> Curve:
    """Cut an edge's curve to the kernel's parameters first..last; the edge begins at low."""
    if isinstance(curve, Segment):
        return curve.piece(first - low, last - low)
    if isinstance(curve, EllipticArc):
        return curve.piece(first, last)
    return curve_of(kernel_piece)  # samples have no parameter in common with the kernel's curve


def _edges(compound: TopoDS_Shape | None) -> Iterator[TopoDS_Edge]:
    if compound is None or compound.IsNull():
        return
    explorer = TopExp_Explorer(compound, TopAbs_ShapeEnum.TopAbs_EDGE)
    while explorer.More():
        yield TopoDS.Edge(explorer.Current())
        explorer.Next()
