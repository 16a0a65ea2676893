"""What is seen of a solid from one direction, by the kernel's exact hidden-line removal.

Visibility depends on the direction alone, so one run serves every pictorial and every view.
"""

from __future__ import annotations

from collections import OrderedDict, defaultdict
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from OCP.BRep import BRep_Tool
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
from holoptic.progress import tell
from holoptic.solid.edge_curves import curve_of
from holoptic.solid.facts import OperationsAt, facts, no_operations
from holoptic.solid.pieces import Edge, Look, Piece, SolidFacts
from holoptic.solid.sides import Facing


class SeenSolid:
    """A solid ready to be looked at, with its edges worked out once for all directions."""

    def __init__(self, shape: TopoDS_Shape, operations_at: OperationsAt = no_operations) -> None:
        self.shape = shape
        self._operations_at = operations_at
        self.facts: SolidFacts
        self.facts, drawn = facts(shape, operations_at)
        kernel_edges = [border.edge for border in drawn]
        self._facing = Facing(
            [border.curve for border in drawn], [border.normals for border in drawn]
        )
        self._curves = [_curve(edge) for edge in kernel_edges]
        self._by_curve: dict[int, list[_Whole]] = defaultdict(list)
        for edge, kernel_edge, curve in zip(
            self.facts.edges, kernel_edges, self._curves, strict=True
        ):
            # the curve objects are kept above, so that their ids stay theirs
            low, high = BRep_Tool.Range_s(kernel_edge)
            self._by_curve[id(curve)].append(_Whole(edge, low, high, kernel_edge.Location()))
        self._rims = _Rims(self.facts.edges)
        self._looks: OrderedDict[Vec3, Look] = OrderedDict()

    def look(self, toward_viewer: Vec3) -> Look:
        """Return the visible and hidden pieces along a direction; worked out once."""
        if toward_viewer not in self._looks:
            result = self._removed(toward_viewer)
            self._looks[toward_viewer] = Look(
                toward_viewer,
                tuple(self._pieces(result)),
                self._facing.thick(toward_viewer),
                self.facts.rounds,
                self._facing.edge_on(toward_viewer),
                tuple(_smooth(result)),
            )
            if len(self._looks) > _KEPT_LOOKS:
                self._looks.popitem(last=False)
        self._looks.move_to_end(toward_viewer)
        return self._looks[toward_viewer]

    def forget_looks(self) -> None:
        """Forget what was worked out, so that the next look works it out afresh."""
        self._looks.clear()

    def _removed(self, toward_viewer: Vec3) -> HLRBRep_HLRToShape:
        tell("finding what is seen and what is hidden")
        algorithm = HLRBRep_Algo()
        algorithm.Add(self.shape)
        viewer = gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*toward_viewer))
        algorithm.Projector(HLRAlgo_Projector(viewer))
        algorithm.Update()
        algorithm.Hide()
        return HLRBRep_HLRToShape(algorithm)

    def _pieces(self, result: HLRBRep_HLRToShape) -> Iterator[Piece]:
        outlines: list[tuple[Curve, bool]] = []
        for visible in (True, False):
            for edge in _edges(result.CompoundOfEdges(Kind.HLRBRep_Sharp, visible, True)):
                piece = self._sharp(edge, visible)
                if piece is None:
                    outlines.append((curve_of(edge), visible))
                else:
                    yield piece
            for edge in _edges(result.CompoundOfEdges(Kind.HLRBRep_OutLine, visible, True)):
                outlines.append((curve_of(edge), visible))
        yield from self._outlines(outlines)

    def _sharp(self, kernel_edge: TopoDS_Edge, visible: bool) -> Piece | None:
        """Return the piece of a known edge, or None for a curve that belongs to none."""
        first, last = BRep_Tool.Range_s(kernel_edge)
        # the kernel's pieces share the curve of their edge, so the match is exact; edges of a
        # prism's two ends share it too and differ by their placement
        for whole in self._by_curve.get(id(_curve(kernel_edge)), ()):
            inside = whole.low <= (first + last) / 2 <= whole.high
            if inside and whole.location.IsEqual(kernel_edge.Location()):
                curve = whole.edge.curve
                if first > whole.low or last < whole.high:
                    curve = _part_of(curve, kernel_edge, first, last, whole.low)
                return Piece(whole.edge.index, whole.edge.operation, curve, visible)
        return None

    def _outlines(self, curves: list[tuple[Curve, bool]]) -> Iterator[Piece]:
        """Yield the outlines of curved faces, each with the operation of its nearest rim."""
        middles = [curve.at(sum(curve.span) / 2) for curve, _ in curves]
        operations = self._rims.operations_near(middles)
        lost = [k for k, operation in enumerate(operations) if operation is _UNKNOWN]
        for k, operation in zip(lost, self._operations_at([middles[k] for k in lost]), strict=True):
            operations[k] = operation
        for (curve, visible), operation in zip(curves, operations, strict=True):
            yield Piece(None, operation, curve, visible)


def _smooth(result: HLRBRep_HLRToShape) -> Iterator[tuple[Curve, bool]]:
    for visible in (True, False):
        for edge in _edges(result.CompoundOfEdges(Kind.HLRBRep_Rg1Line, visible, True)):
            yield curve_of(edge), visible


_UNKNOWN = -1
_KEPT_LOOKS = 64
"""A slider that turns the receding angle asks for a new direction at every step."""


class _Rims:
    """The circular edges of a solid, to tell quickly which cylinder an outline belongs to."""

    def __init__(self, edges: tuple[Edge, ...]) -> None:
        rims = [edge for edge in edges if isinstance(edge.curve, EllipticArc)]
        arcs = [edge.curve for edge in rims if isinstance(edge.curve, EllipticArc)]
        self._operations = [edge.operation for edge in rims]
        self._centres = np.array([arc.centre for arc in arcs]).reshape(-1, 3)
        self._axes = np.array([arc.normal for arc in arcs]).reshape(-1, 3)
        self._radii = np.array([arc.major if arc.is_circle else np.inf for arc in arcs])

    def operations_near(self, points: list[Vec3]) -> list[int | None]:
        """Return for each point the operation of the nearest rim whose cylinder holds it.

        _UNKNOWN where no cylinder does.
        """
        if not self._operations or not points:
            return [_UNKNOWN] * len(points)
        offsets = np.array(points)[:, None, :] - self._centres
        along = (offsets * self._axes).sum(axis=2)
        across = np.sqrt(np.maximum((offsets**2).sum(axis=2) - along**2, 0.0))
        off = np.where(np.abs(across - self._radii) < _ON_CYLINDER_MM, np.abs(along), np.inf)
        return [
            self._operations[nearest] if np.isfinite(row[nearest]) else _UNKNOWN
            for row, nearest in zip(off, off.argmin(axis=1), strict=True)
        ]


_ON_CYLINDER_MM = 1e-4


class _Whole(NamedTuple):
    """An edge with its kernel's parameters and placement."""

    edge: Edge
    low: float
    high: float
    location: TopLoc_Location


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
