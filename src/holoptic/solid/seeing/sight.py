"""The own way to hidden lines: the compiled part, called, and what it found as lines of a solid."""

from __future__ import annotations

import ctypes
import math
from collections.abc import Mapping, Sequence
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np

from holoptic.curves.space import Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Vec3, cross, dot, unit
from holoptic.solid.anatomy.flat import Flat
from holoptic.solid.anatomy.rows import ARC, PLANE, SAMPLED
from holoptic.solid.anatomy.skin import Border
from holoptic.solid.pieces import Edge, Piece
from holoptic.solid.seeing.compiled import SeenC, SolidC, library
from holoptic.solid.seeing.lines import Lines
from holoptic.tolerance import ROUNDING

_ODD_TURN = 0.4636
"""Radians by which the picture is turned, so that few ends share a height."""
_ASIDE, _OTHERWISE = (0.36, 0.48, 0.8), (0.8, -0.36, 0.48)
_LEANING = 0.9
"""Directions that no picture is square to, and the cosine at which the second one is taken."""


class Known(NamedTuple):
    """What is known of a border before any look; `edge` is -1 where it is no line itself."""

    edge: int
    operation: int | None
    body: int
    curve: Curve
    whole: tuple[Curve]


class Sighting:
    """Finds what is seen of one solid along any direction."""

    def __init__(self, flat: Flat, known: list[Known], *, is_marked: bool = False) -> None:
        """Take a solid as arrays, with what is known of its borders (`known_borders`).

        `is_marked` says that the flags of its edges are complete.
        """
        self.flat, self.known = flat, known
        self._solid = _as_c(flat)
        self._is_marked = is_marked

    def mark(self) -> bool:
        """Complete the flags of its edges; say whether that could be done."""
        compiled = library()
        if not self._is_marked and compiled is not None:
            flags = _pointer(self.flat.flags)
            self._is_marked = not compiled.mark_edges(ctypes.byref(self._solid), flags)
        return self._is_marked

    def look(self, toward: Vec3) -> Lines | None:
        """Return the lines along a direction; None where the compiled part gives none."""
        compiled = library()
        if compiled is None or not self.mark():
            return None
        seen = SeenC()
        if compiled.see(ctypes.byref(self._solid), _frame(toward), ctypes.byref(seen)):
            return None
        try:
            return self._lines(seen)
        finally:
            compiled.release(ctypes.byref(seen))

    def depths(self, toward: Vec3, points: np.ndarray) -> np.ndarray | None:
        """Return how far back and how near (n × 2, mm along the unit vector) the lines through
        points (n × 3) meet the solid; the first is above the second where they do not.

        None where the compiled part gives none.
        """
        compiled = library()
        if compiled is None or not self.mark():
            return None
        places, found = np.ascontiguousarray(points), np.empty((len(points), 2))
        failed = compiled.depths(
            ctypes.byref(self._both_sides), _frame(toward), len(points), _pointer(places),
            _pointer(found),
        )  # fmt: skip
        return None if failed else found

    @cached_property
    def _both_sides(self) -> SolidC:
        """The solid with faces that count from either side."""
        solid = _as_c(self.flat)
        self._all_sheets = np.ones(len(self.flat.face_kind), np.uint8)
        solid.is_sheet = _pointer(self._all_sheets)
        return solid

    def _lines(self, seen: SeenC) -> Lines:
        # lists of Python's own: arrays would take longer for the few hundred that there are
        lines, outlines = Lines(), _Outlines(seen)
        edge_of, face_of = seen.edge[: seen.lines], seen.face[: seen.lines]
        reach = seen.from_to[: 2 * seen.pieces]
        known, add = self.known, lines.pieces.append
        pieces = zip(seen.line[: seen.pieces], reach[::2], reach[1::2], seen.sight[: seen.pieces],
                     strict=True)  # fmt: skip
        for line, low, high, sight in pieces:
            edge, shown = edge_of[line], bool(sight & _VISIBLE)
            if edge < 0:
                lines.outlines.append((outlines.piece(line, low, high), shown))
                lines.owners.append(face_of[line])
                continue
            index, operation, body, curve, _ = known[edge]
            if not sight & _WHOLE:
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

    def _weigh(self, seen: SeenC, lines: Lines, edge_of: list[int]) -> None:
        """Note along which parts of edges one of their faces alone is seen, and which edges lie
        beside a face that is seen edge-on.
        """
        marks, reach, known = seen.mark[: seen.lines], seen.reach, self.known
        thick: dict[int, tuple[Curve, ...]] = {}
        edge_on = set()
        for line, mark in enumerate(marks):
            index, _, _, curve, whole = known[edge_of[line]]
            if index < 0 or not mark & (_FLAT | _LONE):
                continue
            if mark & _FLAT:
                edge_on.add(index)
            if mark & _LONE and mark & _ALL:
                thick[index] = whole
            elif mark & _LONE:
                part = curve.piece(reach[2 * line], reach[2 * line + 1])
                thick[index] = (*thick.get(index, ()), part)
        lines.thick, lines.edge_on = thick, frozenset(edge_on)

    def _round_beside(self, edge: int) -> int:
        """Return the round face beside an edge that lies in its outline."""
        one, other = self.flat.beside[edge].tolist()
        return int(other if self.flat.face_kind[one] == PLANE else one)


