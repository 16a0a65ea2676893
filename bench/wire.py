"""Answers of the worker, unpacked as data alone and as Python would without looking.

Run: .venv/bin/python -m bench.wire
"""

from __future__ import annotations

import gc
import pickle
import statistics
import time
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import posed_figure, sheet_order, title_block
from holoptic.plan.hand import Hand
from holoptic.worker import client
from holoptic.worker.wire import read_message

_ROUNDS = 41


def answers() -> list[bytes]:
    """Return the picture, the sheet and the plan of every demo part as they come over the line."""
    raw: list[bytes] = []

    def take(line: Connection) -> Any:
        raw.append(line.recv_bytes())
        return read_message(raw[-1])

    client.take = take
    job = read_job(job_path())
    with client.Worker() as worker:
        for part in job.parts:
            figure = job.main_figure(part.id)
            sheet = job.sheet_of(figure)
            order, title = sheet_order(job, sheet), title_block(job, sheet)
            worker.ask("candidate", posed_figure(job, figure), figure.kind, figure.corner)
            worker.ask("sheet", order, title)
            worker.ask("plan", order, figure.id, Hand(), title)
    return raw


def seconds(unpack: Callable[[bytes], Any], raw: list[bytes]) -> float:
    """Return the time that all of them take once."""
    begin = time.process_time()
    for data in raw:
        unpack(data)
    return time.process_time() - begin


def main() -> None:
    """Print the ratio; both ways take turns, so that a busy machine slows both."""
    raw, gc_was_on = answers(), gc.isenabled()
    gc.disable()  # as in the desk, where rings are looked for when nobody waits
    pairs = [(seconds(pickle.loads, raw), seconds(read_message, raw)) for _ in range(_ROUNDS)]
    if gc_was_on:
        gc.enable()
    plain, careful = (1000 * statistics.median(times) for times in zip(*pairs, strict=True))
    ratio = statistics.median(careful / plain for plain, careful in pairs)
    print(f"{len(raw)} answers, {sum(map(len, raw)) / 1e6:.1f} MB: {plain:.1f} ms without "
          f"looking, {careful:.1f} ms as data: × {ratio:.2f}")  # fmt: skip


if __name__ == "__main__":
    main()
