"""Two windows, or somebody else, on one job: nobody's work is lost, and nobody is surprised."""

import os
import time
from dataclasses import replace

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from holoptic.exchange.claims import mark_of
from holoptic.exchange.job_file import read_job, write_job
from holoptic.exchange.safekeeping import Autosave
from holoptic.job import job_of


@pytest.fixture
def file(tmp_path):
    path = tmp_path / "lamp.holoptic"
    write_job(replace(job_of("lamp", []), id="lamp"), path)
    return path


@pytest.fixture
def second(empty_desk, open_window):
    """Another window, as another process would have it: locks are told apart by who opened them."""
    return open_window()


def rename(window, name):
    document = window.session.document
    document.edit(replace(document.job, name=name), "name")


def answer(window, words):
    QTest.mouseClick(window.question.buttons[words], Qt.MouseButton.LeftButton)


def test_the_second_window_may_look_or_go_there(empty_desk, second, file, qtbot, monkeypatch):
    empty_desk.filing.open(file)
    second.filing.open(file)
    assert "open in another window" in second.question.text
    assert second.session.document.path is None
    answer(second, "Go there")
    qtbot.wait_until(lambda: "asked for" in empty_desk.hint.text, timeout=5000)

    second.filing.open(file)
    answer(second, "Open it to look at")
    assert second.session.document.path == file
    assert "(read only)" in second.windowTitle()
    asked = []
    monkeypatch.setattr(second.filing, "save_as", lambda: asked.append(True))
    rename(second, "theirs")
    second.filing.save()
    assert asked == [True]  # not to the file that the first window has
    second.filing.save_to(file)
    assert "open in another window" in second.hint.text
    assert read_job(file).name == "lamp"

    rename(empty_desk, "ours")
    empty_desk.filing.save()
    assert read_job(file).name == "ours"


def test_a_job_that_was_left_is_free_again(empty_desk, second, file):
    empty_desk.filing.open(file)
    empty_desk.session.document.clear()
    second.filing.open(file)
    assert second.session.document.path == file
    assert not second.session.document.file.is_read_only


def test_a_file_that_somebody_else_wrote_is_told_at_once_and_not_overwritten(
    empty_desk, file, qtbot
):
    empty_desk.filing.open(file)
    rename(empty_desk, "ours")
    write_job(replace(job_of("theirs", []), id="lamp"), file)
    qtbot.wait_until(lambda: "changed on disk" in empty_desk.question.text, timeout=5000)
    answer(empty_desk, "Decide later")
    empty_desk.filing.save()
    assert "changed on disk" in empty_desk.question.text
    assert read_job(file).name == "theirs"
    answer(empty_desk, "Keep mine beside it")
    assert read_job(file).name == "theirs"
    assert read_job(file.with_name("lamp (mine).holoptic")).name == "ours"
    assert empty_desk.session.document.path.name == "lamp (mine).holoptic"


def test_their_file_is_taken_where_that_is_wanted(empty_desk, file, qtbot):
    empty_desk.filing.open(file)
    rename(empty_desk, "ours")
    write_job(replace(job_of("theirs", []), id="lamp"), file)
    empty_desk.filing.save()
    answer(empty_desk, "Take theirs")
    assert empty_desk.session.document.job.name == "theirs"
    assert empty_desk.session.document.history.is_saved
    rename(empty_desk, "both")
    empty_desk.filing.save()
    assert read_job(file).name == "both"


def test_ones_own_saving_is_no_change_and_a_file_that_is_gone_is_written_anew(
    empty_desk, file, qtbot
):
    empty_desk.filing.open(file)
    for name in ("one", "two"):
        rename(empty_desk, name)
        empty_desk.filing.save()
        qtbot.wait(100)
    file.unlink()
    rename(empty_desk, "three")
    empty_desk.filing.save()
    qtbot.wait(100)
    assert empty_desk.question.text == ""
    assert read_job(file).name == "three"


def test_a_name_without_its_suffix_asks_about_the_file_that_is_written(empty_desk, file):
    rename(empty_desk, "ours")
    empty_desk.filing.save_as_named(file.with_suffix(""))
    assert "lamp.holoptic is there already" in empty_desk.question.text
    answer(empty_desk, "Do not save")
    assert read_job(file).name == "lamp"
    empty_desk.filing.save_as_named(file.with_suffix(""))
    answer(empty_desk, "Replace it")
    assert read_job(file).name == "ours"


def test_work_brought_back_does_not_overwrite_what_was_saved_since(empty_desk, file):
    autosave = Autosave()
    autosave.keep(replace(read_job(file), name="ours"), file, mark_of(file))
    os.close(autosave._lock)  # as when its process is killed
    write_job(replace(job_of("theirs", []), id="lamp"), file)
    empty_desk.filing.offer_recovery()
    answer(empty_desk, "Bring it back")
    assert empty_desk.session.document.job.name == "ours"
    empty_desk.filing.save()
    assert "changed on disk" in empty_desk.question.text
    assert read_job(file).name == "theirs"


def test_a_job_that_takes_long_to_read_does_not_hold_the_window(
    empty_desk, file, tmp_path, monkeypatch, settle
):
    other = tmp_path / "other.holoptic"
    write_job(replace(job_of("other", []), id="other"), other)

    def slow(path):
        time.sleep(0.4)
        return read_job(path)

    monkeypatch.setattr("holoptic.desk.session.job_loader.read_job", slow)
    began = time.monotonic()
    empty_desk.filing.open(file)
    empty_desk.filing.open(file)  # a second click
    empty_desk.filing.open(other)
    assert time.monotonic() - began < 0.3
    settle(empty_desk)
    assert empty_desk.session.document.path == other  # what was asked for last
    assert empty_desk.question.text == ""

    empty_desk.filing.open(file)
    rename(empty_desk, "newer")  # while it is read
    settle(empty_desk)
    assert empty_desk.session.document.job.name == "newer"
    assert "you went on working" in empty_desk.hint.text
    empty_desk.session.document.history.mark_saved()
    empty_desk.filing.open(file)
    settle(empty_desk)
    assert empty_desk.session.document.path == file
    assert not empty_desk.session.document.file.is_read_only
