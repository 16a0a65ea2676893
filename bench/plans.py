"""Plans of the demo parts: moves, time, and what the virtual drafter finds.

Run: .venv/bin/python -m bench.plans
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import replace
from typing import NamedTuple

from bench.solids import comb
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import alone, pose, posed_figure
from holoptic.plan.strategies import ORDERS
from holoptic.worker import tasks

_KINDS = ("isometric", "cavalier", "cabinet")


def main() -> None:
    """Print a row for each part: its strokes, and per kind moves, seconds and the two gaps."""
    print(f"| part | {' | '.join(_KINDS)} |")
    print("|---" * (1 + len(_KINDS)) + "|")
    worst = 0.0
    job = read_job(job_path())
    for part in job.parts:
        figure = job.main_figure(part.id)
        cells = []
        for kind in _KINDS:
            item = posed_figure(job, figure.seen(kind, figure.corner))
            tasks.present(item)  # the solid and what is seen of it are not part of the plan
            begin = time.perf_counter()
            planned = tasks.plan(alone(item), item.id)
            seconds = time.perf_counter() - begin
            proof = tasks.verify(alone(item), item.id)
            worst = max(worst, proof.deviation_mm)
            gap = f", {proof.true_gap_mm:.2f} mm off" if proof.remark else ""
            cells.append(f"{len(planned.plan.moves)} moves, {1000 * seconds:.0f} ms{gap}")
        print(f"| {part.source.name} | {' | '.join(cells)} |")
    print(f"\nlargest deviation of the drafter's paper: {worst:.4f} mm")
    print("\n| part | edges | moves | by feature | batched |\n|---|---|---|---|---|")
    for item in grown():
        cells = " | ".join(f"{1000 * seconds:.0f} ms" for seconds in item.seconds)
        print(f"| {item.part} | {item.edges} | {item.moves} | {cells} |")


class Grown(NamedTuple):
    """A plan of a comb: its edges, its moves, and the seconds it took in each order."""

    part: str
    edges: int
    moves: int
    seconds: list[float]


def grown() -> Iterator[Grown]:
    """Yield plans of longer and longer combs."""
    for teeth in (5, 10, 20, 40):
        part = pose(comb(teeth))
        edges = len(tasks.present(part).facts.edges)
        seconds = []
        for order in ORDERS:
            ways = replace(part.figure.by_hand, order=order)
            item = replace(part, figure=replace(part.figure, by_hand=ways))
            begin = time.perf_counter()
            planned = tasks.plan(alone(item), item.id)
            seconds.append(time.perf_counter() - begin)
        yield Grown(part.source.name, edges, len(planned.plan.moves), seconds)


if __name__ == "__main__":
    main()
