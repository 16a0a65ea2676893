"""The additions of a part as an engineer names them: base, uprights, bosses, ribs between them.

A covering of full cells comes back as pads that overlap; here an outline of base and wall in one
is parted, what lies inside the base or a wall is taken off what stands there, and each piece gets
its name. The solid stays the same, which the last look proves.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import shapely

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.part import Corner, Crate, Face, Hole, Operation, Part, Prism
from holoptic.part import Round as RoundFeature
from holoptic.part.operations import Centred, extent_mm
from holoptic.part.outline import polyline, sides_of
from holoptic.tolerance import READ_MM
from holoptic.units import Length

_PLATE_SHARE, _FOOT_SHARE = 0.6, 0.4
"""A base is at most so high of the crate, and covers at least so much of its floor."""
_THIN_SHARE = 0.4
"""A rib is at most so thick, of the crate's size that way."""
_MOST_CORNERS = 24
_ORDER = ("upright", "wall", "boss", "", "rib")
"""The sorts of additions, in the order in which they are said."""
_FACES = {0: (Face.LEFT, Face.RIGHT), 1: (Face.FRONT, Face.REAR), 2: (Face.BOTTOM, Face.TOP)}


@dataclass(frozen=True)
class Box:
    """An upright block in the crate: its low and high corner, mm."""

    low: Vec3
    high: Vec3

    def covers(self, axis: int, low: float, high: float) -> bool:
        """Say whether the block reaches over a span along an axis."""
        return self.low[axis] <= low + READ_MM and high <= self.high[axis] + READ_MM


def engineered(part: Part) -> Part:
    """Return a part with its additions parted, trimmed, named and in the order they stand in.

    A part that begins as a full block has none.
    """
    count = next((k for k, o in enumerate(part.operations) if o.mode == "cut"),
                 len(part.operations))  # fmt: skip
    if part.begin != "empty":
        count = 0
    adds = list(part.operations[:count])
    pieces = [piece for o in adds for piece in _parted(o, part.crate)]
    base = _base_of(pieces, part.crate)
    crate = part.crate
    named = _on_a_plate(adds, crate) if base is None else _on_a_base(pieces, *base, crate)
    cuts = _named_cuts(part.operations[count:], tuple(named))
    return replace(part, operations=_renumbered((*named, *cuts)))


def _renumbered(operations: tuple[Operation, ...]) -> tuple[Operation, ...]:
    """Return operations with those of one name counted from 1 on."""
    used: dict[str, int] = {}
    made = []
    for item in operations:
        stem, _, number = item.name.rpartition(" ")
        if not number.isdigit():
            made.append(item)
            continue
        used[stem] = used.get(stem, 0) + 1
        made.append(replace(item, name=f"{stem} {used[stem]}"))
    return tuple(made)


def _on_a_base(adds: list[Operation], number: int, block: Box, crate: Crate) -> list[Operation]:
    """Return additions with the block among them as base, and the others without what is in it."""
    others = [
        _off(item, block, crate) for k, item in enumerate(adds)
        if k != number and not _is_inside(item, block, crate)
    ]  # fmt: skip
    named = _named_adds(_off_each_other(others, crate), crate)
    return [_as_box_prism(block, 2, "base"), *named]


def _is_inside(item: Operation, block: Box, crate: Crate) -> bool:
    own = box_of(item, crate)
    return own is not None and all(block.covers(k, own.low[k], own.high[k]) for k in range(3))


def _off_each_other(items: list[Operation], crate: Crate) -> list[Operation]:
    """Return uprights, walls and ribs in this order, each without what lies inside those before."""
    made: list[Operation] = []
    for item in sorted(items, key=lambda item: _ORDER.index(_sort(item, crate))):
        left = item
        if _sort(item, crate) in ("wall", "rib"):
            for other in made:
                wall = _wall_beside(other, left, crate)
                left = left if wall is None else _off(left, wall, crate)
        made.append(left)
    return made


def _wall_beside(wall: Operation, rib: Operation, crate: Crate) -> Box | None:
    """Return the block of an upright that stands over the whole thickness of a rib, or None."""
    across = rib.face.normal_axis
    if not isinstance(wall, Prism) or wall.face.normal_axis in (across, 2) or across == 2:
        return None
    try:
        area = shapely.Polygon(polyline(sides_of(wall.outline)))
    except ValueError:
        return None
    span = span_of(rib, crate)
    _, low, _, high = area.bounds
    tops = []
    for at in span:
        inside = area.intersection(shapely.LineString([(at, low - 1), (at, high + 1)]))
        if inside.is_empty:
            return None
        tops.append(inside.bounds[3])
    start, end = span_of(wall, crate)
    low3, high3 = [0.0, 0.0, low], [0.0, 0.0, min(tops)]
    low3[across], high3[across] = span
    low3[wall.face.normal_axis], high3[wall.face.normal_axis] = start, end
    return Box((low3[0], low3[1], low3[2]), (high3[0], high3[1], high3[2]))


