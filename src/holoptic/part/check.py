"""What is wrong with a part before any solid is made; names the operation."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from shapely.geometry import LinearRing
from shapely.geometry import Polygon as Area

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import PartError
from holoptic.part.crate import AXIS_NAMES, Crate
from holoptic.part.expand import basics
from holoptic.part.operations import (
    Ball,
    Basic,
    CornerCut,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Strip,
    extent_mm,
    reach_mm,
)
from holoptic.part.outline import polyline, sides_of
from holoptic.part.part import Part
from holoptic.part.strips import strip_area
from holoptic.tolerance import COINCIDENT_MM, GIVEN_MM
from holoptic.units.spoken import figure, measure

LARGEST_MM = 1e5
"""A hundred metres: beyond it the kernel's own tolerances no longer hold."""

FEWEST_SIDES, MOST_SIDES = 3, 12
"""Of a regular polygon."""


def check(part: Part) -> dict[int, tuple[Basic, ...]]:
    """Return what each operation that is on comes down to, by its index.

    Raises PartError for the first thing that keeps the part from being made.
    """
    check_crate(part.crate)
    active = [index for index, operation in enumerate(part.operations) if not operation.off]
    if part.begin == "empty" and not active:
        raise PartError(tr("the crate is empty: add a first piece, or begin with a full block"))
    if part.begin == "empty" and part.operations[active[0]].mode == "cut":
        name = part.operations[active[0]].name
        raise PartError(
            tr("“{name}” cuts an empty crate: add material first", name=name), active[0]
        )
    return {index: check_operation(part, index) for index in active}


def check_crate(crate: Crate) -> None:
    """Raise PartError for a crate that cannot be."""
    for trouble in _crate_troubles(crate):
        raise PartError(trouble)


def check_operation(part: Part, index: int) -> tuple[Basic, ...]:
    """Return what an operation comes down to. Raises PartError where it cannot be made."""
    operation = part.operations[index]
    try:
        made = basics(operation, part.crate)
    except ValueError as error:
        raise PartError(f"“{operation.name}” {error}", index) from error
    for number, basic in enumerate(made):
        trouble = _first_trouble(basic, part.crate)
        if trouble is not None:
            if operation.copies is not None and number:
                trouble = tr("“{name}”, copy {number}, {trouble}", name=operation.name,
                             number=number + 1, trouble=trouble)  # fmt: skip
            else:
                trouble = tr("“{name}” {trouble}", name=operation.name, trouble=trouble)
            raise PartError(trouble, index)
    return made


def _crate_troubles(crate: Crate) -> Iterator[str]:
    for name, size in zip(AXIS_NAMES, crate.sizes, strict=True):
        if size <= COINCIDENT_MM:
            yield tr("the crate's {name} must be more than zero", name=name)
        if size > LARGEST_MM:
            yield tr("the crate's {name} is over 100 m: check its unit", name=name)


@lru_cache(maxsize=1000)
def _first_trouble(operation: Basic, crate: Crate) -> str | None:
    """Return the first thing that is wrong with an operation; an edit leaves most as they were."""
    return next(_troubles(operation, crate), None)


def _troubles(operation: Basic, crate: Crate) -> Iterator[str]:
    if isinstance(operation, Polygon) and not FEWEST_SIDES <= operation.sides <= MOST_SIDES:
        yield tr(
            "has {sides} sides: choose from {fewest_sides} to {most_sides}",
            sides=operation.sides,
            fewest_sides=FEWEST_SIDES,
            most_sides=MOST_SIDES,
        )
        return
    yield from _size_troubles(operation)
    if isinstance(operation, CornerCut):
        yield from _corner_cut_troubles(operation, crate)
        return
    if isinstance(operation, Ball | Ring) and operation.mode == "cut":
        yield from _missing_troubles(operation, crate)  # a dish or a groove may reach outside
        return
    yield from _extent_troubles(operation, crate)
    if isinstance(operation, Prism):
        yield from _outline_troubles(operation, crate)
    elif isinstance(operation, Strip):
        yield from _strip_troubles(operation, crate)
    elif isinstance(operation, Polygon | Pyramid):
        yield from _corner_troubles(operation, crate)
    else:
        yield from _round_troubles(operation, crate)


def _size_troubles(operation: Basic) -> Iterator[str]:
    """Yield what is wrong with an operation's own sizes; those at its far end may be zero."""
    for name in ("diameter", "size", "width", "height", "thickness"):
        length = getattr(operation, name, None)
        if length is not None and length.mm <= COINCIDENT_MM:
            yield tr("needs a {name} of more than zero", name=name)
    for name in ("end_diameter", "end_size", "end_width", "end_height"):
        length = getattr(operation, name, None)
        if length is not None and length.mm < 0:
            yield tr("has a negative {replace}", replace=name.replace("_", " "))
    if isinstance(operation, Ring) and operation.thickness.mm >= operation.diameter.mm:
        yield tr("is a ring without a hole: its section is as thick as the ring is wide")


def _extent_troubles(operation: Basic, crate: Crate) -> Iterator[str]:
    start, end = extent_mm(operation, crate)
    thickness = crate.thickness(operation.face)
    if start < -COINCIDENT_MM:
        face = operation.face.title
        yield tr(
            "starts outside the crate, {start} in front of the {face} face",
            start=measure(-start),
            face=face,
        )
    if end > thickness + COINCIDENT_MM:
        yield (
            tr(
                "goes {end} deep, but the crate is only {thickness} from its {value} face",
                end=measure(end),
                thickness=measure(thickness),
                value=operation.face.title,
            )
        )
    if end - start <= COINCIDENT_MM:
        yield tr(
            "has no thickness: it starts at {start} and ends at {end}",
            start=figure(start),
            end=measure(end),
        )


