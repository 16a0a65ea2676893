"""Whether the drafter's paper equals the computed picture."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from holoptic.curves.vectors import Vec2
from holoptic.pictorial import Picture
from holoptic.plan.drafter import Drafter
from holoptic.plan.moves import Plan
from holoptic.tolerance import PROVED_MM

Ends = Sequence[Sequence[Vec2]]
"""Strokes by their two ends."""


@dataclass(frozen=True)
class Proof:
    """The outcome: the largest gap in mm, between strokes drawn and computed, either way.

    `strokes` counts those compared; `pending` those that the plan does not construct yet.
    """

    deviation_mm: float
    strokes: int
    pending: int

    @property
    def holds(self) -> bool:
        """Whether the gap is within what is promised."""
        return self.deviation_mm <= PROVED_MM

    def __str__(self) -> str:
        line = f"max deviation {self.deviation_mm:.4f} mm over {self.strokes} strokes"
        return line + (f" ({self.pending} pending)" if self.pending else "")


def prove(plan: Plan, picture: Picture, start_on_picture: Vec2) -> Proof:
    """Carry out the plan and compare it with the picture.

    `start_on_picture` is where the plan's start point lies on the picture, mm at scale 1:1.
    Raises DraftingError if a move cannot be done.
    """
    drafter = Drafter().carry_out(plan.moves)
    left_out = {name for move in plan.pending for name in move.makes}
    wanted = [
        plan.setup.on_sheet((stroke.path[0], stroke.path[-1]), start_on_picture)
        for stroke in picture.visible
        if stroke.id not in left_out
    ]
    drawn = [drafter.stroke_ends(name) for name in drafter.strokes]
    gap = max(_worst_gap(wanted, drawn), _worst_gap(drawn, wanted))
    checks = (abs(reading - (move.setting_mm or 0.0)) for move, reading in drafter.readings)
    return Proof(max([gap, *checks]), len(wanted), len(left_out))


def _worst_gap(these: Ends, those: Ends) -> float:
    """Return how far the worst of `these` is from the nearest of `those`; infinite for none."""
    worst = 0.0
    for a, b in these:
        gaps = (
            min(
                max(math.dist(a, c), math.dist(b, d)),
                max(math.dist(a, d), math.dist(b, c)),
            )
            for c, d in those
        )
        worst = max(worst, min(gaps, default=math.inf))
    return worst
