"""Proposing sizes: those that the maker of a part gave, each once, and what is still needed.

Notes that tell a whole outline come first, then the overall sizes, then what each operation gives
in its order. A size that follows from those before is left out. What is then still open is told by
the plainest size that does it: a length from the part's own edge, a diameter, an angle.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import replace
from itertools import pairwise

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, dot, subtract, unit
from holoptic.dimensions.closing import begun, rows_of
from holoptic.dimensions.dimension import Bound, Circle, Cone, Dimension, Level, is_same
from holoptic.dimensions.needs import Leaning, Needs, across_of
from holoptic.job import Run
from holoptic.part import Part, PartSource
from holoptic.part.crate import AXIS_LETTERS, Crate
from holoptic.part.expand import basics
from holoptic.part.naming import spoken
from holoptic.part.operations import (
    AboutCentre,
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
from holoptic.tolerance import GIVEN_MM


def propose(source: PartSource, needs: Needs, run: Run = "given") -> tuple[Dimension, ...]:
    """Return sizes that suffice to make a part, as far as sizes can; none follows from others.

    `run` says how lengths follow each other.
    """
    taking = _Taking(needs)
    if isinstance(source, Part):
        for index in range(len(source.operations)):
            taking.offer(_notes(source, index))
        for index in range(len(source.operations)):
            taking.offer(_diameters(source, index, needs))
    taking.offer(_overall(needs))
    if isinstance(source, Part):
        given = [
            one for index in range(len(source.operations))
            for one in _given(source, index, needs, taking.known)
        ]  # fmt: skip
        taking.offer(given if run == "given" else (*_angles(given), *_running(given, needs, run)))
    elif run != "given":
        taking.offer(_running((), needs, run))
    taking.offer(_left_over(needs, taking))
    depths = _depths(source) if isinstance(source, Part) else ()
    return tuple(_joined(_with_depths(taking.taken, depths)))


def keyed(dimensions: Iterable[Dimension], subject: str) -> tuple[Dimension, ...]:
    """Return dimensions with keys: of which part, of what sort and feature, which of them."""
    count: Counter[str] = Counter()
    made = []
    for one in dimensions:
        letter = AXIS_LETTERS[one.axis] if one.sort == "length" else one.sort
        words = " ".join(filter(None, (subject, letter, one.name)))
        count[words] += 1
        made.append(replace(one, key=f"{words} {count[words]}"))
    return tuple(made)


class _Taking:
    """Sizes taken so far, and what follows from them."""

    def __init__(self, needs: Needs) -> None:
        self.needs = needs
        self.settled = begun(needs)
        self.taken: list[Dimension] = []
        self.known = set(needs.levels | needs.marks)

    def offer(self, dimensions: Iterable[Dimension]) -> None:
        """Take those that tell something new."""
        for one in dimensions:
            rows = list(rows_of(self.needs, one))
            if one.sort == "shape":
                if sum(self.settled.add(row) for row in rows):
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
    yield from _about_centre(operation, part.crate)
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


def _about_centre(operation: Operation, crate: Crate) -> Iterator[Dimension]:
    """Yield the circle on which copies about a centre stand evenly."""
    copies = operation.copies
    made = [one for one in _basics(operation, crate) if isinstance(one, Round)]
    if not isinstance(copies, AboutCentre) or copies.angle != _FULL or len(made) < 2:
        return
    width, height = crate.face_size(operation.face)
    u, v = copies.u.from_near(width), copies.v.from_near(height)
    binds = []
    for one in made:
        start, _ = extent_mm(one, crate)
        places = (crate.place(one.face, *at, start) for at in (one.centre_mm(crate), (u, v)))
        binds.append(Bound(*places))
    pitch = 2 * math.dist(made[0].centre_mm(crate), (u, v))
    yield Dimension(
        "shape", pitch, spoken(operation.name), binds=tuple(binds), about=binds[0].place,
        words=tr("{count} × evenly on", count=copies.count), face=operation.face.normal_axis,
    )  # fmt: skip


_FULL = 360.0


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
    for one in made:
        if isinstance(one, Prism):
            yield from _slopes(operation, one, crate, needs)
    name = spoken(operation.name)
    for one in made:
        ends = _blind_ends(one, crate)
        if ends is not None and set(ends) <= known:
            yield _length(*ends, name, operation)
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


def _angles(given: Iterable[Dimension]) -> Iterator[Dimension]:
    yield from (one for one in given if one.sort != "length")


def _running(given: Iterable[Dimension], needs: Needs, run: Run) -> Iterator[Dimension]:
    """Yield lengths from level to level, or all from where the solid begins; each is called after
    the feature that gave its level.
    """
    names: dict[Level, Dimension] = {}
    for one in given:
        for level in one.levels:
            names.setdefault(level, one)
    for axis in range(3):
        levels = sorted(level for level in needs.levels if level.axis == axis)
        for before, level in pairwise(levels):
            own = names.get(level)
            name, face = ("", None) if own is None else (own.name, own.face)
            begin = before if run == "chain" else levels[0]
            yield Dimension("length", level.at - begin.at, name, (begin, level), face=face)


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


def _slopes(operation: Operation, prism: Prism, crate: Crate, needs: Needs) -> Iterator[Dimension]:
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
        beside = crate.place(prism.face, places[k - 1][0] + 1.0, places[k - 1][1], start)
        for face in needs.leaning_through(ends):
            value = abs(point.angle) % 180
            rays = _rays(subtract(beside, ends[0]), subtract(ends[1], ends[0]), value)
            yield Dimension(
                "angle", value, spoken(operation.name), tilt=face.tilt, about=ends[0], rays=rays,
                face=prism.face.normal_axis,
            )  # fmt: skip


def _rays(level: Vec3, along: Vec3, value: float) -> tuple[Vec3, Vec3]:
    """Return the level direction, one way or back, and the slope's, between which an angle lies."""
    level, along = unit(level), unit(along)
    between = math.degrees(math.acos(max(-1.0, min(1.0, dot(level, along)))))
    if abs(between - value) > GIVEN_MM:
        level = -level[0], -level[1], -level[2]
    return level, along


