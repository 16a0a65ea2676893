"""What can be done to a crate: prisms and rounds, cut away or added."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from holoptic.part.crate import Crate, Face
from holoptic.units import Length

Mode = Literal["cut", "add"]


@dataclass(frozen=True)
class Corner:
    """A corner of an outline on a face: distances from the face's near edges."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    u: Length
    v: Length

    @property
    def mm(self) -> tuple[float, float]:
        """(u, v) in mm."""
        return self.u.mm, self.v.mm


@dataclass(frozen=True)
class Offset:
    """A distance from one of two opposite crate edges; `far` says from which."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    distance: Length
    far: bool = False

    def from_near(self, size: float) -> float:
        """Return the distance from the near edge in mm, on a face that is `size` wide."""
        return size - self.distance.mm if self.far else self.distance.mm


@dataclass(frozen=True)
class Prism:
    """A straight-sided outline on a face, carried inward from `start` to `end`.

    `end` None means through. The outline is closed and does not repeat its first corner.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    mode: Mode
    face: Face
    outline: tuple[Corner, ...]
    start: Length
    end: Length | None
    type: Literal["prism"] = "prism"

    def outline_mm(self) -> list[tuple[float, float]]:
        """Corners in mm."""
        return [corner.mm for corner in self.outline]


@dataclass(frozen=True)
class Round:
    """A round hole (cut) or boss (add) on a face, from `start` to `end` inward; None is through."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    mode: Mode
    face: Face
    diameter: Length
    u: Offset
    v: Offset
    start: Length
    end: Length | None
    type: Literal["round"] = "round"

    def centre_mm(self, crate: Crate) -> tuple[float, float]:
        """Centre on the face in mm."""
        width, height = crate.face_size(self.face)
        return self.u.from_near(width), self.v.from_near(height)


Operation = Prism | Round


def extent_mm(operation: Operation, crate: Crate) -> tuple[float, float]:
    """Return the depths (from, to) in mm that an operation covers, inward from its face."""
    end = crate.thickness(operation.face) if operation.end is None else operation.end.mm
    return operation.start.mm, end
