"""How thin the walls of a solid are: rays from its faces straight into the material."""

from __future__ import annotations

from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepClass import BRepClass_FaceClassifier
from OCP.gp import gp_Dir, gp_Lin, gp_Pnt, gp_Pnt2d, gp_Vec
from OCP.IntCurvesFace import IntCurvesFace_ShapeIntersector
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum, TopAbs_State
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Face, TopoDS_Shape

from holoptic.curves.vectors import Vec3
from holoptic.tolerance import EXACT_MM, GIVEN_MM, SOLVED

_SHARES = (0.13, 0.5, 0.87)
_FAR_MM = 1e6
_LEVEL = 0.9
"""Cosine of how far the two sides of a wall may lean against each other."""


def thinnest_walls(shape: TopoDS_Shape) -> list[tuple[Vec3, float]]:
    """Return for each face the thinnest wall under it: a point of the face, and mm of material."""
    ahead = IntCurvesFace_ShapeIntersector()
    ahead.Load(shape, EXACT_MM)
    found = []
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_FACE)
    while explorer.More():
        walls = _walls_under(TopoDS.Face(explorer.Current()), ahead)
        if walls:
            found.append(min(walls, key=lambda wall: wall[1]))
        explorer.Next()
    return found


def _walls_under(
    face: TopoDS_Face, ahead: IntCurvesFace_ShapeIntersector
) -> list[tuple[Vec3, float]]:
    surface = BRepAdaptor_Surface(face)
    inward = 1.0 if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED else -1.0
    u0, u1 = surface.FirstUParameter(), surface.LastUParameter()
    v0, v1 = surface.FirstVParameter(), surface.LastVParameter()
    if max(abs(value) for value in (u0, u1, v0, v1)) > _FAR_MM:
        return []
    walls = []
    for s in _SHARES:
        for t in _SHARES:
            u, v = u0 + s * (u1 - u0), v0 + t * (v1 - v0)
            inside = BRepClass_FaceClassifier(face, gp_Pnt2d(u, v), EXACT_MM)
            if inside.State() != TopAbs_State.TopAbs_IN:
                continue
            wall = _wall(surface, u, v, inward, ahead)
            if wall is not None:
                walls.append(wall)
    return walls


def _wall(
    surface: BRepAdaptor_Surface, u: float, v: float, inward: float,
    ahead: IntCurvesFace_ShapeIntersector,
) -> tuple[Vec3, float] | None:  # fmt: skip
    point, along_u, along_v = gp_Pnt(), gp_Vec(), gp_Vec()
    surface.D1(u, v, point, along_u, along_v)
    normal = along_u.Crossed(along_v)
    if normal.Magnitude() < SOLVED:
        return None
    normal.Multiply(inward / normal.Magnitude())
    ahead.PerformNearest(gp_Lin(point, gp_Dir(normal)), GIVEN_MM, _FAR_MM)
    if not ahead.IsDone() or ahead.NbPnt() == 0:
        return None
    if abs(_slant(ahead, normal)) < _LEVEL:
        return None  # a wedge runs out to nothing: no wall
    return (point.X(), point.Y(), point.Z()), float(ahead.WParameter(1))


def _slant(ahead: IntCurvesFace_ShapeIntersector, way: gp_Vec) -> float:
    """Return the cosine between a ray and the normal of the face that it leaves by."""
    surface = BRepAdaptor_Surface(ahead.Face(1))
    point, along_u, along_v = gp_Pnt(), gp_Vec(), gp_Vec()
    surface.D1(ahead.UParameter(1), ahead.VParameter(1), point, along_u, along_v)
    normal = along_u.Crossed(along_v)
    size = normal.Magnitude()
    return float(normal.Dot(way)) / size if size > SOLVED else 0.0
