"""Saves and safety copies whose process is killed, and disks that are full."""

from __future__ import annotations

import os
import random
import resource
import signal
import time
from dataclasses import replace
from pathlib import Path

from bench.trust.tally import Tally
from holoptic.bounded import read_bounded
from holoptic.demo import job_path
from holoptic.errors import BadInput
from holoptic.exchange.job_file import LARGEST_BYTES, parse_job, read_job, write_job
from holoptic.exchange.safekeeping import Autosave, left_behind
from holoptic.places import state_folder

_LONGEST_MS = 120
_FRESH_S = 1.1


def kill_saves(tally: Tally, folder: Path, count: int) -> None:
    """Kill a process that saves again and again, at moments of chance."""
    job, target = read_job(job_path()), folder / "lamp.holoptic"
    write_job(job, target)
    for seed in range(count):

        def save_for_ever() -> None:
            number = 0
            while True:
                number += 1
                write_job(replace(job, name=f"lamp {number}"), target)

        _killed(save_for_ever, seed)
        try:
            read_job(target)
            read_job(target.with_name("lamp.holoptic~"))
        except BadInput as error:
            tally.note("kills while saving", "lost", str(error))
        else:
            tally.note("kills while saving", "loaded")
    time.sleep(_FRESH_S)  # a file that is just being made is spared
    write_job(job, target)  # sweeps
    for left in [path for path in folder.iterdir() if path.name.startswith(".")]:
        tally.note("kills while saving", "lost", f"{left.name} was left over")


def kill_autosaves(tally: Tally, count: int) -> None:
    """Kill a process that keeps safety copies; each must be offered afterwards, and be whole."""
    job = read_job(job_path())
    for seed in range(count):

        def keep_for_ever() -> None:
            autosave, number = Autosave(), 0
            autosave.keep(job, None)
            while True:
                number += 1
                autosave.keep(replace(job, name=f"lamp {number}"), None)

        _killed(keep_for_ever, seed, after=lambda: any(_copies()))
        found = left_behind()
        whole = bool(found) and found[0].job.parts == job.parts
        tally.note("kills while keeping a safety copy", "loaded" if whole else "lost", "no copy")
        for path in state_folder().iterdir():
            path.unlink()


def _copies() -> list[Path]:
    return list(state_folder().glob("autosave-*.holoptic"))


def _killed(work, seed: int, after=lambda: True) -> None:  # type: ignore[no-untyped-def]
    """Do some work in a process of its own and kill that at a moment of chance."""
    pid = os.fork()
    if pid == 0:
        try:
            work()
        finally:
            os._exit(9)
    end = time.monotonic() + 5
    while not after() and time.monotonic() < end:
        time.sleep(0.001)
    time.sleep(random.Random(seed).uniform(0, _LONGEST_MS) / 1000)
    os.kill(pid, signal.SIGKILL)
    os.waitpid(pid, 0)


def fill_disks(tally: Tally, folder: Path) -> None:
    """Save where there is room for part of the file alone: refused in a line, the old one whole."""
    job, target = read_job(job_path()), folder / "full.holoptic"
    write_job(job, target)
    whole = target.stat().st_size
    for share in (0.0, 0.1, 0.5, 0.9, 0.999):
        pid = os.fork()
        if pid == 0:
            signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
            resource.setrlimit(resource.RLIMIT_FSIZE, (int(whole * share), int(whole * share)))
            try:
                write_job(replace(job, name="x" * 500), target)
            except BadInput:
                os._exit(2)
            except BaseException:
                os._exit(1)
            os._exit(0)
        code = os.waitstatus_to_exitcode(os.waitpid(pid, 0)[1])
        is_whole = parse_job(read_bounded(target, LARGEST_BYTES)) == job
        end = "lost" if not is_whole else "refused" if code == 2 else "traceback"
        tally.note("disk full", end, f"{share}: exit {code}")
