"""Hundreds of random parts: pictures against the oracle, plans against the virtual drafter.

Run: .venv/bin/python -m bench.sweep [HOW MANY]
"""

from __future__ import annotations

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from bench.random_parts import random_part
from holoptic.construction.intended import Intended
from holoptic.errors import PartError
from holoptic.job import HandWays
from holoptic.pictorial import View, draw, view_of
from holoptic.plan import Setup, make_plan, prove
from holoptic.plan.builder import start_on_picture
from holoptic.worker.client import Worker
from oracle import complaints

_VIEWS = [
    view_of(kind, corner)
    for kind in ("isometric", "cabinet")
    for corner in ("front-right", "front-left")
]
_PLAN_VIEWS = [
    view_of(kind, corner)
    for kind in ("isometric", "cabinet", "cavalier")
    for corner in ("front-right", "front-left", "rear-left", "front-right-below")
]


def judge_pictures(worker: Worker, seeds: range) -> None:
    """Print every complaint of the oracle, and the count."""
    pictures = wrong = impossible = 0
    for seed in seeds:
        part = random_part(seed)
        try:
            seen = worker.ask("look", part, _directions(_VIEWS))
        except PartError:
            impossible += 1
            continue
        for view in _VIEWS:
            found = complaints(part, seen.facts, draw(seen.look(view.toward_viewer), view))
            pictures += 1
            wrong += bool(found)
            for complaint in found:
                print(f"  part {seed}, {view.kind} {view.corner}: {complaint[:150]}")
    print(f"{pictures} pictures, {wrong} with complaints ({impossible} impossible parts left out)")


def prove_plans(worker: Worker, seeds: range) -> None:
    """Print the largest deviation of the plans."""
    plans = moves = 0
    worst = 0.0
    for seed in seeds:
        part = random_part(seed)
        try:
            seen = worker.ask("look", part, _directions(_PLAN_VIEWS))
        except PartError:
            continue
        for view in _PLAN_VIEWS:
            picture = draw(seen.look(view.toward_viewer), view)
            scale = (0.5, 1.0, 2.0)[seed % 3]
            intended = Intended(part, seen.facts, picture, HandWays(), scale)
            plan = make_plan(intended, Setup((60.0, 40.0), scale))
            proof = prove(plan, intended, start_on_picture(part, seen.facts, picture))
            plans, moves = plans + 1, moves + len(plan.moves)
            worst = max(worst, proof.deviation_mm)
    mean = moves / max(plans, 1)
    print(f"{plans} plans of {mean:.0f} moves, max deviation {worst:.7f} mm")


def _directions(views: list[View]) -> tuple[tuple[float, float, float], ...]:
    return tuple(view.toward_viewer for view in views)


def main() -> None:
    """Run both sweeps."""
    seeds = range(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
    with Worker() as worker:
        prove_plans(worker, seeds)
        judge_pictures(worker, seeds)


if __name__ == "__main__":
    main()
