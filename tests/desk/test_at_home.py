"""Manners on a desktop: one desk for all starts, a window a job, the clipboard, lists."""

import contextlib
import json
import os
import shutil
import socket
import stat
import subprocess
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path
from xml.etree import ElementTree

import pytest
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from holoptic.demo import job_path
from holoptic.desk.application import one_desk
from holoptic.desk.application.desks import Desks
from holoptic.desk.application.one_desk import Asked, Door, hand_over
from holoptic.exchange.job_file import read_job
from holoptic.exchange.own_templates import own_templates
from holoptic.exchange.preview import preview_in
from holoptic.exchange.safekeeping import remember_file
from holoptic.units import Length
from virtual_display import HAS_DISPLAY, virtual_display
from wayland_display import wayland_display

LEFT = Qt.MouseButton.LeftButton
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def runtime(monkeypatch):
    """A folder for sockets that only the user can enter; its path is as short as theirs are."""
    with tempfile.TemporaryDirectory() as folder:
        monkeypatch.setenv("XDG_RUNTIME_DIR", folder)
        yield Path(folder)


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


@pytest.mark.skipif(not HAS_DISPLAY, reason="there is no display")
def test_two_starts_on_a_display_are_one_program(runtime):
    desk = [sys.executable, "-P", "-m", "holoptic"]
    with virtual_display() as display:
        there = {**os.environ, "DISPLAY": display, "QT_QPA_PLATFORM": "xcb"}
        with subprocess.Popen([*desk, "demo"], env=there) as first:
            end = time.monotonic() + 60
            while not list(runtime.glob("*.socket")) and time.monotonic() < end:
                time.sleep(0.1)
            second = subprocess.run(
                [*desk, "open", str(job_path("round-parts"))], env=there, check=False, timeout=30
            )
            assert second.returncode == 0
            assert first.poll() is None
            first.terminate()
            first.wait(20)
    assert list(runtime.glob("*.socket")) == []


def test_a_saved_job_carries_the_picture_that_was_on_the_desk(desk, tmp_path, settle):
    desk.filing.save_to(tmp_path / "mine.holoptic")
    assert preview_in(tmp_path / "mine.holoptic") == preview_in(job_path("harbour-lamp"))
    told = json.loads((tmp_path / "mine.holoptic").read_text("utf-8"))
    assert list(told)[-1] == "preview"


def test_a_picture_that_was_not_looked_at_stays_in_its_file_until_it_changes(
    open_window, tmp_path, settle
):
    mine = tmp_path / "mine.holoptic"
    mine.write_bytes(job_path("harbour-lamp").read_bytes())
    desk = open_window()
    document = desk.session.document
    document.replace_job(read_job(mine), mine)
    document.choose_part(2)  # before anything was worked out
    document.rename_part("other")
    desk.filing.save_to(tmp_path / "further.holoptic")
    assert preview_in(tmp_path / "further.holoptic") == preview_in(job_path("harbour-lamp"))
    document.choose_part(0)
    part = document.part
    taller = replace(part.crate, height=Length.of(part.crate.height.mm + 1))
    document.edit_part(replace(part, crate=taller), "height")
    desk.filing.save_to(tmp_path / "changed.holoptic")
    assert preview_in(tmp_path / "changed.holoptic") is None


def test_what_a_page_shows_is_copied_in_the_forms_of_other_programs(desk, settle, press, qapp):
    clipboard = qapp.clipboard()
    for page, name in (("picture", b"<svg"), ("sheet", b"<svg")):
        desk.show_page(page)
        settle(desk)
        QTest.keyClick(desk, Qt.Key.Key_C, CTRL | SHIFT)
        data = clipboard.mimeData()
        assert name in bytes(data.data("image/svg+xml"))[:600]
        assert bytes(data.data("application/pdf")).startswith(b"%PDF")
        assert bytes(data.data("image/png")).startswith(b"\x89PNG")
        assert desk.hint.text.startswith("Copied")
    desk.show_page("draw")
    settle(desk)
    QTest.keyClick(desk, Qt.Key.Key_C, CTRL | SHIFT)
    text = clipboard.mimeData().text()
    assert desk.session.answers.planned.plan.moves[3].text in text
    assert b"," in bytes(clipboard.mimeData().data("text/csv"))


def test_what_cannot_be_copied_says_why(empty_desk, qapp):
    qapp.clipboard().setText("theirs")
    empty_desk.filing.take_along.copy("picture")
    assert "Not copied: there is no picture yet" in empty_desk.hint.text
    assert qapp.clipboard().text() == "theirs"


