"""One run of the kernel's exact hidden-line removal, as lines of a solid.

Visibility depends on the direction alone, so one run serves every pictorial and every view.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence

from OCP.BRep import BRep_Tool
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.HLRAlgo import HLRAlgo_Projector
from OCP.HLRBRep import HLRBRep_Algo, HLRBRep_HLRToShape
from OCP.HLRBRep import HLRBRep_TypeOfResultingEdge as Kind
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3
from holoptic.progress import tell
from holoptic.solid.anatomy.edge_curves import curve_of
from holoptic.solid.anatomy.known_edges import KnownEdge, kernel_curve
from holoptic.solid.anatomy.skin import Border
from holoptic.solid.pieces import Edge, Piece
from holoptic.solid.seeing.lines import Lines
from holoptic.tolerance import COINCIDENT_MM, ROUNDING


class Removal:
    """Finds what is seen of a solid whose drawn borders are given, with their edges in order."""

    def __init__(self, drawn: Sequence[Border], edges: Sequence[Edge]) -> None:
        self._edges = edges
        self._by_curve: dict[int, list[tuple[int, KnownEdge]]] = defaultdict(list)
        for index, border in enumerate(drawn):
            self._by_curve[id(border.known.kernel_curve)].append((index, border.known))

    def run(self, shape: TopoDS_Shape, toward_viewer: Vec3) -> Lines:
        """Return the lines of the solid's shape along a direction."""
        tell(tr("finding what is seen and what is hidden"))
        algorithm = HLRBRep_Algo()
        algorithm.Add(shape)
        viewer = gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*toward_viewer))
        algorithm.Projector(HLRAlgo_Projector(viewer))
        algorithm.Update()
        algorithm.Hide()
        result = HLRBRep_HLRToShape(algorithm)
        lines = Lines()
        others = [*self._sharp(result, lines), *_found(result, Kind.HLRBRep_OutLine)]
        lines.outlines = [(curve_of(edge), visible) for edge, visible in others]
        lines.owners = [-1] * len(others)
        joins = _found(result, Kind.HLRBRep_Rg1Line)
        lines.smooth = [(curve_of(edge), visible) for edge, visible in joins]
        return lines

    def _sharp(
        self, result: HLRBRep_HLRToShape, lines: Lines
    ) -> Iterator[tuple[TopoDS_Edge, bool]]:
        """Note the pieces of known edges in `lines`; yield those of others."""
        for piece, visible in _found(result, Kind.HLRBRep_Sharp):
            key = id(kernel_curve(piece))
            first, last = BRep_Tool.Range_s(piece)
            index, whole = self._whole(key, piece, (first + last) / 2)
            if whole is None:
                yield piece, visible
                continue
            start, end = whole.range
            low, high = max(first, start), min(last, end)
            curve = whole.curve
            if isinstance(curve, Segment) and _is_measured_in_mm(curve, start, end):
                if low > start + ROUNDING or high < end - ROUNDING:
                    curve = curve.piece(low - start, high - start)
            elif first > start or last < end:
                curve = _part_of(curve, piece, first, last)
            edge = self._edges[index]
            lines.pieces.append(Piece(index, edge.operation, curve, visible, edge.body))

    def _whole(self, key: int, piece: TopoDS_Edge, middle: float) -> tuple[int, KnownEdge | None]:
        # the kernel's pieces share the curve of their edge, so the match is exact; edges of a
        # prism's two ends share it too and differ by their placement
        for index, known in self._by_curve.get(key, ()):
            low, high = known.range
            if low <= middle <= high and known.edge.Location().IsEqual(piece.Location()):
                return index, known
        return -1, None


def _is_measured_in_mm(line: Segment, start: float, end: float) -> bool:
    """Whether the kernel's parameters along a straight edge are lengths: a spline's are not."""
    return abs(math.dist(line.start, line.end) - (end - start)) < COINCIDENT_MM


def _part_of(curve: Curve, kernel_piece: TopoDS_Edge, first: float, last: float) -> Curve:
    """Cut a bent edge's curve to the kernel's parameters first..last."""
    if isinstance(curve, EllipticArc):
        return curve.piece(first, last)
    return curve_of(kernel_piece)  # samples have no parameter in common with the kernel's curve


def _found(result: HLRBRep_HLRToShape, kind: Kind) -> Iterator[tuple[TopoDS_Edge, bool]]:
    for visible in (True, False):
        compound = result.CompoundOfEdges(kind, visible, True)
        if compound is None or compound.IsNull():
            continue
        explorer = TopExp_Explorer(compound, TopAbs_ShapeEnum.TopAbs_EDGE)
        while explorer.More():
            yield TopoDS.Edge(explorer.Current()), visible
            explorer.Next()