def _outline_troubles(prism: Prism, crate: Crate) -> Iterator[str]:
    try:
        corners = prism.outline_mm()
        points = polyline(sides_of(prism.outline))
    except ValueError as error:
        yield str(error)
        return
    if len(set(points)) < 3:
        yield tr("needs an outline of at least three corners")
        return
    yield from _outside(corners, prism, crate)
    for number, (here, after) in enumerate(zip(corners, corners[1:] + corners[:1], strict=True), 1):
        if max(abs(here[0] - after[0]), abs(here[1] - after[1])) <= COINCIDENT_MM:
            yield tr("has two corners on one place: corner {number} and the next", number=number)
    if not LinearRing(points).is_simple:
        yield tr("has an outline that crosses or touches itself")
    elif Area(points).area <= COINCIDENT_MM:
        yield tr("has an outline without area")
    yield from _bulging(points, prism, crate)


def _outside(corners: list[Vec2], operation: Prism | Strip, crate: Crate) -> Iterator[str]:
    width, height = crate.face_size(operation.face)
    for number, (u, v) in enumerate(corners, 1):
        if not (
            -COINCIDENT_MM <= u <= width + COINCIDENT_MM
            and -COINCIDENT_MM <= v <= height + COINCIDENT_MM
        ):
            yield (
                tr(
                    "lies outside the crate: corner {number} is at {u}, {v} on a "
                    "face of {width} × {height}",
                    number=number,
                    u=figure(u),
                    v=figure(v),
                    width=figure(width),
                    height=measure(height),
                )
            )


def _bulging(points: list[Vec2], operation: Prism | Strip, crate: Crate) -> Iterator[str]:
    """Yield how far an outline with arcs, or the width of a strip, reaches out of the face."""
    width, height = crate.face_size(operation.face)
    over = max(
        max(-u, u - width, -v, v - height) for u, v in points
    )  # fmt: skip
    if over > GIVEN_MM:
        yield tr(
            "reaches {over} outside the {value} face",
            over=measure(over),
            value=operation.face.title,
        )


def _strip_troubles(strip: Strip, crate: Crate) -> Iterator[str]:
    try:
        corners = strip.outline_mm()
        area = strip_area(strip, crate)
    except ValueError as error:
        yield str(error)
        return
    yield from _outside(corners, strip, crate)
    if area.geom_type != "Polygon":
        yield tr("falls into several pieces: its paths do not meet")
        return
    if strip.closed and not area.interiors:
        yield tr("fills its own frame: it is too wide")
    if not strip.closed and not strip.starts and area.interiors:
        yield tr("crosses or touches itself")
    yield from _bulging(list(area.exterior.coords), strip, crate)


def _corner_troubles(item: Polygon | Pyramid, crate: Crate) -> Iterator[str]:
    width, height = crate.face_size(item.face)
    ends = [item.corners_mm(crate, share) for share in (0.0, 1.0)]
    over = max(max(-u, u - width, -v, v - height) for corners in ends for u, v in corners)
    if over > COINCIDENT_MM:
        what = (
            tr("polygon of {sides} sides", sides=item.sides)
            if isinstance(item, Polygon)
            else "pyramid"
        )
        us, vs = zip(*max(ends, key=lambda corners: max(u for u, _ in corners)), strict=True)
        yield (
            tr(
                "does not fit: the {what} is {us} × {vs} and reaches {over} "
                "outside the {value} face of {width} × {height}",
                what=what,
                us=figure(max(us) - min(us)),
                vs=measure(max(vs) - min(vs)),
                over=measure(over),
                value=item.face.title,
                width=figure(width),
                height=figure(height),
            )
        )


def _corner_cut_troubles(cut: CornerCut, crate: Crate) -> Iterator[str]:
    for name, size, (_, offset) in zip(AXIS_NAMES, crate.sizes, cut.sides, strict=True):
        if offset.mm <= COINCIDENT_MM:
            yield tr("needs an offset of more than zero along the {name}", name=name)
        if offset.mm > size + COINCIDENT_MM:
            yield (
                tr(
                    "is set off {mm} along the {name}, but the crate has only {size}",
                    mm=measure(offset.mm),
                    name=name,
                    size=figure(size),
                )
            )


def _missing_troubles(item: Ball | Ring, crate: Crate) -> Iterator[str]:
    """Yield that a dish or groove lies wholly outside the crate."""
    (width, height), (u, v) = crate.face_size(item.face), item.centre_mm(crate)
    low, high = extent_mm(item, crate)
    reach = reach_mm(item)
    misses = high <= 0 or low >= crate.thickness(item.face)
    if misses or not (-reach < u < width + reach and -reach < v < height + reach):
        yield tr("lies outside the crate and cuts nothing")


def _round_troubles(item: Round | Ball | Ring, crate: Crate) -> Iterator[str]:
    width, height = crate.face_size(item.face)
    u, v = item.centre_mm(crate)
    radius = reach_mm(item)
    room = min(u, width - u, v, height - v)
    if room < radius - COINCIDENT_MM:
        yield (
            tr(
                "reaches outside the crate: radius {radius}, but only {room} "
                "from its centre to the nearest edge of the {value} face",
                radius=measure(radius),
                room=measure(max(room, 0)),
                value=item.face.title,
            )
        )
