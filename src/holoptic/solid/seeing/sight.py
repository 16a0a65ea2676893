"""The own way to hidden lines: the compiled part, called, and what it found as lines of a solid."""

from __future__ import annotations

import ctypes
import math
from collections.abc import Sequence
from typing import Any

import numpy as np

from holoptic.curves.space import Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.flat import FlatSolid
from holoptic.solid.anatomy.rows import ARC, PLANE, SAMPLED, STRAIGHT
from holoptic.solid.seeing.compiled import SeenC, SolidC, library
from holoptic.solid.seeing.removal import Lines
from holoptic.tolerance import ROUNDING

_ODD_TURN = 0.4636
"""Radians by which the picture is turned, so that few ends share a height."""
_ASIDE = np.array([0.36, 0.48, 0.8])


class Sighting:
    """Finds what is seen of one solid along any direction."""

    def __init__(self, flat: FlatSolid, drawn: Sequence[int]) -> None:
        """Take a solid as arrays, with the index that each border has as an edge, -1 for none."""
        self.flat = flat
        self._index = drawn
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
        lines = Lines()
        line_of = _list(seen.line, seen.pieces)
        spans = _array(seen.from_to, 2 * seen.pieces).reshape(-1, 2).tolist()
        visible = _list(seen.visible, seen.pieces)
        edge_of, kind_of = _list(seen.edge, seen.lines), _list(seen.kind, seen.lines)
        face_of = _list(seen.face, seen.lines)
        outlines: dict[int, list[tuple[Curve, bool]]] = {}
        smooth: dict[int, list[tuple[Curve, bool]]] = {}
        for line, (low, high), shown in zip(line_of, spans, visible, strict=True):
            edge, in_sight = edge_of[line], bool(shown)
            if edge < 0:
                outlines.setdefault(line, []).append((_curve(seen, line, low, high), in_sight))
                continue
            index = self._index[edge]
            if index >= 0 and kind_of[line] == STRAIGHT:
                lines.straight[index, in_sight].append((low, high))
                continue
            curve = _part(self.flat.borders[edge].curve, low, high)
            if index >= 0:
                lines.bent[index].append((curve, in_sight))
                continue
            smooth.setdefault(edge, []).append((curve, in_sight))
            if face_of[line] == _IN_OUTLINE:
                outlines.setdefault(line, []).append((curve, in_sight))
        lines.outlines, lines.smooth = list(outlines.values()), list(smooth.values())
        lines.owners = [
            face_of[line] if edge_of[line] < 0 else self._round_beside(edge_of[line])
            for line in outlines
        ]
        self._weigh(seen, lines, edge_of)
        return lines

    def _weigh(self, seen: SeenC, lines: Lines, edge_of: list[int]) -> None:
        """Note along which parts of edges one of their faces alone is seen, and which edges lie
        beside a face that is seen edge-on.
        """
        spans: dict[int, list[list[float]]] = {}
        reach = _array(seen.reach, 2 * seen.lines).reshape(-1, 2).tolist()
        marks = _list(seen.mark, seen.lines)
        flat = set()
        for edge, (low, high), mark in zip(edge_of, reach, marks, strict=True):
            index = self._index[edge] if mark else -1
            if index < 0:
                continue
            if mark & _FLAT:
                flat.add(index)
            if mark & _LONE:
                of_edge = spans.setdefault(edge, [])
                if of_edge and low - of_edge[-1][1] < ROUNDING:
                    of_edge[-1][1] = high
                else:
                    of_edge.append([low, high])
        borders = self.flat.borders
        lines.thick = {
            self._index[edge]: tuple(_part(borders[edge].curve, *span) for span in of_edge)
            for edge, of_edge in spans.items()
        }
        lines.edge_on = frozenset(flat)

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


def _curve(seen: SeenC, line: int, low: float, high: float) -> Curve:
    """Return a piece of the outline of a face."""
    if seen.kind[line] == SAMPLED:
        begin = seen.point_start[line]
        count = math.ceil(high - ROUNDING) + 1
        points = _array(seen.point, 3 * (begin + count)).reshape(-1, 3)[begin:]
        whole = SampledCurve(tuple((x, y, z) for x, y, z in _settled(points)))
        return _part(whole, low, high)
    place, across, up = _settled(_array(seen.curve, 9 * (line + 1))[-9:].reshape(3, 3))
    (ox, oy, oz), (ax, ay, az), (bx, by, bz) = place, across, up
    if seen.kind[line] == ARC:
        a = math.sqrt(ax * ax + ay * ay + az * az)
        normal = (ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx)
        nx, ny, nz = (value / (a * a) for value in normal)
        return EllipticArc((ox, oy, oz), (nx, ny, nz), (ax / a, ay / a, az / a), a, a, low, high)
    return Segment(
        (ox + low * ax, oy + low * ay, oz + low * az),
        (ox + high * ax, oy + high * ay, oz + high * az),
    )


def _settled(points: np.ndarray) -> list[list[float]]:
    """Return points without the last rounding of having been turned there and back."""
    settled: list[list[float]] = (np.round(points, 10) + 0.0).tolist()
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
