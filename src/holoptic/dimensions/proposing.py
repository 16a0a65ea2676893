"""Proposing sizes: those that the maker of a part gave, each once, and what is still needed.

Notes that tell a whole outline come first, then the overall sizes, then what each operation gives
in its order. A size that follows from those before is left out. What is then still open is told by
the plainest size that does it: a length from the part's own edge, a diameter, an angle.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.dimensions.closing import begun, rows_of
from holoptic.dimensions.dimension import Bound, Circle, Cone, Dimension, Level, is_same
from holoptic.dimensions.needs import Leaning, Needs, across_of
from holoptic.part import Part, PartSource
from holoptic.part.crate import Crate
from holoptic.part.expand import basics
from holoptic.part.naming import spoken
from holoptic.part.operations import (
    Ball,
    Basic,
    Hole,
    Operation,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Slope,
    extent_mm,
)
from holoptic.part.provenance import operation_offsets


def propose(source: PartSource, needs: Needs) -> tuple[Dimension, ...]:
    """Return sizes that suffice to make a part, as far as sizes can; none follows from others."""
    taking = _Taking(needs)
    if isinstance(source, Part):
        for index in range(len(source.operations)):
            taking.offer(_notes(source, index))
    taking.offer(_overall(needs))
    if isinstance(source, Part):
        for index in range(len(source.operations)):
            taking.offer(_given(source, index, needs, taking.known))
    taking.offer(_left_over(needs, taking))
    return tuple(taking.taken)


class _Taking:
    """Sizes taken so far, and what follows from them."""

    def __init__(self, needs: Needs) -> None:
        self.needs = needs
        self.settled = begun(needs)
        self.taken: list[Dimension] = []
        self.known = set(needs.levels)

    def offer(self, dimensions: Iterable[Dimension]) -> None:
        """Take those that tell something new."""
        for one in dimensions:
            rows = list(rows_of(self.needs, one))
            if one.sort == "shape":
                if any([self.settled.add(row) for row in rows]):
                    self.taken.append(one)
                    self.known |= {
                        Level.of(k, bound.centre[k]) for bound in one.binds for k in range(3)
                    }  # fmt: skip
            elif rows and not any(self.settled.settles(row) for row in rows):
                for row in rows:
                    self.settled.add(row)
                self.taken.append(one)


def _overall(needs: Needs) -> Iterator[Dimension]:
    for axis in range(3):
        low, high = Level.of(axis, needs.low[axis]), Level.of(axis, needs.high[axis])
        yield Dimension("length", high.at - low.at, levels=(low, high))


# --- notes ------------------------------------------------------------------------------------


def _notes(part: Part, index: int) -> Iterator[Dimension]:
    """Yield the notes of an operation: of copies one, with how many there are."""
    operation = part.operations[index]
    made = [one for one in _basics(operation, part.crate) if isinstance(one, Polygon)]
    if not made:
        return
    binds = tuple(bound for one in made for bound in _corners(one, part.crate))
    first = made[0]
    words = tr(
        "{sides} sides, {measure}", sides=first.sides,
        measure={"side": tr("side"), "across flats": tr("across flats"),
                 "across corners": tr("across corners")}[first.measure],
    )  # fmt: skip
    yield Dimension(
        "shape", first.size.mm, spoken(operation.name), binds=binds, words=words,
        about=_place(first, part.crate), face=first.face.normal_axis,
    )  # fmt: skip


def _corners(one: Polygon, crate: Crate) -> Iterator[Bound]:
    """Yield the corners of a polygon at both its ends, each tied to the middle of its end."""
    start, end = extent_mm(one, crate)
    u, v = one.centre_mm(crate)
    for share, at in ((0.0, start), (1.0, end)):
        centre = crate.place(one.face, u, v, at)
        for corner in one.corners_mm(crate, share):
            yield Bound(crate.place(one.face, *corner, at), centre)


# --- what was given ---------------------------------------------------------------------------


def _given(part: Part, index: int, needs: Needs, known: set[Level]) -> Iterator[Dimension]:
    operation, crate = part.operations[index], part.crate
    made = _basics(operation, crate)
    yield from _diameters(operation, made, crate, needs)
    for one in made:
        if isinstance(one, Prism):
            yield from _slopes(operation, one, crate, needs)
    name = spoken(operation.name)
    for given in operation_offsets(part, index):
        if given.derived:
            continue
        at = Level.of(given.axis, given.at)
        begin = Level.of(given.axis, crate.sizes[given.axis] if given.far else 0.0)
        if begin not in known:
            begin = needs.datums[given.axis]
        if at in known and at != begin:
            yield _length(begin, at, name, operation)
    for one in made:
        if isinstance(one, Pyramid):
            yield from _sides(operation, one, crate, known)


def _length(begin: Level, at: Level, name: str, operation: Operation | None = None) -> Dimension:
    low, high = sorted((begin, at))
    face = None if operation is None else operation.face.normal_axis
    return Dimension("length", high.at - low.at, name, (low, high), face=face)


def _sides(
    operation: Operation, one: Pyramid, crate: Crate, known: set[Level]
) -> Iterator[Dimension]:
    """Yield the widths of a pyramid's base and top."""
    for share in (0.0, 1.0):
        corners = one.corners_mm(crate, share)
        low, high = (crate.place(one.face, *corners[k], 0.0) for k in (0, 2))
        for axis in one.face.axes:
            a, b = Level.of(axis, low[axis]), Level.of(axis, high[axis])
            if a != b and a in known and b in known:
                yield _length(a, b, spoken(operation.name), operation)


