"""From features to a part that can be carved on: the crate, and operations with names."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.errors import PartError
from holoptic.part import (
    Arc,
    Ball,
    Corner,
    CornerCut,
    Crate,
    Face,
    Hole,
    Mode,
    Offset,
    Operation,
    Part,
    Polygon,
    Prism,
    Pyramid,
    Slot,
)
from holoptic.part import Round as RoundFeature
from holoptic.part.operations import BallPart
from holoptic.part.starters import with_free_name
from holoptic.part.stems import counted
from holoptic.reading.features import Feature, Recipe, SkewFeature
from holoptic.reading.outline import Outline, Side
from holoptic.reading.skew_shapes import BallShape, ConeShape, CornerShape, TaperShape
from holoptic.tolerance import EXACT_MM, READ_MM, THOUSANDTHS_MM, TURN
from holoptic.units import Length

_FACES = {
    0: (Face.LEFT, Face.RIGHT),
    1: (Face.FRONT, Face.REAR),
    2: (Face.BOTTOM, Face.TOP),
}


def make_part(name: str, sizes: Vec3, recipe: Recipe) -> Part:
    """Return the part that a recipe makes in a crate of given sizes (mm)."""
    crate = Crate(*(_length(size) for size in sizes))
    names = _Names()
    features = _with_seats(recipe.features, sizes)
    operations = tuple(_operation(feature, sizes, names) for feature in features)
    return Part(name, crate, operations, recipe.begin)


def add_feature(part: Part, feature: Feature) -> Part:
    """Return a part with one more feature worked in, under a name that is free."""
    operation = with_free_name(part, _operation(feature, part.crate.sizes, _Names()))
    return replace(part, operations=(*part.operations, operation))


@dataclass(frozen=True)
class _Seated:
    """A bore with a wider, shallower one about the same axis from the same face."""

    bore: Feature
    seat: Feature


class _Names:
    """Gives features of one sort numbers."""

    def __init__(self) -> None:
        self._counts: Counter[str] = Counter()

    def take(self, stem: str) -> str:
        """Return the next name of a sort."""
        self._counts[stem] += 1
        return counted(stem, self._counts[stem])


def _length(mm: float) -> Length:
    """Return a length; what is rounding of a thousandth is rounded away."""
    rough = round(mm, 3)
    value = rough if abs(rough - mm) < THOUSANDTHS_MM else round(mm, 6)
    return _figure(value)


def _figure(mm: float) -> Length:
    text = f"{mm:.6f}".rstrip("0").rstrip(".")
    return Length("0" if text == "-0" else text, float(text) + 0.0)


def _with_seats(
    features: Sequence[Feature | SkewFeature], sizes: Vec3
) -> list[Feature | SkewFeature | _Seated]:
    """Take bores and their counterbores together."""
    left: list[Feature | SkewFeature | _Seated] = list(features)
    for bore in [item for item in features if isinstance(item, Feature)]:
        seats = [item for item in left if isinstance(item, Feature) and _is_seat(item, bore, sizes)]
        if len(seats) == 1 and bore in left:
            left[left.index(bore)] = _Seated(bore, seats[0])
            left.remove(seats[0])
    return left


def _is_seat(seat: Feature, bore: Feature, sizes: Vec3) -> bool:
    one, two = seat.outline.circle, bore.outline.circle
    if one is None or two is None or seat.mode != "cut" or bore.mode != "cut":
        return False
    if seat.depth != bore.depth or math.dist(one[0], two[0]) > READ_MM or one[1] <= two[1]:
        return False
    size = sizes[seat.depth]
    through = bore.low < READ_MM and bore.high > size - READ_MM
    at_face = (seat.low < READ_MM) != (seat.high > size - READ_MM)
    return at_face and through


def _operation(item: Feature | SkewFeature | _Seated, sizes: Vec3, names: _Names) -> Operation:
    if isinstance(item, _Seated):
        return _seated_hole(item, sizes, names)
    if isinstance(item, SkewFeature):
        return skew_operation(item, sizes, names)
    face, start, end = _reach(item, sizes)
    begin, stop = _length(start), None if end is None else _length(end)
    circle = item.outline.circle
    if circle is not None:
        u, v = (Offset(_length(x)) for x in circle[0])
        wide = _length(2 * circle[1])
        if item.mode == "cut" and start == 0:
            return Hole(names.take("hole"), "cut", face, wide, u, v, begin, stop)
        name = names.take("boss" if item.mode == "add" else "hole")
        return RoundFeature(name, item.mode, face, wide, u, v, begin, stop)
    slot = _slot(item.outline)
    if slot is not None:
        middle, long, wide_mm, turn = slot
        at_u, at_v = (Offset(_length(x)) for x in middle)
        name = names.take("slot" if item.mode == "cut" else tr("round-ended pad"))
        return Slot(name, item.mode, face, _length(long), _length(wide_mm), at_u, at_v,
                    begin, stop, turn)  # fmt: skip
    regular = _regular(item.outline)
    if regular is not None:
        centre, radius, turn = regular
        u, v = (Offset(_length(x)) for x in centre)
        sides = len(item.outline.sides)
        name = names.take(tr("{sides} prism", sides=_SIDES.get(sides, f"{sides}-sided")))
        return Polygon(name, item.mode, face, sides, _length(2 * radius), "across corners", u, v,
                       begin, stop, turn)  # fmt: skip
    name = names.take(_prism_name(item, sizes))
    return Prism(name, item.mode, face, _corners(item.outline), begin, stop)


_SIDES = {5: "five-sided", 6: "six-sided", 8: "eight-sided"}


def _seated_hole(item: _Seated, sizes: Vec3, names: _Names) -> Hole:
    face, _, deep = _reach(item.seat, sizes)
    assert deep is not None
    circle, seat = item.bore.outline.circle, item.seat.outline.circle
    assert circle is not None and seat is not None
    u, v = (Offset(_length(x)) for x in circle[0])
    return Hole(names.take("hole"), "cut", face, _length(2 * circle[1]), u, v, _length(0.0), None,
                "counterbored", _length(2 * seat[1]), _length(deep))  # fmt: skip


def skew_operation(item: SkewFeature, sizes: Vec3, names: _Names) -> Operation:
    """Return the operation of a shape. Raises PartError for one that no operation makes."""
    shape, mode = item.shape, item.mode
    if isinstance(shape, CornerShape):
        x, y, z = (_length(offset) for offset in shape.offsets)
        return CornerCut(names.take(tr("skew corner")), "cut", *shape.far, x, y, z)
    if isinstance(shape, BallShape):
        return _ball(shape, mode, sizes, names)
    near, far = _FACES[shape.depth]
    size = sizes[shape.depth]
    u, v = (Offset(_length(x)) for x in shape.centre)
    low, high = sorted((shape.low, shape.high) if isinstance(shape, ConeShape)
                       else (shape.wide, shape.narrow))  # fmt: skip
    # from the nearer face, so that a cut begins where the tool goes in; never from an apex
    from_far = size - high < low
    if isinstance(shape, ConeShape):
        ends = shape.low_radius, shape.high_radius
    else:
        ends = (1.0, shape.share) if shape.wide < shape.narrow else (shape.share, 1.0)
    from_far = ends[0] == 0 or (from_far and ends[1] != 0)
    face = far if from_far else near
    start, end = (size - high, size - low) if from_far else (low, high)
    begin, stop = _length(start), _length(end)
    if isinstance(shape, ConeShape):
        first, last = ends[::-1] if from_far else ends
        return RoundFeature(names.take("cone"), mode, face, _length(2 * first), u, v, begin, stop,
                            _length(2 * last))  # fmt: skip
    return _taper(shape, ends[::-1] if from_far else ends, (mode, face, u, v, begin, stop), names)


def _taper(
    shape: TaperShape, shares: tuple[float, float],
    place: tuple[Mode, Face, Offset, Offset, Length, Length], names: _Names,
) -> Operation:  # fmt: skip
    mode, face, u, v, begin, stop = place
    if shape.is_box:
        wide, high = (max(p[k] for p in shape.corners) - min(p[k] for p in shape.corners)
                      for k in (0, 1))  # fmt: skip
        sizes = [_length(share * size) for share in shares for size in (wide, high)]
        return Pyramid(names.take("pyramid"), mode, face, sizes[0], sizes[1], u, v, begin, stop,
                       sizes[2], sizes[3])  # fmt: skip
    if not shape.is_regular:
        raise PartError(tr("a pyramid on this base is no operation"))
    radius = math.dist(shape.corners[0], shape.centre)
    count = len(shape.corners)
    first, last = (_length(2 * radius * share) for share in shares)
    return Polygon(names.take("pyramid"), mode, face, count, first, "across corners", u, v, begin,
                   stop, _turn_of(shape.corners[0], shape.centre, count), last)  # fmt: skip


def _ball(shape: BallShape, mode: Mode, sizes: Vec3, names: _Names) -> Ball:
    depth, upper = shape.half or (2, True)
    near, far = _FACES[depth]
    face = far if upper else near
    start = sizes[depth] - shape.centre[depth] if upper else shape.centre[depth]
    u, v = (Offset(_length(shape.centre[axis])) for axis in range(3) if axis != depth)
    part: BallPart = "whole" if shape.half is None else "outer half"
    return Ball(names.take("ball"), mode, face, _length(2 * shape.radius), u, v, _length(start),
                part)  # fmt: skip


def _turn_of(corner: Vec2, centre: Vec2, count: int) -> float:
    """Return the turn in degrees of a regular polygon with a corner at a place."""
    first = math.degrees(math.atan2(corner[1] - centre[1], corner[0] - centre[0]))
    turn = round((first + 90 - 180 / count) % (360 / count), 4)
    return 0.0 if abs(turn - 360 / count) < TURN else turn


def _reach(item: Feature, sizes: Vec3) -> tuple[Face, float, float | None]:
    """Return the face that a feature begins at, and from where to where inward; None: through."""
    size = sizes[item.depth]
    near, far = _FACES[item.depth]
    at_near, at_far = item.low < READ_MM, item.high > size - READ_MM
    if at_near and at_far:
        return (near if item.depth != 2 else far), 0.0, None
    if at_far:
        return far, 0.0, size - item.low
    return near, (0.0 if at_near else item.low), item.high


def _corners(outline: Outline) -> tuple[Corner, ...]:
    sides = outline.sides
    found = []
    for side in sides:
        found.append(Corner(_length(side.start[0]), _length(side.start[1]), _arc(side)))
    return tuple(found)


def _arc(side: Side) -> Arc | None:
    if side.centre is None:
        return None
    half = math.dist(side.start, side.end) / 2
    # a half circle's radius must not fall short of half its chord by a rounding
    radius = max(side.radius, half + EXACT_MM)
    way = "left" if side.left else "right"
    is_half = abs(side.turn - math.pi) < TURN
    return Arc(_figure(round(half, 6)) if is_half else _length(radius),
               way, side.turn > math.pi + TURN)  # type: ignore[arg-type]  # fmt: skip


def _slot(outline: Outline) -> tuple[Vec2, float, float, float] | None:
    """Return centre, length, width and turn in degrees of a slot with round ends."""
    sides = outline.sides
    if len(sides) != 4:
        return None
    bows = [side for side in sides if side.centre is not None]
    if len(bows) != 2 or (sides[0].centre is None) == (sides[1].centre is None):
        return None
    a, b = bows
    assert a.centre is not None and b.centre is not None
    halves = all(abs(bow.turn - math.pi) < 2 * TURN and bow.left for bow in bows)
    if not halves or abs(a.radius - b.radius) > READ_MM:
        return None
    apart = math.dist(a.centre, b.centre)
    middle = (a.centre[0] + b.centre[0]) / 2, (a.centre[1] + b.centre[1]) / 2
    turn = math.degrees(math.atan2(b.centre[1] - a.centre[1], b.centre[0] - a.centre[0])) % 180
    turn = round(turn, 6) % 180
    return middle, apart + 2 * a.radius, 2 * a.radius, turn


def _regular(outline: Outline) -> tuple[Vec2, float, float] | None:
    """Return centre, radius about it and turn of a regular polygon of five sides or more."""
    sides = outline.sides
    count = len(sides)
    if count < 5 or count > 12 or any(side.centre is not None for side in sides):
        return None
    centre = (sum(s.start[0] for s in sides) / count, sum(s.start[1] for s in sides) / count)
    radii = [math.dist(side.start, centre) for side in sides]
    lengths = [math.dist(side.start, side.end) for side in sides]
    if max(radii) - min(radii) > 4 * READ_MM or max(lengths) - min(lengths) > 4 * READ_MM:
        return None
    return centre, sum(radii) / count, _turn_of(sides[0].start, centre, count)


def _prism_name(item: Feature, sizes: Vec3) -> str:
    """Name a prism by what a drafter calls it: step, slope, groove, pocket, pad, rib."""
    straight = all(side.centre is None for side in item.outline.sides)
    slanted = any(
        side.centre is None
        and abs(side.start[0] - side.end[0]) > READ_MM
        and abs(side.start[1] - side.end[1]) > READ_MM
        for side in item.outline.sides
    )
    if item.mode == "add":
        if not straight:
            return tr("round-ended pad")
        return "rib" if slanted and len(item.outline.sides) == 3 else "pad"
    if slanted and straight and len(item.outline.sides) == 3:
        return "slope"
    axes = [axis for axis in range(3) if axis != item.depth]
    touched = []
    for k, axis in enumerate(axes):
        values = [side.start[k] for side in item.outline.sides]
        touched.append((min(values) < READ_MM) + (max(values) > sizes[axis] - READ_MM))
    through = item.low < READ_MM and item.high > sizes[item.depth] - READ_MM
    if touched == [0, 0]:
        return "opening" if through else "pocket"
    if sorted(touched) == [0, 2] or (through and sum(touched) == 1):
        return "groove"
    return "step" if sum(touched) >= 2 else "notch"
