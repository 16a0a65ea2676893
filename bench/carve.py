"""From a key to the picture: a part of thirty operations, edited early, in the middle and late.

Run: .venv/bin/python -m bench.carve
"""

from __future__ import annotations

import time
from dataclasses import replace
from statistics import median

from bench.solids import comb, drilled_plate
from holoptic.job import JobPart
from holoptic.job.job import with_operation
from holoptic.part import Part
from holoptic.units import Length
from holoptic.worker.client import Worker

_ROUNDS = 12


def edited(part: Part, index: int, number: int) -> Part:
    """Return the part with the depth of one operation changed a little."""
    operation = part.operations[index]
    deep = Length.of(5.0 + 0.1 * number)
    return with_operation(part, index, replace(operation, end=deep))


def main() -> None:
    """Print the median time of views and picture after an edit, the worker's line included."""
    print("| part | edited | views and picture |\n|---|---|---|")
    with Worker() as worker:
        for part in (comb(30), drilled_plate(5, 3)):
            worker.ask("present", JobPart(part))
            count = len(part.operations)
            places = ("the last", count - 1), ("the middle", count // 2), ("the first", 0)
            for name, index in places:
                taken = []
                for number in range(_ROUNDS):
                    changed = JobPart(edited(part, index, number))
                    begin = time.perf_counter()
                    worker.ask("present", changed)
                    taken.append(1000 * (time.perf_counter() - begin))
                print(f"| {part.name}, {count} operations | {name} | {median(taken):.0f} ms |")


if __name__ == "__main__":
    main()
