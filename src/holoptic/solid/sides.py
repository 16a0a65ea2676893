"""The two faces beside each edge: which of them turn to the viewer.

An edge is drawn thick where only one of its two faces is seen, thin where both are.
"""

from __future__ import annotations

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Curve2d, BRepAdaptor_Surface
from OCP.BRepGProp import BRepGProp_Face
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.gp import gp_Pnt, gp_Vec
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopoDS import TopoDS_Edge, TopoDS_Face

from holoptic.curves.space import Curve
from holoptic.curves.vectors import Vec3
from holoptic.solid.edges import even_parameters
from holoptic.solid.pieces import Span

_TURNED_AWAY = 1e-7
"""A face whose normal leans less than this toward the viewer is edge-on: it is not seen."""
_PROBES = 33
"""Places along an edge of a curved face at which the normals are taken."""

Normals = np.ndarray
"""Outward unit normals of the two faces (k × 2 × 3) at k even parameters of the edge's span."""


def side_normals(edge: TopoDS_Edge, faces: list[TopoDS_Face]) -> Normals | None:
    """Return the normals beside an edge: one row where they stay the same along it.

    None where the edge has not two faces.
    """
    if len(faces) != 2:
        return None
    planes = [_is_plane(face) for face in faces]
    flat = all(planes) or _is_straight(edge)
    steady = flat and (all(planes) or all(_is_steady(face) for face in faces))
    places = even_parameters(edge, 3)[1:2] if steady else even_parameters(edge, _PROBES)
    rows = [_along(edge, *pair, places) for pair in zip(faces, planes, strict=True)]
    return np.array(rows).transpose(1, 0, 2)


class Facing:
    """The normals beside all edges of a solid, ready for any direction."""

    def __init__(self, curves: list[Curve], normals: list[Normals | None]) -> None:
        self._curves = curves
        self._steady = [i for i, n in enumerate(normals) if n is not None and len(n) == 1]
        self._turning = [i for i, n in enumerate(normals) if n is not None and len(n) > 1]
        self._steady_normals = np.array(
            [n[0] for n in normals if n is not None and len(n) == 1]
        ).reshape(-1, 2, 3)
        self._turning_normals = np.array(
            [n for n in normals if n is not None and len(n) > 1]
        ).reshape(-1, _PROBES, 2, 3)

    def thick(self, toward_viewer: Vec3) -> dict[int, tuple[Curve, ...]]:
        """Return for each edge the parts of it along which one of its faces alone is seen."""
        toward = np.array(toward_viewer) / np.linalg.norm(toward_viewer)
        lone = (self._steady_normals @ toward > _TURNED_AWAY).sum(axis=1) == 1
        steady = (self._steady[k] for k in np.flatnonzero(lone))
        found: dict[int, tuple[Curve, ...]] = {edge: (self._curves[edge],) for edge in steady}
        leaning = self._turning_normals @ toward
        for edge, values in zip(self._turning, leaning, strict=True):
            curve = self._curves[edge]
            spans = _lone_spans(values, *curve.span)
            if spans:
                found[edge] = tuple(curve.piece(*span) for span in spans)
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
    if not is_lone or high - low < 1e-9:
        return
    if spans and low - spans[-1][1] < 1e-9:
        spans[-1] = spans[-1][0], high
    else:
        spans.append((low, high))


def _is_straight(edge: TopoDS_Edge) -> bool:
    return bool(BRepAdaptor_Curve(edge).GetType() == GeomAbs_CurveType.GeomAbs_Line)


def _is_plane(face: TopoDS_Face) -> bool:
    return bool(BRepAdaptor_Surface(face).GetType() == GeomAbs_SurfaceType.GeomAbs_Plane)


def _is_steady(face: TopoDS_Face) -> bool:
    """Say whether the normal stays the same along a straight edge of the face."""
    kinds = GeomAbs_SurfaceType
    return BRepAdaptor_Surface(face).GetType() in (
        kinds.GeomAbs_Plane, kinds.GeomAbs_Cylinder, kinds.GeomAbs_Cone,
        kinds.GeomAbs_SurfaceOfExtrusion,
    )  # fmt: skip


def _along(edge: TopoDS_Edge, face: TopoDS_Face, is_plane: bool, places: list[float]) -> list[Vec3]:
    if is_plane:
        return [_plane_normal(face)] * len(places)
    on_face, surface = BRepAdaptor_Curve2d(edge, face), BRepGProp_Face(face)
    point, normal, found = gp_Pnt(), gp_Vec(), []
    for place in places:
        uv = on_face.Value(place)
        surface.Normal(uv.X(), uv.Y(), point, normal)
        size = normal.Magnitude() or 1.0
        found.append((normal.X() / size, normal.Y() / size, normal.Z() / size))
    return found


def _plane_normal(face: TopoDS_Face) -> Vec3:
    """Return the outward normal of a plane face."""
    plane = BRepAdaptor_Surface(face, False).Plane()
    way = plane.Axis().Direction()
    turned = face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
    sign = -1.0 if turned == plane.Direct() else 1.0
    return sign * way.X(), sign * way.Y(), sign * way.Z()