# --- shapes of additions ------------------------------------------------------------------------


def span_of(item: Operation, crate: Crate) -> tuple[float, float]:
    """Return from where to where an operation reaches along the axis of its face, mm."""
    start, end = extent_mm(item, crate)  # type: ignore[arg-type]
    size = crate.thickness(item.face)
    return (size - end, size - start) if item.face.is_far else (start, end)


def box_of(item: Operation, crate: Crate) -> Box | None:
    """Return the block that an operation is, or None."""
    places = _straight_places(item)
    if places is None or len(places) != 4:
        return None
    us, vs = zip(*places, strict=True)
    corners = {(min(us), min(vs)), (max(us), min(vs)), (max(us), max(vs)), (min(us), max(vs))}
    if any(min(math.dist(p, c) for c in corners) > READ_MM for p in places):
        return None
    (a, b), n = item.face.axes, item.face.normal_axis
    low, high = [0.0] * 3, [0.0] * 3
    low[a], high[a], low[b], high[b] = min(us), max(us), min(vs), max(vs)
    low[n], high[n] = span_of(item, crate)
    return Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _straight_places(item: Operation) -> list[Vec2] | None:
    if not isinstance(item, Prism) or any(point.arc is not None for point in item.outline):
        return None
    return item.outline_mm()


def _is_slanted(item: Operation) -> bool:
    places = _straight_places(item)
    if places is None:
        return False
    return any(
        abs(u1 - u2) > READ_MM and abs(v1 - v2) > READ_MM
        for (u1, v1), (u2, v2) in zip(places, places[1:] + places[:1], strict=True)
    )


def _as_box_prism(box: Box, axis: int, name: str) -> Prism:
    """Return a block as an outline on its near face square to an axis."""
    a, b = (k for k in range(3) if k != axis)
    corners = ((box.low[a], box.low[b]), (box.high[a], box.low[b]),
               (box.high[a], box.high[b]), (box.low[a], box.high[b]))  # fmt: skip
    return Prism(name, "add", _FACES[axis][0], _corners(corners), _length(box.low[axis]),
                 _length(box.high[axis]))  # fmt: skip


def _corners(places: object) -> tuple[Corner, ...]:
    return tuple(Corner(_length(u), _length(v)) for u, v in places)  # type: ignore[attr-defined]


def _length(mm: float) -> Length:
    value = round(mm, 4) + 0.0
    return Length(f"{value:.4f}".rstrip("0").rstrip("."), value)


# --- parting and trimming -----------------------------------------------------------------------


def _parted(item: Operation, crate: Crate) -> list[Operation]:
    """Part an outline of base and uprights in one at the height of its lowest inner corner."""
    places = _straight_places(item)
    axis = item.face.normal_axis
    if places is None or axis == 2 or not 6 <= len(places) <= _MOST_CORNERS or _is_slanted(item):
        return [item]
    area = shapely.Polygon(places)
    umin, vmin, umax, vmax = area.bounds
    levels = sorted({v for _, v in places if vmin + READ_MM < v < vmax - READ_MM})
    for level in levels:
        lower = shapely.clip_by_rect(area, umin, vmin, umax, level)
        if abs(lower.area - (umax - umin) * (level - vmin)) > READ_MM * (umax - umin):
            return [item]  # the foot is not whole so far up
        upper = shapely.clip_by_rect(area, umin, level, umax, vmax)
        if upper.area < (umax - umin) * (vmax - level) - READ_MM * (umax - umin):
            pieces = list(getattr(upper, "geoms", [upper]))
            across = item.face.axes[0]
            foot = _box((umin, vmin, umax, level), across, span_of(item, crate), axis)
            made: list[Operation] = [_as_box_prism(foot, 2, item.name)]
            return made + [_piece(item, piece, crate) for piece in pieces]
    return [item]


def _box(
    bounds: tuple[float, float, float, float], across: int, span: tuple[float, float], axis: int
) -> Box:
    umin, vmin, umax, vmax = bounds
    low, high = [0.0, 0.0, vmin], [0.0, 0.0, vmax]
    low[across], high[across] = umin, umax
    low[axis], high[axis] = span
    return Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _piece(item: Operation, area: shapely.Polygon, crate: Crate) -> Operation:
    """Return what stands on a foot: a wall on the face that it is thinnest from."""
    assert isinstance(item, Prism)
    made = replace(item, outline=_corners(_tidied(area)))
    box = box_of(made, crate)
    if box is None:
        return made
    thin = min((0, 1), key=lambda axis: box.high[axis] - box.low[axis])
    return _as_box_prism(box, thin, item.name)


