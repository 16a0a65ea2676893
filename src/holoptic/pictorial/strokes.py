"""Strokes: what a pencil would draw, with the edge and the exact curve each comes from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any, Literal, get_args

from holoptic.curves.space import Curve, Segment
from holoptic.curves.vectors import Matrix23, Vec2
from holoptic.solid.pieces import Span

Role = Literal["visible", "hidden", "centre", "hatch"]
ROLES: tuple[Role, ...] = get_args(Role)


class PickKey(int):
    """What a line is picked by: its edge's index, or a negative number for an outline.

    `body` is the number of the body that the line belongs to. Edges of all bodies that are looked
    at together are numbered in one row, so that the number alone tells lines apart.
    """

    body: int

    def __new__(cls, number: int, body: int = 0) -> PickKey:
        """Make the key of a line of a body."""
        key = super().__new__(cls, number)
        key.body = body
        return key


@dataclass(frozen=True)
class Origin:
    """Where a stroke comes from: the edge's index (None: an outline), its operation's, its body."""

    edge: int | None
    operation: int | None
    body: int = 0


@dataclass(frozen=True)
class Stroke:
    """One stroke of a picture: its exact curve in space (mm), and the view's matrix.

    `drawn` is what runs on paper: the curve, or the chord that a curve seen edge-on falls on.
    `thick` holds the spans of the curve that the thick-and-thin school draws thick.
    """

    id: str
    role: Role
    curve: Curve
    origin: Origin
    drawn: Curve
    matrix: Matrix23
    thick: tuple[Span, ...] = ()

    @cached_property
    def path(self) -> tuple[Vec2, ...]:
        """The polyline on paper, mm at scale 1:1; made when it is first asked for."""
        return tuple(self.drawn.path(self.matrix))

    def __getstate__(self) -> dict[str, Any]:
        """Leave the polyline out of what crosses to another process: it is most of it."""
        return {key: value for key, value in self.__dict__.items() if key != "path"}

    @property
    def key(self) -> PickKey:
        """What it is picked by."""
        number = -int(self.id[1:]) if self.origin.edge is None else self.origin.edge
        return PickKey(number, self.origin.body)

    @property
    def is_straight(self) -> bool:
        """Whether it is a straight line in space and so on paper."""
        return isinstance(self.curve, Segment)
