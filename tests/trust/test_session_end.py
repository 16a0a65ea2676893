"""Logging out takes the display away under the desk, and the work stays."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from contextlib import contextmanager
from pathlib import Path

import pytest

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from virtual_display import HAS_DISPLAY, virtual_display
from wayland_display import wayland_display

EDITS_ONCE = """
import sys
from dataclasses import replace
from PyQt6.QtCore import QTimer
from holoptic.desk.application import launch

def edit(desk):
    document = desk.session.document
    document.edit(replace(document.job, name="lamp of the last moment"), "name")
    print("edited", flush=True)

def open_first(desk, *arguments, **options):
    opened(desk, *arguments, **options)
    QTimer.singleShot(500, lambda: edit(desk))

opened, launch.DeskWindow.open_first = launch.DeskWindow.open_first, open_first
sys.exit(launch.launch(sys.argv[1], demo=True))
"""


@contextmanager
def x_display():
    with virtual_display() as display:
        yield {**os.environ, "DISPLAY": display, "QT_QPA_PLATFORM": "xcb"}


needs_x = pytest.mark.skipif(not HAS_DISPLAY, reason="no X server")
needs_wayland = pytest.mark.skipif(
    not (HAS_DISPLAY and shutil.which("weston")), reason="no compositor"
)


@pytest.mark.parametrize(
    "display",
    [
        pytest.param(x_display, marks=needs_x, id="X"),
        pytest.param(wayland_display, marks=needs_wayland, id="Wayland"),
    ],
)
def test_an_edit_of_the_last_moment_is_there_after_logging_out(display, tmp_path):
    homes = {f"XDG_{kept}_HOME": str(tmp_path / kept) for kept in ("STATE", "CONFIG", "DATA")}
    command = [sys.executable, "-P", "-c", EDITS_ONCE, str(job_path())]
    with display() as shown:
        desk = subprocess.Popen(
            command, env={**shown, **homes}, stdout=subprocess.PIPE, stderr=subprocess.PIPE
        )
        assert desk.stdout.readline() == b"edited\n"
    told = desk.communicate(timeout=20)[1].decode()
    assert "connection broke" in told
    assert "Traceback" not in told
    state = Path(homes["XDG_STATE_HOME"], "holoptic")
    (copy,) = state.glob("autosave-*.holoptic")
    assert read_job(copy).name == "lamp of the last moment"
    assert not list(state.glob("run-*")), "the next start would offer a report of a crash"
