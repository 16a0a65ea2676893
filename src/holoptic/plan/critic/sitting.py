"""What lies on the critic's table: the plan, the paper after it, the picture, views and lengths."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from holoptic.curves.paper import offset_from_line
from holoptic.curves.vectors import Vec2, apply
from holoptic.job import LineSchool, Outfit
from holoptic.part.provenance import Given
from holoptic.pictorial import Picture
from holoptic.plan.drafter import Drafter
from holoptic.plan.moves import Move, Plan, bears_letter
from holoptic.tolerance import SEEN_MM

_ON_LINE_MM = SEEN_MM


@dataclass(frozen=True)
class Sitting:
    """All that the critic may look at.

    `picture` is the pictorial that was ordered, None for a plan of views; `views` are the
    orthographic views that distances are lifted from, by name; `givens` the lengths that the
    maker of the part wrote; `features` the names of its operations, or of the parts where it
    `is_whole`.
    """

    plan: Plan
    picture: Picture | None
    views: Mapping[str, Picture]
    givens: tuple[Given, ...] = ()
    features: tuple[str, ...] = ()
    lines: LineSchool = field(default_factory=LineSchool)
    outfit: Outfit = field(default_factory=Outfit)
    is_whole: bool = False

    @cached_property
    def paper(self) -> Drafter:
        """What a hand that does nothing but the moves has on its paper in the end."""
        return Drafter().carry_out(self.plan.moves)

    @cached_property
    def made_at(self) -> dict[str, int]:
        """The index of the move that makes each point, line, curve and stroke."""
        made: dict[str, int] = {}
        for index, move in enumerate(self.plan.moves):
            for name in move.makes:
                made.setdefault(name, index)
        return made

    @cached_property
    def letters(self) -> frozenset[str]:
        """All letters of the plan."""
        return frozenset(name for name in self.paper.points if bears_letter(name))

    @cached_property
    def axis_angles(self) -> tuple[float, float, float] | None:
        """The angles of the three axes on paper, degrees from the right; None for views."""
        if self.picture is None:
            return None
        matrix = self.picture.view.matrix
        images = [apply(matrix, way) for way in ((1, 0, 0), (0, 1, 0), (0, 0, 1))]
        x, y, z = (math.degrees(math.atan2(image[1], image[0])) for image in images)
        return x, y, z

    def axis_scale(self, axis: int) -> float:
        """Return paper over true size along an axis at scale 1:1."""
        if self.picture is None:
            return 1.0
        way = tuple(float(k == axis) for k in range(3))
        return math.hypot(*apply(self.picture.view.matrix, (way[0], way[1], way[2])))

    def span_of(self, line: str) -> float:
        """Return how long a line must be to hold all places on it, mm; 0 for none of the lines."""
        if line not in self.paper.lines:
            return 0.0
        (x, y), (dx, dy) = self.paper.lines[line]
        on_it = [
            dx * (px - x) + dy * (py - y)
            for px, py in self.paper.points.values()
            if abs(offset_from_line((px, py), (x, y), (dx, dy))) < _ON_LINE_MM
        ]
        return max(on_it) - min(on_it) if on_it else 0.0

    def angle_of(self, line: str) -> float:
        """Return how a line lies on the paper, degrees in [0, 180)."""
        _, (x, y) = self.paper.lines[line]
        return math.degrees(math.atan2(y, x)) % 180

    def letters_on(self, item: str, among: Iterable[str]) -> list[str]:
        """Return those of some letters that lie on a line or a curve of the paper."""
        return [name for name in among if self._is_on(item, self.paper.points[name])]

    def _is_on(self, item: str, place: Vec2) -> bool:
        if item in self.paper.lines:
            return abs(offset_from_line(place, *self.paper.lines[item])) < _ON_LINE_MM
        curve = self.paper.curves[item]
        return math.dist(curve.at(curve.nearest(place)), place) < _ON_LINE_MM

    def radius(self, item: str) -> float | None:
        """Return the radius that a curve was drawn with, mm; None for what has none."""
        if item not in self.paper.curves:
            return None
        return self.plan.moves[self.made_at[item]].setting_mm

    def needles(self, move: Move) -> list[str]:
        """Return the letters about which a curve was drawn by a move."""
        return [name for name in move.uses[:1] if name in self.letters]
