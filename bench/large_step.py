"""A STEP file of 2,000 faces: how long the worker takes with it, and how much memory.

Run: .venv/bin/python -m bench.large_step [COLUMNS ROWS]
"""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path
from typing import NamedTuple

from OCP.BRep import BRep_Builder
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.TopoDS import TopoDS_Compound, TopoDS_Shape

from holoptic.job import pose
from holoptic.solid.making.step import write_solid
from holoptic.worker.client import Worker

_PITCH = 13.5
LARGE = 31, 21
"""Columns and rows of a plate of 1,959 faces."""


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


class Stages(NamedTuple):
    """How long the worker took to read a file, for its picture, and for that once more, s; how
    many strokes are in sight, and the worker's peak memory, MB.
    """

    read: float
    picture: float
    again: float
    strokes: int
    memory: float


def stages(path: Path) -> Stages:
    """Return how a fresh worker gets on with a STEP file."""
    times = []
    with Worker() as worker:
        start = time.perf_counter()
        solid, *_ = worker.ask("list_solids", str(path), patience=600)
        times.append(time.perf_counter() - start)
        for _ in range(2):
            start = time.perf_counter()
            shown = worker.ask("present", pose(solid), patience=1200)
            times.append(time.perf_counter() - start)
        return Stages(*times, len(shown.picture.visible), peak_memory(worker.pid))


def peak_memory(process: int | None) -> float:
    """Return the most memory that a process has had, MB."""
    status = Path(f"/proc/{process}/status").read_text(encoding="ascii")
    (line,) = [line for line in status.splitlines() if line.startswith("VmHWM")]
    return int(line.split()[1]) / 1024


def main() -> None:
    """Print the seconds of each stage, and the worker's peak memory."""
    columns, rows = (int(text) for text in sys.argv[1:3]) if len(sys.argv) > 2 else LARGE
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "grille.step"
        write_plate(path, columns, rows)
        print(f"{columns * rows * 3 + 6} faces, {path.stat().st_size / 1e6:.1f} MB")
        found = stages(path)
    print(f"read {found.read:.1f} s, picture {found.picture:.1f} s, again {found.again:.1f} s, "
          f"{found.strokes} visible strokes")  # fmt: skip
    print(f"worker's peak memory {found.memory:.0f} MB")


if __name__ == "__main__":
    main()
