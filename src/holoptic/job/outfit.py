"""The instruments that lie on a drafter's own table."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Outfit:
    """How far a drafter's instruments reach, mm.

    Arcs below the compass's least radius are drawn with a template or by hand; where one would be
    above its largest, another way is taken. Lines longer than the set squares' longest edge are
    carried on with the straightedge, distances longer than the rule are set off in two.
    """

    least_radius: float = 3.0
    largest_radius: float = 160.0
    square: float = 260.0
    rule: float = 300.0

    @property
    def is_sound(self) -> bool:
        """Whether somebody could draw with it."""
        return (0.5 <= self.least_radius <= 20.0 and 40.0 <= self.largest_radius <= 1000.0
                and 50.0 <= self.square <= 1000.0 and 100.0 <= self.rule <= 2000.0)  # fmt: skip