def _tidied(area: shapely.Polygon) -> list[Vec2]:
    """Return the corners of an area, without doubles and such as lie straight."""
    places = list(shapely.remove_repeated_points(area.exterior, READ_MM).coords)[:-1]
    kept = []
    for k, (u, v) in enumerate(places):
        (a, b), (c, d) = places[k - 1], places[(k + 1) % len(places)]
        off = abs((c - a) * (v - b) - (d - b) * (u - a)) / max(math.dist((a, b), (c, d)), READ_MM)
        if off > READ_MM:
            kept.append((u, v))
    return kept


def _off(item: Operation, block: Box, crate: Crate) -> Operation:
    """Return an addition without what of it lies inside a block; itself where that is no prism."""
    axis = item.face.normal_axis
    low, high = span_of(item, crate)
    if axis == 2:
        stands = block.low[2] - READ_MM <= low < block.high[2] - READ_MM
        stands = stands and block.high[2] + READ_MM < high
        return _raised(item, block.high[2], high, crate) if stands and _over(item, block, crate) \
            else item  # fmt: skip
    if not isinstance(item, Prism) or not block.covers(axis, low, high):
        return item
    across, up = item.face.axes
    try:
        places = item.outline_mm()
    except ValueError:
        return item
    area = shapely.Polygon(places)
    inner = shapely.box(block.low[across], block.low[up], block.high[across], block.high[up])
    if not area.is_valid:
        return item
    rest = area.difference(inner.buffer(READ_MM / 10, join_style="mitre"))
    if rest.geom_type != "Polygon" or rest.interiors or rest.area < READ_MM:
        return item
    corners = [_snapped(place, places, block, (across, up)) for place in _tidied(rest)]
    if shapely.LinearRing(places).is_ccw != shapely.LinearRing(corners).is_ccw:
        corners.reverse()
    if not 3 <= len(corners) <= len(places):
        return item
    return replace(item, outline=_with_arcs(corners, item))


def _with_arcs(places: list[Vec2], before: Prism) -> tuple[Corner, ...]:
    """Return corners with the arcs that an outline had between two of them."""
    old = before.outline_mm()
    arcs = {
        (start, end): point.arc
        for point, start, end in zip(before.outline, old, old[1:] + old[:1], strict=True)
        if point.arc is not None
    }
    return tuple(
        replace(corner, arc=arcs.get((start, end)))
        for corner, start, end in zip(
            _corners(places), places, places[1:] + places[:1], strict=True
        )
    )


def _snapped(place: Vec2, places: list[Vec2], block: Box, axes: tuple[int, int]) -> Vec2:
    """Return a corner at the very place it was cut at, without the hair that cutting left."""
    near = min(places, key=lambda other: math.dist(other, place))
    if math.dist(near, place) <= READ_MM:
        return near
    found = []
    for value, axis in zip(place, axes, strict=True):
        sides = (block.low[axis], block.high[axis])
        side = min(sides, key=lambda at: abs(at - value))
        found.append(side if abs(side - value) <= READ_MM else value)
    return found[0], found[1]


def _raised(item: Operation, low: float, high: float, crate: Crate) -> Operation:
    """Return an addition that begins higher up."""
    size = crate.thickness(item.face)
    start, end = (size - high, size - low) if item.face.is_far else (low, high)
    changed: Operation = replace(item, start=_length(start), end=_length(end))  # type: ignore[arg-type]
    return changed


def _over(item: Operation, block: Box, crate: Crate) -> bool:
    """Say whether the outline of something that stands up lies over a block."""
    if isinstance(item, Prism):
        places = item.outline_mm() if not any(p.arc for p in item.outline) else None
        if places is None:
            return False
        (us, vs), reach = zip(*places, strict=True), 0.0
    elif isinstance(item, Centred) and isinstance(item, RoundFeature):
        u, v = item.centre_mm(crate)
        us, vs, reach = (u,), (v,), max(item.radius_at(0.0), item.radius_at(1.0))
    else:
        return False
    return block.covers(0, min(us) - reach, max(us) + reach) and (
        block.covers(1, min(vs) - reach, max(vs) + reach)
    )


# --- the base and the names ---------------------------------------------------------------------


