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
    """Print the median times of picture and views after an edit, the worker's line included."""
    print("| part | edited | first picture | picture | views after it |\n|---|---|---|---|---|")
    with Worker() as worker:
        for part in (comb(30), drilled_plate(5, 3)):
            worker.ask("present", JobPart(part))
            count = len(part.operations)
            places = ("the last", count - 1), ("the middle", count // 2), ("the first", 0)
            for name, index in places:
                worker.ask("present", JobPart(part))
                worker.ask("make_ready", JobPart(part), index)  # as the desk does when it rests
                pictures, views = [], []
                for number in range(_ROUNDS):
                    changed = JobPart(edited(part, index, number))
                    begin = time.perf_counter()
                    worker.ask("present", changed)
                    pictured = time.perf_counter()
                    worker.ask("show_views", changed)
                    pictures.append(1000 * (pictured - begin))
                    views.append(1000 * (time.perf_counter() - pictured))
                print(
                    f"| {part.name}, {count} operations | {name} | {pictures[0]:.0f} ms "
                    f"| {median(pictures):.0f} ms | {median(views):.0f} ms |"
                )


if __name__ == "__main__":
    main()
