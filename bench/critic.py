"""What the critic says of plans: demo, exercise and random parts, every kind, by feature and
batched, a table by rule.

Run: .venv/bin/python -m bench.critic [COUNT [SEED]]   (COUNT random and exercise parts, 40; seed 1)
"""

from __future__ import annotations

import random
import sys
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import replace
from itertools import chain

from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from bench.random_parts import random_part
from holoptic.demo import job_names, job_path
from holoptic.errors import HolopticError
from holoptic.exchange.job_file import read_job
from holoptic.job import (
    VIEW_LINES,
    Figure,
    Orthographic,
    Posed,
    SheetOrder,
    alone,
    pose,
    posed_figure,
)
from holoptic.plan.critic import RULES, Remark
from holoptic.worker import tasks

_KINDS = ("isometric", "isometric-projection", "cavalier", "cabinet", "dimetric", "plan-oblique")
_CORNERS = ("front-right", "front-left")
_HIDDEN = ("omit", "dashed")


def demo_orders() -> Iterator[tuple[str, SheetOrder]]:
    """Yield every part of the demo jobs in every kind, and as views."""
    for name in job_names():
        job = read_job(job_path(name))
        for part in job.parts:
            for kind in _KINDS:
                for hidden in _HIDDEN:
                    posed = pose(part.source, kind)
                    lines = replace(posed.figure.lines, hidden=hidden)
                    yield _where(part.source.name, kind, hidden), _of(posed, lines=lines)
            yield _where(part.source.name, "views"), _views(part.source)


def batched_orders(count: int, seed: int) -> Iterator[tuple[str, SheetOrder]]:
    """Yield the orders of the demo's parts and of made-up ones with the instruments batched."""
    for where, order in chain(demo_orders(), made_up_orders(count, seed)):
        posed = order.of(order.ids[0])
        by_hand = replace(posed.figure.by_hand, order="batched")
        batched = replace(posed, figure=replace(posed.figure, by_hand=by_hand))
        yield _where(where, "batched"), order.with_posed(batched)


def cut_orders() -> Iterator[tuple[str, SheetOrder]]:
    """Yield every part of the demo jobs that can be cut in half, isometric and cabinet."""
    for name in job_names():
        for part in read_job(job_path(name)).parts:
            for kind in ("isometric", "cabinet"):
                yield (
                    _where(part.source.name, kind, "half"),
                    _of(pose(part.source, kind), cut="half"),
                )


def whole_orders() -> Iterator[tuple[str, SheetOrder]]:
    """Yield every arrangement of the demo jobs in every kind, together and apart."""
    for name in job_names():
        job = read_job(job_path(name))
        for arrangement in job.arrangements:
            for kind in _KINDS:
                for apart in (False, True):
                    posed = posed_figure(job, job.spread_figure(arrangement.id, apart=apart))
                    where = _where(arrangement.name, kind, "apart" if apart else "together")
                    yield where, alone(posed.seen(kind, "front-right"))


def made_up_orders(count: int, seed: int) -> Iterator[tuple[str, SheetOrder]]:
    """Yield exercise and random parts, each in a kind, from a corner, and as views."""
    dice = random.Random(seed)
    families = (*sorted(PLAIN_FAMILIES), *sorted(SKEW_FAMILIES))
    for number in range(count):
        one = (
            exercise(families[number % len(families)], dice.randrange(1000))
            if number % 2
            else random_part(dice.randrange(1000))
        )
        kind, corner = dice.choice(_KINDS), dice.choice(_CORNERS)
        hidden = dice.choice(_HIDDEN)
        posed = pose(one, kind, corner)
        lines = replace(posed.figure.lines, hidden=hidden)
        yield _where(one.name, kind, corner, hidden), _of(posed, lines=lines)
        if number % 4 == 0:
            yield _where(one.name, "views"), _views(one)


def _where(*words: str) -> str:
    return ", ".join(words)


def _of(posed: Posed, **changed: object) -> SheetOrder:
    return alone(replace(posed, figure=replace(posed.figure, **changed)))  # type: ignore[arg-type]


def _views(source: object) -> SheetOrder:
    return alone(Posed(Figure("f1", "p1", Orthographic(), VIEW_LINES), source))  # type: ignore[arg-type]


def main() -> None:
    """Print how often each rule was broken, in how many plans, and the first example of each."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 40
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else 1
    found: Counter[str] = Counter()
    plans: Counter[str] = Counter()
    examples: dict[str, list[str]] = defaultdict(list)
    total = 0
    for group in (demo_orders(), cut_orders(), whole_orders(), made_up_orders(count, seed),
                  batched_orders(count, seed + 1)):  # fmt: skip
        for where, order in group:
            try:
                remarks = tasks.criticise(order, order.ids[0]).remarks
            except HolopticError as error:
                print(f"  {where}: {error}", flush=True)
                continue
            total += 1
            _count(remarks, where, found, plans, examples)
    print(f"{total} plans\n\n| rule | remarks | plans | example |\n|---|---|---|---|")
    for rule, words in RULES.items():
        example = max(examples[rule], key=lambda words: words.count("|"), default="")
        print(f"| {words} | {found[rule]} | {plans[rule]} | {example} |")
    if "-v" in sys.argv:
        for rule in RULES:
            for words in examples[rule]:
                print(f"{rule}: {words}")


def _count(
    remarks: tuple[Remark, ...], where: str, found: Counter[str], plans: Counter[str],
    examples: dict[str, list[str]],
) -> None:  # fmt: skip
    for rule in {remark.rule for remark in remarks}:
        plans[rule] += 1
    for remark in remarks:
        found[remark.rule] += 1
        if len(examples[remark.rule]) < 400:
            examples[remark.rule].append(f"{where}: {remark}")


if __name__ == "__main__":
    main()
