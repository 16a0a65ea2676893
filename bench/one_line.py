"""Sound drawings with one line spoiled: is that line offered as it was?

Run: .venv/bin/python -m bench.one_line [COUNT] [FAMILY,FAMILY]     (3 of each: five minutes)
"""

from __future__ import annotations

import math
import random
import sys
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field, replace

import numpy as np
import shapely

from bench.exercise_parts import PLAIN_FAMILIES
from bench.reading import sound_parts
from holoptic.reading.lines import DrawnLine, DrawnView, Status, Straight
from holoptic.reading.result import Reading
from holoptic.worker.client import Worker

_SPOILED_EACH = 2
_LIMIT_S = 8.0
_SHORTEST_MM, _ON_MM = 0.2, 0.05
_SAME_SHARE = 0.001
_OTHER: dict[Status, Status] = {"visible": "hidden", "hidden": "visible"}


@dataclass
class Tally:
    """What became of the drawings of one family."""

    outcomes: Counter[str] = field(default_factory=Counter)
    seconds: list[float] = field(default_factory=list)

    def row(self, name: str) -> str:
        """Return a row of the table."""
        done = self.outcomes
        told = [done[what] for what in ("first", "among", "wrong", "none", "read all the same")]
        median, most = (np.median(self.seconds), max(self.seconds)) if self.seconds else (0, 0)
        cells = (name, len(self.seconds), *told[:4], f"{median:.1f} s", f"{most:.1f} s", told[4])
        return f"| {' | '.join(map(str, cells))} |"


def main() -> None:
    """Print the table."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 3
    families = sys.argv[2].split(",") if len(sys.argv) > 2 else [*PLAIN_FAMILIES]
    print("| family | contradictory | right one first | among others | only others | none "
          "| median | at most | read all the same |")  # fmt: skip
    print("|---|---|---|---|---|---|---|---|---|")
    with Worker() as worker:
        for family in families:
            tally = Tally()
            for seed, part, size in sound_parts(worker, family, count):
                views = worker.ask("derive_views", part)[:3]
                for turn in range(_SPOILED_EACH):
                    dice = random.Random(f"{family} {seed} {turn}")
                    _try(worker, tuple(_spoiled(views, dice)), size, tally)
            print(tally.row(family), flush=True)


def _try(worker: Worker, views: tuple[DrawnView, ...], size: float, tally: Tally) -> None:
    reading: Reading = worker.ask("read", views, "spoiled", 6, _LIMIT_S)
    if reading.verdict != "contradictory":
        tally.outcomes["read all the same"] += 1
        return
    begin = time.monotonic()
    found = worker.ask("correct", views, "spoiled")
    tally.seconds.append(time.monotonic() - begin)
    right = [abs(one.reading.answers[0].volume - size) < _SAME_SHARE * size for one in found]
    tally.outcomes["none" if not right else "first" if right[0] else "among" if any(right)
                   else "wrong"] += 1  # fmt: skip


def _spoiled(views: tuple[DrawnView, ...], dice: random.Random) -> list[DrawnView]:
    """Return views with one end elsewhere, one line left out, or one firm for broken."""
    while True:
        number = dice.randrange(len(views))
        view = views[number]
        line = dice.choice(view.drawn)
        how = dice.choice(("end", "end", "left out", "status"))
        instead: list[DrawnLine] = []
        if how == "status":
            instead = [replace(line, status=_OTHER[line.status])]
        elif how == "end":
            ends = sorted(_other_ends(view, line), key=lambda one: one[0])[:3]
            if not ends:
                continue
            instead = [replace(line, shape=dice.choice(ends)[1])]
        kept = [one for one in view.lines if one is not line]
        made = replace(view, lines=(*kept, *instead))
        if len(made.drawn) > 2 and np.allclose(made.box, view.box, atol=0.01):
            return [made if k == number else one for k, one in enumerate(views)]


def _other_ends(view: DrawnView, line: DrawnLine) -> Iterator[tuple[float, Straight]]:
    """Yield a line with one end at another place where something meets it, and by how much."""
    shape = line.shape
    if not isinstance(shape, Straight):
        return
    xmin, ymin, xmax, ymax = view.box
    far, length = xmax - xmin + ymax - ymin, math.dist(shape.start, shape.end)
    start = np.array(shape.start)
    along = (np.array(shape.end) - start) / length
    carrier = shapely.LineString([start - far * along, start + far * along])
    for other in view.drawn:
        met = shapely.LineString(other.shape.path()).buffer(_ON_MM).intersection(carrier)
        for part in getattr(met, "geoms", [met]):
            if other is line or part.is_empty or part.length > 1.0:
                continue
            at = float((np.array(part.centroid.coords[0]) - start) @ along)
            for fixed, end in ((0.0, length), (length, 0.0)):
                if abs(at - end) > _SHORTEST_MM and (at - fixed) * (end - fixed) > _SHORTEST_MM:
                    low, high = sorted((at, fixed))
                    yield abs(at - end), Straight(_place(start + low * along),
                                                  _place(start + high * along))  # fmt: skip


def _place(place: np.ndarray) -> tuple[float, float]:
    return round(float(place[0]), 6), round(float(place[1]), 6)


if __name__ == "__main__":
    main()