def _diameters(part: Part, index: int, needs: Needs) -> Iterator[Dimension]:
    """Yield the diameters of an operation, those of its copies as one, with depth and seat."""
    operation, crate = part.operations[index], part.crate
    sorts: dict[float, list[Basic]] = {}
    for one in _basics(operation, crate):
        if isinstance(one, Round | Ball | Ring):
            sorts.setdefault(one.diameter.mm, []).append(one)
    for size, alike in sorts.items():
        first = alike[0]
        circles = tuple(c for one in alike for c in _circles_of(one, crate, needs, size / 2, 0))
        if isinstance(first, Round) and first.end_diameter is not None:
            small = first.end_diameter.mm
            ends = tuple(c for one in alike for c in _circles_of(one, crate, needs, small / 2, 1))
            yield Dimension(
                "diameter", small, spoken(operation.name), circles=ends,
                about=_place(first, crate), face=first.face.normal_axis,
            )  # fmt: skip
        if not circles:
            continue
        yield Dimension(
            "diameter", size, spoken(operation.name), circles=circles,
            cones=_seats(operation, alike, crate, needs), about=_place(first, crate),
            face=first.face.normal_axis,
        )  # fmt: skip
        yield Dimension(
            "diameter", size, spoken(operation.name), circles=circles,
            about=_place(first, crate), face=first.face.normal_axis,
        )  # fmt: skip


def _circles_of(
    one: Basic, crate: Crate, needs: Needs, radius: float, end: int
) -> Iterator[Circle]:
    """Yield the circles of a solid that have the size of a round feature at its start (0) or its
    end (1), and stand about it.
    """
    place = _place(one, crate)
    axis = 2 if isinstance(one, Ball) else one.face.normal_axis
    first, second = across_of(axis)
    begin = crate.place(one.face, 0.0, 0.0, extent_mm(one, crate)[end])[axis]
    for circle in needs.circles:
        about = is_same(circle.across[0], place[first]) and is_same(circle.across[1], place[second])
        here = circle.at is None or is_same(circle.at, begin)
        if circle.axis == axis and about and here and is_same(circle.radius, radius):
            yield circle


def _depths(part: Part) -> Iterator[tuple[str, tuple[Level, Level]]]:
    """Yield how deep round holes reach that do not go through, by the names of their features."""
    crate = part.crate
    for operation in part.operations:
        for one in _basics(operation, crate):
            ends = _blind_ends(one, crate)
            if ends is not None:
                yield spoken(operation.name), ends


def _blind_ends(one: Basic, crate: Crate) -> tuple[Level, Level] | None:
    """Return the levels between which a round hole reaches that does not go through."""
    if not isinstance(one, Round) or one.mode != "cut" or one.end is None:
        return None
    axis = one.face.normal_axis
    ends = (crate.place(one.face, 0.0, 0.0, at)[axis] for at in extent_mm(one, crate))
    start, end = (Level.of(axis, at) for at in ends)
    return start, end


def _with_depths(
    taken: Iterable[Dimension], depths: Iterable[tuple[str, tuple[Level, Level]]]
) -> list[Dimension]:
    """Return sizes with the depths of blind holes said beside their diameters."""
    made = list(taken)
    for name, (start, end) in depths:
        length = next((d for d in made if d.name == name and d.is_between(start, end)), None)
        hole = next((d for d in made if d.name == name and d.sort == "diameter"), None)
        if length is not None and hole is not None and hole.depth is None:
            made.remove(length)
            made[made.index(hole)] = replace(hole, depth=(start, end))
    return made


def _seats(
    operation: Operation, alike: list[Basic], crate: Crate, needs: Needs
) -> tuple[Cone, ...]:
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


def _joined(taken: Iterable[Dimension]) -> Iterator[Dimension]:
    """Yield sizes with the diameters of equal holes said once for all of them."""
    alike: dict[tuple[object, ...], list[Dimension]] = {}
    others = []
    for one in taken:
        if one.sort == "diameter" and one.circles and one.circles[0].at is None:
            alike.setdefault((one.value, one.circles[0].axis, bool(one.cones)), []).append(one)
        else:
            others.append(one)
    for several in alike.values():
        first = next((one for one in several if one.depth), several[0])
        circles = tuple(dict.fromkeys(c for one in several for c in one.circles))
        cones = tuple(cone for one in several for cone in one.cones)
        depths = {one.depth for one in several if one.depth}
        if len(depths) > 1:  # each says its own
            yield from several
        else:
            yield replace(first, circles=circles, cones=cones)
    yield from others


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
