"""Register: what is drawn is noted by itself, shown, taken along and deleted."""

import sqlite3
from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QFileDialog

from holoptic.checking.own_hand import STEPS_MM
from holoptic.checking.report import Cause, CheckReport, StrokeFound
from holoptic.register.book import Register
from holoptic.register.entries import CheckKept, Drawn, MoveTime, Subject

Key = Qt.Key
DAY = datetime(2026, 11, 3, 9, 30).astimezone()
BLOCK = Subject("j1", "Skerry Lamp Works: harbour lamp", "f1", "gallery block", "p1")


@pytest.fixture
def walk(desk, settle):
    """The plan on the desk, drawn by somebody who takes ten seconds a move."""
    now = {"at": 0.0}
    desk.session.walk._clock = lambda: now["at"]
    desk.show_page("draw")
    settle(desk)
    walk = desk.session.walk
    walk.go_to(0)

    def draw(moves):
        for _ in range(moves):
            now["at"] += 10.0
            walk.step(1)
        walk.flush()

    walk.draw = draw
    return walk


def cells(page, row):
    return [page.table.item(row, column).text() for column in range(page.table.columnCount())]


def fill(count=5):
    """Keep some drawings with their checks; each sheet tells that the hand sets within 0.4 mm."""
    logs = np.log(np.array(STEPS_MM))
    told = -((logs - np.log(0.4)) ** 2) * 20
    hands = tuple(np.broadcast_to(told[:, None, None], (len(logs),) * 3).ravel().tolist())
    register = Register()
    for number in range(count):
        at = DAY + timedelta(days=number)
        subject = Subject("j1", "Skerry Lamp Works: harbour lamp", f"f{number}",
                          f"part {number}", "p")  # fmt: skip
        times = tuple(MoveTime(n, "crate", 20.0 - number) for n in range(1, 13))
        register.note_drawn(Drawn(subject, "", "", "isometric", "", "A4", "1:1", at, at, 12, 12,
                                  times))  # fmt: skip
        register.note_check(CheckKept(f"u{number}", subject, at, "picture", number != 2, 9, 0, 0,
                                      0.3, hands=hands))  # fmt: skip


def test_what_is_drawn_is_noted_by_itself(desk, walk, press, settle):
    walk.draw(2)
    assert Register().drawings() == []  # who has looked on for 20 s has drawn nothing
    walk.draw(30)
    (kept,) = Register().drawings()
    assert (kept.subject.title, kept.done, kept.round) == ("gallery block", 32, 1)
    assert kept.seconds == pytest.approx(320.0)
    assert next(iter(kept.by_phase)) == "sheet"
    press(desk, Key.Key_F10)
    page = desk.pages["register"]
    assert "gallery block" in cells(page, 0)
    assert any("32 of" in cell for cell in cells(page, 0))
    assert len(page.times.marks) == 1
    walk.draw(len(walk.plan.moves))
    assert any("done in" in cell for cell in cells(page, 0))


def test_a_check_is_noted_once_however_often_it_is_told(desk, settle):
    checks = desk.session.checks
    stroke = StrokeFound("s1", "shifted", 2.0, 0.8, 4, ((0, 0), (9, 0)), ((0, 2), (9, 2)))
    cause = Cause(4, "setting", 25.6, 26.5, 0.9, "move 4: figures changed over?")
    checks.planned = desk.session.answers.planned
    checks.is_by_rule, checks.report = True, CheckReport("f1", (stroke,), (), (cause,))
    desk.session.walk.follow()
    desk.session.walk.note_reading(34, 80.0)
    for _ in range(3):
        checks.changed.emit()
    (kept,) = Register().checks()
    assert (kept.source, kept.off, kept.causes[0].was_set) == ("distances", 1, 25.6)


