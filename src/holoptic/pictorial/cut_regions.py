"""Cut faces in a picture: what of them is seen, and how each is hatched.

All cut faces of a body that lie one way have one direction of lines, and all of its faces one
pitch; its neighbour has another. Of the two images of the face's true 45° the one is taken that
runs clear of the axes and of long outlines: in isometric that is 60° on upright planes, 0° or 90°
on level ones, mirrored on the second plane of a half section. Source: ISO 128 (hatching).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
import shapely

from holoptic.curves.hatching import area_within, lines_over
from holoptic.curves.space import Segment
from holoptic.curves.vectors import Vec2, Vec3, apply, cross, dot, unit
from holoptic.pictorial.kinds import View
from holoptic.pictorial.strokes import Origin, Stroke
from holoptic.solid.pieces import CutFace
from holoptic.tolerance import COINCIDENT_MM, PARALLEL

Fill = Literal["hatch", "solid"]
HATCH = "h"
"""Begins the ids of hatch lines among those of strokes."""

LEAST_CLEAR_DEG = 15.0
"""Lines of a hatch keep so far off the direction of a long outline."""
_LONG_SHARE = 0.3
"""Of the largest extent of a face: a straight outline at least so long is long."""
_PITCHES = ((8.0, 1.0), (16.0, 1.5), (40.0, 2.0), (80.0, 2.5), (140.0, 3.0), (math.inf, 4.0))
"""Up to which size on paper (root of the area, mm) lines stand how far apart, mm."""
_THIN_MM = 1.0
"""A wall thinner than this on paper is filled."""
_WAYS, _WIDER = 2, 1.5
_APART_DEG = 25.0
"""So far off its neighbour's direction the lines of a body run."""
_TRIED_DEG = (45.0, 135.0, 60.0, 120.0, 0.0, 90.0, 30.0, 150.0, 75.0, 105.0, 15.0, 165.0)


@dataclass(frozen=True)
class CutRegion:
    """A piece of a cut face that is in sight.

    `rings` are its outlines on paper at 1:1 (mm), the outer one first; `area` is its true area
    (mm²); `plain` are outlines in it of what is left without lines. The face lies through `place`
    (mm) square to `normal`. Hatch lines run at `angle_deg` on paper, `pitch` mm apart at 1:1.
    """

    body: int
    area: float
    rings: tuple[tuple[Vec2, ...], ...]
    place: Vec3
    normal: Vec3
    plain: tuple[tuple[Vec2, ...], ...] = ()
    fill: Fill = "hatch"
    angle_deg: float = 45.0
    pitch: float = 2.0

    @cached_property
    def hatched(self) -> shapely.Geometry:
        """What of it is hatched, on paper at 1:1."""
        return self.outline.difference(area_within(self.plain))

    @cached_property
    def outline(self) -> shapely.Geometry:
        """What it takes up on paper at 1:1."""
        return area_within(self.rings)


def regions_of(cut_faces: Iterable[CutFace], view: View, scale: float = 1.0) -> tuple[
    CutRegion, ...
]:  # fmt: skip
    """Return the cut faces of a picture as they are seen, hatched for a scale of the sheet."""
    found = []
    for face in cut_faces:
        for rings in face.seen:
            flat = tuple(tuple(apply(view.matrix, point) for point in ring) for ring in rings)
            whole = len(face.seen) == 1 and rings == face.rings
            area = face.area if whole else _true_area(flat, face, view)
            plain = tuple(
                tuple(apply(view.matrix, point) for point in ring)
                for own in face.plain for ring in own
            )  # fmt: skip
            found.append(CutRegion(face.body, area, flat, face.place, face.normal, plain))
    return hatched(tuple(found), view, scale)


def _true_area(rings: Sequence[Sequence[Vec2]], face: CutFace, view: View) -> float:
    """Return the area of a piece of a face in space, mm²."""
    first = unit(cross(face.normal, (0.0, 0.0, 1.0) if abs(face.normal[2]) < 0.9 else
                       (1.0, 0.0, 0.0)))  # fmt: skip
    a, b = apply(view.matrix, first), apply(view.matrix, cross(face.normal, first))
    return float(area_within(rings).area) / abs(a[0] * b[1] - a[1] * b[0])


