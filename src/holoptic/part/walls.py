"""What a solid can be bounded by: surfaces that go on beyond it. Lengths in mm."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.curves.vectors import Vec3


@dataclass(frozen=True)
class Flat:
    """A plane."""

    point: Vec3
    normal: Vec3


@dataclass(frozen=True)
class Drum:
    """A cylinder about an axis."""

    point: Vec3
    way: Vec3
    radius: float


@dataclass(frozen=True)
class Taper:
    """A cone: its tip and a circle on it. The tip need not stand over the circle's middle."""

    tip: Vec3
    centre: Vec3
    way: Vec3
    """The normal of the circle."""
    radius: float


@dataclass(frozen=True)
class Globe:
    """A sphere."""

    centre: Vec3
    radius: float


@dataclass(frozen=True)
class Tyre:
    """A torus: the radius of its middle line, and that of its section."""

    centre: Vec3
    way: Vec3
    radius: float
    thick: float


Wall = Flat | Drum | Taper | Globe | Tyre


@dataclass(frozen=True)
class Panel:
    """As much of a wall as is needed: what lies between two corners of a box."""

    wall: Wall
    low: Vec3
    high: Vec3
