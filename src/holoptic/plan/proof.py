"""Whether the drafter's paper equals the picture as it is intended."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

import shapely

from holoptic.catalogue import tr
from holoptic.construction.intended import Intended
from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.finish import Finish
from holoptic.plan.moves import FRAME, Plan
from holoptic.plan.numbering import numbering_paths
from holoptic.tolerance import PROVED_MM


@dataclass(frozen=True)
class Proof:
    """The outcome: the largest gap in mm, between strokes drawn and intended, either way.

    `strokes` counts those compared. `true_gap_mm` says how far the intended picture itself lies
    from the true one, on paper, and `true_gap_at` which feature is the farthest off.
    """

    deviation_mm: float
    strokes: int
    true_gap_mm: float = 0.0
    true_gap_at: str = ""

    @property
    def holds(self) -> bool:
        """Whether the gap is within what is promised."""
        return self.deviation_mm <= PROVED_MM

    def __str__(self) -> str:
        """Return what scripts read: the same in every language."""
        return f"max deviation {self.deviation_mm:.4f} mm over {self.strokes} strokes"

    @property
    def remark(self) -> str:
        """What the chosen constructions cost against the true picture, or an empty text."""
        if self.true_gap_mm < PROVED_MM:
            return ""
        return tr(
            "constructions up to {true_gap_mm:.2f} mm off the true "
            "picture, most at “{true_gap_at}”",
            true_gap_mm=self.true_gap_mm,
            true_gap_at=self.true_gap_at,
        )


def prove(plan: Plan, intended: Intended, start_on_picture: Vec2) -> Proof:
    """Carry out the plan and compare it with the picture as intended.

    `start_on_picture` is where the plan's start point lies on the picture, mm at scale 1:1.
    Raises DraftingError if a move cannot be done.
    """
    wanted = {
        name: plan.setup.on_sheet(made.path, start_on_picture)
        for name, made in intended.strokes.items()
    }
    return compare(plan, wanted, intended.worst)


def compare(plan: Plan, strokes: Mapping[str, tuple[Vec2, ...]], worst: tuple[float, str]) -> Proof:
    """Carry out a plan and compare it with the strokes that are to stand on the sheet.

    Paths are in mm from the lower left border corner. `worst` says how far these strokes lie from
    the true picture, and where most. Raises DraftingError if a move cannot be done.
    """
    drafter = Drafter().carry_out(plan.moves)
    drawn = {name for name in drafter.strokes if not name.startswith(FRAME)}
    setup, finish = plan.setup, plan.setup.finish or Finish()
    wanted = {**numbering_paths(setup.numbers, setup.table), **strokes, **finish.paths}
    gap = 0.0 if drawn == set(wanted) else math.inf
    for name, path in wanted.items():
        if name in drafter.strokes:
            gap = max(gap, _gap(drafter.strokes[name], path))
    gap = max(gap, _finish_gap(drafter, finish))
    checks = (abs(reading - (move.setting_mm or 0.0)) for move, reading in drafter.readings)
    true_gap, where = worst
    return Proof(max([gap, *checks]), len(wanted), true_gap, where)


def _finish_gap(drafter: Drafter, finish: Finish) -> float:
    """Return how far heads and lettering stand from where they should; infinite where one is
    missing, too many, or says something else.
    """
    if set(drafter.heads) != set(finish.heads) or set(drafter.letters) != set(finish.letters):
        return math.inf
    gap = 0.0
    for name, (place, angle) in finish.heads.items():
        at, drawn = drafter.heads[name]
        turned = abs((drawn - angle + 180.0) % 360.0 - 180.0)
        gap = max(gap, math.dist(at, place), math.inf if turned > _TURNED_DEG else 0.0)
    for name, wanted in finish.letters.items():
        said = drafter.letters[name]
        is_same = replace(said, at=wanted.at) == wanted
        gap = max(gap, math.dist(said.at, wanted.at) if is_same else math.inf)
    return gap


_TURNED_DEG = 0.1

_PROBES = 150
"""So many points of a smooth line are compared, its ends among them."""


def _some(path: tuple[Vec2, ...]) -> tuple[Vec2, ...]:
    step = max(1, len(path) // _PROBES)
    return (*path[::step], path[-1])


def _gap(drawn: tuple[Vec2, ...], wanted: tuple[Vec2, ...]) -> float:
    """Return how far two polylines lie apart, either way, their ends included."""
    one, two = shapely.LineString(drawn), shapely.LineString(wanted)
    across = (
        float(shapely.distance(shapely.points(_some(these)), those).max())
        for these, those in ((drawn, two), (wanted, one))
    )
    same_way = max(math.dist(drawn[0], wanted[0]), math.dist(drawn[-1], wanted[-1]))
    turned = max(math.dist(drawn[0], wanted[-1]), math.dist(drawn[-1], wanted[0]))
    is_closed = math.dist(wanted[0], wanted[-1]) < PROVED_MM
    return max(*across, 0.0 if is_closed else min(same_way, turned))
