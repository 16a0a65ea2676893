"""Exercise parts written as DXF views and read back; the same with slips.

Run: .venv/bin/python -m bench.reading 30
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np

from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise, has_clear_levels
from holoptic.errors import HolopticError
from holoptic.exchange.dxf import dxf_bytes
from holoptic.job import TitleBlock, pose
from holoptic.part import Part
from holoptic.pictorial import draw
from holoptic.reading.derived import drawn_view
from holoptic.reading.lines import DrawnView, Straight
from holoptic.reading.result import Reading
from holoptic.sheet import views_sheet
from holoptic.solid.making.stages import build
from holoptic.solid.pieces import Piece
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.views.orthographic import VIEWS_BY_NAME
from holoptic.worker.client import Worker

_NOISE_MM = 0.03


@dataclass
class Tally:
    """What became of the parts of one family."""

    outcomes: Counter[str] = field(default_factory=Counter)
    seconds: list[float] = field(default_factory=list)
    failures: list[str] = field(default_factory=list)

    def row(self, name: str) -> str:
        """Return a row of the table."""
        count = len(self.seconds)
        good = self.outcomes["right"]
        others = ", ".join(f"{n} {what}" for what, n in self.outcomes.items() if what != "right")
        median, late = np.percentile(self.seconds, [50, 95]) if count else (0.0, 0.0)
        return (f"| {name} | {count} | {good} ({100 * good / max(count, 1):.0f} %) | "
                f"{others or '–'} | {median:.2f} s | {late:.2f} s |")  # fmt: skip


def sound_parts(worker: Worker, family: str, count: int) -> Iterator[tuple[int, Part, float]]:
    """Yield parts of a family that can be made, with their seeds and volumes."""
    found = seed = 0
    while found < count and seed < 6 * count:
        part = exercise(family, seed)
        seed += 1
        try:
            shown = worker.ask("present", pose(part))
        except HolopticError:
            continue
        views = worker.ask("derive_views", part)
        if not shown.troubles and has_clear_levels(views[:3]):
            found += 1
            yield seed - 1, part, shown.facts.volume


def drawing(worker: Worker, part: Part, folder: Path) -> Path:
    """Write a part's views as a DXF file."""
    shown = worker.ask("show_views", pose(part))
    page = views_sheet(shown.placed, TitleBlock("exercise", part.name), "third")
    path = folder / "views.dxf"
    path.write_bytes(dxf_bytes(page.drawing))
    return path


def judge(worker: Worker, reading: Reading, volume: float) -> str:
    """Say what a reading is worth."""
    if reading.verdict == "unique":
        made = worker.ask("present", pose(reading.answers[0].part)).facts.volume
        return "right" if abs(made - volume) <= 1e-3 * volume else "wrong"
    return reading.verdict


def without_a_line(views: list[DrawnView], dice: random.Random) -> list[DrawnView]:
    """Return views with one straight line left out."""
    number = dice.randrange(len(views))
    lines = list(views[number].lines)
    straight = [k for k, x in enumerate(lines) if isinstance(x.shape, Straight)
                and x.status != "centre"]  # fmt: skip
    del lines[dice.choice(straight)]
    found = list(views)
    found[number] = replace(views[number], lines=tuple(lines))
    return found


def shaken(views: list[DrawnView], dice: random.Random) -> list[DrawnView]:
    """Return views with the ends of their straight lines a little off."""

    def off(place: tuple[float, float]) -> tuple[float, float]:
        return (place[0] + dice.uniform(-_NOISE_MM, _NOISE_MM),
                place[1] + dice.uniform(-_NOISE_MM, _NOISE_MM))  # fmt: skip

    return [
        replace(view, lines=tuple(
            replace(x, shape=Straight(off(x.shape.start), off(x.shape.end)))
            if isinstance(x.shape, Straight) else x
            for x in view.lines
        ))
        for view in views
    ]  # fmt: skip


