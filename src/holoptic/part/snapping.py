"""Outlines edited by hand: which offset or side of an outline a place on a face means."""

from __future__ import annotations

import math
from dataclasses import replace

from holoptic.curves.paper import distance_to_segment
from holoptic.curves.vectors import Vec2
from holoptic.part.crate import Crate
from holoptic.part.operations import Centred, Corner, Offset, Operation, Prism, Strip
from holoptic.part.part import Part
from holoptic.part.provenance import given_offsets
from holoptic.units import Length, Unit

_GRID = {Unit.MM: 0.5, Unit.INCH_DECIMAL: 2.54, Unit.INCH_FRACTION: 25.4 / 16}


def snapped(part: Part, index: int, point: Vec2, reach: float, unit: Unit) -> Vec2:
    """Return the place on the face of operation `index` that a point (u, v) in mm means.

    Each coordinate snaps to the nearest given offset of another operation or of the crate
    within `reach` mm, else to the grid: half millimetres, or a sixteenth or tenth of an inch.
    """
    place = []
    sizes = part.crate.face_size(part.operations[index].face)
    for value, size, offsets in zip(point, sizes, offsets_on_face(part, index), strict=True):
        nearest = min(offsets, key=lambda at: abs(at - value))
        grid = _GRID[unit]
        chosen = nearest if abs(nearest - value) <= reach else round(value / grid) * grid
        place.append(min(max(chosen, 0.0), size))
    return place[0], place[1]


def offsets_on_face(part: Part, index: int) -> tuple[list[float], list[float]]:
    """Return the offsets across and up the face of operation `index` that the crate and the other
    operations give, mm.
    """
    face = part.operations[index].face
    known = [(given.axis, given.at) for given in given_offsets(part) if given.operation != index]
    across, up = (
        [0.0, size, *(at for known_axis, at in known if known_axis == axis)]
        for axis, size in zip(face.axes, part.crate.face_size(face), strict=True)
    )
    return across, up


def handles_of(operation: Operation, crate: Crate) -> list[Vec2]:
    """Return the places (u, v), mm on its face, by which an operation is taken hold of: the corners
    of its outline, or its centre; none of an outline whose slopes lead nowhere.
    """
    if isinstance(operation, Prism | Strip):
        try:
            return operation.outline_mm()
        except ValueError:
            return []
    return [operation.centre_mm(crate)] if isinstance(operation, Centred) else []


def with_handle_at(
    operation: Operation, number: int, place: Vec2, crate: Crate, unit: Unit
) -> Operation:
    """Return an operation with one of its handles put to a place, or as near as its face has it.

    Offsets are counted as before: from the far edge, or from the middle.
    """
    width, height = crate.face_size(operation.face)
    u, v = min(max(place[0], 0.0), width), min(max(place[1], 0.0), height)
    if isinstance(operation, Prism | Strip):
        corners = list(operation.outline)
        corners[number] = replace(corner_at((u, v), unit), arc=corners[number].arc)
        return replace(operation, outline=tuple(corners))
    if isinstance(operation, Centred):
        return replace(operation, u=_offset_to(u, width, operation.u, unit),
                       v=_offset_to(v, height, operation.v, unit))  # fmt: skip
    return operation


def _offset_to(place: float, size: float, before: Offset, unit: Unit) -> Offset:
    """Return an offset to a place, counted as the one before it."""
    counted = size - place if before.far else place - size / 2 if before.centred else place
    return replace(before, distance=Length.of(counted, unit))


def corner_at(place: Vec2, unit: Unit) -> Corner:
    """Return the corner of an outline at a place, mm, in figures of a unit."""
    return Corner(Length.of(place[0], unit), Length.of(place[1], unit))


def nearest_corner(corners: list[Vec2], point: Vec2, reach: float) -> int | None:
    """Return the index of the corner nearest to a point within `reach` mm, or None."""
    near = [(math.dist(corner, point), number) for number, corner in enumerate(corners)]
    gap, best = min(near, default=(math.inf, 0))
    return best if gap <= reach else None


def with_corner_at(prism: Prism, corner: Corner) -> tuple[Prism, int]:
    """Return the prism with a corner put into the side nearest to it, and the corner's index.

    An outline without corners begins with it. Raises ValueError for a slope that leads nowhere.
    """
    corners = prism.outline_mm()
    sides = list(zip(corners, corners[1:] + corners[:1], strict=True))
    gaps = [(distance_to_segment(corner.mm, *side), number) for number, side in enumerate(sides)]
    _, side = min(gaps, default=(0.0, -1))
    outline = (*prism.outline[: side + 1], corner, *prism.outline[side + 1 :])
    return replace(prism, outline=outline), side + 1


def without_corner(operation: Prism | Strip, number: int) -> Prism | Strip:
    """Return a prism or strip without one corner of its outline."""
    outline = operation.outline[:number] + operation.outline[number + 1 :]
    if isinstance(operation, Prism):
        return replace(operation, outline=outline)
    moved = (start - 1 if start > number else start for start in operation.starts)
    starts = tuple(sorted({start for start in moved if 0 < start < len(outline)}))
    return replace(operation, outline=outline, starts=starts)
