"""Reads views into a solid bounded by its faces: solve, look at what comes of it, demand, again.

Whatever a drawing demands at the places that were asked, a filling may still show lines elsewhere
that are not drawn. So its solid is made and looked at; where it shows a line too many, that none
shows there becomes a demand as well.
"""

from __future__ import annotations

import time
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from itertools import pairwise

import numpy as np
from pysat.solvers import Cadical195

from holoptic.curves.vectors import Vec2
from holoptic.errors import HolopticError
from holoptic.part.walls import Panel
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
from holoptic.reading.space_walls import meetings, walls_of
from holoptic.tolerance import DRAWN_MM, GIVEN_MM, SHARE, SLIGHT

_MOST_LOOKS = 60
_MOST_FURTHER = 4
"""So many more once an answer is found: another one is hardly ever far."""
_MOST_ALIKE = 5
"""So often a solid may come back that nothing is learnt from."""
_SMALL = SLIGHT
"""A cell of less than this share of the whole makes no other part."""
_MOST_DOUBTED = 200
"""So many demands are given up; each cell is known by many."""
_SHAKY_MM = 4 * DRAWN_MM
"""Surfaces this near to each other may as well lie the other way round (length, mm)."""
_PLACES = (0.5, 0.17, 0.83)


class Refining:
    """Reads one space by its demands; `also` are clauses that hold in any case."""

    def __init__(
        self, space: Space, demands: Sequence[Demand], also: Sequence[Clause],
        given: Sequence[DrawnView], kernel: Kernel, name: str, wanted: tuple[str, ...],
        tell: Callable[[], None],
    ) -> None:  # fmt: skip
        self._space, self._given = space, given
        self._kernel, self._name, self._wanted, self._tell = kernel, name, wanted, tell
        self._columns = Columns(space)
        self._writer = Writer(space.count)
        self._demands: list[Demand] = []
        self._asked: dict[int, int] = {}
        """The variables that switch demands on, by demand."""
        self._solver = Cadical195()
        self._solver.add_clause([self._writer.variable(cell) for cell in range(space.sampled)])
        for clause in also:
            self._solver.add_clause(list(clause.literals))
        self._add(demands)
        self._doubted = 0
        self._walls = walls_of(space)
        atoms, inside = space.atoms, space.atoms.cells >= 0
        self._volumes = np.bincount(
            atoms.cells[inside], atoms.volumes[inside], minlength=space.sampled
        )
        self._unused: dict[int, int] = {}
        """The variables that leave walls unused, by wall."""
        self._add_walls()
        self.nearest: Answer | None = None

    def answers(self, most: int, end: float) -> Iterator[tuple[Answer, np.ndarray]]:
        """Yield solids whose views account for all lines, each once, as they are found, with their
        fillings; none after the `end` (monotonic seconds).
        """
        found: list[Answer] = []
        further = plain = 0
        seen: Counter[tuple[float, float]] = Counter()
        for _ in range(_MOST_LOOKS):
            self._tell()
            further += bool(found)
            if further > _MOST_FURTHER or time.monotonic() > end:
                return
            filling = self._solve(may_doubt=not found)
            if filling is None:
                return
            if found and len(filling[1]) > plain + 1:
                return  # whatever else it may be is less plain
            answer = self._made(*filling)
            differences = answer.differences if answer else ()
            if answer is not None and not differences:
                if not any(self._is_same(answer, other) for other in found):
                    found.append(answer)
                    plain = plain or len(filling[1])
                    yield answer, filling[0]
                if len(found) == most:
                    return
            if answer is None or not self._learn(differences):
                self._forbid(filling[0])
                if answer is not None and not found:
                    sort = round(answer.volume, 2), round(_amount(answer), 2)
                    seen[sort] += 1
                    if seen[sort] > _MOST_ALIKE:
                        return  # one solid, however the cells are filled that it does not tell

    def close(self) -> None:
        """Let the solver go."""
        self._solver.delete()

    def _add(self, demands: Sequence[Demand]) -> bool:
        """Ask for more; say whether that says anything new."""
        before = len(self._writer.clauses)
        self._writer.write_all(demands, first=len(self._demands))
        self._demands += demands
        fresh = self._writer.clauses[before:]
        for clause in fresh:
            if clause.source not in self._asked:
                self._asked[clause.source] = self._writer.fresh()
            self._solver.add_clause([*clause.literals, -self._asked[clause.source]])
        return bool(fresh)

    def _add_walls(self) -> None:
        """Let the cells on both sides of a wall be alike where it is not used."""
        found = meetings(self._space, self._walls)
        self._unused = {wall: self._writer.fresh() for *_, walls in found for wall in walls}
        for one, other, walls in found:
            unless = [-self._unused[wall] for wall in walls]
            literals = [self._writer.variable(cell) for cell in (one, other) if cell >= 0]
            if len(literals) == 1:
                self._solver.add_clause([*unless, -literals[0]])
            else:
                self._solver.add_clause([*unless, literals[0], -literals[1]])
                self._solver.add_clause([*unless, -literals[0], literals[1]])

    def _solve(self, may_doubt: bool) -> tuple[np.ndarray, set[int]] | None:
        """Return the next filling, for each cell that is known by now whether it is full, and the
        walls that it uses.

        Where demands cannot hold together, those that are most likely wrong are given up, a few.
        """
        used = self._fewest_used(may_doubt)
        if used is None:
            return None
        model = {literal for literal in self._solver.get_model() or () if literal > 0}
        full = [self._writer.variable(cell) in model for cell in range(self._space.count)]
        return np.array(full, bool), used

    def _fewest_used(self, may_doubt: bool) -> set[int] | None:
        """Find a filling that uses few walls, none of which can be spared; None where there is
        none. Those that only touch a surface are used last, as they are its outline mostly.
        """
        used: set[int] = set()
        while not self._solver.solve(assumptions=self._assumed(used)):
            core = set(self._solver.get_core() or ())
            spared = [wall for wall, variable in self._unused.items()
                      if variable in core and wall not in used]  # fmt: skip
            if spared:
                used.add(min(spared, key=self._reluctance))
                continue
            doubtful = [source for source, variable in self._asked.items() if variable in core]
            if not doubtful or not may_doubt or self._doubted == _MOST_DOUBTED:
                return None
            self._doubted += 1
            del self._asked[min(doubtful, key=lambda source: _trust(self._demands[source]))]
        for wall in sorted(used, key=self._reluctance, reverse=True):
            if self._solver.solve(assumptions=self._assumed(used - {wall})):
                used.remove(wall)
        self._solver.solve(assumptions=self._assumed(used))
        return used

    def _assumed(self, used: set[int]) -> list[int]:
        spared = (variable for wall, variable in self._unused.items() if wall not in used)
        return [*self._asked.values(), *spared]

    def _reluctance(self, number: int) -> int:
        wall = self._walls[number]
        return 2 if wall.touches else 1 if wall.surface is not None else 0

    def _made(self, filling: np.ndarray, used: set[int]) -> Answer | None:
        """Return the solid of a filling and how its views differ; None where none comes of it."""
        bounds = Bounds(self._space, self._walls, filling)
        panels = bounds.panels(used)
        shown = self._shown(panels, bounds)
        if shown is None:
            # where two walls all but touch, what lies between them may hang on hardly anything
            fewer = bounds.panels(used, alone=True)
            shown = self._shown(fewer, bounds) if len(fewer) < len(panels) else None
        if shown is None:
            return None
        solid, views, volume = shown
        answer = Answer(solid, tuple(views), volume, tuple(compare(self._given, views)))
        if self.nearest is None or _amount(answer) < _amount(self.nearest):
            self.nearest = answer
        return answer

    def _shown(
        self, panels: Sequence[Panel], bounds: Bounds
    ) -> tuple[PartSource, Sequence[DrawnView], float] | None:
        """Return the solid between panels, its views and volume; None where none comes of it."""
        try:
            solid: PartSource = self._kernel.bound(
                self._name, self._space.sizes, panels, bounds.is_full
            )
            views, volume = self._kernel.show(solid, self._wanted)
        except HolopticError:
            return None
        return solid, views, volume

    def _learn(self, differences: Sequence[Difference]) -> bool:
        """Demand that no line shows where one is too many; say whether that says anything new."""
        return self._add([demand for one in differences if one.kind == "missing"
                          for demand in self._absent(one)])  # fmt: skip

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
        """Look for no filling that differs from one in small bits alone."""
        cells = np.flatnonzero(self._volumes > _SMALL * self._volumes.sum()).tolist()
        self._solver.add_clause(
            [-self._writer.variable(c) if filling[c] else self._writer.variable(c) for c in cells]
        )

    def _is_same(self, one: Answer, other: Answer) -> bool:
        """Say whether answers are one solid: as large, and alike from all sides."""
        if abs(one.volume - other.volume) > SHARE * one.volume:
            return False
        names = tuple(PLANES)
        views = [self._kernel.show(answer.part, names)[0] for answer in (one, other)]
        return not compare(*views)


def _trust(demand: Demand) -> tuple[bool, int, float]:
    """Return how sure a demand is: one by surfaces that all but meet least, that of a drawn line
    most, and what lies apart from others.
    """
    sort = ("switch", "free", "break", "look", "line").index(demand.sort)
    depths = [event.at for group in demand.groups for column in (group.left, group.right)
              for event in column.events]  # fmt: skip
    gaps = np.diff(np.sort(depths)) if len(depths) > 1 else np.array([1.0])
    gap = float(gaps[gaps > GIVEN_MM].min(initial=1.0))
    return gap > _SHAKY_MM, sort, gap


def _amount(answer: Answer) -> float:
    return sum(difference.length for difference in answer.differences)
