"""What can be dragged: a place of a feature along an axis, and the lengths that follow it."""

from __future__ import annotations

from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.part.crate import Crate
from holoptic.part.operations import (
    Bevel,
    Centred,
    Corner,
    CornerCut,
    Offset,
    Operation,
    Prism,
    Strip,
)
from holoptic.part.part import Part
from holoptic.part.provenance import given_offsets
from holoptic.tolerance import GIVEN_MM
from holoptic.units import Length, Unit


def holder_of(part: Part, operation: int | None, axis: int, at: float) -> int | None:
    """Return the operation that gives a place along an axis, the one named if it does.

    None where only the crate does. Raises LookupError where nothing gives it.
    """
    size = part.crate.sizes[axis]
    found = [
        index for index in reversed(range(len(part.operations)))
        if _moved(part.operations[index], part.crate, axis, at, at, Unit.MM) is not None
    ]  # fmt: skip
    if operation in found:
        return operation
    if abs(at - size) <= GIVEN_MM:
        return None
    if found:
        return found[0]
    raise LookupError(tr("nothing gives the place {at:g}", at=at))


def drag(part: Part, operation: int | None, axis: int, at: float, to: float, unit: Unit) -> Part:
    """Return the part with a place of an operation, or of the crate's far end, moved along an axis.

    All that lies at `at` (mm) in that operation moves; lengths become plain figures. Raises
    PartError where a sum that hangs on it no longer reads, ValueError for a crate without size.
    """
    if operation is None:
        if to <= 0:
            raise ValueError(tr("the crate must keep a size"))
        sizes = [part.crate.length, part.crate.depth, part.crate.height]
        sizes[axis] = Length.of(to, unit)
        return replace(part, crate=Crate(*sizes)).reread(unit)
    moved = _moved(part.operations[operation], part.crate, axis, at, to, unit)
    if moved is None:
        return part
    operations = (*part.operations[:operation], moved, *part.operations[operation + 1 :])
    return replace(part, operations=operations).reread(unit)


def snapped_place(
    part: Part, operation: int | None, axis: int, place: float, reach: float, step: float
) -> float:
    """Return the place that a pointer means: another feature's within `reach` mm, else a step's."""
    size = part.crate.sizes[axis]
    others = [
        given.at for given in given_offsets(part)
        if given.axis == axis and given.operation != operation
    ]  # fmt: skip
    known = others if operation is None else [0.0, size, *others]
    nearest = min(known, key=lambda at: abs(at - place), default=place)
    if known and abs(nearest - place) <= reach:
        return nearest
    stepped = round(place / step) * step
    return stepped if operation is None else min(max(stepped, 0.0), size)


def _moved(
    operation: Operation, crate: Crate, axis: int, at: float, to: float, unit: Unit
) -> Operation | None:
    """Return an operation with what lies at a place moved; None where nothing of it lies there."""
    if isinstance(operation, CornerCut):
        return _moved_corner_cut(operation, crate, axis, at, to, unit)
    if isinstance(operation, Bevel):
        return _moved_bevel(operation, crate, axis, at, to, unit)
    if axis == operation.face.normal_axis:
        return _moved_depth(operation, crate, at, to, unit)
    which = operation.face.axes.index(axis)
    if isinstance(operation, Prism | Strip):
        return _moved_outline(operation, which, at, to, unit)
    return _moved_centre(operation, crate, which, at, to, unit)


def _moved_outline(
    operation: Prism | Strip, which: int, at: float, to: float, unit: Unit
) -> Operation | None:
    side, outline = "uv"[which], list(operation.outline)
    hit = False
    for k, point in enumerate(outline):
        if isinstance(point, Corner) and abs(point.mm[which] - at) <= GIVEN_MM:
            length = Length.of(to, unit)
            outline[k] = replace(point, u=length) if side == "u" else replace(point, v=length)
            hit = True
    return replace(operation, outline=tuple(outline)) if hit else None


def _moved_depth(
    operation: Operation, crate: Crate, at: float, to: float, unit: Unit
) -> Operation | None:
    face = operation.face
    size = crate.thickness(face)

    base = operation.base

    def depth(place: float) -> float:
        if base is not None:
            return place - base.mm if face.is_far else base.mm - place
        return size - place if face.is_far else place

    for name in ("end", "start"):
        length: Length | None = getattr(operation, name, None)
        if length is not None and abs(length.mm - depth(at)) <= GIVEN_MM:
            return _with(operation, name, Length.of(depth(to), unit))
    return None


def _moved_centre(
    operation: Operation, crate: Crate, which: int, at: float, to: float, unit: Unit
) -> Operation | None:
    """Move the centre by as much as the place at its middle or its edge is moved."""
    if not isinstance(operation, Centred):
        return None
    size = crate.face_size(operation.face)[which]
    side = "uv"[which]
    offset: Offset = getattr(operation, side)
    width = getattr(operation, "diameter", None)
    reach = width.mm / 2 if width is not None else 0.0
    centre = offset.from_near(size)
    if min(abs(abs(at - centre) - reach), abs(at - centre)) > GIVEN_MM:
        return None
    place = centre + to - at
    counted = size - place if offset.far else place - size / 2 if offset.centred else place
    return _with(operation, side, replace(offset, distance=Length.of(counted, unit)))


def _with(operation: Operation, name: str, value: object) -> Operation:
    changed: Operation = replace(operation, **{name: value})  # type: ignore[arg-type]
    return changed


def _moved_bevel(
    bevel: Bevel, crate: Crate, axis: int, at: float, to: float, unit: Unit
) -> Operation | None:
    for name, face in (("offset", bevel.beside), ("across", bevel.face)):
        length: Length | None = getattr(bevel, name)
        if length is None or face.normal_axis != axis:
            continue
        size = crate.sizes[axis]
        if abs((size - at if face.is_far else at) - length.mm) <= GIVEN_MM:
            made = Length.of(size - to if face.is_far else to, unit)
            return replace(bevel, offset=made) if name == "offset" else replace(bevel, across=made)
    return None


def _moved_corner_cut(
    cut: CornerCut, crate: Crate, axis: int, at: float, to: float, unit: Unit
) -> Operation | None:
    far, length = cut.sides[axis]
    size = crate.sizes[axis]
    if abs((size - at if far else at) - length.mm) > GIVEN_MM:
        return None
    made = Length.of(size - to if far else to, unit)
    if axis == 0:
        return replace(cut, along_length=made)
    return replace(cut, along_depth=made) if axis == 1 else replace(cut, along_height=made)
