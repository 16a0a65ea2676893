"""Every way of working, in every kind, on every demo part: proved, what it costs, how sure it is.

Run: .venv/bin/python -m bench.ways
"""

from __future__ import annotations

import itertools
from collections import defaultdict
from dataclasses import replace
from statistics import mean

from holoptic.demo import job_path
from holoptic.errors import HolopticError
from holoptic.exchange.job_file import read_job
from holoptic.job import alone, posed_figure
from holoptic.plan.strategies import ORDERS, STRATEGY_TITLES
from holoptic.worker import tasks

_KINDS = ("isometric", "isometric-projection", "dimetric", "trimetric:20:35", "cavalier",
          "cabinet", "oblique:30:0.75", "plan-oblique")  # fmt: skip


def main() -> None:
    """Print what fails, then a table of the ways."""
    costs = defaultdict(list)
    worst, count = 0.0, 0
    job = read_job(job_path())
    for part, kind in itertools.product(job.parts, _KINDS):
        figure = job.main_figure(part.id).seen(kind, job.main_figure(part.id).corner)
        for strategy, order in itertools.product(STRATEGY_TITLES, ORDERS):
            by_hand = replace(figure.by_hand, strategy=strategy, order=order)
            item = alone(posed_figure(job, replace(figure, by_hand=by_hand)))
            try:
                plan = tasks.plan(item, figure.id).plan
                proof = tasks.verify(item, figure.id)
            except HolopticError as error:
                print(f"{part.source.name}, {kind}, {strategy}, {order}: {error}", flush=True)
                continue
            count += 1
            worst = max(worst, proof.deviation_mm)
            if not proof.holds:
                print(f"{part.source.name}, {kind}, {strategy}, {order}: {proof}", flush=True)
            effort, budget = plan.effort, plan.budget
            if effort and budget:
                found = effort.seconds, effort.changes, budget.typical, budget.closure or 0.0
                costs[strategy, order].append(found)
    print(f"\n{count} plans, largest deviation of the drafter's paper {worst:.4f} mm\n")
    print(
        "| way | min | settings and changes | points off, mm | back corner, mm |\n"
        "|---|---|---|---|---|"
    )
    for (strategy, order), found in costs.items():
        seconds, changes, typical, closure = (mean(column) for column in zip(*found, strict=True))
        print(f"| {STRATEGY_TITLES[strategy]}, {order} | {seconds / 60:.1f} | {changes:.0f} | "
              f"{typical:.2f} | {closure:.2f} |")  # fmt: skip


if __name__ == "__main__":
    main()
