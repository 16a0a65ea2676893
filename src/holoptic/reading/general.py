"""Reads views into a solid bounded by its faces: solve, look at what comes of it, demand, again.

Whatever a drawing demands at the places that were asked, a filling may still show lines elsewhere
that are not drawn. So its solid is made and looked at; where it shows a line too many, that none
shows there becomes a demand as well.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from itertools import pairwise

import numpy as np
from pysat.solvers import Cadical195

from holoptic.curves.vectors import Vec2
from holoptic.errors import HolopticError
from holoptic.part.whole import PartSource
from holoptic.reading.bounds import Bounds
from holoptic.reading.clauses import Clause, Writer
from holoptic.reading.columns import Columns, Demand
from holoptic.reading.compare import compare
from holoptic.reading.kernel import Kernel
from holoptic.reading.lines import DrawnView
from holoptic.reading.planes import PLANES
from holoptic.reading.result import Answer, Difference
from holoptic.reading.space import Space
from holoptic.tolerance import SHARE

_MOST_LOOKS = 60
_PLACES = (0.5, 0.17, 0.83)


class Refining:
    """Reads one space, whose demands stand in `clauses` written by `writer`."""

    def __init__(
        self, space: Space, writer: Writer, clauses: Sequence[Clause], given: Sequence[DrawnView],
        kernel: Kernel, name: str, wanted: tuple[str, ...], tell: Callable[[], None],
    ) -> None:  # fmt: skip
        self._space, self._writer, self._given = space, writer, given
        self._kernel, self._name, self._wanted, self._tell = kernel, name, wanted, tell
        self._columns = Columns(space)
        self._solver = Cadical195(bootstrap_with=[list(clause.literals) for clause in clauses])
        self._solver.add_clause([writer.variable(cell) for cell in range(space.sampled)])
        self._written = len(writer.clauses)
        self.nearest: Answer | None = None

    def answers(self, most: int) -> Iterator[Answer]:
        """Yield solids whose views account for all lines, each once, as they are found."""
        found: list[Answer] = []
        for _ in range(_MOST_LOOKS):
            self._tell()
            filling = self._solve()
            if filling is None:
                return
            answer = self._made(filling)
            differences = answer.differences if answer else ()
            if answer is not None and not differences:
                if not any(self._is_same(answer, other) for other in found):
                    found.append(answer)
                    yield answer
                if len(found) == most:
                    return
            if answer is None or not self._learn(differences):
                self._forbid(filling)

    def close(self) -> None:
        """Let the solver go."""
        self._solver.delete()

    def _solve(self) -> np.ndarray | None:
        """Return the next filling: for each cell that is known by now whether it is full."""
        if not self._solver.solve():
            return None
        model = {literal for literal in self._solver.get_model() or () if literal > 0}
        count = self._space.count
        full = np.array([self._writer.variable(cell) in model for cell in range(count)], bool)
        return self._one_body(full)

    def _one_body(self, full: np.ndarray) -> np.ndarray:
        return full

    def _made(self, filling: np.ndarray) -> Answer | None:
        """Return the solid of a filling and how its views differ; None where none comes of it."""
        bounds = Bounds(self._space, filling)
        try:
            solid: PartSource = self._kernel.bound(
                self._name, self._space.sizes, bounds.walls(), bounds.is_full
            )
            views, volume = self._kernel.show(solid, self._wanted)
        except HolopticError:
            return None
        answer = Answer(solid, tuple(views), volume, tuple(compare(self._given, views)))
        if self.nearest is None or _amount(answer) < _amount(self.nearest):
            self.nearest = answer
        return answer

    def _learn(self, differences: Sequence[Difference]) -> bool:
        """Demand that no line shows where one is too many; say whether that says anything new."""
        demands = [demand for one in differences if one.kind == "missing"
                   for demand in self._absent(one)]  # fmt: skip
        before = len(self._writer.clauses)
        self._writer.write_all(demands, first=10_000_000)
        fresh = self._writer.clauses[before:]
        for clause in fresh:
            self._solver.add_clause(list(clause.literals))
        return bool(fresh)

    def _absent(self, difference: Difference) -> Iterator[Demand]:
        """Yield what it means that a stretch is not drawn."""
        view = self._space.views[PLANES[difference.view].depth]
        path = difference.path
        lengths = np.cumsum([0.0, *(float(np.hypot(c - a, d - b))
                                    for (a, b), (c, d) in pairwise(path))])  # fmt: skip
        for share in _PLACES:
            at = min(int(np.searchsorted(lengths, share * lengths[-1], "right")) - 1, len(path) - 2)
            (a, b), (c, d) = path[at], path[at + 1]
            size = float(np.hypot(c - a, d - b))
            if size == 0:
                continue
            rest = (share * lengths[-1] - lengths[at]) / size
            place: Vec2 = (a + rest * (c - a), b + rest * (d - b))
            across = (d - b) / size, (a - c) / size
            settled = place
            if len(path) > 2:
                found = self._columns.settled(view, place, across)
                if found is None:
                    continue
                settled = found
            yield from self._columns.demand(view, settled, across, "absent", (), "look")

    def _forbid(self, filling: np.ndarray) -> None:
        variables = [self._writer.variable(cell) for cell in range(self._space.sampled)]
        self._solver.add_clause(
            [-v if full else v for v, full in zip(variables, filling, strict=False)]
        )

    def _is_same(self, one: Answer, other: Answer) -> bool:
        """Say whether answers are one solid: as large, and alike from all sides."""
        if abs(one.volume - other.volume) > SHARE * one.volume:
            return False
        names = tuple(PLANES)
        views = [self._kernel.show(answer.part, names)[0] for answer in (one, other)]
        return not compare(*views)


def _amount(answer: Answer) -> float:
    return sum(difference.length for difference in answer.differences)
