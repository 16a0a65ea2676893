"""The own way to hidden lines: the compiled part, called, and what it found as lines of a solid."""

from __future__ import annotations

import ctypes
import math
from collections.abc import Mapping
from typing import Any, NamedTuple

import numpy as np

from holoptic.curves.space import Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.flat import FlatSolid
from holoptic.solid.anatomy.rows import ARC, PLANE, SAMPLED
from holoptic.solid.anatomy.skin import Border
from holoptic.solid.pieces import Edge, Piece
from holoptic.solid.seeing.compiled import SeenC, SolidC, library
from holoptic.solid.seeing.lines import Lines
from holoptic.tolerance import ROUNDING

_ODD_TURN = 0.4636
"""Radians by which the picture is turned, so that few ends share a height."""
_ASIDE = np.array([0.36, 0.48, 0.8])


class _Known(NamedTuple):
    """What is known of a border before any look; `edge` is -1 where it is no line itself."""

    edge: int
    operation: int | None
    body: int
    curve: Curve
    whole: tuple[Curve]


class Sighting:
    """Finds what is seen of one solid along any direction."""

    def __init__(self, flat: FlatSolid, edges: Mapping[int, Edge]) -> None:
        """Take a solid as arrays, with the edges of those borders that are lines, by their id."""
        self.flat = flat
        self._known = [_known(border, edges.get(id(border.known))) for border in flat.borders]
        self._solid = _as_c(flat)
        self._is_ready = False

    def look(self, toward: Vec3) -> Lines | None:
        """Return the lines along a direction; None where the compiled part gives none."""
        compiled = library()
        if compiled is None:
            return None
        if not self._is_ready:
            if compiled.mark_edges(ctypes.byref(self._solid), _pointer(self.flat.flags)):
                return None
            self._is_ready = True
        seen = SeenC()
        frame = _frame(toward)
        if compiled.see(ctypes.byref(self._solid), _pointer(frame), ctypes.byref(seen)):
            return None
        try:
            return self._lines(seen)
        finally:
            compiled.release(ctypes.byref(seen))

    def _lines(self, seen: SeenC) -> Lines:
        lines, outlines = Lines(), _Outlines(seen)
        line_of = _array(seen.line, seen.pieces).astype(int)
        spans = _array(seen.from_to, 2 * seen.pieces).reshape(-1, 2)
        visible = _array(seen.visible, seen.pieces).astype(bool).tolist()
        edge_of = _array(seen.edge, seen.lines).astype(int)
        face_of = _list(seen.face, seen.lines)
        known, add, edges = self._known, lines.pieces.append, edge_of[line_of]
        whole = self._are_whole(edges, spans).tolist()
        pieces = zip(line_of.tolist(), edges.tolist(), spans.tolist(), whole, visible, strict=True)
        for line, edge, (low, high), is_whole, shown in pieces:
            if edge < 0:
                lines.outlines.append((outlines.piece(line, low, high), shown))
                lines.owners.append(face_of[line])
                continue
            index, operation, body, curve, _ = known[edge]
            if not is_whole:
                curve = curve.piece(low, high)
            if index >= 0:
                add(Piece(index, operation, curve, shown, body))
                continue
            lines.smooth.append((curve, shown))
            if face_of[line] == _IN_OUTLINE:
                lines.outlines.append((curve, shown))
                lines.owners.append(self._round_beside(edge))
        self._weigh(seen, lines, edge_of)
        return lines

    def _are_whole(self, edges: np.ndarray, spans: np.ndarray) -> np.ndarray:
        """Say of spans (n × 2) of edges which are all of their edge."""
        whole = self.flat.span[edges]
        said: np.ndarray = (spans[:, 0] <= whole[:, 0] + ROUNDING) & (
            spans[:, 1] >= whole[:, 1] - ROUNDING
        )
        return said

    def _weigh(self, seen: SeenC, lines: Lines, edge_of: np.ndarray) -> None:
        """Note along which parts of edges one of their faces alone is seen, and which edges lie
        beside a face that is seen edge-on.
        """
        marks = _array(seen.mark, seen.lines).astype(int)
        known = self._known
        flat = edge_of[(marks & _FLAT) != 0].tolist()
        lines.edge_on = frozenset(known[edge].edge for edge in flat if known[edge].edge >= 0)
        lone = np.flatnonzero(marks & _LONE)
        edges, reach = edge_of[lone], _array(seen.reach, 2 * seen.lines).reshape(-1, 2)[lone]
        whole = self._are_whole(edges, reach).tolist()
        thick: dict[int, tuple[Curve, ...]] = {}
        for edge, (low, high), is_whole in zip(edges.tolist(), reach.tolist(), whole, strict=True):
            index, _, _, curve, all_of_it = known[edge]
            if index < 0:
                continue
            if is_whole:
                thick[index] = all_of_it
                continue
            before = thick.get(index, ())
            thick[index] = (*before, curve.piece(low, high))
        lines.thick = thick

    def _round_beside(self, edge: int) -> int:
        """Return the round face beside an edge that lies in its outline."""
        one, other = self.flat.beside[edge].tolist()
        return int(other if self.flat.face_kind[one] == PLANE else one)