def test_a_figure_is_dragged_out_as_a_file(desk, settle, monkeypatch):
    dragged = []
    monkeypatch.setattr(
        "PyQt6.QtGui.QDrag.exec", lambda drag, _: dragged.append(drag.mimeData().urls())
    )
    desk.show_page("picture")
    settle(desk)
    button = desk._buttons["export"]
    middle = button.rect().center()
    QTest.mousePress(button, LEFT, pos=middle)
    for step in (4, 20, 40):
        move = QPointF(middle) + QPointF(step, step)
        where = button.mapToGlobal(move)
        event = QMouseEvent(QEvent.Type.MouseMove, move, where, LEFT, LEFT,
                            Qt.KeyboardModifier.NoModifier)  # fmt: skip
        QApplication.sendEvent(button, event)
    ((url,),) = dragged
    file = Path(url.toLocalFile())
    assert file.name == "gallery block-picture.svg"
    assert "<svg" in file.read_text("utf-8")[:600]


def test_the_desktops_list_gets_the_job_and_keeps_what_others_wrote(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    listed = tmp_path / "recently-used.xbel"
    listed.write_text(
        '<?xml version="1.0"?><xbel version="1.0"><bookmark href="file:///theirs.txt"'
        ' modified="2026-01-01T00:00:00Z"><title>theirs</title></bookmark></xbel>'
    )
    job = tmp_path / "50% lamp.holoptic"
    job.touch()
    for _ in range(2):
        remember_file(job)
    root = ElementTree.fromstring(listed.read_text("utf-8"))
    assert [e.get("href") for e in root.findall("bookmark")] == [
        "file:///theirs.txt", job.as_uri(),
    ]  # fmt: skip
    assert root.find("bookmark/title").text == "theirs"
    assert 'count="2"' in listed.read_text("utf-8")
    for number in range(25):
        (more := tmp_path / f"{number}.holoptic").touch()
        remember_file(more)
    assert len(ElementTree.fromstring(listed.read_text("utf-8")).findall("bookmark")) == 21


@pytest.mark.parametrize(
    "content", ["", "<xbel", "<other/>", '<!DOCTYPE x [<!ENTITY a "b">]><xbel/>']
)
def test_a_list_that_is_not_sound_is_left_alone(tmp_path, monkeypatch, content):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    listed = tmp_path / "recently-used.xbel"
    listed.write_text(content)
    (job := tmp_path / "a.holoptic").touch()
    remember_file(job)
    assert listed.read_text() == content


def test_a_job_is_kept_as_a_template_and_others_begin_from_it(desk, tmp_path, monkeypatch, settle):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    desk.session.document.rename_job("lantern / door")
    desk.filing.keep_as_template()
    (kept,) = own_templates()
    assert kept.name == "lantern door.holoptic"
    assert preview_in(kept) is not None
    first = desk.session.document.job
    desk.session.document.history.mark_saved()
    menu = desk.filing.template_menu()
    titles = [action.text() for action in menu.actions() if action.text()]
    assert titles[0] == "lantern door"
    assert "Demo: round parts" in titles
    menu.actions()[0].trigger()
    settle(desk)
    begun = desk.session.document.job
    assert begun.parts == first.parts
    assert begun.id not in ("", first.id)
    assert desk.session.document.path is None  # saving asks for a place
    kept.write_text("no job")
    desk.filing.begin_from(kept)
    assert "no whole JSON" in desk.hint.text
    assert desk.session.document.job == begun


@pytest.mark.skipif(shutil.which("weston") is None, reason="there is no Wayland display")
def test_the_desk_stands_on_a_wayland_display_too(tmp_path):
    shot = tmp_path / "desk.png"
    with wayland_display() as there:
        done = subprocess.run(
            [sys.executable, "-P", "-m", "holoptic", "demo", "--page", "picture", "--screenshot",
             str(shot)], env=there, check=False, capture_output=True, text=True, timeout=90,
        )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert "off screen" not in done.stderr
    assert shot.stat().st_size > 30_000


def test_an_empty_desk_shows_the_jobs_of_the_demo_as_pictures(empty_desk, settle):
    shown = {card.title: card for _, card in empty_desk.invitation.recent}
    assert {"lamp put together", "round parts"} <= set(shown)
    assert all(len(card.lines) > 5 for card in shown.values())
    QTest.mouseClick(shown["round parts"].press, LEFT)
    settle(empty_desk)
    assert empty_desk.session.document.job.name == "Skerry Lamp Works: round parts"
    assert empty_desk.session.document.path is None
