"""The faces of a solid, each looked into once however often the solid around it changes."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property

import numpy as np
from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve2d, BRepAdaptor_Surface
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp_Domain, BRepGProp_Face, BRepGProp_Vinert
from OCP.BRepTools import BRepTools
from OCP.collections import IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher as ShapeMap
from OCP.GeomAbs import GeomAbs_SurfaceType as Kind
from OCP.gp import gp_Pnt, gp_Vec
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp, TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Face, TopoDS_Shape

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.edge_curves import even_parameters, xyz
from holoptic.solid.anatomy.known_edges import KnownEdge, known_edge
from holoptic.solid.anatomy.measures import volume_under
from holoptic.solid.anatomy.remembered import Remembered
from holoptic.solid.anatomy.round_faces import round_of
from holoptic.solid.anatomy.rows import BOUNDS, FIGURED, FaceRow, face_row, sign_of
from holoptic.solid.caches import FACES
from holoptic.solid.pieces import RoundFeature

_STEADY = (
    Kind.GeomAbs_Plane, Kind.GeomAbs_Cylinder, Kind.GeomAbs_Cone, Kind.GeomAbs_SurfaceOfExtrusion
)  # fmt: skip
"""Surfaces whose normal stays the same along a straight edge."""


_WAYS = {TopAbs_Orientation.TopAbs_FORWARD: 0, TopAbs_Orientation.TopAbs_REVERSED: 1}
_ALONG = 129
"""Places along an edge of a free face, close enough to tell where it turns away."""


class SolidFace:
    """A face: its one normal where it is plane, and how its normals are found where it is not."""

    def __init__(self, face: TopoDS_Face) -> None:
        self.face = face
        self.plain_surface = surface = BRepAdaptor_Surface(face, False)
        self.kind = surface.GetType()
        self.is_steady = self.kind in _STEADY
        self.is_figured = self.kind in FIGURED
        self.normal = _plane_normal(surface, face) if self.kind == Kind.GeomAbs_Plane else None
        self._along: dict[int, np.ndarray] = {}
        self._cylinder = surface.Cylinder() if self.kind == Kind.GeomAbs_Cylinder else None

    @cached_property
    def volume(self) -> float:
        """What the face adds to the volume of its solid: the cone on it from the origin, mm³."""
        if self.is_figured:
            around = zip([known.swept for known in self.known_edges], self.ways_round, strict=True)
            found = volume_under(self.row, around)
            if found is not None:
                return found
        face, domain = BRepGProp_Face(self.face), BRepGProp_Domain(self.face)
        return float(BRepGProp_Vinert(face, domain, gp_Pnt(0, 0, 0)).Mass())

    @cached_property
    def is_valid(self) -> bool:
        """Whether the kernel finds nothing wrong with it."""
        return bool(BRepCheck_Analyzer(self.face).IsValid())

    @cached_property
    def edges(self) -> list[tuple[int, TopoDS_Edge]]:
        """Its edges with what tells them apart, in the kernel's order; a seam comes twice."""
        found = []
        explorer = TopExp_Explorer(self.face, TopAbs_ShapeEnum.TopAbs_EDGE)
        while explorer.More():
            edge = TopoDS.Edge(explorer.Current())
            if not BRep_Tool.Degenerated_s(edge):
                found.append((hash(edge), edge))
            explorer.Next()
        return found

    @cached_property
    def known_edges(self) -> list[KnownEdge]:
        """What is known of its edges, in the same order."""
        return [known_edge(key, edge) for key, edge in self.edges]

    @cached_property
    def ways_round(self) -> list[int]:
        """Of each of its edges whether it runs the face's way round, 0, or against it, 1; 2 of one
        that lies in the face but does not bound it.
        """
        return [_WAYS.get(edge.Orientation(), 2) for _, edge in self.edges]

    @cached_property
    def row(self) -> FaceRow:
        """It in figures."""
        return face_row(self.face, self.plain_surface, self._fills_bounds())

    def _fills_bounds(self) -> bool:
        """Say whether it is a cylinder or a cone between rims and generators: surely a rectangle
        in its surface's parameters. Others may be, too.
        """
        if self.kind not in (Kind.GeomAbs_Cylinder, Kind.GeomAbs_Cone):
            return False
        curves = [known.curve for known in self.known_edges]
        straight = sum(isinstance(curve, Segment) for curve in curves)
        rims = sum(isinstance(curve, EllipticArc) and curve.is_circle for curve in curves)
        # a cone to its apex has one rim
        few = 1 if self.kind == Kind.GeomAbs_Cone else 2
        return straight == 2 and few <= rims <= 2 and len(curves) == rims + 2

    @property
    def bounds(self) -> tuple[float, ...]:
        """The lowest and highest u, and v, of a face that is not plane."""
        return self.row.figures[BOUNDS] if self.is_figured else BRepTools.UVBounds_s(self.face)

    @cached_property
    def round(self) -> RoundFeature | None:
        """What it alone says of the round feature that it is of, None where it is plane."""
        if self.normal is not None:
            return None
        return round_of(self.face, self.plain_surface, *self.bounds[2:])

    @cached_property
    def tight_box(self) -> tuple[Vec3, Vec3]:
        """The lowest and the highest corner of the box that just holds it, mm."""
        box = Bnd_Box()
        BRepBndLib.AddOptimal_s(self.face, box, False, False)
        box.SetGap(0.0)
        return xyz(box.CornerMin()), xyz(box.CornerMax())

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
            sign = sign_of(self.face, axis.Direct())
            found: np.ndarray = sign * off / np.linalg.norm(off, axis=1, keepdims=True)
            return found
        return np.array(_probed(edge, self.face, places))

    def normals_along(self, edge: TopoDS_Edge, curve: Curve) -> np.ndarray:
        """Return the outward normals (k × 3) evenly along an edge of it, many of them."""
        key = hash(edge)
        if key not in self._along:
            places = even_parameters(edge, _ALONG)
            self._along[key] = self.normals(edge, places, curve.even_points(_ALONG))
        return self._along[key]


_known: Remembered[SolidFace] = Remembered(FACES)


def face_of(face: TopoDS_Face) -> SolidFace:
    """Return what is known of a face."""
    return _known.of(SolidFace, face)


def faces_of(shape: TopoDS_Shape) -> list[SolidFace]:
    """Return the faces of a shape, each once."""
    found = ShapeMap()
    TopExp.MapShapes_s(shape, TopAbs_ShapeEnum.TopAbs_FACE, found)
    return [face_of(TopoDS.Face(found.FindKey(i + 1))) for i in range(found.Extent())]


def volume_within(faces: Iterable[SolidFace]) -> float:
    """Return the volume that faces shut in, mm³ (Gauss: each face adds its own share)."""
    return abs(sum(face.volume for face in faces))


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
    sign = sign_of(face, plane.Direct())
    return sign * way.X(), sign * way.Y(), sign * way.Z()
