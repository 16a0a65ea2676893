"""What a plan says of itself: the way of working, what it costs, how sure it is."""

from __future__ import annotations

from holoptic.plan.moves import Budget, Effort, Plan, Saving, Way
from holoptic.plan.strategies import STRATEGY_TITLES
from holoptic.units.spoken import counted, measure

_ORDER_TITLES = {"by-feature": "by feature", "batched": "instruments batched"}


def way_title(way: Way) -> str:
    """Return the name of a way of working.

    >>> way_title(Way("faces-first", "batched", "soon", "", False))
    'faces first, instruments batched'
    """
    return f"{STRATEGY_TITLES[way.strategy]}, {_ORDER_TITLES[way.order]}"


def way_words(way: Way | None) -> str:
    """Return the way of working with its reason."""
    return f"{way_title(way)}: {way.why}" if way else ""


def minutes(seconds: float) -> str:
    """Return a time in words of minutes.

    >>> minutes(1990), minutes(40)
    ('33 min', '1 min')
    """
    return f"{max(round(seconds / 60), 1)} min"


def effort_words(effort: Effort | None) -> str:
    """Return what moves cost the hand."""
    if effort is None:
        return ""
    return f"about {minutes(effort.seconds)}: {counted(effort.settings, 'setting')}, " \
           f"{counted(effort.squares, 'turn')} of the square, " \
           f"{counted(effort.pick_ups, 'change')} of instrument"  # fmt: skip


def saving_words(saving: Saving | None) -> str:
    """Return what batching spares, and how near that is to the best that any order could do."""
    if saving is None:
        return ""
    before, after, least = saving.written, saving.batched, saving.least
    spared = before.seconds - after.seconds
    return f"{after.changes} settings and changes instead of {before.changes}, about " \
           f"{minutes(spared)} less; no order gets below {least.changes}"  # fmt: skip


def budget_words(budget: Budget | None) -> str:
    """Return the errors to expect, its lengths marked (`units.spoken`)."""
    if budget is None:
        return ""
    name, worst = budget.worst
    closure = measure(round(2 * budget.closure, 1)) if budget.closure else ""
    closes = f"; the back corner closes to ± {closure}" if closure else ""
    return (
        f"to expect: points {measure(round(budget.typical, 1))} off, at most {name} "
        f"{measure(round(worst, 1))}{closes}"
    )


def plan_summary(plan: Plan) -> list[str]:
    """Return what a plan says of itself, line by line, its lengths marked (`units.spoken`)."""
    lines = (way_words(plan.way), effort_words(plan.effort), saving_words(plan.saving),
             budget_words(plan.budget))  # fmt: skip
    return [line for line in lines if line]
