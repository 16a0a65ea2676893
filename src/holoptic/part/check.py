"""What is wrong with a part before any solid is made; names the operation."""

from __future__ import annotations

from collections.abc import Iterator

from shapely.geometry import LinearRing, Polygon

from holoptic.errors import PartError
from holoptic.part.crate import AXIS_NAMES, Crate
from holoptic.part.operations import Operation, Prism, Round, extent_mm
from holoptic.part.part import Part
from holoptic.tolerance import COINCIDENT_MM

LARGEST_MM = 1e5
"""A hundred metres: beyond it the kernel's own tolerances no longer hold."""


def check(part: Part) -> None:
    """Raise PartError for the first thing that keeps the part from being made."""
    for trouble in _crate_troubles(part.crate):
        raise PartError(trouble)
    if part.begin == "empty" and not part.operations:
        raise PartError("the crate is empty: add a first piece, or begin with a full block")
    if part.begin == "empty" and part.operations[0].mode == "cut":
        raise PartError(f"“{part.operations[0].name}” cuts an empty crate: add material first", 0)
    for index, operation in enumerate(part.operations):
        for trouble in _troubles(operation, part.crate):
            raise PartError(f"“{operation.name}” {trouble}", index)


def _crate_troubles(crate: Crate) -> Iterator[str]:
    for name, size in zip(AXIS_NAMES, crate.sizes, strict=True):
        if size <= COINCIDENT_MM:
            yield f"the crate's {name} must be more than zero"
        if size > LARGEST_MM:
            yield f"the crate's {name} is over 100 m: check its unit"


def _troubles(operation: Operation, crate: Crate) -> Iterator[str]:
    yield from _extent_troubles(operation, crate)
    if isinstance(operation, Prism):
        yield from _outline_troubles(operation, crate)
    else:
        yield from _round_troubles(operation, crate)


def _extent_troubles(operation: Operation, crate: Crate) -> Iterator[str]:
    start, end = extent_mm(operation, crate)
    thickness = crate.thickness(operation.face)
    if start < -COINCIDENT_MM:
        yield f"starts outside the crate, {-start:g} mm in front of the {operation.face.value} face"
    if end > thickness + COINCIDENT_MM:
        yield (
            f"goes {end:g} mm deep, but the crate is only {thickness:g} mm "
            f"from its {operation.face.value} face"
        )
    if end - start <= COINCIDENT_MM:
        yield f"has no thickness: it starts at {start:g} and ends at {end:g} mm"


def _outline_troubles(prism: Prism, crate: Crate) -> Iterator[str]:
    corners = prism.outline_mm()
    if len(set(corners)) < 3:
        yield "needs an outline of at least three corners"
        return
    width, height = crate.face_size(prism.face)
    for number, (u, v) in enumerate(corners, 1):
        if not (
            -COINCIDENT_MM <= u <= width + COINCIDENT_MM
            and -COINCIDENT_MM <= v <= height + COINCIDENT_MM
        ):
            yield (
                f"lies outside the crate: corner {number} is at {u:g}, {v:g} on a face "
                f"of {width:g} × {height:g} mm"
            )
    for number, (here, after) in enumerate(zip(corners, corners[1:] + corners[:1], strict=True), 1):
        if max(abs(here[0] - after[0]), abs(here[1] - after[1])) <= COINCIDENT_MM:
            yield f"has two corners on one place: corner {number} and the next"
    if not LinearRing(corners).is_simple:
        yield "has an outline that crosses or touches itself"
    elif Polygon(corners).area <= COINCIDENT_MM:
        yield "has an outline without area"


def _round_troubles(item: Round, crate: Crate) -> Iterator[str]:
    diameter = item.diameter.mm
    if diameter <= COINCIDENT_MM:
        yield "needs a diameter of more than zero"
    width, height = crate.face_size(item.face)
    u, v = item.centre_mm(crate)
    radius = diameter / 2
    room = min(u, width - u, v, height - v)
    if room < radius - COINCIDENT_MM:
        yield (
            f"reaches outside the crate: radius {radius:g} mm, but only {max(room, 0):g} mm from "
            f"its centre to the nearest edge of the {item.face.value} face"
        )
