"""The ratios of the project in one table, each with its goal, and a plot of growth.

Run: .venv/bin/python -m bench.all [LARGEST PLATE'S COLUMNS]   (some minutes; the plot is
docs/growth.svg)
"""

from __future__ import annotations

import math
import sys
import tempfile
from collections.abc import Iterator
from itertools import chain
from pathlib import Path
from statistics import median
from typing import NamedTuple

from bench import (
    carve,
    cuts,
    draw_page,
    first_paint,
    large_assembly,
    large_step,
    pictorial_ratio,
    plans,
    slider,
    spread,
    stand_still,
)
from bench.ratios import HEAD, Measured, growth, measured, solids
from bench.solids import comb, drilled_plate
from holoptic.desk.application.launch import make_application
from holoptic.exchange.svg import svg_text
from holoptic.sheet.drawing import Drawing, Ink, Words

_PLOT = Path(__file__).parent.parent / "docs" / "growth.svg"
_WIDE, _HIGH, _LEFT, _LOW = 150.0, 100.0, 18.0, 14.0
_DECADE_ACROSS, _DECADE_UP = 48.0, 15.0


class Row(NamedTuple):
    """A ratio, its goal (less is better, but for rates), and what was found."""

    what: str
    goal: float
    found: float
    more_is_better: bool = False

    @property
    def is_met(self) -> bool:
        """Whether it is as good as its goal."""
        return self.found >= self.goal if self.more_is_better else self.found <= self.goal


def _hidden_lines(found: list[Measured]) -> Iterator[Row]:
    for what, low, high, again, first in (
        ("30 to 60 edges", 30, 60, 0.5, 1.0), ("250 edges", 170, 260, 0.1, 0.2),
        ("2,000 faces", 2000, 10_000, 0.01, 0.03),
    ):  # fmt: skip
        these = [item for item in found if low <= item.edges <= high]
        if these:
            yield Row(f"hidden lines, another direction, {what}, most", again,
                      max(item.again_ratio for item in these))  # fmt: skip
            yield Row(f"hidden lines, first direction, {what}, most", first,
                      max(item.first_ratio for item in these))  # fmt: skip
    yield Row("hidden lines, power of growth with edges", 1.2, growth(found))


def _others() -> Iterator[Row]:
    yield Row("picture with provenance over the raw call, most", 1.5,
              max(ratio for *_, ratio in pictorial_ratio.ratios()))  # fmt: skip
    yield Row("first paint over an empty window's", 2.0, first_paint.first_paint()[2])
    rates = {name: rate for name, _, rate in slider.rates()}
    yield Row("slider, pictures a second: 54 edges, and the flange", 60,
              min(rates["lamp pedestal"], rates["counterbored flange"]),
              more_is_better=True)  # fmt: skip
    moved = [rate for *_, rate in cuts.rates("counterbored flange")]
    yield Row("cut plane of the flange moved, pictures a second", 15, min(moved),
              more_is_better=True)  # fmt: skip
    yield Row("cuts proposed, demo, slowest, s", 1, max(took for *_, took in cuts.proposals()))
    yield from _at_the_desk()
    yield from _arrangements()
    yield from _large()


def _at_the_desk() -> Iterator[Row]:
    app = make_application()
    for part, what, goal in (
        (drilled_plate(5, 3), "plate of 30 operations", 50), (comb(30), "comb of 30 slots", 70),
    ):  # fmt: skip
        found = [median(pictures) for _, pictures, _ in carve.at_the_desk(app, part)]
        yield Row(f"key to painted picture, {what}, slowest median, ms", goal, max(found))
    still = {item.what: item.longest for item in stand_still.pauses(10, 6)}
    yield Row("window still at proposals of 60 holes, ms", 16, still[stand_still.PROPOSALS])
    stepped = [median(taken) for _, taken in draw_page.steps() if len(taken) < 300]
    yield Row("a step on the Draw page, demo, slowest median, ms", 16, max(stepped))
    planned = [max(item.seconds) for item in plans.grown() if item.edges < 150]
    yield Row("plan of a comb of up to 150 edges, s", 0.3, max(planned))
    yield Row("worker's memory, demo, MB", 400, stand_still.demo_memory())


def _arrangements() -> Iterator[Row]:
    yield Row(
        "lamp of ten bodies: order, grouping, gap, s", 2, sum(spread.taking_apart(spread.lamp()))
    )
    yield Row("40 bodies stacked: order, grouping, gap, s", 30,
              sum(spread.taking_apart(spread.stack(40))))  # fmt: skip
    yield Row("slider of the lamp, pictures a second", 30, spread.slider_rate(1_000),
              more_is_better=True)  # fmt: skip


def _large() -> Iterator[Row]:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "grille.step"
        large_step.write_plate(path, *large_step.LARGE)
        yield Row("picture of a STEP file of 1,959 faces, s", 1, large_step.stages(path).picture)
    assembly = large_assembly.apart(10)
    yield Row("picture of 10 bodies, 19,590 faces, s", 10, assembly.together)
    yield Row("memory with them, MB", 1500, assembly.memory)


def _plot(found: list[Measured]) -> Drawing:
    """Draw the time of the raw call and of our own over the number of edges, both by powers."""

    def place(edges: float, ms: float) -> tuple[float, float]:
        across = _LEFT + _DECADE_ACROSS * (math.log10(edges) - 1)
        return across, _LOW + _DECADE_UP * (math.log10(ms) + 1)

    plates = sorted((item for item in found if "plate of" in item.name), key=lambda i: i.edges)
    inks = [Ink("border", (place(10, 0.1), place(5000, 0.1))),
            Ink("border", (place(10, 0.1), place(10, 20_000)))]  # fmt: skip
    words = [Words(place(3000, 0.045), "edges", 2.5, "middle"), Words(place(11, 12_000), "ms", 2.5)]
    for edges in (10, 100, 1000):
        words.append(Words(place(edges, 0.045), f"{edges}", 2.5, "middle"))
    for ms in (0.1, 1, 10, 100, 1000, 10_000):
        inks.append(Ink("construction", (place(10, ms), place(5000, ms))))
        words.append(Words((_LEFT - 2, place(10, ms)[1] - 1), f"{ms:g}", 2.5, "end"))
    for name, layer, values in (("the raw call", "hidden", [i.raw for i in plates]),
                                ("our own", "visible", [i.again for i in plates])):  # fmt: skip
        path = tuple(place(i.edges, ms) for i, ms in zip(plates, values, strict=True))
        inks.append(Ink(layer, path))
        words.append(Words((path[-1][0] - 2, path[-1][1] + 2), name, 2.5, "end"))
    return Drawing(_WIDE, _HIGH, tuple(inks), tuple(words), "hidden lines of plates with holes")


def main() -> None:
    """Print the table, and draw the plot.

    Figures of speed are worth something on a machine that does nothing else.
    """
    columns = int(sys.argv[1]) if len(sys.argv) > 1 else 31
    print(HEAD)
    found = []
    for solid in solids(columns):
        found.append(measured(*solid))
        print(found[-1].row, flush=True)
    _PLOT.write_text(svg_text(_plot(found)), encoding="utf-8")
    print("\n| ratio | goal | found | met |")
    print("|---|---|---|---|")
    for row in chain(_hidden_lines(found), _others()):
        met = "yes" if row.is_met else "no"
        print(f"| {row.what} | {row.goal:g} | {row.found:.3g} | {met} |", flush=True)


if __name__ == "__main__":
    main()
