"""Whole desks, in processes of their own: killed while one edits, started on damaged state."""

from __future__ import annotations

import os
import random
import subprocess
import sys
import time
from pathlib import Path

from bench.trust.tally import Tally
from holoptic.demo import job_path
from holoptic.exchange.safekeeping import left_behind
from holoptic.places import config_folder, state_folder

_EDITS = """
import sys, time
from dataclasses import replace
from PyQt6.QtCore import QTimer
from holoptic.desk.application import launch
window = []
def edit():
    document = window[0].session.document
    number = int(document.job.name.rpartition(" ")[2] or 0) + 1 if window[1:] else 1
    window[1:] = [True]
    document.edit(replace(document.job, name=f"lamp {number}"), "name")
    print(number, time.time(), flush=True)
def open_first(desk, *arguments, **options):
    opened(desk, *arguments, **options)
    window[:] = [desk]
    desk.timer = QTimer(desk)
    desk.timer.timeout.connect(edit)
    desk.timer.start(200)
opened, launch.DeskWindow.open_first = launch.DeskWindow.open_first, open_first
sys.exit(launch.launch(sys.argv[1], demo=True))
"""
_MOST_LOST_S = 5.0
_START_LIMIT_S = 150.0


def kill_desks(tally: Tally, count: int) -> float:
    """Kill desks while somebody edits without a pause; return the most that was lost, seconds."""
    worst = 0.0
    for seed in range(count):
        for path in state_folder().iterdir():
            path.unlink()
        command = [sys.executable, "-P", "-c", _EDITS, str(job_path())]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as desk:
            assert desk.stdout is not None
            made = [_edit(desk.stdout.readline())]
            end = time.time() + random.Random(seed).uniform(2.5, 7.0)
            while time.time() < end:
                made.append(_edit(desk.stdout.readline()))
            desk.kill()
            made += [_edit(line) for line in desk.stdout if line.count(" ") == 1]
        found = left_behind()
        kept = int(found[0].job.name.rpartition(" ")[2]) if found else 0
        lost = made[-1][1] - next((at for number, at in made if number > kept), made[-1][1])
        worst = max(worst, lost)
        tally.note("desks killed while one edits", "loaded" if found and lost <= _MOST_LOST_S
                   else "lost", f"seed {seed}: {lost:.1f} s lost")  # fmt: skip
    return worst


def _edit(line: str) -> tuple[int, float]:
    number, at = line.split()
    return int(number), float(at)


def start_on_damaged_state(tally: Tally, folder: Path, most: int = 99) -> None:
    """Start desks on state that is damaged in the ways that once stopped them."""
    state, config = state_folder(), config_folder()
    no_folder = folder / "a file"
    no_folder.write_text("no folder")
    lay: dict[str, tuple[Path, bytes]] = {
        "a recent file that may not be asked about": (
            state / "recent.json", b'{"files": ["/proc/1/root/a", "/root\\u0000/b"]}'),
        "a number for the recent files": (state / "recent.json", b'{"files": 5}'),
        "100,000 brackets": (state / "recent.json", b"[" * 100_000),
        "a giant process number": (state / "autosave-1.json", b'{"pid": 99999999999999999999}'),
        "settings of another sort": (config / "settings.json", b'{"theme": [], "window": "x", '
                                     b'"hand": {"a": 1}, "step_mm": "y", "split": null}'),
        "settings that are no text": (config / "settings.json", b"\xff\xfe\x00"),
        "a folder for the recent files": (state / "recent.json", b""),
        "no state folder": (state / "recent.json", b""),
    }  # fmt: skip
    for what, (file, content) in [*lay.items()][:most]:
        for path in (*state.iterdir(), *config.iterdir()):
            path.rmdir() if path.is_dir() else path.unlink()
        if content:
            file.write_bytes(content)
        elif "a folder" in what:
            file.mkdir()
        if "giant" in what:
            (state / "autosave-1.holoptic").write_bytes(job_path().read_bytes())
        environment = {**os.environ, **({"XDG_STATE_HOME": str(no_folder)} if "no state" in what
                                        else {})}  # fmt: skip
        shot = folder / "shot.png"
        shot.unlink(missing_ok=True)
        command = [sys.executable, "-P", "-m", "holoptic", "--screenshot", str(shot)]
        try:
            done = subprocess.run(command, env=environment, capture_output=True, text=True,
                                  check=False, timeout=_START_LIMIT_S)  # fmt: skip
        except subprocess.TimeoutExpired:
            tally.note("starts on damaged state", "hang", what)
            continue
        opened = done.returncode == 0 and shot.exists() and "Traceback" not in done.stderr
        tally.note("starts on damaged state", "loaded" if opened else "traceback",
                   f"{what}: {done.returncode}: {done.stderr}")  # fmt: skip
