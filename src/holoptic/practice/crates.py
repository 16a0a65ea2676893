"""Crates in a pictorial, as figures of exercises: their edges in sight, places and directions."""

from __future__ import annotations

import random
from dataclasses import dataclass
from itertools import product

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.part import Face
from holoptic.pictorial import View
from holoptic.practice.exercise import Figure
from holoptic.sheet.drawing import Ink, Words

NEAR = ("front-right", "front-left", "rear-right", "rear-left")
_LETTER_MM = 2.6
_GAP_MM = 2.0


@dataclass(frozen=True)
class DrawnCrate:
    """A crate of whole mm in a view; on paper `scale` times as large."""

    view: View
    sizes: tuple[int, int, int]
    scale: float = 1.0

    def at(self, place: Vec3) -> Vec2:
        """Return where a place of the crate (mm) lies on paper (mm)."""
        x, y = apply(self.view.matrix, place)
        return x * self.scale, y * self.scale

    def faces(self) -> list[Face]:
        """Return the three faces in sight."""
        toward = self.view.toward_viewer
        return [face for face in Face if (toward[face.normal_axis] > 0) == face.is_far
                and abs(toward[face.normal_axis]) > _EDGE_ON]  # fmt: skip

    def corner(self, ends: tuple[int, int, int]) -> Vec3:
        """Return a corner by its ends (0 near the origin, 1 far) along length, depth, height."""
        return (ends[0] * self.sizes[0], ends[1] * self.sizes[1], ends[2] * self.sizes[2])

    @property
    def hidden_corner(self) -> tuple[int, int, int]:
        """The ends of the corner that no picture shows."""
        x, y, z = (int(way < 0) for way in self.view.toward_viewer)
        return x, y, z

    @property
    def near_corner(self) -> tuple[int, int, int]:
        """The ends of the corner nearest the viewer, on the floor where seen from above."""
        x, y, _ = (int(way > 0) for way in self.view.toward_viewer)
        return x, y, 0

    def inks(self, layer: str = "visible") -> tuple[Ink, ...]:
        """Return the nine edges in sight."""
        found = []
        for axis, ends in product(range(3), product((0, 1), repeat=2)):
            start, end = list(ends), list(ends)
            start.insert(axis, 0)
            end.insert(axis, 1)
            pair = (start[0], start[1], start[2]), (end[0], end[1], end[2])
            if self.hidden_corner not in pair:
                path = tuple(self.at(self.corner(one)) for one in pair)
                found.append(Ink(layer, path))
        return tuple(found)

    def figure(self, caption: str = "", layer: str = "visible") -> Figure:
        """Return it as a figure."""
        return Figure(self.inks(layer), caption=caption)

    def size_words(self) -> tuple[Words, ...]:
        """Return its sizes beside the edges that leave its near corner."""
        near = self.near_corner
        middle = self.at((self.sizes[0] / 2, self.sizes[1] / 2, self.sizes[2] / 2))
        found = []
        for axis in range(3):
            half = [float(c) for c in self.corner(near)]
            if axis == 2:
                half = [float(c) for c in self.corner(self._left_end())]
            half[axis] = self.sizes[axis] / 2
            x, y = self.at((half[0], half[1], half[2]))
            anchor = "end" if x < middle[0] else "start"
            off = -_GAP_MM if anchor == "end" else _GAP_MM
            low = -_LETTER_MM - 1 if axis < 2 else 0.0
            found.append(Words((x + off, y + low), f"{self.sizes[axis]}", _LETTER_MM, anchor))  # type: ignore[arg-type]
        return tuple(found)

    def _left_end(self) -> tuple[int, int, int]:
        """Return the corner on the floor that lies furthest to the left on paper."""
        corners = [(x, y, 0) for x in (0, 1) for y in (0, 1)]
        return min(corners, key=lambda ends: self.at(self.corner(ends))[0])


_EDGE_ON = 0.01


def random_sizes(dice: random.Random, low: int = 28, high: int = 70) -> tuple[int, int, int]:
    """Return sizes of a crate in mm that are clearly different."""
    while True:
        found = dice.randint(low, high), dice.randint(low, high), dice.randint(low, high)
        if min(abs(found[0] - found[1]), abs(found[1] - found[2]), abs(found[0] - found[2])) > 5:
            return found


def corner_words(view: View) -> str:
    """Return words for the near corner of a view."""
    assert view.corner is not None
    return tr("near corner {corner}", corner=view.corner.title)
