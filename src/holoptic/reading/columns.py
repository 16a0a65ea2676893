"""What the drawn lines of a view demand of the cells behind them.

Through two places, close on either side of a drawn line (or of a place where nothing is drawn), a
column of cells runs along the depth. An edge shows there where the cells of the two columns change
in different ways at one depth.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal, NamedTuple

import numpy as np

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.part.walls import Taper
from holoptic.reading.lines import Free
from holoptic.reading.pieces import SNAP_MM, ViewPiece
from holoptic.reading.planes import Plane
from holoptic.reading.space import NOTHING, Space, ViewSpace
from holoptic.tolerance import (
    DRAWN_MM,
    EXACT_MM,
    FINE,
    KERNEL_MM,
    LEANING,
    ROUGH_MM,
    ROUNDING,
    SOLVED,
    TURN,
)

ASIDE_MM = KERNEL_MM
"""How far beside a line its columns stand (length, mm)."""
_STEEPEST = TURN
"""Of a surface all but along the sight it is not known by how much (the cosine of its normal)."""
_SURFACE = 3
_ABOUT_MM = 0.03
"""A free curve lies no further than this from its points (length, mm)."""
_LEAST_STRETCH_MM = 0.2
"""Stretches of lines that lean or are round say nothing where shorter than this (length, mm)."""
_PARALLEL = LEANING
"""The sine of the angle below which two surfaces at one depth are the same one."""

Seen = Literal["visible", "hidden", "absent"]
Sort = Literal["line", "free", "break", "switch", "look"]
Span = tuple[float, float]


class Event(NamedTuple):
    """A drawn line of another view that a column crosses.

    `normal` is the unit normal of the surface behind it; `line` names the piece, or the surface.
    """

    at: float
    normal: Vec3
    line: tuple[int, int]


class Column(NamedTuple):
    """Events in the order in which the viewer meets them, and the cells before, between, after."""

    events: list[Event]
    cells: list[int]


class Group(NamedTuple):
    """What two columns meet at one depth: events and cells of either, and all cells nearer."""

    at: float
    left: Column
    right: Column
    nearer: tuple[int, ...]


@dataclass(frozen=True)
class Demand:
    """A place of a view, what is drawn there, and the groups of its two columns.

    `lines` are the drawn lines it comes from (none where nothing is drawn). Of its sorts, "free"
    (on a free curve) and "switch" (where lines of other views change order) lie only near the
    places that they mean, so they can be wrong.
    """

    depth: int
    place: Vec2
    seen: Seen
    lines: tuple[int, ...]
    groups: tuple[Group, ...]
    sort: Sort


class Columns:
    """Makes columns through a space."""

    def __init__(self, space: Space) -> None:
        self.space = space
        self._known: dict[tuple[int, int, float], tuple[list[Event], list[int]]] = {}
        self.has_cones = any(isinstance(surface.wall, Taper) for surface in space.surfaces)

    def column(self, view: ViewSpace, place: Vec2) -> Column:
        """Return the column through a place of a view."""
        plane = view.plane
        face = view.faces.face_at(place)
        a, b = (self._crossed(plane.depth, axis, place[k]) for k, axis in enumerate(plane.axes))
        events = sorted(
            [(event, 0) for event in a[0]]
            + [(event, 1) for event in b[0]]
            + [(event, 2) for event in self._met(plane.depth, place)],
            key=lambda item: item[0].at,
        )
        slabs = [
            self.space.slab(axis, value) for axis, value in zip(plane.axes, place, strict=True)
        ]
        at = [0, 0, 0]
        found: list[Event] = []
        rooms: list[tuple[tuple[int, int], float]] = []
        ends = [event.at for event, _ in events]
        for number in range(len(events) + 1):
            if number:
                at[events[number - 1][1]] += 1
            if 0 < number < len(events) and _are_one(events[number - 1][0], events[number][0]):
                continue  # no room for a cell between them
            low = ends[number - 1] if number else -1.0
            high = ends[number] if number < len(ends) else low + 2.0
            rooms.append(((a[1][at[0]], b[1][at[1]]), (low + high) / 2))
            if number < len(events):
                found.append(events[number][0])
        sides = self.space.sides_along(plane.depth, place, [middle for _, middle in rooms])
        cells = [
            NOTHING
            if self.space.is_beyond(self.space.point(plane.depth, place, middle))
            else self._cell(plane, slabs, face, faces, middle, inner)
            for (faces, middle), inner in zip(rooms, sides, strict=True)
        ]
        if plane.near_is_high:
            return Column(found[::-1], cells[::-1])
        return Column(found, cells)

    def _crossed(self, depth: int, axis: int, value: float) -> tuple[list[Event], list[int]]:
        """Return the events and faces along the depth in the other view that holds an axis."""
        key = depth, axis, value
        if key not in self._known:
            self._known[key] = self._cross(depth, axis, value)
        return self._known[key]

    def _cross(self, depth: int, axis: int, value: float) -> tuple[list[Event], list[int]]:
        other = self.space.views[3 - depth - axis]
        own = other.plane.axes.index(axis)
        order, faces = other.faces.crossed(own, value)
        events = []
        for number in order:
            piece = other.pieces[number]
            at = piece.v_at(value) if own == 0 else piece.u_at(value)
            place = (value, at) if own == 0 else (at, value)
            normal = piece.normal_at(place)
            way = [0.0, 0.0, 0.0]
            way[axis], way[depth] = normal[own], normal[1 - own]
            line = other.plane.depth, number
            events.append(Event(at, (way[0], way[1], way[2]), line))
        return events, faces

    def _met(self, depth: int, place: Vec2) -> list[Event]:
        """Return where a column meets the surfaces that are parallel to no axis."""
        if not self.space.surfaces:
            return []
        point = self.space.point(depth, place, 0.0)
        return [
            Event(at, normal, (_SURFACE, number))
            for number, surface in enumerate(self.space.surfaces)
            for at, normal in surface.roots(depth, point)
        ]

    def _cell(
        self, plane: Plane, slabs: list[int], face: int, faces: tuple[int, int], middle: float,
        inner: int,
    ) -> int:  # fmt: skip
        by_depth = {plane.depth: face}
        for axis, name in zip(plane.axes, faces, strict=True):
            by_depth[3 - plane.depth - axis] = name
        box = [0, 0, 0]
        for axis, slab in zip(plane.axes, slabs, strict=True):
            box[axis] = slab
        box[plane.depth] = self.space.slab(plane.depth, middle)
        faces_of = by_depth[1], by_depth[2], by_depth[0]
        return self.space.cell((box[0], box[1], box[2]), *faces_of, inner)

    def settled(self, view: ViewSpace, place: Vec2, across: Vec2) -> Vec2 | None:
        """Return where near a place what lies behind it changes, or None where it does not.

        A free curve's points lie only near the curve that they stand for.
        """

        def at(off: float) -> Vec2:
            return place[0] + off * across[0], place[1] + off * across[1]

        def behind(off: float) -> object:
            column = self.column(view, at(off))
            return _lines(column), column.cells

        off = _change(behind, _ABOUT_MM)
        if off is None:
            return None
        found = at(off)
        return None if _is_near_break(view, found) else found

    def on_outline(self, view: ViewSpace, place: Vec2, across: Vec2) -> Vec2:
        """Return the place beside one where a surface begins that a drawn line can mean there.

        What is known of a surface comes from lines that end far from it, so its outline and its
        ends may lie some micrometres beside the drawn ones. Else the place itself is returned.
        """

        def at(off: float) -> Vec2:
            return place[0] + off * across[0], place[1] + off * across[1]

        def met(off: float) -> list[tuple[int, int]]:
            return _lines(self.column(view, at(off)))

        off = _change(met, ROUGH_MM) if met(-ASIDE_MM) == met(ASIDE_MM) else None
        if off is None:
            return place
        found = at(off)
        is_outside = view.is_void[view.faces.face_at(found)] or view.is_beyond(found)
        return place if is_outside else found

    def demand(
        self,
        view: ViewSpace,
        place: Vec2,
        across: Vec2,
        seen: Seen,
        lines: tuple[int, ...],
        sort: Sort,
    ) -> Iterator[Demand]:
        """Yield what a place demands; `across` is the unit direction from side to side.

        Where nothing is drawn and nothing changes there is no demand.
        """
        sides = [
            self.column(view, (place[0] + s * across[0], place[1] + s * across[1]))
            for s in (-ASIDE_MM, ASIDE_MM)
        ]
        left, right = sides
        if seen == "absent" and left.cells == right.cells and _lines(left) == _lines(right):
            return
        groups = tuple(_groups(left, right, view.plane))
        yield Demand(view.plane.depth, place, seen, lines, groups, sort)


def _change(told: Callable[[float], object], reach: float) -> float | None:
    """Return how far beside a place, up to a reach, what is told there changes, by halving; None
    where it is the same at both ends.
    """
    low, high = -reach, reach
    first = told(low)
    if told(high) == first:
        return None
    while high - low > FINE:
        middle = (low + high) / 2
        if told(middle) == first:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _lines(column: Column) -> list[tuple[int, int]]:
    return [event.line for event in column.events]


def _are_one(a: Event, b: Event) -> bool:
    """Say whether two events are one surface, drawn in both of the other views."""
    if b.at - a.at > DRAWN_MM:
        return False
    return b.at - a.at < EXACT_MM or sine_between(a, b) < _PARALLEL


def sine_between(one: Event, other: Event) -> float:
    """Return the sine of the angle between two surfaces."""
    (a, b, c), (d, e, f) = one.normal, other.normal
    sine: float = ((b * f - c * e) ** 2 + (c * d - a * f) ** 2 + (a * e - b * d) ** 2) ** 0.5
    return sine


def _groups(left: Column, right: Column, plane: Plane) -> Iterator[Group]:
    """Yield the events of two columns group by group, the nearest first."""
    at = [0, 0]
    columns = left, right
    nearer = [{left.cells[0]}, {right.cells[0]}]
    sign = -1.0 if plane.near_is_high else 1.0
    while at[0] < len(left.events) or at[1] < len(right.events):
        nearest = min(
            (column.events[k] for column, k in zip(columns, at, strict=True)
             if k < len(column.events)), key=lambda event: sign * event.at
        )  # fmt: skip
        first = sign * nearest.at
        reach = first + DRAWN_MM + _slack(nearest, plane.depth)
        parts = []
        for side in (0, 1):
            events, begin, end = columns[side].events, at[side], at[side]
            while end < len(events) and sign * events[end].at <= reach + _slack(
                events[end], plane.depth
            ):
                end += 1
            parts.append(Column(events[begin:end], columns[side].cells[begin : end + 1]))
            at[side] = end
        before = tuple(sorted((nearer[0] | nearer[1]) - {-1}))
        for side in (0, 1):
            nearer[side] |= set(parts[side].cells)
        yield Group(sign * first, parts[0], parts[1], before)


def _slack(event: Event, depth: int) -> float:
    """Return by how much the two columns meet a steep surface apart (mm)."""
    return 2 * ASIDE_MM / max(abs(event.normal[depth]), _STEEPEST)


# --- places -----------------------------------------------------------------------------------


def all_demands(space: Space, switches: bool = True) -> Iterator[Demand]:
    """Yield the demands of every drawn piece, every undrawn break, and every change of order."""
    columns = Columns(space)
    for view in space.views.values():
        if view.view.is_guessed:
            continue
        for piece in view.pieces:
            yield from _of_piece(columns, view, piece)
        yield from _of_free_curves(columns, view)
        yield from _of_breaks(columns, view)
        if switches:
            yield from _of_switches(columns, view)


def _of_piece(columns: Columns, view: ViewSpace, piece: ViewPiece) -> Iterator[Demand]:
    """Yield a piece's demands: in the middle between the breaks that it passes."""
    if not piece.lines:
        return  # the crate's own line: nothing is drawn there, nor anything behind it
    seen: Seen = "visible" if piece.visible else "hidden"
    is_plain = piece.is_level or piece.is_upright
    for low, high in pairwise(_shares(view, piece)):
        if not is_plain and math.dist(piece.at(low), piece.at(high)) < _LEAST_STRETCH_MM:
            continue  # where it is about to touch another line, a hair makes another surface
        for share in (0.5,) if is_plain else (0.2, 0.5, 0.8):
            place = piece.at(low + share * (high - low))
            if not is_plain and _is_near_break(view, place):
                continue  # ends were put on breaks, so there an arc may lie on their other side
            across = piece.normal_at(place)
            if columns.has_cones and not is_plain:
                place = columns.on_outline(view, place, across)
            yield from columns.demand(view, place, across, seen, piece.lines, "line")


