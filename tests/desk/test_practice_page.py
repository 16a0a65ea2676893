"""Practice on the desk: exercises answered by keys and mouse, marked, kept in the record."""

import random

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QPushButton

from holoptic.practice.exercise import Amount, Choice, Count, Heights, Lines, Places
from holoptic.practice.marking import MOST_POINTS
from holoptic.practice.sketching import LETTERS, joined
from holoptic.practice.skills import AT_THE_DESK
from holoptic.register.book import Register

Key = Qt.Key


@pytest.fixture
def page(empty_desk, settle, qtbot):
    """The page with an exercise on it, the same ones each time."""
    practice = empty_desk.session.practice
    practice._dice = random.Random(5)
    empty_desk.show_page("practice")
    qtbot.wait_until(lambda: practice.exercise is not None, timeout=30_000)
    page = empty_desk.pages["practice"]

    def begin(skill, level=2):
        practice.choose(skill, level)
        settle(empty_desk)
        return practice.exercise

    page.begin = begin
    page.settle = lambda: settle(empty_desk)
    return page


def press(*keys):
    for key in keys:
        QTest.keyClick(QApplication.focusWidget(), key)


def type_in(text):
    QTest.keyClicks(QApplication.focusWidget(), text)


def drag(page, start, end):
    """Draw a line with the mouse from dot to dot."""
    board, grid = page.board, page.board.hand.asked.grid
    a, b = (board.to_screen(board.sheet.at(grid.at(dot))).toPoint() for dot in (start, end))
    QTest.mousePress(board, Qt.MouseButton.LeftButton, pos=a)
    QTest.mouseMove(board, (a + b) / 2)
    QTest.mouseMove(board, b)
    QTest.mouseRelease(board, Qt.MouseButton.LeftButton, pos=b)


def click(page, place):
    at = page.board.to_screen(place).toPoint()
    QTest.mouseClick(page.board, Qt.MouseButton.LeftButton, pos=at)


def wrong_line(asked):
    """A step that no edge lies on."""
    dots = set(asked.grid.dots())
    for column, row in sorted(dots):
        step = (column, row), (column + 1, row + 1)
        if step[1] in dots and step not in asked.right | asked.dashed | asked.given | asked.behind:
            return step
    raise AssertionError


def build(page, asked, right):
    """Give each square its height; for a wrong answer one cube in all."""
    for r, row in enumerate(asked.heights):
        for c, height in enumerate(row):
            page.board.hand.at = r, c
            type_in(str(height if right else int((r, c) == (0, 0))))


def draw(page, asked, right):
    """Draw what is asked for, or a line that no edge lies on."""
    if not right:
        drag(page, *wrong_line(asked))
        return
    for steps, dashed in ((asked.right, False), (asked.dashed, True)):
        page.board.hand.is_dashed = dashed
        for start, end in joined(steps):
            drag(page, start, end)


def answer(page, right=True):
    """Answer what is asked, by keys where there are keys for it."""
    asked = page.practice.exercise.asked
    if isinstance(asked, Count):
        page.field.clear()
        type_in(f"{asked.least}-{asked.most}" if right else f"{asked.least + 5}")
    elif isinstance(asked, Amount):
        page.field.clear()
        type_in(f"{asked.value:.2f}" if right else "1/2")
    elif isinstance(asked, Choice):
        type_in(LETTERS[asked.right if right else (asked.right + 1) % len(asked.words)].lower())
    elif isinstance(asked, Places):
        wanted = asked.right if right else {next(k for k in range(len(asked.places))
                                                 if k not in asked.right)}  # fmt: skip
        if asked.one_will_do or len(asked.right) == 1:
            type_in(LETTERS[min(wanted)].lower())
        else:
            for number in page.board.hand.numbers ^ set(wanted):
                type_in(LETTERS[number].lower())
    elif isinstance(asked, Heights):
        build(page, asked, right)
    else:
        draw(page, asked, right)
    press(Key.Key_Return)


