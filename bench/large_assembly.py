"""An assembly of ten plates, 19,590 faces, looked at: seconds, and the memory of the process.

Run: .venv/bin/python -m bench.large_assembly [PLATES]
"""

from __future__ import annotations

import resource
import sys
import time
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from typing import NamedTuple

from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.gp import gp_Trsf, gp_Vec
from OCP.TopoDS import TopoDS_Shape

from bench.large_step import plate
from holoptic.leftovers import Tidying
from holoptic.pictorial import draw, view_of
from holoptic.solid.anatomy.kernel_shapes import together
from holoptic.solid.seeing.hidden import SeenSolid

_APART_MM = 24.5


def stack(count: int) -> TopoDS_Shape:
    """Return plates over one another as one shape of several bodies."""
    one, plates = plate(31, 21), []
    for number in range(count):
        place = gp_Trsf()
        place.SetTranslation(gp_Vec(3.5 * number, 2.0 * number, _APART_MM * number))
        plates.append(BRepBuilderAPI_Transform(one, place, True).Shape())
    return together(plates)


class Steps(NamedTuple):
    """How long each step took, s; how much there was, and the process's peak memory, MB."""

    prepared: float
    looked: float
    drawn: float
    edges: int
    bodies: int
    strokes: int
    memory: float

    @property
    def together(self) -> float:
        """Seconds from the solid to its picture."""
        return self.prepared + self.looked + self.drawn


def steps(count: int) -> Steps:
    """Return how it goes with some plates, in this process."""
    shape, view = stack(count), view_of("isometric")
    Tidying()  # as in the worker
    start = time.perf_counter()
    solid = SeenSolid(shape)
    prepared = time.perf_counter()
    look = solid.look(view.toward_viewer)
    looked = time.perf_counter()
    picture = draw(look, view)
    drawn = time.perf_counter()
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    return Steps(prepared - start, looked - prepared, drawn - looked, len(solid.facts.edges),
                 solid.facts.bodies, len(picture.strokes), peak)  # fmt: skip


def apart(count: int) -> Steps:
    """Return how it goes in a process of its own."""
    with ProcessPoolExecutor(1, get_context("spawn")) as pool:
        return pool.submit(steps, count).result()


def main() -> None:
    """Print the seconds of each step."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 10
    found = steps(count)
    print(f"{found.edges} edges of {found.bodies} bodies: prepared {found.prepared:.1f} s, "
          f"looked at {found.looked:.1f} s, drawn {found.drawn:.1f} s, {found.strokes} strokes, "
          f"{found.memory:.0f} MB")  # fmt: skip


if __name__ == "__main__":
    main()
