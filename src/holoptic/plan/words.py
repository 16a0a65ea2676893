"""What a plan says of itself: the way of working, what it costs, how sure it is."""

from __future__ import annotations

from holoptic.catalogue import ntr, tr
from holoptic.plan.moves import Budget, Effort, Plan, Saving, Way, bears_letter
from holoptic.plan.strategies import strategy_title
from holoptic.units.spoken import measure

_ORDER_TITLES = {"by-feature": tr("by feature"), "batched": tr("instruments batched")}


_PHASES = {
    "sheet": tr("sheet"), "start": tr("start"), "crate": tr("crate"), "firm in": tr("firm in"),
    "check": tr("check"), "centre lines": tr("centre lines"), "settings": tr("settings"),
    "compass": tr("compass"), "level lines": tr("level lines"), "uprights": tr("uprights"),
    "joins and marks": tr("joins and marks"), "axis lines": tr("axis lines"),
    "numbers and list": tr("numbers and list"), "hidden lines": tr("hidden lines"),
    "heavy lines": tr("heavy lines"), "dimensions": tr("dimensions"),
    "lettering": tr("lettering"), "shading": tr("shading"),
}  # fmt: skip
_SLANTING = "lines at "


def phase_title(phase: str, short: bool = False) -> str:
    """Return what a reader calls a phase of a plan; in short without the word carve."""
    kind, _, name = phase.partition(": ")
    if kind == "carve":
        return name if short else tr("carve: {name}", name=name)
    if kind == "part":
        return name if short else tr("part: {name}", name=name)
    if kind == "figure":
        return tr("figure: {name}", name=name)
    if kind == "face":
        return tr("face: {name}", name=tr(name))
    if phase.startswith(_SLANTING):
        return tr("lines at {angle}", angle=phase[len(_SLANTING) :])
    return _PHASES.get(phase, phase)


def way_title(way: Way) -> str:
    """Return the name of a way of working.

    >>> way_title(Way("faces-first", "batched", "soon", "", False))
    'faces first, instruments batched'
    """
    return f"{strategy_title(way.strategy)}, {_ORDER_TITLES[way.order]}"


def way_words(way: Way | None) -> str:
    """Return the way of working with its reason."""
    return f"{way_title(way)}: {way.why}" if way else ""


def minutes(seconds: float) -> str:
    """Return a time in words of minutes.

    >>> minutes(1990), minutes(40)
    ('33 min', '1 min')
    """
    return tr("{seconds} min", seconds=max(round(seconds / 60), 1))


def effort_words(effort: Effort | None) -> str:
    """Return what moves cost the hand."""
    if effort is None:
        return ""
    return tr(
        "about {seconds}: {settings}, {squares} of the square, {pick_ups} of instrument",
        seconds=minutes(effort.seconds),
        settings=ntr("{count} setting", "{count} settings", effort.settings),
        squares=ntr("{count} turn", "{count} turns", effort.squares),
        pick_ups=ntr("{count} change", "{count} changes", effort.pick_ups),
    )


def saving_words(saving: Saving | None) -> str:
    """Return what batching spares, and how near that is to the best that any order could do."""
    if saving is None:
        return ""
    before, after, least = saving.written, saving.batched, saving.least
    spared = before.seconds - after.seconds
    return tr(
        "{changes} settings and changes instead of {changes2}, about "
        "{spared} less; no order gets below {changes3}",
        changes=after.changes,
        changes2=before.changes,
        spared=minutes(spared),
        changes3=least.changes,
    )


def budget_words(budget: Budget | None) -> str:
    """Return the errors to expect, its lengths marked (`units.spoken`)."""
    if budget is None:
        return ""
    name, worst = budget.worst
    places = {
        "typical": measure(round(budget.typical, 1)),
        "name": name,
        "worst": measure(round(worst, 1)),
    }
    if not budget.closure:
        return tr("to expect: points {typical} off, at most {name} {worst}", **places)
    return tr(
        "to expect: points {typical} off, at most {name} {worst}; "
        "the back corner closes to ± {closure}",
        closure=measure(round(2 * budget.closure, 1)),
        **places,
    )


def stroke_names(plan: Plan) -> dict[str, str]:
    """Return what a reader calls the strokes of a plan, by their names: by the letters at their
    ends, else by the move that draws them.
    """
    found = {}
    for move in plan.moves:
        if move.verb in ("firm in", "go over"):
            ends = move.uses[:2]
            named = "–".join(ends) if all(map(bears_letter, ends)) else ""
            found[move.makes[0]] = named or tr("line of move {n}", n=move.n)
    return found


def plan_summary(plan: Plan) -> list[str]:
    """Return what a plan says of itself, line by line, its lengths marked (`units.spoken`)."""
    lines = (way_words(plan.way), effort_words(plan.effort), saving_words(plan.saving),
             budget_words(plan.budget))  # fmt: skip
    return [line for line in lines if line]