@pytest.mark.parametrize("skill", AT_THE_DESK)
def test_a_wrong_answer_is_told_and_a_right_one_goes_on(page, skill):
    exercise = page.begin(skill)
    answer(page, right=False)
    assert page.practice.marked is not None and not page.practice.is_over
    assert "press Enter once more" in page.told.text()
    if isinstance(exercise.asked, Lines):
        press(Key.Key_Backspace)
    answer(page)
    assert page.practice.marked.is_right
    assert page.practice.points == MOST_POINTS // 2
    assert exercise.reason in page.told.text()
    press(Key.Key_Return)
    page.settle()
    assert page.practice.exercise is not exercise
    kept = Register().practised("")
    assert [(one.skill, one.points) for one in kept] == [(skill, MOST_POINTS // 2)]


def test_a_sheet_drawn_on_paper_is_marked_from_its_picture(page, tmp_path, monkeypatch, qtbot):
    exercise = page.begin("paper", 1)
    practice = page.practice
    press(Key.Key_Return)
    assert practice.marked is None and "O takes a picture" in page.told.text()
    told = []
    page.session.told.connect(told.append)
    none = tmp_path / "notes.png"
    none.write_text("no picture")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(none), ""))
    press(Key.Key_O)
    page.settle()
    assert practice.marked is None and "notes.png" in told[-1]
    press(Key.Key_S)  # the stand-in forgets a line the first time
    assert practice.scanner.is_busy and "Stop the scanner" in page.glass_button.text()
    qtbot.wait_until(lambda: practice.marked is not None, timeout=60_000)
    assert not practice.is_over and "one line is missing" in page.told.text()
    assert len(page.board.sheet.figure.inks) == exercise.asked.count - 1
    earned = practice.points
    assert MOST_POINTS // 2 < earned < MOST_POINTS
    press(Key.Key_S)
    qtbot.wait_until(lambda: practice.is_over, timeout=60_000)
    assert practice.points == earned and not page.on_paper.isVisible()
    (kept,) = Register().practised("")
    assert kept.skill == "paper"


def test_a_page_on_the_glass_is_taken_away_again(page):
    page.begin("paper", 1)
    press(Key.Key_S)
    press(Key.Key_S)
    assert not page.practice.scanner.is_busy and page.practice.marked is None
    page.begin("cubes")
    assert not page.on_paper.isVisible()
    press(Key.Key_S)
    assert not page.practice.scanner.is_busy


def test_what_needs_paper_comes_only_where_it_is_chosen(page):
    assert "paper" not in {page.practice._wanted([])[0] for _ in range(20)}


def test_hints_cost_and_the_answer_is_shown_only_when_asked_for(page):
    exercise = page.begin("cubes")
    assert exercise.reason not in page.told.text()
    type_in("12")
    press(Key.Key_Question)
    assert page.field.text() == "12" and exercise.hints[0] in page.column.hints.text()
    assert exercise.hints[1] not in page.column.hints.text()
    press(Key.Key_Equal)
    assert page.practice.is_over and page.practice.points == 0
    assert str(exercise.asked.least) in page.told.text()
    (kept,) = Register().practised("")
    assert kept.was_shown and kept.hints == 1 and kept.share == 0


def test_lines_are_drawn_by_keys_and_taken_back(page):
    page.begin("draw")
    hand = page.board.hand
    at = hand.at
    press(Key.Key_Space, Key.Key_Up, Key.Key_Up, Key.Key_Space)
    assert len(joined(hand.firm)) == 1 and hand.at != at
    press(Key.Key_D, Key.Key_Space, Key.Key_PageUp, Key.Key_Space)
    assert len(joined(hand.dashed)) == 1
    press(Key.Key_Backspace, Key.Key_Backspace)
    assert not hand.firm and not hand.dashed
    press(Key.Key_Space, Key.Key_Escape, Key.Key_Up)
    assert hand.start is None and not hand.firm


def test_half_typed_answers_are_asked_for_and_not_marked(page):
    page.begin("cubes")
    for text in ("", "x", "9-", "-", "1-2-3"):
        page.field.clear()
        type_in(text)
        press(Key.Key_Return)
        assert page.practice.marked is None
        assert page.told.text() == "Type how many, or least and most: 9-11."
    page.begin("drawn")
    for text in ("", "12+", "mm"):
        page.field.clear()
        type_in(text)
        press(Key.Key_Return)
        assert page.practice.marked is None and page.told.text().startswith("Type a number")


