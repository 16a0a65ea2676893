"""Exercises by the hundred: whether each came, whether no two are the same, and how long they took.

Run: .venv/bin/python -m bench.practice [COUNT] [SKILL,SKILL…]

An exercise that comes has one right answer: whoever makes it proves that, and gives up otherwise
(`practice/sorts`). What is laid against each other here a second time: cubes are counted by going
through all stacks of a small plan.
"""

from __future__ import annotations

import os
import statistics
import sys
import time
from itertools import product

from holoptic.practice.exercise import LEVELS, Exercise, NotMade
from holoptic.practice.skills import SKILLS, make
from holoptic.practice.stacks import seen, turned
from holoptic.worker.practice_tasks import KernelEye

_MOST_SQUARES = 6


def main() -> None:
    """Print the table."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 100
    names = sys.argv[2].split(",") if len(sys.argv) > 2 else list(SKILLS)
    quiet = os.open(os.devnull, os.O_WRONLY)
    table = os.dup(1)
    os.dup2(quiet, 1)  # the kernel tells of each file that it writes
    lines = ["| skill | made | refused | different | counted again | median | 95 % | longest |",
             "|---|---|---|---|---|---|---|---|"]  # fmt: skip
    for name in names:
        lines.append(_row(name, count))
        os.write(table, (lines[-1] + "\n").encode())
    os.dup2(table, 1)
    print("\n".join(lines))


def _row(name: str, count: int) -> str:
    eye = KernelEye()
    times: list[float] = []
    made: set[str] = set()
    refused = counted = agreed = 0
    for seed in range(count):
        started = time.perf_counter()
        try:
            exercise = make(name, seed % LEVELS + 1, seed, eye)
        except NotMade:
            refused += 1
            continue
        times.append(time.perf_counter() - started)
        made.add(repr((exercise.question, exercise.figures, exercise.asked)))
        told = _counted_again(exercise)
        counted += told is not None
        agreed += told is True
    times.sort()
    again = f"{agreed} of {counted}" if counted else "–"
    return (
        f"| {name} | {len(times)} | {refused} | {len(made)} | {again} "
        f"| {statistics.median(times):.2f} s | {times[int(0.95 * len(times))]:.2f} s "
        f"| {times[-1]:.1f} s |"
    )


def _counted_again(exercise: Exercise) -> bool | None:
    """Say whether least and most are those of all stacks that look the same; None for others."""
    if exercise.skill != "cubes":
        return None
    plan = [list(row) for row in exercise.data["heights"]]  # type: ignore[attr-defined]
    rows, columns = len(plan), len(plan[0])
    if rows * columns > _MOST_SQUARES:
        return None
    corner = str(exercise.data["corner"])
    shown = seen(turned(tuple(map(tuple, plan)), corner))
    counts = []
    for heights in product(range(max(map(max, plan)) + 1), repeat=rows * columns):
        other = tuple(tuple(heights[r * columns : (r + 1) * columns]) for r in range(rows))
        if seen(turned(other, corner)) == shown:
            counts.append(sum(heights))
    return (min(counts), max(counts)) == (exercise.data["least"], exercise.data["most"])


if __name__ == "__main__":
    main()
