"""Shading by parallel lines: faces away from the light, the denser the darker.

The visible lines of a picture divide it into cells; each is a piece of one face. A plane face is
lined along an axis that lies in it, at a pitch that follows its brightness; a round one along its
own straight lines, or a ball's circles, closer where it turns away. Bright faces stay plain.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
import shapely
from shapely.ops import polygonize

from holoptic.curves.vectors import Vec2, Vec3, add, cross, distance, dot, subtract, unit
from holoptic.job import Shade
from holoptic.pictorial import Picture
from holoptic.sheet.drawing import Hatch, Ink, Region, moved
from holoptic.sheet.hatching import hatch_lines
from holoptic.solid.pieces import Shape, Wall
from holoptic.tolerance import LEANING, REGULAR_MM, SOLVED

LAYER = "shading"
_BRIGHT = 0.58
"""A face that is brighter than this stays plain."""
_DENSEST_MM, _WIDEST_MM = 0.9, 2.9
_LIGHT_UP, _LIGHT_ASIDE, _LIGHT_NEAR = 0.9, 0.8, 0.55
"""How far the light stands up, aside and toward the viewer."""
_LEAST_CELL_MM2 = 0.5
_GRID_MM, _LONGER_MM = 0.01, 0.08
_FINE_TURN = math.radians(2.0)
_PARALLEL_DEG = 0.001
_LONG_MM = 5000.0
_BEHIND_MM = 0.1
_AXES: tuple[Vec3, ...] = ((0.0, 0.0, 1.0), (0.0, 1.0, 0.0), (1.0, 0.0, 0.0))

Nearest = Callable[[np.ndarray], np.ndarray]
"""How near (n, mm along the direction to the viewer) lines through points (n × 3) meet a solid."""


@dataclass(frozen=True)
class ShadedCell:
    """The lines of one piece of a face."""

    inks: tuple[Ink, ...]

    @cached_property
    def slant(self) -> float | None:
        """The direction of its lines in [0, 180) degrees, None where they have no one direction."""
        first = self._angle(self.inks[0])
        for ink in self.inks:
            off = (self._angle(ink) - first + 90.0) % 180.0 - 90.0
            if len(ink.path) > 2 or abs(off) > _PARALLEL_DEG:
                return None
        return first

    @cached_property
    def pitches(self) -> tuple[float, float]:
        """The largest and the least distance of neighbours, mm; of lines with no one direction
        those of their middles.
        """
        turn = math.radians(self.slant or 0.0)
        ends = ((ink.path[0], ink.path[-1]) for ink in self.inks)
        middles = [((a + c) / 2, (b + d) / 2) for (a, b), (c, d) in ends]
        offsets = sorted(y * math.cos(turn) - x * math.sin(turn) for x, y in middles)
        apart = [b - a for a, b in pairwise(offsets) if b - a > _GRID_MM]
        return (max(apart), min(apart)) if apart else (_DENSEST_MM, _DENSEST_MM)

    @staticmethod
    def _angle(ink: Ink) -> float:
        (x, y), (u, v) = ink.path[0], ink.path[-1]
        return math.degrees(math.atan2(v - y, u - x)) % 180.0


def shading(
    picture: Picture, at: Vec2, scale: float, shape: Shape, nearest: Nearest, light: Shade
) -> list[Ink]:
    """Return the lines that shade a picture at a place of the page; none where no light is set."""
    cells = shaded_cells(picture, at, scale, shape, nearest, light)
    return [ink for cell in cells for ink in cell.inks]


def shaded_cells(
    picture: Picture, at: Vec2, scale: float, shape: Shape, nearest: Nearest, light: Shade
) -> list[ShadedCell]:
    """Return the dark faces of a picture as `shading` lines them."""
    if light == "none":
        return []
    shading_of = _Shading(picture, at, scale, light, nearest)
    cells = _cells(picture, at, scale, shape)
    if not cells:
        return []
    spots = [cell.representative_point() for cell in cells]
    places = shading_of.places([(spot.x, spot.y) for spot in spots], nearest)
    made: list[ShadedCell] = []
    for cell, place in zip(cells, places, strict=True):
        wall = _wall_at(shape, place)
        inks = tuple(shading_of.lines(cell, wall, place)) if wall is not None else ()
        if inks:
            made.append(ShadedCell(inks))
    return made


def _cells(picture: Picture, at: Vec2, scale: float, shape: Shape) -> list[shapely.Polygon]:
    """Return what the visible lines divide a picture into, and the smooth joins, which are not
    drawn: each shows a piece of one face.
    """
    paths = [stroke.path for stroke in picture.visible]
    paths += [tuple(m.curve.path(picture.view.matrix)) for m in shape.meetings if m.is_smooth]
    lines = [line for path in paths if len(path) > 1 for line in _joining(moved(path, at, scale))]
    return [
        cell for cell in polygonize(shapely.union_all(lines, grid_size=_GRID_MM))
        if cell.area > _LEAST_CELL_MM2
    ]  # fmt: skip


def _joining(path: Sequence[Vec2]) -> Iterator[shapely.LineString]:
    """Yield a line of the page, a little longer than it is, with a tick across each of its ends.

    Outlines touch the curves that they end on, which are drawn as chords: they would just miss.
    """
    made = [*path]
    for end, before in ((0, 1), (-1, -2)):
        (x, y), (u, v) = path[end], path[before]
        long = math.hypot(x - u, y - v)
        if long > SOLVED:
            a, b = _LONGER_MM * (x - u) / long, _LONGER_MM * (y - v) / long
            made[end] = x + a, y + b
            yield shapely.LineString([(x - b, y + a), (x + b, y - a)])
    yield shapely.LineString(made)


def _wall_at(shape: Shape, place: Vec3) -> Wall | None:
    """Return the wall on which a place lies, None where none is near."""
    off, wall = min(((_off(wall, place), wall) for wall in shape.walls), key=lambda item: item[0])
    return wall if off < 10 * REGULAR_MM else None


def _off(wall: Wall, place: Vec3) -> float:
    """Return how far a place lies off a wall's surface, mm; a free one has none."""
    way = subtract(place, wall.place)
    along = dot(way, wall.way)
    across = math.sqrt(max(dot(way, way) - along * along, 0.0))
    if wall.kind == "plane":
        return abs(along)
    if wall.kind == "cylinder":
        return abs(across - wall.radius)
    if wall.kind == "cone":
        return abs(across - abs(wall.radius + along * math.tan(wall.other))) * math.cos(wall.other)
    if wall.kind == "ball":
        return abs(distance(place, wall.place) - wall.radius)
    if wall.kind == "ring":
        return abs(math.hypot(across - wall.radius, along) - wall.other)
    return math.inf


