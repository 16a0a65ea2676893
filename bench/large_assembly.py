"""An assembly of ten plates, 19,590 faces, looked at: seconds, and the memory of the process.

Run: .venv/bin/python -m bench.large_assembly [PLATES]
"""

from __future__ import annotations

import resource
import sys
import time

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


def main() -> None:
    """Print the seconds of each step."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 10
    shape, view = stack(count), view_of("isometric")
    Tidying()  # as in the worker
    start = time.perf_counter()
    solid = SeenSolid(shape)
    prepared = time.perf_counter()
    look = solid.look(view.toward_viewer)
    looked = time.perf_counter()
    picture = draw(look, view)
    drawn = time.perf_counter()
    print(f"{len(solid.facts.edges)} edges of {solid.facts.bodies} bodies: "
          f"prepared {prepared - start:.1f} s, looked at {looked - prepared:.1f} s, "
          f"drawn {drawn - looked:.1f} s, {len(picture.strokes)} strokes")  # fmt: skip
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"peak memory {peak:.0f} MB")


if __name__ == "__main__":
    main()
