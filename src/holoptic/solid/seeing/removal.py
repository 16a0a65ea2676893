"""One run of the kernel's exact hidden-line removal, as lines of a solid.

Visibility depends on the direction alone, so one run serves every pictorial and every view.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field

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
from holoptic.solid.pieces import Span

Sight = tuple[Curve, bool]
"""A piece of a line, and whether it is in sight."""


@dataclass
class Lines:
    """What was found along one direction.

    `straight` holds by edge's index and sight the spans of straight edges, `bent` the pieces of
    the others by the index; `outlines` and `smooth` hold lines that belong to no edge, each as its
    pieces: outlines of curved faces, and joins where faces run into each other. `owners` are the
    faces of the outlines, by their number in the skin, where they are known. `thick` are the parts
    of edges along which one face alone is seen, and `edge_on` edges of faces seen edge-on; None
    where that is to be found by itself.
    """

    straight: dict[tuple[int, bool], list[Span]] = field(default_factory=lambda: defaultdict(list))
    bent: dict[int, list[Sight]] = field(default_factory=lambda: defaultdict(list))
    outlines: list[list[Sight]] = field(default_factory=list)
    smooth: list[list[Sight]] = field(default_factory=list)
    owners: list[int] = field(default_factory=list)
    thick: dict[int, tuple[Curve, ...]] | None = None
    edge_on: frozenset[int] = frozenset()


class Removal:
    """Finds what is seen of a solid whose drawn borders are given, in the order of their edges."""

    def __init__(self, drawn: Sequence[Border]) -> None:
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
        others = list(self._sharp(result, lines))
        lines.outlines = _by_line([*others, *_found(result, Kind.HLRBRep_OutLine)])
        lines.smooth = _by_line(_found(result, Kind.HLRBRep_Rg1Line))
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
            low, high = whole.low, whole.high
            if isinstance(whole.curve, Segment):
                span = max(first, low) - low, min(last, high) - low
                lines.straight[index, visible].append(span)
            else:
                is_part = first > low or last < high
                curve = _part_of(whole.curve, piece, first, last) if is_part else whole.curve
                lines.bent[index].append((curve, visible))

    def _whole(self, key: int, piece: TopoDS_Edge, middle: float) -> tuple[int, KnownEdge | None]:
        # the kernel's pieces share the curve of their edge, so the match is exact; edges of a
        # prism's two ends share it too and differ by their placement
        for index, known in self._by_curve.get(key, ()):
            if known.low <= middle <= known.high and known.location.IsEqual(piece.Location()):
                return index, known
        return -1, None


def _part_of(curve: Curve, kernel_piece: TopoDS_Edge, first: float, last: float) -> Curve:
    """Cut a bent edge's curve to the kernel's parameters first..last."""
    if isinstance(curve, EllipticArc):
        return curve.piece(first, last)
    return curve_of(kernel_piece)  # samples have no parameter in common with the kernel's curve


def _by_line(found: Iterable[tuple[TopoDS_Edge, bool]]) -> list[list[Sight]]:
    """Return pieces by the line that they belong to: they share the kernel's curve."""
    lines: dict[int, list[Sight]] = defaultdict(list)
    alive = []
    for kernel_edge, visible in found:
        alive.append(kernel_curve(kernel_edge))  # so that its id stays its own
        lines[id(alive[-1])].append((curve_of(kernel_edge), visible))
    return list(lines.values())


def _found(result: HLRBRep_HLRToShape, kind: Kind) -> Iterator[tuple[TopoDS_Edge, bool]]:
    for visible in (True, False):
        compound = result.CompoundOfEdges(kind, visible, True)
        if compound is None or compound.IsNull():
            continue
        explorer = TopExp_Explorer(compound, TopAbs_ShapeEnum.TopAbs_EDGE)
        while explorer.More():
            yield TopoDS.Edge(explorer.Current()), visible
            explorer.Next()