def _is_near_break(view: ViewSpace, place: Vec2) -> bool:
    return any(
        np.abs(breaks - value).min() < 2 * SNAP_MM
        for breaks, value in zip(view.faces.breaks, place, strict=True)
    )


def _shares(view: ViewSpace, piece: ViewPiece) -> list[float]:
    """Return the shares of a piece's way at which it passes a break."""
    found = {0.0, 1.0}
    for axis in (0, 1):
        low, high = sorted((piece.start[axis], piece.end[axis]))
        for value in view.faces.breaks[axis]:
            if low < value < high:
                found.add(_share_at(piece, axis, float(value)))
    return sorted(found)


def _share_at(piece: ViewPiece, axis: int, value: float) -> float:
    """Return the share of a piece's way at a value of an axis, by halving."""
    low, high = 0.0, 1.0
    rises = piece.at(1.0)[axis] > piece.at(0.0)[axis]
    for _ in range(40):
        middle = (low + high) / 2
        if (piece.at(middle)[axis] < value) == rises:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _of_free_curves(columns: Columns, view: ViewSpace) -> Iterator[Demand]:
    for number, line in enumerate(view.view.lines):
        if not isinstance(line.shape, Free) or line.status == "centre":
            continue
        points = line.shape.points
        count = len(points) - 1
        for share in (0.13, 0.37, 0.61, 0.85):
            at = min(int(share * count), count - 1)
            (a, b), (c, d) = points[at], points[at + 1]
            size = ((c - a) ** 2 + (d - b) ** 2) ** 0.5
            if size == 0:
                continue
            across = (d - b) / size, (a - c) / size
            middle = (a + c) / 2, (b + d) / 2
            # a curve that falls on a line or circle of the view says no more than that does
            is_covered = view.is_near_piece(middle, _ABOUT_MM)
            place = None if is_covered else columns.settled(view, middle, across)
            if place is not None:
                seen: Seen = "visible" if line.status == "visible" else "hidden"
                yield from columns.demand(view, place, across, seen, (number,), "free")


