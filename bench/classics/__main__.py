"""Classics of the exercise sheet drawn as DXF views and read back.

Run: .venv/bin/python -m bench.classics [COUNT] [FAMILY,FAMILY] [HABIT]
(FAMILY:SEED for one; "all" for every family; a habit of `bench/classics/habits.py`, such as
"two views")
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from pathlib import Path

from bench.classics.families import FAMILIES, LAMP_PARTS
from bench.classics.habits import CURVES, LAYOUTS
from bench.classics.shapes import volume
from bench.reading import Tally
from holoptic.errors import HolopticError
from holoptic.exchange.dxf import dxf_bytes
from holoptic.job import TitleBlock, pose
from holoptic.part import ImportedSolid
from holoptic.sheet import views_sheet
from holoptic.solid.making.step import write_solid
from holoptic.worker.client import Worker

_SAME_SHARE = 1e-3


def main() -> None:
    """Print the table, and the failures under it."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    wanted = sys.argv[2].split(",") if len(sys.argv) > 2 else ["all"]
    wanted = list(FAMILIES) if wanted == ["all"] else wanted
    habit = sys.argv[3] if len(sys.argv) > 3 else ""
    print("| family | parts | unique and right | others | median | 95 % |")
    print("|---|---|---|---|---|---|")
    failures: list[str] = []
    with tempfile.TemporaryDirectory() as folder, Worker() as worker:
        for name in wanted:
            family, _, seed = name.partition(":")
            seeds = [int(seed)] if seed else list(range(count))
            tally = Tally()
            for one in seeds:
                outcome, seconds = read_back(worker, family, one, Path(folder), habit)
                tally.outcomes[outcome] += 1
                tally.seconds.append(seconds)
                if outcome != "right":
                    failures.append(f"{family}:{one} {outcome} {seconds:.1f} s")
            print(tally.row(family), flush=True)
    print("\n".join(failures))


def read_back(
    worker: Worker, family: str, seed: int, folder: Path, habit: str = ""
) -> tuple[str, float]:
    """Return what became of one solid's drawing, and the seconds that reading took."""
    solid = FAMILIES[family](random.Random(f"{family} {seed}"))
    path, angle, scale = draw_views(worker, solid, seed, folder, LAMP_PARTS[family], habit)
    begin = time.monotonic()
    try:
        sheet = worker.ask("open_sheet", str(path), angle)
        reading = worker.ask("read", tuple(sheet.arrangement.drawn_views()), "read")
    except HolopticError as error:
        return f"refused: {error}", time.monotonic() - begin
    seconds = time.monotonic() - begin
    meant = volume(solid) * scale**3
    is_right = any(abs(one.volume - meant) <= _SAME_SHARE * meant for one in reading.answers)
    if reading.verdict == "several":
        return "right among several" if is_right else "several, none right", seconds
    if reading.verdict != "unique":
        return reading.verdict, seconds
    return "right" if is_right else "wrong", seconds


def draw_views(
    worker: Worker, solid: object, seed: int, folder: Path, part: str = "exercise", habit: str = ""
) -> tuple[Path, str, float]:
    """Write three views of a solid as DXF, every other sheet in first angle, by a habit; return its
    scale.
    """
    step, path = folder / f"solid-{seed}-{time.monotonic_ns()}.step", folder / "views.dxf"
    write_solid(solid, str(step), "classic")  # type: ignore[arg-type]
    angle = "first" if seed % 2 else "third"
    solid_there = ImportedSolid("classic", str(step), 0)
    shown = worker.ask("show_views", pose(solid_there), "three", angle)
    placed = LAYOUTS[habit](shown.placed) if habit in LAYOUTS else shown.placed
    page = views_sheet(placed, TitleBlock("Skerry Lamp Works", part), angle)
    path.write_bytes(dxf_bytes(page.drawing))
    if habit in CURVES:
        CURVES[habit](path)
    return path, angle, page.scale


if __name__ == "__main__":
    main()
