"""The default way of working: the quickest and surest of all, found by planning each.

The rule: minutes times the error to expect is least. Time and error count alike, whatever their
size: a way that takes a tenth longer must be a tenth surer.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.construction.intended import Intended
from holoptic.plan.builder import STEADY, DraftedPlan, draft_plan
from holoptic.plan.controls import expected
from holoptic.plan.drafter import Drafter
from holoptic.plan.effort import effort_of, weigh
from holoptic.plan.hand import Hand
from holoptic.plan.levels import Levels
from holoptic.plan.moves import Budget, Effort, Plan, Setup
from holoptic.plan.strategies import STRATEGY_TITLES, strategy_title, usual_way
from holoptic.units.spoken import measure

_LEAST_SHARE = 0.05
"""A way must be better than the usual one by this share: one gets used to a way."""
_MOST_MOVES = 2500
"""A longer plan is not made three times over: the usual way is taken."""


@dataclass(frozen=True)
class _Weighed:
    """A drafted way with its time and the error to expect, checks aside: those are alike."""

    drafted: DraftedPlan
    effort: Effort
    budget: Budget

    @property
    def cost(self) -> float:
        return weigh(self.effort, self.budget)

    def told(self) -> str:
        off = measure(round(self.budget.typical, 2))
        return tr("{minutes} min, off by {off}", minutes=f"{self.effort.seconds / 60:.0f}", off=off)


def best_plan(
    intended: Intended, setup: Setup, hand: Hand = STEADY, levels: Levels | None = None
) -> tuple[Plan, Drafter]:
    """Return the plan of a picture in the way that was chosen, else in the best one; and what the
    virtual drafter has on its paper after it. Distances are lifted between `levels`.

    Raises ValueError as `make_plan` does.
    """
    usual = usual_way(intended)
    first = draft_plan(intended, setup, usual, levels)
    if usual.is_own or len(first.draft.moves) > _MOST_MOVES:
        return first.complete(hand)
    others = (replace(usual, strategy=strategy) for strategy in STRATEGY_TITLES
              if strategy != usual.strategy)  # fmt: skip
    drafted = [first, *(draft_plan(intended, setup, way, levels) for way in others)]
    weighed = [_weighed(one, hand) for one in drafted]
    best = min(weighed, key=lambda one: one.cost)
    if best.cost > (1 - _LEAST_SHARE) * weighed[0].cost:
        best = weighed[0]
    rest = [one for one in weighed if one.told() != best.told()]
    if not rest:
        return best.drafted.complete(hand)
    told = ", ".join(f"{strategy_title(one.drafted.way.strategy)} {one.told()}" for one in rest)
    why = tr("{cost}; {others}", cost=best.told(), others=told)
    return replace(best.drafted, way=replace(best.drafted.way, why=why)).complete(hand)


def _weighed(drafted: DraftedPlan, hand: Hand) -> _Weighed:
    moves, paper = drafted.draft.moves, drafted.draft.paper
    return _Weighed(drafted, effort_of(moves), expected(moves, paper, hand))
