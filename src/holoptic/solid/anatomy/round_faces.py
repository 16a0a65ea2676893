"""What a round face alone says of its feature: axis, ends and radii."""

from __future__ import annotations

import math

from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_SurfaceType as Kind
from OCP.TopoDS import TopoDS_Face

from holoptic.curves.vectors import add, distance, dot, subtract
from holoptic.solid.pieces import RoundFeature
from holoptic.tolerance import COINCIDENT_MM


def round_of(
    face: TopoDS_Face, surface: BRepAdaptor_Surface, low: float, high: float
) -> RoundFeature | None:
    """Return what a face alone says of its round feature; None where it is of none.

    `low` and `high` are the bounds of the second parameter of its surface.
    """
    kind = surface.GetType()
    if kind == Kind.GeomAbs_Cylinder:
        cylinder = surface.Cylinder()
        radius = cylinder.Radius()
        return _between(cylinder.Position(), low, high, radius, radius)
    if kind == Kind.GeomAbs_Cone:
        cone = surface.Cone()
        along, across = math.cos(cone.SemiAngle()), math.sin(cone.SemiAngle())
        start, end = (abs(cone.RefRadius() + v * across) for v in (low, high))
        return _between(cone.Position(), low * along, high * along, start, end)
    if kind == Kind.GeomAbs_Sphere:
        radius = surface.Sphere().Radius()
        return _between(surface.Sphere().Position(), -radius, radius, radius, radius)
    if kind == Kind.GeomAbs_Torus:
        torus = surface.Torus()
        radius, half = torus.MajorRadius() + torus.MinorRadius(), torus.MinorRadius()
        return _between(torus.Position(), -half, half, radius, radius)
    if kind == Kind.GeomAbs_SurfaceOfRevolution:
        return _turned(BRepAdaptor_Surface(face))
    return None


def _turned(surface: BRepAdaptor_Surface) -> RoundFeature | None:
    """Return a turned face as the frustum between its two rims."""
    axis = surface.AxeOfRevolution()
    place, way = axis.Location(), axis.Direction()
    origin, along = (place.X(), place.Y(), place.Z()), (way.X(), way.Y(), way.Z())
    ends = []
    for v in (surface.FirstVParameter(), surface.LastVParameter()):
        point = surface.Value(surface.FirstUParameter(), v)
        rim = point.X(), point.Y(), point.Z()
        centre = add(origin, along, dot(subtract(rim, origin), along))
        ends.append((centre, distance(rim, centre)))
    (start, start_radius), (end, end_radius) = ends
    if distance(start, end) < COINCIDENT_MM:
        return None
    return RoundFeature(start, end, start_radius, end_radius)


def _between(
    position: object, low: float, high: float, low_radius: float, high_radius: float
) -> RoundFeature:
    place, way = position.Location(), position.Direction()  # type: ignore[attr-defined]
    origin, axis = (place.X(), place.Y(), place.Z()), (way.X(), way.Y(), way.Z())
    return RoundFeature(add(origin, axis, low), add(origin, axis, high), low_radius, high_radius)