def _of_breaks(columns: Columns, view: ViewSpace) -> Iterator[Demand]:
    """Yield demands for places on breaks inside the outline where nothing is drawn."""
    for axis in (0, 1):
        own, others = view.faces.breaks[axis], view.faces.breaks[1 - axis]
        for number in range(1, len(own) - 1):
            for low, high in pairwise(others.tolist()):
                for place in _undrawn(view, axis, number, float(own[number]), low, high):
                    across = (1.0, 0.0) if axis == 0 else (0.0, 1.0)
                    yield from columns.demand(view, place, across, "absent", (), "break")


def _undrawn(
    view: ViewSpace, axis: int, number: int, value: float, low: float, high: float
) -> Iterator[Vec2]:
    """Yield one place of a break between two of the other axis, for each face that it crosses."""
    if view.faces.is_drawn_wall(axis, number, (low + high) / 2):
        return
    order, _ = view.faces.crossed(axis, value + ASIDE_MM)
    levels = []
    for index in order:
        piece = view.pieces[index]
        levels.append(piece.v_at(value) if axis == 0 else piece.u_at(value))
    inner = [level for level in levels if low < level < high]
    for a, b in pairwise([low, *sorted(inner), high]):
        middle = (a + b) / 2
        place = (value, middle) if axis == 0 else (middle, value)
        face = view.faces.face_at((place[0] - ASIDE_MM, place[1] - ASIDE_MM))
        if b - a > 20 * ASIDE_MM and not view.is_void[face] and not view.is_beyond(place):
            yield place


