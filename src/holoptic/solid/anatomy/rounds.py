"""The round features of a solid: what a drafter gives centre lines."""

from __future__ import annotations

import math
from collections import defaultdict
from dataclasses import replace
from itertools import product

from holoptic.curves.space import Curve, EllipticArc
from holoptic.curves.vectors import Vec3, distance, mix
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
    at: dict[_Key, list[int]] = defaultdict(list)
    for face in faces:
        feature = face.round
        if feature is None:
            continue
        first, last, _, _ = face.bounds
        sweep = last - first
        middle = mix(feature.start, feature.end, 0.5)
        for k in at[_key(middle)]:
            if _is_same(feature, found[k][0]):
                found[k] = found[k][0], found[k][1] + sweep
                break
        else:
            for cell in _cells_about(middle):
                at[cell].append(len(found))
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
        for cell in _cells_about(rim[0]):
            found[cell].append(rim)
    return found


def _cells_about(place: Vec3) -> set[_Key]:
    """Return the cells of the grid that hold what is one place with another."""
    own = _key(place)
    if all(abs(value - cell) < _SURELY for value, cell in zip(place, own, strict=True)):
        return {own}
    near = [{round(value - KERNEL_MM), round(value + KERNEL_MM)} for value in place]
    return set(product(*near))


_Key = tuple[int, ...]
_SURELY = 0.5 - 2 * KERNEL_MM
"""Nearer than this to the middle of its cell a place has no neighbours in another one."""


def _key(place: Vec3) -> _Key:
    return round(place[0]), round(place[1]), round(place[2])


def _is_same(a: RoundFeature, b: RoundFeature) -> bool:
    """Say whether two faces are parts of one round: half and half, or one cut in two along."""
    same_ends = distance(a.start, b.start) + distance(a.end, b.end) < 10 * COINCIDENT_MM
    turned = distance(a.start, b.end) + distance(a.end, b.start) < 10 * COINCIDENT_MM
    return (same_ends and _near(a.start_radius, b.start_radius)) or (
        turned and _near(a.start_radius, b.end_radius)
    )


def _near(a: float, b: float) -> bool:
    return abs(a - b) < 10 * COINCIDENT_MM
