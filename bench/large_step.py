"""A STEP file of 2,000 faces: how long the worker takes with it, and how much memory.

Run: .venv/bin/python -m bench.large_step [COLUMNS ROWS]
"""

from __future__ import annotations

import resource
import sys
import tempfile
import time
from pathlib import Path

from OCP.BRep import BRep_Builder
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.TopoDS import TopoDS_Compound, TopoDS_Shape

from holoptic.job import pose
from holoptic.solid.making.step import write_solid
from holoptic.worker.client import Worker

_PITCH = 13.5


def plate(columns: int, rows: int) -> TopoDS_Shape:
    """Return a plate with a counterbored hole (three faces) at every place of a grid."""
    made = BRepPrimAPI_MakeBox(_PITCH * (columns + 0.2), _PITCH * (rows + 0.2), 9.5).Shape()
    for radius, bottom in ((2.3, -1.0), (4.6, 5.5)):  # tools that overlap would not all be cut
        tools = TopoDS_Compound()
        builder = BRep_Builder()
        builder.MakeCompound(tools)
        for column in range(columns):
            for row in range(rows):
                place = _PITCH * (column + 0.6), _PITCH * (row + 0.6)
                axis = gp_Ax2(gp_Pnt(*place, bottom), gp_Dir(0, 0, 1))
                builder.Add(tools, BRepPrimAPI_MakeCylinder(axis, radius, 20).Shape())
        made = BRepAlgoAPI_Cut(made, tools).Shape()
    return made


def write_plate(path: Path, columns: int, rows: int) -> None:
    """Write such a plate as a STEP file."""
    write_solid(plate(columns, rows), str(path), "grille")


def main() -> None:
    """Print the seconds of each stage, and the worker's peak memory."""
    columns, rows = (int(text) for text in sys.argv[1:3]) if len(sys.argv) > 2 else (31, 21)
    with tempfile.TemporaryDirectory() as folder, Worker() as worker:
        path = Path(folder) / "grille.step"
        start = time.perf_counter()
        write_plate(path, columns, rows)
        print(f"made in {time.perf_counter() - start:.1f} s: {columns * rows * 3 + 6} faces, "
              f"{path.stat().st_size / 1e6:.1f} MB")  # fmt: skip
        start = time.perf_counter()
        (solid,) = worker.ask("list_solids", str(path), patience=600)
        print(f"read {time.perf_counter() - start:.1f} s")
        for stage in ("views and picture", "the same again"):
            start = time.perf_counter()
            shown = worker.ask("present", pose(solid), patience=1200)
            print(f"{stage} {time.perf_counter() - start:.1f} s, "
                  f"{len(shown.picture.visible)} visible strokes")  # fmt: skip
    peak = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    print(f"worker's peak memory {peak:.0f} MB")


if __name__ == "__main__":
    main()