_LONE, _FLAT = 1, 2
"""Marks of lines, as the compiled part sets them."""
_IN_OUTLINE = -2
"""Stands for the face of an edge that is no line itself but lies in an outline."""


def _part(curve: Curve, low: float, high: float) -> Curve:
    first, last = curve.span
    if low <= first + ROUNDING and high >= last - ROUNDING:
        return curve
    return curve.piece(max(low, first), min(high, last))


def _known(border: Border, edge: Edge | None) -> _Known:
    index, operation, body = (
        (-1, None, 0) if edge is None else (edge.index, edge.operation, edge.body)
    )
    return _Known(index, operation, body, border.curve, (border.curve,))


class _Outlines:
    """The outlines of faces that were found, as curves."""

    def __init__(self, seen: SeenC) -> None:
        self._kind, self._first = _list(seen.kind, seen.lines), _list(seen.point_start, seen.lines)
        self._curves = _settled(_array(seen.curve, 9 * seen.lines).reshape(-1, 9))
        self._points = _settled(_array(seen.point, 3 * seen.points).reshape(-1, 3))

    def piece(self, line: int, low: float, high: float) -> Curve:
        """Return a piece of the outline of a face."""
        if self._kind[line] == SAMPLED:
            first = self._first[line]
            count = math.ceil(high - ROUNDING) + 1
            points = self._points[first : first + count]
            return _part(SampledCurve(tuple((x, y, z) for x, y, z in points)), low, high)
        ox, oy, oz, ax, ay, az, bx, by, bz = self._curves[line]
        if self._kind[line] == ARC:
            a = math.sqrt(ax * ax + ay * ay + az * az)
            normal = (ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx)
            nx, ny, nz = (value / (a * a) for value in normal)
            return EllipticArc(
                (ox, oy, oz), (nx, ny, nz), (ax / a, ay / a, az / a), a, a, low, high
            )
        return Segment(
            (ox + low * ax, oy + low * ay, oz + low * az),
            (ox + high * ax, oy + high * ay, oz + high * az),
        )


def _settled(figures: np.ndarray) -> list[list[float]]:
    """Return figures without the last rounding of having been turned there and back."""
    settled: list[list[float]] = (np.round(figures, 10) + 0.0).tolist()
    return settled


def _frame(toward: Vec3) -> np.ndarray:
    """Return axes of a picture as rows: two across it, turned by an odd angle, and the third."""
    z = np.array(toward, float)
    z /= np.linalg.norm(z)
    aside = _ASIDE if abs(z @ _ASIDE) < 0.9 else np.array([0.8, -0.36, 0.48])
    x = np.cross(z, aside)
    x /= np.linalg.norm(x)
    y = np.cross(z, x)
    cos, sin = math.cos(_ODD_TURN), math.sin(_ODD_TURN)
    return np.array([cos * x + sin * y, cos * y - sin * x, z])


def _as_c(flat: FlatSolid) -> SolidC:
    solid = SolidC(len(flat.face_kind), len(flat.edge_kind), len(flat.use))
    solid.bodies = flat.bodies
    for name, kind in SolidC._fields_[3:]:
        if kind is not ctypes.c_int32:
            setattr(solid, name, _pointer(getattr(flat, name)))
    return solid


_C_TYPES: dict[Any, Any] = {np.dtype(np.int32): ctypes.c_int32, np.dtype(np.uint8): ctypes.c_uint8,
            np.dtype(np.float64): ctypes.c_double}  # fmt: skip


def _pointer(array: np.ndarray) -> Any:
    return array.ctypes.data_as(ctypes.POINTER(_C_TYPES[array.dtype]))


def _array(pointer: Any, count: int) -> np.ndarray:
    return np.ctypeslib.as_array(pointer, (count,)) if count else np.empty(0)


def _list(pointer: Any, count: int) -> list[int]:
    return list(pointer[:count])
