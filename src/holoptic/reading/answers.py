"""Every way to fill the cells that a drawing allows; where there is none, the nearest one."""

from __future__ import annotations

import random
import time
from collections.abc import Sequence
from dataclasses import dataclass
from threading import Timer

import numpy as np
from pysat.examples.rc2 import RC2
from pysat.formula import WCNF
from pysat.solvers import Cadical153, Cadical195

from holoptic.reading.clauses import Clause

Filling = np.ndarray
"""For each cell whether it is full (bool)."""


@dataclass(frozen=True)
class Nearest:
    """The filling that breaks fewest demands, and which ones (their indices)."""

    filling: Filling
    broken: tuple[int, ...]


def fillings(clauses: Sequence[Clause], cells: int, most: int) -> list[Filling]:
    """Return up to `most` fillings that meet all clauses; none for contradictory ones."""
    found: list[Filling] = []
    with Cadical195(bootstrap_with=[list(clause.literals) for clause in clauses]) as solver:
        solver.add_clause(list(range(1, cells + 1)))  # something is there
        while len(found) < most and solver.solve():
            model = {literal for literal in solver.get_model() or () if literal > 0}
            filling = np.array([cell + 1 in model for cell in range(cells)], bool)
            found.append(filling)
            solver.add_clause([-(c + 1) if full else c + 1 for c, full in enumerate(filling)])
    return found


def nearest(
    clauses: Sequence[Clause], cells: int, weights: Sequence[int],
    neighbours: Sequence[tuple[int, int]], seconds: float = 6.0,
) -> Nearest | None:  # fmt: skip
    """Return the filling that breaks demands of least weight; None past the time limit.

    Of equal ones that with the fewest changes between neighbours is taken, if there is time.
    """
    top = max((abs(x) for clause in clauses for x in clause.literals), default=cells)
    sources = sorted({clause.source for clause in clauses if clause.source >= 0})
    selector = {source: top + 1 + k for k, source in enumerate(sources)}
    formula = WCNF()
    formula.append(list(range(1, cells + 1)))
    for clause in clauses:
        if clause.source < 0:
            formula.append(list(clause.literals))
            continue
        formula.append([*clause.literals, -selector[clause.source]])
    for source, variable in selector.items():
        formula.append([variable], weight=weights[source])
    full = _least(formula, seconds)
    if full is None:
        return None
    broken = tuple(source for source in sources if selector[source] not in full)
    full = _smoothest(clauses, cells, set(broken), neighbours, top, seconds / 2) or full
    return Nearest(np.array([cell + 1 in full for cell in range(cells)], bool), broken)


ALWAYS, ASIDE = -1, -2
_TRIES = 12


def conflict(
    clauses: Sequence[Clause], groups: dict[int, int], cells: int, seconds: float = 2.0
) -> frozenset[int]:
    """Return groups of demands that cannot hold together, none of which can be left out.

    `groups` gives the group of each demand, ALWAYS for one that holds in any case, or ASIDE for
    one that is not asked. Of several such sets, found in different orders as
    long as time allows, the smallest; none where the demands agree or contradict without groups.
    """
    top = max((abs(x) for clause in clauses for x in clause.literals), default=cells)
    asked = sorted(set(groups.values()) - {ALWAYS, ASIDE})
    selector = {group: top + 1 + k for k, group in enumerate(asked)}
    best: frozenset[int] = frozenset()
    end = time.monotonic() + seconds
    with Cadical153() as solver:
        solver.add_clause(list(range(1, cells + 1)))
        for clause in clauses:
            group = groups.get(clause.source, ASIDE) if clause.source >= 0 else ALWAYS
            if group != ASIDE:
                solver.add_clause(
                    [*clause.literals, *([-selector[group]] if group != ALWAYS else [])]
                )
        order, dice = list(selector), random.Random(0)
        for _ in range(_TRIES):
            found = _irreducible(solver, order, selector, end)
            if found and (not best or len(found) < len(best)):
                best = found
            if not found or time.monotonic() > end:
                break
            dice.shuffle(order)
    return best


def _irreducible(
    solver: Cadical153, order: list[int], selector: dict[int, int], end: float
) -> frozenset[int]:
    """Leave groups out one by one as long as the rest still cannot hold together."""
    group_of = {variable: group for group, variable in selector.items()}
    if solver.solve(assumptions=[selector[group] for group in order]):
        return frozenset()
    core = {group_of[v] for v in solver.get_core() or ()}
    for group in order:
        if group not in core or time.monotonic() > end:
            continue
        rest = [selector[other] for other in core if other != group]
        if not solver.solve(assumptions=rest):
            core = {group_of[v] for v in solver.get_core() or ()}
    return frozenset(core)


def _smoothest(
    clauses: Sequence[Clause], cells: int, broken: set[int],
    neighbours: Sequence[tuple[int, int]], top: int, seconds: float,
) -> set[int] | None:  # fmt: skip
    """Return what is full where all demands but the broken ones hold and least changes."""
    formula = WCNF()
    formula.append(list(range(1, cells + 1)))
    for clause in clauses:
        if clause.source not in broken:
            formula.append(list(clause.literals))
    for number, (a, b) in enumerate(neighbours, top + 1):
        formula.append([-(a + 1), b + 1, number])
        formula.append([a + 1, -(b + 1), number])
        formula.append([-number], weight=1)
    return _least(formula, seconds)


def _least(formula: WCNF, seconds: float) -> set[int] | None:
    """Return the variables that hold in a solution of least weight, or None past the limit."""
    with RC2(formula) as solver:
        timer = Timer(seconds, solver.interrupt)
        timer.start()
        try:
            model = solver.compute(expect_interrupt=True)
        finally:
            timer.cancel()
    return None if model is None else {literal for literal in model if literal > 0}
