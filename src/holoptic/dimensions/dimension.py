"""A dimension: what it is the size of. Where it stands on a sheet is another matter."""

from __future__ import annotations

import math
from collections.abc import Hashable
from dataclasses import dataclass
from typing import Literal

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.part.crate import AXIS_LETTERS
from holoptic.tolerance import DRAWN_MM

Sort = Literal["length", "diameter", "angle", "shape"]
"""`shape` is a note that tells a whole outline: a polygon by its size, a bar by its width."""

_PLACES = 3


@dataclass(frozen=True, order=True)
class Level:
    """A place along an axis (0 length, 1 depth, 2 height), mm from the crate's near corner."""

    axis: int
    at: float

    @classmethod
    def of(cls, axis: int, at: float) -> Level:
        """Return the level of a place; places that a drawing cannot tell apart are one level."""
        return cls(axis, round(at, _PLACES) + 0.0)


@dataclass(frozen=True)
class Circle:
    """A round wall or a rim: its axis's direction, where the axis stands across it, its radius.

    Of a rim of a cone, `at` is its level along the axis; None for what has one radius all along.
    """

    axis: int
    across: Vec2
    radius: float
    at: float | None = None


@dataclass(frozen=True)
class Cone:
    """A cone: its axis's direction, where the axis stands across it, its apex's level, how much its
    radius grows for each mm along the axis.
    """

    axis: int
    across: Vec2
    apex: float
    growth: float

    @property
    def size(self) -> Hashable:
        """The unknown radius of it where levels are counted from."""
        return "size", self

    @property
    def angle(self) -> Hashable:
        """The unknown growth."""
        return "growth", self

    @property
    def degrees(self) -> float:
        """Its whole angle."""
        return 2 * math.degrees(math.atan(self.growth))


@dataclass(frozen=True)
class Tilt:
    """A face that leans: its unit normal and its distance from the crate's near corner, mm."""

    normal: Vec3
    off: float


@dataclass(frozen=True)
class Bound:
    """A place that a note ties to the place it is about: where it is, and from where it counts."""

    place: Vec3
    centre: Vec3


@dataclass(frozen=True)
class Dimension:
    """One size of a part: a length between two levels, the size of circles, an angle, or a note.

    `value` is in mm or degrees. `name` is the feature's, empty for the part's own sizes; `about`
    is a place that it belongs to, mm, `face` the axis of its feature's face. `circles` are all
    those that a diameter tells, `cones` those whose angle it tells, `depth` the levels between
    which a hole reaches where its note says so. Of a note, `binds` are the places that it settles,
    and `words` what it says in front of its value. Of an angle, `rays` are the directions from
    `about` between which it lies. `key` tells it from the others of its sheet, and stays where the
    part changes.
    """

    sort: Sort
    value: float
    name: str = ""
    levels: tuple[Level, ...] = ()
    circles: tuple[Circle, ...] = ()
    tilt: Tilt | None = None
    depth: tuple[Level, Level] | None = None
    cones: tuple[Cone, ...] = ()
    binds: tuple[Bound, ...] = ()
    words: str = ""
    about: Vec3 | None = None
    rays: tuple[Vec3, Vec3] | None = None
    face: int | None = None
    key: str = ""

    @property
    def axis(self) -> int:
        """The axis that a length lies along."""
        return self.levels[0].axis

    def __str__(self) -> str:
        """What it is, in a line that scripts read."""
        of = f" of {self.name}" if self.name else ""
        if self.sort == "length":
            a, b = self.levels
            return f"{AXIS_LETTERS[a.axis]} {a.at:g} to {b.at:g}{of}"
        return f"{self.sort} {self.value:g}{of}"

    def is_between(self, one: Level, other: Level) -> bool:
        """Whether it is the length between two levels."""
        return self.sort == "length" and {one, other} == set(self.levels)


def is_same(one: float, other: float) -> bool:
    """Whether two sizes are one on a drawing."""
    return abs(one - other) < DRAWN_MM