_VISIBLE, _WHOLE = 1, 2
_LONE, _FLAT, _ALL = 1, 2, 4
"""Marks of pieces, and of lines, as the compiled part sets them."""
_IN_OUTLINE = -2
"""Stands for the face of an edge that is no line itself but lies in an outline."""


def _part(curve: Curve, low: float, high: float) -> Curve:
    first, last = curve.span
    if low <= first + ROUNDING and high >= last - ROUNDING:
        return curve
    return curve.piece(max(low, first), min(high, last))


def known_borders(borders: Sequence[Border], edges: Mapping[int, Edge]) -> list[Known]:
    """Return what is known of borders; `edges` are those of them that are lines, by their id."""
    return [_known(border, edges.get(id(border.known))) for border in borders]


def _known(border: Border, edge: Edge | None) -> Known:
    index, operation, body = (
        (-1, None, 0) if edge is None else (edge.index, edge.operation, edge.body)
    )
    return Known(index, operation, body, border.curve, (border.curve,))


class _Outlines:
    """The outlines of faces that were found, as curves."""

    def __init__(self, seen: SeenC) -> None:
        self._seen = seen

    def piece(self, line: int, low: float, high: float) -> Curve:
        """Return a piece of the outline of a face."""
        kind = self._seen.kind[line]
        if kind == SAMPLED:
            first = 3 * self._seen.point_start[line]
            count = math.ceil(high - ROUNDING) + 1
            figures = self._seen.point[first : first + 3 * count]
            points = zip(figures[::3], figures[1::3], figures[2::3], strict=True)
            return _part(SampledCurve(tuple(points)), low, high)
        ox, oy, oz, ax, ay, az, bx, by, bz = self._seen.curve[9 * line : 9 * line + 9]
        if kind == ARC:
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


def frame_of(toward: Vec3) -> tuple[float, ...]:
    """Return axes of a picture, one after the other: two across it, turned by an odd angle, and the
    third toward the viewer.
    """
    z = unit(toward)
    x = unit(cross(z, _ASIDE if abs(dot(z, _ASIDE)) < _LEANING else _OTHERWISE))
    y = cross(z, x)
    cos, sin = math.cos(_ODD_TURN), math.sin(_ODD_TURN)
    turned = (cos * a + sin * b for a, b in zip(x, y, strict=True))
    across = (cos * b - sin * a for a, b in zip(x, y, strict=True))
    return (*turned, *across, *z)


def _frame(toward: Vec3) -> Any:
    return (ctypes.c_double * 9)(*frame_of(toward))


def _as_c(flat: Flat) -> SolidC:
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
