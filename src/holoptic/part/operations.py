"""What can be done to a crate: prisms, rounds, polygons, pyramids, balls, rings, strips; cut away
or added.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.part.crate import Crate, Face
from holoptic.tolerance import ROUNDING
from holoptic.units import Length, Unit

Mode = Literal["cut", "add"]
Measure = Literal["side", "across flats", "across corners"]
BallPart = Literal["whole", "outer half", "inner half"]
Ends = Literal["square", "level", "pointed"]
_FORBID: dict[str, str] = {"extra": "forbid"}


@dataclass(frozen=True)
class Arc:
    """Makes the side of an outline that begins at a corner an arc of a circle.

    It is given by its radius, by its `bulge` (how far it stands off its chord), or by neither: then
    it goes on smoothly from the side before. `way`: whether one turns left or right along it (a
    smooth one finds it itself); `large`: the longer of the two arcs of a radius.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    radius: Length | None
    way: Literal["left", "right"]
    large: bool = False
    bulge: Length | None = None

    @property
    def is_smooth(self) -> bool:
        """Whether the arc is tangent to the side before it."""
        return self.radius is None and self.bulge is None


@dataclass(frozen=True)
class Corner:
    """A corner of an outline on a face: distances from the face's near edges."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    u: Length
    v: Length
    arc: Arc | None = None

    @property
    def mm(self) -> tuple[float, float]:
        """(u, v) in mm."""
        return self.u.mm, self.v.mm


@dataclass(frozen=True)
class Slope:
    """A corner found from the one before it, along a sloped side.

    Given are the true angle (degrees, from the face's level direction to the left) and one of
    length, run (along u) and rise (along v); or run and rise without an angle.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    angle: float | None = None
    length: Length | None = None
    run: Length | None = None
    rise: Length | None = None
    arc: Arc | None = None

    def step_mm(self) -> tuple[float, float]:
        """Return (run, rise) in mm. Raises ValueError with the reason where there are none."""
        given = [name for name in ("length", "run", "rise") if getattr(self, name) is not None]
        if self.angle is None:
            if self.run is None or self.rise is None or self.length is not None:
                raise ValueError(tr("a slope without an angle needs its run and its rise"))
            return self.run.mm, self.rise.mm
        if len(given) != 1:
            raise ValueError(tr("a slope with an angle needs one of length, run and rise"))
        cosine, sine = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        if self.length is not None:
            return self.length.mm * cosine, self.length.mm * sine
        if self.run is not None:
            if abs(cosine) < ROUNDING:
                raise ValueError(
                    tr(
                        "a slope of {angle:g}° has no run: give its length or rise",
                        angle=self.angle,
                    )
                )
            size = self.run.mm / cosine
        else:
            assert self.rise is not None
            if abs(sine) < ROUNDING:
                raise ValueError(
                    tr(
                        "a slope of {angle:g}° has no rise: give its length or run",
                        angle=self.angle,
                    )
                )
            size = self.rise.mm / sine
        if size <= 0:
            raise ValueError(
                tr("a slope of {angle:g}° runs the other way: change a sign", angle=self.angle)
            )
        return size * cosine, size * sine


OutlinePoint = Corner | Slope


@dataclass(frozen=True)
class Offset:
    """A distance from one of two opposite crate edges, or from the centre line between them.

    `far` says from which edge, `centred` from the centre line, toward the far edge.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    distance: Length
    far: bool = False
    centred: bool = False

    def from_near(self, size: float) -> float:
        """Return the distance from the near edge in mm, on a face that is `size` wide."""
        if self.centred:
            return size / 2 + self.distance.mm
        return size - self.distance.mm if self.far else self.distance.mm


NEAR_EDGE, FAR_EDGE, CENTRE_LINE = range(3)
"""What an offset may be counted from."""


def reference_of(offset: Offset) -> int:
    """Return what an offset is counted from."""
    return CENTRE_LINE if offset.centred else FAR_EDGE if offset.far else NEAR_EDGE


def referred(offset: Offset, reference: int, size: float, unit: Unit) -> Offset:
    """Return an offset counted from something else on a face that is `size` mm wide.

    The place stays; where the reference does too, so do its words.
    """
    if reference == reference_of(offset):
        return offset
    place = offset.from_near(size)
    distance = (place, size - place, place - size / 2)[reference]
    return Offset(Length.of(distance, unit), reference == FAR_EDGE, reference == CENTRE_LINE)


FaceAxis = Literal["u", "v", "w"]


@dataclass(frozen=True)
class InLine:
    """Repeats an operation along an axis of its face (u, v) or inward (w): `count` in all."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    axis: FaceAxis
    step: Length
    count: int
    type: Literal["in line"] = "in line"


@dataclass(frozen=True)
class AboutCentre:
    """Repeats an operation about a point of its face: `count` in all, spread over `angle` degrees.

    A full turn is divided evenly; of less the last one stands at its end.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    u: Offset
    v: Offset
    count: int
    angle: float = 360.0
    type: Literal["about a centre"] = "about a centre"


@dataclass(frozen=True)
class Mirrored:
    """Sets an operation opposite too, across the middle of the crate along an axis of its face."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    axis: FaceAxis
    type: Literal["mirrored"] = "mirrored"


Copies = InLine | AboutCentre | Mirrored
"""Every operation can have copies of itself (`copies`), and be left out of the part (`off`).

`start` and `end` are counted inward from its face; with a `base` they are heights above that place
instead, toward the face: a boss of 9 on a plate stands from 0 to 9 above the plate's top. `base` is
the place along the face's normal axis, from the crate's left, front or bottom.
"""


@dataclass(frozen=True)
class Prism:
    """An outline of straight sides and arcs on a face, carried inward from `start` to `end`.

    `end` None means through. The outline is closed and does not repeat its first corner.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    outline: tuple[OutlinePoint, ...]
    start: Length
    end: Length | None
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["prism"] = "prism"

    def outline_mm(self) -> list[tuple[float, float]]:
        """Corners in mm. Raises ValueError for a slope that leads nowhere."""
        return corner_places(self.outline)


@dataclass(frozen=True)
class Strip:
    """A path of constant width, mitred at its corners: frames, fretwork, sloping members.

    A closed one runs from its last corner back to its first. `starts` are the numbers of the
    corners at which a further path begins; paths that end at one point join there, and one that
    ends on another is its branch. `ends` says how free ends are cut: square to the bar, level with
    the crate's edge, or to a point.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    outline: tuple[OutlinePoint, ...]
    width: Length
    start: Length
    end: Length | None
    closed: bool = False
    starts: tuple[int, ...] = ()
    ends: Ends = "square"
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["strip"] = "strip"

    def outline_mm(self) -> list[tuple[float, float]]:
        """Corners of the path in mm. Raises ValueError for a slope that leads nowhere."""
        return corner_places(self.outline)


class Centred:
    """What operations with a centre on their face share."""

    face: Face
    u: Offset
    v: Offset

    def centre_mm(self, crate: Crate) -> tuple[float, float]:
        """Centre on the face in mm."""
        width, height = crate.face_size(self.face)
        return self.u.from_near(width), self.v.from_near(height)


@dataclass(frozen=True)
class Round(Centred):
    """A round hole (cut) or boss (add) on a face, from `start` to `end` inward; None is through.

    With `end_diameter` it is a frustum; an end diameter of 0 makes a cone.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    diameter: Length
    u: Offset
    v: Offset
    start: Length
    end: Length | None
    end_diameter: Length | None = None
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["round"] = "round"

    def radius_at(self, share: float) -> float:
        """Return the radius in mm at a share (0 to 1) of the way from start to end."""
        first = self.diameter.mm / 2
        last = first if self.end_diameter is None else self.end_diameter.mm / 2
        return first + share * (last - first)


@dataclass(frozen=True)
class Polygon(Centred):
    """A regular polygon on a face, from `start` to `end` inward.

    `size` is its side, or the diameter of the circle inside it (across flats) or about it
    (across corners). Unturned it stands on a flat side; `turn` is in degrees to the left. With
    `end_size` it tapers; 0 makes a pyramid.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    sides: int
    size: Length
    measure: Measure
    u: Offset
    v: Offset
    start: Length
    end: Length | None
    turn: float = 0.0
    end_size: Length | None = None
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["polygon"] = "polygon"

    def radius(self, size: float) -> float:
        """Return the radius of the circle about it in mm, for a size in mm."""
        half_turn = math.pi / max(self.sides, 3)
        if self.measure == "side":
            return size / (2 * math.sin(half_turn))
        return size / 2 / (math.cos(half_turn) if self.measure == "across flats" else 1.0)

    def corners_mm(self, crate: Crate, share: float = 0.0) -> list[tuple[float, float]]:
        """Corners on the face in mm at a share (0 to 1) of the way from start to end."""
        first = self.size.mm
        last = first if self.end_size is None else self.end_size.mm
        radius = self.radius(first + share * (last - first))
        u, v = self.centre_mm(crate)
        begin = math.radians(self.turn - 90) + math.pi / self.sides
        angles = (begin + math.tau * k / self.sides for k in range(self.sides))
        return [(u + radius * math.cos(a), v + radius * math.sin(a)) for a in angles]


@dataclass(frozen=True)
class Pyramid(Centred):
    """A rectangular pyramid or frustum on a face: its base at `start`, its top at `end`.

    `width` and `height` lie along the face's u and v; the top's may be 0, for an apex or a ridge.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    width: Length
    height: Length
    u: Offset
    v: Offset
    start: Length
    end: Length | None
    end_width: Length
    end_height: Length
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["pyramid"] = "pyramid"

    def corners_mm(self, crate: Crate, share: float = 0.0) -> list[tuple[float, float]]:
        """Corners on the face in mm at a share (0 to 1) of the way from start to end."""
        u, v = self.centre_mm(crate)
        a = (self.width.mm + share * (self.end_width.mm - self.width.mm)) / 2
        b = (self.height.mm + share * (self.end_height.mm - self.height.mm)) / 2
        return [(u - a, v - b), (u + a, v - b), (u + a, v + b), (u - a, v + b)]


@dataclass(frozen=True)
class Ball(Centred):
    """A ball, or half of one, with its centre at `start` inward from the face."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    diameter: Length
    u: Offset
    v: Offset
    start: Length
    part: BallPart = "whole"
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["ball"] = "ball"

    end: ClassVar[Length | None] = None


@dataclass(frozen=True)
class Ring(Centred):
    """A ring of round section about the face's normal, its middle at `start` inward.

    `diameter` is that of the circle its section runs along, `thickness` that of the section.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    diameter: Length
    thickness: Length
    u: Offset
    v: Offset
    start: Length
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["ring"] = "ring"

    end: ClassVar[Length | None] = None


Seat = Literal["plain", "counterbored", "countersunk"]


@dataclass(frozen=True)
class Hole(Centred):
    """A hole with or without a seat for a screw's head, from `start` to `end` inward.

    A counterbore has `seat_diameter` and `seat_depth`; a countersink `seat_diameter` at its mouth
    and `seat_angle`, the whole angle of its cone in degrees.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Literal["cut"]
    face: Face
    diameter: Length
    u: Offset
    v: Offset
    start: Length
    end: Length | None
    seat: Seat = "plain"
    seat_diameter: Length | None = None
    seat_depth: Length | None = None
    seat_angle: float = 90.0
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["hole"] = "hole"


@dataclass(frozen=True)
class Slot(Centred):
    """A slot with round ends, `length` over all; `turn` is in degrees to the left from level."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Mode
    face: Face
    length: Length
    width: Length
    u: Offset
    v: Offset
    start: Length
    end: Length | None
    turn: float = 0.0
    copies: Copies | None = None
    off: bool = False
    base: Length | None = None
    type: Literal["slot"] = "slot"


@dataclass(frozen=True)
class Bevel:
    """A sloped cut along the crate edge between two faces, from `start` to `end` along it.

    `offset` is set off on the face from the edge; then either `across` on the face `beside`, or
    the true `angle` to the face in degrees.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Literal["cut"]
    face: Face
    beside: Face
    offset: Length
    across: Length | None
    start: Length
    end: Length | None
    angle: float | None = None
    copies: Copies | None = None
    off: bool = False
    type: Literal["bevel"] = "bevel"

    base: ClassVar[Length | None] = None

    def across_mm(self) -> float:
        """Return the offset on the face beside, mm. Raises ValueError where it has none."""
        if self.across is not None:
            return self.across.mm
        if self.angle is None or not 0 < self.angle < 90:
            raise ValueError(
                tr("needs an offset on the face beside, or an angle between 0 and 90°")
            )
        return self.offset.mm * math.tan(math.radians(self.angle))


@dataclass(frozen=True)
class CornerCut:
    """A skew cut that takes a corner of the crate off, by its offsets along the three edges."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    name: str
    mode: Literal["cut"]
    right: bool
    rear: bool
    top: bool
    along_length: Length
    along_depth: Length
    along_height: Length
    copies: Copies | None = None
    off: bool = False
    type: Literal["corner"] = "corner"

    start: ClassVar[Length] = Length("0", 0.0)
    end: ClassVar[Length | None] = None
    base: ClassVar[Length | None] = None

    @property
    def face(self) -> Face:
        """The level face that the corner belongs to."""
        return Face.TOP if self.top else Face.BOTTOM

    @property
    def sides(self) -> tuple[tuple[bool, Length], ...]:
        """Along length, depth and height: whether the corner is at the far end, and the offset."""
        return (
            (self.right, self.along_length), (self.rear, self.along_depth),
            (self.top, self.along_height),
        )  # fmt: skip

    def corners_mm(self, crate: Crate) -> list[Vec3]:
        """Return the corner, then the end of each offset along length, depth and height, mm."""
        corner = [
            size if far else 0.0 for size, (far, _) in zip(crate.sizes, self.sides, strict=True)
        ]
        places = [corner]
        for axis, (far, length) in enumerate(self.sides):
            place = list(corner)
            place[axis] += -length.mm if far else length.mm
            places.append(place)
        return [(x, y, z) for x, y, z in places]


Basic = Prism | Round | Polygon | Pyramid | Ball | Ring | Strip | CornerCut
"""What a solid is made of; every operation comes down to some of these."""

Operation = Basic | Hole | Slot | Bevel


def corner_places(outline: tuple[OutlinePoint, ...]) -> list[tuple[float, float]]:
    """Return the corners of an outline in mm, slopes counted from the corner before.

    Raises ValueError for a slope that leads nowhere, or stands first.
    """
    places: list[tuple[float, float]] = []
    for point in outline:
        if isinstance(point, Corner):
            places.append(point.mm)
            continue
        if not places:
            raise ValueError(tr("a slope needs a corner before it"))
        run, rise = point.step_mm()
        places.append((places[-1][0] + run, places[-1][1] + rise))
    return places


def extent_mm(operation: Basic, crate: Crate) -> tuple[float, float]:
    """Return the depths (from, to) in mm that an operation covers, inward from its face."""
    if isinstance(operation, Ball):
        radius, middle = operation.diameter.mm / 2, operation.start.mm
        low = middle if operation.part == "inner half" else middle - radius
        return low, middle if operation.part == "outer half" else middle + radius
    if isinstance(operation, CornerCut):
        return 0.0, operation.along_height.mm
    if isinstance(operation, Ring):
        half = operation.thickness.mm / 2
        return operation.start.mm - half, operation.start.mm + half
    end = crate.thickness(operation.face) if operation.end is None else operation.end.mm
    return operation.start.mm, end


def reach_mm(operation: Round | Ball | Ring) -> float:
    """Return how far an operation reaches from its axis, mm."""
    if isinstance(operation, Ring):
        return (operation.diameter.mm + operation.thickness.mm) / 2
    if isinstance(operation, Ball):
        return operation.diameter.mm / 2
    return max(operation.radius_at(0.0), operation.radius_at(1.0))


def outline_of(operation: Operation) -> tuple[tuple[OutlinePoint, ...], tuple[int, ...]]:
    """Return the outline of an operation, and where further paths of it begin."""
    if isinstance(operation, Strip):
        return operation.outline, operation.starts
    return (operation.outline, ()) if isinstance(operation, Prism) else ((), ())


def with_outline(
    operation: Operation, outline: tuple[OutlinePoint, ...], starts: tuple[int, ...]
) -> Operation:
    """Return an operation with another outline. Raises TypeError for one that has none."""
    if isinstance(operation, Strip):
        return replace(operation, outline=outline, starts=starts)
    if isinstance(operation, Prism):
        return replace(operation, outline=outline)
    raise TypeError(f"a {operation.type} has no outline")
