"""The two faces beside each edge: which of them turn to the viewer.

An edge is drawn thick where only one of its two faces is seen, thin where both are. The own way to
hidden lines tells that besides; this serves the kernel's.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.TopoDS import TopoDS_Edge

from holoptic.curves.space import Curve
from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.edge_curves import even_parameters
from holoptic.solid.anatomy.faces import SolidFace
from holoptic.solid.anatomy.skin import Border
from holoptic.solid.pieces import Span
from holoptic.tolerance import FINE, ROUNDING

_TURNED_AWAY = FINE
"""A face whose normal leans less than this toward the viewer is edge-on: it is not seen."""
_PROBES = 33
"""Places along an edge of a curved face at which the normals are taken."""

Normals = np.ndarray
"""Outward unit normals of the two faces (k × 2 × 3) at k even parameters of the edge's span."""


def normals_beside(edge: TopoDS_Edge, faces: list[SolidFace], curve: Curve) -> Normals | None:
    """Return the normals beside an edge: one row where they stay the same along it.

    None where the edge has not two faces.
    """
    if len(faces) != 2:
        return None
    if all(face.normal is not None for face in faces):
        return np.array([[face.normal for face in faces]])
    if _is_straight(edge) and all(face.is_steady for face in faces):
        places = even_parameters(edge, 3)[1:2]
        points = curve.even_points(3)[1:2]
    else:
        places = even_parameters(edge, _PROBES)
        points = curve.even_points(_PROBES)
    rows = [face.normals(edge, places, points) for face in faces]
    return np.array(rows).transpose(1, 0, 2)


def _lone_parts(toward: np.ndarray, normals: Normals, curve: Curve) -> tuple[Curve, ...]:
    """Return the parts of a turning edge along which one face alone is seen; `toward` is a unit."""
    spans = _lone_spans(normals @ toward, *curve.span)
    return tuple(curve.piece(*span) for span in spans)


class Facing:
    """The normals beside all edges of a solid, ready for any direction."""

    def __init__(self, borders: Sequence[Border]) -> None:
        self._curves = [border.curve for border in borders]
        self._normals = normals = [
            normals_beside(border.known.edge, border.faces, border.curve) for border in borders
        ]
        self._steady = [i for i, n in enumerate(normals) if n is not None and len(n) == 1]
        self._turning = [i for i, n in enumerate(normals) if n is not None and len(n) > 1]
        self._steady_normals = np.array(
            [n[0] for n in normals if n is not None and len(n) == 1]
        ).reshape(-1, 2, 3)

    def thick(self, toward_viewer: Vec3) -> dict[int, tuple[Curve, ...]]:
        """Return for each edge the parts of it along which one of its faces alone is seen."""
        toward = np.array(toward_viewer) / np.linalg.norm(toward_viewer)
        lone = (self._steady_normals @ toward > _TURNED_AWAY).sum(axis=1) == 1
        steady = (self._steady[k] for k in np.flatnonzero(lone))
        found: dict[int, tuple[Curve, ...]] = {edge: (self._curves[edge],) for edge in steady}
        for edge in self._turning:
            curve, normals = self._curves[edge], self._normals[edge]
            assert normals is not None
            parts = _lone_parts(toward, normals, curve)
            if parts:
                found[edge] = parts
        return found

    def edge_on(self, toward_viewer: Vec3) -> frozenset[int]:
        """Return the straight edges beside a face that is seen edge-on."""
        toward = np.array(toward_viewer) / np.linalg.norm(toward_viewer)
        flat = (np.abs(self._steady_normals @ toward) <= _TURNED_AWAY).any(axis=1)
        return frozenset(self._steady[k] for k in np.flatnonzero(flat))


def _lone_spans(leaning: np.ndarray, first: float, last: float) -> tuple[Span, ...]:
    """Return where exactly one of two leanings (k × 2) is positive."""
    seen = leaning > _TURNED_AWAY
    step = (last - first) / (len(leaning) - 1)
    rows, columns = np.nonzero(seen[1:] != seen[:-1])
    before, after = leaning[rows, columns], leaning[rows + 1, columns]
    turns = first + step * (rows + (before - _TURNED_AWAY) / (before - after))
    state = seen[0].tolist()
    spans: list[Span] = []
    start = first
    for place, column in sorted(zip(turns.tolist(), columns.tolist(), strict=True)):
        _extend(spans, start, place, sum(state) == 1)
        state[column] = not state[column]
        start = place
    _extend(spans, start, last, sum(state) == 1)
    return tuple(spans)


def _extend(spans: list[Span], low: float, high: float, is_lone: bool) -> None:
    if not is_lone or high - low < ROUNDING:
        return
    if spans and low - spans[-1][1] < ROUNDING:
        spans[-1] = spans[-1][0], high
    else:
        spans.append((low, high))


def _is_straight(edge: TopoDS_Edge) -> bool:
    return bool(BRepAdaptor_Curve(edge).GetType() == GeomAbs_CurveType.GeomAbs_Line)
