"""The demands of a drawing as clauses over the cells: full (true) or empty (false).

At a group *no* edge shows if nothing changes on either side, or if the same changes happen on both
with parallel normals. Any other change makes an edge; the diagonal pattern, full cells that touch
along the line only, is no solid. Where the surfaces differ but pass smoothly into each other, a
line may be drawn or left out.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

from holoptic.reading.columns import Demand, Event, Group, sine_between
from holoptic.tolerance import LEANING, ROUNDING

_PARALLEL = LEANING
"""The sine of the angle below which two surfaces are taken to pass smoothly into each other."""
_MOST_CELLS = 9

NONE, EDGE, SMOOTH, BROKEN = range(4)
"""What a group shows: no edge, an edge, a smooth change of surface, no solid at all."""


FROM_NOTHING = -1
"""The source of clauses that come from no place of a drawing."""


@dataclass(frozen=True)
class Clause:
    """Literals of which one must hold; `source` is the index of the demand it comes from."""

    literals: tuple[int, ...]
    source: int


class Writer:
    """Turns demands into clauses; cell c is variable c + 1, further variables follow. Cells that
    come up later have variables after these.
    """

    def __init__(self, cells: int) -> None:
        self._cells, self._next = cells, cells + 1
        self._later: dict[int, int] = {}
        self.clauses: list[Clause] = []
        self._written: set[tuple[object, ...]] = set()

    @property
    def variables(self) -> int:
        """How many variables are in use."""
        return self._next - 1

    def write_all(self, demands: Iterable[Demand], first: int = 0) -> None:
        """Write the clauses of demands; `source` counts them from the `first`."""
        for source, demand in enumerate(demands, first):
            self.write(demand, source)

    def variable(self, cell: int) -> int:
        """Return the variable of a cell."""
        if cell < self._cells:
            return cell + 1
        if cell not in self._later:
            self._later[cell] = self.fresh()
        return self._later[cell]

    def forget(self) -> None:
        """Write what was written already anew, where another place says it again."""
        self._written.clear()

    def write(self, demand: Demand, source: int) -> None:
        """Write the clauses of a demand."""
        tables = [_table_of(group) for group in demand.groups]
        key = (
            demand.seen,
            tuple((t, g.nearer) for t, g in zip(tables, demand.groups, strict=True)),
        )
        if key in self._written:
            return  # another place says the same
        self._written.add(key)
        for cells, outcomes in tables:
            self._forbid(cells, outcomes, BROKEN, source)
            if demand.seen == "absent":
                self._forbid(cells, outcomes, EDGE, source)
        if demand.seen == "absent":
            return
        choices = []
        for group, (cells, outcomes) in zip(demand.groups, tables, strict=True):
            if demand.seen == "hidden":
                near = tuple(self.variable(cell) for cell in group.nearer)
                self._forbid(cells, outcomes, EDGE, source, near)
            if not any(outcome in (EDGE, SMOOTH) for outcome in outcomes):
                continue
            shows = self.fresh()
            choices.append(shows)
            self._forbid(cells, outcomes, NONE, source, (-shows,))
            if demand.seen == "visible":
                for cell in group.nearer:
                    self._add((-shows, -self.variable(cell)), source)
            else:
                self._add((-shows, *near), source)
        self._add(tuple(choices), source)

    def _forbid(
        self, cells: tuple[int, ...], outcomes: tuple[int, ...], unwanted: int, source: int,
        unless: tuple[int, ...] = (),
    ) -> None:  # fmt: skip
        """Forbid every filling of some cells that has an unwanted outcome."""
        for filling, outcome in zip(product((False, True), repeat=len(cells)), outcomes,
                                    strict=True):  # fmt: skip
            if outcome == unwanted:
                literals = tuple(
                    -self.variable(cell) if full else self.variable(cell)
                    for cell, full in zip(cells, filling, strict=True)
                )
                self._add((*unless, *literals), source)

    def _add(self, literals: tuple[int, ...], source: int) -> None:
        self.clauses.append(Clause(literals, source))

    def fresh(self) -> int:
        """Return a variable that nothing stands for yet."""
        self._next += 1
        return self._next - 1


def _table_of(group: Group) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """Return the cells of a group, and what it shows for each filling of them."""
    sequence = [*group.left.cells, *group.right.cells]
    cells = tuple(dict.fromkeys(cell for cell in sequence if cell >= 0))
    if len(cells) > _MOST_CELLS:
        cells = cells[:_MOST_CELLS]
    numbers = {cell: k for k, cell in enumerate(cells)}
    left = tuple(numbers.get(cell, -1) for cell in group.left.cells)
    right = tuple(numbers.get(cell, -1) for cell in group.right.cells)
    alike = tuple(tuple(_alike(a, b) for b in group.right.events) for a in group.left.events)
    return cells, _table(left, right, alike, len(cells))


def _alike(a: Event, b: Event) -> int:
    """Return 2 for events of one surface, 1 for smoothly joining ones, 0 for an angle."""
    if sine_between(a, b) > _PARALLEL:
        return 0
    is_same = a.line == b.line or sine_between(a, b) < ROUNDING
    return 2 if is_same else 1


@lru_cache(maxsize=20_000)
def _table(
    left: tuple[int, ...], right: tuple[int, ...], alike: tuple[tuple[int, ...], ...], count: int
) -> tuple[int, ...]:
    return tuple(
        _outcome(left, right, alike, filling) for filling in product((False, True), repeat=count)
    )


def _outcome(
    left: tuple[int, ...], right: tuple[int, ...], alike: tuple[tuple[int, ...], ...],
    filling: tuple[bool, ...],
) -> int:  # fmt: skip
    a, b = list(_changes(left, filling)), list(_changes(right, filling))
    if not a and not b:
        return NONE
    if len(a) != len(b):
        return EDGE
    if any(full != other for (_, full), (_, other) in zip(a, b, strict=True)):
        return BROKEN if len(a) == 1 else EDGE
    likeness = min(alike[i][k] for (i, _), (k, _) in zip(a, b, strict=True))
    return (EDGE, SMOOTH, NONE)[likeness]


def _changes(sequence: tuple[int, ...], filling: tuple[bool, ...]) -> Iterator[tuple[int, bool]]:
    """Yield the events at which a sequence of cells changes, and to what."""
    state = sequence[0] >= 0 and filling[sequence[0]]
    for number, cell in enumerate(sequence[1:]):
        full = cell >= 0 and filling[cell]
        if full != state:
            yield number, full
            state = full
