"""What a solid tells the other rooms, as plain data without the kernel."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import NamedTuple

from holoptic.curves.space import Curve
from holoptic.curves.vectors import Vec3


@dataclass(frozen=True)
class Edge:
    """An edge of a solid: its exact curve and the operation that made it (None: the crate).

    `body` is the number of its body among those that are looked at together, from 0.
    """

    index: int
    curve: Curve
    operation: int | None
    body: int = 0


Span = tuple[float, float]
"""From, to: parameters of a curve."""


@dataclass(frozen=True)
class RoundFeature:
    """A hole, a boss, a cone, a ball or a ring: the ends of its axis and its radii there, mm.

    Where the rim at an end lies in a plane face, `start_face` and `end_face` are that face's
    outward normals.
    """

    start: Vec3
    end: Vec3
    start_radius: float
    end_radius: float
    start_face: Vec3 | None = None
    end_face: Vec3 | None = None


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


@dataclass(frozen=True)
class Look:
    """A solid seen along one direction (toward the viewer).

    `thick` holds by edge the parts of it along which only one of its two faces is seen;
    `smooth` are the places where faces run into each other, with whether they are in sight;
    `rounds` are the solid's round features, which are given centre lines; `edge_on` names the
    edges of faces that are seen edge-on.
    """

    toward_viewer: Vec3
    pieces: tuple[Piece, ...]
    thick: dict[int, tuple[Curve, ...]] = field(default_factory=dict)
    rounds: tuple[RoundFeature, ...] = ()
    edge_on: frozenset[int] = frozenset()
    smooth: tuple[tuple[Curve, bool], ...] = ()


@dataclass(frozen=True)
class SolidFacts:
    """What stays the same from wherever a solid is seen.

    `low` and `high` are the corners of its bounding box in mm; `only_planes` says that every
    face is plane, `volume` is in mm³, `bodies` how many bodies there are.
    """

    edges: tuple[Edge, ...]
    low: Vec3
    high: Vec3
    volume: float
    only_planes: bool
    rounds: tuple[RoundFeature, ...] = ()
    bodies: int = 1


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