def hatched(regions: Sequence[CutRegion], view: View, scale: float) -> tuple[CutRegion, ...]:
    """Return regions with the direction and pitch of their lines, for a scale of the sheet."""
    bodies = list(dict.fromkeys(region.body for region in regions))
    turns = _turns(regions, bodies)
    made: list[CutRegion] = list(regions)
    for body in bodies:
        own = [k for k, region in enumerate(regions) if region.body == body]
        pitch = _pitch([regions[k] for k in own], scale) * _WIDER ** (turns[body] // _WAYS)
        ways: dict[tuple[float, ...], list[int]] = defaultdict(list)
        for k in own:
            ways[tuple(round(v, 6) + 0.0 for v in regions[k].normal)].append(k)
        for alike in ways.values():
            angle = _angle([regions[k] for k in alike], view, turns[body] % _WAYS)
            for k in alike:
                thin = regions[k].outline.buffer(-_THIN_MM / 2 / scale).is_empty
                fill: Fill = "solid" if thin else "hatch"
                made[k] = replace(regions[k], angle_deg=angle, pitch=pitch / scale, fill=fill)
    return tuple(made)


def _turns(regions: Sequence[CutRegion], bodies: Sequence[int]) -> dict[int, int]:
    """Return a number for each body by which its hatch differs from that of those beside it."""
    areas = {
        body: shapely.union_all([r.outline for r in regions if r.body == body]) for body in bodies
    }
    turns: dict[int, int] = {}
    for number, body in enumerate(bodies):
        beside = {turns[other] for other in turns if areas[body].distance(areas[other]) < 0.1}
        wanted = [*range(number % 2, 2), *range(number % 2), *range(2, len(bodies) + 2)]
        turns[body] = next(turn for turn in wanted if turn not in beside)
    return turns


def _pitch(regions: Sequence[CutRegion], scale: float) -> float:
    """Return how far apart the lines of a body stand on paper, mm."""
    size = scale * math.sqrt(max(float(region.outline.area) for region in regions))
    return next(pitch for most, pitch in _PITCHES if size <= most)


def _angle(regions: Sequence[CutRegion], view: View, turn: int) -> float:
    """Return the direction of lines of faces that lie one way, degrees on paper in [0, 180)."""
    taken = [*_long_outlines(regions)]
    if view.corner is not None:
        taken += [view.axis_angle(axis) % 180 for axis in range(3)
                  if view.axis_scale(axis) > COINCIDENT_MM]  # fmt: skip
    first = _best(_diagonals(regions[0].normal, view), taken)
    if turn == 0:
        return first
    other = [angle for angle in _TRIED_DEG if _between(angle, first) >= _APART_DEG]
    return _best([*_diagonals(regions[0].normal, view), *other], [*taken, first])


def _best(wanted: Sequence[float], taken: Sequence[float]) -> float:
    """Return the wanted direction that is clearest of others; where none is clear, any that is."""

    def clear(angle: float) -> float:
        return min((_between(angle, other) for other in taken), default=90.0)

    best = max(wanted, key=lambda angle: round(clear(angle), 3))
    if clear(best) >= LEAST_CLEAR_DEG:
        return best
    tried = [*_TRIED_DEG, *map(float, range(0, 180, 5))]
    return max(tried, key=lambda angle: round(clear(angle), 3))


def _between(one: float, other: float) -> float:
    """Return the angle between two directions of lines, degrees in [0, 90]."""
    return abs((one - other + 90.0) % 180.0 - 90.0)


def _diagonals(normal: Vec3, view: View) -> list[float]:
    """Return the images of the two true diagonals of a face, degrees in [0, 180)."""
    axis = max(range(3), key=lambda k: abs(normal[k]))
    others = [tuple(1.0 if k == j else 0.0 for k in range(3)) for j in range(3) if j != axis]
    first, second = ((way[0], way[1], way[2]) for way in others)
    if abs(normal[axis]) < 1 - PARALLEL:
        first = unit(cross(normal, (0.0, 0.0, 1.0) if axis != 2 else (1.0, 0.0, 0.0)))
        second = cross(normal, first)
    found = []
    for sign in (1.0, -1.0):
        way = tuple(a + sign * b for a, b in zip(first, second, strict=True))
        x, y = apply(view.matrix, (way[0], way[1], way[2]))
        if math.hypot(x, y) > COINCIDENT_MM:
            found.append(round(math.degrees(math.atan2(y, x)), 6) % 180.0)
    return found


def _long_outlines(regions: Sequence[CutRegion]) -> Iterator[float]:
    """Yield the directions of long straight outlines, degrees in [0, 180)."""
    for region in regions:
        low_x, low_y, high_x, high_y = region.outline.bounds
        long = _LONG_SHARE * max(high_x - low_x, high_y - low_y)
        for ring in region.rings:
            for (x, y), (u, v) in zip(ring, [*ring[1:], ring[0]], strict=True):
                if math.hypot(u - x, v - y) >= long:
                    yield math.degrees(math.atan2(v - y, u - x)) % 180.0


def hatch_strokes(regions: Sequence[CutRegion], view: View) -> list[Stroke]:
    """Return the lines of hatched regions as strokes that lie in their faces."""
    made: list[Stroke] = []
    for region in regions:
        if region.fill != "hatch":
            continue
        back = np.linalg.inv(np.array([*view.matrix, region.normal]))
        off = dot(region.normal, region.place)
        for line in lines_over(region.hatched, region.angle_deg, region.pitch):
            ends = [tuple((back @ (x, y, off)).tolist()) for x, y in line]
            curve = Segment(*((x, y, z) for x, y, z in ends))
            origin = Origin(None, None, region.body)
            made.append(Stroke(f"{HATCH}{len(made) + 1}", "hatch", curve, origin, curve,
                               view.matrix))  # fmt: skip
    return made