def test_pictures_and_places_are_clicked(page):
    exercise = page.begin("pictorial")
    one = next(f for f in page.board._layout.figures if f.choice == exercise.asked.right)
    left, low, right, high = one.box
    click(page, ((left + right) / 2, (low + high) / 2))
    press(Key.Key_Return)
    assert page.practice.marked.is_right
    exercise = page.begin("setoffs")
    (number,) = exercise.asked.right
    click(page, page.board.sheet.at(exercise.asked.places[number]))
    press(Key.Key_Return)
    assert page.practice.marked.is_right and page.practice.points == MOST_POINTS


def test_several_learners_have_records_of_their_own(page):
    page.begin("oval")
    answer(page)
    page.column.learner.setFocus()
    page.column.learner.lineEdit().selectAll()
    type_in("Una Reef")
    press(Key.Key_Return)
    page.settle()
    assert page.practice.learner == "Una Reef" and page.practice.attempts == []
    answer(page)
    assert set(Register().learners()) == {"", "Una Reef"}
    page.practice.be("")
    page.settle()
    assert len(page.practice.attempts) == 1


def test_the_job_stays_untouched(desk, settle):
    job = desk.session.document.job
    desk.show_page("practice")
    settle(desk)
    answer(desk.pages["practice"])
    desk.show_page("draw")
    settle(desk)
    assert desk.session.document.job is job and desk.session.document.history.is_saved


def test_the_next_exercise_is_ready_once_the_last_is_marked(page, qtbot):
    page.begin(None, None)
    page.practice.level = None
    qtbot.wait_until(lambda: page.practice._line._running is None, timeout=20_000)
    answer(page)
    before = page.practice.exercise
    press(Key.Key_Return)
    assert page.practice.exercise is not None and page.practice.exercise is not before


def test_a_damaged_entry_is_told_of_and_the_rest_is_kept(page):
    import sqlite3
    from contextlib import closing

    page.begin("oval")
    answer(page)
    with closing(sqlite3.connect(Register().path)) as book:
        book.execute("INSERT INTO practice (learner, skill, level, seed, made, seconds, share, "
                     "points, hints, was_shown) VALUES ('', 'oval', 'x', 1, 'never', 0, 9, 0, 0, "
                     "0)")  # fmt: skip
        book.commit()
    page.practice.load()
    page.refresh()
    assert "1 entries of the record cannot be read" in page.column.trouble.text()
    assert len(page.practice.attempts) == 1


def test_a_stack_of_cubes_becomes_a_part_with_picture_and_plan(page, settle):
    window, exercise = page.window(), page.practice.exercise
    QTest.keyClick(page, Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    press(Key.Key_Return)
    assert page.told.text() == "A stack needs a cube at least."
    type_in("3")
    press(Key.Key_Right)
    type_in("1")
    press(Key.Key_Up, Key.Key_Space)
    assert page.board.hand.heights[0][:2] == [3, 1] and page.board.hand.heights[1][1] == 1
    page.field.setText("x")
    press(Key.Key_Return)
    assert page.told.text().startswith("Type the side")
    page.field.setText("12.5")
    press(Key.Key_Return)
    settle(window)
    part = window.session.document.job.parts[-1].source
    assert part.crate.sizes == (25.0, 25.0, 37.5) and not page.is_building
    assert page.practice.exercise is exercise and page.question.text() == exercise.question
    window.show_page("draw")
    settle(window)
    assert len(window.session.answers.planned.plan.moves) > 20


def test_a_worksheet_is_written_of_what_is_chosen(page, settle, tmp_path, monkeypatch):
    target = tmp_path / "sheets.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    page.begin("cubes", 3)
    page.column.count.setValue(3)
    QTest.keyClick(page, Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    settle(page.window())
    assert target.read_bytes().startswith(b"%PDF")
    target.unlink()
    (tmp_path / "sheets.pdf").mkdir()
    QTest.keyClick(page, Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    settle(page.window())
    assert "Not exported" in page.window().hint.text


def test_the_register_plots_a_record_and_deletes_it(page):
    page.begin("oval")
    answer(page)
    page.practice.be("Una Reef")
    page.settle()
    answer(page)
    window = page.window()
    window.show_page("register")
    register = window.pages["register"]
    assert [mark.value for mark in register.practised.marks] == [MOST_POINTS, MOST_POINTS]
    press(Key.Key_Delete)
    shown = [one.text() for one in register.question.findChildren(QPushButton) if one.isVisible()]
    assert shown[0] == "1  Delete what Una Reef practised"
    press(Key.Key_1)
    assert Register().learners() == [""] and len(register.practised.marks) == 1
