"""What of a solid sizes must tell: levels along its axes, radii, faces that lean; and what they
need not tell, as it follows from how faces meet.

Everything is told of small changes about the solid as it is: a row says that a sum of changes is
nothing. A plane square to an axis is a level. One that leans is its turn and its distance, and each
of its corners ties those to the corner's levels. A round face is the levels of its axis and its
radius, a cone's grows evenly along its axis. Faces that run smoothly into each other touch. That
the sides of an outline stay square to it is understood on every drawing.
"""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Hashable, Iterable, Iterator
from dataclasses import dataclass, field

from holoptic.curves.space import EllipticArc, Segment
from holoptic.curves.vectors import Vec3, add, cross, distance, dot, subtract, unit
from holoptic.dimensions.dimension import Circle, Cone, Level, Tilt, is_same
from holoptic.solid.pieces import Meeting, Shape, Wall
from holoptic.tolerance import COINCIDENT_MM, GIVEN_MM, PARALLEL, SAME_SHAPE

Key = Hashable
Row = dict[Key, float]

AXES: tuple[Vec3, Vec3, Vec3] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
_ALONG_AXIS = 1 - SAME_SHAPE


@dataclass(frozen=True)
class Leaning:
    """A plane that leans: a point of it, and the directions about which it may turn.

    A plane that holds an axis's direction turns about that alone.
    """

    tilt: Tilt
    place: Vec3
    turns: tuple[Vec3, ...]


@dataclass(frozen=True)
class Needs:
    """The unknowns of a solid: levels, circles, leaning faces and cones; and the rows that hold.

    `odd` says in words which faces no size of these sorts tells; `marks` are levels that need not
    be told, but may be: where a cone meets a cylinder.
    """

    low: Vec3
    high: Vec3
    levels: frozenset[Level]
    circles: tuple[Circle, ...]
    leaning: tuple[Leaning, ...]
    cones: tuple[Cone, ...]
    rows: tuple[Row, ...]
    odd: tuple[str, ...] = ()
    marks: frozenset[Level] = frozenset()
    reach: float = field(default=1.0)

    @property
    def datums(self) -> tuple[Level, Level, Level]:
        """The levels that everything is counted from in the end: where the solid begins."""
        low = self.low
        return Level.of(0, low[0]), Level.of(1, low[1]), Level.of(2, low[2])

    def row_of_corner(self, face: Leaning, place: Vec3) -> Row:
        """Return the row that keeps a place, known by its levels, in a face that leans."""
        row: Row = {Level.of(k, place[k]): face.tilt.normal[k] for k in range(3)}
        row = {key: value for key, value in row.items() if abs(value) > PARALLEL}
        off = subtract(place, face.place)
        for turn in face.turns:
            row[turn_key(face, turn)] = dot(turn, off) / self.reach
        row[off_key(face)] = -1.0
        return row

    def leaning_through(self, places: Iterable[Vec3]) -> Iterator[Leaning]:
        """Yield the leaning faces that hold all of some places."""
        points = list(places)
        for face in self.leaning:
            if all(abs(dot(face.tilt.normal, p) - face.tilt.off) < GIVEN_MM for p in points):
                yield face


def turn_key(face: Leaning, turn: Vec3) -> Key:
    """The unknown turn of a leaning face, which moves its normal along a direction."""
    return "turn", face.tilt, turn


def off_key(face: Leaning) -> Key:
    """The unknown distance of a leaning face."""
    return "off", face.tilt


def axis_of(way: Vec3) -> int | None:
    """Return the axis that a direction lies along, either way, or None."""
    return next((k for k in range(3) if abs(way[k]) > _ALONG_AXIS), None)


def across_of(axis: int) -> tuple[int, int]:
    """Return the two other axes."""
    first, second = (k for k in range(3) if k != axis)
    return first, second


def needs_of(shape: Shape) -> Needs:
    """Return what sizes must tell of a solid. Raises nothing: what is odd is said in words."""
    return _Gathering(shape).needs()


