"""Where something is cut open: what is asked in words, and the room that is taken away.

    full:depth=22.5                   a plane of the crate; the half toward the viewer goes
    through:bore,pin                  the plane through these centres, or a stepping one
    half:through=bore,corner=front-left   a quarter is taken out
    offset:bore,pin,slot              stepping from centre to centre
    broken:face=top,deep=12,outline=10 8/42 8/42 30
    broken:window                     what a cut feature would take away; it may be off
    plane:0 0 14/30 0 14/0 20 25      through three points
    plane:face=top,in=9,turn=30,about=length

Depth counts from the front, length from the left, height from the bottom; places are sums that may
use the part's names. What `;plain=rib,pin` names is left without hatching; of an arrangement
`;only=flange` cuts that part alone.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal, get_args

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, add, cross, dot, subtract, unit
from holoptic.errors import BadInput
from holoptic.part.crate import AXIS_LETTERS, Crate, Face
from holoptic.part.expand import basics
from holoptic.part.grips import grips
from holoptic.part.naming import spoken
from holoptic.part.operations import Basic
from holoptic.part.part import Part
from holoptic.part.whole import Source, Whole, rotation, turned
from holoptic.tolerance import COINCIDENT_MM, GIVEN_MM
from holoptic.units.expression import evaluate

CutSort = Literal["full", "half", "offset", "broken", "plane", "through"]
AXES = ("length", "depth", "height")
_FACES = {face.value: face for face in Face}
_LONGEST = 1000
_BEYOND = 2.0
"""How far beyond what is cut the room reaches, in diagonals of its box."""
_SIDES = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "rear": (1, 1),
          "below": (2, -1), "above": (2, 1)}  # fmt: skip
_USUAL = (1, -1, 1)
"""Which side goes where the viewer looks along the plane: right, front, top."""


@dataclass(frozen=True)
class Cutter:
    """The room that is taken away: a plane outline (mm) carried along a vector.

    `plain` names features and parts that are left without hatching, `only` the parts that are cut,
    where not all are. A `feature` is that room itself, exactly, with the crate that it counts in.
    """

    outline: tuple[Vec3, ...]
    way: Vec3
    plain: tuple[str, ...] = ()
    only: tuple[str, ...] = ()
    feature: tuple[Basic, Crate] | None = None

    @property
    def outward(self) -> Vec3:
        """The direction in which what is broken out leaves the part."""
        if self.feature is None:
            return self.way
        face = self.feature[0].face
        return _along(face.normal_axis, 1.0 if face.is_far else -1.0)

    def set_off(self, by: Vec3) -> Cutter:
        """Return the room set off by a vector, mm."""
        return replace(self, outline=tuple(add(point, by) for point in self.outline))


@dataclass(frozen=True)
class CutWords:
    """A cut as it is written: its sort, what is said by name, and the rest in its order."""

    sort: CutSort
    said: Mapping[str, str]
    listed: tuple[str, ...]
    plain: tuple[str, ...]
    only: tuple[str, ...] = ()


def read_cut(words: str) -> CutWords:
    """Return what a cut says. Raises BadInput for what is none."""
    if len(words) > _LONGEST:
        raise BadInput(tr("these words are too long for a cut"))
    asked, *more = (piece.strip() for piece in words.split(";"))
    sort, _, rest = asked.partition(":")
    sort = sort.strip().lower()
    if sort not in get_args(CutSort):
        raise BadInput(
            tr("“{words}” is no cut: begin with {sorts}", words=words,
               sorts=", ".join(f"{name}:" for name in get_args(CutSort)))
        )  # fmt: skip
    aside: dict[str, tuple[str, ...]] = {}
    for piece in more:
        key, _, names = piece.partition("=")
        if key.strip() not in ("plain", "only"):
            raise BadInput(
                tr("“{piece}” is not known: write plain=NAME,NAME or only=NAME", piece=piece)
            )
        aside[key.strip()] = _list(names)
    said, listed = {}, []
    for piece in _list(rest):
        key, equals, value = piece.partition("=")
        if equals:
            said[key.strip().lower()] = value.strip()
        else:
            listed.append(piece)
    found: CutSort = next(name for name in get_args(CutSort) if name == sort)
    return CutWords(found, said, tuple(listed), aside.get("plain", ()), aside.get("only", ()))


def _list(words: str) -> tuple[str, ...]:
    return tuple(piece.strip() for piece in words.split(",") if piece.strip())


@dataclass(frozen=True)
class Centre:
    """The middle of a feature, and the axis along which it runs; None where it has no axis."""

    place: Vec3
    axis: int | None


@dataclass(frozen=True)
class Stock:
    """What is cut: its box (mm), and the direction from which it is seen."""

    source: Source
    low: Vec3
    high: Vec3
    toward: Vec3

    @property
    def middle(self) -> Vec3:
        """The middle of its box."""
        x, y, z = ((a + b) / 2 for a, b in zip(self.low, self.high, strict=True))
        return x, y, z

    @property
    def beyond(self) -> float:
        """A length that leads out of it from anywhere, mm."""
        return _BEYOND * max(math.dist(self.low, self.high), 1.0)

    def sign(self, axis: int) -> int:
        """Return which side of a plane square to an axis is toward the viewer."""
        share = self.toward[axis]
        return _USUAL[axis] if abs(share) < COINCIDENT_MM else (1 if share > 0 else -1)

    def place(self, words: str, axis: int) -> float:
        """Return a place along an axis, mm from where the crate begins. Raises BadInput."""
        source = self.source
        sizes = dict(zip(AXIS_LETTERS, map(float, subtract(self.high, self.low)), strict=True))
        names = sizes | (source.scope() if isinstance(source, Part) else {})
        try:
            at = evaluate(words, names=names)
        except ValueError as error:
            raise BadInput(
                tr("{axis}={words}: {error}", axis=AXES[axis], words=words, error=error)
            ) from error
        begins = 0.0 if isinstance(source, Part) else self.low[axis]
        at += begins
        if not self.low[axis] - GIVEN_MM < at < self.high[axis] + GIVEN_MM:
            raise BadInput(
                tr("the plane at {axis} {at:g} misses it: from {low:g} to {high:g}",
                   axis=AXES[axis], at=at - begins, low=self.low[axis] - begins,
                   high=self.high[axis] - begins)
            )  # fmt: skip
        return at

    def centre(self, name: str) -> Centre:
        """Return the middle of a feature, or of a part, by its name. Raises BadInput."""
        known: list[str] = []
        for said, centre in centres_of(self.source):
            if name in (said, said.replace("_", " ")) or spoken(name) == said:
                return centre
            known.append(said)
        raise BadInput(
            tr("nothing with a centre is called “{name}” (known: {known})", name=name,
               known=", ".join(known[:8]) or tr("nothing"))
        )  # fmt: skip


def centres_of(source: Source) -> Iterator[tuple[str, Centre]]:
    """Yield what a cut may lead through: the names of features that have an axis, with their
    middles; of parts of a whole as they stand together, each also with the part's name before it.
    """
    if isinstance(source, Whole):
        for body in source.bodies:
            for name, centre in centres_of(body.source):
                way = None
                if centre.axis is not None:
                    way = _axis_of(turned(body.turning, _along(centre.axis, 1.0)))
                place = subtract(body.place(centre.place), body.moved)
                yield name, Centre(place, way)
                yield f"{spoken(body.name)}.{name}", Centre(place, way)
    elif isinstance(source, Part):
        for name, grip in grips(source):
            if grip.sort == "axis":
                yield name, Centre(grip.place, _axis_of(grip.way))


def _axis_of(way: Vec3) -> int | None:
    for axis in range(3):
        if abs(way[axis]) > 1 - COINCIDENT_MM:
            return axis
    return None


def cutter_of(words: str, stock: Stock) -> Cutter:
    """Return the room that a cut takes away. Raises BadInput where it says nothing that can be."""
    asked = read_cut(words)
    made = {
        "full": _full, "through": _through, "half": _half, "offset": _stepping,
        "broken": _broken, "plane": _plane,
    }[asked.sort](asked, stock)  # fmt: skip
    return replace(made, plain=asked.plain, only=asked.only)


# --- planes of the crate ------------------------------------------------------------------------


def _full(asked: CutWords, stock: Stock) -> Cutter:
    axes = [*asked.said, *asked.listed] or ["depth"]
    if len(axes) != 1 or axes[0] not in AXES:
        raise BadInput(tr("a full cut names one of length=, depth=, height="))
    axis = AXES.index(axes[0])
    at = stock.middle[axis]
    if asked.said:
        at = stock.place(asked.said[axes[0]], axis)
    return _box(stock, {axis: (at, stock.sign(axis))})


def _box(stock: Stock, planes: Mapping[int, tuple[float, int]]) -> Cutter:
    """Return what lies beyond planes square to axes, each with its place and the side that goes."""
    low, high = [*stock.low], [*stock.high]
    for axis in range(3):
        low[axis] -= stock.beyond
        high[axis] += stock.beyond
        if axis in planes:
            at, sign = planes[axis]
            (low if sign > 0 else high)[axis] = at
    (a, b, c), (d, e, f) = low, high
    return Cutter(((a, b, c), (d, b, c), (d, e, c), (a, e, c)), (0.0, 0.0, f - c))


def _through(asked: CutWords, stock: Stock) -> Cutter:
    """Return the plane through centres that the crate has; a stepping one where there is none."""
    names = (*asked.listed, *asked.said.values())
    if not names:
        raise BadInput(tr("through: names at least one feature, such as through:bore"))
    centres = [stock.centre(name) for name in names]
    for axis in (1, 0, 2):
        places = [centre.place[axis] for centre in centres]
        is_across = all(centre.axis != axis for centre in centres)
        if is_across and max(places) - min(places) < GIVEN_MM:
            return _box(stock, {axis: (places[0], stock.sign(axis))})
    return _steps(centres, stock, None)


def _half(asked: CutWords, stock: Stock) -> Cutter:
    """Return a quarter of the crate: the near one, or that at a named corner."""
    unknown = set(asked.said) - {"through", "corner", *AXES}
    if unknown or asked.listed:
        raise BadInput(
            tr("a half cut may say through=NAME, length=, depth=, height= and corner=, not {what}",
               what=", ".join([*sorted(unknown), *asked.listed]))
        )  # fmt: skip
    middle, upright = [*stock.middle], 2
    if "through" in asked.said:
        centre = stock.centre(asked.said["through"])
        middle, upright = [*centre.place], 2 if centre.axis is None else centre.axis
    given = [axis for axis in range(3) if AXES[axis] in asked.said]
    if len(given) > 2:
        raise BadInput(tr("a half cut has two planes, not three"))
    if len(given) == 2:
        upright = next(axis for axis in range(3) if axis not in given)
    for axis in given:
        middle[axis] = stock.place(asked.said[AXES[axis]], axis)
    signs = _signs(asked.said.get("corner", ""), stock)
    axes = [axis for axis in range(3) if axis != upright]
    return _box(stock, {axis: (middle[axis], signs[axis]) for axis in axes})


def _signs(corner: str, stock: Stock) -> list[int]:
    signs = [stock.sign(axis) for axis in range(3)]
    for word in filter(None, corner.split("-")):
        if word not in _SIDES:
            raise BadInput(tr("corner={corner}: write it like front-left", corner=corner))
        axis, sign = _SIDES[word]
        signs[axis] = sign
    return signs


def _stepping(asked: CutWords, stock: Stock) -> Cutter:
    names = [*asked.listed]
    axis = AXES.index(names.pop(0)) if names and names[0] in AXES else None
    if len(names) < 2 or asked.said:
        raise BadInput(tr("an offset cut steps through two features or more: offset:bore,pin"))
    return _steps([stock.centre(name) for name in names], stock, axis)


def _steps(centres: Sequence[Centre], stock: Stock, axis: int | None) -> Cutter:
    """Return what lies before a plane that steps from centre to centre, half way between them."""
    run = next((centre.axis for centre in centres if centre.axis is not None), 2)
    if axis is None:
        axis = 1 if run != 1 else 2
    if axis == run:
        raise BadInput(tr("a plane square to the {axis} does not hold these axes",
                          axis=AXES[axis]))  # fmt: skip
    along = 3 - axis - run
    spots = sorted({(c.place[along], c.place[axis]) for c in centres})
    for (one, at), (other, to) in pairwise(spots):
        if abs(other - one) < GIVEN_MM and abs(to - at) > GIVEN_MM:
            raise BadInput(tr("two of these centres lie one before the other: no step leads there"))
    line = [(stock.low[along] - stock.beyond, spots[0][1])]
    for (one, at), (other, to) in pairwise(spots):
        if abs(to - at) > GIVEN_MM:
            line += [((one + other) / 2, at), ((one + other) / 2, to)]
    line.append((stock.high[along] + stock.beyond, spots[-1][1]))
    sign = stock.sign(axis)
    far = (stock.high if sign > 0 else stock.low)[axis] + sign * stock.beyond
    corners = [*line, (line[-1][0], far), (line[0][0], far)]
    base = stock.low[run] - stock.beyond
    outline = tuple(_point({along: u, axis: v, run: base}) for u, v in corners)
    height = stock.high[run] + stock.beyond - base
    return Cutter(outline, _along(run, height))


def _point(places: Mapping[int, float]) -> Vec3:
    return places[0], places[1], places[2]


def _along(axis: int, size: float) -> Vec3:
    return _point({k: size if k == axis else 0.0 for k in range(3)})


# --- what is broken out, and planes that lean ---------------------------------------------------


def _broken(asked: CutWords, stock: Stock) -> Cutter:
    """Return what an outline on a face, or a feature, takes away."""
    if asked.listed:
        return _feature(asked.listed[0], stock)
    try:
        face = _FACES[asked.said["face"]]
        deep = stock_length(asked.said["deep"])
        corners = [_figures(pair, 2) for pair in asked.said["outline"].split("/")]
    except (KeyError, ValueError) as error:
        raise BadInput(
            tr("write it like broken:face=top,deep=12,outline=10 8/42 8/42 30")
        ) from error
    if len(corners) < 3 or not 0 < deep < stock.beyond:
        raise BadInput(tr("what is broken out has three corners or more, and a depth above 0"))
    axis, (u, v) = face.normal_axis, face.axes
    outer = (stock.high if face.is_far else stock.low)[axis]
    sign = 1.0 if face.is_far else -1.0
    low = (0.0, 0.0, 0.0) if isinstance(stock.source, Part) else stock.low
    outline = tuple(
        _point({axis: outer - sign * deep, u: low[u] + a, v: low[v] + b}) for a, b in corners
    )
    return Cutter(outline, _along(axis, sign * (deep + stock.beyond)))


def _feature(name: str, stock: Stock) -> Cutter:
    """Return what a cut feature of a part would take away, whether it is off or not."""
    source = stock.source
    if not isinstance(source, Part):
        raise BadInput(tr("only a part has features to be broken out by"))
    for operation in source.operations:
        if spoken(operation.name) == spoken(name) and operation.mode == "cut":
            try:
                (basic,) = basics(replace(operation, off=False, copies=None), source.crate)
            except ValueError as error:
                raise BadInput(
                    tr("“{name}” cannot be broken out: take a plain outline", name=name)
                ) from error
            return Cutter((), (0.0, 0.0, 0.0), feature=(basic, source.crate))
    known = ", ".join(one.name for one in source.operations if one.mode == "cut")
    raise BadInput(
        tr("no cut is called “{name}” (known: {known})", name=name, known=known or tr("none"))
    )


def stock_length(words: str) -> float:
    """Return a length, mm. Raises ValueError."""
    return evaluate(words)


def _figures(words: str, count: int) -> tuple[float, ...]:
    figures = tuple(evaluate(word) for word in words.split())
    if len(figures) != count:
        raise ValueError
    return figures


def _plane(asked: CutWords, stock: Stock) -> Cutter:
    try:
        place, normal = _of_face(asked, stock) if "face" in asked.said else _of_points(asked.listed)
    except (KeyError, ValueError) as error:
        raise BadInput(
            tr("write it like plane:0 0 14/30 0 14/0 20 25 or plane:face=top,in=9,turn=30")
        ) from error
    lean = dot(normal, stock.toward)
    if lean < 0 or (abs(lean) < COINCIDENT_MM and normal[2] < 0):
        normal = -normal[0], -normal[1], -normal[2]
    first = unit(cross(normal, (0.0, 0.0, 1.0) if abs(normal[2]) < 0.9 else (1.0, 0.0, 0.0)))
    second = cross(normal, first)
    off = dot(subtract(stock.middle, place), normal)
    middle = add(stock.middle, normal, -off)
    size = stock.beyond
    corners = ((-size, -size), (size, -size), (size, size), (-size, size))
    outline = tuple(add(add(middle, first, a), second, b) for a, b in corners)
    return Cutter(outline, (normal[0] * size, normal[1] * size, normal[2] * size))


def _of_points(listed: Sequence[str]) -> tuple[Vec3, Vec3]:
    """Return a place and the normal of the plane through three points."""
    points = [_figures(piece, 3) for piece in "/".join(listed).split("/")]
    if len(points) != 3:
        raise ValueError
    a, b, c = ((x, y, z) for x, y, z in points)
    normal = cross(subtract(b, a), subtract(c, a))
    if dot(normal, normal) < COINCIDENT_MM:
        raise BadInput(tr("three points on one line make no plane"))
    return a, unit(normal)


def _of_face(asked: CutWords, stock: Stock) -> tuple[Vec3, Vec3]:
    """Return a place and the normal of a plane inward from a face, turned about an axis."""
    face = _FACES[asked.said["face"]]
    axis = face.normal_axis
    about = AXES.index(asked.said.get("about", AXES[face.axes[0]]))
    if about == axis:
        raise BadInput(tr("a plane is turned about an axis that lies in the face"))
    deep, turn = (stock_length(asked.said.get(key, "0")) for key in ("in", "turn"))
    if not abs(turn) < 90:
        raise BadInput(tr("a plane is turned by less than 90°"))
    sign = 1.0 if face.is_far else -1.0
    place = [*stock.middle]
    place[axis] = (stock.high if face.is_far else stock.low)[axis] - sign * deep
    way = turned(rotation(_along(about, 1.0), math.radians(turn)), _along(axis, sign))
    return _point(dict(enumerate(place))), way