def with_tangent_lines(part: Part) -> list[DrawnView]:
    """Return the three usual views of a part with a line where faces run into each other."""
    solid = SeenSolid(build(part))
    found = []
    for name, view in VIEWS_BY_NAME.items():
        if name not in ("front", "top", "right"):
            continue
        look = solid.look(view.toward_viewer)
        smooth = (Piece(None, None, curve, True) for curve, in_sight in look.smooth if in_sight)
        picture = draw(replace(look, pieces=(*look.pieces, *smooth)), view)
        found.append(drawn_view(name, picture))
    return found


def read_with_tangents(worker: Worker, family: str, count: int) -> None:
    """Read parts of a family whose views show tangent lines, which may be drawn or not."""
    tally = Tally()
    for _, part, volume in sound_parts(worker, family, count):
        views = with_tangent_lines(part)
        begin = time.monotonic()
        reading = worker.ask("read", tuple(views), "read")
        tally.seconds.append(time.monotonic() - begin)
        tally.outcomes[_nearly(worker, reading, volume)] += 1
    print(tally.row(f"{family}, tangent lines drawn"), flush=True)


def _nearly(worker: Worker, reading: Reading, volume: float) -> str:
    """Say what a reading is worth, its nearest part included."""
    outcome = judge(worker, reading, volume)
    if outcome == "contradictory" and reading.answers:
        near = worker.ask("present", pose(reading.answers[0].part)).facts.volume
        close = abs(near - volume) <= 5e-3 * volume
        outcome = "told, the nearest part is the right one" if close else "told"
    return outcome


def read_back(worker: Worker, family: str, count: int, folder: Path) -> Tally:
    """Read the parts of a family from their own drawings."""
    tally = Tally()
    for seed, part, volume in sound_parts(worker, family, count):
        path = drawing(worker, part, folder)
        begin = time.monotonic()
        sheet = worker.ask("open_sheet", str(path), "third")
        reading = worker.ask("read", tuple(sheet.arrangement.drawn_views()), "read")
        tally.seconds.append(time.monotonic() - begin)
        outcome = judge(worker, reading, volume)
        tally.outcomes[outcome] += 1
        if outcome != "right":
            tally.failures.append(f"{family} {seed}: {outcome}")
    return tally


def with_slips(worker: Worker, count: int) -> None:
    """Read mixed parts with a line left out, and with the ends of lines a little off."""
    missing, noisy = Tally(), Tally()
    for seed, part, volume in sound_parts(worker, "mixed", count):
        dice = random.Random(seed)
        views = [v for v in worker.ask("derive_views", part)
                 if v.name in ("front", "top", "right")]  # fmt: skip
        for tally, spoilt in ((missing, without_a_line(views, dice)),
                              (noisy, worker.ask("mend_views", shaken(views, dice)))):  # fmt: skip
            begin = time.monotonic()
            reading = worker.ask("read", tuple(spoilt), "read")
            tally.seconds.append(time.monotonic() - begin)
            outcome = _nearly(worker, reading, volume)
            if tally is noisy and outcome == "wrong":
                made = worker.ask("present", pose(reading.answers[0].part)).facts.volume
                outcome = "right" if abs(made - volume) <= 5e-3 * volume else "wrong"
            tally.outcomes[outcome] += 1
    print(missing.row("mixed, one line left out"))
    print(noisy.row(f"mixed, ends {_NOISE_MM} mm off, mended"))


def main() -> None:
    """Print the table, and the failures under it."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 30
    families = sys.argv[2].split(",") if len(sys.argv) > 2 else [*PLAIN_FAMILIES, *SKEW_FAMILIES]
    print("| family | parts | unique and right | others | median | 95 % |")
    print("|---|---|---|---|---|---|")
    failures: list[str] = []
    with tempfile.TemporaryDirectory() as folder, Worker() as worker:
        for family in [] if families == ["tangents"] else families:
            tally = read_back(worker, family, count, Path(folder))
            failures += tally.failures
            print(tally.row(family), flush=True)
        if len(sys.argv) <= 2:
            with_slips(worker, count)
        if len(sys.argv) <= 2 or sys.argv[2] == "tangents":
            for family in ("rounded ends", "mixed"):
                read_with_tangents(worker, family, count)
    print("\n".join(failures))


if __name__ == "__main__":
    main()
