"""Write the STEP file of the demo's round parts, and the job that pictures them.

Run after a change of the job file's format: .venv/bin/python scripts/make_round_parts.py
"""

from __future__ import annotations

import math
from pathlib import Path

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakeSphere,
    BRepPrimAPI_MakeTorus,
)
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.TopoDS import TopoDS_Shape

from holoptic.cli.sources import write_with_cover
from holoptic.job import Figure, Job, Pictorial, TitleEntries
from holoptic.part import ImportedSolid
from holoptic.solid.anatomy.kernel_shapes import tidy, together
from holoptic.solid.making.step import write_solid
from holoptic.worker.client import Worker

FOLDER = Path(__file__).parent.parent / "src" / "holoptic" / "demo"
NAME = "round-parts"


def upright(x: float, y: float, z: float) -> gp_Ax2:
    """Return an axis that points up from a place."""
    return gp_Ax2(gp_Pnt(x, y, z), gp_Dir(0, 0, 1))


def cylinder(x: float, y: float, z: float, radius: float, height: float) -> TopoDS_Shape:
    """Return an upright cylinder."""
    return BRepPrimAPI_MakeCylinder(upright(x, y, z), radius, height).Shape()


def fused(*shapes: TopoDS_Shape) -> TopoDS_Shape:
    """Return shapes as one."""
    whole = shapes[0]
    for shape in shapes[1:]:
        whole = BRepAlgoAPI_Fuse(whole, shape).Shape()
    return tidy(whole)


def without(whole: TopoDS_Shape, *tools: TopoDS_Shape) -> TopoDS_Shape:
    """Return a shape with others cut away."""
    for tool in tools:
        whole = BRepAlgoAPI_Cut(whole, tool).Shape()
    return tidy(whole)


def flange() -> TopoDS_Shape:
    """The counterbored flange that carries the lamp on its pier: six screws on a ring."""
    plate = without(
        fused(cylinder(0, 0, 0, 41.5, 11.5), cylinder(0, 0, 11.5, 22.5, 9.5)),
        cylinder(0, 0, -1, 14.5, 40),
    )
    for number in range(6):
        turn = math.radians(60 * number + 30)
        x, y = 32 * math.cos(turn), 32 * math.sin(turn)
        plate = without(plate, cylinder(x, y, -1, 2.75, 20), cylinder(x, y, 7.3, 4.9, 20))
    return plate


def lens_ring() -> TopoDS_Shape:
    """The ring that holds the lens: bevelled inside, with a groove round it."""
    x = 108
    ring = without(
        cylinder(x, 0, 0, 33.5, 13),
        cylinder(x, 0, -1, 24.5, 20),
        BRepPrimAPI_MakeCone(upright(x, 0, 8), 24.5, 29.5, 5.001).Shape(),
    )
    groove = BRepPrimAPI_MakeTorus(upright(x, 0, 6), 33.5, 2.2).Shape()
    return without(ring, groove)


def finial() -> TopoDS_Shape:
    """The roof cone with its ball finial."""
    x, y = 54, 88
    return fused(
        cylinder(x, y, 0, 34.5, 4.5),
        BRepPrimAPI_MakeCone(upright(x, y, 4.5), 31.5, 5.2, 29).Shape(),
        cylinder(x, y, 33.5, 3.4, 6.5),
        BRepPrimAPI_MakeSphere(upright(x, y, 45.2), 7.6, -math.pi / 2, math.pi / 2).Shape(),
    )


def main() -> None:
    """Write both files."""
    step = FOLDER / f"{NAME}.step"
    write_solid(together([flange(), lens_ring(), finial()]), str(step), "round parts")
    text = step.read_text("ascii").splitlines()
    # the moment of writing would make every run another file
    text = [line.replace(line.split("'")[3], "2026-11-23T12:00:00") if "FILE_NAME" in line
            else line for line in text]  # fmt: skip
    step.write_text("\n".join(text) + "\n", "ascii")
    names = (
        ("counterbored flange", "SLW-140", "front-right"),
        ("lens ring", "SLW-144", "front-right"),
        ("roof cone and finial", "SLW-147", "front-left"),
    )
    job = Job("Skerry Lamp Works: round parts", title=TitleEntries(date="2026-11-23"),
              id="skerry-round-parts")  # fmt: skip
    for index, (name, number, corner) in enumerate(names):
        figure = Figure("", "", Pictorial(corner=corner))
        job = job.with_added(ImportedSolid(name, str(step), index, number), figure)
    job = job.with_added(ImportedSolid("on the bench together", str(step), None, "SLW-149"))
    with Worker() as worker:
        write_with_cover(job, FOLDER / f"{NAME}.holoptic", worker)


if __name__ == "__main__":
    main()
