"""Arrangements: parts put together, each turned and placed, and how they are drawn apart."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import ClassVar

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, cross, dot, unit
from holoptic.errors import BadInput
from holoptic.job.ties import Tie
from holoptic.part import Face
from holoptic.part.crate import AXIS_NAMES
from holoptic.part.whole import Turning, after, rotation
from holoptic.tolerance import FINE
from holoptic.units import Length

_FORBID: dict[str, str] = {"extra": "forbid"}
_NOTHING = Length("0", 0.0)
UP: Vec3 = (0.0, 0.0, 1.0)


@dataclass(frozen=True)
class Turn:
    """How a part is turned: which faces of its crate come to the front and on top, and an angle.

    The angle is in degrees about the axis `about` of the arrangement, to the left as seen against
    it. Faces and a quarter turn alone give the 24 turns that keep axes parallel.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    front: Face = Face.FRONT
    top: Face = Face.TOP
    degrees: float = 0.0
    about: Vec3 = UP

    def turning(self) -> Turning:
        """Return it as a rotation. Raises BadInput where it is none."""
        if self.front.normal_axis == self.top.normal_axis:
            raise BadInput(
                tr(
                    "no turn brings {front} to the front and {top} on top: these faces do not meet",
                    front=self.front.title,
                    top=self.top.title,
                )
            )
        front, top = _outward(self.front), _outward(self.top)
        x = cross(top, front)
        faced = x, (-front[0], -front[1], -front[2]), top
        if self.degrees == 0:
            return faced
        figures = (self.degrees, *self.about)
        if not all(map(math.isfinite, figures)) or dot(self.about, self.about) < FINE:
            raise BadInput(tr("a turn about an axis without direction is none"))
        return after(rotation(unit(self.about), math.radians(self.degrees)), faced)


STRAIGHT_ON = Turn()
"""A part that stands as it was described."""


@dataclass(frozen=True)
class Placed:
    """A part in an arrangement: turned about its own origin, which then stands at `at`.

    The origin is the crate's front left bottom corner as the part was described, or that of its
    file. `part` is the part's id; a part may stand there several times. `colour` is what its file
    gives it, `#rrggbb`. Where its `ties` leave nothing open, turn and place come from them.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    id: str
    part: str
    at: tuple[Length, Length, Length] = (_NOTHING, _NOTHING, _NOTHING)
    turn: Turn = STRAIGHT_ON
    colour: str = ""
    ties: tuple[Tie, ...] = ()

    @property
    def place(self) -> Vec3:
        """Where its origin stands, mm."""
        x, y, z = self.at
        return x.mm, y.mm, z.mm


@dataclass(frozen=True)
class OwnDistance:
    """How far one placed part is drawn out, whatever the gaps would ask for."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    placed: str
    distance: Length


