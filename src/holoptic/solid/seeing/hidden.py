"""What is seen of a solid from one direction: its edges and outlines, in sight or hidden."""

from __future__ import annotations

import math
from collections import OrderedDict, defaultdict
from collections.abc import Iterator
from functools import cached_property
from typing import Literal

import numpy as np
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeVertex
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.gp import gp_Pnt
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS_Shape

from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec3, dot, subtract
from holoptic.solid.anatomy.facts import OperationsAt, facts, no_operations
from holoptic.solid.anatomy.flat import FlatSolid
from holoptic.solid.anatomy.kernel_shapes import solids_of
from holoptic.solid.anatomy.sides import Facing
from holoptic.solid.anatomy.skin import Skin, skin_of
from holoptic.solid.pieces import Edge, Look, Piece, SolidFacts
from holoptic.solid.seeing.compiled import library
from holoptic.solid.seeing.lines import Lines
from holoptic.solid.seeing.rays import kernel_depths
from holoptic.solid.seeing.removal import Removal
from holoptic.solid.seeing.sight import Sighting, known_borders
from holoptic.tolerance import GIVEN_MM

Way = Literal["own", "kernel"]
"""How lines are found; the kernel's way is the second opinion, and serves where ours cannot."""


class SeenSolid:
    """A solid ready to be looked at, with its edges worked out once for all directions."""

    def __init__(self, shape: TopoDS_Shape, operations_at: OperationsAt = no_operations,
                 way: Way = "own") -> None:  # fmt: skip
        self.shape = shape
        self.operations_at = operations_at
        self.facts: SolidFacts
        self.facts, drawn = facts(shape, operations_at)
        self._drawn = drawn
        skin = skin_of(shape)
        edges = {id(border.known): e for border, e in zip(drawn, self.facts.edges, strict=True)}
        self.sighting = (
            Sighting(FlatSolid(skin), known_borders(skin.borders, edges)) if way == "own" else None
        )
        self._rims = _Rims(skin, edges)
        self._bodies = _Bodies(solids_of(shape), skin, edges)
        self._looks: OrderedDict[Vec3, Look] = OrderedDict()

    @property
    def is_own(self) -> bool:
        """Whether lines are found in the own way."""
        return self.sighting is not None and library() is not None

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
            (*lines.pieces, *self.outlines(lines)),
            self._facing.thick(toward_viewer) if lines.thick is None else lines.thick,
            self.facts.rounds,
            self._facing.edge_on(toward_viewer) if lines.thick is None else lines.edge_on,
            tuple(lines.smooth),
        )

    @cached_property
    def _removal(self) -> Removal:
        return Removal(self._drawn, self.facts.edges)

    @cached_property
    def _facing(self) -> Facing:
        return Facing(self._drawn)

    def depths(self, axis: Vec3, points: np.ndarray) -> np.ndarray:
        """Return from where to where (n × 2, mm along an axis of length 1) lines along it through
        points (n × 3) meet the solid; the first is above the second where they do not.
        """
        found = None if self.sighting is None else self.sighting.depths(axis, points)
        return kernel_depths(self.shape, axis, points) if found is None else found

    def forget_looks(self) -> None:
        """Forget what was worked out, so that the next look works it out afresh."""
        self._looks.clear()

    def _lines(self, toward_viewer: Vec3) -> Lines:
        """Return the lines along a direction: found in the own way, or else in the kernel's."""
        found = None if self.sighting is None else self.sighting.look(toward_viewer)
        return self._removal.run(self.shape, toward_viewer) if found is None else found

    def outlines(self, lines: Lines) -> Iterator[Piece]:
        """Yield the outlines of curved faces, each with the operation that made its face."""
        middles = [curve.middle for curve, _ in lines.outlines]
        operations = self._rims.operations_of(lines.owners, middles)
        lost = [k for k, operation in enumerate(operations) if operation is _UNKNOWN]
        for k, operation in zip(lost, self.operations_at([middles[k] for k in lost]), strict=True):
            operations[k] = operation
        bodies = self._bodies.of(lines.owners, middles)
        for (curve, visible), operation, body in zip(
            lines.outlines, operations, bodies, strict=True
        ):
            yield Piece(None, operation, curve, visible, body)


_UNKNOWN = -1
_KEPT_LOOKS = 64
"""A slider that turns the receding angle asks for a new direction at every step."""


class _Bodies:
    """The bodies of a shape, to tell on which of them the outlines of curved faces lie."""

    def __init__(self, solids: list[TopoDS_Shape], skin: Skin, edges: dict[int, Edge]) -> None:
        self._solids = solids
        numbers = {id(face): number for number, face in enumerate(skin.faces)}
        self._of_face = {
            numbers[id(face)]: edges[id(border.known)].body
            for border in skin.borders
            if id(border.known) in edges
            for face in border.faces
        }

    def of(self, faces: list[int], points: list[Vec3]) -> list[int]:
        """Return for each of some faces the number of its body; where a face is not known (-1) or
        has no edges, of the body that the point is nearest to.
        """
        if len(self._solids) < 2:
            return [0] * len(points)
        return [
            self._of_face[face] if face in self._of_face else self._nearest(point)
            for face, point in zip(faces, points, strict=True)
        ]

    def _nearest(self, point: Vec3) -> int:
        return min(range(len(self._solids)), key=lambda k: self._gap(k, point))

    def _gap(self, number: int, point: Vec3) -> float:
        vertex = BRepBuilderAPI_MakeVertex(gp_Pnt(*point)).Vertex()
        shell = BRepExtrema_DistShapeShape(vertex, TopExp_Explorer(
            self._solids[number], TopAbs_ShapeEnum.TopAbs_SHELL).Current())  # fmt: skip
        return float(shell.Value())


class _Rims:
    """The circular edges of a solid, to tell which operation the cylinder of an outline is of."""

    def __init__(self, skin: Skin, edges: dict[int, Edge]) -> None:
        numbers = {id(face): number for number, face in enumerate(skin.faces)}
        self._all: list[tuple[EllipticArc, int | None]] = []
        self._beside: dict[int, list[tuple[EllipticArc, int | None]]] = defaultdict(list)
        for border in skin.borders:
            edge = edges.get(id(border.known))
            if edge is None or not isinstance(edge.curve, EllipticArc) or not edge.curve.is_circle:
                continue
            self._all.append((edge.curve, edge.operation))
            for face in border.faces:
                self._beside[numbers[id(face)]].append(self._all[-1])

    def operations_of(self, faces: list[int], points: list[Vec3]) -> list[int | None]:
        """Return for each point of a face the operation of the nearest rim whose cylinder holds it.

        Only the face's own rims are asked where it is known (not -1). _UNKNOWN where none does.
        """
        return [
            _nearest_rim(self._beside[face] if face >= 0 else self._all, point)
            for face, point in zip(faces, points, strict=True)
        ]


def _nearest_rim(rims: list[tuple[EllipticArc, int | None]], point: Vec3) -> int | None:
    best = math.inf
    nearest: int | None = _UNKNOWN
    for arc, operation in rims:
        offset = subtract(point, arc.centre)
        along = dot(offset, arc.normal)
        across = math.sqrt(max(dot(offset, offset) - along * along, 0.0))
        if abs(across - arc.major) < GIVEN_MM and abs(along) < best:
            best, nearest = abs(along), operation
    return nearest
