"""What a solid tells the other rooms, as plain data without the kernel."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, NamedTuple

from holoptic.curves.space import Curve, Segment, moved
from holoptic.curves.vectors import Vec3, add, dot, middle
from holoptic.part.whole import Turning
from holoptic.tolerance import PARALLEL


@dataclass(frozen=True)
class Edge:
    """An edge of a solid: its exact curve and the operation that made it (None: the crate).

    `body` is the number of its body among those that are looked at together, from 0.
    """

    index: int
    curve: Curve
    operation: int | None
    body: int = 0


Ring = tuple[Vec3, ...]
"""The corners of a closed outline, mm; the last one is not the first again."""

Span = tuple[float, float]
"""From, to: parameters of a curve."""


@dataclass(frozen=True)
class RoundFeature:
    """A hole, a boss, a cone, a ball or a ring: the ends of its axis and its radii there, mm.

    Where the rim at an end lies in a plane face, `start_face` and `end_face` are that face's
    outward normals. `body` is the number of its body.
    """

    start: Vec3
    end: Vec3
    start_radius: float
    end_radius: float
    start_face: Vec3 | None = None
    end_face: Vec3 | None = None
    body: int = 0

    @property
    def middle(self) -> Vec3:
        """The middle of its axis."""
        return middle(self.start, self.end)


class Piece(NamedTuple):
    """A piece of an edge or of an outline that is visible, or hidden, from one direction.

    `edge` is the index of the edge, or None for an outline of a curved face; `operation` is
    the index of the operation that made it (None: the crate), `body` the number of its body.
    There are thousands of pieces in a large solid, and a named tuple is made several times as fast
    as a dataclass.
    """

    edge: int | None
    operation: int | None
    curve: Curve
    visible: bool
    body: int = 0


class CutFace(NamedTuple):
    """A face where a solid is cut open: its body's number, its true area (mm²), a point of it and
    its outward normal.

    `rings` are its closed outlines (mm), the outer one first; `seen` what of it is in sight from
    one direction, each piece with its rings. `plain` are areas that are left without hatching,
    `borders` the lines between them and what is hatched, each with the operation of the plain one.
    """

    body: int
    area: float
    place: Vec3
    normal: Vec3
    rings: tuple[Ring, ...]
    seen: tuple[tuple[Ring, ...], ...] = ()
    plain: tuple[tuple[Ring, ...], ...] = ()
    borders: tuple[tuple[Segment, int], ...] = ()

    def set_off(self, by: Vec3, body: int) -> CutFace:
        """Return it set off by a vector (mm), as a face of a body of that number."""
        rings, *plain = (
            tuple(tuple(add(point, by) for point in ring) for ring in area)
            for area in (self.rings, *self.plain)
        )
        borders = tuple(
            (Segment(add(line.start, by), add(line.end, by)), operation)
            for line, operation in self.borders
        )
        return self._replace(body=body, place=add(self.place, by), rings=rings,
                             plain=tuple(plain), borders=borders)  # fmt: skip


class AxisLine(NamedTuple):
    """A stretch of an axis that bodies share; `body` is the number of the one where it begins."""

    line: Segment
    body: int


@dataclass(frozen=True)
class Look:
    """A solid seen along one direction (toward the viewer).

    `thick` holds by edge the parts of it along which only one of its two faces is seen;
    `smooth` are the places where faces run into each other, with whether they are in sight;
    `rounds` are the solid's round features, which are given centre lines; `edge_on` names the
    edges of faces that are seen edge-on; `axis_lines` are the stretches in sight of the axes that
    bodies share, `covered` the middles of rims and round features that another body hides,
    `cut_faces` the faces where it is cut open that are turned to the viewer.
    """

    toward_viewer: Vec3
    pieces: tuple[Piece, ...]
    thick: dict[int, tuple[Curve, ...]] = field(default_factory=dict)
    rounds: tuple[RoundFeature, ...] = ()
    edge_on: frozenset[int] = frozenset()
    smooth: tuple[tuple[Curve, bool], ...] = ()
    axis_lines: tuple[AxisLine, ...] = ()
    covered: frozenset[Vec3] = frozenset()
    cut_faces: tuple[CutFace, ...] = ()


@dataclass(frozen=True)
class SolidFacts:
    """What stays the same from wherever a solid is seen.

    `low` and `high` are the corners of its bounding box in mm; `only_planes` says that every
    face is plane, `volume` is in mm³, `bodies` how many bodies there are, `boxes` where those of a
    whole lie.
    """

    edges: tuple[Edge, ...]
    low: Vec3
    high: Vec3
    volume: float
    only_planes: bool
    rounds: tuple[RoundFeature, ...] = ()
    bodies: int = 1
    boxes: tuple[tuple[Vec3, Vec3], ...] = ()


@dataclass(frozen=True)
class FoundSolid:
    """Where a solid of a file stands, as it was found there.

    It is solid `index` of the file, equal to the one with index `like`, which is turned and then
    set off by `at` (mm) to lie on it. `nested` are the products it belongs to, the outermost first;
    `colour` is `#rrggbb` or empty.
    """

    index: int
    like: int
    name: str
    nested: tuple[str, ...]
    turning: Turning
    at: Vec3
    colour: str


@dataclass(frozen=True)
class Overlap:
    """Two bodies of a whole, by their numbers, that share a volume (mm³) about a place (mm)."""

    first: int
    second: int
    volume: float
    place: Vec3


@dataclass(frozen=True)
class AxisRelations:
    """Which bodies of a whole lie in each other's way along one axis.

    `held` has (k, j) where body j keeps body k from moving along the axis, and so k keeps j from
    moving back. `spans` is from where to where each body reaches along the axis, mm.
    """

    axis: Vec3
    held: frozenset[tuple[int, int]]
    spans: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Relations:
    """How the bodies of a whole stand to each other.

    `touching` are pairs that touch, the lower number first; `volumes` are the bodies' in mm³.
    """

    axes: tuple[AxisRelations, ...]
    overlaps: tuple[Overlap, ...]
    touching: frozenset[tuple[int, int]]
    volumes: tuple[float, ...]

    def along(self, axis: Vec3) -> tuple[tuple[float, float], ...]:
        """Return from where to where each body reaches along one of the axes, or back along it.

        Raises KeyError for an axis that was not asked for.
        """
        for relation in self.axes:
            share = dot(relation.axis, axis)
            if share > 1 - PARALLEL:
                return relation.spans
            if share < PARALLEL - 1:
                return tuple((-high, -low) for low, high in relation.spans)
        raise KeyError(axis)


@dataclass(frozen=True)
class Seen:
    """The answer to one question: the facts, and a look per direction asked for."""

    facts: SolidFacts
    looks: tuple[Look, ...]

    def look(self, toward_viewer: Vec3) -> Look:
        """Return the look along a direction. Raises KeyError if it was not asked for."""
        for look in self.looks:
            if look.toward_viewer == toward_viewer:
                return look
        raise KeyError(toward_viewer)


WallKind = Literal["plane", "cylinder", "cone", "ball", "ring", "free"]


class Wall(NamedTuple):
    """A face of a solid as its surface alone: what of it sizes must tell.

    `place` is a point of it, of a round one on its axis; `way` the direction of its normal or axis.
    `radius` is that of a cylinder, a ball or a ring, of a cone that about `place`; `other` is the
    half angle of a cone in radians, counted so that the radius grows along `way`, or the radius of
    a ring's section.
    """

    kind: WallKind
    place: Vec3
    way: Vec3
    radius: float = 0.0
    other: float = 0.0


class Meeting(NamedTuple):
    """An edge where faces of a solid meet: the numbers of its walls and its curve.

    `is_smooth` says that they run into each other there.
    """

    walls: tuple[int, ...]
    curve: Curve
    is_smooth: bool


@dataclass(frozen=True)
class Shape:
    """The faces of a solid and how they meet: what its sizes are checked against.

    `low` and `high` are the corners of its bounding box, mm.
    """

    walls: tuple[Wall, ...]
    meetings: tuple[Meeting, ...]
    low: Vec3
    high: Vec3

    def set_off(self, by: Vec3) -> Shape:
        """Return the faces as they are where the solid is set off by a vector, mm."""
        walls = tuple(wall._replace(place=add(wall.place, by)) for wall in self.walls)
        meetings = tuple(one._replace(curve=moved(one.curve, by)) for one in self.meetings)
        return Shape(walls, meetings, add(self.low, by), add(self.high, by))

    def with_others(self, others: Sequence[Shape]) -> Shape:
        """Return the faces of this solid and others as one; walls are numbered solid by solid."""
        walls, meetings = [*self.walls], [*self.meetings]
        for other in others:
            first = len(walls)
            walls += other.walls
            meetings += (
                one._replace(walls=tuple(first + number for number in one.walls))
                for one in other.meetings
            )
        lows, highs = zip(*((one.low, one.high) for one in (self, *others)), strict=True)
        return Shape(tuple(walls), tuple(meetings), tuple(map(min, zip(*lows, strict=True))),
                     tuple(map(max, zip(*highs, strict=True))))  # fmt: skip
