"""How long plans are: moves a stroke by sort of part, and how near batching comes to its bound.

Run: .venv/bin/python -m bench.lengths
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import Posed, alone, pose
from holoptic.part import Part
from holoptic.plan import Plan
from holoptic.worker import planning

_SORTS = {
    "settings": ("set off", "swing", "plot"),
    "lines": ("draw", "parallel", "square", "join", "touch"),
    "marks": ("meet", "nearest"),
    "curves": ("circle", "arc", "same arc", "trammel", "curve", "freehand"),
    "firm": ("firm in", "go over"),
    "checks": ("check",),
}
_SEEDS = range(6)


def _parts() -> Iterator[tuple[str, list[Part]]]:
    """Yield each sort of part with a few of it: exercise families, then the demo parts."""
    block = exercise(sorted(PLAIN_FAMILIES)[0], 1)
    yield "plain block", [replace(block, name="block", operations=())]
    for family in (*sorted(PLAIN_FAMILIES), *sorted(SKEW_FAMILIES)):
        yield family, [exercise(family, seed) for seed in _SEEDS]
    for part in read_job(job_path()).parts:
        if isinstance(part.source, Part):
            yield part.source.name, [part.source]


def _plan(posed: Posed) -> Plan:
    return planning.plan(alone(posed), posed.id).plan


def main() -> None:
    """Print both tables, isometric, border and title block left out."""
    print(f"| sort | moves a stroke | {' | '.join(_SORTS)} |")
    print("|---|---|" + "---|" * len(_SORTS))
    for sort, parts in _parts():
        plans = [_plan(pose(part)) for part in parts]
        counted: Counter[str] = Counter()
        for plan in plans:
            counted.update(move.verb for move in plan.moves if move.phase != "sheet")
        strokes = counted["firm in"]
        cells = [sum(counted[verb] for verb in verbs) / strokes for verbs in _SORTS.values()]
        total = sum(counted.values()) / strokes
        print(f"| {sort} | {total:.1f} | {' | '.join(f'{cell:.2f}' for cell in cells)} |")
    print("\n| part | settings and changes | batched | no order gets below | above it |")
    print("|---|---|---|---|---|")
    for part in read_job(job_path()).parts:
        posed = pose(part.source)
        ways = replace(posed.figure.by_hand, order="batched")
        saving = _plan(replace(posed, figure=replace(posed.figure, by_hand=ways))).saving
        if saving is not None:
            written, now, least = (
                one.changes for one in (saving.written, saving.batched, saving.least)
            )
            print(f"| {part.source.name} | {written} | {now} | {least} | {now / least - 1:.0%} |")


if __name__ == "__main__":
    main()
