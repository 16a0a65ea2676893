"""The faces of a solid as walls, and how they meet: what its sizes must tell."""

from __future__ import annotations

import math

from holoptic.curves.space import Curve, SampledCurve, Segment
from holoptic.curves.vectors import Vec3, cross, dot, subtract, unit
from holoptic.solid.anatomy.rows import PLANE, FaceRow
from holoptic.solid.anatomy.skin import Skin
from holoptic.solid.pieces import Meeting, Shape, Wall, WallKind
from holoptic.tolerance import COINCIDENT_MM, GIVEN_MM

_KINDS: tuple[WallKind, ...] = ("plane", "cylinder", "cone", "ball", "ring", "free")


def shape_in_walls(skin: Skin, low: Vec3, high: Vec3) -> Shape:
    """Return a solid's faces and how they meet; `low` and `high` are the corners of its box."""
    numbers = {id(face): number for number, face in enumerate(skin.faces)}
    meetings = tuple(
        Meeting(
            tuple(numbers[id(face)] for face in border.faces),
            _straightened(border.curve),
            not border.is_drawn,
        )
        for border in skin.borders
        if not border.is_seam
    )
    walls = [_wall(face.row) for face in skin.faces]
    for number, wall in enumerate(walls):
        if wall.kind == "free":
            around = [m.curve for m in meetings if number in m.walls]
            walls[number] = _flat(around) or wall
    return Shape(tuple(walls), meetings, low, high)


def _straightened(curve: Curve) -> Curve:
    """Return a curve as a straight line where it is one: the kernel has some as free curves."""
    if not isinstance(curve, SampledCurve):
        return curve
    along = subtract(curve.end, curve.start)
    size = dot(along, along)
    if size < COINCIDENT_MM:
        return curve
    for point in curve.points:
        off = cross(subtract(point, curve.start), along)
        if dot(off, off) > GIVEN_MM**2 * size:
            return curve
    return Segment(curve.start, curve.end)


def _flat(around: list[Curve]) -> Wall | None:
    """Return the plane of a free face that straight lines in one plane bound, None for others.

    The sides of a pyramid come from the kernel as faces of the general sort.
    """
    if len(around) < 3 or not all(isinstance(curve, Segment) for curve in around):
        return None
    first = around[0]
    ways = (cross(subtract(first.end, first.start), subtract(c.end, c.start)) for c in around)
    normal = max(ways, key=lambda way: dot(way, way))
    if dot(normal, normal) < COINCIDENT_MM:
        return None
    way = unit(normal)
    ends = (end for curve in around for end in (curve.start, curve.end))
    is_plane = all(abs(dot(way, subtract(end, first.start))) < GIVEN_MM for end in ends)
    return Wall("plane", first.start, way) if is_plane else None


def _wall(row: FaceRow) -> Wall:
    figures = row.figures
    place = figures[0], figures[1], figures[2]
    way = figures[9], figures[10], figures[11]
    kind = _KINDS[row.kind]
    if row.kind == PLANE or kind == "free":
        return Wall(kind, place, way)
    size, other = figures[12], figures[13]
    if kind == "cone":
        # the kernel's cone grows along its axis with the sine of its half angle
        return Wall(kind, place, way, size, math.atan(math.tan(other)))
    return Wall(kind, place, way, size, other)