def _slopes(
    operation: Operation, prism: Prism, crate: Crate, needs: Needs
) -> Iterator[Dimension]:
    """Yield the angles that an outline was given by."""
    try:
        places = prism.outline_mm()
    except ValueError:
        return
    start, _ = extent_mm(prism, crate)
    for k, point in enumerate(prism.outline):
        if not isinstance(point, Slope) or point.angle is None or k == 0:
            continue
        ends = [crate.place(prism.face, *places[j], start) for j in (k - 1, k)]
        for face in needs.leaning_through(ends):
            yield Dimension(
                "angle", abs(point.angle) % 180, spoken(operation.name), tilt=face.tilt,
                about=ends[0], face=prism.face.normal_axis,
            )  # fmt: skip


def _diameters(
    operation: Operation, made: tuple[Basic, ...], crate: Crate, needs: Needs
) -> Iterator[Dimension]:
    """Yield the diameters of an operation, those of its copies as one, with depth and seat."""
    sorts: dict[float, list[Basic]] = {}
    for one in made:
        if isinstance(one, Round | Ball | Ring):
            sorts.setdefault(one.diameter.mm, []).append(one)
    for size, alike in sorts.items():
        first = alike[0]
        circles = tuple(c for one in alike for c in _circles_of(one, crate, needs, size / 2))
        if not circles:
            continue
        yield Dimension(
            "diameter", size, spoken(operation.name), circles=circles,
            depth=_depth(first, crate, needs), cones=_seats(operation, alike, crate, needs),
            about=_place(first, crate), face=first.face.normal_axis,
        )  # fmt: skip
        yield Dimension(
            "diameter", size, spoken(operation.name), circles=circles,
            about=_place(first, crate), face=first.face.normal_axis,
        )  # fmt: skip


def _circles_of(one: Basic, crate: Crate, needs: Needs, radius: float) -> Iterator[Circle]:
    """Yield the circles of a solid that have the size of a round feature and stand about it."""
    place = _place(one, crate)
    axis = 2 if isinstance(one, Ball) else one.face.normal_axis
    first, second = across_of(axis)
    start, _ = extent_mm(one, crate)
    begin = crate.place(one.face, 0.0, 0.0, start)[axis]
    for circle in needs.circles:
        about = is_same(circle.across[0], place[first]) and is_same(circle.across[1], place[second])
        here = circle.at is None or is_same(circle.at, begin)
        if circle.axis == axis and about and here and is_same(circle.radius, radius):
            yield circle


def _depth(one: Basic, crate: Crate, needs: Needs) -> tuple[Level, Level] | None:
    """Return the levels between which a blind hole reaches."""
    if not isinstance(one, Round) or one.mode != "cut" or one.end is None:
        return None
    axis, levels = one.face.normal_axis, []
    for at in extent_mm(one, crate):
        level = Level.of(axis, crate.place(one.face, 0.0, 0.0, at)[axis])
        if level not in needs.levels:
            return None
        levels.append(level)
    return levels[0], levels[1]


def _seats(operation: Operation, alike: list[Basic], crate: Crate, needs: Needs) -> tuple[Cone, ...]:
    """Return the cones of countersunk holes of a mouth's size."""
    if not isinstance(operation, Hole) or operation.seat != "countersunk":
        return ()
    places = [_place(one, crate) for one in alike if isinstance(one, Round) and one.end_diameter]
    axis = operation.face.normal_axis
    first, second = across_of(axis)
    return tuple(
        cone for cone in needs.cones for place in places
        if cone.axis == axis and is_same(cone.across[0], place[first])
        and is_same(cone.across[1], place[second])
    )  # fmt: skip


def _place(one: Basic, crate: Crate) -> Vec3:
    """Return the middle of the end of a feature that lies on its face, in the crate."""
    u, v = one.centre_mm(crate)  # type: ignore[union-attr]
    start = one.start.mm
    return crate.place(one.face, u, v, start)


def _basics(operation: Operation, crate: Crate) -> tuple[Basic, ...]:
    try:
        return basics(operation, crate)
    except ValueError:
        return ()


# --- what is left -----------------------------------------------------------------------------


def _left_over(needs: Needs, taking: _Taking) -> Iterator[Dimension]:
    """Yield the plainest sizes for what nothing given tells; equal circles as one."""
    settled = taking.settled
    alike: dict[tuple[int, float], list[Circle]] = {}
    for circle in needs.circles:
        if not settled.settles({circle: 1.0}):
            alike.setdefault((circle.axis, circle.radius), []).append(circle)
    for (_, radius), circles in alike.items():
        yield Dimension("diameter", 2 * radius, circles=tuple(circles))
        for circle in circles:  # where some follow from others, one by one
            yield Dimension("diameter", 2 * radius, circles=(circle,))
    for cone in needs.cones:
        if settled.settles({cone.size: 1.0}):
            yield Dimension("angle", cone.degrees, cones=(cone,))
    for level in sorted(needs.levels):
        yield _length(needs.datums[level.axis], level, "")
    for cone in needs.cones:
        yield Dimension("angle", cone.degrees, cones=(cone,))
    for face in needs.leaning:
        yield Dimension("angle", _degrees(face), tilt=face.tilt, about=face.place)


def _degrees(face: Leaning) -> float:
    """Return the angle between a leaning face and the level, as it is lettered."""
    x, y, z = face.tilt.normal
    return math.degrees(math.atan2(math.hypot(x, y), abs(z)))