def _of_switches(columns: Columns, view: ViewSpace) -> Iterator[Demand]:
    """Yield demands for places inside a face where two lines of the other views change order."""
    space, plane = columns.space, view.plane
    u, v = plane.axes
    first, second = space.views[3 - plane.depth - u], space.views[3 - plane.depth - v]
    own = first.plane.axes.index(u), second.plane.axes.index(v)
    for i, (u_low, u_high) in enumerate(pairwise(space.breaks[u].tolist())):
        across = [
            (n, *_between(first.pieces[n], own[0], u_low, u_high))
            for n in first.faces.order(own[0], i)
        ]
        for k, (v_low, v_high) in enumerate(pairwise(space.breaks[v].tolist())):
            up = [
                (n, *_between(second.pieces[n], own[1], v_low, v_high))
                for n in second.faces.order(own[1], k)
            ]
            for m, low_a, high_a in across:
                for n, low_b, high_b in up:
                    low, high = max(low_a, low_b), min(high_a, high_b)
                    if high - low < 4 * ASIDE_MM and not (high_a == low_a or high_b == low_b):
                        continue
                    if high < low or (high_a == low_a and high_b == low_b):
                        continue
                    yield from _switches(
                        columns, view, (first.pieces[m], own[0]), (second.pieces[n], own[1]),
                        (low, high), (u_low, u_high), (v_low, v_high),
                    )  # fmt: skip


