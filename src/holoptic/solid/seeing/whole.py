"""Several solids seen together, each where it stands.

Each is put in figures once. Where they stand is worked into these figures whenever they move, so
that a slider asks nothing of the kernel.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np
from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.gp import gp_Trsf, gp_Vec
from OCP.TopoDS import TopoDS_Shape

from holoptic.curves.space import moved
from holoptic.curves.vectors import Vec3, add, unit
from holoptic.solid.anatomy.flat import Flat, FlatWhole, before
from holoptic.solid.anatomy.kernel_shapes import together
from holoptic.solid.pieces import AxisLine, Edge, Look, Piece, RoundFeature, SolidFacts
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.solid.seeing.lines import Lines
from holoptic.solid.seeing.rays import kernel_depths
from holoptic.solid.seeing.shared_axes import in_sight, shared_axes
from holoptic.solid.seeing.sight import Known, Sighting
from holoptic.tolerance import CLEAR_MM

_KEPT_LOOKS = 64


class SeenWhole:
    """Solids ready to be looked at together; `offsets` is how far each is set off, mm.

    Edges are numbered in one row, solid after solid; the number of a solid is that of its body.
    """

    def __init__(self, solids: Sequence[SeenSolid], offsets: Sequence[Vec3]) -> None:
        self.solids, self.offsets = tuple(solids), tuple(offsets)
        self._first_edge = before([len(solid.facts.edges) for solid in solids])
        self._looks: OrderedDict[Vec3, Look] = OrderedDict()

    @cached_property
    def facts(self) -> SolidFacts:
        """What stays the same from wherever they are seen."""
        edges, rounds, lows, highs = [], [], [], []
        for body, (solid, offset) in enumerate(zip(self.solids, self.offsets, strict=True)):
            first = self._first_edge[body]
            facts = solid.facts
            edges += [
                Edge(first + edge.index, moved(edge.curve, offset), edge.operation, body)
                for edge in facts.edges
            ]
            rounds += [_moved_round(feature, offset, body) for feature in facts.rounds]
            lows.append(add(facts.low, offset))
            highs.append(add(facts.high, offset))
        return SolidFacts(
            tuple(edges),
            _each(min, lows),
            _each(max, highs),
            sum(solid.facts.volume for solid in self.solids),
            all(solid.facts.only_planes for solid in self.solids),
            tuple(rounds),
            len(self.solids),
            tuple(zip(lows, highs, strict=True)),
        )

    @cached_property
    def shape(self) -> TopoDS_Shape:
        """All of them as one shape of the kernel."""
        return together([
            set_off(solid.shape, offset)
            for solid, offset in zip(self.solids, self.offsets, strict=True)
        ])  # fmt: skip

    def look(self, toward_viewer: Vec3) -> Look:
        """Return the visible and hidden pieces along a direction; worked out once."""
        look = self._looks.get(toward_viewer)
        if look is None:
            lines = None if self._sighting is None else self._sighting.look(toward_viewer)
            if lines is None:
                look = self.in_kernels_way(toward_viewer)
            else:
                look = self._told(toward_viewer, lines)
            toward = unit(toward_viewer)
            look = replace(
                look, axis_lines=self._axis_lines(look, toward), covered=self._covered(toward)
            )
            self._looks[toward_viewer] = look
            if len(self._looks) > _KEPT_LOOKS:
                self._looks.popitem(last=False)
        return look

    def in_kernels_way(self, toward_viewer: Vec3) -> Look:
        """Return what the kernel finds along a direction, with all solids as one shape."""
        look = self._by_kernel.look(toward_viewer)
        # its edges are ours in the same order, as faces are: solid after solid
        edges = self.facts.edges
        pieces = tuple(
            piece if piece.edge is None
            else piece._replace(operation=edges[piece.edge].operation, body=edges[piece.edge].body)
            for piece in look.pieces
        )  # fmt: skip
        return replace(look, pieces=pieces, rounds=self.facts.rounds)

    def _axis_lines(self, look: Look, toward: Vec3) -> tuple[AxisLine, ...]:
        """Return the axes that bodies share, as far as they are in sight."""
        lines = shared_axes(self.facts.rounds)
        curves = [piece.curve for piece in look.pieces]
        return tuple(in_sight(lines, curves, self.depths, toward))

    def _covered(self, toward: Vec3) -> frozenset[Vec3]:
        """Return the middles of rims and round features before which another body lies."""
        places = [
            (place, feature.body)
            for feature in self.facts.rounds
            for place in (feature.start, feature.middle, feature.end)
        ]
        if not places:
            return frozenset()
        points = np.array([place for place, _ in places])
        nearest = self.depths(toward, points)[:, 1]
        hidden = np.flatnonzero(nearest > points @ np.array(toward) + CLEAR_MM).tolist()
        found = set()
        for body in {places[k][1] for k in hidden}:
            own = [k for k in hidden if places[k][1] == body]
            offset = np.array(self.offsets[body])
            reach = self.solids[body].depths(toward, points[own] - offset)[:, 1]
            reach += float(offset @ np.array(toward))
            found |= {
                places[k][0]
                for k, by_own in zip(own, reach.tolist(), strict=True)
                if nearest[k] > by_own + CLEAR_MM
            }
        return frozenset(found)

    def depths(self, axis: Vec3, points: np.ndarray) -> np.ndarray:
        """Return from where to where lines meet any of the solids, as `SeenSolid.depths` does."""
        found = None if self._sighting is None else self._sighting.depths(axis, points)
        return kernel_depths(self.shape, axis, points) if found is None else found

    @cached_property
    def _by_kernel(self) -> SeenSolid:
        return SeenSolid(self.shape, way="kernel")

    @cached_property
    def _sighting(self) -> Sighting | None:
        flats = self._flats()
        if flats is None:
            return None
        boxes = [(solid.facts.low, solid.facts.high) for solid in self.solids]
        flat = FlatWhole(flats, boxes, self.offsets)
        return Sighting(flat, list(self._known()), is_marked=True)

    def _flats(self) -> list[Flat] | None:
        flats: list[Flat] = []
        for solid in self.solids:
            if solid.sighting is None or not solid.sighting.mark():
                return None
            flats.append(solid.sighting.flat)
        return flats

    def _known(self) -> Iterator[Known]:
        """Yield what is known of each border, where it stands."""
        edges = self.facts.edges
        for body, (solid, offset) in enumerate(zip(self.solids, self.offsets, strict=True)):
            assert solid.sighting is not None
            first = self._first_edge[body]
            for known in solid.sighting.known:
                if known.edge < 0:
                    curve = moved(known.curve, offset)
                    yield Known(-1, None, body, curve, (curve,))
                else:
                    edge = edges[first + known.edge]
                    yield Known(edge.index, edge.operation, body, edge.curve, (edge.curve,))

    def _told(self, toward_viewer: Vec3, lines: Lines) -> Look:
        return Look(
            toward_viewer,
            (*lines.pieces, *self._outlines(lines)),
            lines.thick or {},
            self.facts.rounds,
            lines.edge_on,
            tuple(lines.smooth),
        )

    def _outlines(self, lines: Lines) -> Iterator[Piece]:
        """Yield the outlines of curved faces, each with the operation that its own solid tells."""
        first = 0
        for body, (solid, offset) in enumerate(zip(self.solids, self.offsets, strict=True)):
            assert solid.sighting is not None
            last = first + len(solid.sighting.flat.face_kind)
            own = [k for k, owner in enumerate(lines.owners) if first <= owner < last]
            back = (-offset[0], -offset[1], -offset[2])
            found = Lines(
                outlines=[(moved(lines.outlines[k][0], back), lines.outlines[k][1]) for k in own],
                owners=[lines.owners[k] - first for k in own],
            )
            for k, piece in zip(own, solid.outlines(found), strict=True):
                yield piece._replace(curve=lines.outlines[k][0], body=body)
            first = last


def set_off(shape: TopoDS_Shape, offset: Vec3) -> TopoDS_Shape:
    """Return a shape of the kernel set off by a vector, mm."""
    if offset == (0.0, 0.0, 0.0):
        return shape
    way = gp_Trsf()
    way.SetTranslation(gp_Vec(*offset))
    return BRepBuilderAPI_Transform(shape, way, True).Shape()


def _moved_round(feature: RoundFeature, offset: Vec3, body: int) -> RoundFeature:
    start, end = add(feature.start, offset), add(feature.end, offset)
    return replace(feature, start=start, end=end, body=body)


def _each(pick: Callable[[tuple[float, ...]], float], points: list[Vec3]) -> Vec3:
    x, y, z = (pick(values) for values in zip(*points, strict=True))
    return x, y, z