class _Shading:
    """The light on one picture, and the way from the page to the part and back."""

    def __init__(
        self, picture: Picture, at: Vec2, scale: float, light: Shade, nearest: Nearest
    ) -> None:
        self._nearest = nearest
        self._matrix = np.array(picture.view.matrix)
        self._at, self._scale = at, scale
        self._toward = unit(picture.view.toward_viewer)
        right, up = (unit((row[0], row[1], row[2])) for row in picture.view.matrix)
        aside = -_LIGHT_ASIDE if light == "left" else _LIGHT_ASIDE
        lit = add(add((0.0, 0.0, 0.0), right, aside), up, _LIGHT_UP)
        self._light = unit(add(lit, self._toward, _LIGHT_NEAR))

    def places(self, spots: Sequence[Vec2], nearest: Nearest) -> list[Vec3]:
        """Return the places of the part that are seen at spots of the page."""
        drawn = (np.array(spots) - self._at) / self._scale
        points = drawn @ np.linalg.pinv(self._matrix).T
        toward = np.array(self._toward)
        reach = nearest(points) - points @ toward
        found = points + reach[:, None] * toward
        return [(float(x), float(y), float(z)) for x, y, z in found]

    def onto(self, place: Vec3) -> Vec2:
        """Return where a place of the part lies on the page."""
        x, y = (self._matrix @ np.array(place)).tolist()
        return self._at[0] + self._scale * x, self._at[1] + self._scale * y

    def lines(self, cell: shapely.Polygon, wall: Wall, place: Vec3) -> Iterator[Ink]:
        """Yield the lines of a cell, which shows a piece of a wall; `place` lies on it."""
        if wall.kind == "plane":
            yield from self._flat(cell, wall)
        elif wall.kind in ("cylinder", "cone"):
            yield from self._turned(cell, wall, place)
        elif wall.kind == "ball":
            yield from self._ball(cell, wall)
        elif wall.kind == "ring":
            yield from self._ring(cell, wall, place)

    def _pitch(self, normal: Vec3) -> float | None:
        """Return how far apart lines stand where a face has a normal; None where it is bright."""
        if dot(normal, self._toward) < 0:
            normal = (-normal[0], -normal[1], -normal[2])
        bright = max(dot(normal, self._light), 0.0)
        if bright > _BRIGHT:
            return None
        return _DENSEST_MM + (_WIDEST_MM - _DENSEST_MM) * bright / _BRIGHT

    def _flat(self, cell: shapely.Polygon, wall: Wall) -> Iterator[Ink]:
        pitch = self._pitch(wall.way)
        if pitch is None:
            return
        inside = [axis for axis in _AXES if abs(dot(axis, wall.way)) < LEANING]
        along = inside[0] if inside else cross(wall.way, _AXES[0])
        (x, y), (u, v) = self.onto((0.0, 0.0, 0.0)), self.onto(along)
        if math.hypot(u - x, v - y) < SOLVED:
            return
        angle = math.degrees(math.atan2(v - y, u - x)) % 180
        rings = (cell.exterior, *cell.interiors)
        outlines = tuple(tuple((a, b) for a, b in ring.coords) for ring in rings)
        yield from hatch_lines(Region(LAYER, outlines, None, Hatch(angle, pitch)))

    def _turned(self, cell: shapely.Polygon, wall: Wall, place: Vec3) -> Iterator[Ink]:
        """Yield straight lines of a cylinder or a cone, closer where it turns from the light."""
        first = unit(cross(wall.way, _AXES[0] if abs(wall.way[2]) < 0.9 else _AXES[1]))
        second = cross(wall.way, first)
        way = subtract(place, wall.place)
        along = dot(way, wall.way)
        radius = wall.radius + along * math.tan(wall.other) if wall.kind == "cone" else wall.radius
        middle = add(wall.place, wall.way, along)
        outside = dot(subtract(place, middle), self._toward) > 0
        lean = math.tan(wall.other) if wall.kind == "cone" else 0.0
        turn = 0.0
        while turn < math.tau:
            radial = add(add((0.0, 0.0, 0.0), first, math.cos(turn)), second, math.sin(turn))
            normal = unit(add(radial, wall.way, -lean))
            seen = dot(normal, self._toward) if outside else -dot(normal, self._toward)
            pitch = self._pitch(normal) if seen > 0 else None
            if pitch is None:
                turn += _FINE_TURN
                continue
            at = add(middle, radial, radius)
            yield from self._clipped(cell, at, add(wall.way, radial, lean))
            turn += max(pitch / (abs(radius) * self._scale), _FINE_TURN / 4)

    def _clipped(self, cell: shapely.Polygon, at: Vec3, way: Vec3) -> Iterator[Ink]:
        """Yield what a cell holds of the image of a straight line."""
        a, b = (self.onto(add(at, way, reach)) for reach in (-_LONG_MM, _LONG_MM))
        yield from _inks(cell.intersection(shapely.LineString([a, b])))

    def _ring(self, cell: shapely.Polygon, wall: Wall, place: Vec3) -> Iterator[Ink]:
        """Yield circles about the axis of a ring where it is dark; a groove is seen from within."""
        first = np.array(unit(cross(wall.way, _AXES[0] if abs(wall.way[2]) < 0.9 else _AXES[1])))
        way, toward = np.array(wall.way), np.array(self._toward)
        second = np.cross(way, first)
        turns = np.arange(0.0, math.tau + _FINE_TURN, _FINE_TURN)[:, None]
        radial = np.cos(turns) * first + np.sin(turns) * second
        sign = self._side_of_ring(wall, place)
        step = _DENSEST_MM / (wall.other * self._scale)
        for k in range(int(math.tau / step)):
            outward = math.cos(k * step) * radial + math.sin(k * step) * way
            points = np.array(wall.place) + wall.radius * radial + wall.other * outward
            bright = np.maximum(sign * outward @ np.array(self._light), 0.0)
            pitch = _DENSEST_MM + (_WIDEST_MM - _DENSEST_MM) * bright / _BRIGHT
            is_on = (sign * outward @ toward > 0) & (bright <= _BRIGHT)
            is_on &= k % np.maximum(1, np.round(pitch / _DENSEST_MM)) == 0
            is_on &= self._nearest(points) - points @ toward < _BEHIND_MM
            yield from self._runs(cell, points, is_on)

    def _side_of_ring(self, wall: Wall, place: Vec3) -> float:
        """Return 1 where a ring is seen from outside its section, −1 where from within."""
        off = subtract(place, wall.place)
        flat = subtract(off, add((0.0, 0.0, 0.0), wall.way, dot(off, wall.way)))
        middle = add(wall.place, unit(flat), wall.radius)
        return 1.0 if dot(subtract(place, middle), self._toward) > 0 else -1.0

    def _runs(self, cell: shapely.Polygon, points: np.ndarray, is_on: np.ndarray) -> Iterator[Ink]:
        """Yield what a cell holds of the stretches of a curve (n × 3, mm) that are drawn."""
        run: list[Vec2] = []
        for point, on in zip(points.tolist(), [*is_on.tolist()], strict=True):
            if on:
                run.append(self.onto((point[0], point[1], point[2])))
                continue
            if len(run) > 1:
                yield from _inks(cell.intersection(shapely.LineString(run)))
            run = []
        if len(run) > 1:
            yield from _inks(cell.intersection(shapely.LineString(run)))

    def _ball(self, cell: shapely.Polygon, wall: Wall) -> Iterator[Ink]:
        """Yield level circles of a ball where it is dark."""
        step = _DENSEST_MM / (wall.radius * self._scale)
        for k in range(1, int(math.pi / step)):
            rise = -math.pi / 2 + k * step
            run: list[Vec2] = []
            for turn in np.arange(0.0, math.tau + _FINE_TURN, _FINE_TURN):
                flat = math.cos(rise)
                normal = flat * math.cos(turn), flat * math.sin(turn), math.sin(rise)
                pitch = self._pitch(normal) if dot(normal, self._toward) > 0 else None
                is_dark = pitch is not None and k % max(1, round(pitch / _DENSEST_MM)) == 0
                if is_dark:
                    run.append(self.onto(add(wall.place, normal, wall.radius)))
                if (not is_dark or turn >= math.tau) and run:
                    if len(run) > 1:
                        yield from _inks(cell.intersection(shapely.LineString(run)))
                    run = []


def _inks(found: shapely.Geometry) -> Iterator[Ink]:
    for line in getattr(found, "geoms", [found]):
        if isinstance(line, shapely.LineString) and line.length > _DENSEST_MM / 2:
            yield Ink(LAYER, tuple((x, y) for x, y in line.coords))