def _between(piece: ViewPiece, axis: int, low: float, high: float) -> tuple[float, float]:
    """Return the span of a piece along the other axis within a slab of `axis`."""
    if axis == 0:
        a, b = piece.v_at(low), piece.v_at(high)
    else:
        a, b = piece.u_at(low), piece.u_at(high)
    return min(a, b), max(a, b)


def _switches(
    columns: Columns, view: ViewSpace, a: tuple[ViewPiece, int], b: tuple[ViewPiece, int],
    depths: Span, us: Span, vs: Span,
) -> Iterator[Demand]:  # fmt: skip
    """Yield the demands along the way on which two lines of other views lie at one depth."""
    (piece_a, own_a), (piece_b, own_b) = a, b
    low, high = depths
    shares = (0.5,) if high - low < ROUNDING else (0.3, 0.5, 0.72)
    for share in shares:
        at = low + share * (high - low)
        place = _locus_place(piece_a, own_a, at, us), _locus_place(piece_b, own_b, at, vs)
        if view.is_near_line(place) or view.is_outside(place):
            continue
        if not (us[0] < place[0] < us[1] and vs[0] < place[1] < vs[1]):
            continue
        across = _across(piece_a, own_a, piece_b, own_b, at, place)
        yield from columns.demand(view, place, across, "absent", (), "switch")


def _locus_place(piece: ViewPiece, own: int, depth: float, span: tuple[float, float]) -> float:
    """Return where along its own axis a piece is at a depth; the middle where it stays there."""
    is_flat = piece.is_level if own == 0 else piece.is_upright
    if is_flat:
        return span[0] + 0.463 * (span[1] - span[0])
    return piece.u_at(depth) if own == 0 else piece.v_at(depth)


def _across(
    piece_a: ViewPiece, own_a: int, piece_b: ViewPiece, own_b: int, depth: float, place: Vec2
) -> Vec2:
    """Return the direction square to the way on which two lines lie at one depth.

    With depths a(u) and b(v) it is the gradient of a − b; each slope follows from a normal.
    """
    at_a = (place[0], depth) if own_a == 0 else (depth, place[0])
    at_b = (place[1], depth) if own_b == 0 else (depth, place[1])
    normal_a, normal_b = piece_a.normal_at(at_a), piece_b.normal_at(at_b)
    slope_a = -normal_a[own_a] * normal_b[1 - own_b]
    slope_b = normal_b[own_b] * normal_a[1 - own_a]
    size = (slope_a**2 + slope_b**2) ** 0.5
    return (slope_a / size, slope_b / size) if size > SOLVED else (1.0, 0.0)
