"""The two faces beside each edge: which of them turn to the viewer.

An edge is drawn thick where only one of its two faces is seen, thin where both are.
"""

from __future__ import annotations

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Curve2d, BRepAdaptor_Surface
from OCP.BRepGProp import BRepGProp_Face
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.GeomAbs import GeomAbs_SurfaceType as _Kind
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

_STEADY = (
    _Kind.GeomAbs_Plane, _Kind.GeomAbs_Cylinder, _Kind.GeomAbs_Cone,
    _Kind.GeomAbs_SurfaceOfExtrusion,
)  # fmt: skip
"""Surfaces whose normal stays the same along a straight edge."""

Normals = np.ndarray
"""Outward unit normals of the two faces (k × 2 × 3) at k even parameters of the edge's span."""


class Sides:
    """Takes the normals beside the edges of one solid; each face is looked into once."""

    def __init__(self) -> None:
        self._kinds: dict[int, _Face] = {}

    def normals(self, edge: TopoDS_Edge, faces: list[TopoDS_Face], curve: Curve) -> Normals | None:
        """Return the normals beside an edge: one row where they stay the same along it.

        None where the edge has not two faces.
        """
        if len(faces) != 2:
            return None
        beside = [self._known(face) for face in faces]
        if all(face.normal is not None for face in beside):
            return np.array([[face.normal for face in beside]])
        if _is_straight(edge) and all(face.is_steady for face in beside):
            places = even_parameters(edge, 3)[1:2]
            points = curve.even_points(3)[1:2]
        else:
            places = even_parameters(edge, _PROBES)
            points = curve.even_points(_PROBES)
        rows = [face.normals(edge, places, points) for face in beside]
        return np.array(rows).transpose(1, 0, 2)

    def _known(self, face: TopoDS_Face) -> _Face:
        # hash codes of the same face are the same; the map keeps the face alive, so no other
        # face can take its place
        key = hash(face)
        if key not in self._kinds:
            self._kinds[key] = _Face(face)
        return self._kinds[key]


class _Face:
    """A face: its one normal where it is plane, and how its normals are found where it is not."""

    def __init__(self, face: TopoDS_Face) -> None:
        self._face = face
        surface = BRepAdaptor_Surface(face, False)
        kind = surface.GetType()
        self.is_steady = kind in _STEADY
        self.normal = _plane_normal(surface, face) if kind == _Kind.GeomAbs_Plane else None
        self._cylinder = surface.Cylinder() if kind == _Kind.GeomAbs_Cylinder else None

    def normals(self, edge: TopoDS_Edge, places: list[float], points: np.ndarray) -> np.ndarray:
        """Return the outward normals (k × 3) along an edge: at parameters, or at points of it."""
        if self.normal is not None:
            return np.tile(self.normal, (len(places), 1))
        if self._cylinder is not None:
            axis = self._cylinder.Position()
            at, way = axis.Location(), axis.Direction()
            along = np.array([way.X(), way.Y(), way.Z()])
            off = points - (at.X(), at.Y(), at.Z())
            off = off - (off @ along)[:, None] * along
            sign = _sign(self._face, axis.Direct())
            found: np.ndarray = sign * off / np.linalg.norm(off, axis=1, keepdims=True)
            return found
        return np.array(_probed(edge, self._face, places))


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


def _probed(edge: TopoDS_Edge, face: TopoDS_Face, places: list[float]) -> list[Vec3]:
    on_face, surface = BRepAdaptor_Curve2d(edge, face), BRepGProp_Face(face)
    point, normal, found = gp_Pnt(), gp_Vec(), []
    for place in places:
        uv = on_face.Value(place)
        surface.Normal(uv.X(), uv.Y(), point, normal)
        size = normal.Magnitude() or 1.0
        found.append((normal.X() / size, normal.Y() / size, normal.Z() / size))
    return found


def _plane_normal(surface: BRepAdaptor_Surface, face: TopoDS_Face) -> Vec3:
    plane = surface.Plane()
    way = plane.Axis().Direction()
    sign = _sign(face, plane.Direct())
    return sign * way.X(), sign * way.Y(), sign * way.Z()


def _sign(face: TopoDS_Face, is_direct: bool) -> float:
    """Return -1 where the normal of a face is opposite to its surface's axes, as in a mirror."""
    turned = face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
    return -1.0 if turned == is_direct else 1.0
