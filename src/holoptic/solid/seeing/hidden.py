"""What is seen of a solid from one direction: its edges and outlines, in sight or hidden."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator

import numpy as np
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeVertex
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.gp import gp_Pnt
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS_Shape

from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.facts import OperationsAt, facts, no_operations
from holoptic.solid.anatomy.kernel_shapes import solids_of
from holoptic.solid.anatomy.sides import Facing
from holoptic.solid.anatomy.skin import skin_of
from holoptic.solid.caches import LINES
from holoptic.solid.pieces import Edge, Look, Piece, SolidFacts
from holoptic.solid.seeing.relook import Anatomy
from holoptic.solid.seeing.removal import Lines
from holoptic.tolerance import GIVEN_MM, ROUNDING


class SeenSolid:
    """A solid ready to be looked at, with its edges worked out once for all directions."""

    def __init__(self, shape: TopoDS_Shape, operations_at: OperationsAt = no_operations) -> None:
        self.shape = shape
        self._operations_at = operations_at
        self.facts: SolidFacts
        self.facts, drawn = facts(shape, operations_at)
        self.anatomy = Anatomy(skin_of(shape), drawn)
        self._facing = Facing(
            [border.curve for border in drawn], [border.normals for border in drawn]
        )
        self._rims = _Rims(self.facts.edges)
        self._bodies = _Bodies(solids_of(shape))
        self._looks: OrderedDict[Vec3, Look] = OrderedDict()

    def look(self, toward_viewer: Vec3) -> Look:
        """Return the visible and hidden pieces along a direction; worked out once."""
        if toward_viewer not in self._looks:
            self._looks[toward_viewer] = self.told(toward_viewer, self._lines(toward_viewer))
            if len(self._looks) > _KEPT_LOOKS:
                self._looks.popitem(last=False)
        self._looks.move_to_end(toward_viewer)
        return self._looks[toward_viewer]

    def told(self, toward_viewer: Vec3, lines: Lines) -> Look:
        """Return the lines found along a direction as a look."""
        return Look(
            toward_viewer,
            (*self._sharp(lines), *self._outlines(lines)),
            self._facing.thick(toward_viewer),
            self.facts.rounds,
            self._facing.edge_on(toward_viewer),
            tuple(sight for line in lines.smooth for sight in line),
        )

    def forget_looks(self) -> None:
        """Forget what was worked out, so that the next look works it out afresh."""
        self._looks.clear()
        LINES.clear()

    def _lines(self, toward_viewer: Vec3) -> Lines:
        """Return the lines along a direction, by those last found along it if most are the same."""
        before, lines = LINES.get(toward_viewer) or (None, None)
        found = self.anatomy.look(toward_viewer, before, lines)
        LINES.keep(toward_viewer, (self.anatomy, found))
        return found

    def _sharp(self, lines: Lines) -> Iterator[Piece]:
        edges = self.facts.edges
        for (index, visible), spans in lines.straight.items():
            edge = edges[index]
            for low, high in spans:
                curve = edge.curve
                if low > ROUNDING or high < curve.span[1] - ROUNDING:
                    curve = curve.piece(low, high)
                yield Piece(index, edge.operation, curve, visible, edge.body)
        for index, pieces in lines.bent.items():
            for curve, visible in pieces:
                yield Piece(index, edges[index].operation, curve, visible, edges[index].body)

    def _outlines(self, lines: Lines) -> Iterator[Piece]:
        """Yield the outlines of curved faces, each with the operation of its nearest rim."""
        curves = [sight for line in lines.outlines for sight in line]
        middles = [curve.middle for curve, _ in curves]
        operations = self._rims.operations_near(middles)
        lost = [k for k, operation in enumerate(operations) if operation is _UNKNOWN]
        for k, operation in zip(lost, self._operations_at([middles[k] for k in lost]), strict=True):
            operations[k] = operation
        bodies = self._bodies.at(middles)
        for (curve, visible), operation, body in zip(curves, operations, bodies, strict=True):
            yield Piece(None, operation, curve, visible, body)


_UNKNOWN = -1
_KEPT_LOOKS = 64
"""A slider that turns the receding angle asks for a new direction at every step."""


class _Bodies:
    """The bodies of a shape, to tell on which of them the outlines of curved faces lie."""

    def __init__(self, solids: list[TopoDS_Shape]) -> None:
        self._solids = solids

    def at(self, points: list[Vec3]) -> list[int]:
        """Return for each point the number of the body that it is nearest to."""
        if len(self._solids) < 2:
            return [0] * len(points)
        return [min(range(len(self._solids)), key=lambda k: self._gap(k, p)) for p in points]

    def _gap(self, number: int, point: Vec3) -> float:
        vertex = BRepBuilderAPI_MakeVertex(gp_Pnt(*point)).Vertex()
        shell = BRepExtrema_DistShapeShape(vertex, TopExp_Explorer(
            self._solids[number], TopAbs_ShapeEnum.TopAbs_SHELL).Current())  # fmt: skip
        return float(shell.Value())


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
        off = np.where(np.abs(across - self._radii) < GIVEN_MM, np.abs(along), np.inf)
        return [
            self._operations[nearest] if np.isfinite(row[nearest]) else _UNKNOWN
            for row, nearest in zip(off, off.argmin(axis=1), strict=True)
        ]