class _Gathering:
    def __init__(self, shape: Shape) -> None:
        self.shape = shape
        self.levels: set[Level] = set()
        self.circles: dict[Circle, None] = {}
        self.leaning: dict[tuple[object, ...], Leaning] = {}
        self.of_wall: dict[int, Leaning] = {}
        self.cones: dict[Cone, None] = {}
        self.rows: list[Row] = []
        self.odd: list[str] = []
        self.marks: set[Level] = set()
        self.reach = max(1.0, distance(shape.low, shape.high))

    def needs(self) -> Needs:
        for number, wall in enumerate(self.shape.walls):
            self._take(number, wall)
        for axis in range(3):
            self.levels |= {
                Level.of(axis, self.shape.low[axis]), Level.of(axis, self.shape.high[axis])
            }  # fmt: skip
        made = Needs(
            self.shape.low, self.shape.high, frozenset(self.levels), tuple(self.circles),
            tuple(dict.fromkeys(self.leaning.values())), tuple(self.cones), (), reach=self.reach,
        )  # fmt: skip
        self._corners(made)
        self._extremes()
        for meeting in self.shape.meetings:
            if len(meeting.walls) == 2:
                self._meet(meeting)
        return Needs(
            made.low, made.high, frozenset(self.levels), tuple(self.circles), made.leaning,
            made.cones, tuple(self.rows), tuple(dict.fromkeys(self.odd)), frozenset(self.marks),
            self.reach,
        )  # fmt: skip

    # --- walls ------------------------------------------------------------------------------

    def _take(self, number: int, wall: Wall) -> None:
        if wall.kind == "plane":
            self._plane(number, wall)
        elif wall.kind == "free":
            self.odd.append("a free face")
        elif wall.kind == "ball":
            self.levels |= {Level.of(k, wall.place[k]) for k in range(3)}
            self.circles[circle_of(wall, 2)] = None
        else:
            axis = axis_of(wall.way)
            if axis is None:
                self.odd.append(f"a {wall.kind} whose axis leans")
                return
            for k in across_of(axis):
                self.levels.add(Level.of(k, wall.place[k]))
            if wall.kind == "ring":
                self.levels.add(Level.of(axis, wall.place[axis]))
                self.circles[section_of(wall, axis)] = None
            if wall.kind == "cone":
                self.cones[cone_of(wall, axis)] = None
            else:
                self.circles[circle_of(wall, axis)] = None

    def _plane(self, number: int, wall: Wall) -> None:
        axis = axis_of(wall.way)
        if axis is not None:
            self.levels.add(Level.of(axis, wall.place[axis]))
            return
        sign = 1.0 if _leads(wall.way) else -1.0
        x, y, z = (sign * v if abs(v) > SAME_SHAPE else 0.0 for v in wall.way)
        normal = unit((x, y, z))
        off = dot(normal, wall.place)
        key = (*(round(value, 5) + 0.0 for value in normal), round(off, 3) + 0.0)
        if key not in self.leaning:
            flat = next((k for k in range(3) if abs(normal[k]) < SAME_SHAPE), None)
            about = AXES[flat] if flat is not None else unit(cross(normal, AXES[2]))
            turns = (unit(cross(normal, about)), *(() if flat is not None else (about,)))
            self.leaning[key] = Leaning(Tilt(normal, off), wall.place, turns)
        self.of_wall[number] = self.leaning[key]

    # --- corners ----------------------------------------------------------------------------

    def _corners(self, needs: Needs) -> None:
        """Tie leaning faces to the levels of their corners, and cones to those of their rims."""
        straight: dict[Vec3, set[int]] = defaultdict(set)
        bent: dict[Vec3, set[int]] = defaultdict(set)
        for meeting in self.shape.meetings:
            ends = straight if isinstance(meeting.curve, Segment) else bent
            for end in (meeting.curve.start, meeting.curve.end):
                ends[_rounded(end)] |= set(meeting.walls)
            self._rim(meeting)
        corners: Counter[Leaning] = Counter()
        for place, walls in straight.items():
            if place not in bent:
                corners.update(self._corner(needs, place, walls))
        for place, walls in bent.items():
            # a face of which round ones left no corner is told by the places where they end
            faces = {self.of_wall[number] for number in walls if number in self.of_wall}
            if any(corners[face] <= len(face.turns) for face in faces):
                corners.update(self._corner(needs, place, walls))

    def _corner(self, needs: Needs, place: Vec3, walls: set[int]) -> set[Leaning]:
        """Tie the leaning faces of a corner to its levels, and return them."""
        faces = {self.of_wall[number] for number in walls if number in self.of_wall}
        if faces:
            self.levels |= {Level.of(axis, place[axis]) for axis in range(3)}
            self.rows += (needs.row_of_corner(face, place) for face in faces)
        return faces

    def _rim(self, meeting: Meeting) -> None:
        """Tie a cone to the radius and the level of a rim, or of its apex."""
        curve = meeting.curve
        for number in meeting.walls:
            wall = self.shape.walls[number]
            axis = axis_of(wall.way)
            if wall.kind != "cone" or axis is None:
                continue
            if isinstance(curve, EllipticArc) and curve.is_circle and axis_of(curve.normal) == axis:
                self._tie_rim(wall, axis, curve.centre[axis], curve.major, meeting)

    def _tie_rim(self, wall: Wall, axis: int, at: float, radius: float, meeting: Meeting) -> None:
        rim, cone = rim_of(wall, axis, at, radius), cone_of(wall, axis)
        self.rows.append({
            rim: 1.0, cone.size: -1.0, Level.of(axis, at): -_growth(wall, axis),
            cone.angle: -at / self.reach,
        })  # fmt: skip
        for other in meeting.walls:
            beside = self.shape.walls[other]
            if beside.kind == "plane" and axis_of(beside.way) == axis:
                self.circles[rim] = None
                for k in across_of(axis):
                    self._reach(k, wall.place[k], radius, (rim,))
            elif beside.kind == "cylinder" and axis_of(beside.way) == axis:
                self.rows.append({rim: 1.0, circle_of(beside, axis): -1.0})
                self.marks.add(Level.of(axis, at))
            elif beside.kind == "cone" and beside is not wall:
                self.circles[rim] = None
                self.levels.add(Level.of(axis, at))

    def _extremes(self) -> None:
        """Add the apexes of cones, and tie the ends of the box where a round face reaches them."""
        for wall in self.shape.walls:
            axis = axis_of(wall.way)
            if wall.kind == "cone" and axis is not None:
                apex = wall.place[axis] - wall.radius / _growth(wall, axis)
                for end in (self.shape.low, self.shape.high):
                    if abs(apex - end[axis]) < GIVEN_MM:
                        cone = cone_of(wall, axis)
                        self.rows.append({
                            cone.size: 1.0, Level.of(axis, apex): _growth(wall, axis),
                            cone.angle: apex / self.reach,
                        })  # fmt: skip
            self._reaching(wall, axis)

    def _reaching(self, wall: Wall, axis: int | None) -> None:
        """Tie an end of the box to the round face that reaches it, where no plane does."""
        if wall.kind not in ("cylinder", "ball", "ring"):
            return
        for k in range(3):
            if wall.kind == "cylinder" and k == axis:
                continue
            circles: tuple[Circle, ...] = (
                circle_of(wall, 2 if wall.kind == "ball" else axis or 0),
            )
            size = wall.radius
            if wall.kind == "ring":
                section = section_of(wall, axis or 0)
                circles = (section,) if k == axis else (*circles, section)
                size = wall.other + (0.0 if k == axis else wall.radius)
            self._reach(k, wall.place[k], size, circles)

    def _reach(self, axis: int, centre: float, size: float, circles: Iterable[Circle]) -> None:
        """Tie an end of the box to something round of a size about a centre that reaches it."""
        for end, sign in ((self.shape.low, -1.0), (self.shape.high, 1.0)):
            if abs(centre + sign * size - end[axis]) < GIVEN_MM:
                row: Row = dict.fromkeys(circles, -sign)
                row[Level.of(axis, end[axis])] = 1.0
                row[Level.of(axis, centre)] = -1.0
                self.rows.append(row)

    # --- smooth joins -----------------------------------------------------------------------

    def _meet(self, meeting: Meeting) -> None:
        """Let faces touch that run smoothly into each other."""
        if not meeting.is_smooth:
            return
        one, other = (self.shape.walls[number] for number in meeting.walls)
        for a, b, number in ((one, other, meeting.walls[1]), (other, one, meeting.walls[0])):
            axis = axis_of(a.way)
            if axis is None or a.kind not in ("cylinder", "ring"):
                continue
            if b.kind == "plane":
                self._touch_plane(a, axis, b, number)
            elif b.kind == "cylinder" and a.kind == "cylinder" and a is one:
                self._touch_round(a, b, axis)

    def _touch_plane(self, a: Wall, axis: int, plane: Wall, number: int) -> None:
        at = axis_of(plane.way)
        circle = circle_of(a, axis) if a.kind == "cylinder" else section_of(a, axis)
        if at is not None and (at == axis) == (a.kind == "ring"):
            level, centre = Level.of(at, plane.place[at]), Level.of(at, a.place[at])
            self.rows.append(
                {level: 1.0, centre: -1.0, circle: -math.copysign(1.0, level.at - centre.at)}
            )
        elif number in self.of_wall and a.kind == "cylinder":
            face = self.of_wall[number]
            side = dot(face.tilt.normal, a.place) - face.tilt.off
            row: Row = {
                Level.of(k, a.place[k]): face.tilt.normal[k] for k in across_of(axis)
            }  # fmt: skip
            foot = add(a.place, face.tilt.normal, -side)
            for turn in face.turns:
                row[turn_key(face, turn)] = dot(turn, subtract(foot, face.place)) / self.reach
            row[off_key(face)] = -1.0
            row[circle] = -math.copysign(1.0, side)
            self.rows.append(row)

    def _touch_round(self, a: Wall, b: Wall, axis: int) -> None:
        if axis_of(b.way) != axis:
            return
        first, second = circle_of(a, axis), circle_of(b, axis)
        apart = [b.place[k] - a.place[k] for k in across_of(axis)]
        far = math.hypot(*apart)
        if far < COINCIDENT_MM or first == second:
            return
        inside = is_same(far, abs(a.radius - b.radius))
        row: Row = {}
        for k, way in zip(across_of(axis), apart, strict=True):
            for place, sign in ((b.place[k], 1.0), (a.place[k], -1.0)):
                level = Level.of(k, place)
                row[level] = row.get(level, 0.0) + sign * way / far
        larger = 1.0 if a.radius > b.radius else -1.0
        row[first] = -larger if inside else -1.0
        row[second] = larger if inside else -1.0
        self.rows.append(row)


