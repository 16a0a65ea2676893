"""Polygons and pyramids: the auxiliary figure beside the picture, what is carried from it, apexes.

The polygon is drawn true size, or smaller as the axes are where both have one scale; half of it is
enough where it is symmetrical about its level centre line. The feet of its corners on that line,
and its corners' heights over it, are carried with the dividers to the crate edges.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import NamedTuple

from holoptic.catalogue import Saying, later, tr
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.part import Basic, Crate, Part, Polygon, Pyramid, Round, Source, basics
from holoptic.part.operations import extent_mm
from holoptic.part.seat import AS_DESCRIBED, Seat
from holoptic.plan.bench import Bench, Carry
from holoptic.plan.instruments import COMPASS, RULE, SQUARE_30, T_SQUARE
from holoptic.plan.moves import (
    BORDER_CORNER,
    BORDER_LINE,
    FIGURE_BASE,
    FIGURE_MARK,
    FIGURE_UPRIGHT,
    Setup,
)
from holoptic.plan.spots import spot_of
from holoptic.tolerance import COINCIDENT_MM, FINE
from holoptic.units.spoken import on_rule

_AIR_MM = 4.0


class _Cross(NamedTuple):
    """The lines through a figure's middle: its level centre line, and an upright where one is."""

    base: str
    upright: str | None


@dataclass(frozen=True)
class _Corner:
    """A corner of the figure: its place from the figure's middle, true mm, and its names."""

    place: Vec2
    name: str
    foot: str