@dataclass(frozen=True)
class Spread:
    """How an arrangement is drawn apart; what is not said here is worked out.

    `axis` is the way of drawing apart: `length`, `depth` or `height`, with a `-` the other way
    round, or three figures. `gap` is the clear way between parts. `order` has placed parts as they
    follow each other along the axis, `groups` those that stay together.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    axis: str | None = None
    gap: Length | None = None
    order: tuple[str, ...] = ()
    groups: tuple[tuple[str, ...], ...] = ()
    own: tuple[OwnDistance, ...] = ()

    @property
    def direction(self) -> Vec3 | None:
        """The axis as a direction of length 1, None where it is left open. Raises BadInput."""
        return None if self.axis is None else read_axis(self.axis)


AS_COMES_APART = Spread()
"""Of which nothing is said."""


@dataclass(frozen=True)
class Arrangement:
    """Placed parts with a name."""

    __pydantic_config__: ClassVar[dict[str, str]] = _FORBID

    id: str
    name: str
    placed: tuple[Placed, ...] = ()
    spread: Spread = AS_COMES_APART
    number: str = ""

    def one(self, placed_id: str) -> Placed:
        """Return a placed part. Raises KeyError."""
        for item in self.placed:
            if item.id == placed_id:
                return item
        raise KeyError(placed_id)

    def with_placed(self, placed: Placed) -> Arrangement:
        """Return the arrangement with a placed part exchanged, or with one more."""
        if all(item.id != placed.id for item in self.placed):
            return replace(self, placed=(*self.placed, placed))
        kept = tuple(placed if item.id == placed.id else item for item in self.placed)
        return replace(self, placed=kept)

    def without(self, placed_id: str) -> Arrangement:
        """Return the arrangement without one placed part."""
        return replace(self, placed=tuple(p for p in self.placed if p.id != placed_id))

    def quantities(self) -> dict[str, int]:
        """Return how often each part stands there, in the order in which they come."""
        return dict(Counter(item.part for item in self.placed))


_AXES: dict[str, Vec3] = {
    "length": (1.0, 0.0, 0.0), "depth": (0.0, 1.0, 0.0), "height": (0.0, 0.0, 1.0),
}  # fmt: skip


def read_axis(text: str) -> Vec3:
    """Return a direction that was written as an axis or as three figures. Raises BadInput."""
    word = text.strip().lower()
    sign, name = (-1.0, word[1:]) if word.startswith("-") else (1.0, word.removeprefix("+"))
    if name in _AXES:
        x, y, z = _AXES[name]
        return sign * x, sign * y, sign * z
    try:
        x, y, z = (float(figure) for figure in word.split(","))
        if not all(map(math.isfinite, (x, y, z))):
            raise ValueError
        return unit((x, y, z))
    except (ValueError, ZeroDivisionError) as error:
        raise BadInput(
            tr("“{text_}” is no axis: write length, depth, height or x,y,z", text_=text)
        ) from error


def axis_word(direction: Vec3) -> str:
    """Return a direction as `read_axis` reads it."""
    for name, axis in _AXES.items():
        along = dot(axis, direction)
        if abs(along) > 1 - FINE:
            return name if along > 0 else f"-{name}"
    return ",".join(f"{figure:.9g}" for figure in direction)


def axis_title(direction: Vec3) -> str:
    """Return a direction as it is read: by the name of its axis in the language shown."""
    word = axis_word(direction)
    name = word.removeprefix("-")
    if name not in _AXES:
        return word
    title = AXIS_NAMES[list(_AXES).index(name)]
    return title if name == word else f"−{title}"


def turn_of(turning: Turning) -> Turn:
    """Return a rotation as a turn: by faces where axes stay parallel, else by an angle."""
    for front in Face:
        for top in Face:
            if front.normal_axis != top.normal_axis:
                turn = Turn(front, top)
                if _are_same(turn.turning(), turning):
                    return turn
    (a, b, c), (d, e, f), (g, h, i) = turning
    axis = h - f, c - g, d - b
    angle = math.atan2(math.sqrt(dot(axis, axis)) / 2, (a + e + i - 1) / 2)
    if angle > _NEARLY_HALF:  # there the axis is told by what the rotation leaves as it is
        k = math.cos(angle)
        rows = (
            (2 * (a - k), b + d, c + g), (b + d, 2 * (e - k), f + h), (c + g, f + h, 2 * (i - k)),
        )  # fmt: skip
        still = max(rows, key=lambda row: dot(row, row))
        axis = still if dot(still, axis) >= 0 else (-still[0], -still[1], -still[2])
    return Turn(degrees=math.degrees(angle), about=unit(axis))


_NEARLY_HALF = 3.0
"""Radians."""


def _are_same(some: Turning, others: Turning) -> bool:
    return all(
        abs(a - b) < FINE for row, other in zip(some, others, strict=True)
        for a, b in zip(row, other, strict=True)
    )  # fmt: skip


def fresh_placed_id(taken: Iterable[Placed]) -> str:
    """Return an id that no placed part has."""
    known = {item.id for item in taken}
    return next(f"b{k}" for k in range(1, len(known) + 2) if f"b{k}" not in known)


def _outward(face: Face) -> Vec3:
    normal = [0.0, 0.0, 0.0]
    normal[face.normal_axis] = 1.0 if face.is_far else -1.0
    return normal[0], normal[1], normal[2]
