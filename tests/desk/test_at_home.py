"""Manners on a desktop: one desk for all starts, a window a job, the clipboard, lists."""

import contextlib
import json
import os
import shutil
import socket
import stat
import subprocess
import sys
import time

import pytest

from holoptic.demo import job_path
from holoptic.desk.application import one_desk
from holoptic.desk.application.desks import Desks
from holoptic.desk.application.one_desk import Asked, Door, hand_over
from holoptic.exchange.preview import preview_in


@pytest.fixture
def runtime(tmp_path, monkeypatch):
    """A folder for sockets that only the user can enter."""
    folder = tmp_path / "run"
    folder.mkdir(mode=0o700)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(folder))
    return folder


@pytest.fixture
def door(runtime, qtbot):
    """A door, and what was asked at it."""
    asked = []
    made = Door(asked.append)
    yield made, asked
    made.close()


def _start_elsewhere(*words):
    """Hand something over from another process, and say how that went."""
    code = (
        "import sys; from holoptic.desk.application.one_desk import Asked, hand_over;"
        "print(hand_over(Asked(*sys.argv[1:])))"
    )
    return subprocess.Popen(
        [sys.executable, "-P", "-c", code, *words], stdout=subprocess.PIPE, text=True
    )


def test_a_later_start_hands_its_job_to_the_desk_that_runs(door, qtbot):
    _, asked = door
    with _start_elsewhere("/lamp.holoptic", "draw") as start:
        qtbot.wait_until(lambda: start.poll() is not None, timeout=10_000)
        assert start.stdout.read() == "True\n"
    assert asked == [Asked("/lamp.holoptic", "draw")]


def test_the_socket_is_the_users_alone_and_goes_with_the_desk(door, runtime):
    made, _ = door
    (place,) = runtime.iterdir()
    assert stat.S_IMODE(place.stat().st_mode) & 0o077 == 0
    made.close()
    assert list(runtime.iterdir()) == []


def test_a_folder_that_others_can_write_to_is_not_used(runtime, qtbot, monkeypatch):
    runtime.chmod(0o777)
    made = Door(print)
    assert list(runtime.iterdir()) == []  # it went to the state folder
    made.close()


def test_what_a_dead_desk_left_behind_is_no_hindrance(runtime, qtbot):
    place = one_desk._door()
    with socket.socket(socket.AF_UNIX) as dead:
        dead.bind(str(place))
    assert not hand_over(Asked())
    asked = []
    made = Door(asked.append)
    with _start_elsewhere() as start:
        qtbot.wait_until(lambda: start.poll() is not None, timeout=10_000)
    assert asked == [Asked()]
    made.close()


@pytest.mark.parametrize(
    "said",
    [b"", b"\n", b"[]\n", b"{}", b'{"path": 3}\n', b'{"demo": "yes"}\n', b'{"run": "rm"}\n',
     b"\xff\n", b"[" * 70_000, b'{"path": "' + b"x" * 70_000],
)  # fmt: skip
def test_nonsense_at_the_door_is_sent_away(door, qtbot, said):
    _, asked = door
    with socket.socket(socket.AF_UNIX) as line:
        line.connect(str(one_desk._door()))
        line.settimeout(0.05)
        with contextlib.suppress(OSError):
            line.sendall(said)
        qtbot.wait(350)
    assert asked == []


def test_each_job_has_a_window_and_none_has_two(desk, settle, qtbot, tmp_path):
    desks = Desks(desk)
    desk.filing.save_to(tmp_path / "mine.holoptic")
    desks.take(Asked(str(job_path("round-parts")), "picture"))
    qtbot.wait_until(lambda: len(desks.windows) == 2, timeout=10_000)
    other = desks.windows[1]
    settle(other)
    assert other.session.document.job.name == "Skerry Lamp Works: round parts"
    assert other.page == "picture"
    assert desk.session.document.path == tmp_path / "mine.holoptic"
    # the same job again: its window comes, no third one
    desks.take(Asked(str(tmp_path / "mine.holoptic"), "sheet"))
    qtbot.wait_until(lambda: desk.page == "sheet")
    assert len(desks.windows) == 2
    # an edit in one leaves the other as it is
    desk.session.document.rename_part("changed")
    assert other.session.document.history.is_saved
    other.close()
    qtbot.wait_until(lambda: len(desks.windows) == 1)
    assert desk.isVisible()


def test_a_desk_with_nothing_on_it_takes_the_job_itself(empty_desk, settle, qtbot):
    desks = Desks(empty_desk)
    desks.take(Asked(str(job_path("harbour-lamp")), None, True))
    qtbot.wait_until(lambda: bool(empty_desk.session.document.job.parts), timeout=10_000)
    settle(empty_desk)
    assert len(desks.windows) == 1
    assert empty_desk.session.document.path is None
    empty_desk.session.document.history.mark_saved()


@pytest.mark.skipif(shutil.which("Xvfb") is None, reason="there is no display")
def test_two_starts_on_a_display_are_one_program(tmp_path):
    read, write = os.pipe()
    with subprocess.Popen(
        ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
        pass_fds=[write], stderr=subprocess.DEVNULL,
    ) as screen:  # fmt: skip
        os.close(write)
        display = f":{os.read(read, 16).decode().strip()}"
        os.close(read)
        (tmp_path / "run").mkdir(mode=0o700)
        there = {**os.environ, "DISPLAY": display, "QT_QPA_PLATFORM": "xcb",
                 "XDG_RUNTIME_DIR": str(tmp_path / "run")}  # fmt: skip
        desk = [sys.executable, "-P", "-m", "holoptic"]
        with subprocess.Popen([*desk, "demo"], env=there) as first:
            end = time.monotonic() + 40
            while not list((tmp_path / "run").glob("*.socket")) and time.monotonic() < end:
                time.sleep(0.1)
            second = subprocess.run(
                [*desk, "open", str(job_path("round-parts"))], env=there, check=False, timeout=30
            )
            assert second.returncode == 0
            assert first.poll() is None
            first.terminate()
            first.wait(20)
        screen.terminate()
    assert list((tmp_path / "run").glob("*.socket")) == []


def test_a_saved_job_carries_the_picture_that_was_on_the_desk(desk, tmp_path, settle):
    desk.filing.save_to(tmp_path / "mine.holoptic")
    assert preview_in(tmp_path / "mine.holoptic") == preview_in(job_path("harbour-lamp"))
    told = json.loads((tmp_path / "mine.holoptic").read_text("utf-8"))
    assert list(told)[-1] == "preview"
