"""The round features of a solid: what a drafter gives centre lines."""

from __future__ import annotations

import math
from collections import defaultdict
from dataclasses import replace

from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_SurfaceType as Kind

from holoptic.curves.space import Curve, EllipticArc
from holoptic.curves.vectors import Vec3, add, distance, dot, subtract
from holoptic.solid.anatomy.faces import SolidFace
from holoptic.solid.pieces import RoundFeature
from holoptic.tolerance import COINCIDENT_MM, KERNEL_MM, SHARE

_LEAST_SWEEP = math.pi - SHARE
"""Radians. A face that turns less, such as a fillet, has no centre lines."""


Rim = tuple[Vec3, float, Vec3]
"""Centre, radius, and the outward normal of the plane face that a circular edge lies in."""


def round_features(
    faces: list[SolidFace], edges: list[tuple[Curve, list[SolidFace]]]
) -> tuple[RoundFeature, ...]:
    """Return the round features of a solid, faces that continue each other taken together.

    Edges come as their curves, with the faces beside them.
    """
    found: list[tuple[RoundFeature, float]] = []
    for face in faces:
        feature = _feature(face)
        if feature is None:
            continue
        sweep = face.surface.LastUParameter() - face.surface.FirstUParameter()
        for k, (other, other_sweep) in enumerate(found):
            if _is_same(feature, other):
                found[k] = other, other_sweep + sweep
                break
        else:
            found.append((feature, sweep))
    rims = _by_place(plane_rims(edges))
    return tuple(_with_faces(feature, rims) for feature, sweep in found if sweep >= _LEAST_SWEEP)


def plane_rims(edges: list[tuple[Curve, list[SolidFace]]]) -> list[Rim]:
    """Return the circular edges that bound plane faces."""
    return [
        (curve.centre, curve.major, face.normal)
        for curve, faces in edges
        if isinstance(curve, EllipticArc) and curve.is_circle
        for face in faces
        if face.normal is not None
    ]


def _with_faces(feature: RoundFeature, rims: dict[_Key, list[Rim]]) -> RoundFeature:
    def face_at(centre: Vec3, radius: float) -> Vec3 | None:
        for place, size, normal in rims.get(_key(centre), ()):
            if abs(size - radius) < KERNEL_MM and distance(place, centre) < KERNEL_MM:
                return normal
        return None

    return replace(
        feature,
        start_face=face_at(feature.start, feature.start_radius),
        end_face=face_at(feature.end, feature.end_radius),
    )


def _by_place(rims: list[Rim]) -> dict[_Key, list[Rim]]:
    """Return rims by the cells of a coarse grid about their centres: its own and its neighbours."""
    found: dict[_Key, list[Rim]] = defaultdict(list)
    for rim in rims:
        cells = {_key((rim[0][0] + a, rim[0][1] + b, rim[0][2] + c)) for a, b, c in _NEAR}
        for cell in cells:
            found[cell].append(rim)
    return found


_Key = tuple[int, int, int]
_NEAR = [(a, b, c) for a in (-KERNEL_MM, KERNEL_MM) for b in (-KERNEL_MM, KERNEL_MM)
         for c in (-KERNEL_MM, KERNEL_MM)]  # fmt: skip


def _key(place: Vec3) -> _Key:
    return round(place[0]), round(place[1]), round(place[2])


def _feature(face: SolidFace) -> RoundFeature | None:
    if face.normal is not None:
        return None
    kind, surface = face.kind, face.surface
    low, high = surface.FirstVParameter(), surface.LastVParameter()
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
        return _turned(surface)
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


def _is_same(a: RoundFeature, b: RoundFeature) -> bool:
    """Say whether two faces are parts of one round: half and half, or one cut in two along."""
    same_ends = distance(a.start, b.start) + distance(a.end, b.end) < 10 * COINCIDENT_MM
    turned = distance(a.start, b.end) + distance(a.end, b.start) < 10 * COINCIDENT_MM
    return (same_ends and _near(a.start_radius, b.start_radius)) or (
        turned and _near(a.start_radius, b.end_radius)
    )


def _near(a: float, b: float) -> bool:
    return abs(a - b) < 10 * COINCIDENT_MM
