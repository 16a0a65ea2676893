"""Strokes: what a pencil would draw, with the edge and the exact curve each comes from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from holoptic.curves.space import Curve, Segment
from holoptic.curves.vectors import Vec2
from holoptic.solid.pieces import Span

Role = Literal["visible", "hidden", "centre"]
ROLES: tuple[Role, ...] = get_args(Role)


@dataclass(frozen=True)
class Origin:
    """Where a stroke comes from: the edge's index (None: an outline) and its operation's."""

    edge: int | None
    operation: int | None


@dataclass(frozen=True)
class Stroke:
    """One stroke of a picture: exact curve in space (mm) and polyline on paper (mm, scale 1:1).

    `thick` holds the spans of the curve that the thick-and-thin school draws thick.
    """

    id: str
    role: Role
    curve: Curve
    origin: Origin
    path: tuple[Vec2, ...]
    thick: tuple[Span, ...] = ()

    @property
    def key(self) -> int:
        """What it is picked by: its edge's index, or for an outline a negative number."""
        return -int(self.id[1:]) if self.origin.edge is None else self.origin.edge

    @property
    def is_straight(self) -> bool:
        """Whether it is a straight line in space and so on paper."""
        return isinstance(self.curve, Segment)