class FigureWork:
    """Draws auxiliary figures and tells the bench what can be carried from them."""

    def __init__(self, bench: Bench, raise_corners: bool) -> None:
        self.bench = bench
        self.part: Part | None = None
        self.seat = AS_DESCRIBED
        self._raise_corners = raise_corners
        self._figures: dict[tuple[object, ...], tuple[str, list[_Corner]]] = {}
        self._count = 0
        self._right = 0.0
        self._last: tuple[Vec2, str, str] | None = None
        """Where the last figure's middle lies, its letter, and its level centre line."""

    def take(self, source: Source, seat: Seat | None = AS_DESCRIBED) -> None:
        """Turn to a part; a solid from a file, or one that leans (None), has no figures."""
        self.part = source if isinstance(source, Part) and seat is not None else None
        self.seat = seat or AS_DESCRIBED
        self.begin(None)

    def begin(self, index: int | None) -> None:
        """Draw the auxiliary figure of an operation, if it has one and it is not there yet."""
        self.bench.carries = {}
        self.bench.raising = None
        self.bench.apexes = {}
        if index is None or self.part is None:
            return
        for item in basics(self.part.operations[index], self.part.crate):
            self._begin(item, self.part.crate)

    def _begin(self, item: Basic, crate: Crate) -> None:
        if not isinstance(item, Polygon | Pyramid | Round):
            return
        ends = extent_mm(item, crate)
        if _comes_to_a_point(item):
            centre = item.centre_mm(crate)
            foot, apex = (
                spot_of(self.seat.place(crate.place(item.face, *centre, depth))) for depth in ends
            )
            self.bench.apexes[apex] = foot, self.seat.axis(item.face.normal_axis)
        if isinstance(item, Round):
            return
        self._prepare_raising(item, *(crate.place(item.face, 0, 0, depth) for depth in ends))
        if not isinstance(item, Polygon):
            return
        if self._scale(item) is None:
            return
        shares = {0.0} if item.end_size is None else {0.0, 1.0}
        for share in sorted(shares):
            size = item.size.mm if share == 0.0 or item.end_size is None else item.end_size.mm
            if size > COINCIDENT_MM:
                self._carry(item, crate, size, share)

    def _scale(self, item: Polygon) -> float | None:
        """Return at which scale a figure is drawn so that dividers carry its distances as they are:
        that of the axes, or the true one where one axis has that; None where they differ.
        """
        one, other = (self.bench.view.axis_scale(self.seat.axis(axis)) for axis in item.face.axes)
        if 1.0 in (one, other):
            return 1.0
        return one if abs(one - other) < FINE else None

    def _prepare_raising(self, item: Polygon | Pyramid, start: Vec3, end: Vec3) -> None:
        """Raise the crate: offsets are repeated on the other plane. Or raise each corner."""
        tapers = isinstance(item, Pyramid) or item.end_size is not None
        axis = self.seat.axis(item.face.normal_axis)
        low, high = (self.seat.place(point)[axis] for point in (start, end))
        self.bench.raising = axis, low, high, self._raise_corners and not tapers

    # --- the figure -------------------------------------------------------------------------

    def _carry(self, item: Polygon, crate: Crate, size: float, share: float) -> None:
        """Let the offsets of an operation's corners be carried from its figure."""
        scale = self._scale(item) or 1.0
        key = item.sides, round(item.radius(size), 6), item.turn, scale
        if key not in self._figures:
            phase = self.bench.phase
            self.bench.phase = f"figure: {item.name}"
            self._figures[key] = self._draw(item, size, scale)
            self.bench.phase = phase
        middle, corners = self._figures[key]
        centre = item.centre_mm(crate)
        for u, v in item.corners_mm(crate, share):
            du, dv = u - centre[0], v - centre[1]
            for corner in corners:
                if _near(abs(du), abs(corner.place[0])):
                    self._allow(item.face.axes[0], u, centre[0], (middle, corner.foot), scale)
                if _near(abs(dv), abs(corner.place[1])):
                    self._allow(item.face.axes[1], v, centre[1], (corner.foot, corner.name), scale)

    def _allow(
        self, axis: int, at: float, centre: float, ends: tuple[str, str], scale: float
    ) -> None:
        if abs(at - centre) < COINCIDENT_MM:
            return
        (axis, at), (_, middle) = (self.seat.along(axis, value) for value in (at, centre))
        if abs(self.bench.view.axis_scale(axis) - scale) < FINE:
            self.bench.carries[axis, round(at, 6)] = Carry(round(middle, 6), *ends)

    def _draw(self, item: Polygon, size: float, scale: float) -> tuple[str, list[_Corner]]:
        radius = item.radius(size)
        begin = math.radians(item.turn - 90) + math.pi / item.sides
        places = [
            (radius * math.cos(begin + math.tau * k / item.sides),
             radius * math.sin(begin + math.tau * k / item.sides))
            for k in range(item.sides)
        ]  # fmt: skip
        is_half = all(any(_near(x, a) and _near(-y, b) for a, b in places) for x, y in places)
        if is_half:
            places = [(x, y) for x, y in places if y > -COINCIDENT_MM]
        middle, cross = self._middle(item, radius * scale, is_half, scale)
        self._circle(item, size, radius * scale, middle, scale)
        corners = [
            self._corner(place, middle, cross, number, scale) for number, place in enumerate(places)
        ]
        return middle, corners

    def _middle(
        self, item: Polygon, radius: float, is_half: bool, shrunk: float
    ) -> tuple[str, _Cross]:
        """Find the figure's middle from the borders and draw its level centre line."""
        self._count += 1
        bench, scale = self.bench, self.bench.setup.scale
        place, on_scrap = self._place(bench.setup, radius * scale, is_half)
        mark, upright, base = (
            tr(what, count=self._count) for what in (FIGURE_MARK, FIGURE_UPRIGHT, FIGURE_BASE)
        )
        if self._last is not None and self._last[0][1] == place[1]:
            return self._beside(item, place, is_half, shrunk)
        places: dict[str, object] = {
            "name": item.name,
            "half": later("half of it is enough") if is_half else later("the whole of it"),
            "place": on_rule(place[0]),
            "true": _how_large(shrunk),
        }
        bench.write(
            "set off",
            RULE,
            (BORDER_CORNER, BORDER_LINE),
            (mark,),
            later(
                "Auxiliary figure of the {name}, {true}, {half}: from the "
                "lower left border corner set off {place} along the lower border, on a piece of "
                "paper beside the sheet.",
                **places,
            )
            if on_scrap
            else later(
                "Auxiliary figure of the {name}, {true}, {half}: from the "
                "lower left border corner set off {place} along the lower border.",
                **places,
            ),
            setting=place[0],
            angle=0.0,
        )
        bench.write("draw", SQUARE_30, (mark,), (upright,),
                    later("Through the mark draw a light upright."), angle=90.0)  # fmt: skip
        at = bench.from_sheet(place)
        middle = bench.name_place(at)
        bench.write(
            "set off",
            RULE,
            (mark, upright),
            (middle,),
            later(
                "From the mark set off {place} upward, along the upright: {middle}, the middle "
                "of the figure.",
                place=on_rule(place[1]),
                middle=middle,
            ),
            setting=place[1],
            angle=90.0,
        )
        bench.tell(base, later("the level line through {middle}", middle=middle))
        bench.write(
            "draw",
            T_SQUARE,
            (middle,),
            (base,),
            later("Through {middle} draw its level centre line.", middle=middle),
            angle=0.0,
        )
        self._last = place, middle, base
        bench.tell(upright, later("the upright through {middle}", middle=middle))
        return middle, _Cross(base, upright)

    def _beside(
        self, item: Polygon, place: Vec2, is_half: bool, shrunk: float
    ) -> tuple[str, _Cross]:
        """Find the middle of a figure level with the last one, along its centre line."""
        bench = self.bench
        (x, _), before, base = self._last or ((0.0, 0.0), "", "")
        middle = bench.name_place(bench.from_sheet(place))
        words = later(
            "Auxiliary figure of the {name}, {true}, {half}: along the level line through "
            "{before} set off {place} to the right: {middle}, the middle of the figure.",
            name=item.name, before=before, place=on_rule(place[0] - x), middle=middle,
            true=_how_large(shrunk),
            half=later("half of it is enough") if is_half else later("the whole of it"),
        )  # fmt: skip
        bench.write("set off", RULE, (before, base), (middle,), words, setting=place[0] - x,
                    angle=0.0)  # fmt: skip
        self._last = place, middle, base
        return middle, _Cross(base, None)

    def _place(self, setup: Setup, radius: float, is_half: bool) -> tuple[Vec2, bool]:
        """Return where the figure's middle lies (mm from the border), and whether off the sheet."""
        below = _AIR_MM if is_half else radius + _AIR_MM
        width, height = 2 * (radius + _AIR_MM), below + radius + _AIR_MM
        for xmin, ymin, xmax, ymax in setup.rooms:
            left = max(xmin, self._right) if self._right and xmin < self._right < xmax else xmin
            if left + width <= xmax and ymin + height <= ymax:
                self._right = left + width
                return (round(left + width / 2), round(ymax - height + below)), False
        x = setup.width + 20 + self._right + radius
        self._right += 2 * radius + 3 * _AIR_MM
        return (round(x), round(40 + below)), True

    def _circle(
        self, item: Polygon, size: float, radius: float, middle: str, shrunk: float
    ) -> None:
        setting = radius * self.bench.setup.scale
        at_scale = (
            later("so radius {radius}", radius=on_rule(setting)) if shrunk == 1.0
            else later("so radius {radius} with the axes' scale", radius=on_rule(setting))
        )  # fmt: skip
        figures = {"size": on_rule(size), "so_radius": at_scale, "middle": middle}
        words = {
            "side": later("Side {size}, {so_radius}: needle on {middle}, a light circle.",
                       **figures),
            "across flats": later("{size} across flats, {so_radius}: needle on {middle}, a "
                               "light circle.", **figures),
            "across corners": later("{size} across corners, {so_radius}: needle on {middle}, a "
                                 "light circle.", **figures),
        }[item.measure]  # fmt: skip
        name = tr("figure circle {count}", count=self._count)
        self.bench.write(
            "circle",
            COMPASS,
            (middle,),
            (name,),
            words,
            setting=setting,
        )

    def _corner(
        self, place: Vec2, middle: str, cross: _Cross, number: int, shrunk: float
    ) -> _Corner:
        """Find a corner on the circle, and its foot on the centre line."""
        bench, scale, base = self.bench, self.bench.setup.scale, cross.base
        angle = math.degrees(math.atan2(place[1], place[0]))
        at = bench.places[middle]
        corner_place = at[0] + shrunk * place[0], at[1] + shrunk * place[1]
        radius = math.hypot(*place) * shrunk * scale
        if abs(place[1]) < COINCIDENT_MM:
            line = base
        elif abs(place[0]) < COINCIDENT_MM and cross.upright is not None:
            line = cross.upright
        else:
            line = tr("figure ray {count}.{number}", count=self._count, number=number + 1)
            bench.tell(line, later("the ray through {middle} at {angle:.4g}°", middle=middle,
                                   angle=angle % 180))  # fmt: skip
            bench.slants.draw(middle, angle, line,
                              later("Through {middle} draw a ray at {angle:.4g}°.", middle=middle,
                                    angle=angle % 180), bench.told)  # fmt: skip
        corner = bench.name_place(corner_place)
        bench.write(
            "set off",
            COMPASS,
            (middle, line),
            (corner,),
            later(
                "Needle on {middle}, compass {radius}: cut {line}, at the corner {corner}.",
                middle=middle,
                radius=on_rule(radius),
                line=bench.told(line),
                corner=corner,
            ),
            setting=radius,
            angle=angle,
        )
        if line == base:
            return _Corner(place, corner, corner)
        if abs(place[0]) < COINCIDENT_MM:
            return _Corner(place, corner, middle)
        foot = bench.name_place((corner_place[0], at[1]))
        upright = tr("figure drop {count}.{number}", count=self._count, number=number + 1)
        bench.write(
            "draw",
            SQUARE_30,
            (corner, base),
            (upright, foot),
            later(
                "Drop an upright from {corner} to the level line through {middle}: {foot}.",
                corner=corner,
                middle=middle,
                foot=foot,
            ),
            angle=90.0,
        )
        return _Corner(place, corner, foot)


def _how_large(shrunk: float) -> Saying:
    if shrunk == 1.0:
        return later("true size")
    return later("{ratio:.3g} × its true size as along the axes", ratio=shrunk)


def _comes_to_a_point(item: Polygon | Pyramid | Round) -> bool:
    if isinstance(item, Pyramid):
        return max(item.end_width.mm, item.end_height.mm) < COINCIDENT_MM
    end = item.end_diameter if isinstance(item, Round) else item.end_size
    return end is not None and end.mm < COINCIDENT_MM


def _near(a: float, b: float) -> bool:
    return abs(a - b) < COINCIDENT_MM