def circle_of(wall: Wall, axis: int) -> Circle:
    """Return the circle whose size a cylinder, a ball or a ring needs."""
    return Circle(axis, _across(wall.place, axis), round(wall.radius, 3))


def section_of(wall: Wall, axis: int) -> Circle:
    """Return the circle of a ring's section, told by its level."""
    return Circle(axis, _across(wall.place, axis), round(wall.other, 3), round(wall.place[axis], 3))


def rim_of(wall: Wall, axis: int, at: float, radius: float) -> Circle:
    """Return the circle of a cone's rim at a level."""
    return Circle(axis, _across(wall.place, axis), round(radius, 3), round(at, 3) + 0.0)


def cone_of(wall: Wall, axis: int) -> Cone:
    """Return the cone of a wall, whichever way it grows."""
    apex = wall.place[axis] - wall.radius / _growth(wall, axis)
    growth = round(abs(_growth(wall, axis)), 5)
    return Cone(axis, _across(wall.place, axis), round(apex, 3) + 0.0, growth)


def _growth(wall: Wall, axis: int) -> float:
    """Return how much the radius of a cone grows along an axis, mm per mm."""
    return math.tan(wall.other) * math.copysign(1.0, wall.way[axis])


def _across(place: Vec3, axis: int) -> tuple[float, float]:
    first, second = across_of(axis)
    return round(place[first], 3) + 0.0, round(place[second], 3) + 0.0


def _rounded(place: Vec3) -> Vec3:
    x, y, z = (round(value, 6) + 0.0 for value in place)
    return x, y, z


def _leads(way: Vec3) -> bool:
    """Whether the first figure of a direction that is not nothing is positive."""
    return next(value for value in way if abs(value) > SAME_SHAPE) > 0
