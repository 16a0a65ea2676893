"""Hidden lines over the raw kernel call on the same solid, and how they grow.

Run: .venv/bin/python -m bench.ratios [LARGEST PLATE'S COLUMNS]
"""

from __future__ import annotations

import math
import sys
import time
from collections.abc import Callable, Iterator
from typing import NamedTuple

from OCP.BRepBuilderAPI import BRepBuilderAPI_Copy
from OCP.TopoDS import TopoDS_Shape

from bench.large_step import plate
from bench.pictorial_ratio import raw_call
from bench.solids import comb, demo_parts, drilled_plate
from holoptic.keeping import forget_everything
from holoptic.leftovers import Tidying
from holoptic.part.provenance import operations_finder
from holoptic.solid.anatomy.facts import OperationsAt, no_operations
from holoptic.solid.making.stages import build
from holoptic.solid.seeing.hidden import SeenSolid

_DIRECTION, _OTHER = (1.0, -1.0, 1.0), (-0.7, -1.0, 0.6)
_ROUNDS = 7


class Measured(NamedTuple):
    """What was measured of one solid; times in ms."""

    name: str
    edges: int
    raw: float
    again: float
    first: float

    @property
    def again_ratio(self) -> float:
        """Another direction of a solid that is prepared, over the raw call."""
        return self.again / self.raw

    @property
    def first_ratio(self) -> float:
        """The very first direction, all preparation included, over the raw call."""
        return self.first / self.raw

    @property
    def row(self) -> str:
        """It as a row of the table."""
        return (f"| {self.name} | {self.edges} | {self.raw:.2f} | {self.again:.2f} | "
                f"{self.again_ratio:.3f} | {self.first:.2f} | "
                f"{self.first_ratio:.2f} |")  # fmt: skip


HEAD = """| solid | edges | raw call ms | another direction ms | ratio | first ms | ratio |
|---|---|---|---|---|---|---|"""


def best(action: Callable[[], object], rounds: int = _ROUNDS) -> float:
    """Return the least time that an action takes, ms."""
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        action()
        times.append(time.perf_counter() - start)
    return 1000 * min(times)


def measured(name: str, shape: TopoDS_Shape, operations_at: OperationsAt) -> Measured:
    """Measure one solid. What is looked at first is a copy that nothing is known of."""
    seen = SeenSolid(shape, operations_at)
    edges = len(seen.facts.edges)
    Tidying()  # as in the worker
    few = 1 if edges > 3000 else 3 if edges > 600 else _ROUNDS
    raw = best(lambda: raw_call(shape), few)
    again = best(lambda: (seen.forget_looks(), seen.look(_OTHER)))
    firsts = []
    for _ in range(min(few + 1, _ROUNDS)):
        copy = BRepBuilderAPI_Copy(shape).Shape()
        forget_everything()
        start = time.perf_counter()
        SeenSolid(copy, operations_at).look(_DIRECTION)
        firsts.append(1000 * (time.perf_counter() - start))
    return Measured(name, edges, raw, again, min(firsts))


def solids(columns: int) -> Iterator[tuple[str, TopoDS_Shape, OperationsAt]]:
    """Yield demo parts, a comb, and plates of stepped holes up to so many columns."""
    for part in (*demo_parts(), comb(20), drilled_plate(5, 4), drilled_plate(10, 6)):
        yield part.name, build(part), operations_finder(part)
    for wide in (4, 8, 16, 31):
        if wide <= columns:
            high = round(wide * 21 / 31)
            yield f"plate of {wide} × {high} stepped holes", plate(wide, high), no_operations


def growth(found: list[Measured]) -> float:
    """Return the power of the number of edges by which time grows, over the plates, if several."""
    points = [
        (math.log(item.edges), math.log(item.again)) for item in found if "plate of" in item[0]
    ]
    if len(points) < 2:
        return math.nan
    mean_x, mean_y = (sum(values) / len(points) for values in zip(*points, strict=True))
    across = sum((x - mean_x) ** 2 for x, _ in points)
    return sum((x - mean_x) * (y - mean_y) for x, y in points) / across


def main() -> None:
    """Print a row per solid."""
    columns = int(sys.argv[1]) if len(sys.argv) > 1 else 16
    print(HEAD)
    found = []
    for name, shape, operations_at in solids(columns):
        item = measured(name, shape, operations_at)
        found.append(item)
        print(item.row, flush=True)
    print(f"\nTime of another direction grows with the number of edges to the {growth(found):.2f}.")


if __name__ == "__main__":
    main()