def test_while_another_window_writes_the_work_goes_on_and_nothing_is_lost(desk, walk, qtbot):
    Register().note_drawn(Drawn(BLOCK, "", "", "", "", "", "", DAY, DAY, 9, 9))
    book = desk.session.logbook
    with closing(sqlite3.connect(book.register.path, isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")
        walk.draw(12)
        assert len(Register().drawings()) == 1
        other.execute("ROLLBACK")
    qtbot.wait_until(lambda: len(Register().drawings()) == 2, timeout=8000)


def test_a_damaged_register_is_set_aside_and_told(desk, walk, qtbot):
    path = desk.session.logbook.register.path
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(b"scribbles, no database" * 99)
    walk.draw(12)
    qtbot.wait_until(lambda: len(Register().drawings()) == 1, timeout=5000)
    assert "set aside" in desk.hint._text.text()
    aside = path.with_name(f"{path.name}.damaged-1")
    assert aside.read_bytes() == b"scribbles, no database" * 99


def test_a_newer_register_is_left_alone_and_told_once(desk, walk, press):
    path = desk.session.logbook.register.path
    Register().note_drawn(Drawn(BLOCK, "", "", "", "", "", "", DAY, DAY, 9, 9))
    with closing(sqlite3.connect(path)) as book:
        book.execute("PRAGMA user_version = 99")
    before = path.read_bytes()
    walk.draw(12)
    assert "newer version" in desk.hint._text.text()
    press(desk, Key.Key_F10)
    assert "newer version" in desk.pages["register"].empty.text()
    assert path.read_bytes() == before


def test_the_list_the_plots_and_the_hand(desk, press, settle):
    fill()
    press(desk, Key.Key_F10)
    page = desk.pages["register"]
    assert [cells(page, row)[1] for row in range(5)] == [f"part {k}" for k in (4, 3, 2, 1, 0)]
    assert [mark.is_good for mark in page.errors.marks] == [True, True, False, True, True]
    press(desk, Key.Key_Down)
    assert page.column.title.text() == "part 3"
    assert [mark.is_lit for mark in page.times.marks] == [False, False, False, True, False]
    assert "0.4" in page.column.hand.text()
    assert "5 checked sheets" in page.column.hand.text()
    press(desk, Key.Key_H)
    settle(desk)
    hand = desk.session.ways.hand
    assert hand.setting_mm == pytest.approx(0.4, abs=0.05)
    assert (hand.angle_deg, hand.compass_mm) == (0.25, 0.2)  # nothing is told of these
    assert page.hand_button.isHidden()


def test_it_is_deleted_only_after_a_question(desk, press, settle):
    fill(3)
    press(desk, Key.Key_F10)
    page = desk.pages["register"]
    press(desk, Key.Key_Delete, Key.Key_Escape)
    assert len(Register().drawings()) == 3
    press(desk, Key.Key_Delete, Key.Key_1)
    assert [one.subject.title for one in Register().drawings()] == ["part 1", "part 0"]
    press(desk, Key.Key_Delete, Key.Key_2)
    assert Register().drawings() == []
    assert page.empty.isVisible()
    assert not page.delete_button.isEnabled()


def test_it_is_written_and_taken_along(desk, press, settle, monkeypatch, tmp_path):
    fill(2)
    press(desk, Key.Key_F10)
    for key, name in ((Key.Key_T, "r.csv"), (Key.Key_K, "r.sqlite")):
        target = str(tmp_path / name)
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, name=target: (name, ""))
        press(desk, key)
    assert Path(tmp_path, "r.csv").read_text("utf-8").count("part") == 2
    assert len(Register(tmp_path / "r.sqlite").drawings()) == 2


def test_on_an_empty_desk_the_register_says_what_it_is_for(empty_desk, press):
    press(empty_desk, Key.Key_F10)
    page = empty_desk.pages["register"]
    assert page.isVisible()
    assert "keeps itself" in page.empty.text()
    press(empty_desk, Key.Key_Delete, Key.Key_H, Key.Key_Down)
    assert QApplication.focusWidget() is not None