def _base_of(adds: list[Operation], crate: Crate) -> tuple[int, Box] | None:
    """Return the number and the block of the addition that the others stand on."""
    found = []
    for number, item in enumerate(adds):
        box = box_of(item, crate)
        if box is None or box.low[2] > READ_MM or box.high[2] > _PLATE_SHARE * crate.sizes[2]:
            continue
        foot = (box.high[0] - box.low[0]) * (box.high[1] - box.low[1])
        if foot >= _FOOT_SHARE * crate.sizes[0] * crate.sizes[1]:
            found.append((foot, number, box))
    if not found or len(adds) == 1:
        return None
    _, number, box = max(found, key=lambda item: item[0])
    return number, box


def _on_a_plate(adds: list[Operation], crate: Crate) -> list[Operation]:
    """Return additions with a flat one on the floor, round or of any outline, as their base, and
    what stands on it counted from its top; as they are where there is none.
    """
    plates = [
        (area.area, number) for number, item in enumerate(adds)
        if (area := _area_on_floor(item, crate)) is not None
        and span_of(item, crate)[0] < READ_MM
        and span_of(item, crate)[1] <= _PLATE_SHARE * crate.sizes[2]
    ]  # fmt: skip
    most, number = max(plates, default=(0.0, 0))
    if len(adds) < 2 or most < _FOOT_SHARE * crate.sizes[0] * crate.sizes[1]:
        return adds
    base = adds[number]
    top = span_of(base, crate)[1]
    room = shapely.buffer(_area_on_floor(base, crate), READ_MM)
    others = []
    for item in adds[:number] + adds[number + 1 :]:
        area, (low, high) = _area_on_floor(item, crate), span_of(item, crate)
        stands = area is not None and low < top + READ_MM < high and room.covers(area)
        others.append(_raised(item, top, high, crate) if stands else item)
    return [replace(base, name="base"), *_named_adds(others, crate)]


def _area_on_floor(item: Operation, crate: Crate) -> shapely.Polygon | None:
    """Return what an upright prism or round one covers of the floor, or None."""
    if item.face.normal_axis != 2:
        return None
    if isinstance(item, RoundFeature) and item.end_diameter is None:
        return shapely.Point(item.centre_mm(crate)).buffer(item.radius_at(0.0))
    if not isinstance(item, Prism):
        return None
    try:
        return shapely.Polygon(polyline(sides_of(item.outline)))
    except ValueError:
        return None


def _named_adds(items: list[Operation], crate: Crate) -> list[Operation]:
    """Return additions by their names, in the order in which they stand on each other."""
    sorts = [(_sort(item, crate), item) for item in items]
    sorts.sort(key=lambda pair: _ORDER.index(pair[0]))
    counts = {sort: sum(other == sort for other, _ in sorts) for sort, _ in sorts}
    used: dict[str, int] = {}
    made = []
    for sort, item in sorts:
        used[sort] = used.get(sort, 0) + 1
        name = item.name if not sort else sort if counts[sort] == 1 else f"{sort} {used[sort]}"
        made.append(replace(item, name=name))
    return made


def _sort(item: Operation, crate: Crate) -> str:
    axis = item.face.normal_axis
    low, high = span_of(item, crate)
    if isinstance(item, RoundFeature):
        return "boss" if axis == 2 else ""
    if not isinstance(item, Prism):
        return ""
    if any(point.arc is not None for point in item.outline):
        return "upright" if axis != 2 else ""
    if _is_slanted(item):
        return "rib" if axis != 2 and high - low < _THIN_SHARE * crate.sizes[axis] else ""
    box = box_of(item, crate)
    if box is None:
        return ""
    tall = box.high[2] - box.low[2]
    thin = min(box.high[k] - box.low[k] for k in (0, 1))
    return "wall" if tall > thin else ""


def _named_cuts(cuts: tuple[Operation, ...], adds: tuple[Operation, ...]) -> tuple[Operation, ...]:
    """Return cuts with a hole about the round end of an upright named as its bore."""
    ends = [
        (item.face.normal_axis, centre) for item in adds
        if isinstance(item, Prism) for centre in _round_centres(item)
    ]  # fmt: skip
    bores = [
        isinstance(item, Hole) and any(
            axis == item.face.normal_axis
            and math.dist((item.u.distance.mm, item.v.distance.mm), centre) <= 4 * READ_MM
            for axis, centre in ends
        )
        for item in cuts
    ]  # fmt: skip
    made, number = [], 0
    for item, is_bore in zip(cuts, bores, strict=True):
        number += is_bore
        name = "bore" if sum(bores) == 1 else tr("bore {number}", number=number)
        made.append(replace(item, name=name) if is_bore else item)
    return tuple(made)


def _round_centres(item: Prism) -> list[Vec2]:
    try:
        return [side.centre for side in sides_of(item.outline) if side.centre is not None]
    except ValueError:
        return []
