"""What either way finds along a direction: the lines of a solid, in sight or hidden."""

from __future__ import annotations

from dataclasses import dataclass, field

from holoptic.curves.space import Curve
from holoptic.solid.pieces import Piece

Sight = tuple[Curve, bool]
"""A piece of a line, and whether it is in sight."""


@dataclass
class Lines:
    """What was found along one direction.

    `pieces` are those of edges; `outlines` and `smooth` belong to no edge: outlines of curved
    faces, and joins where faces run into each other. `owners` are the faces of the outlines by
    their number in the skin, -1 where that is not known. `thick` are the parts of edges along
    which one face alone is seen, None where that is to be found by itself, and `edge_on` the edges
    of faces that are seen edge-on.
    """

    pieces: list[Piece] = field(default_factory=list)
    outlines: list[Sight] = field(default_factory=list)
    owners: list[int] = field(default_factory=list)
    smooth: list[Sight] = field(default_factory=list)
    thick: dict[int, tuple[Curve, ...]] | None = None
    edge_on: frozenset[int] = frozenset()
