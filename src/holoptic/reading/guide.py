"""How far the guided way has come: a part, and the loops that can still be taken away."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.curves.vectors import Vec2
from holoptic.part import Part
from holoptic.reading.outline import Outline


@dataclass(frozen=True)
class Loop:
    """A closed loop of a view, with the levels along its depth that other views show (mm).

    `path` is in the view's canonical coordinates.
    """

    view: str
    depth: int
    outline: Outline
    levels: tuple[float, ...]
    path: tuple[Vec2, ...]


@dataclass(frozen=True)
class Guide:
    """A part on its way: what the outlines allow, less what was taken away; the loops to go on."""

    part: Part
    loops: tuple[Loop, ...]
